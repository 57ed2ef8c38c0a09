// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/drill_check.h"
#include "flight/open_files.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::advice {

Problems checkFlown(const powerplant::Aircraft& a) {
    Problems out;
    const TypeNotes& n = a.notes;
    Sortie s = flight::plainSortie(n);
    s.day.oat = Temperature::si(s.day.oat.si() + warmer);
    s.weight = Mass::si(std::min(n.speeds.heavyWeight.si(), n.maxWeight.si()));
    const auto flown = flight::fly(a, s);
    const Gauge gauge = headOrCoolantGauge(n);
    const auto limits = n.gauges.find(gauge);
    for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise}) {
        const auto& p = flown[phase];
        const auto& notes = n.phase(phase);
        double highest = 0.0;
        for (std::size_t i = p.firstSample; i <= p.lastSample; ++i)
            highest = std::max(highest, flown.samples[i].headOrCoolant());
        if (limits != n.gauges.end() && p.setting.coolingFlap < 0.95) {
            const auto limit = limits->second.in(phase).limitHigh;
            if (limit && highest > *limit - closest)
                out.push_back(
                    {n.file, notes.line,
                     fmt::format("{}: {} comes to {}, {} of its limit, with the flaps {} (cooling-margin)",
                                 keyOf(phase), nameOf(gauge).title, format(highest, n.unitOf(gauge)),
                                 highest > *limit ? "over"
                                                  : fmt::format("within {:.0f} °C", std::ceil(*limit - highest)),
                                 flapText(p.setting.coolingFlap)),
                     "Open them further before it is asked of them, with a greater flap in this phase"});
        }
        const Rating& rating = flight::ratingFor(n, s, phase);
        const double rpm = p.setting.rpm.si();
        if (p.setting.boost && rating.boost && rpm < 0.96 * rating.rpm.si() &&
            p.point.manifoldPressure.si() > rating.boost->si() - 700.0 && phase != Phase::takeOff &&
            n.propeller.control != PropellerControl::constantSpeed)
            out.push_back(
                {n.file, notes.line,
                 fmt::format("{}: its boost is held on {} where the rating has {} (boost-on-low-rpm)", keyOf(phase),
                             format(rpm, *units::rpm.spec), format(rating.rpm.si(), *units::rpm.spec)),
                 "That boost on lower rpm detonates: give the rating the boost of the rpm that this propeller allows"});
    }
    return out;
}

} // namespace amber::advice
