// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/on_the_rest.h"
#include "air/airspeed.h"
#include "cockpit/equipment.h"
#include "engine/permitted_boost.h"
#include "flight/cruise.h"
#include <algorithm>
#include <cmath>

namespace amber::trouble {
namespace {
constexpr double rudderShare = 0.05;                    // of the drag, at one outer engine's moment
constexpr powerplant::Milliseconds settlesIn = 45000;   // until the dead propeller has come to rest or speed
constexpr powerplant::Milliseconds settlesAgain = 6000; // from another height or speed
constexpr powerplant::Milliseconds readOver = 2000;     // that the rate is read over
constexpr double coarsest = 0.4;                        // of the rated rpm: a propeller lever all the way back
} // namespace

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

RestSolver::RestSolver(const powerplant::Aircraft& aircraft, const Sortie& sortie, std::vector<std::size_t> dead,
                       DeadBlades blades, bool continuous)
    : RestSolver(aircraft, sortie, dead, std::vector<DeadBlades>(dead.size(), blades), continuous) {}

RestSolver::RestSolver(const powerplant::Aircraft& aircraft, const Sortie& sortie, std::vector<std::size_t> dead,
                       std::vector<DeadBlades> blades, bool continuous)
    : a_(aircraft), s_(sortie), dead_(std::move(dead)), blades_(std::move(blades)),
      rating_(strongest(aircraft.notes, continuous)), plant_(aircraft, sortie.fuelGrade) {}

BestGear bestGear(const powerplant::Aircraft& a, const std::string& grade, const engine::KnockBoundary& knock,
                  const Rating& rating, const air::Ambient& air, Speed ias) {
    const TypeNotes& n = a.notes;
    BestGear best;
    double most = -1.0;
    for (std::size_t g = 0; g < std::max<std::size_t>(1, n.engine.gears.size()); ++g) {
        engine::Demand d{rating.rpm, {}, g, air, ias, rating.mixture};
        d.boost =
            engine::permittedBoost(n, rating, grade, {g, air::pressureAltitude(air.pressure), {}, {}}, knock, d).boost;
        if (const auto p = engine::operate(a.model(), d); p.power.si() > most) {
            most = p.power.si();
            best = {g, d.boost, p};
        }
    }
    return best;
}

BestGear RestSolver::gearAt(const air::Ambient& air, Speed ias) const {
    return bestGear(a_, s_.fuelGrade, plant_.knock(), rating_, air, ias);
}

OnTheRest RestSolver::at(Length height, Mass weight) {
    const auto safe = flight::speedFor(a_.notes, "safe-single", weight);
    const auto climb = flight::speedFor(a_.notes, "climb", weight);
    const Speed slow = safe ? safe->speed : climb->speed;
    OnTheRest best;
    bool any = false;
    for (const double share : {0.0, 0.5, 1.0}) {
        if (any && !(climb->speed.si() > slow.si()))
            break; // the same speed again
        const auto here =
            at(height, weight, Speed::si(slow.si() + share * std::max(0.0, climb->speed.si() - slow.si())));
        if (!any || here.rate > best.rate)
            best = here;
        any = true;
    }
    return best;
}

OnTheRest RestSolver::at(Length height, Mass weight, Speed ias) {
    const TypeNotes& n = a_.notes;
    const auto isDead = [&](std::size_t i) { return std::find(dead_.begin(), dead_.end(), i) != dead_.end(); };
    const auto air = s_.day.at(s_.day.pressureAltitudeOf(height));
    const auto [gear, boost, point] = gearAt(air, ias);
    const bool byRpm = a_.propeller.followsThrottle();
    auto levers = plant_.levers();
    levers.path = {powerplant::Path::Kind::rateHeld, ias.si(), 0.0};
    levers.shared.battery = levers.shared.generators = true;
    for (auto& l : levers.engines) {
        l.throttle = byRpm   ? powerplant::rpmHeld(rating_.rpm.si())
                     : boost ? powerplant::boostHeld(boost->si())
                             : powerplant::throttleAt(1.0);
        if (!byRpm)
            l.rpm = rating_.rpm.si();
        l.coarse = false;
        l.mixture = rating_.mixture;
        l.cutOff = false;
        l.gear = gear;
        l.ignition = powerplant::Ignition::both;
        l.cock = l.booster = true;
        l.coolingFlap = 0.5;
    }
    powerplant::Run run{&s_.day, std::vector<powerplant::Condition>(plant_.count()), false};
    const auto fresh = plant_.standing(s_.day, Temperature::of(90, units::celsius));
    auto state = known_ ? last_ : fresh;
    state.height = height.si();
    state.ias = ias.si();
    const auto around = plant_.around(state, levers, run, 0);
    const auto liveAnew = [&] { // neither one question nor the settling wears them out for the next
        for (std::size_t i = 0; i < plant_.count(); ++i)
            if (!isDead(i))
                state.engines[i] = plant_.engine(i).running(fresh.engines[i], levers.engines[i], around);
    };
    liveAnew();
    for (const std::size_t i : dead_)
        if (!known_)
            state.engines[i] = plant_.engine(i).running(fresh.engines[i], levers.engines[i], around);
    state.tanks = fresh.tanks;
    state.dryMass += weight.si() - plant_.weight(state).si();
    const auto equipment = cockpit::equipmentOf(n);
    for (std::size_t k = 0; k < dead_.size(); ++k) {
        const std::size_t i = dead_[k];
        run.conditions[i].faults.push_back({powerplant::Fault::dead, 1.0, 0});
        auto& l = levers.engines[i];
        l.cutOff = true;
        l.ignition = powerplant::Ignition::off;
        l.throttle = powerplant::throttleAt(0.0);
        if (blades_[k] == DeadBlades::feathered) {
            l.feather = equipment.feathers;
            l.coarse = true;
            if (!byRpm)
                l.rpm = coarsest * rating_.rpm.si();
        }
    }
    // Level until the dead propeller has come to what it does; then free, and the rate is read.
    if (!known_) {
        plant_.steps(state, levers, run, settlesIn);
        liveAnew();
    }
    plant_.steps(state, levers, run, settlesAgain);
    state.dryMass += weight.si() - plant_.weight(state).si(); // what was burnt meanwhile
    last_ = state;
    known_ = true;
    state.height = height.si();
    levers.path = {powerplant::Path::Kind::speedHeld, ias.si(), 0.0};
    const double before = state.height;
    const auto readings = plant_.steps(state, levers, run, readOver);
    double rate = (state.height - before) / (static_cast<double>(readOver) / 1000.0);
    // The rudder's own drag.
    const double tas = air::trueAirspeed(ias, air.pressure, air.temperature).si();
    const double q = 0.5 * air::density(air.pressure, air.temperature) * tas * tas;
    const double w = weight.si() * air::gravity;
    rate -= rudderShare * readings.yaw * readings.yaw * a_.drag.force(q, w) * tas / w;
    double each = 0.0;
    std::size_t live = 0;
    for (std::size_t i = 0; i < plant_.count(); ++i)
        if (!isDead(i)) {
            each += readings.engines[i].propeller;
            ++live;
        }
    each = live > 0 ? each / static_cast<double>(live) : 0.0;
    OnTheRest out;
    out.height = height;
    out.ias = ias;
    out.rate = VerticalSpeed::si(rate);
    out.each = Power::si(each);
    out.yaw = readings.yaw;
    out.rating = rating_.name;
    out.continuous = !rating_.minutes;
    out.minutes = rating_.minutes;
    out.needed = Power::si(
        live > 0 ? each - rate * w / (powerplant::Drag::propellerEfficiency * static_cast<double>(live)) : 0.0);
    return out;
}

OnTheRest onTheRest(const powerplant::Aircraft& a, const Sortie& s, Length height, Mass weight,
                    const std::vector<std::size_t>& dead, DeadBlades blades, bool continuous) {
    return RestSolver(a, s, dead, blades, continuous).at(height, weight);
}

} // namespace amber::trouble
