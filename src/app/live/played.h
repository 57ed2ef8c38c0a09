// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/stand_in.h"
#include "live/live_run.h"
#include <functional>

namespace amber::app {

/// A crew that flies with a stand-in: presses its moments and reads its needles, two scans in the warm-up and one each
/// ten minutes in the air, as far as a second of the flight. For pictures and proofs.
/// @param setTime puts the run's clock at a second of the flight @return what was not kept, or empty
QString play(LiveRun& live, const aloft::StandInFlight& flight, double from, double until,
             const std::function<void(double)>& setTime);

} // namespace amber::app
