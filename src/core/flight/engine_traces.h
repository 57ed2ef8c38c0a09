// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace amber::flight {

struct TracePoint {
    double time = 0.0;          ///< s from the first look at the tyres
    double headOrCoolant = 0.0; ///< K: heads or coolant
    double oil = 0.0;           ///< K
    double oilPressure = 0.0;   ///< Pa
};

/// One engine's temperatures through the sortie.
struct EngineTrace {
    std::string engine; ///< position id
    double firedAt = 0.0;
    std::vector<TracePoint> points;
    std::optional<double> runUpAt, takeOffAt; ///< s when it has the minima; none: never before the take-off
};

/// The same up to a time, s.
std::vector<EngineTrace> tracesUntil(const std::vector<EngineTrace>& traces, double until);
/// Index of the engine that is last to have the minima for the run-up: it decides.
std::size_t slowestEngine(const std::vector<EngineTrace>& traces);

} // namespace amber::flight
