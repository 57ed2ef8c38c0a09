// SPDX-License-Identifier: GPL-3.0-or-later
#include "hand/flight_path.h"

namespace amber::hand {
namespace {
using powerplant::AircraftState;
using powerplant::Path;

constexpr double taxiSpeed = 4.0;   // m/s, a brisk walk
constexpr double leastFall = 0.1;   // m between two moments, less is no let-down
constexpr double sinksUnder = 0.98; // of the climb's speed
constexpr double usualDown = -2.5;  // m/s where the plan lets down from no height
} // namespace

FlightPath::FlightPath(const powerplant::Powerplant& plant, const Sortie& sortie, const flight::Flown& flown)
    : plant_(&plant), sortie_(&sortie), flown_(&flown) {}

void FlightPath::begin(Phase phase, Path& path, const AircraftState& state) {
    began_ = state.now;
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
        const double down = state.height - sortie_->flight.toElevation.si(), time = (*flown_)[phase].duration;
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
    switch (phase) {
    case Phase::takeOff:
        if (path.kind == Path::Kind::roll) {
            const auto lift = flight::speedFor(plant_->aircraft().notes, "lift-off", plant_->weight(state));
            if (state.ias >= (lift ? lift->speed.si() : 40.0))
                path = {Path::Kind::speedHeld, (*flown_)[Phase::climb].setting.ias.si(), 0.0};
        } else if (path.kind == Path::Kind::speedHeld)
            path.ias = climbSpeed(state);
        break;
    case Phase::climb:
        if (path.kind == Path::Kind::speedHeld) {
            path.ias = climbSpeed(state);
            if (state.height >= top())
                path = {Path::Kind::level, 0.0, 0.0};
        }
        break;
    case Phase::cruise:
        // Too slow to stay level she is let sink at the climb's speed, and levels again where she can.
        if (path.kind == Path::Kind::level && state.ias < sinksUnder * climbSpeed(state))
            path = {Path::Kind::speedHeld, climbSpeed(state), 0.0};
        else if (path.kind == Path::Kind::speedHeld && state.rate > 0)
            path = {Path::Kind::level, 0.0, 0.0};
        break;
    case Phase::letDown:
        if (path.kind != Path::Kind::rateHeld)
            break;
        letDown(path, state.height);
        if (state.height <= sortie_->flight.toElevation.si() + flight::circuitHeight)
            path = {Path::Kind::level, 0.0, 0.0};
        break;
    case Phase::landing:
        if (path.kind == Path::Kind::rateHeld && state.height <= sortie_->flight.toElevation.si())
            path = {Path::Kind::taxi, taxiSpeed, 0.0};
        break;
    case Phase::stop:
        if (path.kind == Path::Kind::taxi && static_cast<double>(state.now - began_) >= taxiIn * 1000.0)
            path = {};
        break;
    default:
        break;
    }
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
    const double field = sortie_->day.elevation.si(), home = sortie_->flight.toElevation.si();
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
        return state.height <= home + 1.0;
    default:
        return true;
    }
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
