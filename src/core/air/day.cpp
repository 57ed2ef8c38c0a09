// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/day.h"
#include "air/atmosphere.h"
#include "air/humidity.h"
#include <algorithm>
#include <cmath>

namespace amber::air {

Pressure Day::fieldPressure() const {
    return air::fieldPressure(qnh, elevation);
}

Length Day::pressureAltitudeOf(Length height) const {
    return Length::si(height.si() + air::pressureAltitude(qnh).si());
}

Temperature Day::dewPointAt(Length height, Temperature air) const {
    constexpr double fallPerMetre = 1.8e-3; // K
    return Temperature::si(
        std::min(dewPoint.si() - fallPerMetre * std::max(0.0, height.si() - elevation.si()), air.si()));
}

Length Day::pressureAltitude() const {
    return pressureAltitudeOf(elevation);
}

TemperatureDifference Day::deviation() const {
    return oat - standardTemperature(pressureAltitude());
}

Length Day::densityAltitude() const {
    const Pressure p = fieldPressure();
    const double wanted = density(p, virtualTemperature(oat, vapourPressure(dewPoint), p));
    // Troposphere only: ρ = ρ0 (1 − L h/T0)^4.25588 inverted.
    const double ratio = wanted / density(Pressure::si(standardPressure), Temperature::si(seaLevelTemperature));
    const double power = gravity / (gasConstantDryAir * lapseRate) - 1.0;
    return Length::si(seaLevelTemperature / lapseRate * (1.0 - std::pow(ratio, 1.0 / power)));
}

Ambient Day::at(Length pressureAltitude) const {
    const Temperature t = standardTemperature(pressureAltitude) + deviation();
    const TemperatureDifference spread = TemperatureDifference::si(std::max(0.0, (oat - dewPoint).si()));
    return {pressureAtAltitude(pressureAltitude), t, vapourPressure(t - spread)};
}

Day standardDay(Length elevation) {
    Day day;
    day.elevation = elevation;
    day.oat = standardTemperature(elevation);
    day.dewPoint = Temperature::si(183.15);
    return day;
}

} // namespace amber::air
