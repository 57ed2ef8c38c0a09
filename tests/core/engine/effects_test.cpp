// SPDX-License-Identifier: GPL-3.0-or-later
// How bad each fault gets: a table beside the one in the code, in the words of what it does.
#include "powerplant/condition.h"
#include "test_data.h"
#include <functional>

namespace amber {
namespace {
using namespace powerplant;

Effects of(Fault fault, double severity = 1.0, Milliseconds since = 0, Milliseconds at = 10'000'000,
           int cylinders = 14) {
    Condition c;
    c.faults.push_back({fault, severity, at - since});
    return effectsOf(c, at, cylinders);
}
/// Long after it has begun, and half as bad.
Effects full(Fault fault) {
    return of(fault, 1.0, 9'000'000);
}
Effects half(Fault fault) {
    return of(fault, 0.5, 9'000'000);
}

TEST(Effects, EachFaultAtItsWorstAndAtHalf) {
    struct Row {
        Fault fault;
        std::function<double(const Effects&)> what;
        double sound, worst, halfAsBad;
        const char* says;
    };
    const std::vector<Row> table{
        {Fault::oilLost, [](const Effects& e) { return e.oilLeak; }, 0, 0.12, 0.06, "60 kg in eight minutes"},
        {Fault::oilPump, [](const Effects& e) { return e.oilPump; }, 1, 0, 0.5, "nothing delivered"},
        {Fault::reliefValve, [](const Effects& e) { return e.oilRelief; }, 1, 0.45, 0.725, "less than half is held"},
        {Fault::coolerCongealed, [](const Effects& e) { return e.congealed; }, 0, 1, 0.5, ""},
        {Fault::coolerClogged, [](const Effects& e) { return e.oilCooler; }, 1, 0, 0.5, "nothing passes"},
        {Fault::bearing, [](const Effects& e) { return e.bearing; }, 0, 1, 0.5, ""},
        {Fault::ring, [](const Effects& e) { return e.ring; }, 0, 1, 0.5, ""},
        {Fault::timingLate, [](const Effects& e) { return e.late; }, 0, 1, 0.5, ""},
        {Fault::carburettorIce, [](const Effects& e) { return e.iceWater; }, 0, 12, 6, "grams a kilogram of air"},
        {Fault::airDoorHot, [](const Effects& e) { return e.hotAir.value_or(0); }, 0, 1, 0.5, ""},
        {Fault::fuelPump, [](const Effects& e) { return e.fuelPump; }, 1, 0, 0.5, ""},
        {Fault::fuelLeak, [](const Effects& e) { return e.fuelLeak; }, 0, 0.03, 0.015, "kg/s"},
        {Fault::vapourLock, [](const Effects& e) { return e.vapour; }, 0, 1, 0.5, ""},
        {Fault::rich, [](const Effects& e) { return e.metering; }, 1, 1.45, 1.225, ""},
        {Fault::lean, [](const Effects& e) { return e.metering; }, 1, 0.64, 0.82, ""},
        {Fault::inductionLeak, [](const Effects& e) { return e.inductionLeak; }, 0, 1, 0.5, ""},
        {Fault::detonation, [](const Effects& e) { return e.detonation; }, 0, 1, 0.5, ""},
        {Fault::preIgnition, [](const Effects& e) { return e.preIgnition; }, 0, 1, 0.5, ""},
        {Fault::governorRunaway, [](const Effects& e) { return e.runaway; }, 0, 1, 0.5, ""},
        {Fault::coolantLost, [](const Effects& e) { return e.coolantLeak; }, 0, 1 / 120.0, 1 / 240.0, "in two minutes"},
        {Fault::boostGaugeLine, [](const Effects& e) { return e.boostLine; }, 0, 1, 0.5, ""},
        {Fault::boostControl, [](const Effects& e) { return e.boostHunts; }, 0, 1, 0.5, ""},
        {Fault::clutchSlips, [](const Effects& e) { return e.clutchSlip; }, 0, 1, 0.5, ""},
        {Fault::wasteGate, [](const Effects& e) { return e.wasteGate; }, 0, 1, 0.5, ""},
        {Fault::generator, [](const Effects& e) { return e.generator; }, 1, 0, 0.5, ""},
    };
    const Effects sound = effectsOf({}, 0, 14);
    for (const Row& r : table) {
        EXPECT_DOUBLE_EQ(r.what(sound), r.sound) << nameOf(r.fault).key << " " << r.says;
        EXPECT_NEAR(r.what(full(r.fault)), r.worst, 1e-12) << nameOf(r.fault).key << " " << r.says;
        EXPECT_NEAR(r.what(half(r.fault)), r.halfAsBad, 1e-12) << nameOf(r.fault).key << " " << r.says;
    }
}

TEST(Effects, WhatIsBrokenOrNotHasNoHalf) {
    EXPECT_FALSE(half(Fault::oilPressureGauge).oilPressureGauge);
    EXPECT_FALSE(half(Fault::fuelPressureGauge).fuelPressureGauge);
    EXPECT_FALSE(half(Fault::tachometer).tachometer);
    EXPECT_FALSE(half(Fault::gaugeSupply).gaugeSupply);
    EXPECT_EQ(half(Fault::magnetoDead).leftMagneto, 0.0);
    EXPECT_FALSE(half(Fault::notEarthing).earths);
    EXPECT_FALSE(half(Fault::noSpark).spark);
    EXPECT_FALSE(half(Fault::tankDry).tank);
    EXPECT_FALSE(half(Fault::waterFails).water);
    EXPECT_TRUE(half(Fault::pitchFixed).pitchFixed);
    EXPECT_TRUE(half(Fault::starterStuck).starterStuck);
    EXPECT_TRUE(half(Fault::hydraulicLock).locked);
    EXPECT_TRUE(half(Fault::dead).dead);
    EXPECT_EQ(half(Fault::flapShut).coolingFlap, 0.0);
    // One plug or valve of fourteen cylinders, one of seven.
    EXPECT_NEAR(full(Fault::deadLead).deadLeads, 1 / 14.0, 1e-12);
    EXPECT_NEAR(full(Fault::valve).deadCylinders, 1 / 14.0, 1e-12);
    EXPECT_NEAR(of(Fault::valve, 1, 9'000'000, 10'000'000, 7).deadCylinders, 1 / 7.0, 1e-12);
}

TEST(Effects, PlugsAreFoundFouledAndThenTheEnginesOwn) {
    EXPECT_NEAR(of(Fault::fouledPlugs, 1.0, 100).fouled, 0.6, 1e-12);
    EXPECT_NEAR(of(Fault::fouledPlugs, 0.5, 100).fouled, 0.3, 1e-12);
    EXPECT_EQ(of(Fault::fouledPlugs, 1.0, 200).fouled, 0.0) << "what a burst has cleared stays clear";
}

TEST(Effects, BeforeItsTimeAFaultIsNone) {
    Condition c;
    c.faults.push_back({Fault::oilLost, 1.0, 5000});
    EXPECT_EQ(effectsOf(c, 4900, 9).oilLeak, 0.0);
    c.learnt.fuel = 1.07;
    EXPECT_EQ(effectsOf(c, 0, 9).metering, 1.0) << "what was learnt is drawn beside the mixture, not in it";
    c.faults.push_back({Fault::rich, 1.0, 0});
    EXPECT_NEAR(effectsOf(c, 9'000'000, 9).metering, 1.45, 1e-9);
}

} // namespace
} // namespace amber
