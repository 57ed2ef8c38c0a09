// SPDX-License-Identifier: GPL-3.0-or-later
// The fit tried on engines it cannot copy: power, consumption and full-throttle height against the truth of
// other_engines.h, with no, one and two fuel lines in the booklet. Prints a table for docs/validation.md, worst beside,
// and ends with 1 when a wanted figure is missed. Usage: amber-calibration [ENGINES, 200]
#include "air/atmosphere.h"
#include "engine/calibration.h"
#include "engine/operating_point.h"
#include "other_engines.h"
#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <fmt/format.h>

using namespace amber;

namespace {
struct Found {
    double off;
    std::uint64_t seed;
};
struct Column {
    std::uint64_t doubted = 0; ///< booklets of sound engines of which contradictions() says something
    std::vector<Found> power, consumption, height, away;
};
std::string summary(std::vector<Found> all, double scale, const char* unit, double& percentile) {
    std::sort(all.begin(), all.end(), [](auto& a, auto& b) { return std::abs(a.off) < std::abs(b.off); });
    double sum = 0;
    for (const auto& f : all)
        sum += std::abs(f.off);
    percentile = scale * std::abs(all[all.size() * 9 / 10].off);
    return fmt::format("{:.1f} | {:.1f} | {:+.1f} {} (engine {})", scale * sum / static_cast<double>(all.size()),
                       percentile, scale * all.back().off, unit, all.back().seed);
}

/// One engine tried where it works: climb and cruise, rich and weak, each gear below and above its full-throttle
/// height.
void tryOne(std::uint64_t seed, int fuelLines, Column& into) {
    const auto truth = bench::otherEngine(seed);
    const TypeNotes notes = bench::bookletOf(truth, seed, fuelLines);
    const auto fit = engine::calibrate(notes);
    const auto& model = fit.parameters;
    into.doubted += engine::contradictions(notes, fit).empty() ? 0 : 1;
    air::Day day = air::standardDay(Length{});
    day.oat = Temperature::si(day.oat.si() + (seed % 3 == 0 ? 12.0 : seed % 3 == 1 ? -10.0 : 0.0));
    const auto& rated = notes.ratings[1];
    const std::size_t gears = std::max<std::size_t>(1, truth.gears.size());
    for (std::size_t g = 0; g < gears; ++g) {
        struct Setting {
            double rpm, boost;
            bool weak;
        };
        for (const auto& s : {Setting{0.95 * truth.ratedRpm, truth.ratedBoost, false},
                              Setting{0.85 * truth.ratedRpm, 0.85 * truth.ratedBoost, false},
                              Setting{truth.weakRpm, truth.weakBoost, true},
                              Setting{0.9 * truth.weakRpm, 0.92 * truth.weakBoost, true}})
            for (const double height :
                 {600.0 + 2400.0 * static_cast<double>(g), 1800.0 + 2400.0 * static_cast<double>(g),
                  3300.0 + 2400.0 * static_cast<double>(g)}) {
                const auto air = day.at(Length::si(height));
                const auto t = truth.run(s.rpm, s.boost, g, air, s.weak);
                const auto m = engine::operate(model, {Rotation::si(s.rpm), ManifoldPressure::si(s.boost), g, air,
                                                       Speed{}, s.weak ? Mixture::weak : Mixture::rich});
                const double p = m.power.si() / t.power - 1, c = m.specificConsumption() / (t.fuel / t.power) - 1;
                into.power.push_back({p, seed});
                into.consumption.push_back({c, seed});
            }
        if (!truth.gears.empty())
            for (const double n : {rated.rpm.si(), 0.9 * rated.rpm.si()}) {
                const auto t = truth.holdsTo(n, rated.boost->si(), g);
                const auto m = engine::fullThrottleHeight(model, Rotation::si(n), *rated.boost, g,
                                                          air::standardDay(Length{}), Speed{}, Mixture::rich);
                if (t && *t > 300 && m)
                    (n == rated.rpm.si() ? into.height : into.away).push_back({m->si() - *t, seed});
            }
    }
}
} // namespace

int main(int count, char** values) {
    const std::uint64_t engines = count > 1 ? std::strtoull(values[1], nullptr, 10) : 200;
    bool holds = true;
    fmt::print("| fuel lines | what | wanted, 90th percentile | mean | 90th percentile | worst "
               "|\n|---|---|---|---|---|---|\n");
    for (const int lines : {0, 1, 2}) {
        Column c;
        for (std::uint64_t seed = 1; seed <= engines; ++seed)
            tryOne(seed, lines, c);
        const auto row = [&](const char* what, const std::vector<Found>& found, double scale, const char* unit,
                             double wanted) {
            double percentile = 0;
            const auto text = summary(found, scale, unit, percentile);
            fmt::print("| {} | {} | {} | {} |\n", lines, what, wanted > 0 ? fmt::format("{:g} {}", wanted, unit) : "—",
                       text);
            holds = holds && (wanted <= 0 || percentile <= wanted);
        };
        row("power", c.power, 100, "%", 3);
        row("consumption", c.consumption, 100, "%", lines == 0 ? 8 : lines == 2 ? 3 : 0);
        row("full-throttle height at a rating's rpm", c.height, 1, "m", 200);
        row("full-throttle height at nine tenths of the rpm", c.away, 1, "m", 0);
        fmt::print("| {} | sound booklets doubted | 2 % | {:.1f} % | — | — |\n", lines,
                   100.0 * static_cast<double>(c.doubted) / static_cast<double>(engines));
        holds = holds && c.doubted * 50 <= engines;
    }
    return holds ? 0 : 1;
}
