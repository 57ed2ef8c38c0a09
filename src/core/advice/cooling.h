// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/curve.h"
#include "flight/flown.h"

namespace amber::advice {

/// One speed to climb or cruise at, and what it does to the heads or the coolant.
struct CoolingWay {
    Speed ias;
    VerticalSpeed rate;     ///< of climb at the plan's power; near nothing in level flight
    Temperature settles;    ///< at the plan's opening
    heat::FlapNeed need;    ///< to stay in the normal range
    watch::Verdict verdict; ///< on `settles`
    bool planned = false;
};

/// What may be done about heads or coolant that pass amber, and what it brings.
struct CoolingRemedy {
    std::string what;
    double change = 0.0; ///< K, of where it settles; negative cools
    std::string cost;
};

/// Cooling in the climb or cruise at the hottest moment of the phase: where heads or coolant settle against
/// speed for openings of the flap (x: m/s IAS, y: K).
struct CoolingPicture {
    std::vector<flight::Curve> openings; ///< label "shut", "one third" …
    flight::CurvePoint planned{0, 0};    ///< speed flown, temperature there
    double opening = 0.0;                ///< planned
    Length height;
    std::optional<Temperature> amber, red;
    watch::Verdict planSettles;       ///< on where the planned setting settles, in words; without a normal range none
    std::optional<Temperature> boils; ///< coolant, at this height
    std::vector<CoolingWay> ways;
    std::vector<CoolingRemedy> remedies; ///< the most helpful first
};
/// @param phase climb or cruise
CoolingPicture coolingPicture(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                              Phase phase);

} // namespace amber::advice
