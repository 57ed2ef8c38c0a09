// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/stands.h"
#include "cockpit/controls.h"
#include "units/text.h"
#include <algorithm>
#include <array>

namespace amber::aloft {
namespace {
/// In the order in which they are looked for.
constexpr std::array ranked{Acts::throttle, Acts::propeller, Acts::mixture, Acts::gear, Acts::coolingFlap};
} // namespace

std::vector<Stands> standsNow(const powerplant::Aircraft& a, const plan::Plan& plan, const Now& now) {
    std::vector<Stands> out;
    const TypeNotes& n = a.notes;
    if (now.over || now.phase < Phase::start)
        return out;
    const auto& page = plan[std::min(now.phase, Phase::stop)];
    const auto& steps = n.phase(now.phase).steps;
    const auto sample = flight::sampleAt(plan.flown.samples, now.plan);
    const bool flies = now.phase >= Phase::takeOff && now.phase <= Phase::landing;
    const auto stepOf = [&](const plan::SetLine& line) {
        const auto found = std::find_if(steps.begin(), steps.end(), [&](const Step& s) { return s.id == line.stepId; });
        return found == steps.end() ? nullptr : &*found;
    };
    const auto controlOf = [&](const Step* step) -> const Control* {
        if (step)
            for (const auto& act : step->actions)
                if (const auto* control = cockpit::find(n.controls, act.control))
                    return control;
        return nullptr;
    };
    std::vector<std::pair<std::size_t, Stands>> lines;
    std::array<bool, ranked.size()> seen{};
    for (const auto& line : page.set) {
        if (line.value.empty() || line.figures.empty())
            continue;
        const Step* step = stepOf(line);
        if (step && step->branch) // what is done if it goes otherwise
            continue;
        const Control* control = controlOf(step);
        const auto acts = control ? std::optional(control->acts) : std::nullopt;
        const auto rank =
            static_cast<std::size_t>(acts ? std::find(ranked.begin(), ranked.end(), *acts) - ranked.begin()
                                          : static_cast<std::ptrdiff_t>(ranked.size()));
        if (rank < ranked.size() && seen[rank] && flies)
            continue; // the same lever later in the phase
        Stands s{line.what, line.value, line.why};
        if (flies && rank < ranked.size()) {
            seen[rank] = true;
            s.what = control->name;
            const bool boost = n.gauges.contains(Gauge::boost) && std::isfinite(sample[Gauge::boost]);
            if (*acts == Acts::throttle)
                s.value = boost ? format(watch::asRead(n, Gauge::boost, sample[Gauge::boost]), n.unitOf(Gauge::boost))
                                : format(watch::asRead(n, Gauge::rpm, sample[Gauge::rpm]), n.unitOf(Gauge::rpm));
            else if (*acts == Acts::propeller && n.propeller.control == PropellerControl::constantSpeed)
                s.value = format(watch::asRead(n, Gauge::rpm, sample[Gauge::rpm]), n.unitOf(Gauge::rpm));
            else if (*acts == Acts::gear && sample.gear < n.engine.gears.size())
                s.value = n.engine.gears[sample.gear].name;
        }
        lines.emplace_back(rank, std::move(s));
    }
    if (flies)
        std::stable_sort(lines.begin(), lines.end(), [](const auto& x, const auto& y) { return x.first < y.first; });
    for (auto& [rank, s] : lines)
        out.push_back(std::move(s));
    if (flies && std::isfinite(sample[Gauge::airspeed]) && sample[Gauge::airspeed] > 0.0)
        out.insert(out.begin() + static_cast<std::ptrdiff_t>(std::min<std::size_t>(out.size(), 4)),
                   {"Speed", format(watch::asRead(sample[Gauge::airspeed], *n.cockpit.speed), *n.cockpit.speed), {}});
    return out;
}

} // namespace amber::aloft
