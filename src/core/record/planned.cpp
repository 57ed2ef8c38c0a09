// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/planned.h"
#include "record/what.h"

namespace amber::record {

std::optional<double> plannedOf(const plan::Plan& plan, Phase phase, std::string_view what, std::string_view engine) {
    if (what == "fuel-added") // before a flight it fills up for another one
        return phase == Phase::writeUp ? std::optional(plan.flown.fuelAtStart - plan.flown.fuelAtEnd) : std::nullopt;
    if (static_cast<std::size_t>(phase) >= plannedPhases)
        return std::nullopt;
    if (what == "warm-up")
        return plan[Phase::warmUp].duration;
    if (what == "prime" && phase == Phase::start && plan.prime.unit.starts_with("stroke")) {
        std::optional<double> dose;
        for (const auto& line : plan[Phase::start].priming) {
            if (line.fact.id != "prime" || (!engine.empty() && line.fact.engine != engine))
                continue;
            if (dose && *dose != line.fact.value)
                return std::nullopt;
            dose = line.fact.value;
        }
        return dose;
    }
    if (what == "static-rpm" && phase == Phase::runUp) {
        // What the sheet of the run-up has: the middle of its band.
        for (const auto& line : plan.runUpSheet.lines)
            if ((line.id == "reference" || line.id == "full-throttle") && line.band.normalLow && line.band.normalHigh)
                return 0.5 * (*line.band.normalLow + *line.band.normalHigh);
        return std::nullopt;
    }
    const WhatRow* row = whatOf(what);
    if (!row || !row->gauge)
        return std::nullopt;
    for (const auto& line : plan[phase].expect)
        if (line.gauge == *row->gauge)
            return line.value;
    return std::nullopt;
}

std::optional<double> unlearntOf(const plan::Plan& plan, Phase phase, std::string_view what, std::string_view engine) {
    if (what == "prime" && phase == Phase::start && plan.prime.unit.starts_with("stroke"))
        return plan.prime.dose;
    const auto planned = plannedOf(plan, phase, what, engine);
    return what == "fuel-added" && planned ? std::optional(*planned / plan.burn) : planned;
}

} // namespace amber::record
