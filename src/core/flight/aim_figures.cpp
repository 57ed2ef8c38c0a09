// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/aim_figures.h"
#include <algorithm>

namespace amber::flight {

watch::AimFigures aimFigures(const TypeNotes& notes, const Flown* flown) {
    watch::AimFigures out;
    out.coolingPerMinute.fill(coolingLimit(notes).perMinute);
    if (notes.stop.coolBelow && (!flown || flown->coolDown < longestCoolDown))
        out.coolBelow = notes.stop.coolBelow->si();
    return out;
}

watch::AimFigures aimFigures(const TypeNotes& notes, const Sortie& sortie, const Flown& plan) {
    watch::AimFigures out = aimFigures(notes, &plan);
    const auto& cruise = plan[Phase::cruise];
    out.top = cruise.duration > 0 ? plan.samples[cruise.firstSample][Gauge::height] : sortie.flight.cruiseHeight.si();
    if (cruise.duration > 0)
        out.cruiseIas = plan.samples[cruise.lastSample][Gauge::airspeed];
    out.distance = sortie.flight.distance.si();
    // What the plan itself comes to today may be.
    const auto& all = plan.samples;
    std::size_t then = 0;
    for (std::size_t i = cruise.firstSample; i < all.size(); ++i) {
        while (then + 1 < i && all[then + 1].time <= all[i].time - 60.0)
            ++then;
        const auto &a = all[then], &b = all[std::min(then + 1, i)];
        const double x =
            b.time > a.time ? std::clamp((all[i].time - 60.0 - a.time) / (b.time - a.time), 0.0, 1.0) : 0.0;
        const double was = a.headOrCoolant() + x * (b.headOrCoolant() - a.headOrCoolant());
        auto& most = out.coolingPerMinute[static_cast<std::size_t>(all[i].phase)];
        most = std::max(most, was - all[i].headOrCoolant());
    }
    out.stopTakes = plan[Phase::stop].duration;
    return out;
}

} // namespace amber::flight
