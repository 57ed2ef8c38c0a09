// SPDX-License-Identifier: GPL-3.0-or-later
#include "hand/hands.h"
#include "cockpit/controls.h"
#include "drills/state.h"
#include "start/cranking.h"
#include <algorithm>
#include <cmath>

namespace amber::hand {
namespace {
using powerplant::AircraftState;
using powerplant::EngineLevers;
using powerplant::Milliseconds;
using powerplant::shortStep;
using powerplant::Throttle;

constexpr double coarsestGoverned = 10.0; // rev/s that a lever at full coarse asks for

Milliseconds inSteps(double seconds) {
    return static_cast<Milliseconds>(std::llround(seconds * 1000.0 / static_cast<double>(shortStep))) * shortStep;
}
bool isOn(const std::string& is) {
    return is == "on" || is == "connected" || is == "open" || is == "in" || is == "unlocked";
}
} // namespace

Hands::Hands(const powerplant::Powerplant& plant, double thinning) : plant_(&plant), levers_(plant.levers()) {
    for (auto& l : levers_.engines)
        l.thinning = thinning;
    const TypeNotes& n = plant.aircraft().notes;
    const cockpit::State found(n);
    AircraftState nothing;
    nothing.engines.resize(plant.count());
    for (std::size_t c = 0; c < n.controls.size(); ++c)
        for (std::size_t e = 0; e < plant.count(); ++e) {
            advice::Figure at;
            at.position = found.of(c, e).target.word;
            at_.push_back({at.position, {}, {}});
            if (n.controls[c].acts != Acts::primer)
                move(n.controls[c], at, e, 0.0, nothing);
        }
}

std::vector<Put> Hands::put(std::size_t control, const advice::Figure& to, std::size_t engine, double over,
                            const AircraftState& state) {
    std::vector<Put> out;
    const auto& all = plant_->aircraft().notes.controls;
    const auto one = [&](std::size_t c, const advice::Figure& figure, bool linked) {
        move(all[c], figure, engine, over, state);
        if (all[c].acts != Acts::primer || !figure.position.empty()) // strokes leave a primer where it is
            at_[c * plant_->count() + engine] = {figure.position, figure.share, figure.si};
        out.push_back({state.now, c, engine, figure, over, linked});
    };
    one(control, to, false);
    for (const auto& [follower, is] : cockpit::followers(all, all[control], to.position)) {
        advice::Figure there;
        there.position = is;
        one(static_cast<std::size_t>(follower - all.data()), there, true);
    }
    return out;
}

std::vector<Put> Hands::put(Acts on, const std::string& position, std::size_t engine, const AircraftState& state) {
    const auto& all = plant_->aircraft().notes.controls;
    if (const Control* control = cockpit::acting(all, on)) {
        advice::Figure to;
        to.position = position;
        return put(static_cast<std::size_t>(control - all.data()), to, engine, 0.0, state);
    }
    return {};
}

void Hands::advance(Milliseconds now) {
    for (const auto& r : ramps_) {
        const double x = std::clamp(
            static_cast<double>(now - r.begin) / static_cast<double>(std::max(shortStep, r.end - r.begin)), 0.0, 1.0);
        const double value = r.from + (r.to - r.from) * x;
        if (r.throttle)
            levers_.engines[r.engine].throttle.value = value;
        else
            levers_.engines[r.engine].rpm = value;
    }
    std::erase_if(ramps_, [&](const Ramp& r) { return now >= r.end; });
    for (const auto& s : strokes_)
        if (now >= s.end)
            levers_.engines[s.engine].primer = 0.0;
    std::erase_if(strokes_, [&](const Strokes& s) { return now >= s.end; });
    for (const auto& s : strokes_)
        if (now >= s.begin)
            levers_.engines[s.engine].primer = s.rate;
}

void Hands::move(const Control& c, const advice::Figure& to, std::size_t e, double over, const AircraftState& state) {
    const TypeNotes& n = plant_->aircraft().notes;
    EngineLevers& l = levers_.engines[e];
    const std::string& is = to.position;
    const bool on = isOn(is);
    switch (c.acts) {
    case Acts::throttle:
        throttle(to, e, over, state);
        break;
    case Acts::propeller:
        l.coarse = is == "coarse";
        if (n.propeller.control == PropellerControl::constantSpeed)
            ramp(e, false, l.rpm,
                 is == "fine"     ? governed().second
                 : is == "coarse" ? coarsestGoverned
                                  : to.si.value_or(l.rpm),
                 over, state.now);
        break;
    case Acts::mixture:
        l.cutOff = is == "cut-off";
        if (!l.cutOff)
            l.mixture = is == "weak" ? Mixture::weak : Mixture::rich;
        break;
    case Acts::cutOut:
        l.cutOff = is == "pulled";
        break;
    case Acts::gear:
        if (const auto gear = n.gearIndex(is))
            l.gear = *gear;
        break;
    case Acts::turbo:
        l.turbo = is == "off" ? 0.0 : 1.0;
        break;
    case Acts::coolingFlap:
        l.coolingFlap = to.share ? *to.share : is == "shut" ? 0.0 : 1.0;
        break;
    case Acts::oilCooler:
        l.oilCooler = is == "shut" ? powerplant::blankedCooler : 1.0;
        break;
    case Acts::intercooler:
        l.intercooler = on ? 1.0 : 0.0;
        break;
    case Acts::carburettorAir:
        l.hotAir = to.share ? *to.share : is == "hot" ? 1.0 : 0.0;
        break;
    case Acts::water:
        l.water = on;
        break;
    case Acts::primer: // strokes go in while the hand is on it
        if (to.si && *to.si > 0) {
            Milliseconds begin = state.now; // a stroke waits for the one before it
            for (const auto& s : strokes_)
                if (s.engine == e)
                    begin = std::max(begin, s.end);
            strokes_.push_back({e, begin, begin + inSteps(*to.si), to.doses / *to.si});
            if (begin == state.now)
                l.primer = strokes_.back().rate;
        }
        break;
    case Acts::pump:
        l.booster = on;
        break;
    case Acts::fuel:
        l.cock = is != "off";
        for (std::size_t t = 0; t < n.fuel.tanks.size(); ++t)
            if (n.fuel.tanks[t].id == is)
                l.tank = static_cast<int>(t);
        break;
    case Acts::ignition:
        l.ignition = is == "both"    ? powerplant::Ignition::both
                     : is == "left"  ? powerplant::Ignition::left
                     : is == "right" ? powerplant::Ignition::right
                                     : powerplant::Ignition::off;
        break;
    case Acts::starter:
        (n.start.starter.kind == StarterKind::inertia ? l.energise : l.mesh) = on;
        break;
    case Acts::mesh:
    case Acts::airValve:
        l.mesh = on;
        break;
    case Acts::boosterCoil:
        l.boosterCoil = on;
        break;
    case Acts::spark:
        l.advanced = is == "advanced";
        break;
    case Acts::generator:
        levers_.shared.generators = on;
        break;
    case Acts::battery:
        levers_.shared.battery = on;
        break;
    case Acts::cart:
        levers_.shared.cart = on;
        break;
    case Acts::feathering:
        l.feather = is == "feathered";
        break;
    case Acts::dilution:
        if (on)
            l.thinning = n.start.cold.dilutedViscosity;
        break;
    default:
        break; // the engine does not feel it
    }
}

std::pair<double, double> Hands::governed() const {
    const auto& ratings = plant_->aircraft().notes.ratings;
    const double finest = ratings.empty()
                              ? 100.0
                              : std::max_element(ratings.begin(), ratings.end(), [](const Rating& x, const Rating& y) {
                                    return x.rpm < y.rpm;
                                })->rpm.si();
    return {coarsestGoverned, finest};
}

void Hands::throttle(const advice::Figure& to, std::size_t e, double over, const AircraftState& state) {
    const auto by = !to.position.empty() || to.share      ? Throttle::By::place
                    : to.dimension == Dimension::rotation ? Throttle::By::rpm
                                                          : Throttle::By::boost;
    const double value = to.share                   ? *to.share
                         : to.position == "open"    ? 1.0
                         : to.position == "cracked" ? start::crackedThrottle
                         : to.position == "closed"  ? 0.0
                                                    : to.si.value_or(0.0);
    double from = value;
    if (over > 0) {
        const auto& engine = state.engines[e];
        from = by == Throttle::By::boost ? engine.manifold
               : by == Throttle::By::rpm ? engine.n
                                         : plant_->engine(e).throttlePlace(engine.throttle);
    }
    levers_.engines[e].throttle = {by, from};
    ramp(e, true, from, value, over, state.now);
}

void Hands::ramp(std::size_t e, bool throttle, double from, double to, double over, Milliseconds now) {
    std::erase_if(ramps_, [&](const Ramp& r) { return r.engine == e && r.throttle == throttle; });
    if (over <= 0) {
        (throttle ? levers_.engines[e].throttle.value : levers_.engines[e].rpm) = to;
        return;
    }
    ramps_.push_back({e, from, to, now, now + inSteps(over), throttle});
}

} // namespace amber::hand
