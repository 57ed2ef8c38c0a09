// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/best_cruise.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "air/wind.h"
#include "engine/fuel_grade.h"
#include "engine/leaning.h"
#include "units/roots.h"
#include "units/text.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace amber::advice {
namespace {
constexpr double leastCruiseBoost = 4.5e4; // Pa, below which nobody cruises
constexpr double kneeShare = 0.99;
constexpr double leastAboveField = 600.0; // m above the higher field
constexpr double highestTried = 10000.0;
constexpr int triedHeights = 5, triedRpm = 13, triedBoosts = 6;
} // namespace

CruiseSearch::CruiseSearch(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f)
    : a_(a), s_(s), f_(f), knock_(a.notes, a.model(), s.fuelGrade), range_(flight::cruiseRange(a.notes)) {
    const auto& cruise = f[Phase::cruise];
    const auto& first = f.samples[cruise.firstSample];
    const auto& last = f.samples[cruise.lastSample];
    conditions_.weight = Mass::si(0.5 * (first[Gauge::weight] + last[Gauge::weight]));
    conditions_.fuel = Volume::si(first[Gauge::fuel]);
    conditions_.grade = s.fuelGrade;
    conditions_.fuelDensity = f.fuelDensity;
    if (const auto g = a.notes.gauges.find(Gauge::chargeTemperature); g != a.notes.gauges.end())
        chargeMost_ = g->second.in(Phase::cruise).limitHigh;
    lowest_ = Length::si(std::max(s.day.elevation.si(), s.flight.toElevation.si()) + leastAboveField);
    // Up to where the strongest setting that may be held still keeps her level with a little to spare.
    highest_ = lowest_;
    for (double h = lowest_.si(); h <= highestTried; h += 500.0) {
        bool holds = false;
        for (std::size_t gear = 0; gear < range_.gears && !holds; ++gear)
            holds = at(Length::si(h), {range_.highest, {}, gear, Mixture::rich}).has_value();
        if (!holds)
            break;
        highest_ = Length::si(h);
    }
}

/// The air of one height, worked out once.
struct CruiseSearch::Level {
    Length height;
    flight::CruiseConditions c;
    Level(const CruiseSearch& search, Length h) : height(h), c(search.conditions_) {
        c.air = search.s_.day.at(search.s_.day.pressureAltitudeOf(h));
    }
};

std::optional<ManifoldPressure> CruiseSearch::most(Length height, const flight::LeverSetting& s) const {
    return most(Level(*this, height), s);
}

std::optional<ManifoldPressure> CruiseSearch::most(const Level& level, const flight::LeverSetting& s) const {
    const auto& c = level.c;
    if (a_.notes.engine.gears.empty())
        return flight::permittedCruiseBoost(a_, c, knock_, s);
    const auto notes = flight::notesCruiseBoost(a_.notes, c.grade, s, air::pressureAltitude(c.air.pressure));
    if (!notes)
        return std::nullopt;
    return std::min(flight::permittedCruiseBoost(a_, c, knock_, s), *notes);
}

double CruiseSearch::groundSpeed(Length height, double tas) const {
    const double field = s_.day.elevation.si();
    if (s_.flight.legs.empty())
        return air::groundSpeed(tas, flight::windAt(s_, height.si(), s_.flight.track, field));
    double distance = 0.0, time = 0.0;
    for (const auto& leg : s_.flight.legs) {
        const double v = air::groundSpeed(tas, flight::windAt(s_, height.si(), leg.track, field));
        if (v <= 0)
            return 0.0;
        distance += leg.distance.si();
        time += leg.distance.si() / v;
    }
    return time > 0 ? distance / time : tas;
}

std::optional<BestPoint> CruiseSearch::at(Length height, const flight::LeverSetting& wanted) const {
    const Level level(*this, height);
    return at(level, wanted, most(level, wanted));
}

std::optional<BestPoint> CruiseSearch::at(const Level& level, const flight::LeverSetting& wanted,
                                          std::optional<ManifoldPressure> allowed) const {
    const TypeNotes& n = a_.notes;
    const Length height = level.height;
    const auto& c = level.c;
    if (!allowed || wanted.rpm > Rotation::si(range_.highest.si() * 1.000001) ||
        wanted.rpm < Rotation::si(range_.lowest.si() * 0.999999))
        return std::nullopt;
    flight::LeverSetting s = wanted;
    if (!s.boost || *s.boost > *allowed)
        s.boost = *allowed;
    if (n.engine.gears.empty())
        s.boost.reset();
    BestPoint out;
    out.cruise = flight::cruisePoint(a_, c, knock_, s);
    const auto& p = out.cruise;
    if (!p.level || (s.mixture == Mixture::weak && !engine::weakAllowed(n, p.point.power)))
        return std::nullopt;
    if (!n.engine.gears.empty() && p.point.manifoldPressure > p.boundary)
        return std::nullopt;
    if (chargeMost_ && p.point.chargeTemperature.si() > *chargeMost_)
        return std::nullopt;
    out.height = height;
    out.most = n.engine.gears.empty() ? ManifoldPressure{} : *allowed;
    out.ground = groundSpeed(height, p.tas.si());
    if (out.ground <= 1.0 || p.burn <= 0)
        return std::nullopt;
    out.miles = out.ground / p.burn;
    if (s_.fuel.priceOfTime)
        out.price = (p.burn + s_.fuel.priceOfTime->si()) / out.ground;
    return out;
}

double CruiseSearch::worth(Goal goal, const BestPoint& p) const {
    switch (goal) {
    case Goal::miles:
        return p.miles;
    case Goal::hours:
        return 1.0 / p.cruise.burn;
    case Goal::price:
        return p.price > 0 ? 1.0 / p.price : 0.0;
    }
    return 0.0;
}

BestPoint CruiseSearch::improved(Goal goal, BestPoint best) const {
    // Pattern search: a step each way along height, rpm and boost, along the edge of the most boost too; halved when
    // none helps.
    struct Where {
        double height, rpm, share; // share of the most boost
    };
    const bool boosted = !a_.notes.engine.gears.empty();
    Where w{best.height.si(), best.cruise.setting.rpm.si(), 1.0};
    if (boosted && best.most.si() > 0)
        w.share = std::min(1.0, best.cruise.point.manifoldPressure.si() / best.most.si());
    const auto gear = best.cruise.setting.gear;
    const auto mixture = best.cruise.setting.mixture;
    const auto tryAt = [&](const Where& x) {
        const Level level(*this, Length::si(x.height));
        flight::LeverSetting s{Rotation::si(x.rpm), {}, gear, mixture};
        const auto allowed = most(level, s);
        if (boosted && allowed)
            s.boost = ManifoldPressure::si(allowed->si() * x.share);
        return at(level, s, allowed);
    };
    std::array<double, 3> step{(highest_.si() - lowest_.si()) / (2.0 * triedHeights),
                               (range_.highest.si() - range_.lowest.si()) / (2.0 * triedRpm), 0.08};
    const double finest = 1.0 / 64;
    // Across too: the best often lies on an edge (just level, most boost) that runs aslant.
    static constexpr std::array<std::array<double, 3>, 14> ways{{{1, 0, 0},
                                                                 {-1, 0, 0},
                                                                 {0, 1, 0},
                                                                 {0, -1, 0},
                                                                 {0, 0, 1},
                                                                 {0, 0, -1},
                                                                 {1, 1, 0},
                                                                 {-1, -1, 0},
                                                                 {1, -1, 0},
                                                                 {-1, 1, 0},
                                                                 {0, 1, -1},
                                                                 {0, -1, 1},
                                                                 {0.2, -0.2, 0},
                                                                 {-0.2, -0.05, 0}}};
    for (double scale = 1.0; scale > finest;) {
        bool better = false;
        for (const auto& way : ways) {
            Where x = w;
            x.height = std::clamp(x.height + way[0] * scale * step[0], lowest_.si(), highest_.si());
            x.rpm = std::clamp(x.rpm + way[1] * scale * step[1], range_.lowest.si(), range_.highest.si());
            x.share = std::min(x.share + way[2] * scale * step[2], 1.0);
            if (const auto p = tryAt(x); p && worth(goal, *p) > worth(goal, best) * (1.0 + 1e-6)) {
                best = *p;
                w = x;
                better = true;
            }
        }
        if (!better)
            scale *= 0.5;
    }
    return best;
}

std::optional<BestCruise::Curve> CruiseSearch::curveAt(Length height, std::vector<BestPoint>* all) const {
    const bool boosted = !a_.notes.engine.gears.empty(), onlyThrottle = a_.propeller.followsThrottle();
    // By the throttle alone the rpm is all there is to sweep, and the least that keeps her level is a sharp edge.
    const int revolutions = onlyThrottle ? 3 * triedRpm : triedRpm;
    const Level level(*this, height);
    struct Sweep {
        std::vector<BestPoint> points;
        std::size_t family; ///< gear and mixture
        int rpm;
    };
    std::vector<Sweep> sweeps;
    for (std::size_t gear = 0; gear < range_.gears; ++gear)
        for (const Mixture mixture : range_.mixtures)
            for (int r = 0; r <= revolutions; ++r) {
                const std::size_t family = gear * 2 + (mixture == Mixture::weak ? 1 : 0);
                flight::LeverSetting s{
                    Rotation::si(range_.lowest.si() + (range_.highest.si() - range_.lowest.si()) * r / revolutions),
                    {},
                    gear,
                    mixture};
                const auto allowed = most(level, s);
                if (!allowed)
                    continue;
                if (!onlyThrottle || sweeps.empty() || sweeps.back().family != family)
                    sweeps.push_back({{}, family, r}); // by the throttle alone the rpm is what is swept
                const double wide =
                    boosted ? std::min(allowed->si(), engine::operate(a_.model(), {s.rpm, std::nullopt, gear,
                                                                                   level.c.air, Speed::si(60), mixture})
                                                          .manifoldPressure.si())
                            : 0.0;
                if (boosted && wide < leastCruiseBoost)
                    continue;
                for (int b = boosted && !onlyThrottle ? 0 : triedBoosts; b <= triedBoosts; ++b) {
                    if (boosted)
                        s.boost = ManifoldPressure::si(leastCruiseBoost + (wide - leastCruiseBoost) * b / triedBoosts);
                    if (const auto p = at(level, s, allowed)) {
                        sweeps.back().points.push_back(*p);
                        if (all)
                            all->push_back(*p);
                    }
                }
            }
    BestCruise::Curve curve{height, {}};
    double slow = 1e9, fast = 0.0;
    for (const auto& sweep : sweeps)
        for (const auto& p : sweep.points) {
            slow = std::min(slow, p.cruise.tas.si());
            fast = std::max(fast, p.cruise.tas.si());
        }
    // At each speed the most miles that any sweep of the boost gives, between its points; between three neighbouring
    // revolutions by a parabola.
    constexpr int places = 30;
    for (int i = 0; i <= places && fast > 0; ++i) {
        const double tas = slow + (fast - slow) * i / places;
        std::vector<std::optional<BestPoint>> here(sweeps.size());
        std::optional<std::size_t> top;
        for (std::size_t w = 0; w < sweeps.size(); ++w) {
            const auto& points = sweeps[w].points;
            for (std::size_t k = 0; k < points.size(); ++k) {
                const auto& to = points[k];
                const auto& from = points[k > 0 ? k - 1 : 0];
                const double a = from.cruise.tas.si(), b = to.cruise.tas.si();
                if (tas < std::min(a, b) - 1e-9 || tas > std::max(a, b) + 1e-9)
                    continue;
                const double x = b != a ? (tas - a) / (b - a) : 1.0;
                BestPoint p = x < 0.5 ? from : to;
                p.miles = from.miles + x * (to.miles - from.miles);
                p.ground = from.ground + x * (to.ground - from.ground);
                p.cruise.tas = Speed::si(tas);
                p.cruise.burn = from.cruise.burn + x * (to.cruise.burn - from.cruise.burn);
                const double before = from.cruise.point.manifoldPressure.si();
                p.cruise.point.manifoldPressure =
                    ManifoldPressure::si(before + x * (to.cruise.point.manifoldPressure.si() - before));
                if (!here[w] || p.miles > here[w]->miles)
                    here[w] = p;
            }
            if (here[w] && (!top || here[w]->miles > here[*top]->miles))
                top = w;
        }
        if (!top)
            continue;
        BestPoint p = *here[*top];
        if (*top > 0 && *top + 1 < sweeps.size() && sweeps[*top - 1].family == sweeps[*top].family &&
            sweeps[*top + 1].family == sweeps[*top].family && here[*top - 1] && here[*top + 1]) {
            const double left = here[*top - 1]->miles, middle = p.miles, right = here[*top + 1]->miles;
            const double bend = left - 2.0 * middle + right;
            if (bend < 0)
                p.miles = middle - (left - right) * (left - right) / (8.0 * bend);
        }
        curve.points.push_back(p);
    }
    if (curve.points.empty())
        return std::nullopt;
    return curve;
}

BestCruise CruiseSearch::search() const {
    const TypeNotes& n = a_.notes;
    BestCruise out;
    out.windKnown =
        s_.flight.aloft && (s_.flight.legs.empty() ? s_.flight.track.has_value()
                                                   : std::all_of(s_.flight.legs.begin(), s_.flight.legs.end(),
                                                                 [](const Leg& l) { return l.track.has_value(); }));
    const bool boosted = !n.engine.gears.empty();
    // Of each gear and mixture the best of every goal: where the search is improved from.
    struct Seed {
        std::optional<BestPoint> of[3];
    };
    std::vector<Seed> seeds(range_.gears * 2);
    std::vector<double> levels;
    for (int i = 0; i < triedHeights; ++i)
        levels.push_back(lowest_.si() + (highest_.si() - lowest_.si()) * i / std::max(1, triedHeights - 1));
    // The planned height beside them, in place of the nearest.
    const double planned = std::clamp(s_.flight.cruiseHeight.si(), lowest_.si(), highest_.si());
    *std::min_element(levels.begin(), levels.end(),
                      [&](double x, double y) { return std::abs(x - planned) < std::abs(y - planned); }) = planned;
    for (const double level : levels) {
        std::vector<BestPoint> all;
        if (auto curve = curveAt(Length::si(level), &all))
            out.curves.push_back(std::move(*curve));
        for (auto& p : all) {
            auto& seed = seeds[p.cruise.setting.gear * 2 + (p.cruise.setting.mixture == Mixture::weak ? 1 : 0)];
            for (const Goal goal : {Goal::miles, Goal::hours, Goal::price})
                if (auto& best = seed.of[static_cast<int>(goal)]; !best || worth(goal, p) > worth(goal, *best))
                    best = p;
        }
    }
    std::sort(out.curves.begin(), out.curves.end(),
              [](const BestCruise::Curve& x, const BestCruise::Curve& y) { return x.height < y.height; });
    const auto best = [&](Goal goal) -> std::optional<BestPoint> {
        std::vector<const BestPoint*> from;
        for (const auto& seed : seeds)
            if (const auto& p = seed.of[static_cast<int>(goal)]; p && worth(goal, *p) > 0)
                from.push_back(&*p);
        std::sort(from.begin(), from.end(),
                  [&](const BestPoint* x, const BestPoint* y) { return worth(goal, *x) > worth(goal, *y); });
        std::optional<BestPoint> found;
        for (const auto* p : from) {
            if (worth(goal, *p) < 0.93 * worth(goal, *from.front()))
                break; // a grid's width behind: no gear or mixture makes that up
            auto better = improved(goal, *p);
            // Where rpm and speed settle on each other the edge of level flight is ragged: looked over once more,
            // closely.
            if (a_.propeller.followsThrottle()) {
                auto seen = better;
                constexpr int looksUp = 14, looksAlong = 30;
                for (int h = 0; h <= looksUp; ++h)
                    for (int r = 0; r <= looksAlong; ++r) {
                        const Length height =
                            Length::si(lowest_.si() + (highest_.si() - lowest_.si()) * 0.5 * h / looksUp);
                        const auto q =
                            at(height, {Rotation::si(better.cruise.setting.rpm.si() * (0.96 + 0.08 * r / looksAlong)),
                                        {},
                                        p->cruise.setting.gear,
                                        p->cruise.setting.mixture});
                        if (q && worth(goal, *q) > worth(goal, seen))
                            seen = *q;
                    }
                better = improved(goal, seen);
            }
            if (!found || worth(goal, better) > worth(goal, *found))
                found = better;
        }
        return found;
    };
    out.miles = best(Goal::miles);
    out.hours = best(Goal::hours);
    if (out.miles) // the best on a line of its own
        if (auto curve = curveAt(out.miles->height, nullptr))
            if (std::none_of(out.curves.begin(), out.curves.end(), [&](const BestCruise::Curve& c) {
                    return std::abs(c.height.si() - curve->height.si()) < 100.0;
                })) {
                out.curves.push_back(std::move(*curve));
                std::sort(out.curves.begin(), out.curves.end(),
                          [](const BestCruise::Curve& x, const BestCruise::Curve& y) { return x.height < y.height; });
            }
    if (s_.fuel.priceOfTime)
        out.price = best(Goal::price);
    if (out.miles) {
        // The knee: faster at the same height until a hundredth of the miles is given away.
        const BestPoint& top = *out.miles;
        out.knee = top;
        constexpr double low = 0.0, high = 1.0;
        const auto faster = [&](double x) -> std::optional<BestPoint> {
            std::optional<BestPoint> most1;
            flight::LeverSetting s = top.cruise.setting;
            for (int r = 0; r <= 6; ++r) {
                s.rpm = Rotation::si(top.cruise.setting.rpm.si() +
                                     (range_.highest.si() - top.cruise.setting.rpm.si()) * r / 6.0 * x);
                s.boost = {};
                if (const auto allowed = most(top.height, s); allowed && boosted) {
                    const double base = top.cruise.point.manifoldPressure.si();
                    s.boost = ManifoldPressure::si(base + (allowed->si() - base) * x);
                }
                if (const auto p = at(top.height, s);
                    p && p->miles >= kneeShare * top.miles && (!most1 || p->cruise.tas > most1->cruise.tas))
                    most1 = p;
            }
            return most1;
        };
        roots::turn(
            [&](double x) {
                const auto p = faster(x);
                const bool better = p && p->cruise.tas >= out.knee->cruise.tas;
                if (better)
                    out.knee = p;
                return !better;
            },
            low, high, 7);
    }
    const auto& cruise = f_[Phase::cruise];
    flight::CruiseConditions c = conditions_;
    const auto& m = f_.samples[cruise.firstSample];
    c.air = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m[Gauge::height])));
    BestPoint now;
    now.cruise = flight::cruisePoint(
        a_, c, knock_, {cruise.setting.rpm, cruise.setting.boost, cruise.setting.gear, cruise.setting.mixture});
    now.height = Length::si(m[Gauge::height]);
    if (now.cruise.level && now.cruise.burn > 0) {
        now.ground = groundSpeed(now.height, now.cruise.tas.si());
        now.miles = now.ground / now.cruise.burn;
        if (s_.fuel.priceOfTime)
            now.price = (now.cruise.burn + s_.fuel.priceOfTime->si()) / std::max(1.0, now.ground);
        out.now = now;
    }
    if (out.miles && n.engine.gears.size() > 1) {
        // Why that gear: the same speed in the others.
        const auto& top = *out.miles;
        const auto& name = n.engine.gears[top.cruise.setting.gear].name;
        out.whyGear = fmt::format("{} gear: no other gives as many miles at any height it reaches.", name);
        for (std::size_t g = 0; g < n.engine.gears.size(); ++g) {
            if (g == top.cruise.setting.gear)
                continue;
            std::optional<BestPoint> other;
            for (const auto mixture : {0, 1})
                if (const auto& p = seeds[g * 2 + static_cast<std::size_t>(mixture)].of[0];
                    p && (!other || p->miles > other->miles))
                    other = p;
            if (other)
                out.whyGear =
                    fmt::format("{} gear: {} gives {:.0f} % fewer miles at its best, {}.", name, n.engine.gears[g].name,
                                std::max(0.0, 100.0 * (1.0 - other->miles / top.miles)),
                                g > top.cruise.setting.gear ? "for the blower takes its power first"
                                                            : "for it has no boost left up there");
        }
    }
    return out;
}

std::vector<LegChoice> leastFuelForLeg(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    std::vector<LegChoice> out;
    const CruiseSearch search(a, s, f);
    const auto best = search.search();
    for (const auto& curve : best.curves) {
        const auto top = std::max_element(curve.points.begin(), curve.points.end(),
                                          [](const BestPoint& x, const BestPoint& y) { return x.miles < y.miles; });
        const Sortie trial = taken(a.notes, s, *top, true);
        if (!checkSortie(trial, a.notes, "").empty())
            continue;
        const auto flown = flight::fly(a, trial);
        if (!flown.reachedHeight || flown[Phase::cruise].duration < 60.0)
            continue; // no room for climb and let-down in this distance
        out.push_back({curve.height, *top, flown.fuelAtStart - flown.fuelAtEnd,
                       flown[Phase::stop].start - flown[Phase::start].start});
    }
    std::sort(out.begin(), out.end(), [](const LegChoice& x, const LegChoice& y) { return x.fuel < y.fuel; });
    return out;
}

Sortie taken(const TypeNotes& n, Sortie s, const BestPoint& p, bool heightToo) {
    const auto& set = p.cruise.setting;
    s.flight.cruiseRpm = set.rpm;
    s.flight.cruiseBoost = n.engine.gears.empty() ? std::nullopt : std::optional(p.cruise.point.manifoldPressure);
    s.flight.cruiseMixture = set.mixture;
    s.flight.cruiseGear = n.engine.gears.size() > 1 ? n.engine.gears[set.gear].name : std::string();
    if (heightToo)
        s.flight.cruiseHeight = p.height;
    return s;
}

std::string gradeAbove(const TypeNotes& n, const std::string& grade) {
    const auto number = engine::gradeNumber(grade);
    if (!number || n.fuel.grades.empty() ||
        std::find(n.fuel.grades.begin(), n.fuel.grades.end(), grade) != n.fuel.grades.end())
        return {};
    for (const auto& known : n.fuel.grades)
        if (const auto k = engine::gradeNumber(known); k && *k >= *number)
            return {};
    return fmt::format(
        "Grade {} is above the notes': it brings no boost beyond theirs, only detonation margin. Its lead "
        "fouls the plugs of an engine that idles slowly: warm up and taxi brisker, clear them before the "
        "run-up and after a long let-down.",
        grade);
}

} // namespace amber::advice
