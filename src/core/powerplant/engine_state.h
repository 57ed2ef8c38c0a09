// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include <cstddef>

namespace amber::powerplant {

inline constexpr double oilDensity = 880.0; ///< kg/m³

/// All that one engine remembers from one step to the next. SI; shares are 0 … 1.
struct EngineState {
    // fast
    double n = 0.0;           ///< rev/s
    double quickens = 0.0;    ///< rev/s²
    double manifold = 101325; ///< Pa
    double wideOpen = 101325; ///< Pa with the throttle open, of the step before
    double throttle = 0.03;   ///< area of the opening over that wide open
    double pitch = 1.0;       ///< advance ratio of no power over that on the fine stop
    double airFlow = 0.0;     ///< kg/s, of the step before
    double fuelAir = 0.0;     ///< in the cylinders, vapour
    double uneven = 0.0;      ///< of that, the primer's, and what the walls give more than falls on them
    bool firing = false;
    double kindling = 0.0; ///< share of the turning that a first fire takes
    std::size_t gear = 0;
    double engaged = 1.0; ///< blower clutch
    double turbo = 1.0;   ///< share of its pressure rise, its rotor run up
    double wheel = 0.0;   ///< energy of an inertia starter
    // fuel, kg
    double primed = 0.0;                            ///< given by the primer and not yet gone
    double vapour = 0.0;                            ///< share of that which has evaporated
    double wall = 0.0;                              ///< film on the manifold's walls
    double bowl = 0.0;                              ///< between pump and jets
    double fuelPressure = 0.0;                      ///< Pa
    double taken = 0.0, burnt = 0.0, spilled = 0.0; ///< since the beginning: from the tank, into cylinders, overboard
    // slow
    double headOrCoolant = 288.15, oil = 288.15; ///< K
    double oilMass = 0.0;                        ///< kg
    double gallery = 0.0;                        ///< of the way to the gauge filled with oil
    double oilPressure = 0.0;                    ///< Pa
    double coolant = 1.0;                        ///< share left
    double fouledLeft = 0.0, fouledRight = 0.0;  ///< share of the plugs
    double ice = 0.0;                            ///< share of the throttle's passage
    double water = 0.0;                          ///< kg
    double waterPressure = 0.0;                  ///< Pa
    double chargeBulb = 0.0, airBulb = 0.0;      ///< K that the bulbs in the induction have come to; 0: not yet read
    double starterHeat = 0.0;                    ///< 1: too hot to touch
    bool button = false;                         ///< the cartridge's, held down
    double breech = 0.0;                         ///< s that the cartridge fired last still turns it
    double bearing = 0.0, rings = 0.0;           ///< worn, 1: gone
    double knocking = 0.0;                       ///< knock of the last ten seconds or so
    double fired = 0.0;                          ///< s since the first fire
    double backfire = 0.0;                       ///< s that the last is still heard
    int kicks = 0;                               ///< times that it has kicked back
    double strained = 0.0;                       ///< rods, by turning it against a lock; 1: bent
    double pooled = 0.0;                         ///< kg of fuel that lies under it or in its intake
    double fire = 0.0;                           ///< in intake or stacks; 1: it has burnt what it may not
    bool operator==(const EngineState&) const = default;
};

enum class Smoke { none, black, blue, white, puffs };
enum class Smell { none, fuel, coolant, oil };
enum class Cowl { dry, oil, fuel, coolant };
enum class Sound { even, rough, backfire, bangs, howl, whine, beat, whistle, silent };
std::string_view nameOf(Smoke smoke);
std::string_view nameOf(Smell smell);
std::string_view nameOf(Cowl cowl);
std::string_view nameOf(Sound sound);

/// What is seen, heard, felt and smelt of an engine besides its needles.
struct Signs {
    double shake = 0.0; ///< 0 smooth … 1 it will not stay in its mounts
    Smoke smoke = Smoke::none;
    Smell smell = Smell::none;
    Cowl cowl = Cowl::dry;
    Sound sound = Sound::even;
    bool propellerLeverDead = false;
    bool oneHeadCold = false; ///< of a cylinder that does not fire
    bool turning = false;
    bool flames = false; ///< from the stacks or the intake
};

/// Needles and signs of one engine at a moment.
struct EngineReadings : Readings {
    Signs signs;
    double shaft = 0.0;                            ///< W that the engine makes, negative: it is driven
    double propeller = 0.0;                        ///< W that the propeller takes, negative: it drives
    double standingDrag = 0.0;                     ///< m², of a propeller that stands or is feathered
    double starterAmperes = 0.0, feathering = 0.0; ///< A
    double airDrawn = 0.0;                         ///< Pa/s out of the bottle
    int cartridge = 0;                             ///< one, where it was fired in this step
    double knock = 0.0;                            ///< 0 none … 1 heavy
    double generated = 0.0;                        ///< A that its generator could give now
};

} // namespace amber::powerplant
