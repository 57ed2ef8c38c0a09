// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/engine_parameters.h"
#include <string>
#include <vector>

namespace amber::engine {

/// How well one rating line is met.
struct LineResidual {
    std::string rating; ///< key
    std::string gear;
    int line = 0;                       ///< in the notes file
    std::optional<double> power;        ///< model over notes, less 1
    std::optional<double> heightMetres; ///< full-throttle height, model less notes
    std::optional<double> fuel;         ///< fuel flow, model over notes, less 1
};

struct Calibration {
    EngineParameters parameters;
    std::vector<LineResidual> residuals;
    [[nodiscard]] double worstPower() const;  ///< largest |power residual|
    [[nodiscard]] double worstHeight() const; ///< m
};

/// Fits isac, efficiency per gear, base friction and volumetric efficiency to the notes' rating lines on the standard
/// day without ram, by Levenberg–Marquardt (Eigen) with typical values as weak priors, so that few lines are enough.
/// Deterministic; a few milliseconds. Never fails: badly fitting lines show in the residuals.
Calibration calibrate(const TypeNotes& notes);

} // namespace amber::engine
