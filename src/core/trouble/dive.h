// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "trouble/moment.h"

namespace amber::trouble {

/// Coming down fast at one boost, flown on the powerplant.
struct DiveAt {
    std::string name;                            ///< "Least boost", "Let-down boost", "Throttle shut"
    std::optional<ManifoldPressure> boost;       ///< none: the throttle on its stop
    VerticalSpeed sink;                          ///< at the beginning
    double seconds = 0.0;                        ///< until down, or an hour
    Rotation peak;                               ///< highest rpm
    double fall = 0.0;                           ///< K, greatest of heads or coolant in a minute
    Temperature coldest;                         ///< heads or coolant
    std::vector<std::pair<double, double>> path; ///< s → K, heads or coolant
    watch::Verdict shock, rpm;
};

struct Dive {
    Moment moment;
    Length to;
    Speed ias;                             ///< at which it is flown
    std::optional<Speed> never;            ///< never faster
    Rotation most;                         ///< rpm
    std::optional<Duration> mostFor;       ///< seconds of it
    std::optional<ManifoldPressure> least; ///< boost
    std::optional<double> allowed;         ///< K in a minute
    std::vector<DiveAt> ways;
    double aheadSeconds = 0.0; ///< power is brought back so long before, so that the fall keeps within what is allowed
};

/// Most rpm of a dive: the notes', else the limit of the gauge, else the take-off's.
Rotation diveRpm(const TypeNotes& notes);
/// Least boost while coming down fast: the notes', else that of the let-down; none without a boost gauge.
std::optional<ManifoldPressure> diveBoost(const TypeNotes& notes);

/// @param time s @param to height above sea level that is wanted; none: 300 m over the nearer field
Dive dive(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown, double time,
          std::optional<Length> to = std::nullopt);

} // namespace amber::trouble
