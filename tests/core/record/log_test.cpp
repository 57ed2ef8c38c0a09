// SPDX-License-Identifier: GPL-3.0-or-later
// The log: entries are never changed, corrections supersede, a union loses nothing, what is read is what was written.
#include "files/key_ranges.h"
#include "record/log.h"
#include "record/log_text.h"
#include "record/what.h"
#include "units/unit_table.h"
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>
#include <set>

namespace {
using namespace amber;
using namespace amber::record;

constexpr std::int64_t noon = 1'796'040'000'000; // 30 November 2026

Ids seeded(std::uint64_t seed) {
    return idsFrom([seed]() mutable { return seed = seed * 6364136223846793005ULL + 1442695040888963407ULL; });
}
Run run(const std::string& id = "r1") {
    return {id, "HR-K", "Lorimer L.4", "Ravelin and back", noon, ""};
}
Entry head(const std::string& id, double celsius, const std::string& supersedes = {}) {
    Entry e;
    e.id = id;
    e.run = "r1";
    e.supersedes = supersedes;
    e.at = noon + 60'000;
    e.entered = noon + 3'600'000;
    e.phase = Phase::climb;
    e.engine = "port";
    e.what = "head";
    e.value = celsius + 273.15;
    e.planned = 478.15;
    return e;
}
Log logOf(std::vector<Entry> entries) {
    Log log;
    log.runs.emplace("r1", run());
    for (auto& e : entries)
        log.entries.emplace(e.id, e);
    return log;
}

TEST(LogIds, NeverClashAndSortAsTheyWereGivenThoughTheClockIsSetBack) {
    const auto port = seeded(1), starboard = seeded(2);
    std::set<std::string> all;
    std::string last;
    for (int i = 0; i < 40'000; ++i) {
        const std::int64_t now = noon + (i < 20'000 ? i / 1000 : -5'000);
        const auto id = port(now);
        EXPECT_LT(last, id);
        last = id;
        all.insert(id);
        all.insert(starboard(now));
    }
    EXPECT_EQ(all.size(), 80'000u);
}

TEST(Log, ACorrectionStandsInThePlaceOfWhatItCorrectsAndTheOldValueIsKept) {
    const auto log = logOf({head("a", 205), head("b", 215, "a"), head("c", 212, "b")});
    const auto now = standing(log, "r1");
    ASSERT_EQ(now.size(), 1u);
    ASSERT_EQ(now[0].last.size(), 1u);
    EXPECT_NEAR(now[0].last[0]->value, 485.15, 1e-9);
    ASSERT_EQ(now[0].was.size(), 2u);
    EXPECT_EQ(now[0].was[0]->id, "a");
    EXPECT_NEAR(now[0].was[0]->value, 478.15, 1e-9);
    EXPECT_FALSE(now[0].disagrees);
}

TEST(Log, WhatIsWithdrawnStandsNoMoreAndIsStillThere) {
    auto out = head("b", 0, "a");
    out.kind = Entry::Kind::withdrawn;
    const auto log = logOf({head("a", 205), out});
    const auto now = standing(log, "r1");
    ASSERT_EQ(now.size(), 1u);
    EXPECT_TRUE(now[0].last.empty());
    EXPECT_EQ(now[0].was.size(), 2u);
}

TEST(Log, TwoWhoCorrectTheSameApartAreBothKeptAndItIsSaid) {
    Log hangar = logOf({head("a", 205), head("b", 215, "a")});
    const Log laptop = logOf({head("a", 205), head("c", 211, "a")});
    const auto merged = merge(hangar, laptop);
    EXPECT_EQ(merged.entries, 1u);
    ASSERT_EQ(merged.told.size(), 1u);
    EXPECT_NE(merged.told[0].find("entry a has been corrected 2 times apart"), std::string::npos) << merged.told[0];
    const auto now = standing(hangar, "r1");
    ASSERT_EQ(now.size(), 1u);
    EXPECT_EQ(now[0].last.size(), 2u);
    EXPECT_TRUE(now[0].disagrees);
}

TEST(Log, AnIdWithAnotherContentIsRefusedAndTold) {
    Log log = logOf({head("a", 205)});
    const auto merged = merge(log, logOf({head("a", 206)}));
    EXPECT_EQ(merged.entries, 0u);
    ASSERT_EQ(merged.told.size(), 1u);
    EXPECT_NE(merged.told[0].find("what was kept first stays"), std::string::npos);
    EXPECT_NEAR(log.entries.at("a").value, 478.15, 1e-9);
}

TEST(Log, ACircleOfCorrectionsAndOneWithoutItsOriginalStillStand) {
    const auto log = logOf({head("a", 205, "b"), head("b", 206, "a"), head("c", 207, "nowhere")});
    const auto now = standing(log, "r1");
    std::set<std::string> ids;
    for (const auto& s : now)
        for (const auto* e : s.last)
            ids.insert(e->id);
    EXPECT_EQ(ids, (std::set<std::string>{"a", "c"}));
}

Log anyLog(std::uint64_t seed) {
    Log log;
    const auto ids = seeded(7); // of one source, so that logs share some
    std::vector<std::string> entries;
    const auto chance = [&](std::uint64_t of) {
        seed = seed * 6364136223846793005ULL + 1442695040888963407ULL;
        return (seed >> 33) % of;
    };
    for (int r = 0; r < 3; ++r) {
        const auto id = ids(noon + r);
        const bool has = chance(2) == 0;
        if (has)
            log.runs.emplace(id, run(id));
        for (int i = 0; i < 6; ++i) {
            auto e = head(ids(noon + r), 200 + i, i % 2 == 1 ? entries.back() : std::string());
            e.run = id;
            entries.push_back(e.id);
            if (has && chance(2) == 0)
                log.entries.emplace(e.id, e);
        }
    }
    return log;
}

RC_GTEST_PROP(LogProperty, AUnionIsTheSameInEveryOrderAndTwiceIsOnce,
              (std::uint64_t a, std::uint64_t b, std::uint64_t c)) {
    const Log x = anyLog(a), y = anyLog(b), z = anyLog(c);
    Log left = x, right = z, twice = x;
    merge(left, y);
    merge(left, z);
    merge(right, x);
    merge(right, y);
    RC_ASSERT(left == right);
    merge(twice, y);
    const Log once = twice;
    const auto again = merge(twice, y);
    RC_ASSERT(twice == once);
    RC_ASSERT(again.entries == 0u && again.runs == 0u);
    for (const auto& [id, e] : y.entries)
        RC_ASSERT(left.entries.at(id) == e);
}

TEST(LogText, WhatIsWrittenIsReadAgainToTheBit) {
    auto words = head("w", 0);
    words.kind = Entry::Kind::words;
    words.what = "defect";
    words.value = 0.0;
    words.planned.reset();
    words.words = "oil on the cowl, \"port\" side\nwiped off; ü";
    words.who = "R. Q.";
    words.rough = true;
    auto looked = head("l", 0);
    looked.kind = Entry::Kind::looked;
    looked.value = 0.0;
    Log log = logOf({head("a", 204.9999999), head("b", 215, "a"), words, looked});
    log.runs.at("r1").sortie = "format = 1\ntitle = \"x\"\n";
    Problems problems;
    const Log again = readLogJson(logJson(log), "x.json", problems);
    ASSERT_TRUE(problems.empty()) << problems.front().text();
    EXPECT_TRUE(again == log);
    const std::string csv = logCsv(log);
    EXPECT_NE(csv.find(",\"port\",head,215,°C,205,"), std::string::npos) << csv;
    EXPECT_EQ(csv.find("204.99"), std::string::npos) << "what was corrected does not stand";
    EXPECT_NE(csv.find("\"oil on the cowl, \"\"port\"\" side wiped off; ü\""), std::string::npos) << csv;
}

TEST(LogText, WhatIsWrongIsToldAndLeftOutAndTheRestIsThere) {
    std::string text = logJson(logOf({head("a", 205), head("b", 206), head("c", 207)}));
    text.replace(text.find("\"kind\":\"figure\""), 15, "\"kind\":\"guess\"");
    const auto at = text.rfind("480.15");
    ASSERT_NE(at, std::string::npos);
    text.replace(at, 6, "4801.5");
    Problems problems;
    const Log log = readLogJson(text, "x.json", problems);
    EXPECT_EQ(log.entries.size(), 1u);
    EXPECT_TRUE(log.entries.contains("b"));
    ASSERT_EQ(problems.size(), 2u);
    EXPECT_NE(problems[0].text().find("\"entries\", number 1: \"kind\""), std::string::npos) << problems[0].text();
    EXPECT_NE(problems[1].text().find("Between −60 and 500 °C"), std::string::npos) << problems[1].text();
    for (const char* wrong : {"", "{}", "[]", "{\"format\":2}", "{\"format\":1,\"runs\":3}", "nonsense"}) {
        problems.clear();
        EXPECT_TRUE(readLogJson(wrong, "x.json", problems).entries.empty());
        EXPECT_FALSE(problems.empty()) << wrong;
    }
    problems.clear();
    readLogJson("{\"format\":1,\"runs\":" + std::string(100'000, '['), "x.json", problems);
    EXPECT_FALSE(problems.empty());
}

TEST(LogText, TimesAreOfTheCalendar) {
    EXPECT_EQ(timeText(noon), "2026-11-30 12:00:00");
    EXPECT_EQ(timeFrom("2026-11-30 12:00"), noon);
    EXPECT_EQ(timeFrom("2026-11-30T12:00:00Z"), noon);
    EXPECT_EQ(timeFrom("2024-02-29 00:00"), 1'709'164'800'000);
    for (const char* wrong : {"2026-02-29 00:00", "2026-13-01 00:00", "2026-11-30 24:00", "2026-11-30", "today", ""})
        EXPECT_FALSE(timeFrom(wrong)) << wrong;
}

TEST(LogFigures, HaveARangeAndAUnitEach) {
    for (const auto& row : whatRows()) {
        const auto* range = rangeOf(FileFormat::log, row.key);
        ASSERT_NE(range, nullptr) << row.key;
        EXPECT_EQ(range->unit != nullptr, row.dimension.has_value()) << row.key;
        if (row.dimension) {
            EXPECT_NE(findUnit(*row.dimension, range->unit->symbol), nullptr)
                << row.key << ": a unit of another dimension";
        }
    }
    for (const auto& range : keyRanges(FileFormat::log))
        EXPECT_NE(whatOf(range.key), nullptr) << range.key;
    EXPECT_NEAR(readFigure("head", "205 °C").value(), 478.15, 1e-9);
    EXPECT_NEAR(readFigure("oil-pressure", "75 lbf/in²").value(), 517'107, 1);
    EXPECT_NEAR(readFigure("magneto-left", "60 rpm").value(), 1.0, 1e-12);
    EXPECT_EQ(readFigure("tries", "2").value(), 2.0);
    EXPECT_FALSE(readFigure("tries", "2.5"));
    EXPECT_FALSE(readFigure("head", "205")) << "of what?";
    EXPECT_FALSE(readFigure("head", "900 °C"));
    EXPECT_FALSE(readFigure("colour", "3"));
    EXPECT_EQ(figureText("oil-pressure", 517'107), "75 lbf/in²");
    EXPECT_EQ(figureText("tries", 2), "2");
}
} // namespace
