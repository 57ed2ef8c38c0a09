// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/operating_point.h"
#include <array>
#include <string>

namespace amber::engine {

/// Power on a chart of the period, W: automatic rich, no ram. @param boost none: full throttle @param held the boost is
/// taken as held even past full throttle
double powerAt(const EngineParameters& engine, Rotation rpm, std::optional<ManifoldPressure> boost, std::size_t gear,
               const air::Ambient& air, bool held = false);

struct ChartPoint {
    double x = 0.0, power = 0.0; ///< Pa absolute or m pressure altitude; W
};
struct ChartLine {
    Rotation rpm;
    std::size_t gear = 0;
    std::optional<ManifoldPressure> boost; ///< of a constant-boost line
    std::vector<ChartPoint> points;
};
/// One of the notes' own points.
struct ChartMark {
    std::string rating;
    bool seaLevel = false; ///< on the left panel
    double x = 0.0, power = 0.0;
    std::size_t gear = 0;
};

/// The two-panel chart of the period, standard day, no ram, automatic rich: power against boost at sea level for lines
/// of rpm; power against pressure altitude at full throttle for each gear and rpm, with lines of constant boost up to
/// full throttle at the rated rpm. Drawn from the model, with the notes' points beside it.
struct PowerChart {
    std::vector<ChartLine> seaLevel;     ///< x boost
    std::vector<ChartLine> fullThrottle; ///< x height
    std::vector<ChartLine> constantBoost;
    std::vector<ChartMark> marks;
    double top = 8000.0; ///< m
    [[nodiscard]] std::size_t points() const;
};
PowerChart powerChart(const TypeNotes& notes, const EngineParameters& engine, Rotation constantBoostRpm,
                      int pointsPerLine = 40);

/// The chart as a table: panel, rpm, gear, boost_kPa, altitude_m, power_kW.
std::string chartCsv(const TypeNotes& notes, const PowerChart& chart);

/// Reading the chart with a ruler, step by step.
struct Construction {
    Rotation rpm;
    ManifoldPressure boost;
    std::size_t gear = 0;
    Length height; ///< pressure altitude
    Temperature outside, standard;
    Power seaLevel;                ///< A: at this rpm and boost on the left panel
    std::optional<Length> holdsTo; ///< B: where full throttle at this rpm just gives the boost
    Power atFullThrottle;          ///< B
    bool beyond = false;           ///< above B: read on the full-throttle curve
    Power read;                    ///< on the joining line A–B at the height, or on the curve
    double correction = 1.0;       ///< √(T standard / T outside)
    Power corrected;
    Power model; ///< the engine model at the same point, for comparison
    /// What the ruler reads over the model, less 1. At full throttle √T alone leaves out that the blower's pressure
    /// ratio falls as the air warms.
    [[nodiscard]] double overModel() const { return corrected.si() / model.si() - 1; }
};
/// Fails, as nothing, when the boost cannot be had at sea level in this gear.
std::optional<Construction> construct(const EngineParameters& engine, Rotation rpm, ManifoldPressure boost,
                                      std::size_t gear, Length height, Temperature outside);

} // namespace amber::engine
