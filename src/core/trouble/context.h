// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "symptoms/context.h"
#include "trouble/drill.h"

namespace amber::trouble {

/// What the plan knows of a moment that weighs on causes and acts: phase, height, air, ice as the phase's is judged,
/// the tank that is fed, gear, water, and between how many doses a cold engine fires. What hands have done meanwhile
/// (doses, tries, levers) it does not know.
/// @param doses of priming given to an engine that has not fired; none: not known, half as much again as fires
Context contextOf(const Case& at, std::optional<double> doses = {});

} // namespace amber::trouble
