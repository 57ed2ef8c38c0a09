// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>
#include <vector>

namespace amber::flight {

struct CurvePoint {
    double x, y; ///< SI
};
struct Curve {
    std::string label;
    std::size_t gear = 0;
    std::vector<CurvePoint> points;
};

} // namespace amber::flight
