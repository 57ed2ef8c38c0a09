// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/context.h"
#include "start/priming.h"
#include "start/start_school.h"
#include <algorithm>
#include <cmath>

namespace amber::trouble {

Context contextOf(const Case& at, std::optional<double> doses) {
    const TypeNotes& n = at.aircraft.notes;
    const auto& day = at.sortie.day;
    Context out;
    out.phase = at.moment.phase;
    if (at.moment.flying)
        out.aboveField = at.moment.aboveField.si();
    for (const auto& ice : at.flown.ice)
        if (ice.phase == at.moment.phase)
            out.ice = static_cast<int>(ice.advice.risk);
    out.oat = day.at(day.pressureAltitudeOf(at.moment.height)).temperature.si();
    if (at.moment.phase <= Phase::start) {
        const auto engine = flight::engineTemperatureOf(at.sortie);
        out.metal = engine.si();
        const start::Priming priming(start::startInForce(n, at.sortie.choices));
        const auto advice = priming.advice(engine, day.fieldPressure());
        if (advice.fireHigh > 0) {
            out.firesFrom = advice.fireLow;
            out.firesTo = advice.fireHigh;
            out.doses = doses;
            constexpr double flooding = 1.5; // of the most that fires
            const double revs = priming.clearingRevolutions(std::max(doses.value_or(0.0), flooding * advice.fireHigh),
                                                            engine, day.fieldPressure());
            if (revs > 0 && std::isfinite(revs))
                out.clearBlades = std::ceil(revs * n.engine.reduction * n.propeller.blades);
        }
        return out;
    }
    out.metal = at.moment.sample.headOrCoolant();
    out.highGear = at.moment.sample.gear > 0;
    out.wet = at.flown[at.moment.phase].setting.water;
    const int tank = at.moment.sample.tank;
    if (const double flow = at.moment.sample[Gauge::fuelFlow];
        tank >= 0 && static_cast<std::size_t>(tank) < at.moment.tanks.size() && flow > 0)
        out.tankLeft = at.moment.tanks[static_cast<std::size_t>(tank)] / (flow * static_cast<double>(n.engineCount()));
    return out;
}

} // namespace amber::trouble
