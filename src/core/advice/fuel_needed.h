// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/aircraft.h"
#include <string>
#include <vector>

namespace amber::advice {

/// Fuel for one part of the sortie.
struct FuelPart {
    std::string id, what; ///< "climb", "Climb"
    double volume = 0.0;  ///< m³
    double seconds = 0.0;
    double distance = 0.0; ///< m over the ground
    Origin origin = Origin::model;
    std::optional<double> byTable; ///< m³ by the notes' own consumption, where they give the rating's
};

/// What today's flight needs beside what is aboard, and the same turned round.
struct FuelNeeded {
    std::vector<FuelPart> parts; ///< start … landing and stop, alternate, reserve
    double burn = 0.0, alternate = 0.0, reserve = 0.0, needed = 0.0;
    double aboard = 0.0;   ///< usable, m³
    double unusable = 0.0; ///< stays in the tanks
    double margin = 0.0;   ///< aboard less needed, m³; negative: short
    double flow = 0.0;     ///< m³/s of the cruise
    double ground = 0.0;   ///< m/s over the ground in the cruise, over all its legs
    double marginSeconds = 0.0, marginDistance = 0.0;
    double furthest = 0.0; ///< m over the ground with what is aboard, reserve and alternate kept
    double longest = 0.0;  ///< s from take-off the same way
    watch::Verdict verdict;
    // oil, all engines
    double oilAboard = 0.0, oilBurnt = 0.0, oilLeast = 0.0; ///< m³; 0: the notes do not say
    double oilHours = 0.0;                                  ///< s until the least is left
};

/// From a plan that was flown: the parts add to its burn.
FuelNeeded fuelNeeded(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

/// Fuel to be aboard for another distance with the same settings: flown, not scaled. m³; nothing where it cannot be
/// flown (longer than the tanks hold).
std::optional<double> fuelForDistance(const powerplant::Aircraft& aircraft, const Sortie& sortie, Distance distance);

} // namespace amber::advice
