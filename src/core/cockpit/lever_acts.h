// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <optional>

namespace amber::cockpit {

/// What a lever of format 1 acts on, by its id or its name; nothing where neither tells.
std::optional<Acts> actsOf(const Lever& lever);

} // namespace amber::cockpit
