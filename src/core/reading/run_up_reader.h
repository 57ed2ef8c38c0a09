// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/type_notes.h"

namespace amber::notes {

/// [run_up_sheet] of the type notes. Bad values are reported with their line; what is read stays usable.
RunUpNotes readRunUp(document::TableReader table, const Cockpit& cockpit);
/// [warming], [letting_down] and [cooling_down].
WarmUpNotes readWarming(document::TableReader table);
LetDownNotes readLettingDown(document::TableReader table);
StopNotes readCoolingDown(document::TableReader table);

} // namespace amber::notes
