// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "record/log.h"
#include "record/trace.h"
#include "watch/aims.h"
#include <string>
#include <vector>

namespace amber::record {

/// An aim that was not met by what stands in a run.
struct NotMet {
    watch::AimResult result;
    std::string entry; ///< id of what shows it
};

/// Which engine's aims a recorder's trace did not meet: oil pressure in its seconds, minima before opening up and
/// before take-off power, running on in the air, cooled before the stop. What the trace has no needle for is not
/// judged, nor is a start (a recorder is switched on when it is).
/// @param phases by moment of the trace, as phasesOf has them @param flown the plan of the day; null: not known
std::vector<watch::AimResult> notMet(const RunTrace& trace, const std::vector<Phase>& phases, const TypeNotes& notes,
                                     const flight::Flown* flown = nullptr);

/// The same of what was typed: each figure at its time, a needle held until it is read again; the run-up sheet's lines
/// tell that the engine was opened up, take-off readings that it took take-off power.
std::vector<NotMet> notMet(const std::vector<Standing>& all, const TypeNotes& notes);

} // namespace amber::record
