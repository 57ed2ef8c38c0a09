// SPDX-License-Identifier: GPL-3.0-or-later
#include "units/unit_table.h"
#include "units/ascii.h"
#include <algorithm>

namespace amber {
namespace {
bool sameIgnoringCase(std::string_view a, std::string_view b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(),
                      [](char x, char y) { return ascii::lower(x) == ascii::lower(y); });
}

template <class Same>
bool named(const UnitSpec& unit, std::string_view text, Same same) {
    if (same(unit.symbol, text))
        return true;
    std::string_view rest = unit.aliases;
    while (!rest.empty()) {
        const auto bar = rest.find('|');
        if (same(rest.substr(0, bar), text))
            return true;
        rest = bar == std::string_view::npos ? std::string_view{} : rest.substr(bar + 1);
    }
    return false;
}
} // namespace

std::span<const UnitSpec> unitsOf(Dimension dimension) {
    using namespace units::detail;
    switch (dimension) {
    case Dimension::manifoldPressure:
        return manifoldTable;
    case Dimension::pressure:
        return pressureTable;
    case Dimension::temperature:
        return temperatureTable;
    case Dimension::temperatureDifference:
        return temperatureDifferenceTable;
    case Dimension::speed:
        return speedTable;
    case Dimension::verticalSpeed:
        return verticalSpeedTable;
    case Dimension::length:
        return lengthTable;
    case Dimension::distance:
        return distanceTable;
    case Dimension::volume:
        return volumeTable;
    case Dimension::mass:
        return massTable;
    case Dimension::power:
        return powerTable;
    case Dimension::rotation:
        return rotationTable;
    case Dimension::duration:
        return durationTable;
    case Dimension::massFlow:
        return massFlowTable;
    case Dimension::volumeFlow:
        return volumeFlowTable;
    case Dimension::voltage:
        return voltageTable;
    case Dimension::current:
        return currentTable;
    case Dimension::moment:
        return momentTable;
    }
    return {};
}

std::string_view nameOf(Dimension dimension) {
    switch (dimension) {
    case Dimension::manifoldPressure:
        return "a boost or manifold pressure";
    case Dimension::pressure:
        return "a pressure";
    case Dimension::temperature:
        return "a temperature";
    case Dimension::temperatureDifference:
        return "a temperature difference";
    case Dimension::speed:
        return "a speed";
    case Dimension::verticalSpeed:
        return "a rate of climb";
    case Dimension::length:
        return "a height or length";
    case Dimension::distance:
        return "a distance";
    case Dimension::volume:
        return "a volume";
    case Dimension::mass:
        return "a weight";
    case Dimension::power:
        return "a power";
    case Dimension::rotation:
        return "an engine speed";
    case Dimension::duration:
        return "a time";
    case Dimension::massFlow:
        return "a mass flow";
    case Dimension::volumeFlow:
        return "a fuel flow";
    case Dimension::voltage:
        return "a voltage";
    case Dimension::current:
        return "a current";
    case Dimension::moment:
        return "a moment";
    }
    return "a number";
}

const UnitSpec* findUnit(Dimension dimension, std::string_view text) {
    const auto all = unitsOf(dimension);
    for (const auto& unit : all)
        if (named(unit, text, [](std::string_view a, std::string_view b) { return a == b; }))
            return &unit;
    for (const auto& unit : all)
        if (named(unit, text, sameIgnoringCase))
            return &unit;
    return nullptr;
}

} // namespace amber
