// SPDX-License-Identifier: GPL-3.0-or-later
// Rehearse, driven as somebody who sits there: by keys, by mouse, time, the rail, the score, and the debrief.
#include "cockpit/controls.h"
#include "files/document.h"
#include "thorough.h"
#include "window_fixture.h"
#include <QAction>
#include <QComboBox>
#include <QMenu>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <algorithm>
#include <set>

namespace {
using namespace amber;
using rehearse::Act;
using rehearse::Way;
using test::KeptWindow;
using test::settle;

class SeatPage : public KeptWindow {
protected:
    void SetUp() override {
        KeptWindow::SetUp();
        asksFile_ = frame().debriefView().askFile;
        today_ = frame().today;
        frame().beginPanel().setWay(Way::led);
    }
    void TearDown() override {
        frame().debriefView().askFile = asksFile_;
        frame().today = today_;
        KeptWindow::TearDown();
    }
    app::Seat& seat() const { return window->seat(); }
    app::SeatFrame& frame() const { return window->seatFrame(); }
    app::HandsView& hands() const { return frame().hands(); }
    const rehearse::Rehearsal& rehearsal() const { return seat().session().rehearsal(); }
    const TypeNotes& notes() const { return seat().notes(); }
    /// Sits down; time stands.
    void sit(const char* demo, Phase from, Way way = Way::alone, rehearse::Setup setup = {}) const {
        window->openPath(scratch.filePath(QStringLiteral("demo/%1.toml").arg(QLatin1String(demo))));
        window->openRehearsal();
        setup.from = from;
        setup.ice = false;
        seat().sit(std::move(setup), way);
        seat().pause(true);
        frame().showHands();
        settle();
        ASSERT_TRUE(hands().hasFocus());
    }
    void key(int k, Qt::KeyboardModifiers with = {}) const {
        QTest::keyClick(QApplication::focusWidget(), static_cast<Qt::Key>(k), with);
        settle();
    }
    std::size_t control(Acts acts) const {
        const auto* found = cockpit::acting(notes().controls, acts);
        EXPECT_NE(found, nullptr);
        return static_cast<std::size_t>(found - notes().controls.data());
    }
    void take(Acts acts) const { seat().chooseControl(control(acts)); }
    std::string position(Acts acts, std::size_t engine = 0) const {
        return rehearsal().hands().at(control(acts), engine).position;
    }
    double throttle(std::size_t engine) const { return rehearsal().hands().levers().engines[engine].throttle.value; }
    template <class W>
    W& in(const char* name) const {
        auto* found = frame().findChild<W*>(QLatin1String(name));
        if (!found)
            throw std::runtime_error(name);
        return *found;
    }

private:
    decltype(app::DebriefView::askFile) asksFile_;
    decltype(app::SeatFrame::today) today_;
};

TEST_F(SeatPage, WhoSitsDownAgainToTheSameSortieIsNotShownItAnew) {
    rehearse::Setup setup;
    setup.from = Phase::walkRound;
    seat().sit(setup, rehearse::Way::led);
    const auto shown = seat().session().reference();
    seat().leave();
    setup.from = Phase::start;
    seat().sit(setup, rehearse::Way::alone);
    EXPECT_EQ(seat().session().reference(), shown) << "the hand flies the same, however one begins";
    seat().leave();
    Sortie warmer = document().sortie();
    warmer.day.oat = Temperature::si(warmer.day.oat.si() + 5.0);
    ASSERT_EQ(document().edit(warmer, QStringLiteral("warmer")), QString());
    seat().sit(setup, rehearse::Way::alone);
    EXPECT_NE(seat().session().reference(), shown);
    EXPECT_NE(seat().session().reference()->fuel, shown->fuel) << "another day, another flight";
}

TEST_F(SeatPage, TheModeIsOneKeyAwayAndThePlanIsFrozenWhileSomebodySitsThere) {
    ASSERT_TRUE(window->openPath(farrier()));
    auto& plan = *window->findChild<QToolButton*>(QStringLiteral("mode-plan"));
    auto& rehearse = *window->findChild<QToolButton*>(QStringLiteral("mode-rehearse"));
    EXPECT_TRUE(plan.isChecked());
    window->showPhase(Phase::climb);
    key(Qt::Key_F7);
    EXPECT_TRUE(rehearse.isChecked());
    EXPECT_FALSE(seat().isTaken()) << "first it asks how";
    EXPECT_EQ(in<QComboBox>("begin-from").currentText(), QStringLiteral("Climb")) << "where one was";
    EXPECT_TRUE(field("oat")->isEnabled());
    key(Qt::Key_Space); // Begin has the focus
    ASSERT_TRUE(seat().isTaken());
    seat().pause(true);
    EXPECT_EQ(rehearsal().phase(), Phase::climb);
    EXPECT_EQ(seat().session().way(), Way::led);
    EXPECT_FALSE(field("oat")->isEnabled());
    const auto before = document().sortie();

    // Nothing has been done: it is left without a word. Then with one.
    key(Qt::Key_F6);
    EXPECT_FALSE(seat().isTaken());
    EXPECT_EQ(leaveAsked, 0);
    EXPECT_TRUE(plan.isChecked());
    EXPECT_TRUE(field("oat")->isEnabled());
    sit("farrier-summer", Phase::climb, Way::led);
    seat().putAsPlanned();
    mayLeaveRehearsal = false;
    rehearse.click();
    plan.click();
    EXPECT_EQ(leaveAsked, 1);
    EXPECT_TRUE(seat().isTaken());
    EXPECT_TRUE(rehearse.isChecked()) << "and the switch says so";
    EXPECT_FALSE(window->openPath(lorimer())) << "another sortie would end it too";
    EXPECT_TRUE(seat().isTaken());
    mayLeaveRehearsal = true;
    EXPECT_TRUE(window->openPath(lorimer()));
    EXPECT_FALSE(seat().isTaken());
    EXPECT_FALSE(window->score().tracing());
    // And begun again by two keys.
    key(Qt::Key_F6);
    key(Qt::Key_F7);
    key(Qt::Key_Space);
    EXPECT_TRUE(seat().isTaken());
}

TEST_F(SeatPage, LettersTakeControlsNumbersEnginesAndArrowsMoveThem) {
    sit("mercer-frost", Phase::walkRound);
    key(Qt::Key_T);
    EXPECT_EQ(seat().control(), control(Acts::throttle));
    key(Qt::Key_P);
    EXPECT_EQ(seat().control(), control(Acts::propeller));
    key(Qt::Key_M);
    EXPECT_EQ(seat().control(), control(Acts::mixture));
    // Every control has a letter; pressed again it goes on to the next that shares it.
    for (std::size_t i = 0; i < notes().controls.size(); ++i) {
        bool reached = false;
        for (std::size_t press = 0; press < notes().controls.size() && !reached; ++press) {
            key(hands().letterOf(i).unicode());
            reached = seat().control() == i;
        }
        EXPECT_TRUE(reached) << notes().controls[i].name;
    }
    take(Acts::throttle);
    Act half;
    half.control = control(Acts::throttle);
    half.share = 0.5;
    seat().put(half);
    key(Qt::Key_3);
    EXPECT_EQ(seat().engines(), std::vector<std::size_t>{2});
    key(Qt::Key_Up);
    EXPECT_NEAR(throttle(2), 0.52, 0.003);
    EXPECT_NEAR(throttle(1), 0.50, 0.003) << "the others stay";
    key(Qt::Key_Down, Qt::ShiftModifier);
    EXPECT_NEAR(throttle(2), 0.515, 0.003) << "finely";
    key(Qt::Key_PageUp);
    EXPECT_NEAR(throttle(2), 0.615, 0.003);
    key(Qt::Key_0);
    EXPECT_EQ(seat().engines().size(), 4u);
    key(Qt::Key_Up);
    EXPECT_NEAR(throttle(2) - throttle(1), 0.115, 0.006) << "moved together they keep apart";
    EXPECT_TRUE(hands().reading().contains(QStringLiteral("All engines"))) << hands().reading().toStdString();
    const auto rpm = rehearsal().hands().levers().engines[0].rpm;
    take(Acts::propeller);
    key(Qt::Key_Down);
    EXPECT_NEAR((rpm - rehearsal().hands().levers().engines[0].rpm) * 60, 50, 6) << "rpm";
    take(Acts::coolingFlap);
    const double flap = rehearsal().hands().levers().engines[0].coolingFlap;
    key(Qt::Key_Up);
    EXPECT_GT(rehearsal().hands().levers().engines[0].coolingFlap, std::min(0.99, flap + 0.01));
}

TEST_F(SeatPage, AFigureIsTypedInTheCockpitsUnitsAndNonsenseIsRefused) {
    sit("lorimer-spring", Phase::climb);
    key(Qt::Key_T);
    key(Qt::Key_Equal);
    ASSERT_TRUE(hands().figure()->hasFocus());
    QTest::keyClicks(hands().figure(), QStringLiteral("36"));
    QTest::keyClick(hands().figure(), Qt::Key_Return);
    settle();
    EXPECT_NEAR(throttle(0), 36 * 3386.39, 20) << "Pa";
    EXPECT_NEAR(throttle(1), 36 * 3386.39, 20);
    EXPECT_TRUE(hands().hasFocus());
    const auto acts = rehearsal().acts().size();
    for (const char* wrong : {"high", "-5", "4000", ""}) {
        key(Qt::Key_Equal);
        QTest::keyClicks(hands().figure(), QString::fromLatin1(wrong));
        QTest::keyClick(hands().figure(), Qt::Key_Return);
        settle();
        EXPECT_EQ(rehearsal().acts().size(), acts) << wrong;
        EXPECT_FALSE(window->message().isEmpty()) << wrong;
        EXPECT_TRUE(hands().figure()->hasFocus()) << wrong << ": to be mended";
        key(Qt::Key_Escape);
    }
    key(Qt::Key_P);
    key(Qt::Key_Equal);
    QTest::keyClicks(hands().figure(), QStringLiteral("2200"));
    QTest::keyClick(hands().figure(), Qt::Key_Return);
    settle();
    EXPECT_NEAR(rehearsal().hands().levers().engines[0].rpm * 60, 2200, 0.5);
}

TEST_F(SeatPage, SpaceWorksSwitchesStrokesThePrimerAndHoldsWhatMustBeHeld) {
    sit("farrier-summer", Phase::walkRound);
    take(Acts::battery);
    key(Qt::Key_Space);
    EXPECT_EQ(position(Acts::battery), "on");
    key(Qt::Key_Space);
    EXPECT_EQ(position(Acts::battery), "off");
    // The booster coil is a push: on while the key is down, whatever repeats.
    take(Acts::boosterCoil);
    QTest::keyPress(&hands(), Qt::Key_Space);
    EXPECT_EQ(position(Acts::boosterCoil), "on");
    EXPECT_TRUE(rehearsal().hands().levers().engines[0].boosterCoil);
    QTest::keyRelease(&hands(), Qt::Key_Space);
    EXPECT_EQ(position(Acts::boosterCoil), "off");
    QTest::keyPress(&hands(), Qt::Key_Space);
    window->rail().setFocus(); // a hand that is taken away holds nothing
    settle();
    EXPECT_EQ(position(Acts::boosterCoil), "off");
    hands().setFocus();
    // The primer is unlocked first; then each stroke is a dose.
    take(Acts::primer);
    key(Qt::Key_Space);
    EXPECT_EQ(position(Acts::primer), "unlocked");
    key(Qt::Key_Space);
    key(Qt::Key_Space);
    EXPECT_EQ(rehearsal().acts().back().strokes, 1.0);
    EXPECT_EQ(position(Acts::primer), "unlocked") << "strokes leave it where it is";
}

TEST_F(SeatPage, WhoIsChallengedIsNotToldWhereItShouldStandUntilItIsAnsweredWrongly) {
    sit("farrier-summer", Phase::walkRound, Way::challenged);
    seat().toNextAct();
    settle();
    // On to an item that does not stand as it should yet.
    for (int i = 0;
         i < 30 && (!seat().session().guide().challenges() || seat().session().guide().wanting(rehearsal()).empty());
         ++i) {
        ASSERT_TRUE(seat().session().guide().next());
        if (seat().session().guide().next()->begins) {
            key(Qt::Key_PageDown, Qt::ControlModifier);
        } else if (seat().session().guide().challenges()) {
            key(Qt::Key_Return); // it stands so already: looked at, and answered
        } else {
            seat().toNextAct();
            settle();
        }
    }
    ASSERT_TRUE(seat().session().guide().challenges());
    const auto ask = *seat().session().guide().next();
    const std::size_t control = ask.puts.front().control;
    const QString item = QString::fromStdString(rehearse::challenge(ask, notes()));
    const QString wanted = QString::fromStdString(rehearse::whereTo(rehearse::actOf(ask.puts.front()), notes()));
    const QString before = hands().valueOf(control);
    ASSERT_NE(before, wanted);
    EXPECT_TRUE(frame().asked().contains(item + QLatin1Char('?'))) << frame().asked().toStdString();
    EXPECT_FALSE(frame().asked().contains(wanted)) << frame().asked().toStdString();
    // Home and the mark tell nothing, and an answer from habit is heard.
    key(Qt::Key_Home);
    EXPECT_FALSE(window->message().isEmpty());
    const auto answered = seat().session().guide().answered().size();
    key(Qt::Key_Return);
    EXPECT_EQ(seat().session().guide().answered().size(), answered + 1);
    EXPECT_EQ(hands().valueOf(control), before) << "an answer moves nothing";
    EXPECT_TRUE(frame().asked().contains(wanted)) << frame().asked().toStdString();
    EXPECT_TRUE(
        frame().saidAndDone().contains(item + QStringLiteral("? ") + before + QStringLiteral(": no, ") + wanted))
        << frame().saidAndDone().toStdString();
    // Put there and answered: the next item.
    ASSERT_TRUE(seat().session().doNext());
    key(Qt::Key_Return);
    EXPECT_TRUE(seat().session().guide().answered().back().right);
    EXPECT_TRUE(frame().saidAndDone().contains(item + QStringLiteral("? ") + wanted));
    // One step back it is challenged again.
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(seat().session().guide().challenges());
    EXPECT_EQ(QString::fromStdString(rehearse::challenge(*seat().session().guide().next(), notes())), item);
}

TEST_F(SeatPage, TwoAtTheKeyboardHaveTheirOwnKeysAndControlsAndHoldAtOnce) {
    // A cockpit in which both have something to hold: the engineer has the fire bottles.
    QFile file(scratch.filePath(QStringLiteral("notes/mercer-m6.toml")));
    ASSERT_TRUE(file.open(QIODevice::ReadWrite));
    QByteArray text = file.readAll();
    const QByteArray wheels = R"(  { id = "wheels", who = "second pilot" },)";
    ASSERT_EQ(text.count(wheels), 1);
    const QByteArray as = text;
    text.replace(wheels, wheels + "\n  { id = \"fire-bottle\", who = \"engineer\" },");
    file.resize(0);
    file.seek(0);
    file.write(text);
    file.close();
    sit("mercer-frost", Phase::walkRound);
    ASSERT_TRUE(file.open(QIODevice::WriteOnly | QIODevice::Truncate)); // for the tests that come after
    file.write(as);
    file.close();
    rehearse::Setup setup;
    setup.ice = false;
    seat().sit(setup, Way::challenged, {}, true);
    seat().pause(true);
    frame().showHands();
    settle();
    const auto first = [&](std::size_t pair, ControlKind kind) {
        std::size_t i = 0;
        while (i < notes().controls.size() && (seat().pairOf(i) != pair || notes().controls[i].kind != kind))
            ++i;
        return i;
    };
    const std::size_t mine = first(0, ControlKind::push), theirs = first(1, ControlKind::push);
    ASSERT_LT(mine, notes().controls.size());
    ASSERT_LT(theirs, notes().controls.size());
    const auto goTo = [&](std::size_t control, int key) {
        for (std::size_t i = 0; i < notes().controls.size() && seat().controlOf(seat().pairOf(control)) != control;
             ++i) {
            QTest::keyClick(&hands(), static_cast<Qt::Key>(key));
            EXPECT_EQ(seat().pairOf(seat().controlOf(0)), 0u) << "each stays with what is theirs";
            EXPECT_EQ(seat().pairOf(seat().controlOf(1)), 1u);
        }
        EXPECT_EQ(seat().controlOf(seat().pairOf(control)), control);
    };
    goTo(mine, Qt::Key_Right);
    const std::size_t there = seat().controlOf(0);
    goTo(theirs, Qt::Key_D);
    EXPECT_EQ(seat().controlOf(0), there) << "one does not move the other's hand";
    const auto held = [&](std::size_t control) {
        return rehearsal().hands().at(control, 0).position == notes().controls[control].positions[1].is;
    };
    QTest::keyPress(&hands(), Qt::Key_Space);
    QTest::keyPress(&hands(), Qt::Key_E);
    EXPECT_TRUE(held(mine) && held(theirs)) << "at once";
    QTest::keyRelease(&hands(), Qt::Key_Space);
    EXPECT_FALSE(held(mine));
    EXPECT_TRUE(held(theirs)) << "of the other nothing is let go";
    QTest::keyRelease(&hands(), Qt::Key_E);
    EXPECT_FALSE(held(theirs));
    QTest::keyPress(&hands(), Qt::Key_E);
    QTest::keyPress(&hands(), Qt::Key_Space);
    window->rail().setFocus();
    settle();
    EXPECT_FALSE(held(mine) || held(theirs));
    hands().setFocus();
    // Engines are each one's own too: Q goes on from all to the first.
    key(Qt::Key_2);
    EXPECT_EQ(seat().enginesOf(0), std::vector<std::size_t>{1});
    EXPECT_EQ(seat().enginesOf(1).size(), notes().engineCount());
    key(Qt::Key_Q);
    EXPECT_EQ(seat().enginesOf(1), std::vector<std::size_t>{0});
    EXPECT_EQ(seat().enginesOf(0), std::vector<std::size_t>{1});
    for (std::size_t i = 0; i < notes().engineCount(); ++i)
        key(Qt::Key_Q);
    EXPECT_EQ(seat().enginesOf(1).size(), notes().engineCount());
    // A control under the mouse is its owner's.
    QTest::mouseClick(&hands(), Qt::LeftButton, {}, hands().placeOf(there).center().toPoint() - QPoint(30, 0));
    EXPECT_EQ(seat().pair(), 0u);
    // An item is answered by who works it: the other's key says so and answers nothing.
    for (int i = 0; i < 200; ++i) {
        const auto& guide = seat().session().guide();
        if (guide.challenges() && seat().pairOf(guide.next()->puts.front().control) == 1)
            break;
        if (guide.challenges()) {
            seat().session().doNext();
            key(Qt::Key_Return);
        } else if (guide.next() && guide.next()->begins) {
            key(Qt::Key_PageDown, Qt::ControlModifier);
        } else {
            seat().toNextAct();
            settle();
        }
    }
    ASSERT_TRUE(seat().session().guide().challenges());
    EXPECT_TRUE(frame().asked().contains(QStringLiteral("(R)"))) << frame().asked().toStdString();
    seat().session().doNext();
    const auto answered = seat().session().guide().answered().size();
    key(Qt::Key_Return);
    EXPECT_EQ(seat().session().guide().answered().size(), answered);
    EXPECT_TRUE(window->message().contains(QStringLiteral("answers for this"))) << window->message().toStdString();
    key(Qt::Key_R);
    ASSERT_EQ(seat().session().guide().answered().size(), answered + 1);
    EXPECT_TRUE(seat().session().guide().answered().back().right);
}

TEST_F(SeatPage, TwoMaySitWhereTheNotesHaveMoreThanOneWhoWorksControls) {
    ASSERT_TRUE(window->openPath(scratch.filePath(QStringLiteral("demo/mercer-frost.toml"))));
    window->openRehearsal();
    auto& two = in<QCheckBox>("begin-two");
    EXPECT_TRUE(two.isEnabled());
    EXPECT_FALSE(two.isChecked());
    EXPECT_FALSE(in<QLabel>("begin-keys").text().contains(QStringLiteral("A D W S")));
    two.click();
    EXPECT_TRUE(in<QLabel>("begin-keys").text().contains(QStringLiteral("A D W S")));
    frame().beginPanel().setWay(Way::challenged);
    in<QPushButton>("begin-go").click();
    ASSERT_TRUE(seat().isTaken());
    seat().pause(true);
    EXPECT_TRUE(seat().areTwo());
    EXPECT_EQ(seat().session().way(), Way::challenged);
}

TEST_F(SeatPage, LeversAreDraggedSwitchesClickedAndTheWheelMovesWhatItIsOver) {
    sit("mercer-frost", Phase::walkRound);
    const std::size_t c = control(Acts::throttle);
    Act quarter;
    quarter.control = c;
    quarter.share = 0.25;
    seat().put(quarter);
    settle();
    const QPointF from = hands().knobOf(c, 0).center();
    quarter.share = 0.75;
    seat().put(quarter);
    const QPointF to = hands().knobOf(c, 0).center();
    quarter.share = 0.25;
    seat().put(quarter);
    EXPECT_LT(to.y(), from.y() - 20) << "open is up";
    QTest::mousePress(&hands(), Qt::LeftButton, {}, from.toPoint());
    QTest::mouseMove(&hands(), to.toPoint());
    QTest::mouseRelease(&hands(), Qt::LeftButton, {}, to.toPoint());
    for (std::size_t e = 0; e < 4; ++e)
        EXPECT_NEAR(throttle(e), 0.75, 0.02) << e;
    // With Shift only the lever that is under the hand.
    const QPointF second = hands().knobOf(c, 1).center();
    QTest::mousePress(&hands(), Qt::LeftButton, Qt::ShiftModifier, second.toPoint());
    QTest::mouseMove(&hands(), QPointF(second.x(), from.y()).toPoint());
    QTest::mouseRelease(&hands(), Qt::LeftButton, {}, QPointF(second.x(), from.y()).toPoint());
    EXPECT_NEAR(throttle(1), 0.25, 0.02);
    EXPECT_NEAR(throttle(0), 0.75, 0.02);
    key(Qt::Key_0);
    const std::size_t pump = control(Acts::pump);
    const QString before = hands().valueOf(pump);
    const QRectF line = hands().placeOf(pump);
    QTest::mouseClick(&hands(), Qt::LeftButton, {},
                      QPoint(static_cast<int>(line.right()) - 10, line.center().toPoint().y()));
    settle();
    EXPECT_NE(hands().valueOf(pump), before);
    EXPECT_EQ(seat().control(), pump);
}

TEST_F(SeatPage, TimeRunsByKeysGoesBackAndBeforeTheLastAct) {
    sit("farrier-summer", Phase::cruise);
    key(Qt::Key_Period);
    EXPECT_EQ(seat().session().speed(), 1);
    key(Qt::Key_Period);
    EXPECT_EQ(seat().session().speed(), 5);
    EXPECT_TRUE(in<QToolButton>("seat-speed-5").isChecked());
    key(Qt::Key_Comma);
    key(Qt::Key_Escape);
    EXPECT_EQ(seat().session().speed(), 0);
    EXPECT_TRUE(in<QToolButton>("seat-speed-0").isChecked());
    seat().session().setSpeed(60);
    for (int i = 0; i < 4; ++i)
        seat().live(0.25);
    seat().setSpeed(0);
    const auto now = rehearsal().now();
    EXPECT_GE(now, 60'000);
    key(Qt::Key_Backspace);
    EXPECT_EQ(rehearsal().now(), now - 10'000);
    take(Acts::mixture);
    const std::string was = position(Acts::mixture);
    key(Qt::Key_Down);
    if (position(Acts::mixture) == was) // at its end: the other way
        key(Qt::Key_Up);
    EXPECT_NE(position(Acts::mixture), was);
    seat().session().setSpeed(1);
    seat().live(0.2);
    seat().setSpeed(0);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(position(Acts::mixture), was);
    EXPECT_EQ(rehearsal().now(), now - 10'000);
    EXPECT_FALSE(document().isModified()) << "the sortie was not touched";
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(window->message().contains(QStringLiteral("Nothing has been done"))) << window->message().toStdString();
}

TEST_F(SeatPage, TheRailBeginsTheNextPhaseGoesBackToAnEarlierAndSkipsNone) {
    sit("farrier-summer", Phase::climb);
    EXPECT_EQ(window->rail().selected(), Phase::climb);
    seat().session().setSpeed(60);
    seat().live(0.25);
    seat().setSpeed(0);
    window->rail().select(Phase::landing);
    settle();
    EXPECT_EQ(rehearsal().phase(), Phase::climb);
    EXPECT_EQ(window->rail().selected(), Phase::climb);
    EXPECT_TRUE(window->message().contains(QStringLiteral("Cruise comes next"))) << window->message().toStdString();
    window->rail().select(Phase::cruise);
    settle();
    EXPECT_EQ(rehearsal().phase(), Phase::cruise);
    EXPECT_TRUE(in<QLabel>("seat-title").text() == QStringLiteral("Cruise"));
    key(Qt::Key_PageDown, Qt::ControlModifier);
    EXPECT_EQ(rehearsal().phase(), Phase::letDown);
    window->rail().select(Phase::climb);
    settle();
    EXPECT_EQ(rehearsal().phase(), Phase::climb);
    EXPECT_EQ(rehearsal().now(), 0);
}

TEST_F(SeatPage, TheScoreDrawsTheTraceAndAClickOnWhatHasBeenGoesBackToIt) {
    sit("farrier-summer", Phase::climb);
    seat().session().setSpeed(60);
    for (int i = 0; i < 16; ++i)
        seat().live(0.25);
    seat().setSpeed(0);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->score().traceLength() == rehearsal().trace().size(); }));
    const double began = seat().session().planTime(0), now = seat().session().planTime(rehearsal().now());
    const auto at = [&](double t) { return QPoint(static_cast<int>(window->score().xOf(t)), 80); };
    QTest::mouseClick(&window->score(), Qt::LeftButton, {}, at(0.5 * (began + now)));
    settle();
    EXPECT_NEAR(seat().session().planTime(rehearsal().now()), 0.5 * (began + now), 25.0);
    EXPECT_EQ(window->score().traceLength(), rehearsal().trace().size()) << "what was after it is gone";
    const auto stands = rehearsal().now();
    QTest::mouseClick(&window->score(), Qt::LeftButton, {}, at(now + 1200));
    settle();
    EXPECT_EQ(rehearsal().now(), stands) << "what has not been is not gone to";
}

TEST_F(SeatPage, AFaultIsCalledByItsNameAndTheDebriefTellsIt) {
    rehearse::Setup setup;
    setup.traps.push_back({powerplant::Fault::oilPump, 1.0, 1, {}, 2.0, 2.0, 1.0});
    sit("lorimer-spring", Phase::cruise, Way::alone, setup);
    EXPECT_TRUE(frame().asked().contains(QStringLiteral("Nothing is said"))) << frame().asked().toStdString();
    seat().session().setSpeed(1);
    for (int i = 0; i < 40; ++i)
        seat().live(0.25);
    seat().setSpeed(0);
    EXPECT_FALSE(frame().saidAndDone().contains(QStringLiteral("il pressure"))) << "nothing is said to who is alone";
    const auto needles = frame().needles().lines();
    const auto oil =
        std::find_if(needles.begin(), needles.end(), [](const auto& line) { return line.gauge == Gauge::oilPressure; });
    ASSERT_NE(oil, needles.end());
    EXPECT_EQ(oil->worst, watch::Colour::red);
    EXPECT_TRUE(oil->value.startsWith(QStringLiteral("2: "))) << "the odd one out: " << oil->value.toStdString();
    key(Qt::Key_2);
    key(Qt::Key_F4);
    auto* menu = frame().findChild<QMenu*>(QStringLiteral("seat-call-menu"));
    ASSERT_NE(menu, nullptr);
    QAction* pump = nullptr;
    for (auto* action : menu->actions())
        if (action->text() == QStringLiteral("Oil pump failed"))
            pump = action;
    ASSERT_NE(pump, nullptr);
    pump->trigger();
    menu->close();
    settle();
    EXPECT_EQ(rehearsal().acts().back().kind, Act::Kind::call);
    EXPECT_EQ(rehearsal().acts().back().engine, 1);
    key(Qt::Key_F5);
    const QString said = frame().debriefView().text();
    EXPECT_TRUE(said.contains(QRegularExpression(QStringLiteral("Oil pump failed, recognised after [78] s"))))
        << said.toStdString();
    EXPECT_LT(said.indexOf(QStringLiteral("People")), said.indexOf(QStringLiteral("Engines")));
    EXPECT_TRUE(said.contains(QStringLiteral("instructor"))) << "the caution stands where it is read";
    EXPECT_EQ(seat().session().speed(), 0) << "time stands while it is read";
}

TEST_F(SeatPage, WhatItCameToLeadsTheDebriefAndWhatWouldHaveHelpedIsFlownBesideIt) {
    sit("farrier-summer", Phase::cruise);
    seat().live(0.0);
    Act shut;
    shut.control = control(Acts::fuel);
    shut.to.kind = Target::Kind::position;
    shut.to.word = "off";
    seat().setSpeed(60);
    for (int i = 0; i < 100; ++i) // a while of cruise first
        seat().live(0.25);
    seat().put(shut);
    for (int i = 0; i < 4'000 && !rehearsal().over(); ++i)
        seat().live(0.25);
    ASSERT_TRUE(rehearsal().over()) << "without fuel it comes down";
    const auto end = rehearsal().now();
    seat().live(10.0);
    EXPECT_EQ(rehearsal().now(), end);
    frame().showHands();
    settle();
    EXPECT_FALSE(seat().session().doNext()) << "nothing can be done any more";
    frame().showDebrief();
    EXPECT_TRUE(frame().debriefView().text().contains(QStringLiteral("The aircraft hit the ground in the Cruise")))
        << frame().debriefView().text().toStdString();
    EXPECT_LT(frame().debriefView().text().indexOf(QStringLiteral("What it came to")),
              frame().debriefView().text().indexOf(QStringLiteral("People")));
    EXPECT_FALSE(frame().debriefView().text().contains(QStringLiteral("Nothing to mend")));
    ASSERT_TRUE(QTest::qWaitFor([&] { return frame().debriefView().isCounted(); }, 60'000));
    EXPECT_TRUE(frame().debriefView().text().contains(QStringLiteral("With Fuel cock to")))
        << frame().debriefView().text().toStdString();
    // Left while it is being flown, and sat down to again: nothing hangs, nothing is told of another rehearsal.
    frame().showDebrief();
    seat().leave();
    sit("farrier-summer", Phase::cruise);
    frame().showDebrief();
    EXPECT_FALSE(frame().debriefView().text().contains(QStringLiteral("hit the ground")));
}

TEST_F(SeatPage, TheDebriefIsPrintedAndItsActsAreReadAgain) {
    sit("farrier-summer", Phase::climb, Way::led);
    while (seat().session().doNext())
        ;
    seat().session().setSpeed(5);
    seat().live(0.25);
    frame().showDebrief();
    const QString pdf = scratch.filePath(QStringLiteral("d.pdf")), acts = scratch.filePath(QStringLiteral("a.csv"));
    frame().debriefView().askFile = [&](const QString&, const QString&, const QString& filter) {
        return filter.contains(QStringLiteral("pdf")) ? pdf : acts;
    };
    in<QPushButton>("debrief-pdf").click();
    in<QPushButton>("debrief-acts").click();
    EXPECT_TRUE(contents(pdf).startsWith("%PDF-"));
    EXPECT_GT(contents(pdf).size(), 5'000);
    Problems problems;
    const auto read = rehearse::readActs(contents(acts).toStdString(), "a.csv", notes(), problems);
    ASSERT_TRUE(read) << (problems.empty() ? "" : problems.front().text());
    EXPECT_EQ(read->size(), rehearsal().acts().size());
    frame().debriefView().askFile = [&](const QString&, const QString&, const QString&) {
        return scratch.filePath(QStringLiteral("no/where/a.csv"));
    };
    in<QPushButton>("debrief-acts").click();
    EXPECT_FALSE(window->message().isEmpty()) << "what cannot be written is told";
    in<QPushButton>("debrief-back").click();
    settle();
    EXPECT_TRUE(hands().isVisible());
}

TEST_F(SeatPage, AnInstructorsFileIsTakenAndAWrongOneTellsItsLine) {
    window->openRehearsal();
    auto& begin = frame().beginPanel();
    EXPECT_TRUE(
        begin.takeSetup(QString::fromStdString(test::dataFolder() + "/rehearsals/oil-pressure-alone.toml")).empty());
    EXPECT_EQ(begin.setup().from, Phase::cruise);
    EXPECT_EQ(begin.setup().traps.size(), 2u);
    EXPECT_TRUE(in<QLabel>("begin-faults-said").text().contains(QStringLiteral("Oil pressure falls alone")));
    const QString far = scratch.filePath(QStringLiteral("far.toml"));
    write(far, contents(QString::fromStdString(test::dataFolder() + "/rehearsals/oil-pressure-alone.toml"))
                   .replace("seed = 1", "seed = 5000000000"));
    EXPECT_TRUE(begin.takeSetup(far).empty());
    EXPECT_EQ(begin.setup().seed, 5'000'000'000u) << "longer than the field shows, and kept";
    const QString wrong = scratch.filePath(QStringLiteral("wrong.toml"));
    write(wrong, "format = 1\n\n[rehearsal]\ntitle = \"x\"\nfrom = \"the moon\"\n");
    const auto problems = begin.takeSetup(wrong);
    ASSERT_FALSE(problems.empty());
    EXPECT_NE(problems.front().text().find(":5"), std::string::npos) << problems.front().text();
    EXPECT_EQ(begin.setup().traps.size(), 2u) << "the one taken before stays";
}

TEST_F(SeatPage, WhoIsNotLedIsToldNeitherTheDrillsMarkNorWhenSomethingIsDue) {
    for (const Way way : {Way::alone, Way::examined}) {
        sit("farrier-summer", Phase::climb, way);
        take(Acts::throttle);
        const auto state = rehearsal().state();
        const auto at = throttle(0);
        key(Qt::Key_Return);
        EXPECT_EQ(throttle(0), at);
        EXPECT_TRUE(rehearsal().acts().empty());
        EXPECT_TRUE(window->message().contains(QStringLiteral("guided"))) << window->message().toStdString();
        key(Qt::Key_F8);
        EXPECT_TRUE(rehearsal().state() == state) << "time stands where it stood";
        EXPECT_TRUE(window->message().contains(QStringLiteral("guided"))) << window->message().toStdString();
        EXPECT_FALSE(in<QToolButton>("seat-next").isVisible());
        window->closeRehearsal();
    }
    sit("farrier-summer", Phase::climb, Way::led);
    EXPECT_TRUE(in<QToolButton>("seat-next").isVisible());
}

TEST_F(SeatPage, LedByKeysAloneTheWholeStartIsDone) {
    sit("farrier-summer", Phase::walkRound, Way::led);
    int acts = 0;
    while (rehearsal().phase() < Phase::warmUp && acts < 100) {
        key(Qt::Key_F8);
        seat().setSpeed(0);
        const auto* next = seat().session().guide().next();
        ASSERT_NE(next, nullptr);
        if (next->begins) {
            key(Qt::Key_PageDown, Qt::ControlModifier);
        } else {
            EXPECT_TRUE(frame().asked().contains(QStringLiteral("Next:"))) << frame().asked().toStdString();
            key(Qt::Key_Home);
            key(Qt::Key_Return);
        }
        ++acts;
    }
    EXPECT_EQ(rehearsal().phase(), Phase::warmUp);
    EXPECT_TRUE(rehearsal().state().engines[0].firing);
    EXPECT_LT(acts, 60);
    EXPECT_FALSE(frame().clocks().isEmpty());
}

TEST_F(SeatPage, OnEveryTypeEveryControlHasItsPlaceWithinTheHands) {
    // The one with most controls, the one with least, and one between; a thorough run looks at all.
    std::vector<std::string> demos{"lorimer-spring", "tinker-damp", "thatcher-lesson"};
    if (test::thorough())
        demos = {"lorimer-spring", "mercer-frost",       "ostler-bush",    "chandler-haven",
                 "collier-high",   "wheelwright-height", "farrier-summer", "sexton-meadow",
                 "tanner-winter",  "thatcher-lesson",    "tinker-damp"};
    for (const auto& demo : demos) {
        sit(demo.c_str(), Phase::walkRound);
        QRectF all(hands().rect());
        std::vector<QRectF> places;
        for (std::size_t i = 0; i < notes().controls.size(); ++i) {
            const QRectF place = hands().placeOf(i);
            EXPECT_TRUE(all.contains(place)) << demo << " " << notes().controls[i].name;
            for (const auto& other : places)
                EXPECT_FALSE(other.adjusted(1, 1, -1, -1).intersects(place)) << demo << " " << notes().controls[i].name;
            places.push_back(place);
            EXPECT_LT(place.bottom(), hands().figure()->y()) << demo;
        }
        EXPECT_LE(hands().figure()->geometry().bottom(), hands().height()) << demo;
        seat().leave();
    }
}

TEST_F(SeatPage, WhoIsExaminedIsAskedAndNothingIsSaidUntilTheDebrief) {
    sit("farrier-summer", Phase::cruise, Way::examined);
    seat().session().setSpeed(60);
    for (int i = 0; i < 40 && !seat().session().question(); ++i)
        seat().live(0.25);
    seat().setSpeed(0);
    settle();
    ASSERT_TRUE(seat().session().question());
    ASSERT_TRUE(frame().examiner().isVisible());
    const auto& q = seat().session().questions()[*seat().session().question()];
    EXPECT_TRUE(frame().examiner().said().contains(QString::fromStdString(q.text)));
    if (q.si) {
        QTest::keyClicks(frame().examiner().field(), QStringLiteral("nothing"));
        key(Qt::Key_Return);
        EXPECT_FALSE(window->message().isEmpty());
        EXPECT_TRUE(frame().examiner().isVisible());
        frame().examiner().field()->clear();
        QTest::keyClicks(frame().examiner().field(), QString::fromStdString(rehearse::answerOf(q)));
        key(Qt::Key_Return);
    } else {
        key(Qt::Key_1 + static_cast<int>(q.right));
    }
    EXPECT_TRUE(hands().isVisible()) << "back to work";
    EXPECT_EQ(seat().session().asked().size(), 1u);
    const auto now = rehearsal().now();
    key(Qt::Key_Backspace);
    EXPECT_EQ(rehearsal().now(), now);
    EXPECT_TRUE(window->message().contains(QStringLiteral("cannot take time back")));
    key(Qt::Key_F5);
    EXPECT_TRUE(frame().debriefView().text().contains(QStringLiteral("1 of 1 questions")))
        << frame().debriefView().text().toStdString();
}

TEST_F(SeatPage, CardsAreKeptFromOneRunToTheNextAndWhatIsKnownRests) {
    window->openRehearsal();
    qint64 day = 2'460'000;
    frame().today = [&day] { return day; };
    frame().beginPanel().chooseQuestions();
    in<QPushButton>("begin-go").click();
    settle();
    ASSERT_TRUE(frame().cards().isVisible());
    EXPECT_FALSE(seat().isTaken());
    const auto all = rehearse::questionsOf(document().aircraft().notes);
    std::set<QString> seen;
    for (int i = 0; i < 6; ++i) {
        const QString text = frame().cards().findChild<QLabel*>(QStringLiteral("question-text"))->text();
        EXPECT_TRUE(seen.insert(text).second) << "what was known does not come again today: " << text.toStdString();
        const auto q =
            std::find_if(all.begin(), all.end(), [&](const auto& a) { return QString::fromStdString(a.text) == text; });
        ASSERT_NE(q, all.end());
        if (q->si) {
            QTest::keyClicks(frame().cards().field(), QString::fromStdString(rehearse::answerOf(*q)));
            key(Qt::Key_Return);
        } else
            key(Qt::Key_1 + static_cast<int>(q->right));
        EXPECT_TRUE(frame().cards().said().contains(QStringLiteral("Right."))) << frame().cards().said().toStdString();
        key(Qt::Key_Return);
    }
    EXPECT_EQ(frame().boxes().cards().size(), 6u);
    // Another window of the same user, the next day: they are due again.
    app::MainWindow other(scratch.filePath(QStringLiteral("settings.ini")), autosaves());
    ASSERT_TRUE(other.openPath(lorimer()));
    other.openRehearsal();
    other.seatFrame().today = [&day] { return day; };
    other.seatFrame().openCards();
    EXPECT_TRUE(other.seatFrame().boxes().cards() == frame().boxes().cards());
    EXPECT_EQ(other.seatFrame().boxes().dueOf(all, day), all.size() - 6);
    EXPECT_EQ(other.seatFrame().boxes().dueOf(all, day + 1), all.size());
}

TEST_F(SeatPage, PracticeFromMemoryIsLoggedByPersonAndASavedRehearsalIsDoneAgain) {
    ASSERT_TRUE(window->openPath(farrier()));
    window->openRehearsal();
    in<QComboBox>("begin-who").setEditText(QStringLiteral("Ada"));
    frame().beginPanel().setWay(Way::alone);
    in<QComboBox>("begin-from").setCurrentIndex(in<QComboBox>("begin-from").findText(QStringLiteral("Climb")));
    in<QPushButton>("begin-go").click();
    seat().setSpeed(0);
    ASSERT_TRUE(seat().isTaken());
    while (seat().session().doNext())
        ;
    seat().session().setSpeed(20);
    for (int i = 0; i < 8; ++i)
        seat().live(0.25);
    seat().setSpeed(0);
    const auto state = rehearsal().state();
    const double seconds = static_cast<double>(rehearsal().now()) / 1000.0;
    frame().showDebrief();
    EXPECT_TRUE(frame().debriefView().text().contains(QStringLiteral("Climb: 100 % lately")))
        << frame().debriefView().text().toStdString();
    const QString acts = scratch.filePath(QStringLiteral("acts.csv")),
                  trace = scratch.filePath(QStringLiteral("trace.csv"));
    file = acts;
    in<QPushButton>("debrief-acts").click();
    file = trace;
    in<QPushButton>("debrief-trace").click();
    EXPECT_EQ(contents(trace).count('\n'), static_cast<int>(seconds) + 1) << "its head, and a line a second";
    in<QPushButton>("debrief-leave").click();
    settle();
    EXPECT_FALSE(seat().isTaken());
    const QString log = scratch.filePath(QStringLiteral("practice.csv"));
    EXPECT_TRUE(contents(log).contains("\"Ada\",\"" + QByteArray::fromStdString(document().aircraft().notes.name) +
                                       "\",climb,"))
        << contents(log).toStdString();
    const auto lines = contents(log).count('\n');

    // Led is not counted; the log is whole.
    sit("farrier-summer", Phase::climb, Way::led);
    seat().session().doNext();
    window->closeRehearsal();
    EXPECT_EQ(contents(log).count('\n'), lines);

    // Done again from its file: the same state, and nobody's practice.
    window->openRehearsal();
    EXPECT_TRUE(in<QLabel>("begin-history").text().contains(QStringLiteral("Climb"))) << "Ada is remembered";
    file = acts;
    in<QPushButton>("begin-acts").click();
    settle();
    EXPECT_FALSE(frame().beginPanel().acts().empty());
    in<QComboBox>("begin-from").setCurrentIndex(in<QComboBox>("begin-from").findText(QStringLiteral("Climb")));
    in<QPushButton>("begin-go").click();
    seat().session().setSpeed(20);
    while (static_cast<double>(rehearsal().now()) / 1000.0 < seconds - 0.05)
        seat().live(0.005);
    seat().setSpeed(0);
    EXPECT_TRUE(rehearsal().state() == state);
    window->closeRehearsal();
    EXPECT_EQ(contents(log).count('\n'), lines);
    const QString wrong = scratch.filePath(QStringLiteral("wrong.csv"));
    write(wrong, "time,engine,what,to,over\n1,all,throttle,sideways,\n");
    EXPECT_FALSE(frame().beginPanel().takeActs(wrong).empty());
}

TEST_F(SeatPage, NobodyLeavesWhileTimeRunsOnToTheNextAct) {
    sit("farrier-summer", Phase::cruise, Way::led);
    while (seat().session().doNext())
        ;
    // What comes between, as a window that is closed, is turned away; then it is there.
    int turnedAway = 0;
    QTimer between;
    between.setInterval(0);
    QObject::connect(&between, &QTimer::timeout, &between, [&] {
        if (seat().isBusy()) {
            turnedAway += window->openPath(lorimer()) ? 0 : 1;
            window->closeRehearsal();
        }
    });
    between.start();
    const auto before = rehearsal().now();
    key(Qt::Key_F8);
    between.stop();
    ASSERT_TRUE(seat().isTaken());
    EXPECT_GT(turnedAway, 0);
    EXPECT_GT(rehearsal().now(), before + 60'000);
    EXPECT_FALSE(seat().isBusy());
    EXPECT_TRUE(window->openPath(lorimer()));
    EXPECT_FALSE(seat().isTaken());
}
} // namespace
