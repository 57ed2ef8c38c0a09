// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"

namespace amber::advice {

/// Where the waiting begins.
enum class GroundFrom { warmUp, holding };

/// One way to wait on the ground, and how long it can be borne.
struct GroundRun {
    std::string name;
    std::optional<double> toAmber, toRed; ///< s from now; none: not within two hours
    Temperature settles;                  ///< heads or coolant, if it went on for ever
    std::string why;
    bool planned = false;
};

/// The time budget on the ground: how long heads or coolant stay normal and within their limit, as planned and in
/// other ways, today.
struct GroundBudget {
    Temperature headOrCoolant;             ///< now
    std::optional<Temperature> amber, red; ///< end of the normal range, limit
    std::vector<GroundRun> runs;           ///< the planned one first
    watch::Verdict queue;                  ///< whether the sortie's queue fits, in words; none waits: nothing said
    std::optional<Rotation>
        rpmForEver;                ///< highest at which it stays normal for ever, standing in calm air; none: none does
    std::optional<double> stopFor; ///< s of standing still that bring it well under amber; none: it need not
    double thenToAmber = 0.0;      ///< s that it lasts again after that, or the horizon
    static constexpr double horizon = 2 * 3600.0; ///< s
};
GroundBudget groundBudget(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                          GroundFrom from);

} // namespace amber::advice
