// SPDX-License-Identifier: GPL-3.0-or-later
// A recorder's lines as wires bring them: cut, garbled, late, too many, of the past.
#include "aloft/line_reader.h"
#include "aloft/stand_in.h"
#include "powerplant/generator.h"
#include "test_data.h"
#include <cmath>
#include <fmt/format.h>

namespace {
using namespace amber;
using aloft::LineReader;

constexpr std::int64_t noon = 1'778'760'000'000;
const std::string headings = "Time,RPM 1 [rpm],CHT 1 [°C],Oil temp 1 [°C]\n";

struct Wire {
    LineReader reader{test::loaded("lorimer-spring").aircraft->notes};
    std::int64_t now = noon;
    std::vector<aloft::LiveRow> send(const std::string& bytes, std::int64_t later = 1000) {
        now += later;
        return reader.take(bytes, now);
    }
    bool told(std::string_view word) {
        for (const auto& t : reader.told())
            if (t.find(word) != std::string::npos)
                return true;
        return false;
    }
};

TEST(LineReader, TakesWholeLinesHoweverTheyAreCut) {
    Wire w;
    const std::string text = headings + "1,800,112,60\n2,810,113,60.5\n3,820,114,61\n";
    std::vector<aloft::LiveRow> rows;
    for (const char c : text)
        for (auto& r : w.send(std::string(1, c), 20))
            rows.push_back(std::move(r));
    ASSERT_EQ(rows.size(), 3u);
    EXPECT_NEAR(rows[1].values[0] * 60.0, 810.0, 1e-3);
    EXPECT_NEAR(rows[2].values[1], 114.0 + 273.15, 1e-3);
    EXPECT_FALSE(rows[2].past);
    EXPECT_EQ(w.reader.lines(), 3u);
}

TEST(LineReader, WhatIsNoLineIsSaidAndPassedOver) {
    Wire w;
    w.send("\x01\xff\xfe garbage\n");
    EXPECT_TRUE(w.told("before its headings"));
    w.send(headings);
    EXPECT_TRUE(w.send("1,800\n").empty());
    EXPECT_TRUE(w.told("2 cells under 4"));
    EXPECT_TRUE(w.send("tea,800,112,60\n").empty());
    EXPECT_TRUE(w.told("no line of this recorder"));
    EXPECT_TRUE(w.send("1,800,1,12,60,5\n").empty()); // commas for points: nothing is guessed
    EXPECT_TRUE(w.told("comma"));
    const auto rows = w.send("5,800,4000,60\n");
    ASSERT_EQ(rows.size(), 1u);
    EXPECT_TRUE(std::isnan(rows[0].values[1])); // no head is at 4,000 °C
    EXPECT_TRUE(w.told("no figure of such a gauge"));
    EXPECT_TRUE(w.send(std::string(100'000, 'x')).empty());
    EXPECT_TRUE(w.told("without an end"));
    w.send("\n"); // its end, at last
    EXPECT_EQ(w.send("6,800,112,60\n").size(), 1u);
}

TEST(LineReader, ADeviceThatSendsItsPastFillsNoNeedleOfNow) {
    Wire w;
    std::string dump = headings;
    for (int t = 0; t < 600; ++t)
        dump += fmt::format("{},800,112,60\n", t);
    const auto rows = w.send(dump);
    ASSERT_EQ(rows.size(), 600u);
    EXPECT_TRUE(rows[0].past);
    EXPECT_FALSE(rows[599].past);
    EXPECT_EQ(rows[599].at - rows[0].at, 599'000);
    EXPECT_TRUE(w.told("had kept"));
}

TEST(LineReader, AClockSetBackAndSilenceAreSaid) {
    Wire w;
    w.send(headings + "100,800,112,60\n");
    EXPECT_EQ(w.send("101,800,112,60\n").size(), 1u);
    const auto back = w.send("10,800,112,60\n");
    ASSERT_EQ(back.size(), 1u);
    EXPECT_FALSE(back[0].past);
    EXPECT_TRUE(w.told("set back by 1:31"));
    EXPECT_EQ(w.send("30,800,112,60\n", 20'000).size(), 1u);
    EXPECT_TRUE(w.told("0:20"));
}

TEST(LineReader, AHundredASecondAreTenAndItsColumnsMayChange) {
    Wire w;
    w.send(headings);
    std::size_t kept = 0;
    for (int i = 0; i < 1000; ++i)
        kept += w.send(fmt::format("{:.2f},{},112,60\n", 0.01 * i, 800 + i % 7), 10).size();
    EXPECT_NEAR(static_cast<double>(kept), 100.0, 3.0);
    EXPECT_EQ(w.reader.lines(), 1000u);
    w.send("Time,RPM 1 [rpm],Oil temp 1 [°C]\n");
    EXPECT_TRUE(w.told("3 columns for 4"));
    const auto rows = w.send("20,800,61\n");
    ASSERT_EQ(rows.size(), 1u);
    EXPECT_NEAR(rows[0].values[1], 61 + 273.15, 1e-3);
    // What complaints there are of one kind is said three times.
    int said = 0;
    for (int i = 0; i < 500; ++i) {
        w.send("rubbish,\n");
        said += w.told("passed over") ? 1 : 0;
    }
    EXPECT_LE(said, 3);
}

TEST(LineReader, NothingOnAWireBreaksIt) {
    std::uint64_t count = 0;
    const auto draw = [&](double most) { return powerplant::uniformAt(77, 5, ++count) * most; };
    const std::string pieces[] = {headings,
                                  "1,800,112,60\n",
                                  "Time;RPM 1 [rpm];CHT 1 [°C]\n",
                                  "7;8,5;9\n",
                                  ",,,,\n",
                                  "\r\n",
                                  "\"1,2\n",
                                  "1e999,-1e999,nan,inf\n",
                                  "23:59:59,800,112,60\n",
                                  "00:00:01,800,112,60\n",
                                  std::string(300, '\0'),
                                  "99999999999999999999,1,1,1\n",
                                  "2026-05-14 10:00:00,1,1,1\n"};
    for (int run = 0; run < 200; ++run) {
        Wire w;
        for (int i = 0; i < 60; ++i) {
            std::string bytes = pieces[static_cast<std::size_t>(draw(13))];
            if (draw(1) < 0.3 && !bytes.empty())
                bytes[static_cast<std::size_t>(draw(static_cast<double>(bytes.size())))] = static_cast<char>(draw(256));
            if (draw(1) < 0.2)
                bytes.resize(static_cast<std::size_t>(draw(static_cast<double>(bytes.size()))));
            for (const auto& r : w.send(bytes, static_cast<std::int64_t>(draw(8000)) - 500))
                EXPECT_EQ(r.values.size(), w.reader.map()->columns.size());
            if (draw(1) < 0.05)
                w.reader.parted();
            (void)w.reader.told();
        }
    }
}

TEST(StandIn, WhatItSendsIsWhatARecorderOfOursReads) {
    const auto& l = test::loaded("tinker-damp");
    aloft::StandInSetting setting;
    setting.seed = 3;
    const auto flight = aloft::standInFlight(*l.aircraft, *l.sortie, setting);
    LineReader reader(l.aircraft->notes);
    std::int64_t now = noon;
    reader.take(aloft::headingLine(flight) + "\n", now);
    ASSERT_NE(reader.map(), nullptr);
    EXPECT_TRUE(reader.map()->unknown.empty());
    EXPECT_EQ(reader.map()->columns.size() + 1, flight.headings.size());
    for (std::size_t i = 0; i < flight.rows.size(); i += 60)
        reader.take(aloft::rowLine(flight, i) + "\n", now += 60'000);
    EXPECT_EQ(reader.passedOver(), 0u);
    // Another seed is another aircraft; the same is the same.
    const auto again = aloft::standInFlight(*l.aircraft, *l.sortie, setting);
    EXPECT_EQ(aloft::rowLine(again, 2000), aloft::rowLine(flight, 2000));
    setting.seed = 4;
    EXPECT_NE(aloft::rowLine(aloft::standInFlight(*l.aircraft, *l.sortie, setting), 2000),
              aloft::rowLine(flight, 2000));
}

} // namespace
