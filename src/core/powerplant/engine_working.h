// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/engine.h"
#include "start/cranking.h"

/// Shared by the files of Engine; nobody else includes it.
namespace amber::powerplant {

inline constexpr double bowlSeconds = 4.0;      // of rated fuel flow, between pump and jets
inline constexpr double oilOfFuel = 0.008;      // oil used over fuel burnt, by mass: usual of such engines
inline constexpr double galleryDrains = 3600.0; // s until it stands empty
inline constexpr double waterNominal = 1.5e5;   // Pa

struct Engine::Working {
    EngineState& s;
    const EngineLevers& l;
    const Effects& e;
    const Learnt& learnt;
    const Surroundings& a;
    double dt; ///< s
    double rho = 1.2, tas = 0.0;
    engine::OperatingPoint p{};
    double metered = 0.08; ///< fuel–air ratio that the carburettor sends
    double ignition = 0.0; ///< share of full power that the sparks give
    double oneSpark = 0.0; ///< share of the charges lit by one plug of two
    double fires = 0.0;    ///< share of the charges that burn, by their mixture
    double quality = 0.0;  ///< of the indicated power
    double shaft = 0.0;    ///< W
    double propeller = 0.0;
    bool meshed = false;
    start::Cranking crank{};
    EngineReadings out{};
};

} // namespace amber::powerplant
