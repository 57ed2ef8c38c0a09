// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include "rehearse/debrief.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::rehearse {

/// How one skill went in one rehearsal: a phase's acts, faults called, questions answered.
struct Practised {
    std::string day; ///< 2026-11-29
    std::string who; ///< as they call themselves; may be empty
    std::string type;
    std::string skill; ///< a phase's key, "faults", "questions", "lists"
    std::size_t asked = 0, well = 0;
    bool operator==(const Practised&) const = default;
};

/// What a debrief says of each skill: acts in turn or standing so already of those asked for in each phase; faults
/// called by their name at first and within `soon`; questions answered rightly; items of lists answered rightly at
/// once. Skills of which nothing was asked are left out.
std::vector<Practised> practised(const Debrief& debrief, const TypeNotes& notes, const std::string& day,
                                 const std::string& who);
/// s within which a fault is called in time.
inline constexpr double soon = 60.0;

/// The first line of a log, and lines to be added to one (docs/formats/rehearsal.md).
inline constexpr std::string_view logHead = "day,who,type,skill,asked,well\n";
std::string writeLog(const std::vector<Practised>& log);
/// Reading tells every problem with its line; lines that can be read are kept.
std::vector<Practised> readLog(std::string_view text, const std::string& file, Problems& problems);

/// One skill over time.
struct SkillNow {
    std::string skill;
    std::vector<double> shares; ///< well of asked, 0 … 1, of each rehearsal in its order
    double lately = 0.0;        ///< of the last three together
};
/// The skills of one person on one type, the weakest lately first.
std::vector<SkillNow> skillsOf(const std::vector<Practised>& log, const std::string& who, const std::string& type);

/// "start", "faults called", "questions": a skill in words.
std::string titleOfSkill(std::string_view skill);

} // namespace amber::rehearse
