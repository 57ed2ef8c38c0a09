// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"

/// The ICAO standard atmosphere (Doc 7488/3, 1993) from −1 km to 20 km geopotential height, closed form in both layers,
/// so accurate to the rounding of its constants (better than 1 part in 10⁵ against the printed tables). Heights outside
/// the range are held at its ends.
///
///     pressureAtAltitude(Length::of(18000, units::foot))   // 50,600 Pa
namespace amber::air {

inline constexpr double gasConstantDryAir = 287.05287; ///< J/(kg·K), Doc 7488
inline constexpr double seaLevelTemperature = 288.15;  ///< K
inline constexpr double lapseRate = 0.0065;            ///< K/m up to 11 km
inline constexpr double gravity = 9.80665;             ///< m/s²
inline constexpr double heatCapacityRatio = 1.4;
inline constexpr double specificHeat = 1004.7; ///< J/(kg·K) at constant pressure

/// T = 288.15 − 0.0065 h to 11 km, 216.65 K above.
Temperature standardTemperature(Length pressureAltitude);
/// p = p0 (T/T0)^5.25588 to 11 km, exponential above.
Pressure pressureAtAltitude(Length pressureAltitude);
/// Inverse of pressureAtAltitude. @param pressure 5.4 to 114 kPa
Length pressureAltitude(Pressure pressure);
/// ρ = p/(R T), kg/m³, of dry air.
double density(Pressure pressure, Temperature temperature);
/// Density of the standard atmosphere, kg/m³.
double standardDensity(Length altitude);
/// Barometric pressure at a field from the altimeter setting: the altitude scale shifted so that it reads the
/// elevation.
Pressure fieldPressure(Pressure qnh, Length elevation);

} // namespace amber::air
