// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/go_round.h"
#include "air/airspeed.h"
#include "drills/state.h"
#include "engine/carburettor_ice.h"
#include "engine/knock.h"
#include "engine/permitted_boost.h"
#include "trouble/on_the_rest.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::trouble {
namespace {
using powerplant::Milliseconds;
constexpr Milliseconds tick = 100;
constexpr double settledShare = 0.97; // of the settled power: full
constexpr double watched = 25.0;      // s that the opening is watched
constexpr double glided = 30.0;       // s of the closed-throttle glide before the throttle is slammed
constexpr double needleWidth = 0.01;  // of the rated rpm
constexpr double slammed = 0.5;       // s
constexpr double reacts = 2.0;        // s from the decision to the first lever; ours
constexpr double clearance = 15.0;    // m that must be left at the lowest point; ours
constexpr double clearanceOnFewer = 45.0, slowerOnFewer = 2.0; // the same with power on one side; ours
constexpr double wheelsDrag = 0.6, flapsDrag = 0.5; // of the clean parasite drag, each more: the usual size; ours

bool hasControl(const TypeNotes& n, Acts acts) {
    return std::any_of(n.controls.begin(), n.controls.end(), [&](const Control& c) { return c.acts == acts; });
}

/// How she is on the approach, at the landing field.
struct Approach {
    air::Ambient air;
    Length height;
    Mass weight;
    Speed ias;
    Rotation rpm;
    ManifoldPressure boost;
    double sink = 0.0; ///< m/s
};

Approach approachOf(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, bool fewer) {
    const TypeNotes& n = a.notes;
    Approach out;
    out.height = Length::si(s.flight.toElevation.si() + 15.0);
    out.air = s.day.at(s.day.pressureAltitudeOf(out.height));
    const auto& landing = f[Phase::landing];
    const auto& last = f.samples[landing.lastSample];
    out.weight = Mass::si(last[Gauge::weight]);
    const auto speed = flight::speedFor(n, "approach", out.weight);
    out.ias = speed ? speed->speed : landing.setting.ias;
    if (const auto safe = flight::speedFor(n, "safe-single", out.weight); fewer && safe)
        out.ias = std::max(out.ias, safe->speed);
    out.rpm = landing.setting.rpm;
    out.boost = landing.point.manifoldPressure;
    const double tas = air::trueAirspeed(out.ias, out.air.pressure, out.air.temperature).si();
    out.sink = tas * std::sin(threeDegrees);
    return out;
}

/// What a lever of the landing stands at by the drill: "hot", "weak", a gear.
std::string standsAt(const TypeNotes& n, const std::map<std::string, std::string>& choices, Acts acts) {
    const auto state = cockpit::stateAtEnd(n, choices, Phase::landing);
    for (std::size_t i = 0; i < n.controls.size(); ++i)
        if (n.controls[i].acts == acts && state.of(i, 0).target.kind == Target::Kind::position)
            return state.of(i, 0).target.word;
    return {};
}

struct Opening {
    double full = watched, stumble = 0.0;
    double peak = 0.0; ///< rev/s
    bool backfires = false;
    double settled = 0.0;                           ///< W, all engines
    std::vector<std::pair<double, double>> powerAt; ///< s → W, all engines
};

/// The engines opened up on the powerplant.
/// @param closed s of a glide with the throttle shut before @param over s of the throttle's way
Opening opened(const powerplant::Aircraft& a, const Sortie& s, const Approach& at, const Rating& rating,
               std::optional<ManifoldPressure> boost, double closed, double over,
               const std::vector<std::size_t>& dead) {
    const powerplant::Powerplant plant(a, s.fuelGrade);
    const bool byRpm = a.propeller.followsThrottle();
    auto state = plant.standing(s.day, Temperature::of(110, units::celsius));
    state.height = at.height.si();
    state.ias = at.ias.si();
    state.dryMass += at.weight.si() - plant.weight(state).si();
    auto levers = plant.levers();
    levers.path = {powerplant::Path::Kind::rateHeld, at.ias.si(), -at.sink};
    for (auto& l : levers.engines) {
        l.throttle = byRpm ? powerplant::rpmHeld(at.rpm.si()) : powerplant::boostHeld(at.boost.si());
        l.rpm = at.rpm.si();
        l.coarse = false;
        l.mixture = Mixture::rich;
        l.cutOff = false;
        l.cock = l.booster = true;
        l.ignition = powerplant::Ignition::both;
        l.coolingFlap = 0.3;
    }
    const powerplant::Run run{&s.day, std::vector<powerplant::Condition>(plant.count()), false};
    const auto around = plant.around(state, levers, run, 0);
    for (auto& e : state.engines)
        e.gallery = 1.0; // it has run for hours
    for (std::size_t i = 0; i < plant.count(); ++i)
        state.engines[i] = plant.engine(i).running(state.engines[i], levers.engines[i], around);
    const auto go = [&](double seconds) {
        const auto r = plant.steps(state, levers, run, static_cast<Milliseconds>(seconds * 1000));
        state.height = at.height.si();
        return r;
    };
    if (closed > 0) {
        for (auto& l : levers.engines)
            l.throttle = powerplant::throttleAt(0.0);
        go(closed);
    } else {
        go(5.0);
    }
    levers.path.rate = 0.0;
    for (auto& l : levers.engines)
        l.rpm = rating.rpm.si();
    const double from = closed > 0 ? 0.0 : plant.engine(0).throttlePlace(state.engines[0].throttle);
    // Where the lever ends: at the boost that is set, or on its stop.
    Opening out;
    const double target = boost ? boost->si() : 1e9;
    const auto& gauges = a.notes.gauges;
    const double most = gauges.contains(Gauge::rpm)
                            ? gauges.at(Gauge::rpm).in(Phase::takeOff).limitHigh.value_or(rating.rpm.si())
                            : rating.rpm.si();
    double t = 0.0;
    bool atBoost = false, atRpm = false;
    while (t < watched) {
        const double share = over > 0 ? std::min(1.0, (t + 0.1) / over) : 1.0;
        for (std::size_t i = 0; i < plant.count(); ++i) {
            auto& l = levers.engines[i];
            atBoost = atBoost || state.engines[i].manifold >= target;
            // Nothing but the throttle holds a propeller without a governor.
            atRpm = atRpm || (byRpm && state.engines[i].n > most);
            l.throttle = atRpm                                ? powerplant::rpmHeld(most)
                         : atBoost || (share >= 1.0 && boost) ? powerplant::boostHeld(target)
                                                              : powerplant::throttleAt(from + (1.0 - from) * share);
        }
        const auto r = plant.steps(state, levers, run, tick);
        state.height = at.height.si();
        t += 0.1;
        double power = 0.0;
        for (std::size_t i = 0; i < r.engines.size(); ++i) {
            const auto& e = r.engines[i];
            if (std::find(dead.begin(), dead.end(), i) != dead.end())
                continue;
            power += e.propeller;
            out.peak = std::max(out.peak, e[Gauge::rpm]);
            out.backfires = out.backfires || e.signs.sound == powerplant::Sound::backfire;
        }
        for (const auto& e : state.engines)
            if (e.fuelAir > 0 && e.fuelAir < 0.05) {
                out.stumble += 0.1 / static_cast<double>(plant.count());
            }
        out.powerAt.emplace_back(t, power);
    }
    out.settled = out.powerAt.back().second;
    out.full = watched;
    for (auto it = out.powerAt.rbegin(); it != out.powerAt.rend() && it->second >= settledShare * out.settled; ++it)
        out.full = it->first;
    return out;
}
} // namespace

double dragDown(const TypeNotes& n, bool wheels, bool flaps) {
    const double ofWheels = hasControl(n, Acts::wheels) ? wheelsDrag : 0.0,
                 ofFlaps = hasControl(n, Acts::wingFlap) ? flapsDrag : 0.0;
    const double both = ofWheels + ofFlaps, part = (wheels ? ofWheels : 0.0) + (flaps ? ofFlaps : 0.0);
    // The notes give both together: shared out as ours are.
    return n.trouble.dragDown && both > 0 ? 1.0 + (*n.trouble.dragDown - 1.0) * part / both
           : n.trouble.dragDown           ? *n.trouble.dragDown
                                          : 1.0 + part;
}

GoRound goRound(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f,
                const std::vector<std::size_t>& dead) {
    const TypeNotes& n = a.notes;
    const Approach at = approachOf(a, s, f, !dead.empty());
    const Rating* named = n.rating(n.phase(Phase::takeOff).rating);
    const Rating& rating = named ? *named : n.ratings.front();
    GoRound out;
    out.field = s.flight.toElevation;
    out.pressureAltitude = s.day.pressureAltitudeOf(at.height);
    out.air = at.air.temperature;
    out.weight = at.weight;
    out.approach = at.ias;
    const auto climb = flight::speedFor(n, "climb", at.weight);
    out.climb = climb ? climb->speed : at.ias;
    out.approachRpm = at.rpm;
    out.rpm = rating.rpm;
    const engine::KnockBoundary knock(n, a.model(), s.fuelGrade);
    out.boost = engine::permittedBoost(n, rating, s.fuelGrade, {0, out.pressureAltitude, Phase::takeOff, {}}, knock,
                                       {rating.rpm, {}, 0, at.air, at.ias, rating.mixture})
                    .boost;
    out.airColdFirst = !n.engine.gears.empty();
    // Power on one side no faster than a foot holds it.
    out.openedOver = n.trouble.openOver.value_or(Duration::si(3.0)).si() * (dead.empty() ? 1.0 : slowerOnFewer);

    const auto easy = opened(a, s, at, rating, out.boost, 0.0, out.openedOver, dead);
    const auto quick = opened(a, s, at, rating, out.boost, glided, slammed, dead);
    const auto count = static_cast<double>(n.positions.size() - dead.size());
    out.each = Power::si(easy.settled / count);
    out.fullAfter = easy.full;
    out.peak = Rotation::si(easy.peak);
    out.stumbles = easy.backfires || easy.stumble > 0.5;
    out.stumbleSeconds = easy.stumble;
    out.quickFullAfter = quick.full;
    out.quickStumbles = quick.backfires || quick.stumble > 0.3 || quick.full > easy.full + 1.0;
    if (const auto gauge = n.gauges.find(Gauge::rpm); gauge != n.gauges.end())
        if (const auto limit = gauge->second.in(Phase::takeOff).limitHigh)
            out.room = Rotation::si(*limit - easy.peak);

    const double tas = air::trueAirspeed(at.ias, at.air.pressure, at.air.temperature).si();
    const double rho = air::density(at.air.pressure, at.air.temperature);
    const double q = 0.5 * rho * tas * tas, w = at.weight.si() * air::gravity;
    if (!dead.empty()) {
        const auto rest = RestSolver(a, s, dead, DeadBlades::feathered, false).at(at.height, at.weight, at.ias);
        out.deadDrag = Power::si(std::max(0.0, powerplant::Drag::propellerEfficiency * rest.each.si() * count -
                                                   a.drag.force(q, w) * tas - rest.rate.si() * w));
    }
    const double factor = dragDown(n);
    const auto rate = [&](double power, double dirty) {
        powerplant::Drag drag = a.drag;
        drag.area *= dirty;
        return (powerplant::Drag::propellerEfficiency * power - drag.force(q, w) * tas - out.deadDrag.si()) / w;
    };
    out.rateDown = VerticalSpeed::si(rate(easy.settled, factor));
    out.rateUp = VerticalSpeed::si(rate(easy.settled, 1.0));
    out.rateOnWheels = VerticalSpeed::si(rate(easy.settled, dragDown(n, true, false)));

    // What comes of the boost that is set; a lever left as it was.
    engine::Demand d{a.propeller.followsThrottle() ? Rotation::si(easy.peak) : rating.rpm,
                     out.boost,
                     0,
                     at.air,
                     at.ias,
                     Mixture::rich};
    const auto asSet = engine::operate(a.model(), d);
    out.comes = asSet.manifoldPressure;
    out.fullThrottle = out.boost && asSet.fullThrottle;
    const double whole = asSet.power.si();
    const auto left = [&](std::string lever, const engine::Demand& demand, bool planned, std::string why) {
        const auto p = engine::operate(a.model(), demand);
        LeftSo l;
        l.lever = std::move(lever);
        l.power = Power::si(out.each.si() * p.power.si() / std::max(1.0, whole));
        l.rate = VerticalSpeed::si(rate(l.power.si() * count, factor));
        l.planned = planned;
        l.why = std::move(why);
        if (demand.boost)
            l.knocks = knock.permitted(demand) < p.manifoldPressure;
        out.left.push_back(std::move(l));
    };
    const auto& setting = f[Phase::landing].setting;
    if (std::any_of(n.controls.begin(), n.controls.end(),
                    [](const Control& c) { return c.acts == Acts::mixture && c.position("weak"); })) {
        auto weak = d;
        weak.mixture = Mixture::weak;
        left("Mixture weak", weak, standsAt(n, s.choices, Acts::mixture) == "weak" || setting.mixture == Mixture::weak,
             "Weak at full power detonates and burns valves.");
    }
    if (n.engine.suctionCarburettor && hasControl(n, Acts::carburettorAir)) {
        auto hot = d;
        hot.carburettorHeat = powerplant::hotAirRise(n);
        left("Carburettor air hot", hot, out.airColdFirst && standsAt(n, s.choices, Acts::carburettorAir) == "hot",
             out.airColdFirst ? "Hot air under boost brings detonation, and is thin."
                              : "Thin: cold once the power is set.");
    }
    if (!a.propeller.followsThrottle() && n.propeller.control == PropellerControl::constantSpeed) {
        auto slow = d;
        slow.rpm = at.rpm;
        left("Rpm as on the approach", slow, false, "High boost on low rpm detonates: rpm first.");
    }
    if (n.engine.gears.size() > 1) {
        auto high = d;
        high.gear = n.engine.gears.size() - 1;
        left(n.engine.gears.back().name + " gear", high, setting.gear + 1 == n.engine.gears.size(),
             "The blower takes the power that is wanted, and heats the charge.");
    }

    // Height lost: the decision, the power as it comes, the wheels on their way.
    const double wheels = hasControl(n, Acts::wheels) ? n.trouble.wheelsTake.value_or(Duration::si(10.0)).si() : 6.0;
    double height = -at.sink * reacts, lowest = height, dirty = factor;
    out.path = {{0.0, 0.0}, {reacts, height}};
    for (double t = 0.1; t < 60.0; t += 0.1) {
        const auto next =
            std::find_if(easy.powerAt.begin(), easy.powerAt.end(), [&](const auto& p) { return p.first >= t; });
        const double power = next == easy.powerAt.end() ? easy.settled : next->second;
        if (t > easy.full)
            dirty = std::max(1.0, factor - (factor - 1.0) * (t - easy.full) / wheels);
        height += rate(power, dirty) * 0.1;
        lowest = std::min(lowest, height);
        if (t < 30.0)
            out.path.emplace_back(reacts + t, height);
    }
    const bool climbs = out.rateUp.si() > 0.5 && height > lowest;
    if (climbs)
        out.dip = Length::si(-lowest);
    out.notBelowByNotes = n.trouble.roundNotBelow.has_value();
    if (out.notBelowByNotes)
        out.notBelow = *n.trouble.roundNotBelow;
    const double spare = dead.empty() ? clearance : clearanceOnFewer;
    if (climbs && (!out.notBelow || out.notBelow->si() < -lowest + spare)) {
        out.notBelow = Length::si(-lowest + spare);
        out.notBelowByNotes = false;
    }
    out.climbs = watch::unless(climbs, watch::Rule::goRound,
                               climbs ? std::string("The aircraft climbs away with drag up.")
                                      : std::string("It does not climb away here: the landing must come off."));
    const auto bad = std::find_if(out.left.begin(), out.left.end(), [](const LeftSo& l) { return l.planned; });
    out.ready = watch::unless(bad == out.left.end(), watch::Rule::goRoundSetting,
                              bad == out.left.end() ? std::string("The approach leaves the levers ready.")
                                                    : fmt::format("The approach leaves it with {}.", bad->lever));
    out.overspeed = watch::atLeast(watch::Rule::goRoundSetting, out.room ? out.room->si() : 0.0, 0.0,
                                   needleWidth * rating.rpm.si(), [&](bool kept) {
                                       return kept ? std::string("It stays under its rpm limit.")
                                                   : fmt::format("Opened so quickly it overspeeds by {:.0f} rpm.",
                                                                 -out.room->si() * 60);
                                   });
    return out;
}

} // namespace amber::trouble
