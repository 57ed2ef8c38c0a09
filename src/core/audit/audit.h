// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "drills/state.h"
#include "notes/problem.h"

namespace amber::cockpit {

/// One thing that every drill must have seen to at a moment of it.
struct AuditRule {
    std::string_view id;  ///< "hot-air-at-take-off"
    std::string_view why; ///< what goes wrong
};
const std::vector<AuditRule>& auditRules();

/// What a drill does, or leaves, that is unsafe, and what one pair of hands cannot do: found by carrying the state of
/// every control through it, every school as the notes take it. One problem a rule and place, with the line of the
/// step.
/// @param whole notes after expand()
Problems audit(const TypeNotes& whole);

} // namespace amber::cockpit
