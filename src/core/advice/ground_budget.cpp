// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/ground_budget.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::advice {
namespace {
constexpr double rpmStep = 200.0 / 60; // what slower and faster mean
constexpr double wellUnder = 25.0;     // K under amber, when standing has done its work
constexpr double gustless = 0.5;       // m/s: less wind than this is calm
} // namespace

GroundBudget groundBudget(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, GroundFrom from) {
    const TypeNotes& n = a.notes;
    GroundBudget out;
    const auto& phase = f[from == GroundFrom::warmUp ? Phase::warmUp : Phase::runUp];
    // At the holding point: before the queue.
    const double when = from == GroundFrom::warmUp ? phase.start : phase.start + phase.duration - s.flight.hold.si();
    const flight::Sample* now = &f.samples[phase.firstSample];
    for (std::size_t i = phase.firstSample; i <= phase.lastSample; ++i)
        if (f.samples[i].time <= when + 1e-6)
            now = &f.samples[i];
    const heat::Temperatures start{Temperature::si(now->headOrCoolant()),
                                   Temperature::si((*now)[Gauge::oilTemperature])};
    out.headOrCoolant = start.headOrCoolant;
    const Gauge gauge = headOrCoolantGauge(n);
    if (const auto g = n.gauges.find(gauge); g != n.gauges.end()) {
        const Band& band = g->second.in(from == GroundFrom::warmUp ? Phase::warmUp : Phase::runUp);
        if (band.normalHigh)
            out.amber = Temperature::si(*band.normalHigh);
        if (band.limitHigh)
            out.red = Temperature::si(*band.limitHigh);
    }
    const auto air = s.day.at(s.day.pressureAltitude());
    const double coolingFlap = n.phase(Phase::warmUp).coolingFlap.value_or(1.0);
    const auto driveAt = [&](Rotation rpm, double opening, double wind) {
        const auto boost = engine::boostForRpm(a.model(), a.fineStop, rpm, 0, air);
        const auto p = engine::operate(a.model(), {rpm, boost, 0, air, Speed{}, Mixture::rich});
        auto d = heat::driveOf(p, rpm, air, Speed{}, opening);
        d.trueAirspeed = Speed::si(wind);
        return d;
    };
    const Duration horizon = Duration::si(GroundBudget::horizon);
    const auto add = [&](std::string name, const heat::Drive& d, std::string why, bool planned = false) {
        GroundRun r;
        r.name = std::move(name);
        r.why = std::move(why);
        r.planned = planned;
        r.settles = a.thermal.steadyHeadOrCoolant(a.thermal.forcing(d));
        if (out.amber)
            if (const auto t = heat::timeToPass(a.thermal, start, d, *out.amber, horizon))
                r.toAmber = t->si();
        if (out.red)
            if (const auto t = heat::timeToPass(a.thermal, start, d, *out.red, horizon))
                r.toRed = t->si();
        out.runs.push_back(std::move(r));
    };
    const Rotation taxi = n.warmUp.taxiRpm;
    const auto rpmText = [](Rotation r) { return format(r.si(), *units::rpm.spec); };
    const double wind = s.day.wind.speed.si(), moving = n.warmUp.taxiSpeed.si();
    const auto calm = driveAt(taxi, coolingFlap, 0.0);
    add(fmt::format("Standing, {}, calm", rpmText(taxi)), calm, "As the plan reckons: no help from the wind.", true);
    if (wind > gustless) {
        add("Facing the wind", driveAt(taxi, coolingFlap, wind), "The wind goes through the cowl.");
        add("Tail to the wind", driveAt(taxi, coolingFlap, -wind), "It holds back what the propeller blows.");
        add(n.warmUp.onWater ? "Taxying down wind, on water" : "Taxying down wind",
            driveAt(taxi, coolingFlap, moving - wind),
            n.warmUp.onWater ? "Engines are the only steering and may not cool at all."
                             : "Taxying with the wind, the cowl gets less of it.");
    }
    add(n.warmUp.onWater ? "Taxying, calm, on water" : "Taxying, calm", driveAt(taxi, coolingFlap, moving),
        "Its own way through the air helps a little.");
    const Rotation slow =
        std::max(n.warmUp.leastRpm.value_or(Rotation::si(taxi.si() - rpmStep)), Rotation::si(taxi.si() - rpmStep));
    if (slow.si() < taxi.si() - 0.5)
        add(fmt::format("Slower, {}", rpmText(slow)), driveAt(slow, coolingFlap, 0.0),
            "Less heat, and less air from the propeller; plugs foul when it is too slow.");
    const Rotation fast = Rotation::si(taxi.si() + rpmStep);
    add(fmt::format("Faster, {}", rpmText(fast)), driveAt(fast, coolingFlap, 0.0),
        "More air from the propeller, and more heat.");
    if (coolingFlap < 0.95)
        add("Flaps fully open", driveAt(taxi, 1.0, 0.0), "The whole of the wash goes through.");
    else
        add("Flaps half shut", driveAt(taxi, 0.5, 0.0), "What forgetting them costs.");
    if (out.amber)
        out.rpmForEver = heat::rpmFor(
            a.thermal, [&](Rotation rpm) { return driveAt(rpm, coolingFlap, 0.0); }, *out.amber,
            n.warmUp.leastRpm.value_or(Rotation::si(0.6 * taxi.si())), Rotation::si(1.8 * taxi.si()));
    if (out.amber && out.runs.front().toAmber) {
        heat::Drive engineOff;
        engineOff.air = air;
        const Temperature target = Temperature::si(out.amber->si() - wellUnder);
        // From amber: that is when one stops.
        const heat::Temperatures hot{std::max(start.headOrCoolant, *out.amber), start.oil};
        if (const auto t = heat::timeToCool(a.thermal, hot, engineOff, target, horizon)) {
            out.stopFor = t->si();
            const auto cooled = a.thermal.after(hot, engineOff, *t);
            const auto again = heat::timeToPass(a.thermal, cooled, calm, *out.amber, horizon);
            out.thenToAmber = again ? again->si() : GroundBudget::horizon;
        }
    }
    if (const double waits = s.flight.hold.si(); waits > 0) {
        const auto& planned = out.runs.front();
        const bool fits = !planned.toAmber || *planned.toAmber >= waits;
        out.queue = watch::queue(planned.toAmber, waits,
                                 fmt::format("The queue of {} {}.", format(waits, *units::minute.spec),
                                             fits ? "fits" : "is longer than it stays normal"));
    }
    return out;
}

} // namespace amber::advice
