// SPDX-License-Identifier: GPL-3.0-or-later
// Walk-round and start pages, driven as a pilot drives them.
#include "charts/lever_panel.h"
#include "watch/walk_round.h"
#include "window_fixture.h"
#include <QComboBox>
#include <QLabel>
#include <QMenu>

namespace {
using namespace amber;
using test::KeptWindow;

class GroundPages : public KeptWindow {
protected:
    void SetUp() override {
        Window::SetUp();
        // A fresh walk: nothing found yet.
        Sortie s = document().sortie();
        s.walk.found.clear();
        ASSERT_TRUE(document().edit(s, QStringLiteral("fresh")).isEmpty());
        answer = app::MainWindow::Unsaved::discard;
        window->showPhase(Phase::walkRound);
        test::settle();
    }
    void go(int station) {
        QTest::keyClick(&on<app::WalkRoundView>(), Qt::Key_Home);
        for (int i = 0; i < station; ++i)
            QTest::keyClick(&on<app::WalkRoundView>(), Qt::Key_Right);
    }
    int rowOf(const char* what) {
        auto& set = rows("set");
        for (int i = 0; i < set.model()->rowCount(); ++i)
            if (set.model()->index(i, 0).data().toString().startsWith(QLatin1String(what)))
                return i;
        return -1;
    }
    void typeReading(const char* what, const QString& text) {
        auto& set = rows("set");
        const int row = rowOf(what);
        ASSERT_GE(row, 0) << what;
        set.setFocus();
        set.setCurrentIndex(set.model()->index(row, 0));
        QTest::keyClick(&set, Qt::Key_Return);
        auto* editor = set.findChild<QLineEdit*>(QStringLiteral("finding"));
        ASSERT_NE(editor, nullptr);
        editor->selectAll();
        QTest::keyClicks(editor, text);
        QTest::keyClick(editor, Qt::Key_Return);
        test::settle();
    }
    QString defects() { return window->page().findChild<QLabel*>(QStringLiteral("defects"))->text(); }
};

TEST_F(GroundPages, AReadingTypedOnThePageIsJudgedAtOnce) {
    go(2);
    EXPECT_EQ(on<app::WalkRoundView>().selected(), 2);
    typeReading("Oil, starboard", QStringLiteral("19"));
    EXPECT_EQ(document().sortie().walk.found.at("stbd-engine/oil-starboard"), "19 US gal");
    EXPECT_TRUE(defects().contains(QStringLiteral("normal from 20 US gal"))) << defects().toStdString();
    EXPECT_EQ(document().plan()[Phase::walkRound].worst.colour(), watch::Colour::amber);
    typeReading("Oil, starboard", QStringLiteral("15"));
    EXPECT_EQ(document().plan()[Phase::walkRound].worst.colour(), watch::Colour::red) << "a stopper holds the phase";
    EXPECT_EQ(document().plan()[Phase::start].worst.colour(), watch::Colour::red);
    document().undoStack().undo();
    EXPECT_EQ(document().plan()[Phase::walkRound].worst.colour(), watch::Colour::amber);
    typeReading("Oil, starboard", QStringLiteral("plenty"));
    EXPECT_EQ(document().sortie().walk.found.at("stbd-engine/oil-starboard"), "19 US gal") << "nothing is lost";
    EXPECT_TRUE(window->message().contains(QStringLiteral("Oil, starboard"))) << window->message().toStdString();
}

TEST_F(GroundPages, SpaceTicksTypingWritesUpAndDeleteClears) {
    auto& set = rows("set");
    set.setFocus();
    set.setCurrentIndex(set.model()->index(0, 0));
    QTest::keyClick(&set, Qt::Key_Space);
    EXPECT_EQ(document().sortie().walk.found.at("cockpit/ignition"), watch::inOrder);
    EXPECT_EQ(set.currentIndex().row(), 1) << "on to the next";
    QTest::keyClick(&set, Qt::Key_S); // typing opens the field
    auto* editor = set.findChild<QLineEdit*>(QStringLiteral("finding"));
    ASSERT_NE(editor, nullptr);
    editor->setText(QStringLiteral("stiff to port"));
    QTest::keyClick(editor, Qt::Key_Return);
    test::settle();
    EXPECT_TRUE(defects().contains(QStringLiteral("stiff to port")));
    set.setCurrentIndex(set.model()->index(1, 0));
    QTest::keyClick(&set, Qt::Key_Delete);
    EXPECT_FALSE(document().sortie().walk.found.contains("cockpit/controls-and-locks"));
    EXPECT_TRUE(defects().contains(QStringLiteral("Nothing so far")));
}

TEST_F(GroundPages, DownOnTheLastThingGoesToTheNextStationAndAClickToAny) {
    auto& set = rows("set");
    set.setFocus();
    set.setCurrentIndex(set.model()->index(set.model()->rowCount() - 1, 0));
    QTest::keyClick(&set, Qt::Key_Down);
    EXPECT_EQ(on<app::WalkRoundView>().selected(), 1);
    QTest::keyClick(&set, Qt::Key_Up);
    EXPECT_EQ(on<app::WalkRoundView>().selected(), 0);
    EXPECT_EQ(set.currentIndex().row(), set.model()->rowCount() - 1);
    auto& walk = on<app::WalkRoundView>();
    QTest::mouseClick(&walk, Qt::LeftButton, {}, walk.markOf(5).toPoint());
    EXPECT_EQ(walk.selected(), 5);
    EXPECT_GE(rowOf("Tail wheel tyre"), 0);
}

TEST_F(GroundPages, TheAttitudeMovesWhatTheGaugesShouldShow) {
    const auto fuel = [&] { return shown(*window->page().findChild<app::RowView*>(QStringLiteral("ground-fuel"))); };
    const QString tailDown = fuel();
    type("attitude", QStringLiteral("0"));
    EXPECT_NE(fuel(), tailDown);
    EXPECT_EQ(document().sortie().walk.attitude, 0.0);
}

TEST_F(GroundPages, TheWalkIsSavedAndReadAgain) {
    go(3);
    typeReading("Tyre, starboard", QStringLiteral("55"));
    QTest::keyClick(window.get(), Qt::Key_S, Qt::ControlModifier);
    ASSERT_TRUE(contents(lorimer()).contains("\"stbd-leg/tyre\" = \"55 lbf/in²\""));
    ASSERT_TRUE(window->openPath(lorimer()));
    EXPECT_EQ(document().sortie().walk.found.at("stbd-leg/tyre"), "55 lbf/in²");
}

TEST_F(GroundPages, TheStartHasItsPagesByKeyAndByChoice) {
    window->showPhase(Phase::start);
    auto& page = window->page();
    EXPECT_TRUE(rows("set").isVisible());
    QTest::keyClick(window.get(), Qt::Key_Space, Qt::ControlModifier);
    EXPECT_EQ(page.pageKey(), "priming");
    EXPECT_TRUE(on<app::PhaseChart>("dose-chart").isVisible());
    EXPECT_TRUE(on<app::PhaseChart>("time-chart").isVisible());
    EXPECT_TRUE(shown(rows("sequence")).contains(QStringLiteral("Floods from")));
    QTest::keyClick(window.get(), Qt::Key_Space, Qt::ControlModifier);
    EXPECT_EQ(page.pageKey(), "order");
    EXPECT_TRUE(on<app::StartTimelineView>().isVisible());
    EXPECT_TRUE(shown(rows("sequence")).contains(QStringLiteral("Booster pump")));
    QTest::keyClick(window.get(), Qt::Key_Space, Qt::ControlModifier);
    EXPECT_EQ(page.pageKey(), "levers");
    EXPECT_TRUE(on<app::LeverPanel>().isVisible());
    QTest::keyClick(window.get(), Qt::Key_Space, Qt::ControlModifier);
    EXPECT_EQ(page.pageKey(), "settings");
}

TEST_F(GroundPages, LeversShowTheCockpitBeforeAndNowAtTheMomentOfTheScore) {
    window->showPhase(Phase::climb);
    window->page().showPage("levers");
    auto& panel = on<app::LeverPanel>();
    const auto lever = [&](const char* id) {
        for (const auto& l : panel.levers())
            if (l.id == id)
                return l;
        ADD_FAILURE() << id;
        return plan::LeverState{};
    };
    EXPECT_GT(panel.levers().size(), 20u);
    EXPECT_EQ(lever("throttle").now.front().text, "39 inHg");
    EXPECT_EQ(lever("blower").now.front().text, "high") << "at the end of the climb";
    const auto& climb = document().plan()[Phase::climb];
    document().chooseMoment(climb.start + 60);
    EXPECT_EQ(lever("blower").now.front().text, "low") << "a minute into it the gear is not yet changed";
    EXPECT_EQ(lever("pump").before.front().text, "on");
    EXPECT_EQ(lever("pump").now.front().text, "off");
    EXPECT_TRUE(lever("pump").changed);
    EXPECT_FALSE(lever("wheels").changed);
    // By the keyboard from control to control, told in words.
    panel.setFocus();
    const auto first = panel.reading();
    QTest::keyClick(&panel, Qt::Key_Right);
    EXPECT_NE(panel.reading(), first);
    EXPECT_FALSE(panel.reading().isEmpty());
    for (const auto& l : panel.levers())
        EXPECT_TRUE(panel.rect().contains(panel.placeOf(l.id).toAlignedRect())) << l.id << " is drawn inside";
}

TEST_F(GroundPages, AReversedLeverSaysSo) {
    ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/thatcher-lesson.toml"))));
    window->showPhase(Phase::start);
    window->page().showPage("levers");
    auto& panel = on<app::LeverPanel>();
    const auto found = std::find_if(panel.levers().begin(), panel.levers().end(),
                                    [](const auto& l) { return l.acts == Acts::mixture; });
    ASSERT_NE(found, panel.levers().end());
    EXPECT_TRUE(found->reversed);
    EXPECT_EQ(found->more, "aft") << "rich is aft";
    for (std::size_t i = 0; i < panel.levers().size() && !panel.reading().startsWith(QStringLiteral("Mixture")); ++i)
        QTest::keyClick(&panel, Qt::Key_Right);
    EXPECT_TRUE(panel.reading().contains(QStringLiteral("the reverse of most"))) << panel.reading().toStdString();
}

TEST_F(GroundPages, HoverOnThePrimingPicturesSaysWhetherItFires) {
    window->showPhase(Phase::start);
    window->page().showPage("priming");
    test::settle();
    auto& dose = on<app::PhaseChart>("dose-chart");
    EXPECT_TRUE(dose.readOut(QPoint(dose.width() / 2, 40)).contains(QStringLiteral("fires")));
    EXPECT_TRUE(dose.readOut(QPoint(dose.width() - 14, 40)).contains(QStringLiteral("flooded")));
    auto& time = on<app::PhaseChart>("time-chart");
    EXPECT_TRUE(time.readOut(QPoint(60, 40)).contains(QStringLiteral(" s · ")));
    EXPECT_TRUE(time.readOut(QPoint(time.width() - 14, 40)).contains(QStringLiteral("too weak")));
}

TEST_F(GroundPages, ColderDayNeedsMorePrimeWhileItIsDragged) {
    window->showPhase(Phase::start);
    const double before = document().plan().prime.dose;
    window->page().showPage("priming");
    const QString title = on<app::PhaseChart>("dose-chart").title();
    type("oat", QStringLiteral("-15"));
    EXPECT_GT(document().plan().prime.dose, before);
    EXPECT_NE(on<app::PhaseChart>("dose-chart").title(), title);
}

TEST_F(GroundPages, ASchoolChangesTimelineAndCardTogether) {
    window->showPhase(Phase::start);
    auto& set = rows("set");
    const double before = document().plan().flown.start.total;
    const int row = rowOf("Prime");
    ASSERT_GE(row, 0);
    pageAs<app::SettingsPage>().chooseSchool(row, QStringLiteral("while turning"));
    EXPECT_LT(document().plan().flown.start.total, before);
    EXPECT_TRUE(shown(set).contains(QStringLiteral("as it turns")));
    EXPECT_TRUE(document().plan().startInForce.primeWhileTurning);
}

TEST_F(GroundPages, TheOrderIsChosenOnItsStep) {
    ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/mercer-frost.toml"))));
    window->showPhase(Phase::start);
    auto& set = rows("set");
    const int row = rowOf("Order");
    ASSERT_GE(row, 0);
    set.setFocus();
    set.setCurrentIndex(set.model()->index(row, 0));
    QTest::keyClick(&set, Qt::Key_Return);
    auto* menu = window->page().findChild<QMenu*>(QStringLiteral("schools"));
    ASSERT_NE(menu, nullptr);
    ASSERT_EQ(menu->actions().size(), 3) << "notes, accessory engine, away from the door";
    menu->actions()[2]->trigger();
    menu->close();
    EXPECT_EQ(document().sortie().start.order, (std::vector<std::string>{"4", "3", "2", "1"}));
    window->page().showPage("order");
    auto* orders = window->page().findChild<QLabel*>(QStringLiteral("orders"));
    EXPECT_TRUE(orders->text().contains(QStringLiteral("<b>away from the crew door first</b>")));
}

TEST_F(GroundPages, WhatDoesNotCatchIsInTheSequence) {
    ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/mercer-frost.toml"))));
    window->showPhase(Phase::start);
    window->page().showPage("order");
    test::settle();
    EXPECT_FALSE(shown(rows("sequence")).contains(QStringLiteral("No catch")));
    on<app::StartTimelineView>().failOnceMore("2");
    EXPECT_TRUE(shown(rows("sequence")).contains(QStringLiteral("No catch")));
}
} // namespace
