// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "symptoms/context.h"
#include "trouble/drill.h"

namespace amber::trouble {

/// What the plan knows of a moment that weighs on causes and acts: phase, height, air, ice as the phase's is judged,
/// the tank that is fed, gear, water, and between how many doses a cold engine fires. What hands have done meanwhile
/// (doses, tries, levers) it does not know.
Context contextOf(const Case& at);

} // namespace amber::trouble
