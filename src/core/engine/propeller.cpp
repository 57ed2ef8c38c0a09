// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/propeller.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "units/roots.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::engine {
namespace {
constexpr double governedZeroAdvance = 0.95; // of a fine stop, typical
constexpr double leastBoost = 5e3;           // Pa, throttle shut

} // namespace

double BladeAngle::power(double n, double v, double rho) const {
    const double turns = std::max(n * reduction, 0.1);
    const double x = v / (turns * diameter) / std::max(zeroAdvance, 0.05);
    return absorption * rho * n * n * n * std::max(-0.1, 1.0 - x * x);
}

Agreement agree(const EngineParameters& engine, const BladeAngle& blades, const Demand& most) {
    const double rho = air::density(most.air.pressure, most.air.temperature);
    const double v =
        most.ias.si() > 0 ? air::trueAirspeed(most.ias, most.air.pressure, most.air.temperature).si() : 0.0;
    const auto at = [&](double n, std::optional<ManifoldPressure> boost) {
        Demand d = most;
        d.rpm = Rotation::si(n);
        d.boost = boost;
        return operate(engine, d);
    };
    const auto surplus = [&](double n, std::optional<ManifoldPressure> boost) {
        return at(n, boost).power.si() - blades.power(n, v, rho);
    };
    const double fastest = most.rpm.si();
    if (surplus(fastest, most.boost) < 0) {
        const double n = roots::between([&](double x) { return surplus(x, most.boost); }, 3.0, fastest, 0.1 / 60.0);
        return {Rotation::si(n), at(n, most.boost).manifoldPressure, false};
    }
    const double wide = at(fastest, most.boost).manifoldPressure.si();
    const double boost =
        roots::between([&](double p) { return surplus(fastest, ManifoldPressure::si(p)); }, leastBoost, wide, 10.0);
    return {most.rpm, ManifoldPressure::si(boost), boost < wide - 50.0};
}

std::optional<Propeller> Propeller::of(const TypeNotes& notes, const EngineParameters& engine, const FineStop& stop,
                                       Problems& problems) {
    Propeller p;
    p.control = notes.propeller.control;
    p.fine = {stop.absorption, governedZeroAdvance, notes.propeller.diameter, notes.engine.reduction};
    p.coarse = p.fine;
    if (p.control == PropellerControl::constantSpeed)
        return p;
    if (p.control == PropellerControl::twoPosition)
        p.coarse.absorption = stop.absorption * notes.propeller.coarseAbsorption;
    const auto level = std::find_if(notes.performance.begin(), notes.performance.end(),
                                    [](const PerformanceLine& l) { return !l.rate.has_value(); });
    if (level == notes.performance.end())
        return p;
    const Rating& rating = *notes.rating(level->rating);
    const air::Ambient air = air::standardDay(Length{}).at(level->height);
    const auto point = operate(engine, {rating.rpm, rating.boost, 0, air, level->ias, rating.mixture});
    const double n = rating.rpm.si(), rho = air::density(air.pressure, air.temperature);
    const double share = point.power.si() / (p.coarse.absorption * rho * n * n * n);
    const double advance = air::trueAirspeed(level->ias, air.pressure, air.temperature).si() /
                           (n * notes.engine.reduction * notes.propeller.diameter);
    if (!(share > 0.1 && share < 0.97)) {
        problems.push_back({notes.file, level->line,
                            fmt::format("no propeller takes the reference rpm standing and this line's rpm in level "
                                        "flight: it would take {:.0f} % of its standing power there",
                                        100 * share),
                            fmt::format("Check reference_rpm{} and the line's rating and speed",
                                        p.control == PropellerControl::twoPosition ? ", coarse_absorption" : "")});
        return std::nullopt;
    }
    p.coarse.zeroAdvance = advance / std::sqrt(1.0 - share);
    // A finer pitch unloads at a lower advance: J0 goes about as the cube root of the power it absorbs.
    p.fine.zeroAdvance = p.coarse.zeroAdvance * std::cbrt(p.fine.absorption / p.coarse.absorption);
    return p;
}

} // namespace amber::engine
