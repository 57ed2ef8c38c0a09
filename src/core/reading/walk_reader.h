// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/type_notes.h"

namespace amber::notes {

/// The [walk] table: outline and stations.
WalkNotes readWalk(document::TableReader table, const Cockpit& cockpit);
/// Names, tanks and positions of the walk-round.
void checkWalk(const TypeNotes& notes, Problems& problems);
/// Corrections of one tank's gauge on the ground, in the cockpit's fuel unit.
std::vector<GroundCorrection> readGround(document::TableReader& tank, const UnitSpec& fuel);

} // namespace amber::notes
