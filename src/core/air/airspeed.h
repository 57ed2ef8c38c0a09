// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"

namespace amber::air {

/// Impact pressure pt − p of a calibrated airspeed: p0[(1 + 0.2 (V/a0)²)^3.5 − 1] (subsonic compressible, ICAO Doc
/// 7488).
Pressure impactPressure(Speed calibrated);
/// Mach number from impact and static pressure.
double machNumber(Pressure impact, Pressure ambient);
/// True airspeed of a calibrated airspeed in the given air.
Speed trueAirspeed(Speed calibrated, Pressure ambient, Temperature temperature);
/// Inverse of trueAirspeed.
Speed calibratedAirspeed(Speed trueSpeed, Pressure ambient, Temperature temperature);

} // namespace amber::air
