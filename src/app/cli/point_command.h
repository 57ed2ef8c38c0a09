// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace amber::app {

/// The options of `amber-throttle point`, as typed.
struct PointOptions {
    std::string notes, variant, rpm, boost, gear, altitude, oat, ias, mixture, grade, carburettorHeat, dewPoint;
    bool water = false, staticRpm = false;
    bool json = false;
};

/// One steady point of one engine, printed. @return an ExitCode
int runPoint(const PointOptions& options);

} // namespace amber::app
