// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/atmosphere.h"
#include <algorithm>
#include <cmath>

namespace amber::air {
namespace {
constexpr double tropopause = 11000.0;
constexpr double lowest = -1000.0, highest = 20000.0;
constexpr double tropopauseTemperature = seaLevelTemperature - lapseRate * tropopause;
constexpr double exponent = gravity / (gasConstantDryAir * lapseRate); // 5.25588
const double tropopausePressure = standardPressure * std::pow(tropopauseTemperature / seaLevelTemperature, exponent);
constexpr double scaleHeight = gasConstantDryAir * tropopauseTemperature / gravity;
} // namespace

Temperature standardTemperature(Length pressureAltitude) {
    const double h = std::clamp(pressureAltitude.si(), lowest, highest);
    return Temperature::si(h < tropopause ? seaLevelTemperature - lapseRate * h : tropopauseTemperature);
}

Pressure pressureAtAltitude(Length pressureAltitude) {
    const double h = std::clamp(pressureAltitude.si(), lowest, highest);
    if (h <= tropopause)
        return Pressure::si(standardPressure * std::pow(1.0 - lapseRate * h / seaLevelTemperature, exponent));
    return Pressure::si(tropopausePressure * std::exp(-(h - tropopause) / scaleHeight));
}

Length pressureAltitude(Pressure pressure) {
    const double p = std::max(pressure.si(), 1.0);
    const double h = p >= tropopausePressure
                         ? seaLevelTemperature / lapseRate * (1.0 - std::pow(p / standardPressure, 1.0 / exponent))
                         : tropopause - scaleHeight * std::log(p / tropopausePressure);
    return Length::si(std::clamp(h, lowest, highest));
}

double density(Pressure pressure, Temperature temperature) {
    return pressure.si() / (gasConstantDryAir * temperature.si());
}

double standardDensity(Length altitude) {
    return density(pressureAtAltitude(altitude), standardTemperature(altitude));
}

Pressure fieldPressure(Pressure qnh, Length elevation) {
    return pressureAtAltitude(Length::si(pressureAltitude(qnh).si() + elevation.si()));
}

} // namespace amber::air
