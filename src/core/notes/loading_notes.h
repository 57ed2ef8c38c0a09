// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace amber {

/// Where something can be put aboard, or what can be taken off.
enum class StationKind { crew, passengers, cargo, equipment, ballast };

struct LoadStation {
    std::string id, name;
    StationKind kind = StationKind::crew;
    double arm = 0.0;         ///< m aft of the datum; negative: ahead of it
    double side = 0.0;        ///< m to starboard of the middle
    Mass usual;               ///< what it carries where the sortie does not say
    std::optional<Mass> most; ///< that it may carry
    int line = 0;
};

/// One line of the envelope: how far forward and aft the centre of gravity may be at a weight, m aft of the datum.
struct EnvelopeLine {
    Mass weight;
    double forward = 0.0, aft = 0.0;
};

/// Trim for take-off at a flap setting: centre of gravity (m aft of the datum) → units of trim, at the light and at the
/// heavy weight of the speeds.
struct TrimTable {
    std::string flap;
    std::vector<std::pair<double, double>> light, heavy;
};

/// The load sheet of the notes: stations and arms, the envelope, the oil, the trim. Arms are kept in metres aft of the
/// datum whatever the notes write them in.
struct LoadingNotes {
    bool given = false; ///< without it only weights are reckoned
    const UnitSpec* armUnit = nullptr;
    const UnitSpec* momentUnit = nullptr;
    double momentsDividedBy = 1.0; ///< index in which moments are written: 1000
    std::string datum;             ///< where arms are measured from, in words
    double chord = 0.0;            ///< m, mean; 0: not given
    double leadingEdge = 0.0;      ///< m aft of the datum, of the mean chord
    bool inPercent = false;        ///< the notes write the centre of gravity in percent of the mean chord
    double emptyArm = 0.0;         ///< m
    std::vector<LoadStation> stations;
    std::vector<EnvelopeLine> envelope; ///< rising weights
    std::optional<Mass> maxLanding, maxZeroFuel;
    std::optional<Moment> mostSideways; ///< moment about the middle, either way
    Volume oil;                         ///< in all tanks when full; 0: in the empty weight
    double oilArm = 0.0;                ///< m
    std::optional<VolumeFlow> oilBurn;  ///< of one engine
    std::optional<Volume> oilLeast;     ///< left in all tanks at the end
    std::vector<TrimTable> trim;
    std::string trimUnit; ///< "divisions nose up"
    int line = 0;
};

/// A table of distances or weights: entries at weights (none: not by weight), pressure altitudes and temperatures.
struct PerformanceTable {
    std::string id, name;
    Dimension dimension = Dimension::length; ///< of the entries; a weight for the engine-out table
    const UnitSpec* unit = nullptr;
    std::vector<double> weights, heights, temperatures; ///< SI, rising
    std::vector<double> entries;                        ///< SI, by weight, then height, then temperature
    double headwind = 1.0, tailwind = 1.0;              ///< times the entry for 10 kt of it
    double grass = 1.0, wet = 1.0;                      ///< times the entry on that surface
    double upslope = 1.0;                               ///< times the entry for one in a hundred up
    int line = 0;
};

} // namespace amber
