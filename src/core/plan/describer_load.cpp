// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/fuel_needed.h"
#include "loading/envelope.h"
#include "loading/tank_sequence.h"
#include "plan/describer.h"
#include "watch/rules.h"
#include <fmt/format.h>

namespace amber::plan {

bool Describer::knowsWind() const {
    return f_.knowsWind();
}

std::string Describer::tankText(const flight::TankChange& c) const {
    using enum flight::TankChange::Kind;
    switch (c.kind) {
    case reserve:
        return tankName(c.tank) + " cock to reserve";
    case transferBegins:
        return "Pump over from " + tankName(c.tank);
    case transferEnds:
        return tankName(c.tank) + " is empty: pump off";
    case dropped:
        return "Let " + tankName(c.tank) + " go";
    case feed:
        break;
    }
    const bool crossfed = loading::TankSequence(n_, s_).needsCrossfeed(c.tank);
    return "Fuel to " + tankName(c.tank) + (crossfed ? ", crossfeed open" : "");
}

std::string Describer::tankReason(const flight::TankChange& c) const {
    using enum flight::TankChange::Kind;
    switch (c.kind) {
    case reserve:
        return "The standpipe keeps the rest until the cock is turned.";
    case transferBegins:
        return "There is room for all of it: pumped sooner it runs overboard.";
    case transferEnds:
        return "A pump that runs dry is soon a worn one.";
    case dropped:
        return "Empty, they are drag: look below first.";
    case feed:
        break;
    }
    if (c.ranDry)
        return "The tank before it is empty.";
    if (c.phase >= Phase::letDown)
        return "The landing tank, by the notes" +
               (c.from >= 0 ? fmt::format("; {} left in {}.", fuel(c.left),
                                          n_.fuel.tanks[static_cast<std::size_t>(c.from)].name)
                            : std::string("."));
    std::string why = s_.fuel.order.empty() ? "By the notes' order" : "In your order";
    if (c.from >= 0) {
        const Tank& before = n_.fuel.tanks[static_cast<std::size_t>(c.from)];
        if (c.wanted && c.left < 1e-6)
            why += fmt::format("; {} is run dry as the notes want: fuel pressure falls first", before.name);
        else
            why += fmt::format("; {} left in {}", fuel(c.left), before.name);
        if (!before.gauged)
            why += ", which only the clock counts";
    }
    if (c.beforeBadGround)
        why += "; changed before the bad ground";
    return why + ".";
}

void Describer::loadClocks(PhasePlan& p) const {
    const UnitSpec& weightUnit = *n_.cockpit.weight;
    const auto weight = [&](double kg) { return format(kg, weightUnit); };
    const auto add = [&](Fact fact, std::string what, std::string value, Origin origin, std::string why,
                         watch::Verdict verdict = {}) {
        p.clocks.push_back(
            {std::move(fact), std::move(what), std::move(value), origin, std::move(why), std::move(verdict)});
    };
    const loading::Sheet sheet(n_, s_);
    const Origin burnt = powerplant::originOfFuel(a_);
    const Origin sum = s_.load.weightTyped ? Origin::entered : Origin::notes;
    add({"ramp-weight", Dimension::mass, f_.rampWeight}, "Ramp weight", weight(f_.rampWeight), sum,
        s_.load.weightTyped ? "As typed." : "Empty aircraft, load, oil and fuel.");
    const auto& off = f_.samples[f_[Phase::takeOff].firstSample];
    const auto& down = f_.samples[f_[Phase::landing].lastSample];
    add({"take-off-weight", Dimension::mass, off[Gauge::weight]}, "At take-off", weight(off[Gauge::weight]), burnt,
        "Less what start, taxi and run-up burn.");
    add({"landing-weight", Dimension::mass, down[Gauge::weight]}, "Landing", weight(down[Gauge::weight]), burnt,
        "Less the fuel burnt.");
    if (sheet.hasArms()) {
        const auto at = [&](std::size_t sample) {
            const bool gone = !f_.dropped.empty() && sample >= f_.dropped.front();
            return sheet.with(f_.contents.at(sample), gone);
        };
        const std::size_t first = f_[Phase::takeOff].firstSample, last = f_[Phase::landing].lastSample;
        const auto rising = at(first), settling = at(last);
        auto verdict = loading::judgeBalance(n_, rising, "at take-off");
        add({"take-off-balance", Dimension::length, rising.arm()}, "CG at take-off",
            loading::armText(n_.loading, rising.arm()), Origin::notes, verdict.sentence());
        verdict = loading::judgeBalance(n_, settling, "landing");
        add({"landing-balance", Dimension::length, settling.arm()}, "CG at landing",
            loading::armText(n_.loading, settling.arm()), Origin::notes, verdict.sentence());
        verdict = loading::judgeBalance(n_, sheet.dry(), "at zero fuel");
        add({"zero-fuel-balance", Dimension::length, sheet.dry().arm()}, "CG at zero fuel",
            loading::armText(n_.loading, sheet.dry().arm()), Origin::notes, verdict.sentence());
    }
    const auto needed = advice::fuelNeeded(a_, s_, f_);
    add({"fuel-needed", Dimension::volume, needed.needed}, "Fuel required", fuel(needed.needed), burnt,
        "What this flight burns, the alternate and the reserve.");
    add({"fuel-aboard", Dimension::volume, needed.aboard}, "Fuel on board", fuel(needed.aboard), Origin::entered,
        "All that can be burnt of what is in the tanks.");
    add({"fuel-margin", Dimension::volume, needed.margin}, needed.margin < 0 ? "Short" : "Fuel margin",
        fuel(std::abs(needed.margin)), burnt, needed.verdict.sentence(), needed.verdict);
}

} // namespace amber::plan
