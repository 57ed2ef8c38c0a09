// SPDX-License-Identifier: GPL-3.0-or-later
// What a log teaches, by hand and against noise whose truth is known; and what a plan makes of it.
#include "flight/taught.h"
#include "notes/cockpit_units.h"
#include "plan/plan.h"
#include "plan/plan_export.h"
#include "record/lessons.h"
#include "record/planned.h"
#include "sortie/airframe_file.h"
#include "start/priming.h"
#include "test_data.h"
#include "units/text.h"
#include <fmt/format.h>
#include <random>

namespace {
using namespace amber;
using namespace amber::record;

constexpr std::int64_t week = 7 * 86'400'000LL, firstRun = 1'744'624'800'000;

/// A log of an airframe "HR-K", a run a week.
struct Season {
    Log log;
    int entries = 0;
    std::string run(int i) {
        const std::string id = fmt::format("run-{:04}", i);
        log.runs.try_emplace(id, Run{id, "HR-K", "Lorimer L.4", "About the field", firstRun + i * week, {}});
        return id;
    }
    Entry& add(int i, Phase phase, const std::string& engine, const std::string& what, double value,
               std::optional<double> planned = std::nullopt) {
        Entry e;
        e.id = fmt::format("entry-{:05}", entries++);
        e.run = run(i);
        e.at = e.entered = firstRun + i * week + 3'600'000;
        e.phase = phase;
        e.engine = engine;
        e.what = what;
        e.value = value;
        e.planned = planned;
        return log.entries[e.id] = e;
    }
    /// A needle so far from what was planned.
    void needle(int i, Phase phase, const std::string& engine, const std::string& what, double off) {
        add(i, phase, engine, what, 450.0 + off, 450.0);
    }
    [[nodiscard]] Lesson lesson(const std::string& what, const std::string& engine) const {
        for (auto& l : lessonsOf(log, "HR-K", test::loaded("lorimer-spring").aircraft->notes, "mark"))
            if (l.line.what == what && l.line.engine == engine)
                return l;
        ADD_FAILURE() << what << " of " << engine;
        return {};
    }
};
double noise(int i) { // ±2, as a needle is read
    return i % 3 == 0 ? 2.0 : i % 3 == 1 ? -2.0 : 0.0;
}

TEST(Estimate, ByHand) {
    // 0 2 4 6 8, the latest first: weights 2^(−i/20) 1, .9659, .9330, .9013, .8706, together 4.6708, of their squares
    // 4.3737. Median 4; of the distances 4 2 0 2 4 weighted 2: σ = 2.9652; error 1.2533 · 2.9652 · 2.0913/4.6708 =
    // 1.664, with half of a width of 2 beside it 1.9413. Of a spread of 8 a share of 64/(64 + 3.769) = 0.9444.
    const auto e = estimateOf(std::vector<double>{0, 2, 4, 6, 8}, 8.0, 2.0);
    EXPECT_EQ(e.runs, 5u);
    EXPECT_DOUBLE_EQ(e.seen, 4.0);
    EXPECT_NEAR(e.found, 3.7776, 0.001);
    EXPECT_NEAR(e.high - e.found, 1.96 * 1.9413 * std::sqrt(0.9444), 0.002);
    EXPECT_NEAR(e.found - e.low, e.high - e.found, 1e-12);
    EXPECT_EQ(estimateOf({}, 8.0, 2.0).runs, 0u);
}

TEST(Estimate, FewRunsAreDrawnTowardsNothing) {
    // One run 10 off: nothing is known of its scatter but half a needle's width, error 1: share 64/65. Of a tight
    // spread of 2 only 4/5.
    EXPECT_NEAR(estimateOf(std::vector<double>{10}, 8.0, 2.0).found, 10.0 * 64 / 65, 1e-9);
    EXPECT_NEAR(estimateOf(std::vector<double>{10}, 2.0, 2.0).found, 8.0, 1e-9);
}

TEST(Estimate, LaterRunsCountMore) {
    // Twenty of the last sixty: by weight 14.7 of 25.7, so more than half.
    std::vector<double> all(60, 0.0);
    std::fill_n(all.begin(), 20, 6.0);
    EXPECT_DOUBLE_EQ(estimateOf(all, 8.0, 2.0).seen, 6.0);
    std::reverse(all.begin(), all.end());
    EXPECT_DOUBLE_EQ(estimateOf(all, 8.0, 2.0).seen, 0.0) << "twenty that are long ago";
}

TEST(Estimate, TheIntervalHoldsTheTruthNineteenTimesInTwenty) {
    // Airframes differ by 8, plan and flight by 1, readings by 3, one in twenty misread by 10: seeds are fixed.
    int within = 0;
    constexpr int airframes = 600;
    std::mt19937_64 random(7);
    std::normal_distribution<double> unit;
    for (int a = 0; a < airframes; ++a) {
        const double truth = 8.0 * unit(random), plan = unit(random);
        std::vector<double> runs;
        for (int i = 0; i < 14; ++i)
            runs.push_back(truth + plan + 3.0 * unit(random) + (random() % 20 == 0 ? 10.0 : 0.0));
        const auto e = estimateOf(runs, 8.0, 2.0);
        within += e.low <= truth && truth <= e.high ? 1 : 0;
    }
    EXPECT_GT(within, 0.91 * airframes);
    EXPECT_LT(within, 0.98 * airframes) << "wider than it need be";
}

TEST(Lessons, ANeedleThatReadsMoreIsFoundAndTheOtherIsLeftAlone) {
    Season s;
    for (int i = 0; i < 15; ++i)
        for (const Phase phase : {Phase::climb, Phase::cruise, Phase::letDown}) {
            s.needle(i, phase, "1", "head", 6.0 + noise(i));
            s.needle(i, phase, "2", "head", noise(i));
        }
    const auto port = s.lesson("head", "1"), starboard = s.lesson("head", "2");
    ASSERT_TRUE(port.offered()) << port.notOffered;
    EXPECT_NEAR(port.line.value, 6.0, 0.4);
    EXPECT_LT(port.low, 6.0);
    EXPECT_GT(port.high, 6.0);
    EXPECT_EQ(port.line.runs, 15);
    EXPECT_EQ(port.line.first, "2025-04-14");
    EXPECT_EQ(port.line.last, "2025-07-21");
    EXPECT_EQ(port.line.model, "mark");
    EXPECT_NE(port.words.find("Port: Head temp. reads 6 °C more than the model"), std::string::npos) << port.words;
    EXPECT_FALSE(starboard.offered());
    EXPECT_NE(starboard.notOffered.find("Not to be told"), std::string::npos);
    EXPECT_EQ(s.lesson("oil", "1").notOffered, "Nothing was read yet.");
}

TEST(Lessons, NothingIsOfferedOfTooFewRunsATrendOrPhasesThatDiffer) {
    Season few, trend, apart;
    for (int i = 0; i < 4; ++i)
        few.needle(i, Phase::cruise, "1", "oil", 10.0);
    EXPECT_EQ(few.lesson("oil", "1").notOffered, "4 of the 5 runs that it takes.");
    for (int i = 0; i < 20; ++i)
        trend.needle(i, Phase::cruise, "1", "oil", 0.7 * i + noise(i) / 2);
    EXPECT_NE(trend.lesson("oil", "1").notOffered.find("a trend"), std::string::npos);
    for (int i = 0; i < 12; ++i) {
        apart.needle(i, Phase::climb, "1", "head", 11.0 + noise(i));
        apart.needle(i, Phase::cruise, "1", "head", 3.0 + noise(i));
    }
    EXPECT_EQ(apart.lesson("head", "1").notOffered, "Climb and Cruise do not agree: no one figure fits.");
}

TEST(Lessons, AnOverhaulBeginsAnew) {
    Season s;
    for (int i = 0; i < 30; ++i)
        for (const char* engine : {"1", "2"})
            s.needle(i, Phase::cruise, engine, "head", i < 20 ? 12.0 + noise(i) : noise(i));
    auto& overhaul = s.add(20, Phase::writeUp, "1", "overhaul", 0.0);
    overhaul.kind = Entry::Kind::words;
    overhaul.words = "engine overhauled, six cylinders new";
    EXPECT_EQ(wrongWith(overhaul), "");
    const auto one = s.lesson("head", "1");
    EXPECT_EQ(one.line.runs, 10);
    EXPECT_EQ(one.line.first, "2025-09-01");
    EXPECT_NEAR(one.line.value, 0.0, 1.0);
    EXPECT_FALSE(one.offered());
    EXPECT_EQ(s.lesson("head", "2").line.runs, 30) << "the other was not overhauled";
    overhaul.engine = {};
    EXPECT_EQ(s.lesson("head", "2").line.runs, 10) << "the aircraft: both";
}

TEST(Lessons, TheDoseIsThatOfStartsThatCameAtOnce) {
    Season s;
    for (int i = 0; i < 12; ++i) {
        const bool poor = i % 2 == 0;
        s.add(i, Phase::start, "1", "prime", poor ? 4.0 : 5.0, 4.0);
        s.add(i, Phase::start, "1", "tries", poor ? 3.0 : 1.0);
    }
    const auto dose = s.lesson("prime", "1");
    ASSERT_TRUE(dose.offered()) << dose.notOffered;
    EXPECT_EQ(dose.line.runs, 6);
    EXPECT_NEAR(dose.line.value, 1.25, 0.02);
}

TEST(Lessons, FuelIsWhatFillsHerUpOverWhatThePlanBurns) {
    Season s;
    for (int i = 0; i < 12; ++i)
        s.add(i, Phase::writeUp, {}, "fuel-added", 1.06 * (1.0 + 0.002 * noise(i)), 1.0);
    const auto fuel = s.lesson("fuel", {});
    ASSERT_TRUE(fuel.offered()) << fuel.notOffered;
    EXPECT_NEAR(fuel.line.value, 1.06, 0.004);
    Season little;
    for (int i = 0; i < 12; ++i)
        little.add(i, Phase::writeUp, {}, "fuel-added", 1.01, 1.0);
    EXPECT_FALSE(little.lesson("fuel", {}).offered());
    Season less;
    for (int i = 0; i < 12; ++i)
        less.add(i, Phase::writeUp, {}, "fuel-added", 0.9, 1.0);
    EXPECT_NE(less.lesson("fuel", {}).notOffered.find("not planned with"), std::string::npos);
    EXPECT_LT(less.lesson("fuel", {}).line.value, 0.93);
}

TEST(Lessons, WhatIsToldOnlyIsOfferedToNobody) {
    Season s;
    for (int i = 0; i < 9; ++i)
        s.add(i, Phase::start, "1", "fire", 8.0 + i % 3);
    const auto fire = s.lesson("fire", "1");
    EXPECT_FALSE(fire.offered());
    EXPECT_DOUBLE_EQ(fire.usual, 9.0);
    EXPECT_NE(fire.words.find("usually 0:09"), std::string::npos) << fire.words;
}

TEST(Lessons, AnAnswerTakesThePlaceOfTheOneBefore) {
    Lesson lesson;
    lesson.line.what = "oil";
    lesson.line.engine = "1";
    lesson.line.value = 4.0;
    auto lines = answered({{"oil", "2", 1.0, 9, {}, {}, "m", true, {}, {}}}, lesson, false, "2026-01-02", "R. Vane");
    ASSERT_EQ(lines.size(), 2u);
    ASSERT_TRUE(answerTo(lines, lesson));
    EXPECT_FALSE(answerTo(lines, lesson)->accepted);
    lines = answered(lines, lesson, true, "2026-02-03", "R. Vane");
    EXPECT_EQ(lines.size(), 2u);
    EXPECT_TRUE(answerTo(lines, lesson)->accepted);
    EXPECT_EQ(answerTo(lines, lesson)->answered, "2026-02-03");
}

// ---- what a plan makes of it

struct Taught {
    std::shared_ptr<const powerplant::Aircraft> aircraft;
    Sortie sortie;
    plan::Plan plan;
};
LearntLine line(const std::string& what, const std::string& engine, double value) {
    return {what,
            engine,
            value,
            20,
            "2025-04-14",
            "2025-09-01",
            powerplant::markOfModel(*test::loaded("lorimer-spring").aircraft),
            true,
            "2025-09-02",
            "R. Vane"};
}
Taught teach(std::vector<LearntLine> lines, const char* name = "lorimer-spring") {
    const auto& l = test::loaded(name);
    Taught out{nullptr, *l.sortie, {}};
    AirframeFacts facts = out.sortie.airframe.facts ? *out.sortie.airframe.facts : AirframeFacts{};
    facts.learnt = std::move(lines);
    out.sortie.airframe.facts = std::make_shared<const AirframeFacts>(std::move(facts));
    out.aircraft = flight::taught(l.aircraft, out.sortie);
    out.plan = plan::makePlan(*out.aircraft, out.sortie);
    return out;
}
double burnt(const plan::Plan& p) {
    return p.flown.fuelAtStart - p.flown.fuelAtEnd;
}
const plan::ExpectLine& expected(const plan::Plan& p, Phase phase, Gauge gauge) {
    for (const auto& e : p[phase].expect)
        if (e.gauge == gauge)
            return e;
    throw std::runtime_error("no such line");
}

TEST(Learnt, FuelIsInEveryFigureOfFuelAndInNothingElse) {
    const auto before = teach({}), after = teach({line("fuel", {}, 1.05)});
    EXPECT_NEAR(burnt(after.plan) / burnt(before.plan), 1.05, 0.003);
    EXPECT_NEAR(after.plan.flown.cruiseFuelFlow / before.plan.flown.cruiseFuelFlow, 1.05, 1e-4);
    EXPECT_NEAR(after.plan.flown[Phase::climb].fuel / before.plan.flown[Phase::climb].fuel, 1.05, 0.004);
    EXPECT_NEAR(after.plan.flown[Phase::cruise].point.power.si() / before.plan.flown[Phase::cruise].point.power.si(),
                1.0, 1e-4)
        << "a little lighter, a little faster, a little ram";
    EXPECT_NEAR(expected(after.plan, Phase::cruise, Gauge::headTemperature).value,
                expected(before.plan, Phase::cruise, Gauge::headTemperature).value, 0.01);
    EXPECT_NEAR(after.plan.flown[Phase::climb].knock->boundary.si(),
                before.plan.flown[Phase::climb].knock->boundary.si(), 5.0)
        << "the detonation limit is the engine's, whatever it drinks";
}

TEST(Learnt, FiguresOfFuelSayThatTheLogIsInThem) {
    const auto originOf = [](const Taught& t, Phase phase, const char* key) {
        for (const auto& clock : t.plan[phase].clocks)
            if (clock.fact.id == key)
                return std::string(markOf(clock.origin));
        return std::string("no such line");
    };
    const auto before = teach({}), after = teach({line("fuel", {}, 1.05)}), warm = teach({line("head", "1", 6.0)});
    const std::vector<std::pair<Phase, const char*>> ofFuel{
        {Phase::cruise, "burn"},      {Phase::cruise, "endurance"},     {Phase::load, "fuel-needed"},
        {Phase::load, "fuel-margin"}, {Phase::load, "take-off-weight"}, {Phase::load, "landing-weight"}};
    for (const auto& [phase, key] : ofFuel) {
        EXPECT_EQ(originOf(before, phase, key), "model") << key;
        EXPECT_EQ(originOf(after, phase, key), "logged") << key;
        EXPECT_EQ(originOf(warm, phase, key), "model") << key << ": a needle burns nothing";
    }
    EXPECT_EQ(originOf(after, Phase::cruise, "true-airspeed"), "model");
    EXPECT_EQ(powerplant::markWithFuel(*after.aircraft), "model, fuel logged");
    EXPECT_EQ(powerplant::markWithFuel(*warm.aircraft), "model");
}

TEST(Learnt, LessFuelThanTheModelsIsNeverPlanned) {
    EXPECT_NEAR(burnt(teach({line("fuel", {}, 0.8)}).plan), burnt(teach({}).plan), 1e-12);
}

TEST(Learnt, ANeedleIsSaidBesideTheModelsFigureAndJudged) {
    const auto before = teach({}), after = teach({line("head", "1", 6.0)});
    const auto& was = expected(before.plan, Phase::cruise, Gauge::headTemperature);
    const auto& is = expected(after.plan, Phase::cruise, Gauge::headTemperature);
    EXPECT_DOUBLE_EQ(is.value, was.value) << "the heads are as warm as before";
    ASSERT_EQ(is.needles.size(), 1u);
    EXPECT_EQ(is.needles.front().engine, "1");
    EXPECT_NEAR(is.needles.front().value - was.value, 6.0, 0.51);
    EXPECT_NE(is.moment.find("Port " + is.needles.front().text), std::string::npos) << is.moment;
    EXPECT_TRUE(was.needles.empty());
    const auto csv = plan::planCsv(after.plan);
    EXPECT_NE(csv.find("cruise,expect,\"Head temp., Port\"," + is.needles.front().text + ",logged"), std::string::npos);
    // So far up that it is over the limit: the one line tells it, of port's needle.
    const double limit = *was.band.limitHigh;
    const auto hot = teach({line("head", "1", limit - was.value + 3.0)});
    const auto& red = expected(hot.plan, Phase::cruise, Gauge::headTemperature);
    EXPECT_EQ(red.verdict.colour(), watch::Colour::red);
    EXPECT_NE(red.verdict.sentence().find("Port"), std::string::npos) << red.verdict.sentence();
}

TEST(Learnt, NoColourIsTakenAwayByIt) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "tanner-winter"}) {
        const auto& aircraft = *test::loaded(name).aircraft;
        std::vector<LearntLine> lines;
        for (const auto& [gauge, limits] : aircraft.notes.gauges)
            if (isTaught(gauge))
                for (const auto& p : aircraft.notes.positions) {
                    auto l = line(std::string(nameOf(gauge).key), p.id,
                                  nameOf(gauge).dimension == Dimension::pressure ? 6e4 : -35.0);
                    l.model = powerplant::markOfModel(aircraft);
                    lines.push_back(l);
                }
        ASSERT_FALSE(lines.empty());
        const auto before = teach({}, name), after = teach(lines, name);
        int needles = 0;
        for (std::size_t p = 0; p < plannedPhases; ++p)
            for (std::size_t i = 0; i < before.plan.phases[p].expect.size(); ++i) {
                EXPECT_GE(after.plan.phases[p].expect[i].verdict.colour(),
                          before.plan.phases[p].expect[i].verdict.colour())
                    << name << ' ' << before.plan.phases[p].expect[i].title;
                needles += static_cast<int>(after.plan.phases[p].expect[i].needles.size());
            }
        EXPECT_GT(needles, 10);
    }
}

TEST(Learnt, TheLogNeverLearnsFromItself) {
    const auto before = teach({}),
               after = teach({line("head", "1", 6.0), line("fuel", {}, 1.08), line("prime", "1", 1.4)});
    const auto same = [&](Phase phase, const char* what, double within) {
        const auto was = unlearntOf(before.plan, phase, what, "1"), is = unlearntOf(after.plan, phase, what, "1");
        ASSERT_TRUE(was && is) << what;
        EXPECT_NEAR(*is / *was, 1.0, within) << what;
    };
    same(Phase::cruise, "head", 1e-4);
    same(Phase::start, "prime", 1e-12);
    same(Phase::writeUp, "fuel-added", 0.003); // she is a little lighter by what is burnt more
    EXPECT_GT(*plannedOf(after.plan, Phase::writeUp, "fuel-added"),
              1.07 * *plannedOf(before.plan, Phase::writeUp, "fuel-added"))
        << "what is planned is what was learnt";
    EXPECT_GT(*plannedOf(after.plan, Phase::start, "prime", "1"), *unlearntOf(after.plan, Phase::start, "prime", "1"));
}

TEST(Learnt, ADoseIsTaughtButNeverIntoFlooding) {
    start::PrimeAdvice advice;
    advice.dose = 4.0;
    advice.fireLow = 2.6;
    advice.fireHigh = 6.2;
    advice.flood = 7.0;
    const auto dose = [&](double factor) { return start::doseFor(advice, {{{"1", 9.0}}, {{"1", factor}}}, "1"); };
    EXPECT_DOUBLE_EQ(dose(1.3), 5.0) << "and takes the place of what was found by hand";
    EXPECT_DOUBLE_EQ(dose(2.0), 6.0) << "the last that fires by the model";
    EXPECT_DOUBLE_EQ(dose(0.4), 3.0) << "the first that does";
    EXPECT_DOUBLE_EQ(start::doseFor(advice, {{{"1", 2.0}}, {}}, "1"), 6.0);
    EXPECT_DOUBLE_EQ(start::doseFor(advice, {{{"1", -9.0}}, {}}, "1"), 0.0);
    EXPECT_DOUBLE_EQ(start::doseFor(advice, {}, "2"), 4.0);
}

TEST(Learnt, WhatWasLearntAgainstOtherModelsWaits) {
    auto old = line("fuel", {}, 1.2);
    old.model = "00000000";
    const auto before = teach({}), after = teach({old});
    EXPECT_NEAR(burnt(after.plan), burnt(before.plan), 1e-12);
    const auto said = [](const plan::Plan& p, const char* words) {
        for (const auto& c : p[Phase::walkRound].cautions)
            if (c.find(words) != std::string::npos)
                return true;
        return false;
    };
    EXPECT_TRUE(said(after.plan, "Not planned with, for notes or models have changed since: Fuel 20 % more"));
    EXPECT_TRUE(said(teach({line("fuel", {}, 1.05)}).plan, "Planned with what the log has taught"));
    auto refused = line("fuel", {}, 1.2);
    refused.accepted = false;
    EXPECT_NEAR(burnt(teach({refused}).plan), burnt(before.plan), 1e-12);
}

TEST(Learnt, TheMarkIsOfTheModelsAlone) {
    const auto& aircraft = *test::loaded("lorimer-spring").aircraft;
    const auto mark = powerplant::markOfModel(aircraft);
    EXPECT_EQ(mark.size(), 8u);
    EXPECT_EQ(powerplant::markOfModel(*teach({line("fuel", {}, 1.05)}).aircraft), mark);
    auto other = aircraft;
    other.calibration.parameters.isac *= 1.01;
    EXPECT_NE(powerplant::markOfModel(other), mark);
    EXPECT_NE(powerplant::markOfModel(*test::loaded("farrier-summer").aircraft), mark);
}

TEST(Learnt, BeforeAndAfterAreThoseOfToday) {
    const auto& l = test::loaded("lorimer-spring");
    Lesson fuel;
    fuel.line = line("fuel", {}, 1.05);
    const auto words = beforeAndAfter(fuel, l.aircraft, *l.sortie);
    const auto was = format(burnt(teach({}).plan), *l.aircraft->notes.cockpit.fuel),
               is = format(burnt(teach({fuel.line}).plan), *l.aircraft->notes.cockpit.fuel);
    EXPECT_EQ(words, is + " for " + was);
    Lesson none;
    none.line = line("head", "1", 0.0);
    EXPECT_EQ(beforeAndAfter(none, l.aircraft, *l.sortie), "");
}

// ---- the airframe's file

TEST(LearntFile, OnlyItsOwnTablesChange) {
    const std::string text =
        "format = 1 # as ever\n[airframe]\nnotes = \"n.toml\" # the type\nregistration = \"HR-K\"\n"
        "\n[[defect]]\nwhat = \"slow clock\"\n\n\n";
    auto one = line("oil-pressure", "1", 21'000.0), two = line("prime", "2", 1.25), three = line("head", "2", -4.5);
    three.who = "R. \"Dusty\" Vane";
    const auto written = withLearnt(text, "/hangar/a.toml", {one, two, three});
    ASSERT_TRUE(written) << written.error();
    EXPECT_TRUE(written.value().starts_with(text.substr(0, text.size() - 2)));
    const auto read = readAirframe(written.value(), "/hangar/a.toml");
    ASSERT_TRUE(read.facts) << read.problems.front().text();
    ASSERT_EQ(read.facts->learnt.size(), 3u);
    EXPECT_NEAR(read.facts->learnt[0].value, 21'000.0, 1e-6);
    EXPECT_NEAR(read.facts->learnt[1].value, 1.25, 1e-12);
    EXPECT_EQ(read.facts->learnt[2], three);
    const auto again = withLearnt(written.value(), "/hangar/a.toml", {two});
    ASSERT_TRUE(again) << again.error();
    EXPECT_EQ(again.value(), withLearnt(text, "/hangar/a.toml", {two}).value());
    EXPECT_NE(again.value().find("# the type"), std::string::npos);
    const auto inlined = withLearnt(text + "learnt = []\n", "/hangar/a.toml", {two});
    EXPECT_FALSE(inlined) << "what cannot be written so is refused, and nothing is lost";
}

TEST(LearntFile, ASlipIsTold) {
    const std::string begin = "format = 1\n[airframe]\nnotes = \"n.toml\"\nregistration = \"HR-K\"\n[[learnt]]\n",
                      end = "runs = 9\nmodel = \"m\"\nanswer = \"accepted\"\n";
    const auto problem = [&](const std::string& lines) {
        const auto read = readAirframe(begin + lines + end, "a.toml");
        return read.problems.empty() ? std::string() : read.problems.front().text();
    };
    EXPECT_EQ(problem("what = \"fuel\"\nfactor = 1.05\n"), "");
    EXPECT_NE(problem("what = \"rpm\"\nby = \"3 K\"\n").find("nothing that a log teaches"), std::string::npos);
    EXPECT_NE(problem("what = \"oil\"\nby = \"60 K\"\n").find("Between −40"), std::string::npos);
    EXPECT_NE(problem("what = \"fuel\"\nfactor = 2.5\n").find("Between 0.5 and 2"), std::string::npos);
    EXPECT_NE(problem("what = \"oil-pressure\"\nby = \"3 bar\"\n").find("Between −2"), std::string::npos);
    EXPECT_NE(problem("what = \"fuel\"\n").find("factor is missing"), std::string::npos);
}

} // namespace
