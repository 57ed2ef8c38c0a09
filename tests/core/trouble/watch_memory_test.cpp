// SPDX-License-Identifier: GPL-3.0-or-later
// The watch that remembers: stretches out of the normal range, time in amber, falls of temperature; and that nobody
// else can make a verdict.
#include "flight/flown.h"
#include "test_data.h"
#include "watch/rules.h"
#include "watch/watch.h"
#include <cmath>
#include <gtest/gtest.h>
#include <type_traits>

using namespace amber;
using watch::Colour;
using watch::Rule;

namespace {
static_assert(!std::is_constructible_v<watch::Verdict, Colour, std::string>, "only the watch makes verdicts");
static_assert(!std::is_aggregate_v<watch::Verdict>);

const TypeNotes& lorimer() {
    return test::demo("lorimer").aircraft->notes;
}
Readings heads(double celsius) {
    Readings r;
    r[Gauge::headTemperature] = celsius + 273.15;
    return r;
}
const watch::Finding* of(const std::vector<watch::Finding>& all, Rule rule) {
    for (const auto& f : all)
        if (f.rule == rule)
            return &f;
    return nullptr;
}

// Heads of the Lorimer: at take-off normal to 232 °C, to 260 for five minutes; in the climb normal to 232, limit 248.
TEST(Watch, AStretchBeginsAndEndsWhereTheLineCrossesTheEdge) {
    watch::Watch w(lorimer());
    w.see(0, Phase::climb, heads(200), true);
    w.see(100, Phase::climb, heads(240), true); // 232 is passed at 80 s
    w.see(200, Phase::climb, heads(244), true);
    w.see(300, Phase::climb, heads(220), true); // and again at 250 s
    const auto all = w.findings();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].rule, Rule::normalRange);
    EXPECT_NEAR(all[0].begin, 80.0, 1e-9);
    EXPECT_NEAR(all[0].end, 250.0, 1e-9);
    EXPECT_NEAR(all[0].worst, 244 + 273.15, 1e-9);
    EXPECT_EQ(all[0].verdict.colour(), Colour::amber);
    EXPECT_NE(all[0].verdict.sentence().find("244 °C, normal to 232 °C"), std::string::npos);
}

TEST(Watch, OnePassedLimitMakesTheStretchRed) {
    watch::Watch w(lorimer());
    for (const double t : {200.0, 240.0, 251.0, 240.0})
        w.see(t, Phase::climb, heads(t), true);
    const auto all = w.findings();
    ASSERT_EQ(all.size(), 1u) << "amber before and after belongs to it";
    EXPECT_EQ(all[0].rule, Rule::limit);
    EXPECT_EQ(all[0].verdict.colour(), Colour::red);
    EXPECT_NEAR(all[0].worst, 251 + 273.15, 1e-9);
}

// Rpm at take-off: the limit, so far over it, for so long.
std::size_t overSpeed(Phase phase, double share, double seconds) {
    watch::Watch w(lorimer());
    const double limit = *lorimer().gauges.at(Gauge::rpm).in(phase).limitHigh;
    Readings r;
    for (const auto& [at, rpm] : {std::pair{0.0, limit},
                                  {1.0, limit},
                                  {1.01, share * limit},
                                  {1.0 + seconds, share * limit},
                                  {1.01 + seconds, 0.98 * limit}}) {
        r[Gauge::rpm] = rpm;
        w.see(at, phase, r, true);
    }
    return w.findings().size();
}
TEST(Watch, AGovernorMayOvershootAtTakeOffForAMoment) {
    EXPECT_EQ(overSpeed(Phase::takeOff, 1.025, 8.0), 0u);
    EXPECT_EQ(overSpeed(Phase::takeOff, 1.025, 12.0), 1u) << "ten seconds";
    EXPECT_EQ(overSpeed(Phase::takeOff, 1.04, 8.0), 1u) << "three in a hundred";
    EXPECT_EQ(overSpeed(Phase::climb, 1.025, 8.0), 1u) << "nowhere else";
}

/// Idle by the notes, a second a look, then standing: what is told of a gauge that has fallen to nothing.
const watch::Finding* fallen(std::vector<watch::Finding>& all, Gauge gauge, double before, double rpmShare, bool stands,
                             Phase phase = Phase::stop) {
    watch::Watch w(lorimer());
    const auto normal = [&](Gauge g) {
        const auto& band = lorimer().gauges.at(g).in(phase);
        return 0.5 * (*band.normalLow + *band.normalHigh);
    };
    const double slowest = lorimer().warmUp.leastRpm->si();
    Readings r;
    for (double t = 0; t <= 60.0; t += 1.0) {
        const bool down = t > 60.0 - before;
        r[Gauge::rpm] = down ? rpmShare * slowest : slowest;
        r[gauge] = down ? 0.0 : normal(gauge);
        w.see(t, phase, r, true);
    }
    if (stands)
        w.see(61.0, phase, r, false);
    all = w.findings();
    for (const auto& f : all)
        if (f.gauge == gauge)
            return &f;
    return nullptr;
}
TEST(Watch, ASecondOfRedIsToldAsASecondAndNotWithTheAmbersMinutes) {
    // Climb: normal to 232 °C, limit 248. Amber from 60 s; the limit is crossed half-way between 240 and 256, at 105 s,
    // and again half-way back at 115 s.
    watch::Watch w(lorimer());
    w.see(0, Phase::climb, heads(208), true);
    w.see(60, Phase::climb, heads(232), true);
    w.see(100, Phase::climb, heads(240), true);
    w.see(110, Phase::climb, heads(256), true);
    w.see(120, Phase::climb, heads(240), true);
    w.see(600, Phase::climb, heads(240), true);
    const auto all = w.findings();
    ASSERT_EQ(all.size(), 1u);
    EXPECT_EQ(all[0].rule, Rule::limit);
    EXPECT_NEAR(all[0].begin, 105.0, 1e-9);
    EXPECT_NEAR(all[0].end, 115.0, 1e-9);
}

TEST(Watch, WhatFallsAsAnEngineIsStoppedIsNoExceedance) {
    std::vector<watch::Finding> all;
    EXPECT_EQ(fallen(all, Gauge::fuelPressure, 10.0, 1.0, true), nullptr) << "the cock was turned off";
    ASSERT_NE(fallen(all, Gauge::fuelPressure, 30.0, 1.0, true), nullptr) << "half a minute was not that";
    EXPECT_NEAR(fallen(all, Gauge::fuelPressure, 30.0, 1.0, true)->begin, 31.0, 1.0);
    EXPECT_NEAR(fallen(all, Gauge::fuelPressure, 30.0, 1.0, true)->end, 45.0, 1.01) << "but its last fifteen seconds";
    EXPECT_NE(fallen(all, Gauge::fuelPressure, 10.0, 1.0, false), nullptr) << "as long as it runs nobody knows";
    EXPECT_NE(fallen(all, Gauge::fuelPressure, 10.0, 1.0, true, Phase::cruise), nullptr) << "in the air it counts";
}
TEST(Watch, OilPressureCountsToTheLastTurn) {
    std::vector<watch::Finding> all;
    EXPECT_EQ(fallen(all, Gauge::oilPressure, 10.0, 0.6, true), nullptr) << "running down";
    const auto* lost = fallen(all, Gauge::oilPressure, 10.0, 1.0, true);
    ASSERT_NE(lost, nullptr) << "stopped because it was gone";
    EXPECT_EQ(lost->verdict.colour(), Colour::red);
}

TEST(Watch, AmberLastsAsLongAsTheNotesAllow) {
    for (const double lasts : {291.0, 293.0}) {
        watch::Watch w(lorimer());
        w.see(0, Phase::takeOff, heads(232), true);
        w.see(1, Phase::takeOff, heads(240), true);
        w.see(lasts, Phase::takeOff, heads(240), true);
        w.see(lasts + 8.0, Phase::takeOff, heads(232), true);
        const auto all = w.findings();
        const auto* late = of(all, Rule::amberTime);
        // From 232 °C at 0 s to 232 °C eight seconds after the last: as long as it lasts, and 8 s.
        if (lasts + 8.0 <= 300.0) {
            EXPECT_EQ(late, nullptr);
        } else {
            ASSERT_NE(late, nullptr) << lasts;
            EXPECT_NEAR(late->worst, lasts + 8.0, 1e-9);
            EXPECT_EQ(late->verdict.colour(), Colour::red);
        }
    }
}

TEST(Watch, TimeInAmberCountsOnlyWhereThePhaseLimitsIt) {
    watch::Watch w(lorimer());
    w.see(0, Phase::runUp, heads(210), true); // amber on the ground from 205: no time is given for that
    w.see(600, Phase::runUp, heads(228), true);
    w.see(600, Phase::takeOff, heads(233), true);
    w.see(800, Phase::takeOff, heads(250), true);
    w.see(1000, Phase::climb, heads(240), true);
    w.see(1400, Phase::climb, heads(240), true);
    EXPECT_EQ(of(w.findings(), Rule::amberTime), nullptr) << "200 s of take-off";
}

TEST(Watch, AStandingEngineIsNotJudgedAndEndsWhatWasOpen) {
    watch::Watch w(lorimer());
    w.see(0, Phase::climb, heads(240), true);
    w.see(60, Phase::climb, heads(240), true);
    w.see(61, Phase::climb, heads(400), false);
    w.see(100, Phase::climb, heads(240), true);
    const auto all = w.findings();
    ASSERT_EQ(all.size(), 2u);
    EXPECT_NEAR(all[0].end, 60.0, 1e-9);
    EXPECT_NEAR(all[0].worst, 240 + 273.15, 1e-9);
    EXPECT_NEAR(all[1].begin, 100.0, 1e-9);
}

TEST(Watch, TheGreatestFallIsThatOfAnyMinute) {
    watch::Watch w(lorimer());
    // 0.1 K/s for two minutes, 0.5 K/s for forty seconds, then steady: the worst minute holds 40 s of the fast and
    // 20 s of the slow fall, 22 K.
    w.see(0, Phase::letDown, heads(210), true);
    w.see(120, Phase::letDown, heads(198), true);
    w.see(160, Phase::letDown, heads(178), true);
    w.see(400, Phase::letDown, heads(178), true);
    EXPECT_NEAR(w.greatestFall(Phase::letDown), 22.0, 1e-9);
    EXPECT_EQ(w.greatestFall(Phase::climb), 0.0);
}

TEST(Watch, OilPressureIsAwaitedForItsSecondsAndThenJudged) {
    const double within = lorimer().start.oilPressureWithin.si(), psi = 6894.757;
    ASSERT_EQ(within, 30.0);
    const auto pressure = [&](double lbf) {
        Readings r;
        r[Gauge::oilPressure] = lbf * psi;
        return r;
    };
    watch::Watch in(lorimer()), late(lorimer());
    for (auto* w : {&in, &late}) {
        w->see(0, Phase::start, pressure(0), true);
        w->see(29, Phase::start, pressure(2), true);
    }
    in.see(30, Phase::start, pressure(60), true);
    in.see(90, Phase::start, pressure(60), true);
    EXPECT_TRUE(in.findings().empty()) << in.findings().front().verdict.sentence();
    in.see(91, Phase::start, pressure(5), true); // once there, a fall is judged at once
    EXPECT_NE(of(in.findings(), Rule::limit), nullptr);
    late.see(31, Phase::start, pressure(4), true);
    const auto all = late.findings();
    ASSERT_NE(of(all, Rule::limit), nullptr);
    EXPECT_EQ(of(all, Rule::limit)->begin, 31.0);
}

// Oil pressure of the Lorimer: 40 lbf/in² normal at the run-up, 25 the least; 55 the least in the air. Its take-off is
// at 2,650 rpm.
TEST(Watch, OilPressureOfTheTakeOffIsOfAnEngineThatHasOpenedUp) {
    const double psi = 6894.757;
    const auto seen = [&](std::vector<std::array<double, 3>> moments) { // s, rpm, lbf/in²
        watch::Watch w(lorimer());
        for (const auto& [at, rpm, pressure] : moments) {
            Readings r;
            r[Gauge::rpm] = rpm / 60.0;
            r[Gauge::oilPressure] = pressure * psi;
            w.see(at, at < 10 ? Phase::runUp : Phase::takeOff, r, true);
        }
        auto all = w.findings();
        std::erase_if(all, [](const auto& f) { return f.gauge != Gauge::oilPressure; }); // rpm that have yet to rise
        return all;
    };
    EXPECT_TRUE(seen({{0, 900, 50}, {10, 900, 50}, {17, 1200, 50}, {20, 2400, 80}, {30, 2650, 85}}).empty())
        << "it idles on the runway";
    const auto low = seen({{0, 900, 50}, {10, 900, 20}, {17, 1200, 50}, {20, 2400, 80}});
    ASSERT_EQ(low.size(), 1u);
    EXPECT_EQ(low[0].verdict.colour(), Colour::red) << "under the run-up's least it never was";
    const auto falls = seen({{0, 900, 50}, {10, 900, 50}, {20, 2600, 80}, {25, 2600, 50}, {30, 1500, 50}});
    ASSERT_EQ(falls.size(), 1u);
    EXPECT_EQ(falls[0].verdict.colour(), Colour::red) << "once opened up it counts, whatever the rpm are then";
    EXPECT_EQ(falls[0].phase, Phase::takeOff);
    EXPECT_EQ(seen({{0, 900, 50}, {10, 900, 50}, {20, 1900, 50}, {30, 2000, 50}}).size(), 1u)
        << "three quarters of 2,650 is 1,988";
}

TEST(Watch, CountsTheSecondsAtHighPowerOnTheGroundAndNoOthers) {
    // From 1,900 rpm, 90 s at most: 50 s, then 39.5 s more are allowed, half a second further is not; the take-off does
    // not count.
    watch::Watch w(lorimer());
    const auto turning = [](double rpm) {
        Readings r;
        r[Gauge::rpm] = rpm / 60;
        return r;
    };
    w.see(0, Phase::runUp, turning(1900), true);
    w.see(50, Phase::runUp, turning(1890), true);
    w.see(80, Phase::runUp, turning(2400), true);
    w.see(119.5, Phase::runUp, turning(2400), true);
    EXPECT_NEAR(w.highPower(), 89.5, 1e-9);
    EXPECT_EQ(of(w.findings(), Rule::highPower), nullptr);
    w.see(121, Phase::takeOff, turning(2700), true);
    w.see(180, Phase::takeOff, turning(2700), true);
    EXPECT_NEAR(w.highPower(), 91.0, 1e-9);
    const auto all = w.findings();
    const auto* found = of(all, Rule::highPower);
    ASSERT_NE(found, nullptr);
    EXPECT_EQ(found->begin, 0.0);
    EXPECT_EQ(found->end, 121.0);
    EXPECT_EQ(found->verdict.colour(), Colour::amber);
    EXPECT_EQ(found->verdict.sentence(), "91 s at high power on the ground, limit 90 s.");
}

TEST(Watch, TheStarterTurnsNoLongerThanItMayAndRests) {
    const auto& start = lorimer().start;
    ASSERT_EQ(start.crankMost.si(), 20.0);
    const double rest = start.rest.si();
    watch::Watch w(lorimer(), "2");
    w.starter(0, true);
    w.starter(20.1, false); // a tenth of a second is the hand's
    w.starter(20.1 + rest, true);
    w.starter(25 + rest, false);
    EXPECT_EQ(of(w.findings(), Rule::starterDuty), nullptr);
    w.starter(25 + 1.5 * rest, true);
    w.starter(46 + 1.5 * rest, false);
    const auto all = w.findings();
    ASSERT_EQ(all.size(), 2u);
    EXPECT_NEAR(all[0].worst, 0.5 * rest, 1e-9) << "of its rest";
    EXPECT_NEAR(all[1].worst, 21, 1e-9) << "turning";
    EXPECT_EQ(all[0].engine, "2");
    EXPECT_EQ(all[1].verdict.colour(), Colour::red);
}

TEST(Watch, JudgesWhatCanBeRead) {
    watch::Watch w(lorimer());
    w.see(0, Phase::climb, heads(232.4), true); // reads 232
    EXPECT_TRUE(w.findings().empty());
    w.see(1, Phase::climb, heads(232.6), true); // reads 233
    EXPECT_EQ(w.findings().size(), 1u);
}

TEST(Rules, HaveTheirColoursAndWordsInOnePlace) {
    for (const auto& row : watch::ruleTable) {
        EXPECT_NE(row.colour, Colour::normal) << row.id;
        EXPECT_FALSE(row.what.empty()) << row.id;
        const auto verdict = watch::broken(row.rule, "so");
        EXPECT_EQ(verdict.colour(), row.colour);
        EXPECT_EQ(watch::unless(true, row.rule, "so").colour(), Colour::normal);
        for (const auto& other : watch::ruleTable)
            EXPECT_TRUE(&row == &other || row.id != other.id) << row.id;
    }
}

TEST(Rules, TheirFiguresAreThoseOfTheTrade) {
    EXPECT_EQ(watch::battery(0.49, "").colour(), Colour::amber);
    EXPECT_EQ(watch::battery(0.51, "").colour(), Colour::normal);
    EXPECT_EQ(watch::turnsSlowly(0.54, 1.0, "").colour(), Colour::amber);
    EXPECT_EQ(watch::turnsSlowly(0.56, 1.0, "").colour(), Colour::normal);
    EXPECT_EQ(watch::starterCurrent(-0.01, false, "").colour(), Colour::red);
    EXPECT_EQ(watch::starterCurrent(0.1, true, "").colour(), Colour::amber);
    EXPECT_EQ(watch::knockRoom(-290, 1.2e5, "").colour(), Colour::normal) << "a reading's width";
    EXPECT_EQ(watch::knockRoom(-310, 1.2e5, "").colour(), Colour::amber);
    EXPECT_EQ(watch::knockRoom(-0.021 * 1.2e5, 1.2e5, "").colour(), Colour::red) << "past the error of the model";
    EXPECT_EQ(watch::coolingRate(20.0, 20.0, "").colour(), Colour::normal) << "as much as allowed is allowed";
    EXPECT_EQ(watch::coolingRate(20.1, 20.0, "").colour(), Colour::red);
    EXPECT_EQ(watch::queue(std::nullopt, 7200, "").colour(), Colour::normal);
    EXPECT_EQ(watch::queue(300, 301, "").colour(), Colour::amber);
    EXPECT_EQ(watch::highPower(46, 45, "").colour(), Colour::amber);
    EXPECT_EQ(watch::highPower(46, std::nullopt, "").colour(), Colour::normal);
    EXPECT_EQ(watch::coolingLeast(399, 400, "").colour(), Colour::amber);
    EXPECT_EQ(watch::starterAir(1e5, 2e5, "").colour(), Colour::amber);
}

TEST(GaugeRegister, HasEveryGaugeOnceWithItsKeyAndExport) {
    for (const auto& row : gaugeRegister) {
        EXPECT_EQ(&nameOf(row.gauge), &row);
        EXPECT_FALSE(row.exported.empty()) << row.key;
        EXPECT_EQ(gaugeFromKey(row.key).has_value(), row.limited) << row.key;
        for (const auto& other : gaugeRegister)
            EXPECT_TRUE(&row == &other || (row.key != other.key && row.exported != other.exported)) << row.key;
    }
    EXPECT_TRUE(std::isnan(Readings{}[Gauge::torque]));
    Readings coolant;
    coolant[Gauge::coolantTemperature] = 360;
    EXPECT_EQ(coolant.headOrCoolant(), 360);
}
TEST(WatchFigures, AFallIsReadFromWhereAMinuteAgoItStood) {
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    watch::Watch w(n);
    const auto see = [&](double time, double kelvin) {
        flight::Sample s;
        s.time = time;
        s.phase = Phase::letDown;
        s[Gauge::headTemperature] = kelvin;
        s[Gauge::oilTemperature] = 345;
        w.see(time, Phase::letDown, s, true);
    };
    see(100, 400);
    see(160, 395);
    see(190, 330);
    // Thirty seconds in it stood half-way, at 397.5 K.
    EXPECT_NEAR(w.greatestFall(Phase::letDown), 67.5, 0.01);
}

TEST(Watch, NormalBetweenMakesTwoOfIt) {
    watch::Watch w(lorimer());
    w.see(0, Phase::climb, heads(200), true);
    w.see(100, Phase::climb, heads(240), true);
    w.see(200, Phase::climb, heads(220), true); // 232 is passed downwards at 140 s
    w.see(300, Phase::climb, heads(220), true);
    w.see(400, Phase::climb, heads(236), true); // and upwards at 375 s
    w.see(500, Phase::climb, heads(236), true);
    const auto all = w.findings();
    ASSERT_EQ(all.size(), 2u);
    EXPECT_NEAR(all[0].begin, 80.0, 1e-9);
    EXPECT_NEAR(all[0].end, 140.0, 1e-9);
    EXPECT_NEAR(all[0].worst, 240 + 273.15, 1e-9);
    EXPECT_NEAR(all[1].begin, 375.0, 1e-9);
    EXPECT_NEAR(all[1].end, 500.0, 1e-9);
    EXPECT_NEAR(all[1].worst, 236 + 273.15, 1e-9);
}

TEST(Watch, AFallIsNotCountedAcrossAStop) {
    watch::Watch w(lorimer());
    w.see(0, Phase::climb, heads(220), true);
    w.see(10, Phase::climb, heads(220), true);
    w.see(20, Phase::climb, heads(160), false);
    w.see(30, Phase::climb, heads(150), true);
    w.see(60, Phase::climb, heads(150), true);
    EXPECT_EQ(w.greatestFall(Phase::climb), 0.0);
    watch::Watch runs(lorimer());
    runs.see(0, Phase::climb, heads(220), true);
    runs.see(30, Phase::climb, heads(150), true);
    EXPECT_NEAR(runs.greatestFall(Phase::climb), 70.0, 1e-9);
}

} // namespace
