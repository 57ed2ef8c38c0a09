// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/flown.h"
#include <string>
#include <vector>

namespace amber::plan {

struct CurvePoint {
    double x, y; ///< SI
};
struct Curve {
    std::string label;
    std::size_t gear = 0;
    std::vector<CurvePoint> points;
};

/// Boost against pressure altitude at the climb's rpm: full-throttle curves per gear, their full-throttle heights, and
/// the line the plan follows (x: m pressure altitude, y: Pa absolute).
struct ClimbPicture {
    std::vector<Curve> fullThrottle;
    std::vector<CurvePoint> fullThrottleHeights; ///< one a gear that has one in the picture
    std::vector<std::string> heightGears;        ///< gear names of those
    std::vector<CurvePoint> planned;
    double top = 6000.0; ///< m, right end of the picture
};
ClimbPicture climbPicture(const Aircraft& aircraft, const Sortie& sortie, const Flown& flown);

/// Brake power against pressure altitude at the cruise's rpm and mixture: lines of constant boost in each gear up to
/// full throttle, the full-throttle envelopes, and the planned point (x: m pressure altitude, y: W per engine).
struct CruisePicture {
    std::vector<Curve> constantBoost;
    std::vector<Curve> fullThrottle;
    CurvePoint planned{0, 0};
    std::size_t plannedGear = 0;
    double top = 6000.0;
};
CruisePicture cruisePicture(const Aircraft& aircraft, const Sortie& sortie, const Flown& flown);

} // namespace amber::plan
