// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/engine_parameters.h"
#include "notes/problem.h"
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

/// One fitted parameter, and whether the lines could settle it.
struct FittedParameter {
    std::string name; ///< "friction", "efficiency, low"
    std::string unit;
    double value = 0.0;
    double typical = 0.0;
    double left = 1.0;    ///< uncertainty after the fit over that before: 1 not settled at all, 0 settled
    bool atBound = false; ///< as far as the fit lets it go: a sign that a line or the engine's size is wrong
    std::optional<std::pair<double, double>> credible{}; ///< what such engines had; beyond, a figure is a slip
    std::optional<std::size_t> gear{};                   ///< of a blower's efficiency
    [[nodiscard]] bool doubtful() const { return credible && (value < credible->first || value > credible->second); }
    [[nodiscard]] bool settled() const { return left < 0.5 && !atBound; }
};

struct Calibration {
    EngineParameters parameters;
    std::vector<LineResidual> residuals;
    std::vector<FittedParameter> fitted;
    bool impellerFitted = false;              ///< its diameter is not the notes'
    bool written = false;                     ///< taken from [engine.calibrated] instead of fitted
    [[nodiscard]] double worstPower() const;  ///< largest |power residual|
    [[nodiscard]] double worstHeight() const; ///< m
};

/// Fits isac, efficiency per gear, base friction, volumetric efficiency, the impeller's diameter where that is only an
/// estimate and, where lines give fuel flows, the metering
/// of rich and weak to the notes' rating lines on the standard day without ram, by Levenberg–Marquardt (Eigen) with
/// typical values as weak priors, so that few lines are enough. Deterministic; a few milliseconds. Never fails: badly
/// fitting lines show in the residuals. Parameters written in the notes as [engine.calibrated] are taken as they are.
/// What the lines cannot settle is told from the curvature of the fit (Gauss–Newton covariance against that of the
/// priors).
Calibration calibrate(const TypeNotes& notes);

/// No rating line gives a fuel flow beside its power: consumption rests on what such engines usually burn.
bool fuelIsEstimate(const TypeNotes& notes);

/// Figures that no engine of this size meets together, missed by more than 4.5 % of power or 450 m, with their line and
/// what to check. Where all others agree without one figure it alone is named, with what the others make of it (the fit
/// is made again without each); else every line that is missed. Lines that agree only in an engine that nobody built,
/// its blower too good or too bad or its air per work beside all others', are named too. Empty when nothing is to be
/// said.
Problems contradictions(const TypeNotes& notes, const Calibration& calibration);

/// The block [engine.calibrated] of a fit, ready for a notes file.
std::string calibratedBlock(const Calibration& calibration);
/// The text of a notes file with its [engine.calibrated] block put in or replaced.
std::string withCalibratedBlock(const std::string& notesText, const Calibration& calibration);

} // namespace amber::engine
