// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/calibration.h"
#include "files/document.h"
#include "notes/placeholder.h"
#include "reading/notes_check.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include <algorithm>
#include <filesystem>

using namespace amber;
using test::dataPath;
using test::fileText;
using test::replaced;

namespace {

const std::string& lorimer() {
    static const std::string text = fileText(dataPath("notes/lorimer-l4.toml"));
    return text;
}

/// Whether some problem speaks of all these pieces, and stands on the line where `near` is in the text.
testing::AssertionResult hasProblem(const NotesReading& reading, const std::string& text, const std::string& near,
                                    const std::vector<std::string>& pieces) {
    const auto at = text.find(near);
    const int line = near.empty() || at == std::string::npos
                         ? 0
                         : 1 + static_cast<int>(std::count(text.begin(), text.begin() + static_cast<long>(at), '\n'));
    std::string all;
    for (const auto& p : reading.problems) {
        const std::string said = p.text();
        all += said + "\n";
        if ((near.empty() || p.line == line) &&
            std::all_of(pieces.begin(), pieces.end(),
                        [&](const std::string& piece) { return said.find(piece) != std::string::npos; }))
            return testing::AssertionSuccess();
    }
    return testing::AssertionFailure() << "wanted line " << line << " in:\n" << all;
}

TEST(Notes, TheFleetReadsWithoutAProblem) {
    int types = 0;
    for (const auto& entry : std::filesystem::directory_iterator(dataPath("notes"))) {
        ++types;
        const auto reading = readNotesFile(entry.path().string());
        for (const auto& p : reading.problems)
            ADD_FAILURE() << p.text();
        ASSERT_TRUE(reading.notes.has_value());
        const auto fit = engine::calibrate(*reading.notes);
        EXPECT_LE(fit.worstPower(), 0.02) << entry.path();
        EXPECT_LE(fit.worstHeight(), 150) << entry.path();
    }
    EXPECT_GE(types, 6);
}

TEST(Notes, AVariantChangesOnlyWhatItNames) {
    const auto plain = readNotes(lorimer(), "l4.toml", "B"), other = readNotes(lorimer(), "l4.toml", "A");
    ASSERT_TRUE(plain.notes && other.notes);
    EXPECT_NEAR(plain.notes->rating("take-off")->boost->in(units::manifold::inHg), 45, 1e-9);
    EXPECT_NEAR(other.notes->rating("take-off")->boost->in(units::manifold::inHg), 42.5, 1e-9);
    EXPECT_EQ(plain.notes->rating("climb")->boost->si(), other.notes->rating("climb")->boost->si());
    EXPECT_LT(other.notes->maxWeight.si(), plain.notes->maxWeight.si());
    EXPECT_EQ(readNotes(lorimer(), "l4.toml").notes->variant, "B") << "without a name the first variant is taken";
    EXPECT_TRUE(hasProblem(readNotes(lorimer(), "l4.toml", "Z"), lorimer(), "", {"no variant \"Z\"", "B, A"}));
}

TEST(Notes, AnUnknownKeyIsNamedWithItsLineAndTheLikelyOne) {
    const auto text = replaced(lorimer(), "compression = 6.7", "compresion = 6.7");
    const auto reading = readNotes(text, "l4.toml");
    EXPECT_FALSE(reading.notes);
    EXPECT_TRUE(hasProblem(reading, text, "compresion", {"engine.compresion", "Did you mean compression"}));
    EXPECT_TRUE(hasProblem(reading, text, "[engine]", {"engine.compression is missing"}));
    const auto far = replaced(lorimer(), "[propeller]\n", "[propeller]\ncolour = \"black\"\n");
    EXPECT_TRUE(
        hasProblem(readNotes(far, "l4.toml"), far, "colour", {"propeller.colour", "The keys there are: ", "diameter"}))
        << "where nothing is like it, those that there are";
}

TEST(Notes, AWrongOrMissingUnitIsAnError) {
    auto text = replaced(lorimer(), "boost = \"39 inHg\"", "boost = \"39 kt\"");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "39 kt", {"\"kt\" is not a unit", "inHg"}));
    text = replaced(lorimer(), "displacement = \"44.0 l\"", "displacement = 44.0");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "displacement = 44.0",
                           {"engine.displacement has no unit", "in quotes"}));
    text = replaced(lorimer(), "temperature = \"°C\"", "temperature = \"inHg\"");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "temperature = \"inHg\"", {"not a unit of a temperature"}));
}

TEST(Notes, ContradictionsAreFound) {
    auto text = replaced(lorimer(), "normal = \"-10 to 72 °C\"", "normal = \"-10 to 95 °C\"");
    EXPECT_TRUE(
        hasProblem(readNotes(text, "f"), text, "[limits.charge]", {"limits.charge", "past the limit of 90 °C"}));
    text = replaced(lorimer(), "rpm = 2650\nboost", "rpm = 2750\nboost");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "[[rating]]\nkey = \"take-off\"",
                           {"2,750 rpm is over the rpm limit of 2,650 rpm"}));
    text = replaced(lorimer(), "grades = { \"91\" = \"40.5 inHg\" }", "grades = { \"91\" = \"47 inHg\" }");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "", {"more boost on grade 91"}));
    text = replaced(lorimer(), "at = \"-15 °C\"\ndose = 8", "at = \"-15 °C\"\ndose = 2");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "", {"more prime to a warmer engine"}));
    text = replaced(lorimer(), "take_off = \"front\"", "take_off = \"wing\"");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "", {"no tank \"wing\""}));
}

TEST(Notes, EveryProblemOfAFileIsReported) {
    auto text = replaced(lorimer(), "compression = 6.7", "compresion = 6.7");
    text = replaced(text, "boost = \"39 inHg\"", "boost = \"39 kt\"");
    text = replaced(text, "cylinders = 14", "cylinders = \"many\"");
    text = replaced(text, "max = \"95 °C\"", "max = \"95 furlongs\"");
    const auto reading = readNotes(text, "f");
    EXPECT_GE(reading.problems.size(), 5u);
    for (std::size_t i = 1; i < reading.problems.size(); ++i)
        EXPECT_LE(reading.problems[i - 1].line, reading.problems[i].line);
}

TEST(Notes, APlaceholderTheplanCannotFillIsAnError) {
    const auto text =
        replaced(lorimer(), "set = \"30 inHg, even, then {boost}\"", "set = \"30 inHg, even, then {bost}\"");
    EXPECT_TRUE(hasProblem(readNotes(text, "f"), text, "", {"no figure {bost}", "Did you mean {boost}"}));
}

TEST(Notes, PhaseLimitsInheritWhatTheyDoNotSay) {
    const auto reading = readNotes(lorimer(), "f");
    ASSERT_TRUE(reading.notes);
    const auto& head = reading.notes->gauges.at(Gauge::headTemperature);
    EXPECT_NEAR(*head.in(Phase::letDown).limitHigh, 248 + 273.15, 1e-9) << "from the overall band";
    EXPECT_NEAR(*head.in(Phase::letDown).limitLow, 105 + 273.15, 1e-9) << "its own";
    EXPECT_FALSE(head.in(Phase::cruise).limitLow.has_value());
}

TEST(Notes, HostileFilesGiveAnErrorWithAPlace) {
    const std::vector<std::string> bad{
        "",
        "\xff\xfe\x00garbage",
        "format = 1",
        "[type",
        "a = nan",
        "format = 99\n[type]\nname='x'",
        "type = 3",
        "rating = [1, 2, 3]",
        "x = 1979-05-27",
        "a = 1\na = 2",
        std::string(3000, '['),
        "[engine]\nsupercharger = { gear = 7 }\n[limits]\nhead = 3\n[[rating]]\nline = 'x'\n"};
    for (const auto& text : bad) {
        const auto reading = readNotes(text, "bad.toml");
        EXPECT_FALSE(reading.notes) << text.substr(0, 40);
        ASSERT_FALSE(reading.problems.empty()) << text.substr(0, 40);
        EXPECT_EQ(reading.problems.front().file, "bad.toml");
    }
    EXPECT_NE(readNotes("a = nan", "f").problems.front().text().find("nan and inf"), std::string::npos);
}

TEST(Notes, LettersOutsideQuotesAreNamedWithTheirLine) {
    EXPECT_EQ(readNotes("a = 1\nhöhe = 2\n", "f").problems.front().line, 2);
    EXPECT_EQ(readNotes("a = '''x\n°\n'''\nb = °\n", "f").problems.front().line, 4);
    EXPECT_EQ(readNotes("a = 3\"1°C\"\n", "f").problems.front().line, 1);
    EXPECT_EQ(readNotes("a = 1\n[\nb = 2\n", "f").problems.front().line, 2) << "a header without a name";
    // Inside quotes and comments they are welcome.
    for (const char* text : {"# 6 °C\na = 1", R"(a = "6 °C \" °")", "a = '°'",
                             "a = [\n  [\n    1 ], [\n 2]\n]\n[ b ]\n[[c]]\n", "a = \"\"\"\n° \"quoted\" °\"\"\""})
        for (const auto& p : readNotes(text, "f").problems)
            EXPECT_EQ(p.what.find("where none may"), std::string::npos) << text;
}

TEST(Notes, MissingFilesFoldersAndHugeFilesAreRefused) {
    EXPECT_NE(readNotesFile("/no/such/file.toml").problems.front().what.find("no such file"), std::string::npos);
    EXPECT_NE(readNotesFile("/tmp").problems.front().what.find("not a file"), std::string::npos);
    const std::string huge = testing::TempDir() + "huge.toml";
    std::ofstream(huge) << std::string(document::largestFile + 10, ' ');
    EXPECT_NE(readNotesFile(huge).problems.front().what.find("larger"), std::string::npos);
}

TEST(Placeholder, FillsAndNames) {
    EXPECT_EQ(placeholder::namesIn("{boost}, then {rpm}"), (std::vector<std::string>{"boost", "rpm"}));
    EXPECT_EQ(placeholder::filled("set {a}{b} now", [](std::string_view n) { return "<" + std::string(n) + ">"; }),
              "set <a><b> now");
    EXPECT_EQ(placeholder::filled("open { brace", [](std::string_view) { return std::string("x"); }), "open { brace");
}

TEST(NotesFigures, AColumnThatGivesANormalRangeOnlyIsTakenForItsPhase) {
    const auto& heads = test::loaded("tinker-damp").aircraft->notes.gauges.at(Gauge::headTemperature);
    const auto fahrenheit = [](double f) { return (f - 32) / 1.8 + 273.15; };
    EXPECT_NEAR(*heads.in(Phase::start).normalLow, fahrenheit(-40), 0.01);
    EXPECT_NEAR(*heads.in(Phase::start).normalHigh, fahrenheit(410), 0.01);
    EXPECT_NEAR(*heads.in(Phase::runUp).normalLow, fahrenheit(120), 0.01);
    EXPECT_NEAR(*heads.in(Phase::takeOff).normalHigh, fahrenheit(440), 0.01);
}

TEST(NotesFigures, FourThousandKilowattsAnEngineAreTheMostThatIsBelieved) {
    TypeNotes n = test::loaded("lorimer-spring").aircraft->notes;
    const auto told = [&](double watt) {
        n.ratings.front().lines.front().power = Power::si(watt);
        Problems problems;
        checkNotes(n, problems);
        return std::any_of(problems.begin(), problems.end(), [](const Problem& p) {
            return p.text().find("power is out of range") != std::string::npos;
        });
    };
    EXPECT_FALSE(told(3.9e6));
    EXPECT_TRUE(told(4.1e6));
    EXPECT_TRUE(told(900));
    EXPECT_FALSE(told(1.1e3));
}

TEST(NotesFigures, WhatOldNotesDoBetweenTheStartsIsRead) {
    const auto path = test::dataPath("../tests/fixtures/format1/chandler-b1.toml");
    const auto old = readNotes(test::fileText(path), path);
    ASSERT_TRUE(old.notes);
    ASSERT_EQ(old.notes->start.actions.size(), 2u);
    for (const auto& a : old.notes->start.actions) {
        EXPECT_FALSE(a.what.empty());
        EXPECT_FALSE(a.set.empty());
        EXPECT_GT(a.line, 300);
    }
}

} // namespace
