// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/pictures.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::plan {
namespace {
constexpr int curveSteps = 60;

/// Right end of a picture: the height flown and some more, on a round figure.
double topFor(const flight::Flown& flown) {
    double highest = 3000.0;
    for (const auto& m : flown.samples)
        highest = std::max(highest, m[Gauge::height]);
    return std::ceil(highest * 1.3 / 1524.0) * 1524.0;
}

std::size_t gearCount(const powerplant::Aircraft& a) {
    return std::max<std::size_t>(1, a.notes.engine.gears.size());
}
std::string gearName(const powerplant::Aircraft& a, std::size_t gear) {
    return a.notes.engine.gears.empty() ? "" : a.notes.engine.gears[gear].name;
}
} // namespace

ClimbPicture climbPicture(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown) {
    ClimbPicture out;
    out.top = topFor(flown);
    const flight::PhaseFlown& climb = flown[Phase::climb];
    const flight::Setting& s = climb.setting;
    for (std::size_t gear = 0; gear < gearCount(aircraft); ++gear) {
        flight::Curve curve{gearName(aircraft, gear), gear, {}};
        for (int i = 0; i <= curveSteps; ++i) {
            const double x = out.top * i / curveSteps;
            const auto wide = engine::fullThrottlePressure(
                aircraft.model(), {s.rpm, std::nullopt, gear, sortie.day.at(Length::si(x)), s.ias, s.mixture});
            curve.points.push_back({x, wide.si()});
        }
        out.fullThrottle.push_back(std::move(curve));
        const auto height = flown.fullThrottleHeights[gear];
        if (s.boost && height && height->si() <= out.top && height->si() > 0) {
            out.fullThrottleHeights.push_back({height->si(), flown.gearBoosts[gear]->si()});
            out.heightGears.push_back(gearName(aircraft, gear));
        }
    }
    for (std::size_t i = climb.firstSample; i <= climb.lastSample; ++i)
        out.planned.push_back({sortie.day.pressureAltitudeOf(Length::si(flown.samples[i][Gauge::height])).si(),
                               flown.samples[i][Gauge::boost]});
    return out;
}

CruisePicture cruisePicture(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown) {
    CruisePicture out;
    out.top = topFor(flown);
    const flight::PhaseFlown& cruise = flown[Phase::cruise];
    const flight::Setting& s = cruise.setting;
    const UnitSpec& unit = aircraft.notes.unitOf(Gauge::boost);
    const double step = (unit.symbol == "lbf/in²" ? 2.0
                         : unit.symbol == "mmHg"  ? 50.0
                         : unit.symbol == "inHg"  ? 3.0
                         : unit.symbol == "ata"   ? 0.1
                                                  : 10.0);
    const auto at = [&](double x, std::optional<ManifoldPressure> boost, std::size_t gear) {
        return engine::operate(aircraft.model(), {s.rpm, boost, gear, sortie.day.at(Length::si(x)), s.ias, s.mixture});
    };
    const auto line = [&](ManifoldPressure boost, std::size_t gear, std::string label) {
        flight::Curve curve{std::move(label), gear, {}};
        for (int i = 0; i <= curveSteps; ++i) {
            const double x = out.top * i / curveSteps;
            const auto point = at(x, boost, gear);
            if (point.fullThrottle)
                break;
            curve.points.push_back({x, point.power.si()});
        }
        // It ends on the full-throttle envelope.
        if (const auto end =
                engine::fullThrottleHeight(aircraft.model(), s.rpm, boost, gear, sortie.day, s.ias, s.mixture);
            end && end->si() > 0 && end->si() < out.top)
            curve.points.push_back({end->si(), at(end->si(), boost, gear).power.si()});
        if (curve.points.size() > 1)
            out.constantBoost.push_back(std::move(curve));
    };
    for (std::size_t gear = 0; gear < gearCount(aircraft); ++gear) {
        flight::Curve envelope{gearName(aircraft, gear), gear, {}};
        for (int i = 0; i <= curveSteps; ++i) {
            const double x = out.top * i / curveSteps;
            envelope.points.push_back({x, at(x, std::nullopt, gear).power.si()});
        }
        out.fullThrottle.push_back(std::move(envelope));
        if (!s.boost)
            continue;
        // Lines on round figures of this gauge around the chosen boost, never over the cruise limit.
        const auto limit = aircraft.notes.gauges.find(Gauge::boost);
        const double most =
            limit != aircraft.notes.gauges.end() ? limit->second.in(Phase::cruise).limitHigh.value_or(4e5) : 4e5;
        const double chosen = (s.boost->si() - unit.offset) / unit.scale;
        for (int k = -3; k <= 2; ++k) {
            const double figure = chosen + k * step;
            const double si = figure * unit.scale + unit.offset;
            if (si > 3e4 && si <= most * 1.0001)
                line(ManifoldPressure::si(si), gear, formatValue(si, unit));
        }
    }
    out.planned = {flown.cruisePressureAltitude.si(), cruise.point.power.si()};
    out.plannedGear = s.gear;
    return out;
}

} // namespace amber::plan
