// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <string>

namespace amber::watch {

/// Worse is greater.
enum class Colour { normal, amber, red };

constexpr std::string_view wordOf(Colour colour) {
    return colour == Colour::normal ? "normal" : colour == Colour::amber ? "amber" : "red";
}

struct Judgement {
    Colour colour = Colour::normal;
    std::string sentence; ///< why, in one sentence, in the gauge's own units
    bool operator==(const Judgement&) const = default;
};

/// The one judge: plan, rehearsal and record all ask here. Red outside a limit, amber between normal and limit, normal
/// inside the normal range; a gauge without limits is normal and says so. NaN is red.
/// A figure on the limit is still inside it.
Judgement judge(const TypeNotes& notes, Gauge gauge, Phase phase, double valueSi);

/// A reading of the walk-round: amber outside normal; outside a limit red when it stops the flight, else amber too.
Judgement judgeReading(std::string_view what, const Band& band, const UnitSpec& unit, double valueSi, bool stopper);
/// Something looked at: normal when nothing is wrong with it, else amber, or red when it stops the flight.
Judgement judgeLook(std::string_view what, std::string_view defect, bool stopper);

/// Only the colour, for drawing many points.
Colour colourOf(const Band& band, double valueSi);

} // namespace amber::watch
