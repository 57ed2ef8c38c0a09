// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "trouble/go_round.h"
#include "trouble/on_the_rest.h"

namespace amber::trouble {

/// Down to the ground on the engines that are left, at the landing field and the weight of the landing (J67). Power:
/// drag at the held speed, with wheels and flaps as they stand, what the dead propellers and the rudder cost, and the
/// weight's part down a path of three degrees.
struct FewEngines {
    std::vector<std::size_t> dead;
    std::vector<std::string> names; ///< of the dead
    bool anyLeft = false;
    Length field;
    Temperature air;
    Mass weight;
    Speed safe, held; ///< held: until the commitment height
    Power most;       ///< each engine left, at the rating with most
    Power level;      ///< each, to hold a height clean
    Power onWheels;   ///< each, down the path with the wheels down
    Power allDown;    ///< each, down the path with wheels and flaps down
    double yaw = 0.0; ///< at the rating with most, over that of one outer engine at rated power
    bool wheels = false, flaps = false;
    bool pumpLost = false; ///< no engine left drives the hydraulic pump
    std::optional<Duration> wheelsTake;
    std::optional<GoRound> round; ///< on the rest; none where no engine is left
    std::optional<Length> commit; ///< above the field: below it she lands; none: she does not go round at all
    std::optional<Mass> climbsAt; ///< heaviest at which she still climbs away clean
    std::optional<Mass> shed;     ///< to come down to it
    bool oneSide = false;         ///< every engine left is on the same side
    watch::Verdict goesRound, path;
};

/// @param dead indices of positions, at least one
FewEngines fewEngines(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                      const std::vector<std::size_t>& dead);

} // namespace amber::trouble
