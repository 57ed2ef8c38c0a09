// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/debrief_json.h"
#include <cmath>
#include <nlohmann/json.hpp>

namespace amber::rehearse {
namespace {
using nlohmann::ordered_json;

ordered_json number(double value) {
    return std::isfinite(value) ? ordered_json(value) : ordered_json();
}
std::string_view wordOf(DrillAct::Done done) {
    switch (done) {
    case DrillAct::Done::inTurn:
        return "in turn";
    case DrillAct::Done::early:
        return "early";
    case DrillAct::Done::late:
        return "late";
    case DrillAct::Done::another:
        return "another phase";
    case DrillAct::Done::stood:
        return "stood so";
    case DrillAct::Done::wrong:
        return "wrong";
    case DrillAct::Done::leftOut:
        break;
    }
    return "left out";
}
} // namespace

std::string debriefJson(const Debrief& d, const TypeNotes& n) {
    ordered_json out{{"format", 1},           {"seconds", d.seconds},     {"fuel_l", d.fuel * 1000.0},
                     {"acts_asked", d.asked}, {"acts_in_turn", d.inTurn}, {"acts_stood", d.stood}};
    out["nothing_to_mend"] = d.nothingToMend();
    out["over"] = d.over ? ordered_json{{"at_s", static_cast<double>(d.over->at) / 1000.0},
                                        {"by", d.over->by == OverBy::hitGround   ? "hit-ground"
                                               : d.over->by == OverBy::offTheEnd ? "off-the-end"
                                                                                 : "live-blades"},
                                        {"phase", keyOf(d.over->phase)}}
                         : ordered_json();
    out["aims_met"] = d.aimsMet;
    out["unmet"] = ordered_json::array();
    for (const auto& u : d.unmet)
        out["unmet"].push_back(
            {{"aim", watch::rowOf(u.result.aim).id},
             {"engine", u.result.engine < 0 ? ordered_json() : ordered_json(n.positions[u.engine].id)},
             {"at_s", u.result.at},
             {"colour", watch::wordOf(u.result.verdict.colour())},
             {"because", u.because},
             {"begun_s", u.begun ? ordered_json(*u.begun) : ordered_json()},
             {"sentence", u.sentence()}});
    out["mended"] = ordered_json::array();
    for (const auto& m : d.mended)
        out["mended"].push_back({{"act", m.act}, {"comes", m.comes}, {"reaches", m.reaches}, {"better", m.better}});
    out["acts"] = ordered_json::array();
    for (const auto& a : d.acts)
        out["acts"].push_back({{"phase", keyOf(a.phase)},
                               {"engine", n.positions[a.engine].id},
                               {"control", n.controls[a.control].id},
                               {"to", a.to},
                               {"done", wordOf(a.done)},
                               {"by", a.by},
                               {"no_effect", a.noEffect},
                               {"at_s", number(a.at)}});
    out["faults"] = ordered_json::array();
    for (const auto& f : d.faults) {
        ordered_json wrongly = ordered_json::array();
        for (const auto w : f.wrongly)
            wrongly.push_back(nameOf(w).key);
        out["faults"].push_back({{"fault", nameOf(f.came.fault).key},
                                 {"severity", f.came.severity},
                                 {"engine", n.positions[f.came.engine].id},
                                 {"phase", keyOf(f.came.phase)},
                                 {"at_s", static_cast<double>(f.came.at) / 1000.0},
                                 {"called_after_s", f.called ? ordered_json(*f.called) : ordered_json()},
                                 {"called_wrongly", wrongly},
                                 {"first_act", f.first},
                                 {"first_act_after_s", f.first.empty() ? ordered_json() : ordered_json(f.firstAfter)}});
    }
    out["items"] = ordered_json::array();
    for (const auto& a : d.items)
        out["items"].push_back({{"phase", keyOf(a.phase)},
                                {"item", a.item},
                                {"stood", a.stood},
                                {"wanted", a.wanted},
                                {"right", a.right},
                                {"again", a.again},
                                {"at_s", static_cast<double>(a.at) / 1000.0}});
    out["findings"] = ordered_json::array();
    for (const auto& f : d.findings)
        out["findings"].push_back({{"rule", rowOf(f.rule).id},
                                   {"engine", f.engine},
                                   {"phase", keyOf(f.phase)},
                                   {"begin_s", f.begin},
                                   {"end_s", f.end},
                                   {"worst", number(f.worst)},
                                   {"colour", watch::wordOf(f.verdict.colour())},
                                   {"sentence", f.verdict.sentence()}});
    out["costs"] = ordered_json::array();
    for (const auto& c : d.costs)
        out["costs"].push_back({{"engine", n.positions[c.engine].id},
                                {"of", c.of == Spent::Of::bearings  ? "bearings"
                                       : c.of == Spent::Of::rings   ? "rings"
                                       : c.of == Spent::Of::coolant ? "coolant"
                                                                    : "plugs"},
                                {"share", c.share},
                                {"from_s", static_cast<double>(c.from) / 1000.0}});
    out["sentences"] = d.sentences(n);
    return out.dump(2);
}

std::string carefulJson(const hand::HandRun& run, const flight::Flown& plan) {
    ordered_json out{{"format", 1},
                     {"fuel_l", run.fuel * 1000.0},
                     {"planned_fuel_l", (plan.fuelAtStart - plan.fuelAtEnd) * 1000.0},
                     {"retries", run.retries}};
    out["phases"] = ordered_json::array();
    for (std::size_t i = static_cast<std::size_t>(Phase::walkRound); i < plannedPhases; ++i) {
        const auto phase = static_cast<Phase>(i);
        const auto& p = plan[phase];
        out["phases"].push_back(
            {{"phase", keyOf(phase)},
             {"ended_s", run[phase].time},
             {"planned_s", p.start + p.duration},
             {"head_or_coolant_C",
              Temperature::si(run[phase].readings.engines.front().headOrCoolant()).in(units::celsius)},
             {"planned_head_or_coolant_C",
              Temperature::si(plan.samples[p.lastSample].headOrCoolant()).in(units::celsius)}});
    }
    out["missed"] = ordered_json::array();
    for (const auto& m : run.missed)
        out["missed"].push_back(m.sentence);
    return out.dump(2);
}

} // namespace amber::rehearse
