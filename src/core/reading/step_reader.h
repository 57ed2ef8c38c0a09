// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/type_notes.h"

namespace amber::notes {

/// One step of a phase, its schools filled from the standard points where it names one.
Step readStep(document::TableReader& table, int format);

} // namespace amber::notes
