// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/condition.h"
#include <algorithm>

namespace amber::powerplant {
namespace {
// How bad a fault gets: estimates, so that each shows in minutes (a leak) or at once (a pump), as crews describe it.
constexpr double worstOilLeak = 0.12;          // kg/s: a tank of 60 kg in eight minutes
constexpr double worstFuelLeak = 0.03;         // kg/s
constexpr double worstCoolantLeak = 1 / 120.0; // share a second
constexpr Milliseconds onset = 150;            // in which plugs are found fouled; what becomes of them is the engine's
constexpr double reliefOpen = 0.45;            // of the pressure left
constexpr double richest = 0.45, leanest = 0.36; // of the metered ratio, more and less
constexpr double iceWater = 12.0;                // g/kg that clings: half the passage in three minutes of cruise
} // namespace

Effects effectsOf(const Condition& condition, Milliseconds at, int cylinders) {
    Effects e;
    const double one = 1.0 / std::max(1, cylinders);
    for (const auto& f : condition.faults) {
        if (at < f.from)
            continue;
        const double over = nameOf(f.fault).over;
        const double since = static_cast<double>(at - f.from) / 1000.0;
        const double s = std::clamp(f.severity, 0.0, 1.0) * (over > 0 ? std::min(1.0, since / over) : 1.0);
        if (s <= 0)
            continue;
        switch (f.fault) {
        case Fault::oilLost:
            e.oilLeak += worstOilLeak * s;
            break;
        case Fault::oilPump:
            e.oilPump = 1.0 - s;
            break;
        case Fault::oilPressureGauge:
            e.oilPressureGauge = false;
            break;
        case Fault::reliefValve:
            e.oilRelief = 1.0 - (1.0 - reliefOpen) * s;
            break;
        case Fault::coolerCongealed:
            e.congealed = s;
            break;
        case Fault::coolerClogged:
            e.oilCooler = 1.0 - s;
            break;
        case Fault::bearing:
            e.bearing = s;
            break;
        case Fault::ring:
            e.ring = s;
            break;
        case Fault::fouledPlugs:
            e.fouled = at - f.from < onset ? 0.6 * s : 0.0;
            break;
        case Fault::deadLead:
            e.deadLeads = one;
            break;
        case Fault::magnetoDead:
            e.leftMagneto = 0.0;
            break;
        case Fault::notEarthing:
            e.earths = false;
            break;
        case Fault::timingLate:
            e.late = s;
            break;
        case Fault::carburettorIce:
            e.iceWater = iceWater * s;
            break;
        case Fault::airDoorHot:
            e.hotAir = s;
            break;
        case Fault::tankDry:
            e.tank = false;
            break;
        case Fault::fuelPump:
            e.fuelPump = 1.0 - s;
            break;
        case Fault::fuelLeak:
            e.fuelLeak = worstFuelLeak * s;
            break;
        case Fault::vapourLock:
            e.vapour = s;
            break;
        case Fault::fuelPressureGauge:
            e.fuelPressureGauge = false;
            break;
        case Fault::rich:
            e.metering *= 1.0 + richest * s;
            break;
        case Fault::lean:
            e.metering *= 1.0 - leanest * s;
            break;
        case Fault::inductionLeak:
            e.inductionLeak = s;
            break;
        case Fault::detonation:
            e.detonation = s;
            break;
        case Fault::preIgnition:
            e.preIgnition = s;
            break;
        case Fault::governorRunaway:
            e.runaway = s;
            break;
        case Fault::pitchFixed:
            e.pitchFixed = true;
            break;
        case Fault::tachometer:
            e.tachometer = false;
            break;
        case Fault::flapShut:
            e.coolingFlap = 0.0;
            break;
        case Fault::coolantLost:
            e.coolantLeak = worstCoolantLeak * s;
            break;
        case Fault::boostGaugeLine:
            e.boostLine = s;
            break;
        case Fault::boostControl:
            e.boostHunts = s;
            break;
        case Fault::clutchSlips:
            e.clutchSlip = s;
            break;
        case Fault::wasteGate:
            e.wasteGate = s;
            break;
        case Fault::waterFails:
            e.water = false;
            break;
        case Fault::valve:
            e.deadCylinders = one;
            break;
        case Fault::generator:
            e.generator = 1.0 - s;
            break;
        case Fault::gaugeSupply:
            e.gaugeSupply = false;
            break;
        case Fault::starterStuck:
            e.starterStuck = true;
            break;
        case Fault::hydraulicLock:
            e.locked = true;
            break;
        case Fault::noSpark:
            e.spark = false;
            break;
        case Fault::dead:
            e.dead = true;
            break;
        }
    }
    return e;
}

} // namespace amber::powerplant
