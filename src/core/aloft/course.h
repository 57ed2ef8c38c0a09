// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/happened.h"
#include "flight/flown.h"

namespace amber::aloft {

/// A moment as the plan has it.
struct Planned {
    const record::MomentRow* row = nullptr;
    std::string engine; ///< position id, where it is one engine's
    double at = 0.0;    ///< s of the plan
    /// Whether the plan waits for it: until the engine fires there is no warm-up, until she is at the top no cruise.
    /// The reduction and the change of gear go by without being pressed for.
    bool waited = true;
};
/// Those of a plan, in its order: each engine's first fire, taxi, take-off power, climb power, change of gear, top of
/// climb and of descent, touch-down, each engine stopped.
std::vector<Planned> plannedMoments(const flight::Flown& flown, const TypeNotes& notes);

/// Real time against the plan's: phases begin at the moments that were given, not by the plan's clock. What of the plan
/// lies between two of them goes by at its own pace and then waits, or is left out where they came sooner; climb and
/// let-down are stretched, for height goes with them. From the last one on the plan goes at its own pace up to the next
/// moment that it waits for, and stands there until it comes.
///
/// A pure function of plan, moments and now. Times are s: real ones from the beginning of the run, the plan's from the
/// first look at the tyres.
class Course {
public:
    Course(const flight::Flown& flown, const TypeNotes& notes, const Happened& happened, double now);

    struct Piece {
        double from = 0.0, to = 0.0;         ///< real
        double planFrom = 0.0, planTo = 0.0; ///< the plan's; equal: it stands
        [[nodiscard]] double pace() const { return to > from ? (planTo - planFrom) / (to - from) : 1.0; }
    };
    /// Without gaps: from the plan's beginning to now, then the plan as it is to come.
    [[nodiscard]] const std::vector<Piece>& pieces() const { return pieces_; }
    [[nodiscard]] double now() const { return now_; }
    [[nodiscard]] double planAt(double real) const;
    /// When the plan gets there, the first time; beyond its end: its end.
    [[nodiscard]] double realAt(double plan) const;
    [[nodiscard]] Phase phaseAt(double real) const;
    /// The moment that is waited for next; null: the run is over.
    [[nodiscard]] const Planned* next() const { return next_ < planned_.size() ? &planned_[next_] : nullptr; }
    /// s until it is due by the plan; negative: overdue.
    [[nodiscard]] double nextIn() const;
    /// Given moments in the plan's order, with when they were.
    [[nodiscard]] const std::vector<std::pair<Planned, double>>& kept() const { return kept_; }
    /// Moments that cannot be, in words: pressed out of the order of a flight. They are left out until put right.
    [[nodiscard]] const std::vector<std::pair<Given, std::string>>& refused() const { return refused_; }
    /// The same course, standing from a moment of the plan on (from now, where that is behind), as if the next phase
    /// did not begin. @param until real
    [[nodiscard]] std::vector<Piece> standingAt(double plan, double until) const;

private:
    [[nodiscard]] double standsAt(double plan) const; ///< the last instant before a moment of the plan
    const flight::Flown* flown_;
    std::vector<Planned> planned_;
    std::vector<std::pair<Planned, double>> kept_;
    std::vector<std::pair<Given, std::string>> refused_;
    std::vector<Piece> pieces_;
    std::size_t next_ = 0;
    double now_ = 0.0, planNow_ = 0.0, due_ = 0.0;
};

/// Why a moment cannot be pressed for at that time, in a sentence; empty: it can.
std::string cannotBe(const flight::Flown& flown, const TypeNotes& notes, const Happened& happened, const Given& given);
/// "Port: first fire", "Take-off power".
std::string nameOf(const Planned& planned, const TypeNotes& notes);

} // namespace amber::aloft
