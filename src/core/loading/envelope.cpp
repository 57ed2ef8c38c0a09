// SPDX-License-Identifier: GPL-3.0-or-later
#include "loading/envelope.h"
#include "units/lookup.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace amber::loading {

Limits limitsAt(const LoadingNotes& notes, double kilograms) {
    const auto& e = notes.envelope;
    if (e.empty())
        return {std::numeric_limits<double>::quiet_NaN(), std::numeric_limits<double>::quiet_NaN()};
    if (kilograms <= e.front().weight.si())
        return {e.front().forward, e.front().aft};
    for (std::size_t i = 1; i < e.size(); ++i)
        if (kilograms <= e[i].weight.si()) {
            const double x = (kilograms - e[i - 1].weight.si()) / (e[i].weight.si() - e[i - 1].weight.si());
            return {e[i - 1].forward + x * (e[i].forward - e[i - 1].forward),
                    e[i - 1].aft + x * (e[i].aft - e[i - 1].aft)};
        }
    return {e.back().forward, e.back().aft};
}

Place placeOf(const LoadingNotes& notes, const Balance& b) {
    const Limits l = limitsAt(notes, b.mass);
    return {b.arm() - l.forward, l.aft - b.arm(), l.aft - l.forward};
}

watch::Verdict judgeBalance(const TypeNotes& n, const Balance& b, const std::string& when) {
    if (!n.loading.given)
        return {};
    const Place p = placeOf(n.loading, b);
    const bool aft = p.fromAft < p.fromForward;
    const std::string where = fmt::format("{}{}{}", armText(n.loading, b.arm()), when.empty() ? "" : " ", when);
    if (p.room() < 0)
        return watch::centreOfGravity(p.room(), p.width,
                                      fmt::format("Centre of gravity {}: {} {} the {} limit.", where,
                                                  shiftText(n.loading, -p.room()), aft ? "behind" : "ahead of",
                                                  aft ? "aft" : "forward"));
    return watch::centreOfGravity(p.room(), p.width,
                                  fmt::format("Centre of gravity {}: {} inside the {} limit.", where,
                                              shiftText(n.loading, p.room()), aft ? "aft" : "forward"));
}

watch::Verdict judgeWeight(const TypeNotes& n, double kilograms, double most, const std::string& what) {
    const UnitSpec& unit = *n.cockpit.weight;
    return watch::atMost(watch::Rule::overweight, kilograms, most, 0.5 * unit.scale, [&](bool kept) {
        return kept ? fmt::format("{} {} of {}.", what, format(kilograms, unit), format(most, unit))
                    : fmt::format("{} {} is {} more than the {} allowed.", what, format(kilograms, unit),
                                  format(kilograms - most, unit), format(most, unit));
    });
}

watch::Verdict judgeStation(const TypeNotes& n, const SheetLine& line) {
    if (!line.station || !line.most)
        return {};
    return watch::atMost(watch::Rule::stationOver, line.mass, *line.most, *line.most * watch::weighedTo, [&](bool) {
        return fmt::format("{}: {} is more than the {} it may carry.", line.name, format(line.mass, *n.cockpit.weight),
                           format(*line.most, *n.cockpit.weight));
    });
}

watch::Verdict judgeSideways(const TypeNotes& n, const Balance& b, const std::string& when) {
    const auto& most = n.loading.mostSideways;
    if (!n.loading.given || !most)
        return {};
    const double off = std::abs(b.sideways);
    return watch::atMost(watch::Rule::sideways, off, most->si(), most->si() * watch::weighedTo, [&](bool) {
        return fmt::format("{} {} to {}{}{}, of {} allowed.", momentText(n.loading, off),
                           n.loading.momentUnit ? n.loading.momentUnit->symbol : "kg m",
                           b.sideways < 0 ? "port" : "starboard", when.empty() ? "" : " ", when,
                           momentText(n.loading, most->si()));
    });
}

std::vector<TrimAdvice> trimFor(const TypeNotes& n, const Balance& b) {
    std::vector<TrimAdvice> out;
    const double x = std::clamp(
        (b.mass - n.speeds.lightWeight.si()) / (n.speeds.heavyWeight.si() - n.speeds.lightWeight.si()), 0.0, 1.0);
    for (const auto& table : n.loading.trim) {
        TrimAdvice a;
        a.flap = table.flap;
        const double light = lookUp(table.light, b.arm()), heavy = lookUp(table.heavy, b.arm());
        for (const auto* side : {&table.light, &table.heavy})
            a.held = a.held || b.arm() < side->front().first || b.arm() > side->back().first;
        a.trim = light + x * (heavy - light);
        const double shown = std::abs(a.trim) < 0.05 ? 0.0 : a.trim;
        const std::string unit = n.loading.trimUnit.empty() ? "units" : n.loading.trimUnit;
        a.text = fmt::format("{} {}{}", formatNumber(std::abs(shown), 1), unit,
                             shown == 0.0 ? ""
                             : shown > 0  ? " nose up"
                                          : " nose down");
        out.push_back(std::move(a));
    }
    return out;
}

} // namespace amber::loading
