// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/metar_dialog.h"
#include "store/data_folder.h"
#include "units/unit_table.h"
#include "window_fixture.h"
#include <QClipboard>
#include <QComboBox>
#include <QMenu>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QScrollBar>

using namespace amber;
using test::KeptWindow;
using test::Window;

namespace {
/// One window, worked in from one test to the next.
class OneWindow : public KeptWindow {};

TEST_F(OneWindow, TypingTheQnhMovesEveryPhaseAtOnce) {
    window->showPhase(Phase::climb);
    const QString before = shown(rows("set"));
    ASSERT_TRUE(before.contains(QStringLiteral("low, to 8,300 ft"))) << before.toStdString();
    type("qnh", QStringLiteral("979"));
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 979, 1e-9);
    const QString after = shown(rows("set"));
    EXPECT_NE(after, before) << "no Enter was needed";
    EXPECT_FALSE(after.contains(QStringLiteral("9,600 ft")));
}

TEST_F(OneWindow, TemperatureGradeAndWeightMoveTheTakeOff) {
    window->showPhase(Phase::takeOff);
    const QString cool = shown(rows("clock"));
    type("oat", QStringLiteral("38"));
    EXPECT_NE(shown(rows("clock")), cool);
    auto* grade = window->findChild<QComboBox*>(QStringLiteral("grade"));
    ASSERT_NE(grade, nullptr);
    grade->setFocus();
    QTest::keyClick(grade, Qt::Key_Down);
    EXPECT_EQ(document().sortie().fuelGrade, "91");
    EXPECT_TRUE(shown(rows("set")).contains(QStringLiteral("40.5 inHg"))) << shown(rows("set")).toStdString();
    EXPECT_TRUE(window->page()
                    .findChild<QLabel*>(QStringLiteral("notices"))
                    ->text()
                    .contains(QStringLiteral("Grade 91 permits")));
    type("weight", QStringLiteral("23000"));
    EXPECT_TRUE(shown(rows("set")).contains(QStringLiteral("80 kt; safe on one"))) << shown(rows("set")).toStdString();
}

TEST_F(OneWindow, OneStayInAFieldIsOneUndo) {
    const double qnh = document().sortie().day.qnh.si();
    type("qnh", QStringLiteral("1021"));
    EXPECT_EQ(document().undoStack().count(), 1);
    field("oat")->setFocus();
    type("oat", QStringLiteral("12"));
    EXPECT_EQ(document().undoStack().count(), 2);
    document().undoStack().undo();
    document().undoStack().undo();
    EXPECT_EQ(document().sortie().day.qnh.si(), qnh);
    document().undoStack().redo();
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 1021, 1e-9);
    EXPECT_FALSE(document().plan().phases.empty());
}

TEST_F(OneWindow, WhatCannotBeReadIsMarkedAndChangesNothing) {
    const auto before = document().sortie().day.qnh.si();
    type("qnh", QStringLiteral("very high"));
    auto* holder = window->findChild<app::InlineField*>(QStringLiteral("qnh"));
    EXPECT_FALSE(holder->error().isEmpty());
    EXPECT_EQ(document().sortie().day.qnh.si(), before);
    QTest::keyClick(field("qnh"), Qt::Key_Escape);
    EXPECT_EQ(field("qnh")->text(), QStringLiteral("1,009 hPa"));
    type("weight", QStringLiteral("90000 lb"));
    EXPECT_TRUE(
        window->findChild<app::InlineField*>(QStringLiteral("weight"))->error().contains(QStringLiteral("29,500 lb")))
        << "the message says what would do";
    field("oat")->setFocus();
    EXPECT_EQ(field("weight")->text(), QStringLiteral("27,400 lb")) << "leaving brings the last good value back";
}

TEST_F(OneWindow, AnotherUnitMayBeTyped) {
    type("qnh", QStringLiteral("29.92 inHg"));
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 1013.2, 0.1);
    type("oat", QStringLiteral("50 °F"));
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 10, 1e-6);
}

TEST_F(OneWindow, KeysStepAndACaptionIsDragged) {
    field("oat")->setFocus();
    QTest::keyClick(field("oat"), Qt::Key_Up);
    QTest::keyClick(field("oat"), Qt::Key_Up);
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 8, 1e-6);
    EXPECT_EQ(document().undoStack().count(), 1);
    auto* caption = window->findChild<app::InlineField*>(QStringLiteral("qnh"))->findChild<QLabel*>();
    const int before = document().undoStack().count();
    QTest::mousePress(caption, Qt::LeftButton, {}, QPoint(2, 5));
    for (int x = 4; x <= 62; x += 2) {
        QMouseEvent move(QEvent::MouseMove, QPointF(x, 5), caption->mapToGlobal(QPointF(x, 5)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(caption, &move);
    }
    QTest::mouseRelease(caption, Qt::LeftButton, {}, QPoint(62, 5));
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 1019, 1e-6);
    EXPECT_EQ(document().undoStack().count(), before + 1) << "one drag, one undo";
}

TEST_F(OneWindow, EveryPhaseIsReachedByKeyAndByTheScore) {
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        QTest::keyClick(window.get(), i == 0 ? Qt::Key_L : static_cast<Qt::Key>(Qt::Key_0 + i % 10),
                        Qt::ControlModifier);
        EXPECT_EQ(window->page().phase(), static_cast<Phase>(i));
        EXPECT_EQ(window->page().findChild<QLabel*>(QStringLiteral("phase-title"))->text(),
                  QString::fromUtf8(titleOf(static_cast<Phase>(i)).data()));
    }
    const auto& cruise = document().plan()[Phase::cruise];
    auto& score = window->score();
    const QPoint at(qRound(score.xOf(cruise.start + cruise.duration / 2)), 100);
    QTest::mouseMove(&score, at);
    QTest::mouseClick(&score, Qt::LeftButton, {}, at);
    EXPECT_EQ(window->page().phase(), Phase::cruise);
    EXPECT_EQ(window->rail().selected(), Phase::cruise);
    window->rail().setFocus();
    QTest::keyClick(&window->rail(), Qt::Key_Down);
    EXPECT_EQ(window->page().phase(), Phase::letDown);
    // The score by keyboard: the cursor goes to the next phase and Enter follows it.
    score.setFocus();
    QTest::keyClick(&score, Qt::Key_Home);
    for (int i = 0; i < 6; ++i)
        QTest::keyClick(&score, Qt::Key_Right, Qt::ShiftModifier);
    QTest::keyClick(&score, Qt::Key_Left);
    QTest::keyClick(&score, Qt::Key_Return);
    const auto& reached = document().plan()[window->page().phase()];
    EXPECT_GT(window->page().phase(), Phase::cruise);
    EXPECT_GE(score.cursorTime(), reached.start);
    EXPECT_LE(score.cursorTime(), reached.start + reached.duration);
}

TEST_F(OneWindow, TheScoreZoomsPansAndReads) {
    auto& score = window->score();
    const double whole = score.timeAt(score.width()) - score.timeAt(0);
    score.zoom(0.25, 3600);
    EXPECT_NEAR(score.timeAt(score.width()) - score.timeAt(0), whole / 4, whole * 0.01);
    EXPECT_NEAR(score.timeAt(score.xOf(3600)), 3600, 1);
    const auto readings = score.readings(document().plan()[Phase::cruise].start + 1800);
    ASSERT_EQ(readings.size(), 7) << "boost, rpm, height, heads, oil, charge, fuel";
    EXPECT_TRUE(readings[5].endsWith(QStringLiteral("°C")));
    EXPECT_EQ(readings[0], QStringLiteral("33 inHg"));
    EXPECT_EQ(readings[2], QStringLiteral("14,000 ft"));
    QTest::keyClick(&score, Qt::Key_Home);
    EXPECT_NEAR(score.timeAt(score.width()) - score.timeAt(0), whole, 1);
}

TEST_F(OneWindow, ASchoolIsChosenByKeyboardAndUndone) {
    window->showPhase(Phase::start);
    auto& set = rows("set");
    int row = -1;
    for (int i = 0; i < set.model()->rowCount(); ++i)
        if (set.model()->index(i, 0).data().toString().startsWith(QStringLiteral("Propeller")))
            row = i;
    ASSERT_GE(row, 0);
    set.setFocus();
    set.setCurrentIndex(set.model()->index(row, 0));
    EXPECT_TRUE(window->page()
                    .findChild<QLabel*>(QStringLiteral("why-beside"))
                    ->text()
                    .contains(QStringLiteral("The bearings are served first")))
        << "gain and risk of each school are told";
    QTest::keyClick(&set, Qt::Key_Return);
    auto* menu = window->page().findChild<QMenu*>(QStringLiteral("schools"));
    ASSERT_NE(menu, nullptr);
    ASSERT_EQ(menu->actions().size(), 2);
    menu->actions()[1]->trigger();
    menu->close();
    EXPECT_TRUE(shown(set).contains(QStringLiteral("coarse, fine when oil pressure is up")));
    document().undoStack().undo();
    EXPECT_TRUE(shown(set).contains(QStringLiteral("Propeller: fully fine")));
}

TEST_F(OneWindow, AMetarIsPastedAndSaysWhatItRead) {
    QApplication::clipboard()->setText(QStringLiteral("XXRF 250650Z 31012KT 9999 M03/M07 Q0998"));
    QTest::keyClick(window.get(), Qt::Key_M, Qt::ControlModifier);
    auto* dialog = window->findChild<app::MetarDialog*>();
    ASSERT_NE(dialog, nullptr);
    auto* text = dialog->findChild<QPlainTextEdit*>(QStringLiteral("metar-text"));
    EXPECT_TRUE(text->toPlainText().startsWith(QStringLiteral("XXRF"))) << "the clipboard is taken when it is a METAR";
    text->setPlainText(QStringLiteral("nothing of the kind"));
    EXPECT_FALSE(dialog->reading().has_value());
    EXPECT_TRUE(dialog->findChild<QLabel*>(QStringLiteral("metar-verdict"))
                    ->text()
                    .contains(QStringLiteral("no temperature group")));
    text->setPlainText(QStringLiteral("XXRF 250650Z 31012KT 9999 M03/M07 Q0998"));
    ASSERT_TRUE(dialog->reading().has_value());
    dialog->accept();
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), -3, 1e-9);
    EXPECT_NEAR(document().sortie().day.qnh.in(units::hPa), 998, 1e-9);
    EXPECT_TRUE(window->message().contains(QStringLiteral("Read: wind, temperature, dew point, pressure")));
    document().undoStack().undo();
    EXPECT_NEAR(document().sortie().day.oat.in(units::celsius), 6, 1e-9) << "one undo for the whole report";
}

TEST_F(OneWindow, TheCruiseHeightIsDraggedOnThePicture) {
    window->showPhase(Phase::climb);
    test::settle();
    const double before = document().sortie().flight.cruiseHeight.si();
    emit on<app::PhaseChart>().heightDragged(before - 600, 77);
    emit on<app::PhaseChart>().heightDragged(before - 900, 77);
    EXPECT_NEAR(document().sortie().flight.cruiseHeight.si(), before - 900, 1e-9);
    document().undoStack().undo();
    EXPECT_NEAR(document().sortie().flight.cruiseHeight.si(), before, 1e-9);
    emit on<app::PhaseChart>().heightDragged(-5000, 0);
    EXPECT_TRUE(window->message().contains(QStringLiteral("out of range"))) << window->message().toStdString();
    EXPECT_NEAR(document().sortie().flight.cruiseHeight.si(), before, 1e-9);
}

TEST_F(OneWindow, TheVariantChangesTheLimits) {
    type("weight", QStringLiteral("27000"));
    auto* airframe = window->findChild<QComboBox*>(QStringLiteral("airframe"));
    airframe->setFocus();
    QTest::keyClick(airframe, Qt::Key_Down);
    EXPECT_EQ(document().sortie().airframe.variant, "A");
    window->showPhase(Phase::takeOff);
    EXPECT_TRUE(shown(rows("set")).contains(QStringLiteral("42.5 inHg")));
    document().undoStack().undo();
    EXPECT_TRUE(shown(rows("set")).contains(QStringLiteral("45 inHg")));
}

TEST_F(Window, AThemeChangesColoursAndMovesNothing) {
    window->showPhase(Phase::climb);
    test::settle();
    const auto places = [&] {
        std::vector<std::pair<QString, QRect>> out;
        for (auto* label : window->findChildren<QLabel*>())
            if (label->isVisible())
                out.emplace_back(label->objectName(), QRect(label->mapTo(window.get(), label->contentsRect().topLeft()),
                                                            label->contentsRect().size()));
        return out;
    };
    const auto day = places();
    ASSERT_GT(day.size(), 10u);
    for (const auto theme : {app::ThemeKind::hangar, app::ThemeKind::day}) {
        window->setTheme(theme);
        test::settle();
        const auto now = places();
        ASSERT_EQ(now.size(), day.size());
        for (std::size_t i = 0; i < day.size(); ++i)
            EXPECT_EQ(now[i].second, day[i].second) << day[i].first.toStdString();
    }
}

TEST_F(OneWindow, BothThemesPaintTheirOwnPaper) {
    const auto corner = [this] { return window->grab().toImage().pixelColor(1270, 120); };
    window->setTheme(app::ThemeKind::day);
    const QColor day = corner();
    window->setTheme(app::ThemeKind::hangar);
    const QColor hangar = corner();
    EXPECT_GT(day.lightness(), 220);
    EXPECT_LT(hangar.lightness(), 60);
    window->setTheme(app::ThemeKind::day);
}

TEST_F(OneWindow, CautionsStandOnThePagesWhereTheActHappens) {
    for (const Phase phase : {Phase::walkRound, Phase::start, Phase::runUp, Phase::stop}) {
        window->showPhase(phase);
        EXPECT_TRUE(
            window->page().findChild<QLabel*>(QStringLiteral("notices"))->text().contains(QStringLiteral("Caution")))
            << titleOf(phase);
    }
}

TEST_F(OneWindow, TheStartTimelineFailsReordersAndFollows) {
    window->showPhase(Phase::start);
    window->page().showPage("order");
    test::settle();
    auto& view = on<app::StartTimelineView>();
    ASSERT_TRUE(view.isVisible());
    const double clean = view.timeline().total;
    QTest::mouseClick(&view, Qt::LeftButton, {}, QPoint(20, qRound(view.laneRect(0).center().y())));
    EXPECT_EQ(view.failuresOf("2"), 1) << "starboard stands first";
    EXPECT_GT(view.timeline().total, clean);
    view.setFocus();
    QTest::keyClick(&view, Qt::Key_Home);
    EXPECT_EQ(view.timeline().total, clean);
    QTest::keyClick(&view, Qt::Key_Down, Qt::ControlModifier);
    EXPECT_EQ(document().sortie().start.order, (std::vector<std::string>{"1", "2"}));
    const auto settings = [&] {
        window->page().showPage("settings");
        const QString all = shown(rows("set"));
        window->page().showPage("order");
        return all;
    };
    EXPECT_TRUE(settings().contains(QStringLiteral("Order: Port, then Starboard")));
    document().undoStack().undo();
    EXPECT_TRUE(document().sortie().start.order.empty());
    type("oat", QStringLiteral("-12"));
    EXPECT_GT(view.timeline().total, clean) << "colder: more prime, slower cranking, later oil pressure";
    type("stopped", QStringLiteral("30 min"));
    EXPECT_NEAR(document().sortie().start.sinceStop->si(), 1800, 1e-6);
    EXPECT_TRUE(settings().contains(QStringLiteral("Starboard 1 strokes"))) << settings().toStdString();
}

} // namespace
