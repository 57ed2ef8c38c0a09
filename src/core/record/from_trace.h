// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include "record/anchors.h"
#include "record/entry.h"
#include "record/log.h"
#include "record/trace.h"

namespace amber::record {

/// What a trace comes to as entries of the log, so that it is judged, written up and followed like all else that was
/// read:
/// - each stretch of a needle out of its bands (amber from half a minute on), by its worst figure, when it began and
/// how
///   long it lasted; not the last 15 s before an engine is stopped on the ground, and not rpm that overshoot at
///   take-off by up to 3 % for under 10 s (our own figures: a governor takes some seconds);
/// - fastest fall of heads or coolant in a minute of the let-down, where it was past the notes' most (or our own);
/// - minutes at each rating that has a limit, and seconds of high power on the ground;
/// - each needle in cruise: the median of the middle half of it, beside what the plan expected.
/// Ids are made of their content: the same trace gives the same entries.
/// @param plan of the run's day; null: nothing was planned @param source name of the file, kept as who read it
std::vector<Entry> entriesOf(const RunTrace& trace, const Anchors& anchors, const TypeNotes& notes,
                             const plan::Plan* plan, const std::string& run, const std::string& source);

/// What a log must keep beside a moment of a run that is put elsewhere: what its traces come to now supersedes what
/// they had come to, and what they no longer come to is withdrawn. What somebody has corrected by hand stays, and so
/// does what is as it was. All are entered when the moment is; ids are for the caller to give.
/// @param log what it has of the run, without the moment @param blocks all traces of the run
std::vector<Entry> reckonedAnew(const Log& log, const Entry& moment, const Run& run,
                                const std::vector<TraceBlock>& blocks, const TypeNotes& notes, const plan::Plan* plan);

} // namespace amber::record
