// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "record/log.h"
#include <optional>
#include <string>
#include <vector>

/// Two ways of doing a thing, tried on the runs of an airframe, and what of it shows in the readings.
namespace amber::record {

/// What one reading tells of two ways.
struct Effect {
    std::string what, engine; ///< key of the log, position id
    Phase phase = Phase::climb;
    bool againstPlan = false;               ///< residuals of each run's own day; else the figures themselves
    std::size_t first = 0, second = 0;      ///< runs of each way
    double by = 0.0, low = 0.0, high = 0.0; ///< SI, how much more the second way reads, and the interval of 99 %
    bool tells = false;
    /// SI: what it would have changed by without the trial, by how it went on within each way meanwhile; where that is
    /// a third of the difference or more, nothing is told.
    double drift = 0.0;
    std::optional<int> more; ///< runs of each way that it would take if the difference is as it looks; none: hundreds
    std::string words;
};

struct Trial {
    std::string name, first, second; ///< "intakes", "open", "blanked"
    std::size_t firstRuns = 0, secondRuns = 0;
    std::vector<Effect> effects; ///< those that tell first, by how surely
    bool interleaved = true; ///< runs of the two ways take turns: else whatever changed with time looks like the trial
};

/// Every trial of an airframe: runs are marked by words of *trial*, "intakes: blanked". Where only a name is written
/// the other way is the runs that do not name it, from half a year before the first that does. Of more than two ways
/// each is held against the most flown. Figures are compared as what they are off the plan of their own day, a run one
/// figure, by Hodges and Lehmann's difference and its rank-sum interval. What changes with time in the runs of one way
/// by itself (Theil and Sen's slope) is no effect of the other.
std::vector<Trial> trialsOf(const Log& log, const std::string& airframe, const TypeNotes& notes);

} // namespace amber::record
