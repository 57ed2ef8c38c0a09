// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble_truth.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "fault_signs.h"
#include "trouble/engine_out.h"
#include "trouble/go_round.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::bench {
namespace {
/// Sink at a few heights, the time between them by the trapezium rule, distance by the mean true airspeed: as on paper.
struct ByHand {
    double seconds = 0.0, metres = 0.0;
};
ByHand driftByHand(const flight::LoadedSortie& l, const trouble::EngineOut& out, double top, double bottom) {
    constexpr int steps = 6;
    ByHand hand;
    double sinkBefore = 0.0, speedBefore = 0.0;
    for (int i = 0; i <= steps; ++i) {
        const Length height = Length::si(top + (bottom - top) * i / steps);
        const auto here = trouble::onTheRest(*l.aircraft, *l.sortie, height, out.moment.weight, out.dead,
                                             trouble::DeadBlades::feathered, true);
        const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(height));
        const double sink = -here.rate.si(), speed = air::trueAirspeed(here.ias, air.pressure, air.temperature).si();
        if (i > 0) {
            const double dt = (top - bottom) / steps * 0.5 * (1.0 / sink + 1.0 / sinkBefore);
            hand.seconds += dt;
            hand.metres += 0.5 * (speed + speedBefore) * dt;
        }
        sinkBefore = sink;
        speedBefore = speed;
    }
    return hand;
}
} // namespace

void troubles(const std::vector<flight::LoadedSortie>& fleet, const flight::LoadedSortie& twin, const Row& row) {
    double worstCeiling = 0.0, worstRound = 0.0, leastGlide = 1e9, mostGlide = 0.0;
    std::string ceilingOf, roundOf;
    for (const auto& l : fleet) {
        const auto& a = *l.aircraft;
        const auto f = flight::fly(a, *l.sortie);
        if (a.notes.positions.size() > 1) {
            // From the cruise, the first engine dead and, with four, two of them.
            std::vector<std::vector<std::size_t>> cases{{0}};
            if (a.notes.positions.size() > 3)
                cases.push_back({0, 1});
            for (const auto& dead : cases) {
                const auto out = trouble::engineOut(a, *l.sortie, f, f[Phase::cruise].start + 600, dead);
                if (out.ceiling) {
                    const auto rate = [&](double height) {
                        return trouble::onTheRest(a, *l.sortie, Length::si(height), out.moment.weight, dead,
                                                  trouble::DeadBlades::feathered, true)
                            .rate.si();
                    };
                    const double at = out.ceiling->si();
                    const double slope = (rate(at + 50) - rate(at - 50)) / 100;
                    const double off = slope < 0 ? std::abs(rate(at) / slope) / 0.3048 : 1e9;
                    if (off > worstCeiling) {
                        worstCeiling = off;
                        ceilingOf = a.notes.name;
                    }
                }
                if (out.ceiling && !out.driftDown.holds && out.moment.height.si() > out.ceiling->si() + 600) {
                    const double top = out.moment.height.si(), bottom = out.ceiling->si() + 300.0;
                    const auto hand = driftByHand(l, out, top, bottom);
                    // Between two points of the path.
                    double told = 0.0, far = 0.0;
                    const auto& path = out.driftDown.path;
                    for (std::size_t i = 1; i < path.size(); ++i)
                        if (path[i].height <= bottom) {
                            const double x = (path[i - 1].height - bottom) / (path[i - 1].height - path[i].height);
                            told = path[i - 1].seconds + x * (path[i].seconds - path[i - 1].seconds);
                            far = path[i - 1].distance + x * (path[i].distance - path[i - 1].distance);
                            break;
                        }
                    row(fmt::format("{}, {} out: drift-down from {:.0f} to {:.0f} m, time by hand", a.notes.name,
                                    dead.size() == 1 ? "one" : "two", top, bottom),
                        fmt::format("{:.0f} s to 5 %", hand.seconds),
                        fmt::format("{:.0f} s ({:+.1f} %)", told, 100 * (told / hand.seconds - 1)),
                        std::abs(told / hand.seconds - 1) < 0.05);
                    row("… and distance", fmt::format("{:.1f} km to 5 %", hand.metres / 1000),
                        fmt::format("{:.1f} km ({:+.1f} %)", far / 1000, 100 * (far / hand.metres - 1)),
                        std::abs(far / hand.metres - 1) < 0.05);
                }
            }
        }
        const auto g = trouble::goRound(a, *l.sortie, f);
        const auto air = l.sortie->day.at(g.pressureAltitude);
        const double speed = air::trueAirspeed(g.approach, air.pressure, air.temperature).si();
        const double q = 0.5 * air::density(air.pressure, air.temperature) * speed * speed;
        const double w = g.weight.si() * air::gravity;
        const double power = 0.8 * g.each.si() * static_cast<double>(a.notes.positions.size());
        const double byHand = (power - (q * a.drag.area + a.drag.induced * w * w / q) * speed) / w;
        if (std::abs(byHand - g.rateUp.si()) >= worstRound) {
            worstRound = std::abs(byHand - g.rateUp.si());
            roundOf = a.notes.name;
        }
        if (a.notes.positions.size() == 1) {
            powerplant::Aircraft own = a;
            own.notes.trouble.glideIas.reset();
            own.notes.trouble.glideRatio.reset();
            const auto m = trouble::momentAt(own.notes, *l.sortie, f, f[Phase::cruise].start + 60);
            const double share =
                trouble::glideFrom(own, *l.sortie, m).ratio * 2.0 * std::sqrt(a.drag.induced * a.drag.area);
            leastGlide = std::min(leastGlide, share);
            mostGlide = std::max(mostGlide, share);
        }
    }
    row("Height that is held on the rest: off the height of no rate, worst", "30 ft",
        fmt::format("{:.1f} ft ({})", worstCeiling, ceilingOf), worstCeiling < 30);
    row("Going round, drag up: off 0.8 P/W less the polar, worst", "0.05 m/s",
        fmt::format("{:.3f} m/s ({})", worstRound, roundOf), worstRound < 0.05);
    row("Glide of the single-engined: of the polar's best without a propeller", "40 … 100 %",
        fmt::format("{:.0f} … {:.0f} %", 100 * leastGlide, 100 * mostGlide), leastGlide > 0.4 && mostGlide < 1.0);
    const auto all = askAll(twin);
    std::size_t first = 0, second = 0, plain = 0;
    for (const auto& a : all) {
        first += a.rank == 0 || a.pair ? 1 : 0;
        plain += a.rank == 0 ? 1 : 0;
        second += a.before < 2 ? 1 : 0;
    }
    const auto share = [&](std::size_t n) {
        return 100.0 * static_cast<double>(n) / static_cast<double>(std::max<std::size_t>(1, all.size()));
    };
    row(fmt::format(
            "Symptoms: {} faults stepped at three settings, each sign withheld in turn, {} questions: cause first",
            aloftFaults().size(), all.size()),
        "90 %, listed pairs aside",
        fmt::format("{:.0f} % ({:.0f} % without the pairs counted)", share(first), share(plain)), share(first) >= 90);
    row("… among the first two", "always, listed pairs aside", fmt::format("{:.0f} %", share(second)),
        second == all.size());
}

} // namespace amber::bench
