// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/trend.h"
#include "record/median.h"
#include "record/moments.h"
#include "record/what.h"
#include "units/text.h"
#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace amber::record {
namespace {
constexpr std::size_t mostPoints = 500;
constexpr double dayLength = 86'400'000.0; // ms

/// The interval about the median of all that leaves `spread` of them on either side of the middle.
std::pair<double, double> between(std::vector<double>& all, double spread) {
    const auto n = static_cast<double>(all.size());
    const double low = std::floor((n - spread) / 2.0), high = n + 1.0 - low;
    if (low < 1.0)
        return {-HUGE_VAL, HUGE_VAL};
    return {placed(all, static_cast<std::size_t>(low) - 1), placed(all, static_cast<std::size_t>(high) - 1)};
}
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
    std::vector<double> slopes;
    for (std::size_t i = 0; i < points.size(); ++i)
        for (std::size_t j = i + 1; j < points.size(); ++j)
            if (points[j].day != points[i].day)
                slopes.push_back((points[j].residual - points[i].residual) / (points[j].day - points[i].day));
    if (slopes.empty())
        return out;
    out.slope = medianOf(slopes);
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
    std::tie(out.low, out.high) = between(slopes, quantile(level) * std::sqrt(variance / 18.0));
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
    std::tie(out.low, out.high) = between(differences, 2.0 * quantile(level) * std::sqrt(m * n * (m + n + 1.0) / 12.0));
    return out;
}

Change changeAt(std::span<const Point> points, double day, double level) {
    std::vector<double> before, after;
    for (const auto& p : points)
        (p.day < day ? before : after).push_back(p.residual);
    return changeOf(before, after, level);
}

std::vector<Series> seriesOf(const Log& log, const std::string& airframe) {
    std::map<std::tuple<std::string, Phase, std::string, bool>, std::vector<Point>> by;
    for (const auto& [id, all] : standing(log)) {
        const auto run = log.runs.find(id);
        if (run == log.runs.end() || run->second.airframe != airframe)
            continue;
        for (const auto& s : all)
            for (const Entry* e : s.last)
                if (e->kind == Entry::Kind::figure && !s.disagrees && !isMoment(e->what))
                    by[{e->what, e->phase, e->engine, e->planned.has_value()}].push_back(
                        {static_cast<double>(e->at) / dayLength, e->planned ? e->value - *e->planned : e->value});
    }
    std::vector<Series> out;
    for (auto& [key, points] : by) {
        const auto& [what, phase, engine, planned] = key;
        std::stable_sort(points.begin(), points.end(), [](const Point& a, const Point& b) { return a.day < b.day; });
        if (points.size() > mostPoints)
            points.erase(points.begin(), points.end() - mostPoints);
        out.push_back({airframe, engine, what, phase, planned, std::move(points)});
    }
    return out;
}

std::string trendText(const Series& s, const Trend& t, const std::string& engine) {
    const WhatRow* row = whatOf(s.what);
    std::string name = fmt::format("{}, {}", row ? std::string(row->title) : s.what, titleOf(s.phase));
    if (!s.engine.empty())
        name += ", " + (engine.empty() ? s.engine : engine);
    if (!t.tells())
        return fmt::format("{}: the {} reading{} do{} not tell that anything changes", name, t.readings,
                           t.readings == 1 ? "" : "s", t.readings == 1 ? "es" : "");
    const UnitSpec* unit = row ? unitOf(*row) : nullptr;
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
