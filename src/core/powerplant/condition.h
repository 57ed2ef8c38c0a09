// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "powerplant/fault.h"
#include <cstdint>
#include <optional>
#include <vector>

namespace amber::powerplant {

using Milliseconds = std::int64_t; ///< from the run's start

/// A fault and from when.
struct ActiveFault {
    Fault fault = Fault::oilLost;
    double severity = 1.0; ///< 0 nothing … 1 as bad as it gets
    Milliseconds from = 0;
    bool operator==(const ActiveFault&) const = default;
};

/// What this airframe's log has taught of one engine: a closed list. It moves needles and what is drawn from the tanks,
/// no state of the engine: none of it lowers a knock or charge verdict.
struct Learnt {
    double primeDose = 1.0; ///< of the notes' dose that this engine wants
    double fuel = 1.0;      ///< flow over the model's, at the model's mixture
    struct Offset {
        Gauge gauge = Gauge::rpm;
        double by = 0.0; ///< SI, added to the needle, not to the state
        bool operator==(const Offset&) const = default;
    };
    std::vector<Offset> offsets;
    bool operator==(const Learnt&) const = default;
};

/// What is different about one engine: its faults and what was learnt of it.
struct Condition {
    std::vector<ActiveFault> faults;
    Learnt learnt;
    bool operator==(const Condition&) const = default;
};

/// What a condition does to the physics at one moment: factors of 1 and shares of 0 change nothing.
struct Effects {
    // oil
    double oilLeak = 0.0; ///< kg/s
    double oilPump = 1.0, oilRelief = 1.0, oilCooler = 1.0;
    double congealed = 0.0, bearing = 0.0, ring = 0.0;
    // ignition
    double fouled = 0.0; ///< share of the right magneto's plugs, at its beginning
    double deadLeads = 0.0;
    double leftMagneto = 1.0;
    bool earths = true, spark = true;
    double late = 0.0;
    // induction
    double iceWater = 0.0; ///< g/kg that freeze out whatever the weather
    std::optional<double> hotAir;
    double inductionLeak = 0.0, metering = 1.0;
    double detonation = 0.0, preIgnition = 0.0;
    double boostHunts = 0.0, clutchSlip = 0.0, wasteGate = 0.0;
    bool water = true;
    // fuel
    bool tank = true;
    double fuelPump = 1.0, vapour = 0.0;
    double fuelLeak = 0.0; ///< kg/s at full pressure
    // propeller, cooling, engine
    double runaway = 0.0;
    bool pitchFixed = false;
    std::optional<double> coolingFlap;
    double coolantLeak = 0.0; ///< share a second
    double deadCylinders = 0.0;
    bool dead = false, locked = false, starterStuck = false;
    double generator = 1.0;
    // gauges
    bool oilPressureGauge = true, fuelPressureGauge = true, tachometer = true, gaugeSupply = true;
    double boostLine = 0.0; ///< share of the way from the true boost to the outside air
};
inline const Effects noEffects{}; ///< of a sound engine

/// @param cylinders of the engine: a dead lead or valve takes one of them
Effects effectsOf(const Condition& condition, Milliseconds at, int cylinders);

} // namespace amber::powerplant
