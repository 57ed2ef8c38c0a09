// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"

namespace amber::cockpit {

/// What must be said where the act is done, on every type (practice): what the notes' own cautions of the phase say
/// already is not said twice.
std::vector<std::string> standardCautions(const TypeNotes& notes, Phase phase);

} // namespace amber::cockpit
