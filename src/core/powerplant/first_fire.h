// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/powerplant.h"
#include "start/start_order.h"

namespace amber::powerplant {

/// What stands before a start of one engine.
struct BeforeFire {
    std::size_t engine = 0;
    air::Ambient air;    ///< of the field
    double charge = 0.0; ///< Ah in the battery
    double bottle = 0.0; ///< Pa of air for the starter
    int cartridges = 0;  ///< in the rack
};

/// What is left of them when it is over.
struct AfterFire {
    std::vector<start::Try> tries; ///< as the engine takes them: the last fires, or none does
    double charge = 0.0, bottle = 0.0;
    int cartridges = 0;
};

/// The tries that one engine takes, stepped through its own start: primed and left to vaporise, or primed as it turns;
/// turned with the ignition from the blades on; let go at its starter's limit, rested, what has gone out of it primed
/// again. As often as the notes allow. @param start the schools in force
AfterFire firstFire(const Powerplant& plant, const StartNotes& start, const start::StartRequest& request,
                    const BeforeFire& before);

/// The same for every engine in its order, each from the battery and bottle that the one before it has left.
std::map<std::string, std::vector<start::Try>> foresee(const Powerplant& plant, const StartNotes& start,
                                                       const start::StartRequest& request, const air::Ambient& air);

} // namespace amber::powerplant
