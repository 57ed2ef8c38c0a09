// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"

namespace amber::air {

/// Saturation vapour pressure over water, Magnus form with the coefficients of Alduchov & Eskridge (J. Appl. Meteorol.
/// 35, 1996): 610.94 exp(17.625 t/(t + 243.04)) Pa; within 0.4 % from −40 to 50 °C.
Pressure vapourPressure(Temperature dewPoint);
/// Relative humidity, 0 to 1. A dew point above the temperature counts as saturated.
double relativeHumidity(Temperature temperature, Temperature dewPoint);
/// Temperature at which dry air of the same pressure would be as light: T/(1 − 0.378 e/p).
Temperature virtualTemperature(Temperature temperature, Pressure vapour, Pressure pressure);

} // namespace amber::air
