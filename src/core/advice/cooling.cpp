// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cooling.h"
#include "air/airspeed.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::advice {
namespace {
constexpr int curveSteps = 40;
constexpr double underAmber = 3.0; // K under amber that an opening is chosen for
} // namespace

CoolingPicture coolingPicture(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, Phase phase) {
    const TypeNotes& n = a.notes;
    const bool heads = n.engine.cooling == Cooling::air;
    const Gauge gauge = heads ? Gauge::headTemperature : Gauge::coolantTemperature;
    CoolingPicture out;
    const flight::Sample* at = &f.samples[f[phase].firstSample];
    for (std::size_t i = f[phase].firstSample; i <= f[phase].lastSample; ++i)
        if (f.samples[i].headOrCoolant() > at->headOrCoolant())
            at = &f.samples[i];
    out.height = Length::si((*at)[Gauge::height]);
    const auto air = s.day.at(s.day.pressureAltitudeOf(out.height));
    const double engines = static_cast<double>(n.engineCount());
    const Mass weight = Mass::si((*at)[Gauge::weight]);
    const flight::Setting& set = f[phase].setting;
    out.opening = set.coolingFlap;
    const auto drive = [&](double ias, double opening, double boostLess = 0.0, std::optional<Mixture> mixture = {}) {
        const Speed v = Speed::si(ias);
        const auto p = engine::operate(a.model(), {Rotation::si((*at)[Gauge::rpm]),
                                                   ManifoldPressure::si((*at)[Gauge::boost] - boostLess), at->gear, air,
                                                   v, mixture.value_or(set.mixture)});
        return heat::driveOf(p, Rotation::si((*at)[Gauge::rpm]), air, v, opening);
    };
    if (const auto g = n.gauges.find(gauge); g != n.gauges.end()) {
        const Band& band = g->second.in(phase);
        const auto take = [](std::optional<double> v) {
            return v ? std::optional(Temperature::si(*v)) : std::optional<Temperature>();
        };
        out.amber = take(band.normalHigh);
        out.red = take(band.limitHigh);
    }
    if (!heads)
        out.boils = heat::coolantBoils(air.pressure, n.heat.coolantCap, n.heat.glycol);
    const double low = 0.78 * (*at)[Gauge::airspeed], high = 1.45 * (*at)[Gauge::airspeed];
    for (const double opening : {0.0, 1.0 / 3, 2.0 / 3, 1.0}) {
        flight::Curve c{flapText(opening), 0, {}};
        for (int i = 0; i <= curveSteps; ++i) {
            const double v = low + (high - low) * i / curveSteps;
            c.points.push_back({v, a.thermal.steadyHeadOrCoolant(a.thermal.forcing(drive(v, opening))).si()});
        }
        out.openings.push_back(std::move(c));
    }
    const auto here = [&](double opening, double ias, double less = 0.0, std::optional<Mixture> mixture = {}) {
        return a.thermal.steadyHeadOrCoolant(a.thermal.forcing(drive(ias, opening, less, mixture))).si();
    };
    const double planned = here(set.coolingFlap, (*at)[Gauge::airspeed]);
    out.planned = {(*at)[Gauge::airspeed], planned};
    if (out.amber) {
        const double under = out.amber->si() - planned;
        out.planSettles = watch::coolingSettles(
            under, fmt::format("It settles {} {}.", format(std::abs(under), differenceUnit(n.cockpit)),
                               under < 0 ? "over the normal range" : "under amber"));
    }
    const Temperature wanted = out.amber ? Temperature::si(out.amber->si() - underAmber) : Temperature::si(planned);
    for (const double share : {0.9, 1.0, 1.1, 1.2, 1.3}) {
        CoolingWay w;
        w.ias = Speed::si(share * (*at)[Gauge::airspeed]);
        w.planned = share == 1.0;
        w.rate = powerplant::rateOfClimb(a, (*at)[Gauge::power] * engines, weight, w.ias, air);
        w.settles = Temperature::si(here(set.coolingFlap, w.ias.si()));
        w.verdict = watch::judge(n, gauge, phase, w.settles.si());
        w.need = heat::flapFor(a.thermal, drive(w.ias.si(), 0.0), wanted);
        out.ways.push_back(w);
    }
    const auto add = [&](std::string what, double to, std::string cost) {
        if (to < planned - 0.5)
            out.remedies.push_back({std::move(what), to - planned, std::move(cost)});
    };
    const std::string lever = n.coolingLever.empty() ? "Flaps" : n.coolingLever;
    if (set.coolingFlap < 0.99)
        add(lever + " fully open", here(1.0, (*at)[Gauge::airspeed]),
            "Drag, and a shake where they stand in the flow.");
    const double faster = 1.15 * (*at)[Gauge::airspeed];
    add(fmt::format("Nose down, {}", format(faster, *n.cockpit.speed)), here(set.coolingFlap, faster),
        phase == Phase::climb ? "A flatter climb." : "Height, or more power.");
    const UnitSpec& unit = n.unitOf(Gauge::boost);
    const double less = unit.symbol == "inHg"      ? 4.0 * unit.scale
                        : unit.symbol == "lbf/in²" ? 2.0 * unit.scale
                        : unit.symbol == "mmHg"    ? 100.0 * unit.scale
                                                   : 13000.0;
    add(n.gauges.contains(Gauge::boost)
            ? fmt::format("{} less boost", format(less + unit.offset, {unit.symbol, unit.aliases, unit.scale,
                                                                       unit.offset, unit.decimals, false}))
            : std::string("A little less throttle"),
        here(set.coolingFlap, (*at)[Gauge::airspeed], less), "Time to height.");
    if (set.mixture == Mixture::weak)
        add("Mixture rich", here(set.coolingFlap, (*at)[Gauge::airspeed], 0.0, Mixture::rich), "Fuel.");
    std::stable_sort(out.remedies.begin(), out.remedies.end(),
                     [](const CoolingRemedy& x, const CoolingRemedy& y) { return x.change < y.change; });
    return out;
}

} // namespace amber::advice
