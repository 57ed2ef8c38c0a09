// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/engine_out.h"
#include "air/airspeed.h"
#include "engine/fuel_grade.h"
#include "flight/cruise.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::advice {
namespace {
constexpr double rudderShare = 0.05;                  // of the drag, at one outer engine's moment
constexpr powerplant::Milliseconds settlesIn = 45000; // until the dead propeller has come to rest or speed
constexpr powerplant::Milliseconds readOver = 2000;   // that the rate is read over
constexpr double nilRate = 0.5;                       // m/s, a service ceiling's
constexpr double bandDown = 150.0;                    // m a step of the drift-down

/// The rating that gives most among those that may be held, or among all.
const Rating& strongest(const TypeNotes& n, bool continuous) {
    const Rating* best = nullptr;
    const auto more = [](const Rating& a, const Rating& b) {
        const double x = a.boost ? a.boost->si() : 0.0, y = b.boost ? b.boost->si() : 0.0;
        return x * a.rpm.si() > y * b.rpm.si() || (x == y && a.rpm > b.rpm);
    };
    for (const auto& r : n.ratings)
        if ((!continuous || !r.minutes) && !r.water && (!best || more(r, *best)))
            best = &r;
    return best ? *best : n.ratings.front();
}

bool canFeather(const TypeNotes& n) {
    return n.propeller.kind.find("feather") != std::string::npos;
}
} // namespace

OnTheRest onTheRest(const powerplant::Aircraft& a, const Sortie& s, Length height, Mass weight,
                    const std::vector<std::size_t>& dead, DeadBlades blades, bool continuous) {
    const TypeNotes& n = a.notes;
    const Rating& rating = strongest(n, continuous);
    const auto isDead = [&](std::size_t i) { return std::find(dead.begin(), dead.end(), i) != dead.end(); };
    const powerplant::Powerplant plant(a, s.fuelGrade);
    const auto air = s.day.at(s.day.pressureAltitudeOf(height));
    const auto safe = flight::speedFor(n, "safe-single", weight);
    const auto climb = flight::speedFor(n, "climb", weight);
    const Speed slow = safe ? safe->speed : climb->speed;
    OnTheRest best;
    bool any = false;
    for (const double share : {0.0, 0.5, 1.0}) {
        const Speed ias = Speed::si(slow.si() + share * std::max(0.0, climb->speed.si() - slow.si()));
        // The gear that gives most here.
        engine::Demand d{rating.rpm, engine::permittedBoost(n, rating, s.fuelGrade).boost, 0, air, ias, rating.mixture};
        std::size_t gear = 0;
        double most = -1.0;
        for (std::size_t g = 0; g < std::max<std::size_t>(1, n.engine.gears.size()); ++g) {
            d.gear = g;
            if (const double p = engine::operate(a.model(), d).power.si(); p > most) {
                most = p;
                gear = g;
            }
        }
        auto state = plant.standing(s.day, Temperature::of(90, units::celsius));
        state.height = height.si();
        state.ias = ias.si();
        state.dryMass += weight.si() - plant.weight(state).si();
        auto levers = plant.levers();
        levers.path = {powerplant::Path::Kind::rateHeld, ias.si(), 0.0};
        levers.shared.battery = levers.shared.generators = true;
        std::vector<powerplant::Condition> conditions(plant.count());
        for (std::size_t i = 0; i < plant.count(); ++i) {
            auto& l = levers.engines[i];
            l.throttle = d.boost && !a.propeller.followsThrottle() ? powerplant::boostHeld(d.boost->si())
                         : a.propeller.followsThrottle()           ? powerplant::rpmHeld(rating.rpm.si())
                                                                   : powerplant::throttleAt(1.0);
            if (!a.propeller.followsThrottle())
                l.rpm = rating.rpm.si();
            l.mixture = rating.mixture;
            l.cutOff = false;
            l.gear = gear;
            l.ignition = powerplant::Ignition::both;
            l.cock = l.booster = true;
            l.coolingFlap = 0.5;
        }
        const powerplant::Run run{&s.day, conditions, false};
        const auto around = plant.around(state, levers, run, 0);
        for (std::size_t i = 0; i < plant.count(); ++i)
            state.engines[i] = plant.engine(i).running(state.engines[i], levers.engines[i], around);
        powerplant::Run failed = run;
        for (const std::size_t i : dead) {
            failed.conditions[i].faults.push_back({powerplant::Fault::dead, 1.0, 0});
            auto& l = levers.engines[i];
            l.cutOff = true;
            l.ignition = powerplant::Ignition::off;
            l.throttle = powerplant::throttleAt(0.0);
            l.feather = blades == DeadBlades::feathered && canFeather(n);
        }
        // Level until the dead propeller has come to what it does; then free, and the rate is read.
        plant.steps(state, levers, failed, settlesIn);
        state.height = height.si();
        levers.path = {powerplant::Path::Kind::speedHeld, ias.si(), 0.0};
        const double before = state.height;
        const auto readings = plant.steps(state, levers, failed, readOver);
        double rate = (state.height - before) / (static_cast<double>(readOver) / 1000.0);
        // The rudder's own drag.
        const double tas = air::trueAirspeed(ias, air.pressure, air.temperature).si();
        const double q = 0.5 * air::density(air.pressure, air.temperature) * tas * tas;
        const double w = weight.si() * air::gravity;
        rate -= rudderShare * readings.yaw * readings.yaw * a.drag.force(q, w) * tas / w;
        double each = 0.0;
        std::size_t live = 0;
        for (std::size_t i = 0; i < plant.count(); ++i)
            if (!isDead(i)) {
                each += readings.engines[i].propeller;
                ++live;
            }
        each = live > 0 ? each / static_cast<double>(live) : 0.0;
        if (any && rate <= best.rate.si())
            continue;
        any = true;
        best = {height, ias,         VerticalSpeed::si(rate), Power::si(each),
                {},     rating.name, !rating.minutes,         rating.minutes};
        best.needed = Power::si(
            live > 0 ? each - rate * w / (powerplant::Drag::propellerEfficiency * static_cast<double>(live)) : 0.0);
    }
    return best;
}

EngineOut engineOut(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, double time,
                    const std::vector<std::size_t>& dead) {
    const TypeNotes& n = a.notes;
    const auto moment = flight::sampleAt(f.samples, time);
    EngineOut out;
    out.time = time;
    out.height = Length::si(std::max(moment[Gauge::height], s.day.elevation.si() + 15.0));
    out.weight = Mass::si(moment[Gauge::weight]);
    out.feathers = canFeather(n);
    for (const std::size_t i : dead) {
        out.dead.push_back(n.positions[i].name);
        for (const auto& accessory : n.positions[i].accessories) {
            const bool elsewhere = std::any_of(n.positions.begin(), n.positions.end(), [&](const Position& p) {
                const auto which = static_cast<std::size_t>(&p - n.positions.data());
                return std::find(dead.begin(), dead.end(), which) == dead.end() &&
                       std::find(p.accessories.begin(), p.accessories.end(), accessory) != p.accessories.end();
            });
            if (!elsewhere && std::find(out.lost.begin(), out.lost.end(), accessory) == out.lost.end())
                out.lost.push_back(accessory);
        }
    }
    const auto blades = out.feathers ? DeadBlades::feathered : DeadBlades::windmilling;
    const auto at = [&](double height, DeadBlades how, bool continuous) {
        return onTheRest(a, s, Length::si(height), out.weight, dead, how, continuous);
    };
    out.windmilling = at(out.height.si(), DeadBlades::windmilling, true);
    out.feathered = out.feathers ? at(out.height.si(), DeadBlades::feathered, true) : out.windmilling;
    out.limited = at(out.height.si(), blades, false);
    for (const char* id : {"safe-single", "climb"})
        if (const auto v = flight::speedFor(n, id, out.weight))
            for (const auto& entry : n.speeds.entries)
                if (entry.id == id)
                    out.speeds.emplace_back(entry.name, v->speed);
    // The ceiling: where the rate is nil. It falls with height but for the steps of the gears: from above.
    const double ground = std::max(s.day.elevation.si(), 0.0);
    const auto rate = [&](double height) { return at(height, blades, true).rate.si(); };
    if (dead.size() < n.positions.size()) {
        double low = ground, high = 10000.0;
        if (rate(low) > 0) {
            for (int i = 0; i < 11; ++i) { // to 5 m
                const double middle = 0.5 * (low + high);
                (rate(middle) > 0 ? low : high) = middle;
            }
            out.ceiling = Length::si(low);
        }
    }
    out.driftDown.from = out.height;
    out.driftDown.holds = out.feathered.rate.si() >= 0;
    out.driftDown.to = out.height;
    const double floor = out.ceiling ? out.ceiling->si() : ground;
    double height = out.height.si();
    while (!out.driftDown.holds && height > floor + 1.0 && out.driftDown.seconds < 3 * 3600.0) {
        const double band = std::min(bandDown, height - floor);
        const auto here = at(height - 0.5 * band, blades, true);
        const double sink = std::max(0.1, -here.rate.si());
        const auto air = s.day.at(s.day.pressureAltitudeOf(Length::si(height)));
        const double dt = band / sink;
        out.driftDown.seconds += dt;
        out.driftDown.distance += air::trueAirspeed(here.ias, air.pressure, air.temperature).si() * dt;
        height -= band;
    }
    out.driftDown.to = Length::si(height);
    const UnitSpec& h = *n.cockpit.height;
    const bool climbs = out.feathered.rate.si() >= nilRate;
    out.verdict = watch::unless(
        out.feathered.rate.si() >= 0, watch::Rule::climbAway,
        climbs
            ? fmt::format("She climbs on the rest, to {}.", formatHeight(out.ceiling ? out.ceiling->si() : height, h))
        : out.feathered.rate.si() >= 0 ? std::string("She holds the height on the rest and no more.")
        : out.ceiling
            ? fmt::format("She does not hold this height: she drifts down to {}.", formatHeight(out.ceiling->si(), h))
            : std::string("On the engines that are left she comes down."));
    return out;
}

} // namespace amber::advice
