// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/engine_parameters.h"
#include <algorithm>

namespace amber::engine {

EngineParameters typicalParameters(const TypeNotes& notes) {
    const EngineNotes& e = notes.engine;
    EngineParameters p;
    p.displacement = e.displacement.si();
    p.compression = e.compression;
    p.stroke = e.strokeMetres;
    p.impellerDiameter = e.impellerDiameter;
    for (const auto& gear : e.gears)
        p.gears.push_back({gear.ratio, 0.70});
    p.ram = e.ramEfficiency;
    p.throttleLoss = e.throttleLoss;
    p.rich = e.richSchedule;
    p.weak = e.weakRatio;
    double most = 0.0;
    for (const auto& rating : notes.ratings)
        most = std::max(most, (rating.boost ? rating.boost->si() : standardPressure) * rating.rpm.si());
    p.ratedCharge = std::max(most, 1.0);
    return p;
}

} // namespace amber::engine
