// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/engine_parameters.h"
#include "air/atmosphere.h"
#include <algorithm>
#include <cmath>

namespace amber::engine {

EngineParameters typicalParameters(const TypeNotes& notes) {
    const EngineNotes& e = notes.engine;
    EngineParameters p;
    p.displacement = e.displacement.si();
    p.compression = e.compression;
    // The fuel–air cycle's efficiency, 1 − r^(1−k) with k = 1.27 of burnt rich mixtures (Taylor op. cit., chapter 4).
    p.isac *= (1.0 - std::pow(6.5, -0.27)) / (1.0 - std::pow(e.compression, -0.27));
    p.stroke = e.strokeMetres;
    p.impellerDiameter = e.impellerDiameter;
    for (const auto& gear : e.gears)
        p.gears.push_back({gear.ratio, 0.70, gear.auxiliary, 0.68});
    p.auxiliaryDiameter = e.auxiliaryDiameter;
    p.intercooler = e.intercooler;
    if (e.turbo)
        p.turbo = EngineParameters::Turbo{
            e.turbo->held.si(), std::max(1.0, e.turbo->held.si() / air::pressureAtAltitude(e.turbo->critical).si()),
            e.turbo->efficiency};
    p.altitudeControl = e.altitudeControl;
    p.waterRatio = e.waterRatio.value_or(p.waterRatio);
    p.ram = e.ramEfficiency;
    p.throttleLoss = e.throttleLoss;
    p.rich = e.richSchedule;
    p.weak = e.weakRatio;
    double most = 0.0;
    for (const auto& rating : notes.ratings)
        p.ratedRpm = &rating == &notes.ratings.front() ? rating.rpm.si() : std::max(p.ratedRpm, rating.rpm.si());
    for (const auto& rating : notes.ratings)
        most = std::max(most, (rating.boost ? rating.boost->si() : standardPressure) * rating.rpm.si());
    p.ratedCharge = std::max(most, 1.0);
    return p;
}

} // namespace amber::engine
