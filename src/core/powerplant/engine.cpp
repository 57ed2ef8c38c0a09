// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "heat/drive.h"
#include "powerplant/blade_law.h"
#include "powerplant/engine_working.h"
#include "powerplant/throttle_flow.h"
#include "units/roots.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace amber::powerplant {
namespace {
// Sizes that notes do not give: estimates.
constexpr double bladeInertia = 0.075;       // kg m² of a metal blade of one metre's propeller, as the fifth power
constexpr double crankInertia = 100.0;       // kg m² for each m³ of displacement
constexpr double oilOverFuel = 1.0 / 16.0;   // of the fuel's volume, an engine's share
constexpr double waterMinutes = 10.0;        // that the water lasts
constexpr double waterOverFuel = 0.5;        // of the fuel's flow
constexpr double filled = 1.0 - 1e-9;        // of the gallery
constexpr double idleShare = 0.85;           // of the slowest smooth rpm, with the throttle shut and all warm
constexpr double featheredBrake = 120.0;     // of what the fine stop takes at those rpm
constexpr double cutIn = 0.30;               // of the rated rpm, a generator's
constexpr double hydraulicNominal = 7.0e6;   // Pa
constexpr double leastFuelPressure = 3000.0; // Pa, of a float fed by gravity
} // namespace

Engine::Engine(const Aircraft& aircraft, const engine::KnockBoundary& knock, bool generator, bool hydraulics)
    : aircraft_(&aircraft), knock_(knock), priming_(aircraft.notes.start), generator_(generator),
      hydraulics_(hydraulics), cutsOff_(!aircraft.notes.start.openJets),
      sparkLever_(std::any_of(aircraft.notes.controls.begin(), aircraft.notes.controls.end(),
                              [](const Control& c) { return c.acts == Acts::spark; })) {
    const TypeNotes& n = aircraft.notes;
    const double reduction = n.engine.reduction, radians = 2.0 * std::numbers::pi;
    const double blades = (n.propeller.wood ? 0.5 : 1.0) * bladeInertia * n.propeller.blades *
                          std::pow(n.propeller.diameter, 5) * reduction * reduction;
    inertia_ = (blades + crankInertia * aircraft.model().displacement) * radians * radians;
    mostBoost_ = 0.0;
    engine::OperatingPoint rated;
    const air::Day standard = air::standardDay(Length{});
    for (const auto& r : n.ratings) {
        mostBoost_ = std::max(mostBoost_, r.boost ? r.boost->si() : standardPressure);
        const auto p =
            engine::operate(aircraft.model(), {r.rpm, r.boost, 0, standard.at(Length{}), Speed{}, r.mixture});
        if (p.fuelFlow > rated.fuelFlow)
            rated = p;
    }
    ratedFuel_ = std::max(1e-4, rated.fuelFlow.si());
    doseMass_ = n.start.doseVolume.si() * n.fuel.density;
    double fuel = 0.0;
    for (const auto& tank : n.fuel.tanks)
        fuel += tank.capacity.si();
    oilCapacity_ = std::max(4.0, oilDensity * oilOverFuel * fuel / static_cast<double>(n.engineCount()));
    waterCapacity_ = std::any_of(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.water; })
                         ? waterOverFuel * ratedFuel_ * waterMinutes * 60.0
                         : 0.0;
    fuelPressure_ = std::max(leastFuelPressure, n.heat.fuelPressure.si());
    setIdleStop(standard.at(Length{}));
}

double Engine::throttlePlace(double area) const {
    return std::clamp(1.0 - std::log(std::clamp(area, 1e-4, 1.0)) / std::log(idleArea_), 0.0, 1.0);
}

void Engine::setIdleStop(const air::Ambient& air) {
    // As a mechanic sets it: warm and standing it turns at its slowest smooth rpm with the throttle shut.
    const TypeNotes& n = aircraft_->notes;
    const double idle = idleShare * n.start.slowRpm.value_or(n.phase(Phase::start).rpm.value_or(Rotation::si(12))).si();
    const double takes = propellerPower(idle, 1.0, 0.0, air::density(air.pressure, air.temperature));
    double wide = standardPressure;
    const auto turnsIt = [&](double boost) {
        const auto p = engine::operate(
            aircraft_->model(), {Rotation::si(idle), ManifoldPressure::si(boost), 0, air, Speed{}, Mixture::rich});
        wide = p.wideOpen.si();
        return p.indicated - p.friction - p.pumping - p.impeller > takes;
    };
    const double shut = roots::turn(turnsIt, 1e4, 9e4, 40).high;
    idleArea_ = std::clamp(areaFor(shut / wide, idle / aircraft_->model().ratedRpm, aircraft_->model().throttleLoss),
                           0.005, 0.10);
}

EngineState Engine::standing(Temperature headOrCoolant, Temperature oil) const {
    EngineState s;
    s.headOrCoolant = headOrCoolant.si();
    s.oil = oil.si();
    s.oilMass = oilCapacity_;
    s.water = waterCapacity_;
    s.bowl = bowlSeconds * ratedFuel_;
    s.turbo = 0.0;
    return s;
}

double Engine::advanceRatio(double n, double trueSpeed) const {
    const auto& fine = aircraft_->propeller.fine;
    return trueSpeed / (std::max(n * fine.reduction, 0.02) * fine.diameter) / std::max(fine.zeroAdvance, 0.05);
}

double Engine::propellerPower(double n, double pitch, double trueSpeed, double rho) const {
    const auto& fine = aircraft_->propeller.fine;
    const double still = fine.absorption * rho * n * n * n;
    // Feathered it is not driven: what turns, the blades' flat sides brake.
    return still * (pitch > 0.9 * featheredPitch ? featheredBrake : takenAt(pitch, advanceRatio(n, trueSpeed)));
}

double Engine::runDownTime(Rotation from, Rotation to, const Surroundings& a) const {
    if (to.si() <= 0 || from <= to)
        return 0.0;
    const double rho = air::density(a.air.pressure, a.air.temperature);
    return std::min(6.0,
                    0.2 * inertia_ / (aircraft_->propeller.fine.absorption * rho) * (1.0 / to.si() - 1.0 / from.si()));
}

engine::Demand Engine::demand(const EngineLevers& l, const Surroundings& a, double hotAir) const {
    engine::Demand d;
    d.gear = l.gear;
    d.air = a.air;
    d.ias = a.ias;
    d.mixture = l.mixture;
    if (l.byHand > 0)
        d.mixture = l.byHand;
    d.carburettorHeat = hotAir * hotAirRise(aircraft_->notes);
    d.intercooler = l.intercooler;
    return d;
}

engine::Demand Engine::demand(const EngineState& s, const EngineLevers& l, const Effects& e,
                              const Surroundings& a) const {
    auto d = demand(l, a, std::max(l.hotAir, e.hotAir.value_or(0.0)));
    d.rpm = Rotation::si(s.n);
    d.boost = ManifoldPressure::si(s.manifold);
    d.gear = s.gear;
    d.water = l.water && s.waterPressure > 0.5 * waterNominal;
    d.blower = s.engaged;
    d.turbo = s.turbo;
    return d;
}

heat::Drive Engine::drive(const engine::OperatingPoint& p, double n, const EngineLevers& l,
                          const Surroundings& a) const {
    auto d = heat::driveOf(p, Rotation::si(n), a.air, a.ias, l.coolingFlap);
    d.running = n > 0;
    d.oilCooler = l.oilCooler;
    d.oilThinning = l.thinning;
    return d;
}

Speed Surroundings::trueAirspeed() const {
    return ias.si() > 0 ? air::trueAirspeed(ias, air.pressure, air.temperature) : Speed{};
}

void Engine::read(const EngineState& s, const engine::OperatingPoint& p, const Surroundings& a,
                  EngineReadings& out) const {
    const bool liquid = aircraft_->thermal.cooling() == Cooling::liquid;
    out[liquid ? Gauge::coolantTemperature : Gauge::headTemperature] = s.headOrCoolant;
    out[Gauge::oilTemperature] = s.oil;
    out[Gauge::oilPressure] = s.oilPressure;
    out[Gauge::rpm] = s.n;
    out[Gauge::fuelPressure] = s.fuelPressure;
    out[Gauge::oilContents] = s.oilMass / oilDensity;
    if (waterCapacity_ > 0)
        out[Gauge::waterPressure] = s.waterPressure;
    out[Gauge::airspeed] = a.ias.si();
    const bool turning = s.n > 0;
    out[Gauge::boost] = turning ? s.manifold : a.air.pressure.si();
    out[Gauge::chargeTemperature] = turning ? p.chargeTemperature.si() : a.air.temperature.si();
    out[Gauge::carburettorAir] = turning ? p.carburettorTemperature.si() : a.air.temperature.si();
    out[Gauge::power] = turning ? p.power.si() : 0.0;
    out[Gauge::torque] = turning ? std::max(0.0, p.meanEffectivePressure) : 0.0;
    out[Gauge::fuelFlow] = turning ? p.fuelFlow.si() / a.fuelDensity : 0.0;
    out[Gauge::exhaustTemperature] = s.firing ? exhaust(p, s.fuelAir) : out[Gauge::chargeTemperature];
    // Generator and pump on the accessory drive: cut in and full output at shares of the rated rpm (estimates).
    const double speed = s.n / aircraft_->model().ratedRpm;
    out.generated = generator_ ? std::clamp((speed - cutIn) / 0.15, 0.0, 1.0) : 0.0;
    if (hydraulics_)
        out[Gauge::hydraulicPressure] = hydraulicNominal * std::min(1.0, speed / 0.25);
    out.signs.turning = turning;
}

// ---------------------------------------------------------------- strides

Engine::Settled Engine::settle(const EngineLevers& l, const Surroundings& a) const {
    const auto& engine = aircraft_->model();
    auto d = demand(l, a, l.hotAir);
    d.rpm = Rotation::si(l.rpm);
    d.water = l.water;
    d.turbo = l.turbo;
    const auto& blades = aircraft_->propeller.control == PropellerControl::twoPosition && !l.coarse
                             ? aircraft_->propeller.fine
                             : aircraft_->propeller.coarse;
    if (l.throttle.by == Throttle::By::rpm) {
        d.rpm = Rotation::si(l.throttle.value);
        const auto both = engine::agree(engine, blades, d);
        d.rpm = both.rpm;
        if (both.throttled)
            d.boost = both.boost;
    } else {
        if (l.throttle.by == Throttle::By::boost)
            d.boost = ManifoldPressure::si(l.throttle.value);
        // The stop that it stands on decides, where that holds it under what the lever asks for.
        const auto both = engine::agree(engine, blades, d);
        if (aircraft_->propeller.followsThrottle() || both.rpm < d.rpm) {
            d.rpm = both.rpm;
            if (both.throttled)
                d.boost = both.boost;
        }
    }
    return settled(d.rpm, engine::operate(engine, d), l, a);
}

Engine::Settled Engine::settled(Rotation rpm, const engine::OperatingPoint& point, const EngineLevers& l,
                                const Surroundings& a) const {
    const auto d = drive(point, rpm.si(), l, a);
    return {rpm, point, d, aircraft_->thermal.forcing(d)};
}

EngineReadings Engine::stride(EngineState& s, const EngineLevers& l, const Surroundings& a, Milliseconds dt) const {
    return stride(s, l, a, s.firing ? settle(l, a) : settled({}, {}, l, a), dt);
}

EngineReadings Engine::stride(EngineState& s, const EngineLevers& l, const Surroundings& a, const Settled& settled,
                              Milliseconds ms, const heat::Temperatures* known) const {
    const double dt = static_cast<double>(ms) / 1000.0;
    EngineReadings out;
    const auto& p = settled.point;
    if (s.firing) {
        s.n = settled.rpm.si();
        s.manifold = p.manifoldPressure.si();
        s.wideOpen = p.wideOpen.si();
        s.gear = l.gear;
        s.engaged = 1.0;
        s.airFlow = p.airFlow.si();
        s.fuelAir = p.fuelAirRatio;
        s.uneven = 0.0;
        s.turbo = l.turbo;
        s.bowl = bowlSeconds * ratedFuel_;
        s.fuelPressure = fuelPressure_;
        s.fired += dt;
        const double fuel = p.fuelFlow.si() * dt;
        s.taken += fuel;
        s.burnt += fuel;
        s.oilMass = std::max(0.0, s.oilMass - oilOfFuel * fuel);
        s.water = std::max(0.0, s.water - (l.water ? waterOverFuel * fuel : 0.0));
        if (s.gallery < 1.0)
            s.gallery = std::min(1.0, s.gallery + dt / start::oilPressureRise(Temperature::si(s.oil), l.thinning).si());
    } else {
        s.n = 0.0;
        s.manifold = a.air.pressure.si();
        s.airFlow = s.fuelAir = s.uneven = 0.0;
        s.gallery = std::max(0.0, s.gallery - dt / galleryDrains);
        s.fuelPressure = 0.0;
        if (const double before = s.primed; before > 0) {
            const double tau = start::evaporationTime(Temperature::si(s.headOrCoolant)).si();
            s.vapour = 1.0 - (1.0 - s.vapour) * std::exp(-dt / tau);
            s.primed *= std::exp(-dt / start::drainTime(Temperature::si(s.headOrCoolant)).si());
            s.spilled += before - s.primed;
        }
    }
    const auto after = known ? *known
                             : aircraft_->thermal.after({Temperature::si(s.headOrCoolant), Temperature::si(s.oil)},
                                                        settled.forcing, Duration::si(dt));
    s.headOrCoolant = after.headOrCoolant.si();
    s.oil = after.oil.si();
    s.oilPressure =
        s.gallery >= filled ? aircraft_->thermal.oilPressure(Rotation::si(s.n), after.oil, l.thinning).si() : 0.0;
    read(s, p, a, out);
    s.chargeBulb = out[Gauge::chargeTemperature];
    s.airBulb = out[Gauge::carburettorAir];
    out.shaft = s.firing ? p.power.si() : 0.0;
    out.propeller = out.shaft;
    return out;
}

} // namespace amber::powerplant
