// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/operating_point.h"

namespace amber::engine {

/// Where the fuel's power goes, W. Lower heating value 43.5 MJ/kg; of rich mixtures only what the air can burn (0.068
/// fuel–air) is released, and of that 95 %; the rest leaves unburnt. Heat to heads or jackets is 0.55 of rated brake
/// power, as the charge flow to the 0.65 (Taylor op. cit.). The exhaust's heat is what is left, so that the
/// sum says nothing: only its temperature, against those measured in such exhausts, tells whether the rest is
/// plausible.
struct EnergyBalance {
    double fuel = 0.0; ///< in
    double shaft = 0.0, friction = 0.0, pumping = 0.0;
    double chargeAir = 0.0;  ///< enthalpy the blower gives the charge, that comes back through intercooler or exhaust
    double blowerLoss = 0.0; ///< in its gears and bearings
    double headOrCoolant = 0.0, unburnt = 0.0, exhaust = 0.0;
    Temperature exhaustTemperature;
};
EnergyBalance energyBalance(const TypeNotes& notes, const EngineParameters& engine, const OperatingPoint& point);

} // namespace amber::engine
