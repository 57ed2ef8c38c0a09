// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/log.h"
#include <algorithm>
#include <fmt/format.h>
#include <set>
#include <string_view>
#include <tuple>

namespace amber::record {

Merged merge(Log& into, const Log& from) {
    Merged out;
    const auto add = [&](auto& there, const auto& more, std::size_t& added, const char* name) {
        for (const auto& [id, one] : more) {
            const auto [place, isNew] = there.try_emplace(id, one);
            if (isNew)
                ++added;
            else if (!(place->second == one))
                out.told.push_back(
                    fmt::format("{} {} is there already and says something else: what was kept first stays", name, id));
        }
    };
    add(into.runs, from.runs, out.runs, "run");
    add(into.entries, from.entries, out.entries, "entry");
    std::map<std::string_view, std::size_t> corrected;
    for (const auto& [id, entry] : into.entries)
        if (!entry.supersedes.empty())
            ++corrected[entry.supersedes];
    for (const auto& [id, entry] : from.entries)
        if (const auto times = corrected.find(entry.supersedes); times != corrected.end() && times->second > 1)
            out.told.push_back(
                fmt::format("entry {} has been corrected {} times apart: all are kept", times->first, times->second));
    std::sort(out.told.begin(), out.told.end());
    out.told.erase(std::unique(out.told.begin(), out.told.end()), out.told.end());
    return out;
}

namespace {
/// Of the entries of one run, by id.
std::vector<Standing> standingOf(const std::vector<const Entry*>& entries) {
    std::map<std::string_view, const Entry*> byId;
    for (const Entry* e : entries)
        byId.emplace(e->id, e);
    std::map<std::string_view, std::vector<const Entry*>> corrections; // by what they supersede
    std::vector<const Entry*> roots;
    for (const Entry* e : entries)
        if (!e->supersedes.empty() && byId.contains(e->supersedes))
            corrections[e->supersedes].push_back(e);
        else
            roots.push_back(e);
    std::vector<Standing> out;
    std::set<const Entry*> seen;
    const auto follow = [&](const Entry* root) {
        Standing s;
        std::size_t ends = 0;
        std::vector<const Entry*> open{root};
        while (!open.empty()) {
            const Entry* e = open.back();
            open.pop_back();
            if (!seen.insert(e).second)
                continue;
            const auto next = corrections.find(e->id);
            if (next == corrections.end()) {
                ++ends;
                if (e->kind != Entry::Kind::withdrawn)
                    s.last.push_back(e);
                else
                    s.was.push_back(e);
                continue;
            }
            s.was.push_back(e);
            open.insert(open.end(), next->second.begin(), next->second.end());
        }
        const auto inOrder = [](const Entry* a, const Entry* b) { return a->id < b->id; };
        std::sort(s.last.begin(), s.last.end(), inOrder);
        std::sort(s.was.begin(), s.was.end(), inOrder);
        s.disagrees = ends > 1;
        if (ends == 0) { // a circle
            s.last.push_back(root);
            s.was.erase(std::find(s.was.begin(), s.was.end(), root));
        }
        out.push_back(std::move(s));
    };
    for (const Entry* root : roots)
        follow(root);
    for (const Entry* e : entries)
        if (!seen.contains(e))
            follow(e);
    const auto place = [](const Standing& s) {
        const Entry* e = s.last.empty() ? s.was.back() : s.last.front();
        return std::tie(e->at, e->id);
    };
    std::sort(out.begin(), out.end(), [&](const Standing& a, const Standing& b) { return place(a) < place(b); });
    return out;
}
} // namespace

std::vector<Standing> standing(const Log& log, const std::string& run) {
    std::vector<const Entry*> entries;
    for (const auto& [id, e] : log.entries)
        if (e.run == run)
            entries.push_back(&e);
    return standingOf(entries);
}

std::map<std::string, std::vector<Standing>> standing(const Log& log) {
    std::map<std::string, std::vector<const Entry*>> byRun;
    for (const auto& [id, e] : log.entries)
        byRun[e.run].push_back(&e);
    std::map<std::string, std::vector<Standing>> out;
    for (const auto& [run, entries] : byRun)
        out.emplace(run, standingOf(entries));
    return out;
}

} // namespace amber::record
