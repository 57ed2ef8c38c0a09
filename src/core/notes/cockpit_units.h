// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include <iterator>

/// Units that follow from those of the cockpit, and the gauge that follows from the cooling.
namespace amber {

/// Degrees of a difference: those of the temperature gauges.
inline const UnitSpec& differenceUnit(const Cockpit& cockpit) {
    return units::detail::temperatureDifferenceTable[cockpit.temperature == units::fahrenheit.spec ? 1 : 0];
}
/// Rate of climb: metres a second where heights are metric, feet a minute else.
inline const UnitSpec& verticalSpeedUnit(const Cockpit& cockpit) {
    return units::detail::verticalSpeedTable[cockpit.height == units::metre.spec ? 1 : 0];
}
/// Fuel flow: the unit of the fuel gauges an hour.
inline const UnitSpec& fuelFlowUnit(const Cockpit& cockpit) {
    using namespace units::detail;
    for (std::size_t i = 0; i < std::size(volumeFlowTable); ++i)
        if (cockpit.fuel == &volumeTable[i])
            return volumeFlowTable[i];
    return volumeFlowTable[2];
}
/// What a rate of climb is rounded to in that unit, m/s.
inline double verticalSpeedStep(const Cockpit& cockpit) {
    return cockpit.height == units::metre.spec ? 0.1 : 10 * 0.3048 / 60;
}
/// Heads or coolant, by the cooling.
inline Gauge headOrCoolantGauge(const TypeNotes& notes) {
    return notes.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature;
}

} // namespace amber
