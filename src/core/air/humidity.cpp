// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/humidity.h"
#include <algorithm>
#include <cmath>

namespace amber::air {

Pressure vapourPressure(Temperature dewPoint) {
    const double t = std::clamp(dewPoint.si() - 273.15, -90.0, 60.0);
    return Pressure::si(610.94 * std::exp(17.625 * t / (t + 243.04)));
}

double relativeHumidity(Temperature temperature, Temperature dewPoint) {
    return std::min(1.0, vapourPressure(dewPoint).si() / vapourPressure(temperature).si());
}

Temperature virtualTemperature(Temperature temperature, Pressure vapour, Pressure pressure) {
    return Temperature::si(temperature.si() / (1.0 - 0.378 * std::min(0.2, vapour.si() / pressure.si())));
}

} // namespace amber::air
