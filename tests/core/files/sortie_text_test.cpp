// SPDX-License-Identifier: GPL-3.0-or-later
// A sortie laid over the text it was read from: comments, order and units of the writer survive a change.
#include "sortie/sortie_text.h"
#include "test_data.h"
#include "units/unit_table.h"
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;

const std::string written = R"(# Saturday, with the new plugs
format = 1
title = "To the strip"   # short
[day]
field = "Ravelin Field"
qnh = "29.80 inHg"       # from the tower
oat = "43 °F"
elevation = "302 ft"
dew_point = "2 °C"

# what she carries
[load]
weight = "27400 lb"
grade = "100"
tanks = { main = "300 US gal" } # dipped
[airframe]
notes = "../notes/lorimer-l4.toml"
[flight]
to = "Upper Ferrow"
to_elevation = "5380 ft"
cruise_height = "14000 ft"
distance = "120 nm"
)";

const Cockpit& cockpit() {
    return test::loaded("lorimer-spring").aircraft->notes.cockpit;
}
Sortie original() {
    const auto reading = readSortie(written, "s.toml");
    EXPECT_TRUE(reading.sortie) << (reading.problems.empty() ? "" : reading.problems.front().text());
    return *reading.sortie;
}

TEST(SortieText, NothingChangedIsTheSameTextLetterByLetter) {
    EXPECT_EQ(rewriteSortie(written, original(), cockpit()), written);
}

TEST(SortieText, AChangedFigureIsExchangedInItsPlaceAndKeepsItsComment) {
    Sortie s = original();
    s.day.qnh = Pressure::of(1013, units::hPa);
    EXPECT_EQ(rewriteSortie(written, s, cockpit()),
              test::replaced(written, "qnh = \"29.80 inHg\" ", "qnh = \"1013 hPa\" "));
}

TEST(SortieText, WhatIsNewGoesToItsTableAndWhatIsTakenOutGoes) {
    Sortie s = original();
    s.flight.cruiseRating = "max-cruise";
    s.title.clear();
    s.forecast = Temperature::of(-8, units::celsius);
    const auto text = rewriteSortie(written, s, cockpit());
    EXPECT_NE(text.find("distance = \"120 nm\"\ncruise_rating = \"max-cruise\"\n"), std::string::npos) << text;
    EXPECT_EQ(text.find("title"), std::string::npos);
    EXPECT_NE(text.find("\n[stop]\nforecast = \"-8 °C\"\n"), std::string::npos) << text;
    EXPECT_EQ(text.find("# Saturday, with the new plugs\n"), 0u);
    const auto again = readSortie(text, "s.toml");
    ASSERT_TRUE(again.sortie);
    EXPECT_EQ(writeSortie(*again.sortie, cockpit()), writeSortie(s, cockpit()));
}

TEST(SortieText, AnInlineTableIsExchangedWhole) {
    Sortie s = original();
    s.contents["main"] = Volume::of(250, units::usGallon);
    EXPECT_EQ(rewriteSortie(written, s, cockpit()),
              test::replaced(written, "{ main = \"300 US gal\" }", "{ \"main\" = \"250 US gal\" }"));
}

TEST(SortieText, WhatCannotBeFollowedIsWrittenAnewUnderItsComments) {
    const auto folded =
        test::replaced(written, "[flight]\n", "[start]\norder = [\n  \"1\", # port\n  \"2\"]\n[flight]\n");
    const auto reading = readSortie(folded, "s.toml");
    ASSERT_TRUE(reading.sortie) << reading.problems.front().text();
    Sortie s = *reading.sortie;
    s.day.oat = Temperature::of(11, units::celsius);
    const auto text = rewriteSortie(folded, s, cockpit());
    EXPECT_EQ(text.find("# Saturday, with the new plugs\n# what she carries\n"), 0u) << text;
    ASSERT_TRUE(readSortie(text, "s.toml").sortie);
    EXPECT_EQ(writeSortie(*readSortie(text, "s.toml").sortie, cockpit()), writeSortie(s, cockpit()));
}

RC_GTEST_PROP(SortieTextProperty, AnyChangeOfAnyDemoReadsBackAndKeepsEveryComment, ()) {
    const auto name = *rc::gen::elementOf(test::demoNames());
    const auto& demo = test::loaded(name);
    const auto text = test::fileText(test::dataPath("demo/" + name + ".toml"));
    Sortie s = *demo.sortie;
    s.day.qnh = Pressure::si(*rc::gen::inRange(95000, 105000) + 0.25);
    if (*rc::gen::arbitrary<bool>())
        s.flight.over = "the lake";
    if (*rc::gen::arbitrary<bool>())
        s.start.diluted = !s.start.diluted;
    if (*rc::gen::arbitrary<bool>())
        s.flight.cruiseRpm = Rotation::si(*rc::gen::inRange(20, 50));
    if (*rc::gen::arbitrary<bool>())
        s.walk.found.clear();
    const auto& units = demo.aircraft->notes.cockpit;
    const auto out = rewriteSortie(text, s, units);
    const auto again = readSortie(out, "s.toml");
    RC_ASSERT(again.sortie.has_value());
    RC_ASSERT(writeSortie(*again.sortie, units) == writeSortie(s, units));
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);)
        if (const auto at = line.find_first_not_of(' '); at != std::string::npos && line[at] == '#')
            RC_ASSERT(out.find(line) != std::string::npos);
}

} // namespace
