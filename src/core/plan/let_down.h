// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/flown.h"

namespace amber::plan {

/// One rate of descent at the let-down's speed, and what it costs.
struct LetDownWay {
    VerticalSpeed rate;                                ///< down, positive
    double duration = 0.0, distance = 0.0, fuel = 0.0; ///< s, m, m³
    std::optional<ManifoldPressure>
        boost;            ///< that this rate leaves room for at the let-down's rpm; none: throttle shut
    Power power;          ///< needed each engine; negative: even shut she would go faster
    double cooling = 0.0; ///< K, fall of heads or coolant in the first minute when it is set at once
    Temperature least;    ///< lowest on the way
    watch::Colour colour = watch::Colour::normal;
    std::string sentence;
    bool planned = false;
};
/// A fall of heads or coolant in a minute, K, against the most: the one place where it is judged.
watch::Colour coolingColour(const CoolingLimit& limit, double fall);

/// Faster let-downs need less power at the same speed: what that does to the temperatures when it is taken off at once.
/// The planned rate and others; power by the drag polar.
std::vector<LetDownWay> letDownWays(const Aircraft& aircraft, const Sortie& sortie, const Flown& flown);

} // namespace amber::plan
