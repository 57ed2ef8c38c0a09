// SPDX-License-Identifier: GPL-3.0-or-later
#include "start/start_order.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::start {
namespace {
std::string withEngine(std::string text, const std::string& name) {
    for (std::size_t at = 0; (at = text.find("{engine}", at)) != std::string::npos; at += name.size())
        text.replace(at, 8, name);
    return text;
}
} // namespace

std::vector<SequenceLine> startSequence(const TypeNotes& notes, const StartNotes& s, const StartTimeline& timeline,
                                        const StartRequest& request) {
    std::vector<SequenceLine> out;
    const auto nameOf = [&](const std::string& id) {
        for (const auto& p : notes.positions)
            if (p.id == id)
                return p.name;
        return id;
    };
    const auto actions = [&](StartAction::When when, double time, const std::string& engine) {
        for (const auto& a : s.actions)
            if (a.when == when)
                out.push_back({time, engine, a.what, withEngine(a.set, engine.empty() ? "all" : nameOf(engine))});
    };
    const auto advice = Priming(s).advice(request.engine, request.field);
    const auto doseOf = [&](const std::string& engine, int attempt) {
        // What lies in it is not given again.
        const auto fails = request.failures.find(engine);
        const auto tries = request.foreseen.find(engine);
        const int at = attempt - 1 - (fails == request.failures.end() ? 0 : fails->second);
        const bool told = tries != request.foreseen.end() && at >= 0 && at < static_cast<int>(tries->second.size());
        const double dose =
            told ? tries->second[static_cast<std::size_t>(at)].dose : doseFor(advice, request.liking, engine);
        std::string text = fmt::format("{} {}", formatNumber(dose, 0), advice.unit);
        if (advice.blades > 0 && (!told || at == 0 || dose > 0))
            text += fmt::format(" and {} blades", formatNumber(advice.blades, 0));
        return text;
    };
    const auto turn = [&](const std::string& engine, int attempt) {
        std::string text = s.bladesFirst && s.starter.bladesBeforeIgnition > 0
                               ? fmt::format("{} blades, then ignition on", s.starter.bladesBeforeIgnition)
                               : std::string("ignition on");
        return s.primeWhileTurning ? fmt::format("{}; prime {}", text, doseOf(engine, attempt)) : text;
    };
    double end = 0.0;
    std::string turned; // "engine try" whose turning lines are already told
    for (const auto& e : timeline.events) {
        const bool turning = e.kind == EventKind::energise || e.kind == EventKind::crank;
        if (turning && turned != fmt::format("{} {}", e.engine, e.attempt)) {
            turned = fmt::format("{} {}", e.engine, e.attempt);
            if (s.primeWhileTurning)
                actions(StartAction::When::beforePrime, e.start, e.engine);
            actions(StartAction::When::beforeCrank, e.start, e.engine);
            out.push_back(
                {e.start, e.engine, e.kind == EventKind::energise ? "Energise" : "Turn",
                 e.kind == EventKind::energise
                     ? fmt::format("{}, mesh; {}", format(e.length(), *units::second.spec), turn(e.engine, e.attempt))
                     : turn(e.engine, e.attempt)});
        }
        switch (e.kind) {
        case EventKind::prime:
            if (s.primeWhileTurning)
                break; // told with the turning
            actions(StartAction::When::beforePrime, e.start, e.engine);
            out.push_back({e.start, e.engine, "Prime", doseOf(e.engine, e.attempt)});
            break;
        case EventKind::crank:
            if (e.failed)
                out.push_back({e.end, e.engine, "No catch", "starter off"});
            break;
        case EventKind::oilPressureWatch:
            out.push_back({e.start, e.engine, "Oil pressure",
                           fmt::format("{} in {}", format(s.oilPressure.si(), notes.unitOf(Gauge::oilPressure)),
                                       format(s.oilPressureWithin.si(), *units::second.spec))});
            actions(StartAction::When::running, e.end, e.engine);
            break;
        case EventKind::rest:
            out.push_back({e.start, e.engine, "Rest", formatMinutesSeconds(e.length())});
            break;
        case EventKind::wait:
        case EventKind::energise:
            break;
        }
        if (e.kind != EventKind::rest)
            end = std::max(end, e.end);
    }
    actions(StartAction::When::allRunning, end, {});
    std::stable_sort(out.begin(), out.end(),
                     [](const SequenceLine& a, const SequenceLine& b) { return a.time < b.time; });
    return out;
}

} // namespace amber::start
