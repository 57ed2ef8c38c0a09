// SPDX-License-Identifier: GPL-3.0-or-later
// What the engines of one aircraft share, and its path: electrics, fuel and mechanics against sums by hand.
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "flight/flown.h"
#include "running_engines.h"
#include "test_data.h"
#include <cmath>
#include <gtest/gtest.h>
#include <numeric>

namespace amber {
namespace {
using namespace powerplant;
using test::loaded;

constexpr double gravity = 9.80665, inHg = 3386.389;

/// The twin, standing or flying settled in standard air.
struct Whole {
    explicit Whole(const std::string& demo = "lorimer-spring")
        : aircraft(*loaded(demo).aircraft), plant(aircraft, loaded(demo).sortie->fuelGrade),
          day(air::standardDay(Length{})), levers(plant.levers()), state(plant.standing(day, Temperature::si(288.15))) {
        run.day = &day;
        run.ice = false;
        state.dryMass = aircraft.notes.emptyWeight.si() + 200;
    }
    void fly(double metres, double ias, double rpm, double boost, Path::Kind kind = Path::Kind::speedHeld) {
        levers = test::runningLevers(plant, rpm / 60);
        for (auto& e : levers.engines) {
            e.rpm = rpm / 60;
            e.throttle = boostHeld(boost);
            e.coolingFlap = 0.4;
        }
        for (auto& e : state.engines) {
            e.headOrCoolant = 430;
            e.oil = 345;
        }
        state.height = metres;
        state.ias = levers.path.ias = ias;
        levers.path.kind = kind;
        test::settle(plant, state, levers, run);
        plant.steps(state, levers, run, 5000);
        state.height = metres;
    }
    AircraftReadings step(Milliseconds ms = 100) { return plant.step(state, levers, run, ms); }
    [[nodiscard]] air::Ambient air() const { return day.at(day.pressureAltitudeOf(Length::si(state.height))); }
    [[nodiscard]] double trueSpeed() const {
        return air::trueAirspeed(Speed::si(state.ias), air().pressure, air().temperature).si();
    }
    [[nodiscard]] double drag(double v) const {
        return aircraft.drag.force(0.5 * air::density(air().pressure, air().temperature) * v * v,
                                   plant.weight(state).si() * gravity);
    }
    const powerplant::Aircraft& aircraft;
    Powerplant plant;
    air::Day day;
    Levers levers;
    AircraftState state;
    powerplant::Run run;
};

double power(const AircraftReadings& r) {
    double all = 0;
    for (const auto& e : r.engines)
        all += e.propeller;
    return all;
}

// ---------------------------------------------------------------- electrics

TEST(SharedLaws, ABatteryGivesItsLoadAndSagsByItsResistance) {
    Whole w;
    const auto& b = w.aircraft.notes.start.battery;
    EXPECT_NEAR(w.state.charge, 0.9 * b.ampereHours, 1e-9);
    const auto standing = w.step();
    EXPECT_NEAR(standing.amperes, -10.0, 1e-9) << "what is always on";
    EXPECT_NEAR(w.state.volts, b.volts * (0.95 + 0.10 * 0.9) - 10 * b.resistance, 0.01);
    w.levers.engines[0].booster = true;
    EXPECT_NEAR(w.step().amperes, -16.0, 1e-9);
    w.levers.engines[0].boosterCoil = w.levers.engines[1].boosterCoil = true;
    EXPECT_NEAR(w.step().amperes, -24.0, 1e-9);
    const double before = w.state.charge;
    w.plant.steps(w.state, w.levers, w.run, 36'000);
    EXPECT_NEAR(before - w.state.charge, 0.24, 0.001) << "24 A for a hundredth of an hour";
}

TEST(SharedLaws, ACartFeedsTheBusAndSparesTheBattery) {
    Whole w;
    w.levers.shared.cart = true;
    w.levers.engines[0].booster = true;
    const double before = w.state.charge;
    w.plant.steps(w.state, w.levers, w.run, 10'000);
    EXPECT_EQ(w.state.charge, before);
    EXPECT_NEAR(w.state.volts, 1.1 * w.aircraft.notes.start.battery.volts, 1e-9);
    w.levers.shared.cart = w.levers.shared.battery = false;
    w.step();
    EXPECT_EQ(w.state.volts, 0.0) << "nothing feeds it";
}

TEST(SharedLaws, GeneratorsCarryTheLoadAndFillTheBatteryUntilTheLastTenth) {
    Whole w;
    const auto& b = w.aircraft.notes.start.battery;
    w.fly(2000, 80, 2000, 32 * inHg);
    w.state.charge = 0.5 * b.ampereHours;
    const auto r = w.step();
    double generators = 0;
    for (const auto& e : r.engines)
        generators += e.generated;
    const double load = 10 + 2 * 6, can = generators * 1200 / b.volts;
    const double takes = std::min((1.19 * b.volts - b.volts * 1.0) / b.resistance, 0.6 * b.ampereHours);
    EXPECT_NEAR(r.amperes, std::min(can - load, takes), 0.01 * takes);
    EXPECT_NEAR(r.generated, load + r.amperes, 1e-6);
    w.state.charge = 0.95 * b.ampereHours;
    const auto nearly = w.step();
    EXPECT_NEAR(nearly.amperes,
                std::min(can - load, 0.5 * std::min((1.19 - 1.045) * b.volts / b.resistance, 0.6 * b.ampereHours)),
                0.05 * takes)
        << "tapering off";
    EXPECT_NEAR(w.state.volts, 1.19 * b.volts, 1e-6);
    w.levers.shared.generators = false;
    EXPECT_NEAR(w.step().amperes, -load, 1e-9);
}

// ---------------------------------------------------------------- fuel

TEST(SharedLaws, ATankIsPoorerByWhatItsEnginesTook) {
    Whole w;
    w.fly(2000, 80, 2000, 32 * inHg);
    const double before = w.state.tanks[0], weight = w.plant.weight(w.state).si();
    double taken = 0;
    for (const auto& e : w.state.engines)
        taken -= e.taken;
    w.plant.steps(w.state, w.levers, w.run, 60'000);
    for (const auto& e : w.state.engines)
        taken += e.taken;
    EXPECT_GT(taken, 1.0);
    EXPECT_NEAR((before - w.state.tanks[0]) * w.state.fuelDensity, taken, 1e-9);
    EXPECT_NEAR(weight - w.plant.weight(w.state).si(), taken, 1e-6);
}

TEST(SharedLaws, WhatAnEmptyTankNoLongerHadDidNotCome) {
    Whole w;
    w.fly(2000, 80, 2000, 32 * inHg);
    w.state.tanks[0] = 1e-6; // a cubic centimetre
    const double had = w.state.tanks[0] * w.state.fuelDensity;
    double before = 0, after = 0, kept = 0;
    for (const auto& e : w.state.engines) {
        before += e.taken;
        kept += e.taken - e.burnt - e.spilled - e.wall - e.primed - e.bowl;
    }
    w.step();
    for (const auto& e : w.state.engines)
        after += e.taken;
    EXPECT_EQ(w.state.tanks[0], 0.0);
    EXPECT_NEAR(after - before, had, 1e-9);
    // What was taken is burnt, spilled, or on its way.
    for (const auto& e : w.state.engines)
        after -= e.burnt + e.spilled + e.wall + e.primed + e.bowl;
    EXPECT_NEAR(after, kept, 1e-9);
    double taken = 0;
    for (const auto& e : w.state.engines)
        taken += e.taken;
    w.plant.steps(w.state, w.levers, w.run, 1000);
    double later = 0;
    for (const auto& e : w.state.engines)
        later += e.taken;
    EXPECT_EQ(later, taken) << "nothing comes any more";
}

// ---------------------------------------------------------------- path

TEST(SharedLaws, SpeedHeldTheHeightFollowsFromPowerLessDrag) {
    Whole w;
    w.fly(2000, 80, 2200, 36 * inHg);
    const double v = w.trueSpeed(), drag = w.drag(v), weight = w.plant.weight(w.state).si() * gravity;
    const auto r = w.step();
    EXPECT_NEAR(w.state.rate, (0.8 * power(r) - drag * v) / weight, 0.002);
    EXPECT_GT(w.state.rate, 1.0);
    EXPECT_NEAR(w.state.height, 2000 + 0.1 * w.state.rate, 1e-6);
}

TEST(SharedLaws, LevelWithMorePowerItGathersSpeedByThrustLessDragOverMass) {
    Whole w;
    w.fly(2000, 80, 2200, 36 * inHg, Path::Kind::level);
    const double v = w.trueSpeed(), drag = w.drag(v), mass = w.plant.weight(w.state).si();
    const auto r = w.step();
    EXPECT_NEAR((w.trueSpeed() - v) / 0.1, (0.8 * power(r) / v - drag) / mass, 0.01);
    EXPECT_EQ(w.state.height, 2000) << "and keeps its height";
    // Until they are equal.
    w.plant.steps(w.state, w.levers, w.run, 300'000);
    const auto later = w.step();
    EXPECT_NEAR(0.8 * power(later) / w.trueSpeed() / w.drag(w.trueSpeed()), 1.0, 0.01);
}

TEST(SharedLaws, FromAStandItAcceleratesByTheStaticThrustLessRolling) {
    Whole w;
    w.fly(0, 0, 2400, 40 * inHg, Path::Kind::standing);
    w.levers.path.kind = Path::Kind::roll;
    w.state.ias = 0;
    const double rho = 1.225, d = w.aircraft.notes.propeller.diameter, disc = 2 * M_PI / 4 * d * d;
    const double mass = w.plant.weight(w.state).si();
    const auto r = w.step(20);
    const double thrust = std::cbrt(2 * rho * disc * std::pow(0.8 * power(r), 2)); // momentum theory: T³ = 2 ρ A P²
    EXPECT_NEAR(w.trueSpeed() / 0.02, (thrust - 0.03 * mass * gravity) / mass, 0.03);
    // Faster it is power over speed, less the drag of the airframe on its wheels.
    w.state.ias = 40;
    const double q = 0.5 * rho * 1600;
    const auto fast = w.step(20);
    EXPECT_NEAR((w.trueSpeed() - 40) / 0.02,
                (std::min(thrust, 0.8 * power(fast) / 40) - q * w.aircraft.drag.area - 0.03 * mass * gravity) / mass,
                0.05);
}

TEST(SharedLaws, ADescentAtARateComesDownByItAndCoversTheGroundOfItsSpeed) {
    Whole w;
    w.fly(2000, 80, 1800, 24 * inHg, Path::Kind::rateHeld);
    w.levers.path.rate = -5.0;
    const double before = w.state.distance, v = w.trueSpeed();
    w.plant.steps(w.state, w.levers, w.run, 20'000);
    EXPECT_NEAR(w.state.height, 2000 - 100, 0.5);
    EXPECT_NEAR((w.state.distance - before) / (20 * v), 1.0, 0.005);
    w.levers.path.kind = Path::Kind::taxi;
    w.levers.path.ias = 5;
    const double there = w.state.distance;
    w.plant.steps(w.state, w.levers, w.run, 10'000);
    EXPECT_NEAR(w.state.distance - there, 50, 0.2);
}

TEST(SharedLaws, ADeadEngineYawsByTheOthersShareAndItsWindmillCostsTwiceWhatItTakes) {
    Whole w;
    w.fly(2000, 80, 2200, 36 * inHg);
    w.run.conditions.resize(2);
    w.run.conditions[0].faults.push_back({Fault::dead, 1.0, 0});
    w.plant.steps(w.state, w.levers, w.run, 20'000);
    w.state.height = 2000;
    w.state.ias = w.levers.path.ias;
    const double v = w.trueSpeed(), drag = w.drag(v), weight = w.plant.weight(w.state).si() * gravity;
    const auto r = w.step();
    ASSERT_LT(r.engines[0].propeller, 0) << "the air turns it";
    EXPECT_NEAR(w.state.rate, (0.8 * r.engines[1].propeller + 2 * r.engines[0].propeller - drag * v) / weight, 0.01);
    EXPECT_NEAR(r.yaw, (r.engines[1].propeller - r.engines[0].propeller) / engine::ratedPower(w.aircraft.notes).si(),
                0.01);
    EXPECT_NEAR(w.plant.arm(1) - w.plant.arm(0), 1.2, 1e-9) << "side by side, a fifth of a diameter between the discs";
}

TEST(SharedLaws, OnTheCartNothingIsGeneratedNorGoesThroughTheBattery) {
    Whole w;
    w.fly(1000, 80, 2000, 32 * inHg);
    w.levers.shared.cart = true;
    const auto r = w.step();
    EXPECT_EQ(r.amperes, 0.0);
    EXPECT_EQ(r.generated, 0.0);
    EXPECT_NEAR(w.state.volts, 1.1 * w.aircraft.notes.start.battery.volts, 1e-6);
}

TEST(SharedLaws, EveryEngineReadsTheFuelOfAllTanksAndTheHeight) {
    Whole w;
    w.state.tanks.front() = 0.123;
    w.fly(1500, 80, 2000, 32 * inHg);
    const auto r = w.step();
    double all = 0;
    for (const double t : w.state.tanks)
        all += t;
    for (const auto& e : r.engines) {
        EXPECT_NEAR(e[Gauge::fuel], all, 1e-9);
        EXPECT_NEAR(e[Gauge::height], w.state.height, 1e-9);
    }
}

TEST(SharedLaws, AStrideIsFlownAtThePathsSpeed) {
    Whole w;
    w.fly(1500, 80, 2000, 32 * inHg);
    w.levers.path.ias = 86;
    w.plant.stride(w.state, w.levers, w.run, 10'000);
    EXPECT_EQ(w.state.ias, 86);
    // And in short steps it comes to it and stays there.
    w.levers.path.ias = 84;
    w.plant.steps(w.state, w.levers, w.run, 60'000);
    EXPECT_NEAR(w.state.ias, 84, 0.02);
}

TEST(SharedLaws, MetersAndTanksCountTheSameFuel) {
    // Filled at -30 °C petrol is some 5 % denser than at 15 °C: a meter that turned kilograms into litres by the notes'
    // density would be so much over what the tanks lose.
    Whole w;
    w.state.fuelDensity = w.aircraft.notes.fuel.densityAt(Temperature::of(-30, units::celsius));
    ASSERT_GT(w.state.fuelDensity, 1.03 * w.aircraft.notes.fuel.density);
    w.fly(1500, 90, 2100, 33 * inHg);
    const auto held = [&] { return std::accumulate(w.state.tanks.begin(), w.state.tanks.end(), 0.0); };
    const double before = held();
    double metered = 0.0;
    for (int i = 0; i < 600; ++i) {
        const auto r = w.step();
        for (const auto& e : r.engines)
            metered += e[Gauge::fuelFlow] * 0.1;
    }
    ASSERT_GT(before - held(), 1e-3);
    EXPECT_NEAR(metered / (before - held()), 1.0, 0.005);
}

TEST(SharedLaws, OnTheFineStopThePlansLandingTurnsNoFasterThanTheEngine) {
    Whole w;
    powerplant::Aircraft own = w.aircraft;
    own.notes.phases.at(Phase::landing).boost = ManifoldPressure::si(12 * inHg);
    const auto f = flight::fly(own, *loaded("lorimer-spring").sortie);
    const auto& s = f[Phase::landing].setting;
    const auto& end = f.samples[f[Phase::landing].lastSample];
    w.fly(end[Gauge::height], s.ias.si(), s.rpm.in(units::rpm), 12 * inHg);
    const auto now = w.plant.steps(w.state, w.levers, w.run, 20'000);
    const double turns = now.engines[0][Gauge::rpm];
    ASSERT_LT(turns, 0.97 * s.rpm.si()) << "the lever asks for more than comes, or it proves nothing";
    EXPECT_NEAR(end[Gauge::rpm] / turns, 1.0, 0.03);
    EXPECT_NEAR(s.rpm.si(), own.notes.phases.at(Phase::landing).rpm->si(), 0.01) << "the lever itself stands as noted";
}

} // namespace
} // namespace amber
