// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/powerplant.h"

namespace amber::test {

/// Everything on for running, the throttle in a hand that holds an rpm, rev/s.
inline powerplant::Levers runningLevers(const powerplant::Powerplant& plant, double n) {
    auto levers = plant.levers();
    for (auto& e : levers.engines) {
        e.cock = e.booster = true;
        e.cutOff = false;
        e.ignition = powerplant::Ignition::both;
        e.throttle = powerplant::rpmHeld(n);
    }
    return levers;
}

/// Every engine running settled at its levers.
inline void settle(const powerplant::Powerplant& plant, powerplant::AircraftState& state,
                   const powerplant::Levers& levers, const powerplant::Run& run) {
    for (std::size_t i = 0; i < plant.count(); ++i)
        state.engines[i] =
            plant.engine(i).running(state.engines[i], levers.engines[i], plant.around(state, levers, run, i));
}

} // namespace amber::test
