// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/trouble_notes.h"

namespace amber::notes {

/// [trouble]: drills of emergencies and their figures.
TroubleNotes readTrouble(document::TableReader t, int format);
/// [[symptom]]: a pattern of the type's own.
SymptomNotes readSymptom(document::TableReader& t);

} // namespace amber::notes
