// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::advice {

/// How the propellers of dead engines stand.
enum class DeadBlades { windmilling, feathered };

/// How she flies on the engines that are left, at one height and one setting of theirs.
struct OnTheRest {
    Length height;
    Speed ias;
    VerticalSpeed rate;      ///< negative: she sinks
    Power each;              ///< that the live engines give
    Power needed;            ///< of each, to hold the height at this speed
    std::string rating;      ///< whose setting they have
    bool continuous = false; ///< it may be held
    std::optional<Duration> minutes;
};

/// Down to the height she holds.
struct DriftDown {
    bool holds = false; ///< she need not come down
    Length from, to;
    double seconds = 0.0, distance = 0.0; ///< m, still air
};

/// One or more engines out, at a moment of the sortie.
struct EngineOut {
    double time = 0.0;
    Length height;
    Mass weight;
    std::vector<std::string> dead; ///< names
    bool feathers = false;         ///< this propeller can be feathered
    OnTheRest windmilling,
        feathered;     ///< at the strongest rating that may be held; feathered as windmilling where it cannot be
    OnTheRest limited; ///< feathered where it can, at the rating with most power
    std::optional<Length> ceiling; ///< where the rate is nil, continuous; none: she sinks from the field up
    DriftDown driftDown;
    std::vector<std::pair<std::string, Speed>> speeds; ///< of the notes for this weight: safe, climb
    std::vector<std::string> lost;                     ///< accessories gone with the engines
    watch::Verdict verdict;
};

/// Flown on the powerplant itself: the dead engine's propeller drags as its blades do, windmilling or feathered. The
/// rudder that holds her straight costs a twentieth of the drag when the moment is that of one outer engine at rated
/// power, by its square: our own figure (1/2 to 3/4 of it is usual for a well-placed fin).
/// @param time s from the first look at the tyres @param dead indices of positions
EngineOut engineOut(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown, double time,
                    const std::vector<std::size_t>& dead);
/// The same at a height and weight of one's own.
OnTheRest onTheRest(const powerplant::Aircraft& aircraft, const Sortie& sortie, Length height, Mass weight,
                    const std::vector<std::size_t>& dead, DeadBlades blades, bool continuous);

} // namespace amber::advice
