// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include "record/entry.h"
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
    bool eachEngine = true;                ///< else of the aircraft: one figure
    const UnitSpec* unit = nullptr;        ///< of this cockpit; null: a count
    std::optional<double> planned;         ///< SI, of every engine
    std::vector<double> each;              ///< SI, an engine: where they are not planned alike
    Origin origin = Origin::model;         ///< of it
    std::string moment;                    ///< of the phase that it is for: "at the end"
    std::string want;                      ///< in words, where no single figure is planned: "350 to 450 rpm"
    std::optional<Gauge> gauge;            ///< that has limits, which judge it
    double span = 1.0;                     ///< SI, of the dial: how far a needle can be off
    std::optional<watch::SheetLine> sheet; ///< that it is, of the run-up sheet
    std::optional<WalkItem> item;          ///< that it is, of the walk-round
};

/// What is read in a phase, in the order of the page: the items of the walk-round, the lines of the run-up sheet,
/// clocks and counts, the needles of the Expect column, what is filled up. Every needle once, as the plan names it
/// first.
std::vector<ReadLine> readLines(const plan::Plan& plan, const TypeNotes& notes, Phase phase);

/// What was typed for a line, as it is kept.
struct Typed {
    Entry::Kind kind = Entry::Kind::figure;
    double value = 0.0; ///< SI or a count, of a figure
    std::string words;  ///< a defect found; a figure as it was written, where only the notes know its unit
    bool operator==(const Typed&) const = default;
};
/// Reads it: a figure in the cockpit's unit or with its own, "80 slow" of a magneto, a defect in words of what is
/// looked at. @return why it cannot be taken
Result<Typed> readTyped(const ReadLine& line, std::string_view text);
/// The same as it is shown: "182 °C", "80 rpm, slow", "in its band".
std::string shownAs(const ReadLine& line, const Entry& entry);

/// A figure of a scan that was typed in one line.
struct QuickRead {
    std::size_t line = 0;   ///< index of the lines
    std::size_t engine = 0; ///< 0 for what is the aircraft's
    Typed typed;
};
/// A whole scan, line after line: "33 2100 182/201 68/71 . 15.5". One figure is every engine's, figures with strokes
/// between are one engine's each; a full stop: looked, in its band; a dash: not read. Figures are in the cockpit's
/// units, and within the log's ranges; a line that is not given stays unread.
/// @return why not, with which figure; then nothing of it is taken
Result<std::vector<QuickRead>> readQuickLine(const std::vector<ReadLine>& lines, std::size_t engines,
                                             std::string_view text);

} // namespace amber::record
