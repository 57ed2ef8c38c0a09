// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include "record/what.h"
#include "units/result.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::record {

/// One thing that is read in a phase, beside what the plan of the day expects there.
struct ReadLine {
    std::string what; ///< key of whatRows
    std::string title;
    bool eachEngine = true;         ///< else of the aircraft: one figure
    const UnitSpec* unit = nullptr; ///< of this cockpit; null: a count
    std::optional<double> planned;  ///< SI, of every engine
    std::vector<double> each;       ///< SI, an engine: where they are not planned alike
    Origin origin = Origin::model;  ///< of it
    std::string moment;             ///< of the phase that it is for: "at the end"
    std::optional<Gauge> gauge;     ///< that has limits, which judge it
    double span = 1.0;              ///< SI, of the dial: how far a needle can be off
};

/// What is read in a phase, in the order of the page: its clocks and counts, the needles of its Expect column, what is
/// filled up. Every needle once, as the plan names it first.
std::vector<ReadLine> readLines(const plan::Plan& plan, const TypeNotes& notes, Phase phase);

/// A figure of a scan that was typed in one line.
struct QuickRead {
    std::size_t line = 0;        ///< index of the lines
    std::size_t engine = 0;      ///< 0 for what is the aircraft's
    std::optional<double> value; ///< SI or a count; none: looked, in its band
};
/// A whole scan, line after line: "33 2100 182/201 68/71 . 15.5". One figure is every engine's, figures with strokes
/// between are one engine's each; a full stop: looked, in its band; a dash: not read. Figures are in the cockpit's
/// units, and within the log's ranges; a line that is not given stays unread.
/// @return why not, with which figure; then nothing of it is taken
Result<std::vector<QuickRead>> readQuickLine(const std::vector<ReadLine>& lines, std::size_t engines,
                                             std::string_view text);

} // namespace amber::record
