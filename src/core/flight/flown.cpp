// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/flown.h"
#include "flight/simulation.h"
#include "notes/cockpit_units.h"
#include "powerplant/powerplant.h"
#include <algorithm>
#include <cmath>

namespace amber::flight {

Sample between(const Sample& a, const Sample& b, double x) {
    Sample out = b;
    out.time = a.time + x * (b.time - a.time);
    const bool moved = a.gear != b.gear;
    for (const auto& row : gaugeRegister)
        if (!(moved && row.byLevers))
            out[row.gauge] = a[row.gauge] + x * (b[row.gauge] - a[row.gauge]);
    return out;
}

Sample sampleAt(const std::vector<Sample>& samples, double time) {
    const auto after = std::lower_bound(samples.begin(), samples.end(), time,
                                        [](const Sample& m, double value) { return m.time < value; });
    if (after == samples.begin())
        return samples.front();
    if (after == samples.end())
        return samples.back();
    const auto& a = *(after - 1);
    const double x = after->time > a.time ? (time - a.time) / (after->time - a.time) : 1.0;
    Sample out = between(a, *after, x);
    out.phase = x < 0.5 ? a.phase : after->phase;
    return out;
}

CoolingLimit coolingLimit(const TypeNotes& notes) {
    if (notes.letDown.coolingPerMinute)
        return {notes.letDown.coolingPerMinute->si(), Origin::notes};
    return {notes.engine.cooling == Cooling::air ? 20.0 : 15.0, Origin::model};
}

std::optional<Temperature> letDownLeast(const TypeNotes& notes) {
    const Gauge gauge = headOrCoolantGauge(notes);
    const auto found = notes.gauges.find(gauge);
    if (found == notes.gauges.end())
        return std::nullopt;
    const Band& band = found->second.in(Phase::letDown);
    if (band.normalLow)
        return Temperature::si(*band.normalLow);
    if (band.limitLow)
        return Temperature::si(*band.limitLow);
    return std::nullopt;
}

double oilThinning(const TypeNotes& notes, const Sortie& sortie) {
    return sortie.start.diluted ? notes.start.cold.dilutedViscosity : 1.0;
}

air::WindOnTrack windAt(const Sortie& s, double height, std::optional<double> track, double ground) {
    if (!s.flight.aloft || !track)
        return {};
    const double top = s.flight.cruiseHeight.si();
    const double up = top > ground ? std::clamp((height - ground) / (top - ground), 0.0, 1.0) : 1.0;
    const auto low = air::onTrack(s.day.wind, *track), high = air::onTrack(*s.flight.aloft, *track);
    return {low.along + up * (high.along - low.along), low.across + up * (high.across - low.across)};
}

double reserveTime(const TypeNotes& notes, const Sortie& sortie) {
    return sortie.fuel.reserve.value_or(notes.fuel.reserve).si();
}

watch::RunUpDay runUpDay(const Sortie& sortie, const Flown& flown) {
    return {sortie.day.oat, flown.fieldBoost, flown.referenceRpm, flown.staticRpm};
}

const Rating& ratingFor(const TypeNotes& notes, const Sortie& sortie, Phase phase) {
    const std::string& chosen = phase == Phase::climb    ? sortie.flight.climbRating
                                : phase == Phase::cruise ? sortie.flight.cruiseRating
                                                         : notes.phase(phase).rating;
    if (const Rating* rating = notes.rating(chosen))
        return *rating;
    if (const Rating* rating = notes.rating(notes.phase(phase).rating))
        return *rating;
    return notes.ratings.front();
}

std::optional<TabulatedSpeed> speedFor(const TypeNotes& notes, std::string_view id, Mass weight) {
    for (const auto& entry : notes.speeds.entries)
        if (entry.id == id) {
            const double t = std::clamp((weight.si() - notes.speeds.lightWeight.si()) /
                                            (notes.speeds.heavyWeight.si() - notes.speeds.lightWeight.si()),
                                        0.0, 1.0);
            const Origin origin = t <= 0.0 || t >= 1.0 ? Origin::notes : Origin::between;
            return TabulatedSpeed{Speed::si(entry.light.si() + t * (entry.heavy.si() - entry.light.si())), origin};
        }
    return std::nullopt;
}

Temperature dewPointAt(const air::Day& day, Length height, Temperature air) {
    return day.dewPointAt(height, air);
}

Temperature engineTemperatureOf(const Sortie& sortie) {
    return start::engineTemperature({sortie.start.sinceStop, start::Soak{}.whenStopped, sortie.start.preheated},
                                    sortie.day.oat);
}

void keepAsSoaked(Phase phase, powerplant::AircraftState& state, Temperature engine) {
    if (phase > Phase::start)
        return;
    for (auto& e : state.engines)
        if (!e.firing && e.n <= 0.0 && e.primed <= 0.0 && e.burnt <= 0.0)
            e.headOrCoolant = e.oil = engine.si();
}

start::StartRequest startRequestOf(const Sortie& sortie) {
    start::StartRequest r;
    r.order = sortie.start.order;
    r.engine = engineTemperatureOf(sortie);
    r.oil = r.engine;
    r.field = sortie.day.fieldPressure();
    r.supply = sortie.start.supply;
    r.liking = {sortie.airframe.extraPrime, sortie.airframe.primeFactor};
    r.diluted = sortie.start.diluted;
    return r;
}

start::StartRequest startRequestOf(const Sortie& sortie, const Flown& flown) {
    auto r = startRequestOf(sortie);
    r.foreseen = flown.foreseen;
    return r;
}

Flown fly(const powerplant::Aircraft& aircraft, const Sortie& sortie, Pace pace) {
    return Simulation(aircraft, sortie, pace).run();
}

Speed climbSpeedAt(const TypeNotes& n, Mass weight, Length pressureAltitude) {
    const double table = speedFor(n, "climb", weight)->speed.si();
    const double above = std::max(0.0, pressureAltitude.si());
    return Speed::si(std::max(0.75 * table, table - n.speeds.climbLossPerKm.si() * above / 1000.0));
}

} // namespace amber::flight
