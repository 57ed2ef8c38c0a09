// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/control.h"
#include "notes/origin.h"
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

/// One step of a drill, and the schools on which crews differ about it.
namespace amber {

/// What a school changes in the computed start; empty: nothing.
struct SchoolEffect {
    std::optional<bool> primeWhileTurning;
    std::optional<double> primerShare;      ///< of the notes' dose that the primer gives; blades draw the rest, 0 … 1
    std::optional<bool> bladesFirst;        ///< ignition only after the notes' blades, or from the first turn
    std::optional<bool> slowFirst;          ///< slowest smooth rpm until oil pressure, or warm-up rpm at once
    std::optional<bool> shutUntilWarm;      ///< cooling flaps shut in the warm-up until the run-up minimum
    std::optional<bool> changeAtEqualPower; ///< blower gear, not before the other gives as much
    bool operator==(const SchoolEffect&) const = default;
};

struct School {
    std::string name;
    std::string set; ///< replaces the step's setting
    std::string gain;
    std::string risk;
    bool byNotes = false;
    SchoolEffect effect;
    std::optional<std::vector<Action>> actions; ///< in place of the step's
    bool operator==(const School&) const = default;
};

/// One thing to set, in order. `set` may hold placeholders in braces that the plan fills (docs/formats/type-notes.md).
struct Step {
    std::string id;
    std::string what; ///< lever name, or what is done
    std::string set;
    std::string at; ///< when, if not at once
    std::string why;
    std::string skipped; ///< what goes wrong when it is left out
    std::string job;     ///< row of the practice, J14
    std::vector<School> schools;
    bool open = false;             ///< the notes leave the choice to the pilot
    std::vector<Action> actions;   ///< what is done, control by control; empty: the words only
    bool each = false;             ///< engine by engine, in the order of starting
    bool atEnd = false;            ///< when the phase ends
    bool memory = false;           ///< of an emergency: done from memory, before any page is read
    bool branch = false;           ///< another way out, not on the line of the phase: going round
    std::string caution;           ///< said where the act is
    std::string takes;             ///< name of the school that the notes take
    std::string before, after;     ///< id of the step it stands by, where the notes add to the standard drill
    std::vector<std::string> was;  ///< ids that it had in older notes: choices find it by them
    Origin origin = Origin::notes; ///< notes, or practice where they say nothing of it
    std::set<std::string, std::less<>> given; ///< keys that the notes wrote
    int line = 0;
    [[nodiscard]] bool called(std::string_view name) const;
};

} // namespace amber
