// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/trend.h"
#include "record/moments.h"
#include "record/what.h"
#include "units/median.h"
#include "units/text.h"
#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace amber::record {
namespace {
constexpr double dayLength = 86'400'000.0; // ms

/// The interval about the median of `size` figures that leaves `spread` of them on either side of the middle.
/// @param at the figure of a rank from 0
template <class At>
std::pair<double, double> between(std::size_t size, double spread, At at) {
    const auto n = static_cast<double>(size);
    const double low = std::floor((n - spread) / 2.0), high = n + 1.0 - low;
    if (low < 1.0)
        return {-HUGE_VAL, HUGE_VAL};
    return {at(static_cast<std::size_t>(low) - 1), at(static_cast<std::size_t>(high) - 1)};
}

/// The slopes of all pairs of points of different days, by rank, without making them: a slope is under m where the
/// later point of the pair lies under the earlier one once m × day is taken off both, so those under m are the
/// inversions of a list, which a merge sort counts (Cole, Salowe, Steiger and Szemerédi 1989). The rank is found by
/// halving, to 1e-13 of the slope; one that is nothing is nothing exactly. n log n time a step, some fifty steps.
class Slopes {
public:
    explicit Slopes(std::span<const Point> points) : points_(points.begin(), points.end()) {
        std::stable_sort(points_.begin(), points_.end(), [](const Point& a, const Point& b) {
            return a.day < b.day || (a.day == b.day && a.residual < b.residual);
        });
        double lowest = HUGE_VAL, highest = -HUGE_VAL, least = HUGE_VAL;
        for (std::size_t i = 0; i < points_.size(); ++i) {
            lowest = std::min(lowest, points_[i].residual);
            highest = std::max(highest, points_[i].residual);
            if (i > 0 && points_[i].day > points_[i - 1].day)
                least = std::min(least, points_[i].day - points_[i - 1].day);
        }
        middle_ = points_.empty() ? 0.0 : points_[points_.size() / 2].day;
        steepest_ = least < HUGE_VAL ? (highest - lowest) / least : 0.0;
        all_ = points_.size() * (points_.size() - (points_.empty() ? 0 : 1)) / 2;
        eachDay([this](std::size_t begin, std::size_t end) { all_ -= (end - begin) * (end - begin - 1) / 2; });
        falling_ = under(0.0);
        // Those that rise: the falling ones of the mirrored points.
        for (auto& p : points_)
            p.residual = -p.residual;
        eachDay([this](std::size_t begin, std::size_t end) {
            std::reverse(points_.begin() + static_cast<std::ptrdiff_t>(begin),
                         points_.begin() + static_cast<std::ptrdiff_t>(end));
        });
        rising_ = under(0.0);
        for (auto& p : points_)
            p.residual = -p.residual;
        eachDay([this](std::size_t begin, std::size_t end) {
            std::reverse(points_.begin() + static_cast<std::ptrdiff_t>(begin),
                         points_.begin() + static_cast<std::ptrdiff_t>(end));
        });
    }
    [[nodiscard]] std::size_t size() const { return all_; }
    /// @param rank from 0, under size()
    [[nodiscard]] double at(std::size_t rank) const {
        if (rank >= falling_ && rank < all_ - rising_)
            return 0.0;
        double low = rank < falling_ ? -steepest_ : 0.0, high = rank < falling_ ? 0.0 : steepest_;
        constexpr double close = 1e-13;
        for (int i = 0; i < 200 && high - low > close * std::max(std::abs(low), std::abs(high)); ++i) {
            const double half = low + (high - low) / 2.0;
            (under(half) <= rank ? low : high) = half;
        }
        return low + (high - low) / 2.0;
    }
    [[nodiscard]] double median() const { return (at((all_ - 1) / 2) + at(all_ / 2)) / 2.0; }

private:
    template <class Seen>
    void eachDay(Seen seen) const {
        for (std::size_t i = 0; i < points_.size();) {
            std::size_t j = i;
            while (j < points_.size() && points_[j].day == points_[i].day)
                ++j;
            seen(i, j);
            i = j;
        }
    }
    [[nodiscard]] std::size_t under(double slope) const {
        left_.resize(points_.size());
        merged_.resize(points_.size());
        for (std::size_t i = 0; i < points_.size(); ++i)
            left_[i] = points_[i].residual - slope * (points_[i].day - middle_);
        // Of one day there is no slope: in their own order none is an inversion.
        eachDay([this](std::size_t begin, std::size_t end) {
            std::sort(left_.begin() + static_cast<std::ptrdiff_t>(begin),
                      left_.begin() + static_cast<std::ptrdiff_t>(end));
        });
        return inversions(0, left_.size());
    }
    std::size_t inversions(std::size_t begin, std::size_t end) const {
        if (end - begin < 2)
            return 0;
        const std::size_t middle = begin + (end - begin) / 2;
        std::size_t count = inversions(begin, middle) + inversions(middle, end);
        std::size_t a = begin, b = middle;
        for (std::size_t out = begin; out < end; ++out)
            if (b == end || (a < middle && left_[a] <= left_[b])) {
                merged_[out] = left_[a++];
            } else {
                count += middle - a;
                merged_[out] = left_[b++];
            }
        std::copy(merged_.begin() + static_cast<std::ptrdiff_t>(begin),
                  merged_.begin() + static_cast<std::ptrdiff_t>(end),
                  left_.begin() + static_cast<std::ptrdiff_t>(begin));
        return count;
    }

    std::vector<Point> points_;
    mutable std::vector<double> left_, merged_;
    double middle_ = 0.0, steepest_ = 0.0;
    std::size_t all_ = 0, falling_ = 0, rising_ = 0;
};
double quantile(double level) {
    return boost::math::quantile(boost::math::normal(), 0.5 + level / 2.0);
}
} // namespace

Trend trendOf(std::span<const Point> points, double level) {
    Trend out;
    out.readings = points.size();
    out.level = level;
    out.low = -HUGE_VAL;
    out.high = HUGE_VAL;
    const Slopes slopes(points);
    if (slopes.size() == 0)
        return out;
    out.slope = slopes.median();
    // Kendall's variance, without the pairs of one day.
    const auto n = static_cast<double>(points.size());
    double variance = n * (n - 1.0) * (2.0 * n + 5.0);
    for (std::size_t i = 0; i < points.size();) {
        std::size_t j = i;
        while (j < points.size() && points[j].day == points[i].day)
            ++j;
        const auto u = static_cast<double>(j - i);
        variance -= u * (u - 1.0) * (2.0 * u + 5.0);
        i = j;
    }
    std::tie(out.low, out.high) = between(slopes.size(), quantile(level) * std::sqrt(variance / 18.0),
                                          [&](std::size_t rank) { return slopes.at(rank); });
    std::vector<double> days, residuals;
    for (const auto& p : points) {
        days.push_back(p.day);
        residuals.push_back(p.residual);
    }
    const auto [first, last] = std::minmax_element(days.begin(), days.end());
    const double begin = *first, end = *last;
    const double day = medianOf(days), residual = medianOf(residuals);
    out.begins = residual + out.slope * (begin - day);
    out.ends = residual + out.slope * (end - day);
    return out;
}

Change changeOf(std::span<const double> before, std::span<const double> after, double level) {
    Change out;
    out.before = before.size();
    out.after = after.size();
    std::vector<double> differences;
    for (const double b : before)
        for (const double a : after)
            differences.push_back(a - b);
    if (differences.empty()) {
        out.low = -HUGE_VAL;
        out.high = HUGE_VAL;
        return out;
    }
    out.by = medianOf(differences);
    const auto m = static_cast<double>(out.before), n = static_cast<double>(out.after);
    std::tie(out.low, out.high) =
        between(differences.size(), 2.0 * quantile(level) * std::sqrt(m * n * (m + n + 1.0) / 12.0),
                [&](std::size_t rank) { return placed(differences, rank); });
    return out;
}

Change changeAt(std::span<const Point> points, double day, double level) {
    std::vector<double> before, after;
    for (const auto& p : points)
        (p.day < day ? before : after).push_back(p.residual);
    return changeOf(before, after, level);
}

namespace {
Point middleOf(const std::vector<Point>& points) {
    std::vector<double> days, residuals;
    for (const auto& p : points) {
        days.push_back(p.day);
        residuals.push_back(p.residual);
    }
    return {medianOf(days), medianOf(residuals)};
}
} // namespace

std::vector<Series> seriesOf(const Log& log, const std::string& airframe) {
    std::map<std::tuple<std::string, Phase, std::string, bool>, std::vector<Point>> by;
    for (const auto& [id, all] : standing(log)) {
        const auto run = log.runs.find(id);
        if (run == log.runs.end() || run->second.airframe != airframe)
            continue;
        // What is read again and again on one flight has that flight's day in common: it is one figure of it.
        decltype(by) ofRun;
        for (const auto& s : all)
            for (const Entry* e : s.last)
                if (e->kind == Entry::Kind::figure && !s.disagrees && !isMoment(e->what))
                    ofRun[{e->what, e->phase, e->engine, e->planned.has_value()}].push_back(
                        {static_cast<double>(e->at) / dayLength, e->planned ? e->value - *e->planned : e->value});
        for (const auto& [key, points] : ofRun)
            by[key].push_back(middleOf(points));
    }
    std::vector<Series> out;
    for (auto& [key, points] : by) {
        const auto& [what, phase, engine, planned] = key;
        std::stable_sort(points.begin(), points.end(), [](const Point& a, const Point& b) { return a.day < b.day; });
        out.push_back({airframe, engine, what, phase, planned, std::move(points)});
    }
    return out;
}

std::string trendText(const Series& s, const Trend& t, const std::string& engine, const TypeNotes* notes) {
    const WhatRow* row = whatOf(s.what);
    std::string name = fmt::format("{}, {}", row ? std::string(row->title) : s.what, titleOf(s.phase));
    if (!s.engine.empty())
        name += ", " + (engine.empty() ? s.engine : engine);
    if (!t.tells())
        return fmt::format("{}: the {} reading{} do{} not tell that anything changes", name, t.readings,
                           t.readings == 1 ? "" : "s", t.readings == 1 ? "es" : "");
    const UnitSpec* unit = unitIn(s.what, notes);
    const double days = s.points.back().day - s.points.front().day;
    const auto shown = [&](double si) {
        return formatNumber(unit ? si / unit->scale : si, unit ? std::max(unit->decimals, 1) : 1, false);
    };
    const double least = std::min(std::abs(t.low), std::abs(t.high)) * days,
                 most = std::max(std::abs(t.low), std::abs(t.high)) * days;
    return fmt::format("{}: {} {} {} in {} days{}, {} to {} ({} readings, {} %)", name,
                       t.slope > 0 ? "up by" : "down by", shown(std::abs(t.slope) * days), unit ? unit->symbol : "",
                       formatNumber(days, 0), s.againstPlan ? " against the plan of each day" : "", shown(least),
                       shown(most), t.readings, formatNumber(100 * t.level, 0));
}

} // namespace amber::record
