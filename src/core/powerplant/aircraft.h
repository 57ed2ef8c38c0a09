// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/calibration.h"
#include "engine/propeller.h"
#include "engine/propeller_load.h"
#include "heat/thermal_model.h"
#include "notes/problem.h"
#include "notes/type_notes.h"
#include "powerplant/condition.h"

namespace amber::powerplant {

/// Drag of the aircraft as D = q f + k W²/q with q = ½ρ0 EAS², settled by the notes' level and climbing performance
/// lines.
struct Drag {
    double area = 1.0;    ///< f, m²
    double induced = 0.1; ///< k, m⁻²
    static constexpr double propellerEfficiency = 0.80;

    [[nodiscard]] double force(double dynamicPressure, double weightNewton) const {
        return dynamicPressure * area + induced * weightNewton * weightNewton / dynamicPressure;
    }
};

/// The notes of one type and variant with all models settled by them; made once, then read only.
struct Aircraft {
    TypeNotes notes;
    engine::Calibration calibration;
    engine::FineStop fineStop;
    engine::Propeller propeller;
    heat::ThermalModel thermal;
    Drag drag;
    std::vector<Learnt> learnt; ///< of each engine of one airframe (`taught`); empty: the type as its notes have it

    [[nodiscard]] const engine::EngineParameters& model() const { return calibration.parameters; }
};

/// How fast she gathers speed on the runway, m/s²: thrust ηP/V, no more than momentum theory gives a standing propeller
/// (Glauert), against drag and a rolling friction of 0.03. @param useful ηP of all engines, W @param tas m/s
/// @param standing drag area of propellers that stand or windmill, m²
double onTheRunway(const Aircraft& aircraft, double useful, double tas, double density, double standing, Mass mass);

/// Settles the models. Nothing, and the reasons, when the performance lines cannot be met by any drag or propeller, or
/// the rating lines contradict each other so that the fit misses one by more than 10 % of power.
std::optional<Aircraft> assemble(TypeNotes notes, Problems& problems);

/// The aircraft of an airframe whose log has taught something. What it burns more than the model (all engines' mean) is
/// in every figure of fuel. @param learnt one an engine
Aircraft taught(const Aircraft& aircraft, std::vector<Learnt> learnt);
/// What a figure of fuel is made of: the model, or with it what was found on this airframe.
Origin originOfFuel(const Aircraft& aircraft);
/// "model", or "model, fuel logged": of figures of which fuel is only one.
std::string_view markWithFuel(const Aircraft& aircraft);
/// What the settled models say at the notes' ratings, in eight characters: another one, and what was learnt against
/// these models no longer holds. What was learnt itself does not change it.
std::string markOfModel(const Aircraft& aircraft);

/// True airspeed in level flight at this power and height, on the fast side; nothing when it cannot stay level.
std::optional<Speed> levelSpeed(const Aircraft& aircraft, double shaftWatt, Mass weight, const air::Ambient& air);

/// Shaft power, all engines, at which she climbs so fast, m/s (negative: sinks): the rate is linear in it.
Power powerForRate(const Aircraft& aircraft, double climb, Mass weight, Speed ias, const air::Ambient& air);
/// Rate of climb (geometric) at this total shaft power and speed; negative when descending.
VerticalSpeed rateOfClimb(const Aircraft& aircraft, double shaftWatt, Mass weight, Speed ias, const air::Ambient& air);

} // namespace amber::powerplant
