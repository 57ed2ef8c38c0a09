// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/load_plan.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::plan {

LoadPlan loadPlan(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    LoadPlan out;
    const loading::Sheet sheet(n, s);
    out.lines = sheet.lines();
    for (auto& tank : sheet.fuel())
        out.lines.push_back(std::move(tank));
    // What the typed weight has beyond the sheet (or lacks) is where the rest of it is: one weight on every page.
    const double beyond = f.rampWeight - sheet.ramp().mass, beyondAt = sheet.dry().arm();
    if (std::abs(beyond) > 0.5 * n.cockpit.weight->scale) {
        loading::SheetLine line;
        line.id = "beyond";
        line.name = "Typed weight beyond the sheet";
        line.mass = beyond;
        line.arm = beyondAt;
        line.origin = Origin::entered;
        out.lines.push_back(line);
    }
    const auto at = [&](std::size_t i) {
        auto b = sheet.with(f.contents.at(i), !f.dropped.empty() && i >= f.dropped.front());
        b.add(beyond, beyondAt);
        return b;
    };
    const auto moment = [&](const char* id, const char* name, std::size_t i, const char* when) {
        LoadMoment m{id, name, at(i), f.samples[i].time, {}};
        m.verdict = loading::judgeBalance(n, m.balance, when);
        out.moments.push_back(std::move(m));
    };
    moment("ramp", "Ramp", 0, "at ramp weight");
    const std::size_t off = f[Phase::takeOff].firstSample, down = f[Phase::landing].lastSample;
    moment("take-off", "At take-off", off, "at take-off");
    if (n.loading.given) {
        std::size_t worst = off;
        double least = 1e9;
        for (std::size_t i = off; i <= down; ++i) {
            const auto b = at(i);
            out.track.push_back(b);
            if (const double room = loading::placeOf(n.loading, b).room(); room < least) {
                least = room;
                worst = i;
            }
        }
        if (worst != off && worst != down)
            moment("worst", "Closest to limit", worst, "on the way");
    }
    moment("landing", "Landing", down, "landing");
    LoadMoment zero{"zero-fuel", "Zero fuel", sheet.dry(), 0.0, {}};
    zero.balance.add(beyond, beyondAt);
    zero.verdict = loading::judgeBalance(n, zero.balance, "at zero fuel");
    out.moments.push_back(std::move(zero));
    for (const auto& finding : f.findings)
        if (finding.phase == Phase::load)
            out.findings.push_back(finding);
    out.trim = loading::trimFor(n, at(off));
    const double weightOff = f.samples[off][Gauge::weight], weightDown = f.samples[down][Gauge::weight];
    out.distances = loading::distancesToday(n, s, Mass::si(weightOff), Mass::si(weightDown));
    for (const auto& d : out.distances) {
        watch::Verdict verdict;
        if (d.value && d.dimension == Dimension::mass)
            verdict = watch::atMost(watch::Rule::engineOutWeight, weightOff, *d.value, 0.0, [&](bool kept) {
                return kept ? std::string("The aircraft climbs away with an engine out at this weight.")
                            : fmt::format("At {} it does not climb with an engine out here: {} at most.",
                                          format(weightOff, *n.cockpit.weight), format(*d.value, *d.unit));
            });
        else if (d.value && s.strip.length && (d.id != "landing" || s.flight.to == s.day.field))
            verdict = watch::atMost(watch::Rule::runway, *d.value, s.strip.length->si(), 0.0, [&](bool) {
                return fmt::format("{} {} of {} of runway.", d.name, format(*d.value, *d.unit),
                                   format(s.strip.length->si(), *d.unit));
            });
        out.distanceVerdicts.push_back(std::move(verdict));
    }
    return out;
}

std::vector<TankLine> tankLines(const Plan& plan, const TypeNotes& n) {
    std::vector<TankLine> out;
    const auto& samples = plan.flown.samples;
    out.push_back({plan.flown[Phase::start].start,
                   "Start and take-off on " +
                       [&] {
                           for (const auto& t : n.fuel.tanks)
                               if (t.id == n.fuel.takeOffTank)
                                   return t.name;
                           return std::string();
                       }(),
                   "By the notes.",
                   {},
                   0.0});
    // The words stand on the Clock of their phase already.
    for (const auto& c : plan.flown.tankChanges) {
        TankLine line;
        line.time = c.time;
        line.distance = c.distance;
        for (const auto& clock : plan.phases[static_cast<std::size_t>(c.phase)].clocks)
            if ((clock.fact.id.starts_with("fuel-to-") || clock.fact.id.starts_with("tank-")) &&
                std::abs(clock.fact.value - (c.time - plan.flown[c.phase].start)) < 1e-6 &&
                clock.fact.id.ends_with(n.fuel.tanks[static_cast<std::size_t>(c.tank)].id)) {
                line.text = clock.what.substr(0, clock.what.rfind(", "));
                line.why = clock.why;
                line.verdict = clock.verdict;
                break;
            }
        out.push_back(std::move(line));
    }
    (void)samples;
    return out;
}

std::vector<SpeedLine> speedLines(const powerplant::Aircraft& a, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    std::vector<SpeedLine> out;
    for (const auto& entry : n.speeds.entries) {
        SpeedLine line{entry.id, entry.name, entry.light, entry.heavy, {}};
        const auto add = [&](const char* where, std::size_t sample) {
            const double weight = f.samples[sample][Gauge::weight];
            if (const auto v = flight::speedFor(n, entry.id, Mass::si(weight)))
                line.at.push_back({where, weight, v->speed, v->origin});
        };
        add("take-off", f[Phase::takeOff].firstSample);
        add("top of climb", f[Phase::climb].lastSample);
        add("end of cruise", f[Phase::cruise].lastSample);
        add("landing", f[Phase::landing].lastSample);
        out.push_back(std::move(line));
    }
    return out;
}

std::vector<BestRow> bestRows(const advice::BestCruise& best, const std::vector<advice::LegChoice>& legs) {
    std::vector<BestRow> out;
    if (best.now)
        out.push_back({"now", "As planned", *best.now});
    if (best.miles)
        out.push_back({"miles", "Most miles", *best.miles});
    if (best.knee)
        out.push_back({"knee", "Fastest at 99 % of them", *best.knee});
    if (best.hours)
        out.push_back({"hours", "Most hours", *best.hours});
    if (!legs.empty())
        out.push_back({"leg", "Least fuel for this flight", legs.front().point});
    if (best.price)
        out.push_back({"price", "Cheapest", *best.price});
    return out;
}

std::string gearName(const TypeNotes& n, std::size_t gear) {
    return n.engine.gears.empty() ? std::string() : n.engine.gears[std::min(gear, n.engine.gears.size() - 1)].name;
}

std::string milesUnit(const TypeNotes& n) {
    return fmt::format("{}/{}", n.cockpit.distance->symbol, n.cockpit.fuel->symbol);
}

std::string milesText(const TypeNotes& n, double metresPerCubicMetre, bool withUnit) {
    const double value = metresPerCubicMetre * n.cockpit.fuel->scale / n.cockpit.distance->scale;
    return formatNumber(value, value < 1.0    ? 3
                               : value < 10.0 ? 2
                                              : 1) +
           (withUnit ? " " + milesUnit(n) : std::string());
}

std::string bestText(const TypeNotes& n, const advice::BestPoint& p) {
    const auto& c = p.cruise;
    const auto gear = n.engine.gears.size() > 1 ? " · " + gearName(n, c.setting.gear) : std::string();
    return fmt::format("{} · {}{}{} · {} · {} · {} · {}", formatHeight(p.height.si(), *n.cockpit.height),
                       format(c.setting.rpm, units::rpm),
                       n.engine.gears.empty() ? std::string()
                                              : " · " + format(c.point.manifoldPressure.si(), n.unitOf(Gauge::boost)),
                       gear, c.setting.mixture == Mixture::rich ? "rich" : "weak", format(c.tas.si(), *n.cockpit.speed),
                       format(c.burn, amber::fuelFlowUnit(n.cockpit), 1), milesText(n, p.miles));
}

nlohmann::ordered_json loadJson(const LoadPlan& load, const powerplant::Aircraft& a, const Sortie& s) {
    const auto& l = a.notes.loading;
    nlohmann::ordered_json out{{"weight_typed", s.load.weightTyped}, {"items", nlohmann::ordered_json::array()}};
    for (const auto& line : load.lines) {
        nlohmann::ordered_json item{
            {"id", line.id}, {"name", line.name}, {"mass_kg", line.mass}, {"origin", markOf(line.origin)}};
        if (!line.who.empty())
            item["who"] = line.who;
        if (l.given) {
            item["arm_m"] = line.arm;
            item["moment_kg_m"] = line.moment();
            item["side_m"] = line.side;
        }
        out["items"].push_back(std::move(item));
    }
    out["moments"] = nlohmann::ordered_json::array();
    for (const auto& m : load.moments) {
        nlohmann::ordered_json item{{"id", m.id}, {"mass_kg", m.balance.mass}};
        if (l.given) {
            const auto limits = loading::limitsAt(l, m.balance.mass);
            item["arm_m"] = m.balance.arm();
            item["moment_kg_m"] = m.balance.moment;
            item["forward_m"] = limits.forward;
            item["aft_m"] = limits.aft;
            item["sideways_kg_m"] = m.balance.sideways;
        }
        item["colour"] = watch::wordOf(m.verdict.colour());
        item["sentence"] = m.verdict.sentence();
        out["moments"].push_back(std::move(item));
    }
    out["trim"] = nlohmann::ordered_json::array();
    for (const auto& t : load.trim)
        out["trim"].push_back({{"flap", t.flap}, {"trim", t.trim}, {"text", t.text}});
    out["distances"] = nlohmann::ordered_json::array();
    for (std::size_t i = 0; i < load.distances.size(); ++i) {
        const auto& d = load.distances[i];
        nlohmann::ordered_json item{{"id", d.id}, {"name", d.name}};
        item[d.dimension == Dimension::mass ? "value_kg" : "value_m"] =
            d.value ? nlohmann::ordered_json(*d.value) : nlohmann::ordered_json(nullptr);
        item["why"] = d.why;
        item["colour"] = watch::wordOf(load.distanceVerdicts[i].colour());
        out["distances"].push_back(std::move(item));
    }
    return out;
}

nlohmann::ordered_json fuelJson(const advice::FuelNeeded& need) {
    nlohmann::ordered_json out{{"parts", nlohmann::ordered_json::array()},
                               {"burn_l", need.burn * 1000},
                               {"alternate_l", need.alternate * 1000},
                               {"reserve_l", need.reserve * 1000},
                               {"needed_l", need.needed * 1000},
                               {"aboard_l", need.aboard * 1000},
                               {"unusable_l", need.unusable * 1000},
                               {"margin_l", need.margin * 1000},
                               {"margin_s", need.marginSeconds},
                               {"margin_km", need.marginDistance / 1000},
                               {"furthest_km", need.furthest / 1000},
                               {"longest_s", need.longest},
                               {"oil_aboard_l", need.oilAboard * 1000},
                               {"oil_burnt_l", need.oilBurnt * 1000},
                               {"oil_lasts_s", need.oilHours},
                               {"colour", watch::wordOf(need.verdict.colour())},
                               {"sentence", need.verdict.sentence()}};
    for (const auto& p : need.parts) {
        nlohmann::ordered_json part{{"id", p.id},
                                    {"name", p.what},
                                    {"fuel_l", p.volume * 1000},
                                    {"seconds", p.seconds},
                                    {"distance_km", p.distance / 1000},
                                    {"origin", markOf(p.origin)}};
        if (p.byTable)
            part["notes_l"] = *p.byTable * 1000;
        out["parts"].push_back(std::move(part));
    }
    return out;
}

nlohmann::ordered_json tanksJson(const Plan& plan, const TypeNotes& n) {
    nlohmann::ordered_json out{{"changes", nlohmann::ordered_json::array()},
                               {"tanks", nlohmann::ordered_json::array()}};
    for (const auto& l : tankLines(plan, n))
        out["changes"].push_back({{"time_s", l.time},
                                  {"text", l.text},
                                  {"why", l.why},
                                  {"colour", watch::wordOf(l.verdict.colour())},
                                  {"distance_km", l.distance / 1000}});
    const auto& f = plan.flown;
    const auto first = f.contents.at(0), last = f.contents.at(f.samples.size() - 1);
    for (std::size_t i = 0; i < n.fuel.tanks.size(); ++i)
        out["tanks"].push_back({{"id", n.fuel.tanks[i].id},
                                {"name", n.fuel.tanks[i].name},
                                {"at_start_l", first[i] * 1000},
                                {"at_end_l", last[i] * 1000}});
    return out;
}

nlohmann::ordered_json bestJson(const advice::BestCruise& best, const std::vector<BestRow>& rows,
                                const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    nlohmann::ordered_json out{{"wind_known", best.windKnown},
                               {"best", nlohmann::ordered_json::array()},
                               {"allows", nlohmann::ordered_json::array()}};
    for (const auto& r : rows) {
        const auto& c = r.point.cruise;
        nlohmann::ordered_json row{{"id", r.id},
                                   {"name", r.name},
                                   {"height_m", r.point.height.si()},
                                   {"rpm", c.setting.rpm.si() * 60},
                                   {"manifold_pressure_kPa", c.point.manifoldPressure.si() / 1000},
                                   {"gear", gearName(n, c.setting.gear)},
                                   {"mixture", c.setting.mixture == Mixture::rich ? "rich" : "weak"},
                                   {"tas_m_s", c.tas.si()},
                                   {"ground_m_s", r.point.ground},
                                   {"fuel_l_h", c.burn * 3.6e6},
                                   {"km_per_l", r.point.miles / 1e6},
                                   {"power_kW", c.point.power.si() / 1000},
                                   {"origin", markOf(powerplant::originOfFuel(a))}};
        out["best"].push_back(std::move(row));
    }
    out["why_gear"] = best.whyGear;
    for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise}) {
        const auto d = advice::dayAllows(a, s, f, phase);
        out["allows"].push_back({{"phase", keyOf(phase)},
                                 {"rating", d.rating},
                                 {"rpm", d.rpm.si() * 60},
                                 {"manifold_pressure_kPa", d.boost ? nlohmann::ordered_json(d.boost->si() / 1000)
                                                                   : nlohmann::ordered_json(nullptr)},
                                 {"power_kW", d.power.si() / 1000},
                                 {"binds", advice::nameOf(d.binds)},
                                 {"sentence", d.sentence}});
    }
    return out;
}

} // namespace amber::plan
