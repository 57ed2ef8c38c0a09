// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/flown.h"
#include "notes/cockpit_units.h"
#include "plan/simulation.h"
#include <algorithm>
#include <cmath>

namespace amber::plan {

CoolingLimit coolingLimit(const TypeNotes& notes) {
    if (notes.letDown.coolingPerMinute)
        return {notes.letDown.coolingPerMinute->si(), Origin::notes};
    return {notes.engine.cooling == Cooling::air ? 20.0 : 15.0, Origin::model};
}

std::optional<Temperature> letDownLeast(const TypeNotes& notes) {
    const Gauge gauge = metalGauge(notes);
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
            const Origin origin = t <= 0.0 || t >= 1.0 ? Origin::notes : Origin::betweenNotes;
            return TabulatedSpeed{Speed::si(entry.light.si() + t * (entry.heavy.si() - entry.light.si())), origin};
        }
    return std::nullopt;
}

Temperature dewPointAt(const air::Day& day, Length height, Temperature air) {
    constexpr double fallPerMetre = 1.8e-3;
    const double dew = day.dewPoint.si() - fallPerMetre * std::max(0.0, height.si() - day.elevation.si());
    return Temperature::si(std::min(dew, air.si()));
}

Temperature engineTemperatureOf(const Sortie& sortie) {
    return start::engineTemperature({sortie.start.sinceStop, start::Soak{}.whenStopped, sortie.start.preheated},
                                    sortie.day.oat);
}

start::StartRequest startRequestOf(const Sortie& sortie) {
    start::StartRequest r;
    r.order = sortie.start.order;
    r.engine = engineTemperatureOf(sortie);
    r.oil = r.engine;
    r.field = sortie.day.fieldPressure();
    r.supply = sortie.start.supply;
    r.extraPrime = sortie.airframe.extraPrime;
    r.diluted = sortie.start.diluted;
    return r;
}

Flown fly(const Aircraft& aircraft, const Sortie& sortie) {
    return Simulation(aircraft, sortie).run();
}

} // namespace amber::plan
