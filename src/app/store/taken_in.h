// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/from_trace.h"
#include "record/recorder_file.h"
#include "record/write_up.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::app {

/// A recorder's file as it would be kept in a run.
struct TakenIn {
    record::Run run;                            ///< that it is of
    std::optional<record::Recording> recording; ///< none: it could not be read, by the problems
    Problems problems;
    record::Anchors anchors;
    std::vector<record::TraceBlock> blocks;
    std::vector<record::Entry> entries; ///< what it comes to
};
/// What it is, line by line, for people: columns and what they are taken for, what was told, moments found.
struct ToldLine {
    std::string name; ///< of a column or a moment; empty: a sentence
    std::string text;
};
std::vector<ToldLine> toldOf(const TakenIn& taken, const TypeNotes& notes);
/// @param flown aircraft and sortie of the run @param standing what the run has already: anchors that somebody put
TakenIn takeInRecorder(const std::string& path, const record::RunFlown& flown, const plan::Plan& plan,
                       const record::Run& run, const std::vector<record::Standing>& standing);

} // namespace amber::app
