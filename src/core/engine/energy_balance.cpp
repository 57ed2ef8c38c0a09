// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/energy_balance.h"
#include "air/atmosphere.h"
#include <algorithm>
#include <cmath>

namespace amber::engine {
namespace {
constexpr double heatingValue = 43.5e6;   // J/kg
constexpr double burnable = 0.068;        // fuel–air ratio at which the air is used up
constexpr double metalShare = 0.55;       // of rated brake power
constexpr double exhaustHeat = 1350.0;    // J/(kg K), burnt gas up to its temperature
constexpr double completeness = 0.95;     // of what could burn
constexpr double blowerEfficiency = 0.95; // of gears and bearings
} // namespace

EnergyBalance energyBalance(const TypeNotes& notes, const EngineParameters& e, const OperatingPoint& p) {
    EnergyBalance b;
    const double fuel = p.fuelFlow.si();
    b.fuel = fuel * heatingValue;
    b.unburnt = b.fuel - std::min(fuel, p.airFlow.si() * burnable) * completeness * heatingValue;
    b.shaft = p.power.si();
    b.friction = p.friction;
    b.pumping = p.pumping;
    b.chargeAir = p.impeller * blowerEfficiency;
    b.blowerLoss = p.impeller - b.chargeAir;
    // Rated: the rating of most power, its charge flow on the standard day.
    double rated = 1.0, flow = 1.0;
    const air::Day day = air::standardDay(Length{});
    for (const auto& r : notes.ratings)
        for (const auto& l : r.lines)
            if (l.power && l.power->si() > rated) {
                rated = l.power->si();
                flow = operate(e, {r.rpm, r.boostOf(l), notes.gearIndex(l.gear).value_or(0), day.at(l.at), Speed{},
                                   r.mixture})
                           .airFlow.si();
            }
    b.headOrCoolant = metalShare * rated * std::pow(p.airFlow.si() / std::max(1e-6, flow), 0.65);
    // The blower's work is in the charge already: it leaves with the exhaust.
    const double burnt = b.fuel - b.unburnt;
    b.exhaust = burnt - b.shaft - b.friction - b.pumping - b.chargeAir - b.blowerLoss - b.headOrCoolant;
    const double gas = p.airFlow.si() + fuel;
    b.exhaustTemperature =
        Temperature::si(p.chargeTemperature.si() + (gas > 0 ? (b.exhaust) / (gas * exhaustHeat) : 0.0));
    return b;
}

} // namespace amber::engine
