// SPDX-License-Identifier: GPL-3.0-or-later
// Charts drawn by seed, printed, bent, faded and scanned; measured with two clicks on each curve, and a click where it
// is asked for.
#include "measure/axes.h"
#include "measure/follow.h"
#include "printed_chart.h"
#include "units/median.h"
#include <algorithm>
#include <chrono>
#include <fmt/format.h>
#include <fstream>
#include <random>
#include <string>

using namespace amber;

int main(int argc, char** argv) {
    const int charts = argc > 1 ? std::stoi(argv[1]) : 40;
    const auto first = static_cast<std::uint64_t>(argc > 2 ? std::stoul(argv[2]) : 1);
    const bool tells = argc > 3;
    int curves = 0, right = 0, gridless = 0, asked = 0, clicks = 0;
    double length = 0, silent = 0, points = 0, within = 0, covered = 0, judged = 0;
    std::vector<double> widths, residuals, seconds;
    for (std::uint64_t seed = first; seed < first + static_cast<std::uint64_t>(charts); ++seed) {
        const auto chart = printed::drawn(seed);
        const auto ink = measure::inkOf(chart.scan());
        const auto grid = measure::findGrid(ink, chart.frame());
        std::mt19937_64 rng(seed);
        std::uniform_real_distribution<double> jitter(-1.5, 1.5);
        std::optional<measure::Axes> axes;
        const auto& s = chart.setting();
        const bool whole = grid.found() && grid.level.size() + 1 >= static_cast<std::size_t>(s.rows) &&
                           grid.upright.size() + 1 >= static_cast<std::size_t>(s.columns);
        {
            measure::AxisLabels x, y;
            for (const auto& [i, j] : {std::pair{1, 1}, {s.columns - 1, s.rows - 1}}) {
                const double vx = 100.0 * i / s.columns, vy = 100.0 * j / s.rows;
                const auto p = chart.onScan({vx, vy});
                x.labels.push_back({{p.x + jitter(rng), p.y + jitter(rng)}, vx});
                y.labels.push_back({{p.x + jitter(rng), p.y + jitter(rng)}, vy});
            }
            if (auto made = measure::Axes::fromGrid(grid, x, y))
                axes = made.value();
        }
        if (!axes || !whole) {
            ++gridless;
            if (tells)
                fmt::print("seed {}: grid {} of {} level, {} of {} upright\n", seed, grid.level.size(), s.rows + 1,
                           grid.upright.size(), s.columns + 1);
        } else {
            residuals.push_back(axes->residual());
        }
        if (tells && argc > 4) {
            std::ofstream out(argv[4] + std::to_string(seed) + ".pgm", std::ios::binary);
            out << "P5\n" << chart.scan().width << " " << chart.scan().height << "\n255\n";
            out.write(reinterpret_cast<const char*>(chart.scan().grey.data()),
                      static_cast<std::streamsize>(chart.scan().grey.size()));
        }
        for (const auto& c : chart.curves()) {
            ++curves;
            std::vector<measure::Place> at{chart.onScan(c.values[3]), chart.onScan(c.values[c.values.size() - 4])};
            for (auto& p : at)
                p = p + measure::Place{jitter(rng) * 0.7, jitter(rng) * 0.7};
            std::optional<measure::Followed> f;
            const auto begin = std::chrono::steady_clock::now();
            int mends = 0;
            for (;; ++mends) {
                f = measure::follow(ink, grid, at);
                if (!f || f->doubts.empty() || mends == 2)
                    break;
                // Where it asks, the owner clicks on the curve.
                const auto& doubt = f->doubts.front();
                measure::Place best{};
                double near = 1e9;
                for (const auto& v : c.values)
                    if (const auto p = chart.onScan(v); std::abs(p.x - doubt.at.x) < near) {
                        near = std::abs(p.x - doubt.at.x);
                        best = p;
                    }
                at.push_back(best + measure::Place{jitter(rng) * 0.7, jitter(rng) * 0.7});
                std::sort(at.begin(), at.end(), [](auto a, auto b) { return a.x < b.x; });
            }
            clicks += mends;
            seconds.push_back(std::chrono::duration<double>(std::chrono::steady_clock::now() - begin).count() /
                              (mends + 1));
            if (!f) {
                if (tells)
                    fmt::print("seed {} {}: not followed\n", seed, c.name);
                continue;
            }
            asked += !f->doubts.empty();
            int wrong = 0;
            double worst = 0;
            for (const auto& p : f->places) {
                const double off = chart.off(p.at, c);
                worst = std::max(worst, off);
                wrong += off > 3.0;
                ++points;
                within += off <= 0.5 * c.width;
                length += 1;
                bool told = false;
                for (const auto& d : f->doubts)
                    told = told || measure::distance(d.at, p.at) < 60;
                silent += off > 3.0 && !told;
                if (axes && whole && off <= 3.0) {
                    // Against the curve's own value there, with what the axes and the centre leave.
                    const auto v = axes->value(p.at), e = axes->error(p.at, p.error);
                    double y = 0, slope = 0;
                    for (std::size_t i = 1; i < c.values.size(); ++i)
                        if (c.values[i - 1].x <= v.x && v.x <= c.values[i].x) {
                            slope = (c.values[i].y - c.values[i - 1].y) / (c.values[i].x - c.values[i - 1].x);
                            y = c.values[i - 1].y + slope * (v.x - c.values[i - 1].x);
                        }
                    if (y == 0)
                        continue;
                    const double sigma = std::hypot(e.y, slope * e.x);
                    ++judged;
                    covered += std::abs(v.y - y) <= 1.96 * sigma;
                    widths.push_back(1.96 * sigma);
                }
            }
            const bool good = wrong <= static_cast<int>(f->places.size()) / 100 && f->doubts.empty();
            right += good;
            if (tells && (!good || mends))
                fmt::print("seed {} {}{}: {} clicks, {} of {} places off, worst {:.1f} px, {} doubts{} share {:.2f}\n",
                           seed, c.name, c.dashed ? " dashed" : "", mends, wrong, f->places.size(), worst,
                           f->doubts.size(),
                           f->doubts.empty()
                               ? ""
                               : " (" + f->doubts.front().why +
                                     fmt::format(" at {:.0f},{:.0f})", f->doubts.front().at.x, f->doubts.front().at.y),
                           f->share);
        }
    }
    fmt::print("{} charts, {} curves: right with at most two mending clicks {:.1f} %, mending clicks {:.2f} a curve, "
               "still asking {:.1f} %\n",
               charts, curves, 100.0 * right / curves, static_cast<double>(clicks) / curves, 100.0 * asked / curves);
    fmt::print("silent wrong stretches {:.2f} % of length; within half a line's width {:.1f} %\n",
               100 * silent / length, 100 * within / points);
    fmt::print("grid whole {:.1f} %; warp left {:.2f} px (median); stated 95 % covers {:.1f} %, median half width "
               "{:.2f} % of the axis\n",
               100.0 * (charts - gridless) / charts, medianOf(residuals), 100 * covered / judged, medianOf(widths));
    fmt::print("{:.2f} s a follow (median), worst {:.2f}\n", medianOf(seconds),
               *std::max_element(seconds.begin(), seconds.end()));
}
