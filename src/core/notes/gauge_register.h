// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <array>
#include <cmath>
#include <limits>
#include <optional>
#include <string_view>

namespace amber {

/// Everything that can be read of an engine or of the aircraft at a moment, with a needle in this cockpit or without.
enum class Gauge {
    boost,
    rpm,
    height,
    headTemperature,
    coolantTemperature,
    oilTemperature,
    oilPressure,
    fuelPressure,
    chargeTemperature,
    torque,
    power,
    airspeed,
    fuel,
    fuelFlow,
    carburettorAir,
    oilContents,
    waterPressure,
    volts,
    amperes,
    hydraulicPressure,
    exhaustTemperature,
    weight,
    balance,
};

/// Whether the score has a lane for it.
enum class Lane { never, always, whereThereIsAGauge };

/// One line of the register: all that screen, score, export and notes need to know of a gauge.
struct GaugeRow {
    Gauge gauge;
    std::string_view key;   ///< in files: [limits.head]
    std::string_view title; ///< on a page
    Dimension dimension;
    bool limited = true; ///< notes may give it limits and a dial
    Lane lane = Lane::never;
    std::string_view laneTitle{};
    bool byLevers = false;       ///< jumps with a lever (a change of gear); else it is steady between two samples
    std::string_view exported{}; ///< key in exports, its unit at the end
    double exportScale = 1.0, exportZero = 0.0; ///< SI = value × scale + zero
};

/// A gauge is added here and where a sample is taken (Simulation::note): lanes, exports, limits and dials follow.
inline constexpr std::array gaugeRegister{
    GaugeRow{Gauge::boost, "boost", "Boost", Dimension::manifoldPressure, true, Lane::whereThereIsAGauge, "boost", true,
             "manifold_pressure_kPa", 1000},
    GaugeRow{Gauge::rpm, "rpm", "Revolutions", Dimension::rotation, true, Lane::always, "rpm", false, "rpm", 1.0 / 60},
    GaugeRow{Gauge::height, "height", "Height", Dimension::length, false, Lane::always, "height", false, "height_m"},
    GaugeRow{Gauge::headTemperature, "head", "Head temp.", Dimension::temperature, true, Lane::always, "heads", false,
             "head_C", 1, 273.15},
    GaugeRow{Gauge::coolantTemperature, "coolant", "Coolant temp.", Dimension::temperature, true, Lane::always,
             "coolant", false, "coolant_C", 1, 273.15},
    GaugeRow{Gauge::oilTemperature, "oil", "Oil temp.", Dimension::temperature, true, Lane::always, "oil", false,
             "oil_C", 1, 273.15},
    GaugeRow{Gauge::oilPressure, "oil-pressure", "Oil pressure", Dimension::pressure, true, Lane::never, "oil pressure",
             false, "oil_pressure_kPa", 1000},
    GaugeRow{Gauge::fuelPressure, "fuel-pressure", "Fuel pressure", Dimension::pressure, true, Lane::never,
             "fuel pressure", false, "fuel_pressure_kPa", 1000},
    GaugeRow{Gauge::chargeTemperature, "charge", "Charge temp.", Dimension::temperature, true, Lane::whereThereIsAGauge,
             "charge", false, "charge_C", 1, 273.15},
    GaugeRow{Gauge::torque, "torque", "Torque, BMEP", Dimension::pressure, true, Lane::whereThereIsAGauge, "torque",
             true, "bmep_kPa", 1000},
    GaugeRow{Gauge::power, "power", "Power, each engine", Dimension::power, false, Lane::never, "power", true,
             "power_kW", 1000},
    GaugeRow{Gauge::airspeed, "airspeed", "Airspeed", Dimension::speed, false, Lane::never, "speed", false, "ias_m_s"},
    GaugeRow{Gauge::fuel, "fuel", "Fuel in all tanks", Dimension::volume, false, Lane::always, "fuel", false, "fuel_l",
             1e-3},
    GaugeRow{Gauge::fuelFlow, "fuel-flow", "Fuel flow, each engine", Dimension::volumeFlow, false, Lane::never,
             "fuel flow", true, "fuel_flow_l_h", 1e-3 / 3600},
    GaugeRow{Gauge::carburettorAir, "carburettor-air", "Carburettor air", Dimension::temperature, false, Lane::never,
             "carburettor air", false, "carburettor_air_C", 1, 273.15},
    GaugeRow{Gauge::oilContents, "oil-contents", "Oil in the tank", Dimension::volume, false, Lane::never,
             "oil contents", false, "oil_l", 1e-3},
    GaugeRow{Gauge::waterPressure, "water-pressure", "Water pressure", Dimension::pressure, false, Lane::never, "water",
             true, "water_kPa", 1000},
    GaugeRow{Gauge::volts, "volts", "Volts at the bus", Dimension::voltage, false, Lane::never, "volts", true, "volts"},
    GaugeRow{Gauge::amperes, "amperes", "Generator, amperes", Dimension::current, false, Lane::never, "amperes", true,
             "amperes"},
    GaugeRow{Gauge::hydraulicPressure, "hydraulic-pressure", "Hydraulic pressure", Dimension::pressure, false,
             Lane::never, "hydraulics", true, "hydraulic_kPa", 1000},
    GaugeRow{Gauge::exhaustTemperature, "exhaust", "Exhaust temp.", Dimension::temperature, true,
             Lane::whereThereIsAGauge, "exhaust", true, "exhaust_C", 1, 273.15},
    GaugeRow{Gauge::weight, "weight", "Weight", Dimension::mass, false, Lane::never, "weight", false, "weight_kg"},
    GaugeRow{Gauge::balance, "balance", "Centre of gravity", Dimension::length, false, Lane::never, "centre of gravity",
             false, "balance_m"},
};
static_assert([] {
    for (std::size_t i = 0; i < gaugeRegister.size(); ++i)
        if (gaugeRegister[i].gauge != static_cast<Gauge>(i))
            return false;
    return true;
}());

constexpr const GaugeRow& nameOf(Gauge gauge) {
    return gaugeRegister[static_cast<std::size_t>(gauge)];
}
/// The gauge of a section of the notes, [limits.KEY]; nothing for one that can have no limits.
constexpr std::optional<Gauge> gaugeFromKey(std::string_view key) {
    for (const auto& row : gaugeRegister)
        if (row.limited && row.key == key)
            return row.gauge;
    return std::nullopt;
}

/// Whether a gauge is one of the whole aircraft, not of an engine.
constexpr bool isOfAircraft(Gauge gauge) {
    return gauge == Gauge::height || gauge == Gauge::airspeed || gauge == Gauge::fuel || gauge == Gauge::volts ||
           gauge == Gauge::hydraulicPressure || gauge == Gauge::weight || gauge == Gauge::balance;
}

/// What every gauge reads at one moment, SI; NaN where the type has none of it.
class Readings {
public:
    constexpr Readings() { of_.fill(std::numeric_limits<double>::quiet_NaN()); }
    [[nodiscard]] constexpr double operator[](Gauge gauge) const { return of_[static_cast<std::size_t>(gauge)]; }
    [[nodiscard]] constexpr double& operator[](Gauge gauge) { return of_[static_cast<std::size_t>(gauge)]; }
    [[nodiscard]] bool has(Gauge gauge) const { return !std::isnan((*this)[gauge]); }
    /// Heads or coolant, whichever the engine has.
    [[nodiscard]] double headOrCoolant() const {
        return has(Gauge::headTemperature) ? (*this)[Gauge::headTemperature] : (*this)[Gauge::coolantTemperature];
    }

private:
    std::array<double, gaugeRegister.size()> of_{};
};

} // namespace amber
