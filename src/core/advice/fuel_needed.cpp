// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/fuel_needed.h"
#include "loading/load_sheet.h"
#include "units/text.h"
#include "watch/rules.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::advice {
namespace {
/// What the notes' own consumption makes of a phase at one rating, all engines; nothing where they give none, or
/// other ratings were flown too.
std::optional<double> tabled(const TypeNotes& n, const flight::Flown& f, Phase phase) {
    const auto& flown = f[phase];
    const Rating* rating = n.rating(flown.rating);
    if (!rating || phase < Phase::takeOff || phase > Phase::cruise)
        return std::nullopt;
    for (const auto& change : f.ratingChanges)
        if (change.phase == phase)
            return std::nullopt;
    for (const auto& line : rating->lines)
        if (line.fuelFlow)
            return line.fuelFlow->si() * static_cast<double>(n.engineCount()) * flown.duration;
    return std::nullopt;
}
} // namespace

FuelNeeded fuelNeeded(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    FuelNeeded out;
    for (std::size_t i = static_cast<std::size_t>(Phase::start); i < plannedPhases; ++i) {
        const auto phase = static_cast<Phase>(i);
        const auto& p = f[phase];
        FuelPart part{
            std::string(keyOf(phase)), std::string(titleOf(phase)), p.fuel, p.duration, p.distance, Origin::model,
            tabled(n, f, phase)};
        if (phase == Phase::warmUp)
            part.what = "Warm-up and taxi";
        out.burn += p.fuel;
        out.parts.push_back(std::move(part));
    }
    out.flow = f.cruiseFuelFlow;
    double ground = 0.0, seconds = 0.0;
    for (const auto& leg : f.legs) {
        ground += leg.distance;
        seconds += leg.time;
    }
    out.ground = seconds > 0 ? ground / seconds : f.cruiseTas.si();
    out.alternate = f.alternateFuel;
    out.reserve = f.reserveFuel;
    if (out.alternate > 0)
        out.parts.push_back({"alternate",
                             s.flight.alternate.empty() ? "Alternate" : "To " + s.flight.alternate,
                             out.alternate,
                             out.flow > 0 ? out.alternate / out.flow : 0.0,
                             s.flight.alternateDistance.si(),
                             Origin::model,
                             {}});
    out.parts.push_back({"reserve",
                         "Reserve",
                         out.reserve,
                         flight::reserveTime(n, s),
                         0.0,
                         s.fuel.reserve ? Origin::entered : Origin::notes,
                         {}});
    out.needed = out.burn + out.alternate + out.reserve;
    out.aboard = f.fuelAtStart;
    for (const auto& tank : n.fuel.tanks)
        if (!tank.removable || s.contents.contains(tank.id))
            out.unusable += tank.capacity.si() - tank.usable.si();
    out.margin = out.aboard - out.needed;
    if (out.flow > 0) {
        out.marginSeconds = out.margin / out.flow;
        out.marginDistance = out.marginSeconds * out.ground;
    }
    out.furthest = std::max(0.0, s.flight.distance.si() + out.marginDistance);
    out.longest = std::max(0.0, f[Phase::stop].start - f[Phase::takeOff].start + out.marginSeconds);
    const UnitSpec& unit = *n.cockpit.fuel;
    out.verdict = watch::atLeast(watch::Rule::reserve, out.margin, 0.0, 0.0, [&](bool kept) {
        return kept ? fmt::format("{} on board, {} required: margin {}, {} or {} of cruise.", format(out.aboard, unit),
                                  format(out.needed, unit), format(out.margin, unit),
                                  formatHoursOrMinutes(out.marginSeconds),
                                  format(out.marginDistance, *n.cockpit.distance))
                    : fmt::format("{} on board, {} required: {} short, {} or {} of cruise.", format(out.aboard, unit),
                                  format(out.needed, unit), format(-out.margin, unit),
                                  formatHoursOrMinutes(-out.marginSeconds),
                                  format(-out.marginDistance, *n.cockpit.distance));
    });
    const auto oil = loading::oilForHours(n, s, Duration::si(f.totalTime() - f[Phase::start].start));
    out.oilAboard = oil.aboard;
    out.oilBurnt = oil.burnt;
    out.oilLeast = oil.least;
    out.oilHours = oil.lasts;
    return out;
}

std::optional<double> fuelForDistance(const powerplant::Aircraft& a, const Sortie& sortie, Distance distance) {
    Sortie s = sortie;
    if (!s.flight.legs.empty()) { // every leg in proportion
        const double share = distance.si() / std::max(1.0, sortie.flight.distance.si());
        for (auto& leg : s.flight.legs)
            leg.distance = Distance::si(leg.distance.si() * share);
    }
    s.flight.distance = distance;
    const auto f = flight::fly(a, s);
    if (f.fuelAtEnd <= 1e-6 || f.fuelAtEnd >= f.fuelAtStart)
        return std::nullopt;
    return fuelNeeded(a, s, f).needed;
}

} // namespace amber::advice
