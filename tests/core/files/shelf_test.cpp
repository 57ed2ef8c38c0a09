// SPDX-License-Identifier: GPL-3.0-or-later
// Aircraft that are read once while somebody holds them.
#include "flight/open_files.h"
#include "test_data.h"
#include <filesystem>

namespace {
using namespace amber;

TEST(Shelf, TheSameWordsAreTheSameAircraftWhileSomebodyHoldsIt) {
    const std::filesystem::path folder = testing::TempDir() + "amber-shelf";
    std::filesystem::create_directories(folder);
    const std::string file = folder / "lorimer-l4.toml",
                      words = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto write = [&](const std::string& text) { std::ofstream(file) << text; };
    write(words);
    flight::Shelf shelf;
    auto first = shelf.aircraft(file, {}).aircraft;
    ASSERT_TRUE(first);
    EXPECT_EQ(shelf.aircraft(file, {}).aircraft, first);
    write(test::replaced(words, "format = 2", "format = 2 # another"));
    const auto second = shelf.aircraft(file, {}).aircraft;
    EXPECT_NE(second, first) << "the file says something else";
    write("format = 2\n[nothing");
    EXPECT_FALSE(shelf.aircraft(file, {}).aircraft);
    EXPECT_FALSE(shelf.aircraft(file, {}).problems.empty()) << "and what is wrong is told each time";
    const std::weak_ptr<const powerplant::Aircraft> held = first;
    first.reset();
    EXPECT_TRUE(held.expired()) << "the shelf keeps none alive";
    std::filesystem::remove_all(folder);
}

TEST(Shelf, ASortieIsEqualToItselfReadAgainAndToNoOtherOne) {
    for (const auto& name : test::demoNames()) {
        const auto again = flight::loadSortie(test::dataPath("demo/" + name + ".toml"));
        ASSERT_TRUE(again.ok());
        Sortie other = *again.sortie;
        EXPECT_EQ(other, *test::loaded(name).sortie) << name << ", its airframe's facts are another object";
        other.flight.hold = Duration::si(other.flight.hold.si() + 1.0);
        EXPECT_NE(other, *again.sortie);
        if (other.airframe.facts) {
            other = *again.sortie;
            auto facts = std::make_shared<AirframeFacts>(*other.airframe.facts);
            facts->hours = facts->hours.value_or(0.0) + 1.0;
            other.airframe.facts = facts;
            EXPECT_NE(other, *again.sortie) << name << ", an hour older";
        }
    }
}

} // namespace
