// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/moment.h"
#include "air/airspeed.h"
#include "engine/permitted_boost.h"
#include "flight/cruise.h"
#include "heat/drive.h"
#include "heat/heat_solve.h"
#include "trouble/on_the_rest.h"
#include <algorithm>

namespace amber::trouble {
namespace {
constexpr double lowOverField = 300.0; // m: until there the take-off rating is wanted; ours

Speed notesSpeed(const TypeNotes& n, const char* id, Mass weight, const char* otherwise) {
    if (const auto v = flight::speedFor(n, id, weight))
        return v->speed;
    const auto v = flight::speedFor(n, otherwise, weight);
    return v ? v->speed : Speed::si(40);
}
} // namespace

Moment momentAt(const TypeNotes& n, const Sortie& s, const flight::Flown& f, double time) {
    Moment m;
    m.time = std::clamp(time, 0.0, f.totalTime());
    m.sample = flight::sampleAt(f.samples, m.time);
    m.phase = m.sample.phase;
    const auto next = std::upper_bound(f.samples.begin(), f.samples.end(), m.time,
                                       [](double t, const flight::Sample& x) { return t < x.time; });
    const auto row = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, next - f.samples.begin() - 1));
    const auto held = f.contents.at(row);
    m.tanks.assign(held.begin(), held.end());
    m.flying = m.phase >= Phase::takeOff && m.phase <= Phase::landing;
    const bool outward = m.time < f[Phase::cruise].start + 0.5 * f[Phase::cruise].duration;
    const double field = outward ? s.day.elevation.si() : s.flight.toElevation.si();
    m.height = Length::si(m.sample[Gauge::height]);
    m.aboveField = Length::si(std::max(0.0, m.height.si() - field));
    m.weight = Mass::si(m.sample[Gauge::weight]);
    m.ias = Speed::si(m.sample.has(Gauge::airspeed) ? m.sample[Gauge::airspeed] : 0.0);
    if (m.flying && m.aboveField.si() < 15.0) // just off the ground
        m.height = Length::si(field + 15.0);
    (void)n;
    return m;
}

double ratingUsedBy(const flight::Flown& f, const Rating& rating, double time) {
    double used = 0.0;
    for (const auto& p : f.phases) {
        if (p.rating != rating.key)
            continue;
        if (time >= p.start + p.duration)
            used = std::max(used, p.ratingUsed);
        else if (time > p.start)
            used = std::max(used, std::min(p.ratingUsed, used + time - p.start));
    }
    return used;
}

LiveSetting liveSetting(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, const Moment& m) {
    const TypeNotes& n = a.notes;
    const bool low = m.aboveField.si() < lowOverField;
    const Rating* takeOff = n.rating(n.phase(Phase::takeOff).rating);
    return liveSetting(a, s, f, m, low && takeOff ? *takeOff : strongest(n, true));
}

LiveSetting liveSetting(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, const Moment& m,
                        const Rating& rating) {
    const TypeNotes& n = a.notes;
    LiveSetting out;
    out.rating = &rating;
    out.safe = notesSpeed(n, "safe-single", m.weight, "climb");
    out.best = notesSpeed(n, "climb", m.weight, "climb");
    const auto air = s.day.at(s.day.pressureAltitudeOf(m.height));
    const engine::KnockBoundary knock(n, a.model(), s.fuelGrade);
    const auto [gear, boost, point] = bestGear(a, s.fuelGrade, knock, rating, air, out.best);
    out.gear = gear;
    out.boost = boost;
    const auto gauge = n.engine.cooling == Cooling::liquid ? Gauge::coolantTemperature : Gauge::headTemperature;
    const auto notes = n.gauges.find(gauge);
    const Band band = notes == n.gauges.end() ? Band{} : notes->second.in(Phase::climb);
    const auto wanted = band.normalHigh ? band.normalHigh : band.limitHigh;
    if (wanted) {
        const auto need =
            heat::flapFor(a.thermal, heat::driveOf(point, rating.rpm, air, out.best, 1.0), Temperature::si(*wanted));
        out.flap = need.opening;
        out.flapEnough = need.enough;
        out.settles = need.settles;
    }
    if (rating.minutes)
        out.left = Duration::si(std::max(0.0, rating.minutes->si() - ratingUsedBy(f, rating, m.time)));
    return out;
}

} // namespace amber::trouble
