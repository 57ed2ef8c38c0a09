// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/now.h"
#include "aloft/stand_in.h"
#include "flight/open_files.h"
#include <string>
#include <vector>

/// What is said along the way, held against flights by engines of another build.
namespace amber::bench {

/// One thing that was foretold, at an instant at which it is judged.
struct Foretold {
    std::string what;      ///< "minutes to minima", "tank", "fuel when stopped"
    double plan = 0.0;     ///< error of the plan as it was before the flight, SI
    double now = 0.0;      ///< error of what is said then
    double width = 0.0;    ///< of nine in ten, as it was before anything was read
    double widthNow = 0.0; ///< and then
    bool covered = false;
};
struct FlightJudged {
    std::vector<Foretold> foretold;
    int misread = 0, asked = 0; ///< that were misread by over three deviations; asked about
    int good = 0, cried = 0;    ///< good readings; asked about all the same
    double rating = 0.0;        ///< s, greatest error of rating minutes
    int lengthened = 0;         ///< instants at which endurance was over the plan's without two readings
};
/// Moments late, scans left out, two readings of each flight misread.
FlightJudged judgeFlight(const flight::LoadedSortie& loaded, std::uint64_t seed);

} // namespace amber::bench
