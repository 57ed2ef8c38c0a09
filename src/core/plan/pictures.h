// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/curve.h"
#include "flight/flown.h"
#include <string>
#include <vector>

namespace amber::plan {

/// Boost against pressure altitude at the climb's rpm: full-throttle curves per gear, their full-throttle heights, and
/// the line the plan follows (x: m pressure altitude, y: Pa absolute).
struct ClimbPicture {
    std::vector<flight::Curve> fullThrottle;
    std::vector<flight::CurvePoint> fullThrottleHeights; ///< one a gear that has one in the picture
    std::vector<std::string> heightGears;                ///< gear names of those
    std::vector<flight::CurvePoint> planned;
    double top = 6000.0; ///< m, right end of the picture
};
ClimbPicture climbPicture(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

/// Brake power against pressure altitude at the cruise's rpm and mixture: lines of constant boost in each gear up to
/// full throttle, the full-throttle envelopes, and the planned point (x: m pressure altitude, y: W per engine).
struct CruisePicture {
    std::vector<flight::Curve> constantBoost;
    std::vector<flight::Curve> fullThrottle;
    flight::CurvePoint planned{0, 0};
    std::size_t plannedGear = 0;
    double top = 6000.0;
};
CruisePicture cruisePicture(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

} // namespace amber::plan
