// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/happened.h"
#include "powerplant/aircraft.h"
#include "powerplant/condition.h"
#include "sortie/sortie.h"

/// A stand-in for an aircraft with an engine recorder: the careful hand flies the sortie on engines of another build,
/// and a recorder writes it down. Made up, deterministic by its seed.
namespace amber::aloft {

struct StandInSetting {
    std::uint64_t seed = 1;
    std::vector<powerplant::Condition> faults; ///< one an engine; empty: none
    double differs = 1.0;                      ///< how much this build differs from the notes: 0 not at all
    double wait = 0.0;                         ///< s longer at the holding point than planned
};

/// What a recorder writes each second, and what it does not know.
struct StandInFlight {
    std::vector<std::string> headings;     ///< the first is the time
    std::vector<std::vector<double>> rows; ///< a row a second; s, then figures in the units of the headings; NaN: none
    // The truth, by which what is said along the way is judged.
    struct Second {
        Phase phase = Phase::walkRound;
        std::vector<Readings> engines; ///< needles as they are, before rounding
        double fuel = 0.0;             ///< m³ in all tanks
        std::vector<double> tanks;     ///< m³
        int feeding = 0;
    };
    std::vector<Second> truth;  ///< by second
    std::vector<Given> moments; ///< as they really were, by when
};

/// Flies it: some seconds of the processor for a flight of hours.
StandInFlight standInFlight(const powerplant::Aircraft& aircraft, const Sortie& sortie, const StandInSetting& setting);

/// The line of the headings, and one of a row, as the recorder's file has them (commas, a point for decimals).
std::string headingLine(const StandInFlight& flight);
std::string rowLine(const StandInFlight& flight, std::size_t row);

} // namespace amber::aloft
