// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/wind.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace amber::air {

WindOnTrack onTrack(const Wind& wind, double trackDegrees) {
    const double off = (wind.fromDegrees - trackDegrees) * std::numbers::pi / 180.0;
    return {-wind.speed.si() * std::cos(off), wind.speed.si() * std::sin(off)};
}

double groundSpeed(double v, const WindOnTrack& w) {
    return std::max(0.0, std::sqrt(std::max(0.0, v * v - w.across * w.across)) + w.along);
}

} // namespace amber::air
