// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"

namespace amber::advice {

/// The climb at the top of one band of height: what the needles show there, and what it took to come so far.
struct ClimbBand {
    Length height; ///< above sea level, the band's top
    Speed ias;
    Rotation rpm;
    ManifoldPressure boost; ///< that comes
    std::size_t gear = 0;
    VerticalSpeed rate;
    Temperature headOrCoolant, charge;
    double time = 0.0, fuel = 0.0, distance = 0.0; ///< s, m³, m since the climb began
};

/// The planned climb by bands, at most ten, of a round height in the cockpit's unit; the last ends where the climb
/// does.
std::vector<ClimbBand> climbBands(const powerplant::Aircraft& aircraft, const Sortie& sortie,
                                  const flight::Flown& flown);

} // namespace amber::advice
