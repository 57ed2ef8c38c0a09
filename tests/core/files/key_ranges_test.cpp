// SPDX-License-Identifier: GPL-3.0-or-later
// Every figure of every file has its range, and the same range holds wherever the figure comes from.
#include "files/key_ranges.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <filesystem>
#include <fmt/format.h>
#include <functional>
#include <map>
#include <regex>

namespace {
using namespace amber;

std::string joined(const Problems& problems) {
    std::string out;
    for (const auto& p : problems)
        out += p.text() + "\n";
    return out;
}

/// The notes of a type with one line written otherwise.
Problems with(const char* type, const std::string& from, const std::string& to) {
    const auto text = test::fileText(test::dataPath(std::string("notes/") + type + ".toml"));
    const auto reading = readNotes(test::replaced(text, from, to), "t.toml");
    EXPECT_NE(reading.notes.has_value(), !reading.problems.empty());
    return reading.problems;
}

TEST(KeyRanges, AreSoundAndSayWhy) {
    for (const auto format : {FileFormat::notes, FileFormat::sortie, FileFormat::command})
        for (const auto& row : keyRanges(format)) {
            EXPECT_LE(row.low, row.high) << row.key;
            if (row.key == "format")
                continue;
            EXPECT_LT(row.lowSi(), row.highSi()) << row.key;
            EXPECT_GT(row.why.size(), 5u) << row.key;
            EXPECT_TRUE(row.holds(row.lowSi()) && row.holds(row.highSi())) << row.key << ": its ends are within";
            EXPECT_FALSE(row.holds(row.highSi() + 1e-3 * (row.highSi() - row.lowSi()))) << row.key;
            EXPECT_FALSE(row.holds(row.lowSi() - 1e-3 * (row.highSi() - row.lowSi()))) << row.key;
            EXPECT_FALSE(row.holds(std::nan(""))) << row.key;
            EXPECT_EQ(rangeOf(format, row.key), &row) << row.key << " stands once";
        }
    const auto& qnh = *rangeOf(FileFormat::sortie, "day.qnh");
    EXPECT_EQ(qnh.expected(), "Between 850 and 1,100 hPa is expected: lower or higher than any weather");
    EXPECT_DOUBLE_EQ(qnh.lowSi(), 85000.0);
    EXPECT_EQ(rangeOf(FileFormat::notes, "climb.ias"), rangeOf(FileFormat::notes, "PHASE.ias"));
    EXPECT_EQ(rangeOf(FileFormat::notes, "limits.oil.climb.max"), rangeOf(FileFormat::notes, "limits.oil"));
    EXPECT_EQ(rangeOf(FileFormat::notes, "limits.oil.amber_for")->unit, units::minute.spec);
}

/// Every figure of the eleven files, all made absurd where they stand, is refused on its line: none lacks a range.
TEST(KeyRanges, NoFigureOfTheShippedNotesLacksOne) {
    std::size_t figures = 0;
    const std::regex figure(R"re(^(\s*)([a-z_0-9-]+) = (?:"[-−+]?[0-9][0-9,.]*( [^"]*)"|-?[0-9][0-9.]*)\s*(#.*)?$)re");
    for (const auto& entry : std::filesystem::directory_iterator(test::dataPath("notes"))) {
        std::istringstream in(test::fileText(entry.path()));
        std::string text;
        std::map<int, std::string> absurd; // by line
        int number = 0;
        for (std::string line; std::getline(in, line);) {
            ++number;
            std::smatch m;
            const bool bare = line.find('"') == std::string::npos;
            // Text that begins with a figure, "2 steps of the lever", has words and no unit behind it.
            if (std::regex_match(line, m, figure) && m[2] != "format" && m[2] != "grade" &&
                (bare || (m[3].length() <= 9 && m[2] != "what" && m[2] != "why" && m[2] != "value" && m[2] != "set"))) {
                line = bare ? fmt::format("{} = 1e12", m[2].str())
                            : fmt::format("{} = \"999999999{}\"", m[2].str(), m[3].str());
                absurd[number] = line;
            }
            text += line + "\n";
        }
        figures += absurd.size();
        const auto whole = readNotesFile(entry.path());
        ASSERT_TRUE(whole.notes);
        std::vector<std::string> variants{""};
        for (const auto& v : whole.notes->variants)
            variants.push_back(v.id);
        for (const auto& v : variants)
            for (const auto& p : readNotes(text, "t.toml", v).problems)
                if (p.what.find("out of range") != std::string::npos)
                    absurd.erase(p.line);
        for (const auto& [line, written] : absurd)
            ADD_FAILURE() << entry.path().filename() << ":" << line << ": " << written << " is not refused";
    }
    EXPECT_GT(figures, 1500u) << "the test must have found them";
}

TEST(KeyRanges, NonsenseThatWasInOrderIsRefusedWithItsLine) {
    const auto refused = [](const Problems& problems, const std::string& piece) {
        EXPECT_NE(joined(problems).find(piece), std::string::npos) << piece << "\n" << joined(problems);
        for (const auto& p : problems)
            EXPECT_GT(p.line, 0) << p.text();
    };
    refused(with("lorimer-l4", "[walk-round]\n", "[walk-round]\nrpm = -1700\n"),
            "walk-round.rpm = -1700 is out of range");
    refused(with("lorimer-l4", "oil_relief = ", "oil_relief = \"-85 lbf/in²\" # "),
            "heat.oil_relief = \"-85 lbf/in²\"");
    refused(with("lorimer-l4", "taxi = ", "taxi = 1e9 # "), "warming.taxi = 1000000000");
    refused(with("lorimer-l4", "scavenge = ", "scavenge = \"1000000000 s\" # "), "cooling_down.scavenge");
    refused(with("lorimer-l4", "energise_cart = ", "energise_cart = \"1e9 s\" # "), "is not a unit of a time");
    refused(with("lorimer-l4", "dose_time = ", "dose_time = \"1000000000 s\" # "), "engine_start.dose_time");
}

/// Lists of pairs are figures too: each of both numbers, one after the other.
TEST(KeyRanges, EveryNumberOfAPairHasItsRange) {
    const std::regex pairs(R"re(^(rich|read|points) = \[\[.*\]\]\s*$)re"), number(R"re(-?[0-9]+(\.[0-9]+)?)re");
    std::map<std::string, int> tried;
    for (const auto& entry : std::filesystem::directory_iterator(test::dataPath("notes"))) {
        const auto text = test::fileText(entry.path());
        std::istringstream in(text);
        std::size_t begin = 0;
        int at = 0;
        for (std::string line; std::getline(in, line); begin += line.size() + 1) {
            ++at;
            std::smatch m;
            if (!std::regex_match(line, m, pairs) || ++tried[m[1]] > 3)
                continue;
            for (std::sregex_iterator n(line.begin(), line.end(), number), end; n != end; ++n) {
                const auto spoilt = text.substr(0, begin + static_cast<std::size_t>(n->position())) + "1e9" +
                                    text.substr(begin + static_cast<std::size_t>(n->position() + n->length()));
                const auto problems = readNotes(spoilt, "t.toml").problems;
                EXPECT_TRUE(std::any_of(
                    problems.begin(), problems.end(),
                    [&](const Problem& p) { return p.line == at && p.what.find("out of range") != std::string::npos; }))
                    << entry.path().filename() << ":" << at << " " << n->str() << "\n"
                    << joined(problems);
            }
        }
    }
    EXPECT_GT(tried["rich"], 0);
    EXPECT_GT(tried["read"], 0);
    EXPECT_GT(tried["points"], 0);
}

TEST(KeyRanges, AnEngineSettledAboveItsOwnLimitIsRefused) {
    const auto refused = [](const Problems& problems, const std::string& piece) {
        EXPECT_NE(joined(problems).find(piece), std::string::npos) << piece << "\n" << joined(problems);
    };
    refused(with("lorimer-l4", "\nhead = \"212 °C\"", "\nhead = \"312 °C\""), "heat.head: 312 °C is over the limit of");
    refused(with("farrier-f5", "\ncoolant = \"98 °C\"", "\ncoolant = \"155 °C\""),
            "heat.coolant: 155 °C is over the limit of");
}

TEST(KeyRanges, ARatingWithoutANameIsAProblemNotACrash) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    for (const char* table : {"[[performance]]\n", "[heat]\n"}) {
        const auto at = text.find(table);
        ASSERT_NE(at, std::string::npos);
        const auto rating = text.find("rating = \"", at), end = text.find('\n', rating);
        const auto reading = readNotes(text.substr(0, rating) + "rating = \"\"" + text.substr(end), "t.toml");
        EXPECT_FALSE(reading.notes);
        EXPECT_NE(joined(reading.problems).find("rating is empty"), std::string::npos) << joined(reading.problems);
    }
}

TEST(KeyRanges, WhatIsMarkedOnADialLiesOnIt) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto oil = text.find("[limits.oil]");
    const auto change = [&](const std::string& from, const std::string& to) {
        const auto at = text.find(from, oil), end = text.find('\n', at);
        return joined(readNotes(text.substr(0, at) + to + text.substr(end), "t.toml").problems);
    };
    EXPECT_NE(change("max = ", "max = \"150 °C\"").find("150 °C is not on the dial, which runs from 0 °C to 120 °C"),
              std::string::npos);
    EXPECT_NE(change("max = ", "max = \"950 °C\"").find("limits.oil.max = \"950 °C\" is out of range"),
              std::string::npos);
    EXPECT_NE(change("scale = ", "scale = \"0 to 0 °C\"").find("the scale runs from 0 °C to 0 °C"), std::string::npos);
}

TEST(KeyRanges, WhatNestsTooDeepIsRefusedUnread) {
    for (const std::string& text : {"a" +
                                        [] {
                                            std::string s;
                                            for (int i = 0; i < 40000; ++i)
                                                s += ".a";
                                            return s;
                                        }() +
                                        " = 1\n",
                                    "[a" +
                                        [] {
                                            std::string s;
                                            for (int i = 0; i < 40000; ++i)
                                                s += ".a";
                                            return s;
                                        }() +
                                        "]\n",
                                    "a = " + std::string(40000, '[') + std::string(40000, ']') + "\n",
                                    "a = " +
                                        [] {
                                            std::string s;
                                            for (int i = 0; i < 40000; ++i)
                                                s += "{a=";
                                            return s;
                                        }() +
                                        "\n"}) {
        const auto reading = readNotes(text, "deep.toml");
        ASSERT_EQ(reading.problems.size(), 1u);
        EXPECT_EQ(reading.problems.front().line, 1);
        EXPECT_NE(reading.problems.front().what.find("one bracket too many"), std::string::npos);
    }
}

TEST(KeyRanges, AListClosedByABraceIsRefusedOnItsLine) { // toml++ takes for granted that it is not
    for (const char* line : {"b = [ }", "b = { c = [1, } ]", "b = [{ c = 1 ]"}) {
        const auto reading = readNotes(std::string("format = 2\n") + line + "\n", "braces.toml");
        ASSERT_EQ(reading.problems.size(), 1u) << line;
        EXPECT_EQ(reading.problems.front().line, 2) << line;
        EXPECT_NE(reading.problems.front().what.find("the wrong one"), std::string::npos) << line;
    }
    const auto sound = readNotes("format = 2\nb = [{ c = [\"]\", '}'] }] # ]}\n", "braces.toml");
    for (const auto& p : sound.problems)
        EXPECT_EQ(p.what.find("the wrong one"), std::string::npos) << "in quotes and comments they are letters";
}

/// One validation: what typing and dragging put into a sortie is refused exactly where the file is.
TEST(KeyRanges, TypingAndTheFileRefuseAlike) {
    const auto& lorimer = test::loaded("lorimer-spring");
    const auto& cockpit = lorimer.aircraft->notes.cockpit;
    struct Figure {
        const char* key;
        std::function<void(Sortie&, double)> put;
    };
    const std::vector<Figure> figures{
        {"day.elevation", [](Sortie& s, double v) { s.day.elevation = Length::si(v); }},
        {"day.qnh", [](Sortie& s, double v) { s.day.qnh = Pressure::si(v); }},
        {"day.oat",
         [](Sortie& s, double v) {
             s.day.oat = Temperature::si(v);
             s.day.dewPoint = std::min(s.day.dewPoint, s.day.oat);
         }},
        {"day.dew_point",
         [](Sortie& s, double v) {
             s.day.dewPoint = Temperature::si(v);
             s.day.oat = std::max(s.day.oat, s.day.dewPoint);
         }},
        {"day.wind_speed", [](Sortie& s, double v) { s.day.wind.speed = Speed::si(v); }},
        {"flight.distance", [](Sortie& s, double v) { s.flight.distance = Distance::si(v); }},
        {"flight.hold", [](Sortie& s, double v) { s.flight.hold = Duration::si(v); }},
        {"flight.cruise_rpm", [](Sortie& s, double v) { s.flight.cruiseRpm = Rotation::si(v); }},
        {"flight.cruise_boost", [](Sortie& s, double v) { s.flight.cruiseBoost = ManifoldPressure::si(v); }},
        {"start.stopped_for", [](Sortie& s, double v) { s.start.sinceStop = Duration::si(v); }},
        {"start.preheated", [](Sortie& s, double v) { s.start.preheated = Temperature::si(v); }},
        {"walk_round.attitude", [](Sortie& s, double v) { s.walk.attitude = v; }},
        {"stop.forecast", [](Sortie& s, double v) { s.forecast = Temperature::si(v); }},
    };
    for (const auto& [key, put] : figures) {
        const KeyRange& range = *rangeOf(FileFormat::sortie, key);
        const double span = range.highSi() - range.lowSi();
        for (const double v :
             {range.lowSi() - 0.01 * span, range.lowSi(), range.highSi(), range.highSi() + 0.01 * span}) {
            Sortie s = *lorimer.sortie;
            s.flight.cruiseHeight = Length::si(9000);
            put(s, v);
            bool refused = false;
            for (const auto& p : checkSortie(s, lorimer.aircraft->notes, ""))
                refused = refused || p.what.find("out of range") != std::string::npos;
            const auto file = readSortie(writeSortie(s, cockpit), "s.toml");
            EXPECT_EQ(refused, !file.sortie.has_value()) << key << " " << v << "\n" << joined(file.problems);
            EXPECT_EQ(refused, !range.holds(v)) << key << " " << v;
        }
    }
    Sortie damp = *lorimer.sortie;
    damp.day.dewPoint = Temperature::si(damp.day.oat.si() + 3);
    EXPECT_NE(joined(checkSortie(damp, lorimer.aircraft->notes, "")).find("Dew point 9 °C is above the air's 6 °C"),
              std::string::npos);
}

} // namespace
