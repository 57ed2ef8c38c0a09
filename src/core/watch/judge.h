// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "watch/verdict.h"

namespace amber::watch {

/// The one judge: plan, rehearsal and record all ask here. Red outside a limit, amber between normal and limit, normal
/// inside the normal range; a gauge without limits is normal and says so. NaN is red.
/// A figure on the limit is still inside it.
/// @param also said after it where it is not normal
Verdict judge(const TypeNotes& notes, Gauge gauge, Phase phase, double valueSi, std::string_view also = {});

/// A reading of the walk-round: amber outside normal; outside a limit red when it stops the flight, else amber too.
Verdict judgeReading(std::string_view what, const Band& band, const UnitSpec& unit, double valueSi, bool stopper);
/// Something looked at: normal when nothing is wrong with it, else amber, or red when it stops the flight.
Verdict judgeLook(std::string_view what, std::string_view defect, bool stopper);

/// A figure as this cockpit's gauge can be read, SI: rounded to the decimals of its unit, revolutions to tens. Judged
/// so, words and colour agree.
double asRead(const TypeNotes& notes, Gauge gauge, double valueSi);
/// The same for a figure in a unit.
double asRead(double valueSi, const UnitSpec& unit);

/// How far a value lies under the greatest that is allowed, SI; negative beyond it, nothing without a limit.
std::optional<double> roomUnderLimit(const TypeNotes& notes, Gauge gauge, Phase phase, double valueSi);

/// Only the colour, for drawing many points.
Colour colourOf(const Band& band, double valueSi);

} // namespace amber::watch
