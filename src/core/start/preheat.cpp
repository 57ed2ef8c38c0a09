// SPDX-License-Identifier: GPL-3.0-or-later
#include "start/preheat.h"
#include <cmath>

namespace amber::start {
namespace {
constexpr double massPerVolume = 23000.0; // kg/m³ of displacement
constexpr double specificHeat = 600.0;    // J/(kg K), aluminium, steel and oil together
constexpr double lossTime = 3600.0;       // s, under covers
} // namespace

std::optional<Duration> heaterTime(const TypeNotes& notes, Temperature from, Temperature to, Temperature air) {
    if (to <= from)
        return Duration{};
    const double capacity = notes.engine.displacement.si() * massPerVolume * specificHeat;
    const double settles = air.si() + notes.start.cold.heater.si() * lossTime / capacity;
    if (settles <= to.si())
        return std::nullopt;
    return Duration::si(lossTime * std::log((settles - from.si()) / (settles - to.si())));
}

} // namespace amber::start
