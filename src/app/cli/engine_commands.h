// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace amber::app {

struct CalibrateOptions {
    std::string notes, variant;
    bool write = false, json = false;
};
/// Residual of every rating line, parameters, what the lines do not settle; refuses lines that contradict each other.
int runCalibrate(const CalibrateOptions& options);

struct CruiseOptions {
    std::string notes, variant, altitude, oat, dewPoint, grade, weight, fuel;
    std::string power, burn, speed, endurance, range; ///< one of them
    bool json = false;
};
/// Candidates for a cruise that is asked for by power, burn, airspeed, endurance or range.
int runCruise(const CruiseOptions& options);

struct ChartOptions {
    std::string notes, variant, rpm, boost, gear, altitude, oat;
    bool csv = false, json = false;
    std::string svg, png;
};
/// The power chart as CSV or JSON; with rpm and boost its construction too.
int runChart(const ChartOptions& options);

} // namespace amber::app
