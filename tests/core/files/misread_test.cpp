// SPDX-License-Identifier: GPL-3.0-or-later
// What a file says is read as it was meant, or it is asked or told: separated values, decimal commas, thousands, the
// spellings of booklets, letters of other languages, and text that steers.
#include "files/csv.h"
#include "files/key_ranges.h"
#include "reading/notes_reader.h"
#include "record/entry.h"
#include "record/log_text.h"
#include "record/recorder_file.h"
#include "record/trend.h"
#include "sortie/sortie_text.h"
#include "test_data.h"
#include "units/ascii.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <clocale>
#include <cmath>
#include <random>

namespace {
using namespace amber;

std::vector<std::vector<std::string>> records(std::string_view text, char mark = ',') {
    std::vector<std::vector<std::string>> out;
    csv::Records all(text, mark);
    for (std::vector<std::string_view> cells; all.next(cells);)
        out.emplace_back(cells.begin(), cells.end());
    return out;
}
using Rows = std::vector<std::vector<std::string>>;

TEST(Words, SteerAlikeHoweverTheyAreWritten) {
    std::string text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto put = [&](const char* was, const char* is) {
        const auto at = text.find(was);
        ASSERT_NE(at, std::string::npos) << was;
        text.replace(at, std::string_view(was).size(), is);
    };
    put("kind = \"electric, feathering\"", "kind = \"Electric, Full-Feathering\"");
    put("[\"generator\", \"hydraulic pump\"]", "[\"Dynamo\", \"Hydraulic pump\"]");
    const auto reading = readNotes(text, "l.toml");
    ASSERT_TRUE(reading.notes) << (reading.problems.empty() ? "" : reading.problems.front().text());
    EXPECT_TRUE(reading.notes->propeller.electric) << "with the oil pump gone its blades stay where they are";
    EXPECT_TRUE(reading.notes->propeller.feathers);
    EXPECT_FALSE(reading.notes->propeller.reverses);
    const auto& drives = reading.notes->positions.back();
    EXPECT_TRUE(drives.generator);
    EXPECT_TRUE(drives.hydraulics);
    EXPECT_FALSE(reading.notes->positions.front().generator) << "the vacuum pump's";
}

TEST(SeparatedValues, AreReadByRfc4180) {
    EXPECT_EQ(records("a,b\r\nc,d\n"), (Rows{{"a", "b"}, {"c", "d"}}));
    EXPECT_EQ(records("\"a \"\"b\"\", c\",d"), (Rows{{"a \"b\", c", "d"}})) << "a quote within quotes is doubled";
    EXPECT_EQ(records("\"two\nlines\",x\ny,z"), (Rows{{"two\nlines", "x"}, {"y", "z"}}));
    EXPECT_EQ(records(",,\n"), (Rows{{"", "", ""}}));
    EXPECT_EQ(records("5\" pipe;x\n", ';'), (Rows{{"5\" pipe", "x"}})) << "a quote inside a cell is a letter";
    EXPECT_EQ(records("\"never closed,a\nb,c\n"), (Rows{{"\"never closed", "a"}, {"b", "c"}}))
        << "and swallows nothing";
    csv::Records lines("\"a\nb\",1\nc,2\n");
    std::vector<std::string_view> cells;
    ASSERT_TRUE(lines.next(cells));
    ASSERT_TRUE(lines.next(cells));
    EXPECT_EQ(lines.line(), 3);
}

TEST(SeparatedValues, ComeBackAsTheyWereAndReckonNothing) {
    for (const std::string text :
         {"plain", "a \"quoted\" one", "=cmd|' /C calc'!A0", "@SUM(A1)", "-5 °C", "+8 lb", "-x", "'=x", "", " sp "}) {
        const std::string cell = csv::cell(text);
        const auto back = records(cell);
        ASSERT_EQ(back.size(), 1u) << text;
        EXPECT_EQ(csv::plain(back[0][0]), text == "'=x" ? "=x" : text);
        EXPECT_TRUE(cell.size() < 2 || std::string_view("=@").find(cell[1]) == std::string_view::npos) << cell;
    }
    EXPECT_EQ(csv::cell("+8 lb"), "\"+8 lb\"") << "a figure is no formula";
}

class CommaFiles : public testing::Test {
protected:
    std::optional<record::Recording> read(const std::string& text) {
        problems.clear();
        return record::readRecorder(text, "r.csv", test::lorimer().notes, nullptr, problems);
    }
    static std::size_t figures(const record::Recording& r) {
        std::size_t out = 0;
        for (const auto& piece : r.pieces)
            for (const auto& column : piece.values)
                out += static_cast<std::size_t>(
                    std::count_if(column.begin(), column.end(), [](float v) { return !std::isnan(v); }));
        return out;
    }
    static double first(const record::Recording& r, Gauge gauge) {
        for (std::size_t i = 0; i < r.map.columns.size(); ++i)
            if (r.map.columns[i].gauge == gauge)
                return r.pieces.front().values[i].front();
        return NAN;
    }
    static bool told(const record::Recording& r, const std::string& words) {
        return std::any_of(r.told.begin(), r.told.end(),
                           [&](const std::string& line) { return line.find(words) != std::string::npos; });
    }
    Problems problems;
};

TEST_F(CommaFiles, GiveTheFiguresThatTheSameFileWithPointsGives) {
    std::string points = "Time;RPM 1;MAP 1 [inHg];CHT 1 [°C]\n", commas = points,
                quoted = "Time,RPM 1,MAP 1 [inHg],CHT 1 [°C]\n";
    for (int t = 0; t < 60; ++t) {
        const auto row = [&](char mark, char cell) {
            const auto one = [&](const std::string& figure) {
                std::string out = figure;
                std::replace(out.begin(), out.end(), '.', mark);
                return cell == ',' ? '"' + out + '"' : out;
            };
            return std::to_string(t) + cell + one("2100.5") + cell + one("31.25") + cell + one("182.5") + "\n";
        };
        points += row('.', ';');
        commas += row(',', ';');
        quoted += row(',', ',');
    }
    const auto a = read(points), b = read(commas), c = read(quoted);
    ASSERT_TRUE(a && b && c);
    EXPECT_EQ(figures(*a), 180u);
    EXPECT_EQ(figures(*b), 180u) << "four of eleven once";
    EXPECT_EQ(figures(*c), 180u);
    for (const Gauge gauge : {Gauge::rpm, Gauge::boost, Gauge::headTemperature}) {
        EXPECT_FLOAT_EQ(first(*a, gauge), first(*b, gauge));
        EXPECT_FLOAT_EQ(first(*a, gauge), first(*c, gauge));
    }
    EXPECT_NEAR(first(*b, Gauge::headTemperature), 182.5 + 273.15, 0.01);
}

TEST_F(CommaFiles, ThousandsArePartedWhereDecimalsAreNot) {
    const auto r = read("Time,RPM 1,CHT 1 [°C]\n0,\"2,350\",181.5\n1,\"2,352\",181.5\n2,\"2,350\",182.5\n");
    ASSERT_TRUE(r);
    EXPECT_NEAR(first(*r, Gauge::rpm), 2350.0 / 60.0, 1e-3) << "not 2.35 rpm";
    const auto german = read("Time;RPM 1;CHT 1 [°C]\n0;2.350,5;181,5\n1;2.352,0;181,5\n2;2.350,0;182,5\n");
    ASSERT_TRUE(german);
    EXPECT_NEAR(first(*german, Gauge::rpm), 2350.5 / 60.0, 1e-3);
}

TEST_F(CommaFiles, CellsThatAreNoFiguresAndLinesThatAreTooLongAreTold) {
    const auto r = read("Time,RPM 1,CHT 1 [°C]\n0,2350,181\n1,ERR,181\n2,2350,18x\n3,2350,181,7\n4,2350,181,\n");
    ASSERT_TRUE(r);
    EXPECT_TRUE(told(*r, "RPM 1: 1 cell that is no figure, the first \"ERR\" on line 3"));
    EXPECT_TRUE(told(*r, "1 line with more cells than headings, the first line 5"));
    EXPECT_EQ(figures(*r), 6u) << "a decimal comma that parts cells shifts no figure into another's column";
    const auto none = read("Time,RPM 1,CHT 1 [°C]\n0,5,2350,5,181,5\n1,5,2350,5,181,5\n");
    EXPECT_FALSE(none);
    ASSERT_FALSE(problems.empty());
    EXPECT_NE(problems.front().text().find("more cells than headings"), std::string::npos) << problems.front().text();
}

TEST(WhatIsWritten, APointThatMayPartThousandsIsAskedAboutWhereBothWouldDo) {
    auto text = test::fileText(test::dataPath("notes/tanner-tn7.toml"));
    const auto swapped = [&](const std::string& from, const std::string& to) {
        auto out = text;
        const auto at = out.find(from);
        EXPECT_NE(at, std::string::npos) << from;
        return out.replace(at, from.size(), to);
    };
    EXPECT_TRUE(readNotes(text, "t.toml").problems.empty()) << "an arm of 3.375 m can only be that";
    const auto found =
        readNotes(swapped("rating = \"nominal\"", "rating = \"nominal\"\nheight = \"3.000 m\""), "t.toml");
    ASSERT_FALSE(found.problems.empty());
    const auto& units = *units::litre.spec;
    const auto both = thousandsOrDecimals("1.340 l", units);
    ASSERT_TRUE(both);
    EXPECT_NEAR(both->si, 1.340, 1e-12) << "m³";
    EXPECT_EQ(both->thousands, "\"1340 l\"");
    EXPECT_EQ(both->decimals, "\"1.34 l\"");
    for (const char* clear : {"1340 l", "1.34 l", "0.340 l", "1,340 l", "1.3400 l", "13405.250 l"})
        EXPECT_FALSE(thousandsOrDecimals(clear, units)) << clear;
}

TEST(WhatIsWritten, IsReadAsBookletsPrintIt) {
    const auto si = [](Dimension d, const char* text) {
        const auto read = readQuantity(d, text);
        EXPECT_TRUE(read) << text << ": " << (read ? "" : read.error());
        return read ? read.value().si : NAN;
    };
    EXPECT_NEAR(si(Dimension::pressure, "60 lb/sq in"), 413'685, 5);
    EXPECT_NEAR(si(Dimension::pressure, "60 lb. per sq. in."), 413'685, 5);
    EXPECT_NEAR(si(Dimension::power, "1,390 b.h.p."), 1'036'523, 2);
    EXPECT_NEAR(si(Dimension::rotation, "2650 U/min"), 2650.0 / 60, 1e-9);
    EXPECT_EQ(si(Dimension::length, "sea level"), 0.0);
    EXPECT_NEAR(si(Dimension::volumeFlow, "52 imp gal/hr"), 52 * 4.54609e-3 / 3600, 1e-12);
    const auto gallon = readQuantity(Dimension::volume, "52 gal");
    ASSERT_FALSE(gallon);
    EXPECT_EQ(gallon.error(), "\"gal\": which gallon? Write \"US gal\" or \"imp gal\"");
    auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto at = text.find("compression = 6.7");
    ASSERT_NE(at, std::string::npos);
    const auto ratio = readNotes(std::string(text).replace(at, 17, "compression = \"6.7 : 1\""), "l.toml");
    ASSERT_TRUE(ratio.notes) << ratio.problems.front().text();
    EXPECT_NEAR(ratio.notes->engine.compression, 6.7, 1e-12);
    EXPECT_FALSE(readNotes(std::string(text).replace(at, 17, "compression = \"6.7 : 2\""), "l.toml").problems.empty());
}

TEST(WhatIsWritten, ARangeIsToldInTheUnitOfTheFigure) {
    const KeyRange range{"x", units::manifold::inHg.spec, 6, 118, "an engine's"};
    EXPECT_EQ(range.expected(), "Between 6 and 118 inHg is expected: an engine's");
    // 6 inHg is 20,318 Pa, 0.2072 ata of 98,066.5 Pa; 118 inHg 4.075.
    EXPECT_EQ(range.expected(units::manifold::ata.spec), "Between 0.207 and 4.075 ata is expected: an engine's");
}

TEST(WhatIsWritten, LegsSayTheDistance) {
    auto text = test::fileText(test::dataPath("demo/thatcher-lesson.toml"));
    const auto at = text.find("distance = ");
    ASSERT_NE(at, std::string::npos);
    text.erase(at, text.find('\n', at) + 1 - at);
    const auto flight = text.find("[flight]\n");
    ASSERT_NE(flight, std::string::npos);
    EXPECT_FALSE(readSortie(text, "s.toml").problems.empty()) << "without legs it is missed";
    const auto end = text.find("\n[", flight + 1);
    text.insert(
        end == std::string::npos ? text.size() : end,
        "\n[[flight.leg]]\nto = \"A\"\ndistance = \"20 mi\"\n[[flight.leg]]\nto = \"B\"\ndistance = \"15 mi\"\n");
    const auto reading = readSortie(text, "s.toml");
    ASSERT_TRUE(reading.sortie) << reading.problems.front().text();
    EXPECT_NEAR(reading.sortie->flight.distance.si(), 35 * 1609.344, 1e-6);
}

TEST(WhatIsWritten, DoesNotHangOnTheLocale) {
    // In the Turkish locale the C library's lower case of I is no i where the locale is there (./check makes it).
    const std::string before = std::setlocale(LC_ALL, nullptr);
    std::setlocale(LC_ALL, "tr_TR.UTF-8");
    EXPECT_EQ(ascii::lower('I'), 'i');
    EXPECT_EQ(ascii::upper('i'), 'I');
    EXPECT_FALSE(ascii::isWord('\xfd')) << "a dotless i of one byte";
    for (const auto& name : test::demoNames()) {
        const auto l = flight::loadSortie(test::dataPath("demo/" + name + ".toml"));
        EXPECT_TRUE(l.ok()) << name << ": " << (l.problems.empty() ? "" : l.problems.front().text());
    }
    EXPECT_EQ(formatNumber(1234.5, 1), "1,234.5");
    std::setlocale(LC_ALL, before.c_str());
}

TEST(TextThatIsKept, IsUtf8WithoutWhatSteersATerminal) {
    EXPECT_EQ(record::wrongText("Bö, 日本, two\nlines\tand a tab", 100), "");
    EXPECT_NE(record::wrongText(std::string_view("a\0b", 3), 100), "");
    EXPECT_NE(record::wrongText("a\x1b[31m", 100), "");
    EXPECT_NE(record::wrongText("\xc2\x9b"
                                "31m",
                                100),
              "")
        << "the one-byte form of the same";
    for (const char* broken : {"\xff", "\xc3", "\xc0\xaf", "\xed\xa0\x80", "\xf5\x80\x80\x80", "\xe0\x80\x80"})
        EXPECT_NE(record::wrongText(broken, 100), "");
    EXPECT_NE(record::wrongText(std::string(101, 'x'), 100), "");
    EXPECT_EQ(shownText("a\x1b[31m\n"), "a\xEF\xBF\xBD[31m\xEF\xBF\xBD");
    EXPECT_EQ(shownText("Bö 日"), "Bö 日");
}

TEST(TextThatIsKept, AndFiguresThatArePlannedAreHeldToWhatIsRead) {
    record::Entry e;
    e.id = "e1";
    e.run = "r1";
    e.at = e.entered = 1'796'040'000'000;
    e.what = "head";
    e.value = 480;
    EXPECT_EQ(record::wrongWith(e), "");
    for (const double planned : {HUGE_VAL, -HUGE_VAL, static_cast<double>(NAN), 1e9}) {
        e.planned = planned;
        EXPECT_NE(record::wrongWith(e), "") << planned;
    }
    e.planned = 470;
    EXPECT_EQ(record::wrongWith(e), "");
    record::Run r{"r1", "HR-K", "Lorimer", std::string(50'000'000, 'x'), 1'796'040'000'000, ""};
    EXPECT_NE(record::wrongWith(r), "");
}

/// The slope of all pairs, made one by one.
double slopeOfAllPairs(const std::vector<record::Point>& points) {
    std::vector<double> all;
    for (std::size_t i = 0; i < points.size(); ++i)
        for (std::size_t j = i + 1; j < points.size(); ++j)
            if (points[i].day != points[j].day)
                all.push_back((points[j].residual - points[i].residual) / (points[j].day - points[i].day));
    std::sort(all.begin(), all.end());
    return (all[(all.size() - 1) / 2] + all[all.size() / 2]) / 2;
}

TEST(TrendOfMany, IsTheMedianOfAllPairsWithoutMakingThem) {
    std::mt19937_64 chance(11);
    for (const bool coarse : {false, true})
        for (const std::size_t n : {2u, 3u, 8u, 61u, 400u}) {
            std::vector<record::Point> points;
            std::normal_distribution<double> noise(0.0, 5.0);
            for (std::size_t i = 0; i < n; ++i) {
                const double day = 20'000.0 + std::floor(static_cast<double>(i) / (coarse ? 3.0 : 1.0)) * 1.7;
                const double residual = 0.05 * static_cast<double>(i) + noise(chance);
                points.push_back({day, coarse ? std::round(residual) : residual});
            }
            if (coarse && n < 8)
                continue;
            const double by = slopeOfAllPairs(points);
            EXPECT_NEAR(record::trendOf(points).slope, by, 1e-9 * std::max(1.0, std::abs(by)))
                << n << (coarse ? " coarse" : "");
        }
}

TEST(TrendOfMany, NothingThatChangesIsNothingExactly) {
    std::vector<record::Point> points;
    for (int i = 0; i < 50; ++i)
        points.push_back({20'000.0 + i, i % 10 == 0 ? 3.0 : 1.0});
    const auto t = record::trendOf(points);
    EXPECT_EQ(t.slope, 0.0);
    EXPECT_FALSE(t.tells()) << t.low << " to " << t.high;
}

TEST(TrendOfMany, TakesALogOfYears) {
    std::vector<record::Point> points; // all pairs of these would be 200 million
    for (int i = 0; i < 20'000; ++i)
        points.push_back({i * 0.1, 0.02 * i + (i * 7919 % 1000) / 1000.0});
    EXPECT_NEAR(record::trendOf(points).slope, 0.2, 1e-4);
    EXPECT_EQ(record::trendOf(points).readings, 20'000u) << "and none is left out";
}

TEST(LogInJson, GoesRowByRowAndComesBack) {
    record::Log log;
    log.runs.emplace("r1", record::Run{"r1", "HR-K", "Lorimer", "=x \"y\" <b>", 1'796'040'000'000, ""});
    for (int i = 0; i < 500; ++i) {
        record::Entry e;
        e.id = "e" + std::to_string(i);
        e.run = "r1";
        e.at = e.entered = 1'796'040'000'000 + i;
        e.what = "head";
        e.value = 450 + i * 0.1;
        log.entries.emplace(e.id, e);
    }
    std::string text;
    std::size_t longest = 0;
    record::LogJsonWriter writer([&](std::string_view piece) {
        longest = std::max(longest, piece.size());
        text += piece;
        return true;
    });
    for (const auto& [id, r] : log.runs)
        writer.put(r);
    for (const auto& [id, e] : log.entries)
        writer.put(e);
    writer.end();
    EXPECT_LT(longest, 1'000u) << "a row at a time";
    Problems problems;
    const auto back = record::readLogJson(text, "l.json", problems);
    EXPECT_TRUE(problems.empty()) << problems.front().text();
    EXPECT_EQ(back.runs, log.runs);
    EXPECT_EQ(back.entries, log.entries);
    // Broken off in the middle: what came before is there, and it is told.
    std::istringstream half(text.substr(0, text.size() / 2));
    std::size_t rows = 0;
    record::LogSink sink{[](record::Run) {}, [&](record::Entry) { ++rows; }, [](record::TraceBlock) {}};
    EXPECT_FALSE(record::readLogJson(half, "l.json", problems, sink));
    EXPECT_GT(rows, 200u);
    ASSERT_FALSE(problems.empty());
    EXPECT_NE(problems.back().text().find("breaks off"), std::string::npos) << problems.back().text();
}
} // namespace
