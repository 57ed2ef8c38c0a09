// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/log.h"
#include <algorithm>
#include <span>

namespace amber::record {

/// One reading of a series: when, and how far it was from what the plan of that day expected.
struct Point {
    double day = 0.0;      ///< days since 1970
    double residual = 0.0; ///< SI; of what no plan expects, the figure itself
};

/// How a series changes, robustly: a misread needle here and there moves it little.
struct Trend {
    std::size_t readings = 0;     ///< points
    double slope = 0.0;           ///< SI a day: the median of the slopes of all pairs (Theil 1950, Sen 1968)
    double low = 0.0, high = 0.0; ///< in which the slope lies, as often as the level says (Sen 1968, eq. 2.6)
    double level = 0.0;
    double begins = 0.0, ends = 0.0; ///< SI, on the line through the medians, at the first and last day
    /// Whether the data say that it changes: enough readings, and the interval leaves zero out.
    [[nodiscard]] bool tells() const { return readings >= least && (low > 0.0 || high < 0.0); }
    static constexpr std::size_t least = 8; ///< readings, under which nothing is said
};
/// @param level share of intervals that hold the true slope: 0.99, for a log has many series
/// @param points those of one day stand together
Trend trendOf(std::span<const Point> points, double level = 0.99);

/// How much a series has changed at an event (plugs changed, overhaul): the median of all differences of a reading
/// after from one before (Hodges and Lehmann 1963), its interval from the rank-sum statistic.
struct Change {
    std::size_t before = 0, after = 0;
    double by = 0.0, low = 0.0, high = 0.0; ///< SI
    [[nodiscard]] bool tells() const { return std::min(before, after) >= least && (low > 0.0 || high < 0.0); }
    static constexpr std::size_t least = 4; ///< on either side, under which nothing is said
};
Change changeAt(std::span<const Point> points, double day, double level = 0.99);
/// The same of any two lots of figures: by how much the second are more.
Change changeOf(std::span<const double> before, std::span<const double> after, double level = 0.99);

/// All readings of one thing, on one engine, in one phase, of one airframe, one a run: the median of what was read on
/// it; oldest first.
struct Series {
    std::string airframe, engine, what;
    Phase phase = Phase::climb;
    bool againstPlan = false; ///< residuals; else the figures themselves
    std::vector<Point> points;
};
std::vector<Series> seriesOf(const Log& log, const std::string& airframe);

/// "Heads, climb, starboard: 9 K hotter than 62 days ago, 5 to 13 (14 readings)"; or that the data do not tell.
/// @param engine its name, where the series has only its id
std::string trendText(const Series& series, const Trend& trend, const std::string& engine = {},
                      const TypeNotes* notes = nullptr);

} // namespace amber::record
