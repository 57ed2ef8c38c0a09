// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/debrief.h"
#include <string>

namespace amber::rehearse {

/// The debrief for programs, SI (docs/formats/rehearsal.md).
std::string debriefJson(const Debrief& debrief, const TypeNotes& notes);
/// A careful hand's run beside its plan, phase by phase.
std::string carefulJson(const hand::HandRun& run, const flight::Flown& plan);

} // namespace amber::rehearse
