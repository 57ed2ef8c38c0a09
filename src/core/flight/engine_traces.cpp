// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/engine_traces.h"
#include <algorithm>
#include <cmath>

namespace amber::flight {
namespace {
constexpr double stride = 30.0; // s between points where nothing else asks for one
}

std::vector<EngineTrace> engineTraces(const powerplant::Aircraft& aircraft, const Sortie& sortie, const Flown& flown,
                                      double until) {
    const auto& n = aircraft.notes;
    const double startEnd = flown[Phase::start].start + flown[Phase::start].duration;
    // The drive of the engines that run while the others are started: that of the start phase's last stretch.
    const heat::Drive* starting = nullptr;
    for (const auto& s : flown.stretches)
        if (s.drive.running && s.time < startEnd)
            starting = &s.drive;
    std::vector<EngineTrace> out;
    for (const auto& w : flown.warmth) {
        EngineTrace trace;
        trace.engine = w.engine;
        trace.firedAt = w.firedAt;
        const Temperature cold = engineTemperatureOf(sortie);
        heat::Temperatures t{cold, cold};
        const double takeOff = flown[Phase::takeOff].start, thinning = oilThinning(n, sortie);
        const heat::Minima runUp{n.warmUp.headRunUp, n.warmUp.oilRunUp}, off{n.warmUp.headTakeOff, n.warmUp.oilTakeOff};
        const auto put = [&](double time, const heat::Drive& d) {
            const double pressure =
                d.running ? aircraft.thermal.oilPressure(d.rpm, t.oil, time < takeOff ? thinning : 1.0).si() : 0.0;
            trace.points.push_back({time, t.headOrCoolant.si(), t.oil.si(), pressure});
            if (!d.running || time > takeOff)
                return;
            if (!trace.runUpAt && runUp.met(t))
                trace.runUpAt = time;
            if (!trace.takeOffAt && off.met(t))
                trace.takeOffAt = time;
        };
        for (const auto& s : flown.stretches) {
            if (s.time >= until)
                break;
            double at = s.time;
            const double end = std::min(until, s.time + s.duration);
            while (at < end - 1e-6) {
                const bool early = s.time < startEnd && !s.drive.running;
                double next = std::min(end, at + stride);
                const bool fired = early && starting && at >= w.firedAt - 1e-6;
                if (early && !fired && w.firedAt > at && w.firedAt < next)
                    next = w.firedAt;
                const heat::Drive& d = fired ? *starting : s.drive;
                put(at, d);
                t = aircraft.thermal.after(t, d, Duration::si(next - at));
                at = next;
            }
        }
        if (!flown.stretches.empty())
            put(std::min(until, flown.totalTime()), flown.stretches.back().drive);
        out.push_back(std::move(trace));
    }
    return out;
}

std::size_t slowestEngine(const std::vector<EngineTrace>& traces) {
    std::size_t slowest = 0;
    for (std::size_t i = 1; i < traces.size(); ++i)
        if (traces[i].runUpAt.value_or(1e18) > traces[slowest].runUpAt.value_or(1e18))
            slowest = i;
    return slowest;
}

} // namespace amber::flight
