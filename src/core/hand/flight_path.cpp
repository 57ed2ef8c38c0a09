// SPDX-License-Identifier: GPL-3.0-or-later
#include "hand/flight_path.h"
#include <algorithm>

namespace amber::hand {
namespace {
using powerplant::AircraftState;
using powerplant::Path;

constexpr double taxiSpeed = 4.0;   // m/s, a brisk walk
constexpr double leastFall = 0.1;   // m between two moments, less is no let-down
constexpr double sinksUnder = 0.98; // of the climb's speed
constexpr double lowest = 3.0;      // m under the runway in one step: more is no rolling
constexpr double hardest = 2.0;     // m/s down that she runs on after
constexpr double landedUnder = 1.0; // m over the field: she is on it
constexpr double steepest = 6.0;    // m/s down to a landing: what is flared out
constexpr double overStallAtLiftOff = 1.1, overStallAtApproach = 1.3;
constexpr double usualDown = -2.5; // m/s where the plan lets down from no height
} // namespace

bool FlightPath::isAirborne(const Path& path) {
    return path.kind == Path::Kind::speedHeld || path.kind == Path::Kind::rateHeld || path.kind == Path::Kind::level;
}

FlightPath::FlightPath(const powerplant::Powerplant& plant, const Sortie& sortie, const flight::Flown& flown)
    : plant_(&plant), sortie_(&sortie), flown_(&flown) {}

void FlightPath::begin(Phase phase, Path& path, const AircraftState& state) {
    began_ = state.now;
    // Saying so neither takes her off the ground nor puts her on it.
    const bool airborne = isAirborne(path);
    const bool flies = phase >= Phase::climb && phase <= Phase::landing;
    if (flies && !airborne)
        return;
    if (!flies && airborne && !(phase == Phase::stop && state.height <= home() + landedUnder))
        return; // she flies on as she did, and where she was landing she lands
    const double speed = (*flown_)[phase].setting.ias.si();
    switch (phase) {
    case Phase::climb:
        path = {Path::Kind::speedHeld, speed, 0.0};
        break;
    case Phase::cruise:
        path = {Path::Kind::level, 0.0, 0.0};
        break;
    case Phase::letDown:
        path = {Path::Kind::rateHeld, speed, usualDown};
        letDown(path, state.height);
        break;
    case Phase::landing: {
        const double down = state.height - home(), time = (*flown_)[phase].duration;
        path = {Path::Kind::rateHeld, speed, time > 0 && down > 0 ? -down / time : usualDown};
        break;
    }
    case Phase::stop:
        path = {Path::Kind::taxi, taxiSpeed, 0.0};
        break;
    default:
        break;
    }
}

void FlightPath::follow(Phase phase, Path& path, const AircraftState& state) const {
    if (path.kind == Path::Kind::roll) {
        const auto lift = flight::speedFor(plant_->aircraft().notes, "lift-off", plant_->weight(state));
        if (state.ias >= (lift ? lift->speed.si() : 40.0))
            path = {Path::Kind::speedHeld, (*flown_)[Phase::climb].setting.ias.si(), 0.0};
        return;
    }
    switch (phase) {
    case Phase::takeOff:
        if (path.kind == Path::Kind::speedHeld)
            path.ias = climbSpeed(state);
        break;
    case Phase::climb:
        if (path.kind == Path::Kind::speedHeld) {
            path.ias = climbSpeed(state);
            if (state.height >= top())
                path = {Path::Kind::level, 0.0, 0.0};
        } else {
            keepFlying(path, state);
        }
        break;
    case Phase::cruise:
        if (path.kind == Path::Kind::speedHeld && state.rate > 0)
            path = {Path::Kind::level, 0.0, 0.0};
        keepFlying(path, state);
        break;
    case Phase::letDown:
        if (path.kind == Path::Kind::speedHeld && state.rate > 0)
            path = {Path::Kind::level, 0.0, 0.0};
        keepFlying(path, state);
        if (path.kind != Path::Kind::rateHeld)
            break;
        letDown(path, state.height);
        if (state.height <= home() + flight::circuitHeight)
            path = {Path::Kind::level, 0.0, 0.0};
        break;
    case Phase::stop:
        keepFlying(path, state);
        if (path.kind == Path::Kind::taxi && static_cast<double>(state.now - began_) >= taxiIn * 1000.0)
            path = {};
        break;
    default:
        break;
    }
}

void FlightPath::keepFlying(Path& path, const AircraftState& state) const {
    // Too slow to stay level she is let sink at the climb's speed, and levels again where she can.
    if (path.kind == Path::Kind::level && state.ias < sinksUnder * climbSpeed(state))
        path = {Path::Kind::speedHeld, climbSpeed(state), 0.0};
}

double FlightPath::ground(Phase phase, double distance) const {
    const double from = sortie_->day.elevation.si(), to = home();
    if (phase <= Phase::climb)
        return from;
    if (phase >= Phase::letDown)
        return to;
    const double all = sortie_->flight.distance.si();
    return from + (to - from) * (all > 0 ? std::clamp(distance / all, 0.0, 1.0) : 0.5);
}

Ground FlightPath::meet(Phase phase, Path& path, AircraftState& state) const {
    if (path.kind == Path::Kind::roll) {
        const auto& length = sortie_->strip.length;
        if (!length || state.distance <= length->si())
            return Ground::clear;
        path = {};
        state.ias = 0.0;
        return Ground::offTheEnd;
    }
    if (!isAirborne(path))
        return Ground::clear;
    const double under = ground(phase, state.distance);
    if (phase >= Phase::landing && state.height <= under + landedUnder && state.rate > -steepest) {
        path = {Path::Kind::taxi, taxiSpeed, 0.0};
        return Ground::touchesDown;
    }
    if (state.height > under)
        return Ground::clear;
    if (phase == Phase::takeOff && state.height > under - lowest && state.rate > -hardest) {
        state.height = under; // she does not leave the runway, or comes back to it: she runs on
        path = {Path::Kind::roll, 0.0, 0.0};
        return Ground::clear;
    }
    state.height = under;
    state.rate = state.ias = 0.0;
    path = {};
    return Ground::hit;
}

std::optional<double> FlightPath::stall(Phase phase, const AircraftState& state) const {
    const TypeNotes& n = plant_->aircraft().notes;
    const auto weight = plant_->weight(state);
    std::optional<double> out;
    if (const auto liftOff = flight::speedFor(n, "lift-off", weight))
        out = liftOff->speed.si() / overStallAtLiftOff;
    if (const auto approach = flight::speedFor(n, "approach", weight); approach && phase == Phase::landing) {
        const double flapped = approach->speed.si() / overStallAtApproach;
        out = out ? std::min(*out, flapped) : flapped;
    }
    return out;
}

std::optional<std::pair<const flight::Sample*, const flight::Sample*>> FlightPath::plannedDown(double height) const {
    const auto& p = (*flown_)[Phase::letDown];
    for (std::size_t i = p.firstSample; i < p.lastSample; ++i) {
        const auto &a = flown_->samples[i], &b = flown_->samples[i + 1];
        if (a[Gauge::height] - b[Gauge::height] > leastFall && height > b[Gauge::height])
            return std::pair{&a, &b};
    }
    return std::nullopt;
}

void FlightPath::letDown(Path& path, double height) const {
    if (const auto planned = plannedDown(height)) {
        const auto& [a, b] = *planned;
        path.rate = ((*b)[Gauge::height] - (*a)[Gauge::height]) / (b->time - a->time);
        path.ias = (*b)[Gauge::airspeed];
    }
}

void FlightPath::touched(Phase phase, Acts acts, const std::string& position, Path& path) {
    if (phase == Phase::takeOff && path.kind == Path::Kind::standing &&
        (acts == Acts::throttle || (acts == Acts::brakes && position == "off")))
        path = {Path::Kind::roll, 0.0, 0.0};
}

bool FlightPath::flown(Phase phase, const AircraftState& state, double cruise) const {
    const double field = sortie_->day.elevation.si(), home = this->home();
    switch (phase) {
    case Phase::takeOff:
        return state.height > field + safeHeight;
    case Phase::climb:
        return state.height >= top() - 1.0;
    case Phase::cruise:
        return static_cast<double>(state.now - began_) >= cruise * 1000.0;
    case Phase::letDown:
        return state.height <= home + flight::circuitHeight;
    case Phase::landing:
        return state.height <= home + landedUnder;
    default:
        return true;
    }
}

double FlightPath::home() const {
    return sortie_->flight.toElevation.si();
}

double FlightPath::climbSpeed(const AircraftState& state) const {
    return flight::climbSpeedAt(plant_->aircraft().notes, plant_->weight(state),
                                sortie_->day.pressureAltitudeOf(Length::si(state.height)))
        .si();
}

double FlightPath::top() const {
    const auto& cruise = (*flown_)[Phase::cruise];
    return cruise.duration > 0 ? flown_->samples[cruise.firstSample][Gauge::height] : sortie_->flight.cruiseHeight.si();
}

} // namespace amber::hand
