// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"

namespace amber::flight {

struct TracePoint {
    double time = 0.0;          ///< s from the first look at the tyres
    double headOrCoolant = 0.0; ///< K: heads or coolant
    double oil = 0.0;           ///< K
    double oilPressure = 0.0;
};

/// One engine's temperatures through the sortie.
struct EngineTrace {
    std::string engine; ///< position id
    double firedAt = 0.0;
    std::vector<TracePoint> points;
    std::optional<double> runUpAt, takeOffAt; ///< s when it has the minima; none: never before the take-off
};

/// Every engine from its own start, under the drives that the plan flew: one fires after the other, all are run alike
/// from then on. @param until s; traces end there
std::vector<EngineTrace> engineTraces(const powerplant::Aircraft& aircraft, const Sortie& sortie, const Flown& flown,
                                      double until = 1e9);
/// Index of the engine that is last to have the minima for the run-up: it decides.
std::size_t slowestEngine(const std::vector<EngineTrace>& traces);

} // namespace amber::flight
