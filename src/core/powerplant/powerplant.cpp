// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/powerplant.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include <algorithm>
#include <boost/container/small_vector.hpp>
#include <cmath>

namespace amber::powerplant {
namespace {
const Condition sound{};
constexpr double sameWarmth = 0.01;   // K
constexpr double slowingPays = 6.5;   // m/s of sink: the fleet's planned ways down fall short by up to six
constexpr double windmillShare = 0.5; // of the work that drag does on a windmilling propeller, what turns the engine:
                                      // an estimate, the rest is lost at its blades
constexpr Temperature driest = Temperature::si(180.0); // nothing freezes out of such air
} // namespace

Powerplant::Powerplant(const Aircraft& aircraft, const std::string& grade)
    : aircraft_(&aircraft), knock_(aircraft.notes, aircraft.model(), grade) {
    const TypeNotes& n = aircraft.notes;
    const auto kind = n.start.starter.kind;
    const bool generators =
        std::any_of(n.positions.begin(), n.positions.end(), [](const Position& p) { return p.generator; });
    electric_ = generators || kind == StarterKind::direct || kind == StarterKind::inertia;
    for (const auto& position : n.positions)
        engines_.emplace_back(aircraft, knock_, position.generator, position.hydraulics);
    capacity_ = electric_ ? n.start.battery.ampereHours : 0.0;
    nominalVolts_ = n.start.battery.volts;
    resistance_ = std::max(1e-3, n.start.battery.resistance);
    generatorAmperes_ = 1200.0 / std::max(6.0, nominalVolts_); // of the usual size
    ratedPower_ = std::max(1.0, engine::ratedPower(n).si());
}

AircraftState Powerplant::standing(const air::Day& day, Temperature engines) const {
    AircraftState s;
    for (const auto& e : engines_)
        s.engines.push_back(e.standing(engines, engines));
    s.fuelDensity = aircraft_->notes.fuel.densityAt(day.oat);
    for (const auto& tank : aircraft_->notes.fuel.tanks)
        s.tanks.push_back(tank.usable.si());
    s.charge = 0.9 * capacity_;
    s.volts = electric_ ? nominalVolts_ : 0.0;
    s.airBottle = aircraft_->notes.start.starter.airBottle.si();
    s.cartridges = aircraft_->notes.start.starter.cartridges;
    s.height = day.elevation.si();
    s.dryMass = aircraft_->notes.emptyWeight.si();
    return s;
}

Levers Powerplant::levers() const {
    Levers l;
    l.engines.resize(engines_.size());
    return l;
}

Mass Powerplant::weight(const AircraftState& s) const {
    double fuel = 0.0;
    for (const double t : s.tanks)
        fuel += t;
    return Mass::si(s.dryMass + fuel * s.fuelDensity);
}

double Powerplant::arm(std::size_t engine) const {
    return 1.2 * (static_cast<double>(engine) - 0.5 * (static_cast<double>(engines_.size()) - 1.0));
}

Surroundings Powerplant::around(const AircraftState& s, const Levers& l, const Run& run, std::size_t engine) const {
    Surroundings a;
    a.air = run.day->at(run.day->pressureAltitudeOf(Length::si(s.height)));
    a.dewPoint = run.ice ? run.day->dewPointAt(Length::si(s.height), a.air.temperature) : driest;
    a.ias = Speed::si(s.ias);
    a.volts = s.volts;
    a.cart = l.shared.cart;
    a.airBottle = s.airBottle;
    a.cartridges = s.cartridges;
    a.now = s.now;
    a.fuelDensity = s.fuelDensity;
    const int tank = l.engines[engine].tank;
    a.fuelAtTank =
        tank >= 0 && static_cast<std::size_t>(tank) < s.tanks.size() && s.tanks[static_cast<std::size_t>(tank)] > 1e-9;
    return a;
}

void Powerplant::drawFuel(AircraftState& s, const Levers& l, std::size_t engine, double before) const {
    const int tank = l.engines[engine].tank;
    EngineState& e = s.engines[engine];
    const double drawn = (e.taken - before) / s.fuelDensity;
    if (drawn <= 0 || tank < 0 || static_cast<std::size_t>(tank) >= s.tanks.size())
        return;
    double& held = s.tanks[static_cast<std::size_t>(tank)];
    const double missing = std::max(0.0, drawn - held) * s.fuelDensity;
    held = std::max(0.0, held - drawn);
    // What the tank no longer had did not come.
    const double back = std::min(missing, e.bowl);
    e.bowl -= back;
    e.taken -= missing;
    e.burnt -= missing - back;
}

double Powerplant::restingVolts(double charge) const {
    return charge > 0 ? nominalVolts_ * (0.95 + 0.10 * charge / capacity_) : 0.0;
}

double Powerplant::loadedVolts(double charge, double amperes) const {
    const double e = restingVolts(charge);
    return electric_ ? std::max(0.0, e - std::min(amperes, e / (2.0 * resistance_)) * resistance_) : 0.0;
}

void Powerplant::electrics(AircraftState& s, const Levers& l, AircraftReadings& out, double seconds) const {
    if (!electric_) {
        s.volts = 0.0;
        return;
    }
    double load = l.shared.battery || l.shared.cart ? 10.0 : 0.0, can = 0.0;
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        load += out.engines[i].starterAmperes + out.engines[i].feathering + (l.engines[i].booster ? 6.0 : 0.0) +
                (l.engines[i].boosterCoil ? 4.0 : 0.0);
        can += l.shared.generators ? out.engines[i].generated * generatorAmperes_ : 0.0;
    }
    const double soc = s.charge / capacity_, held = 1.19 * nominalVolts_;
    const double e = restingVolts(s.charge);
    out.load = load;
    if (l.shared.cart) {
        s.volts = 1.1 * nominalVolts_;
        return;
    }
    if (!l.shared.battery) {
        out.generated = std::min(can, load);
        s.volts = can >= load && can > 0 ? held : 0.0;
        out.amperes = 0.0;
        return;
    }
    // Charging tapers off over the last tenth.
    const double takes = std::min((held - e) / resistance_, 0.6 * capacity_) * std::clamp((1.0 - soc) / 0.1, 0.0, 1.0);
    double current = std::min(can - load, takes);
    if (current < 0)
        current = std::max(current, -e / (2.0 * resistance_));
    out.generated = std::min(can, load + std::max(0.0, current));
    out.amperes = current;
    s.volts = current >= takes - 1e-9 && can > load ? held : std::max(0.0, e + current * resistance_);
    s.charge = std::clamp(s.charge + current * seconds / 3600.0, 0.0, capacity_);
}

void Powerplant::fly(AircraftState& s, const Levers& l, const Run& run, const AircraftReadings& out, double dt,
                     bool settled) const {
    const Path& path = l.path;
    // Over a stride whose heights are known beforehand the air half-way stands for all of it.
    const double halfWay = settled && path.kind == Path::Kind::rateHeld ? 0.5 * path.rate * dt : 0.0;
    const air::Ambient air = run.day->at(run.day->pressureAltitudeOf(Length::si(s.height + halfWay)));
    const double rho = air::density(air.pressure, air.temperature);
    // What the propellers take becomes thrust; what drives one is lost with the blades' own drag.
    double useful = 0.0, standing = 0.0;
    for (const auto& e : out.engines) {
        useful += e.propeller >= 0 || settled ? Drag::propellerEfficiency * e.propeller : e.propeller / windmillShare;
        standing += e.standingDrag;
    }
    const Mass mass = weight(s);
    const double w = mass.si() * air::gravity;
    const auto drag = [&](double v) {
        const double q = 0.5 * rho * v * v;
        return aircraft_->drag.force(std::max(q, 1.0), w) + q * standing;
    };
    double v = 0.0;
    s.rate = 0.0;
    switch (path.kind) {
    case Path::Kind::standing:
        s.ias = 0.0;
        return;
    case Path::Kind::taxi:
        s.ias = path.ias;
        v = path.ias;
        break;
    case Path::Kind::roll: {
        v = s.ias > 0 ? air::trueAirspeed(Speed::si(s.ias), air.pressure, air.temperature).si() : 0.0;
        constexpr int parts = 10;
        for (int i = 0; i < parts; ++i)
            v = std::max(0.0, v + onTheRunway(*aircraft_, useful, v, rho, standing, mass) * dt / parts);
        s.ias = v > 0 ? air::calibratedAirspeed(Speed::si(v), air.pressure, air.temperature).si() : 0.0;
        break;
    }
    case Path::Kind::speedHeld:
        // Another speed is gained or given away for height, no faster than a pilot would.
        if (const double change = path.ias - s.ias; !settled && s.ias > 1.0 && std::abs(change) > speedHair) {
            const double was = air::trueAirspeed(Speed::si(path.ias), air.pressure, air.temperature).si();
            const double most = easing((useful - drag(was) * was) / w, path.ias);
            const double by = std::clamp(change, -easesBy * dt, most * dt);
            const double before = air::trueAirspeed(Speed::si(s.ias), air.pressure, air.temperature).si();
            s.ias += by;
            v = air::trueAirspeed(Speed::si(s.ias), air.pressure, air.temperature).si();
            s.rate = (useful - drag(v) * v) / w - (v * v - before * before) / (2.0 * air::gravity * dt);
            break;
        }
        s.ias = path.ias;
        v = air::trueAirspeed(Speed::si(path.ias), air.pressure, air.temperature).si();
        s.rate = (useful - drag(v) * v) / w;
        break;
    case Path::Kind::rateHeld:
        s.ias = path.ias;
        v = path.ias > 0 ? air::trueAirspeed(Speed::si(path.ias), air.pressure, air.temperature).si() : 0.0;
        s.rate = path.rate;
        // What the power falls short of it by is made good by slowing down, up to a point; then she sinks.
        if (v > 0 && !settled && path.rate < 0)
            s.rate = std::min(s.rate, (useful - drag(v) * v) / w + slowingPays);
        break;
    case Path::Kind::level:
        v = air::trueAirspeed(Speed::si(std::max(1.0, s.ias)), air.pressure, air.temperature).si();
        if (settled) {
            if (const auto found = levelSpeed(*aircraft_, useful / Drag::propellerEfficiency, mass, air))
                v = found->si();
        } else {
            v = std::max(5.0, v + (useful / v - drag(v)) / mass.si() * dt);
        }
        s.ias = air::calibratedAirspeed(Speed::si(v), air.pressure, air.temperature).si();
        break;
    }
    s.height += s.rate * dt;
    const double level = path.kind == Path::Kind::speedHeld ? std::sqrt(std::max(0.0, v * v - s.rate * s.rate)) : v;
    s.distance += air::groundSpeed(level, path.wind) * dt;
}

void Powerplant::shared(const AircraftState& s, AircraftReadings& out) const {
    double fuel = 0.0, yaw = 0.0, hydraulic = 0.0;
    for (const double t : s.tanks)
        fuel += t;
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        yaw += arm(i) * out.engines[i].propeller;
        if (out.engines[i].has(Gauge::hydraulicPressure))
            hydraulic = std::max(hydraulic, out.engines[i][Gauge::hydraulicPressure]);
    }
    out.yaw = engines_.size() > 1 ? yaw / (arm(engines_.size() - 1) * ratedPower_) : 0.0;
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        auto& e = out.engines[i];
        e[Gauge::fuel] = fuel;
        e[Gauge::height] = s.height;
        if (electric_) {
            e[Gauge::volts] = s.volts;
            e[Gauge::amperes] = e.generated > 0 ? out.generated / std::max(1.0,
                                                                           [&] {
                                                                               double all = 0.0;
                                                                               for (const auto& other : out.engines)
                                                                                   all += other.generated;
                                                                               return all / e.generated;
                                                                           }())
                                                : 0.0;
        }
        if (e.has(Gauge::hydraulicPressure))
            e[Gauge::hydraulicPressure] = hydraulic;
    }
}

const Learnt& Powerplant::learntOf(const Condition& condition, std::size_t engine) const {
    return condition.learnt == sound.learnt && engine < aircraft_->learnt.size() ? aircraft_->learnt[engine]
                                                                                 : condition.learnt;
}

AircraftReadings Powerplant::step(AircraftState& s, const Levers& l, const Run& run, Milliseconds ms) const {
    AircraftReadings out;
    step(s, l, run, ms, out);
    return out;
}

void Powerplant::step(AircraftState& s, const Levers& l, const Run& run, Milliseconds ms, AircraftReadings& out) const {
    out.engines.resize(engines_.size());
    const double dt = static_cast<double>(ms) / 1000.0;
    const auto conditionOf = [&](std::size_t i) -> const Condition& {
        return i < run.conditions.size() ? run.conditions[i] : sound;
    };
    // Of which earlier engine each is the like, before any of them has moved.
    boost::container::small_vector<std::size_t, 4> likeOf(engines_.size());
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        likeOf[i] = i;
        for (std::size_t j = 0; j < i && likeOf[i] == i; ++j)
            if (likeOf[j] == j && s.engines[j] == s.engines[i] && l.engines[j] == l.engines[i] &&
                conditionOf(j) == conditionOf(i) && learntOf(conditionOf(j), j) == learntOf(conditionOf(i), i) &&
                engines_[j].alike(engines_[i]))
                likeOf[i] = j;
    }
    Surroundings here = around(s, l, run, 0);
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        const double taken = s.engines[i].taken;
        const int tank = l.engines[i].tank;
        here.fuelAtTank = tank >= 0 && static_cast<std::size_t>(tank) < s.tanks.size() &&
                          s.tanks[static_cast<std::size_t>(tank)] > 1e-9;
        const Condition& condition = conditionOf(i);
        const Learnt& learnt = learntOf(condition, i);
        if (likeOf[i] < i) {
            s.engines[i] = s.engines[likeOf[i]];
            out.engines[i] = out.engines[likeOf[i]];
        } else if (condition.faults.empty()) {
            out.engines[i] = engines_[i].step(s.engines[i], l.engines[i], noEffects, learnt, here, ms);
        } else {
            out.engines[i] =
                engines_[i].step(s.engines[i], l.engines[i],
                                 effectsOf(condition, s.now, aircraft_->notes.engine.cylinders), learnt, here, ms);
        }
        drawFuel(s, l, i, taken);
    }
    for (const auto& e : out.engines)
        s.airBottle = std::max(0.0, s.airBottle - e.airDrawn * dt);
    for (const auto& e : out.engines)
        s.cartridges = std::max(0, s.cartridges - e.cartridge);
    electrics(s, l, out, dt);
    fly(s, l, run, out, dt, false);
    s.now += ms;
    shared(s, out);
}

AircraftReadings Powerplant::steps(AircraftState& s, const Levers& l, const Run& run, Milliseconds time) const {
    AircraftReadings out;
    for (Milliseconds done = 0; done < time; done += shortStep)
        step(s, l, run, std::min(shortStep, time - done), out);
    return out;
}

AircraftReadings Powerplant::stride(AircraftState& s, const Levers& l, const Run& run, Milliseconds ms) const {
    std::vector<Engine::Settled> settled;
    const Surroundings here = around(s, l, run, 0);
    for (std::size_t i = 0; i < engines_.size(); ++i)
        settled.push_back(s.engines[i].firing ? engines_[i].settle(l.engines[i], here)
                                              : engines_[i].settled({}, {}, l.engines[i], here));
    return stride(s, l, run, settled, ms);
}

AircraftReadings Powerplant::stride(AircraftState& s, const Levers& l, const Run& run,
                                    std::span<const Engine::Settled> settled, Milliseconds ms) const {
    AircraftReadings out;
    out.engines.resize(engines_.size());
    const double dt = static_cast<double>(ms) / 1000.0;
    const Surroundings here = around(s, l, run, 0);
    // Sisters that have come to be as warm as each other are reckoned once.
    std::vector<heat::Temperatures> before, after;
    before.reserve(engines_.size());
    after.reserve(engines_.size());
    for (std::size_t i = 0; i < engines_.size(); ++i) {
        EngineState& e = s.engines[i];
        const double taken = e.taken;
        before.push_back({Temperature::si(e.headOrCoolant), Temperature::si(e.oil)});
        const heat::Temperatures* known = nullptr;
        for (std::size_t j = 0; settled.size() == 1 && !known && j < i; ++j)
            if (e.firing == s.engines[j].firing &&
                std::abs(before[j].headOrCoolant.si() - before[i].headOrCoolant.si()) < sameWarmth &&
                std::abs(before[j].oil.si() - before[i].oil.si()) < sameWarmth)
                known = &after[j];
        out.engines[i] = engines_[i].stride(e, l.engines[i], here, settled[std::min(i, settled.size() - 1)], ms, known);
        after.push_back({Temperature::si(e.headOrCoolant), Temperature::si(e.oil)});
        drawFuel(s, l, i, taken);
    }
    electrics(s, l, out, dt);
    fly(s, l, run, out, dt, true);
    s.now += ms;
    shared(s, out);
    return out;
}

} // namespace amber::powerplant
