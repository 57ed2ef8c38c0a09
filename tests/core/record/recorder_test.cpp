// SPDX-License-Identifier: GPL-3.0-or-later
// A recorder's file: any columns, gaps, clocks set back; its anchors; and what it comes to. The flight is drawn by
// hand, so that every figure is known.
#include "record/from_trace.h"
#include "record/judged.h"
#include "record/log_text.h"
#include "record/recorder_file.h"
#include "record/what.h"
#include "record/write_up.h"
#include "sortie/airframe_file.h"
#include "test_data.h"
#include <cmath>
#include <fmt/format.h>

namespace {
using namespace amber;
using record::Entry;

constexpr std::int64_t recordedNoon = 1'796'040'000'000;

class Recorder : public testing::Test {
protected:
    const flight::LoadedSortie& l = test::loaded("lorimer-spring");
    const TypeNotes& notes = l.aircraft->notes;

    std::optional<record::Recording> read(const std::string& text, const AirframeFacts* facts = nullptr) {
        problems.clear();
        return record::readRecorder(text, "r.csv", notes, facts, problems);
    }
    const record::RecorderColumn* column(const record::Recording& r, Gauge gauge, const std::string& engine) {
        for (const auto& c : r.map.columns)
            if (c.gauge == gauge && c.engine == engine)
                return &c;
        return nullptr;
    }
    Problems problems;

    /// A flight of 3,000 s: first fire at 60 (starboard 90), take-off at 900, top of climb at 1,500, down from 2,400,
    /// landed at 2,800, stopped at 2,940. Oil 60 °C, but port's over its limit from 1,800 to 1,920.
    struct Shape {
        double oilOver = 6.0;   ///< K, of port
        double fall = 10.0;     ///< K a minute, of heads in the let-down
        double takeOff = 120.0; ///< s at take-off power
        double oil = 60.0;      ///< °C, of starboard, all the time
        double stops = 2940.0;  ///< s, starboard
        double heads = 180.0;   ///< °C, of the cruise
        bool opens = false;     ///< a run-up from 600 to 640, and the throttle opened over 12 s for the take-off
    };
    [[nodiscard]] std::string flight(const Shape& shape) const {
        const double limit = notes.gauges.at(Gauge::oilTemperature).in(Phase::cruise).limitHigh.value() - 273.15;
        const auto* rating = &notes.ratings.front();
        for (const auto& r : notes.ratings)
            if (r.key == "take-off")
                rating = &r;
        std::string out = "Time,Altitude [ft],IAS [kt],RPM 1,RPM 2,MAP 1 [inHg],MAP 2 [inHg],CHT 1 [°C],CHT 2 [°C],Oil "
                          "temp 1 [°C],Oil temp 2 [°C],Latitude\n";
        for (int t = 0; t <= 3000; ++t) {
            const bool flies = t >= 900 && t < 2800;
            const double height = t < 940    ? 300.0
                                  : t < 1500 ? 300.0 + 7700.0 * (t - 940) / 560.0
                                  : t < 2400 ? 8000.0
                                  : t < 2790 ? 8000.0 - 7700.0 * (t - 2400) / 390.0
                                             : 300.0;
            const double checked = 1.1 * notes.runUp.highPowerFrom.si() * 60; // rpm of the run-up
            double rpm = shape.opens && t >= 600 && t < 640   ? checked
                         : shape.opens && t >= 888 && t < 900 ? checked // on the way up to the take-off's
                         : t < 900                            ? 1000.0
                         : t < 900 + shape.takeOff            ? rating->rpm.si() * 60
                         : t < 1500                           ? 0.85 * rating->rpm.si() * 60
                         : t < 2400                           ? 0.72 * rating->rpm.si() * 60
                         : t < 2800                           ? 0.7 * rating->rpm.si() * 60
                                                              : 800.0;
            const double boost = t < 900                   ? 25.0
                                 : t < 900 + shape.takeOff ? rating->boost->si() / 3386.389
                                 : t < 2400                ? 32.0
                                                           : 24.0;
            const double heads = t < 2400 ? shape.heads : std::max(120.0, shape.heads - shape.fall * (t - 2400) / 60.0);
            const double port = t >= 60 && t < 2940 ? rpm : 0.0, starboard = t >= 90 && t < shape.stops ? rpm : 0.0;
            const double oil = t >= 1800 && t <= 1920 ? limit + shape.oilOver : 60.0;
            out +=
                fmt::format("{},{:.0f},{:.0f},{:.0f},{:.0f},{:.1f},{:.1f},{:.1f},{:.1f},{:.1f},{:.1f},51.5\n", t,
                            height, flies ? 150.0 : 0.0, port, starboard, boost, boost, heads, heads, oil, shape.oil);
        }
        return out;
    }
    struct Made {
        std::vector<record::TraceBlock> blocks;
        record::RunTrace trace;
        record::Anchors anchors;
        std::vector<Entry> entries;
    };
    Made make(const Shape& shape) {
        Made out;
        const auto r = read(flight(shape));
        EXPECT_TRUE(r);
        out.blocks = record::blocksOf(*r, "r1", "r.csv", recordedNoon);
        out.trace = record::traceOf(out.blocks, notes);
        out.anchors = record::findAnchors(out.trace, notes);
        out.entries = record::entriesOf(out.trace, out.anchors, notes, nullptr, "r1", "r.csv");
        return out;
    }
    const Entry* of(const std::vector<Entry>& all, std::string_view what, const std::string& engine, bool lasted) {
        for (const auto& e : all)
            if (e.what == what && e.engine == engine && e.lasted.has_value() == lasted)
                return &e;
        return nullptr;
    }
};

TEST_F(Recorder, ColumnsAreKnownByTheirWordsTheirEnginesAndTheirUnits) {
    const auto r =
        read("some recorder\nsoftware 3\nUTC;Oil Press L (psi);Oil Press R (psi);CHT2 [F];Nonsense;Alt (ft)\n"
             "2026-11-30 14:00:00;70;71;392;1;1000\n2026-11-30 14:00:01;70;71;-;1;1010\n");
    ASSERT_TRUE(r) << problems.front().text();
    ASSERT_EQ(r->map.columns.size(), 4u);
    EXPECT_TRUE(r->dated);
    const auto* left = column(*r, Gauge::oilPressure, notes.positions[0].id);
    ASSERT_NE(left, nullptr);
    EXPECT_TRUE(left->byName);
    EXPECT_NEAR(r->pieces[0].values[static_cast<std::size_t>(left - r->map.columns.data())][0], 70 * 6894.757, 5.0);
    const auto* head = column(*r, Gauge::headTemperature, notes.positions[1].id);
    ASSERT_NE(head, nullptr);
    const auto& heads = r->pieces[0].values[static_cast<std::size_t>(head - r->map.columns.data())];
    EXPECT_NEAR(heads[0], 473.15, 0.01) << "392 °F";
    EXPECT_TRUE(std::isnan(heads[1])) << "a dash is no figure";
    EXPECT_EQ(r->map.unknown, std::vector<std::string>{"Nonsense"});
    EXPECT_EQ(r->pieces[0].start, record::timeFrom("2026-11-30 14:00:00"));
}

TEST_F(Recorder, WhatTheAirframeSaysGoesBeforeEveryGuess) {
    const std::string file = "format = 1\n[airframe]\nnotes = \"n.toml\"\nregistration = \"HR-K\"\n[recorder]\ntime = "
                             "\"T\"\n[recorder.columns]\n\"Ch 7\" = \"head, 2, °F\"\n\"Gone\" = \"height, ft\"\n";
    const auto airframe = readAirframe(file, "a.toml");
    ASSERT_TRUE(airframe.facts) << airframe.problems.front().text();
    const auto r = read("X,T,Ch 7\n9,0,212\n9,1,212\n", &*airframe.facts);
    ASSERT_TRUE(r);
    ASSERT_EQ(r->map.columns.size(), 1u);
    EXPECT_EQ(r->map.columns[0].engine, "2");
    EXPECT_NEAR(r->pieces[0].values[0][0], 373.15, 0.01);
    EXPECT_EQ(r->map.missing, std::vector<std::string>{"Gone"});
    EXPECT_FALSE(record::columnFrom("head, 2"));
    EXPECT_FALSE(record::columnFrom("head, 2, psi")) << "no pressure is a temperature";
    EXPECT_FALSE(record::columnFrom("heads, 2, °F"));
}

TEST_F(Recorder, GapsAndAClockSetBackBeginAnewAndAreTold) {
    std::string text = "Time,RPM 1\n";
    for (int t = 0; t < 100; ++t)
        text += fmt::format("{},1000\n", t < 50 ? t : t + 60); // a minute is missing
    for (int t = 0; t < 20; ++t)
        text += fmt::format("{},1200\n", 100 + t); // set back an hour, say
    text += "what,1\n";
    text += "121,999999\n";
    const auto r = read(text);
    ASSERT_TRUE(r);
    ASSERT_EQ(r->pieces.size(), 3u);
    EXPECT_EQ(r->pieces[0].samples(), 50u);
    EXPECT_EQ(r->pieces[1].start, 110'000);
    EXPECT_EQ(r->pieces[2].start, 160'000) << "behind what was told already: no moment has two readings";
    ASSERT_EQ(r->told.size(), 4u);
    EXPECT_NE(r->told[0].find("a gap of 61 s"), std::string::npos) << r->told[0];
    EXPECT_NE(r->told[1].find("set back 59 s"), std::string::npos) << r->told[1];
    EXPECT_NE(r->told[2].find("1 line with no time"), std::string::npos);
    EXPECT_NE(r->told[3].find("RPM 1: 1 figure"), std::string::npos) << "nothing turns a million rpm";
    EXPECT_FALSE(read("a,b\n1,2\n"));
    EXPECT_NE(problems.front().text().find("recorder.columns"), std::string::npos) << "and what to do";
}

/// However far a clock is set back within a record, its length is that of its lines: nothing lies over anything else.
TEST_F(Recorder, AClockSetBackIntoTheRecordLaysNothingOver) {
    for (const int by : {2, 5, 60, 599, 1799, 1999}) {
        std::string text = "Time,RPM 1\n";
        for (int t = 0; t < 3000; ++t)
            text += fmt::format("{},{}\n", 10'000 + (t < 2000 ? t : t - by), 1000 + t / 10);
        const auto r = read(text);
        ASSERT_TRUE(r) << by;
        std::int64_t end = 0;
        std::size_t samples = 0;
        for (const auto& piece : r->pieces) {
            EXPECT_GE(piece.start, end) << by;
            end = piece.start + static_cast<std::int64_t>(piece.samples()) * piece.step;
            samples += piece.samples();
        }
        EXPECT_EQ(samples, 3000u) << by;
        EXPECT_EQ(end - r->pieces.front().start, 3'000'000) << by;
        ASSERT_EQ(r->told.size(), 1u) << by;
        EXPECT_NE(r->told[0].find(fmt::format("set back {} s", by - 1)), std::string::npos) << r->told[0];
    }
    // Set back before all of it: another record, at its own time.
    std::string text = "Time,RPM 1\n";
    for (int t = 0; t < 200; ++t)
        text += fmt::format("{},1000\n", (t < 100 ? 90'000 : 10'000) + t);
    const auto r = read(text);
    ASSERT_EQ(r->pieces.size(), 2u);
    EXPECT_EQ(r->pieces[1].start, 10'100'000);
}

TEST_F(Recorder, TheMomentsOfARunAreFoundByTheirRules) {
    const auto m = make({});
    const auto at = [](double s) { return recordedNoon + static_cast<std::int64_t>(s * 1000); };
    EXPECT_EQ(m.anchors.firstFire[0], at(60));
    EXPECT_EQ(m.anchors.firstFire[1], at(90));
    EXPECT_EQ(m.anchors.takeOffPower, at(900));
    // Within 60 m (197 ft) of 8,000 ft: 14 s before the top at 13.75 ft a second, 9 s after it on the way down.
    ASSERT_TRUE(m.anchors.topOfClimb && m.anchors.topOfDescent && m.anchors.stop);
    EXPECT_NEAR(static_cast<double>(*m.anchors.topOfClimb - at(1500)) / 1000.0, -14.0, 1.01);
    EXPECT_NEAR(static_cast<double>(*m.anchors.topOfDescent - at(2400)) / 1000.0, 10.0, 1.01);
    EXPECT_EQ(*m.anchors.stop, at(2939));
    const auto phases = record::phasesOf(m.trace, m.anchors, notes);
    const auto is = [&](int t) { return phases.at(static_cast<std::size_t>(t)); };
    EXPECT_EQ(is(30), Phase::start);
    EXPECT_EQ(is(300), Phase::warmUp);
    EXPECT_EQ(is(950), Phase::takeOff);
    EXPECT_EQ(is(1200), Phase::climb);
    EXPECT_EQ(is(2000), Phase::cruise);
    EXPECT_EQ(is(2500), Phase::letDown);
    EXPECT_EQ(is(2780), Phase::landing);
    EXPECT_EQ(is(2900), Phase::stop);
    // The throttle opened for the take-off passes the run-up's rpm: the run-up is where it was done.
    Shape opened;
    opened.opens = true;
    const auto o = make(opened);
    const auto theirs = record::phasesOf(o.trace, o.anchors, notes);
    EXPECT_EQ(theirs.at(620), Phase::runUp);
    EXPECT_EQ(theirs.at(880), Phase::warmUp);
    for (const std::size_t t : {889u, 894u, 899u})
        EXPECT_EQ(theirs.at(t), Phase::takeOff) << t;
    // Where somebody has put one, it is there.
    record::Log log{{{"r1", {"r1", "HR-K", "", "", recordedNoon, ""}}}, {}};
    Entry put;
    put.id = "e1";
    put.run = "r1";
    put.at = put.entered = recordedNoon;
    put.phase = Phase::takeOff;
    put.what = "at-take-off";
    put.value = 870.0;
    ASSERT_EQ(record::wrongWith(put), "");
    log.entries.emplace("e1", put);
    EXPECT_EQ(record::anchorsOf(m.trace, notes, record::standing(log, "r1"), recordedNoon).takeOffPower, at(870));
}

TEST_F(Recorder, AStretchOverALimitIsWrittenUpWithHowFarAndHowLong) {
    const auto m = make({});
    const auto* hot = of(m.entries, "oil", notes.positions[0].id, true);
    ASSERT_NE(hot, nullptr);
    const double limit = notes.gauges.at(Gauge::oilTemperature).in(Phase::cruise).limitHigh.value();
    EXPECT_NEAR(hot->value, limit + 6.0, 0.6);
    EXPECT_NEAR(*hot->lasted, 120.0, 2.0);
    EXPECT_NEAR(static_cast<double>(hot->at - recordedNoon) / 1000.0, 1800.0, 2.0);
    EXPECT_EQ(hot->phase, Phase::cruise);
    EXPECT_EQ(of(m.entries, "oil", notes.positions[1].id, true), nullptr) << "starboard was cool";
    record::Log log{{{"r1", {"r1", "HR-K", "", "", recordedNoon, ""}}}, {}};
    for (const auto& e : m.entries) {
        EXPECT_EQ(record::wrongWith(e), "") << e.what;
        log.entries.emplace(e.id, e);
    }
    const auto w = record::writeUp("r1", record::standing(log, "r1"), notes, *l.sortie);
    ASSERT_TRUE(w.holds());
    EXPECT_NE(w.lines.front().verdict.sentence().find("For 2:00."), std::string::npos)
        << w.lines.front().verdict.sentence();
    EXPECT_EQ(of(make({-2.0, 10.0, 120.0}).entries, "oil", notes.positions[0].id, true)->phase, Phase::cruise)
        << "two minutes of amber are told too";
}

TEST_F(Recorder, CoolingAndMinutesOfARatingAreMeasured) {
    const double most = flight::coolingLimit(notes).perMinute;
    EXPECT_EQ(of(make({6.0, most - 1.0, 120.0}).entries, "cooling", notes.positions[0].id, false), nullptr);
    const auto fast = make({6.0, most + 4.0, 120.0});
    const auto* fall = of(fast.entries, "cooling", notes.positions[0].id, false);
    ASSERT_NE(fall, nullptr);
    EXPECT_NEAR(fall->value, most + 4.0, 0.5);
    EXPECT_EQ(record::judgedAlone(notes, *fall)->colour(), watch::Colour::red);
    const Rating* takeOff = nullptr;
    for (const auto& r : notes.ratings)
        if (r.key == "take-off")
            takeOff = &r;
    ASSERT_TRUE(takeOff && takeOff->minutes);
    for (const double over : {-30.0, 20.0}) {
        const double used = takeOff->minutes->si() + over;
        const auto m = make({6.0, 10.0, used});
        const auto* minutes = of(m.entries, "rating/take-off", notes.positions[0].id, false);
        ASSERT_NE(minutes, nullptr);
        EXPECT_NEAR(minutes->value, used, 2.0);
        EXPECT_EQ(record::judgedAlone(notes, *minutes)->colour(),
                  over > 0 ? watch::Colour::red : watch::Colour::normal);
    }
}

TEST_F(Recorder, WhatTheFlightWasForIsJudgedAsInARehearsal) {
    const auto aimed = [&](const Shape& shape) {
        std::vector<Entry> out;
        for (const auto& e : make(shape).entries)
            if (e.what.starts_with(record::ofAim))
                out.push_back(e);
        return out;
    };
    ASSERT_TRUE(notes.stop.coolBelow);
    EXPECT_TRUE(aimed({}).empty()) << aimed({}).front().words;
    const double least = notes.warmUp.oilTakeOff.si() - 273.15;
    Shape warm, cold, quits, hot;
    warm.oil = least + 1.0;
    EXPECT_TRUE(aimed(warm).empty());
    cold.oil = least - 8.0;
    auto said = aimed(cold);
    ASSERT_EQ(said.size(), 1u);
    EXPECT_EQ(said[0].what, "aim/take-off-warm");
    EXPECT_EQ(said[0].engine, notes.positions[1].id);
    EXPECT_EQ(said[0].phase, Phase::takeOff);
    EXPECT_NEAR(static_cast<double>(said[0].at - recordedNoon) / 1000.0, 900.0, 2.0);
    EXPECT_EQ(record::wrongWith(said[0]), "");
    EXPECT_EQ(record::judgedAlone(notes, said[0])->colour(),
              watch::broken(watch::rowOf(watch::Aim::takeOffWarm).rule, {}).colour());
    EXPECT_NE(said[0].words.find("take-off power on a cold engine"), std::string::npos) << said[0].words;
    quits.stops = 2000.0; // in the cruise
    said = aimed(quits);
    ASSERT_EQ(said.size(), 1u);
    EXPECT_EQ(said[0].what, "aim/runs-on");
    EXPECT_EQ(said[0].phase, Phase::cruise);
    quits.stops = 2920.0; // taxied in on one, cooled by then
    EXPECT_TRUE(aimed(quits).empty());
    hot.fall = 0.0;
    hot.heads = notes.stop.coolBelow->si() - 273.15 + 10.0; // stopped as hot as it came
    said = aimed(hot);
    ASSERT_EQ(said.size(), 2u) << "each engine";
    EXPECT_EQ(said[0].what, "aim/cooled-first");
}

TEST_F(Recorder, TheCruiseIsKeptAsOneReadingOfEachNeedle) {
    const auto m = make({});
    const auto* heads = of(m.entries, "head", notes.positions[1].id, false);
    ASSERT_NE(heads, nullptr);
    EXPECT_NEAR(heads->value, 453.15, 0.01);
    EXPECT_EQ(heads->phase, Phase::cruise);
    EXPECT_NEAR(of(m.entries, "oil", notes.positions[0].id, false)->value, 333.15, 0.01)
        << "two hot minutes do not move a median of eight";
}

TEST_F(Recorder, WhatHangsOnAMomentThatIsPutElsewhereIsReckonedAnewAndNothingElse) {
    const auto m = make({6.0, 10.0, 120.0});
    const record::Run run{"r1", "HR-K", "", "", recordedNoon, ""};
    const std::string port = notes.positions[0].id, starboard = notes.positions[1].id;
    const auto with = [&](double takeOff, bool corrected) {
        record::Log log{{{"r1", run}}, {}};
        for (const auto& e : m.entries)
            log.entries.emplace(e.id, e);
        Entry moment;
        moment.id = "moment";
        moment.run = "r1";
        moment.what = "at-take-off";
        moment.value = takeOff;
        if (corrected) {
            Entry mine = *of(m.entries, "rating/take-off", port, false);
            mine.supersedes = mine.id;
            mine.id = "mine";
            mine.who = "R. Vane";
            mine.value = 90.0;
            log.entries.emplace(mine.id, mine);
        }
        return record::reckonedAnew(log, moment, run, m.blocks, notes, nullptr);
    };
    EXPECT_TRUE(with(900.0, false).empty()) << "where it was";
    // A quarter of a minute later there are so many seconds less at the rating, and nothing else is touched.
    const auto later = with(915.0, false);
    ASSERT_EQ(later.size(), 2u);
    for (const auto& e : later) {
        const auto* was = of(m.entries, "rating/take-off", e.engine, false);
        EXPECT_EQ(e.what, "rating/take-off");
        EXPECT_EQ(e.supersedes, was->id);
        EXPECT_NEAR(e.value, was->value - 15.0, 1e-6);
        EXPECT_EQ(e.id, "");
    }
    // What somebody has corrected by hand stays.
    const auto corrected = with(915.0, true);
    ASSERT_EQ(corrected.size(), 1u);
    EXPECT_EQ(corrected[0].engine, starboard);
    // After the rating was left there is nothing of it in the air: it was high power on the ground.
    std::set<std::string> gone, come;
    for (const auto& e : with(1030.0, false))
        (e.kind == Entry::Kind::withdrawn ? gone : come).insert(e.what + " " + e.engine);
    EXPECT_EQ(gone, (std::set<std::string>{"rating/take-off " + port, "rating/take-off " + starboard}));
    EXPECT_TRUE(come.contains("high-power " + port)) << "two minutes of it";
}

TEST_F(Recorder, TracesGoThroughJsonToTheLastBitAndWhatIsWrongIsToldAndLeft) {
    auto m = make({});
    m.blocks.resize(3);
    m.blocks[1].values[7] = std::numeric_limits<float>::quiet_NaN();
    m.blocks[1].values[8] = 0.1F + 0.2F;
    const record::Log log{{{"r1", {"r1", "HR-K", "", "", recordedNoon, ""}}}, {}};
    const std::string text = record::logJson(log, m.blocks);
    EXPECT_LT(std::count(text.begin(), text.end(), '\n'), 40) << "a block a line";
    std::vector<record::TraceBlock> again;
    Problems none;
    EXPECT_EQ(record::readLogJson(text, "x.json", none, &again), log);
    EXPECT_TRUE(none.empty());
    ASSERT_EQ(again.size(), 3u);
    for (std::size_t b = 0; b < 3; ++b) {
        EXPECT_EQ(again[b].id, m.blocks[b].id);
        EXPECT_EQ(again[b].start, m.blocks[b].start);
        ASSERT_EQ(again[b].values.size(), m.blocks[b].values.size());
        for (std::size_t i = 0; i < again[b].values.size(); ++i)
            EXPECT_TRUE(again[b].values[i] == m.blocks[b].values[i] ||
                        (std::isnan(again[b].values[i]) && std::isnan(m.blocks[b].values[i])))
                << b << " " << i;
    }
    EXPECT_EQ(record::samplesFrom("[1, 2.5 ,-3e2]"), (std::vector<float>{1.0F, 2.5F, -300.0F})) << "by another tool";
    EXPECT_TRUE(std::isnan(record::samplesFrom("[1,null,x]")[2]));
    EXPECT_TRUE(record::samplesFrom("1,2").empty());
    std::string spoilt = text;
    spoilt.replace(spoilt.find("\"quantity\":\""), 13, "\"quantity\":\"paint-");
    again.clear();
    record::readLogJson(spoilt, "x.json", none, &again);
    EXPECT_EQ(again.size(), 2u);
    ASSERT_EQ(none.size(), 1u);
    EXPECT_NE(none[0].text().find("is no quantity of a recorder"), std::string::npos) << none[0].text();
}

TEST_F(Recorder, TheSameFileIsTheSameInIdsAndInWhatItSays) {
    const auto one = make({}), two = make({}), other = make({7.0});
    ASSERT_EQ(one.blocks.size(), two.blocks.size());
    for (std::size_t i = 0; i < one.blocks.size(); ++i)
        EXPECT_EQ(one.blocks[i].id, two.blocks[i].id);
    EXPECT_EQ(one.entries, two.entries);
    EXPECT_NE(one.entries, other.entries);
    std::set<std::string> ids;
    for (const auto& b : one.blocks) {
        EXPECT_TRUE(ids.insert(b.id).second);
        EXPECT_EQ(record::wrongWith(b), "");
        EXPECT_LE(b.values.size(), record::blockSamples);
    }
    for (const auto& e : one.entries)
        EXPECT_TRUE(ids.insert(e.id).second) << e.what;
    // Put together again it is what was written, sample by sample.
    ASSERT_EQ(one.trace.at.size(), 3001u);
    EXPECT_NEAR(one.trace.engines[0][1850][Gauge::oilTemperature],
                notes.gauges.at(Gauge::oilTemperature).in(Phase::cruise).limitHigh.value() + 6.0, 0.06);
    EXPECT_NEAR(one.trace.engines[1][1850][Gauge::height], 8000 * 0.3048, 0.01) << "the aircraft's stands with each";
}
} // namespace
