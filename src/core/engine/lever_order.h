// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <functional>
#include <string>
#include <vector>

namespace amber::engine {

struct LeverPosition {
    Rotation rpm;
    ManifoldPressure boost;
};

/// One movement of one lever.
struct LeverMove {
    bool rpmLever = false; ///< else the throttle
    LeverPosition to;
};

struct LeverPath {
    std::vector<LeverMove> moves;
    std::string why;   ///< one sentence
    bool clean = true; ///< nowhere beyond the boundary; false only when an end lies beyond it itself
};

/// The order of the levers for a change of power from where they are now (J35): rpm first when power rises, boost
/// first when it falls; the other way round where only that keeps inside the boundary; in steps where neither does.
/// @param permitted most boost at an rpm
LeverPath leverOrder(LeverPosition from, LeverPosition to, const std::function<ManifoldPressure(Rotation)>& permitted);

} // namespace amber::engine
