// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <map>
#include <string>

namespace amber::start {

/// The start's notes with the schools in force worked in: when and how it is primed, when the ignition goes on, the
/// first running rpm. @param choices "phase/step" → school, as in a sortie
StartNotes startInForce(const TypeNotes& notes, const std::map<std::string, std::string>& choices);

/// Rpm to hold until oil pressure shows; nothing by the school that sets the warm-up's rpm at once.
std::optional<Rotation> slowestRpm(const TypeNotes& notes, const StartNotes& start);

} // namespace amber::start
