// SPDX-License-Identifier: GPL-3.0-or-later
#include "cockpit/migrate.h"
#include "cockpit/sentences.h"
#include "cockpit/written.h"
#include "reading/notes_reader.h"
#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace amber::cockpit {
namespace {
std::string trimmed(std::string_view text) {
    const auto from = text.find_first_not_of(" \t");
    return from == std::string_view::npos ? std::string{}
                                          : std::string(text.substr(from, text.find_last_not_of(" \t\r") - from + 1));
}
/// "do = [{ mixture = "rich" }]"
std::string lineOf(const std::vector<Action>& actions) {
    document::Node step;
    document::Node list;
    list.kind = document::Node::Kind::array;
    for (const auto& a : actions)
        list.items.push_back(tree(a));
    step.members.push_back({"do", std::move(list)});
    std::string out = toml(step);
    while (!out.empty() && out.back() == '\n')
        out.pop_back();
    return out;
}
} // namespace

std::optional<Migrated> migrate(std::string_view text, const std::string& file, Problems& problems) {
    auto reading = readNotes(text, file);
    if (!reading.notes) {
        problems.insert(problems.end(), reading.problems.begin(), reading.problems.end());
        return std::nullopt;
    }
    if (reading.notes->format != 1) {
        problems.push_back({file, 1, "these notes are of format 2 already", "Nothing is to be done"});
        return std::nullopt;
    }
    const TypeNotes& n = *reading.notes;
    const auto cockpit = controls(n, problems);
    const auto root = document::parse(text, file, problems);
    Migrated out;
    std::map<int, std::vector<std::string>> after; // lines put after a line
    for (const auto& [phase, notes] : n.phases) {
        const document::Node* section = root->find(keyOf(phase));
        const document::Node* steps = section ? section->find("step") : nullptr;
        for (std::size_t i = 0; i < notes.steps.size(); ++i) {
            ++out.steps;
            const Step& step = notes.steps[i];
            const document::Node* what = steps && i < steps->items.size() ? steps->items[i].find("what") : nullptr;
            const bool block = what && what->line > step.line; // [[start.step]], a key a line
            const auto actions = actsIn(step, phase, cockpit, n);
            if (!actions.empty() && block)
                after[what->line].push_back(lineOf(actions));
            else
                out.silent.push_back(fmt::format("{}/{}", keyOf(phase), step.id));
            if (block && isBranch(step))
                after[what->line].emplace_back("branch = true");
        }
    }
    std::vector<std::string> unwritten; // phases of which nothing is written
    for (auto i = static_cast<std::size_t>(Phase::start); i < plannedPhases; ++i) {
        const auto phase = static_cast<Phase>(i);
        if (const auto found = n.phases.find(phase); found == n.phases.end() || found->second.steps.empty())
            unwritten.emplace_back(keyOf(phase));
    }
    const document::Node* levers = root->find("lever");
    for (std::size_t i = 0; levers && i < levers->items.size(); ++i) {
        const document::Node& lever = levers->items[i];
        const document::Node* id = lever.find("id");
        for (const auto& c : cockpit)
            if (id && c.id == id->text) {
                if (rowOf(c.acts).key != c.id)
                    after[id->line].push_back(fmt::format("acts = \"{}\"", rowOf(c.acts).key));
                if (lever.find("positions") && c.positions.size() > 1) {
                    // Written from the far end or not, both ends are told.
                    const bool turned = lever.find("positions")->items.front().text != c.positions.front().name;
                    after[id->line].push_back(turned ? fmt::format("ends = [\"{}\", \"{}\"]", c.more, c.less)
                                                     : fmt::format("ends = [\"{}\", \"{}\"]", c.less, c.more));
                }
            }
    }
    int number = 0;
    bool inType = false;
    while (!text.empty()) {
        ++number;
        const auto end = text.find('\n');
        std::string line(text.substr(0, end));
        text = end == std::string_view::npos ? std::string_view{} : text.substr(end + 1);
        const std::string bare = trimmed(line);
        if (bare.starts_with('['))
            inType = bare == "[type]";
        if (bare == "format = 1" || bare == "format=1")
            line = "format = 2";
        else if (bare == "[[lever]]")
            line = "[[control]]";
        out.text += line + "\n";
        if (inType && bare == "[type]" &&
            out.steps > 0) { // without any step of its own the standard drill is its drill
            out.text += "drill = \"whole\"\n";
            if (!unwritten.empty())
                out.text +=
                    fmt::format("# No acts were written for {}: without the line above the standard drill stands "
                                "under what is written.\n",
                                fmt::join(unwritten, ", "));
        }
        if (const auto more = after.find(number); more != after.end())
            for (const auto& put : more->second)
                out.text += put + "\n";
    }
    return out;
}

} // namespace amber::cockpit
