// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/metar.h"
#include "units/unit_table.h"
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>

using namespace amber;

namespace {

TEST(Metar, ReadsTheUsualGroups) {
    const auto r = air::readMetar("METAR XXRF 250650Z 24008G18KT 210V270 9999 -RA SCT030 BKN045CB M02/M05 Q1009 NOSIG");
    ASSERT_TRUE(r.ok()) << r.error();
    EXPECT_EQ(r.value().station, "XXRF");
    EXPECT_NEAR(r.value().temperature->in(units::celsius), -2, 1e-9);
    EXPECT_NEAR(r.value().dewPoint->in(units::celsius), -5, 1e-9);
    EXPECT_NEAR(r.value().qnh->in(units::hPa), 1009, 1e-9);
    EXPECT_EQ(r.value().wind->fromDegrees, 240);
    EXPECT_NEAR(r.value().wind->speed.in(units::knot), 8, 1e-9);
    EXPECT_TRUE(r.value().notRead.empty()) << r.value().summary();
}

TEST(Metar, ReadsInchesOfMercuryAndIgnoresRemarks) {
    const auto r =
        air::readMetar("SPECI XXUF 251200Z AUTO VRB03KT 10SM CLR 31/14 A2992 RMK AO2 SLP130 T03110139 Q1050");
    ASSERT_TRUE(r.ok()) << r.error();
    EXPECT_NEAR(r.value().qnh->in(units::inHg), 29.92, 1e-9);
    EXPECT_EQ(r.value().wind->fromDegrees, 0);
    EXPECT_TRUE(r.value().notRead.empty()) << r.value().summary();
}

TEST(Metar, SaysWhatItCannotRead) {
    const auto r = air::readMetar("XXRF 250650Z 24008KT 9999 06/03 Q1009 WIBBLE 3/X");
    ASSERT_TRUE(r.ok());
    EXPECT_EQ(r.value().notRead, (std::vector<std::string>{"WIBBLE", "3/X"}));
    EXPECT_NE(r.value().summary().find("WIBBLE"), std::string::npos);
}

TEST(Metar, MissingValuesStayAsTheyWere) {
    const auto r = air::readMetar("XXRF 250650Z /////KT //// 06/// Q////");
    ASSERT_TRUE(r.ok());
    air::Day day = air::standardDay(Length{});
    const air::Day after = r.value().applied(day);
    EXPECT_NEAR(after.oat.in(units::celsius), 6, 1e-9);
    EXPECT_EQ(after.qnh.si(), day.qnh.si());
    EXPECT_EQ(after.dewPoint.si(), day.dewPoint.si());
    EXPECT_NE(r.value().summary().find("Not given"), std::string::npos);
}

TEST(Metar, RefusesWhatIsNoReport) {
    EXPECT_FALSE(air::readMetar("").ok());
    EXPECT_FALSE(air::readMetar("   \n ").ok());
    EXPECT_FALSE(air::readMetar("the weather is fine").ok());
    EXPECT_FALSE(air::readMetar(std::string(100000, 'A')).ok());
    // A pressure nobody has ever seen is a slip.
    const auto r = air::readMetar("XXRF 250650Z 06/03 Q0100");
    ASSERT_TRUE(r.ok());
    EXPECT_FALSE(r.value().qnh.has_value());
}

RC_GTEST_PROP(MetarProperty, AnyTextIsReadOrRefused, (const std::string& text)) {
    const auto r = air::readMetar(text);
    const bool sound = r.ok() || !r.error().empty();
    RC_ASSERT(sound);
}

TEST(Metar, WhatItGivesIsTheDay) {
    const auto r = air::readMetar("XXRF 250650Z 24008KT 9999 M02/M05 Q1009");
    ASSERT_TRUE(r.ok());
    const air::Day day = r.value().applied(air::standardDay(Length::si(300)));
    EXPECT_NEAR(day.qnh.in(units::hPa), 1009, 1e-9);
    EXPECT_NEAR(day.oat.in(units::celsius), -2, 1e-9);
    EXPECT_NEAR(day.dewPoint.in(units::celsius), -5, 1e-9);
    EXPECT_EQ(day.wind.fromDegrees, 240);
    EXPECT_NEAR(day.wind.speed.in(units::knot), 8, 1e-9);
    EXPECT_EQ(day.elevation.si(), 300) << "the field does not move";
}

} // namespace
