// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <span>
#include <utility>

namespace amber {

/// Between the points of a table (x rising), held at its ends. The table must not be empty.
inline double lookUp(std::span<const std::pair<double, double>> table, double x) {
    if (x <= table.front().first)
        return table.front().second;
    for (std::size_t i = 1; i < table.size(); ++i)
        if (x <= table[i].first) {
            const auto& [x0, y0] = table[i - 1];
            const auto& [x1, y1] = table[i];
            return y0 + (y1 - y0) * (x - x0) / (x1 - x0);
        }
    return table.back().second;
}

} // namespace amber
