// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/carburettor_ice.h"
#include "air/humidity.h"
#include <algorithm>
#include <cmath>

namespace amber::engine {
namespace {
constexpr double freezingPoint = 273.15, warmest = 277.15; // K: above, what forms melts
constexpr double clearFrom = 278.15;                       // K that heat must reach
constexpr double fuelCooling = 20.0 / 0.08;                // K per unit of fuel–air ratio
constexpr double throttling = 14.0;                        // K with the throttle all but shut
constexpr double coldMetal = freezingPoint - 4.0;          // K: colder, ice clings
// Water that may freeze out, g per kg of air.
constexpr double moderateFrom = 1.2, seriousFrom = 2.5;

/// Pa over ice (Sonntag, Z. Meteorol. 40, 1990), over water from freezing up.
double saturated(double kelvin) {
    const double t = kelvin - freezingPoint;
    return t >= 0 ? air::vapourPressure(Temperature::si(kelvin)).si() : 611.2 * std::exp(22.46 * t / (272.62 + t));
}
double gramsPerKilogram(double vapour, double pressure) {
    return 622.0 * vapour / std::max(1.0, pressure - vapour);
}

IceRisk riskOf(double kelvin, double water) {
    if (kelvin > warmest || water < lightIceFrom)
        return IceRisk::none;
    const IceRisk byWater = water < moderateFrom  ? IceRisk::light
                            : water < seriousFrom ? IceRisk::moderate
                                                  : IceRisk::serious;
    // Near freezing little of it clings.
    return std::min(byWater, kelvin > freezingPoint ? IceRisk::light
                             : kelvin > coldMetal   ? IceRisk::moderate
                                                    : IceRisk::serious);
}
} // namespace

Temperature throttleTemperature(const EngineNotes& notes, const OperatingPoint& p) {
    const double shut = std::clamp(1.0 - p.manifoldPressure.si() / std::max(1.0, p.wideOpen.si()), 0.0, 1.0);
    return Temperature::si(p.carburettorTemperature.si() -
                           (notes.suctionCarburettor ? fuelCooling * p.fuelAirRatio : 0.0) - throttling * shut);
}

double freezingWater(Temperature dewPoint, Temperature at, Pressure ambient) {
    return std::max(0.0, gramsPerKilogram(saturated(dewPoint.si()), ambient.si()) -
                             gramsPerKilogram(saturated(at.si()), ambient.si()));
}

std::string_view wordOf(IceRisk risk) {
    constexpr std::string_view words[] = {"none", "light", "moderate", "serious"};
    return words[static_cast<int>(risk)];
}

IceAdvice carburettorIce(const EngineNotes& notes, const EngineParameters& engine, const KnockBoundary& knock,
                         const Demand& demand, Temperature dewPoint) {
    IceAdvice out;
    const auto cold = operate(engine, demand);
    out.atThrottle = throttleTemperature(notes, cold);
    const double kelvin = out.atThrottle.si();
    out.water = freezingWater(dewPoint, out.atThrottle, demand.air.pressure);
    out.marginBefore = knock.permitted(demand).si() / cold.manifoldPressure.si() - 1.0;
    out.marginAfter = out.marginBefore;
    out.risk = riskOf(kelvin, out.water);
    if (out.risk == IceRisk::none)
        return out;
    out.heatNeeded = clearFrom - kelvin;
    out.withinHeat = !notes.carburettorHeatRise || out.heatNeeded <= *notes.carburettorHeatRise;
    if (notes.carburettorHeatRise)
        out.position = std::min(1.0, out.heatNeeded / *notes.carburettorHeatRise);
    Demand hot = demand;
    hot.carburettorHeat =
        notes.carburettorHeatRise ? std::min(out.heatNeeded, *notes.carburettorHeatRise) : out.heatNeeded;
    const auto warm = operate(engine, hot);
    // The throttle stays where it is: of a wide-open pressure that has fallen too.
    Demand same = hot;
    same.boost =
        ManifoldPressure::si(cold.manifoldPressure.si() * warm.wideOpen.si() / std::max(1.0, cold.wideOpen.si()));
    const auto after = operate(engine, same);
    out.powerCost = cold.power.si() > 0 ? 1.0 - after.power.si() / cold.power.si() : 0.0;
    out.marginAfter = knock.permitted(same).si() / after.manifoldPressure.si() - 1.0;
    return out;
}

double heatShare(const IceAdvice& advice, double rise) {
    if (advice.risk == IceRisk::none)
        return 0.0;
    return advice.withinHeat ? std::min(1.0, std::ceil(10.0 * advice.heatNeeded / rise) / 10.0) : 1.0;
}

} // namespace amber::engine
