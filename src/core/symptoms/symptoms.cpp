// SPDX-License-Identifier: GPL-3.0-or-later
#include "symptoms/symptoms.h"
#include <algorithm>
#include <cmath>

namespace amber::trouble {
namespace {
// How likely a sign is by how surely a cause shows it, and one that it does not show: our own figures, of the order in
// which crews speak of them.
constexpr double surely = 0.9, usually = 0.7, sometimes = 0.35;
constexpr double stray = 0.04;    // a sign that has nothing to do with the cause
constexpr double stands = 0.9;    // a needle that the cause does not move
constexpr double otherPace = 0.5; // it moves that way, faster or slower
constexpr double opposite = 0.02;
constexpr double plausibleFrom = 0.2;

double chance(Shows shows) {
    return shows == Shows::surely ? surely : shows == Shows::usually ? usually : sometimes;
}

/// A chance of seeing the second where the first is expected.
double alike(Way expected, Way seen) {
    if (expected == seen)
        return 1.0;
    if ((isUp(expected) && isUp(seen)) || (isDown(expected) && isDown(seen)))
        return otherPace;
    if (expected == Way::flickers || seen == Way::flickers)
        return expected == Way::still || seen == Way::still ? 0.0 : 0.4;
    return 0.0;
}

double likelihood(const Pattern& p, const Sign& seen) {
    double best = -1.0, moves = 0.0;
    bool told = false;
    for (const auto& e : p.signs) {
        if (!seen.isNeedle()) {
            if (e.sign == seen)
                return chance(e.shows);
            continue;
        }
        if (!e.sign.isNeedle() || e.sign.gauge != seen.gauge)
            continue;
        told = true;
        if (e.sign.way == Way::still)
            moves = std::max(moves, 1.0 - chance(e.shows));
        else
            moves = std::max(moves, chance(e.shows));
        best = std::max(best, chance(e.shows) * alike(e.sign.way, seen.way));
    }
    if (!seen.isNeedle())
        return stray;
    if (!told)
        return seen.way == Way::still ? stands : stray;
    if (seen.way == Way::still)
        return std::max(best, 1.0 - moves);
    return std::max(best, opposite);
}
} // namespace

Diagnosis diagnose(const std::vector<Pattern>& patterns, std::span<const Sign> noticed) {
    Diagnosis out;
    if (noticed.empty())
        return out;
    for (const auto& p : patterns) {
        Cause c;
        c.pattern = p;
        double fit = 0.0;
        for (const auto& seen : noticed) {
            const double l = likelihood(p, seen);
            fit += std::log(l);
            if (l >= sometimes * otherPace && !(seen.isNeedle() && seen.way == Way::still))
                c.fits.push_back(seen);
            else if (l <= 0.12)
                c.against.push_back(seen);
        }
        // What it would surely show and was not noticed speaks against it, a little: one looks at few things at once.
        for (const auto& e : p.signs) {
            const bool looked = std::any_of(noticed.begin(), noticed.end(), [&](const Sign& s) {
                return s == e.sign || (s.isNeedle() && e.sign.isNeedle() && s.gauge == e.sign.gauge);
            });
            if (looked || (e.sign.isNeedle() && e.sign.way == Way::still))
                continue;
            fit += std::log(e.shows == Shows::surely ? 0.6 : e.shows == Shows::usually ? 0.85 : 0.97);
            if (e.shows != Shows::sometimes)
                c.lookFor.push_back(e.sign);
        }
        c.fit = std::exp(fit);
        if (!c.fits.empty()) // what fits nothing that moved is no cause
            out.causes.push_back(std::move(c));
    }
    if (out.causes.empty())
        return out;
    double sum = 0.0;
    for (const auto& c : out.causes)
        sum += c.fit;
    for (auto& c : out.causes)
        c.fit /= sum;
    std::stable_sort(out.causes.begin(), out.causes.end(),
                     [](const Cause& a, const Cause& b) { return a.fit > b.fit; });
    // Oil and fuel pressure are never put down to a gauge first.
    const auto hazards = [](const Cause& c) {
        return std::any_of(c.pattern.signs.begin(), c.pattern.signs.end(), [](const Expected& e) {
            return e.sign.isNeedle() && isDown(e.sign.way) &&
                   (e.sign.gauge == Gauge::oilPressure || e.sign.gauge == Gauge::fuelPressure);
        });
    };
    if (out.causes.front().pattern.gauge && hazards(out.causes.front())) {
        const auto real = std::find_if(out.causes.begin() + 1, out.causes.end(),
                                       [&](const Cause& c) { return !c.pattern.gauge && hazards(c); });
        if (real != out.causes.end())
            std::rotate(out.causes.begin(), real, real + 1);
    }
    const double best = std::max(out.causes.front().fit, out.causes.size() > 1 ? out.causes[1].fit : 0.0);
    for (std::size_t i = 0; i < out.causes.size(); ++i) {
        out.causes[i].plausible = i == 0 || out.causes[i].fit >= plausibleFrom * best;
        if (out.causes[i].plausible && out.causes[i].pattern.grave > out.causes[out.act].pattern.grave)
            out.act = i;
    }
    if (out.unsure())
        out.tellApart = out.causes[out.act].pattern.toldBy;
    return out;
}

Diagnosis diagnose(const TypeNotes& n, std::span<const Sign> noticed) {
    return diagnose(patternsFor(n), noticed);
}

} // namespace amber::trouble
