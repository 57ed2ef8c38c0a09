// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <optional>
#include <vector>

namespace amber::engine {

/// The few numbers of the engine model, SI. Made from the notes by calibrate().
struct EngineParameters {
    double displacement = 0.03; ///< m³, all cylinders
    double compression = 6.5;
    double stroke = 0.15; ///< m
    double impellerDiameter = 0.0;
    struct Gear {
        double ratio = 1.0;
        double efficiency = 0.70;    ///< adiabatic, of the impeller in this gear
        double auxiliaryRatio = 0.0; ///< 0: the auxiliary stage stands in neutral, or is not there
        double auxiliaryEfficiency = 0.68;
    };
    std::vector<Gear> gears;        ///< empty: not supercharged
    double auxiliaryDiameter = 0.0; ///< m
    double intercooler = 0.0;       ///< effectiveness, flap open
    struct Turbo {
        double held = standardPressure; ///< Pa at the carburettor
        double mostRatio = 1.0;         ///< that the turbine can give, at rated rpm
        double efficiency = 0.68;
    };
    std::optional<Turbo> turbo;
    bool altitudeControl = true;
    double waterRatio = 0.080;    ///< fuel–air ratio with water injection
    double ratedRpm = 45.0;       ///< rev/s, highest of the ratings
    double workFactor = 0.90;     ///< ψ: impeller work over tip speed squared
    double isac = 3.7 / 3.6e6;    ///< air per indicated work at best-power mixture, kg/J
    double frictionBase = 0.5e5;  ///< Pa of mean effective pressure
    double frictionSpeed = 420.0; ///< Pa per (m/s)² of mean piston speed
    double volumetric = 0.90;     ///< ηv0
    double ram = 0.7;
    double throttleLoss = 0.02;
    std::vector<std::pair<double, double>> rich; ///< fraction of rated charge → fuel–air ratio
    double weak = 0.067;
    double burn = 1.0;        ///< fuel flow over what the mixture says: found on one airframe, else 1
    double ratedCharge = 1.0; ///< manifold pressure × rev/s at the highest rating, Pa/s
};

/// The parameters the notes give outright, with typical values for those that calibration settles.
EngineParameters typicalParameters(const TypeNotes& notes);

} // namespace amber::engine
