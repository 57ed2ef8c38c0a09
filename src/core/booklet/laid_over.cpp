// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/laid_over.h"
#include "air/day.h"
#include "engine/power_chart.h"
#include <cmath>

namespace amber::booklet {
namespace {
double modelPower(const engine::EngineParameters& engine, const CurveSetting& setting, double x) {
    const air::Day day = air::standardDay(Length{});
    const bool height = setting.kind == CurveKind::powerHeight;
    return engine::powerAt(engine, setting.rpm, height ? setting.boost : std::optional(ManifoldPressure::si(x)),
                           setting.gear, day.at(Length::si(height ? x : 0.0)));
}
} // namespace

bool Laid::parts() const {
    return std::abs(model - paper) > 2.0 * error;
}

std::vector<Laid> laidOver(const engine::EngineParameters& engine, const CurveSetting& setting,
                           const std::vector<std::array<double, 4>>& places) {
    std::vector<Laid> out;
    for (const auto& [x, power, errorX, errorPower] : places) {
        const double step = setting.kind == CurveKind::powerHeight ? 50.0 : 500.0; // m, Pa
        const double slope =
            (modelPower(engine, setting, x + step) - modelPower(engine, setting, x - step)) / (2.0 * step);
        out.push_back({x, power, modelPower(engine, setting, x), std::hypot(errorPower, slope * errorX)});
    }
    return out;
}

} // namespace amber::booklet
