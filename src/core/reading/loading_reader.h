// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/loading_notes.h"
#include "notes/type_notes.h"

namespace amber::notes {

/// [loading]: the load sheet.
LoadingNotes readLoading(document::TableReader t, const Cockpit& cockpit);
/// [[distance]]: one table of distances or weights.
PerformanceTable readPerformanceTable(document::TableReader& t, const Cockpit& cockpit);
/// The arms of a tank, which [loading]'s chord may be needed for.
void readTankArms(document::TableReader& tank, const LoadingNotes& loading, const Cockpit& cockpit, Tank& out);

} // namespace amber::notes
