// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/engine_out.h"
#include "air/airspeed.h"
#include "cockpit/equipment.h"
#include "flight/cruise.h"
#include "notes/lever_words.h"
#include "units/roots.h"
#include "units/text.h"
#include "watch/rating_clock.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace amber::trouble {
namespace {
constexpr double nilRate = 0.0004;     // m/s that the ceiling is sought to: a few feet of height
constexpr double highest = 10000.0;    // m
constexpr double bandDown = 150.0;     // m a step of the drift-down
constexpr double longest = 6 * 3600.0; // s
constexpr double climbing = 0.5;       // m/s, less is holding the height and no more

double trueSpeed(const Sortie& s, Length height, Speed ias) {
    const auto air = s.day.at(s.day.pressureAltitudeOf(height));
    return air::trueAirspeed(ias, air.pressure, air.temperature).si();
}

/// Where the rate is nil, from the ground up; nothing where she sinks there already. Illinois: the rate falls with
/// height but for the steps of the gears.
std::optional<Length> ceilingOf(RestSolver& solver, double ground, Mass weight) {
    double low = ground, atLow = solver.at(Length::si(low), weight).rate.si();
    if (atLow <= 0)
        return std::nullopt;
    // Upwards by steps: a change of gear makes it rise again.
    double high = low, atHigh = atLow;
    while (atHigh > 0 && high < highest) {
        low = high;
        atLow = atHigh;
        high = std::min(highest, high + 1000.0);
        atHigh = solver.at(Length::si(high), weight).rate.si();
    }
    for (int i = 0; i < 20 && atHigh <= 0; ++i) {
        const double next = low + (high - low) * atLow / std::max(1e-9, atLow - atHigh);
        const double rate = solver.at(Length::si(next), weight).rate.si();
        if (std::abs(rate) < nilRate || high - low < 2.0)
            return Length::si(next);
        if (rate > 0) {
            low = next;
            atLow = rate;
            atHigh *= 0.5;
        } else {
            high = next;
            atHigh = rate;
            atLow *= 0.5;
        }
    }
    return Length::si(low);
}

DriftDown driftDown(RestSolver& solver, const Sortie& s, const EngineOut& out, double ground) {
    DriftDown d;
    d.from = d.to = out.moment.height;
    d.holds = out.feathered.rate.si() >= 0;
    const double floor = out.ceiling ? out.ceiling->si() : ground;
    double height = d.from.si();
    d.path.push_back({0.0, 0.0, height});
    while (!d.holds && height > floor + 1.0 && d.seconds < longest) {
        const double band = std::min(bandDown, height - floor);
        const auto here = solver.at(Length::si(height - 0.5 * band), out.moment.weight);
        const double dt = band / std::max(0.02, -here.rate.si());
        d.seconds += dt;
        const double tas = trueSpeed(s, Length::si(height - 0.5 * band), here.ias);
        d.distance += std::sqrt(std::max(0.0, tas * tas - here.rate.si() * here.rate.si())) * dt;
        height -= band;
        d.path.push_back({d.seconds, d.distance, height});
    }
    d.to = Length::si(height);
    return d;
}

/// Fuel flow of one engine giving a power there, kg/s: the boost that does it sought at the rating's rpm and mixture.
double flowFor(const powerplant::Aircraft& a, const RestSolver& solver, const air::Ambient& air, Speed ias,
               double power) {
    const Rating& r = solver.rating();
    engine::Demand d{r.rpm, std::nullopt, solver.gearAt(air, ias).gear, air, ias, r.mixture};
    const auto enough = [&](double boost) {
        d.boost = ManifoldPressure::si(boost);
        return engine::operate(a.model(), d).power.si() >= power;
    };
    d.boost = ManifoldPressure::si(roots::turn(enough, 2e4, 3e5, 30).high);
    return engine::operate(a.model(), d).fuelFlow.si();
}

Reach reachOf(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, RestSolver& solver,
              const EngineOut& out) {
    const TypeNotes& n = a.notes;
    Reach r;
    r.hasCrossfeed =
        std::any_of(n.controls.begin(), n.controls.end(), [](const Control& c) { return c.acts == Acts::crossfeed; });
    const auto lives = [&](const std::string& id) {
        for (std::size_t i = 0; i < n.positions.size(); ++i)
            if (n.positions[i].id == id)
                return std::find(out.dead.begin(), out.dead.end(), i) == out.dead.end();
        return false;
    };
    for (std::size_t i = 0; i < n.fuel.tanks.size() && i < out.moment.tanks.size(); ++i) {
        const Tank& tank = n.fuel.tanks[i];
        const double held = out.moment.tanks[i];
        if (tank.feeds.empty() || std::any_of(tank.feeds.begin(), tank.feeds.end(), lives))
            r.fed += held;
        else
            (r.hasCrossfeed ? r.crossfeed : r.stuck) += held;
    }
    r.height = out.driftDown.to;
    if (!out.anyLeft)
        return r;
    const auto there = out.driftDown.holds ? out.feathered : solver.at(r.height, out.moment.weight);
    r.each = Power::si(std::min(there.needed.si(), there.each.si()));
    const auto air = s.day.at(s.day.pressureAltitudeOf(r.height));
    const double live = static_cast<double>(n.positions.size() - out.dead.size());
    r.burn = live * flowFor(a, solver, air, there.ias, r.each.si()) / f.fuelDensity;
    if (r.burn > 0 && (out.ceiling || out.driftDown.holds)) {
        r.seconds = (r.fed + r.crossfeed) / r.burn;
        r.distance = r.seconds * trueSpeed(s, r.height, there.ias);
    }
    return r;
}

Lost lostWith(const TypeNotes& n, const std::vector<std::size_t>& dead) {
    Lost out;
    const auto isDead = [&](std::size_t i) { return std::find(dead.begin(), dead.end(), i) != dead.end(); };
    const auto put = [](std::vector<std::string>& into, const std::string& what) {
        if (std::find(into.begin(), into.end(), what) == into.end())
            into.push_back(what);
    };
    bool generator = false, generatorLeft = false;
    for (std::size_t i = 0; i < n.positions.size(); ++i) {
        generator = generator || n.positions[i].generator;
        generatorLeft = generatorLeft || (n.positions[i].generator && !isDead(i));
        for (const auto& what : n.positions[i].accessories) {
            if (!isDead(i))
                continue;
            bool elsewhere = false;
            for (std::size_t j = 0; j < n.positions.size(); ++j)
                elsewhere = elsewhere || (!isDead(j) && std::find(n.positions[j].accessories.begin(),
                                                                  n.positions[j].accessories.end(),
                                                                  what) != n.positions[j].accessories.end());
            put(elsewhere ? out.weaker : out.services, what);
        }
    }
    if (generator && !generatorLeft)
        out.batterySeconds = 0.0; // filled in from the powerplant
    return out;
}
} // namespace

RateCurves rateCurves(const powerplant::Aircraft& a, const Sortie& s, const EngineOut& out) {
    RateCurves curves;
    constexpr int points = 11;
    const double low = out.moment.height.si() - out.moment.aboveField.si();
    const double high = std::min(
        highest, std::max({low + 1500.0, out.moment.height.si(), out.ceiling.value_or(Length{}).si()}) + 500.0);
    const auto draw = [&](DeadBlades blades, bool continuous) {
        RestSolver solver(a, s, out.dead, blades, continuous);
        std::vector<std::pair<double, double>> line;
        // The heights where the rate is nil are among them: the line goes through what is told.
        std::vector<double> heights;
        for (int i = 0; i < points; ++i)
            heights.push_back(low + (high - low) * i / (points - 1));
        for (const auto& nil : {out.ceiling, out.ceilingWindmilling})
            if (nil && nil->si() < high)
                heights.push_back(nil->si());
        std::sort(heights.begin(), heights.end());
        for (const double height : heights) {
            line.emplace_back(height, solver.at(Length::si(height), out.moment.weight).rate.si());
        }
        return line;
    };
    curves.feathered = draw(DeadBlades::feathered, true);
    if (out.feathered.rate != out.windmilling.rate)
        curves.windmilling = draw(DeadBlades::windmilling, true);
    if (out.limited.rating != out.feathered.rating)
        curves.limited = draw(DeadBlades::feathered, false);
    return curves;
}

OnTheRest wrongFeathered(const powerplant::Aircraft& a, const Sortie& s, const Moment& m, std::size_t dead,
                         std::size_t feathered) {
    return RestSolver(a, s, {dead, feathered}, {DeadBlades::windmilling, DeadBlades::feathered}, true)
        .at(m.height, m.weight);
}

Glide glideFrom(const powerplant::Aircraft& a, const Sortie& s, const Moment& m) {
    const TypeNotes& n = a.notes;
    std::vector<std::size_t> all;
    for (std::size_t i = 0; i < n.positions.size(); ++i)
        all.push_back(i);
    RestSolver solver(a, s, all, DeadBlades::feathered, true);
    const double down = m.aboveField.si();
    const Length middle = Length::si(m.height.si() - 0.5 * down);
    Glide best;
    const auto ratioAt = [&](Speed ias) {
        const auto here = solver.at(middle, m.weight, ias);
        const double tas = trueSpeed(s, middle, ias);
        const double sink = std::max(0.1, -here.rate.si());
        Glide g;
        g.ias = ias;
        g.sink = VerticalSpeed::si(sink);
        g.ratio = std::sqrt(std::max(0.0, tas * tas - sink * sink)) / sink;
        return g;
    };
    if (n.trouble.glideIas) {
        best = ratioAt(*n.trouble.glideIas);
        best.byNotes = true;
    } else {
        // Not slower than the approach: it is flown to the ground.
        const auto approach = flight::speedFor(n, "approach", m.weight);
        const double from = approach ? approach->speed.si() : 35.0;
        for (int i = 0; i <= 10; ++i)
            if (const auto g = ratioAt(Speed::si(from * (1.0 + 0.06 * i))); g.ratio > best.ratio)
                best = g;
    }
    if (n.trouble.glideRatio) {
        best.modelRatio = best.ratio;
        best.ratio = *n.trouble.glideRatio;
        best.byNotes = true;
    }
    best.distance = down * best.ratio;
    const double tas = trueSpeed(s, middle, best.ias);
    best.seconds = tas > 0 ? std::hypot(best.distance, down) / tas : 0.0;
    return best;
}

EngineOut engineOut(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, double time,
                    const std::vector<std::size_t>& dead) {
    const TypeNotes& n = a.notes;
    EngineOut out;
    out.moment = momentAt(n, s, f, time);
    const Moment& m = out.moment;
    out.dead = dead;
    out.feathers = cockpit::equipmentOf(n).feathers;
    out.anyLeft = dead.size() < n.positions.size();
    for (const std::size_t i : dead)
        out.names.push_back(n.positions[i].name);
    out.lost = lostWith(n, dead);
    if (out.lost.batterySeconds) {
        // What the aircraft draws in flight, out of a full battery down to a fifth.
        const powerplant::Powerplant plant(a, s.fuelGrade);
        auto state = plant.standing(s.day, Temperature::of(90, units::celsius));
        auto levers = plant.levers();
        levers.shared = {true, false, false};
        powerplant::AircraftReadings r;
        r = plant.step(state, levers, {&s.day, {}, false}, powerplant::Milliseconds{100});
        const double draw = std::max(1.0, r.load);
        out.lost.batterySeconds = 0.8 * plant.batteryCapacity() * 3600.0 / draw;
    }
    out.live = liveSetting(a, s, f, m, strongest(n, true));
    out.limitedLive = liveSetting(a, s, f, m, strongest(n, false));
    RestSolver turning(a, s, dead, DeadBlades::windmilling, true), standing(a, s, dead, DeadBlades::feathered, true);
    out.windmilling = turning.at(m.height, m.weight);
    out.feathered = standing.at(m.height, m.weight);
    if (out.feathered.rate < out.windmilling.rate) // nothing the propeller can do helps here
        out.feathered = out.windmilling;
    out.limited = RestSolver(a, s, dead, DeadBlades::feathered, false).at(m.height, m.weight);
    if (out.feathers && out.anyLeft && dead.size() == 1)
        out.wrong = wrongFeathered(a, s, m, dead.front(), dead.front() == 0 ? 1 : 0);
    out.margin = Speed::si(m.ias.si() - out.live.safe.si());
    const double field = m.height.si() - m.aboveField.si();
    const double ground = std::min(m.height.si(), std::max(field, 0.0));
    if (out.anyLeft) {
        out.ceiling = ceilingOf(standing, ground, m.weight);
        out.ceilingWindmilling = ceilingOf(turning, ground, m.weight);
    }
    out.driftDown = driftDown(standing, s, out, ground);
    if (!out.anyLeft)
        out.glide = glideFrom(a, s, m);
    out.reach = reachOf(a, s, f, standing, out);

    const UnitSpec& h = *n.cockpit.height;
    const bool holds = out.feathered.rate.si() >= 0;
    const auto ceiling = [&] { return formatHeight(out.ceiling->si(), h); };
    out.verdict = watch::unless(
        holds, watch::Rule::climbAway,
        !out.anyLeft ? std::string("No engine is left: glide.")
        : holds && out.feathered.rate.si() >= climbing && out.ceiling
            ? fmt::format("The aircraft climbs on the remaining engines, to {}.", ceiling())
        : holds       ? std::string("The aircraft maintains height on the remaining engines, no more.")
        : out.ceiling ? fmt::format("The aircraft cannot maintain this height: drift-down to {}.", ceiling())
                      : std::string("On the remaining engines the aircraft cannot maintain height."));
    const auto& settles = out.live.settles;
    out.cooling =
        watch::unless(out.live.flapEnough || !out.anyLeft, watch::Rule::coolingSettles,
                      out.live.flapEnough ? std::string("Cooled at that opening.")
                                          : fmt::format("Fully open it settles at {}: more speed, less power.",
                                                        format(settles.si(), *n.cockpit.temperature)));
    const bool asks = m.flying && m.ias.si() > 0 && n.positions.size() > 1;
    out.speed = watch::atLeast(watch::Rule::belowSafeSpeed, asks ? out.margin.si() : 0.0, 0.0, 0.0, [&](bool kept) {
        return kept ? std::string("At or over the safe speed.")
                    : fmt::format("{} under the safe speed: throttles back as needed, land ahead.",
                                  format(-out.margin.si(), *n.cockpit.speed));
    });
    const LiveSetting& limited = out.limitedLive;
    out.rating = watch::minutesLeft(limited.left ? limited.left->si() : std::numeric_limits<double>::infinity(),
                                    limited.rating ? limited.rating->name : std::string{});
    return out;
}

} // namespace amber::trouble
