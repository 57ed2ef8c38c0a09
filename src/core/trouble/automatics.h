// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"

namespace amber::trouble {

/// Something that looks after itself, and what the hand does when it no longer does.
struct Automatic {
    std::string what, byHand;
    Origin origin = Origin::practice;
};
/// Of this type: what its controls say (automatic, by_hand), and what is customary by its equipment.
std::vector<Automatic> automaticsOf(const TypeNotes& notes);

} // namespace amber::trouble
