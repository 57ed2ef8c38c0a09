// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "log/read_table.h"
#include "log/record_frame.h"
#include "settle.h"
#include "shell/main_window.h"
#include <QComboBox>
#include <QDialog>
#include <QDir>
#include <QFile>
#include <QToolButton>
#include <QtTest>
#include <random>

namespace amber::test {

/// Acts at random on a window as an impatient hand would: pages, fields, keys, mouse, files, themes, undo. What the
/// document holds can be planned and read back after every act.
class RandomWalk {
public:
    RandomWalk(app::MainWindow& window, QString demos, std::uint64_t seed)
        : window_(window), demos_(std::move(demos)), random_(seed) {}

    /// @return what is wrong afterwards; empty when nothing is
    QString act() {
        switch (below(25)) {
        case 0:
        case 1:
            window_.showPhase(phaseNames[below(plannedPhases)].phase);
            break;
        case 2:
        case 3: {
            const auto pages = app::pagesOf(window_.page().phase(), window_.document());
            if (window_.document().isOpen())
                window_.page().showPage(pages[below(pages.size())]->key);
            break;
        }
        case 17:
            window_.inTrouble() ? window_.closeTrouble() : window_.openTrouble();
            break;
        case 18:
            if (window_.inTrouble()) {
                window_.trouble().showPage(app::troubleTable()[below(app::troubleTable().size())].key);
                QTest::keyClick(&window_.trouble(), below(2) == 0   ? Qt::Key_E
                                                    : below(2) == 0 ? Qt::Key_Left
                                                                    : Qt::Key_Right);
                window_.trouble().reckonNow();
            }
            break;
        case 19:
            window_.rehearsing() && below(3) == 0 ? window_.closeRehearsal() : window_.openRehearsal();
            break;
        case 20:
        case 21:
            sitAndRehearse();
            break;
        case 22:
            window_.recording() && below(4) == 0 ? window_.closeRecord() : window_.openRecord();
            break;
        case 23:
        case 24:
            readAndTime();
            break;
        case 4: {
            const auto files = QDir(demos_).entryInfoList({QStringLiteral("*.toml")}, QDir::Files);
            window_.openPath(
                files.at(static_cast<int>(below(static_cast<std::size_t>(files.size())))).absoluteFilePath());
            break;
        }
        case 5:
            window_.setTheme(below(2) ? app::ThemeKind::hangar : app::ThemeKind::day);
            break;
        case 6:
            below(2) ? window_.document().undoStack().undo() : window_.document().undoStack().redo();
            break;
        case 7:
            window_.resize(1193 + static_cast<int>(below(700)), 720 + static_cast<int>(below(400)));
            break;
        case 8:
        case 9:
            typeSomewhere();
            break;
        case 10:
            chooseSomewhere();
            break;
        case 11:
        case 12:
        case 13:
            pressSomething();
            break;
        case 14:
            clickSomewhere();
            break;
        case 15:
            window_.save();
            break;
        default:
            drag();
        }
        settle();
        closeDialogs();
        const auto& d = window_.document();
        if (!d.isOpen())
            return {};
        if (!checkSortie(d.sortie(), d.aircraft().notes, "").empty())
            return QStringLiteral("the document holds what the check refuses");
        if (!readSortie(writeSortie(d.sortie(), d.aircraft().notes.cockpit), "s").sortie)
            return QStringLiteral("the document cannot be read back");
        for (const auto& m : d.plan().flown.samples)
            if (!std::isfinite(m.time) || !std::isfinite(m.headOrCoolant()) || !std::isfinite(m[Gauge::fuel]) ||
                !std::isfinite(m[Gauge::power]))
                return QStringLiteral("the plan holds a figure that is none");
        return {};
    }

private:
    std::size_t below(std::size_t n) { return static_cast<std::size_t>(random_() % n); }
    template <class Widget>
    Widget* any() {
        QList<Widget*> all;
        for (auto* w : window_.findChildren<Widget*>())
            if (w->isVisible() && w->isEnabled())
                all << w;
        return all.isEmpty() ? nullptr : all.at(static_cast<int>(below(static_cast<std::size_t>(all.size()))));
    }
    /// Whoever sits there puts a hand on something, lets time go, takes it back, looks at the debrief.
    void sitAndRehearse() {
        auto& seat = window_.seat();
        if (!seat.isTaken()) {
            if (window_.rehearsing()) {
                rehearse::Setup setup;
                setup.from = phaseNames[1 + below(plannedPhases - 1)].phase;
                setup.seed = random_() % 1'000'000;
                setup.traps.push_back(
                    rehearse::oneByChance(window_.document().aircraft().notes, setup.from, setup.seed));
                seat.sit(std::move(setup), static_cast<rehearse::Way>(below(3)));
                window_.seatFrame().showHands();
            }
            return;
        }
        auto& hands = window_.seatFrame().hands();
        static const Qt::Key keys[] = {Qt::Key_Up,    Qt::Key_Down,   Qt::Key_Space,     Qt::Key_Return, Qt::Key_Home,
                                       Qt::Key_1,     Qt::Key_2,      Qt::Key_0,         Qt::Key_Equal,  Qt::Key_Right,
                                       Qt::Key_Comma, Qt::Key_Period, Qt::Key_Backspace, Qt::Key_Escape, Qt::Key_F5};
        for (std::size_t i = 1 + below(6); i-- > 0 && seat.isTaken();) {
            hands.setFocus();
            QTest::keyClick(&hands, below(3) ? keys[below(std::size(keys))]
                                             : static_cast<Qt::Key>(Qt::Key_A + static_cast<int>(below(26))));
        }
        if (!seat.isTaken())
            return;
        if (below(8) == 0)
            seat.begin(phaseNames[1 + below(plannedPhases - 1)].phase);
        if (below(8) == 0)
            seat.call(static_cast<powerplant::Fault>(below(std::size(powerplant::faultRegister))), -1);
        const int speed = seat.session().speed();
        seat.session().setSpeed(60);
        for (std::size_t i = below(6); i-- > 0;)
            seat.live(0.25);
        seat.session().setSpeed(speed);
        if (below(3) == 0)
            window_.seatFrame().showHands();
    }
    /// Readings, stop clocks, defects, dialogues, another size.
    void readAndTime() {
        if (!window_.recording())
            return;
        auto& frame = window_.recordFrame();
        switch (below(5)) {
        case 0: {
            auto& table = frame.table();
            const auto* model = table.model();
            if (model->rowCount() == 0)
                break;
            table.setCurrentIndex(
                model->index(static_cast<int>(below(static_cast<std::size_t>(model->rowCount()))),
                             static_cast<int>(below(static_cast<std::size_t>(model->columnCount())))));
            table.setFocus();
            static const Qt::Key keys[] = {Qt::Key_1,      Qt::Key_2,      Qt::Key_S,     Qt::Key_Period,
                                           Qt::Key_Return, Qt::Key_Escape, Qt::Key_Delete};
            for (std::size_t i = 1 + below(5); i-- > 0;)
                QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : &table,
                                keys[below(std::size(keys))]);
            break;
        }
        case 1:
        case 2: {
            QList<QToolButton*> clocks;
            for (auto* b : frame.findChildren<QToolButton*>())
                if (b->isVisible() && b->objectName().startsWith(QLatin1String("clock-")))
                    clocks << b;
            if (!clocks.isEmpty())
                QTest::mouseClick(clocks.at(static_cast<int>(below(static_cast<std::size_t>(clocks.size())))),
                                  Qt::LeftButton);
            break;
        }
        case 3:
            window_.showPhase(phaseNames[below(std::size(phaseNames))].phase);
            break;
        default:
            window_.resize(1024 + static_cast<int>(below(700)), 600 + static_cast<int>(below(400)));
        }
    }
    void typeSomewhere() {
        static const char* texts[] = {"5",         "-40",     "1013",  "60000 ft", "abc",  "7,5",   "",
                                      "999999999", "0",       "240/8", "2350",     "39",   "cold",  "2 h",
                                      "no",        "-270 °C", "1e9",   "14,000",   "full", "12 lb", "900 kg"};
        auto* edit = any<QLineEdit>();
        if (!edit)
            return;
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, QString::fromUtf8(texts[below(std::size(texts))]));
        static const Qt::Key ends[] = {Qt::Key_Tab, Qt::Key_Return, Qt::Key_Escape, Qt::Key_Up, Qt::Key_PageDown};
        if (below(4))
            QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : edit,
                            ends[below(std::size(ends))]);
    }
    void chooseSomewhere() {
        auto* box = any<QComboBox>();
        if (!box || box->count() == 0)
            return;
        const int index = static_cast<int>(below(static_cast<std::size_t>(box->count())));
        box->setCurrentIndex(index);
        emit box->activated(index);
    }
    void pressSomething() {
        static const Qt::Key keys[] = {Qt::Key_Up,     Qt::Key_Down,   Qt::Key_Left,  Qt::Key_Right, Qt::Key_Home,
                                       Qt::Key_End,    Qt::Key_Tab,    Qt::Key_Plus,  Qt::Key_Minus, Qt::Key_Space,
                                       Qt::Key_G,      Qt::Key_F,      Qt::Key_F2,    Qt::Key_3,     Qt::Key_Delete,
                                       Qt::Key_PageUp, Qt::Key_Return, Qt::Key_Escape};
        auto* widget = any<QWidget>();
        if (!widget)
            return;
        if (widget->focusPolicy() != Qt::NoFocus)
            widget->setFocus();
        for (std::size_t i = 1 + below(4); i-- > 0;)
            if (auto* focus = QApplication::focusWidget(); focus && focus->window() == &window_)
                QTest::keyClick(focus, keys[below(std::size(keys))], below(6) ? Qt::NoModifier : Qt::ControlModifier);
    }
    void clickSomewhere() {
        auto* widget = any<QWidget>();
        if (!widget || qobject_cast<QComboBox*>(widget) || qobject_cast<QMenuBar*>(widget) || widget->width() < 1 ||
            widget->height() < 1)
            return;
        const QPoint at(static_cast<int>(below(static_cast<std::size_t>(widget->width()))),
                        static_cast<int>(below(static_cast<std::size_t>(widget->height()))));
        below(4) ? QTest::mouseClick(widget, Qt::LeftButton, {}, at)
                 : QTest::mouseDClick(widget, Qt::LeftButton, {}, at);
    }
    void drag() {
        auto* widget = any<QWidget>();
        if (!widget || qobject_cast<QComboBox*>(widget) || qobject_cast<QMenuBar*>(widget) || widget->width() < 4)
            return;
        const QPoint from(widget->width() / 2, widget->height() / 2);
        const QPoint to(static_cast<int>(below(3000)) - 1000, from.y());
        QTest::mousePress(widget, Qt::LeftButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, QPointF(to), widget->mapToGlobal(QPointF(to)), Qt::NoButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(widget, &move);
        QTest::mouseRelease(widget, Qt::LeftButton, {}, to);
    }
    void closeDialogs() {
        for (auto* dialog : window_.findChildren<QDialog*>())
            if (dialog->isVisible())
                dialog->reject();
        while (auto* popup = QApplication::activePopupWidget()) {
            popup->close();
            settle();
        }
    }

    app::MainWindow& window_;
    QString demos_;
    std::mt19937_64 random_;
};

} // namespace amber::test
