// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/operating_point.h"

namespace amber::powerplant {

/// What a thermometer in the exhaust reads at full load and at its hottest mixture, K, and at which fuel–air ratio that
/// is: engineering practice (870 °C at 0.067), like all the figures here an estimate of the usual size.
inline constexpr double hottestExhaust = 1143.15, hottestRatio = 0.067;

/// Temperature of an engine's exhaust at a thermometer in the stub, K. 6 K less for each thousandth of fuel to air that
/// is richer than the hottest mixture and 8 for each that is leaner; with less pressure in the manifold the walls take
/// a greater share: 220 K less at none, by the square; hotter where the charge burns late, for then less of it has
/// become work.
/// @param share manifold pressure over that of the strongest rating @param oneSpark share of the charges lit by one
/// plug of two (40 K) @param late 0 … 1, as the fault (60 K)
double exhaustTemperature(const engine::OperatingPoint& point, double fuelAir, double share, double oneSpark = 0.0,
                          double late = 0.0);

} // namespace amber::powerplant
