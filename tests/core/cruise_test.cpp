// SPDX-License-Identifier: GPL-3.0-or-later
// Choosing a cruise: what is offered gives what was asked and stays within every limit.
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/leaning.h"
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
} // namespace
