// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft_flights.h"
#include "notes/cockpit_units.h"
#include "powerplant/generator.h"
#include <algorithm>
#include <cmath>

namespace amber::bench {
namespace {
struct Chance {
    std::uint64_t seed, count = 0;
    double uniform() { return powerplant::uniformAt(seed, 4711, ++count); }
    double about(double sd) {
        double sum = -6.0;
        for (int i = 0; i < 12; ++i)
            sum += uniform();
        return sd * sum;
    }
};
} // namespace

FlightJudged judgeFlight(const flight::LoadedSortie& loaded, std::uint64_t seed) {
    FlightJudged out;
    Chance d{seed};
    const auto& a = *loaded.aircraft;
    const auto& n = a.notes;
    Sortie s = *loaded.sortie;
    s.flight.distance = Distance::of(150.0 + 150.0 * d.uniform(), units::nauticalMile);
    const bool meter = d.uniform() < 0.5;
    s.flight.legs.clear();
    s.flight.over.clear();
    aloft::StandInSetting setting;
    setting.seed = seed;
    setting.wait = std::round(300.0 * d.uniform());
    const auto flight = aloft::standInFlight(a, s, setting);
    const auto plan = plan::makePlan(a, s);
    const auto& f = plan.flown;
    // The crew presses late, and not for everything.
    aloft::Happened happened;
    for (auto m : flight.moments) {
        const bool minor = m.what == "at-gear-change" || m.what == "at-engine-stop";
        if (minor && d.uniform() < 0.4)
            continue;
        m.at = std::round(m.at + (m.what == "at-take-off" || m.what == "at-climb-power" ? 2.0 : 12.0) * d.uniform());
        happened.moments.push_back(m);
    }
    std::stable_sort(happened.moments.begin(), happened.moments.end(),
                     [](const auto& x, const auto& y) { return x.at < y.at; });
    const auto truly = [&](const char* what) -> std::optional<double> {
        std::optional<double> last;
        for (const auto& m : flight.moments)
            if (m.what == what && (!last || m.at > *last))
                last = m.at;
        return last;
    };
    const auto fired = truly("at-first-fire"), taxi = truly("at-taxi"), level = truly("at-top-of-climb"),
               down = truly("at-top-of-descent"), stop = truly("at-stop");
    if (!fired || !taxi || !level || !down || !stop)
        return out;
    // Scans: two or three in the warm-up, one in the climb, half-hourly in cruise, one on the way down; some left out.
    const Gauge heads = headOrCoolantGauge(n);
    const double planned = std::clamp(plan.flown.minutesToRunUp.value_or(300.0), 60.0, 1800.0);
    std::vector<double> scans{*fired + 0.35 * planned, *fired + 0.7 * planned,
                              0.5 * (*truly("at-climb-power") + *level)};
    for (double t = *level + 300.0; t < *down; t += 900.0)
        scans.push_back(t);
    scans.push_back(0.5 * (*down + *stop));
    std::vector<double> flown;
    struct Slip {
        std::string entry;
        double by = 0.0;
    };
    std::vector<Slip> slips;
    int count = 0;
    std::vector<std::size_t> all;
    for (const double t : scans) {
        const auto second = static_cast<std::size_t>(std::min<double>(t, static_cast<double>(flight.truth.size() - 1)));
        const auto& truth = flight.truth[second];
        const bool inWarmUp = truth.phase <= Phase::warmUp;
        for (std::size_t e = 0; e < n.engineCount(); ++e)
            for (const Gauge g : {heads, Gauge::oilTemperature}) {
                if (!n.gauges.contains(g) || (!inWarmUp && d.uniform() < 0.15))
                    continue;
                const double width = 2.0, v = truth.engines[e][g] + width * 0.3 * (2.0 * d.uniform() - 1.0);
                happened.readings.push_back({g, n.positions[e].id, t, 273.15 + width * std::round((v - 273.15) / width),
                                             "r" + std::to_string(count++), false});
            }
        if (t > *level && t < *down) {
            const double size = 5e-3;
            happened.readings.push_back(
                {Gauge::fuel,
                 {},
                 t,
                 size * std::round((truth.engines[0][Gauge::fuel] + d.about(0.008) * f.fuelAtStart) / size),
                 "r" + std::to_string(count++),
                 false});
            for (std::size_t e = 0; meter && e < n.engineCount(); ++e)
                happened.readings.push_back({Gauge::fuelFlow, n.positions[e].id, t,
                                             truth.engines[e][Gauge::fuelFlow] * (1.0 + d.about(0.015)),
                                             "r" + std::to_string(count++), false});
        }
    }
    // Two misread: by ten needle's widths or so. After the first scans, so that there is something to tell them by.
    std::vector<std::size_t> could;
    for (std::size_t i = 0; i < happened.readings.size(); ++i)
        if (happened.readings[i].gauge != Gauge::fuel && happened.readings[i].gauge != Gauge::fuelFlow &&
            happened.readings[i].at > *taxi)
            could.push_back(i);
    for (int k = 0; k < 2 && !could.empty(); ++k) {
        const auto pick = static_cast<std::size_t>(d.uniform() * static_cast<double>(could.size()));
        auto& r = happened.readings[could[pick]];
        const double by = (d.uniform() < 0.5 ? -1.0 : 1.0) * (20.0 + 20.0 * d.uniform());
        r.value += by;
        slips.push_back({r.entry, by});
        could.erase(could.begin() + static_cast<std::ptrdiff_t>(pick));
    }
    const auto heard = [&](double now) {
        aloft::Happened h;
        for (const auto& m : happened.moments)
            if (m.at <= now)
                h.moments.push_back(m);
        for (const auto& r : happened.readings)
            if (r.at <= now)
                h.readings.push_back(r);
        return h;
    };
    const auto foretell = [&](const char* what, double truth, double before, double widthBefore,
                              const aloft::Ahead& now) {
        out.foretold.push_back({what, before - truth, now.value - truth, widthBefore, now.high - now.low,
                                truth >= now.low && truth <= now.high});
    };
    // Minutes to the minima, after the second reading.
    const double second = scans[1] + 1.0;
    aloft::Options unbent;
    unbent.bend = false;
    const auto early = aloft::nowOf(a, s, plan, heard(second), second),
               unread = aloft::nowOf(a, s, plan, heard(second), second, unbent);
    const auto warmth = [&](const heat::Minima& minima, Phase until, const std::optional<aloft::Ahead>& was,
                            const std::optional<aloft::Ahead>& is) {
        if (!was || !is)
            return;
        for (std::size_t t = static_cast<std::size_t>(second) + 10; t < flight.truth.size(); ++t) {
            const auto& truth = flight.truth[t];
            if (truth.phase > until)
                return;
            bool ok = true;
            for (const auto& e : truth.engines)
                ok = ok && minima.met({Temperature::si(e[heads]), Temperature::si(e[Gauge::oilTemperature])});
            if (ok) {
                if (t > static_cast<std::size_t>(second) + 10)
                    foretell(n.engine.cooling == Cooling::air ? "minutes to minima, heads"
                                                              : "minutes to minima, coolant",
                             static_cast<double>(t) - second, was->value, was->high - was->low, *is);
                return;
            }
        }
    };
    warmth({n.warmUp.headRunUp, n.warmUp.oilRunUp}, Phase::warmUp, unread.toRunUp, early.toRunUp);
    // Half-way in the cruise: fuel when stopped, and when the tank is changed.
    const double half = 0.5 * (*level + *down);
    const auto now = aloft::nowOf(a, s, plan, heard(half), half);
    const auto before = aloft::nowOf(a, s, plan, heard(half), half, unbent);
    const auto atStop = static_cast<std::size_t>(*stop);
    foretell(meter ? "fuel when stopped, flow meter" : "fuel when stopped, gauges",
             flight.truth[std::min(atStop, flight.truth.size() - 1)].fuel, before.here.landing.value,
             before.here.landing.high - before.here.landing.low, now.here.landing);
    if (now.here.burn < 1.0 - 1e-9 && !now.today.fuel.twoAgree)
        ++out.lengthened;
    // A tank: when it is down to what the plan leaves in it.
    const auto tankOf = [&](const aloft::Now& x) -> const aloft::NextItem* {
        for (const auto& i : x.next)
            if (i.kind == aloft::NextItem::Kind::tank)
                return &i;
        return nullptr;
    };
    const auto* tank = tankOf(now);
    const auto* tankBefore = tankOf(before);
    if (tank && tankBefore && tank->estimate && tank->width && tankBefore->width && tank->id == tankBefore->id)
        for (const auto& change : f.tankChanges) {
            if (change.from < 0 || "tank/" + n.fuel.tanks[static_cast<std::size_t>(change.tank)].id != tank->id ||
                change.time < now.plan - 1.0)
                continue;
            for (std::size_t t = static_cast<std::size_t>(half); t < flight.truth.size(); ++t)
                if (flight.truth[t].tanks[static_cast<std::size_t>(change.from)] <= change.left) {
                    foretell(meter ? "tank, flow meter" : "tank, gauges", static_cast<double>(t) - half,
                             *tankBefore->in, tankBefore->width->second - tankBefore->width->first,
                             {*tank->estimate, tank->width->first, tank->width->second});
                    break;
                }
            break;
        }
    // Who is asked, at the end of the cruise.
    const auto late = aloft::nowOf(a, s, plan, heard(*stop), *stop);
    for (const auto& r : happened.readings) {
        if (r.at > *stop)
            continue;
        const bool asked = std::any_of(late.today.asked.begin(), late.today.asked.end(),
                                       [&](const auto& x) { return x.reading.entry == r.entry; });
        const bool slip = std::any_of(slips.begin(), slips.end(), [&](const Slip& x) { return x.entry == r.entry; });
        ++(slip ? out.misread : out.good);
        if (asked)
            ++(slip ? out.asked : out.cried);
    }
    // Rating minutes against the moments.
    for (const auto& rating : late.ratings) {
        double truth = 0.0;
        const auto off = truly("at-take-off"), climb = truly("at-climb-power");
        if (off && climb && f[Phase::takeOff].rating == rating.key && f[Phase::climb].rating != rating.key) {
            double pressed = 0.0;
            for (const auto& m : happened.moments)
                pressed += m.what == "at-climb-power" ? m.at : m.what == "at-take-off" ? -m.at : 0.0;
            truth = pressed;
            out.rating = std::max(out.rating, std::abs(rating.used - truth));
        }
    }
    return out;
}

} // namespace amber::bench
