// SPDX-License-Identifier: GPL-3.0-or-later
// What a run's readings come to for an engineer, what holds the next flight, and what closes it.
#include "record/judged.h"
#include "record/log_text.h"
#include "record/run_of.h"
#include "record/what.h"
#include "record/write_up.h"
#include "test_data.h"
#include "watch/start_counts.h"

namespace {
using namespace amber;
using record::Answer;
using record::Entry;
using watch::Colour;

constexpr std::int64_t writtenNoon = 1'796'040'000'000; // 30 November 2026

class WriteUp : public testing::Test {
protected:
    const flight::LoadedSortie& l = test::loaded("lorimer-spring");
    const TypeNotes& notes = l.aircraft->notes;
    record::Log log{{{"r1", {"r1", "HR-K", notes.name, "", writtenNoon, ""}}}, {}};
    record::Ids ids = record::idsFrom([this] { return ++chance; });
    std::uint64_t chance = 0;
    std::int64_t clock = writtenNoon;

    const Entry& add(Phase phase, const std::string& what, double value, const std::string& engine = "1",
                     const std::string& words = {}, const std::string& supersedes = {}) {
        Entry e;
        e.id = ids(clock);
        e.run = "r1";
        e.at = e.entered = clock;
        e.phase = phase;
        e.engine = engine;
        e.what = what;
        e.value = value;
        e.words = words;
        e.supersedes = supersedes;
        if (what == "defect")
            e.kind = Entry::Kind::words;
        EXPECT_EQ(record::wrongWith(e), "");
        clock += 60'000;
        return log.entries.emplace(e.id, e).first->second;
    }
    void answer(const record::WriteUpLine& line, const Answer& a) {
        const auto entries = record::answerEntries(line, "r1", a, ids, clock += 60'000);
        ASSERT_TRUE(entries) << entries.error();
        for (const auto& e : entries.value()) {
            EXPECT_EQ(record::wrongWith(e), "");
            log.entries.emplace(e.id, e);
        }
    }
    [[nodiscard]] record::WriteUp written() const {
        return record::writeUp("r1", record::standing(log, "r1"), notes, *l.sortie);
    }
    [[nodiscard]] std::vector<record::Holding> holding() const {
        return record::holding(log, "HR-K", notes, *l.sortie, [](const record::Run&) { return std::nullopt; });
    }
    [[nodiscard]] double limitOf(Gauge gauge, Phase phase) const {
        return notes.gauges.at(gauge).in(phase).limitHigh.value();
    }
};

TEST_F(WriteUp, AReadingPastALimitHoldsTheNextFlightUntilAnEngineerHasAnsweredItWhole) {
    const double limit = limitOf(Gauge::oilTemperature, Phase::cruise);
    add(Phase::cruise, "oil", limit, "1");
    EXPECT_FALSE(written().holds()) << "on the limit is inside it";
    add(Phase::cruise, "oil", limit + 5.0, "2");
    auto w = written();
    ASSERT_FALSE(w.lines.empty());
    EXPECT_TRUE(w.holds());
    EXPECT_EQ(w.lines.front().verdict.colour(), Colour::red);
    EXPECT_EQ(w.lines.front().engine, "2");
    EXPECT_NE(w.lines.front().verdict.sentence().find(", limit "), std::string::npos);
    const auto held = record::heldBy("HR-K", holding(), notes);
    EXPECT_EQ(held.colour(), Colour::red);
    EXPECT_NE(held.sentence().find("HR-K is held: " + notes.positions[1].name), std::string::npos) << held.sentence();
    EXPECT_NE(held.sentence().find("2026-11-30"), std::string::npos) << held.sentence();

    EXPECT_FALSE(record::answerEntries(w.lines.front(), "r1", {"a clogged core", "", "A. Fitter"}, ids, clock))
        << "found, done and signed: all three";
    answer(w.lines.front(), {"a clogged core", "flushed, run and found in order", "A. Fitter"});
    w = written();
    EXPECT_FALSE(w.holds());
    ASSERT_EQ(w.lines.front().answers.size(), 1u);
    EXPECT_EQ(w.lines.front().answers.front().done, "flushed, run and found in order");
    EXPECT_TRUE(holding().empty());
    EXPECT_EQ(record::heldBy("HR-K", holding(), notes).colour(), Colour::normal);
    // The answer was to that figure: another one in its place is open again.
    add(Phase::cruise, "oil", limit + 20.0, "2", {}, w.lines.front().about);
    EXPECT_TRUE(written().holds());
}

TEST_F(WriteUp, ASignatureThatIsTakenBackOpensItAgainAndTwoAnswersAreBothKept) {
    add(Phase::cruise, "oil", limitOf(Gauge::oilTemperature, Phase::cruise) + 5.0);
    const auto line = written().lines.front();
    answer(line, {"a clogged core", "flushed", "A. Fitter"});
    Entry back;
    for (const auto& [id, e] : log.entries)
        if (e.what == "signed")
            back = e;
    back.supersedes = back.id;
    back.kind = Entry::Kind::withdrawn;
    back.id = ids(clock);
    ASSERT_EQ(record::wrongWith(back), "");
    log.entries.emplace(back.id, back);
    EXPECT_TRUE(written().holds());
    answer(line, {"a core clogged again", "changed", "B. Fitter"});
    EXPECT_FALSE(written().holds());
    EXPECT_EQ(written().lines.front().answers.size(), 2u);
}

TEST_F(WriteUp, AnswersAreCarriedWholeAndAreAboutSomething) {
    add(Phase::cruise, "oil", limitOf(Gauge::oilTemperature, Phase::cruise) + 5.0);
    answer(written().lines.front(), {"a clogged core", "flushed", "A. Fitter"});
    Problems problems;
    EXPECT_EQ(record::readLogJson(record::logJson(log), "log.json", problems), log);
    EXPECT_TRUE(problems.empty());
    Entry stray;
    stray.id = ids(clock);
    stray.run = "r1";
    stray.at = stray.entered = writtenNoon;
    stray.what = "signed";
    stray.kind = Entry::Kind::words;
    stray.words = "A. Fitter";
    EXPECT_NE(record::wrongWith(stray), "") << "an answer to nothing";
    stray.what = "note";
    stray.about = "e1";
    EXPECT_NE(record::wrongWith(stray), "") << "a note answers nothing";
}

TEST_F(WriteUp, AReadingOutOfItsLimitsIsNotCorrectedAwayUnseenButASlipOfTheFingerIs) {
    const double limit = limitOf(Gauge::oilTemperature, Phase::cruise), well = limit - 30.0;
    const auto first = add(Phase::cruise, "oil", limit + 5.0);
    clock = first.entered + 119'000;
    add(Phase::cruise, "oil", well, "1", {}, first.id);
    EXPECT_TRUE(written().lines.empty()) << "within two minutes it was a slip";
    log.entries.clear();
    const auto again = add(Phase::cruise, "oil", limit + 5.0);
    clock = again.entered + 121'000;
    add(Phase::cruise, "oil", well, "1", {}, again.id);
    const auto w = written();
    ASSERT_EQ(w.lines.size(), 1u);
    EXPECT_EQ(w.lines.front().verdict.colour(), Colour::amber);
    EXPECT_NE(w.lines.front().verdict.sentence().find("corrected to"), std::string::npos);
}

TEST_F(WriteUp, HeadsThatFallTooFastBetweenTwoReadingsAreShockCooling) {
    const double most = flight::coolingLimit(notes).perMinute;
    const auto lines = [&](double perMinute, int minutes) {
        log.entries.clear();
        clock = writtenNoon;
        add(Phase::cruise, "head", 520.0);
        clock = writtenNoon + minutes * 60'000;
        add(Phase::letDown, "head", 520.0 - perMinute * minutes);
        std::vector<std::string> out;
        for (const auto& line : written().lines)
            if (line.verdict.sentence().find("in a minute") != std::string::npos)
                out.push_back(line.verdict.sentence());
        return out;
    };
    EXPECT_TRUE(lines(most - 1.0, 3).empty());
    ASSERT_EQ(lines(most + 2.0, 3).size(), 1u);
    EXPECT_NE(lines(most + 2.0, 3).front().find("between two readings 3:00 apart"), std::string::npos);
    EXPECT_TRUE(lines(most + 0.5, 16).empty()) << "after so long nobody knows how it fell";
}

TEST_F(WriteUp, MinutesOfARatingAreOneAccountHoweverOftenTheyAreTyped) {
    const Rating* takeOff = nullptr;
    for (const auto& r : notes.ratings)
        if (r.minutes)
            takeOff = &r;
    ASSERT_TRUE(takeOff);
    const std::string key = "rating/" + takeOff->key;
    const double part = 0.6 * takeOff->minutes->si();
    add(Phase::takeOff, key, part, "1", "3:00");
    EXPECT_TRUE(written().lines.empty());
    add(Phase::takeOff, key, part, "2", "3:00");
    EXPECT_TRUE(written().lines.empty()) << "each engine has its own";
    add(Phase::climb, key, part, "1", "3:00");
    ASSERT_EQ(written().lines.size(), 1u);
    EXPECT_TRUE(written().holds());
    // A recorder's total is all of them already: beside what was typed it is not added once more.
    log.entries.clear();
    add(Phase::takeOff, key, part, "1", "3:00");
    auto total = add(Phase::takeOff, key, part, "1", "3:00");
    log.entries.at(total.id).rough = true;
    EXPECT_TRUE(written().lines.empty());
}

TEST_F(WriteUp, RunUpAndTakeOffOnAColdEngineAreToldFromWhatWasTyped) {
    const auto cold = [&](double runUp, double takeOff, int minutes) {
        log.entries.clear();
        clock = writtenNoon;
        const double warm = notes.gauges.at(Gauge::headTemperature).in(Phase::warmUp).normalHigh.value_or(420.0) - 10.0;
        add(Phase::warmUp, "oil", runUp);
        add(Phase::warmUp, "head", warm);
        clock += (minutes - 1) * 60'000;
        add(Phase::runUp, "magneto-left", 0.8, "1", "48 rpm");
        clock += 300'000;
        add(Phase::takeOff, "oil", takeOff);
        std::vector<std::string> out;
        for (const auto& line : written().lines)
            if (line.verdict.sentence().find("cold") != std::string::npos || line.what == "oil")
                out.push_back(line.verdict.sentence());
        return out;
    };
    const double runUp = notes.warmUp.oilRunUp.si(), takeOff = notes.warmUp.oilTakeOff.si();
    EXPECT_TRUE(cold(runUp + 1.0, takeOff + 1.0, 3).empty());
    ASSERT_EQ(cold(runUp - 6.0, takeOff + 1.0, 3).size(), 1u);
    EXPECT_NE(cold(runUp - 6.0, takeOff + 1.0, 3).front().find("opened up cold"), std::string::npos);
    ASSERT_EQ(cold(runUp + 1.0, takeOff - 6.0, 3).size(), 1u);
    EXPECT_TRUE(cold(runUp - 6.0, takeOff + 1.0, 40).empty()) << "it warmed since, perhaps: nobody read it";
}

TEST_F(WriteUp, ADefectInWordsIsOpenButHoldsNothing) {
    add(Phase::climb, "defect", 0.0, "1", "a whistle from the intake");
    const auto w = written();
    ASSERT_EQ(w.lines.size(), 1u);
    EXPECT_EQ(w.lines.front().verdict.sentence(), "a whistle from the intake");
    EXPECT_EQ(w.open(), 1u);
    EXPECT_FALSE(w.holds());
}

TEST_F(WriteUp, MagnetosAreJudgedAsTheSheetJudgesThemBothTogether) {
    const auto& m = *notes.runUp.magnetos;
    const double limit = m.left.si();
    add(Phase::runUp, "magneto-left", limit, "1");
    add(Phase::runUp, "magneto-right", limit - 5.0 / 60.0, "1");
    EXPECT_TRUE(written().lines.empty());
    add(Phase::runUp, "magneto-left", limit + 20.0 / 60.0, "2");
    auto w = written();
    ASSERT_EQ(w.lines.size(), 1u);
    EXPECT_EQ(w.lines.front().verdict.colour(), Colour::red);
    EXPECT_TRUE(w.holds());
    // Its fellow: what both together tell stands with the worse one, with the likely cause.
    add(Phase::runUp, "magneto-right", 40.0 / 60.0, "2");
    w = written();
    ASSERT_FALSE(w.lines.empty());
    EXPECT_EQ(w.lines.front().what, "magneto-left");
    EXPECT_FALSE(w.lines.front().look.empty());
    // How they fell counts: within the limit, but roughly.
    log.entries.clear();
    add(Phase::runUp, "magneto-left", 60.0 / 60.0, "1", "60 rpm, rough");
    w = written();
    ASSERT_EQ(w.lines.size(), 1u);
    EXPECT_EQ(w.lines.front().verdict.colour(), Colour::amber);
}

TEST_F(WriteUp, AStopperOfTheWalkRoundHoldsTheFlight) {
    std::string stopper, other;
    for (const auto& station : notes.walk.stations)
        for (const auto& item : station.items)
            if (item.kind == WalkItemKind::look)
                (item.stopper ? stopper : other) = "walk/" + station.id + "/" + item.id;
    ASSERT_FALSE(stopper.empty());
    ASSERT_FALSE(other.empty());
    const auto found = [&](const std::string& what) {
        log.entries.clear();
        Entry e = add(Phase::walkRound, what, 0.0, "", "cracked");
        e.kind = Entry::Kind::words;
        EXPECT_EQ(record::wrongWith(e), "");
        log.entries[e.id] = e;
        return written();
    };
    EXPECT_TRUE(found(stopper).holds());
    EXPECT_FALSE(found(other).holds());
    EXPECT_EQ(found(other).lines.size(), 1u) << "written up all the same";
}

TEST_F(WriteUp, WhatTheNeedlesSayTogetherTellsTheEngineerWhereToLook) {
    // Oil hot and its pressure down, heads as planned: the cooler before anything else.
    const double limit = limitOf(Gauge::oilTemperature, Phase::cruise);
    const auto planned = [&](const std::string& what, double value, double expected) {
        Entry e = add(Phase::cruise, what, value);
        e.planned = expected;
        log.entries[e.id] = e;
    };
    const auto& pressure = notes.gauges.at(Gauge::oilPressure).in(Phase::cruise);
    planned("oil", limit + 4.0, limit - 30.0);
    planned("oil-pressure", 0.98 * pressure.normalLow.value(), 1.2 * pressure.normalLow.value());
    planned("head", 453.15, 453.15);
    const auto w = written();
    ASSERT_FALSE(w.lines.empty());
    EXPECT_EQ(w.lines.front().what, "oil");
    EXPECT_NE(w.lines.front().look.find("cooler matrix"), std::string::npos) << w.lines.front().look;
    EXPECT_EQ(w.lines.front().look.find("compression"), std::string::npos) << "no cylinder: " << w.lines.front().look;
}

TEST(StartCounts, AreJudgedByTheNotesToASecond) {
    StartNotes n;
    n.tries = 3;
    n.crankMost = Duration::si(15);
    n.oilPressureWithin = Duration::si(30);
    EXPECT_EQ(watch::judgeTries(n, 3).colour(), Colour::normal);
    EXPECT_EQ(watch::judgeTries(n, 4).colour(), Colour::red);
    EXPECT_EQ(watch::judgeCrank(n, 15.4).colour(), Colour::normal) << "a watch is read to whole seconds";
    EXPECT_EQ(watch::judgeCrank(n, 15.6).colour(), Colour::red);
    EXPECT_EQ(watch::judgeFire(n, 15.6).colour(), Colour::amber);
    EXPECT_EQ(watch::judgeOilPressureUp(n, 30.4).colour(), Colour::normal);
    EXPECT_EQ(watch::judgeOilPressureUp(n, 30.6).colour(), Colour::red);
    EXPECT_NE(watch::judgeOilPressureUp(n, 42).sentence().find("42 s"), std::string::npos);
    PropellerNotes p;
    p.referenceTolerance = 50.0 / 60.0;
    EXPECT_EQ(watch::judgeStandingRpm(p, 2150.0 / 60.0, 2200.0 / 60.0).colour(), Colour::normal);
    EXPECT_EQ(watch::judgeStandingRpm(p, 2140.0 / 60.0, 2200.0 / 60.0).colour(), Colour::amber);
    EXPECT_NE(watch::judgeStandingRpm(p, 2140.0 / 60.0, 2200.0 / 60.0).sentence().find("60 rpm fewer"),
              std::string::npos);
}

TEST_F(WriteUp, EachTypesPlanJudgedAsReadIsNotWrittenUpWhereThePlanItselfIsNot) {
    // What the plan expects, read to the hair: nothing that the plan does not warn of itself.
    for (const auto& demo : test::demoNames()) {
        const auto& one = test::loaded(demo);
        const auto plan = plan::makePlan(*one.aircraft, *one.sortie);
        record::Log read{{{"r1", {"r1", "HR-K", "", "", writtenNoon, ""}}}, {}};
        std::set<std::string> warned;
        for (std::size_t i = 0; i < plannedPhases; ++i)
            for (const auto& e : plan.phases[i].expect) {
                Entry entry;
                entry.id = ids(clock);
                entry.run = "r1";
                entry.at = entry.entered = clock;
                entry.phase = static_cast<Phase>(i);
                entry.engine = one.aircraft->notes.positions.front().id;
                entry.what = nameOf(e.gauge).key;
                entry.value = e.value;
                if (record::wrongWith(entry).empty())
                    read.entries.emplace(entry.id, entry);
                if (e.verdict.colour() != Colour::normal)
                    warned.insert(entry.id);
            }
        for (const auto& line :
             record::writeUp("r1", record::standing(read, "r1"), one.aircraft->notes, *one.sortie).lines)
            EXPECT_TRUE(warned.contains(line.about)) << demo << ": " << line.verdict.sentence();
    }
}

} // namespace
