// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <map>
#include <string>

namespace amber::start {

/// The start's notes with the schools in force worked in: when and how it is primed, when the ignition goes on, the
/// first running rpm. @param choices "phase/step" → school, as in a sortie
StartNotes startInForce(const TypeNotes& notes, const std::map<std::string, std::string>& choices);

/// First running rpm: the slowest smooth one until oil pressure, or the warm-up rpm at once.
Rotation firstRpm(const TypeNotes& notes, const StartNotes& start);

} // namespace amber::start
