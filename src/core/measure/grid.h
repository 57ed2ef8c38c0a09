// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "measure/raster.h"

namespace amber::measure {

/// One printed line of a chart's grid: across(along) as a polynomial of the third degree in `along`, scaled to ±1 over
/// the chart. A horizontal line has along = x and across = y.
struct GridLine {
    int number = 0;              ///< counted from the first line found; a line that is missing has its number too
    double from = 0.0, to = 0.0; ///< px along
    double k[4] = {0, 0, 0, 0};
    double share = 0.0;    ///< of its length that shows as ink
    double darkness = 0.0; ///< 0 to 255, of its middle
    [[nodiscard]] double across(double along) const;
    [[nodiscard]] double slope(double along) const; ///< d across / d along
};

struct Crossing {
    Place at;
    int column = 0, row = 0; ///< numbers of the upright and the level line
};

/// The printed grid of a chart within a box drawn roughly round it.
struct Grid {
    Box box;
    std::vector<GridLine> level, upright;      ///< level ones from above down, upright ones from the left
    bool evenLevel = true, evenUpright = true; ///< evenly spaced on the paper: linear, or numbers that say nothing
    [[nodiscard]] bool found() const { return level.size() >= 3 && upright.size() >= 3; }
    [[nodiscard]] std::vector<Crossing> crossings() const;
};

/// Finds it. In strips across the chart the rows that are dark are peaks; peaks are linked from strip to strip into
/// lines that may bend; what spans less than half of the chart, bends more than its neighbours or stands slanted to
/// them (a curve) is left out; the rest is numbered by its spacing, which may change slowly.
/// @param ink as inkOf gives
Grid findGrid(const Raster& ink, const Box& box);

} // namespace amber::measure
