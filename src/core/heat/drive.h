// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/airspeed.h"
#include "heat/thermal_model.h"

namespace amber::heat {

/// The drive that a running engine's point makes, flying at an IAS (0: standing in calm air) with flaps at an opening;
/// oil cooler free, oil undiluted.
inline Drive driveOf(const engine::OperatingPoint& point, Rotation rpm, const air::Ambient& air, Speed ias,
                     double coolingFlap) {
    Drive d;
    d.running = true;
    d.airFlow = point.airFlow;
    d.fuelAirRatio = point.fuelAirRatio;
    d.shaft = point.power;
    d.rpm = rpm;
    d.air = air;
    d.trueAirspeed = ias.si() > 0 ? air::trueAirspeed(ias, air.pressure, air.temperature) : Speed{};
    d.coolingFlap = coolingFlap;
    return d;
}

} // namespace amber::heat
