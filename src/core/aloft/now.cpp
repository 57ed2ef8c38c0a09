// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/now.h"
#include "aloft/next.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/due.h"
#include "watch/judge.h"
#include "watch/rating_clock.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::aloft {
namespace {
constexpr double callsFrom = 304.8;      // m over the field: 1,000 ft
constexpr double groundHorizon = 3600.0; // s
constexpr double nudge = 0.02;

Ahead around(double value, double deviation) {
    return {value, value - ninety * deviation, value + ninety * deviation};
}

/// One engine's course of heat with what was found of it, and how its factors move it.
struct Bent {
    std::vector<Warmth::Point> base;
    std::array<std::vector<Warmth::Point>, 4> moved; ///< by each factor of heat
    const EngineToday* today = nullptr;
    double needleHead = 0.0, needleOil = 0.0; ///< K that needles show over the state, all told

    /// As the needle shows it, later than it is so.
    [[nodiscard]] double value(bool head, double real) const {
        const auto t = at(base, real - today->lag);
        return head ? t.headOrCoolant.si() + needleHead : t.oil.si() + needleOil;
    }
    using Slope = std::array<double, EngineToday::unknowns>;
    [[nodiscard]] Slope slope(bool head, double real) const {
        const double felt = real - today->lag;
        const auto of = [&](const std::vector<Warmth::Point>& p, double when) {
            const auto t = at(p, when);
            return head ? t.headOrCoolant.si() : t.oil.si();
        };
        const double b = of(base, felt);
        Slope out{};
        for (std::size_t k = 0; k < moved.size(); ++k)
            out[k] = (of(moved[k], felt) - b) / nudge;
        out[4] = head ? 1.0 : 0.0;
        out[5] = head ? 0.0 : 1.0;
        out[6] = of(base, felt - 1.0) - b;
        return out;
    }
    [[nodiscard]] double deviation(const Slope& s) const {
        double sum = 0.0;
        for (std::size_t i = 0; i < s.size(); ++i)
            for (std::size_t j = 0; j < s.size(); ++j)
                sum += s[i] * today->covariance[i][j] * s[j];
        return std::sqrt(std::max(0.0, sum));
    }
};

/// When all minima are first met along a course; none: not on it.
std::optional<double> meets(const std::vector<Warmth::Point>& points, const heat::Minima& minima, double head,
                            double oil, double from) {
    const auto ok = [&](double real) {
        auto t = at(points, real);
        t.headOrCoolant = Temperature::si(t.headOrCoolant.si() + head);
        t.oil = Temperature::si(t.oil.si() + oil);
        return minima.met(t);
    };
    if (ok(from))
        return from;
    double before = from;
    for (const auto& p : points) {
        if (p.at <= from)
            continue;
        if (ok(p.at)) {
            double low = before, high = p.at;
            while (high - low > 0.5) {
                const double middle = 0.5 * (low + high);
                (ok(middle) ? high : low) = middle;
            }
            return high;
        }
        before = p.at;
    }
    return std::nullopt;
}

} // namespace

Now nowOf(const powerplant::Aircraft& a, const Sortie& sortie, const plan::Plan& plan, const Happened& happened,
          double real, const Options& options) {
    const TypeNotes& n = a.notes;
    const auto& f = plan.flown;
    Now out;
    out.at = real;
    Happened heard = happened;
    std::erase_if(heard.moments, [&](const Given& g) { return g.at > real + 1e-6; });
    const Course course(f, n, heard, real);
    const Warmth warmth(a, f);
    const FuelCourse fuel(f, n, course, heard);
    out.plan = course.planAt(real);
    out.phase = course.phaseAt(real);
    if (const auto* next = course.next()) {
        out.nextMoment = *next;
        out.nextMomentIn = course.nextIn();
    } else {
        out.over = true;
    }
    for (const auto& [given, why] : course.refused())
        out.asks.push_back(watch::judgeAsked(why));
    Happened bent = heard;
    if (!options.bend)
        bent.readings.clear();
    out.today = todayOf(a, f, warmth, course, fuel, bent, options.priors, options.misfits);
    for (const auto& asked : out.today.asked)
        out.asks.push_back(watch::judgeAsked(asked.sentence));
    const auto sample = flight::sampleAt(f.samples, out.plan);
    out.height = sample[Gauge::height];
    out.ias = sample[Gauge::airspeed];
    const double over =
        out.height - (out.phase >= Phase::letDown ? sortie.flight.toElevation.si() : sortie.day.elevation.si());
    const bool climbsAway = out.phase == Phase::takeOff || (out.phase == Phase::climb && over < callsFrom);
    const bool approaches = out.phase == Phase::landing || (out.phase == Phase::letDown && over < callsFrom);
    out.quiet = climbsAway || approaches;
    if (out.quiet)
        out.quietWhy = climbsAway ? "After take-off nothing is called below 1,000 ft but fire and oil pressure."
                                  : "On approach nothing is called but fire and oil pressure.";

    // ---- needles
    const Gauge heads = headOrCoolantGauge(n);
    std::vector<Bent> engines(n.engineCount());
    // On the ground the plan goes on to the run-up, and stands there until it is warm enough.
    const bool before = out.phase <= Phase::warmUp;
    const auto waiting = course.standingAt(f[before ? Phase::runUp : Phase::takeOff].start, real + groundHorizon);
    const bool onGround = out.phase >= Phase::start && out.phase <= Phase::runUp;
    for (std::size_t e = 0; e < engines.size(); ++e) {
        auto& b = engines[e];
        b.today = &out.today.engines[e];
        const auto& id = n.positions[e].id;
        const double fired = heard.when("at-first-fire", id).value_or(course.realAt(f.engines[e].firedAt));
        const auto& pieces = onGround ? waiting : course.pieces();
        const double until = onGround ? real + groundHorizon : real + 1.0;
        const auto& h = b.today->heat;
        b.base = warmth.along(pieces, e, fired, h, until);
        const std::array<double HeatFactors::*, 4> factors{&HeatFactors::cooling, &HeatFactors::oil,
                                                           &HeatFactors::headRate, &HeatFactors::oilRate};
        for (std::size_t k = 0; k < factors.size(); ++k) {
            auto other = h;
            other.*factors[k] += nudge;
            b.moved[k] = warmth.along(pieces, e, fired, other, until);
        }
        b.needleHead = b.today->head + taughtOffset(a, e, heads);
        b.needleOil = b.today->oil + taughtOffset(a, e, Gauge::oilTemperature);
        if (fired > real || out.over)
            continue;
        const auto planned = [&](bool head) {
            const auto& points = f.engines[e].points;
            auto after = std::upper_bound(points.begin(), points.end(), out.plan,
                                          [](double t, const flight::TracePoint& p) { return t < p.time; });
            if (after == points.begin())
                return head ? after->headOrCoolant : after->oil;
            const auto& q = *(after - 1);
            if (after == points.end() || after->time - q.time < 1e-9)
                return head ? q.headOrCoolant : q.oil;
            const double x = (out.plan - q.time) / (after->time - q.time);
            return head ? q.headOrCoolant + x * (after->headOrCoolant - q.headOrCoolant)
                        : q.oil + x * (after->oil - q.oil);
        };
        for (const bool head : {true, false}) {
            const Gauge gauge = head ? heads : Gauge::oilTemperature;
            if (!n.gauges.contains(gauge))
                continue;
            NeedleNow needle;
            needle.gauge = gauge;
            needle.engine = id;
            needle.expected =
                around(b.value(head, real), std::hypot(b.deviation(b.slope(head, real)), options.misfits.temperature));
            needle.planned = planned(head);
            needle.read = heard.lastRead(gauge, id, real - readStands, real);
            needle.verdict =
                watch::judge(n, gauge, out.phase, watch::asRead(n, gauge, needle.read.value_or(needle.expected.value)));
            out.needles.push_back(needle);
        }
    }

    // ---- minima on the ground
    const auto ahead = [&](const heat::Minima& minima) -> std::optional<Ahead> {
        std::optional<Ahead> slowest;
        if (!onGround || (!minima.oil && !minima.headOrCoolant))
            return slowest;
        for (std::size_t e = 0; e < engines.size(); ++e) {
            const auto& b = engines[e];
            const double from = std::max(real - b.today->lag, b.base.front().at);
            const auto middle = meets(b.base, minima, b.needleHead, b.needleOil, from);
            if (!middle)
                return std::nullopt;
            // The time moves with each factor: where it is not met within the horizon, that factor is told by the other
            // side.
            const auto later = [&](const std::vector<Warmth::Point>& points, double head, double oil, double by) {
                const auto t = meets(points, minima, b.needleHead + head, b.needleOil + oil, from);
                return t ? (*t - *middle) / by : 0.0;
            };
            Bent::Slope slope{};
            for (std::size_t k = 0; k < b.moved.size(); ++k)
                slope[k] = later(b.moved[k], 0, 0, nudge);
            slope[4] = later(b.base, 1.0, 0, 1.0);
            slope[5] = later(b.base, 0, 1.0, 1.0);
            slope[6] = 1.0;
            const double deviation = b.deviation(slope);
            Ahead here = around(*middle + b.today->lag - real, deviation);
            here.low = std::max(0.0, here.low);
            if (!slowest || here.value > slowest->value)
                slowest = here;
        }
        if (slowest && slowest->value < 0.5)
            slowest.reset();
        return slowest;
    };
    out.toRunUp = ahead({n.warmUp.headRunUp, n.warmUp.oilRunUp});
    out.toTakeOff = ahead({n.warmUp.headTakeOff, n.warmUp.oilTakeOff});

    // ---- ratings
    std::map<std::string, double> used;
    for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown}) {
        const double begins = course.realAt(f[phase].start);
        const double ends = course.realAt(f[phase].start + f[phase].duration);
        if (f[phase].rating.empty() || begins > real || out.plan < f[phase].start)
            continue;
        used[f[phase].rating] += std::max(0.0, std::min(real, ends) - begins);
    }
    for (const auto& [key, seconds] : used) {
        const Rating* rating = n.rating(key);
        if (!rating || !rating->minutes || seconds <= 0.0)
            continue;
        watch::RatingClock clock(*rating);
        clock.add(Duration::si(seconds));
        const bool runs = f[out.phase].rating == key;
        out.ratings.push_back({key, rating->name, seconds, rating->minutes->si(), runs,
                               runs ? clock.verdict() : clock.verdictAfterwards()});
    }

    // ---- fuel from here
    auto& here = out.here;
    const double found = std::exp(out.today.fuel.burn);
    here.shortenedOnly = found < 1.0 && !out.today.fuel.twoAgree;
    here.burn = here.shortenedOnly ? 1.0 : found;
    here.tanks = fuel.tanks(real, here.burn);
    here.feeding = fuel.feeding(real);
    double held = 0.0;
    for (const double t : here.tanks)
        held += t;
    const double sigma = out.today.fuel.deviation;
    here.fuel = around(held, std::hypot(out.today.fuel.held, options.misfits.fuelPlan * (f.fuelAtStart - held)));
    const double end = course.pieces().back().to, whole = fuel.used(end), sofar = fuel.used(real);
    const double togo = (whole - sofar) * here.burn;
    // What was used and what is to come are wrong together. This is the best estimate; the sums that somebody could fly
    // on, below, are made with the greater consumption.
    const double off = whole * found * std::hypot(sigma, options.misfits.fuelPlan);
    here.landing = around(f.fuelAtStart - whole * found, off);
    here.landing.low = std::max(0.0, here.landing.low);
    here.must = f.reserveFuel + f.alternateFuel;
    const double flow = f.cruiseFuelFlow * here.burn;
    if (flow > 0.0 && !out.over) {
        // Let-down, landing and stop as planned cost this.
        const double down =
            (out.phase < Phase::letDown ? f[Phase::letDown].fuel : 0.0) + f[Phase::landing].fuel + f[Phase::stop].fuel;
        const double free = held - here.must - std::min(down * here.burn, togo);
        here.endurance = std::max(0.0, free / flow);
        double ground = 0.0, way = 0.0, time = 0.0;
        for (const auto& leg : f.legs) {
            way += leg.distance;
            time += leg.time;
        }
        ground = time > 0.0 ? way / time : f.cruiseTas.si();
        here.range = here.endurance * ground;
        if (out.phase == Phase::climb || out.phase == Phase::cruise) {
            // Back against what helped on the way out.
            const double back = std::max(0.3 * f.cruiseTas.si(), 2.0 * f.cruiseTas.si() - ground);
            double flown = 0.0;
            for (std::size_t p = static_cast<std::size_t>(Phase::takeOff); p < plannedPhases; ++p) {
                const auto& phase = f.phases[p];
                if (phase.duration > 0.0)
                    flown += phase.distance * std::clamp((out.plan - phase.start) / phase.duration, 0.0, 1.0);
            }
            const double spare = free - flow * flown / back;
            here.turnBack = spare / (flow * (1.0 + ground / back));
        }
    }
    const UnitSpec& unit = *n.cockpit.fuel;
    here.verdict = watch::judgeFuelAhead(held - togo, here.must, ninety * off,
                                         fmt::format("Fuel when stopped {}, {} by the most careful sum; required {}.",
                                                     format(here.landing.value, unit), format(held - togo, unit),
                                                     format(here.must, unit)));

    // ---- what differs today
    const auto differs = [&](std::string what, double value, double deviation) {
        out.differs.push_back({std::move(what), value, deviation, std::abs(value) > 2.0 * deviation});
    };
    for (std::size_t e = 0; e < engines.size(); ++e) {
        const auto& today = out.today.engines[e];
        if (today.readings == 0)
            continue;
        const std::string who = n.engineCount() > 1 ? n.positions[e].name + ": " : "";
        for (const bool head : {true, false}) {
            const auto& needles = out.needles;
            const auto needle = std::find_if(needles.begin(), needles.end(), [&](const NeedleNow& x) {
                return x.engine == n.positions[e].id && (x.gauge == Gauge::oilTemperature) != head;
            });
            if (needle == needles.end())
                continue;
            const double by = needle->expected.value - needle->planned;
            const double deviation = (needle->expected.high - needle->expected.low) / (2.0 * ninety);
            differs(fmt::format("{}{} {} {} than planned", who, nameOf(needle->gauge).title,
                                format(std::abs(by), differenceUnit(n.cockpit)), by >= 0 ? "hotter" : "cooler"),
                    by, deviation);
        }
    }
    if (out.today.fuel.readings > 0)
        differs(fmt::format("Fuel: {} % {} than planned, ± {}", formatNumber(100.0 * std::abs(found - 1.0), 0),
                            found >= 1.0 ? "more" : "less", formatNumber(100.0 * ninety * sigma, 0)),
                found - 1.0, sigma);
    out.next = nextItems(a, sortie, plan, heard, course, fuel, out);
    return out;
}

} // namespace amber::aloft
