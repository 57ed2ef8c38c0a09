// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "notes/problem.h"

namespace amber::advice {

/// What a flown sortie shows of the notes' own settings that a drill cannot: heads or coolant within `closest` of their
/// limit while the flaps could still be opened, and a rated boost on rpm below its rating (a propeller too coarse for
/// it). Flown on the standard day at sea level, `warmer` by so much, at the notes' heavier weight.
inline constexpr double closest = 3.0, warmer = 10.0; ///< K
Problems checkFlown(const powerplant::Aircraft& aircraft);

} // namespace amber::advice
