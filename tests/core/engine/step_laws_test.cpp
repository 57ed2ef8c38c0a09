// SPDX-License-Identifier: GPL-3.0-or-later
// The laws of one engine's step, one at a time: from a settled state one thing is changed, and what follows is held
// against its lag, its share or its rate reckoned by hand.
#include "air/atmosphere.h"
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include "start/cranking.h"
#include "start/priming.h"
#include "test_data.h"
#include <cmath>
#include <gtest/gtest.h>

namespace amber {
namespace {
using namespace powerplant;
using test::loaded;

constexpr double pascalsPerInHg = 3386.389;

/// One engine of a demo, settled in still standard air at a setting; its step with what the test changes.
struct Rig {
    explicit Rig(const std::string& demo, double rpm, double boost, double metres = 1000.0, double ias = 75.0)
        : aircraft(*loaded(demo).aircraft), plant(aircraft, loaded(demo).sortie->fuelGrade), engine(plant.engine(0)),
          levers(plant.levers().engines[0]) {
        const air::Day day = air::standardDay(Length{});
        around.air = day.at(Length::si(metres));
        around.dewPoint = Temperature::si(180);
        around.ias = Speed::si(ias);
        around.volts = aircraft.notes.start.battery.volts;
        levers.cock = levers.booster = true;
        levers.cutOff = false;
        levers.ignition = Ignition::both;
        levers.coolingFlap = 0.4;
        levers.rpm = rpm / 60.0;
        levers.throttle = boostHeld(boost);
        state = engine.standing(Temperature::si(440), Temperature::si(345));
        state.gallery = 1.0;
        state.fired = 300.0;
        state.oilPressure = aircraft.thermal.oilPressure(Rotation::si(rpm / 60.0), Temperature::si(345)).si();
        state = engine.running(state, levers, around);
        run(3.0);
    }
    EngineReadings step(double seconds = 0.1) {
        const auto out =
            engine.step(state, levers, effects, learnt, around, static_cast<Milliseconds>(seconds * 1000 + 0.5));
        around.now += static_cast<Milliseconds>(seconds * 1000 + 0.5);
        return out;
    }
    EngineReadings run(double seconds) {
        EngineReadings out;
        for (int i = 0; i < static_cast<int>(seconds * 10 + 0.5); ++i)
            out = step();
        return out;
    }
    /// What the cylinders would give at the state's rpm and boost, nothing being wrong.
    [[nodiscard]] engine::OperatingPoint point() const {
        return engine::operate(aircraft.model(), {Rotation::si(state.n), ManifoldPressure::si(state.manifold),
                                                  state.gear, around.air, around.ias, levers.mixture});
    }
    const powerplant::Aircraft& aircraft;
    Powerplant plant;
    const Engine& engine;
    EngineLevers levers;
    Surroundings around;
    EngineState state;
    Effects effects;
    Learnt learnt;
};

// ---------------------------------------------------------------- lags

TEST(StepLaws, AGearOfTheBlowerBitesInEightTenthsOfASecond) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.levers.gear = 1;
    r.run(0.4);
    EXPECT_NEAR(r.state.engaged, 0.55 + 0.45 / 2, 0.01) << "from the slip of a clutch half-way home";
    r.run(0.3);
    EXPECT_LT(r.state.engaged, 0.97);
    r.run(0.2);
    EXPECT_EQ(r.state.engaged, 1.0);
}

TEST(StepLaws, ATurbineRunsUpInFourSeconds) {
    Rig r("wheelwright-height", 2300, 38 * pascalsPerInHg, 6000);
    r.levers.turbo = 0.0;
    r.run(60);
    r.levers.turbo = 1.0;
    const double from = r.state.turbo;
    EXPECT_NEAR(from, 0.0, 1e-3);
    r.run(4.0);
    EXPECT_NEAR(r.state.turbo, 1 - std::exp(-1.0), 0.01);
}

TEST(StepLaws, TheThrottleGoesNoFasterThanAHand) {
    // Six times e a second: from shut, a sixtieth or so of its area, to open in two thirds of a second.
    Rig r("sexton-meadow", 1400, 60000);
    r.levers.throttle = throttleAt(0.0);
    r.run(5.0);
    const double shut = r.state.throttle;
    r.levers.throttle = throttleAt(1.0);
    r.step();
    EXPECT_NEAR(std::log(r.state.throttle / shut), 0.6, 0.02);
    r.run(1.0);
    EXPECT_EQ(r.state.throttle, 1.0);
}

TEST(StepLaws, AManifoldEmptiesOnceATurn) {
    // Filling and emptying of a volume as great as the engine's: one time constant is one turn, not under 0.03 s.
    Rig r("sexton-meadow", 1800, 70000);
    r.levers.throttle = throttleAt(0.5);
    r.run(20);
    const double before = r.state.manifold, turns = r.state.n;
    r.levers.throttle = throttleAt(0.55);
    Rig later = r;
    r.step(0.02);
    later.run(3.0);
    const double share = (r.state.manifold - before) / (later.state.manifold - before);
    const double moved =
        std::min(1.0, 0.02 * 6.0 / (0.05 * std::log(1 / 0.02))); // of the throttle by then, at a stop of 2 %
    EXPECT_NEAR(share / moved, 1 - std::exp(-0.02 * turns), 0.2);
}

TEST(StepLaws, AControlHoldsABoostInFourTenthsAHandInSix) {
    const auto half = [](const std::string& demo, double rpm, double low, double high) {
        Rig r(demo, rpm, low);
        const double from = r.state.manifold;
        r.levers.throttle = boostHeld(high);
        double t = 0;
        while (r.state.manifold < from + (high - from) * (1 - std::exp(-1.0)) && t < 5) {
            r.step(0.02);
            t += 0.02;
        }
        return t;
    };
    ASSERT_TRUE(loaded("farrier-summer").aircraft->notes.engine.boostControl);
    EXPECT_NEAR(half("farrier-summer", 2300, 90e3, 110e3), 0.40, 0.05);
    ASSERT_FALSE(loaded("sexton-meadow").aircraft->notes.engine.boostControl);
    EXPECT_NEAR(half("sexton-meadow", 4000, 60e3, 62e3), 0.60, 0.06);
}

TEST(StepLaws, TheLeverOfABoostControlAsksForABoostInProportion) {
    Rig r("farrier-summer", 2400, 90e3, 0.0);
    double most = 0;
    for (const auto& rating : r.aircraft.notes.ratings)
        most = std::max(most, rating.boost ? rating.boost->si() : 0.0);
    for (const double place : {0.5, 0.6}) {
        r.levers.throttle = throttleAt(place);
        r.run(8.0);
        EXPECT_NEAR(r.state.manifold, 25e3 + place * (most - 25e3), 500) << place;
    }
}

TEST(StepLaws, FuelPressureComesAndGoesInHalfASecond) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double full = r.state.fuelPressure;
    EXPECT_NEAR(full / r.aircraft.notes.heat.fuelPressure.si(), 1.0, 0.01);
    r.levers.cock = false;
    r.run(0.5);
    EXPECT_NEAR(r.state.fuelPressure / full, std::exp(-1.0), 0.01);
}

TEST(StepLaws, WaterIsUnderPressureInAThirdOfASecond) {
    Rig r("collier-high", 2750, 60 * pascalsPerInHg, 0.0);
    r.levers.water = true;
    ASSERT_GT(r.state.manifold, 58 * pascalsPerInHg);
    r.run(0.3);
    EXPECT_NEAR(r.state.waterPressure, (1 - std::exp(-1.0)) * 150e3, 3e3);
    r.run(3.0);
    EXPECT_NEAR(r.state.waterPressure, 150e3, 1e3);
    r.effects.water = false;
    r.run(0.3);
    EXPECT_NEAR(r.state.waterPressure, std::exp(-1.0) * 150e3, 3e3);
    // Armed it waits for the boost that needs it: at the dry take-off's there is none.
    Rig dry("collier-high", 2750, 55 * pascalsPerInHg, 0.0);
    dry.levers.water = true;
    dry.run(3.0);
    EXPECT_NEAR(dry.state.manifold, 55 * pascalsPerInHg, 1e3);
    EXPECT_LT(dry.state.waterPressure, 1e3);
}

TEST(StepLaws, TheIdleStopHoldsAWarmEngineUnderItsSlowestSmoothRpm) {
    for (const char* demo : {"lorimer-spring", "tinker-damp", "sexton-meadow"}) {
        Rig r(demo, 1500, 60e3, 0, 0);
        r.levers.rpm = 100;
        r.levers.throttle = throttleAt(0.0);
        r.run(60);
        ASSERT_TRUE(r.state.firing) << demo;
        const auto& n = r.aircraft.notes;
        const double slow = n.start.slowRpm.value_or(n.phase(Phase::start).rpm.value_or(Rotation::si(12))).si();
        EXPECT_NEAR(r.state.n / slow, 0.85, 0.05) << demo << ": as a mechanic sets it";
    }
}

TEST(StepLaws, AHandThatHoldsAnRpmSeesWhereTheNeedleIsGoing) {
    Rig r("lorimer-spring", 2400, 60e3, 0, 0);
    r.levers.rpm = 100;
    r.levers.throttle = rpmHeld(900 / 60.0);
    r.run(40);
    EXPECT_NEAR(r.state.n * 60, 900, 10);
    r.levers.throttle = rpmHeld(1500 / 60.0);
    double most = 0;
    for (int i = 0; i < 400; ++i) {
        r.step();
        most = std::max(most, r.state.n * 60);
    }
    EXPECT_NEAR(r.state.n * 60, 1500, 15);
    EXPECT_LT(most, 1575) << "it does not swing past by a twentieth";
}

TEST(StepLaws, WhatStandsHasTheOutsidesPressure) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg, 2000);
    r.state.n = 0.0;
    r.state.firing = false;
    r.levers.ignition = Ignition::off;
    r.around.ias = Speed{};
    r.state.manifold = 60e3;
    r.step();
    EXPECT_NEAR(r.state.manifold, r.around.air.pressure.si(), 1e-6);
    EXPECT_NEAR(r.state.wideOpen, r.around.air.pressure.si(), 0.05 * r.around.air.pressure.si());
}

TEST(StepLaws, TheLeverStandsByTheLogarithmOfTheOpening) {
    const Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    double shut = 1.0;
    while (r.engine.throttlePlace(shut) > 1e-6 && shut > 1e-4)
        shut *= 0.99;
    EXPECT_EQ(r.engine.throttlePlace(1.0), 1.0);
    EXPECT_NEAR(r.engine.throttlePlace(std::sqrt(shut)), 0.5, 0.01)
        << "half-way where the opening is the root of the stop's";
    EXPECT_EQ(r.engine.throttlePlace(0.5 * shut), 0.0);
}

TEST(StepLaws, ABearingThatIsGoneTakesTenMinutesToSeize) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.effects.bearing = 1.0;
    const double before = r.state.bearing;
    r.run(30.0);
    EXPECT_NEAR(r.state.bearing - before, 30 / 600.0, 0.01);
}

// ---------------------------------------------------------------- power and what takes it

/// Of what the cylinders give, how much a fault takes: the shaft's loss in one step over the indicated power.
double taken(Rig r, const std::function<void(Rig&)>& change) {
    Rig sound = r;
    change(r);
    const double lost = sound.step().shaft - r.step().shaft;
    return lost / r.point().indicated;
}

TEST(StepLaws, EveryDamageTakesItsShareOfTheIndicatedPower) {
    const Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.levers.ignition = Ignition::left; }), 0.07, 0.004) << "one plug of two";
    EXPECT_NEAR(taken(r, [](Rig& x) { x.effects.leftMagneto = 0; }), 0.07, 0.004);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.effects.deadCylinders = 1 / 14.0; }), 1.2 / 14, 0.004)
        << "the dead one is dragged";
    EXPECT_NEAR(taken(r, [](Rig& x) { x.effects.ring = 1; }), 0.25, 0.01);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.state.rings = 0.5; }), 0.125, 0.006);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.effects.late = 1; }), 0.18, 0.008);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.effects.preIgnition = 1; }), 0.35, 0.015);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.state.fouledLeft = 0.5; }), 0.035, 0.003) << "half the plugs of one magneto";
    EXPECT_NEAR(taken(r, [](Rig& x) { x.levers.ignition = Ignition::off; }), 1.0, 0.02) << "and none without a spark";
}

TEST(StepLaws, ABearingThatGoesBrakesByHalfTheFriction) {
    const Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double friction = r.point().friction / r.point().indicated;
    EXPECT_NEAR(taken(r, [](Rig& x) { x.effects.bearing = 1; }), 0.5 * friction, 0.05 * friction);
    EXPECT_NEAR(taken(r, [](Rig& x) { x.state.bearing = 0.5; }), friction, 0.1 * friction);
}

TEST(StepLaws, SeizedItStopsInSeconds) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.state.bearing = 1.0;
    const double n = r.state.n;
    r.run(1.0);
    EXPECT_NEAR(n - r.state.n, 8.0, 0.9) << "eight turns a second less each second";
    r.run(5.0);
    EXPECT_EQ(r.state.n, 0.0);
    EXPECT_FALSE(r.state.firing);
}

TEST(StepLaws, ALeakOfTheInductionLetsAnEighthOfTheDifferenceIn) {
    Rig r("lorimer-spring", 2000, 20 * pascalsPerInHg);
    r.effects.inductionLeak = 1.0;
    const auto out = r.run(6.0);
    const double outside = r.around.air.pressure.si(), held = 20 * pascalsPerInHg;
    EXPECT_NEAR(r.state.manifold - held, 0.12 * (outside - held), 0.012 * (outside - held));
    // A quarter of what is missing to the outside's pressure leans it.
    Rig sound("lorimer-spring", 2000, r.state.manifold);
    const auto whole = sound.run(1.0);
    const double ratio = out[Gauge::fuelFlow] / r.state.airFlow / (whole[Gauge::fuelFlow] / sound.state.airFlow);
    EXPECT_NEAR(ratio, 1 - 0.25 * (1 - r.state.manifold / outside), 0.006);
}

TEST(StepLaws, IceNarrowsThePassageAndEnriches) {
    Rig r("sexton-meadow", 1800, 200e3);
    const auto open = r.run(1.0);
    const double wide = r.state.manifold, before = open[Gauge::fuelFlow] / r.state.airFlow;
    r.state.ice = 0.4;
    r.state.manifold = wide * (1 - 0.65 * 0.4);
    const auto iced = r.step();
    EXPECT_NEAR(iced[Gauge::fuelFlow] / r.state.airFlow / before, 1 + 0.35 * 0.4, 0.01);
    r.state.ice = 0.4;
    r.run(2.0);
    EXPECT_NEAR(r.state.manifold / r.state.wideOpen, 1 - 0.65 * r.state.ice, 0.02);
}

// ---------------------------------------------------------------- fuel

TEST(StepLaws, TheFilmOnTheWallsIsAquinosTwoParameters) {
    // X is a fifth, and half of what is not vapour at the charge's temperature besides; τ is 0.4 s at 60 °C and e times
    // that for each 40 K colder. By the notes of a gasoline's curve vapour is 1/(1 + exp(−(T − 14)/16)).
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const auto p = r.point();
    const double celsius = p.chargeTemperature.si() - 273.15;
    const double x = 0.2 + 0.5 * (1 - 1 / (1 + std::exp(-(celsius - 14) / 16)));
    const double tau = 0.4 * std::exp((60 - celsius) / 40);
    EXPECT_NEAR(r.state.wall, x * p.fuelFlow.si() * tau, 0.04 * r.state.wall);
    // Shut off, what is on them comes off with that time.
    const double wall = r.state.wall;
    r.levers.cutOff = true;
    r.step();
    EXPECT_NEAR(r.state.wall / wall, std::exp(-0.1 / tau), 0.01);
}

TEST(StepLaws, ThePrimerGivesItsDosesWhichEvaporateAndDrain) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const Temperature cold = Temperature::si(283.15);
    r.state = r.engine.standing(cold, cold);
    r.levers.primer = 0.5;
    r.levers.ignition = Ignition::off;
    r.levers.throttle = throttleAt(0.0);
    r.levers.cutOff = true; // else its pump fills it through the open jets
    r.around.ias = Speed{};
    r.run(4.0);
    EXPECT_NEAR(r.state.primed / r.engine.doseMass(), 2.0, 0.03) << "half a dose a second";
    EXPECT_NEAR(r.state.taken / r.engine.doseMass(), 2.0, 0.01);
    r.levers.primer = 0.0;
    const double tau = start::evaporationTime(cold).si(), vapour = r.state.vapour, primed = r.state.primed;
    r.run(10.0);
    EXPECT_NEAR((1 - r.state.vapour) / (1 - vapour), std::exp(-10 / tau), 0.01);
    EXPECT_NEAR(r.state.primed / primed, std::exp(-10 / start::drainTime(cold).si()), 0.001) << "it runs out";
    EXPECT_NEAR(r.state.spilled / r.engine.doseMass(), 2.0 - r.state.primed / r.engine.doseMass(), 0.02);
}

TEST(StepLaws, TheNotesDoseWhollyEvaporatedIsTheBestMixtureToFire) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const Temperature cold = Temperature::si(278.15);
    r.state = r.engine.standing(cold, cold);
    r.around.ias = Speed{};
    r.levers.ignition = Ignition::off;
    r.levers.cock = false;
    const start::Priming priming(r.aircraft.notes.start);
    const double wanted = priming.wanted(cold, r.around.air.pressure);
    r.state.primed = wanted * r.engine.doseMass();
    r.state.vapour = 1.0;
    r.step(0.01);
    EXPECT_NEAR(r.state.fuelAir, 0.075, 0.0005);
    r.state.primed = 0.5 * wanted * r.engine.doseMass();
    r.state.vapour = 0.4;
    r.step(0.01);
    EXPECT_NEAR(r.state.fuelAir, 0.075 * 0.5 * 0.4, 0.0005);
    r.learnt.primeDose = 1.25;
    r.step(0.01);
    EXPECT_NEAR(r.state.fuelAir, 0.075 * 0.5 * 0.4 / 1.25, 0.0005) << "an engine that wants a quarter more";
    // Hot it wants none, and six tenths of a dose are the best mixture all the same: that much air is in the cylinders.
    Rig hot("lorimer-spring", 2000, 32 * pascalsPerInHg, 0.0);
    hot.state = hot.engine.standing(Temperature::si(390), Temperature::si(340));
    hot.around.ias = Speed{};
    hot.levers.ignition = Ignition::off;
    hot.levers.cock = false;
    hot.state.primed = 0.6 * hot.engine.doseMass();
    hot.state.vapour = 1.0;
    hot.step(0.01);
    EXPECT_NEAR(hot.state.fuelAir, 0.075, 0.001);
}

TEST(StepLaws, HydraulicsHaveTheirPressureFromAQuarterOfTheRatedRpm) {
    Rig r("farrier-summer", 2300, 100e3);
    const auto at = [&](double share) {
        r.state.n = share * r.aircraft.model().ratedRpm;
        r.state.quickens = 0;
        return r.step(0.001)[Gauge::hydraulicPressure];
    };
    EXPECT_NEAR(at(0.5), 7.0e6, 1e4);
    EXPECT_NEAR(at(0.125), 3.5e6, 0.1e6);
}

TEST(StepLaws, ABoosterPumpGivesEightyFiveHundredthsGravitySix) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.effects.fuelPump = 0.0;
    r.levers.booster = false;
    r.run(6.0);
    const double alone = r.state.fuelPressure / r.aircraft.notes.heat.fuelPressure.si();
    EXPECT_LT(alone, 0.2) << "a dead pump lets hardly anything through";
    r.levers.booster = true;
    r.run(6.0);
    EXPECT_NEAR(r.state.fuelPressure / r.aircraft.notes.heat.fuelPressure.si(), 0.85, 0.01);
    r.effects.vapour = 0.5;
    r.run(6.0);
    EXPECT_NEAR(r.state.fuelPressure / r.aircraft.notes.heat.fuelPressure.si(), 0.85 * 0.95, 0.015)
        << "under pressure hardly any vapour";
}

TEST(StepLaws, ALeakTakesItsFuelAndItsPressure) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double before = r.state.spilled, pressure = r.state.fuelPressure;
    r.effects.fuelLeak = 0.03;
    r.run(10.0);
    const double share = 1 - 8 * 0.03;
    EXPECT_NEAR(r.state.fuelPressure / pressure, share, 0.01) << "an eightfold: 24 % at the worst";
    EXPECT_NEAR(r.state.spilled - before, 0.03 * 10 * 0.85, 0.02)
        << "the booster feeds it with 0.85 of its pressure at least";
}

// ---------------------------------------------------------------- starter

TEST(StepLaws, AStarterGrowsHotInThreeTriesAndCoolsInTenMinutes) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const Temperature warm = Temperature::si(300);
    r.state = r.engine.standing(warm, warm);
    r.around.ias = Speed{};
    r.levers.ignition = Ignition::off;
    r.levers.mesh = true;
    const double most = r.aircraft.notes.start.crankMost.si();
    r.run(most);
    EXPECT_NEAR(r.state.starterHeat, 1 / 3.0 - most / 600, 0.02) << "a third of what it may, less what it gave off";
    r.levers.mesh = false;
    const double hot = r.state.starterHeat;
    r.run(60);
    EXPECT_NEAR(hot - r.state.starterHeat, 0.1, 0.002);
    // It cannot turn a locked engine: more current, three times the heat.
    const double free = [&] {
        Rig f = r;
        f.levers.mesh = true;
        return f.step().starterAmperes;
    }();
    r.effects.locked = true;
    r.levers.mesh = true;
    const double before = r.state.starterHeat;
    const auto stalled = r.run(1.0);
    EXPECT_NEAR(stalled.starterAmperes / free, 1.6, 0.01);
    EXPECT_NEAR(r.state.starterHeat - before, 1.0 / most - 1 / 600.0, 0.003);
    EXPECT_EQ(r.state.n, 0.0);
}

TEST(StepLaws, AStarterTurnsDownToFourTenthsOfTheVolts) {
    const auto turns = [](double share) {
        Rig r("farrier-summer", 2300, 100e3);
        r.state = r.engine.standing(Temperature::si(300), Temperature::si(300));
        r.around.ias = Speed{};
        r.around.volts = share * r.aircraft.notes.start.battery.volts;
        r.levers.ignition = Ignition::off;
        r.levers.mesh = true;
        r.run(1.0);
        return r.state.n > 0;
    };
    EXPECT_TRUE(turns(0.45));
    EXPECT_FALSE(turns(0.35));
}

TEST(StepLaws, AWheelIsRunUpOnSixTenthsOfTheCurrentInItsSeconds) {
    Rig r("chandler-haven", 2000, 30 * pascalsPerInHg);
    ASSERT_EQ(r.aircraft.notes.start.starter.kind, StarterKind::inertia);
    r.state = r.engine.standing(Temperature::si(300), Temperature::si(300));
    r.around.ias = Speed{};
    r.levers.ignition = Ignition::off;
    r.levers.energise = true;
    start::CrankConditions c;
    c.oil = Temperature::si(300);
    c.supply = start::Supply::battery;
    c.bladesPerRevolution = start::bladesPerRevolution(r.aircraft.notes);
    const auto crank = start::crank(r.aircraft.notes.start, c);
    EXPECT_NEAR(r.step().starterAmperes, 0.6 * crank.amperes, 0.01 * crank.amperes);
    r.run(3.9);
    EXPECT_NEAR(r.state.wheel, 4.0 / crank.energise.si(), 0.01);
    r.levers.energise = false;
    r.levers.mesh = true;
    r.state.wheel = 1.0;
    r.run(3.0);
    EXPECT_NEAR(r.state.wheel, 1 - 3 / 15.0, 0.01) << "a quarter of a minute is in it";
}

TEST(StepLaws, AMeterBeforeALeakCountsItToo) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.effects.fuelLeak = 0.02;
    const auto out = r.run(5.0);
    Rig sound("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const auto whole = sound.run(5.0);
    const double density = r.aircraft.notes.fuel.density,
                 share = r.state.fuelPressure / r.aircraft.notes.heat.fuelPressure.si();
    EXPECT_NEAR((out[Gauge::fuelFlow] - whole[Gauge::fuelFlow]) * density, 0.02 * share, 0.001);
}

TEST(StepLaws, AStarvedEngineDrawsTwoAndAHalfTimesThePressureThatIsLeft) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double whole = r.step()[Gauge::fuelFlow];
    r.effects.fuelPump = 0.05;
    r.levers.booster = false;
    EngineReadings out;
    for (int i = 0; i < 30; ++i)
        out = r.step();
    const double left = r.state.fuelPressure / r.aircraft.notes.heat.fuelPressure.si();
    ASSERT_LT(left, 0.35);
    ASSERT_GT(r.state.bowl, 0.0);
    ASSERT_LT(r.state.manifold, r.state.wideOpen);
    EXPECT_NEAR(out[Gauge::fuelFlow] / whole, std::min(1.0, 2.5 * left), 0.06);
}

TEST(StepLaws, AStrideLeavesTheStateOfItsPoint) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    auto s = r.state;
    r.levers.throttle = boostHeld(28 * pascalsPerInHg);
    const auto settled = r.engine.settle(r.levers, r.around);
    const double taken = s.taken;
    r.engine.stride(s, r.levers, r.around, 60'000);
    EXPECT_NEAR(s.airFlow, settled.point.airFlow.si(), 1e-9);
    EXPECT_NEAR(s.fuelAir, settled.point.fuelAirRatio, 1e-9);
    EXPECT_NEAR(s.manifold, 28 * pascalsPerInHg, 1);
    EXPECT_NEAR(s.wideOpen, settled.point.wideOpen.si(), 1e-6);
    EXPECT_NEAR(s.taken - taken, 60 * settled.point.fuelFlow.si(), 1e-9);
    EXPECT_NEAR(s.bowl / r.state.bowl, 1.0, 0.02) << "the bowl is full";
    EXPECT_NEAR(s.fired - r.state.fired, 60, 1e-9);
}

TEST(StepLaws, AStandingStrideLetsThePrimeEvaporateAndDrain) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const Temperature cold = Temperature::si(283.15);
    r.state = r.engine.standing(cold, cold);
    r.state.primed = 3 * r.engine.doseMass();
    r.state.vapour = 0.2;
    r.state.gallery = 1.0;
    r.levers.ignition = Ignition::off;
    r.around.ias = Speed{};
    r.around.air.temperature = cold;
    const double tau = start::evaporationTime(cold).si();
    r.engine.stride(r.state, r.levers, r.around, 45'000);
    EXPECT_NEAR(r.state.vapour, 1 - 0.8 * std::exp(-45 / tau), 0.01);
    EXPECT_NEAR(r.state.primed / r.engine.doseMass(), 3 * std::exp(-45 / start::drainTime(cold).si()), 0.01);
    EXPECT_NEAR(r.state.spilled / r.engine.doseMass(), 3 * (1 - std::exp(-45 / start::drainTime(cold).si())), 0.01);
    EXPECT_NEAR(r.state.gallery, 1 - 45 / 3600.0, 1e-6) << "the way to the gauge drains in an hour";
    EXPECT_EQ(r.state.n, 0.0);
}

TEST(StepLaws, WaterLastsTenMinutesOfTheRating) {
    Rig r("collier-high", 2600, 45 * pascalsPerInHg);
    r.levers.water = true;
    const double before = r.state.water;
    ASSERT_GT(before, 1.0);
    const double taken = r.state.taken;
    r.engine.stride(r.state, r.levers, r.around, 60'000);
    EXPECT_NEAR((before - r.state.water) / (r.state.taken - taken), 0.5, 1e-6) << "half as much water as fuel";
}

// ---------------------------------------------------------------- blades

TEST(StepLaws, BladesFeatherInTheirSecondsAndDrawEightyAmperes) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double pitch = r.state.pitch;
    r.levers.feather = true;
    r.levers.cutOff = true;
    double t = 0;
    EXPECT_NEAR(r.step().feathering, 80.0, 1e-9);
    for (t = 0.1; r.state.pitch < 0.985 * 14 && t < 60; t += 0.1)
        r.step();
    EXPECT_NEAR(t, std::log(0.985 * 14 / pitch) / 0.33, 0.2) << "a third of the pitch each second";
    r.run(2.0);
    EXPECT_EQ(r.step().feathering, 0.0) << "home, the pump is cut";
    r.levers.feather = false;
    r.run(2.0);
    EXPECT_NEAR(std::log(14 / r.state.pitch), 0.66, 0.02);
    // Under half the battery's volts nothing moves.
    r.around.volts = 0.40 * r.aircraft.notes.start.battery.volts;
    const double held = r.state.pitch;
    r.run(2.0);
    EXPECT_EQ(r.state.pitch, held);
}

TEST(StepLaws, AGovernorMovesBladesAThirdInASecond) {
    Rig r("lorimer-spring", 2400, 38 * pascalsPerInHg);
    const double pitch = r.state.pitch;
    r.levers.rpm = 1500 / 60.0;
    r.run(0.5);
    EXPECT_NEAR(r.state.pitch / pitch, std::pow(1.035, 5), 0.02) << "35 hundredths a second at most";
    r.effects.runaway = 1.0;
    const double coarse = r.state.pitch;
    r.run(0.5);
    EXPECT_NEAR(r.state.pitch / coarse, std::pow(0.965, 5), 0.02) << "and back as fast";
    EXPECT_TRUE(r.step().signs.propellerLeverDead);
}

// ---------------------------------------------------------------- oil and wear

TEST(StepLaws, OilIsUsedAtItsShareOfTheFuelAndTenfoldPastBadRings) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double fuel = r.point().fuelFlow.si(), before = r.state.oilMass;
    r.run(60);
    EXPECT_NEAR((before - r.state.oilMass) / (fuel * 60), 0.008, 0.0004) << "eight grams a kilogram";
    r.effects.ring = 1.0;
    const double then = r.state.oilMass;
    const auto out = r.run(10);
    EXPECT_NEAR((then - r.state.oilMass) / (out[Gauge::fuelFlow] * r.aircraft.notes.fuel.density * 10), 0.072, 0.004);
}

TEST(StepLaws, OilPressureIsWhatPumpValveAndBearingLeave) {
    const Rig sound("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const double rated = sound.aircraft.model().ratedRpm;
    const auto share = [&](const std::function<void(Effects&)>& change) {
        Rig r = sound, s = sound;
        change(r.effects);
        r.run(3.0);
        s.run(3.0);
        return r.state.oilPressure / s.state.oilPressure;
    };
    EXPECT_NEAR(share([](Effects& e) { e.oilPump = 0.6; }), 0.6, 0.01);
    EXPECT_NEAR(share([](Effects& e) { e.bearing = 0.5; }), 1 - 0.55 * 0.5, 0.04);
    EXPECT_NEAR(share([](Effects& e) { e.oilRelief = 0.45; }), 0.45 * std::min(1.0, 2000 / 60.0 / rated + 0.25), 0.01);
    // From three quarters of the rated rpm on it is as much as it is.
    Rig fast("lorimer-spring", 60 * rated, 32 * pascalsPerInHg), open = fast;
    open.effects.oilRelief = 0.45;
    fast.run(3.0);
    open.run(3.0);
    EXPECT_NEAR(open.state.oilPressure / fast.state.oilPressure, 0.45, 0.01);
    // It follows in four tenths of a second.
    Rig r = sound;
    const double before = r.state.oilPressure;
    r.effects.oilPump = 0.0;
    r.run(0.4);
    EXPECT_NEAR(r.state.oilPressure / before, std::exp(-1.0), 0.02);
}

TEST(StepLaws, LittleOilIsFedInGulpsAndNoneNotAtAll) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    Rig whole = r;
    whole.run(3.0);
    r.state.oilMass = 0.075 * r.engine.oilCapacity(); // half of what the pump needs to draw no air
    double least = 1e9, most = 0;
    for (int i = 0; i < 80; ++i) {
        r.state.oilMass = 0.075 * r.engine.oilCapacity();
        r.step();
        if (i > 20) {
            least = std::min(least, r.state.oilPressure);
            most = std::max(most, r.state.oilPressure);
        }
    }
    EXPECT_NEAR(most / whole.state.oilPressure, 0.5, 0.05);
    EXPECT_NEAR(least / whole.state.oilPressure, 0.5 * 0.7, 0.07);
    r.state.oilMass = 0.0;
    r.run(3.0);
    EXPECT_LT(r.state.oilPressure / whole.state.oilPressure, 0.01);
}

TEST(StepLaws, WithoutPressureABearingLastsAMinuteAndAQuarterAtRatedRpm) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.effects.oilPump = 0.0;
    r.run(5.0);
    const double before = r.state.bearing;
    r.run(10.0);
    EXPECT_NEAR(r.state.bearing - before, 10 / 75.0 * r.state.n / r.aircraft.model().ratedRpm, 0.01);
}

TEST(StepLaws, KnockThatLastsIsRememberedTenSecondsAndTakesTheRingsInFourMinutes) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.effects.detonation = 1.0;
    r.levers.throttle = boostHeld(50 * pascalsPerInHg);
    r.run(2.0);
    r.state.knocking = 1.0;
    const double knock = r.step().knock;
    const double before = r.state.knocking, rings = r.state.rings;
    r.step();
    EXPECT_NEAR(r.state.knocking, knock + (before - knock) * std::exp(-0.01), 0.01);
    EXPECT_NEAR(r.state.rings - rings, (r.state.knocking - 0.3) / 0.7 * 0.1 / 240, 2e-5);
    r.effects = {};
    r.levers.throttle = boostHeld(25 * pascalsPerInHg);
    r.run(3.0);
    const double left = r.state.knocking;
    r.run(10.0);
    EXPECT_NEAR(r.state.knocking / left, std::exp(-1.0), 0.01);
}

TEST(StepLaws, PlugsFoulInAnHourOfSlowIdlingAndBurnCleanInSeconds) {
    Rig r("lorimer-spring", 2400, 20 * pascalsPerInHg, 0, 0);
    r.levers.throttle = rpmHeld(650 / 60.0);
    r.run(40);
    r.levers.byHand = 0.09;
    r.run(1);
    ASSERT_TRUE(r.state.firing);
    ASSERT_LT(r.state.n, r.aircraft.notes.warmUp.leastRpm ? r.aircraft.notes.warmUp.leastRpm->si() : 14.0);
    const double before = r.state.fouledLeft;
    r.run(60);
    EXPECT_NEAR(r.state.fouledLeft - before, 0.6 * 60 / 1800, 0.002) << "three fifths in half an hour";
    const Rating& rated = *r.aircraft.notes.rating(r.aircraft.notes.phase(Phase::takeOff).rating);
    Rig hard("lorimer-spring", rated.rpm.si() * 60, rated.boost->si(), 0.0);
    hard.state.fouledRight = 0.5;
    hard.run(4.0);
    EXPECT_NEAR(hard.state.fouledRight, 0.5 - 4 / 29.0, 0.02) << "half of them in a quarter of a minute at full power";
    Rig cruise("lorimer-spring", 1800, 26 * pascalsPerInHg);
    cruise.state.fouledRight = 0.5;
    cruise.run(4.0);
    EXPECT_EQ(cruise.state.fouledRight, 0.5);
    cruise.effects.metering = 1.3;
    cruise.run(60.0);
    EXPECT_NEAR(cruise.state.fouledLeft, 0.15 * 60 / 1800, 0.001) << "too rich in the air: a quarter as fast";
}

TEST(StepLaws, IceGrowsByTheWaterOfItsAir) {
    // Half of a passage for each kilogram of ice, of an engine that takes a kilogram of air a second; its rated air is
    // the fuel of its richest rating over 0.085.
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    double fuel = 0;
    for (const auto& rating : r.aircraft.notes.ratings)
        fuel = std::max(fuel, engine::operate(r.aircraft.model(),
                                              {rating.rpm, rating.boost, 0, air::standardDay(Length{}).at(Length{}),
                                               Speed{}, rating.mixture})
                                  .fuelFlow.si());
    r.effects.iceWater = 12.0;
    r.run(10.0);
    EXPECT_NEAR(r.state.ice, 12e-3 * r.state.airFlow / (fuel / 0.085) * 0.5 * 10, 0.03 * r.state.ice);
    // Half of full heat stops it.
    r.levers.hotAir = 0.55;
    const double before = r.state.ice;
    r.run(1.0);
    EXPECT_LT(r.state.ice, before);
    r.levers.hotAir = 0.45;
    const double then = r.state.ice;
    r.run(1.0);
    EXPECT_GT(r.state.ice, then);
}

TEST(StepLaws, IceMeltsInSecondsUnderHeatAndInMinutesStanding) {
    Rig r("sexton-meadow", 1800, 70e3);
    r.state.ice = 0.5;
    r.levers.hotAir = 1.0;
    r.run(5.0);
    // With a time of 12 s, and the last of it at a two-thousandth a second.
    EXPECT_NEAR(r.state.ice, 0.5 * std::exp(-5 / 12.0) - 0.5e-3 * 5, 0.002);
    r.state = r.engine.standing(Temperature::si(300), Temperature::si(300));
    r.state.ice = 0.5;
    r.around.ias = Speed{};
    r.levers.ignition = Ignition::off;
    r.run(12.0);
    EXPECT_NEAR(0.5 - r.state.ice, 0.1, 0.002);
}

// ---------------------------------------------------------------- heat

TEST(StepLaws, FaultsHeatHeadsAndOilByTheirShares) {
    const Rig sound("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const auto drive = [&](const Rig& r) {
        auto d = r.engine.drive(r.point(), r.state.n, r.levers, r.around);
        return d;
    };
    /// K that a second of the same gives, where heat in or out is multiplied.
    const auto expected = [&](double metalIn, double metalOut, double oilIn, double oilOut) {
        auto f = sound.aircraft.thermal.forcing(drive(sound));
        f.metalIn *= metalIn;
        f.metalOut *= metalOut;
        f.oilIn *= oilIn;
        f.oilOut *= oilOut;
        return sound.aircraft.thermal.after(
            {Temperature::si(sound.state.headOrCoolant), Temperature::si(sound.state.oil)}, f, Duration::si(0.1));
    };
    const auto base = expected(1, 1, 1, 1);
    const auto got = [&](const std::function<void(Rig&)>& change) {
        Rig r = sound, s = sound;
        change(r);
        r.step();
        s.step();
        return std::pair{r.state.headOrCoolant - s.state.headOrCoolant, r.state.oil - s.state.oil};
    };
    const auto near = [&](const std::pair<double, double>& d, const heat::Temperatures& e, const char* what) {
        const double head = e.headOrCoolant.si() - base.headOrCoolant.si(), oil = e.oil.si() - base.oil.si();
        EXPECT_NEAR(d.first, head, 0.08 * std::abs(head) + 4e-4) << what;
        EXPECT_NEAR(d.second, oil, 0.08 * std::abs(oil) + 4e-4) << what;
    };
    near(got([](Rig& r) { r.effects.bearing = 1; }), expected(1, 1, 2.2, 1), "bearing");
    near(got([](Rig& r) { r.effects.ring = 1; }), expected(1, 1, 1 + 1.2 * 0.6, 1), "ring");
    near(got([](Rig& r) { r.effects.late = 1; }), expected(1.12, 1, 1, 1), "late");
    near(got([](Rig& r) { r.effects.preIgnition = 1; }), expected(1.9, 1, 1, 1), "pre-ignition");
    near(got([](Rig& r) { r.effects.oilCooler = 0.3; }), expected(1, 1, 1, 0.3), "clogged");
    near(got([](Rig& r) { r.effects.congealed = 1; }), expected(1, 1, 1, 0.05), "congealed, its flap open");
    Rig half = sound;
    half.levers.oilCooler = 0.5;
    auto f = sound.aircraft.thermal.forcing(drive(half));
    const auto free = sound.aircraft.thermal.after(
        {Temperature::si(half.state.headOrCoolant), Temperature::si(half.state.oil)}, f, Duration::si(0.1));
    f.oilOut *= 1 - (0.45 + 0.5 * 0.5);
    const auto thick = sound.aircraft.thermal.after(
        {Temperature::si(half.state.headOrCoolant), Temperature::si(half.state.oil)}, f, Duration::si(0.1));
    Rig congealed = half;
    congealed.effects.congealed = 1;
    half.step();
    congealed.step();
    EXPECT_NEAR((congealed.state.oil - half.state.oil) / (thick.oil.si() - free.oil.si()), 1.0, 0.04)
        << "its flap half-way, it lets three tenths through";
    near(got([](Rig& r) { r.state.oilMass *= 0.3; }), expected(1, 1, 1, 0.5), "three tenths of the oil");
}

TEST(StepLaws, LostCoolantCarriesLessHeat) {
    Rig r("farrier-summer", 2300, 100e3);
    ASSERT_EQ(r.aircraft.thermal.cooling(), Cooling::liquid);
    r.state.headOrCoolant = 375;
    r.effects.coolantLeak = 1 / 120.0;
    const double full = r.state.coolant;
    r.run(6.0);
    EXPECT_NEAR(full - r.state.coolant, 0.05, 0.003) << "all of it in two minutes";
    r.state.coolant = 0.05;
    const auto dry = r.step();
    const double air = r.around.air.temperature.si(), truly = r.state.headOrCoolant;
    EXPECT_NEAR(dry[Gauge::coolantTemperature] - air, (truly - air) * (0.3 + 0.7 * r.state.coolant / 0.15), 0.5)
        << "a bulb half dry reads between air and metal";
}

TEST(StepLaws, TheGasIsHottestAtEightHundredthsAndColderBySixtyFourDegreesTwoOff) {
    const Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    auto d = r.engine.drive(r.point(), r.state.n, r.levers, r.around);
    const auto gas = [&](double ratio) {
        d.fuelAirRatio = ratio;
        return r.aircraft.thermal.forcing(d).gas - 273.15;
    };
    EXPECT_NEAR(gas(0.08), 1050, 0.1);
    EXPECT_NEAR(gas(0.10), 1050 - 64, 0.1);
    EXPECT_NEAR(gas(0.06), 1050 - 64, 0.1);
    // Heat into the heads goes as the 0.62th power of the air, into coolant as the 0.65th.
    const auto in = [](const char* demo, double share) {
        const auto& a = *loaded(demo).aircraft;
        const Rig own(demo, 2000, 90e3);
        auto drive = own.engine.drive(own.point(), own.state.n, own.levers, own.around);
        const double whole = a.thermal.forcing(drive).metalIn;
        drive.airFlow = MassFlow::si(drive.airFlow.si() * share);
        return a.thermal.forcing(drive).metalIn / whole;
    };
    EXPECT_NEAR(in("lorimer-spring", 0.5), std::pow(0.5, 0.62), 1e-6);
    EXPECT_NEAR(in("farrier-summer", 0.5), std::pow(0.5, 0.65), 1e-6);
}

TEST(StepLaws, OilPressureComesToItsReliefWithTheTurnsAndTheRootOfTheViscosity) {
    const auto& a = *loaded("lorimer-spring").aircraft;
    const double relief = a.notes.heat.oilRelief.si(), rated = flight::ratingFor(a.notes, {}, Phase::climb).rpm.si();
    const auto share = [&](double turns) {
        return a.thermal.oilPressure(Rotation::si(turns * rated), Temperature::of(70, units::celsius)).si() / relief;
    };
    EXPECT_NEAR(share(1.0), 1 - std::exp(-3.2), 1e-4);
    EXPECT_NEAR(share(0.4), 1 - std::exp(-1.28), 1e-4);
    EXPECT_NEAR(share(0.2), 1 - std::exp(-0.64), 1e-4);
    // As thin as a quarter, it presses as at half the turns.
    EXPECT_NEAR(a.thermal.oilPressure(Rotation::si(0.8 * rated), Temperature::of(70, units::celsius), 0.25).si() /
                    relief,
                share(0.4), 1e-4);
    EXPECT_GT(a.thermal.oilPressure(Rotation::si(rated), Temperature::of(-20, units::celsius)).si(), 1.2 * relief)
        << "cold it passes the valve";
    EXPECT_LT(a.thermal.oilPressure(Rotation::si(rated), Temperature::of(-20, units::celsius)).si(), 1.26 * relief);
}

// ---------------------------------------------------------------- signs

TEST(Signs, EachTroubleShakesByItsOwnMeasure) {
    const auto shake = [](const std::function<void(Rig&)>& change) {
        Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
        change(r);
        return r.step().signs.shake;
    };
    EXPECT_NEAR(shake([](Rig&) {}), 0.0, 1e-9);
    EXPECT_NEAR(shake([](Rig& r) { r.effects.deadCylinders = 1 / 14.0; }), 3 / 14.0, 0.005);
    EXPECT_NEAR(shake([](Rig& r) { r.effects.preIgnition = 0.4; }), 0.2, 0.005);
    EXPECT_NEAR(shake([](Rig& r) { r.effects.bearing = 0.5; }), 0.225, 0.01);
    EXPECT_NEAR(shake([](Rig& r) { r.effects.ring = 1.0; }), 0.25, 0.01);
    EXPECT_NEAR(shake([](Rig& r) { r.effects.metering = 1.3; }), 0.25, 0.06) << "and what no longer burns";
    EXPECT_NEAR(shake([](Rig& r) { r.state.fouledRight = 0.5; }), 0.06, 0.005) << "with both magnetos hardly felt";
    EXPECT_NEAR(shake([](Rig& r) {
                    r.state.fouledRight = 0.5;
                    r.levers.ignition = Ignition::right;
                }),
                0.45, 0.01)
        << "on that one alone";
    EXPECT_NEAR(shake([](Rig& r) {
                    r.effects.deadLeads = 1 / 14.0;
                    r.levers.ignition = Ignition::right;
                }),
                0.9 * 4 / 14, 0.01);
    EXPECT_NEAR(shake([](Rig& r) { r.state.ice = 0.8; }), 0.12, 0.02);
}

TEST(Signs, WhatIsHeard) {
    const auto heard = [](const std::function<void(Rig&)>& change, double boost = 32 * pascalsPerInHg) {
        Rig r("lorimer-spring", 2000, boost);
        change(r);
        return r.step().signs.sound;
    };
    EXPECT_EQ(heard([](Rig&) {}), Sound::even);
    EXPECT_EQ(heard([](Rig& r) { r.effects.deadCylinders = 1 / 14.0; }), Sound::beat);
    EXPECT_EQ(heard([](Rig& r) { r.effects.preIgnition = 0.4; }), Sound::bangs);
    EXPECT_EQ(heard([](Rig& r) { r.effects.preIgnition = 0.25; }), Sound::rough);
    EXPECT_EQ(heard([](Rig& r) { r.effects.inductionLeak = 0.5; }), Sound::whistle) << "boosted it blows out";
    EXPECT_EQ(heard([](Rig& r) { r.effects.inductionLeak = 0.5; }, 20 * pascalsPerInHg), Sound::rough)
        << "throttled it leans and shakes";
    EXPECT_EQ(heard([](Rig& r) { r.state.n = 1.12 * r.aircraft.model().ratedRpm; }), Sound::howl);
    EXPECT_EQ(heard([](Rig& r) { r.state.n = 1.03 * r.aircraft.model().ratedRpm; }), Sound::even);
    EXPECT_EQ(heard([](Rig& r) { r.effects.starterStuck = true; }), Sound::whine);
    EXPECT_EQ(heard([](Rig& r) {
                  r.state = r.engine.standing(Temperature::si(300), Temperature::si(300));
                  r.around.ias = Speed{};
                  r.levers.ignition = Ignition::off;
              }),
              Sound::silent);
}

TEST(Signs, WhatIsSeenAndSmelt) {
    const auto signs = [](const char* demo, const std::function<void(Rig&)>& change) {
        Rig r(demo, 2000, 95e3);
        change(r);
        return r.step().signs;
    };
    EXPECT_EQ(signs("lorimer-spring",
                    [](Rig& r) {
                        r.state.fuelAir = 0.10;
                        r.levers.byHand = 0.10;
                        r.run(3.0);
                    })
                  .smoke,
              Smoke::none);
    EXPECT_EQ(signs("lorimer-spring",
                    [](Rig& r) {
                        r.levers.byHand = 0.115;
                        r.run(5.0);
                    })
                  .smoke,
              Smoke::black)
        << "past 0.106";
    EXPECT_EQ(signs("lorimer-spring", [](Rig& r) { r.effects.ring = 0.1; }).smoke, Smoke::none);
    EXPECT_EQ(signs("lorimer-spring", [](Rig& r) { r.effects.ring = 0.2; }).smoke, Smoke::blue);
    const auto leak = signs("farrier-summer", [](Rig& r) {
        r.effects.coolantLeak = 0.002;
        r.state.headOrCoolant = 370;
    });
    EXPECT_EQ(leak.smoke, Smoke::white);
    EXPECT_EQ(leak.cowl, Cowl::coolant);
    EXPECT_EQ(leak.smell, Smell::coolant);
    EXPECT_EQ(signs("farrier-summer",
                    [](Rig& r) {
                        r.effects.coolantLeak = 0.002;
                        r.state.headOrCoolant = 340;
                    })
                  .smoke,
              Smoke::none)
        << "not hot enough to steam";
    EXPECT_EQ(signs("lorimer-spring", [](Rig& r) { r.effects.oilLeak = 0.01; }).cowl, Cowl::oil);
    EXPECT_EQ(signs("lorimer-spring", [](Rig& r) { r.effects.bearing = 0.6; }).smell, Smell::oil);
    EXPECT_EQ(signs("lorimer-spring", [](Rig& r) { r.effects.bearing = 0.4; }).smell, Smell::none);
    EXPECT_EQ(signs("lorimer-spring", [](Rig& r) { r.effects.fuelLeak = 0.01; }).cowl, Cowl::fuel);
}

// ---------------------------------------------------------------- electrics, hydraulics, drag

TEST(StepLaws, AGeneratorCutsInAtThirtyHundredthsOfRatedRpmAndGivesAllAtFortyFive) {
    const auto generated = [](double share) {
        Rig r("farrier-summer", 2300, 100e3);
        r.state.n = share * r.aircraft.model().ratedRpm;
        r.state.quickens = 0;
        return r.step(0.001).generated;
    };
    EXPECT_EQ(generated(0.28), 0.0);
    EXPECT_NEAR(generated(0.375), 0.5, 0.02);
    EXPECT_NEAR(generated(0.45), 1.0, 0.02);
}

TEST(StepLaws, AStandingPropellerDragsAFeatheredOneHardly) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const auto& p = r.aircraft.notes.propeller;
    r.state = r.engine.standing(Temperature::si(300), Temperature::si(300));
    r.levers.ignition = Ignition::off;
    r.levers.cock = false;
    r.around.ias = Speed{};
    const double standing = r.step().standingDrag;
    EXPECT_NEAR(standing, 0.7854 * p.diameter * p.diameter * 0.1 * 0.6, 0.01 * standing)
        << "a tenth of the disc, broadside";
    r.state.pitch = 14;
    r.levers.feather = true;
    const double feathered = r.step().standingDrag;
    EXPECT_NEAR(feathered, 0.00125 * p.blades * p.diameter * p.diameter, 0.01 * feathered);
    EXPECT_LT(feathered, 0.12 * standing);
}

TEST(StepLaws, IceNeitherGrowsNorMeltsJustAboveFreezingInDryAir) {
    // Up to two degrees above freezing it stays as it is; beyond, it melts.
    Rig r("sexton-meadow", 1800, 70e3);
    const auto at = [&] {
        auto wide = r.point();
        wide.manifoldPressure = ManifoldPressure::si(r.state.manifold);
        wide.wideOpen = ManifoldPressure::si(std::max(1.0, r.state.wideOpen));
        return engine::throttleTemperature(r.aircraft.notes.engine, wide).si() - 273.15;
    };
    const auto change = [&](double wanted) {
        for (int i = 0; i < 30; ++i) { // the air that gives this at the throttle
            r.around.air.temperature = Temperature::si(r.around.air.temperature.si() + wanted - at());
            r.run(0.2);
        }
        EXPECT_NEAR(at(), wanted, 0.3);
        r.state.ice = 0.02;
        r.step();
        return 0.02 - r.state.ice;
    };
    EXPECT_EQ(change(1.0), 0.0);
    EXPECT_NEAR(change(3.0), 0.02 * (1.0 - std::exp(-0.1 / 12.0)) + 0.5e-3 * 0.1, 1e-6);
}

TEST(StepLaws, OfThePrimeTheAirTakesByTheThrottlesOpening) {
    Rig r("lorimer-spring", 1000, 40e3);
    r.levers.throttle = throttleAt(0.0);
    r.levers.cock = r.levers.booster = false;
    r.levers.cutOff = true;
    r.state.throttle = 0.0;
    const double doses = 0.01;
    r.state.primed = doses;
    const double n = r.state.n;
    r.step();
    const double drained = doses * (1 - std::exp(-0.1 / start::drainTime(Temperature::si(r.state.headOrCoolant)).si()));
    const double carried =
        (doses - drained) * (1 - std::pow(1 - (0.04 + 1.5 * r.state.throttle) * start::carriedPerCycle, n / 2 * 0.1));
    EXPECT_NEAR(doses - r.state.primed, drained + carried, 0.05 * (drained + carried));
    EXPECT_GT(carried, drained);
}

TEST(StepLaws, AThrottleClosedInFrostMakesItRichAndItRunsOnWithSomeOfItsCylinders) {
    for (const char* demo : {"tinker-damp", "sexton-meadow"}) {
        Rig r(demo, 1800, 90e3, 100.0, 0.0);
        r.around.air.temperature = Temperature::si(261.15);
        r.levers.throttle = throttleAt(1.0);
        r.run(20.0);
        const double full = r.state.n;
        double richest = 0.0;
        for (int i = 0; i < 190; ++i) { // shut over four seconds, then fifteen more
            r.levers.throttle = throttleAt(std::max(0.0, 1.0 - i / 40.0));
            r.step();
            richest = std::max(richest, r.state.fuelAir);
        }
        EXPECT_GT(richest, 0.15) << demo << ": the film on cold walls goes on giving fuel to little air";
        EXPECT_LE(richest, 0.30) << demo << ": more than that is not vapour";
        EXPECT_TRUE(r.state.firing) << demo;
        EXPECT_GT(r.state.n, 0.12 * full) << demo;
        EXPECT_LT(r.state.fuelAir, 0.10) << demo << ": it clears itself";
    }
}

TEST(StepLaws, AnEngineThatStoodHotStartsUnprimedInFrostAndAColdOneDoesNot) {
    const auto turned = [](double metal) {
        Rig r("thatcher-lesson", 1800, 90e3, 100.0, 0.0);
        r.around.air.temperature = Temperature::si(261.15);
        r.state = r.engine.standing(Temperature::si(metal), Temperature::si(std::min(metal, 310.0)));
        r.levers.throttle = throttleAt(0.03);
        r.levers.ignition = Ignition::both;
        r.levers.boosterCoil = true;
        r.levers.energise = true;
        r.run(r.aircraft.notes.start.starter.energiseBattery.si());
        r.levers.mesh = true;
        for (int i = 0; i < 150 && !r.state.firing; ++i)
            r.step();
        return r.state.firing;
    };
    EXPECT_TRUE(turned(348.15)) << "its walls are warm yet";
    EXPECT_FALSE(turned(261.15));
}

TEST(StepLaws, OfARunningEnginesChargesSomeBurnThoughAllTogetherAreTooRich) {
    // Of 0.08 from the carburettor 0.12 more by the primer: 1 − exp(−(0.131 − 0.08)/0.12) = 35 % of them are not too
    // rich.
    Rig r("lorimer-spring", 1000, 40e3, 0.0, 0.0);
    r.run(2.0);
    const double even = r.state.fuelAir;
    const start::Priming priming(r.aircraft.notes.start);
    const double wanted = priming.bestDose(Temperature::si(r.state.headOrCoolant), r.around.air.pressure);
    r.state.vapour = 1.0;
    r.state.primed = 0.12 / start::bestFiring * wanted * r.engine.doseMass();
    const double before = r.state.n;
    r.step(0.1);
    EXPECT_NEAR(r.state.fuelAir, even + 0.12, 0.012);
    EXPECT_NEAR(r.state.uneven, 0.12, 0.012);
    EXPECT_TRUE(r.state.firing);
    r.run(0.5);
    EXPECT_TRUE(r.state.firing);
    EXPECT_LT(r.state.n, before) << "on a third of its charges it slows";
}

TEST(StepLaws, CoolantBoilsAwayAboveItsBoilingPoint) {
    // A two-thousandth of the filling a second for each degree above 400 K.
    Rig r("farrier-summer", 2400, 100e3);
    r.state.coolant = 1.0;
    r.state.headOrCoolant = 410.0;
    r.step();
    EXPECT_NEAR(1.0 - r.state.coolant, (r.state.headOrCoolant - 400) / 2000 * 0.1, 1e-6);
    EXPECT_GT(1.0 - r.state.coolant, 4e-4);
    r.state.coolant = 1.0;
    r.state.headOrCoolant = 395.0;
    r.step();
    EXPECT_EQ(r.state.coolant, 1.0);
    Rig heads("lorimer-spring", 2000, 32 * pascalsPerInHg);
    heads.state.coolant = 1.0;
    heads.run(1.0);
    EXPECT_EQ(heads.state.coolant, 1.0) << "heads of 440 K boil nothing";
}

TEST(StepLaws, OnceTheGalleryIsFullNothingMoreGoesIn) {
    Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    r.state.gallery = 0.99;
    r.run(20.0);
    EXPECT_EQ(r.state.gallery, 1.0) << "so that it drains in its own time after the stop";
}

TEST(StepLaws, FromAnRpmToALowerOneItRunsDownByTheBladesInSixSecondsAtMost) {
    // I dn/dt = −K ρ n² × 5 while the engine gives nothing: 1/n grows evenly.
    const Rig r("lorimer-spring", 2000, 32 * pascalsPerInHg);
    const auto takes = [&](double from, double to) {
        return r.engine.runDownTime(Rotation::si(from), Rotation::si(to), r.around);
    };
    EXPECT_EQ(takes(20, 25), 0.0);
    const double a = takes(30, 28), b = takes(28, 25), c = takes(30, 25);
    EXPECT_GT(a, 0.0);
    EXPECT_NEAR(a + b, c, 1e-9);
    EXPECT_NEAR(a / b, (1 / 28.0 - 1 / 30.0) / (1 / 25.0 - 1 / 28.0), 1e-6);
    EXPECT_EQ(takes(40, 0.5), 6.0);
}

TEST(StepLaws, WithAFixedPropellerABoostIsNotHeldPastTheRpmThatIsWanted) {
    Rig r("sexton-meadow", 1500, 95e3);
    r.run(30.0);
    EXPECT_LT(r.state.n * 60, 1515);
    EXPECT_GT(r.state.n * 60, 1450);
    EXPECT_LT(r.state.manifold, 90e3);
}

TEST(StepLaws, StandingTheGalleryRunsEmptyInAnHour) {
    Rig r("lorimer-spring", 1000, 40e3);
    r.state = r.engine.standing(Temperature::si(330), Temperature::si(330));
    r.around.ias = Speed{};
    r.levers.ignition = Ignition::off;
    r.state.gallery = 1.0;
    r.run(36.0);
    EXPECT_NEAR(r.state.gallery, 0.99, 1e-6);
}

TEST(StepLaws, BrakeMeanEffectivePressureIsTheShaftsWorkOverTheSweptVolume) {
    Rig r("mercer-frost", 2000, 32 * pascalsPerInHg);
    const auto reads = r.step();
    ASSERT_TRUE(reads.has(Gauge::torque));
    EXPECT_NEAR(reads[Gauge::torque] / (reads.shaft * 2 / (r.aircraft.model().displacement * r.state.n)), 1.0, 0.002);
}

TEST(StepLaws, AMixtureByHandIsNoRicherThanItCanBe) {
    const auto& a = *loaded("lorimer-spring").aircraft;
    const auto flow = [&](double ratio) {
        return engine::operate(a.model(), {Rotation::si(30), ManifoldPressure::si(1e5), 0,
                                           air::standardDay(Length{}).at(Length{}), Speed{}, ratio})
            .fuelFlow.si();
    };
    EXPECT_NEAR(flow(0.2), flow(0.14), 1e-9);
    EXPECT_LT(flow(0.10), flow(0.14));
}

} // namespace
} // namespace amber
