// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include <cmath>

namespace amber::air {
namespace {
double soundSpeed(double kelvin) {
    return std::sqrt(heatCapacityRatio * gasConstantDryAir * kelvin);
}
double power35(double x) {
    return x * x * x * std::sqrt(x);
}
} // namespace

Pressure impactPressure(Speed calibrated) {
    const double m = calibrated.si() / soundSpeed(seaLevelTemperature);
    return Pressure::si(standardPressure * (power35(1.0 + 0.2 * m * m) - 1.0));
}

double machNumber(Pressure impact, Pressure ambient) {
    return std::sqrt(5.0 * (std::pow(impact.si() / ambient.si() + 1.0, 2.0 / 7.0) - 1.0));
}

Speed trueAirspeed(Speed calibrated, Pressure ambient, Temperature temperature) {
    return Speed::si(machNumber(impactPressure(calibrated), ambient) * soundSpeed(temperature.si()));
}

Speed calibratedAirspeed(Speed trueSpeed, Pressure ambient, Temperature temperature) {
    const double m = trueSpeed.si() / soundSpeed(temperature.si());
    const double impact = ambient.si() * (power35(1.0 + 0.2 * m * m) - 1.0);
    return Speed::si(machNumber(Pressure::si(impact), Pressure::si(standardPressure)) *
                     soundSpeed(seaLevelTemperature));
}

} // namespace amber::air
