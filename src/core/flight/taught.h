// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/aircraft.h"
#include "sortie/sortie.h"
#include <memory>

namespace amber::flight {

/// The aircraft as its airframe's log has taught, by the lines that somebody accepted and that were reckoned against
/// these very models; the doses go into the sortie. Without any: the aircraft as it was given.
std::shared_ptr<const powerplant::Aircraft> taught(std::shared_ptr<const powerplant::Aircraft> aircraft,
                                                   Sortie& sortie);
/// Lines that were accepted, but against other models (the notes or the program have changed since): not planned with
/// until they are reckoned again.
std::vector<const LearntLine*> outdated(const powerplant::Aircraft& aircraft, const Sortie& sortie);
/// Those that are planned with.
std::vector<const LearntLine*> inForce(const powerplant::Aircraft& aircraft, const Sortie& sortie);
/// "Port: Oil temp. reads 4.2 °C more than the model", "fuel 4 % more than the notes and the model say".
std::string wordsOf(const LearntLine& line, const TypeNotes& notes);

} // namespace amber::flight
