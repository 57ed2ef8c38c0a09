// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/spent.h"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace amber::rehearse {
namespace {
// Shares that nobody would find: a needle that flickers, soot of a minute's idling.
constexpr std::array<double, 4> unseen{0.005, 0.005, 0.01, 0.05};
} // namespace

void SpentOf::see(const powerplant::EngineState& e, std::int64_t now) {
    const std::array<double, 4> shares{e.bearing, e.rings, 1.0 - e.coolant, std::max(e.fouledLeft, e.fouledRight)};
    for (std::size_t k = 0; k < shares.size(); ++k) {
        if (kinds_[k].share < unseen[k])
            kinds_[k].from = now;
        kinds_[k].share = shares[k];
    }
}

std::vector<Spent> SpentOf::all(std::size_t engine) const {
    std::vector<Spent> out;
    for (std::size_t k = 0; k < unseen.size(); ++k)
        if (kinds_[k].share >= unseen[k])
            out.push_back({static_cast<Spent::Of>(k), engine, kinds_[k].share, kinds_[k].from});
    return out;
}

std::string wordsOf(const Spent& s) {
    const double percent = 100.0 * s.share;
    switch (s.of) {
    case Spent::Of::bearings:
        return fmt::format("{:.0f} % of its bearings' life gone, run without oil pressure", percent);
    case Spent::Of::rings:
        return fmt::format("{:.0f} % of its rings' life gone, by detonation", percent);
    case Spent::Of::coolant:
        return fmt::format("{:.0f} % of its coolant gone", percent);
    default:
        return fmt::format("plugs fouled, {:.0f} % of them: a burst of power clears them, or hands", percent);
    }
}

} // namespace amber::rehearse
