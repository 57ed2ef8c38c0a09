// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/mixture_curve.h"
#include "units/lookup.h"
#include <algorithm>
#include <array>

namespace amber::engine {
namespace {
struct Knot {
    double ratio, power, slope;
};

/// Monotone cubic (Fritsch & Carlson, SIAM J. Numer. Anal. 17, 1980) through the published points; slopes are harmonic
/// means.
template <std::size_t N>
constexpr std::array<Knot, N> withSlopes(std::array<Knot, N> k) {
    for (std::size_t i = 1; i + 1 < N; ++i) {
        const double left = (k[i].power - k[i - 1].power) / (k[i].ratio - k[i - 1].ratio);
        const double right = (k[i + 1].power - k[i].power) / (k[i + 1].ratio - k[i].ratio);
        k[i].slope = left * right <= 0.0 ? 0.0 : 2.0 * left * right / (left + right);
    }
    k[0].slope = (k[1].power - k[0].power) / (k[1].ratio - k[0].ratio);
    k[N - 1].slope = (k[N - 1].power - k[N - 2].power) / (k[N - 1].ratio - k[N - 2].ratio);
    return k;
}

constexpr auto curve = withSlopes(std::array<Knot, 11>{{{0.040, 0.45, 0},
                                                        {0.050, 0.72, 0},
                                                        {0.055, 0.82, 0},
                                                        {0.060, 0.895, 0},
                                                        {0.067, 0.965, 0},
                                                        {0.074, 0.993, 0},
                                                        {0.080, 1.0, 0},
                                                        {0.087, 0.993, 0},
                                                        {0.095, 0.972, 0},
                                                        {0.105, 0.935, 0},
                                                        {0.140, 0.76, 0}}});
} // namespace

double powerOfMixture(double ratio) {
    const double x = std::clamp(ratio, curve.front().ratio, curve.back().ratio);
    std::size_t i = 0;
    while (i + 2 < curve.size() && x > curve[i + 1].ratio)
        ++i;
    const Knot &a = curve[i], &b = curve[i + 1];
    const double w = b.ratio - a.ratio, t = (x - a.ratio) / w, u = 1.0 - t;
    return a.power * (1 + 2 * t) * u * u + b.power * (3 - 2 * t) * t * t + w * t * u * (a.slope * u - b.slope * t);
}

double automaticRatio(const EngineParameters& engine, Mixture mixture, double chargeFraction) {
    if (mixture == Mixture::weak)
        return engine.weak;
    const auto& s = engine.rich;
    if (s.empty())
        return 0.09;
    return lookUp(s, chargeFraction);
}

} // namespace amber::engine
