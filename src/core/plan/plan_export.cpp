// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/plan_export.h"
#include "advice/climb_bands.h"
#include "files/csv.h"
#include "flight/engine_traces.h"
#include "plan/load_plan.h"
#include "units/text.h"
#include "watch/walk_round.h"
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace amber::plan {

std::string csvField(const std::string& text) {
    const std::string cell = csv::cell(text);
    return text.find_first_of(",\"\n\r") == std::string::npos && cell.size() == text.size() + 2 ? text : cell;
}

std::string planJson(const powerplant::Aircraft& aircraft, const Sortie& sortie, const Plan& plan, bool searched) {
    using json = nlohmann::ordered_json;
    const flight::Flown& f = plan.flown;
    json root;
    root["format"] = 1;
    root["title"] = plan.title;
    root["aircraft"] = plan.aircraft;
    root["route"] = plan.route;
    root["day"] = {{"field", sortie.day.field},
                   {"elevation_m", sortie.day.elevation.si()},
                   {"qnh_hPa", sortie.day.qnh.si() / 100},
                   {"oat_C", sortie.day.oat.si() - 273.15},
                   {"dew_point_C", sortie.day.dewPoint.si() - 273.15},
                   {"field_pressure_hPa", sortie.day.fieldPressure().si() / 100},
                   {"pressure_altitude_m", sortie.day.pressureAltitude().si()},
                   {"density_altitude_m", sortie.day.densityAltitude().si()}};
    root["fuel"] = {
        {"grade", sortie.fuelGrade}, {"at_start_l", f.fuelAtStart * 1000}, {"at_end_l", f.fuelAtEnd * 1000}};
    root["weight_kg"] = plan.flown.rampWeight;
    root["total_time_s"] = f.totalTime();
    root["ratings"] = json::array();
    for (const auto& clock : f.ratings.clocks())
        root["ratings"].push_back({{"key", clock.key()},
                                   {"name", clock.name()},
                                   {"used_s", clock.used().si()},
                                   {"allowed_s", clock.allowed() ? json(clock.allowed()->si()) : json(nullptr)},
                                   {"colour", watch::wordOf(clock.verdict().colour())}});
    root["still_air"] = !f.knowsWind();
    root["load"] = loadJson(loadPlan(aircraft, sortie, f), aircraft, sortie);
    root["fuel_needed"] = fuelJson(advice::fuelNeeded(aircraft, sortie, f));
    root["tanks"] = tanksJson(plan, aircraft.notes);
    if (searched) {
        const auto best = advice::CruiseSearch(aircraft, sortie, f).search();
        root["best"] =
            bestJson(best, bestRows(best, advice::leastFuelForLeg(aircraft, sortie, f)), aircraft, sortie, f);
    }
    for (const auto& p : plan.phases) {
        json phase{{"phase", keyOf(p.phase)},      {"headline", p.headline},
                   {"start_s", p.start},           {"duration_s", p.duration},
                   {"fuel_l", p.fuel * 1000},      {"colour", watch::wordOf(p.worst.colour())},
                   {"because", p.worst.sentence()}};
        phase["set"] = json::array();
        for (const auto& s : p.set) {
            json line{{"what", s.what}, {"value", s.value}, {"origin", markOf(s.origin)}};
            if (!s.at.empty())
                line["at"] = s.at;
            if (s.school >= 0)
                line["school"] = s.schools[static_cast<std::size_t>(s.school)].name;
            line["why"] = s.why;
            for (const auto& figure : s.figures) {
                json told{{"id", figure.fact.id}, {"si", figure.fact.value}, {"origin", markOf(figure.origin)}};
                if (!figure.fact.engine.empty())
                    told["engine"] = figure.fact.engine;
                line["figures"].push_back(std::move(told));
            }
            phase["set"].push_back(std::move(line));
        }
        phase["expect"] = json::array();
        for (const auto& e : p.expect) {
            json line{{"gauge", nameOf(e.gauge).key},
                      {"value", e.text},
                      {"si", e.value},
                      {"moment", e.moment},
                      {"origin", markOf(e.origin)},
                      {"colour", watch::wordOf(e.verdict.colour())},
                      {"sentence", e.verdict.sentence()}};
            for (const auto& needle : e.needles)
                line["needles"].push_back({{"engine", needle.engine},
                                           {"value", needle.text},
                                           {"si", needle.value},
                                           {"origin", markOf(Origin::logged)},
                                           {"colour", watch::wordOf(needle.verdict.colour())}});
            phase["expect"].push_back(std::move(line));
        }
        phase["clock"] = json::array();
        for (const auto& c : p.clocks) {
            json line{{"id", c.fact.id},
                      {"what", c.what},
                      {"value", c.value},
                      {"origin", markOf(c.origin)},
                      {"colour", watch::wordOf(c.verdict.colour())}};
            if (std::isfinite(c.fact.value))
                line["si"] = c.fact.value;
            phase["clock"].push_back(std::move(line));
        }
        if (p.phase == Phase::walkRound && !plan.walk.stops.empty()) {
            json stations = json::array();
            for (const auto& stop : plan.walk.stops) {
                json items = json::array();
                for (const auto& i : stop.items)
                    items.push_back({{"what", i.what},
                                     {"want", i.want},
                                     {"found", i.found},
                                     {"origin", markOf(i.origin)},
                                     {"colour", watch::wordOf(i.verdict.colour())}});
                stations.push_back({{"station", stop.name}, {"items", std::move(items)}});
            }
            phase["stations"] = std::move(stations);
            phase["defects"] = json::array();
            for (const auto& d : plan.walk.defects)
                phase["defects"].push_back({{"where", d.where},
                                            {"sentence", d.verdict.sentence()},
                                            {"colour", watch::wordOf(d.verdict.colour())}});
        }
        if (p.phase == Phase::start) {
            phase["sequence"] = json::array();
            for (const auto& l : plan.startSequence)
                phase["sequence"].push_back({{"t_s", l.time}, {"engine", l.engine}, {"what", l.what}, {"set", l.set}});
        }
        if (p.phase == Phase::runUp) {
            phase["sheet"] = json::array();
            for (const auto& l : plan.runUpSheet.lines) {
                json cells = json::array();
                for (const auto& c : l.cells)
                    cells.push_back({{"key", c.key},
                                     {"found", c.shown},
                                     {"colour", watch::wordOf(c.verdict.colour())},
                                     {"sentence", c.verdict.sentence()},
                                     {"cause", c.cause},
                                     {"next", c.next}});
                phase["sheet"].push_back({{"what", l.what},
                                          {"at", l.at},
                                          {"want", l.want},
                                          {"origin", markOf(l.origin)},
                                          {"readings", std::move(cells)}});
            }
        }
        if (p.phase == Phase::letDown) {
            phase["steps"] = json::array();
            for (const auto& step : f.letDown)
                phase["steps"].push_back({{"t_s", step.time},
                                          {"height_m", step.height.si()},
                                          {"manifold_pressure_kPa", step.boost.si() / 1000},
                                          {"rpm", step.setting.rpm.si() * 60},
                                          {"flap", step.setting.coolingFlap}});
            phase["cooling_K_min"] = f.letDownCooling;
            phase["cooling_limit_K_min"] = flight::coolingLimit(aircraft.notes).perMinute;
        }
        if (!p.spoken.empty())
            phase["spoken"] = p.spoken;
        phase["cautions"] = p.cautions;
        phase["remarks"] = json::array();
        for (const auto& r : p.remarks)
            phase["remarks"].push_back(
                {{"colour", watch::wordOf(r.verdict.colour())}, {"sentence", r.verdict.sentence()}});
        root["phases"].push_back(std::move(phase));
    }
    const auto& t = f[Phase::takeOff];
    root["take_off"] = {{"boost_kPa", t.point.manifoldPressure.si() / 1000},
                        {"power_kW", t.point.power.si() / 1000},
                        {"static_rpm", f.staticRpm.si() * 60},
                        {"full_throttle", t.point.fullThrottle}};
    json climb{{"minutes", f[Phase::climb].duration / 60},
               {"fuel_l", f[Phase::climb].fuel * 1000},
               {"distance_km", f[Phase::climb].distance / 1000},
               {"reached", f.reachedHeight}};
    climb["bands"] = json::array();
    for (const auto& b : advice::climbBands(aircraft, sortie, f))
        climb["bands"].push_back({{"height_m", b.height.si()},
                                  {"ias_m_s", b.ias.si()},
                                  {"rpm", b.rpm.si() * 60},
                                  {"manifold_pressure_kPa", b.boost.si() / 1000},
                                  {"gear", b.gear},
                                  {"rate_m_s", b.rate.si()},
                                  {"t_s", b.time},
                                  {"fuel_l", b.fuel * 1000},
                                  {"distance_km", b.distance / 1000}});
    if (f.gearChange())
        climb["gear_change_m"] = f.gearChange()->height.si();
    root["climb"] = std::move(climb);
    root["cruise"] = {{"tas_m_s", f.cruiseTas.si()},
                      {"fuel_flow_l_h", f.cruiseFuelFlow * 3.6e6},
                      {"power_kW", f[Phase::cruise].point.power.si() / 1000}};
    json series = json::array();
    for (const auto& m : f.samples) {
        json at{{"t_s", m.time}};
        for (const auto& row : gaugeRegister)
            if (m.has(row.gauge))
                at[std::string(row.exported)] = (m[row.gauge] - row.exportZero) / row.exportScale;
        series.push_back(std::move(at));
    }
    root["series"] = std::move(series);
    root["findings"] = json::array();
    for (const auto* list : {&f.findings, &f.excursions})
        for (const auto& finding : *list) {
            json line{{"rule", watch::rowOf(finding.rule).id},
                      {"phase", keyOf(finding.phase)},
                      {"begin_s", finding.begin},
                      {"end_s", finding.end},
                      {"colour", watch::wordOf(finding.verdict.colour())},
                      {"sentence", finding.verdict.sentence()}};
            if (std::isfinite(finding.worst))
                line["worst"] = finding.worst;
            root["findings"].push_back(std::move(line));
        }
    // Each engine from its own start.
    json engines = json::object();
    for (const auto& trace : f.engines) {
        json points = json::array();
        for (const auto& p : trace.points)
            points.push_back(
                {{"t_s", p.time},
                 {aircraft.notes.engine.cooling == Cooling::air ? "head_C" : "coolant_C", p.headOrCoolant - 273.15},
                 {"oil_C", p.oil - 273.15},
                 {"oil_pressure_kPa", p.oilPressure / 1000}});
        engines[trace.engine] = std::move(points);
    }
    root["engines"] = std::move(engines);
    json marks = json::array();
    for (const auto& m : plan.marks)
        marks.push_back({{"t_s", m.time},
                         {"phase", keyOf(m.phase)},
                         {"text", m.text},
                         {"colour", watch::wordOf(m.verdict.colour())}});
    root["marks"] = std::move(marks);
    return root.dump(2, ' ', false, json::error_handler_t::replace) + "\n";
}

std::string planCsv(const Plan& plan) {
    std::string out = "phase,kind,what,value,origin,colour\n";
    const auto row = [&](const PhasePlan& p, const char* kind, const std::string& what, const std::string& value,
                         std::string_view origin, watch::Colour colour) {
        out += fmt::format("{},{},{},{},{},{}\n", keyOf(p.phase), kind, csvField(what), csvField(value), origin,
                           watch::wordOf(colour));
    };
    for (const auto& p : plan.phases) {
        if (p.phase == Phase::walkRound)
            for (const auto& stop : plan.walk.stops)
                for (const auto& i : stop.items)
                    row(p, "walk", stop.name + ": " + i.what, i.found.empty() ? i.want : watch::saidOf(i.found),
                        i.found.empty() ? markOf(i.origin) : "yours", i.verdict.colour());
        for (const auto& s : p.set)
            row(p, "set", s.what, s.value, markOf(s.origin), watch::Colour::normal);
        for (const auto& e : p.expect) {
            row(p, "expect", e.title, e.text, markOf(e.origin), e.verdict.colour());
            for (const auto& needle : e.needles)
                row(p, "expect", e.title + ", " + needle.name, needle.text, markOf(Origin::logged),
                    needle.verdict.colour());
        }
        for (const auto& c : p.clocks)
            row(p, "clock", c.what, c.value, markOf(c.origin), c.verdict.colour());
    }
    return out;
}

std::string planText(const Plan& plan) {
    std::string out = fmt::format("{}\n{}\n{}\n{}\n", plan.title, plan.aircraft, plan.route, plan.dayLine);
    for (const auto& p : plan.phases) {
        out += fmt::format("\n{} {}  {}\n", formatHoursMinutes(p.start), titleOf(p.phase), p.headline);
        if (!p.spoken.empty())
            out += fmt::format("  Say aloud: {}  [model]\n", p.spoken);
        for (const auto& c : p.cautions)
            out += fmt::format("  !  {}\n", c);
        int number = 1;
        if (p.phase == Phase::walkRound)
            for (const auto& stop : plan.walk.stops) {
                out += fmt::format("  {:>2} {}\n", number++, stop.name);
                for (const auto& i : stop.items)
                    out += fmt::format("     {:<26} {:<36} {}\n", i.what, i.want, watch::saidOf(i.found));
            }
        for (const auto& s : p.set)
            out += fmt::format("  {:>2} {:<22} {}  [{}]\n", number++, s.what, s.value, markOf(s.origin));
        for (const auto& e : p.expect)
            out += fmt::format("     {:<22} {:<14} {}  [{}]{}\n", e.title, e.text, e.moment, markOf(e.origin),
                               e.verdict.colour() == watch::Colour::normal
                                   ? ""
                                   : fmt::format("  {}: {}", watch::wordOf(e.verdict.colour()), e.verdict.sentence()));
        for (const auto& c : p.clocks)
            out += fmt::format("     {:<22} {:<14} {}{}\n", c.what, c.value, markOf(c.origin),
                               c.verdict.colour() == watch::Colour::normal
                                   ? ""
                                   : fmt::format("  {}: {}", watch::wordOf(c.verdict.colour()), c.why));
        for (const auto& r : p.remarks)
            out += fmt::format("  {}: {}\n", watch::wordOf(r.verdict.colour()), r.verdict.sentence());
    }
    return out;
}

} // namespace amber::plan
