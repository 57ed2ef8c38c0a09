// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/warmth.h"
#include <algorithm>
#include <cmath>

namespace amber::aloft {
namespace {
constexpr double longest = 30.0; // s between two points, so that straight lines between them do
} // namespace

Warmth::Warmth(const powerplant::Aircraft& aircraft, const flight::Flown& flown) : a_(&aircraft), f_(&flown) {
    forcings_.reserve(flown.stretches.size());
    for (const auto& s : flown.stretches)
        forcings_.push_back(aircraft.thermal.forcing(s.drive));
    while (firstRunning_ < forcings_.size() && !forcings_[firstRunning_].running)
        ++firstRunning_;
}

std::vector<Warmth::Point> Warmth::along(const std::vector<Course::Piece>& pieces, std::size_t engine, double fired,
                                         const HeatFactors& factors, double until) const {
    std::vector<Point> out;
    const auto& trace = f_->engines[engine];
    heat::Temperatures now{Temperature::si(288.15), Temperature::si(288.15)};
    for (const auto& p : trace.points) {
        if (p.time > trace.firedAt + 1e-6 && &p != &trace.points.front())
            break;
        now = {Temperature::si(p.headOrCoolant), Temperature::si(p.oil)};
    }
    out.push_back({fired, now});
    if (forcings_.empty())
        return out;
    const double headRate = std::exp(factors.headRate), oilRate = std::exp(factors.oilRate);
    const double cooling = headRate * std::exp(-factors.cooling), oil = oilRate * std::exp(factors.oil);
    const auto go = [&](std::size_t stretch, double from, double to) {
        from = std::max(from, fired);
        to = std::min(to, until);
        if (to <= from)
            return;
        // It runs, though the engine that the plan draws may not yet.
        auto f = forcings_[!forcings_[stretch].running && stretch < firstRunning_ ? firstRunning_ : stretch];
        if (f.running) {
            f.metalIn *= headRate;
            f.metalOut *= cooling;
            f.oilIn *= oil;
            f.oilOut *= oilRate;
        }
        const int parts = std::max(1, static_cast<int>(std::ceil((to - from) / longest)));
        const double dt = (to - from) / parts;
        for (int i = 1; i <= parts; ++i) {
            now = a_->thermal.after(now, f, Duration::si(dt));
            out.push_back({from + i * dt, now});
        }
    };
    const auto& s = f_->stretches;
    for (const auto& piece : pieces) {
        if (piece.from >= until || piece.to <= fired)
            continue;
        auto k =
            static_cast<std::size_t>(std::upper_bound(s.begin(), s.end(), piece.planFrom,
                                                      [](double t, const flight::Stretch& x) { return t < x.time; }) -
                                     s.begin());
        k = k > 0 ? k - 1 : 0;
        if (piece.planTo - piece.planFrom < 1e-9) {
            go(k, piece.from, piece.to);
            continue;
        }
        const double pace = piece.pace();
        for (; k < s.size() && s[k].time < piece.planTo; ++k) {
            const double a = std::max(s[k].time, piece.planFrom);
            const double b = std::min(k + 1 < s.size() ? s[k + 1].time : s[k].time + s[k].duration, piece.planTo);
            if (b > a)
                go(k, piece.from + (a - piece.planFrom) / pace, piece.from + (b - piece.planFrom) / pace);
        }
    }
    return out;
}

heat::Temperatures at(const std::vector<Warmth::Point>& points, double real) {
    const auto after =
        std::upper_bound(points.begin(), points.end(), real, [](double t, const Warmth::Point& p) { return t < p.at; });
    if (after == points.begin())
        return points.front().t;
    if (after == points.end())
        return points.back().t;
    const auto& a = *(after - 1);
    const double x = after->at > a.at ? (real - a.at) / (after->at - a.at) : 0.0;
    const auto mix = [x](Temperature p, Temperature q) { return Temperature::si(p.si() + x * (q.si() - p.si())); };
    return {mix(a.t.headOrCoolant, after->t.headOrCoolant), mix(a.t.oil, after->t.oil)};
}

} // namespace amber::aloft
