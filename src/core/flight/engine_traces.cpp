// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/engine_traces.h"
#include <algorithm>

namespace amber::flight {

std::vector<EngineTrace> tracesUntil(const std::vector<EngineTrace>& traces, double until) {
    std::vector<EngineTrace> out = traces;
    for (auto& trace : out)
        std::erase_if(trace.points, [&](const TracePoint& p) { return p.time > until + 1e-6; });
    return out;
}

std::size_t slowestEngine(const std::vector<EngineTrace>& traces) {
    std::size_t slowest = 0;
    for (std::size_t i = 1; i < traces.size(); ++i)
        if (traces[i].runUpAt.value_or(1e18) > traces[slowest].runUpAt.value_or(1e18))
            slowest = i;
    return slowest;
}

} // namespace amber::flight
