// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/first_act.h"
#include "notes/type_notes.h"
#include "symptoms/context.h"
#include <string>

namespace amber::trouble {

/// What makes an act impossible on this aircraft, here and now; empty: it can be done.
std::string impossible(FirstAct act, const TypeNotes& notes, const Context& context);

/// The act on this aircraft, by the names of its controls and in the order in which they are moved: "Booster pump on.",
/// "Carb. heat hot, fully, and held: worse at first, then better." General practice; the notes' drill goes before it.
std::string wordsOf(FirstAct act, const TypeNotes& notes, const Context& context);

/// The drill that it leads to; none: it is the whole of it.
std::optional<Emergency> drillOf(FirstAct act, const TypeNotes& notes, const Context& context);

} // namespace amber::trouble
