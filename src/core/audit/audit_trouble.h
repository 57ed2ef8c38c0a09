// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "audit/audit.h"

namespace amber::cockpit {

/// Rules that the drill of an emergency is held against.
const std::vector<AuditRule>& emergencyRules();
/// What the drills of emergencies do in an order that kills. @param whole notes after expand()
Problems auditEmergencies(const TypeNotes& whole);

} // namespace amber::cockpit
