// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/atmosphere.h"
#include "engine/calibration.h"
#include "engine/fuel_grade.h"
#include "engine/mixture_curve.h"
#include "engine/operating_point.h"
#include "engine/permitted_boost.h"
#include "engine/propeller_load.h"
#include "test_data.h"
#include <rapidcheck/gtest.h>

using namespace amber;

namespace {

const powerplant::Aircraft& lorimer() {
    return *test::demo("lorimer").aircraft;
}
const powerplant::Aircraft& farrier() {
    return *test::demo("farrier").aircraft;
}

engine::Demand climbDemand(double feet, double deviation = 0.0) {
    air::Day day = air::standardDay(Length{});
    day.oat = Temperature::si(day.oat.si() + deviation);
    return {Rotation::of(2350, units::rpm),
            ManifoldPressure::of(39, units::manifold::inHg),
            0,
            day.at(Length::of(feet, units::foot)),
            Speed::of(130, units::knot),
            Mixture::rich};
}

/// An engine without a supercharger, for the laws of natural breathing.
engine::EngineParameters unsupercharged() {
    engine::EngineParameters p;
    p.displacement = 0.015;
    p.compression = 6.0;
    p.stroke = 0.15;
    p.rich = {{1.0, 0.080}};
    p.ratedCharge = standardPressure * 30;
    return p;
}

TEST(Calibration, TheFleetsRatingLinesComeOutOfTheModel) {
    for (const auto* aircraft : {&lorimer(), &farrier()}) {
        EXPECT_LE(aircraft->calibration.worstPower(), 0.02) << aircraft->notes.name;
        EXPECT_LE(aircraft->calibration.worstHeight(), 150.0) << aircraft->notes.name;
        EXPECT_GE(aircraft->calibration.residuals.size(), 4u);
    }
}

TEST(Calibration, ParametersStayPhysical) {
    for (const auto* aircraft : {&lorimer(), &farrier()}) {
        const auto& p = aircraft->model();
        EXPECT_GT(p.isac * 3.6e6, 3.2);
        EXPECT_LT(p.isac * 3.6e6, 4.4);
        EXPECT_GT(p.frictionBase, 0.1e5);
        EXPECT_LT(p.frictionBase, 1.5e5);
        for (const auto& gear : p.gears) {
            EXPECT_GT(gear.efficiency, 0.6);
            EXPECT_LT(gear.efficiency, 0.8);
        }
    }
}

TEST(Calibration, RecoversParametersFromNoisyLines) {
    // Lines made by a known engine, each off by up to half a percent, give that engine back.
    TypeNotes notes = lorimer().notes;
    engine::EngineParameters truth = engine::typicalParameters(notes);
    truth.isac *= 1.04;
    truth.gears[0].efficiency = 0.66;
    truth.gears[1].efficiency = 0.69;
    const air::Day standard = air::standardDay(Length{});
    double sign = 0.005;
    for (auto& rating : notes.ratings)
        for (auto& line : rating.lines) {
            const std::size_t gear = *notes.gearIndex(line.gear);
            line.holdsTo =
                *engine::fullThrottleHeight(truth, rating.rpm, *rating.boost, gear, standard, Speed{}, rating.mixture);
            const auto point =
                engine::operate(truth, {rating.rpm, rating.boost, gear, standard.at(line.at), Speed{}, rating.mixture});
            line.power = Power::si(point.power.si() * (1 + sign));
            sign = -sign;
        }
    const auto found = engine::calibrate(notes);
    EXPECT_NEAR(found.parameters.gears[0].efficiency, 0.66, 0.01);
    EXPECT_NEAR(found.parameters.gears[1].efficiency, 0.69, 0.01);
    EXPECT_LE(found.worstPower(), 0.01);
}

TEST(Power, FallsWithHeightByGaggAndFerrar) {
    // Unsupercharged at constant rpm: σ − (1 − σ)/7.55 within 0.03 up to 4,500 m (SAE 1934).
    const auto engine = unsupercharged();
    const air::Day standard = air::standardDay(Length{});
    const auto at = [&](double h) {
        return engine::operate(engine,
                               {Rotation::si(30), std::nullopt, 0, standard.at(Length::si(h)), Speed{}, Mixture::rich})
            .power.si();
    };
    const double sea = at(0);
    for (double h = 0; h <= 4500; h += 500) {
        const double sigma = air::standardDensity(Length::si(h)) / 1.225;
        EXPECT_NEAR(at(h) / sea, sigma - (1 - sigma) / 7.55, 0.03) << h << " m";
    }
}

TEST(Power, RisesAtConstantBoostUpToFullThrottleHeightThenFalls) {
    const air::Day standard = air::standardDay(Length{});
    const auto height = engine::fullThrottleHeight(lorimer().model(), Rotation::of(2350, units::rpm),
                                                   ManifoldPressure::of(39, units::manifold::inHg), 0, standard,
                                                   Speed::of(130, units::knot));
    ASSERT_TRUE(height);
    double before = engine::operate(lorimer().model(), climbDemand(0)).power.si();
    for (double feet = 984; feet < height->in(units::foot); feet += 984) {
        const double now = engine::operate(lorimer().model(), climbDemand(feet)).power.si();
        const double rise = now / before - 1; // for 300 m
        EXPECT_GT(rise, 0.003) << feet;
        EXPECT_LT(rise, 0.015) << feet;
        before = now;
    }
    const auto above = engine::operate(lorimer().model(), climbDemand(height->in(units::foot) + 1500));
    EXPECT_TRUE(above.fullThrottle);
    EXPECT_LT(above.power.si(), before);
}

TEST(FullThrottleHeight, IsWhereTheWideOpenThrottleJustHoldsTheBoost) {
    const air::Day day = air::standardDay(Length{});
    const auto boost = ManifoldPressure::of(39, units::manifold::inHg);
    for (std::size_t gear : {0u, 1u}) {
        const auto h =
            engine::fullThrottleHeight(lorimer().model(), Rotation::of(2350, units::rpm), boost, gear, day, Speed{});
        ASSERT_TRUE(h);
        const auto wide = engine::fullThrottlePressure(lorimer().model(), {Rotation::of(2350, units::rpm), std::nullopt,
                                                                           gear, day.at(*h), Speed{}, Mixture::rich});
        EXPECT_NEAR(wide.si() / boost.si(), 1.0, 2e-3);
    }
    // More than the blower can give even at the bottom: none.
    EXPECT_FALSE(engine::fullThrottleHeight(lorimer().model(), Rotation::of(1200, units::rpm),
                                            ManifoldPressure::of(60, units::manifold::inHg), 0, day, Speed{}));
}

TEST(Mixture, BestPowerIsAtEightPercentAndTheCurveHasOneTop) {
    EXPECT_NEAR(engine::powerOfMixture(0.080), 1.0, 1e-12);
    EXPECT_NEAR(engine::powerOfMixture(0.067), 0.965, 1e-12);
    for (double r = 0.042; r < 0.139; r += 0.001)
        EXPECT_GT((engine::powerOfMixture(r + 0.0005) - engine::powerOfMixture(r)) * (0.0799 - r), -1e-9) << r;
}

TEST(Propeller, ReferenceRpmOnTheStandardDayIsTheNotesOwn) {
    for (const auto* aircraft : {&lorimer(), &farrier()}) {
        const air::Day standard = air::standardDay(Length{});
        const auto rpm =
            engine::staticRpm(aircraft->model(), aircraft->fineStop, ManifoldPressure::si(standardPressure), 0,
                              standard.at(Length{}), Rotation::of(4000, units::rpm));
        EXPECT_NEAR(rpm.in(units::rpm), aircraft->notes.propeller.referenceRpm->in(units::rpm), 1.0);
        // The two solves are each other's inverse.
        const auto boost = engine::boostForRpm(aircraft->model(), aircraft->fineStop, Rotation::of(1500, units::rpm), 0,
                                               standard.at(Length{}));
        EXPECT_NEAR(engine::staticRpm(aircraft->model(), aircraft->fineStop, boost, 0, standard.at(Length{}),
                                      Rotation::of(4000, units::rpm))
                        .in(units::rpm),
                    1500, 2);
    }
}

TEST(FuelGrade, NotesRuleAndNoGradeEverLoosens) {
    const TypeNotes& n = lorimer().notes;
    const Rating& takeOff = *n.rating("take-off");
    const auto allowed = [&](const Rating& r, const char* grade) {
        return engine::permittedBoost(n, r, grade, engine::BoostAt::inGear(0));
    };
    const auto inHg = [](const engine::PermittedBoost& b) { return b.boost->in(units::manifold::inHg); };
    EXPECT_NEAR(inHg(allowed(takeOff, "100")), 45, 1e-9);
    EXPECT_FALSE(allowed(takeOff, "100").cut);
    EXPECT_NEAR(inHg(allowed(takeOff, "91")), 40.5, 1e-9);
    EXPECT_EQ(allowed(takeOff, "91").origin, Origin::notes);
    EXPECT_NEAR(inHg(allowed(takeOff, "130")), 45, 1e-9) << "a better grade raises nothing";
    const auto between = allowed(takeOff, "95");
    EXPECT_EQ(between.origin, Origin::between);
    EXPECT_GT(inHg(between), 40.5);
    EXPECT_LT(inHg(between), 45);
    // Under the lowest entry the notes say that entry's, and detonation has its word: 80 by its number alone would be
    // 45 · 58.3/100 · 1.05 at the strongest line.
    const auto below = allowed(takeOff, "80");
    EXPECT_TRUE(below.ungraded);
    EXPECT_NEAR(inHg(below), 40.5, 1e-9);
    const engine::KnockBoundary knock(n, lorimer().model(), "80");
    const auto d = engine::Demand{takeOff.rpm, {}, 0, air::standardDay(Length{}).at(Length{}), {}, takeOff.mixture};
    const auto known = engine::permittedBoost(n, takeOff, "80", engine::BoostAt::inGear(0), knock, d);
    EXPECT_EQ(known.binds, engine::Binds::detonation);
    EXPECT_EQ(known.origin, Origin::model);
    EXPECT_GT(inHg(known), 22);
    EXPECT_LT(inHg(known), 36);
    // A rating without entries is held to what the others may use.
    EXPECT_LE(inHg(allowed(*n.rating("max-cruise"), "80")), inHg(below) + 1e-9);
}

struct AnyPoint {
    engine::Demand demand;
    air::Day day;
};

rc::Gen<AnyPoint> anyPoint() {
    return rc::gen::map(rc::gen::tuple(rc::gen::inRange(900, 2650), rc::gen::inRange(14, 45), rc::gen::inRange(0, 2),
                                       rc::gen::inRange(0, 7000), rc::gen::inRange(-30, 31), rc::gen::inRange(0, 100)),
                        [](const auto& t) {
                            AnyPoint p;
                            p.day = air::standardDay(Length{});
                            p.day.oat = Temperature::si(p.day.oat.si() + std::get<4>(t));
                            p.demand = {Rotation::of(std::get<0>(t), units::rpm),
                                        ManifoldPressure::of(std::get<1>(t), units::manifold::inHg),
                                        static_cast<std::size_t>(std::get<2>(t)),
                                        p.day.at(Length::si(std::get<3>(t))),
                                        Speed::si(std::get<5>(t)),
                                        Mixture::rich};
                            return p;
                        });
}

RC_GTEST_PROP(EngineProperty, AHotterDayNeverGivesMorePower, ()) {
    auto p = *anyPoint();
    const double cool = engine::operate(lorimer().model(), p.demand).power.si();
    p.demand.air.temperature = Temperature::si(p.demand.air.temperature.si() + 10);
    RC_ASSERT(engine::operate(lorimer().model(), p.demand).power.si() <= cool + 1e-6 * std::abs(cool));
}

RC_GTEST_PROP(EngineProperty, MoreBoostNeverGivesLessPower, ()) {
    auto p = *anyPoint();
    p.demand.mixture = 0.085;
    const double less = engine::operate(lorimer().model(), p.demand).power.si();
    p.demand.boost = ManifoldPressure::si(p.demand.boost->si() * 1.03);
    RC_ASSERT(engine::operate(lorimer().model(), p.demand).power.si() >= less - 1e-6 * std::abs(less));
}

RC_GTEST_PROP(EngineProperty, TheManifoldNeverHoldsMoreThanAskedOrThanTheBlowerGives, ()) {
    const auto p = *anyPoint();
    const auto point = engine::operate(lorimer().model(), p.demand);
    RC_ASSERT(point.manifoldPressure <= *p.demand.boost);
    RC_ASSERT(point.manifoldPressure.si() <= engine::fullThrottlePressure(lorimer().model(), p.demand).si() * 1.01);
    RC_ASSERT(std::isfinite(point.power.si()) && point.airFlow.si() > 0 && point.fuelFlow.si() > 0);
    // What is indicated is what comes out and what is lost on the way.
    RC_ASSERT(std::abs(point.indicated - point.friction - point.pumping - point.impeller - point.power.si()) <
              1e-6 * point.indicated);
}

RC_GTEST_PROP(EngineProperty, NoDemandWhateverTrapsTheModel, (double rpm, double boost, double ias, double ratio)) {
    engine::Demand d{Rotation::si(rpm),
                     ManifoldPressure::si(boost),
                     7,
                     air::standardDay(Length{}).at(Length::si(3000)),
                     Speed::si(std::clamp(std::isfinite(ias) ? ias : 0.0, 0.0, 250.0)),
                     std::isfinite(ratio) ? ratio : 0.08};
    if (!std::isfinite(rpm))
        d.rpm = Rotation::si(30);
    if (!std::isfinite(boost))
        d.boost.reset();
    RC_ASSERT(std::isfinite(engine::operate(lorimer().model(), d).power.si()));
}

} // namespace
