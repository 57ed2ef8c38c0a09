// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/day.h"
#include "engine/engine_parameters.h"
#include <optional>
#include <span>
#include <variant>

namespace amber::engine {

/// Automatic rich or weak, or a fuel–air ratio set by hand.
using MixtureSetting = std::variant<Mixture, double>;

inline constexpr Length modelTop = Length::si(15000.0); ///< of the model's air, pressure altitude

/// What is asked of one engine.
struct Demand {
    Rotation rpm;
    std::optional<ManifoldPressure> boost; ///< none: throttle wide open
    std::size_t gear = 0;
    air::Ambient air;
    Speed ias;
    MixtureSetting mixture = Mixture::rich;
    bool held = false; ///< take the boost as held even past full throttle: what a rating line states, for calibration
    double carburettorHeat = 0.0; ///< K added to the air before the carburettor
    double intercooler = 1.0;     ///< flap, 0 shut … 1 open
    bool water = false;           ///< water injection on
    double blower = 1.0;          ///< of the blower's speed: less while a clutch slips
    double turbo = 1.0;           ///< of the pressure rise that the turbo would give
};

/// What it does.
struct OperatingPoint {
    Power power; ///< brake, negative when the engine is driven
    ManifoldPressure manifoldPressure;
    bool fullThrottle = false; ///< the wanted boost is at or beyond what a wide-open throttle gives
    Temperature chargeTemperature;
    MassFlow airFlow, fuelFlow;
    double fuelAirRatio = 0.0;
    Temperature carburettorTemperature;   ///< air entering the carburettor
    ManifoldPressure carburettorPressure; ///< there
    ManifoldPressure wideOpen;            ///< manifold pressure with the throttle wide open
    double exhaustPressure = 0.0;         ///< Pa
    double meanEffectivePressure = 0.0;   ///< brake, Pa
    /// Brake specific consumption, kg/J; infinite when no power is made.
    [[nodiscard]] double specificConsumption() const;
    // Where the indicated power goes, W.
    double indicated = 0.0, friction = 0.0, pumping = 0.0, impeller = 0.0;
};

/// Fuel–air ratio that the carburettor meters at a manifold pressure, Pa (a ratio set by hand is held to 0.04 … 0.14).
double meteredRatio(const EngineParameters& engine, const Demand& demand, double manifold);

/// Brake power, charge temperature and fuel of one engine (physics of induction, supercharger and power: charge by
/// ideal gas with residual re-expansion, Taylor op. cit.; impeller work ψU²; friction a + b s̄²). An auxiliary stage or
/// a turbo stands ahead of the carburettor, with an intercooler of given effectiveness after it; a turbo raises the
/// exhaust's pressure by three quarters of what it raises the inlet's. Accuracy is that of the calibration: within 2 %
/// of the notes' rating lines. Inputs outside the physical range are clamped, never trapped: rpm 60 … 6,000, boost 0.02
/// … 4 bar.
OperatingPoint operate(const EngineParameters& engine, const Demand& demand);
/// Many at once, each as it would be alone. @param points as many as demands
void operate(const EngineParameters& engine, std::span<const Demand> demands, std::span<OperatingPoint> points);

/// Manifold pressure with the throttle wide open.
ManifoldPressure fullThrottlePressure(const EngineParameters& engine, Demand demand);

/// Pressure altitude up to which the boost can be held at this rpm and gear on this day, by a bracketed root (TOMS 748)
/// of full-throttle pressure = boost, to 0.1 m.
/// @return nothing when the boost cannot be had even at −1,000 m; modelTop when it can be had everywhere below
std::optional<Length> fullThrottleHeight(const EngineParameters& engine, Rotation rpm, ManifoldPressure boost,
                                         std::size_t gear, const air::Day& day, Speed ias,
                                         MixtureSetting mixture = Mixture::rich);

} // namespace amber::engine
