// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/figures.h"
#include "advice/cool_down.h"
#include "drills/drill.h"
#include "engine/permitted_boost.h"
#include "notes/placeholder.h"
#include "notes/standard_schools.h"
#include "start/cranking.h"
#include "start/start_school.h"
#include <algorithm>
#include <limits>

namespace amber::advice {
namespace {
constexpr double runsBy = 220.0 / 60.0; // rev/s, faster than any starter turns; ours
constexpr double stands = 30.0 / 60.0;  // rev/s

Figure of(Dimension dimension, double si, Origin origin = Origin::notes) {
    Figure f;
    f.dimension = dimension;
    f.si = si;
    f.origin = origin;
    return f;
}
Figure at(std::string position, Origin origin = Origin::notes) {
    Figure f;
    f.position = std::move(position);
    f.origin = origin;
    return f;
}
Figure rotation(Rotation r, Origin origin = Origin::notes) {
    return of(Dimension::rotation, r.si(), origin);
}
std::string tankAt(const TypeNotes& n, int index) {
    return n.fuel.tanks.empty() ? std::string{} : n.fuel.tanks[static_cast<std::size_t>(std::max(0, index))].id;
}
std::optional<Figure> startFigure(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f,
                                  std::string_view name, std::size_t engine) {
    const TypeNotes& n = a.notes;
    const StartNotes start = start::startInForce(n, s.choices);
    const auto request = flight::startRequestOf(s);
    const auto dose = [&] {
        const auto advice = start::Priming(start).advice(request.engine, request.field);
        return start::doseFor(advice, request.liking,
                              engine < n.positions.size() ? n.positions[engine].id : std::string());
    };
    if (name == "supply")
        return at(s.start.supply == start::Supply::cart ? "connected" : "away", Origin::entered);
    if (name == "running")
        return rotation(Rotation::si(runsBy), Origin::ours);
    if (name == "prime") { // the time that strokes and blades take
        const auto advice = start::Priming(start).advice(request.engine, request.field);
        Figure given = of(Dimension::duration, start::primingTime(start, advice, dose()).si());
        given.doses = start::inNotesDoses(start, advice, dose());
        return given;
    }
    if (name == "prime-time")
        return of(Dimension::duration,
                  dose() * (start.primer == "blades" ? std::max(start::bladeTime, start.primeTime.si())
                                                     : start.primeTime.si()));
    if (name == "vaporise")
        return of(Dimension::duration, start::Priming(start).advice(request.engine, request.field).vaporise.si(),
                  Origin::model);
    if (name == "energise" || name == "blades-time") {
        const auto crank =
            start::crank(start, {request.oil, request.supply, request.diluted, start::bladesPerRevolution(n)});
        return of(Dimension::duration,
                  name == "energise" ? crank.energise.si()
                  : start.starter.kind == StarterKind::hand
                      ? start.starter.bladesBeforeIgnition * start::bladeTime
                      // The blades that went by while it was primed count.
                      : std::max(0.0, crank.forBlades.si() -
                                          (start.primeWhileTurning ? dose() * start.primeTime.si() : 0.0)));
    }
    if (name == "slow-rpm")
        return rotation(start::slowestRpm(n, start).value_or(n.phase(Phase::start).rpm.value_or(Rotation::si(12))));
    if (name == "warm-up-rpm")
        return rotation(Rotation::si(f.samples[f[Phase::start].lastSample][Gauge::rpm]));
    if (name == "oil-pressure-least")
        return of(Dimension::pressure, n.start.oilPressure.si());
    return std::nullopt;
}
} // namespace

std::optional<Figure> figureOf(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, Phase phase,
                               std::string_view name, std::size_t engine) {
    const TypeNotes& n = a.notes;
    const flight::PhaseFlown& p = f[phase];
    const auto maybe = [](const auto& quantity, Dimension d) {
        return quantity ? std::optional(of(d, quantity->si())) : std::nullopt;
    };
    if (name == "boost")
        return p.setting.boost
                   ? std::optional(of(Dimension::manifoldPressure, p.setting.boost->si(), p.setting.boostOrigin))
                   : at("open");
    if (name == "rpm" && phase == Phase::warmUp)
        return rotation(f.warmUpSteps.empty() ? p.setting.rpm : f.warmUpSteps.front().second);
    if (name == "rpm") // a governor holds what the notes say; without one the propeller decides in the air
        return rotation(p.setting.rpm,
                        a.propeller.followsThrottle() && phase >= Phase::takeOff && phase <= Phase::landing
                            ? Origin::model
                            : Origin::notes);
    if (name == "mixture")
        return at(p.setting.mixture == Mixture::rich ? "rich" : "weak");
    if (name == "gear")
        return n.engine.gears.empty()
                   ? std::nullopt
                   : std::optional(at(n.engine.gears[std::min(p.setting.gear, n.engine.gears.size() - 1)].name,
                                      phase == Phase::cruise ? Origin::model : Origin::notes));
    if (name == "flap") {
        Figure out;
        out.share = p.setting.coolingFlap;
        return out;
    }
    if (name == "heat") {
        constexpr double nearly = 0.95; // of the lever's travel: nobody sets that
        if (p.setting.hotAir <= 0.0)
            return at("cold", Origin::model);
        if (p.setting.hotAir >= nearly)
            return at("hot", Origin::model);
        Figure out;
        out.share = p.setting.hotAir;
        out.heat = true;
        out.origin = Origin::model;
        return out;
    }
    if (name == "ias") {
        const auto v = phase == Phase::climb
                           ? flight::speedFor(n, "climb", Mass::si(f.samples[p.firstSample][Gauge::weight]))
                           : std::nullopt;
        return of(Dimension::speed, p.setting.ias.si(),
                  v                        ? v->origin
                  : phase == Phase::cruise ? Origin::model
                                           : Origin::notes);
    }
    if (name == "rate" && n.phase(phase).rate)
        return of(Dimension::verticalSpeed, n.phase(phase).rate->si());
    if (name == "tank")
        return at(phase == Phase::start || phase == Phase::takeOff ? n.fuel.takeOffTank
                                                                   : tankAt(n, f.samples[p.firstSample].tank));
    if (name == "landing-tank")
        return at(n.fuel.landingTank);
    if (phase == Phase::start)
        if (auto found = startFigure(a, s, f, name, engine))
            return found;
    if (name == "oil-pressure-least")
        return of(Dimension::pressure, n.start.oilPressure.si());
    if (name == "slow-rpm")
        return rotation(n.start.slowRpm.value_or(n.phase(Phase::start).rpm.value_or(Rotation::si(12))));
    if (name == "fuel-pressure-least") {
        const auto g = n.gauges.find(Gauge::fuelPressure);
        if (g == n.gauges.end())
            return of(Dimension::pressure, 0.8 * n.heat.fuelPressure.si(), Origin::ours);
        const auto& band = g->second.in(phase);
        const auto least = band.limitLow ? band.limitLow : band.normalLow;
        return least ? of(Dimension::pressure, *least)
                     : of(Dimension::pressure, 0.8 * n.heat.fuelPressure.si(), Origin::ours);
    }
    if (name == "taxi-rpm")
        return rotation(n.warmUp.taxiRpm);
    if (name == "oil-run-up")
        return of(Dimension::temperature, n.warmUp.oilRunUp.si());
    if (name == "metal-run-up")
        return maybe(n.warmUp.headRunUp, Dimension::temperature);
    if (name == "exercise-rpm") {
        if (n.runUp.propeller && n.runUp.propeller->at.rpm)
            return rotation(*n.runUp.propeller->at.rpm);
        return rotation(n.phase(Phase::runUp).rpm.value_or(Rotation::si(27)));
    }
    if (name == "blower-rpm") {
        if (n.runUp.blower && n.runUp.blower->at.rpm)
            return rotation(*n.runUp.blower->at.rpm);
        return rotation(n.phase(Phase::runUp).rpm.value_or(Rotation::si(28)));
    }
    if (name == "field-boost")
        return of(Dimension::manifoldPressure, f.fieldBoost.si(), Origin::model);
    if (name == "reference-rpm")
        return rotation(f.referenceRpm, Origin::model);
    if (name == "static-rpm")
        return rotation(f.staticRpm, Origin::model);
    if (name == "climb-boost")
        return figureOf(a, s, f, Phase::climb, "boost");
    if (name == "climb-rpm")
        return figureOf(a, s, f, Phase::climb, "rpm");
    if (name == "take-off-boost")
        return figureOf(a, s, f, Phase::takeOff, "boost");
    if (name == "take-off-rpm")
        return figureOf(a, s, f, Phase::takeOff, "rpm");
    if (name == "change-height")
        return f.gearChange() ? std::optional(of(Dimension::length, f.gearChange()->height.si(), Origin::model))
                              : std::nullopt;
    if (name == "second-change-height")
        return f.gearChanges.size() > 1
                   ? std::optional(of(Dimension::length, f.gearChanges[1].height.si(), Origin::model))
                   : std::nullopt;
    if ((name == "changed-boost" || name == "second-changed-boost") && p.setting.boost) {
        const std::size_t change = name == "changed-boost" ? 0 : 1;
        const auto boostOf = [&](const std::optional<ManifoldPressure>& boost) {
            return boost ? std::optional(of(Dimension::manifoldPressure, boost->si(), p.setting.boostOrigin))
                         : std::nullopt;
        };
        if (change < f.gearChanges.size())
            return boostOf(f.gearChanges[change].boostAfter);
        // It is not changed today: what would be set at the top.
        const engine::BoostAt top{change + 1, s.day.pressureAltitudeOf(s.flight.cruiseHeight), Phase::climb,
                                  s.flight.climbBoost};
        return boostOf(engine::permittedBoost(n, flight::ratingFor(n, s, Phase::climb), s.fuelGrade, top).boost);
    }
    for (std::size_t i = 0; i < placeholder::fallNames.size(); ++i)
        if (name == placeholder::fallNames[i].at || name == placeholder::fallNames[i].boost) {
            if (i >= f.boostFalls.size())
                return std::nullopt;
            return name == placeholder::fallNames[i].at ? of(Dimension::length, f.boostFalls[i].height.si())
                                                        : of(Dimension::manifoldPressure, f.boostFalls[i].boost.si());
        }
    if (name == "throttle-back" && n.gearChange)
        return of(Dimension::manifoldPressure, n.gearChange->throttleBackTo.si());
    if (name == "cool-below")
        return maybe(n.stop.coolBelow, Dimension::temperature);
    if (name == "dilute-under") // nothing to wait for where it is not diluted
        return dilutionFor(n.stop, s.forecast.value_or(s.day.oat)) ? maybe(n.stop.diluteUnder, Dimension::temperature)
                                                                   : std::nullopt;
    if (name == "dilution" || name == "dilutes") {
        const auto d = dilutionFor(n.stop, s.forecast.value_or(s.day.oat));
        if (name == "dilutes")
            return at(d ? "on" : "off", d ? d->origin : Origin::notes);
        return of(Dimension::duration, d ? d->seconds : 0.0, d ? d->origin : Origin::notes);
    }
    if (name == "scavenge")
        return of(Dimension::duration, n.stop.scavenge.si());
    if (name == "scavenge-rpm")
        return rotation(n.stop.scavengeRpm);
    if (name == "stopped")
        return rotation(Rotation::si(stands), Origin::ours);
    if (name == "lift-off" || name == "safe-single" || name == "approach")
        if (const auto v = flight::speedFor(n, name, Mass::si(f.samples[p.firstSample][Gauge::weight])))
            return of(Dimension::speed, v->speed.si(), v->origin);
    return std::nullopt;
}

std::optional<double> heightOfStep(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, Phase phase,
                                   const Step& step) {
    std::vector<std::string_view> heights{"change-height", "second-change-height"};
    for (const auto& fall : placeholder::fallNames)
        heights.push_back(fall.at);
    const auto& actions = cockpit::actionsInForce(step, schools::inForce(step, phase, s.choices));
    std::string name;
    if (!actions.empty() && actions.front().control.empty() && actions.front().until &&
        actions.front().until->gauge == Gauge::height)
        name = actions.front().until->level.word;
    for (const auto& told : placeholder::namesIn(step.at)) // a sentence of format 1 has no act
        if (name.empty() && std::find(std::begin(heights), std::end(heights), told) != std::end(heights))
            name = told;
    if (name.empty())
        return std::nullopt;
    const auto figure = figureOf(a, s, f, phase, name);
    return figure && figure->si ? *figure->si : std::numeric_limits<double>::quiet_NaN();
}

} // namespace amber::advice
