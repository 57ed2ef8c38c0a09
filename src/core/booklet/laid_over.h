// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/engine_parameters.h"
#include "units/quantity.h"
#include <array>
#include <optional>
#include <vector>

namespace amber::booklet {

/// What a printed curve is of: power against boost at sea level, or against pressure altitude.
enum class CurveKind { powerBoost, powerHeight };

/// The lever settings of a curve of a power chart: standard day, no ram, automatic rich.
struct CurveSetting {
    CurveKind kind = CurveKind::powerHeight;
    Rotation rpm;
    std::size_t gear = 0;
    std::optional<ManifoldPressure> boost; ///< of a curve against height; none: full throttle
};

/// One place of a measured curve, and the model there.
struct Laid {
    double x = 0.0;     ///< Pa absolute or m
    double paper = 0.0; ///< W
    double model = 0.0; ///< W
    double error = 0.0; ///< of the paper's power with x's own share, one standard deviation, W
    [[nodiscard]] double over() const { return model / paper - 1.0; } ///< model over paper, less 1
    /// Paper and model part by more than measuring does: two standard deviations.
    [[nodiscard]] bool parts() const;
};

/// The calibrated model laid over a measured curve. @param places x (SI), power (W), and the error of each, one
/// standard deviation, as measured
std::vector<Laid> laidOver(const engine::EngineParameters& engine, const CurveSetting& setting,
                           const std::vector<std::array<double, 4>>& places);

} // namespace amber::booklet
