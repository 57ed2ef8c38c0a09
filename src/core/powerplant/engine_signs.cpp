// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/blade_law.h"
#include "powerplant/engine_working.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace amber::powerplant {
namespace {
constexpr double deadNeedle = 233.15;                         // K, the low stop of an electric thermometer
constexpr double standingBlades = 0.10, standingDragOf = 0.6; // solidity of the disc, drag of it broadside: an estimate
constexpr double featheredDrag = 0.00125; // m² for each blade and m² of diameter (Torenbeek, 1982, appendix G-8)
constexpr double bulbTime = 8.0;          // s, of a thermometer's bulb in the induction: an estimate of the usual size

/// A needle of a bulb in the air stream. @param bulb K, what it has come to @param needle K: what there is, then what
/// is read
void follow(double& bulb, double& needle, double dt) {
    if (bulb <= 0.0)
        bulb = needle;
    bulb = needle + (bulb - needle) * std::exp(-dt / bulbTime);
    needle = bulb;
}
} // namespace

std::string_view nameOf(Smoke smoke) {
    constexpr std::array<std::string_view, 5> names{"", "black smoke", "blue smoke", "white vapour", "black puffs"};
    return names[static_cast<std::size_t>(smoke)];
}
std::string_view nameOf(Smell smell) {
    constexpr std::array<std::string_view, 4> names{"", "smell of fuel", "sweet smell", "smell of hot oil"};
    return names[static_cast<std::size_t>(smell)];
}
std::string_view nameOf(Cowl cowl) {
    constexpr std::array<std::string_view, 4> names{"", "oil on the cowl", "fuel on the cowl", "coolant on the cowl"};
    return names[static_cast<std::size_t>(cowl)];
}
std::string_view nameOf(Sound sound) {
    constexpr std::array<std::string_view, 9> names{"even",  "rough", "backfire", "bangs", "howl",
                                                    "whine", "beat",  "whistle",  "silent"};
    return names[static_cast<std::size_t>(sound)];
}

void Engine::needles(Working& w) const {
    auto& s = w.s;
    auto& out = w.out;
    // Power as it is, misfires and damage counted.
    w.p.power = Power::si(w.shaft);
    const double swept = aircraft_->model().displacement * std::max(s.n, 1.0) / 2.0;
    w.p.meanEffectivePressure = w.shaft / swept;
    const bool drawn = !w.l.cutOff && s.bowl > 0 && s.n > 0.1;
    w.p.fuelFlow = MassFlow::si(drawn ? w.p.airFlow.si() * w.metered * w.learnt.fuel : 0.0);
    if (w.e.fuelLeak > 0) // the meter stands before the leak
        w.p.fuelFlow = MassFlow::si(w.p.fuelFlow.si() + w.e.fuelLeak * s.fuelPressure / fuelPressure_);
    if (s.manifold < s.wideOpen && w.e.fuelPump < 1.0)
        w.p.fuelFlow = MassFlow::si(w.p.fuelFlow.si() * std::min(1.0, 2.5 * s.fuelPressure / fuelPressure_));
    read(s, w.p, w.a, out);
    follow(s.chargeBulb, out[Gauge::chargeTemperature], w.dt);
    follow(s.airBulb, out[Gauge::carburettorAir], w.dt);
    if (s.firing) { // a cylinder that does not fire breathes its charge out as it came
        const double burning = exhaustTemperature(w.p, s.fuelAir, s.manifold / mostBoost_, w.oneSpark, w.e.late);
        out[Gauge::exhaustTemperature] =
            burning - std::min(1.0, w.e.deadCylinders) * (burning - w.p.chargeTemperature.si());
    }
    out.shaft = w.shaft;
    out.propeller = w.propeller;
    const double area = aircraft_->notes.propeller.diameter * aircraft_->notes.propeller.diameter;
    if (s.pitch > 0.9 * featheredPitch)
        out.standingDrag = featheredDrag * aircraft_->notes.propeller.blades * area;
    else if (s.n <= 0.0)
        out.standingDrag = 0.7854 * area * standingBlades * standingDragOf;
    out.generated *= w.e.generator;
    // A bulb without coolant around it reads the air.
    if (aircraft_->thermal.cooling() == Cooling::liquid && s.coolant < 0.15)
        out[Gauge::coolantTemperature] =
            w.a.air.temperature.si() + (s.headOrCoolant - w.a.air.temperature.si()) * (0.3 + 0.7 * s.coolant / 0.15);
    // Gauges that do not tell the truth.
    out[Gauge::boost] += w.e.boostLine * (w.a.air.pressure.si() - out[Gauge::boost]);
    if (!w.e.oilPressureGauge)
        out[Gauge::oilPressure] = 0.0;
    if (!w.e.fuelPressureGauge)
        out[Gauge::fuelPressure] = 0.0;
    if (!w.e.tachometer)
        out[Gauge::rpm] = 0.0;
    if (!w.e.gaugeSupply) {
        for (const Gauge g : {Gauge::headTemperature, Gauge::coolantTemperature, Gauge::oilTemperature,
                              Gauge::chargeTemperature, Gauge::carburettorAir})
            if (out.has(g))
                out[g] = deadNeedle;
        out[Gauge::oilContents] = 0.0;
        out[Gauge::fuelFlow] = 0.0;
    }
    for (const auto& offset : w.learnt.offsets)
        if (out.has(offset.gauge))
            out[offset.gauge] += offset.by;
}

void Engine::signs(Working& w) const {
    auto& s = w.s;
    Signs& g = w.out.signs;
    const auto& e = w.e;
    const bool turning = s.n > 0.1;
    if (!turning) {
        g.sound = Sound::silent;
    } else {
        double shake = 0.0;
        if (s.firing) {
            const double missing = 1.0 - w.fires;
            shake = 1.6 * missing + 3.0 * e.deadCylinders + 0.35 * w.out.knock + 0.5 * e.preIgnition;
            // One plug of two missing is felt where the other magneto is off.
            const bool one = w.l.ignition == Ignition::right;
            shake += (one ? 0.9 : 0.12) * (s.fouledRight + (one ? 4.0 : 1.0) * e.deadLeads);
            shake += 0.3 * std::max(0.0, s.ice - 0.4) + 0.25 * (e.metering > 1.2 || e.metering < 0.8 ? 1.0 : 0.0);
            shake += s.manifold < 0.8 * w.a.air.pressure.si() ? 0.4 * e.inductionLeak : 0.0;
        }
        shake += 0.45 * std::min(1.0, e.bearing + s.bearing) + 0.25 * std::min(1.0, e.ring + s.rings);
        g.shake = std::min(1.0, shake);
        if (s.firing && g.shake > 0.1)
            g.sound = Sound::rough;
        if (e.deadCylinders > 0 && s.firing)
            g.sound = Sound::beat;
        if (e.inductionLeak > 0 && s.manifold > w.a.air.pressure.si())
            g.sound = Sound::whistle;
        if (e.starterStuck || (w.meshed && !s.firing))
            g.sound = Sound::whine;
        if (s.backfire > 0 && s.firing)
            g.sound = Sound::backfire;
        if (e.preIgnition > 0.3 && s.firing)
            g.sound = Sound::bangs;
        if (s.n > 1.06 * aircraft_->model().ratedRpm)
            g.sound = Sound::howl;
    }
    if (s.firing && s.fuelAir > 0.106)
        g.smoke = Smoke::black;
    if (s.firing && std::min(1.0, e.ring + s.rings) > 0.15)
        g.smoke = Smoke::blue;
    if (e.coolantLeak > 0 && s.coolant > 0.02 && s.headOrCoolant > 350.0)
        g.smoke = Smoke::white;
    if (s.firing && w.out.knock > 0.25)
        g.smoke = Smoke::puffs;
    g.oneHeadCold = s.firing && e.deadCylinders > 0;
    if (e.oilLeak > 0 && s.oilMass > 0)
        g.cowl = Cowl::oil;
    if (e.coolantLeak > 0 && s.coolant > 0.02) {
        g.cowl = Cowl::coolant;
        g.smell = Smell::coolant;
    }
    const double flooded =
        s.primed / doseMass_ / std::max(1.0, priming_.wanted(Temperature::si(s.headOrCoolant), w.a.air.pressure));
    if (e.fuelLeak > 0 && s.fuelPressure > 0) {
        g.cowl = Cowl::fuel;
        g.smell = Smell::fuel;
    } else if (flooded > start::richestFiring / start::bestFiring) {
        g.cowl = Cowl::fuel; // it drips from the drain
        g.smell = Smell::fuel;
    }
    g.flames = s.fire > 0.0 && s.fire < 1.0;
    if (std::min(1.0, e.bearing + s.bearing) > 0.5 && g.smell == Smell::none)
        g.smell = Smell::oil;
}

} // namespace amber::powerplant
