// SPDX-License-Identifier: GPL-3.0-or-later
// Somebody sits at a rehearsal: led through the drill, time standing still and taken back, clocks and what is said.
#include "cockpit/controls.h"
#include "rehearse/practice_log.h"
#include "rehearse/session.h"
#include "test_data.h"
#include "thorough.h"
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace {
using namespace amber;
using rehearse::Act;
using rehearse::DrillAct;
using rehearse::Milliseconds;
using rehearse::Session;
using rehearse::Way;

std::unique_ptr<Session> sit(const std::string& demo, Way way = Way::led, Phase from = Phase::walkRound) {
    const auto& l = test::loaded(demo);
    rehearse::Setup setup;
    setup.ice = false;
    setup.from = from;
    static std::map<std::string, std::pair<flight::Flown, std::shared_ptr<const hand::HandRun>>> shown;
    auto& [plan, reference] = shown[demo];
    if (!reference)
        plan = flight::fly(*l.aircraft, *l.sortie);
    auto out = std::make_unique<Session>(l.aircraft, *l.sortie, plan, setup, way, reference);
    reference = out->reference();
    return out;
}
std::string place(const Session& s) {
    const auto* ask = s.guide().next();
    return ask ? std::string(keyOf(ask->phase)) + "/" + ask->step + ": " + rehearse::said(*ask, s.aircraft().notes) +
                     " " + rehearse::waitsFor(*ask, s.aircraft().notes)
               : "over";
}

/// Does what is asked for whenever it is asked, waits when nothing is. @return how many acts
int led(Session& s, Phase until = Phase::stop, Milliseconds longest = 8 * 3600'000) {
    int acts = 0;
    while (s.guide().next() && s.rehearsal().now() < longest) {
        if (s.guide().next()->begins && s.guide().next()->phase > until)
            break;
        if (!s.toNextAct({}))
            break;
        const std::string was = place(s);
        if (!s.doNext())
            break;
        if (std::getenv("AMBER_LED_TOLD"))
            std::printf("%8.1f %s -> %s\n", s.rehearsal().now() / 1000.0, was.c_str(), place(s).c_str());
        if (++acts > 2000)
            break;
    }
    return acts;
}
class LedThrough : public testing::TestWithParam<std::string> {};

TEST_P(LedThrough, WhoDoesWhatIsAskedWhenItIsAskedDoesTheWholeDrillInItsTurn) {
    const auto s = sit(GetParam());
    const int acts = led(*s);
    EXPECT_EQ(s->guide().next(), nullptr) << place(*s) << " at " << s->rehearsal().now() / 1000;
    EXPECT_GT(acts, 40);
    const auto d = s->debriefed();
    for (const auto& a : d.acts)
        if (a.done != DrillAct::Done::inTurn && a.done != DrillAct::Done::stood)
            ADD_FAILURE() << "XX " << keyOf(a.phase) << " " << s->aircraft().notes.controls[a.control].id << " to "
                          << a.to << " " << static_cast<int>(a.done);
    for (const auto& e : s->rehearsal().state().engines)
        EXPECT_FALSE(e.firing);
    // Nor is the starter asked for longer than the careful hand does it.
    const auto tired = [](const std::vector<watch::Finding>& all) {
        return std::count_if(all.begin(), all.end(),
                             [](const watch::Finding& f) { return f.rule == watch::Rule::starterDuty; });
    };
    EXPECT_LE(tired(s->rehearsal().findings()),
              tired(hand::doDrill(s->aircraft(), s->sortie(), s->plan(), hand::byThePlansClock).findings));
}
/// All types where a run is thorough; else five of the eleven.
std::vector<std::string> ledTypes() {
    if (test::thorough())
        return test::demoNames();
    return {"farrier-summer", "ostler-bush", "tinker-damp", "wheelwright-height", "collier-high"};
}

INSTANTIATE_TEST_SUITE_P(Demos, LedThrough, testing::ValuesIn(ledTypes()), [](const auto& info) {
    std::string name = info.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});
} // namespace

namespace {
// ---- time

TEST(Session, TimeRunsAsFastAsIsWantedInWholeStepsAndAStallDropsRealTime) {
    const auto s = sit("farrier-summer", Way::alone);
    EXPECT_FALSE(s->live(1.0)) << "it stands until it is set going";
    s->setSpeed(1);
    s->live(0.05);
    EXPECT_EQ(s->rehearsal().now(), 0) << "half a step is no step";
    s->live(0.05);
    EXPECT_EQ(s->rehearsal().now(), 100);
    s->setSpeed(20);
    s->live(0.1);
    EXPECT_EQ(s->rehearsal().now(), 2'100);
    s->setSpeed(1);
    s->live(30.0); // the machine stood for half a minute
    EXPECT_EQ(s->rehearsal().now(), 2'300) << "a quarter of a second is made good, 200 ms of it in steps";
    EXPECT_EQ(s->rehearsal().trace().size(), 2u) << "no step was left out: one line a second";
}

TEST(Session, LedTimeStandsStillUntilTheHandHasDoneWhatIsAsked) {
    const auto s = sit("farrier-summer", Way::led);
    s->setSpeed(1);
    ASSERT_TRUE(s->standsStill());
    const auto before = s->rehearsal().state();
    EXPECT_FALSE(s->live(0.2));
    EXPECT_TRUE(s->rehearsal().state() == before) << "battery, prime and starter too";
    ASSERT_TRUE(s->doNext());
    const auto alone = sit("farrier-summer", Way::alone);
    alone->setSpeed(1);
    EXPECT_TRUE(alone->live(0.2)) << "who is alone is not waited for";
}

TEST(Session, AFaultBringsTimeBackToItsOwnSpeed) {
    const auto& l = test::loaded("farrier-summer");
    rehearse::Setup setup;
    setup.ice = false;
    setup.from = Phase::cruise;
    setup.traps.push_back({powerplant::Fault::fuelPump, 1.0, 0, {}, 30.0, 30.0, 1.0});
    Session s(l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie), setup, Way::alone);
    s.setSpeed(60);
    for (int i = 0; i < 20 && s.speed() == 60; ++i)
        s.live(0.25);
    EXPECT_EQ(s.speed(), 1);
    EXPECT_EQ(s.rehearsal().came().size(), 1u);
    EXPECT_LE(s.rehearsal().now(), 30'200) << "not a minute later";
}

TEST(Session, TimeTakenBackTakesTheGuideBackAndWhoIsExaminedCannot) {
    const auto s = sit("farrier-summer", Way::led);
    // At each moment what was asked for first, and how many acts had been done.
    std::map<Milliseconds, std::pair<std::string, std::size_t>> was;
    for (int i = 0; i < 12; ++i) {
        s->toNextAct({});
        was.try_emplace(s->rehearsal().now(), place(*s), s->rehearsal().acts().size());
        s->doNext();
    }
    ASSERT_GE(was.size(), 3u);
    for (auto at = std::next(was.rbegin()); at != was.rend(); ++at) {
        ASSERT_NE(place(*s), at->second.first);
        ASSERT_TRUE(s->back(at->first));
        EXPECT_EQ(s->rehearsal().now(), at->first);
        EXPECT_EQ(place(*s), at->second.first) << "what was done at that moment is asked for again";
        EXPECT_EQ(s->rehearsal().acts().size(), at->second.second);
    }

    const auto examined = sit("farrier-summer", Way::examined);
    examined->putAsPlanned(0, {0});
    examined->doNext();
    EXPECT_FALSE(examined->back(0));
    EXPECT_FALSE(examined->undo());
}

TEST(Session, UndoTakesBackALeverMovedLittleByLittleAtOnce) {
    const auto s = sit("farrier-summer", Way::alone, Phase::climb);
    const auto throttle = static_cast<std::size_t>(cockpit::acting(s->aircraft().notes.controls, Acts::throttle) -
                                                   s->aircraft().notes.controls.data());
    s->setSpeed(1);
    s->live(0.2);
    const auto began = s->rehearsal().now();
    const auto stood = s->rehearsal().hands().at(throttle, 0);
    for (const double share : {0.5, 0.52, 0.54, 0.56}) {
        Act act;
        act.control = throttle;
        act.share = share;
        s->put(act, {0});
        s->live(0.2);
    }
    EXPECT_EQ(s->rehearsal().acts().size(), 4u);
    EXPECT_EQ(s->saidAndDone().size(), 1u) << "told once, where it was left";
    EXPECT_NE(s->saidAndDone()[0].text.find("56 %"), std::string::npos) << s->saidAndDone()[0].text;
    ASSERT_TRUE(s->undo());
    EXPECT_EQ(s->rehearsal().now(), began);
    EXPECT_TRUE(s->rehearsal().hands().at(throttle, 0) == stood);
}

// ---- the guide

TEST(Guide, AnEngineThatDoesNotCatchInItsTimeBeginsItsStartAgain) {
    const auto s = sit("farrier-summer", Way::led);
    // Everything is done but the fuel: it cannot fire.
    const auto& n = s->aircraft().notes;
    bool inVain = false;
    for (int i = 0; i < 60 && !inVain; ++i) {
        ASSERT_TRUE(s->toNextAct({})) << place(*s);
        const auto* ask = s->guide().next();
        ASSERT_NE(ask, nullptr);
        s->doNext();
        Act off;
        off.control = static_cast<std::size_t>(cockpit::acting(n.controls, Acts::fuel) - n.controls.data());
        off.to.kind = Target::Kind::position;
        off.to.word = "off";
        if (ask->phase == Phase::start && ask->turn >= 0)
            s->put(off, {0});
        inVain = !s->guide().inVain().empty();
        if (s->guide().waits()) {
            s->toNextAct({});
            inVain = !s->guide().inVain().empty();
        }
    }
    ASSERT_TRUE(inVain) << place(*s);
    // The starter is let go and has its rest; then the engine's own line begins again.
    ASSERT_TRUE(s->toNextAct({}));
    s->doNext();
    EXPECT_TRUE(s->guide().waits());
    EXPECT_NEAR(s->guide().left(s->rehearsal()).value_or(0.0), n.start.rest.si(), 0.2);
    EXPECT_FALSE(s->rehearsal().state().engines[0].firing);
    const auto rested = s->rehearsal().now();
    Act on;
    on.control = static_cast<std::size_t>(cockpit::acting(n.controls, Acts::fuel) - n.controls.data());
    on.to.kind = Target::Kind::position;
    on.to.word = n.fuel.tanks.front().id;
    s->put(on, {0});
    ASSERT_TRUE(s->toNextAct({}));
    EXPECT_GE(static_cast<double>(s->rehearsal().now() - rested) / 1000.0, n.start.rest.si() - 0.2);
    EXPECT_EQ(s->guide().next()->phase, Phase::start);
    EXPECT_EQ(s->guide().next()->turn, 0) << place(*s);
    EXPECT_FALSE(s->guide().next()->step.empty()) << "its own line again: " << place(*s);
    led(*s, Phase::start);
    EXPECT_TRUE(s->rehearsal().state().engines[0].firing) << "with fuel it catches";
    for (const auto& f : s->rehearsal().findings())
        EXPECT_NE(f.rule, watch::Rule::starterDuty) << f.verdict.sentence();
}

TEST(Guide, AChangeOfTheClimbIsDueAtItsHeightAndATankAtItsTime) {
    const auto s = sit("lorimer-spring", Way::led, Phase::climb);
    while (s->guide().next() && !s->guide().next()->above)
        ASSERT_TRUE(s->doNext()) << place(*s);
    EXPECT_FALSE(s->guide().due());
    EXPECT_FALSE(s->doNext()) << "its moment has not come";
    ASSERT_TRUE(s->toNextAct({}));
    const auto& change = s->plan().gearChanges.front();
    EXPECT_NEAR(s->rehearsal().state().height, change.height.si(), 30.0);
    EXPECT_NE(place(*s).find("Throttle"), std::string::npos) << "boost first: " << place(*s);
}

// ---- clocks

TEST(Session, AMinuteAtTakeOffPowerIsAMinuteOfItsRatingAndPastTheLimitItIsRed) {
    const auto s = sit("lorimer-spring", Way::alone, Phase::takeOff);
    while (s->guide().next() && !s->guide().next()->above) // brakes off, throttles open
        ASSERT_TRUE(s->doNext()) << place(*s);
    s->setSpeed(1);
    const auto& n = s->aircraft().notes;
    const auto rating =
        std::find_if(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.key == "take-off"; });
    ASSERT_NE(rating, n.ratings.end());
    const double allowed = rating->minutes->si();
    for (int i = 0; i < 4 * 60; ++i)
        s->live(0.25);
    const double used = s->rehearsal().ratings().of("take-off")->used().si();
    EXPECT_NEAR(used, 60.0, 8.0) << "a few seconds until the throttles have opened";
    const auto red = [&] {
        const auto all = s->clocks();
        return std::any_of(all.begin(), all.end(),
                           [](const auto& c) { return c.verdict.colour() == watch::Colour::red; });
    };
    EXPECT_FALSE(red());
    s->setSpeed(60);
    while (s->rehearsal().now() < (allowed + 20.0) * 1000.0)
        s->live(0.25);
    EXPECT_TRUE(red());
    const auto findings = s->rehearsal().findings();
    EXPECT_TRUE(std::any_of(findings.begin(), findings.end(),
                            [](const watch::Finding& f) { return f.rule == watch::Rule::ratingTime; }));
    s->back(60'000);
    EXPECT_NEAR(s->rehearsal().ratings().of("take-off")->used().si(), used, 1.1) << "the clock goes back with the time";
}

TEST(RatingAt, IsTheLongestThatIsNotPassedAndPastAllTheStrongest) {
    std::vector<Rating> all(3);
    const auto set = [](Rating& r, const char* key, double rpm, double inHg, double minutes) {
        r.key = key;
        r.rpm = Rotation::of(rpm, units::rpm);
        r.boost = ManifoldPressure::of(inHg, units::manifold::inHg);
        if (minutes > 0)
            r.minutes = Duration::si(minutes * 60);
    };
    set(all[0], "take-off", 2700, 48, 5);
    set(all[1], "rated", 2550, 42, 30);
    set(all[2], "continuous", 2300, 36, 0);
    const auto at = [&](double rpm, double inHg) {
        return watch::ratingAt(all, rpm / 60, ManifoldPressure::of(inHg, units::manifold::inHg).si())->key;
    };
    EXPECT_EQ(at(2300, 36), "continuous");
    EXPECT_EQ(at(2305, 36.1), "continuous") << "no needle tells them apart";
    EXPECT_EQ(at(2300, 38), "rated");
    EXPECT_EQ(at(2600, 30), "take-off");
    EXPECT_EQ(at(2900, 55), "take-off") << "past all of them its minutes run";
}

TEST(WatchStarter, TellsHowLongItTurnsAndRests) {
    const auto& n = test::farrier().notes;
    watch::Watch w(n, "");
    const double most = n.start.crankMost.si(), rest = n.start.rest.si();
    EXPECT_FALSE(w.starterNow(0.0));
    w.starter(10.0, true);
    ASSERT_TRUE(w.starterNow(14.0));
    EXPECT_TRUE(w.starterNow(14.0)->turns);
    EXPECT_NEAR(w.starterNow(14.0)->seconds, 4.0, 1e-9);
    EXPECT_EQ(w.starterNow(10.0 + most)->verdict.colour(), watch::Colour::normal);
    EXPECT_EQ(w.starterNow(12.0 + most)->verdict.colour(), watch::Colour::red);
    w.starter(15.0, false);
    EXPECT_FALSE(w.starterNow(16.0)->turns);
    EXPECT_NEAR(w.starterNow(16.0)->of, rest, 1e-9);
    EXPECT_FALSE(w.starterNow(16.0 + rest));
}

// ---- strokes

TEST(Hands, StrokesGivenInOneBreathFollowEachOther) {
    // Four quick strokes are four doses, not one: each waits for the one before it.
    const auto s = sit("farrier-summer", Way::alone);
    const auto& n = s->aircraft().notes;
    const auto primer = static_cast<std::size_t>(cockpit::acting(n.controls, Acts::primer) - n.controls.data());
    const double each = std::max(0.5, n.start.primeTime.si());
    s->setSpeed(1);
    const auto given = [&](int strokes) {
        s->back(0);
        for (int i = 0; i < strokes; ++i) {
            Act act;
            act.control = primer;
            act.to = {Target::Kind::quantity, "", Dimension::duration, each};
            act.strokes = 1.0;
            s->put(act, {0});
        }
        while (s->rehearsal().now() < 1000.0 * each * strokes + 300)
            s->live(0.1);
        const auto& e = s->rehearsal().state().engines[0];
        return e.primed + e.spilled;
    };
    const double one = given(1);
    ASSERT_GT(one, 0.0);
    EXPECT_NEAR(given(4) / one, 4.0, 0.25);
}

// ---- what is said

TEST(Debrief, WhatComesLaterInAPhaseThatGoesOnIsNotLeftOutYet) {
    const auto s = sit("lorimer-spring", Way::led, Phase::climb);
    while (s->doNext())
        ;
    s->toNextAct([] { return true; });
    s->back(30'000);
    const auto d = s->debriefed();
    for (const auto& a : d.acts)
        EXPECT_NE(a.done, DrillAct::Done::leftOut) << s->aircraft().notes.controls[a.control].id << " to " << a.to;
    EXPECT_GT(d.asked, 0u);
}

TEST(Debrief, AFaultNeverCalledIsToldApartAndAnotherRightlyCalledIsNoWrongCall) {
    const auto& l = test::loaded("lorimer-spring");
    rehearse::Setup setup;
    setup.ice = false;
    setup.from = Phase::cruise;
    setup.traps.push_back({powerplant::Fault::oilPump, 1.0, 0, {}, 5.0, 5.0, 1.0});
    setup.traps.push_back({powerplant::Fault::fuelPump, 1.0, 1, {}, 8.0, 8.0, 1.0});
    Session s(l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie), setup, Way::alone);
    s.setSpeed(1);
    while (s.rehearsal().now() < 20'000)
        s.live(0.25);
    s.call(powerplant::Fault::fuelPump, 1); // the second first, rightly
    s.live(0.25);
    const auto d = s.debriefed();
    ASSERT_EQ(d.faults.size(), 2u);
    EXPECT_FALSE(d.faults[0].called);
    EXPECT_TRUE(d.faults[0].wrongly.empty()) << "the fuel pump has come, and was rightly called";
    ASSERT_TRUE(d.faults[1].called);
    EXPECT_NEAR(*d.faults[1].called, 12.0, 0.3);
    const auto lines = d.lines(s.aircraft().notes);
    const auto told = std::find_if(lines.begin(), lines.end(), [](const rehearse::DebriefLine& line) {
        return line.about == rehearse::About::next && line.text.find("told by") != std::string::npos;
    });
    ASSERT_NE(told, lines.end());
    EXPECT_EQ(told->at, 5'000);
    // People, aircraft, engines, next: in that order.
    EXPECT_TRUE(
        std::is_sorted(lines.begin(), lines.end(), [](const auto& a, const auto& b) { return a.about < b.about; }));
}

TEST(Debrief, AFigureThatWasNeverSetIsLeftOutAndOneThatTheNeedleReadStoodSo) {
    const auto s = sit("lorimer-spring", Way::alone, Phase::cruise);
    s->setSpeed(60);
    for (int i = 0; i < 20; ++i)
        s->live(0.25);
    const auto& n = s->aircraft().notes;
    const auto d = s->debriefed();
    const auto of = [&](Acts acts) {
        return std::find_if(d.acts.begin(), d.acts.end(), [&](const DrillAct& a) {
            return n.controls[a.control].acts == acts && a.phase == Phase::cruise;
        });
    };
    ASSERT_NE(of(Acts::propeller), d.acts.end());
    EXPECT_EQ(of(Acts::propeller)->done, DrillAct::Done::leftOut) << "still at climbing rpm";
}

TEST(OneByChance, IsAFaultThatTheTypeCanHaveInAPhaseToComeAndTheSameForASeed) {
    const auto& n = test::farrier().notes;
    std::set<powerplant::Fault> seen;
    for (std::uint64_t seed = 1; seed <= 200; ++seed) {
        const auto trap = rehearse::oneByChance(n, Phase::climb, seed);
        EXPECT_TRUE(trap == rehearse::oneByChance(n, Phase::climb, seed));
        ASSERT_TRUE(trap.phase);
        EXPECT_GE(*trap.phase, Phase::climb);
        EXPECT_LE(*trap.phase, Phase::letDown);
        EXPECT_LT(trap.earliest, trap.latest);
        seen.insert(trap.fault);
        EXPECT_NE(trap.fault, powerplant::Fault::noSpark) << "for the start only";
        EXPECT_NE(trap.fault, powerplant::Fault::wasteGate) << "it has no turbo";
    }
    EXPECT_GT(seen.size(), 15u) << "not always the same";
}

// ---- lists challenged and answered

/// Puts what is wanted and answers, whenever something is challenged. @return how many items were answered
int answered(Session& s, Phase until, const std::function<void(Session&)>& before = {}) {
    int items = 0;
    while (s.guide().next() && !(s.guide().next()->begins && s.guide().next()->phase > until)) {
        if (!s.toNextAct({}))
            break;
        if (!s.guide().challenges()) {
            if (!s.doNext())
                break;
            continue;
        }
        if (before)
            before(s);
        s.doNext();
        EXPECT_EQ(s.answerItem(), true) << place(s);
        if (++items > 500)
            break;
    }
    return items;
}

TEST(Challenged, EveryItemOfTheListsIsAskedForAlsoWhatStandsAlready) {
    const auto led = sit("farrier-summer"), s = sit("farrier-summer", Way::challenged);
    ASSERT_TRUE(s->toNextAct({}));
    ASSERT_TRUE(s->guide().challenges());
    EXPECT_TRUE(s->standsStill());
    EXPECT_FALSE(s->mayTell(s->guide().next()->puts.front().control));
    answered(*s, Phase::takeOff);
    // As many as the drill's steps up to there have that put something, once for each engine where it goes one by one.
    std::size_t wanted = 0;
    const auto& n = s->aircraft().notes;
    for (const auto& done : s->reference()->done) {
        bool puts = false;
        for (std::size_t i = 0; i < done.puts; ++i)
            if (const auto& put = s->reference()->put[done.firstPut + i]; !put.linked && !rehearse::noStrokes(put, n))
                puts = true;
        wanted += puts && !done.step.empty() && done.phase <= Phase::takeOff ? 1 : 0;
    }
    EXPECT_GT(wanted, 30u);
    EXPECT_EQ(s->guide().answered().size(), wanted);
    std::size_t stood = 0; // already
    while (led->guide().next() && led->guide().next()->phase <= Phase::takeOff && led->toNextAct({}) && led->doNext())
        ++stood;
    EXPECT_LT(stood, wanted) << "who is led is not asked for what stands so";
    const auto at = rehearse::itemsAtOnce(s->guide().answered());
    EXPECT_EQ(at.asked, wanted);
    EXPECT_EQ(at.well, wanted);
    for (const auto& a : s->guide().answered())
        EXPECT_FALSE(a.item.empty() || a.stood.empty()) << a.item << ": " << a.stood;
}

TEST(Challenged, WhatIsAnsweredAsItShouldNotStandIsToldAndAskedAgain) {
    const auto s = sit("farrier-summer", Way::challenged);
    bool wrong = false;
    std::string item, told;
    Milliseconds when = 0;
    const int items = answered(*s, Phase::start, [&](Session& now) {
        if (wrong || now.guide().wanting(now.rehearsal()).empty())
            return;
        wrong = true;
        when = now.rehearsal().now();
        item = rehearse::challenge(*now.guide().next(), now.aircraft().notes);
        const std::size_t control = now.guide().next()->puts.front().control;
        told = now.rehearsal().stands(control, 0);
        EXPECT_EQ(now.answerItem(), false) << "from habit";
        EXPECT_TRUE(now.guide().wasWrong());
        EXPECT_TRUE(now.mayTell(control));
        EXPECT_TRUE(now.standsStill());
        EXPECT_EQ(now.rehearsal().now(), when);
    });
    ASSERT_TRUE(wrong);
    const auto& all = s->guide().answered();
    ASSERT_EQ(all.size(), static_cast<std::size_t>(items) + 1);
    const auto at = std::find_if(all.begin(), all.end(), [](const auto& a) { return !a.right; });
    ASSERT_NE(at, all.end());
    EXPECT_EQ(at->item, item);
    EXPECT_EQ(at->stood, told);
    EXPECT_NE(at->wanted, told);
    EXPECT_EQ((at + 1)->item, item);
    EXPECT_TRUE((at + 1)->right && (at + 1)->again);
    EXPECT_EQ(std::count_if(all.begin(), all.end(), [](const auto& a) { return a.again; }), 1);

    // The debrief says so once, with its moment, and the log of practice counts it.
    const auto d = s->debriefed();
    const auto lines = d.lines(s->aircraft().notes);
    const auto said = std::find_if(lines.begin(), lines.end(), [&](const auto& l) {
        return l.text.find(item + " was answered “" + told + "”; it should stand at " + at->wanted) !=
               std::string::npos;
    });
    ASSERT_NE(said, lines.end());
    EXPECT_EQ(said->at, when);
    EXPECT_EQ(said->colour, watch::Colour::amber);
    std::map<std::string, rehearse::Practised> skills;
    for (const auto& line : rehearse::practised(d, s->aircraft().notes, "2026-11-30", "R. Vane"))
        skills[line.skill] = line;
    EXPECT_EQ(skills.at("lists").asked, static_cast<std::size_t>(items));
    EXPECT_EQ(skills.at("lists").well, static_cast<std::size_t>(items) - 1);
    EXPECT_EQ(rehearse::titleOfSkill("lists"), "Lists answered");

    // What was said and done, written as a file and done again, comes to the same answers, though time stood between.
    Problems none;
    const auto acts = rehearse::readActs(rehearse::writeActs(s->rehearsal().acts(), s->aircraft().notes), "x.csv",
                                         s->aircraft().notes, none);
    ASSERT_TRUE(acts) << none.front().text();
    const auto again = sit("farrier-summer", Way::challenged);
    again->play(*acts);
    again->setSpeed(60);
    rehearse::Rehearsal r(s->aircraft(), s->sortie(), s->plan(), s->rehearsal().setup());
    rehearse::Guide guide(s->aircraft().notes, *s->reference(), Phase::walkRound, rehearse::Drill::challenged);
    r.onAct([&] { guide.follow(r); });
    guide.follow(r);
    r.script(*acts);
    r.advance(s->rehearsal().now() + 100, [&](const hand::Moment&) { guide.follow(r); });
    ASSERT_EQ(guide.answered().size(), all.size());
    for (std::size_t i = 0; i < all.size(); ++i) {
        EXPECT_EQ(guide.answered()[i].item, all[i].item) << i;
        EXPECT_EQ(guide.answered()[i].right, all[i].right) << all[i].item;
        EXPECT_EQ(guide.answered()[i].at, all[i].at) << all[i].item;
    }
}

TEST(Challenged, OneUndoTakesOneActBackThoughTimeStood) {
    const auto s = sit("farrier-summer", Way::challenged);
    // Items follow each other while time stands: all at the same moment.
    std::vector<std::string> items;
    while (s->guide().answered().size() < 4) {
        ASSERT_TRUE(s->toNextAct({}));
        if (!s->guide().challenges()) {
            ASSERT_TRUE(s->doNext());
            continue;
        }
        items.push_back(rehearse::challenge(*s->guide().next(), s->aircraft().notes));
        s->doNext();
        ASSERT_EQ(s->answerItem(), true);
    }
    const auto acts = s->rehearsal().acts();
    ASSERT_EQ(acts[acts.size() - 1].at, acts[acts.size() - 3].at) << "they were at one moment";
    ASSERT_TRUE(s->undo());
    EXPECT_EQ(s->rehearsal().acts().size(), acts.size() - 1);
    EXPECT_EQ(s->guide().answered().size(), 3u);
    EXPECT_TRUE(s->guide().challenges());
    EXPECT_EQ(rehearse::challenge(*s->guide().next(), s->aircraft().notes), items[3]) << "it is asked again";
    EXPECT_EQ(s->answerItem(), true);
    EXPECT_EQ(s->guide().answered().size(), 4u);
    // What was answered by nobody's leave is no answer: nothing is challenged while it waits, or in another way.
    const auto led = sit("farrier-summer");
    ASSERT_TRUE(led->toNextAct({}));
    EXPECT_EQ(led->answerItem(), std::nullopt);
}

TEST(Challenged, AnItemIsAnsweredByWhoWorksIt) {
    const auto& n = test::loaded("mercer-frost").aircraft->notes;
    rehearse::Ask ask;
    const auto of = [&](Acts acts) {
        hand::Put put;
        put.control = static_cast<std::size_t>(cockpit::acting(n.controls, acts) - n.controls.data());
        ask.puts = {put};
        ask.turn = 1;
        return rehearse::answers(ask, n);
    };
    EXPECT_EQ(of(Acts::mixture), "engineer");
    EXPECT_EQ(rehearse::challenge(ask, n), n.positions[1].name + " Mixtures");
    EXPECT_EQ(of(Acts::propeller), "second pilot");
    EXPECT_EQ(of(Acts::throttle), "pilot") << "the first of the crew, where nobody is named";
}

TEST(Challenged, AnAnswerToNoStepIsRefusedWithItsLine) {
    const auto& n = test::loaded("farrier-summer").aircraft->notes;
    Problems problems;
    EXPECT_FALSE(rehearse::readActs("time,engine,what,to,over\n1,all,answer,paint,\n", "acts.csv", n, problems));
    ASSERT_EQ(problems.size(), 1u);
    EXPECT_EQ(problems[0].line, 2);
    EXPECT_NE(problems[0].what.find("paint"), std::string::npos);
}

TEST(Led, AFireInTheIntakeIsDrawnInAndWhatHasBurntIsNotStartedAgain) {
    // Four doses for one into the first engine: cleared, and tried again, what ran down burns.
    auto s = sit("lorimer-spring", Way::led, Phase::start);
    const TypeNotes& n = s->aircraft().notes;
    int extra = 0;
    std::size_t seen = 0;
    bool burnt = false, told = false, shut = false, opened = false, turned = false;
    Milliseconds flames = 0, out = 0;
    const auto& r = s->rehearsal();
    s->setSpeed(60);
    for (int i = 0; i < 20'000 && s->guide().next() && r.phase() <= Phase::start && r.now() < 3'600'000; ++i) {
        const auto* ask = s->guide().next();
        const bool burns = r.readings().engines[0].signs.flames;
        if (burns && !burnt) {
            burnt = true;
            flames = r.now();
        }
        if (burnt && !burns && out == 0)
            out = r.now();
        told = told || (burns && ask->why.find("drawn in") != std::string::npos);
        if (ask->begins)
            break;
        const bool did = s->guide().due() && !s->guide().waits() && s->doNext();
        for (; seen < r.acts().size(); ++seen) {
            const Act act = r.acts()[seen];
            const Acts acts = n.controls[act.control].acts;
            if (act.kind != Act::Kind::control || act.engine > 0)
                continue;
            if (act.strokes > 0 && extra < 3) {
                ++extra;
                Act more = act;
                more.at = r.now();
                s->put(more, {0});
            }
            if (!burnt)
                continue;
            shut = shut || (acts == Acts::mixture && act.to.word == "cut-off");
            opened = opened || (acts == Acts::throttle && act.to.word == "open");
            turned = turned || (acts == Acts::mesh && act.to.word == "on" && r.now() <= flames + 1000);
            if (out > 0)
                EXPECT_FALSE((acts == Acts::starter || acts == Acts::mesh) && act.to.word != "off")
                    << "started again at " << r.now();
        }
        if (!did && !s->live(0.25))
            break;
    }
    ASSERT_TRUE(burnt) << "the hand is not as bad as it was meant";
    EXPECT_TRUE(told);
    EXPECT_TRUE(shut && opened && turned) << shut << opened << turned;
    ASSERT_GT(out, 0) << "it still burns";
    EXPECT_LE(out - flames, 30'000);
    EXPECT_LT(r.stories()[0].burned, 30.0);
    EXPECT_FALSE(r.state().engines[0].firing);
    EXPECT_TRUE(r.state().engines[1].firing) << "the other is started";
}

TEST(Shares, OfHotAirAreSaidAsHotAndReadBack) {
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    Act act;
    act.control = static_cast<std::size_t>(cockpit::acting(n.controls, Acts::carburettorAir) - n.controls.data());
    act.share = 0.4;
    EXPECT_EQ(rehearse::said(act, n), "Carb. air to 40 % hot") << "its lever lies cold forward";
    act.control = static_cast<std::size_t>(cockpit::acting(n.controls, Acts::coolingFlap) - n.controls.data());
    EXPECT_EQ(rehearse::whereTo(act, n), "40 %");
    const auto s = sit("lorimer-spring", Way::alone, Phase::cruise);
    act.control = static_cast<std::size_t>(cockpit::acting(n.controls, Acts::carburettorAir) - n.controls.data());
    s->put(act, {0});
    s->live(1.0);
    EXPECT_DOUBLE_EQ(s->rehearsal().hands().levers().engines[0].hotAir, 0.4);
    EXPECT_EQ(s->rehearsal().stands(act.control, 0), "40 % hot");
}
} // namespace
