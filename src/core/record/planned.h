// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include <optional>
#include <string_view>

namespace amber::record {

/// What the plan of a day expects of something that is read in a phase, SI: the needles of its Expect column, the
/// minutes of the warm-up, the strokes of the primer, and, in the write-up, the fuel that fills her up to what was in
/// her at the start. Nothing of what it does not foresee.
/// @param engine position id: an airframe's engines may want different doses; empty: what is the same for all of them
std::optional<double> plannedOf(const plan::Plan& plan, Phase phase, std::string_view what,
                                std::string_view engine = {});

/// The same by the notes and the model alone, before anything that the log has taught: what readings are held against,
/// so that the log never learns from itself.
std::optional<double> unlearntOf(const plan::Plan& plan, Phase phase, std::string_view what,
                                 std::string_view engine = {});

} // namespace amber::record
