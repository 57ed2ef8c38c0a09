// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cockpit/controls.h"

namespace amber::cockpit {

/// What a sentence of format 1 can be understood to do, for `migrate` only: nothing else reads words. A part of it that
/// names no control, place or figure is left out.
std::vector<Action> actsIn(const Step& step, Phase phase, const std::vector<Control>& controls, const TypeNotes& notes);

/// Whether the step is another way out of its phase: going round.
bool isBranch(const Step& step);

} // namespace amber::cockpit
