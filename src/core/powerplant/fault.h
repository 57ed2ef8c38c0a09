// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <optional>
#include <string_view>

namespace amber::powerplant {

/// What can be wrong with one engine, its propeller, what feeds it, or a gauge that tells of it.
enum class Fault {
    oilLost,
    oilPump,
    oilPressureGauge,
    reliefValve,
    coolerCongealed,
    coolerClogged,
    bearing,
    ring,
    fouledPlugs,
    deadLead,
    magnetoDead,
    notEarthing,
    timingLate,
    carburettorIce,
    airDoorHot,
    tankDry,
    fuelPump,
    fuelLeak,
    vapourLock,
    fuelPressureGauge,
    rich,
    lean,
    inductionLeak,
    detonation,
    preIgnition,
    governorRunaway,
    pitchFixed,
    tachometer,
    flapShut,
    coolantLost,
    boostGaugeLine,
    boostControl,
    clutchSlips,
    wasteGate,
    waterFails,
    valve,
    generator,
    gaugeSupply,
    starterStuck,
    hydraulicLock,
    noSpark,
    dead,
};

/// One row of the register of faults.
struct FaultRow {
    Fault fault;
    std::string_view key;   ///< in scripts and files
    std::string_view title; ///< for people
    double over = 0.0;      ///< s from its beginning until it has its whole severity; 0: at once
};

inline constexpr std::array faultRegister{
    FaultRow{Fault::oilLost, "oil-lost", "Oil being lost"},
    FaultRow{Fault::oilPump, "oil-pump", "Oil pump failed"},
    FaultRow{Fault::oilPressureGauge, "oil-pressure-gauge", "Oil pressure gauge failed"},
    FaultRow{Fault::reliefValve, "relief-valve", "Oil relief valve stuck open"},
    FaultRow{Fault::coolerCongealed, "cooler-congealed", "Oil cooler congealed", 60.0},
    FaultRow{Fault::coolerClogged, "cooler-clogged", "Oil cooler shut or clogged", 20.0},
    FaultRow{Fault::bearing, "bearing", "Bearing failing", 180.0},
    FaultRow{Fault::ring, "ring", "Ring or piston failing", 60.0},
    FaultRow{Fault::fouledPlugs, "fouled-plugs", "Fouled plugs"},
    FaultRow{Fault::deadLead, "dead-lead", "Dead ignition lead"},
    FaultRow{Fault::magnetoDead, "magneto-dead", "Magneto dead"},
    FaultRow{Fault::notEarthing, "not-earthing", "Ignition switch does not earth"},
    FaultRow{Fault::timingLate, "timing-late", "Ignition timing late"},
    FaultRow{Fault::carburettorIce, "carburettor-ice", "Carburettor ice forming"},
    FaultRow{Fault::airDoorHot, "air-door-hot", "Carburettor air stuck hot"},
    FaultRow{Fault::tankDry, "tank-dry", "Tank gives no more"},
    FaultRow{Fault::fuelPump, "fuel-pump", "Engine's fuel pump failing", 10.0},
    FaultRow{Fault::fuelLeak, "fuel-leak", "Fuel leak in the nacelle"},
    FaultRow{Fault::vapourLock, "vapour-lock", "Vapour lock", 10.0},
    FaultRow{Fault::fuelPressureGauge, "fuel-pressure-gauge", "Fuel pressure gauge failed"},
    FaultRow{Fault::rich, "rich", "Mixture rich"},
    FaultRow{Fault::lean, "lean", "Mixture lean"},
    FaultRow{Fault::inductionLeak, "induction-leak", "Induction leak"},
    FaultRow{Fault::detonation, "detonation", "Detonation"},
    FaultRow{Fault::preIgnition, "pre-ignition", "Pre-ignition", 10.0},
    FaultRow{Fault::governorRunaway, "governor-runaway", "Governor runaway"},
    FaultRow{Fault::pitchFixed, "pitch-fixed", "Propeller pitch fixed"},
    FaultRow{Fault::tachometer, "tachometer", "Tachometer failed"},
    FaultRow{Fault::flapShut, "flap-shut", "Cooling flap or shutter stuck shut"},
    FaultRow{Fault::coolantLost, "coolant-lost", "Coolant being lost"},
    FaultRow{Fault::boostGaugeLine, "boost-gauge-line", "Boost gauge line broken"},
    FaultRow{Fault::boostControl, "boost-control", "Boost control hunting"},
    FaultRow{Fault::clutchSlips, "clutch-slips", "Blower clutch slips"},
    FaultRow{Fault::wasteGate, "waste-gate", "Waste gate stuck shut"},
    FaultRow{Fault::waterFails, "water-fails", "Water injection fails"},
    FaultRow{Fault::valve, "valve", "Valve or cylinder failed"},
    FaultRow{Fault::generator, "generator", "Generator failed"},
    FaultRow{Fault::gaugeSupply, "gauge-supply", "Supply of the electric gauges failed"},
    FaultRow{Fault::starterStuck, "starter-stuck", "Starter stuck in"},
    FaultRow{Fault::hydraulicLock, "hydraulic-lock", "Hydraulic lock in a lower cylinder"},
    FaultRow{Fault::noSpark, "no-spark", "No spark for the start"},
    FaultRow{Fault::dead, "dead", "Engine dead, windmilling"},
};
static_assert([] {
    for (std::size_t i = 0; i < faultRegister.size(); ++i)
        if (faultRegister[i].fault != static_cast<Fault>(i))
            return false;
    return true;
}());

constexpr const FaultRow& nameOf(Fault fault) {
    return faultRegister[static_cast<std::size_t>(fault)];
}
constexpr std::optional<Fault> faultFromKey(std::string_view key) {
    for (const auto& row : faultRegister)
        if (row.key == key)
            return row.fault;
    return std::nullopt;
}

} // namespace amber::powerplant
