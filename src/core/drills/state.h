// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "drills/drill.h"
#include <functional>

namespace amber::cockpit {

/// Where one control of one engine stands: what was asked for and in which phase, so that a figure is that phase's.
struct Stand {
    Target target;
    Phase phase = Phase::walkRound;
    bool touched = false; ///< by any step so far
    bool operator==(const Stand&) const = default;
};

/// The state of every control, carried from the walk-round to the last signature.
class State {
public:
    /// As an aircraft left for the night is found.
    explicit State(const TypeNotes& whole);
    [[nodiscard]] const Stand& of(std::size_t control, std::size_t engine) const {
        return stands_[control * engines_ + engine];
    }
    void put(std::size_t control, std::size_t engine, Stand stand) {
        stands_[control * engines_ + engine] = std::move(stand);
    }
    [[nodiscard]] std::size_t engines() const { return engines_; }
    bool operator==(const State&) const = default;

private:
    std::size_t engines_;
    std::vector<Stand> stands_;
};

/// One act as it is done: which step of which phase, on which engine, from what to what.
struct Change {
    Phase phase = Phase::walkRound;
    std::size_t step = 0, action = 0; ///< indices into the phase's steps, and the acts in force
    int control = -1;                 ///< index; −1: a wait
    std::size_t engine = 0;           ///< of a control that is one for all: 0
    Target before, after;
    bool branch = false;
};

/// Every act of the whole drill in order, the schools chosen in force; engine by engine where a step says so. A branch
/// begins from the state it is written in and is left again.
/// @param seen called before each act with the state as it then is, and after the last of a phase with no act
void carry(const TypeNotes& whole, const std::map<std::string, std::string>& choices,
           const std::function<void(const Change& change, const Action* act, const State& state)>& seen);

/// The state at the beginning and the end of a phase, by the same.
State stateAtEnd(const TypeNotes& whole, const std::map<std::string, std::string>& choices, Phase phase);

/// The order in which the steps of a phase are done: engine by engine in runs of steps that say so. Each is an index of
/// a step and an engine, −1 for all.
struct Turn {
    std::size_t step = 0;
    int engine = -1;
};
std::vector<Turn> turns(const TypeNotes& whole, Phase phase, const std::vector<std::string>& order);

} // namespace amber::cockpit
