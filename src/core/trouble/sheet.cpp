// SPDX-License-Identifier: GPL-3.0-or-later
#include "trouble/sheet.h"
#include "cockpit/equipment.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "trouble/drill.h"
#include "units/text.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::trouble {
namespace {
std::string rateText(double rate, const Cockpit& c) {
    const double step = verticalSpeedStep(c);
    const double rounded = std::round(rate / step) * step;
    return fmt::format("{} {}", rounded < 0 ? "sinks" : "climbs", format(std::abs(rounded), verticalSpeedUnit(c)));
}
std::string rounded(double si, const UnitSpec& u, double to) {
    const double unit = std::round((si - u.offset) / u.scale / to) * to;
    return format(unit * u.scale + u.offset, u);
}
std::string rpmText(Rotation r) {
    return format(std::round(r.si() * 6.0) / 6.0, *units::rpm.spec);
}
/// Puts one figure after another into a list.
auto collector(Figures& out) {
    return [&out](std::string id, std::string what, std::string value, double si, Origin origin = Origin::model,
                  std::string why = {}) -> Figure& {
        out.push_back({std::move(id), std::move(what), std::move(value), si, origin, {}, std::move(why)});
        return out.back();
    };
}
std::string percent(double share) {
    return fmt::format("{:.0f} %", 100 * share);
}
} // namespace

std::string lowHeight(double metres, const Cockpit& c) {
    return rounded(metres, *c.height, c.height == units::metre.spec ? 5 : 10);
}

std::string roundWeight(double kilograms, const Cockpit& c) {
    return rounded(kilograms, *c.weight, 10);
}

std::string wordsOf(const Moment& m, const TypeNotes& n) {
    std::string out = fmt::format("{}, {}", formatHoursMinutes(m.time), inSentence(std::string(titleOf(m.phase))));
    if (m.flying)
        out += fmt::format(", at {}", formatHeight(m.height.si(), *n.cockpit.height));
    out += ", " + rounded(m.weight.si(), *n.cockpit.weight, 10);
    if (m.flying && m.ias.si() > 1)
        out += ", " + rounded(m.ias.si(), *n.cockpit.speed, 1);
    return out;
}

Figures figuresOf(const EngineOut& o, const TypeNotes& n) {
    const Cockpit& c = n.cockpit;
    Figures out;
    const auto collect = collector(out);
    const auto put = [&](std::string id, std::string what, std::string value, double si,
                         std::string why = {}) -> Figure& {
        return collect(std::move(id), std::move(what), std::move(value), si, Origin::model, std::move(why));
    };
    const bool coarse = !o.feathers && cockpit::equipmentOf(n).hub != cockpit::Hub::fixed;
    const char* least = o.feathers ? "Feathered" : coarse ? "Propeller coarse" : "Windmilling";
    if (o.anyLeft) {
        auto& held =
            put("rate-least-drag", least, rateText(o.feathered.rate.si(), c), o.feathered.rate.si(),
                fmt::format("At {}, {}.", rounded(o.feathered.ias.si(), *c.speed, 1), inSentence(o.feathered.rating)));
        held.verdict = o.verdict;
        held.strong = true;
        if (o.feathers || coarse)
            put("rate-windmilling", "Windmilling", rateText(o.windmilling.rate.si(), c), o.windmilling.rate.si(),
                "While the propeller turns.");
        if (o.wrong)
            put("rate-wrong", "The wrong one feathered", rateText(o.wrong->rate.si(), c), o.wrong->rate.si(),
                "The dead one turns, a live one stands.");
        if (o.limited.rating != o.feathered.rating) {
            auto& most = put("rate-limited", o.limited.rating, rateText(o.limited.rate.si(), c), o.limited.rate.si(),
                             o.limitedLive.left ? fmt::format("{} of it left; {} open.",
                                                              formatMinutesSeconds(o.limitedLive.left->si()),
                                                              percent(o.limitedLive.flap))
                                                : "");
            most.verdict = o.rating;
        }
        auto& power = put(
            "power-asked", "Power asked of each",
            fmt::format("{} of {}", format(o.feathered.needed.si(), *c.power), format(o.feathered.each.si(), *c.power)),
            o.feathered.needed.si(), fmt::format("To hold the height, by {}.", inSentence(o.feathered.rating)));
        power.verdict = o.verdict;
        if (o.live.settles.si() > 0)
            put("flap", n.coolingLever.empty() ? "Cooling of the others" : n.coolingLever,
                percent(o.live.flap) + " open", o.live.flap, o.cooling.sentence())
                .verdict = o.cooling;
        if (o.ceiling)
            put("ceiling", "Holds", formatHeight(o.ceiling->si(), *c.height), o.ceiling->si(),
                o.ceilingWindmilling && (o.feathers || coarse)
                    ? fmt::format("Windmilling {}.", formatHeight(o.ceilingWindmilling->si(), *c.height))
                    : "");
        else
            put("ceiling", "Holds", "no height", std::numeric_limits<double>::quiet_NaN()).verdict = o.verdict;
        if (!o.driftDown.holds)
            put("drift-down", "Drift-down",
                fmt::format("to {} in {}, {}", formatHeight(o.driftDown.to.si(), *c.height),
                            formatHoursOrMinutes(o.driftDown.seconds), rounded(o.driftDown.distance, *c.distance, 1)),
                o.driftDown.seconds, "Still air, at the best speed, continuous rating.");
    }
    if (o.glide) {
        const Glide& g = *o.glide;
        auto& ratio =
            put("glide", "Glide", fmt::format("{:.1f} to 1 at {}", g.ratio, rounded(g.ias.si(), *c.speed, 1)), g.ratio,
                g.modelRatio ? fmt::format("The model has {:.1f}.", *g.modelRatio)
                             : std::string("Still air, wheels and flaps up."));
        ratio.origin = g.byNotes ? Origin::notes : Origin::model;
        ratio.strong = true;
        put("glide-distance", "Reaches",
            fmt::format("{} in {}", format(g.distance, *c.distance, 1), formatMinutesSeconds(g.seconds)), g.distance,
            "From this height to the field's, no turns, no wind.");
        put("sink", "Sinks",
            format(std::round(g.sink.si() / verticalSpeedStep(c)) * verticalSpeedStep(c), verticalSpeedUnit(c)),
            g.sink.si());
    }
    if (n.positions.size() > 1) {
        auto& safe = put("safe-speed", "Safe speed", rounded(o.live.safe.si(), *c.speed, 1), o.live.safe.si(),
                         fmt::format("Best {}.{}", rounded(o.live.best.si(), *c.speed, 1),
                                     o.moment.flying ? fmt::format(" The plan has {} {} there.",
                                                                   rounded(std::abs(o.margin.si()), *c.speed, 1),
                                                                   o.margin.si() < 0 ? "less" : "more")
                                                     : std::string()));
        safe.origin = Origin::between;
        safe.verdict = o.speed;
    }
    if (o.anyLeft) {
        const Reach& r = o.reach;
        std::string fuel = format(r.fed, *c.fuel);
        if (r.crossfeed > 0)
            fuel += fmt::format(" and {} by crossfeed", format(r.crossfeed, *c.fuel));
        put("fuel", "Fuel in reach", fuel, r.fed + r.crossfeed,
            r.stuck > 0 ? fmt::format("{} cannot be had.", format(r.stuck, *c.fuel)) : "");
        if (r.seconds > 0)
            put("endurance", "Lasts",
                fmt::format("{}, {} at {}", formatHoursMinutes(r.seconds), rounded(r.distance, *c.distance, 5),
                            formatHeight(r.height.si(), *c.height)),
                r.seconds,
                fmt::format("At {} each, {}; still air, to dry tanks.", format(r.each.si(), *c.power),
                            format(r.burn, fuelFlowUnit(c))));
    }
    if (!o.lost.services.empty() || !o.lost.weaker.empty()) {
        std::string lost = fmt::format("{}", fmt::join(o.lost.services, ", "));
        if (lost.empty())
            lost = "nothing whole";
        std::string why = o.lost.weaker.empty()
                              ? ""
                              : fmt::format("Weaker, another still drives it: {}.", fmt::join(o.lost.weaker, ", "));
        if (o.lost.batterySeconds)
            why += fmt::format("{}No generator: the battery lasts some {}.", why.empty() ? "" : " ",
                               formatHoursOrMinutes(*o.lost.batterySeconds));
        auto& l = put("lost", "Lost with it", lost,
                      o.lost.batterySeconds.value_or(std::numeric_limits<double>::quiet_NaN()), why);
        l.origin = Origin::notes;
    }
    return out;
}

Figures figuresOf(const GoRound& g, const TypeNotes& n) {
    const Cockpit& c = n.cockpit;
    Figures out;
    const auto put = collector(out);
    auto& up = put("rate-up", "Wheels and flaps up", rateText(g.rateUp.si(), c), g.rateUp.si(), Origin::model);
    up.verdict = g.climbs;
    up.strong = true;
    put("rate-down", "Still down", rateText(g.rateDown.si(), c), g.rateDown.si(), Origin::model,
        fmt::format("At the approach's {}; drag down {}.", rounded(g.approach.si(), *c.speed, 1),
                    n.trouble.dragDown ? "by the notes" : "is our own figure"));
    if (g.notBelow)
        put("not-below", "Not below", lowHeight(g.notBelow->si(), c) + " over the field", g.notBelow->si(),
            g.notBelowByNotes ? Origin::notes : Origin::model,
            g.dip ? fmt::format("The aircraft loses {} before it climbs.", lowHeight(g.dip->si(), c)) : "")
            .strong = true;
    else
        put("not-below", "Not below", "at no height", std::numeric_limits<double>::quiet_NaN(), Origin::model).verdict =
            g.climbs;
    if (g.boost) {
        auto& b = put("boost", "Boost",
                      g.fullThrottle
                          ? fmt::format("{} of {}, full throttle", formatValue(g.comes.si(), n.unitOf(Gauge::boost)),
                                        format(g.boost->si(), n.unitOf(Gauge::boost)))
                          : format(g.boost->si(), n.unitOf(Gauge::boost)),
                      g.comes.si(), Origin::model, "What the day leaves of the take-off boost at the landing field.");
        (void)b;
    }
    auto& peak =
        put("rpm", "Rpm", g.room ? fmt::format("{}, peak {}", rpmText(g.rpm), rpmText(g.peak)) : rpmText(g.rpm),
            g.peak.si(), Origin::model,
            g.room ? fmt::format("From {} on the approach; {} {} the limit.", rpmText(g.approachRpm),
                                 rpmText(Rotation::si(std::abs(g.room->si()))), g.room->si() < 0 ? "over" : "under")
                   : fmt::format("From {} on the approach.", rpmText(g.approachRpm)));
    peak.verdict = g.overspeed;
    put("power", "Power, each engine", format(g.each.si(), *c.power), g.each.si(), Origin::model);
    put("full-after", "Full power after", fmt::format("{:.1f} s", g.fullAfter), g.fullAfter, Origin::model,
        fmt::format("Opened over {:.1f} s from the approach's power.", g.openedOver));
    put("slammed", "Slammed from a glide",
        g.quickStumbles ? fmt::format("{:.1f} s, and it stumbles", g.quickFullAfter)
                        : fmt::format("{:.1f} s", g.quickFullAfter),
        g.quickFullAfter, Origin::model,
        "After half a minute with the throttle shut it runs lean as it is opened: slowly, or not shut at all.");
    if (n.engine.suctionCarburettor)
        put("air", "Carburettor air", g.airColdFirst ? "cold first" : "cold once power is set",
            std::numeric_limits<double>::quiet_NaN(), Origin::practice,
            g.airColdFirst ? "Boosted: hot air brings detonation."
                           : "Not boosted: heat holds the ice off while it is opened.");
    auto& ready =
        put("ready", "Levers of the approach", g.ready.colour() == watch::Colour::normal ? "ready" : "not ready",
            std::numeric_limits<double>::quiet_NaN(), Origin::notes, g.ready.sentence());
    ready.verdict = g.ready;
    return out;
}

Figures figuresOf(const FewEngines& f, const TypeNotes& n) {
    const Cockpit& c = n.cockpit;
    Figures out;
    const auto put = collector(out);
    if (!f.anyLeft)
        return out;
    const GoRound& g = *f.round;
    auto& commit =
        put("commit", "Commitment height",
            f.commit                                        ? lowHeight(f.commit->si(), c) + " over the field"
            : f.goesRound.colour() == watch::Colour::normal ? std::string("as the wheels go down")
                                                            : std::string("none"),
            f.commit ? f.commit->si() : std::numeric_limits<double>::quiet_NaN(),
            f.commit && g.notBelowByNotes ? Origin::notes : Origin::model,
            g.dip && f.commit ? fmt::format("The aircraft loses {} before it climbs.", lowHeight(g.dip->si(), c)) : "");
    commit.verdict = f.goesRound;
    commit.strong = true;
    put("held-speed", "Held until there", rounded(f.held.si(), *c.speed, 1), f.held.si(), Origin::between,
        fmt::format("Safe speed {}.", rounded(f.safe.si(), *c.speed, 1)));
    const auto of = [&](Power p) {
        return fmt::format("{} of {}", format(p.si(), *c.power), format(f.most.si(), *c.power));
    };
    put("level-power", "To fly level, clean", of(f.level), f.level.si(), Origin::model, "Of each engine left.");
    if (f.wheels)
        put("wheels-power", "On the path, wheels down", of(f.onWheels), f.onWheels.si(), Origin::model,
            "Three degrees, at that speed.");
    if (f.flaps)
        put("down-power", f.wheels ? "Wheels and flaps down" : "Flaps down", of(f.allDown), f.allDown.si(),
            Origin::model, f.path.colour() == watch::Colour::normal ? "" : f.path.sentence())
            .verdict = f.path;
    put("rate-up", "Going round, clean", rateText(g.rateUp.si(), c), g.rateUp.si(), Origin::model,
        fmt::format("Full power {:.1f} s after the levers move.", g.fullAfter));
    if (f.wheels)
        put("rate-wheels", "Going round, wheels down", rateText(g.rateOnWheels.si(), c), g.rateOnWheels.si());
    if (f.wheels)
        put("wheels-by", "Wheels move by",
            f.pumpLost     ? std::string("hand pump or bottle")
            : f.wheelsTake ? fmt::format("their pump, {:.0f} s", f.wheelsTake->si())
                           : std::string("what moves them always"),
            f.wheelsTake && !f.pumpLost ? f.wheelsTake->si() : std::numeric_limits<double>::quiet_NaN(), Origin::notes,
            f.pumpLost ? "The pump's engine is dead: begin minutes earlier, and they stay down." : "");
    if (f.shed)
        put("shed", "Lighter by", rounded(f.shed->si(), *c.weight, 10), f.shed->si(), Origin::model,
            "To be able to go round: fuel burnt off first, if it can be spared.");
    put("rudder", "Rudder", fmt::format("{:.0f} %", 100.0 * std::abs(f.yaw)), std::abs(f.yaw), Origin::model,
        "At full power, of one outer engine's.");
    put("taxi", "On the ground", f.oneSide ? "stop, be towed" : "taxi on the engines left",
        std::numeric_limits<double>::quiet_NaN(), Origin::practice);
    return out;
}

Figures leftSo(const GoRound& g, const TypeNotes& n) {
    Figures out;
    for (const auto& l : g.left)
        out.push_back({"left", l.lever,
                       fmt::format("{}{}", rateText(l.rate.si(), n.cockpit), l.knocks ? ", detonates" : ""),
                       l.rate.si(), Origin::model, l.planned ? std::optional(g.ready) : std::nullopt,
                       fmt::format("{} each. {}", format(l.power.si(), *n.cockpit.power), l.why)});
    return out;
}

Figures figuresOf(const Dive& d, const TypeNotes& n) {
    const Cockpit& c = n.cockpit;
    Figures out;
    const auto put = collector(out);
    put("ias", "Flown at", rounded(d.ias.si(), *c.speed, 1), d.ias.si(), d.never ? Origin::notes : Origin::ours,
        d.never ? fmt::format("Never faster than {}.", rounded(d.never->si(), *c.speed, 1))
                : "A third over the cruise: the notes give no speed for a dive.");
    put("rpm", "Max rpm",
        d.mostFor ? fmt::format("{} for {:.0f} s", rpmText(d.most), d.mostFor->si()) : rpmText(d.most), d.most.si(),
        n.trouble.diveRpm ? Origin::notes : Origin::between, n.trouble.diveRpm ? "" : "The limit of the gauge.");
    if (d.least)
        put("boost", "Min boost", format(d.least->si(), n.unitOf(Gauge::boost)), d.least->si(),
            n.trouble.diveBoost ? Origin::notes : Origin::between, n.trouble.diveBoost ? "" : "That of the let-down.");
    const UnitSpec& k = differenceUnit(c);
    if (d.allowed)
        put("allowed", "May fall", fmt::format("{} in a minute", format(*d.allowed, k)), *d.allowed,
            flight::coolingLimit(n).origin);
    for (const auto& w : d.ways) {
        auto& f = put(
            "way", w.name + (w.boost && w.boost->si() > 1 ? ", " + format(w.boost->si(), n.unitOf(Gauge::boost)) : ""),
            fmt::format(
                "{} down in {}",
                format(std::round(w.sink.si() / verticalSpeedStep(c)) * verticalSpeedStep(c), verticalSpeedUnit(c)),
                formatMinutesSeconds(w.seconds)),
            w.seconds, Origin::model,
            fmt::format("{} {} in a minute, to {}; rpm to {}.",
                        n.engine.cooling == Cooling::air ? "Heads fall" : "Coolant falls",
                        format(std::round(w.fall / k.scale) * k.scale, k), rounded(w.coldest.si(), *c.temperature, 1),
                        rpmText(w.peak)));
        f.verdict = w.rpm.colour() == watch::Colour::red ? w.rpm : w.shock;
        if (f.verdict->colour() != watch::Colour::normal)
            f.why += " " + f.verdict->sentence();
    }
    if (d.aheadSeconds > 0)
        put("ahead", "Power back before", formatMinutesSeconds(d.aheadSeconds), d.aheadSeconds, Origin::model,
            "By steps, so that the fall keeps within what is allowed.")
            .strong = true;
    return out;
}

Figures restartFigures(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f, const Moment& m) {
    const TypeNotes& n = a.notes;
    Figures out;
    const auto put = collector(out);
    const auto e = cockpit::equipmentOf(n);
    if (e.feathers) {
        const double takes = featherTime(n).si();
        put("takes", "Feathers in", fmt::format("{:.0f} s", takes), takes,
            n.trouble.featherTakes ? Origin::notes : Origin::ours);
        if (n.trouble.featherBefore)
            put("before", "Not under", rpmText(*n.trouble.featherBefore), n.trouble.featherBefore->si(), Origin::notes,
                "The start lock holds the blades fine.");
    }
    const double warm = warmTime(n).si();
    put("warm-for", "Warm it for", formatMinutesSeconds(warm), warm, n.trouble.warmFor ? Origin::notes : Origin::ours,
        "At least, and until oil and heads are in their range.");
    const auto least = n.start.oilPressure;
    put("oil-pressure", "Oil pressure",
        fmt::format("{} within {:.0f} s", format(least.si(), n.unitOf(Gauge::oilPressure)),
                    n.start.oilPressureWithin.si()),
        least.si(), Origin::notes);
    // How cold it grows: dead, in this air, at the best speed.
    const auto air = s.day.at(s.day.pressureAltitudeOf(m.height));
    heat::Drive d;
    d.air = air;
    d.coolingFlap = 0.0;
    d.trueAirspeed = Speed::si(liveSetting(a, s, f, m).best.si());
    const heat::Temperatures now{Temperature::si(m.sample.headOrCoolant()),
                                 Temperature::si(m.sample[Gauge::oilTemperature])};
    for (const double minutes : {5.0, 15.0}) {
        const auto then = a.thermal.after(now, d, Duration::si(60 * minutes));
        put(fmt::format("cold-{:.0f}", minutes), fmt::format("Stopped {:.0f} min", minutes),
            fmt::format("{} {}, oil {}", n.engine.cooling == Cooling::air ? "heads" : "coolant",
                        rounded(then.headOrCoolant.si(), *n.cockpit.temperature, 1),
                        rounded(then.oil.si(), *n.cockpit.temperature, 1)),
            then.oil.si(), Origin::model, minutes < 10 ? "Flaps shut, in this air." : "");
    }
    return out;
}

} // namespace amber::trouble
