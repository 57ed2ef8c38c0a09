// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/day.h"
#include "engine/operating_point.h"
#include "notes/type_notes.h"
#include <string>
#include <utility>
#include <vector>

namespace amber::heat {

/// Temperatures of one engine that change with time.
struct Temperatures {
    Temperature headOrCoolant; ///< cylinder heads, or coolant in a liquid-cooled engine
    Temperature oil;
};

/// What drives them, constant over a stretch of time.
struct Drive {
    bool running = false;
    MassFlow airFlow;
    double fuelAirRatio = 0.08;
    Power shaft; ///< for the propeller's wash
    Rotation rpm;
    air::Ambient air;
    Speed trueAirspeed;       ///< of the air that meets the cowl: taxying down wind it may be negative
    double coolingFlap = 0.5; ///< 0 shut … 1 open
    double oilCooler = 1.0;   ///< share of the oil cooler's air that is let through: blanked 0.15, free 1
    double oilThinning = 1.0; ///< viscosity of the oil over undiluted
};

/// How fast they change, K/s.
struct Rates {
    double headOrCoolant = 0.0, oil = 0.0;
};

/// Head or coolant and oil as lumped masses (heads: Pinkel, NACA Report 612, 1938: heat in ∝ ṁ^0.62 (Tg − Th), out ∝
/// (σΔp)^0.38 (Th − Ta); coolant: heat in ∝ ṁ^0.65 to an effectiveness–NTU radiator with thermostat; oil: friction and
/// piston cooling to a cooler with thermostatic bypass). Scaled so that the notes' rated point is a steady state.
/// Integrated by Boost.Odeint's fourth-order Runge–Kutta with steps of at most 10 s. An estimate: always marked as
/// model.
class ThermalModel {
public:
    ThermalModel(const TypeNotes& notes, const engine::EngineParameters& engine);

    /// The same engine with more or less metal and oil to warm: it settles where it did, sooner or later. For engines
    /// of another build that a prediction is tried on; the notes know nothing of it. @param heads, oil masses over this
    /// model's
    [[nodiscard]] ThermalModel ofMass(double heads, double oil) const {
        ThermalModel out = *this;
        out.headMass_ *= heads;
        out.oilMass_ *= oil;
        return out;
    }

    /// A drive as the rates see it, worked out once for many steps; relative to the rated point.
    struct Forcing {
        bool running;
        double gas;         ///< K
        double metalIn;     ///< relative to rated
        double metalOut;    ///< relative to rated
        double oilIn;       ///< relative to rated
        double oilOut;      ///< relative to rated
        double ambient;     ///< K
        double thinning;    ///< viscosity over undiluted
        double thick = 1.0; ///< its fourth root
    };
    [[nodiscard]] Forcing forcing(const Drive& drive) const;
    [[nodiscard]] Temperatures after(Temperatures now, const Forcing& forcing, Duration time) const;
    [[nodiscard]] Temperatures after(Temperatures now, const Drive& drive, Duration time) const {
        return after(now, forcing(drive), time);
    }
    /// Where heads or coolant alone settle: the oil has no part in it, and they go there without turning back.
    [[nodiscard]] Temperature steadyHeadOrCoolant(const Forcing& forcing) const;
    /// Where the temperatures settle when the drive lasts.
    [[nodiscard]] Temperatures steady(const Drive& drive) const;
    [[nodiscard]] Rates rates(Temperatures now, const Drive& drive) const;
    [[nodiscard]] Cooling cooling() const { return cooling_; }
    /// Every number of the equations by name, SI, and the forcing a drive makes: for a reader who solves them again.
    [[nodiscard]] std::vector<std::pair<std::string, double>> constants() const;
    [[nodiscard]] std::vector<std::pair<std::string, double>> forcingOf(const Drive& drive) const;

    /// Oil pressure: the relief setting approached from ∝ n ν(T), Walther viscosity (ASTM D341) of a grade-120 aero
    /// oil; cold oil overshoots by up to a quarter.
    [[nodiscard]] Pressure oilPressure(Rotation rpm, Temperature oil, double thinning = 1.0) const;

private:
    /// σ q of the air on the cowl, propeller's wash included, Pa.
    [[nodiscard]] double coolingWind(const Drive& drive) const;
    [[nodiscard]] double headOrCoolantRate(double headOrCoolant, const Forcing& forcing) const;
    [[nodiscard]] Rates rates(double headOrCoolant, double oil, const Forcing& forcing) const;

    Cooling cooling_;
    double propellerArea_;
    double ratedFlap_, slipstream_;
    double ratedAirFlow_ = 1.0, ratedRpm_ = 1.0, ratedWind_ = 1.0;
    double gasRated_ = 1323.0;
    Temperatures rated_;
    double ratedAmbient_ = 288.15;
    double thermostat_ = 0.0, oilThermostat_ = 0.0;
    double ratedCoolantOpen_ = 1.0, ratedOilOpen_ = 1.0;
    double oilRelief_;
    double headMass_ = 1.0, oilMass_ = 1.0; ///< over what the model has
};

/// Kinematic viscosity of the reference oil, mm²/s. @param oil clamped to −40 … 150 °C
double oilViscosity(Temperature oil);

} // namespace amber::heat
