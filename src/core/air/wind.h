// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/day.h"

namespace amber::air {

/// A wind against a track: m/s along it (a tail wind is positive) and across it.
struct WindOnTrack {
    double along = 0.0, across = 0.0;
    bool operator==(const WindOnTrack&) const = default;
};
WindOnTrack onTrack(const Wind& wind, double trackDegrees);
/// Speed over the ground at a true airspeed: √(V² − across²) + along, the wind triangle; 0 where the wind is stronger.
double groundSpeed(double trueAirspeed, const WindOnTrack& wind);

} // namespace amber::air
