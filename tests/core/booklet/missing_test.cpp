// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/missing.h"
#include "booklet/with_figure.h"
#include "data_folder.h"
#include "flight/open_files.h"
#include <algorithm>
#include <fstream>
#include <gtest/gtest.h>
#include <sstream>

namespace amber::booklet {
namespace {

TEST(WithFigure, AFigureIsPutInWithoutTouchingTheRest) {
    const std::string text =
        "a = 1 # first\n[warming]\ntaxi = 5  # minutes, said\n[limits.oil]\nmax = \"95 °C\"\n[start]\nrpm = 900\n";
    EXPECT_EQ(
        withFigure(text, "warming.taxi", "7"),
        "a = 1 # first\n[warming]\ntaxi = 7  # minutes, said\n[limits.oil]\nmax = \"95 °C\"\n[start]\nrpm = 900\n");
    EXPECT_EQ(withFigure(text, "limits.oil.min", "\"30 °C\""),
              "a = 1 # first\n[warming]\ntaxi = 5  # minutes, said\n[limits.oil]\nmin = \"30 °C\"\nmax = \"95 "
              "°C\"\n[start]\nrpm = 900\n");
    EXPECT_EQ(withFigure(text, "heat.flap", "0.5"), text + "\n[heat]\nflap = 0.5\n");
}
TEST(WithFigure, WhatIsWrittenOtherwiseIsLeftToItsOwner) {
    EXPECT_FALSE(withFigure("[[rating]]\nkey = \"climb\"\n", "rating.rpm", "2000")) << "one of several";
    EXPECT_FALSE(withFigure("[engine]\nsupercharger = { gear = [] }\n", "engine.supercharger.impeller", "\"20 cm\""));
    EXPECT_FALSE(withFigure("[x]\na = [\n1,\n2]\n", "x.a", "3")) << "over several lines";
    EXPECT_FALSE(withFigure("a = 1\n", "a", "2")) << "of no table";
    EXPECT_EQ(withFigure("[x]\nb = \"a # b\" # c\n", "x.b", "2"), "[x]\nb = 2  # c\n")
        << "a # in quotes begins no comment";
}

std::string minimal() {
    std::ifstream in(test::dataFolder() + "/../docs/own-aircraft.md");
    std::string line, out;
    while (std::getline(in, line))
        if (line.starts_with("       "))
            out += line.substr(7) + "\n";
        else if (!out.empty() && !line.empty())
            break;
        else if (!out.empty())
            out += "\n";
    return out;
}
const Missing* rowOf(const std::vector<Missing>& all, std::string_view path) {
    const auto found = std::find_if(all.begin(), all.end(), [&](const Missing& m) { return m.path == path; });
    return found == all.end() ? nullptr : &*found;
}

TEST(MissingFigures, OfTheShortestNotesWhatMovesMostStandsFirst) {
    const auto text = minimal();
    std::ostringstream name;
    name << testing::TempDir() << "shortest.toml";
    std::ofstream(name.str()) << text;
    const auto loaded = flight::loadAircraft(name.str(), {});
    ASSERT_TRUE(loaded.aircraft) << text;
    const auto all = missing(text, "shortest.toml", {}, flight::plainSortie(loaded.aircraft->notes));
    ASSERT_GT(all.size(), 20U);
    EXPECT_EQ(all.size(), loaded.aircraft->notes.estimated.size() + 1);
    for (std::size_t i = 1; i < all.size(); ++i)
        if (all[i].notTried.empty()) {
            EXPECT_GE(all[i - 1].moves.weight(), all[i].moves.weight()) << all[i].path;
        }
    // Our own consumption ± 7 %: the fuel burnt by so much, a little less where idling burns what it must.
    const auto* fuel = rowOf(all, "rating.*.fuel");
    ASSERT_NE(fuel, nullptr);
    EXPECT_EQ(fuel, &all.front());
    EXPECT_NEAR(fuel->moves.fuel, 0.07, 0.012);
    EXPECT_EQ(fuel->moves.power, 0.0);
    // A quarter of five minutes' taxiing either way: 75 s to take-off.
    const auto* taxi = rowOf(all, "warming.taxi");
    ASSERT_NE(taxi, nullptr);
    EXPECT_EQ(taxi->low, "3.75 min") << "with its unit";
    EXPECT_EQ(taxi->text, "5 min");
    EXPECT_NEAR(taxi->moves.minutes, 75, 10);
    // A school's word is no figure.
    const auto* kind = rowOf(all, "propeller.kind");
    ASSERT_NE(kind, nullptr);
    EXPECT_FALSE(kind->notTried.empty());
}

TEST(MissingFigures, WhatIsEnteredIsNoLongerMissing) {
    const auto text = withFigure(minimal(), "warming.taxi", "4");
    ASSERT_TRUE(text);
    std::ofstream(testing::TempDir() + "entered.toml") << *text;
    const auto loaded = flight::loadAircraft(testing::TempDir() + "entered.toml", {});
    ASSERT_TRUE(loaded.aircraft);
    int asked = 0;
    const auto all =
        missing(*text, "entered.toml", {}, flight::plainSortie(loaded.aircraft->notes), [&](int done, int) {
            ++asked;
            return done < 2; // stopped after two
        });
    EXPECT_EQ(rowOf(all, "warming.taxi"), nullptr);
    EXPECT_EQ(asked, 3);
    EXPECT_EQ(std::count_if(all.begin(), all.end(), [](const Missing& m) { return m.notTried == "stopped"; }),
              static_cast<std::ptrdiff_t>(all.size()) - 2);
}

} // namespace
} // namespace amber::booklet
