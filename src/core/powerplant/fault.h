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

/// What a fault can take away, as a sum. A needle that lies takes nothing: what came of it the hand did.
enum FaultTakes : unsigned {
    takesNothing = 0,
    takesStart = 1,
    takesPower = 2,
    takesEngine = 4, ///< it can stop it
    takesOil = 8,    ///< its pressure
    takesHeat = 16,  ///< the needles of heads or coolant
    takesStop = 32,  ///< it does not stop by its switch
};

/// One row of the register of faults.
struct FaultRow {
    Fault fault;
    std::string_view key;   ///< in scripts and files
    std::string_view title; ///< for people
    unsigned takes = takesNothing;
    double over = 0.0; ///< s from its beginning until it has its whole severity; 0: at once
};

inline constexpr std::array faultRegister{
    FaultRow{Fault::oilLost, "oil-lost", "Oil being lost", takesEngine},
    FaultRow{Fault::oilPump, "oil-pump", "Oil pump failed", takesEngine},
    FaultRow{Fault::oilPressureGauge, "oil-pressure-gauge", "Oil pressure gauge failed", takesNothing},
    FaultRow{Fault::reliefValve, "relief-valve", "Oil relief valve stuck open", takesOil},
    FaultRow{Fault::coolerCongealed, "cooler-congealed", "Oil cooler congealed", takesNothing, 60.0},
    FaultRow{Fault::coolerClogged, "cooler-clogged", "Oil cooler shut or clogged", takesNothing, 20.0},
    FaultRow{Fault::bearing, "bearing", "Bearing failing", takesOil | takesEngine | takesPower, 180.0},
    FaultRow{Fault::ring, "ring", "Ring or piston failing", takesEngine | takesPower, 60.0},
    FaultRow{Fault::fouledPlugs, "fouled-plugs", "Fouled plugs", takesStart | takesPower},
    FaultRow{Fault::deadLead, "dead-lead", "Dead ignition lead", takesPower},
    FaultRow{Fault::magnetoDead, "magneto-dead", "Magneto dead", takesStart | takesPower},
    FaultRow{Fault::notEarthing, "not-earthing", "Ignition switch does not earth", takesStop},
    FaultRow{Fault::timingLate, "timing-late", "Ignition timing late", takesPower},
    FaultRow{Fault::carburettorIce, "carburettor-ice", "Carburettor ice forming", takesEngine | takesPower},
    FaultRow{Fault::airDoorHot, "air-door-hot", "Carburettor air stuck hot", takesPower},
    FaultRow{Fault::tankDry, "tank-dry", "Tank gives no more", takesStart | takesEngine | takesPower},
    FaultRow{Fault::fuelPump, "fuel-pump", "Engine's fuel pump failing", takesStart | takesEngine | takesPower, 10.0},
    FaultRow{Fault::fuelLeak, "fuel-leak", "Fuel leak in the nacelle", takesEngine | takesPower},
    FaultRow{Fault::vapourLock, "vapour-lock", "Vapour lock", takesStart | takesEngine | takesPower, 10.0},
    FaultRow{Fault::fuelPressureGauge, "fuel-pressure-gauge", "Fuel pressure gauge failed", takesNothing},
    FaultRow{Fault::rich, "rich", "Mixture rich", takesStart | takesPower},
    FaultRow{Fault::lean, "lean", "Mixture lean", takesStart | takesEngine | takesPower},
    FaultRow{Fault::inductionLeak, "induction-leak", "Induction leak", takesStart | takesPower},
    FaultRow{Fault::detonation, "detonation", "Detonation", takesEngine | takesPower},
    FaultRow{Fault::preIgnition, "pre-ignition", "Pre-ignition", takesEngine | takesPower, 10.0},
    FaultRow{Fault::governorRunaway, "governor-runaway", "Governor runaway", takesEngine | takesPower},
    FaultRow{Fault::pitchFixed, "pitch-fixed", "Propeller pitch fixed", takesPower},
    FaultRow{Fault::tachometer, "tachometer", "Tachometer failed", takesNothing},
    FaultRow{Fault::flapShut, "flap-shut", "Cooling flap or shutter stuck shut", takesHeat},
    FaultRow{Fault::coolantLost, "coolant-lost", "Coolant being lost", takesEngine | takesHeat},
    FaultRow{Fault::boostGaugeLine, "boost-gauge-line", "Boost gauge line broken", takesNothing},
    FaultRow{Fault::boostControl, "boost-control", "Boost control hunting", takesPower},
    FaultRow{Fault::clutchSlips, "clutch-slips", "Blower clutch slips", takesPower},
    FaultRow{Fault::wasteGate, "waste-gate", "Waste gate stuck shut", takesPower},
    FaultRow{Fault::waterFails, "water-fails", "Water injection fails", takesPower},
    FaultRow{Fault::valve, "valve", "Valve or cylinder failed", takesEngine | takesPower},
    FaultRow{Fault::generator, "generator", "Generator failed", takesNothing},
    FaultRow{Fault::gaugeSupply, "gauge-supply", "Supply of the electric gauges failed", takesNothing},
    FaultRow{Fault::starterStuck, "starter-stuck", "Starter stuck in", takesNothing},
    FaultRow{Fault::hydraulicLock, "hydraulic-lock", "Hydraulic lock in a lower cylinder", takesStart | takesEngine},
    FaultRow{Fault::noSpark, "no-spark", "No spark for the start", takesStart},
    FaultRow{Fault::dead, "dead", "Engine dead, windmilling", takesStart | takesEngine | takesPower},
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
