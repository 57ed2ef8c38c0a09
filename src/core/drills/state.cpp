// SPDX-License-Identifier: GPL-3.0-or-later
#include "drills/state.h"
#include "cockpit/controls.h"
#include "notes/standard_schools.h"
#include <algorithm>

namespace amber::cockpit {
namespace {
Target standing(const Control& c, const TypeNotes& n) {
    std::string word(rowOf(c.acts).standing);
    if (c.acts == Acts::propeller && n.stop.parksCoarse)
        word = "coarse";
    if (c.acts == Acts::gear || !c.position(word))
        word = c.positions.empty() ? word : c.acts == Acts::mixture ? c.positions.back().is : c.positions.front().is;
    return {Target::Kind::position, word, Dimension::duration, 0.0};
}
} // namespace

State::State(const TypeNotes& whole) : engines_(std::max<std::size_t>(1, whole.engineCount())) {
    for (const auto& c : whole.controls)
        for (std::size_t i = 0; i < engines_; ++i)
            stands_.push_back({standing(c, whole), Phase::walkRound, false});
}

std::vector<Turn> turns(const TypeNotes& n, Phase phase, const std::vector<std::string>& order) {
    const auto& steps = n.phase(phase).steps;
    std::vector<Turn> out;
    for (const bool atEnd : {false, true})
        for (std::size_t i = 0; i < steps.size();) {
            if (steps[i].atEnd != atEnd) {
                ++i;
                continue;
            }
            if (!steps[i].each) {
                out.push_back({i++, -1});
                continue;
            }
            std::size_t end = i;
            while (end < steps.size() && steps[end].each && steps[end].atEnd == atEnd)
                ++end;
            for (const auto& id : order)
                for (std::size_t e = 0; e < n.positions.size(); ++e)
                    if (n.positions[e].id == id)
                        for (std::size_t k = i; k < end; ++k)
                            out.push_back({k, static_cast<int>(e)});
            i = end;
        }
    return out;
}

void carry(const TypeNotes& n, const std::map<std::string, std::string>& choices,
           const std::function<void(const Change&, const Action*, const State&)>& seen) {
    State state(n);
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        const auto phase = static_cast<Phase>(i);
        const auto& steps = n.phase(phase).steps;
        for (const Turn& turn : turns(n, phase, n.start.order)) {
            const Step& step = steps[turn.step];
            const State before = state;
            const auto& actions = actionsInForce(step, schools::inForce(step, phase, choices));
            for (std::size_t a = 0; a < actions.size(); ++a) {
                const Action& act = actions[a];
                const Control* c = find(n.controls, act.control);
                Change change{phase, turn.step, a, -1, 0, {}, act.to, step.branch};
                if (!c) {
                    seen(change, &act, state);
                    continue;
                }
                change.control = static_cast<int>(c - n.controls.data());
                // A control for all is moved for the engine in turn, if the act is of that one.
                if (!c->each && turn.engine >= 0 && !act.engines.empty() &&
                    std::find(act.engines.begin(), act.engines.end(),
                              n.positions[static_cast<std::size_t>(turn.engine)].id) == act.engines.end())
                    continue;
                for (std::size_t e = 0; e < state.engines(); ++e) {
                    if (!c->each && e > 0)
                        break;
                    if (c->each && turn.engine >= 0 && static_cast<std::size_t>(turn.engine) != e)
                        continue;
                    if (c->each && !act.engines.empty() &&
                        std::find(act.engines.begin(), act.engines.end(), n.positions[e].id) == act.engines.end())
                        continue;
                    change.engine = e;
                    change.before = state.of(static_cast<std::size_t>(change.control), e).target;
                    seen(change, &act, state);
                    state.put(static_cast<std::size_t>(change.control), e, {act.to, phase, true});
                    for (const auto& [follower, is] : followers(n.controls, *c, act.to.word))
                        state.put(static_cast<std::size_t>(follower - n.controls.data()), e,
                                  {{Target::Kind::position, is, Dimension::duration, 0.0}, phase, true});
                }
            }
            if (step.branch) {
                seen({phase, turn.step, actions.size(), -1, 0, {}, {}, true}, nullptr, state); // as it is when done
                state = before;
            }
        }
        seen({phase, steps.size(), 0, -1, 0, {}, {}, false}, nullptr, state);
    }
}

State stateAtEnd(const TypeNotes& n, const std::map<std::string, std::string>& choices, Phase wanted) {
    State out(n);
    carry(n, choices, [&](const Change& change, const Action* act, const State& state) {
        if (!act && !change.branch && change.phase == wanted)
            out = state;
    });
    return out;
}

} // namespace amber::cockpit
