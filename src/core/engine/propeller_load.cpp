// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/propeller_load.h"
#include "air/atmosphere.h"
#include "units/roots.h"
#include <algorithm>
#include <cmath>

namespace amber::engine {
namespace {
constexpr double typicalPowerCoefficient = 0.08;
} // namespace

FineStop FineStop::of(const TypeNotes& notes, const EngineParameters& engine) {
    if (notes.propeller.referenceRpm) {
        const Rotation n = *notes.propeller.referenceRpm;
        const air::Day day = air::standardDay(Length{});
        const auto point =
            operate(engine, {n, ManifoldPressure::si(standardPressure), 0, day.at(Length{}), Speed{}, Mixture::rich});
        if (point.power.si() > 0)
            return {point.power.si() / (air::standardDensity(Length{}) * n.si() * n.si() * n.si())};
    }
    return {typicalPowerCoefficient * std::pow(notes.propeller.diameter, 5) * std::pow(notes.engine.reduction, 3)};
}

Rotation staticRpm(const EngineParameters& engine, const FineStop& propeller, ManifoldPressure boost, std::size_t gear,
                   const air::Ambient& air, Rotation most) {
    const double rho = air::density(air.pressure, air.temperature);
    const auto surplus = [&](double n) {
        return operate(engine, {Rotation::si(n), boost, gear, air, Speed{}, Mixture::rich}).power.si() -
               propeller.absorption * rho * n * n * n;
    };
    if (surplus(most.si()) > 0)
        return most;
    return Rotation::si(roots::between(surplus, 3.0, most.si(), 0.1 / 60.0));
}

ManifoldPressure boostForRpm(const EngineParameters& engine, const FineStop& propeller, Rotation rpm, std::size_t gear,
                             const air::Ambient& air) {
    const double rho = air::density(air.pressure, air.temperature);
    const double n = rpm.si();
    const double wide = fullThrottlePressure(engine, {rpm, std::nullopt, gear, air, Speed{}, Mixture::rich}).si();
    const auto surplus = [&](double pressure) {
        return operate(engine, {rpm, ManifoldPressure::si(pressure), gear, air, Speed{}, Mixture::rich}).power.si() -
               propeller.absorption * rho * n * n * n;
    };
    return ManifoldPressure::si(roots::between(surplus, 5e3, wide, 20.0));
}

} // namespace amber::engine
