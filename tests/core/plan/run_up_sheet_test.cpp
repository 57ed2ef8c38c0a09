// SPDX-License-Identifier: GPL-3.0-or-later
// The run-up sheet: readings judged, patterns of the magnetos told, budgets of time.
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include "watch/magnetos.h"
#include <rapidcheck/gtest.h>
#include <set>

namespace {
using namespace amber;
using watch::DropManner;

watch::Drop drop(double rpm, DropManner manner = DropManner::smooth) {
    return {Rotation::si(rpm / 60), manner};
}
MagnetoNotes notes() {
    MagnetoNotes m;
    m.left = m.right = Rotation::si(90.0 / 60);
    m.difference = Rotation::si(40.0 / 60);
    return m;
}
watch::MagnetoFinding find(const watch::Drop& l, const watch::Drop& r, int cleared = 0) {
    return watch::magnetoFinding(notes(), l, r, cleared, "30 s at 32 inHg");
}

TEST(ReadDrop, TakesWhatAPilotWrites) {
    EXPECT_NEAR(watch::readDrop("80").value().fall.si() * 60, 80, 1e-9);
    EXPECT_EQ(watch::readDrop(" 80 rpm, slow").value().manner, DropManner::slow);
    EXPECT_EQ(watch::readDrop("120 rough").value().manner, DropManner::sudden);
    EXPECT_EQ(watch::readDrop("stops").value().manner, DropManner::stopped);
    EXPECT_EQ(watch::readDrop("0").value().fall.si(), 0);
    for (const char* bad : {"", "slow", "80 blue", "-20", "9,000", "eighty", "nan"}) {
        EXPECT_FALSE(watch::readDrop(bad)) << bad;
    }
}

RC_GTEST_PROP(ReadDrop, WhatIsKeptIsReadBack, ()) {
    const auto d = drop(*rc::gen::inRange(0, 400), *rc::gen::element(DropManner::smooth, DropManner::slow,
                                                                     DropManner::sudden, DropManner::stopped));
    const auto again = watch::readDrop(watch::wordsOf(d));
    RC_ASSERT(static_cast<bool>(again));
    RC_ASSERT(again.value().manner == d.manner);
    if (d.manner != DropManner::stopped) {
        RC_ASSERT(std::abs(again.value().fall.si() - d.fall.si()) < 1e-9);
    }
}

TEST(Magnetos, EachPatternHasItsCauseAndItsNextAction) {
    const auto good = find(drop(60), drop(75));
    EXPECT_EQ(good.verdict.colour(), watch::Colour::normal);
    EXPECT_TRUE(good.cause.empty());
    const auto oily = find(drop(60), drop(130, DropManner::slow));
    EXPECT_EQ(oily.verdict.colour(), watch::Colour::red);
    EXPECT_NE(oily.cause.find("right"), std::string::npos);
    EXPECT_TRUE(oily.burst);
    EXPECT_NE(oily.next.find("30 s at 32 inHg"), std::string::npos);
    const auto stillOily = find(drop(60), drop(130, DropManner::slow), 1);
    EXPECT_FALSE(stillOily.burst);
    EXPECT_NE(stillOily.next.find("engineer"), std::string::npos);
    const auto dead = find(drop(150, DropManner::sudden), drop(60));
    EXPECT_FALSE(dead.burst) << "a burst does not mend a lead";
    EXPECT_NE(dead.cause.find("left"), std::string::npos);
    const auto live = find(drop(0), drop(60));
    EXPECT_EQ(live.verdict.colour(), watch::Colour::red);
    EXPECT_NE(live.cause.find("earth"), std::string::npos);
    EXPECT_NE(live.next.find("propeller"), std::string::npos);
    const auto both = find(drop(120), drop(130));
    EXPECT_NE(both.cause.find("mixture"), std::string::npos);
    const auto apart = find(drop(30), drop(80));
    EXPECT_EQ(apart.verdict.colour(), watch::Colour::amber);
    EXPECT_TRUE(apart.burst);
    const auto misses = find(drop(50, DropManner::sudden), drop(60));
    EXPECT_EQ(misses.verdict.colour(), watch::Colour::amber);
    const auto stops = find(drop(0, DropManner::stopped), drop(60));
    EXPECT_NE(stops.cause.find("dead"), std::string::npos);
    EXPECT_NE(stops.next.find("throttle"), std::string::npos);
}

TEST(Magnetos, LimitsOnTheLimitAreInsideIt) {
    EXPECT_EQ(watch::judgeDrop(notes(), watch::MagnetoSide::left, drop(90)).colour(), watch::Colour::normal);
    EXPECT_EQ(watch::judgeDrop(notes(), watch::MagnetoSide::left, drop(91)).colour(), watch::Colour::red);
    EXPECT_EQ(watch::judgeDrop(notes(), watch::MagnetoSide::left, drop(9)).colour(), watch::Colour::red);
    EXPECT_EQ(watch::judgeDifference(notes(), drop(50), drop(90)).colour(), watch::Colour::normal);
    EXPECT_EQ(watch::judgeDifference(notes(), drop(50), drop(91)).colour(), watch::Colour::amber);
}

RC_GTEST_PROP(Magnetos, TheFindingIsNeverKinderThanTheJudge, ()) {
    const auto any = [] {
        return drop(*rc::gen::inRange(0, 200),
                    *rc::gen::element(DropManner::smooth, DropManner::slow, DropManner::sudden, DropManner::stopped));
    };
    const auto l = any(), r = any();
    const auto f = find(l, r, *rc::gen::inRange(0, 3));
    RC_ASSERT(f.verdict.colour() >= watch::judgeDrop(notes(), watch::MagnetoSide::left, l).colour());
    RC_ASSERT(f.verdict.colour() >= watch::judgeDrop(notes(), watch::MagnetoSide::right, r).colour());
    RC_ASSERT(f.verdict.colour() >= watch::judgeDifference(notes(), l, r).colour());
    RC_ASSERT((f.verdict.colour() == watch::Colour::normal) == f.next.empty());
    RC_ASSERT(f.cause.empty() == f.next.empty());
}

TEST(RunUpSheet, EveryTypeHasOneWithItsOwnFigures) {
    std::set<std::string> limits;
    for (const auto& name : test::demoNames()) {
        const auto l = test::loadDemo(name);
        const auto plan = plan::makePlan(*l.aircraft, *l.sortie);
        const auto& sheet = plan.runUpSheet;
        EXPECT_GE(sheet.lines.size(), 7u) << name;
        EXPECT_EQ(sheet.engines.size(), l.aircraft->notes.engineCount());
        ASSERT_TRUE(sheet.line("left") && sheet.line("right") && sheet.line("magnetos")) << name;
        for (const auto& line : sheet.lines) {
            EXPECT_FALSE(line.want.empty()) << name << " " << line.id;
            EXPECT_FALSE(line.cells.empty());
        }
        ASSERT_TRUE(sheet.highPowerMost) << name;
        EXPECT_LE(sheet.highPower, *sheet.highPowerMost) << name;
        limits.insert(watch::magnetoLimits(l.aircraft->notes));
        // The steps of the page word the same limits.
        const auto& set = plan[Phase::runUp].set;
        EXPECT_TRUE(std::any_of(set.begin(), set.end(), [&](const plan::SetLine& s) {
            return s.value.find(watch::magnetoLimits(l.aircraft->notes)) != std::string::npos;
        })) << name;
    }
    EXPECT_GE(limits.size(), 7u) << "types differ";
}

TEST(RunUpSheet, TheReferenceFollowsTheDay) {
    const auto l = test::loadDemo("lorimer-spring");
    const auto band = [&](double oat) {
        Sortie s = *l.sortie;
        s.day.oat = Temperature::of(oat, units::celsius);
        s.day.dewPoint = Temperature::of(oat - 5, units::celsius);
        const auto p = plan::makePlan(*l.aircraft, s);
        const auto* line = p.runUpSheet.line("reference");
        EXPECT_NEAR((*line->band.normalHigh - *line->band.normalLow) * 60, 100, 1e-6);
        EXPECT_NEAR(0.5 * (*line->band.normalHigh + *line->band.normalLow), p.flown.referenceRpm.si(), 1e-9);
        return *line->band.normalLow;
    };
    EXPECT_NE(band(-15), band(30)) << "computed for the day, not one printed figure";
}

TEST(RunUpSheet, VerdictsAreTheJudges) {
    const auto l = test::loadDemo("mercer-frost");
    Sortie s = *l.sortie;
    s.runUpFound = {{"fuel/1", "23 lbf/in²"},     {"fuel/2", "20 lbf/in²"}, {"fuel/3", "15 lbf/in²"},
                    {"left/1", "50 rpm"},         {"right/1", "60 rpm"},    {"left/2", "60 rpm"},
                    {"right/2", "140 rpm, slow"}, {"cleared/2", "1"}};
    ASSERT_TRUE(checkSortie(s, l.aircraft->notes, "s").empty());
    const auto p = plan::makePlan(*l.aircraft, s);
    const auto& sheet = p.runUpSheet;
    const auto& fuel = *sheet.line("fuel");
    for (std::size_t i = 0; i < 3; ++i) {
        const auto wanted = watch::judgeReading(fuel.what, fuel.band, *fuel.unit, *fuel.cells[i].value, fuel.stopper);
        EXPECT_EQ(fuel.cells[i].verdict.colour(), wanted.colour());
        EXPECT_EQ(fuel.cells[i].verdict.sentence(), wanted.sentence());
    }
    EXPECT_EQ(fuel.cells[0].verdict.colour(), watch::Colour::normal);
    EXPECT_EQ(fuel.cells[1].verdict.colour(), watch::Colour::amber);
    EXPECT_EQ(fuel.cells[2].verdict.colour(), watch::Colour::red);
    EXPECT_FALSE(fuel.cells[2].cause.empty());
    EXPECT_EQ(sheet.line("magnetos")->cells[0].shown, "within limits");
    EXPECT_NE(sheet.line("magnetos")->cells[1].next.find("engineer"), std::string::npos) << "after one burst";
    EXPECT_TRUE(sheet.line("magnetos")->cells[2].shown.empty()) << "not read yet";
    EXPECT_EQ(sheet.worst.colour(), watch::Colour::red);
    EXPECT_EQ(p[Phase::runUp].worst.colour(), watch::Colour::red);
    ASSERT_FALSE(sheet.findings.empty());
    EXPECT_EQ(sheet.findings.front().verdict.colour(), watch::Colour::red) << "worst first";
    EXPECT_EQ(sheet.read, 7);
}

TEST(RunUpSheet, FrostAsksForMoreCycles) {
    const auto l = test::loadDemo("lorimer-spring");
    const auto cycles = [&](double oat) {
        Sortie s = *l.sortie;
        s.day.oat = Temperature::of(oat, units::celsius);
        s.day.dewPoint = Temperature::of(oat - 5, units::celsius);
        return plan::makePlan(*l.aircraft, s).runUpSheet.line("propeller")->what;
    };
    EXPECT_NE(cycles(10).find("×2"), std::string::npos);
    EXPECT_NE(cycles(-10).find("×4"), std::string::npos);
}

TEST(RunUpSheet, FindingsAreSavedAndReadBackAndBadOnesRefused) {
    const auto l = test::loadDemo("lorimer-spring");
    Sortie s = *l.sortie;
    s.runUpFound = {{"left/1", "70 rpm, slow"}, {"hydraulic", "1,000 lbf/in²"}};
    s.forecast = Temperature::of(-9, units::celsius);
    s.start.blanks = true;
    const auto sheet = watch::runUpSheet(l.aircraft->notes, s.runUpFound, {});
    std::string hydraulic;
    for (const auto& line : sheet.lines)
        if (line.what == "Hydraulic")
            hydraulic = line.cells.front().key;
    s.runUpFound.erase("hydraulic");
    s.runUpFound[hydraulic] = "1,000 lbf/in²";
    const auto again = readSortie(writeSortie(s, l.aircraft->notes.cockpit), "s.toml");
    ASSERT_TRUE(again.sortie);
    EXPECT_EQ(again.sortie->runUpFound, s.runUpFound);
    EXPECT_NEAR(again.sortie->forecast->si(), s.forecast->si(), 1e-6);
    EXPECT_TRUE(again.sortie->start.blanks);
    EXPECT_TRUE(checkSortie(*again.sortie, l.aircraft->notes, "s").empty());
    s.runUpFound["left/1"] = "eighty";
    s.runUpFound["left/9"] = "80";
    EXPECT_EQ(checkSortie(s, l.aircraft->notes, "s").size(), 2u);
}

TEST(RunUpNotes, BadSheetsAreReportedWithTheirLine) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto problem = [&](const std::string& from, const std::string& to, const std::string& wanted) {
        const auto reading = readNotes(test::replaced(text, from, to), "l.toml");
        bool found = false;
        for (const auto& p : reading.problems)
            found = found || (p.text().find(wanted) != std::string::npos && p.line > 0);
        EXPECT_TRUE(found) << wanted << (reading.problems.empty() ? "" : ": " + reading.problems.front().text());
    };
    problem("drop = 90", "drop = 9000", "out of range");
    problem("least = 10\non_one", "least = 200\non_one", "least is more than the most");
    problem("cycles = 2", "cycles = 0", "cycles");
    problem("oil = \"30 °C\"\nrpm = 1200", "oil = \"5 °C\"\nrpm = 1200", "steps do not rise");
    problem("cooling_per_minute = \"18 °C\"", "cooling_per_minute = \"900 °C\"", "out of range");
    problem("at = \"-15 °C\"\nminutes = 4", "at = \"-15 °C\"\nminutes = 9", "more to a warmer night");
    problem("what = \"Vacuum\"\nkind = \"pressure\"", "what = \"Vacuum\"\nkind = \"presure\"", "kind");
}

TEST(Magnetos, WhatIsTypedMayHaveGapsAroundIt) {
    for (const char* text : {"80", "  80", "80  ", "\t80 rpm\t", " 80, "}) {
        const auto drop = watch::readDrop(text);
        ASSERT_TRUE(drop) << text;
        EXPECT_NEAR(drop.value().fall.si() * 60, 80, 1e-9) << text;
        EXPECT_EQ(drop.value().manner, DropManner::smooth) << text;
    }
    EXPECT_EQ(watch::readDrop("80 rpm, slow  ").value().manner, DropManner::slow);
}
} // namespace
