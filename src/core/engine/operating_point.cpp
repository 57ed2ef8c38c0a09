// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/operating_point.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/mixture_curve.h"
#include "units/roots.h"
#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace amber::engine {
namespace {
constexpr double gammaExponent = 3.5;         // γ/(γ−1) of air
constexpr double coolingByFuel = 20.0 / 0.08; // K of charge cooling per unit of fuel–air ratio
// K given to the charge of an unblown engine by its heated manifold, as much as its fuel takes at best power: without
// it the fuel would reach the cylinders as drops (jacketed and exhaust-heated manifolds; an estimate).
constexpr double manifoldWarming = 20.0;
constexpr double lowestAltitude = -1000.0, highestAltitude = modelTop.si();

// Loss of indicated work by residual gas, below this manifold over exhaust pressure, by the square of what is missing
// (part-throttle indicated efficiency, Taylor, The Internal-Combustion Engine in Theory and Practice, vol. 1; the
// factor is an estimate: a sixth at 0.4).
constexpr double dilutionFrom = 0.75, dilutionLoss = 1.4;
constexpr double turboBackPressure = 0.75; // of the compressor's pressure rise, on the exhaust
constexpr double coolingByWater = 22.0;    // K of charge cooling by water injection
constexpr double heatThrottling = 0.025;   // of inlet pressure, lost in the hot duct at full heat
constexpr double fullHeat = 40.0;          // K

double ratioOf(const EngineParameters& e, const Demand& d, double manifold, double n) {
    if (const auto* set = std::get_if<double>(&d.mixture))
        return std::clamp(*set, 0.04, 0.14);
    if (d.water)
        return e.waterRatio;
    const double ratio = automaticRatio(e, std::get<Mixture>(d.mixture), manifold * n / e.ratedCharge);
    if (e.altitudeControl || std::get<Mixture>(d.mixture) == Mixture::weak)
        return ratio;
    // A plain carburettor meters by volume: richer as the air thins, √(ρ0/ρ).
    static const double seaLevel = air::standardDensity(Length{});
    const double sigma = air::density(d.air.pressure, d.air.temperature) / seaLevel;
    return std::min(0.14, ratio / std::sqrt(std::clamp(sigma, 0.2, 1.3)));
}

/// Air at the last carburettor or blower, before fuel: it does not depend on the mixture.
struct Intake {
    double pressure, temperature;       // Pa, K
    double exhaust;                     // Pa
    double work;                        // J/kg of a first stage, driven by the crankshaft
    const EngineParameters::Gear* gear; // null: no blower
};
/// And what the mixture makes of it.
struct Induction {
    double wideOpen;     // Pa
    double temperature;  // K in the manifold
    double impellerWork; // J/kg, driven by the crankshaft
};

/// Ratio and temperature rise of one impeller.
struct Stage {
    double ratio, work;
};
Stage stage(double diameter, double n, double gear, double workFactor, double efficiency, double inlet) {
    const double tip = std::numbers::pi * diameter * n * gear;
    const double work = workFactor * tip * tip;
    // To the power 3.5, as the product it is.
    static_assert(gammaExponent == 3.5);
    const double x = 1.0 + efficiency * work / (air::specificHeat * inlet);
    return {x * x * x * std::sqrt(x), work};
}

/// What the air's own speed brings: the same for every mixture tried.
struct Impact {
    double pressure; // Pa
    double warming;  // stagnation temperature over static
};
/// Stagnation over static temperature is pressure's to the power (γ−1)/γ.
constexpr double warmingExponent = 2.0 / 7.0;
Impact impactOf(const Demand& d) {
    const double impact = air::impactPressure(d.ias).si();
    return {impact, impact > 0 ? std::exp(warmingExponent * std::log1p(impact / d.air.pressure.si())) : 1.0};
}

Intake intake(const EngineParameters& e, const Demand& d, const Impact& impact, double n) {
    Intake in{};
    in.pressure = (d.air.pressure.si() + e.ram * impact.pressure) *
                  (1.0 - heatThrottling * std::clamp(d.carburettorHeat / fullHeat, 0.0, 1.5));
    in.temperature = d.air.temperature.si() * impact.warming + d.carburettorHeat;
    in.exhaust = 1.03 * d.air.pressure.si();
    in.gear = e.gears.empty() ? nullptr : &e.gears[std::min(d.gear, e.gears.size() - 1)];
    const auto cool = [&] {
        const double outside = d.air.temperature.si() * impact.warming;
        const double open = 0.25 + 0.75 * std::clamp(d.intercooler, 0.0, 1.0);
        in.temperature -= e.intercooler * open * std::max(0.0, in.temperature - outside);
    };
    if (in.gear && in.gear->auxiliaryRatio > 0) {
        const Stage aux = stage(e.auxiliaryDiameter, n, d.blower * in.gear->auxiliaryRatio, e.workFactor,
                                in.gear->auxiliaryEfficiency, in.temperature);
        in.pressure *= aux.ratio;
        in.temperature += aux.work / air::specificHeat;
        in.work = aux.work;
        cool();
    }
    if (e.turbo) {
        // The turbine's reach falls with the gas it gets, about as the rpm.
        const double most = 1.0 + (e.turbo->mostRatio - 1.0) * std::clamp(n / e.ratedRpm, 0.3, 1.1);
        const double ratio = 1.0 + (std::clamp(e.turbo->held / in.pressure, 1.0, most) - 1.0) * d.turbo;
        in.temperature *= 1.0 + (std::pow(ratio, 1.0 / gammaExponent) - 1.0) / e.turbo->efficiency;
        in.exhaust += turboBackPressure * (ratio - 1.0) * in.pressure;
        in.pressure *= ratio;
        cool();
    }
    return in;
}

Induction induction(const EngineParameters& e, const Demand& d, const Intake& in, double n, double fuelAir) {
    const double cooled = in.temperature - coolingByFuel * fuelAir - (d.water ? coolingByWater : 0.0);
    const double wide = in.pressure * (1.0 - e.throttleLoss);
    if (!in.gear)
        return {wide, cooled + manifoldWarming, in.work};
    const Stage main =
        stage(e.impellerDiameter, n, d.blower * in.gear->ratio, e.workFactor, in.gear->efficiency, cooled);
    return {wide * main.ratio, cooled + main.work / air::specificHeat, in.work + main.work};
}
} // namespace

double OperatingPoint::specificConsumption() const {
    return power.si() > 0 ? fuelFlow.si() / power.si() : std::numeric_limits<double>::infinity();
}

double meteredRatio(const EngineParameters& e, const Demand& d, double manifold) {
    return ratioOf(e, d, manifold, std::clamp(d.rpm.si(), 1.0, 100.0));
}

OperatingPoint operate(const EngineParameters& e, const Demand& d) {
    const double n = std::clamp(d.rpm.si(), 1.0, 100.0);
    const double wanted = d.boost ? std::clamp(d.boost->si(), 2e3, 4e5) : 4e5;
    // The ratio depends on the manifold pressure and, weakly, the full-throttle pressure on the ratio: two passes
    // settle both.
    double manifold = std::min(wanted, e.ratedCharge / n);
    double fuelAir = ratioOf(e, d, manifold, n);
    const Intake before = intake(e, d, impactOf(d), n);
    Induction in = induction(e, d, before, n, fuelAir);
    for (int pass = 0; pass < 2; ++pass) {
        manifold = std::min(wanted, in.wideOpen);
        const double next = ratioOf(e, d, manifold, n);
        if (next == fuelAir)
            break; // nothing that follows would change
        fuelAir = next;
        in = induction(e, d, before, n, fuelAir);
    }
    manifold = d.held ? wanted : std::min(wanted, in.wideOpen);

    const double exhaust = before.exhaust;
    const double residual = std::exp(std::log(exhaust / manifold) / 1.35);
    const double filling = std::max(0.02, e.volumetric * (e.compression - residual) / (e.compression - 1.0) *
                                              std::sqrt(in.temperature / 330.0));
    const double dry = manifold * (1.0 - std::min(0.2, d.air.vapour.si() / d.air.pressure.si()));
    const double swept = e.displacement * n / 2.0; // m³/s of a four-stroke engine
    const double airFlow = filling * dry / (air::gasConstantDryAir * in.temperature) * swept;
    const double pistonSpeed = 2.0 * e.stroke * n;

    OperatingPoint p;
    // With the throttle nearly shut burnt gas makes up a good part of the charge: it burns slowly and late.
    const double missing = std::max(0.0, dilutionFrom - manifold / exhaust);
    const double diluted = std::max(0.5, 1.0 - dilutionLoss * missing * missing);
    p.indicated = airFlow / e.isac * powerOfMixture(fuelAir) * diluted;
    p.friction = (e.frictionBase + e.frictionSpeed * pistonSpeed * pistonSpeed) * swept;
    p.pumping = 0.7 * (exhaust - manifold) * swept;
    p.impeller = airFlow * (1.0 + fuelAir) * in.impellerWork / 0.95;
    p.power = Power::si(p.indicated - p.friction - p.pumping - p.impeller);
    p.manifoldPressure = ManifoldPressure::si(manifold);
    p.fullThrottle = wanted >= in.wideOpen;
    p.chargeTemperature = Temperature::si(in.temperature);
    p.airFlow = MassFlow::si(airFlow);
    p.fuelFlow = MassFlow::si(airFlow * fuelAir * e.burn);
    p.fuelAirRatio = fuelAir;
    p.carburettorTemperature = Temperature::si(before.temperature);
    p.carburettorPressure = ManifoldPressure::si(before.pressure);
    p.wideOpen = ManifoldPressure::si(in.wideOpen);
    p.exhaustPressure = exhaust;
    p.meanEffectivePressure = p.power.si() / swept;
    return p;
}

namespace {
constexpr std::size_t block = 64; // points that are reckoned side by side
using Lanes = Eigen::Array<double, static_cast<int>(block), 1>;

/// As operate() for one, line by line the same, for a block of points: the last is repeated to fill it.
void operateBlock(const EngineParameters& e, std::span<const Demand> demands, std::span<OperatingPoint> points) {
    const auto at = [&](std::size_t i) -> const Demand& { return demands[std::min(i, demands.size() - 1)]; };
    Lanes n, wanted, pressure, inlet, exhaust, work, blowerWork, lift, warmed, fuelAir, dryShare;
    Lanes impact, warming;
    for (std::size_t k = 0; k < block; ++k) {
        const auto i = static_cast<Eigen::Index>(k);
        impact[i] = air::impactPressure(at(k).ias).si();
        warming[i] = 1.0 + impact[i] / at(k).air.pressure.si();
    }
    if ((impact > 0).any())
        warming = (warming.log() * warmingExponent).exp();
    for (std::size_t k = 0; k < block; ++k) {
        const auto i = static_cast<Eigen::Index>(k);
        const Demand& d = at(k);
        n[i] = std::clamp(d.rpm.si(), 1.0, 100.0);
        wanted[i] = d.boost ? std::clamp(d.boost->si(), 2e3, 4e5) : 4e5;
        const Intake in = intake(e, d, {impact[i], warming[i]}, n[i]);
        pressure[i] = in.pressure;
        inlet[i] = in.temperature;
        exhaust[i] = in.exhaust;
        work[i] = in.work;
        const double tip = in.gear ? std::numbers::pi * e.impellerDiameter * n[i] * d.blower * in.gear->ratio : 0.0;
        blowerWork[i] = e.workFactor * tip * tip;
        lift[i] = in.gear ? in.gear->efficiency * blowerWork[i] / air::specificHeat : 0.0;
        warmed[i] = (in.gear ? 0.0 : manifoldWarming) - (d.water ? coolingByWater : 0.0);
        dryShare[i] = 1.0 - std::min(0.2, d.air.vapour.si() / d.air.pressure.si());
    }
    const Lanes open = pressure * (1.0 - e.throttleLoss);
    Lanes manifold = wanted.min(e.ratedCharge / n), cooled, wide;
    for (int pass = 0; pass < 3; ++pass) {
        bool changed = pass == 0;
        for (std::size_t k = 0; k < block; ++k) {
            const auto i = static_cast<Eigen::Index>(k);
            const double next = ratioOf(e, at(k), manifold[i], n[i]);
            changed = changed || next != fuelAir[i];
            fuelAir[i] = next;
        }
        if (!changed)
            break;
        // Water cools before the blower; an unblown manifold warms after it, where nothing is left to lift.
        cooled = inlet - coolingByFuel * fuelAir + warmed;
        const Lanes x = 1.0 + lift / cooled;
        wide = open * x * x * x * x.sqrt();
        manifold = wanted.min(wide);
    }
    const Lanes temperature = cooled + blowerWork / air::specificHeat;
    for (std::size_t k = 0; k < block; ++k)
        if (at(k).held)
            manifold[static_cast<Eigen::Index>(k)] = wanted[static_cast<Eigen::Index>(k)];
    const Lanes residual = ((exhaust / manifold).log() / 1.35).exp();
    const Lanes filling =
        (e.volumetric * (e.compression - residual) / (e.compression - 1.0) * (temperature / 330.0).sqrt()).max(0.02);
    const Lanes swept = e.displacement * n / 2.0;
    const Lanes airFlow = filling * manifold * dryShare / (air::gasConstantDryAir * temperature) * swept;
    const Lanes pistonSpeed = 2.0 * e.stroke * n;
    const Lanes missing = (dilutionFrom - manifold / exhaust).max(0.0);
    const Lanes diluted = (1.0 - dilutionLoss * missing * missing).max(0.5);
    const Lanes charge = airFlow / e.isac * diluted;
    const Lanes friction = (e.frictionBase + e.frictionSpeed * pistonSpeed * pistonSpeed) * swept;
    const Lanes pumping = 0.7 * (exhaust - manifold) * swept;
    const Lanes impeller = airFlow * (1.0 + fuelAir) * (work + blowerWork) / 0.95;
    for (std::size_t k = 0; k < demands.size(); ++k) {
        const auto i = static_cast<Eigen::Index>(k);
        OperatingPoint& p = points[k];
        p.indicated = charge[i] * powerOfMixture(fuelAir[i]);
        p.friction = friction[i];
        p.pumping = pumping[i];
        p.impeller = impeller[i];
        p.power = Power::si(p.indicated - p.friction - p.pumping - p.impeller);
        p.manifoldPressure = ManifoldPressure::si(manifold[i]);
        p.fullThrottle = wanted[i] >= wide[i];
        p.chargeTemperature = Temperature::si(temperature[i]);
        p.airFlow = MassFlow::si(airFlow[i]);
        p.fuelFlow = MassFlow::si(airFlow[i] * fuelAir[i] * e.burn);
        p.fuelAirRatio = fuelAir[i];
        p.carburettorTemperature = Temperature::si(inlet[i]);
        p.carburettorPressure = ManifoldPressure::si(pressure[i]);
        p.wideOpen = ManifoldPressure::si(wide[i]);
        p.exhaustPressure = exhaust[i];
        p.meanEffectivePressure = p.power.si() / swept[i];
    }
}
} // namespace

void operate(const EngineParameters& engine, std::span<const Demand> demands, std::span<OperatingPoint> points) {
    for (std::size_t from = 0; from < demands.size(); from += block) {
        const std::size_t count = std::min(block, demands.size() - from);
        if (count < block / 4) {
            for (std::size_t i = from; i < from + count; ++i)
                points[i] = operate(engine, demands[i]);
        } else {
            operateBlock(engine, demands.subspan(from, count), points.subspan(from, count));
        }
    }
}

ManifoldPressure fullThrottlePressure(const EngineParameters& engine, Demand demand) {
    demand.boost.reset();
    return operate(engine, demand).manifoldPressure;
}

std::optional<Length> fullThrottleHeight(const EngineParameters& engine, Rotation rpm, ManifoldPressure boost,
                                         std::size_t gear, const air::Day& day, Speed ias, MixtureSetting mixture) {
    Demand demand{rpm, boost, gear, {}, ias, mixture};
    // At the height looked for the ratio is that of the wanted boost, so it is held there.
    if (const auto* automatic = std::get_if<Mixture>(&mixture))
        demand.mixture = automaticRatio(engine, *automatic, boost.si() * rpm.si() / engine.ratedCharge);
    const auto excess = [&](double altitude) {
        demand.air = day.at(Length::si(altitude));
        return fullThrottlePressure(engine, demand).si() - boost.si();
    };
    const double atBottom = excess(lowestAltitude);
    if (atBottom < 0)
        return std::nullopt;
    const double atTop = excess(highestAltitude);
    if (atTop > 0)
        return Length::si(highestAltitude);
    return Length::si(roots::bracket(excess, lowestAltitude, highestAltitude, atBottom, atTop, 0.1).middle());
}

} // namespace amber::engine
