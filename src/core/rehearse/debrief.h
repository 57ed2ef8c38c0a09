// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/guide.h"
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

/// Whom a line is about, in the order in which they matter: an engine spent for height was well spent.
enum class About { people, aircraft, engine, next };
const char* titleOf(About about);

/// One sentence of a debrief with its moment.
struct DebriefLine {
    About about = About::people;
    std::optional<Milliseconds> at; ///< none: of the whole
    std::string text;
    watch::Colour colour = watch::Colour::normal;
};

/// What a rehearsal comes to, by order, by needles and by faults: each line with its moment.
struct Debrief {
    double seconds = 0.0;                           ///< of the whole rehearsal
    double fuel = 0.0;                              ///< m³
    Phase last = Phase::walkRound;                  ///< come to
    double plannedSeconds = 0.0, plannedFuel = 0.0; ///< of the phases come to: s, m³
    std::size_t asked = 0, inTurn = 0, stood = 0;
    std::vector<DrillAct> acts; ///< of the drill, in its order: every one that was asked for in the phases rehearsed
    std::vector<watch::Finding> findings;
    std::vector<FaultMet> faults;
    std::vector<Spent> costs;
    /// What was asked on the way.
    struct Answered {
        Milliseconds at = 0;
        std::string question, answer, rightly;
        bool right = false;
    };
    std::vector<Answered> questions;
    std::vector<ItemAnswered> items; ///< of lists that were challenged
    /// Line by line: people first, then the aircraft, then the engines and what the engineer is told, then what to
    /// practise next. What went well is said once.
    [[nodiscard]] std::vector<DebriefLine> lines(const TypeNotes& notes) const;
    /// The same as text, each with its moment.
    [[nodiscard]] std::vector<std::string> sentences(const TypeNotes& notes) const;
};

/// @param reference what the careful hand puts in the same sortie, the schools that the person chose kept
Debrief debrief(const Rehearsal& rehearsal, const hand::HandRun& reference);

} // namespace amber::rehearse
