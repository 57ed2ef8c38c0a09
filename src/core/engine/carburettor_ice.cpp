// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/carburettor_ice.h"
#include <algorithm>

namespace amber::engine {
namespace {
constexpr double coldest = 261.15, warmest = 275.15; // K: colder it is dry snow and passes, warmer it melts
constexpr double clear = 277.15;                     // K that heat must reach
constexpr double fuelCooling = 20.0 / 0.08, throttling = 5.0;
constexpr double seriousMargin = 4.0; // K of dew point above the metal

double throttleTemperature(const EngineNotes& notes, const OperatingPoint& p) {
    const double shut = std::clamp(1.0 - p.manifoldPressure.si() / std::max(1.0, p.wideOpen.si()), 0.0, 1.0);
    return p.carburettorTemperature.si() - (notes.suctionCarburettor ? fuelCooling * p.fuelAirRatio : 0.0) -
           throttling * shut;
}
} // namespace

IceAdvice carburettorIce(const EngineNotes& notes, const EngineParameters& engine, const KnockBoundary& knock,
                         const Demand& demand, Temperature dewPoint) {
    IceAdvice out;
    const auto cold = operate(engine, demand);
    const double metal = throttleTemperature(notes, cold);
    out.atThrottle = Temperature::si(metal);
    out.marginBefore = knock.permitted(demand).si() / cold.manifoldPressure.si() - 1.0;
    out.marginAfter = out.marginBefore;
    if (metal > warmest || metal < coldest || dewPoint.si() < metal)
        return out;
    out.risk = dewPoint.si() - metal > seriousMargin ? IceRisk::serious : IceRisk::possible;
    out.heatNeeded = clear - metal;
    out.withinHeat = !notes.carburettorHeatRise || out.heatNeeded <= *notes.carburettorHeatRise;
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

} // namespace amber::engine
