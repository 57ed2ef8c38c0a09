// SPDX-License-Identifier: GPL-3.0-or-later
// Choosing a cruise: what is offered gives what was asked and stays within every limit.
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/leaning.h"
#include "engine/permitted_boost.h"
#include "flight/cruise.h"
#include "plan/plan.h"
#include "test_data.h"
#include "units/text.h"
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;
using flight::Ask;

struct Case {
    flight::LoadedSortie loaded;
    flight::CruiseConditions conditions;
};
const Case& of(const std::string& demo) {
    static std::map<std::string, Case> all;
    auto found = all.find(demo);
    if (found == all.end()) {
        Case c{test::loadDemo(demo), {}};
        const auto f = flight::fly(*c.loaded.aircraft, *c.loaded.sortie);
        const auto& s = *c.loaded.sortie;
        c.conditions.air = s.day.at(f.cruisePressureAltitude);
        c.conditions.weight = s.weight;
        c.conditions.fuel = Volume::si(f.fuelAtStart);
        c.conditions.grade = s.fuelGrade;
        c.conditions.fuelDensity = f.fuelDensity;
        found = all.emplace(demo, std::move(c)).first;
    }
    return found->second;
}
double got(Ask ask, const flight::CruisePoint& p) {
    switch (ask) {
    case Ask::power:
        return p.point.power.si();
    case Ask::burn:
        return p.burn;
    case Ask::airspeed:
        return p.tas.si();
    case Ask::endurance:
        return p.endurance;
    case Ask::range:
        return p.range;
    }
    return 0;
}

class EachAsk : public testing::TestWithParam<std::string> {};

TEST_P(EachAsk, CandidatesGiveWhatWasAskedWithinEveryLimit) {
    const auto& c = of(GetParam());
    const auto& a = *c.loaded.aircraft;
    const auto& n = a.notes;
    const auto plan = flight::fly(a, *c.loaded.sortie);
    const engine::KnockBoundary knock(n, a.model(), c.conditions.grade);
    const double power = plan[Phase::cruise].point.power.si() * 0.97, burn = plan.cruiseFuelFlow;
    const double endurance = c.conditions.fuel.si() / burn * 1.02;
    int answered = 0;
    for (const auto& [ask, value] :
         {std::pair{Ask::power, power}, std::pair{Ask::burn, burn * 0.98},
          std::pair{Ask::airspeed, plan.cruiseTas.si() * 0.98}, std::pair{Ask::endurance, endurance},
          std::pair{Ask::range, endurance * plan.cruiseTas.si() * 0.97}}) {
        const auto answer = flight::cruiseCandidates(a, c.conditions, ask, value);
        if (answer.candidates.empty()) {
            EXPECT_FALSE(answer.why.empty());
            continue;
        }
        ++answered;
        double last = 0;
        bool within = true; // what the notes allow comes before what only the model does
        for (const auto& p : answer.candidates) {
            EXPECT_NEAR(got(ask, p) / value, 1.0, 0.01) << flight::nameOf(ask).key;
            EXPECT_TRUE(p.level);
            EXPECT_FALSE(p.why.empty());
            if (const auto g = n.gauges.find(Gauge::boost); g != n.gauges.end()) {
                EXPECT_LE(p.point.manifoldPressure.si(), *g->second.in(Phase::cruise).limitHigh + 1);
            }
            EXPECT_LE(p.setting.rpm.si(), *n.gauges.at(Gauge::rpm).in(Phase::cruise).limitHigh + 1e-6);
            if (!n.engine.gears.empty()) {
                EXPECT_LE(p.point.manifoldPressure.si(), p.boundary.si() + 1);
            }
            if (p.setting.mixture == Mixture::weak) {
                EXPECT_TRUE(engine::weakAllowed(n, p.point.power));
            }
            const double order = ask == Ask::endurance || ask == Ask::range ? -p.tas.si() : p.burn;
            if (last != 0 && p.withinNotes == within) {
                EXPECT_GE(order, last - 0.006 * std::abs(last)) << "best first";
            }
            last = order;
            within = p.withinNotes;
        }
    }
    EXPECT_GE(answered, 3) << GetParam();
}
INSTANTIATE_TEST_SUITE_P(Fleet, EachAsk,
                         testing::Values("lorimer-spring", "farrier-summer", "mercer-frost", "collier-high",
                                         "wheelwright-height", "tanner-winter", "tinker-damp", "chandler-haven"));

TEST(Cruise, TableChartPlanAndPointAgree) {
    const auto& c = of("lorimer-spring");
    const auto& a = *c.loaded.aircraft;
    Sortie s = *c.loaded.sortie;
    const auto answer = flight::cruiseCandidates(a, c.conditions, Ask::power, 700 * 745.7);
    ASSERT_FALSE(answer.candidates.empty());
    const auto& p = answer.candidates.front();
    s.flight.cruiseRpm = p.setting.rpm;
    s.flight.cruiseBoost = p.point.manifoldPressure;
    s.flight.cruiseMixture = p.setting.mixture;
    s.flight.cruiseGear = a.notes.engine.gears[p.setting.gear].name;
    const auto f = flight::fly(a, s);
    EXPECT_NEAR(f[Phase::cruise].point.power.si() / p.point.power.si(), 1, 0.004) << "the plan flies the candidate";
    EXPECT_NEAR(f.cruiseFuelFlow / p.burn, 1, 0.004);
    const auto point = engine::operate(a.model(), {p.setting.rpm, p.point.manifoldPressure, p.setting.gear,
                                                   c.conditions.air, f[Phase::cruise].setting.ias, p.setting.mixture});
    EXPECT_NEAR(point.power.si() / f[Phase::cruise].point.power.si(), 1, 0.002);
    const auto made = plan::makePlan(a, s);
    bool shown = false;
    for (const auto& line : made[Phase::cruise].set)
        shown = shown || line.value.find(format(p.point.manifoldPressure.si(), a.notes.unitOf(Gauge::boost))) !=
                             std::string::npos;
    EXPECT_TRUE(shown) << "and the card says it";
}

TEST(Cruise, LowGearIsPreferredWhereBothGive) {
    const auto& c = of("lorimer-spring");
    auto low = c.conditions;
    low.air = air::standardDay(Length{}).at(Length::si(1500));
    const auto answer = flight::cruiseCandidates(*c.loaded.aircraft, low, Ask::power, 650 * 745.7);
    ASSERT_FALSE(answer.candidates.empty());
    EXPECT_EQ(answer.candidates.front().setting.gear, 0u);
    EXPECT_NE(answer.candidates.front().why.find("low gear"), std::string::npos);
}

TEST(Cruise, TooMuchIsRefusedInWords) {
    const auto& c = of("lorimer-spring");
    const auto answer = flight::cruiseCandidates(*c.loaded.aircraft, c.conditions, Ask::power, 5000 * 745.7);
    EXPECT_TRUE(answer.candidates.empty());
    EXPECT_NE(answer.why.find("more than any permitted setting"), std::string::npos) << answer.why;
}

RC_GTEST_PROP(CruiseProperty, NothingOfferedIsEverBeyondALimitOrTheBoundary, ()) {
    const auto& c = of(
        *rc::gen::element(std::string("lorimer-spring"), std::string("farrier-summer"), std::string("collier-high")));
    const auto& a = *c.loaded.aircraft;
    auto conditions = c.conditions;
    air::Day day = air::standardDay(Length{});
    day.oat = Temperature::si(day.oat.si() + *rc::gen::inRange(-25, 25));
    conditions.air = day.at(Length::si(*rc::gen::inRange(0, 8000)));
    conditions.grade = *rc::gen::elementOf(a.notes.fuel.grades);
    const auto answer = flight::cruiseCandidates(a, conditions, Ask::power, *rc::gen::inRange(200, 1500) * 745.7);
    for (const auto& p : answer.candidates) {
        const auto limit = a.notes.gauges.at(Gauge::boost).in(Phase::cruise).limitHigh;
        RC_ASSERT(p.point.manifoldPressure.si() <= *limit + 1);
        RC_ASSERT(p.point.manifoldPressure.si() <= p.boundary.si() + 1);
        RC_ASSERT(p.setting.rpm.si() <= *a.notes.gauges.at(Gauge::rpm).in(Phase::cruise).limitHigh + 1e-6);
    }
}

RC_GTEST_PROP(CruiseProperty, ATypedCruiseNeverPassesALimit, ()) {
    const auto& c =
        of(*rc::gen::element(std::string("lorimer-spring"), std::string("farrier-summer"), std::string("ostler-bush")));
    Sortie s = *c.loaded.sortie;
    s.flight.cruiseRpm = Rotation::si(*rc::gen::inRange(600, 6000) / 60.0);
    s.flight.cruiseBoost = ManifoldPressure::si(*rc::gen::inRange(20000, 300000));
    const auto f = flight::fly(*c.loaded.aircraft, s);
    const auto& gauges = c.loaded.aircraft->notes.gauges;
    RC_ASSERT(f[Phase::cruise].setting.rpm.si() <= *gauges.at(Gauge::rpm).in(Phase::cruise).limitHigh + 1e-6);
    RC_ASSERT(f[Phase::cruise].point.manifoldPressure.si() <= *gauges.at(Gauge::boost).in(Phase::cruise).limitHigh + 1);
}
TEST(Climb, EachStageChangesInTurnWithItsOwnBoost) {
    const auto& c = of("collier-high");
    const auto f = flight::fly(*c.loaded.aircraft, *c.loaded.sortie);
    ASSERT_EQ(f.gearChanges.size(), 2u);
    EXPECT_EQ(f.gearChanges[0].to, 1u);
    EXPECT_EQ(f.gearChanges[1].to, 2u);
    EXPECT_GT(f.gearChanges[1].height, f.gearChanges[0].height);
    for (const auto& change : f.gearChanges) {
        ASSERT_TRUE(change.equalPower);
        EXPECT_LE(change.equalPower->si(), change.pressureAltitude.si() + 1) << "by the notes no earlier than it pays";
    }
    double most = 0;
    for (std::size_t i = f[Phase::climb].firstSample; i <= f[Phase::climb].lastSample; ++i)
        most = std::max(most, f.samples[i][Gauge::boost]);
    EXPECT_NEAR(most, ManifoldPressure::of(46, units::manifold::inHg).si(), 50)
        << "46 in the auxiliary gears, 44 in neutral";
}
TEST(FlownFigures, ALetDownOnWeakMixtureIsFlownSo) {
    const auto& l = test::loaded("lorimer-spring");
    powerplant::Aircraft own = *l.aircraft;
    own.notes.phases[Phase::letDown].mixture = Mixture::weak;
    EXPECT_EQ(flight::fly(own, *l.sortie)[Phase::letDown].setting.mixture, Mixture::weak);
    own.notes.phases[Phase::letDown].mixture = std::nullopt;
    EXPECT_EQ(flight::fly(own, *l.sortie)[Phase::letDown].setting.mixture, Mixture::rich);
}

TEST(FlownFigures, EveryGearHasItsOwnFullThrottleHeight) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const flight::Setting& s = f[Phase::climb].setting;
        for (std::size_t gear = 0; gear + 1 < l.aircraft->notes.engine.gears.size() && gear < 3; ++gear)
            if (const auto& low = f.fullThrottleHeights[gear], &high = f.fullThrottleHeights[gear + 1]; low && high) {
                ++seen;
                EXPECT_GT(high->si(), low->si() + 500) << name << ": what a higher gear is for";
            }
        if (f.fullThrottleHeights[0] && s.boost) {
            const auto own =
                engine::fullThrottleHeight(l.aircraft->model(), s.rpm, *s.boost, 0, l.sortie->day, s.ias, s.mixture);
            if (own && s.gear == 0)
                EXPECT_NEAR(own->si(), f.fullThrottleHeights[0]->si(), 30) << name;
        }
    }
    EXPECT_GE(seen, 3u);
}

TEST(FlownFigures, WhereNotesGiveAWeakRatingTheCruiseIsSoughtWeakToo) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        const bool weak =
            std::any_of(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.mixture == Mixture::weak; });
        const auto range = flight::cruiseRange(n);
        EXPECT_EQ(range.mixtures.size(), weak ? 2u : 1u) << name;
        EXPECT_EQ(range.mixtures.front(), Mixture::rich) << name;
        EXPECT_EQ(range.mixtures.back(), weak ? Mixture::weak : Mixture::rich) << name;
        EXPECT_EQ(range.gears, std::max<std::size_t>(1, n.engine.gears.size())) << name;
    }
}

TEST(FlownFigures, ACruiseThatIsNotTheFirstSaysWhatItCosts) {
    const auto& [l, conditions] = of("lorimer-spring");
    const auto answer = flight::cruiseCandidates(*l.aircraft, conditions, Ask::power, 700 * 745.7);
    ASSERT_GT(answer.candidates.size(), 1u) << answer.why;
    const auto& first = answer.candidates.front();
    for (const auto& p : answer.candidates)
        if (&p != &answer.candidates.front() && p.setting.gear <= first.setting.gear &&
            p.setting.mixture == first.setting.mixture) {
            if (p.setting.rpm > first.setting.rpm)
                EXPECT_TRUE(p.why.starts_with("more rpm")) << p.why;
            else
                EXPECT_TRUE(p.why.starts_with("less rpm")) << p.why;
        }
}

TEST(CruiseFigures, EnduranceIsFuelOverBurnAndRangeThatTimesTheSpeed) {
    const auto& l = of("lorimer-spring").loaded;
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    flight::CruiseConditions c = of("lorimer-spring").conditions;
    c.fuelDensity = 0.0; // the notes'
    c.fuel = Volume::si(1.0);
    const engine::KnockBoundary knock(l.aircraft->notes, l.aircraft->model(), c.grade);
    const auto& s = f[Phase::cruise].setting;
    const auto p = flight::cruisePoint(*l.aircraft, c, knock, {s.rpm, s.boost, s.gear, s.mixture});
    EXPECT_NEAR(p.burn, 2 * p.point.fuelFlow.si() / l.aircraft->notes.fuel.density, 1e-9)
        << "two engines, the notes' density";
    EXPECT_NEAR(p.endurance * p.burn, 1.0, 1e-9);
    EXPECT_NEAR(p.range, p.endurance * p.tas.si(), 1e-3);
    EXPECT_NEAR(p.burn / f.cruiseFuelFlow, f.fuelDensity / l.aircraft->notes.fuel.density, 0.01);
}

TEST(FlownFigures, BoostThatAGradeCutsIsFromItsEntryOrReckoned) {
    auto l = test::loadDemo("farrier-summer");
    const auto& n = l.aircraft->notes;
    const Rating& rating = flight::ratingFor(n, *l.sortie, Phase::takeOff);
    for (const auto& grade : n.fuel.grades) {
        l.sortie->fuelGrade = grade;
        const auto permitted =
            engine::permittedBoost(n, rating, grade, {0, l.sortie->day.pressureAltitude(), Phase::takeOff, {}});
        const auto& s = flight::fly(*l.aircraft, *l.sortie)[Phase::takeOff].setting;
        EXPECT_EQ(s.boostOrigin, permitted.origin) << grade;
        EXPECT_LE(s.boost->si(), permitted.boost->si() + 1) << grade;
    }
}

TEST(FlownFigures, ABoostThatIsTypedIsThePilots) {
    auto l = test::loadDemo("lorimer-spring");
    const auto rated = flight::fly(*l.aircraft, *l.sortie)[Phase::climb].setting;
    EXPECT_EQ(rated.boostOrigin, Origin::notes);
    l.sortie->flight.climbBoost = ManifoldPressure::si(rated.boost->si() - 8000);
    const auto own = flight::fly(*l.aircraft, *l.sortie)[Phase::climb].setting;
    EXPECT_NEAR(own.boost->si(), rated.boost->si() - 8000, 1);
    EXPECT_EQ(own.boostOrigin, Origin::entered);
    l.sortie->flight.climbBoost = ManifoldPressure::si(rated.boost->si() + 8000);
    EXPECT_NEAR(flight::fly(*l.aircraft, *l.sortie)[Phase::climb].setting.boost->si(), rated.boost->si(), 1)
        << "never more than the rating's";
}

TEST(FlownFigures, ASettingUsesTheMinutesOfTheLongestRatingThatCoversIt) {
    TypeNotes n = test::loaded("lorimer-spring").aircraft->notes;
    const std::string grade = test::loaded("lorimer-spring").sortie->fuelGrade;
    ASSERT_GE(n.ratings.size(), 2u);
    // Two without limit, alike but for the rpm: the slower is meant.
    Rating slow = n.ratings.front(), fast = slow;
    slow.key = "slow";
    fast.key = "fast";
    slow.minutes = fast.minutes = std::nullopt;
    slow.rpm = Rotation::si(30);
    fast.rpm = Rotation::si(35);
    slow.water = fast.water = false;
    for (const bool slowFirst : {true, false}) {
        n.ratings = slowFirst ? std::vector{slow, fast} : std::vector{fast, slow};
        const auto* covers =
            flight::coveringRating(n, grade, {Rotation::si(29), ManifoldPressure::si(60e3), 0, Mixture::rich},
                                   ManifoldPressure::si(60e3), false, Length{});
        ASSERT_TRUE(covers);
        EXPECT_EQ(covers->key, "slow");
        const auto* only =
            flight::coveringRating(n, grade, {Rotation::si(33), ManifoldPressure::si(60e3), 0, Mixture::rich},
                                   ManifoldPressure::si(60e3), false, Length{});
        ASSERT_TRUE(only);
        EXPECT_EQ(only->key, "fast");
    }
}

TEST(CruiseFigures, WithoutAGovernorTheEngineGivesWhatTheBladesTake) {
    for (const char* demo : {"tinker-damp", "sexton-meadow", "thatcher-lesson"}) {
        const auto& c = of(demo);
        const auto& a = *c.loaded.aircraft;
        ASSERT_TRUE(a.propeller.followsThrottle()) << demo;
        const auto plan = flight::fly(a, *c.loaded.sortie);
        const double density = air::density(c.conditions.air.pressure, c.conditions.air.temperature);
        std::size_t looked = 0;
        for (const double share : {0.8, 0.95})
            for (const auto& found : flight::cruiseCandidates(a, c.conditions, flight::Ask::power,
                                                              share * plan[Phase::cruise].point.power.si())
                                         .candidates) {
                const double takes = a.propeller.coarse.power(found.setting.rpm.si(), found.tas.si(), density);
                EXPECT_NEAR(found.point.power.si() / takes, 1.0, 0.01)
                    << demo << " " << found.setting.rpm.in(units::rpm);
                ++looked;
            }
        EXPECT_GT(looked, 0u) << demo;
    }
}

TEST(CruiseFigures, ABoostThatIsChosenIsFlownAndIsNotTheNotes) {
    const auto& l = test::demo("lorimer");
    Sortie s = *l.sortie;
    s.flight.cruiseRpm = Rotation::of(1900, units::rpm);
    s.flight.cruiseBoost = ManifoldPressure::of(28, units::manifold::inHg);
    const auto f = flight::fly(*l.aircraft, s);
    EXPECT_NEAR(f[Phase::cruise].point.manifoldPressure.in(units::manifold::inHg), 28.0, 0.05);
    EXPECT_NEAR(f[Phase::cruise].setting.rpm.in(units::rpm), 1900, 1.0);
    EXPECT_EQ(f[Phase::cruise].setting.boostOrigin, Origin::model);
    EXPECT_EQ(flight::fly(*l.aircraft, *l.sortie)[Phase::climb].setting.boostOrigin, Origin::notes);
}

TEST(ClimbFigures, WhatAFixedPropellerHoldsBackIsTheModels) {
    std::size_t held = 0;
    for (const char* name : {"tinker-damp", "sexton-meadow", "thatcher-lesson"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        for (const Phase phase : {Phase::climb, Phase::cruise})
            if (f[phase].setting.byRpm) {
                EXPECT_EQ(f[phase].setting.boostOrigin, Origin::model) << name << " " << keyOf(phase);
                ++held;
            }
    }
    EXPECT_GT(held, 0u);
}

TEST(CruiseFigures, AboveAHeightOfItsLineARatingIsHeldToLess) {
    const auto& l = test::loaded("wheelwright-height");
    auto own = *l.aircraft;
    const Rating& rating = flight::ratingFor(own.notes, *l.sortie, Phase::cruise);
    const auto boost = [&](double from) {
        for (auto& r : own.notes.ratings)
            if (r.key == rating.key)
                r.above = {{Length::si(from), ManifoldPressure::of(24, units::manifold::inHg)}};
        return flight::fly(own, *l.sortie)[Phase::cruise].setting.boost->in(units::manifold::inHg);
    };
    const double height = l.sortie->flight.cruiseHeight.si();
    EXPECT_NEAR(boost(height - 500), 24, 1e-6);
    EXPECT_GT(boost(height + 500), 25);
}

} // namespace
