// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/drill_check.h"
#include "flight/open_files.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include "watch/judge.h"
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
    for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise}) {
        const auto& p = flown[phase];
        const auto& notes = n.phase(phase);
        double highest = 0.0;
        for (std::size_t i = p.firstSample; i <= p.lastSample; ++i)
            highest = std::max(highest, flown.samples[i].headOrCoolant());
        const auto under = watch::roomUnderLimit(n, gauge, phase, highest);
        if (under && *under < closest && p.setting.coolingFlap < 0.95)
            out.push_back(
                {n.file, notes.line,
                 fmt::format("{}: {} comes to {}, {} its limit, with the flaps {} (cooling-margin)", keyOf(phase),
                             nameOf(gauge).title, format(highest, n.unitOf(gauge)),
                             *under < 0 ? std::string("over")
                                        : fmt::format("within {} of", format(*under, differenceUnit(n.cockpit))),
                             flapText(p.setting.coolingFlap)),
                 "Open them further before it is asked of them, with a greater flap in this phase"});
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
