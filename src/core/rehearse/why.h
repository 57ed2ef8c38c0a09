// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/rehearsal.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::rehearse {

/// Where a chain of why ends: what could have been done otherwise.
enum class Root {
    unknown,
    fault,    ///< it came by the set-up
    noTry,    ///< nobody turned it
    dose,     ///< of the primer, too little or too much
    switches, ///< ignition, booster coil, fuel, mixture, battery
    tooShort, ///< not turned long enough
    spark,    ///< advanced
    lock,     ///< turned against a hydraulic lock
    ice,      ///< heat not used, or too late
    tank,     ///< run dry
    stopped,  ///< by a hand that did not have to
    power,    ///< less set than was planned
    cold,     ///< not waited for
    cooling,  ///< throttle shut, flaps open
    path,     ///< a phase begun too early
};

/// An aim that was not met, with its cause followed back through the engine's own state, the nearest first.
struct Unmet {
    watch::AimResult result;
    std::vector<std::string> because;
    Root root = Root::unknown;
    std::size_t engine = 0;         ///< where the root lies
    std::optional<double> begun;    ///< s, when the root began
    Phase phase = Phase::walkRound; ///< then
    /// "No. 2: it never ran ← vapour 0.02 where 0.05 fires ← 1 stroke where 4 to 8 fire".
    [[nodiscard]] std::string sentence() const;
};

/// Every aim not met by itself, those that lead first. @param ended as watch::Aims::results
std::vector<Unmet> unmet(const Rehearsal& rehearsal, bool ended);

} // namespace amber::rehearse
