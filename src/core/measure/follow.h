// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "measure/grid.h"
#include <functional>
#include <optional>
#include <string>

namespace amber::measure {

/// One place of a followed curve.
struct CurvePlace {
    Place at;
    double error = 0.0; ///< of its centre across the curve, one standard deviation, px
    bool seen = true;   ///< false: a gap that was passed over
};

/// A stretch that cannot be told from the picture, and where to click.
struct Doubt {
    Place at;
    std::string why; ///< "two lines go on from here", "no ink for 60 px"
};

struct Followed {
    std::vector<CurvePlace> places; ///< from the first click to the last, some 4 px apart
    std::vector<Place> knees;       ///< where it turns at a corner
    std::vector<Doubt> doubts;      ///< none: nothing else could have been meant
    double width = 0.0;             ///< of the drawn line, px
    double share = 0.0;             ///< of its length that shows as ink
};

/// Follows a drawn curve between clicks on it: the first at its one end, the last at its other, any number between. All
/// ways there are weighed at once (dynamic programming over place and direction in steps of some 12 px along the axis
/// in which the clicks lie farther apart): a way costs what of it lies on no ink, how it bends, and a fixed price for a
/// corner; ink of the grid under a way that runs along a grid line counts for nothing. Then the best way *not* through
/// each place is held against the best (min-marginals): where it costs little more, or the ink is missing for long,
/// that is a doubt with its place; it is for a click to settle. Last the centre across the line is measured to a
/// fraction of a pixel, grid lines and crossings left out, and a weighted curve laid through it piece by piece between
/// corners.
/// @param ink as inkOf gives @param grid of the chart, empty where none was found @param clicks two at least
/// @param stop asked now and then; true ends it with nothing
/// @return nothing when there are not two clicks 24 px apart, or the clicks lead back and forth, or when stopped
std::optional<Followed> follow(const Raster& ink, const Grid& grid, const std::vector<Place>& clicks,
                               const std::function<bool()>& stop = {});

/// Few of the places, between which the curve stays within `within` px of straight lines: the place farthest off is
/// kept, and both halves looked at in the same way.
std::vector<std::size_t> thinned(const Followed& curve, double within);

} // namespace amber::measure
