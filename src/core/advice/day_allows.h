// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/aircraft.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::advice {

/// What may hold a boost down. In the order in which they are told where two are as low.
enum class Bound { rating, grade, knock, charge, cooling, throttle };
std::string_view nameOf(Bound bound);

/// One bound over the rpm: most boost at each, Pa absolute.
struct BoundLine {
    Bound bound;
    std::vector<std::pair<double, double>> points; ///< rev/s → Pa, rising rpm
};

/// The greatest setting of a phase inside everything: rating, grade, knock boundary, charge temperature, heads or
/// coolant with the flap fully open, throttle.
struct DayAllows {
    Phase phase = Phase::takeOff;
    std::string rating; ///< name
    std::string gear;
    Length height;                         ///< above sea level, where the phase sets it
    Rotation rpm;                          ///< at which it gives most power
    std::optional<ManifoldPressure> boost; ///< none: no boost gauge, the throttle is open
    Power power, standard;                 ///< each engine: here, and of the rating at sea level on the standard day
    Bound binds = Bound::rating;
    std::string sentence; ///< what binds and what it costs
    Rotation plannedRpm;
    ManifoldPressure plannedBoost; ///< that comes, as planned
    bool planned = false;          ///< the plan has it so already
    std::vector<BoundLine> lines;  ///< for the map; empty where the throttle alone decides
    /// Where the throttle alone decides: what the engine gives wide open and what the blades take, rev/s → W.
    std::vector<std::pair<double, double>> gives, takes;
};

DayAllows dayAllows(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                    Phase phase);
/// The bound of one kind at an rpm, Pa; nothing where it does not hold here.
std::optional<double> boundAt(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                              Phase phase, Bound bound, Rotation rpm);
/// The sortie with that setting taken.
Sortie taken(const TypeNotes& notes, Sortie sortie, const DayAllows& allowed);

} // namespace amber::advice
