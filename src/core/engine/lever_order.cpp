// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/lever_order.h"
#include <algorithm>
#include <cmath>

namespace amber::engine {
namespace {
constexpr double slack = 100.0; // Pa, that a needle does not show
constexpr int mostSteps = 12, samples = 24;

using Permitted = std::function<ManifoldPressure(Rotation)>;

bool inside(LeverPosition a, LeverPosition b, const Permitted& permitted) {
    for (int i = 0; i <= samples; ++i) {
        const double t = static_cast<double>(i) / samples;
        const Rotation n = Rotation::si(a.rpm.si() + t * (b.rpm.si() - a.rpm.si()));
        const double p = a.boost.si() + t * (b.boost.si() - a.boost.si());
        if (p > permitted(n).si() + slack)
            return false;
    }
    return true;
}

bool twoMoves(LeverPosition from, LeverPosition to, bool rpmFirst, const Permitted& permitted) {
    const LeverPosition corner = rpmFirst ? LeverPosition{to.rpm, from.boost} : LeverPosition{from.rpm, to.boost};
    return inside(from, corner, permitted) && inside(corner, to, permitted);
}

void add(LeverPath& path, LeverPosition from, LeverPosition to, bool rpmFirst) {
    const LeverPosition corner = rpmFirst ? LeverPosition{to.rpm, from.boost} : LeverPosition{from.rpm, to.boost};
    const auto move = [&](LeverPosition a, LeverPosition b, bool rpm) {
        if (std::abs(a.rpm.si() - b.rpm.si()) > 1e-9 || std::abs(a.boost.si() - b.boost.si()) > 1e-6)
            path.moves.push_back({rpm, b});
    };
    move(from, corner, rpmFirst);
    move(corner, to, !rpmFirst);
}
} // namespace

LeverPath leverOrder(LeverPosition from, LeverPosition to, const Permitted& permitted) {
    LeverPath path;
    const bool rising = to.boost.si() * to.rpm.si() >= from.boost.si() * from.rpm.si();
    path.clean = inside(from, from, permitted) && inside(to, to, permitted);
    for (const bool rpmFirst : {rising, !rising})
        if (twoMoves(from, to, rpmFirst, permitted)) {
            add(path, from, to, rpmFirst);
            path.why = rpmFirst == rising
                           ? (rising ? "Power rises: rpm first, so that boost never meets low rpm."
                                     : "Power falls: boost first, so that high boost never meets low rpm.")
                           : (rpmFirst ? "Rpm first, although power falls: the other way round passes the boundary."
                                       : "Boost first, although power rises: the other way round passes the boundary.");
            return path;
        }
    for (int steps = 2; steps <= mostSteps; ++steps) {
        bool good = true;
        LeverPath tried;
        LeverPosition at = from;
        for (int i = 1; i <= steps && good; ++i) {
            const double t = static_cast<double>(i) / steps;
            const LeverPosition next{Rotation::si(from.rpm.si() + t * (to.rpm.si() - from.rpm.si())),
                                     ManifoldPressure::si(from.boost.si() + t * (to.boost.si() - from.boost.si()))};
            const bool first = twoMoves(at, next, rising, permitted);
            good = first || twoMoves(at, next, !rising, permitted);
            add(tried, at, next, first ? rising : !rising);
            at = next;
        }
        if (good) {
            tried.why = "In steps, a little of each lever: one movement of either passes the boundary.";
            tried.clean = path.clean;
            return tried;
        }
    }
    // An end beyond the boundary: the usual order is still the lesser evil, and it is said.
    add(path, from, to, rising);
    path.clean = false;
    path.why = "One end of this change lies beyond the boundary: go through it quickly or choose another setting.";
    return path;
}

} // namespace amber::engine
