// SPDX-License-Identifier: GPL-3.0-or-later
// One question, one answer: figures that two pages, or a page and the notes, give of the same thing.
#include "advice/cool_down.h"
#include "advice/let_down.h"
#include "engine/leaning.h"
#include "flight/cruise.h"
#include "plan/plan.h"
#include "powerplant/engine.h"
#include "reading/notes_reader.h"
#include "start/cranking.h"
#include "start/priming.h"
#include "test_data.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

using namespace amber;

/// Force times speed: what drag takes less what the engines give is weight times rate of descent, at every moment.
TEST(LetDown, PowerSpeedAndRateAreOneEnergyOnEveryType) {
    for (const auto& name : test::demoNames()) {
        const auto& d = test::loaded(name);
        const auto f = flight::fly(*d.aircraft, *d.sortie);
        const auto& phase = f[Phase::letDown];
        const TypeNotes& n = d.aircraft->notes;
        int looked = 0;
        for (std::size_t i = phase.firstSample; i + 1 < phase.lastSample; ++i) {
            const auto &a = f.samples[i], &b = f.samples[i + 1];
            if (b.time - a.time < 5.0)
                continue;
            const double sink = (a[Gauge::height] - b[Gauge::height]) / (b.time - a.time);
            const auto air = d.sortie->day.at(
                d.sortie->day.pressureAltitudeOf(Length::si(0.5 * (a[Gauge::height] + b[Gauge::height]))));
            const Mass weight = Mass::si(d.sortie->weight.si() - (f.fuelAtStart - a[Gauge::fuel]) * f.fuelDensity);
            const double polar =
                -powerplant::rateOfClimb(*d.aircraft, a[Gauge::power] * n.engineCount(), weight, phase.setting.ias, air)
                     .si();
            EXPECT_NEAR(sink, polar, 0.12 * polar + 0.1) << name << " at " << a[Gauge::height] << " m";
            ++looked;
        }
        EXPECT_GT(looked, 2) << name;
    }
}

/// The page of other rates and the plan itself say one boost for the notes' rate.
TEST(LetDown, TheBoostOfThePlannedRateIsThePlans) {
    for (const auto& name : test::demoNames()) {
        const auto& d = test::loaded(name);
        if (d.aircraft->propeller.followsThrottle())
            continue;
        const auto f = flight::fly(*d.aircraft, *d.sortie);
        const auto ways = advice::letDownWays(*d.aircraft, *d.sortie, f);
        const auto planned = std::find_if(ways.begin(), ways.end(), [](const auto& w) { return w.planned; });
        ASSERT_NE(planned, ways.end());
        if (planned->boost && f.letDown.size() == 1)
            EXPECT_NEAR(planned->boost->si(), f.letDown.front().boost.si(), 0.06 * planned->boost->si()) << name;
    }
}

TEST(LetDown, SaysWhatTheNotesBoostWouldGive) {
    const auto& d = test::loaded("lorimer-spring");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    ASSERT_TRUE(f.letDownByNotes);
    EXPECT_NEAR(f.letDownByNotes->boost.in(units::manifold::inHg), 24, 0.1);
    // What comes of it at the top, in hot air and low gear, and what she sinks with that.
    const auto& s = f.samples[f[Phase::letDown].firstSample];
    engine::Demand demand{f[Phase::letDown].setting.rpm,
                          f.letDownByNotes->boost,
                          0,
                          d.sortie->day.at(d.sortie->day.pressureAltitudeOf(Length::si(s[Gauge::height]))),
                          *d.aircraft->notes.phase(Phase::letDown).ias,
                          Mixture::rich};
    demand.carburettorHeat = f[Phase::letDown].setting.hotAir * powerplant::hotAirRise(d.aircraft->notes);
    const auto point = engine::operate(d.aircraft->model(), demand);
    EXPECT_TRUE(point.fullThrottle);
    EXPECT_NEAR(
        f.letDownByNotes->rate.si(),
        -powerplant::rateOfClimb(*d.aircraft, 2 * point.power.si(), Mass::si(s[Gauge::weight]), demand.ias, demand.air)
             .si(),
        0.01);
    const auto plan = plan::makePlan(*d.aircraft, *d.sortie);
    const auto& clocks = plan[Phase::letDown].clocks;
    const auto down = std::find_if(clocks.begin(), clocks.end(), [](const auto& c) { return c.what == "Time down"; });
    ASSERT_NE(down, clocks.end());
    EXPECT_NE(down->why.find("The notes' 24 inHg would give"), std::string::npos) << down->why;
}

TEST(GearChange, FollowsTheNotesFallAndWaitingIsASchool) {
    for (const auto* name : {"lorimer-spring", "tanner-winter"}) {
        const auto& d = test::loaded(name);
        const auto& n = d.aircraft->notes;
        const auto f = flight::fly(*d.aircraft, *d.sortie);
        ASSERT_TRUE(f.gearChange()) << name;
        const double rated = flight::ratingFor(n, *d.sortie, Phase::climb).boostIn(n.engine.gears.front().name)->si();
        // As far under the rated boost as the notes say, to a tenth.
        EXPECT_NEAR((rated - f.gearChange()->boostBefore.si()) / n.gearChange->fall.si(), 1.0, 0.1) << name;
        auto waits = *d.sortie;
        waits.choices["climb/gear-change"] = "at equal power";
        const auto g = flight::fly(*d.aircraft, waits);
        ASSERT_TRUE(g.gearChange());
        EXPECT_GT(g.gearChange()->height.si(), f.gearChange()->height.si()) << name;
        EXPECT_LT(f.gearChange()->gained.si(), 0) << name << ": at the notes' fall the lower gear is still stronger";
        EXPECT_NEAR(g.gearChange()->gained.si(), 0, 3000) << name;
    }
}

TEST(CruiseCandidates, WhatTheNotesDoNotAllowComesLastAndSaysSo) {
    const auto& a = test::lorimer();
    flight::CruiseConditions c;
    c.air = air::standardDay(Length{}).at(Length::of(10000, units::foot));
    c.weight = a.notes.maxWeight;
    c.fuel = Volume::si(2);
    c.grade = a.notes.fuel.grades.front();
    // Weak ratings of the Lorimer: 28 inHg at 1,650 rpm and no more above.
    const flight::LeverSetting weak{Rotation::of(1900, units::rpm), {}, 0, Mixture::weak};
    EXPECT_NEAR(flight::notesCruiseBoost(a.notes, c.grade, weak, Length{})->in(units::manifold::inHg), 28, 0.05);
    // Rich: 33 at 2,100 and 39 at 2,350: 36 halfway.
    const flight::LeverSetting rich{Rotation::of(2225, units::rpm), {}, 0, Mixture::rich};
    EXPECT_NEAR(flight::notesCruiseBoost(a.notes, c.grade, rich, Length{})->in(units::manifold::inHg), 36, 0.05);
    for (const double horsepower : {600, 700, 800, 900}) {
        const auto answer = flight::cruiseCandidates(a, c, flight::Ask::power, horsepower * 745.7);
        bool beyond = false;
        for (const auto& p : answer.candidates) {
            EXPECT_FALSE(beyond && p.withinNotes) << "after one that is beyond the notes";
            beyond = beyond || !p.withinNotes;
            EXPECT_EQ(p.withinNotes, p.why.find("beyond the notes") == std::string::npos);
            const auto allowed = flight::notesCruiseBoost(a.notes, c.grade, p.setting, Length{})->si();
            EXPECT_EQ(p.withinNotes, p.point.manifoldPressure.si() <= allowed + 100);
        }
    }
}

TEST(Leaning, TheShareIsOfRatedPowerNotOfTakeOffPower) {
    const auto& n = test::lorimer().notes;
    EXPECT_NEAR(engine::ratedPower(n).in(units::horsepower), 1230, 1); // its climb rating; take-off gives 1,570
    const double most = n.engine.weakUpTo * engine::ratedPower(n).si();
    EXPECT_TRUE(engine::weakAllowed(n, Power::si(0.999 * most)));
    EXPECT_FALSE(engine::weakAllowed(n, Power::si(1.001 * most)));
}

TEST(Priming, ColderThanTheTableTheNeedGrowsByTheModelAndSaysSo) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        if (n.start.prime.empty())
            continue;
        const start::Priming priming(n.start);
        const auto field = Pressure::si(standardPressure);
        const double coldest = n.start.prime.front().at.si();
        // By hand: air over vapour, (1 + e^((14 − t)/16))/T; 15 K colder than −10 °C it is 1.06 (1 + e^2.4375)/(1 +
        // e^1.5).
        const double t = coldest - 273.15;
        const double grows =
            coldest / (coldest - 15) * (1 + std::exp((14 - (t - 15)) / 16)) / (1 + std::exp((14 - t) / 16));
        EXPECT_GT(grows, 1.8);
        EXPECT_NEAR(priming.wanted(Temperature::si(coldest - 15), field), n.start.prime.front().dose * grows, 1e-6)
            << name;
        EXPECT_LE(priming.advice(Temperature::si(coldest - 35), field).dose, 3.0 * n.start.prime.front().dose + 1.0)
            << name << ": nobody pumps on for ever";
        EXPECT_EQ(priming.advice(Temperature::si(coldest - 35), field).origin, Origin::model) << name;
    }
    auto d = test::loaded("lorimer-spring");
    auto frost = *d.sortie;
    frost.day.oat = Temperature::of(-38, units::celsius);
    frost.day.dewPoint = Temperature::of(-45, units::celsius);
    const auto plan = plan::makePlan(*d.aircraft, frost);
    const auto& lines = plan[Phase::start].priming;
    EXPECT_TRUE(
        std::any_of(lines.begin(), lines.end(), [](const auto& l) { return l.why.find("Not in the notes") == 0; }));
}

TEST(Words, NoneOneAndSome) {
    EXPECT_EQ(advice::doseText(0, "strokes"), "none");
    EXPECT_EQ(advice::doseText(1, "strokes"), "1 stroke");
    EXPECT_EQ(advice::doseText(2, "strokes"), "2 strokes");
    EXPECT_EQ(formatHoursOrMinutes(5 * 60), "5 min");
    EXPECT_EQ(formatHoursOrMinutes(59.4 * 60), "59 min");
    EXPECT_EQ(formatHoursOrMinutes(80 * 60), "1:20 h");
}

/// An engine stopped half an hour ago is not cold.
TEST(Words, TheWalkRoundSaysHowWarmTheEnginesAre) {
    auto d = test::loaded("lorimer-spring");
    auto again = *d.sortie;
    again.start.sinceStop = Duration::si(1800);
    const auto plan = plan::makePlan(*d.aircraft, again);
    EXPECT_NE(plan[Phase::walkRound].headline.find("30 min after stopping"), std::string::npos)
        << plan[Phase::walkRound].headline;
    EXPECT_EQ(plan[Phase::walkRound].headline.find("cold"), std::string::npos);
}

/// Oil standing at 72 °C that must be under 50: e^(−t/τ) of an hour for the oil towards the air.
TEST(Dilution, WaitsUntilTheOilIsCoolEnough) {
    for (const auto& name : test::demoNames()) {
        const auto& d = test::loaded(name);
        if (!d.aircraft->notes.stop.diluteUnder)
            continue;
        auto cold = *d.sortie;
        cold.forecast = d.aircraft->notes.stop.dilution.front().first;
        const auto f = flight::fly(*d.aircraft, cold);
        const auto cool = advice::coolDown(*d.aircraft, cold, f);
        const double oil = f.samples[f[Phase::stop].lastSample][Gauge::oilTemperature],
                     under = d.aircraft->notes.stop.diluteUnder->si();
        ASSERT_TRUE(cool.dilute) << name;
        if (oil < under + 3)
            continue;
        ASSERT_TRUE(cool.diluteWait) << name;
        const double air = cold.day.oat.si();
        const double hand = 3600 * std::log((oil - air) / (under - air));
        EXPECT_NEAR(*cool.diluteWait, hand, 0.25 * hand + 180) << name;
        EXPECT_NE(cool.diluteWhy.find("stop, wait"), std::string::npos) << cool.diluteWhy;
    }
}

/// Heads left hot by the climb: the cruise says what they settle at, the highest with its moment, and one verdict for
/// both.
TEST(Cruise, SaysSettledAndAtFirst) {
    const auto& d = test::loaded("collier-high");
    const auto plan = plan::makePlan(*d.aircraft, *d.sortie);
    const auto& cruise = plan[Phase::cruise];
    const auto heads = std::find_if(cruise.expect.begin(), cruise.expect.end(),
                                    [](const auto& e) { return e.gauge == Gauge::headTemperature; });
    ASSERT_NE(heads, cruise.expect.end());
    const auto& f = plan.flown;
    const double last = f.samples[f[Phase::cruise].lastSample].headOrCoolant(),
                 first = f.samples[f[Phase::cruise].firstSample].headOrCoolant();
    EXPECT_GT(first, last + 20);
    EXPECT_NEAR(heads->value, last, 0.6);
    EXPECT_NE(heads->moment.find(fmt::format("{:.0f} °C at first", first - 273.15)), std::string::npos)
        << heads->moment;
    EXPECT_EQ(heads->verdict.colour(),
              watch::judge(d.aircraft->notes, Gauge::headTemperature, Phase::cruise, first).colour());
    EXPECT_NE(heads->verdict.sentence().find("it settles at"), std::string::npos);
}

/// The approach is flown at the weight that is left: take-off weight less what has burnt.
TEST(Weight, FallsByWhatIsBurnt) {
    const auto& d = test::loaded("lorimer-spring");
    const auto& n = d.aircraft->notes;
    const auto plan = plan::makePlan(*d.aircraft, *d.sortie);
    const auto& f = plan.flown;
    const double burnt = (f.fuelAtStart - f.samples[f[Phase::landing].firstSample][Gauge::fuel]) * f.fuelDensity;
    EXPECT_GT(burnt, 700) << "some 330 US gal";
    const auto left = flight::speedFor(n, "approach", Mass::si(d.sortie->weight.si() - burnt));
    const auto more = flight::speedFor(n, "approach", Mass::si(d.sortie->weight.si() + burnt));
    ASSERT_TRUE(left && more);
    const std::string text = format(left->speed.si(), *n.cockpit.speed);
    ASSERT_NE(text, format(more->speed.si(), *n.cockpit.speed));
    const auto& set = plan[Phase::landing].set;
    EXPECT_TRUE(std::any_of(set.begin(), set.end(), [&](const auto& l) { return l.value.find(text) == 0; })) << text;
}

/// What a try takes from the battery: the current for the longest try, six tenths of it while the flywheel is run up.
TEST(Cranking, AmpereHoursByHand) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        const auto c = start::crank(n.start, {Temperature::si(288.15), start::Supply::battery, false, 3.0});
        if (c.amperes > 0)
            EXPECT_NEAR(c.ampereHours, c.amperes * (n.start.crankMost.si() + 0.6 * c.energise.si()) / 3600, 1e-9)
                << name;
    }
}

TEST(Words, TheNextStartIsToldAfterAQuarterAndAfterAWholeHour) {
    const auto& d = test::loaded("mercer-frost");
    const auto plan = plan::makePlan(*d.aircraft, *d.sortie);
    std::vector<std::string> again;
    for (const auto& c : plan[Phase::stop].clocks)
        if (c.what.starts_with("Again in"))
            again.push_back(c.what);
    EXPECT_EQ(again, (std::vector<std::string>{"Again in 15 min", "Again in 60 min"}));
}

TEST(CruiseCandidates, AreOnRoundRpm) {
    const auto& a = test::lorimer();
    flight::CruiseConditions c;
    c.air = air::standardDay(Length{}).at(Length::of(8000, units::foot));
    c.weight = a.notes.speeds.lightWeight;
    c.fuel = Volume::si(2);
    c.grade = a.notes.fuel.grades.front();
    const auto answer = flight::cruiseCandidates(a, c, flight::Ask::power, 650 * 745.7);
    ASSERT_GT(answer.candidates.size(), 3u);
    for (const auto& p : answer.candidates)
        EXPECT_NEAR(std::remainder(p.setting.rpm.si() * 60, 50), 0, 1e-6) << p.setting.rpm.si() * 60;
}

TEST(Expect, SaysWhenTheNeedleStandsThere) {
    const auto& d = test::loaded("lorimer-spring");
    const auto plan = plan::makePlan(*d.aircraft, *d.sortie);
    const auto momentOf = [&](Phase phase, Gauge gauge) {
        for (const auto& e : plan[phase].expect)
            if (e.gauge == gauge)
                return e.moment;
        return std::string();
    };
    EXPECT_EQ(momentOf(Phase::climb, Gauge::headTemperature), "highest");
    EXPECT_EQ(momentOf(Phase::letDown, Gauge::headTemperature), "lowest");
    EXPECT_EQ(momentOf(Phase::stop, Gauge::headTemperature), "when stopped");
    EXPECT_EQ(momentOf(Phase::runUp, Gauge::boost), "at the reference");
    EXPECT_EQ(momentOf(Phase::cruise, Gauge::oilPressure), "steady");
}

/// Where the notes say nothing of the metering: 0.085 in the cruise, 0.105 at the highest rating's charge.
TEST(Calibration, TheUsualMeteringIsRichestAtFullCharge) {
    auto text = test::fileText(test::dataPath("notes/ostler-o3.toml"));
    const auto from = text.find("rich = ["), to = text.find('\n', from);
    ASSERT_NE(from, std::string::npos);
    text.erase(from, to - from + 1);
    const auto reading = readNotes(text, "ostler");
    ASSERT_TRUE(reading.notes);
    const auto& e = reading.notes->engine;
    EXPECT_FALSE(e.mixtureGiven);
    EXPECT_NEAR(e.richSchedule.front().second, 0.085, 1e-9);
    EXPECT_NEAR(e.richSchedule.back().second, 0.105, 1e-9);
}
