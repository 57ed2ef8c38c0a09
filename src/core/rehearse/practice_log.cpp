// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/practice_log.h"
#include "files/csv.h"
#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <map>

namespace amber::rehearse {
namespace {
constexpr std::size_t lately = 3; // rehearsals
} // namespace

std::vector<Practised> practised(const Debrief& d, const TypeNotes& n, const std::string& day, const std::string& who) {
    std::vector<Practised> out;
    const auto add = [&](std::string skill, std::size_t asked, std::size_t well) {
        if (asked > 0)
            out.push_back({day, who, n.name, std::move(skill), asked, well});
    };
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        const auto phase = static_cast<Phase>(i);
        std::size_t asked = 0, well = 0;
        for (const auto& a : d.acts)
            if (a.phase == phase) {
                ++asked;
                well += a.done == DrillAct::Done::inTurn || a.done == DrillAct::Done::stood ? 1 : 0;
            }
        add(std::string(keyOf(phase)), asked, well);
    }
    add("outcome", d.aimsMet + d.unmet.size(), d.aimsMet);
    add("faults", d.faults.size(),
        static_cast<std::size_t>(std::count_if(d.faults.begin(), d.faults.end(), [](const FaultMet& f) {
            return f.called && *f.called <= soon && f.wrongly.empty();
        })));
    add("questions", d.questions.size(),
        static_cast<std::size_t>(
            std::count_if(d.questions.begin(), d.questions.end(), [](const auto& a) { return a.right; })));
    const auto items = itemsAtOnce(d.items);
    add("lists", items.asked, items.well);
    return out;
}

std::string writeLog(const std::vector<Practised>& log) {
    std::string out;
    for (const auto& p : log)
        out += fmt::format("{},{},{},{},{},{}\n", p.day, csv::cell(p.who), csv::cell(p.type), p.skill, p.asked, p.well);
    return out;
}

std::vector<Practised> readLog(std::string_view text, const std::string& file, Problems& problems) {
    std::vector<Practised> out;
    const auto count = [](const std::string& cell) -> std::optional<std::size_t> {
        constexpr std::size_t most = 100'000;
        std::size_t value = 0;
        const auto read = std::from_chars(cell.data(), cell.data() + cell.size(), value);
        return read.ec == std::errc() && read.ptr == cell.data() + cell.size() && value <= most ? std::optional(value)
                                                                                                : std::nullopt;
    };
    csv::eachLine(text, [&](const std::vector<std::string>& cells, int line) {
        if (!cells.empty() && cells.front() == "day")
            return;
        const auto asked = cells.size() == 6 ? count(cells[4]) : std::nullopt,
                   well = cells.size() == 6 ? count(cells[5]) : std::nullopt;
        if (!asked || !well || *asked == 0 || *well > *asked)
            problems.push_back({file, line, "this is no line of a practice log",
                                "Write day,who,type,skill,asked,well, the last two whole numbers, well at most asked"});
        else
            out.push_back({cells[0], csv::plain(cells[1]), csv::plain(cells[2]), cells[3], *asked, *well});
    });
    return out;
}

std::vector<SkillNow> skillsOf(const std::vector<Practised>& log, const std::string& who, const std::string& type) {
    std::vector<SkillNow> out;
    std::map<std::string, std::vector<const Practised*>> by;
    for (const auto& p : log)
        if (p.who == who && p.type == type)
            by[p.skill].push_back(&p);
    for (const auto& [skill, all] : by) {
        SkillNow now{skill, {}, 0.0};
        double asked = 0.0, well = 0.0;
        for (std::size_t i = 0; i < all.size(); ++i) {
            now.shares.push_back(static_cast<double>(all[i]->well) / static_cast<double>(all[i]->asked));
            if (i + lately >= all.size()) {
                asked += static_cast<double>(all[i]->asked);
                well += static_cast<double>(all[i]->well);
            }
        }
        now.lately = well / asked;
        out.push_back(std::move(now));
    }
    std::stable_sort(out.begin(), out.end(), [](const SkillNow& a, const SkillNow& b) { return a.lately < b.lately; });
    return out;
}

std::string titleOfSkill(std::string_view skill) {
    if (skill == "outcome")
        return "What it came to";
    if (skill == "faults")
        return "Faults recognised";
    if (skill == "questions")
        return "Questions";
    if (skill == "lists")
        return "Lists answered";
    const auto phase = phaseFromKey(skill);
    return phase ? std::string(titleOf(*phase)) : std::string(skill);
}

} // namespace amber::rehearse
