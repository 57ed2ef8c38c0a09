// SPDX-License-Identifier: GPL-3.0-or-later
// The airframe's own file, between the notes of its type and the sorties.
#include "plan/plan.h"
#include "sortie/airframe_file.h"
#include "test_data.h"
#include <filesystem>
#include <fmt/format.h>

namespace {
using namespace amber;

const char* const text = R"(format = 1
[airframe]
notes = "notes/lorimer-l4.toml"
variant = "B"
registration = "HR-K"
hours = 4126
weighed = "19,140 lb"
[airframe.extra_prime]
"1" = 1
[[engine]]
position = "1"
hours = 612
[[defect]]
what = "the clock is slow"
since = "2 March"
)";

TEST(AirframeFile, SaysNotesVariantAndWhatThisOneLikes) {
    const auto read = readAirframe(text, "/hangar/hr-k.toml");
    ASSERT_TRUE(read.facts) << read.problems.front().text();
    EXPECT_EQ(read.facts->notes, "/hangar/notes/lorimer-l4.toml") << "from its own folder";
    EXPECT_EQ(read.facts->registration, "HR-K");
    EXPECT_NEAR(read.facts->weighed->si(), 19140 * 0.45359237, 1e-6);
    EXPECT_DOUBLE_EQ(read.facts->extraPrime.at("1"), 1.0);
    ASSERT_EQ(read.facts->defects.size(), 1u);
    EXPECT_EQ(read.facts->engines.front().hours, 612);
}

TEST(AirframeFile, ASlipIsToldWithItsLine) {
    const auto problem = [](const std::string& from, const std::string& to) {
        const auto read = readAirframe(test::replaced(text, from, to), "a.toml");
        EXPECT_FALSE(read.facts);
        return read.problems.empty() ? std::string{} : read.problems.front().text();
    };
    EXPECT_NE(problem("hours = 4126", "hour = 4126").find("a.toml:6"), std::string::npos);
    EXPECT_NE(problem("19,140 lb", "19,140 tons").find("tons"), std::string::npos);
    EXPECT_NE(problem("\"1\" = 1", "\"1\" = 60").find("Between −20 and 20"), std::string::npos);
    EXPECT_NE(problem("notes = \"notes/lorimer-l4.toml\"\n", "").find("airframe.notes is missing"), std::string::npos);
}

TEST(AirframeFile, TheDemoReadsItsOwnAndASortieWithNotesReadsAsEver) {
    const auto& l = test::loaded("lorimer-spring");
    ASSERT_TRUE(l.sortie->airframe.facts);
    EXPECT_EQ(l.sortie->airframe.registration, "HR-K");
    EXPECT_DOUBLE_EQ(l.sortie->airframe.extraPrime.at("1"), 1.0);
    const auto plan = plan::makePlan(*l.aircraft, *l.sortie);
    const auto& cautions = plan[Phase::walkRound].cautions;
    EXPECT_TRUE(std::any_of(cautions.begin(), cautions.end(), [](const std::string& c) {
        return c.find("port cowl flap motor is slow") != std::string::npos;
    })) << "a defect that is carried is told";
    EXPECT_FALSE(test::loaded("farrier-summer").sortie->airframe.facts);
    // The same with the notes named in the sortie itself.
    const auto path = test::dataPath("demo/lorimer-spring.toml");
    const auto old = test::replaced(test::fileText(path), "file = \"../airframes/hr-k.toml\"\n",
                                    "notes = \"../notes/lorimer-l4.toml\"\nvariant = \"B\"\nregistration = "
                                    "\"HR-K\"\n[airframe.extra_prime]\n\"1\" = 1\n");
    // Those notes know nothing of the scales: the weight is typed.
    const auto before = flight::loadSortieText(
        test::replaced(old, "[load]\n", fmt::format("[load]\nweight = \"{:.4f} kg\"\n", l.sortie->weight.si())), path);
    ASSERT_TRUE(before.ok()) << before.problems.front().text();
    EXPECT_NEAR(flight::fly(*before.aircraft, *before.sortie).fuelAtEnd, flight::fly(*l.aircraft, *l.sortie).fuelAtEnd,
                1e-6);
    const auto both = flight::loadSortieText(
        test::replaced(test::fileText(path), "[airframe]\n", "[airframe]\nnotes = \"x\"\n"), path);
    EXPECT_FALSE(both.ok());
    EXPECT_NE(both.problems.front().text().find("names both a file and notes"), std::string::npos);
}

TEST(AirframeFile, WhatItSaysIsNotWrittenIntoTheSortieAgain) {
    const auto& l = test::loaded("lorimer-spring");
    Sortie s = *l.sortie;
    const auto same = writeSortie(s, l.aircraft->notes.cockpit);
    EXPECT_NE(same.find("file = \"../airframes/hr-k.toml\""), std::string::npos);
    EXPECT_EQ(same.find("notes ="), std::string::npos);
    EXPECT_EQ(same.find("extra_prime"), std::string::npos);
    EXPECT_EQ(same.find("registration"), std::string::npos);
    s.airframe.variant = "A";
    s.airframe.extraPrime["2"] = 2;
    const auto changed = writeSortie(s, l.aircraft->notes.cockpit);
    EXPECT_NE(changed.find("variant = \"A\""), std::string::npos);
    EXPECT_NE(changed.find("\"2\" = 2"), std::string::npos);
    EXPECT_EQ(changed.find("\"1\" = 1"), std::string::npos);
    const auto again = readSortie(changed, "s");
    ASSERT_TRUE(again.sortie);
    EXPECT_EQ(again.sortie->airframe.file, "../airframes/hr-k.toml");
}

TEST(AirframeFile, OneThatIsNotThereIsAProblemOfTheSortie) {
    const auto path = test::dataPath("demo/lorimer-spring.toml");
    const auto l = flight::loadSortieText(test::replaced(test::fileText(path), "hr-k.toml", "hr-z.toml"), path);
    EXPECT_FALSE(l.ok());
    EXPECT_NE(l.problems.front().text().find("hr-z.toml"), std::string::npos);
}
} // namespace
