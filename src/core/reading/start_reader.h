// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/type_notes.h"

namespace amber::notes {

/// The [engine_start] table: priming, starter, supply, hand turning, frost and the settings between starts.
StartNotes readStart(document::TableReader table);

} // namespace amber::notes
