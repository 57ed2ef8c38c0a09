// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/guide.h"
#include "rehearse/rehearsal.h"
#include "rehearse/why.h"
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
        wrong, ///< done, otherwise than the day wants: `by`
    };
    Phase phase = Phase::walkRound;
    std::size_t control = 0, engine = 0;
    std::string to; ///< position, or the figure in words
    Done done = Done::leftOut;
    double at = 0.0;                  ///< s, when the person did it; NaN: never
    std::string by{};                 ///< of a wrong one: "1 stroke for 4 (3 to 9 fire)", "30 inHg for 40"
    hand::Put asked{};                ///< as the drill puts it
    std::optional<std::size_t> act{}; ///< index of the act that was taken for it
    double due = 0.0;                 ///< s of the rehearsal, when it should have been done
    double lateBy = 0.0;   ///< s after the act before it, more than the drill takes there; told where it harmed
    double earlyBy = 0.0;  ///< s, what was waited for before it was cut short
    bool harmful = false;  ///< so late that it came out otherwise (mend())
    bool noEffect = false; ///< put right, nothing that is read comes out otherwise (mend())
};

/// Done in its turn, or standing so already.
inline bool isWell(const DrillAct& act) {
    return act.done == DrillAct::Done::inTurn || act.done == DrillAct::Done::stood;
}

/// An act that no drill asked for, nor the day.
struct Extra {
    Phase phase = Phase::walkRound;
    std::size_t act = 0; ///< index
    std::string words;
    double at = 0.0;      ///< s
    bool harmful = false; ///< without it, it would have come out otherwise (mend())
};

/// One act put right, and what it would have come to: flown again with nothing else changed.
struct Mended {
    std::string act;      ///< "with Carb. heat to hot at 20:18"
    std::string comes;    ///< "it holds 2,500 ft"
    bool reaches = false; ///< the aim that leads is met
    double better = 0.0;  ///< less harm than there was, of all harm; 0 … 1
    std::optional<Milliseconds> at;
    std::optional<std::size_t> drillAct, extra; ///< indices of what it puts right; none: what the day wanted
    std::optional<Phase> phase;                 ///< that was begun too early
    std::optional<std::size_t> control;         ///< whose act it is; none: a phase's
    int engine = -1;                            ///< index; −1: all
    bool besides = false;                       ///< once the one before it is put right: a second thing
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
enum class About { outcome, people, aircraft, engine, next };
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
    std::optional<Over> over;
    std::vector<Unmet> unmet; ///< aims that were not met, those that lead first
    std::size_t aimsMet = 0;  ///< of the phases come to
    std::vector<EngineStory> stories;
    std::vector<Extra> extras;
    std::vector<Mended> mended; ///< best first; empty until mend() has flown them
    bool counted = false;       ///< mend() has flown what it could
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
    /// Every aim met, no limit and no rate passed, no act missing or beyond its tolerance that made a difference.
    [[nodiscard]] bool nothingToMend() const;
    /// Line by line: what it came to and why, then people, then the aircraft, then the engines and what the engineer is
    /// told, then what to practise next. What went well is said once.
    [[nodiscard]] std::vector<DebriefLine> lines(const TypeNotes& notes) const;
    /// The same as text, each with its moment.
    [[nodiscard]] std::vector<std::string> sentences(const TypeNotes& notes) const;
};

/// @param reference what the careful hand puts in the same sortie, the schools that the person chose kept
Debrief debrief(const Rehearsal& rehearsal, const hand::HandRun& reference);

} // namespace amber::rehearse
