// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"

namespace amber::advice {

/// Starting again some time after the stop.
struct RestartRow {
    double after = 0.0; ///< s since it stopped
    Temperature engine; ///< by then
    double dose = 0.0;  ///< of prime
    Origin origin = Origin::notes;
    std::string advice;
};

/// The end of the sortie (J53–J55): cooling at idle, then standing, and what the next start will want.
struct CoolDown {
    std::optional<Temperature> below; ///< to be cooled under before it is stopped
    double atIdle = 0.0;              ///< s after the taxi
    struct Point {
        double time, headOrCoolant, oil; ///< s from the stop, K
        bool running;
    };
    std::vector<Point> curve; ///< taxi and idle before 0, standing after, three hours
    std::vector<RestartRow> restarts;
    std::optional<double> dilute; ///< s today; none: not needed or not by the notes
    Origin diluteOrigin = Origin::notes;
    std::string diluteWhy;
    std::optional<double> diluteWait; ///< s standing until the oil is cool enough to dilute; none: no need, or never
};
CoolDown coolDown(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown);

/// Seconds of oil dilution for a forecast: the notes' table, linear between its entries, its coldest held; none above
/// its warmest entry or without a table.
struct Dilution {
    double seconds = 0.0;
    Origin origin = Origin::notes;
};
std::optional<Dilution> dilutionFor(const StopNotes& notes, Temperature forecast);

/// "2 strokes", "1 stroke". @param unit what the notes count a dose in, plural
std::string doseText(double dose, const std::string& unit);

/// Restart after some time since the stop, by the same cooling as the priming and the heat model. @param stopped heads
/// or coolant when it stopped
RestartRow restartAfter(const TypeNotes& notes, double seconds, Temperature stopped, Temperature outside,
                        Length pressureAltitude);

} // namespace amber::advice
