// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "loading/load_sheet.h"
#include "watch/verdict.h"

namespace amber::loading {

/// How far forward and aft the centre of gravity may be at a weight, m aft of the datum: between the notes' lines, and
/// as the last of them beyond. NaN where the notes give no envelope.
struct Limits {
    double forward, aft;
};
Limits limitsAt(const LoadingNotes& notes, double kilograms);

/// Where a weight and its centre of gravity lie.
struct Place {
    double fromForward = 0.0, fromAft = 0.0; ///< m inside either limit; negative: outside
    double width = 0.0;                      ///< m between them
    [[nodiscard]] double room() const { return std::min(fromForward, fromAft); }
};
Place placeOf(const LoadingNotes& notes, const Balance& balance);
/// The colour of a place, and why: `when` is put after it, "at take-off".
watch::Verdict judgeBalance(const TypeNotes& notes, const Balance& balance, const std::string& when);
/// Weight against a greatest weight.
watch::Verdict judgeWeight(const TypeNotes& notes, double kilograms, double most, const std::string& what);
/// What stands at a station against what it may carry.
watch::Verdict judgeStation(const TypeNotes& notes, const SheetLine& line);
/// Moment about the middle against the most.
watch::Verdict judgeSideways(const TypeNotes& notes, const Balance& balance, const std::string& when);

/// Trim for take-off: between the table's centres of gravity, weights and nothing else.
struct TrimAdvice {
    std::string flap;
    double trim = 0.0;
    std::string text;  ///< "3.2 divisions nose up"
    bool held = false; ///< beyond the table: its end
};
std::vector<TrimAdvice> trimFor(const TypeNotes& notes, const Balance& balance);

} // namespace amber::loading
