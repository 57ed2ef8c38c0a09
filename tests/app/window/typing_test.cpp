// SPDX-License-Identifier: GPL-3.0-or-later
// Typing as people do it: too quickly, wrongly, with a comma, and thinking better of it.
#include "files/key_ranges.h"
#include "pages/phase_page.h"
#include "shell/details_dialog.h"
#include "shell/metar_dialog.h"
#include "units/unit_table.h"
#include "window_fixture.h"
#include <QTableView>

namespace {
using namespace amber;
using test::Window;

class Typing : public Window {
protected:
    void tab() { QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab); }
    /// Keys as the window system sends them: to whatever has the focus, with nothing that is queued happening between.
    void hurry(const QString& keys) {
        for (const QChar c : keys)
            if (c == QLatin1Char('\n'))
                QTest::keyClick(window->windowHandle(), Qt::Key_Return);
            else
                QTest::keyClick(window->windowHandle(), c.toLatin1());
    }
};

TEST_F(Typing, ARefusedFigureLeavesTheOldOneNotItsFirstDigits) {
    const double before = document().sortie().day.elevation.si();
    type("elevation", QStringLiteral("60000 ft"));
    EXPECT_NEAR(document().sortie().day.elevation.si(), before, 1e-9) << "already while it is typed";
    tab();
    EXPECT_NEAR(document().sortie().day.elevation.si(), before, 1e-9);
    EXPECT_EQ(field("elevation")->text(), QStringLiteral("302 ft"));
    EXPECT_TRUE(window->message().contains(QStringLiteral("60000 ft"))) << window->message().toStdString();
    EXPECT_TRUE(window->message().contains(QStringLiteral("Between −1,400 and 18,000 ft")))
        << window->message().toStdString();
    EXPECT_TRUE(window->message().contains(QStringLiteral("It stays 302 ft"))) << window->message().toStdString();
    EXPECT_TRUE(field("elevation")->accessibleDescription().contains(QStringLiteral("was not taken")))
        << "and it is heard";
    EXPECT_FALSE(document().isModified());
    EXPECT_EQ(document().undoStack().count(), 0);
}

TEST_F(Typing, ADecimalCommaIsADecimalComma) {
    type("oat", QStringLiteral("7,5"));
    tab();
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 7.5, 1e-9);
    type("qnh", QStringLiteral("29,80 inHg"));
    tab();
    EXPECT_NEAR(document().sortie().day.qnh.in(units::inHg), 29.80, 1e-9);
    type("weight", QStringLiteral("27,000"));
    tab();
    EXPECT_NEAR(document().sortie().weight.in(units::pound), 27000, 1e-6);
}

TEST_F(Typing, UndoRightAfterTabTakesTheLastChangeBack) {
    type("qnh", QStringLiteral("1015"));
    tab();
    EXPECT_NE(QApplication::focusWidget(), field("qnh"));
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 1009, 1e-9);
    EXPECT_EQ(field("qnh")->text(), QStringLiteral("1,009 hPa"));
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Y, Qt::ControlModifier);
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 1015, 1e-9);
}

TEST_F(Typing, UndoRightAfterArrowStepsTakesThemBack) {
    field("oat")->setFocus();
    for (int i = 0; i < 3; ++i)
        QTest::keyClick(field("oat"), Qt::Key_Up);
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 9, 1e-9);
    QTest::keyClick(field("oat"), Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 6, 1e-9);
    EXPECT_EQ(field("oat")->text(), QStringLiteral("6 °C"));
}

TEST_F(Typing, EscapeTakesTheWholeStayBack) {
    type("oat", QStringLiteral("21"));
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 21, 1e-9);
    QTest::keyClick(field("oat"), Qt::Key_Escape);
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 6, 1e-9);
    EXPECT_EQ(document().undoStack().count(), 0) << "as if it had never been";
}

TEST_F(Typing, WhatTheReaderRefusesTheWindowDoesNotSave) {
    const auto refused = [this](const char* name, const char* text) {
        const QByteArray before =
            QByteArray::fromStdString(writeSortie(document().sortie(), document().aircraft().notes.cockpit));
        type(name, QString::fromUtf8(text));
        tab();
        EXPECT_EQ(QByteArray::fromStdString(writeSortie(document().sortie(), document().aircraft().notes.cockpit)),
                  before)
            << name << " " << text;
        EXPECT_TRUE(window->message().contains(QStringLiteral("was not taken"))) << name << " " << text;
    };
    refused("oat", "72");
    refused("oat", "-270");
    refused("qnh", "840");
    refused("elevation", "-9000");
    refused("dew-point", "7"); // over the air's 6
    refused("weight", "270000");
    window->showPhase(Phase::cruise);
    test::settle();
    refused("distance", "3,300,000");
    window->showPhase(Phase::runUp);
    test::settle();
    refused("hold", "9999999");
}

TEST_F(Typing, DraggingStopsAtTheWeatherThatCanBe) {
    auto* caption = field("qnh")->parentWidget()->findChild<QLabel*>();
    ASSERT_NE(caption, nullptr);
    QTest::mousePress(caption, Qt::LeftButton, {}, QPoint(2, 5));
    QTest::mouseMove(caption, QPoint(2 + 6 * 400, 5));
    QMouseEvent move(QEvent::MouseMove, QPointF(2 + 6 * 400, 5), caption->mapToGlobal(QPointF(2 + 6 * 400, 5)),
                     Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(caption, &move);
    QTest::mouseRelease(caption, Qt::LeftButton, {}, QPoint(2, 5));
    EXPECT_LE(document().sortie().day.qnh.in(units::hPa), 1100);
    EXPECT_TRUE(readSortie(writeSortie(document().sortie(), document().aircraft().notes.cockpit), "s").sortie);
}

TEST_F(Typing, AReportThatCannotBeIsRefusedInItsDialogue) {
    QTest::keyClick(window.get(), Qt::Key_M, Qt::ControlModifier);
    auto* dialog = window->findChild<app::MetarDialog*>();
    ASSERT_NE(dialog, nullptr);
    auto* text = dialog->findChild<QPlainTextEdit*>();
    text->setPlainText(QStringLiteral("METAR XXRF 250650Z 24008KT 9999 75/52 Q1009"));
    EXPECT_FALSE(dialog->reading());
    EXPECT_TRUE(
        dialog->findChild<QLabel*>(QStringLiteral("metar-verdict"))->text().contains(QStringLiteral("out of range")));
    text->setPlainText(QStringLiteral("METAR XXRF 250650Z 24008KT 9999 05/09 Q1009"));
    EXPECT_FALSE(dialog->reading()) << "dew point over the air";
    text->setPlainText(QStringLiteral("METAR XXRF 250650Z 24008KT 9999 05/03 Q1009"));
    EXPECT_TRUE(dialog->reading());
    dialog->reject();
}

TEST_F(Typing, AColderDayTakesItsDewPointDown) {
    type("oat", QStringLiteral("11")); // by way of 1
    EXPECT_NEAR(document().sortie().day.dewPoint.in(units::celsius), 3, 1e-9);
    tab();
    type("oat", QStringLiteral("-4"));
    tab();
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), -4, 1e-9);
    EXPECT_LE(document().sortie().day.dewPoint.si(), document().sortie().day.oat.si());
}

TEST_F(Typing, AQuickTypistLosesNoReadingOfTheWalk) {
    Sortie s = document().sortie();
    s.walk.found.clear();
    ASSERT_TRUE(document().edit(s, QStringLiteral("fresh")).isEmpty());
    window->showPhase(Phase::walkRound);
    auto& walk = on<app::WalkRoundView>();
    walk.select(2);
    emit walk.chosen(2);
    auto& set = rows("set");
    set.setFocus();
    // Every reading of the station, one after the other, faster than anything queued can happen.
    std::vector<std::string> wanted;
    const auto items = document().plan().walk.stops[2].items;
    set.setCurrentIndex(set.model()->index(0, 0));
    for (const auto& item : items)
        if (item.item.kind == WalkItemKind::look)
            hurry(QStringLiteral("dirty\n"));
        else
            hurry(QStringLiteral("17\n"));
    for (const auto& item : items) {
        const auto found = document().sortie().walk.found.find(item.key);
        ASSERT_NE(found, document().sortie().walk.found.end()) << item.what;
        EXPECT_EQ(found->second.substr(0, 2), item.item.kind == WalkItemKind::look ? "di" : "17") << item.what;
    }
}

TEST_F(Typing, AQuickTypistLosesNoReadingOfTheSheet) {
    open("lorimer-spring", Phase::runUp, "sheet");
    Sortie s = document().sortie();
    s.runUpFound.clear();
    ASSERT_TRUE(document().edit(s, QStringLiteral("fresh")).isEmpty());
    auto& table = pageAs<app::RunUpPage>().table();
    auto& model = pageAs<app::RunUpPage>().model();
    table.setFocus();
    table.setCurrentIndex(model.index(0, app::RunUpModel::firstEngine));
    int rows = 0;
    for (int r = 0; r < model.rowCount(); ++r)
        if (const auto* c = model.cell(model.index(r, app::RunUpModel::firstEngine));
            c && model.line(r)->kind != watch::SheetKind::computed)
            ++rows;
    ASSERT_GT(rows, 5);
    int typed = 0, counts = 0;
    for (int r = 0; r < model.rowCount(); ++r)
        if (const auto* c = model.cell(model.index(r, app::RunUpModel::firstEngine));
            c && model.line(r)->kind != watch::SheetKind::computed) {
            const bool count = model.line(r)->kind == watch::SheetKind::count;
            counts += count;
            hurry(count ? QStringLiteral("1\n") : QStringLiteral("%1\n").arg(20 + typed));
            ++typed;
        }
    std::set<std::string> values;
    for (const auto& [key, value] : document().sortie().runUpFound)
        values.insert(value.substr(0, 2));
    EXPECT_EQ(document().sortie().runUpFound.size(), static_cast<std::size_t>(rows));
    EXPECT_EQ(values.size(), static_cast<std::size_t>(rows - counts + (counts > 0))) << "each in its own place";
}

TEST_F(Typing, EveryFieldIsReachedByTwoKeys) {
    for (const Phase phase : {Phase::walkRound, Phase::start, Phase::climb, Phase::cruise, Phase::stop}) {
        window->showPhase(phase);
        test::settle();
        QTest::keyClick(window.get(), Qt::Key_F2);
        auto* keys = window->findChild<app::FieldKeys*>();
        ASSERT_TRUE(keys->isVisible());
        const auto letters = keys->letters();
        ASSERT_GE(letters.size(), 8);
        std::set<QChar> names;
        for (const auto& [letter, widget] : letters) {
            names.insert(letter);
            if (!keys->isVisible())
                QTest::keyClick(window.get(), Qt::Key_F2);
            QTest::keyClick(keys, letter.toLatin1());
            EXPECT_TRUE(widget->hasFocus()) << widget->objectName().toStdString();
            EXPECT_FALSE(keys->isVisible());
        }
        EXPECT_EQ(names.size(), static_cast<std::size_t>(letters.size()));
        for (auto* edit : window->findChildren<QLineEdit*>())
            EXPECT_TRUE(!edit->isVisible() || edit->isReadOnly() ||
                        std::any_of(letters.begin(), letters.end(), [&](const auto& l) { return l.second == edit; }))
                << edit->objectName().toStdString();
    }
    QTest::keyClick(window.get(), Qt::Key_F2);
    QTest::keyClick(window->findChild<app::FieldKeys*>(), Qt::Key_Escape);
    EXPECT_FALSE(window->findChild<app::FieldKeys*>()->isVisible());
}

TEST_F(Typing, TitleRegistrationAndDestinationAreEditedAndUndoneTogether) {
    QTest::keyClick(window.get(), Qt::Key_I, Qt::ControlModifier);
    auto* dialog = window->findChild<app::DetailsDialog*>();
    ASSERT_NE(dialog, nullptr);
    const auto put = [&](const char* name, const char* text) {
        dialog->findChild<QLineEdit*>(QLatin1String(name))->setText(QString::fromUtf8(text));
    };
    put("details-title", "To the lake");
    put("details-registration", "HR-Z");
    put("details-over", "the dam");
    put("details-to", "Tarn Haven");
    put("details-elevation", "90000 ft");
    auto* ok = dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Ok);
    QTest::mouseClick(ok, Qt::LeftButton);
    EXPECT_TRUE(dialog->isVisible());
    EXPECT_TRUE(
        dialog->findChild<QLabel*>(QStringLiteral("details-verdict"))->text().contains(QStringLiteral("out of range")));
    put("details-elevation", "640 ft");
    QTest::mouseClick(ok, Qt::LeftButton);
    const auto& s = document().sortie();
    EXPECT_EQ(s.title, "To the lake");
    EXPECT_EQ(s.airframe.registration, "HR-Z");
    EXPECT_EQ(s.flight.over, "the dam");
    EXPECT_EQ(s.flight.to, "Tarn Haven");
    EXPECT_NEAR(s.flight.toElevation.in(units::foot), 640, 1e-6);
    document().undoStack().undo();
    EXPECT_NE(document().sortie().title, "To the lake");
    EXPECT_NE(document().sortie().flight.to, "Tarn Haven");
}

TEST_F(Typing, ThereAndBackTheLandingFieldIsTheSame) {
    Sortie s = document().sortie();
    s.flight.to = s.day.field;
    s.flight.toElevation = s.day.elevation;
    ASSERT_TRUE(document().edit(s, QStringLiteral("home")).isEmpty());
    type("elevation", QStringLiteral("1200"));
    tab();
    EXPECT_NEAR(document().sortie().flight.toElevation.in(units::foot), 1200, 1e-6);
    s = document().sortie();
    s.flight.to = "Upper Ferrow";
    ASSERT_TRUE(document().edit(s, QStringLiteral("away")).isEmpty());
    type("elevation", QStringLiteral("300"));
    tab();
    EXPECT_NEAR(document().sortie().flight.toElevation.in(units::foot), 1200, 1e-6) << "another field keeps its own";
}

TEST_F(Typing, MoreThanFourTanksAreAllFilled) {
    QByteArray notes = contents(scratch.filePath(QStringLiteral("notes/lorimer-l4.toml")));
    QByteArray more;
    for (int i = 0; i < 4; ++i)
        more +=
            QStringLiteral(
                "[[fuel.tank]]\nid = \"extra%1\"\nname = \"Extra %1\"\ncapacity = \"%2 US gal\"\narm = \"290 in\"\n\n")
                .arg(i)
                .arg(20 + i)
                .toUtf8();
    const auto at = notes.indexOf("[[fuel.tank]]");
    ASSERT_GE(at, 0);
    // After the tanks there are, so that theirs keep their places.
    const auto last = notes.lastIndexOf("[[fuel.tank]]");
    auto end = notes.indexOf("\n[", last + 4);
    while (end >= 0 && notes.mid(end + 1).startsWith("[fuel.tank."))
        end = notes.indexOf("\n[", end + 2);
    while (end >= 0 && notes.mid(end + 1).startsWith("[[fuel.tank."))
        end = notes.indexOf("\n[", end + 2);
    notes.insert(end + 1, more);
    write(scratch.filePath(QStringLiteral("notes/lorimer-l4.toml")), notes);
    ASSERT_TRUE(window->openPath(lorimer())) << "the type reads";
    window->showPhase(Phase::walkRound);
    test::settle();
    const auto& tanks = document().aircraft().notes.fuel.tanks;
    ASSERT_GT(tanks.size(), 4u);
    auto* choice = window->findChild<QComboBox*>(QStringLiteral("tank-choice"));
    ASSERT_TRUE(choice->isVisible());
    EXPECT_EQ(choice->count(), static_cast<int>(tanks.size()) - 3);
    for (int i = 0; i < choice->count(); ++i) {
        choice->setCurrentIndex(i);
        emit choice->activated(i);
        type("tank-3", QStringLiteral("%1").arg(5 + i));
        tab();
        const auto& tank = tanks[static_cast<std::size_t>(3 + i)];
        EXPECT_NEAR(document().sortie().contents.at(tank.id).in(units::usGallon), 5 + i, 1e-9) << tank.id;
    }
}

} // namespace
