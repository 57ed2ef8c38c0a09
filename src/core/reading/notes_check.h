// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"

namespace amber {

/// Contradictions inside otherwise readable notes: a normal range outside its limits, a rating over a limit, names that
/// lead nowhere, tanks or gears that do not exist.
void checkNotes(const TypeNotes& notes, Problems& problems);

} // namespace amber
