// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/dive.h"
#include "notes/cockpit_units.h"
#include "powerplant/powerplant.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <deque>
#include <fmt/format.h>

namespace amber::trouble {
namespace {
using powerplant::Milliseconds;
constexpr double overCruise = 1.3;     // of the cruising speed, where the notes give no speed for it; ours
constexpr double underNever = 0.95;    // of the speed never to be passed
constexpr double lowestOver = 300.0;   // m over the field that a dive ends at
constexpr double longestDive = 3600.0; // s
constexpr Milliseconds diveTick = 500;

DiveAt fly(const powerplant::Aircraft& a, const Sortie& s, const Dive& d, std::string name,
           std::optional<ManifoldPressure> boost) {
    const TypeNotes& n = a.notes;
    const powerplant::Powerplant plant(a, s.fuelGrade);
    const flight::Sample& now = d.moment.sample;
    auto state = plant.standing(s.day, Temperature::si(now.headOrCoolant()));
    state.height = d.moment.height.si();
    state.ias = d.ias.si();
    state.dryMass += d.moment.weight.si() - plant.weight(state).si();
    auto levers = plant.levers();
    const bool byRpm = a.propeller.followsThrottle();
    const double rpm = now.has(Gauge::rpm) && now[Gauge::rpm] > 5 ? now[Gauge::rpm] : d.most.si() * 0.7;
    levers.path = {powerplant::Path::Kind::rateHeld, d.ias.si(), 0.0};
    for (auto& l : levers.engines) {
        l.throttle = byRpm ? powerplant::rpmHeld(rpm) : powerplant::boostHeld(now[Gauge::boost]);
        l.rpm = rpm;
        l.coarse = true;
        l.mixture = Mixture::rich;
        l.cutOff = false;
        l.cock = l.booster = true;
        l.ignition = powerplant::Ignition::both;
        l.coolingFlap = 0.0;
    }
    const powerplant::Run run{&s.day, std::vector<powerplant::Condition>(plant.count()), false};
    const auto around = plant.around(state, levers, run, 0);
    for (std::size_t i = 0; i < plant.count(); ++i) {
        state.engines[i] = plant.engine(i).running(state.engines[i], levers.engines[i], around);
        state.engines[i].headOrCoolant = now.headOrCoolant();
        state.engines[i].oil = now[Gauge::oilTemperature];
    }
    levers.path = {powerplant::Path::Kind::speedHeld, d.ias.si(), 0.0};
    for (auto& l : levers.engines)
        l.throttle = boost && !byRpm ? powerplant::boostHeld(boost->si()) : powerplant::throttleAt(boost ? 0.25 : 0.0);
    DiveAt out;
    out.name = std::move(name);
    out.boost = boost;
    std::deque<std::pair<double, double>> minute; // time, heads or coolant
    double t = 0.0, coldest = now.headOrCoolant();
    while (state.height > d.to.si() && t < longestDive) {
        const auto r = plant.steps(state, levers, run, diveTick);
        t += static_cast<double>(diveTick) / 1000.0;
        if (t >= 5.0 && out.sink.si() == 0.0)
            out.sink = VerticalSpeed::si(-state.rate);
        if (t > 8.0) // past what the change of power itself does
            out.peak = std::max(out.peak, Rotation::si(r.engines.front()[Gauge::rpm]));
        const double head = r.engines.front().headOrCoolant();
        coldest = std::min(coldest, head);
        out.path.emplace_back(t, head);
        minute.emplace_back(t, head);
        while (minute.back().first - minute.front().first > 60.0)
            minute.pop_front();
        for (const auto& [ignored, was] : minute)
            out.fall = std::max(out.fall, was - head);
        if (t > 30.0 && state.rate >= 0)
            break; // with that power she does not come down
    }
    out.seconds = t;
    out.coldest = Temperature::si(coldest);
    const UnitSpec& degrees = differenceUnit(n.cockpit);
    out.shock = watch::atMost(watch::Rule::diveShock, out.fall, d.allowed.value_or(out.fall), 0.0, [&](bool kept) {
        return kept ? std::string("It cools no faster than it may.")
                    : fmt::format("Falls {:.0f} {} in a minute, {:.0f} allowed.", out.fall / degrees.scale,
                                  degrees.symbol, *d.allowed / degrees.scale);
    });
    out.rpm = watch::atMost(watch::Rule::diveRpm, out.peak.si(), d.most.si(), 0.002 * d.most.si(), [&](bool kept) {
        return kept ? std::string("Within its rpm.")
                    : fmt::format("It comes to {}, {} allowed.", format(out.peak, units::rpm),
                                  format(d.most, units::rpm));
    });
    return out;
}
} // namespace

Rotation diveRpm(const TypeNotes& n) {
    if (n.trouble.diveRpm)
        return *n.trouble.diveRpm;
    const Rating* takeOff = n.rating(n.phase(Phase::takeOff).rating);
    const Rotation rated = takeOff ? takeOff->rpm : n.ratings.front().rpm;
    const auto gauge = n.gauges.find(Gauge::rpm);
    return gauge == n.gauges.end() ? rated : Rotation::si(gauge->second.band.limitHigh.value_or(rated.si()));
}

std::optional<ManifoldPressure> diveBoost(const TypeNotes& n) {
    if (!n.gauges.contains(Gauge::boost))
        return std::nullopt;
    return n.trouble.diveBoost ? n.trouble.diveBoost : n.phase(Phase::letDown).boost;
}

Dive dive(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, double time,
          std::optional<Length> to) {
    const TypeNotes& n = a.notes;
    Dive d;
    d.moment = momentAt(n, s, f, time);
    const double field = d.moment.height.si() - d.moment.aboveField.si();
    d.to = Length::si(std::max(field, to.value_or(Length::si(field + lowestOver)).si()));
    d.never = n.trouble.diveIas;
    const double cruise =
        f[Phase::cruise].setting.ias.si() > 0 ? f[Phase::cruise].setting.ias.si() : std::max(40.0, d.moment.ias.si());
    d.ias = d.never ? Speed::si(underNever * d.never->si()) : Speed::si(overCruise * cruise);
    d.most = diveRpm(n);
    d.mostFor = n.trouble.diveFor;
    const bool boosted = n.gauges.contains(Gauge::boost);
    const auto letDown = n.phase(Phase::letDown).boost;
    d.least = diveBoost(n);
    d.allowed = flight::coolingLimit(n).perMinute;
    if (d.moment.flying && d.moment.height > d.to) {
        if (d.least)
            d.ways.push_back(fly(a, s, d, "Least boost", d.least));
        if (letDown && boosted && n.trouble.diveBoost && *letDown > *n.trouble.diveBoost)
            d.ways.push_back(fly(a, s, d, "Let-down boost", letDown));
        if (!boosted)
            d.ways.push_back(fly(a, s, d, "Throttle cracked", ManifoldPressure::si(0.0)));
        d.ways.push_back(fly(a, s, d, "Throttle shut", std::nullopt));
        const DiveAt& first = d.ways.front();
        if (d.allowed && first.fall > *d.allowed)
            d.aheadSeconds = 60.0 * (first.fall - *d.allowed) / *d.allowed;
    }
    return d;
}

} // namespace amber::trouble
