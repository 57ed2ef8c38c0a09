// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/notes_check.h"
#include "files/table_reader.h"
#include "notes/cockpit_units.h"
#include "notes/placeholder.h"
#include "notes/sign.h"
#include "reading/walk_reader.h"
#include "units/text.h"
#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace amber {
namespace {

class Checker {
public:
    Checker(const TypeNotes& notes, Problems& problems) : n_(notes), problems_(problems) {}

    void run() {
        for (const auto& [gauge, g] : n_.gauges) {
            dial(gauge, g);
            band(gauge, g.band, "", g.line);
            for (const auto& [phase, b] : g.perPhase)
                band(gauge, b, fmt::format(" for {}", keyOf(phase)), g.line);
        }
        ratings();
        gauges();
        names();
        fuel();
        priorities();
        notes::checkWalk(n_, problems_);
    }

private:
    void say(int line, std::string what, std::string remedy) {
        problems_.push_back({n_.file, line, std::move(what), std::move(remedy)});
    }
    std::string shown(Gauge gauge, double si) const { return format(si, n_.unitOf(gauge)); }

    /// What is marked on a dial must lie on it.
    void dial(Gauge gauge, const GaugeNotes& g) {
        if (!g.scale)
            return;
        const double low = g.scale->first, high = g.scale->second;
        if (!(high > low)) {
            say(g.line,
                fmt::format("limits.{}: the scale runs from {} to {}", nameOf(gauge).key, shown(gauge, low),
                            shown(gauge, high)),
                "Give both ends of the dial, low to high");
            return;
        }
        // A thermometer rests on its stop in frost: what is colder than its first mark is no slip.
        const bool stops = nameOf(gauge).dimension == Dimension::temperature;
        const double slack = 1e-6 * (high - low);
        const auto off = [&](const std::optional<double>& value, const std::string& what) {
            if (value && ((*value < low - slack && !stops) || *value > high + slack))
                say(g.line,
                    fmt::format("limits.{}{}: {} is not on the dial, which runs from {} to {}", nameOf(gauge).key, what,
                                shown(gauge, *value), shown(gauge, low), shown(gauge, high)),
                    "Correct the figure or the scale");
        };
        const auto band = [&](const Band& b, const std::string& where) {
            off(b.limitLow, where + " min");
            off(b.limitHigh, where + " max");
            off(b.normalLow, where + " normal");
            off(b.normalHigh, where + " normal");
        };
        band(g.band, "");
        for (const auto& [phase, b] : g.perPhase)
            band(b, fmt::format(" for {}", keyOf(phase)));
    }

    void band(Gauge gauge, const Band& b, const std::string& where, int line) {
        const auto title = fmt::format("limits.{}{}", nameOf(gauge).key, where);
        if (b.limitLow && b.limitHigh && *b.limitLow >= *b.limitHigh)
            say(line,
                fmt::format("{}: min {} is not below max {}", title, shown(gauge, *b.limitLow),
                            shown(gauge, *b.limitHigh)),
                "Exchange or correct them");
        if (b.normalHigh && b.limitHigh && *b.normalHigh > *b.limitHigh)
            say(line,
                fmt::format("{}: normal runs to {}, past the limit of {}", title, shown(gauge, *b.normalHigh),
                            shown(gauge, *b.limitHigh)),
                "The normal range must end at or below max");
        if (b.normalLow && b.limitLow && *b.normalLow < *b.limitLow)
            say(line,
                fmt::format("{}: normal begins at {}, under the limit of {}", title, shown(gauge, *b.normalLow),
                            shown(gauge, *b.limitLow)),
                "The normal range must begin at or above min");
    }

    void ratings() {
        std::set<std::string> keys;
        if (n_.ratings.empty())
            say(0, "there is no rating", "Add [[rating]] with key, name, rpm and a line of power");
        for (const auto& r : n_.ratings) {
            if (!keys.insert(r.key).second)
                say(r.line, fmt::format("rating \"{}\" stands twice", r.key), "Give each rating its own key");
            over(Gauge::boost, r.boost ? std::optional(r.boost->si()) : std::nullopt, r);
            over(Gauge::rpm, r.rpm.si(), r);
            if (r.boost && !(r.boost->si() > 2e4 && r.boost->si() < 4e5))
                say(r.line, fmt::format("rating \"{}\": boost is out of range", r.key),
                    fmt::format("Between {} and {} is expected, as an absolute pressure or as boost",
                                shown(Gauge::boost, 2e4), shown(Gauge::boost, 4e5)));
            if (!r.boost && !n_.engine.gears.empty())
                say(r.line, fmt::format("rating \"{}\" has no boost, but the engine is supercharged", r.key),
                    fmt::format("Add boost = \"… {}\"", n_.unitOf(Gauge::boost).symbol));
            for (const auto& [grade, boost] : r.grades)
                if (r.boost && boost > *r.boost)
                    say(r.line,
                        fmt::format("rating \"{}\" permits more boost on grade {} than on its own", r.key, grade),
                        "A lower grade never loosens a limit");
            for (const auto& l : r.lines) {
                over(Gauge::boost, l.boost ? std::optional(l.boost->si()) : std::nullopt, r);
                if (!l.gear.empty() && (n_.engine.gears.empty() || !n_.gearIndex(l.gear)))
                    say(l.line, fmt::format("rating \"{}\": there is no gear \"{}\"", r.key, l.gear),
                        "Use a gear named under engine.supercharger");
                if (l.gear.empty() && n_.engine.gears.size() > 1)
                    say(l.line, fmt::format("rating \"{}\": the line does not say its gear", r.key),
                        "Add gear = \"low\" or \"high\"");
                if (l.power && (l.power->si() < 1e3 || l.power->si() > 4e6))
                    say(l.line, fmt::format("rating \"{}\": power is out of range", r.key),
                        "Between 1 and 4,000 kW per engine is expected");
                if (l.at.si() < 0 || l.at.si() > 15000 ||
                    (l.holdsTo && (l.holdsTo->si() < 0 || l.holdsTo->si() > 15000)))
                    say(l.line, fmt::format("rating \"{}\": height is out of range", r.key),
                        "Between sea level and 15,000 m is expected");
            }
            // Without a boost gauge a part-throttle rating is an rpm; the propeller says the power.
            const bool byRpm = !r.boost && n_.propeller.control != PropellerControl::constantSpeed && r.lines.empty() &&
                               &r != &n_.ratings.front();
            if (!byRpm &&
                std::none_of(r.lines.begin(), r.lines.end(), [](const RatingLine& l) { return l.power.has_value(); }))
                say(r.line, fmt::format("rating \"{}\" has no power in any line", r.key),
                    "Add [[rating.line]] with power");
        }
    }

    void over(Gauge gauge, std::optional<double> value, const Rating& r) {
        const auto found = n_.gauges.find(gauge);
        if (!value || found == n_.gauges.end())
            return;
        const auto most = [&](Phase phase) { return found->second.in(phase).limitHigh; };
        std::optional<double> limit = found->second.band.limitHigh;
        for (const auto& [phase, notes] : n_.phases)
            if (notes.rating == r.key)
                if (const auto here = most(phase))
                    limit = here;
        if (limit && *value > *limit * (1 + 1e-9))
            say(r.line,
                fmt::format("rating \"{}\": {} is over the {} limit of {}", r.key, shown(gauge, *value),
                            nameOf(gauge).key, shown(gauge, *limit)),
                "Correct the rating or limits." + std::string(nameOf(gauge).key));
    }

    void gauges() {
        const Gauge headOrCoolant = headOrCoolantGauge(n_);
        for (const Gauge needed : {Gauge::rpm, headOrCoolant, Gauge::oilTemperature, Gauge::oilPressure})
            if (!n_.gauges.contains(needed))
                say(0, fmt::format("limits.{} is missing", nameOf(needed).key),
                    "Every engine needs its limits for rpm, head or coolant, oil and oil pressure");
        if (headOrCoolant == Gauge::headTemperature ? !n_.heat.head : !n_.heat.coolant)
            say(n_.heat.line,
                fmt::format("it is not known where the {} settles at the rated point: limits.{} has no normal range to "
                            "estimate it from",
                            headOrCoolant == Gauge::headTemperature ? "head" : "coolant", nameOf(headOrCoolant).key),
                fmt::format("Add normal = \"low to high °C\" to [limits.{}], or {} = \"… °C\" to [heat]",
                            nameOf(headOrCoolant).key, headOrCoolant == Gauge::headTemperature ? "head" : "coolant"));
        const auto settled = [&](Gauge gauge, const char* key, std::optional<double> value) {
            const auto g = n_.gauges.find(gauge);
            if (!value || g == n_.gauges.end())
                return;
            std::optional<double> limit = g->second.band.limitHigh;
            for (const auto& [phase, b] : g->second.perPhase)
                if (b.limitHigh)
                    limit = std::max(*b.limitHigh, limit.value_or(*b.limitHigh));
            if (limit && *value > *limit)
                say(n_.heat.line,
                    fmt::format("heat.{}: {} is over the limit of {} in limits.{}", key, shown(gauge, *value),
                                shown(gauge, *limit), nameOf(gauge).key),
                    "Give what the engine settles at there, within its own limits, or correct the limit");
        };
        const auto si = [](const auto& quantity) { return quantity ? std::optional(quantity->si()) : std::nullopt; };
        settled(Gauge::headTemperature, "head", si(n_.heat.head));
        settled(Gauge::coolantTemperature, "coolant", si(n_.heat.coolant));
        settled(Gauge::oilTemperature, "oil", n_.heat.oil.si());
        settled(Gauge::oilPressure, "oil_relief", n_.heat.oilRelief.si());
    }

    void names() {
        const auto rating = [&](const std::string& key, int line, const std::string& where) {
            if (!key.empty() && !n_.rating(key))
                say(line, fmt::format("{}: there is no rating \"{}\"", where, key), "Use the key of a [[rating]]");
        };
        for (const Phase needed : {Phase::takeOff, Phase::climb, Phase::cruise})
            if (n_.phase(needed).rating.empty())
                say(n_.phase(needed).line, fmt::format("{} does not name its rating", keyOf(needed)),
                    "Add rating = \"…\"");
        for (const auto& [phase, p] : n_.phases) {
            rating(p.rating, p.line, std::string(keyOf(phase)));
            if (!p.gear.empty() && (n_.engine.gears.empty() || !n_.gearIndex(p.gear)))
                say(p.line, fmt::format("{}: there is no gear \"{}\"", keyOf(phase), p.gear),
                    "Use a gear named under engine.supercharger");
            for (const auto& [gauge, value] :
                 {std::pair{Gauge::boost, p.boost ? std::optional(p.boost->si()) : std::nullopt},
                  std::pair{Gauge::rpm, p.rpm ? std::optional(p.rpm->si()) : std::nullopt}})
                if (const auto g = n_.gauges.find(gauge); value && g != n_.gauges.end())
                    if (const auto limit = g->second.in(phase).limitHigh; limit && *value > *limit)
                        say(p.line,
                            fmt::format("{}: {} is over the limit of {}", keyOf(phase), shown(gauge, *value),
                                        shown(gauge, *limit)),
                            "Correct the phase or the limit");
            std::set<std::string> ids;
            for (const auto& s : p.steps) {
                if (!ids.insert(s.id).second)
                    say(s.line, fmt::format("{}: step \"{}\" stands twice", keyOf(phase), s.id),
                        "Give each step its own id");
                placeholders(phase, s.set, s.line);
                placeholders(phase, s.at, s.line);
                for (const auto& school : s.schools)
                    placeholders(phase, school.set, s.line);
            }
        }
        troubles();
        for (const Phase needed : {Phase::letDown, Phase::landing})
            if (!n_.phase(needed).rpm || (!n_.engine.gears.empty() && !n_.phase(needed).boost) || !n_.phase(needed).ias)
                say(n_.phase(needed).line, fmt::format("{} needs rpm, boost and ias", keyOf(needed)),
                    "Add what is missing");
        if (!n_.phase(Phase::letDown).rate || n_.phase(Phase::letDown).rate->si() < 0.1)
            say(n_.phase(Phase::letDown).line, "let-down needs the rate of descent", "Add rate = \"600 ft/min\"");
        for (const Phase needed : {Phase::warmUp, Phase::stop})
            if (!n_.phase(needed).rpm)
                say(n_.phase(needed).line, fmt::format("{} needs its rpm", keyOf(needed)), "Add rpm = …");
        rating(n_.heat.rating, n_.heat.line, "heat");
        std::size_t climbs = 0, levels = 0;
        for (const auto& p : n_.performance) {
            rating(p.rating, p.line, "performance");
            ++(p.rate ? climbs : levels);
            if (!(p.ias.si() > 5) || !(p.weight.si() > 10) || (p.rate && !(p.rate->si() > 0)))
                say(p.line, "performance: speed, weight and rate must be positive", "Correct the line");
        }
        if (climbs != 1 || levels != 1)
            say(0, "performance needs one line in level flight and one in the climb",
                "Add [[performance]] lines: the climbing one has a rate");
        for (const auto& id : {"lift-off", "climb", "approach"})
            if (std::none_of(n_.speeds.entries.begin(), n_.speeds.entries.end(),
                             [&](const SpeedEntry& e) { return e.id == id; }))
                say(0, fmt::format("speeds has no entry \"{}\"", id),
                    "Add [[speeds.entry]] with its light and heavy figures");
        for (const auto& id : n_.start.order)
            if (std::none_of(n_.positions.begin(), n_.positions.end(), [&](const Position& p) { return p.id == id; }))
                say(0, fmt::format("engine_start.order: there is no position \"{}\"", id),
                    "Use the id of a [[position]]");
        for (const auto& [key, id] :
             {std::pair{"accessory_first", n_.start.accessoryFirst}, std::pair{"away_first", n_.start.awayFirst}})
            if (!id.empty() && std::none_of(n_.positions.begin(), n_.positions.end(),
                                            [&wanted = id](const Position& p) { return p.id == wanted; }))
                say(0, fmt::format("engine_start.{}: there is no position \"{}\"", key, id),
                    "Use the id of a [[position]]");
        std::set<std::string> ordered(n_.start.order.begin(), n_.start.order.end());
        if (ordered.size() != n_.positions.size() || n_.start.order.size() != n_.positions.size())
            say(0, "engine_start.order does not name every position once", "List each engine's id, first to last");
        if (n_.start.starter.firesAfter > n_.start.crankMost)
            say(0, "the starter fires later than it may crank", "fires_after must not be longer than crank_most");
        if (n_.engine.gears.size() > 1 && !n_.gearChange)
            say(0, "a two-speed supercharger needs the rule for changing gear",
                "Add [gear_change] with fall and throttle_back_to");
        if (!n_.gearChange)
            return;
        if (n_.gearChange->fall.si() <= 0)
            say(0, "gear_change.fall must be more than nothing",
                "Give the fall of boost after which the gear is changed");
    }

    /// Figures and signs that the drills and symptoms of an emergency name.
    void troubles() {
        const auto figures = [&](const std::string& text, int line, std::string_view where) {
            for (const auto& name : placeholder::namesIn(text)) {
                if (placeholder::availableInTrouble(name))
                    continue;
                std::vector<std::string> known;
                for (const auto& n : placeholder::allInTrouble())
                    known.emplace_back(n.name);
                const auto guess = document::nearest(name, known);
                say(line, fmt::format("trouble.{}: there is no figure {{{}}} in a drill of an emergency", where, name),
                    guess.empty() ? fmt::format("Use one of: {}", fmt::join(known, ", "))
                                  : fmt::format("Did you mean {{{}}}?", guess));
            }
        };
        for (const auto& [emergency, drill] : n_.trouble.drills) {
            std::set<std::string> ids;
            for (const auto& s : drill.steps) {
                if (!ids.insert(s.id).second)
                    say(s.line, fmt::format("trouble.{}: step \"{}\" stands twice", nameOf(emergency).key, s.id),
                        "Give each step its own id");
                figures(s.set, s.line, nameOf(emergency).key);
                figures(s.at, s.line, nameOf(emergency).key);
            }
        }
        for (const auto& symptom : n_.trouble.symptoms)
            for (const auto& sign : symptom.signs)
                if (!signFromKey(sign)) {
                    const auto guess = document::nearest(sign, allSignKeys());
                    say(symptom.line, fmt::format("symptom \"{}\": “{}” is no sign", symptom.cause, sign),
                        guess.empty() ? "Write a gauge and what it does, \"oil-pressure falls-fast\", or a sign of "
                                        "docs/formats/type-notes.md, \"shake\""
                                      : fmt::format("Did you mean \"{}\"?", guess));
                }
        if (const auto rpm = n_.gauges.find(Gauge::rpm); n_.trouble.diveRpm && n_.phase(Phase::takeOff).rating.size())
            if (const Rating* r = n_.rating(n_.phase(Phase::takeOff).rating);
                r && n_.trouble.diveRpm->si() < 0.5 * r->rpm.si() && rpm != n_.gauges.end())
                say(n_.trouble.drills.contains(Emergency::dive) ? n_.trouble.drills.at(Emergency::dive).line : 0,
                    "trouble.dive.rpm is less than half of the take-off rpm",
                    "Give the most that it may reach in a dive");
    }

    void placeholders(Phase phase, const std::string& text, int line) {
        for (const auto& name : placeholder::namesIn(text)) {
            if (placeholder::availableIn(name, phase))
                continue;
            std::vector<std::string> here;
            for (const auto& known : placeholder::all())
                if (placeholder::availableIn(known.name, phase))
                    here.emplace_back(known.name);
            const auto guess = document::nearest(name, here);
            say(line, fmt::format("{}: there is no figure {{{}}} in this phase", keyOf(phase), name),
                guess.empty() ? fmt::format("Use one of: {}", fmt::join(here, ", "))
                              : fmt::format("Did you mean {{{}}}?", guess));
        }
    }

    void fuel() {
        const auto tank = [&](const std::string& id) {
            return std::any_of(n_.fuel.tanks.begin(), n_.fuel.tanks.end(), [&](const Tank& t) { return t.id == id; });
        };
        for (const auto& [where, id] :
             {std::pair{"take_off", n_.fuel.takeOffTank}, std::pair{"landing", n_.fuel.landingTank}})
            if (!tank(id))
                say(0, fmt::format("fuel.{}: there is no tank \"{}\"", where, id), "Use the id of a [[fuel.tank]]");
        for (const auto& id : n_.fuel.order)
            if (!tank(id))
                say(0, fmt::format("fuel.order: there is no tank \"{}\"", id), "Use the id of a [[fuel.tank]]");
        for (const auto& t : n_.fuel.tanks)
            if (t.usable > t.capacity || !(t.capacity.si() > 0) || t.capacity.si() > 100)
                say(0, fmt::format("tank \"{}\": usable and capacity do not make sense", t.id),
                    "Usable must not be more than capacity");
        for (const auto& t : n_.fuel.tanks) {
            const double usable = t.usable.si();
            if (t.kind == TankKind::transfer && (!tank(t.to) || t.to == t.id))
                say(0, fmt::format("tank \"{}\": it is pumped to \"{}\", which is no other tank", t.id, t.to),
                    "Name in `to` the tank that its pump fills");
            if ((t.leaveAt && t.leaveAt->si() >= usable) || t.standpipe.si() >= usable || t.uncovers.si() >= usable)
                say(0, fmt::format("tank \"{}\": leave_at, standpipe or uncovers is more than it can give", t.id),
                    "They are usable fuel, less than `usable`");
            if (t.kind != TankKind::main && (t.id == n_.fuel.takeOffTank || t.id == n_.fuel.landingTank))
                say(0, fmt::format("tank \"{}\": a drop or transfer tank is not for take-off or landing", t.id),
                    "Name a main tank in fuel.take_off and fuel.landing");
            for (const auto& id : t.feeds)
                if (std::none_of(n_.positions.begin(), n_.positions.end(),
                                 [&](const Position& p) { return p.id == id; }))
                    say(0, fmt::format("tank \"{}\" feeds \"{}\", which is no engine", t.id, id),
                        "Use the ids of engine positions");
        }
        for (const auto& id : n_.fuel.order)
            for (const auto& t : n_.fuel.tanks)
                if (t.id == id && t.kind == TankKind::transfer)
                    say(0, fmt::format("fuel.order: no engine can feed from \"{}\", it is only pumped over", id),
                        "Take it out of the order");
        if (n_.fuel.grades.empty())
            say(0, "fuel.grades is missing", "List the fuel grades that may be used, best first");
    }

    void priorities() {
        if (n_.propeller.referenceRpm && !(n_.propeller.referenceRpm->si() > 5))
            say(0, "propeller.reference_rpm is out of range", "Give the rpm at field barometric pressure");
    }

    const TypeNotes& n_;
    Problems& problems_;
};
} // namespace

void checkNotes(const TypeNotes& notes, Problems& problems) {
    Checker(notes, problems).run();
}

} // namespace amber
