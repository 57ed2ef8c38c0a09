// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <string>

namespace amber::air {

/// Outside air at one height.
struct Ambient {
    Pressure pressure;
    Temperature temperature;
    Pressure vapour; ///< partial pressure of water
};

struct Wind {
    int fromDegrees = 0; ///< true, 0 to 360
    Speed speed;
    bool operator==(const Wind&) const = default;
};

/// The day at the field (J01). Away from the field the temperature keeps its deviation from standard and the dew point
/// spread stays as it is below freezing level.
struct Day {
    std::string field;
    Length elevation;
    Pressure qnh = Pressure::si(101325.0);
    Temperature oat = Temperature::si(288.15);
    Temperature dewPoint = Temperature::si(283.15);
    Wind wind;
    bool operator==(const Day&) const = default;

    [[nodiscard]] Pressure fieldPressure() const;
    [[nodiscard]] Length pressureAltitude() const;
    /// Altitude in the standard atmosphere with the same density, humidity included.
    [[nodiscard]] Length densityAltitude() const;
    /// OAT less the standard temperature at the field's pressure altitude.
    [[nodiscard]] TemperatureDifference deviation() const;
    /// Pressure altitude of a height above sea level on this day's QNH.
    [[nodiscard]] Length pressureAltitudeOf(Length height) const;
    [[nodiscard]] Ambient at(Length pressureAltitude) const;
    /// Dew point at a height above sea level: falls by 1.8 K per kilometre from the field's, never above the air.
    [[nodiscard]] Temperature dewPointAt(Length height, Temperature air) const;
};

/// The standard day at a field: 1013.25 hPa, standard temperature, dry air.
Day standardDay(Length elevation);

} // namespace amber::air
