// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/wind.h"
#include "engine/operating_point.h"
#include <cstddef>
#include <vector>

namespace amber::powerplant {

/// The throttle: left at a place, or moved by a hand that watches a needle.
struct Throttle {
    enum class By { place, boost, rpm };
    By by = By::place;
    double value = 0.0; ///< 0 shut … 1 open; Pa; rev/s
    bool operator==(const Throttle&) const = default;
};
constexpr Throttle throttleAt(double place) {
    return {Throttle::By::place, place};
}
constexpr Throttle boostHeld(double pascal) {
    return {Throttle::By::boost, pascal};
}
constexpr Throttle rpmHeld(double revsPerSecond) {
    return {Throttle::By::rpm, revsPerSecond};
}

enum class Ignition { off, left, right, both };

inline constexpr double blankedCooler = 0.15; ///< of the oil cooler's air that gets past blanks, or a shut flap

/// Where the levers and switches of one engine stand.
struct EngineLevers {
    Throttle throttle;
    double rpm = 100.0;   ///< rev/s that the propeller lever asks for; more than it can: fully fine
    bool coarse = true;   ///< a two-position propeller
    bool feather = false; ///< the feathering button or lever
    Mixture mixture = Mixture::rich;
    double byHand = 0.0; ///< fuel–air ratio set by hand; 0: automatic
    bool cutOff = true;  ///< idle cut-off
    std::size_t gear = 0;
    double coolingFlap = 1.0; ///< 0 shut … 1 open
    double oilCooler = 1.0;   ///< share of its air let through: blanked 0.15
    double intercooler = 1.0;
    double hotAir = 0.0; ///< 0 cold … 1 full hot
    double turbo = 1.0;  ///< share of what the regulator would hold
    bool water = false;
    Ignition ignition = Ignition::off;
    bool energise = false; ///< the starter's inertia wheel
    bool mesh = false;     ///< starter engaged
    bool boosterCoil = false;
    bool advanced = false; ///< the spark, where it has a lever
    double primer = 0.0;   ///< doses a second given now
    bool cock = false;     ///< fuel cock open
    int tank = 0;          ///< index of the tank it feeds from
    bool booster = false;  ///< electric or hand pump
    double thinning = 1.0; ///< viscosity of the oil over undiluted
    bool operator==(const EngineLevers&) const = default;
};

/// What belongs to no engine.
struct SharedLevers {
    bool battery = true, cart = false, generators = true;
    bool operator==(const SharedLevers&) const = default;
};

/// What the pilot flies: a speed is held and the height follows from thrust, drag and weight, or a height is held and
/// the speed follows. No stick, no attitude.
struct Path {
    enum class Kind {
        standing,  ///< on its wheels, chocks or moorings
        taxi,      ///< at `ias` on the ground
        roll,      ///< on the runway, as fast as the thrust brings it
        speedHeld, ///< at `ias`; the height follows, and pays for another speed
        rateHeld,  ///< at `ias` and `rate`
        level,     ///< at its height; the speed follows
    };
    Kind kind = Kind::standing;
    double ias = 0.0;  ///< m/s
    double rate = 0.0; ///< m/s, up
    air::WindOnTrack wind{};
    bool operator==(const Path&) const = default;
};

struct Levers {
    std::vector<EngineLevers> engines;
    SharedLevers shared;
    Path path;
};

} // namespace amber::powerplant
