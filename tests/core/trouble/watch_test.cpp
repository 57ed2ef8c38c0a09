// SPDX-License-Identifier: GPL-3.0-or-later
#include "test_data.h"
#include "watch/judge.h"
#include "watch/rating_clock.h"
#include <limits>
#include <rapidcheck/gtest.h>

using namespace amber;
using watch::Colour;

namespace {

const TypeNotes& notes() {
    return test::demo("lorimer").aircraft->notes;
}
double kelvinsOf(double t) {
    return Temperature::of(t, units::celsius).si();
}

TEST(Judge, NormalAmberRedInThePhasesOwnLimits) {
    EXPECT_EQ(watch::judge(notes(), Gauge::headTemperature, Phase::climb, kelvinsOf(220)).colour(), Colour::normal);
    EXPECT_EQ(watch::judge(notes(), Gauge::headTemperature, Phase::climb, kelvinsOf(240)).colour(), Colour::amber);
    EXPECT_EQ(watch::judge(notes(), Gauge::headTemperature, Phase::climb, kelvinsOf(250)).colour(), Colour::red);
    // The same reading is allowed at take-off.
    EXPECT_EQ(watch::judge(notes(), Gauge::headTemperature, Phase::takeOff, kelvinsOf(250)).colour(), Colour::amber);
    EXPECT_EQ(watch::judge(notes(), Gauge::oilTemperature, Phase::takeOff, kelvinsOf(39)).colour(), Colour::red);
    EXPECT_EQ(watch::judge(notes(), Gauge::oilTemperature, Phase::takeOff, kelvinsOf(42)).colour(), Colour::amber);
}

TEST(Judge, OnTheLimitIsNotPastIt) {
    EXPECT_EQ(watch::judge(notes(), Gauge::boost, Phase::takeOff, ManifoldPressure::of(45, units::manifold::inHg).si())
                  .colour(),
              Colour::normal);
    EXPECT_EQ(
        watch::judge(notes(), Gauge::boost, Phase::takeOff, ManifoldPressure::of(45.1, units::manifold::inHg).si())
            .colour(),
        Colour::red);
}

TEST(Judge, SaysWhyInTheGaugesOwnUnits) {
    const auto j = watch::judge(notes(), Gauge::headTemperature, Phase::climb, kelvinsOf(240));
    EXPECT_EQ(j.sentence(), "Head temp. 240 °C, normal to 232 °C, limit 248 °C.");
    EXPECT_NE(
        watch::judge(notes(), Gauge::headTemperature, Phase::takeOff, kelvinsOf(240)).sentence().find("5:00 allowed"),
        std::string::npos);
    EXPECT_NE(watch::judge(notes(), Gauge::oilTemperature, Phase::takeOff, kelvinsOf(10))
                  .sentence()
                  .find("minimum 40 °C for Take-off"),
              std::string::npos);
}

TEST(Judge, WhatCannotBeReadIsRedAndWhatHasNoLimitsSaysSo) {
    EXPECT_EQ(
        watch::judge(notes(), Gauge::oilTemperature, Phase::climb, std::numeric_limits<double>::quiet_NaN()).colour(),
        Colour::red);
    const auto j = watch::judge(notes(), Gauge::coolantTemperature, Phase::climb, kelvinsOf(90));
    EXPECT_EQ(j.colour(), Colour::normal);
    EXPECT_NE(j.sentence().find("no limits"), std::string::npos);
}

RC_GTEST_PROP(JudgeProperty, FartherOutIsNeverABetterColour, ()) {
    const auto gauge =
        *rc::gen::element(Gauge::headTemperature, Gauge::oilTemperature, Gauge::oilPressure, Gauge::rpm, Gauge::boost);
    const auto phase = static_cast<Phase>(*rc::gen::inRange(1, static_cast<int>(plannedPhases)));
    const Band& band = notes().gauges.at(gauge).in(phase);
    const double high = *band.normalHigh, step = 0.01 * high;
    const double a = high + step * *rc::gen::inRange(0, 60), b = a + step * *rc::gen::inRange(0, 30);
    RC_ASSERT(watch::judge(notes(), gauge, phase, b).colour() >= watch::judge(notes(), gauge, phase, a).colour());
    RC_ASSERT(watch::judge(notes(), gauge, phase, a).colour() == watch::colourOf(band, a));
}

TEST(RatingClock, CountsToAmberAndRed) {
    watch::RatingClock clock(*notes().rating("take-off"));
    clock.add(Duration::si(120));
    EXPECT_EQ(clock.verdict().colour(), Colour::normal);
    EXPECT_NEAR(clock.left()->si(), 180, 1e-9);
    clock.add(Duration::si(150));
    EXPECT_EQ(clock.verdict().colour(), Colour::amber);
    EXPECT_NE(clock.verdict().sentence().find("4:30 used of 5:00"), std::string::npos);
    clock.add(Duration::si(31));
    EXPECT_EQ(clock.verdict().colour(), Colour::red);
    EXPECT_FALSE(watch::RatingClock(*notes().rating("climb")).left().has_value());
}

} // namespace
