// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/exhaust.h"
#include <algorithm>

namespace amber::powerplant {
namespace {
constexpr double perRicher = 6000.0, perLeaner = 8000.0; // K for each unit of fuel to air
constexpr double lightLoad = 220.0, onOnePlug = 40.0, burningLate = 60.0;
} // namespace

double exhaustTemperature(const engine::OperatingPoint& point, double fuelAir, double share, double oneSpark,
                          double late) {
    const double off = fuelAir - hottestRatio, less = 1.0 - std::clamp(share, 0.0, 1.0);
    const double burning = hottestExhaust - (off > 0 ? perRicher * off : -perLeaner * off) - lightLoad * less * less +
                           onOnePlug * std::clamp(oneSpark, 0.0, 1.0) + burningLate * std::clamp(late, 0.0, 1.0);
    return std::max(burning, point.chargeTemperature.si());
}

} // namespace amber::powerplant
