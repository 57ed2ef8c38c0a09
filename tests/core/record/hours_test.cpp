// SPDX-License-Identifier: GPL-3.0-or-later
// Hours, starts, oil and what is due, added up by hand.
#include "record/hours.h"
#include "record/log_text.h"
#include "record/what.h"
#include "sortie/airframe_file.h"
#include "test_data.h"
#include <fmt/format.h>

namespace {
using namespace amber;
using namespace amber::record;

constexpr std::int64_t dayLong = 86'400'000;

class HoursOf : public ::testing::Test {
protected:
    Entry& add(int day, const std::string& engine, const std::string& what, double value) {
        Entry e;
        const std::int64_t began = *timeFrom("2025-05-01 10:00") + day * dayLong;
        e.run = fmt::format("run-{:04}", day);
        log.runs.try_emplace(e.run, record::Run{e.run, "HR-K", "Lorimer L.4", "About the field", began, {}});
        e.id = fmt::format("entry-{:04}", count++);
        e.at = e.entered = began;
        e.phase = Phase::writeUp;
        e.engine = engine;
        e.what = what;
        e.value = value;
        return log.entries[e.id] = e;
    }
    void words(int day, const std::string& engine, const std::string& what, const std::string& said) {
        auto& e = add(day, engine, what, 0.0);
        e.kind = Entry::Kind::words;
        e.words = said;
        EXPECT_EQ(wrongWith(e), "");
    }
    [[nodiscard]] Hours hours(const std::string& now = "2025-06-01 00:00") const {
        return hoursOf(log, "HR-K", test::lorimer().notes, &facts, *timeFrom(now));
    }
    [[nodiscard]] static std::string sentence(const Hours& h) {
        return h.due.empty() ? std::string() : h.due.front().verdict.sentence();
    }
    Log log;
    AirframeFacts facts;
    int count = 0;
};

TEST_F(HoursOf, TimesAreRunningElseFirstFireToStop) {
    facts.hours = 4000.0;
    facts.engines = {{"1", "B14-207", 600.0, 100.0}, {"2", "B14-188", std::nullopt, std::nullopt}};
    add(0, "1", "running", 1.5 * 3600.0);
    add(0, "2", "at-first-fire", 600.0);
    add(0, {}, "at-take-off", 1800.0);
    add(0, {}, "at-stop", 7800.0); // two hours of starboard, 1 h 40 min of the airframe
    add(1, {}, "running", 3600.0); // of both
    add(2, "1", "oil-added", 0.004);
    const auto h = hours();
    ASSERT_EQ(h.engines.size(), 2u);
    EXPECT_DOUBLE_EQ(h.engines[0].logged, 2.5 * 3600.0);
    EXPECT_DOUBLE_EQ(h.engines[1].logged, 3.0 * 3600.0);
    EXPECT_DOUBLE_EQ(*h.engines[0].sinceNew, 602.5 * 3600.0);
    EXPECT_DOUBLE_EQ(*h.engines[0].sinceOverhaul, 102.5 * 3600.0);
    EXPECT_FALSE(h.engines[1].sinceNew) << "nobody has said what it stood at";
    EXPECT_FALSE(h.engines[1].sinceOverhaul);
    EXPECT_DOUBLE_EQ(h.logged, 6000.0 + 3600.0);
    EXPECT_DOUBLE_EQ(*h.sinceNew, 4000.0 * 3600.0 + 9600.0);
    EXPECT_EQ(h.runs, 3);
    EXPECT_EQ(h.timeless, 1);
    EXPECT_EQ(hoursTable(h, test::lorimer().notes).told.back(),
              "Of 3 runs one is without times and adds nothing: type how long each engine ran in the write-up.");
    EXPECT_EQ(h.engines[0].starts, 2);
    EXPECT_FALSE(h.engines[0].oilAnHour) << "of two and a half hours nothing is told";
}

TEST_F(HoursOf, OilAnHourIsOfTheRunsWhoseTimeIsKnown) {
    for (int day = 0; day < 4; ++day) {
        add(day, "1", "running", 2.0 * 3600.0);
        add(day, "1", "oil-added", 0.006);
        add(day, "1", "tries", day == 0 ? 3.0 : 1.0);
        add(day, "1", "rating/take-off", 180.0);
    }
    add(5, "1", "oil-added", 0.5); // a change of oil, no run
    const auto h = hours();
    EXPECT_NEAR(*h.engines[0].oilAnHour * 3600.0, 0.003, 1e-12) << "three litres an hour";
    EXPECT_NEAR(h.engines[0].oilAdded, 0.524, 1e-12);
    EXPECT_EQ(h.engines[0].starts, 4);
    EXPECT_EQ(h.engines[0].tries, 6);
    ASSERT_EQ(h.engines[0].ratings.size(), 1u);
    EXPECT_DOUBLE_EQ(h.engines[0].ratings[0].second, 720.0);
    const auto table = hoursTable(h, test::lorimer().notes);
    EXPECT_EQ(table.columns, (std::vector<std::string>{"Port", "Starboard"}));
    bool told = false;
    for (const auto& row : table.rows)
        if (row.what == "Of these in the log") {
            told = true;
            EXPECT_EQ(row.cells[0], "8 h");
        }
    EXPECT_TRUE(told);
}

TEST_F(HoursOf, AnEngineThatDidNotFireWasTriedAndNotStarted) {
    add(0, "1", "tries", 2.0);
    add(0, "1", "fire", 6.0);
    add(0, "2", "tries", 5.0); // and nobody wrote anything of it afterwards
    add(1, "1", "tries", 1.0);
    add(1, "1", "running", 3600.0);
    auto& heads = add(2, "2", "head", 450.0); // no clock and no count, but somebody read it in cruise
    heads.phase = Phase::cruise;
    const auto h = hours();
    EXPECT_EQ(h.engines[0].starts, 2);
    EXPECT_EQ(h.engines[0].tries, 3);
    EXPECT_EQ(h.engines[1].starts, 1);
    EXPECT_EQ(h.engines[1].tries, 6) << "five in vain, and one that nobody counted";
}

TEST_F(HoursOf, RunsOfBeforeTheFilesDayAreInItsHours) {
    facts.engines = {{"1", {}, 600.0, {}}};
    facts.hoursAt = "2025-05-03";
    for (int day = 0; day < 4; ++day) // 1 to 4 May
        add(day, "1", "running", 3600.0);
    const auto h = hours();
    EXPECT_EQ(h.earlier, 2);
    EXPECT_EQ(h.runs, 2);
    EXPECT_DOUBLE_EQ(*h.engines[0].sinceNew, 602.0 * 3600.0);
}

TEST_F(HoursOf, AnOverhaulBeginsAnEngineAnew) {
    facts.engines = {{"1", {}, 600.0, 500.0}, {"2", {}, 600.0, 500.0}};
    for (int day = 0; day < 6; ++day)
        for (const char* engine : {"1", "2"})
            add(day, engine, "running", 3600.0);
    words(4, "1", "overhaul", "by the shop");
    const auto h = hours();
    EXPECT_DOUBLE_EQ(*h.engines[0].sinceOverhaul, 2.0 * 3600.0) << "the day of it and after";
    EXPECT_EQ(h.engines[0].overhauled, "2025-05-05");
    EXPECT_DOUBLE_EQ(*h.engines[0].sinceNew, 606.0 * 3600.0);
    EXPECT_DOUBLE_EQ(*h.engines[1].sinceOverhaul, 506.0 * 3600.0);
}

TEST_F(HoursOf, WhatComesRoundByHoursIsToldInTime) {
    facts.engines = {{"1", {}, 600.0, {}}};
    facts.due = {{"oil screens", "1", 50.0, 560.0, {}, {}}};
    const auto after = [&](double more) {
        log = {};
        add(0, "1", "running", more * 3600.0);
        return hours();
    };
    EXPECT_EQ(after(2.0).due[0].verdict.colour(), watch::Colour::normal) << "8 h of 50";
    EXPECT_DOUBLE_EQ(*after(2.0).due[0].leftHours, 8.0);
    EXPECT_EQ(after(6.0).due[0].verdict.colour(), watch::Colour::amber) << "4 h: within the last tenth";
    EXPECT_EQ(after(11.0).due[0].verdict.colour(), watch::Colour::red);
    EXPECT_EQ(sentence(after(11.0)), "Port, oil screens: 1 h past its 50 h.");
    words(1, "1", "work", "Oil screens cleaned, nothing in them");
    const auto done = hours();
    EXPECT_DOUBLE_EQ(*done.due[0].leftHours, 50.0);
    EXPECT_EQ(done.due[0].done, "2025-05-02");
    EXPECT_EQ(done.due[0].verdict.colour(), watch::Colour::normal);
    words(2, "2", "work", "Oil screens cleaned");
    EXPECT_EQ(hours().due[0].done, "2025-05-02") << "another engine's";
}

TEST_F(HoursOf, WhatComesRoundByMonthsToo) {
    facts.hours = 100.0;
    facts.due = {{"annual", {}, std::nullopt, std::nullopt, 12, "2025-01-31"}};
    EXPECT_EQ(hours("2025-06-01 00:00").due[0].verdict.colour(), watch::Colour::normal);
    EXPECT_EQ(hours("2026-01-20 00:00").due[0].verdict.colour(), watch::Colour::amber);
    EXPECT_DOUBLE_EQ(*hours("2026-01-20 00:00").due[0].leftDays, 11.0);
    EXPECT_EQ(hours("2026-02-02 00:00").due[0].verdict.colour(), watch::Colour::red);
    facts.due[0].months = 1;
    EXPECT_NE(sentence(hours("2025-02-02 00:00")).find("2025-02-28"), std::string::npos) << "a shorter month ends it";
    facts.due[0] = {"annual", {}, 200.0, std::nullopt, {}, {}};
    EXPECT_EQ(hours().due[0].verdict.colour(), watch::Colour::amber);
    EXPECT_EQ(sentence(hours()), "Annual: nobody has said when it was done.");
}

TEST(TimesOfTheLog, AreWrittenByTheClock) {
    EXPECT_DOUBLE_EQ(readFigure("running", "2:15").value(), 8100.0) << "hours and minutes";
    EXPECT_DOUBLE_EQ(readFigure("oil-pressure-up", "0:12").value(), 12.0) << "minutes and seconds";
    EXPECT_DOUBLE_EQ(readFigure("warm-up", " 12:30 ").value(), 750.0);
    EXPECT_DOUBLE_EQ(readFigure("running", "2.25 h").value(), 8100.0);
    EXPECT_EQ(figureText("running", 8100.0), "2:15 h");
    for (const char* wrong : {"2:5", "2:75", ":15", "a:15", "2:15:00", "99:00"})
        EXPECT_FALSE(readFigure("running", wrong)) << wrong;
}

TEST(DueInTheFile, ASlipIsTold) {
    const auto problem = [](const std::string& lines) {
        const auto read =
            readAirframe("format = 1\n[airframe]\nnotes = \"n.toml\"\nregistration = \"HR-K\"\n" + lines, "a.toml");
        return read.problems.empty() ? std::string() : read.problems.front().text();
    };
    EXPECT_EQ(problem("hours_at = \"2025-04-01\"\n[[due]]\nwhat = \"annual\"\nmonths = 12\ndone = \"2025-02-03\"\n"),
              "");
    EXPECT_NE(problem("[[due]]\nwhat = \"annual\"\n").find("nothing says when it comes round"), std::string::npos);
    EXPECT_NE(problem("[[due]]\nwhat = \"annual\"\nmonths = 12\ndone = \"3 February\"\n").find("is no day"),
              std::string::npos);
    EXPECT_NE(problem("hours_at = \"2025-13-01\"\n").find("is no day"), std::string::npos);
    EXPECT_NE(problem("[[due]]\nwhat = \"x\"\nevery = 0\n").find("Between 0.5"), std::string::npos);
}

} // namespace
