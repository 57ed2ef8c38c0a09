// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/flown.h"

namespace amber::plan {

/// The climb at the top of one band of height: what the needles show there, and what it took to come so far.
struct ClimbBand {
    Length height; ///< above sea level, the band's top
    Speed ias;
    Rotation rpm;
    ManifoldPressure boost; ///< that comes
    std::size_t gear = 0;
    VerticalSpeed rate;
    Temperature metal, charge;
    double time = 0.0, fuel = 0.0, distance = 0.0; ///< s, m³, m since the climb began
};

/// The planned climb by bands, at most ten, of a round height in the cockpit's unit; the last ends where the climb
/// does.
std::vector<ClimbBand> climbBands(const Aircraft& aircraft, const Sortie& sortie, const Flown& flown);

} // namespace amber::plan
