// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/dial.h"
#include <algorithm>

namespace amber::plan {

std::pair<double, double> dialOf(const GaugeNotes& g, double value) {
    if (g.scale)
        return *g.scale;
    double low = value, high = value;
    for (const auto& edge : {g.band.limitLow, g.band.normalLow, g.band.normalHigh, g.band.limitHigh})
        if (edge) {
            low = std::min(low, *edge);
            high = std::max(high, *edge);
        }
    const double margin = std::max(1e-6, 0.15 * (high - low));
    return {low - margin, high + margin};
}

} // namespace amber::plan
