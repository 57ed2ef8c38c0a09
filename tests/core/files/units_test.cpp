// SPDX-License-Identifier: GPL-3.0-or-later
#include "units/text.h"
#include "units/unit_table.h"
#include <cmath>
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>
#include <type_traits>

using namespace amber;

namespace {

// A value cannot be used in the wrong unit by accident: these must not compile.
template <class A, class B>
concept Addable = requires(A a, B b) {
    a + b;
};
template <class Q, class U>
concept MadeFrom = requires(U unit) {
    Q::of(1.0, unit);
};
static_assert(!Addable<Temperature, Temperature>, "two temperatures have no sum");
static_assert(Addable<Temperature, TemperatureDifference>);
static_assert(!Addable<ManifoldPressure, ManifoldPressure>);
static_assert(!Addable<Speed, Length>);
static_assert(!std::is_convertible_v<double, Pressure>);
static_assert(!std::is_convertible_v<Pressure, ManifoldPressure>);
static_assert(!MadeFrom<ManifoldPressure, Unit<Dimension::pressure>>, "a boost is not a pressure difference");
static_assert(MadeFrom<Pressure, Unit<Dimension::pressure>>);

TEST(Units, ReadsWhatPeopleWrite) {
    const auto boost = read<Dimension::manifoldPressure>("39 inHg");
    ASSERT_TRUE(boost.ok());
    EXPECT_NEAR(boost.value().in(units::manifold::inHg), 39.0, 1e-9);
    EXPECT_NEAR(read<Dimension::manifoldPressure>("+8 lb").value().in(units::manifold::boost), 8.0, 1e-9);
    EXPECT_NEAR(read<Dimension::temperature>("6 °C").value().si(), 279.15, 1e-9);
    EXPECT_NEAR(read<Dimension::temperature>("−5 C").value().in(units::celsius), -5.0, 1e-9);
    EXPECT_NEAR(read<Dimension::mass>("27,400 lb").value().in(units::pound), 27400.0, 1e-6);
    EXPECT_NEAR(read<Dimension::temperature>("212 °F").value().in(units::celsius), 100.0, 1e-9);
    EXPECT_NEAR(read<Dimension::pressure>("29.92 inHg").value().in(units::hPa), 1013.2, 0.05);
    EXPECT_NEAR(read<Dimension::speed>("130kt").value().si(), 130 * 1852.0 / 3600, 1e-9);
}

TEST(Units, ACommaThatCannotSeparateThousandsIsADecimalOne) {
    const auto value = [](const char* text) { return read<Dimension::mass>(text).value().in(units::pound); };
    EXPECT_NEAR(value("7,5 lb"), 7.5, 1e-9);
    EXPECT_NEAR(value("29,80 lb"), 29.8, 1e-9);
    EXPECT_NEAR(value("0,125 lb"), 0.125, 1e-9) << "no number begins with a nought and thousands";
    EXPECT_NEAR(value("-1,2345 lb"), -1.2345, 1e-9);
    EXPECT_NEAR(value("1,009 lb"), 1009, 1e-9) << "a thousands mark wherever it can be one";
    EXPECT_NEAR(value("1,234,567.5 lb"), 1234567.5, 1e-6);
    for (const char* bad : {"7, lb", "1,23,4 lb", "7,5,1 lb", ",5 lb", "1,23.4 lb"})
        EXPECT_FALSE(read<Dimension::mass>(bad).ok()) << bad;
}

TEST(Units, AFigureMayBeGivenInAUnitAndASmallerOne) {
    const auto metres = [](const char* text) { return read<Dimension::length>(text); };
    EXPECT_NEAR(metres("10 ft 9 in").value().si(), 3.2766, 1e-9);
    EXPECT_NEAR(metres("10ft 9.5in").value().si(), 3.2893, 1e-9);
    EXPECT_NEAR(metres("-1 ft 6 in").value().si(), -0.4572, 1e-9);
    EXPECT_NEAR(read<Dimension::duration>("1 h 20 min").value().si(), 4800.0, 1e-9);
    for (const char* text : {"10 ft 13 in", "9 in 2 ft", "10 ft 9", "10 ft 9 lb", "10 ft -9 ft"})
        EXPECT_FALSE(metres(text).ok()) << text;
    EXPECT_FALSE(read<Dimension::temperature>("20 °C 10 °F").ok()) << "a scale with its own zero has no parts";
}

TEST(Units, BoostCountsFromTheStandardAtmosphere) {
    EXPECT_NEAR(ManifoldPressure::of(0.0, units::manifold::boost).si(), 101325.0, 1e-9);
    // +12 lbf/in² is 54.3 inHg absolute.
    EXPECT_NEAR(ManifoldPressure::of(12.0, units::manifold::boost).in(units::manifold::inHg), 54.35, 0.05);
    EXPECT_NEAR(ManifoldPressure::of(1.0, units::manifold::ata).in(units::manifold::mmHg), 735.56, 0.01);
}

TEST(Units, RefusesWhatIsNotAFigureOfThatKind) {
    for (const char* bad : {"", "inHg", "39", "39 kt", "nan inHg", "inf inHg", "1e999 inHg", "3 9 inHg", "1,234,5 inHg",
                            "--4 inHg", "39 inHg inHg"})
        EXPECT_FALSE(read<Dimension::manifoldPressure>(bad).ok()) << bad;
    EXPECT_NE(read<Dimension::manifoldPressure>("39 kt").error().find("inHg"), std::string::npos)
        << "the message names the units that would do";
}

TEST(Units, AssumesAUnitOnlyWhenGiven) {
    EXPECT_FALSE(read<Dimension::pressure>("1012").ok());
    EXPECT_NEAR(read<Dimension::pressure>("1012", units::hPa.spec).value().in(units::hPa), 1012.0, 1e-9);
    EXPECT_NEAR(read<Dimension::pressure>("29.80 inHg", units::hPa.spec).value().in(units::inHg), 29.80, 1e-9);
}

TEST(Units, FormatsWithSignsSeparatorsAndSensibleDecimals) {
    EXPECT_EQ(format(Rotation::of(2350, units::rpm), units::rpm), "2,350 rpm");
    EXPECT_EQ(format(ManifoldPressure::of(8, units::manifold::boost), units::manifold::boost), "+8 lbf/in²");
    EXPECT_EQ(format(ManifoldPressure::of(-3.5, units::manifold::boost), units::manifold::boost), "−3.5 lbf/in²");
    EXPECT_EQ(format(ManifoldPressure::of(40.5, units::manifold::inHg), units::manifold::inHg), "40.5 inHg");
    EXPECT_EQ(format(Temperature::of(-0.2, units::celsius), units::celsius), "0 °C");
    EXPECT_EQ(format(Mass::of(1234567, units::pound), units::pound), "1,234,567 lb");
    EXPECT_EQ(formatHeight(2926.1, *units::foot.spec), "9,600 ft");
    EXPECT_EQ(formatHeight(2926.1, *units::metre.spec), "2,930 m");
    EXPECT_EQ(formatHoursMinutes(2810), "0:47");
    EXPECT_EQ(formatMinutesSeconds(460), "7:40");
}

RC_GTEST_PROP(UnitsProperty, WhatIsFormattedReadsBackInEveryUnit, ()) {
    const auto dimension =
        *rc::gen::element(Dimension::manifoldPressure, Dimension::pressure, Dimension::temperature, Dimension::speed,
                          Dimension::length, Dimension::volume, Dimension::mass, Dimension::power, Dimension::duration);
    const auto all = unitsOf(dimension);
    const auto& unit = all[static_cast<std::size_t>(*rc::gen::inRange<int>(0, static_cast<int>(all.size())))];
    const double value = *rc::gen::inRange(-90000, 90000) / 8.0;
    const double si = value * unit.scale + unit.offset;
    const auto back = readQuantity(dimension, format(si, unit, 3));
    RC_ASSERT(back.ok());
    RC_ASSERT(std::abs(back.value().si - si) <= 1e-3 * unit.scale * (1 + 1e-9));
}

RC_GTEST_PROP(UnitsProperty, AnyTextIsReadOrRefusedNeverTrapped, (const std::string& text)) {
    const auto result = readQuantity(Dimension::pressure, text);
    const bool sound = result.ok() ? std::isfinite(result.value().si) : !result.error().empty();
    RC_ASSERT(sound);
}

TEST(Text, TwoFiguresAreToldApartByUpToThreeMorePlaces) {
    const UnitSpec& rpm = *units::rpm.spec;
    ASSERT_EQ(rpm.decimals, 0);
    const auto of = [&](double a, double b) { return decimalsToTell(a / 60, b / 60, rpm); };
    EXPECT_EQ(of(1000, 1001), -1) << "told apart as they are";
    EXPECT_EQ(of(1000.1, 1000.4), 1);
    EXPECT_EQ(of(1000.11, 1000.14), 2);
    EXPECT_EQ(of(1000.111, 1000.114), 3);
    EXPECT_EQ(of(1000, 1000), -1);
}

} // namespace
