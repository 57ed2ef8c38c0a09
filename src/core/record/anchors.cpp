// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/anchors.h"
#include "flight/flown.h"
#include <algorithm>
#include <cmath>

namespace amber::record {
namespace {
constexpr std::int64_t openingUp = 20'000;                  // ms, from the first movement to the rating
constexpr double sure = 5.0;                                // s, that it must last
constexpr double idleUnknown = 10.0;                        // rev/s
constexpr double ofFullRating = 0.94, boostWithin = 7000.0; // of its rpm; Pa
constexpr double ofGreatest = 0.97;
constexpr double level = 60.0;    // m
constexpr double landing = 300.0; // m over where it ended
constexpr double taxiing = 20.0;  // m/s

double rpmOf(const RunTrace& t, std::size_t engine, std::size_t i) {
    return t.engines[engine][i][Gauge::rpm];
}
const Rating* takeOffRating(const TypeNotes& notes) {
    return notes.ratings.empty() ? nullptr : &flight::ratingFor(notes, {}, Phase::takeOff);
}
/// The first moment from which it has been so for some seconds.
template <class Is>
std::optional<std::size_t> firstLasting(const RunTrace& t, std::size_t from, const Is& is) {
    std::optional<std::size_t> since;
    for (std::size_t i = from; i < t.at.size(); ++i) {
        if (!is(i)) {
            since.reset();
            continue;
        }
        if (!since)
            since = i;
        if (t.seconds(i) - t.seconds(*since) >= sure)
            return since;
    }
    return std::nullopt;
}
bool atTakeOff(const RunTrace& t, const Rating& rating, std::size_t i) {
    bool any = false;
    for (const auto& engine : t.engines) {
        const double rpm = engine[i][Gauge::rpm], boost = engine[i][Gauge::boost];
        if (std::isnan(rpm))
            continue;
        any = true;
        if (rpm < ofFullRating * rating.rpm.si() ||
            (rating.boost && !std::isnan(boost) && boost < rating.boost->si() - boostWithin))
            return false;
    }
    return any;
}
} // namespace

double idleOf(const TypeNotes& notes) {
    return notes.warmUp.leastRpm ? notes.warmUp.leastRpm->si() : idleUnknown;
}

Anchors findAnchors(const RunTrace& t, const TypeNotes& notes) {
    Anchors out;
    out.firstFire.resize(std::max(t.engines.size(), notes.positions.size()));
    out.stopped.resize(out.firstFire.size());
    if (t.empty())
        return out;
    const double idle = idleOf(notes);
    for (std::size_t e = 0; e < t.engines.size(); ++e) {
        if (const auto fire = firstLasting(t, 0, [&](std::size_t i) { return rpmOf(t, e, i) >= 0.5 * idle; }))
            out.firstFire[e] = t.at[*fire];
        for (std::size_t i = t.at.size(); i-- > 0;)
            if (rpmOf(t, e, i) >= 0.25 * idle) {
                out.stop = std::max(out.stop.value_or(t.at[i]), t.at[i]);
                break;
            }
    }
    const Rating* rating = takeOffRating(notes);
    auto power = rating ? firstLasting(t, 0, [&](std::size_t i) { return atTakeOff(t, *rating, i); })
                        : std::optional<std::size_t>();
    if (!power) {
        double most = 0.0;
        const auto all = [&](std::size_t i) { // rpm and boost, as far as they are seen
            double sum = 0.0;
            for (const auto& engine : t.engines)
                if (const double rpm = engine[i][Gauge::rpm]; !std::isnan(rpm))
                    sum += rpm * (std::isnan(engine[i][Gauge::boost]) ? 1.0 : engine[i][Gauge::boost]);
            return sum;
        };
        for (std::size_t i = 0; i < t.at.size(); ++i)
            most = std::max(most, all(i));
        if (most > 0.0)
            power = firstLasting(t, 0, [&](std::size_t i) { return all(i) >= ofGreatest * most; });
    }
    if (power)
        out.takeOffPower = t.at[*power];
    double top = -HUGE_VAL;
    for (std::size_t i = power.value_or(0); i < t.at.size(); ++i)
        if (const double h = t.engines.front()[i][Gauge::height]; h > top)
            top = h;
    if (power && std::isfinite(top) && top > t.engines.front()[*power][Gauge::height] + landing)
        for (std::size_t i = *power; i < t.at.size(); ++i)
            if (t.engines.front()[i][Gauge::height] >= top - level) {
                out.topOfClimb = out.topOfClimb.value_or(t.at[i]);
                out.topOfDescent = t.at[i];
            }
    return out;
}

std::vector<AnchorAt> listed(const Anchors& a, const TypeNotes& notes) {
    std::vector<AnchorAt> out;
    for (const auto& row : momentRows)
        if (row.at) {
            if (const auto& at = a.*row.at)
                out.push_back({&row, {}, *at});
        } else {
            for (std::size_t e = 0; e < (a.*row.each).size() && e < notes.positions.size(); ++e)
                if (const auto& at = (a.*row.each)[e])
                    out.push_back({&row, notes.positions[e].id, *at});
        }
    std::stable_sort(out.begin(), out.end(), [](const AnchorAt& x, const AnchorAt& y) { return x.at < y.at; });
    return out;
}

Anchors anchorsOf(const RunTrace& trace, const TypeNotes& notes, const std::vector<Standing>& all, std::int64_t began) {
    Anchors out = findAnchors(trace, notes);
    for (const auto& s : all)
        for (const Entry* e : s.last) {
            const auto* row = momentOf(e->what);
            if (!row || e->kind != Entry::Kind::figure)
                continue;
            const std::int64_t at = began + static_cast<std::int64_t>(std::llround(e->value * 1000.0));
            if (row->at)
                out.*row->at = at;
            for (std::size_t i = 0; row->each && i < notes.positions.size() && i < (out.*row->each).size(); ++i)
                if (notes.positions[i].id == e->engine)
                    (out.*row->each)[i] = at;
        }
    return out;
}

std::vector<Phase> phasesOf(const RunTrace& t, const Anchors& a, const TypeNotes& notes) {
    std::vector<Phase> out(t.at.size(), Phase::start);
    if (t.empty())
        return out;
    const Rating* rating = takeOffRating(notes);
    std::optional<std::int64_t> fired;
    for (const auto& f : a.firstFire)
        if (f && (!fired || *f < *fired))
            fired = f;
    double field = NAN; // where it ended
    for (std::size_t i = t.at.size(); i-- > 0 && std::isnan(field);)
        field = t.engines.front()[i][Gauge::height];
    bool leftRating = false, low = false, landed = false;
    for (std::size_t i = 0; i < t.at.size(); ++i) {
        const std::int64_t at = t.at[i];
        if (!fired || at < *fired)
            continue;
        if (!a.takeOffPower || at < *a.takeOffPower) {
            bool high = false;
            for (std::size_t e = 0; e < t.engines.size(); ++e)
                high = high || rpmOf(t, e, i) >= notes.runUp.highPowerFrom.si();
            out[i] = high ? Phase::runUp : Phase::warmUp;
            continue;
        }
        if (a.topOfDescent && at > *a.topOfDescent) {
            const double h = t.engines.front()[i][Gauge::height], ias = t.engines.front()[i][Gauge::airspeed];
            low = low || (!std::isnan(h) && h < field + landing);
            landed = landed || (low && !std::isnan(ias) && ias < taxiing);
            out[i] = landed ? Phase::stop : low ? Phase::landing : Phase::letDown;
            continue;
        }
        leftRating = leftRating || !rating || !atTakeOff(t, *rating, i);
        out[i] = !leftRating ? Phase::takeOff : a.topOfClimb && at < *a.topOfClimb ? Phase::climb : Phase::cruise;
    }
    // Opening up for the take-off passes through the run-up's rpm: it is the take-off's.
    if (a.takeOffPower)
        for (auto i =
                 static_cast<std::size_t>(std::lower_bound(t.at.begin(), t.at.end(), *a.takeOffPower) - t.at.begin());
             i-- > 0 && out[i] == Phase::runUp && *a.takeOffPower - t.at[i] <= openingUp &&
             !(rating && atTakeOff(t, *rating, i));)
            out[i] = Phase::takeOff;
    return out;
}

} // namespace amber::record
