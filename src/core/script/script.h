// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include "powerplant/powerplant.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::powerplant {

/// One line of a script: at a time, of an engine or of all, a lever, a switch, a fault or the path is set.
struct ScriptAct {
    Milliseconds at = 0;
    int engine = -1;       ///< index; −1: all, or what belongs to none
    std::size_t key = 0;   ///< row of the table of keys
    double value = 0.0;    ///< SI, a share, a count, 0 or 1, an index
    double severity = 1.0; ///< of a fault
    std::string text;      ///< as written
    int line = 0;
};

/// A script of levers and conditions (docs/formats/trace.md): CSV with the columns time, engine, what, value. Reading
/// tells every problem with its line.
struct Script {
    std::vector<ScriptAct> acts; ///< by time, in the order written
    [[nodiscard]] Milliseconds last() const { return acts.empty() ? 0 : acts.back().at; }
};
std::optional<Script> readScript(std::string_view text, const std::string& file, const TypeNotes& notes,
                                 Problems& problems);

/// What may be set: its key, what its value is, and a sentence. For the format's page and its messages.
struct ScriptKey {
    std::string_view key, value, meaning;
};
const std::vector<ScriptKey>& scriptKeys();

/// Runs a script in short steps.
class ScriptRun {
public:
    /// @param day must outlive it
    ScriptRun(const Powerplant& powerplant, const Script& script, const air::Day& day, Temperature engines);
    /// One short step further, acts due at its beginning done first.
    const AircraftReadings& step();
    [[nodiscard]] const AircraftState& state() const { return state_; }
    [[nodiscard]] const AircraftReadings& readings() const { return readings_; }
    [[nodiscard]] const Levers& levers() const { return levers_; }

private:
    void perform(const ScriptAct& act);
    void performOn(std::size_t engine, const ScriptAct& act);
    const Powerplant& powerplant_;
    const Script& script_;
    AircraftState state_;
    Levers levers_;
    Run run_;
    std::size_t next_ = 0;
    std::vector<double> dosesLeft_;
    AircraftReadings readings_;
};

/// The same readings with the trembling of a rough engine: needles shaken in proportion to its shake, by the generator
/// keyed with seed, engine and gauge, and time.
AircraftReadings trembling(AircraftReadings readings, std::uint64_t seed, Milliseconds now);

/// Trace as CSV (docs/formats/trace.md): a header with units, then a line for each moment; per engine the registered
/// quantities and the signs.
std::string traceHeader(const Powerplant& powerplant);
std::string traceLine(const Powerplant& powerplant, const AircraftState& state, const AircraftReadings& readings);

} // namespace amber::powerplant
