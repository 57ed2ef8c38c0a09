// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <utility>

namespace amber::plan {

/// Ends of a gauge's dial, SI: the notes' own, else what its bands and a value want, with a margin of 15 %.
std::pair<double, double> dialOf(const GaugeNotes& gauge, double value);

} // namespace amber::plan
