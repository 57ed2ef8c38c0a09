// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"

namespace amber::advice {

/// One rate of descent at the let-down's speed, and what it costs.
struct LetDownWay {
    VerticalSpeed rate;                                ///< down, positive
    double duration = 0.0, distance = 0.0, fuel = 0.0; ///< s, m, m³
    std::optional<ManifoldPressure>
        boost;            ///< that this rate leaves room for at the let-down's rpm; none: throttle shut
    Power power;          ///< needed each engine; negative: even shut she would go faster
    double cooling = 0.0; ///< K, fall of heads or coolant in the first minute when it is set at once
    Temperature least;    ///< lowest on the way
    watch::Verdict verdict;
    bool planned = false;
};
/// Faster let-downs need less power at the same speed: what that does to the temperatures when it is taken off at once.
/// The planned rate and others; power by the drag polar.
std::vector<LetDownWay> letDownWays(const powerplant::Aircraft& aircraft, const Sortie& sortie,
                                    const flight::Flown& flown);

} // namespace amber::advice
