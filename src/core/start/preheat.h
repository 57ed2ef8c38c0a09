// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"

namespace amber::start {

/// Time a heater of the notes' power needs to bring one standing engine and its oil from one temperature to another:
/// one lump of 23 kg per litre of displacement at 0.6 kJ/(kg K), losing heat to the air with a time constant of an
/// hour under its covers. An estimate, marked model.
/// @return nothing when the heater never gets there
std::optional<Duration> heaterTime(const TypeNotes& notes, Temperature from, Temperature to, Temperature air);

} // namespace amber::start
