// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "measure/raster.h"
#include <cstdint>
#include <string>
#include <vector>

namespace amber::printed {

using measure::Place;
using measure::Raster;

/// One curve of an invented chart, as values.
struct Curve {
    std::vector<Place> values; ///< dense, in order of x
    bool dashed = false;
    double width = 3.0; ///< px of the scan
    std::string name;
};

/// How an invented chart was printed and scanned.
struct Setting {
    std::uint64_t seed = 1;
    double lowX = 0, highX = 100, lowY = 0, highY = 100;
    int columns = 12, rows = 10;                         ///< of the grid
    int left = 90, top = 60, width = 1000, height = 760; ///< of the chart within the page, px
    double curl = 8.0;                                   ///< px, by which the spine's side is lifted
    double shrink = 2.0;                                 ///< px, of a few places
    double skew = 0.01;                                  ///< rad
    double noise = 8.0;                                  ///< of 255
    double fading = 0.3;                                 ///< of the ink, at the palest place
    double gridInk = 110, curveInk = 210;                ///< darkness, 0 to 255
    int labels = 12;                                     ///< scribbles about the curves
    int stains = 2;
    bool blocks = true; ///< coarse 8 × 8 transform coding, as scans are kept
};

/// A chart drawn at eight times the resolution, bent as a page at its spine (an exponential lift and bell-shaped
/// shrinking: no polynomial), faded, stained and scanned. The truth is known: where a value stands on the scan.
class Chart {
public:
    Chart(const Setting& setting, std::vector<Curve> curves);
    [[nodiscard]] const Raster& scan() const { return scan_; }
    [[nodiscard]] const Setting& setting() const { return s_; }
    [[nodiscard]] const std::vector<Curve>& curves() const { return curves_; }
    [[nodiscard]] Place onScan(Place value) const;
    /// How far a place of the scan is from a curve, px, by its true course.
    [[nodiscard]] double off(Place scan, const Curve& curve) const;
    [[nodiscard]] Place valueAt(Place scan) const;
    [[nodiscard]] measure::Box frame() const; ///< round the grid on the scan

private:
    [[nodiscard]] Place onPage(Place scan) const; ///< the printed page's own px
    [[nodiscard]] Place fromPage(Place page) const;
    Setting s_;
    std::vector<Curve> curves_;
    std::vector<std::vector<Place>> truth_; ///< of each curve, on the printed page, px
    Raster scan_;
    struct Bell {
        double x, y, size, dx, dy;
    };
    std::vector<Bell> bells_;
};

/// An invented two-part-like chart of this seed: a family of rising or falling curves, some with a knee, full-throttle
/// lines across them, dashes, near tangents, labels on the lines.
Chart drawn(std::uint64_t seed);

} // namespace amber::printed
