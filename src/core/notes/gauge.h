// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <array>
#include <optional>
#include <string_view>

namespace amber {

/// The engine gauges the judge knows.
enum class Gauge {
    boost,
    rpm,
    headTemperature,
    coolantTemperature,
    oilTemperature,
    oilPressure,
    fuelPressure,
    chargeTemperature,
    torque,
};

struct GaugeName {
    Gauge gauge;
    std::string_view key;   ///< in files: [limits.head]
    std::string_view title; ///< on screen
    Dimension dimension;
};

inline constexpr std::array<GaugeName, 9> gaugeNames{{
    {Gauge::boost, "boost", "Boost", Dimension::manifoldPressure},
    {Gauge::rpm, "rpm", "Revolutions", Dimension::rotation},
    {Gauge::headTemperature, "head", "Head temp.", Dimension::temperature},
    {Gauge::coolantTemperature, "coolant", "Coolant temp.", Dimension::temperature},
    {Gauge::oilTemperature, "oil", "Oil temp.", Dimension::temperature},
    {Gauge::oilPressure, "oil-pressure", "Oil pressure", Dimension::pressure},
    {Gauge::fuelPressure, "fuel-pressure", "Fuel pressure", Dimension::pressure},
    {Gauge::chargeTemperature, "charge", "Charge temp.", Dimension::temperature},
    {Gauge::torque, "torque", "Torque, BMEP", Dimension::pressure},
}};

constexpr const GaugeName& nameOf(Gauge gauge) {
    return gaugeNames[static_cast<std::size_t>(gauge)];
}
constexpr std::optional<Gauge> gaugeFromKey(std::string_view key) {
    for (const auto& name : gaugeNames)
        if (name.key == key)
            return name.gauge;
    return std::nullopt;
}

} // namespace amber
