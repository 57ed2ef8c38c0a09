// SPDX-License-Identifier: GPL-3.0-or-later
#include "sortie/sortie.h"
#include "test_data.h"
#include <rapidcheck/gtest.h>

using namespace amber;

namespace {

/// The demo as a sortie that names its notes itself, without a file of the airframe.
const Sortie& lorimerSortie() {
    static const Sortie plain = [] {
        Sortie s = *test::demo("lorimer").sortie;
        s.airframe.file.clear();
        s.airframe.facts.reset();
        return s;
    }();
    return plain;
}

void expectSame(const Sortie& a, const Sortie& b) {
    EXPECT_EQ(a.title, b.title);
    EXPECT_EQ(a.airframe.notes, b.airframe.notes);
    EXPECT_EQ(a.airframe.registration, b.airframe.registration);
    EXPECT_EQ(a.airframe.extraPrime, b.airframe.extraPrime);
    EXPECT_EQ(a.day.field, b.day.field);
    EXPECT_NEAR(a.day.qnh.si(), b.day.qnh.si(), 1e-3);
    EXPECT_NEAR(a.day.oat.si(), b.day.oat.si(), 1e-6);
    EXPECT_NEAR(a.weight.si(), b.weight.si(), 1e-3);
    EXPECT_EQ(a.fuelGrade, b.fuelGrade);
    EXPECT_NEAR(a.flight.distance.si(), b.flight.distance.si(), 0.1);
    EXPECT_NEAR(a.flight.cruiseHeight.si(), b.flight.cruiseHeight.si(), 1e-3);
    EXPECT_EQ(a.choices, b.choices);
    ASSERT_EQ(a.contents.size(), b.contents.size());
    for (const auto& [tank, volume] : a.contents)
        EXPECT_NEAR(volume.si(), b.contents.at(tank).si(), 1e-9);
}

TEST(Sortie, WritesWhatItReads) {
    Sortie s = lorimerSortie();
    s.title = "A \"quoted\" title\\ with\ttabs\nand lines";
    s.choices["start/propeller"] = "coarse until oil pressure";
    s.weight = Mass::of(27400, units::pound);
    s.load.weightTyped = true;
    const auto text = writeSortie(s, test::demo("lorimer").aircraft->notes.cockpit);
    const auto back = readSortie(text, "s.toml");
    ASSERT_TRUE(back.sortie) << (back.problems.empty() ? "" : back.problems.front().text()) << text;
    expectSame(s, *back.sortie);
    EXPECT_NE(text.find("weight = \"27400 lb\""), std::string::npos) << "in the cockpit's own units";
}

RC_GTEST_PROP(SortieProperty, AnyTitleAndFigureSurvives, (const std::string& title)) {
    Sortie s = lorimerSortie();
    std::string clean; // TOML files are UTF-8: any ASCII will do here
    for (const char c : title)
        if (static_cast<unsigned char>(c) < 0x80)
            clean += c;
    s.title = clean;
    s.day.qnh = Pressure::si(*rc::gen::inRange(86000, 109000) + 0.25);
    const auto back = readSortie(writeSortie(s, test::demo("lorimer").aircraft->notes.cockpit), "s.toml");
    RC_ASSERT(back.sortie.has_value());
    RC_ASSERT(back.sortie->title == clean);
    RC_ASSERT(std::abs(back.sortie->day.qnh.si() - s.day.qnh.si()) < 1e-3);
}

TEST(Sortie, EveryFaultIsNamedWithItsLine) {
    std::string text = test::fileText(test::dataPath("demo/lorimer-spring.toml"));
    text = test::replaced(text, "qnh = \"1009 hPa\"", "qnh = \"1009 kt\"");
    text = test::replaced(text, "oat = \"6 °C\"", "oat = \"600 °C\"");
    text = test::replaced(text, "grade = \"100\"", "graed = \"100\"");
    const auto reading = readSortie(text, "bad.toml");
    EXPECT_FALSE(reading.sortie);
    std::string all;
    for (const auto& p : reading.problems)
        all += p.text() + "\n";
    EXPECT_NE(all.find("bad.toml:11: day.qnh"), std::string::npos) << all;
    EXPECT_NE(all.find("bad.toml:12: day.oat = \"600 °C\" is out of range. Between −60 and 60 °C"), std::string::npos)
        << all;
    EXPECT_NE(all.find("load.graed"), std::string::npos) << all;
    EXPECT_NE(all.find("load.grade is missing"), std::string::npos) << all;
}

TEST(Sortie, WhatDoesNotFitTheTypeIsRefused) {
    const auto& notes = test::demo("lorimer").aircraft->notes;
    const auto problems = [&](auto change) {
        Sortie s = lorimerSortie();
        change(s);
        std::string all;
        for (const auto& p : checkSortie(s, notes, "s.toml"))
            all += p.text() + "\n";
        return all;
    };
    EXPECT_EQ(problems([](Sortie&) {}), "");
    EXPECT_NE(problems([](Sortie& s) {
                  s.weight = Mass::of(60000, units::pound);
                  s.load.weightTyped = true;
              }).find("29,500 lb"),
              std::string::npos);
    EXPECT_NE(problems([](Sortie& s) { s.flight.climbRating = "warp"; }).find("no rating \"warp\""), std::string::npos);
    EXPECT_NE(
        problems([](Sortie& s) { s.contents["front"] = Volume::of(900, units::usGallon); }).find("holds 400 US gal"),
        std::string::npos);
    EXPECT_NE(problems([](Sortie& s) { s.contents["tip"] = Volume{}; }).find("no tank \"tip\""), std::string::npos);
    EXPECT_NE(problems([](Sortie& s) { s.fuelGrade = "paraffin"; }).find("100, 91"), std::string::npos);
    EXPECT_NE(problems([](Sortie& s) {
                  s.flight.cruiseHeight = Length::of(100, units::foot);
              }).find("below one of the fields"),
              std::string::npos);
}

TEST(Sortie, ABrokenFileLeavesNothingHalfLoaded) {
    const auto loaded =
        flight::loadSortieText("format = 1\n[airframe]\nnotes = \"missing.toml\"\n", "/tmp/none/s.toml");
    EXPECT_FALSE(loaded.ok());
    EXPECT_FALSE(loaded.problems.empty());
    EXPECT_FALSE(flight::loadSortie("/no/such/sortie.toml").ok());
}

} // namespace
