// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/missing.h"
#include "booklet/with_figure.h"
#include "data_folder.h"
#include "flight/open_files.h"
#include "units/unit_table.h"
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
        if (all[i].notTried == NotTried::no) {
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
    EXPECT_NEAR(taxi->moves.toTakeOff, 75, 10);
    // A school's word is no figure.
    const auto* kind = rowOf(all, "propeller.kind");
    ASSERT_NE(kind, nullptr);
    EXPECT_EQ(kind->notTried, NotTried::word);
    EXPECT_NE(restOf(all).find("11 are words, not figures."), std::string::npos) << restOf(all);
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
    EXPECT_EQ(std::count_if(all.begin(), all.end(), [](const Missing& m) { return m.notTried == NotTried::stopped; }),
              static_cast<std::ptrdiff_t>(all.size()) - 2);
}

// Half an inch of mercury is what counts, told as the boost gauge is marked: 12.7 mmHg, 0.25 lbf/in².
TEST(MissingFigures, AMarginIsToldAsTheBoostGaugeIsMarked) {
    Moves moves;
    moves.margin = 0.5 * 3386.389;
    EXPECT_NEAR(moves.weight(), 1.0, 1e-9);
    Cockpit cockpit;
    cockpit.boost = units::manifold::inHg.spec;
    EXPECT_EQ(moves.words(cockpit), "detonation margin ± 0.5 inHg");
    cockpit.boost = units::manifold::mmHg.spec;
    EXPECT_EQ(moves.words(cockpit), "detonation margin ± 12.7 mmHg");
    cockpit.boost = units::manifold::boost.spec; // over the standard atmosphere: a difference has no offset
    EXPECT_EQ(moves.words(cockpit), "detonation margin ± 0.25 lbf/in²");
    EXPECT_NE(markOfWeight(cockpit).find("0.25 lbf/in² of margin"), std::string::npos) << markOfWeight(cockpit);
    EXPECT_EQ(Moves{}.words(cockpit), "");
}

// What the log has taught of the fuel, and somebody accepted, is no estimate of ours any more.
TEST(MissingFigures, ConsumptionThatWasLoggedIsNotMissing) {
    const auto loaded = flight::loadAircraft(test::dataFolder() + "/notes/tanner-tn7.toml", {});
    ASSERT_TRUE(loaded.aircraft);
    std::ifstream in(test::dataFolder() + "/notes/tanner-tn7.toml");
    const std::string text((std::istreambuf_iterator<char>(in)), {});
    Sortie sortie = flight::plainSortie(loaded.aircraft->notes);
    ASSERT_NE(rowOf(missing(text, "tanner", {}, sortie), fuelPath), nullptr);
    LearntLine line;
    line.what = "fuel";
    line.value = 1.04;
    line.accepted = true;
    line.model = powerplant::markOfModel(*loaded.aircraft);
    AirframeFacts facts;
    facts.learnt = {line};
    sortie.airframe.facts = std::make_shared<const AirframeFacts>(std::move(facts));
    EXPECT_EQ(rowOf(missing(text, "tanner", {}, sortie), fuelPath), nullptr);
}

} // namespace
} // namespace amber::booklet
