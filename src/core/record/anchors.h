// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "record/log.h"
#include "record/moments.h"
#include "record/trace.h"
#include <optional>
#include <vector>

namespace amber::record {

/// The moments of a run, found by these rules:
/// - first fire of an engine: its rpm reach half of the notes' slowest on the ground (300 rpm without one) and stay
///   there for 5 s;
/// - take-off power: the first 5 s in which every engine that is seen has 94 % of the take-off rating's rpm and, where
///   both are known, its boost within 7 kPa; without such, the first time the greatest power seen is reached within
///   3 hundredths;
/// - top of climb: the first moment within 60 m of the greatest height, after take-off power; top of descent: the last;
/// - stop: the last moment at which an engine's rpm were over a quarter of that slowest.
Anchors findAnchors(const RunTrace& trace, const TypeNotes& notes);
/// The same, with those that stand in the log in their place (s from the beginning of the run).
Anchors anchorsOf(const RunTrace& trace, const TypeNotes& notes, const std::vector<Standing>& standing,
                  std::int64_t began);

/// One of them.
struct AnchorAt {
    const MomentRow* row = nullptr;
    std::string engine; ///< position id, of a first fire
    std::int64_t at = 0;
};
/// Those that there are, by when they were.
std::vector<AnchorAt> listed(const Anchors& anchors, const TypeNotes& notes);

/// Slowest rpm on the ground of the notes (warm_up least_rpm), rev/s; 10 where they do not say (ours).
double idleOf(const TypeNotes& notes);

/// The phase at a moment: warm-up from the first fire, run-up where the rpm are high before take-off, take-off until
/// its rating is left, climb, cruise, let-down, landing under 300 m over where it ended, stop after the last of it.
/// Phase by moment of the trace.
std::vector<Phase> phasesOf(const RunTrace& trace, const Anchors& anchors, const TypeNotes& notes);

} // namespace amber::record
