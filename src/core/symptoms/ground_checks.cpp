// SPDX-License-Identifier: GPL-3.0-or-later
#include "symptoms/ground_checks.h"

namespace amber::trouble {

std::string_view groundCheck(powerplant::Fault fault) {
    using enum powerplant::Fault;
    switch (fault) {
    case oilLost:
        return "oil lines, unions, propeller seal and rocker covers for streaks; contents by stick";
    case oilPump:
        return "oil screens and sump plug for metal; pump drive; pressure line";
    case oilPressureGauge:
        return "the gauge against a master gauge; its line and restrictor";
    case reliefValve:
        return "relief valve: seat, spring, dirt under it";
    case coolerCongealed:
        return "cooler by-pass and shutter; grade of oil for the cold";
    case coolerClogged:
        return "cooler matrix for oil sludge inside and dirt outside; shutter travel; thermostatic by-pass";
    case bearing:
        return "screens and sump plug for metal, and an oil sample; do not run it";
    case ring:
        return "compression of every cylinder; breather; plugs for oil";
    case fouledPlugs:
        return "plugs out, cleaned and gapped; idle mixture";
    case deadLead:
        return "that magneto's leads and plugs, one by one; which cylinder is cold";
    case magnetoDead:
        return "contact breaker, coil and drive of that magneto; its switch lead";
    case notEarthing:
        return "switch and earthing lead: the propeller is live until it is found";
    case timingLate:
        return "ignition timing of that magneto, internal and to the engine";
    case carburettorIce:
        return "hot air valve: travel and seal; nothing if it came in damp air and went with heat";
    case airDoorHot:
        return "hot air valve: linkage and rest position";
    case tankDry:
        return "fuel contents by dip against the gauge; cock and vent";
    case fuelPump:
        return "engine-driven pump: drive and relief; fuel filter";
    case fuelLeak:
        return "fuel lines and unions under pressure, cowls off, nothing switched on before";
    case vapourLock:
        return "routing and lagging of fuel lines near heat; booster pump";
    case fuelPressureGauge:
        return "the gauge against a master gauge; its line";
    case rich:
        return "primer locked; aneroid and mixture linkage; carburettor float or diaphragm";
    case lean:
        return "fuel filters and jets; mixture linkage; induction for leaks";
    case inductionLeak:
        return "induction pipes, packings and drain valves with the engine cold";
    case detonation:
        return "plugs for specks of metal, pistons by borescope; fuel grade; ignition timing; cooling baffles";
    case preIgnition:
        return "plugs and pistons by borescope; compression; heat range of the plugs";
    case governorRunaway:
        return "governor, its drive and its line; propeller oil";
    case pitchFixed:
        return "pitch change mechanism; governor linkage; supply of the pitch motor";
    case tachometer:
        return "indicator, drive or generator, against a strobe";
    case flapShut:
        return "flap or shutter: travel, linkage, motor";
    case coolantLost:
        return "coolant hoses, pump seal, radiator and header cap, under pressure, cold";
    case boostGaugeLine:
        return "boost gauge line for a leak or water; gauge reads the day's pressure at rest";
    case boostControl:
        return "boost control: capsule, servo and linkage";
    case clutchSlips:
        return "supercharger clutch: oil supply, sludge; exercise it by the notes";
    case wasteGate:
        return "waste gate and regulator: free movement, oil supply";
    case waterFails:
        return "water pump, contents, filter and valve";
    case valve:
        return "compression and valve clearance of the cold cylinder; borescope";
    case generator:
        return "generator: drive, brushes, regulator, cut-out";
    case gaugeSupply:
        return "supply, fuse and earth that the electric gauges share";
    case starterStuck:
        return "starter: pinion and clutch, solenoid";
    case hydraulicLock:
        return "lower cylinders: plugs out, oil drained; connecting rods looked at before it is turned by power";
    case noSpark:
        return "booster coil or impulse, switch lead, contact breakers";
    case dead:
        return "fuel, spark, then whether it turns freely by hand, switches off and live until proved";
    }
    return {};
}

} // namespace amber::trouble
