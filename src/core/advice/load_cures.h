// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/aircraft.h"
#include <string>
#include <vector>

namespace amber::advice {

/// A way to bring weight and balance inside for the whole flight, tried by flying it.
struct LoadCure {
    enum class Kind { move, ballast, leave, tankOrder, fuelElsewhere };
    Kind kind = Kind::move;
    std::string text;  ///< "Move 140 lb from Aft cabin to Forward cabin"
    Sortie sortie;     ///< with it applied
    double room = 0.0; ///< m inside the nearer limit at the worst moment
};

/// Least room, m, inside the envelope over the whole flight; the moment of it in `at`.
double leastRoom(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                 double* at = nullptr);

/// Cures for a load that goes out of the envelope somewhere: the least that suffices of each kind, every one flown and
/// seen to work. Empty when all is well, or when nothing that can be moved is enough.
std::vector<LoadCure> loadCures(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

} // namespace amber::advice
