// SPDX-License-Identifier: GPL-3.0-or-later
// Trends by hand, against what is known of them, and with noise whose slope is known.
#include "record/lessons.h"
#include "record/log_text.h"
#include "record/trend.h"
#include "record/what.h"
#include "test_data.h"
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <map>
#include <random>

namespace {
using namespace amber;
using namespace amber::record;

std::vector<Point> points(std::vector<double> residuals) {
    std::vector<Point> out;
    for (std::size_t i = 0; i < residuals.size(); ++i)
        out.push_back({static_cast<double>(i), residuals[i]});
    return out;
}

TEST(Trend, TheSlopeIsTheMedianOfAllPairs) {
    // 0, 1, 5, 3 on four days: slopes 1, 5/2, 1, 4, 1, −2; in order −2, 1, 1, 1, 5/2, 4: median 1.
    EXPECT_NEAR(trendOf(points({0, 1, 5, 3})).slope, 1.0, 1e-11);
    // By hand for ten readings on a line: variance 10·9·25/18 = 125; at 95 % 1.96 × 11.18 = 21.9 of 45 pairs.
    const auto line = trendOf(points({0, 2, 4, 6, 8, 10, 12, 14, 16, 18}), 0.95);
    EXPECT_NEAR(line.slope, 2.0, 1e-11);
    EXPECT_NEAR(line.low, 2.0, 1e-11);
    EXPECT_NEAR(line.high, 2.0, 1e-11);
    EXPECT_NEAR(line.ends - line.begins, 18.0, 1e-9);
    EXPECT_TRUE(line.tells());
}

TEST(Trend, TheIntervalTakesTheRanksThatKendallsVarianceGives) {
    // Ten readings, days 0 to 9, squares: slope of a pair i < j is i + j. Of the 45 sums in order the 11th and the 35th
    // bound 95 % (45 − 21.9 = 23.1, half of it 11.5, down to 11; as many from the other end).
    std::vector<double> squares, sums;
    for (int i = 0; i < 10; ++i) {
        squares.push_back(i * i);
        for (int j = 0; j < i; ++j)
            sums.push_back(i + j);
    }
    std::sort(sums.begin(), sums.end());
    const auto t = trendOf(points(squares), 0.95);
    EXPECT_NEAR(t.slope, sums[22], 1e-11);
    EXPECT_NEAR(t.low, sums[10], 1e-11);
    EXPECT_NEAR(t.high, sums[34], 1e-11);
}

TEST(Trend, AMisreadNeedleDoesNotMoveIt) {
    std::vector<double> steady(20, 0.0);
    for (std::size_t i = 0; i < steady.size(); ++i)
        steady[i] = 0.5 * static_cast<double>(i) + (i % 2 == 0 ? 0.1 : -0.1);
    auto misread = steady;
    misread[15] += 200.0;
    misread[3] -= 100.0;
    EXPECT_NEAR(trendOf(points(misread)).slope, 0.5, 0.03);
    EXPECT_TRUE(trendOf(points(misread)).tells());
}

TEST(Trend, IsSilentWhereTheDataCannotTell) {
    EXPECT_FALSE(trendOf({}).tells());
    EXPECT_FALSE(trendOf(points({1})).tells());
    EXPECT_FALSE(trendOf(points({0, 1, 2, 3, 4, 5, 6})).tells()) << "seven readings are too few";
    EXPECT_TRUE(trendOf(points({0, 1, 2, 3, 4, 5, 6, 7})).tells());
    EXPECT_FALSE(trendOf(points({3, -1, 2, -2, 1, 0, -3, 2, -1, 1, -2, 3})).tells());
    const std::vector<Point> oneDay(12, Point{5.0, 1.0});
    EXPECT_FALSE(trendOf(oneDay).tells());
}

/// How often intervals of so many seasons of noise hold the slope that is known.
int held(double slope, double level, int seasons, std::size_t readings) {
    int out = 0;
    for (int s = 0; s < seasons; ++s) {
        std::mt19937_64 chance(static_cast<std::uint64_t>(s) + 1);
        std::normal_distribution<double> noise(0.0, 4.0);
        std::uniform_real_distribution<double> share(0.0, 1.0);
        std::vector<Point> all;
        for (std::size_t i = 0; i < readings; ++i) {
            const double day = 3.0 * static_cast<double>(i);
            // The plan of each day is another; the needle is read to two degrees; one reading in twenty is misread.
            const double planned = 200.0 + 20.0 * share(chance);
            const double read = std::round((planned + slope * day + noise(chance)) / 2.0) * 2.0;
            all.push_back({day, read + (share(chance) < 0.05 ? 20.0 : 0.0) - planned});
        }
        const auto t = trendOf(all, level);
        out += t.low <= slope && slope <= t.high ? 1 : 0;
    }
    return out;
}

TEST(Trend, ItsIntervalHoldsTheTrueSlopeAsOftenAsItSays) {
    // Of 1,000 seasons at 95 % a binomial gives 950 ± 6.9; four of these to either side (one in 16,000 by chance).
    for (const double slope : {0.0, 0.3}) {
        const int of = held(slope, 0.95, 1000, 24);
        EXPECT_GE(of, 950 - 28) << slope;
        EXPECT_LE(of, 950 + 28) << slope;
    }
}

TEST(Change, IsTheMedianOfTheDifferencesAndTellsAStepFromNone) {
    // 1, 2, 4 before and 7, 9 after: differences 6, 5, 3, 8, 7, 5; in order 3, 5, 5, 6, 7, 8: median 5.5.
    EXPECT_DOUBLE_EQ(changeAt(points({1, 2, 4, 7, 9}), 3.0).by, 5.5);
    std::vector<double> stepped, level;
    for (int i = 0; i < 20; ++i) {
        const double noise = (i * 7 % 5) - 2.0;
        stepped.push_back(noise + (i >= 10 ? 8.0 : 0.0));
        level.push_back(noise);
    }
    const auto step = changeAt(points(stepped), 10.0);
    EXPECT_TRUE(step.tells());
    EXPECT_NEAR(step.by, 8.0, 1.0);
    EXPECT_LE(step.low, 8.0);
    EXPECT_GE(step.high, 8.0);
    EXPECT_FALSE(changeAt(points(level), 10.0).tells());
    EXPECT_FALSE(changeAt(points(stepped), 2.0).tells()) << "two readings before it are too few";
    EXPECT_FALSE(changeAt(points(stepped), 100.0).tells());
}

TEST(Change, TheIntervalTakesTheRanksOfTheRankSum) {
    // Ten before, 0 to 9, and ten after, 100 to 190 by tens: the differences are the whole numbers from 91 to 190. At
    // 99 % 2.576 × √(10·10·21/12) = 34.1 ranks to either side of the middle: the 15th and the 86th.
    std::vector<double> all;
    for (int i = 0; i < 10; ++i)
        all.push_back(i);
    for (int i = 0; i < 10; ++i)
        all.push_back(100 + 10 * i);
    const auto c = changeAt(points(all), 10.0);
    EXPECT_DOUBLE_EQ(c.by, 140.5);
    EXPECT_DOUBLE_EQ(c.low, 105.0);
    EXPECT_DOUBLE_EQ(c.high, 176.0);
    EXPECT_EQ(c.before, 10u);
    EXPECT_EQ(c.after, 10u);
}

TEST(Series, AreResidualsFromThePlanOfTheDaySoThatAHotDayIsNoTrend) {
    Log log;
    for (int i = 0; i < 12; ++i) {
        const std::string id = "run-" + std::string(1, static_cast<char>('a' + i));
        const std::int64_t began = 1'796'040'000'000 + i * std::int64_t{86'400'000};
        log.runs.emplace(id, record::Run{id, "HR-K", "Lorimer L.4", "", began, ""});
        const auto put = [&](const char* engine, double value) {
            Entry e;
            e.id = id + engine;
            e.run = id;
            e.at = e.entered = began + 1000;
            e.phase = Phase::climb;
            e.engine = engine;
            e.what = "head";
            e.value = value;
            e.planned = 470.0 + 2.0 * i; // each day two degrees hotter
            log.entries.emplace(e.id, e);
        };
        put("port", 471.0 + 2.0 * i);
        put("starboard", 470.0 + 2.5 * i); // and this one half a degree more
    }
    const auto all = seriesOf(log, "HR-K");
    ASSERT_EQ(all.size(), 2u);
    EXPECT_EQ(all[0].engine, "port");
    EXPECT_TRUE(all[0].againstPlan);
    EXPECT_FALSE(trendOf(all[0].points).tells());
    const auto t = trendOf(all[1].points);
    EXPECT_TRUE(t.tells());
    EXPECT_NEAR(t.slope, 0.5, 1e-9);
    EXPECT_EQ(trendText(all[1], t), "Head temp., Climb, starboard: up by 5.5 °C in 11 days against the plan of each "
                                    "day, 5.5 to 5.5 (12 readings, 99 %)");
    EXPECT_EQ(trendText(all[0], trendOf(all[0].points)),
              "Head temp., Climb, port: the 12 readings do not tell that anything changes");
    EXPECT_TRUE(seriesOf(log, "XX").empty());
}

/// Half-hourly scans of one flight have that flight's day in common: five of them are no five witnesses. Of healthy
/// series with an effect of the run (1.5 K) beside that of the needle (0.5 K), read five times a run, one in a hundred
/// cries, as promised at 99 %; taken one by one, many more would.
TEST(Trend, ScansOfOneRunAreOneFigureOfIt) {
    std::mt19937 random(20261);
    std::normal_distribution<double> ofRun(0.0, 1.5), ofNeedle(0.0, 0.5);
    constexpr int airframes = 150, runs = 24, scans = 5;
    int cried = 0, criedEach = 0;
    for (int k = 0; k < airframes; ++k) {
        Log log;
        std::vector<Point> each;
        for (int i = 0; i < runs; ++i) {
            const std::string id = fmt::format("r{}", i);
            const std::int64_t began = 1'700'000'000'000 + i * std::int64_t{86'400'000};
            log.runs.emplace(id, record::Run{id, "HR-K", "Lorimer L.4", "", began, ""});
            const double effect = ofRun(random);
            for (int j = 0; j < scans; ++j) {
                Entry e;
                e.id = fmt::format("{}-{}", id, j);
                e.run = id;
                e.at = e.entered = began + (j + 1) * std::int64_t{1'800'000};
                e.phase = Phase::cruise;
                e.engine = "port";
                e.what = "oil";
                e.value = 350.0 + effect + ofNeedle(random);
                e.planned = 350.0;
                each.push_back({static_cast<double>(e.at) / 86'400'000.0, e.value - 350.0});
                log.entries.emplace(e.id, e);
            }
        }
        const auto all = seriesOf(log, "HR-K");
        ASSERT_EQ(all.size(), 1u);
        ASSERT_EQ(all[0].points.size(), static_cast<std::size_t>(runs));
        cried += trendOf(all[0].points).tells();
        criedEach += trendOf(each).tells();
    }
    // Of 150 at 1 % more than six in one of 1,500 tries (binomial).
    EXPECT_LE(cried, 6);
    EXPECT_GT(criedEach, 15) << "each scan for itself";
}

/// The season that ships: starboard's oil cooler clogs from the thirteenth run on, and nothing else is wrong. Port's
/// heads read 6 K more than they are and it wants 1.3 of the dose; both burn 1.05 of the model's fuel (bench/season).
TEST(DemoSeason, FindsTheCloggingCoolerAndLeavesTheSoundEngineAlone) {
    Problems problems;
    const std::string file = test::dataPath("logs/lorimer-season.json");
    const auto log = record::readLogJson(test::fileText(file), file, problems);
    ASSERT_TRUE(problems.empty()) << problems.front().text();
    EXPECT_EQ(log.runs.size(), 36u);
    int sound = 0, wrong = 0;
    std::map<Phase, double> warmer; // K over the season, starboard's oil
    for (const auto& s : record::seriesOf(log, "HR-K")) {
        const auto trend = record::trendOf(s.points);
        const WhatRow* row = whatOf(s.what);
        EXPECT_EQ(s.againstPlan, (row && row->gauge) || s.what == "prime" || s.what == "fuel-added") << s.what;
        if (s.engine == "2" && s.what == "oil" && trend.tells())
            warmer[s.phase] = trend.ends - trend.begins;
        if (s.engine != "1")
            continue;
        ++sound;
        wrong += trend.tells() ? 1 : 0;
    }
    // Of 21 series at 99 % two or more cry wrongly in one season of fifty (binomial).
    EXPECT_GE(sound, 18);
    EXPECT_LE(wrong, 1);
    // What half a clogged cooler makes, hottest where the engine works hardest.
    ASSERT_TRUE(warmer.contains(Phase::climb));
    ASSERT_TRUE(warmer.contains(Phase::cruise));
    EXPECT_NEAR(warmer[Phase::climb], 18.0, 9.0);
    EXPECT_GT(warmer[Phase::cruise], 5.0);
}

TEST(DemoSeason, TeachesWhatIsTrueOfItAndNothingElse) {
    Problems problems;
    const std::string file = test::dataPath("logs/lorimer-season.json");
    const auto log = record::readLogJson(test::fileText(file), file, problems);
    int offered = 0;
    for (const auto& l : record::lessonsOf(log, "HR-K", test::lorimer().notes, "mark")) {
        if (!l.planned)
            continue;
        const bool port = l.line.engine == "1";
        const double truth = l.line.what == "fuel"           ? 1.05
                             : l.line.what == "prime"        ? (port ? 1.3 : 1.0)
                             : port && l.line.what == "head" ? 6.0
                                                             : 0.0;
        EXPECT_EQ(l.offered(), truth != 0.0 && truth != 1.0) << l.words << ' ' << l.notOffered;
        offered += l.offered() ? 1 : 0;
        if (l.line.engine == "2" && l.line.what.starts_with("oil"))
            continue; // that one is no constant
        EXPECT_LE(l.low, truth) << l.words;
        EXPECT_GE(l.high, truth) << l.words;
    }
    EXPECT_EQ(offered, 3);
}

} // namespace
