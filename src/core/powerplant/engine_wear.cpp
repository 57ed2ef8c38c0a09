// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/carburettor_ice.h"
#include "powerplant/engine_working.h"
#include <algorithm>
#include <cmath>

namespace amber::powerplant {
namespace {
// Heat that trouble brings, relative to what reaches heads or oil otherwise: estimates, so that heads follow in half a
// minute, oil in minutes, as crews describe it.
constexpr double knockHeat = 0.55, earlyHeat = 0.9, lateHeat = 0.12, knockOil = 0.6;
constexpr double bearingHeat = 1.2, blowByHeat = 1.2, slipHeat = 0.5;
constexpr double ringsByKnock = 240.0, bearingByDryness = 75.0; // s that heavy knock, or no oil, takes to the end
constexpr double knockLasts = 10.0;                             // s
constexpr double needleTime = 0.4;                              // s of the oil pressure
constexpr double idleFouls = 1800.0, burstClears = 20.0;        // s
// Share of the passage for each kg of ice, of an engine that takes a kg of air a second.
constexpr double iceTakes = 0.5;
constexpr double iceMelts = 12.0; // s, by heat: a tenth is gone in half a minute, half in a minute
constexpr double iceRuns = 5e-4;  // of the passage in a second, the last of it
constexpr double freezing = 273.15;
} // namespace

void Engine::heat(Working& w) const {
    auto& s = w.s;
    EngineLevers l = w.l;
    l.coolingFlap = w.e.coolingFlap.value_or(l.coolingFlap);
    auto d = drive(w.p, s.n, l, w.a);
    d.shaft = Power::si(std::max(0.0, w.propeller));
    // Run down, or turned by the starter, it keeps its warmth as a standing one does.
    if (!s.firing && w.tas < 5.0)
        d.running = false;
    auto f = aircraft_->thermal.forcing(d);
    if (d.running) {
        // Only what burns heats it; what only turns breathes.
        const double burns = s.firing ? std::clamp(w.fires * w.ignition, 0.0, 1.0) : 0.0;
        f.metalIn *= burns * (1.0 + knockHeat * w.out.knock + earlyHeat * w.e.preIgnition + lateHeat * w.e.late);
        f.oilIn *= 0.4 + 0.6 * burns;
        f.oilIn *= 1.0 + knockOil * w.out.knock + bearingHeat * std::min(1.0, w.e.bearing + s.bearing) +
                   blowByHeat * std::min(1.0, 0.6 * w.e.ring + s.rings) +
                   slipHeat * (s.gear > 0 ? w.e.clutchSlip : 0.0);
        if (aircraft_->thermal.cooling() == Cooling::liquid)
            f.metalOut *= std::pow(std::max(0.02, s.coolant), 1.5);
        // Little oil is hot oil: the same heat in less of it.
        f.oilOut *= w.e.oilCooler;
        if (w.e.congealed > 0) // its thick core: the more air it gets, the less oil passes
            f.oilOut *= 1.0 - w.e.congealed * std::clamp(0.45 + 0.5 * l.oilCooler, 0.0, 0.97);
        const double contents = s.oilMass / oilCapacity_;
        f.oilOut *= std::clamp(contents / 0.6, 0.25, 1.0);
    }
    const auto after =
        aircraft_->thermal.after({Temperature::si(s.headOrCoolant), Temperature::si(s.oil)}, f, Duration::si(w.dt));
    s.headOrCoolant = std::clamp(after.headOrCoolant.si(), 200.0, 1100.0);
    s.oil = std::clamp(after.oil.si(), 200.0, 600.0);
    s.coolant = std::max(0.0, s.coolant - w.e.coolantLeak * w.dt);
    if (aircraft_->thermal.cooling() == Cooling::liquid && s.headOrCoolant > 400.0) // boils away
        s.coolant = std::max(0.0, s.coolant - (s.headOrCoolant - 400.0) / 2000.0 * w.dt);
}

void Engine::oilAndWear(Working& w) const {
    auto& s = w.s;
    const double used = oilOfFuel * w.p.fuelFlow.si() * (s.firing ? 1.0 : 0.0) * (1.0 + 8.0 * (w.e.ring + s.rings));
    s.oilMass = std::max(0.0, s.oilMass - (used + w.e.oilLeak * std::min(1.0, s.n / 10.0)) * w.dt);
    double steady = 0.0;
    if (s.n > 0.1) {
        const double rise = start::oilPressureRise(Temperature::si(s.oil), w.l.thinning).si();
        const double contents = s.oilMass / oilCapacity_;
        if (s.firing || s.n > 5.0)
            s.gallery = std::min(1.0, s.gallery + w.dt / rise * w.e.oilPump);
        // Low oil: the pump sucks air in turns, then nothing but air.
        double fed = 1.0;
        if (contents < 0.15)
            fed = std::clamp(contents / 0.15, 0.0, 1.0) *
                  (1.0 - 0.3 * (0.5 + 0.5 * std::sin(static_cast<double>(w.a.now) / 900.0)));
        steady = s.gallery >= 1.0
                     ? aircraft_->thermal.oilPressure(Rotation::si(s.n), Temperature::si(s.oil), w.l.thinning).si() *
                           w.e.oilPump * fed
                     : 0.0;
        // A valve that stands open no longer holds it: it follows the rpm. A bearing lets it run out.
        if (w.e.oilRelief < 1.0)
            steady *= w.e.oilRelief * std::min(1.0, s.n / aircraft_->model().ratedRpm + 0.25);
        steady *= 1.0 - 0.55 * std::min(1.0, w.e.bearing + s.bearing);
        if (w.e.bearing > 0)
            steady *= 1.0 - 0.06 * w.e.bearing * std::sin(static_cast<double>(w.a.now) / 400.0);
    } else {
        s.gallery = std::max(0.0, s.gallery - w.dt / galleryDrains);
    }
    s.oilPressure = steady + (s.oilPressure - steady) * std::exp(-w.dt / needleTime);
    if (s.oilPressure < 1.0)
        s.oilPressure = 0.0;
    const double relief = aircraft_->notes.heat.oilRelief.si();
    if (s.n > 8.0 && s.fired > 30.0 && s.oilPressure < 0.25 * relief)
        s.bearing = std::min(1.0, s.bearing + (1.0 - s.oilPressure / (0.25 * relief)) * w.dt / bearingByDryness *
                                                  std::min(1.0, s.n / aircraft_->model().ratedRpm));
    if (w.e.bearing >= 1.0)
        s.bearing = std::min(1.0, s.bearing + w.dt / 600.0);
    // A rattle while the rpm come up does no harm; what goes on does.
    s.knocking = w.out.knock + (s.knocking - w.out.knock) * std::exp(-w.dt / knockLasts);
    if (s.knocking < 1e-9)
        s.knocking = 0.0;
    const double harsh = std::max(0.0, s.knocking - 0.3) / 0.7 + 1.5 * w.e.preIgnition * (s.firing ? 1.0 : 0.0);
    s.rings = std::min(1.0, s.rings + harsh * w.dt / ringsByKnock);
}

void Engine::plugs(Working& w) const {
    auto& s = w.s;
    s.fouledRight = std::max(s.fouledRight, w.e.fouled);
    if (!s.firing)
        return;
    const double hard = w.p.power.si() / std::max(1.0, ratedFuel_ * 1.4e7);
    const double clears = std::clamp((hard - 0.5) / 0.25, 0.0, 1.0) / burstClears;
    const auto least = aircraft_->notes.warmUp.leastRpm;
    const bool sooty = w.p.fuelAirRatio > 0.08 && s.n < (least ? least->si() : 14.0);
    for (double* plugs : {&s.fouledLeft, &s.fouledRight}) {
        *plugs = std::max(0.0, *plugs - clears * w.dt);
        if (sooty || w.e.metering > 1.2)
            *plugs = std::min(0.6, *plugs + (sooty ? 0.6 : 0.15) * w.dt / idleFouls);
    }
}

void Engine::ice(Working& w) const {
    auto& s = w.s;
    if (s.n < 0.1) {
        if (w.a.air.temperature.si() > freezing)
            s.ice = std::max(0.0, s.ice - w.dt / 120.0);
        return;
    }
    const auto& notes = aircraft_->notes.engine;
    engine::OperatingPoint wide = w.p;
    wide.manifoldPressure = ManifoldPressure::si(s.manifold);
    wide.wideOpen = ManifoldPressure::si(std::max(1.0, s.wideOpen));
    const double at = engine::throttleTemperature(notes, wide).si();
    double water = 0.0; // kg/kg that freezes out
    if (at < freezing && notes.suctionCarburettor)
        water = std::max(0.0, engine::freezingWater(w.a.dewPoint, Temperature::si(at), w.a.air.pressure) -
                                  engine::lightIceFrom) /
                1000.0;
    const double heat = std::max(w.l.hotAir, w.e.hotAir.value_or(0.0));
    if (w.e.iceWater > 0 && heat < 0.5)
        water = std::max(water, w.e.iceWater * 1e-3);
    const double ratedAir = ratedFuel_ / 0.085; // kg/s
    if (water > 0 && heat < 0.5)
        s.ice = std::min(0.95, s.ice + water * w.p.airFlow.si() / ratedAir * iceTakes * w.dt);
    else if (at > freezing + 2.0 || heat >= 0.5)
        s.ice = std::max(0.0, s.ice * std::exp(-w.dt / iceMelts) - iceRuns * w.dt);
}

} // namespace amber::powerplant
