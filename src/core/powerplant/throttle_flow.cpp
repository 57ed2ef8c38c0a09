// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/throttle_flow.h"
#include <algorithm>
#include <cmath>

namespace amber::powerplant {
namespace {
constexpr double critical = 0.528;
constexpr double stretch = 1.0 / ((1.0 - critical) * (1.0 - critical));

double flowFunction(double r) {
    if (r <= critical)
        return 1.0;
    const double x = (r - critical) / (1.0 - critical);
    return std::sqrt(std::max(1e-9, 1.0 - x * x));
}
/// Flow demanded per unit of pressure behind, over what the open throttle passes when it is choked.
double demandAtRated(double loss) {
    return flowFunction(1.0 - loss) / (1.0 - loss);
}
/// Pressure ratio across, where what is drawn is what passes.
double ratioFor(double demand) {
    if (1.0 / demand <= critical)
        return 1.0 / demand;
    const double c2 = demand * demand, rc = stretch * critical;
    return (rc + std::sqrt(std::max(0.0, rc * rc - (c2 + stretch) * (rc * critical - 1.0)))) / (c2 + stretch);
}
} // namespace

double throttleArea(double place, double idle) {
    return std::pow(idle, 1.0 - std::clamp(place, 0.0, 1.0));
}

double throttledShare(double area, double speed, double wideOpenLoss) {
    const double c = demandAtRated(std::clamp(wideOpenLoss, 0.005, 0.2)) * std::max(speed, 1e-3);
    return ratioFor(c / std::clamp(area, 1e-4, 1.0)) / ratioFor(c);
}

double areaFor(double share, double speed, double wideOpenLoss) {
    const double c = demandAtRated(std::clamp(wideOpenLoss, 0.005, 0.2)) * std::max(speed, 1e-3);
    const double r = std::clamp(share, 1e-3, 1.0) * ratioFor(c);
    return std::clamp(c * r / flowFunction(r), 1e-4, 1.0);
}

} // namespace amber::powerplant
