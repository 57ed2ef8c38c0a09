// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::trouble {

/// One lever of the approach that is not ready, and what it costs when she goes round so.
struct LeftSo {
    std::string lever; ///< "Mixture weak"
    Power power;       ///< each engine gives
    VerticalSpeed rate;
    bool knocks = false;  ///< the model's boundary is under that boost
    bool planned = false; ///< the plan's approach leaves it so
    std::string why;
};

/// Going round at the landing field: opened from the approach on the powerplant, in short steps.
struct GoRound {
    Length field, pressureAltitude;
    Temperature air;
    Mass weight;
    Speed approach, climb;
    Rotation approachRpm, rpm;             ///< of the approach by the landing school; that is set
    std::optional<ManifoldPressure> boost; ///< that is set, cut for the grade
    ManifoldPressure comes;                ///< what the day gives of it
    bool fullThrottle = false;             ///< it gives less than that
    std::size_t gear = 0;
    Power each;                     ///< settled
    VerticalSpeed rateDown, rateUp; ///< with wheels and flaps down; up
    VerticalSpeed rateOnWheels;     ///< flaps up, wheels down
    Power deadDrag;                 ///< what dead propellers and the rudder against them cost
    double openedOver = 0.0;        ///< s, the throttle
    double fullAfter = 0.0;         ///< s from the first lever until 97 % of the settled power
    Rotation peak;                  ///< highest rpm on the way
    std::optional<Rotation> room;   ///< of the limit over it; negative: it overspeeds
    bool stumbles = false;          ///< it runs lean on the way: power under a third of its share, or backfires
    double stumbleSeconds = 0.0;
    double quickFullAfter = 0.0; ///< s, slammed open in half a second after a closed-throttle glide
    bool quickStumbles = false;
    bool airColdFirst = true;                    ///< boosted: cold before power; else after power is set
    std::vector<std::pair<double, double>> path; ///< s from the decision → m against where it was taken
    std::optional<Length> dip;                   ///< height lost until she climbs
    std::optional<Length> notBelow;              ///< above the field: lower, and she lands
    bool notBelowByNotes = false;
    std::vector<LeftSo> left;
    watch::Verdict climbs, ready, overspeed;
};

/// @param dead indices of positions that give nothing: their propellers as far out of the wind as they go, the speed no
/// less than the safe one
GoRound goRound(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                const std::vector<std::size_t>& dead = {});

inline constexpr double threeDegrees = 0.0524; ///< rad, the path of an approach

/// What wheels and flaps down do to the parasite drag: the notes', else our own figure by what there is to put down.
double dragDown(const TypeNotes& notes, bool wheels = true, bool flaps = true);

} // namespace amber::trouble
