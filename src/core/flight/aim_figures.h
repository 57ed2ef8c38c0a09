// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "watch/aims.h"

namespace amber::flight {

/// What notes alone make of the aims: cooling in a minute and before the stop. @param flown of the day, where it is
/// known: what idling does not bring is not asked for
watch::AimFigures aimFigures(const TypeNotes& notes, const Flown* flown = nullptr);
/// What the day and the plan make of them: where the climb ends, the cruise's speed, what the plan itself cools by.
watch::AimFigures aimFigures(const TypeNotes& notes, const Sortie& sortie, const Flown& plan);

} // namespace amber::flight
