// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/power_chart.h"
#include "air/atmosphere.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace amber::engine {
double powerAt(const EngineParameters& e, Rotation rpm, std::optional<ManifoldPressure> boost, std::size_t gear,
               const air::Ambient& air, bool held) {
    Demand d{rpm, boost, gear, air, Speed{}, Mixture::rich};
    d.held = held;
    return operate(e, d).power.si();
}

namespace {
std::vector<Rotation> rpmLines(const TypeNotes& notes, const EngineParameters& e) {
    double low = e.ratedRpm;
    for (const auto& r : notes.ratings)
        low = std::min(low, r.rpm.si());
    const double top = e.ratedRpm * 60, bottom = std::max(0.55 * top, low * 60 - 150);
    const double step = top - bottom > 900 ? 200 : 100;
    std::vector<Rotation> out;
    for (double rpm = std::ceil(bottom / step) * step; rpm < top - 0.4 * step; rpm += step)
        out.push_back(Rotation::si(rpm / 60));
    out.push_back(Rotation::si(e.ratedRpm));
    return out;
}
} // namespace

std::size_t PowerChart::points() const {
    std::size_t n = 0;
    for (const auto* lines : {&seaLevel, &fullThrottle, &constantBoost})
        for (const auto& l : *lines)
            n += l.points.size();
    return n;
}

PowerChart powerChart(const TypeNotes& notes, const EngineParameters& e, Rotation boostRpm, int count) {
    PowerChart c;
    const air::Day day = air::standardDay(Length{});
    const std::size_t gears = std::max<std::size_t>(1, e.gears.size());
    double highest = standardPressure, holds = 3000.0;
    for (const auto& r : notes.ratings) {
        highest = std::max(highest, r.boost ? r.boost->si() : 0.0);
        for (const auto& l : r.lines)
            holds = std::max(holds, l.holdsTo ? l.holdsTo->si() : l.at.si());
    }
    c.top = std::ceil((holds + 2500.0) / 1000.0) * 1000.0;
    const double lowest = 0.45 * standardPressure;
    const auto rpms = rpmLines(notes, e);
    const air::Ambient ground = day.at(Length{});
    for (const Rotation rpm : rpms) {
        ChartLine line{rpm, 0, {}, {}};
        const double wide = operate(e, {rpm, std::nullopt, 0, ground, Speed{}, Mixture::rich}).manifoldPressure.si();
        const double most = std::min(highest * 1.02, wide);
        for (int i = 0; i <= count; ++i) {
            const double p = lowest + (most - lowest) * i / count;
            line.points.push_back({p, powerAt(e, rpm, ManifoldPressure::si(p), 0, ground)});
        }
        c.seaLevel.push_back(std::move(line));
    }
    // The air of every height once, for all lines; each line all at once.
    std::vector<Demand> demands;
    for (int i = 0; i <= count; ++i)
        demands.push_back({Rotation{}, std::nullopt, 0, day.at(Length::si(c.top * i / count)), Speed{}, Mixture::rich});
    std::vector<OperatingPoint> points(demands.size());
    for (std::size_t gear = 0; gear < gears; ++gear)
        for (const Rotation rpm : rpms) {
            for (auto& d : demands) {
                d.rpm = rpm;
                d.gear = gear;
            }
            operate(e, demands, points);
            ChartLine line{rpm, gear, {}, {}};
            for (std::size_t i = 0; i < points.size(); ++i)
                if (points[i].manifoldPressure.si() <= highest * 1.02 || e.gears.empty())
                    line.points.push_back({c.top * static_cast<double>(i) / count, points[i].power.si()});
            if (line.points.size() > 1)
                c.fullThrottle.push_back(std::move(line));
        }
    const double step = highest > 1.2 * standardPressure ? 4 * 3386.389 : 3 * 3386.389;
    for (std::size_t gear = 0; gear < gears && !e.gears.empty(); ++gear)
        for (double p = std::floor(highest / 3386.389) * 3386.389; p > 0.6 * standardPressure; p -= step) {
            const auto height = fullThrottleHeight(e, boostRpm, ManifoldPressure::si(p), gear, day, Speed{});
            if (!height || height->si() < 100)
                continue;
            ChartLine line{boostRpm, gear, ManifoldPressure::si(p), {}};
            const double end = std::min(height->si(), c.top);
            for (int i = 0; i <= count / 2; ++i) {
                const double h = end * i / (count / 2);
                line.points.push_back({h, powerAt(e, boostRpm, line.boost, gear, day.at(Length::si(h)), true)});
            }
            c.constantBoost.push_back(std::move(line));
        }
    for (const auto& r : notes.ratings)
        for (const auto& l : r.lines) {
            if (!l.power)
                continue;
            const auto gear = notes.gearIndex(l.gear).value_or(0);
            if (l.at.si() < 200 && r.boost)
                c.marks.push_back({r.name, true, r.boost->si(), l.power->si(), gear});
            c.marks.push_back({r.name, false, l.at.si(), l.power->si(), gear});
        }
    return c;
}

std::optional<Construction> construct(const EngineParameters& e, Rotation rpm, ManifoldPressure boost, std::size_t gear,
                                      Length height, Temperature outside) {
    const air::Day day = air::standardDay(Length{});
    Construction c;
    c.rpm = rpm;
    c.boost = boost;
    c.gear = gear;
    c.height = height;
    c.outside = outside;
    c.standard = day.at(height).temperature;
    c.holdsTo = fullThrottleHeight(e, rpm, boost, gear, day, Speed{});
    if (!c.holdsTo || c.holdsTo->si() < 0)
        return std::nullopt;
    c.seaLevel = Power::si(powerAt(e, rpm, boost, gear, day.at(Length{}), true));
    c.atFullThrottle = Power::si(powerAt(e, rpm, boost, gear, day.at(*c.holdsTo), true));
    c.beyond = height > *c.holdsTo;
    if (c.beyond) {
        c.read = Power::si(powerAt(e, rpm, std::nullopt, gear, day.at(height)));
    } else {
        const double t = c.holdsTo->si() > 1.0 ? height.si() / c.holdsTo->si() : 0.0;
        c.read = Power::si(c.seaLevel.si() + t * (c.atFullThrottle.si() - c.seaLevel.si()));
    }
    c.correction = std::sqrt(c.standard.si() / std::max(150.0, outside.si()));
    c.corrected = Power::si(c.read.si() * c.correction);
    air::Ambient here = day.at(height);
    here.temperature = outside;
    c.model = Power::si(powerAt(e, rpm, boost, gear, here));
    return c;
}

std::string chartCsv(const TypeNotes& notes, const PowerChart& chart) {
    const auto gear = [&](std::size_t g) { return notes.engine.gears.empty() ? "" : notes.engine.gears[g].name; };
    std::string out = "panel,rpm,gear,boost_kPa,altitude_m,power_kW\n";
    for (const auto& l : chart.seaLevel)
        for (const auto& p : l.points)
            out += fmt::format("sea level,{:.0f},{},{:.2f},0,{:.2f}\n", l.rpm.si() * 60, gear(l.gear), p.x / 1000,
                               p.power / 1000);
    for (const auto& l : chart.fullThrottle)
        for (const auto& p : l.points)
            out += fmt::format("full throttle,{:.0f},{},,{:.1f},{:.2f}\n", l.rpm.si() * 60, gear(l.gear), p.x,
                               p.power / 1000);
    for (const auto& l : chart.constantBoost)
        for (const auto& p : l.points)
            out += fmt::format("constant boost,{:.0f},{},{:.2f},{:.1f},{:.2f}\n", l.rpm.si() * 60, gear(l.gear),
                               l.boost->si() / 1000, p.x, p.power / 1000);
    return out;
}

} // namespace amber::engine
