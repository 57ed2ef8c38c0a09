// SPDX-License-Identifier: GPL-3.0-or-later
// A start by the drill, as far as the warm-up: what the hand then gets of each engine.
#pragma once
#include "flight/flown.h"
#include "hand/careful_hand.h"
#include <algorithm>
#include <string>
#include <vector>

namespace amber::test {

struct Got {
    std::vector<int> tries;    ///< one an engine
    std::vector<double> fires; ///< s of the start; −1: never
    double before = 0.0;       ///< s of the start that go by before the timeline's first stroke
};

inline Got started(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    struct Enough {};
    Got out;
    const auto count = a.notes.positions.size();
    out.tries.assign(count, 0);
    out.fires.assign(count, -1.0);
    std::vector<bool> meshed(count, false);
    const auto& start = f[Phase::start];
    out.before = start.duration - f.start.total - flight::afterLastStart;
    try {
        hand::doDrill(a, s, f, hand::byThePlansClock, [&](const hand::Moment& m) {
            if (m.phase > Phase::start)
                throw Enough{};
            for (std::size_t e = 0; e < count; ++e) {
                const bool now = m.levers.engines[e].mesh;
                out.tries[e] += now && !meshed[e] ? 1 : 0;
                meshed[e] = now;
                if (m.state.engines[e].firing && out.fires[e] < 0)
                    out.fires[e] = static_cast<double>(m.state.now) / 1000.0 - start.start;
            }
        });
    } catch (Enough&) {
    }
    return out;
}

/// The same sortie on a day of another warmth, nothing pre-heated.
inline Sortie atWarmth(const Sortie& of, double celsius) {
    Sortie s = of;
    s.day.oat = Temperature::si(273.15 + celsius);
    s.day.dewPoint = Temperature::si(std::min(s.day.dewPoint.si(), s.day.oat.si() - 1.0));
    s.start.preheated.reset();
    return s;
}

} // namespace amber::test
