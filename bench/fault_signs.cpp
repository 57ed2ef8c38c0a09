// SPDX-License-Identifier: GPL-3.0-or-later
#include "fault_signs.h"
#include "noticing.h"
#include "script/script.h"
#include "symptoms/symptoms.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace amber::bench {
using namespace powerplant;
namespace {
const std::string aloft =
    "0,,height,\"6,000 ft\"\n0,,ias,170 kt\n0,,path,descend\n0,all,cock,on\n0,all,ignition,both\n0,all,cut-off,off\n"
    "0,all,cooling-flap,0.3\n0,all,head,180 °C\n0,all,oil,72 °C\n";
const std::string cruising = aloft + "0,all,rpm,2100 rpm\n0,all,gear,low\n0,all,boost,32 inHg\n0,all,running,on\n";
const std::string climbing = aloft + "0,all,rpm,2350 rpm\n0,all,gear,low\n0,all,boost,38 inHg\n0,all,running,on\n";
const std::string slowly = aloft + "0,all,rpm,1800 rpm\n0,all,gear,low\n0,all,boost,27 inHg\n0,all,running,on\n";

/// Half a needle's width, SI: what a crew can tell.
double widthOf(Gauge g) {
    switch (nameOf(g).dimension) {
    case Dimension::temperature:
        return 4.0;
    case Dimension::rotation:
        return 25.0 / 60;
    case Dimension::manifoldPressure:
        return 1500.0;
    case Dimension::pressure:
        return g == Gauge::fuelPressure ? 5000.0 : g == Gauge::torque ? 4e4 : 1.5e4;
    case Dimension::volume:
        return 2e-3;
    case Dimension::voltage:
        return 0.7;
    case Dimension::current:
        return 8.0;
    default:
        return 0.0;
    }
}

} // namespace

const std::vector<Where>& threeSettings() {
    static const std::vector<Where> all{{cruising}, {climbing}, {slowly}};
    return all;
}

std::vector<Sign> signature(const flight::LoadedSortie& l, Fault fault, const Where& where) {
    const TypeNotes& n = l.aircraft->notes;
    Problems problems;
    const auto script = readScript(fmt::format("time,engine,what,value\n{}60,{},fault,{}\n", where.setting,
                                               n.positions.front().id, nameOf(fault).key),
                                   "s.csv", n, problems);
    if (!script)
        return {};
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    air::Day day = l.sortie->day;
    day.dewPoint = Temperature::of(-30, units::celsius);
    ScriptRun run(plant, *script, day, Temperature::of(15, units::celsius));
    std::map<Gauge, NeedleSeen> traces;
    std::set<Felt> felt;
    double yaw = 0.0, shake = 0.0;
    const auto end = static_cast<Milliseconds>((60 + where.seconds) * 1000);
    while (run.state().now < end) {
        run.step();
        if (run.state().now <= 60'000)
            continue;
        const auto& sick = run.readings().engines.front();
        const auto& well = run.readings().engines.back();
        for (const auto& row : gaugeRegister) {
            const Gauge g = row.gauge;
            const double width = widthOf(g);
            const bool flow = g == Gauge::fuelFlow;
            if ((width <= 0 && !flow) || !well.has(g) || g == Gauge::height || g == Gauge::fuel)
                continue;
            auto& t = traces[g];
            // Of the aircraft's own needles there is one: against its start.
            const double off = sick[g] - well[g];
            t.see(static_cast<double>(run.state().now - 60'000) / 1000.0, off, flow ? 0.06 * well[g] : width);
        }
        const Signs& s = sick.signs;
        shake = std::max(shake, s.shake);
        yaw = std::max(yaw, std::abs(run.readings().yaw));
        feel(felt, s);
    }
    std::vector<Sign> out;
    for (const auto& [g, t] : traces) {
        const bool flow = g == Gauge::fuelFlow;
        const double w = flow ? 0.06 * run.readings().engines.back()[g] : widthOf(g);
        const bool marked = n.gauges.contains(g) || flow || g == Gauge::oilContents || g == Gauge::carburettorAir ||
                            g == Gauge::waterPressure;
        if (!t.read || !marked)
            continue;
        out.emplace_back(g, t.ways(w));
    }
    for (const Felt f : felt)
        out.emplace_back(f);
    if (shake > 0.12)
        out.emplace_back(Felt::shake);
    if (yaw > 0.25)
        out.emplace_back(Felt::yaw);
    return out;
}

const std::vector<Shown>& aloftFaults() {
    static const std::vector<Shown> all{
        {Fault::oilLost, {}},
        {Fault::oilPump, {}},
        {Fault::oilPressureGauge, {}},
        {Fault::reliefValve, {}},
        {Fault::coolerClogged, {Felt::worstAtPower}},
        {Fault::bearing, {}},
        {Fault::ring, {}},
        {Fault::deadLead, {Felt::oneMagneto}},
        {Fault::magnetoDead, {Felt::silentOnOne}},
        {Fault::carburettorIce, {Felt::inDampAir}},
        {Fault::airDoorHot, {}},
        {Fault::tankDry, {}},
        {Fault::fuelPump, {Felt::worstAtPower}},
        {Fault::fuelLeak, {}},
        {Fault::vapourLock, {Felt::hotAndHigh}},
        {Fault::fuelPressureGauge, {}},
        {Fault::rich, {Felt::worstAtIdle}},
        {Fault::lean, {}},
        {Fault::detonation, {}},
        {Fault::preIgnition, {}},
        {Fault::governorRunaway, {}},
        {Fault::pitchFixed, {Felt::followsThrottle}},
        {Fault::tachometer, {}},
        {Fault::flapShut, {}},
        {Fault::boostGaugeLine, {}},
        {Fault::boostControl, {}},
        {Fault::valve, {Felt::eitherMagneto}},
        {Fault::gaugeSupply, {}},
        {Fault::dead, {}},
    };
    return all;
}
bool listedPair(Fault a, Fault b) {
    static const std::set<std::pair<Fault, Fault>> pairs{{Fault::oilPump, Fault::oilPressureGauge},
                                                         {Fault::reliefValve, Fault::oilPressureGauge},
                                                         {Fault::reliefValve, Fault::oilPump},
                                                         {Fault::fuelPump, Fault::fuelPressureGauge},
                                                         {Fault::fuelLeak, Fault::fuelPressureGauge},
                                                         {Fault::coolerClogged, Fault::coolerCongealed},
                                                         {Fault::tankDry, Fault::fuelPump}};
    return pairs.contains({a, b}) || pairs.contains({b, a});
}

std::vector<Asked> askAll(const flight::LoadedSortie& l) {
    std::vector<Asked> out;
    const auto still = [](const Sign& s) { return s.isNeedle() && s.way == Way::still; };
    for (const auto& shown : aloftFaults())
        for (const auto& where : threeSettings()) {
            auto signs = signature(l, shown.fault, where);
            signs.insert(signs.end(), shown.besides.begin(), shown.besides.end());
            const auto moved = std::count_if(signs.begin(), signs.end(), [&](const Sign& s) { return !still(s); });
            if (moved == 0)
                continue; // it does not show at that setting
            for (std::size_t left = 0; left <= signs.size(); ++left) {
                auto seen = signs;
                if (left < signs.size()) {
                    if (still(signs[left]) || moved < 2)
                        continue;
                    seen.erase(seen.begin() + static_cast<std::ptrdiff_t>(left));
                }
                auto d = trouble::diagnose(l.aircraft->notes, seen);
                std::erase_if(d.causes, [](const trouble::Cause& c) { return c.pattern.key == "none"; });
                Asked a;
                a.fault = shown.fault;
                a.first = d.causes.empty() ? "nothing" : d.causes.front().pattern.key;
                for (const auto& s : seen)
                    if (!still(s))
                        a.seen += (a.seen.empty() ? "" : ", ") + keyOf(s);
                while (a.rank < d.causes.size() && d.causes[a.rank].pattern.fault != shown.fault) {
                    const auto& other = d.causes[a.rank].pattern.fault;
                    const bool pair = other && listedPair(shown.fault, *other);
                    a.before += pair ? 0 : 1;
                    a.pair = a.pair || (a.rank == 0 && pair);
                    ++a.rank;
                }
                out.push_back(std::move(a));
            }
        }
    return out;
}

} // namespace amber::bench
