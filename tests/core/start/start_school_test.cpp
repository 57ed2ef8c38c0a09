// SPDX-License-Identifier: GPL-3.0-or-later
// Schools of the start and frost: what a choice does to dose, turning, timeline and words.
#include "drills/drill.h"
#include "notes/standard_schools.h"
#include "plan/start_words.h"
#include "reading/notes_reader.h"
#include "start/preheat.h"
#include "start/start_school.h"
#include "test_data.h"
#include <algorithm>
#include <rapidcheck/gtest.h>
#include <set>

namespace {
using namespace amber;
using start::EventKind;

Temperature degreesCelsius(double c) {
    return Temperature::si(c + 273.15);
}
StartNotes with(const TypeNotes& n, const std::string& step, const std::string& school) {
    return start::startInForce(n, {{"start/" + step, school}});
}
double secondsOf(const start::StartTimeline& t, EventKind kind) {
    double sum = 0;
    for (const auto& e : t.events)
        if (e.kind == kind)
            sum += e.length();
    return sum;
}

TEST(Schools, EveryPointHasTwoOrMoreWithGainAndRisk) {
    std::set<std::string_view> keys;
    for (const auto& p : schools::points()) {
        EXPECT_TRUE(keys.insert(p.key).second) << p.key;
        EXPECT_GE(p.schools.size(), 2u) << p.key;
        for (const auto& s : p.schools) {
            EXPECT_FALSE(s.gain.empty()) << p.key;
            EXPECT_FALSE(s.risk.empty()) << p.key;
        }
    }
    EXPECT_EQ(schools::point("weather"), nullptr);
}

TEST(Schools, EveryTypeNamesTheSchoolsOfItsStart) {
    for (const auto& name : test::demoNames()) {
        const auto d = test::loadDemo(name);
        const auto& steps = d.aircraft->notes.phase(Phase::start).steps;
        const auto differs = [&](std::string_view key) {
            const auto* point = schools::point(key);
            return std::any_of(steps.begin(), steps.end(), [&](const Step& s) {
                return std::any_of(s.schools.begin(), s.schools.end(),
                                   [&](const School& k) { return k.name == point->schools.front().name; });
            });
        };
        for (const char* key : {"ignition", "first-rpm", "carburettor-air"})
            EXPECT_TRUE(differs(key)) << name << " " << key;
        EXPECT_TRUE(differs("prime-when") || differs("prime-how")) << name;
        EXPECT_TRUE(std::any_of(steps.begin(), steps.end(), [](const Step& s) { return s.open; }))
            << name << " leaves something to the pilot";
    }
}

TEST(Schools, NotesMarkOneAndAChoiceTheyDoNotLeaveOpenIsNotTaken) {
    const auto& n = test::lorimer().notes;
    const auto& steps = n.phase(Phase::start).steps;
    const auto step = std::find_if(steps.begin(), steps.end(), [](const Step& s) { return s.id == "ignition"; });
    ASSERT_NE(step, steps.end());
    EXPECT_FALSE(step->open);
    EXPECT_EQ(schools::inForce(*step, Phase::start, {{"start/ignition", "after blades"}})->name, "on before turning");
    EXPECT_FALSE(with(n, "ignition", "after blades").bladesFirst);
}

TEST(Schools, PrimingWhileTurningLeavesNoWaitAndStaysWithinTheStarter) {
    const auto& n = test::lorimer().notes;
    start::StartRequest r;
    r.engine = r.oil = degreesCelsius(0);
    const auto before = start::planStart(n, with(n, "prime", "before turning"), r).value();
    const auto turning = start::planStart(n, with(n, "prime", "while turning"), r).value();
    EXPECT_GT(secondsOf(before, EventKind::wait), 10);
    EXPECT_EQ(secondsOf(turning, EventKind::wait), 0);
    EXPECT_LT(turning.total, before.total);
    for (const auto& e : turning.events)
        if (e.kind == EventKind::prime) {
            EXPECT_TRUE(std::any_of(turning.events.begin(), turning.events.end(), [&](const start::Event& c) {
                return c.kind == EventKind::crank && c.engine == e.engine && c.start <= e.start + 1e-9 &&
                       c.end >= e.end - 1e-9;
            })) << "primed inside the try";
        }
}

TEST(Schools, BladesBeforeIgnitionTakeTheirSecondsOfTurning) {
    const auto d = test::loadDemo("mercer-frost");
    const auto& n = d.aircraft->notes;
    const auto first = with(n, "ignition", "after blades"), atOnce = with(n, "ignition", "on before turning");
    const start::CrankConditions warm{degreesCelsius(15), start::Supply::cart, false, start::bladesPerRevolution(n)};
    const auto a = start::crank(first, warm), b = start::crank(atOnce, warm);
    EXPECT_NEAR(a.forBlades.si(), 8.0 / (a.rpm * 0.45 * 4), 1e-9) << "8 blades of a four-bladed, geared propeller";
    EXPECT_EQ(b.forBlades.si(), 0);
    EXPECT_NEAR(a.untilFiring.si() - b.untilFiring.si(), a.forBlades.si(), 1e-9);
}

TEST(Schools, PullingThroughSharesTheDose) {
    const auto d = test::loadDemo("thatcher-lesson");
    const TypeNotes& keep = d.aircraft->notes;
    const Pressure sea = Pressure::si(standardPressure);
    const auto dose = [&](const std::string& school) {
        return start::Priming(with(keep, "prime", school)).advice(degreesCelsius(0), sea);
    };
    const auto primer = dose("primer only"), both = dose("both"), pulled = dose("pull-through, no primer");
    EXPECT_EQ(primer.unit, "strokes");
    EXPECT_EQ(primer.blades, 0);
    EXPECT_LT(both.dose, primer.dose);
    EXPECT_GT(both.blades, 0);
    EXPECT_EQ(pulled.unit, "blades");
    EXPECT_GT(pulled.dose, both.blades);
    for (const auto& a : {primer, both, pulled}) {
        EXPECT_LE(a.fireLow, a.dose) << a.unit;
        EXPECT_GE(a.fireHigh, a.dose) << a.unit;
        EXPECT_GT(a.flood, a.dose) << a.unit;
    }
}

RC_GTEST_PROP(SchoolProperty, WhicheverWayColderNeverMeansLessPrimeAndAHigherFieldNeverMore, ()) {
    StartNotes s = test::lorimer().notes.start;
    s.primerShare = *rc::gen::element(0.0, 0.5, 1.0);
    s.bladesPerDose = *rc::gen::inRange(1, 60) / 10.0;
    const start::Priming priming(s);
    const int cold = *rc::gen::inRange(-35, 80), warmer = *rc::gen::inRange(0, 40);
    const Pressure field = Pressure::si(*rc::gen::inRange(60000, 104000)), higher = Pressure::si(0.9 * field.si());
    const auto a = priming.advice(degreesCelsius(cold), field),
               b = priming.advice(degreesCelsius(cold + warmer), field),
               up = priming.advice(degreesCelsius(cold), higher);
    RC_ASSERT(a.dose >= b.dose);
    RC_ASSERT(a.blades >= b.blades);
    RC_ASSERT(up.dose <= a.dose);
    RC_ASSERT(a.fireLow <= a.fireHigh);
    RC_ASSERT(a.drain >= a.vaporise);
}

TEST(Schools, FirstRpmIsSlowOrWarmUpAtOnceAndThePlanFollows) {
    auto d = test::loadDemo("lorimer-spring");
    const auto rpmOfStart = [&] { return flight::fly(*d.aircraft, *d.sortie)[Phase::start].setting.rpm.si() * 60; };
    EXPECT_NEAR(rpmOfStart(), 700, 0.1) << "these notes: slow until oil pressure";
    d.sortie->choices["start/first-rpm"] = "warm-up rpm at once";
    EXPECT_NEAR(rpmOfStart(), 800, 0.1);
}

TEST(Schools, UnknownPointsAndSchoolsAreProblems) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto old = test::fileText(test::dataPath("../tests/fixtures/format1/lorimer-l4.toml"));
    const auto inOld = [&](const std::string& from, const std::string& to) {
        const auto reading = readNotes(test::replaced(old, from, to), "l.toml");
        return reading.problems.empty() ? std::string{} : reading.problems.front().text();
    };
    EXPECT_NE(inOld("standard = \"ignition\"", "standard = \"magneto\"").find("no point \"magneto\""),
              std::string::npos);
    EXPECT_NE(inOld("notes = \"on before turning\"", "notes = \"whenever\"").find("marks 0 schools"),
              std::string::npos);
    // In format 2 the point is the standard drill's own.
    const auto reading =
        readNotes(test::replaced(text, "notes = \"slow until oil pressure\"", "notes = \"slow until noon\""), "l.toml");
    ASSERT_TRUE(reading.notes);
    TypeNotes whole = *reading.notes;
    Problems problems;
    cockpit::expand(whole, problems);
    ASSERT_EQ(problems.size(), 1u);
    EXPECT_NE(problems.front().text().find("no school \"slow until noon\""), std::string::npos);
}

TEST(Orders, ComparedByTotalBatteryAndWhatIsOnLine) {
    const auto d = test::loadDemo("mercer-frost");
    const auto& n = d.aircraft->notes;
    start::StartRequest r;
    r.engine = r.oil = degreesCelsius(-6);
    r.supply = start::Supply::battery;
    const auto orders = start::compareOrders(n, n.start, r);
    ASSERT_EQ(orders.size(), 3u) << "notes, accessory engine first, away from the door first";
    EXPECT_TRUE(orders[0].wanted);
    for (const auto& o : orders) {
        EXPECT_FALSE(o.named.reason.empty());
        EXPECT_GT(o.timeline.total, 60);
        EXPECT_LT(o.timeline.batteryLeft, 1.0);
        EXPECT_EQ(o.timeline.order.size(), 4u);
    }
    EXPECT_NE(orders[0].timeline.onLineFirst, orders[2].timeline.onLineFirst);
    r.order = {"1", "2", "3", "4"};
    const auto own = start::compareOrders(n, n.start, r);
    ASSERT_EQ(own.size(), 4u);
    EXPECT_EQ(own.back().named.name, "your own");
    EXPECT_TRUE(own.back().wanted);
}

TEST(Sequence, TellsEverySettingBetweenEnginesInOrder) {
    const auto d = test::loadDemo("ostler-bush");
    const auto p = plan::makePlan(*d.aircraft, *d.sortie);
    ASSERT_FALSE(p.startSequence.empty());
    double last = 0;
    int toEngine = 0, off = 0;
    std::string valve = "off";
    for (const auto& line : p.startSequence) {
        EXPECT_GE(line.time, last);
        last = line.time;
        if (line.what == "Primer valve") {
            valve = line.set;
            line.set == "off" ? ++off : ++toEngine;
        }
        if (line.what == "Prime") {
            EXPECT_NE(valve, "off") << "the valve is on the engine that is primed";
        }
        if (line.what == "Turn") {
            EXPECT_EQ(valve, "off") << "or the running engine draws the next one's dose";
        }
    }
    EXPECT_EQ(toEngine, 3);
    EXPECT_EQ(off, 3);
    const auto told = [&](const char* what) {
        return std::any_of(p.startSequence.begin(), p.startSequence.end(),
                           [&](const auto& l) { return l.what == what && l.engine.empty(); });
    };
    EXPECT_TRUE(told("Generator") && told("Gyros")) << "what is set once all are running";
}

TEST(Sequence, AFailedTryIsToldWithItsRest) {
    const auto d = test::loadDemo("mercer-frost");
    const auto& n = d.aircraft->notes;
    auto r = flight::startRequestOf(*d.sortie);
    r.failures = {{"4", 1}};
    const auto t = start::planStart(n, n.start, r).value();
    const auto lines = start::startSequence(n, n.start, t, r);
    const auto catchless = std::find_if(lines.begin(), lines.end(), [](const auto& l) { return l.what == "No catch"; });
    ASSERT_NE(catchless, lines.end());
    EXPECT_EQ(catchless->engine, "4");
    EXPECT_TRUE(std::any_of(lines.begin(), lines.end(), [](const auto& l) { return l.what == "Rest"; }));
    EXPECT_EQ(
        std::count_if(lines.begin(), lines.end(), [](const auto& l) { return l.engine == "4" && l.what == "Turn"; }),
        2);
}

TEST(Cold, DilutionTurnsFasterAndADilutedOilGivesPressureSooner) {
    const auto d = test::loadDemo("tanner-winter");
    const auto& n = d.aircraft->notes;
    const start::CrankConditions stiff{degreesCelsius(-14), start::Supply::cart, false, 3},
        thin{degreesCelsius(-14), start::Supply::cart, true, 3};
    EXPECT_GT(start::crank(n.start, thin).rpm, start::crank(n.start, stiff).rpm);
    EXPECT_LE(start::crank(n.start, thin).untilOilPressure, start::crank(n.start, stiff).untilOilPressure);
}

TEST(Cold, TheHeaterTakesLongerInFrostAndMayNeverGetThere) {
    const auto& n = test::lorimer().notes;
    const auto mild = start::heaterTime(n, degreesCelsius(-5), degreesCelsius(5), degreesCelsius(-5));
    const auto hard = start::heaterTime(n, degreesCelsius(-20), degreesCelsius(5), degreesCelsius(-20));
    ASSERT_TRUE(mild && hard);
    EXPECT_GT(*hard, *mild);
    EXPECT_EQ(start::heaterTime(n, degreesCelsius(10), degreesCelsius(5), degreesCelsius(0))->si(), 0)
        << "warm enough already";
    TypeNotes weak = n;
    weak.start.cold.heater = Power::si(500);
    EXPECT_FALSE(start::heaterTime(weak, degreesCelsius(-20), degreesCelsius(30), degreesCelsius(-20)));
}

TEST(Cold, ThePageAdvisesByTemperature) {
    auto d = test::loadDemo("tanner-winter");
    const auto has = [&](const std::string& what) {
        const auto p = plan::makePlan(*d.aircraft, *d.sortie);
        const auto& c = p[Phase::start].clocks;
        return std::any_of(c.begin(), c.end(), [&](const auto& k) { return k.what == what; });
    };
    const auto warned = [&](const std::string& words) {
        const auto p = plan::makePlan(*d.aircraft, *d.sortie);
        const auto& r = p[Phase::start].remarks;
        return std::any_of(r.begin(), r.end(),
                           [&](const auto& k) { return k.verdict.sentence().find(words) != std::string::npos; });
    };
    EXPECT_TRUE(has("Blanks"));
    EXPECT_FALSE(has("Heater")) << "−14 °C is within what these notes start without heat";
    d.sortie->day.oat = degreesCelsius(-22);
    d.sortie->day.dewPoint = degreesCelsius(-24);
    EXPECT_TRUE(has("Heater"));
    EXPECT_TRUE(warned("pre-heated"));
    EXPECT_FALSE(warned("was not"));
    d.sortie->start.diluted = false;
    EXPECT_TRUE(warned("was not")) << "not diluted at the last stop";
    d.sortie->start.preheated = degreesCelsius(10);
    EXPECT_FALSE(warned("pre-heated"));
    d.sortie->day.oat = degreesCelsius(12);
    d.sortie->start.preheated.reset();
    EXPECT_FALSE(has("Blanks"));
}

TEST(Warmth, EarlyEnginesWarmWhileTheLateOnesStart) {
    const auto d = test::loadDemo("mercer-frost");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    ASSERT_EQ(f.warmth.size(), 4u);
    std::map<std::string, flight::EngineWarmth> by;
    for (const auto& w : f.warmth)
        by.emplace(w.engine, w);
    const auto& order = d.aircraft->notes.start.order;
    for (std::size_t i = 1; i < order.size(); ++i) {
        EXPECT_GT(by.at(order[i - 1]).atStartEnd.oil, by.at(order[i]).atStartEnd.oil);
        EXPECT_LT(by.at(order[i - 1]).firedAt, by.at(order[i]).firedAt);
        EXPECT_LE(by.at(order[i - 1]).readyForRunUp.value(), by.at(order[i]).readyForRunUp.value())
            << "the one started last decides";
    }
}
} // namespace
