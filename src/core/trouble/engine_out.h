// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "trouble/moment.h"
#include "trouble/on_the_rest.h"

namespace amber::trouble {

/// Down to the height she holds, or to the ground.
struct DriftDown {
    bool holds = false; ///< she need not come down
    Length from, to;
    double seconds = 0.0, distance = 0.0; ///< m, still air
    /// Height over time and distance, from the top.
    struct Point {
        double seconds, distance, height;
    };
    std::vector<Point> path;
};

/// With no engine left: how far she glides.
struct Glide {
    Speed ias;
    double ratio = 0.0; ///< distance over height, still air
    VerticalSpeed sink;
    double seconds = 0.0, distance = 0.0; ///< from that height to the field's, m
    bool byNotes = false;                 ///< speed and ratio are the notes'
    std::optional<double> modelRatio;     ///< beside the notes'
};

/// Fuel that the engines that are left can come by.
struct Reach {
    double fed = 0.0;       ///< m³ in tanks that feed one of them
    double crossfeed = 0.0; ///< m³ more with the crossfeed open
    double stuck = 0.0;     ///< m³ that no engine left can have
    bool hasCrossfeed = false;
    Length height;                        ///< at which it is flown: here, or where the drift-down ends
    Power each;                           ///< of each engine, to hold that
    double burn = 0.0;                    ///< m³/s, all that are left
    double seconds = 0.0, distance = 0.0; ///< on all that can be reached, m, still air
};

/// What goes with the dead engines.
struct Lost {
    std::vector<std::string> services;    ///< and no other engine drives it
    std::vector<std::string> weaker;      ///< another engine still does
    std::optional<double> batterySeconds; ///< that the battery lasts, where no generator is left
};

/// One or more engines out, at a moment of the sortie.
struct EngineOut {
    Moment moment;
    std::vector<std::size_t> dead;
    std::vector<std::string> names; ///< of the dead
    bool feathers = false;          ///< this propeller can be feathered
    OnTheRest windmilling,
        feathered;     ///< at the strongest rating that may be held; least drag that the propeller can give
    OnTheRest limited; ///< the same at the rating with most power
    bool anyLeft = false;
    std::optional<Length> ceiling; ///< where the rate is nil, continuous; none: she sinks from the field up
    std::optional<Length> ceilingWindmilling;
    DriftDown driftDown;
    std::optional<Glide> glide; ///< no engine left
    Reach reach;
    LiveSetting live, limitedLive;
    Speed margin; ///< of the speed at that moment over the safe speed; negative: under it
    Lost lost;
    watch::Verdict verdict; ///< of the height
    watch::Verdict cooling; ///< of the engines that are left
    watch::Verdict speed;   ///< of the margin
    watch::Verdict rating;  ///< of the minutes that are left of it
    /// A live engine feathered and the dead one left turning: nothing hinders a hand from it. Of one dead, where the
    /// propellers feather and another lives.
    std::optional<OnTheRest> wrong;
};

/// @param time s from the first look at the tyres @param dead indices of positions, at least one
EngineOut engineOut(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown, double time,
                    const std::vector<std::size_t>& dead);

/// Rate against height at the best speed, for a picture: heights from the field up, past the higher of ceiling and
/// moment.
struct RateCurves {
    std::vector<std::pair<double, double>> windmilling, feathered, limited; ///< m → m/s
};
RateCurves rateCurves(const powerplant::Aircraft& aircraft, const Sortie& sortie, const EngineOut& out);

/// The wrong one was feathered: the dead engine windmills and a live one stands.
/// @return how she flies then, at the strongest rating that may be held
OnTheRest wrongFeathered(const powerplant::Aircraft& aircraft, const Sortie& sortie, const Moment& moment,
                         std::size_t dead, std::size_t feathered);

/// Without power from a height: best speed and how far. The notes' figures where they have them.
Glide glideFrom(const powerplant::Aircraft& aircraft, const Sortie& sortie, const Moment& moment);

} // namespace amber::trouble
