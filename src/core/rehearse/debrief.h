// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/rehearsal.h"
#include <string>
#include <vector>

namespace amber::rehearse {

/// One act that the drill of these notes asks for, and how the person did it.
struct DrillAct {
    enum class Done {
        inTurn,  ///< in its phase and its order
        early,   ///< in its phase, before what should have been done first
        late,    ///< in its phase, after what should have waited for it
        another, ///< in another phase
        stood,   ///< not touched: it stood so already
        leftOut,
    };
    Phase phase = Phase::walkRound;
    std::size_t control = 0, engine = 0;
    std::string to; ///< position, or the figure in words
    Done done = Done::leftOut;
    double at = 0.0; ///< s, when the person did it; NaN: never
};

/// A fault and the person: how long until it was called, and what was done first.
struct FaultMet {
    Came came;
    std::optional<double> called;           ///< s from its beginning until it was called by its name
    std::vector<powerplant::Fault> wrongly; ///< called before that, and not it
    std::string first;                      ///< the first act after its beginning, in words; empty: none
    double firstAfter = 0.0;                ///< s
};

/// s that a needle may be amber unnamed: while it moves it passes through.
inline constexpr double passing = 10.0;

/// What a rehearsal comes to, by order, by needles and by faults: each line with its moment.
struct Debrief {
    double seconds = 0.0; ///< of the whole rehearsal
    double fuel = 0.0;    ///< m³
    std::size_t asked = 0, inTurn = 0, stood = 0;
    std::vector<DrillAct> acts; ///< of the drill, in its order: every one that was asked for in the phases rehearsed
    std::vector<watch::Finding> findings;
    std::vector<FaultMet> faults;
    /// In sentences, people first, then the aircraft, then the engines: what went well is said once, what did not line
    /// by line, each with its moment.
    [[nodiscard]] std::vector<std::string> sentences(const TypeNotes& notes) const;
};

/// @param reference what the careful hand puts in the same sortie, the schools that the person chose kept
Debrief debrief(const Rehearsal& rehearsal, const hand::HandRun& reference);

} // namespace amber::rehearse
