// SPDX-License-Identifier: GPL-3.0-or-later
// What must hold of every field and chart, whatever the page: a step is undone, the keyboard reaches it, a drag moves
// it.
#include "store/data_folder.h"
#include "units/text.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QLabel>
#include <cmath>
#include <qcustomplot.h>
#include <set>

namespace {
using namespace amber;
using test::KeptWindow;

class EveryField : public KeptWindow {
protected:
    [[nodiscard]] std::string text() const {
        return writeSortie(document().sortie(), document().aircraft().notes.cockpit);
    }
    /// Pages of every phase, one after the other.
    void eachPage(const std::function<void(Phase, std::string_view)>& visit) {
        for (std::size_t i = 0; i < plannedPhases; ++i)
            for (const auto* row : app::pagesOf(phaseNames[i].phase, window->document())) {
                const auto page = row->key;
                window->showPhase(phaseNames[i].phase);
                window->page().showPage(page);
                QApplication::processEvents();
                visit(phaseNames[i].phase, page);
            }
    }
};

TEST_F(EveryField, AStepByKeyIsOneUndoAndComesBackExactly) {
    open("lorimer-spring");
    int stepped = 0;
    std::set<std::pair<Phase, QString>> seen; // the same field on another page of its phase
    eachPage([&](Phase phase, std::string_view page) {
        for (auto* field : window->page().findChildren<app::InlineField*>()) {
            if (!field->isVisible() || !seen.emplace(phase, field->objectName()).second)
                continue;
            auto* edit = field->findChild<QLineEdit*>();
            ASSERT_NE(edit, nullptr) << field->objectName().toStdString();
            const std::string before = text();
            const int index = document().undoStack().index();
            edit->setFocus();
            QTest::keyClick(edit, Qt::Key_Up);
            window->setFocus();
            if (document().undoStack().index() == index)
                continue; // at its end, or asked of the page and not of the sortie
            ++stepped;
            EXPECT_NE(text(), before) << field->objectName().toStdString() << " " << keyOf(phase);
            document().undoStack().undo();
            EXPECT_EQ(text(), before) << field->objectName().toStdString() << " on " << keyOf(phase) << " page "
                                      << page;
            EXPECT_EQ(document().undoStack().index(), index);
        }
    });
    EXPECT_GT(stepped, 8);
    EXPECT_EQ(document().undoStack().index(), 0);
}

TEST_F(EveryField, AChoiceThatIsMadeIsUndone) {
    open("mercer-frost");
    int chosen = 0;
    std::set<std::pair<Phase, QString>> seen;
    eachPage([&](Phase phase, std::string_view) {
        for (auto* box : window->page().findChildren<QComboBox*>()) {
            const QString name = box->objectName();
            if (!box->isVisible() || box->count() < 2 || name == QLatin1String("page-choice") ||
                name == QLatin1String("ask") || name == QLatin1String("lean-test") || !seen.emplace(phase, name).second)
                continue;
            const std::string before = text();
            const int index = document().undoStack().index(), other = (box->currentIndex() + 1) % box->count();
            box->setCurrentIndex(other);
            emit box->activated(other);
            if (document().undoStack().index() == index)
                continue;
            ++chosen;
            EXPECT_NE(text(), before) << name.toStdString() << keyOf(phase);
            document().undoStack().undo();
            EXPECT_EQ(text(), before) << name.toStdString() << keyOf(phase);
        }
    });
    EXPECT_GT(chosen, 4);
}

TEST_F(EveryField, TheKeyboardReachesEverythingThatTakesIt) {
    open("lorimer-spring");
    eachPage([&](Phase phase, std::string_view page) {
        QSet<QWidget*> wanted;
        for (auto* widget : window->page().findChildren<QWidget*>())
            if (widget->isVisible() && widget->isEnabled() && (widget->focusPolicy() & Qt::TabFocus) == Qt::TabFocus &&
                widget->focusProxy() == nullptr)
                wanted.insert(widget);
        QSet<QWidget*> reached;
        QWidget* at = window.get();
        for (int i = 0; i < 10'000; ++i) { // longer than any chain
            at = at->nextInFocusChain();
            if (at == window.get())
                break;
            reached.insert(at);
        }
        for (auto* widget : wanted) {
            EXPECT_TRUE(reached.contains(widget))
                << keyOf(phase) << " page " << page << " " << widget->objectName().toStdString();
        }
        EXPECT_FALSE(wanted.isEmpty()) << keyOf(phase);
    });
}

TEST_F(EveryField, EveryListAndPictureHasANameForTheReader) {
    open("chandler-haven");
    eachPage([&](Phase phase, std::string_view page) {
        for (auto* widget : window->page().findChildren<QWidget*>()) {
            const bool speaks = qobject_cast<QAbstractItemView*>(widget) || qobject_cast<QCustomPlot*>(widget);
            if (speaks && widget->isVisible()) {
                EXPECT_FALSE(widget->accessibleName().isEmpty())
                    << keyOf(phase) << " page " << page << " " << widget->objectName().toStdString();
            }
        }
    });
}

TEST_F(EveryField, PointAAndTheReadingAreDraggedOnThePowerChart) {
    open("lorimer-spring");
    window->showPhase(Phase::climb);
    window->page().showPage("chart");
    test::settle();
    auto& chart = on<app::PowerChartView>();
    auto& plot = chart.plot();
    ASSERT_TRUE(chart.construction());
    const auto rect = [&](int panel) { return plot.axisRect(panel); };
    const auto& inHg = *units::manifold::inHg.spec;
    const auto& hp = *units::horsepower.spec;
    const auto place = [&](int panel, double x, double y) {
        return QPoint(qRound(rect(panel)->axis(QCPAxis::atBottom)->coordToPixel(x)),
                      qRound(rect(panel)->axis(QCPAxis::atLeft)->coordToPixel(y)));
    };
    const auto drag = [&](QPoint from, QPoint to) {
        QTest::mousePress(&plot, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i) {
            const QPoint p = from + (to - from) * i / 4;
            QMouseEvent move(QEvent::MouseMove, QPointF(p), plot.mapToGlobal(QPointF(p)), Qt::NoButton, Qt::LeftButton,
                             {});
            QApplication::sendEvent(&plot, &move);
        }
        QTest::mouseRelease(&plot, Qt::LeftButton, {}, to);
        QApplication::processEvents();
    };
    const auto before = *chart.construction();
    const QPoint a = place(0, before.boost.si() / inHg.scale, before.seaLevel.si() / hp.scale);
    drag(a, a - QPoint(20, 0));
    const auto lower = *chart.construction();
    EXPECT_LT(lower.boost, before.boost) << "A is the boost";
    EXPECT_LT(lower.seaLevel, before.seaLevel);
    EXPECT_EQ(lower.height, before.height);
    const QPoint reading = place(1, lower.height.in(units::foot), lower.read.si() / hp.scale);
    drag(reading, reading + QPoint(60, 0));
    const auto higher = *chart.construction();
    EXPECT_GT(higher.height, lower.height) << "the diamond is the height";
    EXPECT_EQ(higher.boost, lower.boost);
    EXPECT_LT(higher.outside, lower.outside) << "the day's deviation is kept on the way up";
    EXPECT_EQ(document().undoStack().count(), 0) << "reading a chart changes no plan";
}

TEST_F(EveryField, LeversAreToldForEveryTypeAndNeverPastTheBoundary) {
    for (const auto& demo : app::demoSorties()) {
        open(demo.file);
        window->showPhase(Phase::cruise);
        window->page().showPage("choose");
        QApplication::processEvents();
        if (document().aircraft().notes.engine.gears.empty()) {
            EXPECT_FALSE(on<app::LeverMap>().isVisible()) << demo.file << ": one lever";
            continue;
        }
        const auto& path = on<app::LeverMap>().path();
        EXPECT_TRUE(path.clean) << demo.file;
        EXPECT_FALSE(path.why.empty()) << demo.file;
        const QStringList words = on<app::LeverMap>().words();
        EXPECT_GE(words.size(), static_cast<int>(path.moves.size())) << demo.file;
        for (std::size_t i = 0; i < path.moves.size(); ++i) {
            EXPECT_TRUE(words[static_cast<int>(i)].contains(path.moves[i].rpmLever ? QStringLiteral("Rpm")
                                                                                   : QStringLiteral("Boost")))
                << demo.file << ": " << words[static_cast<int>(i)].toStdString();
        }
    }
}
} // namespace
