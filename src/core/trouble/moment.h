// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include <span>

namespace amber::trouble {

/// A moment of the sortie at which something goes wrong.
struct Moment {
    double time = 0.0; ///< s from the first look at the tyres
    Phase phase = Phase::climb;
    Length height, aboveField; ///< above sea level; above the nearer of the two fields
    Mass weight;
    Speed ias;
    flight::Sample sample;
    std::vector<double> tanks; ///< m³ usable
    bool flying = false;
};

/// @param time s, held within the sortie
Moment momentAt(const TypeNotes& notes, const Sortie& sortie, const flight::Flown& flown, double time);

/// Seconds of a rating that the plan has used by then.
double ratingUsedBy(const flight::Flown& flown, const Rating& rating, double time);

/// The engines that are left, how they are set at that moment: the take-off rating while low over the field or where
/// nothing weaker is known, else the strongest rating that may be held.
struct LiveSetting {
    const Rating* rating = nullptr;
    std::optional<ManifoldPressure> boost; ///< cut for the grade; none: throttle open
    std::size_t gear = 0;
    Speed safe, best;             ///< of the notes for this weight
    double flap = 0.0;            ///< opening that keeps heads or coolant in their normal range
    bool flapEnough = true;       ///< fully open is
    Temperature settles;          ///< there
    std::optional<Duration> left; ///< of the rating's minutes at that moment
};
LiveSetting liveSetting(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                        const Moment& moment);
/// The same at a rating of one's own.
LiveSetting liveSetting(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                        const Moment& moment, const Rating& rating);

} // namespace amber::trouble
