// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "air/day.h"
#include "air/humidity.h"
#include "units/unit_table.h"
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>

using namespace amber;

namespace {

struct Tabulated {
    double height, temperature, pressure, density;
};

// ICAO Doc 7488/3, tables by geopotential altitude.
class StandardAtmosphere : public testing::TestWithParam<Tabulated> {};

TEST_P(StandardAtmosphere, AgreesWithTheTablesToFiveFigures) {
    const auto& row = GetParam();
    const Length h = Length::si(row.height);
    EXPECT_NEAR(air::standardTemperature(h).si() / row.temperature, 1.0, 1e-5);
    EXPECT_NEAR(air::pressureAtAltitude(h).si() / row.pressure, 1.0, 1.5e-5);
    EXPECT_NEAR(air::standardDensity(h) / row.density, 1.0, 2e-5);
    EXPECT_NEAR(air::pressureAltitude(Pressure::si(row.pressure)).si(), row.height, 0.2);
}

INSTANTIATE_TEST_SUITE_P(
    Doc7488, StandardAtmosphere,
    testing::Values(Tabulated{0, 288.150, 101325.0, 1.22500}, Tabulated{1000, 281.650, 89874.6, 1.11164},
                    Tabulated{2000, 275.150, 79495.2, 1.00649}, Tabulated{5000, 255.650, 54019.9, 0.736116},
                    Tabulated{8000, 236.150, 35599.8, 0.525168}, Tabulated{11000, 216.650, 22632.0, 0.363918},
                    Tabulated{15000, 216.650, 12044.5, 0.193674}, Tabulated{20000, 216.650, 5474.88, 0.0880348}));

TEST(Air, FieldPressureFollowsTheAltimeter) {
    // On the standard setting the field pressure is the standard pressure of its elevation.
    const Length field = Length::of(5380, units::foot);
    EXPECT_NEAR(air::fieldPressure(Pressure::si(101325), field).si(), air::pressureAtAltitude(field).si(), 0.5);
    // About 27 ft a hectopascal near sea level.
    air::Day day = air::standardDay(Length::of(302, units::foot));
    day.qnh = Pressure::of(1009, units::hPa);
    EXPECT_NEAR(day.pressureAltitude().in(units::foot), 302 + 4.25 * 27.3, 3);
}

TEST(Air, DensityAltitudeOfTheStandardDayIsItsHeight) {
    for (const double feet : {0.0, 2000.0, 8000.0})
        EXPECT_NEAR(air::standardDay(Length::of(feet, units::foot)).densityAltitude().in(units::foot), feet, 3.0);
}

TEST(Air, HumidAirIsLighter) {
    air::Day dry = air::standardDay(Length{});
    dry.oat = Temperature::of(30, units::celsius);
    air::Day humid = dry;
    humid.dewPoint = Temperature::of(28, units::celsius);
    EXPECT_GT(humid.densityAltitude().in(units::foot), dry.densityAltitude().in(units::foot) + 300);
    EXPECT_NEAR(air::vapourPressure(Temperature::of(20, units::celsius)).si(), 2333.4,
                10); // Alduchov & Eskridge at 20 °C
    EXPECT_NEAR(air::relativeHumidity(Temperature::of(20, units::celsius), Temperature::of(9.3, units::celsius)), 0.50,
                0.01);
}

TEST(Air, AirspeedsGoThereAndBack) {
    const air::Ambient high = air::standardDay(Length{}).at(Length::of(20000, units::foot));
    const Speed cas = Speed::of(160, units::knot);
    const Speed tas = air::trueAirspeed(cas, high.pressure, high.temperature);
    EXPECT_NEAR(tas.in(units::knot), 217, 2.0); // compressible: a little under CAS/√σ
    EXPECT_NEAR(air::calibratedAirspeed(tas, high.pressure, high.temperature).in(units::knot), 160, 1e-6);
    // ½ρV² with a small compressible correction.
    EXPECT_NEAR(air::impactPressure(cas).si(), 0.5 * 1.225 * cas.si() * cas.si() * (1 + 0.25 * 0.0585), 3);
}

RC_GTEST_PROP(AirProperty, HigherIsThinnerOnEveryDay, ()) {
    air::Day day = air::standardDay(Length::si(*rc::gen::inRange(0, 2500)));
    day.qnh = Pressure::si(*rc::gen::inRange(96000, 104000));
    day.oat = Temperature::si(*rc::gen::inRange(243, 318));
    const double h = *rc::gen::inRange(0, 9000);
    const auto low = day.at(Length::si(h)), high = day.at(Length::si(h + 300));
    RC_ASSERT(low.pressure > high.pressure);
    RC_ASSERT(air::density(low.pressure, low.temperature) > air::density(high.pressure, high.temperature));
}

} // namespace
