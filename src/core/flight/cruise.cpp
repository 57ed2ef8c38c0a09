// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/cruise.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/leaning.h"
#include "engine/permitted_boost.h"
#include "units/lookup.h"
#include "units/roots.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::flight {
namespace {
constexpr double rpmStep = 50.0 / 60.0; // between the rpm that are tried
constexpr double leastBoost = 4e4;      // Pa, below which nobody cruises
constexpr double hair = 100.0;          // Pa, reading of a boost gauge
constexpr double leastMargin = 500.0;   // Pa that a candidate keeps from the boundary

/// Time that a rating may be held, s; without limit more than any sortie.
double allowance(const Rating& r) {
    return r.minutes ? r.minutes->si() : 1e9;
}

double engines(const powerplant::Aircraft& a) {
    return static_cast<double>(a.notes.engineCount());
}

/// Speed and the setting that goes with it: ram depends on the speed, speed on the power.
CruisePoint flown(const powerplant::Aircraft& a, const CruiseConditions& c, const LeverSetting& setting) {
    CruisePoint out;
    out.setting = setting;
    // With a governor the speed matters only through ram; without one it decides the rpm: begin slow and let it settle.
    const auto climb = std::find_if(a.notes.speeds.entries.begin(), a.notes.speeds.entries.end(),
                                    [](const SpeedEntry& e) { return e.id == "climb"; });
    Speed ias = a.propeller.followsThrottle() ? climb->heavy : Speed::si(60);
    for (int round = 0; round < (a.propeller.followsThrottle() ? 8 : 3); ++round) {
        LeverSetting s = setting;
        if (a.propeller.followsThrottle()) {
            const auto both = engine::agree(a.model(), a.propeller.coarse,
                                            {setting.rpm, setting.boost, setting.gear, c.air, ias, setting.mixture});
            s.rpm = both.rpm;
            if (both.throttled || setting.boost)
                s.boost = both.boost;
        }
        out.setting = s;
        out.point = engine::operate(a.model(), {s.rpm, s.boost, s.gear, c.air, ias, s.mixture});
        const auto level = levelSpeed(a, out.point.power.si() * engines(a), c.weight, c.air);
        out.level = level.has_value();
        if (!level)
            break;
        out.tas = *level;
        ias = air::calibratedAirspeed(*level, c.air.pressure, c.air.temperature);
    }
    out.burn = out.point.fuelFlow.si() / (c.fuelDensity > 0 ? c.fuelDensity : a.notes.fuel.density) * engines(a);
    out.endurance = out.burn > 0 ? c.fuel.si() / out.burn : 0.0;
    out.range = out.endurance * out.tas.si();
    return out;
}

double asked(Ask ask, const CruisePoint& p) {
    switch (ask) {
    case Ask::power:
        return p.point.power.si();
    case Ask::burn:
        return p.burn;
    case Ask::airspeed:
        return p.level ? p.tas.si() : 0.0;
    case Ask::endurance:
        return p.endurance;
    case Ask::range:
        return p.level ? p.range : 0.0;
    }
    return 0.0;
}

/// Highest rating without a limit of time: what may be held in the cruise.
const Rating& continuous(const TypeNotes& n) {
    const Rating* best = nullptr;
    for (const auto& r : n.ratings)
        if (!r.minutes && (!best || r.rpm > best->rpm))
            best = &r;
    return best ? *best : n.ratings.back();
}
} // namespace

CruisePoint cruisePoint(const powerplant::Aircraft& a, const CruiseConditions& c, const engine::KnockBoundary& knock,
                        const LeverSetting& setting) {
    CruisePoint p = flown(a, c, setting);
    p.boundary = knock.permitted(engine::Demand{
        p.setting.rpm, p.setting.boost, p.setting.gear, c.air,
        p.level ? air::calibratedAirspeed(p.tas, c.air.pressure, c.air.temperature) : Speed{}, p.setting.mixture});
    return p;
}

ManifoldPressure permittedCruiseBoost(const powerplant::Aircraft& a, const CruiseConditions& c,
                                      const engine::KnockBoundary& knock, const LeverSetting& s) {
    const TypeNotes& n = a.notes;
    const Rating& rating = continuous(n);
    // (The cruise's own boost is what the notes prefer: a question may ask for more.)
    const engine::BoostAt at{s.gear, air::pressureAltitude(c.air.pressure), {}, {}};
    double most = engine::permittedBoost(n, rating, c.grade, at).boost.value_or(ManifoldPressure::si(4e5)).si();
    if (const auto g = n.gauges.find(Gauge::boost); g != n.gauges.end())
        if (const auto limit = g->second.in(Phase::cruise).limitHigh)
            most = std::min(most, *limit);
    const auto boundary = knock.permitted(engine::Demand{s.rpm, std::nullopt, s.gear, c.air, Speed::si(60), s.mixture});
    return ManifoldPressure::si(std::min(most, n.engine.gears.empty() ? 4e5 : boundary.si() - leastMargin));
}

std::optional<ManifoldPressure> notesCruiseBoost(const TypeNotes& n, const std::string& grade, const LeverSetting& s,
                                                 Length pressureAltitude) {
    std::vector<std::pair<double, double>> points; // rpm, Pa
    for (const auto& r : n.ratings)
        if (!r.minutes && !r.water && r.mixture == s.mixture)
            if (const auto most = engine::permittedBoost(n, r, grade, {s.gear, pressureAltitude, {}, {}}).boost)
                points.emplace_back(r.rpm.si(), most->si());
    if (points.empty())
        return std::nullopt;
    std::sort(points.begin(), points.end());
    const double rpm = s.rpm.si();
    if (rpm <= points.front().first)
        return ManifoldPressure::si(points.front().second * rpm / points.front().first);
    // Of several at one rpm, sorted, the strongest.
    for (std::size_t i = points.size(); i-- > 1;)
        if (points[i].first == points[i - 1].first)
            points.erase(points.begin() + static_cast<std::ptrdiff_t>(i) - 1);
    return ManifoldPressure::si(lookUp(points, rpm));
}

const Rating* coveringRating(const TypeNotes& n, const std::string& grade, const LeverSetting& s,
                             ManifoldPressure boost, bool water, Length pressureAltitude) {
    constexpr double rpmReading = 1.002; // share, of a tachometer
    const Rating* covers = nullptr;
    for (const auto& r : n.ratings) {
        if ((r.water && !water) || s.rpm.si() > r.rpm.si() * rpmReading)
            continue;
        const auto most = engine::permittedBoost(n, r, grade, {s.gear, pressureAltitude, {}, {}}).boost;
        if (most && boost.si() > most->si() + hair)
            continue;
        if (!covers || allowance(r) > allowance(*covers) || (allowance(r) == allowance(*covers) && r.rpm < covers->rpm))
            covers = &r;
    }
    return covers;
}

const Rating& ratingSpent(const TypeNotes& n, const std::string& grade, const LeverSetting& s, ManifoldPressure boost,
                          Length pressureAltitude) {
    if (const Rating* covers = coveringRating(n, grade, s, boost, false, pressureAltitude))
        return *covers;
    return *std::min_element(n.ratings.begin(), n.ratings.end(), [](const Rating& a, const Rating& b) {
        return allowance(a) != allowance(b) ? allowance(a) < allowance(b) : a.rpm > b.rpm;
    });
}

CruiseRange cruiseRange(const TypeNotes& n) {
    const Rating& rating = continuous(n);
    double highest = rating.rpm.si(), lowest = 0.5 * highest;
    if (const auto g = n.gauges.find(Gauge::rpm); g != n.gauges.end()) {
        const Band& b = g->second.in(Phase::cruise);
        highest = std::min(highest, b.limitHigh.value_or(highest));
        if (b.normalHigh)
            highest = std::min(highest, *b.normalHigh);
        lowest = std::max(
            {lowest, b.limitLow.value_or(0.0), n.phases.contains(Phase::cruise) ? b.normalLow.value_or(0.0) : 0.0});
    }
    std::vector<Mixture> mixtures{Mixture::rich};
    if (std::any_of(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.mixture == Mixture::weak; }))
        mixtures.push_back(Mixture::weak);
    return {Rotation::si(lowest), Rotation::si(highest), mixtures, std::max<std::size_t>(1, n.engine.gears.size())};
}

CruiseAnswer cruiseCandidates(const powerplant::Aircraft& a, const CruiseConditions& c, Ask ask, double value,
                              std::size_t most) {
    const TypeNotes& n = a.notes;
    CruiseAnswer answer;
    const engine::KnockBoundary knock(n, a.model(), c.grade);
    const CruiseRange range = cruiseRange(n);
    const double highest = range.highest.si(), lowest = range.lowest.si();
    const auto& mixtures = range.mixtures;
    // Endurance and range grow as the power falls.
    const bool falling = ask == Ask::endurance || ask == Ask::range;
    double best = 0.0;
    // With a fixed or two-position propeller the throttle is the only lever: one rpm answers.
    if (a.propeller.followsThrottle())
        for (const Mixture mixture : mixtures) {
            LeverSetting s{Rotation::si(highest),
                           permittedCruiseBoost(a, c, knock, {Rotation::si(highest), {}, 0, mixture}), 0, mixture};
            if (n.engine.gears.empty())
                s.boost.reset();
            const auto miss = [&](double rpm) {
                s.rpm = Rotation::si(rpm);
                return (falling ? -1.0 : 1.0) * (asked(ask, flown(a, c, s)) - value);
            };
            const double atHigh = miss(highest), atLow = miss(lowest);
            best = std::max(best, asked(ask, flown(a, c, s)));
            if (atHigh < 0 || atLow > 0)
                continue;
            const auto b = roots::bracket(miss, lowest, highest, atLow, atHigh, 0.005);
            s.rpm = Rotation::si(falling ? b.low : b.high);
            CruisePoint p = cruisePoint(a, c, knock, s);
            if (p.level && (mixture == Mixture::rich || engine::weakAllowed(n, p.point.power)))
                answer.candidates.push_back(std::move(p));
        }
    for (std::size_t gear = 0; !a.propeller.followsThrottle() && gear < std::max<std::size_t>(1, n.engine.gears.size());
         ++gear)
        for (const Mixture mixture : mixtures)
            for (double rpm = std::ceil(lowest / rpmStep) * rpmStep; rpm <= highest + 1e-9; rpm += rpmStep) {
                LeverSetting s{Rotation::si(rpm), {}, gear, mixture};
                const double top = permittedCruiseBoost(a, c, knock, s).si();
                const double wide =
                    engine::operate(a.model(), {s.rpm, std::nullopt, gear, c.air, Speed::si(60), mixture})
                        .manifoldPressure.si();
                const double high = std::min(top, wide);
                if (high < leastBoost)
                    continue;
                const auto miss = [&](double boost) {
                    s.boost = ManifoldPressure::si(boost);
                    return (falling ? -1.0 : 1.0) * (asked(ask, flown(a, c, s)) - value);
                };
                const double atHigh = miss(high);
                best = std::max(best, asked(ask, flown(a, c, s)));
                if (atHigh < 0)
                    continue;
                double low = leastBoost, atLow = miss(low);
                if (ask == Ask::range) {
                    // Range falls off again at too little power: start from the best of a few settings.
                    double least = 1e18;
                    for (int i = 0; i < 8; ++i) {
                        const double p = leastBoost + (high - leastBoost) * i / 8.0, m = miss(p);
                        if (m < least) {
                            least = m;
                            low = p;
                            atLow = m;
                        }
                    }
                }
                if (atLow > 0 || low >= high)
                    continue;
                const auto b = roots::bracket(miss, low, high, atLow, atHigh, 20.0);
                s.boost = ManifoldPressure::si(falling ? b.low : b.high);
                CruisePoint p = cruisePoint(a, c, knock, s);
                if (!p.level || (mixture == Mixture::weak && !engine::weakAllowed(n, p.point.power)))
                    continue;
                answer.candidates.push_back(std::move(p));
            }
    // The search reckons with a boundary at a middling speed; what the final speed brings nearer to it is not offered.
    if (!n.engine.gears.empty())
        std::erase_if(answer.candidates, [](const CruisePoint& p) { return p.point.manifoldPressure > p.boundary; });
    for (auto& p : answer.candidates)
        if (const auto allowed = notesCruiseBoost(n, c.grade, p.setting, air::pressureAltitude(c.air.pressure)))
            p.withinNotes = p.point.manifoldPressure.si() <= allowed->si() + hair;
    // What the notes allow comes first. Burn decides; among those within half a percent of the least of them the lower
    // gear, then the lower rpm.
    auto& all = answer.candidates;
    const auto cost = [&](const CruisePoint& p) { return falling ? -p.tas.si() : p.burn; };
    std::stable_sort(all.begin(), all.end(), [&](const CruisePoint& x, const CruisePoint& y) {
        return x.withinNotes != y.withinNotes ? x.withinNotes : cost(x) < cost(y);
    });
    for (auto first = all.begin(); first != all.end();) {
        const double least = cost(*first);
        const auto last = std::find_if(first, all.end(), [&](const CruisePoint& p) {
            return p.withinNotes != first->withinNotes || cost(p) - least > 0.005 * std::abs(least);
        });
        std::stable_sort(first, last, [](const CruisePoint& x, const CruisePoint& y) {
            return x.setting.gear != y.setting.gear ? x.setting.gear < y.setting.gear : x.setting.rpm < y.setting.rpm;
        });
        first = last;
    }
    // Neighbours of one that is already listed teach nothing.
    std::vector<CruisePoint> kept;
    for (auto& p : answer.candidates) {
        const bool near = std::any_of(kept.begin(), kept.end(), [&](const CruisePoint& k) {
            return k.setting.gear == p.setting.gear && k.setting.mixture == p.setting.mixture &&
                   k.withinNotes == p.withinNotes &&
                   std::abs(k.setting.rpm.si() - p.setting.rpm.si()) < 2 * rpmStep - 1e-9;
        });
        if (!near && kept.size() < most)
            kept.push_back(std::move(p));
    }
    answer.candidates = std::move(kept);
    if (answer.candidates.empty()) {
        const AskName& name = nameOf(ask);
        answer.why = best > 0 && !falling && best < value
                         ? fmt::format("{} is more than any permitted setting gives here.", name.title)
                         : fmt::format("No permitted setting gives this {} here.", name.key);
        return answer;
    }
    const UnitSpec& unit = n.unitOf(Gauge::boost);
    const CruisePoint& first = answer.candidates.front();
    for (auto& p : answer.candidates) {
        const bool weak = p.setting.mixture == Mixture::weak;
        std::string why;
        if (&p == &answer.candidates.front())
            why = fmt::format("{}{}least {}", n.engine.gears.size() > 1 && p.setting.gear == 0 ? "low gear, " : "",
                              weak ? "weak, " : "", falling ? "loss of speed" : "fuel");
        else if (p.setting.gear > first.setting.gear)
            why = "higher gear: blower work";
        else if (p.setting.mixture != first.setting.mixture)
            why = weak ? "weak, at more cost" : "rich: cooler, more fuel";
        else if (p.setting.rpm > first.setting.rpm)
            why = "more rpm, more friction";
        else
            why = "less rpm";
        if (!n.engine.gears.empty())
            why += fmt::format("; {} inside the boundary",
                               format(p.boundary.si() - p.point.manifoldPressure.si() + unit.offset, unit));
        p.why = p.withinNotes
                    ? std::move(why)
                    : fmt::format(
                          "!  beyond the notes, {} at this rpm: by the model only, ask your engineer",
                          format(notesCruiseBoost(n, c.grade, p.setting, air::pressureAltitude(c.air.pressure))->si(),
                                 unit));
    }
    return answer;
}

} // namespace amber::flight
