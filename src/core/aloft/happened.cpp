// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/happened.h"
#include "record/what.h"
#include <algorithm>
#include <set>

namespace amber::aloft {

std::optional<double> Happened::when(std::string_view what, std::string_view engine) const {
    for (const auto& m : moments)
        if (m.what == what && m.engine == engine)
            return m.at;
    return std::nullopt;
}

Happened happenedOf(const std::vector<record::Standing>& standing, const record::Run& run) {
    Happened out;
    std::set<std::string_view> stoodBy;
    for (const auto& s : standing)
        for (const auto* e : s.last)
            if (e->what == "note" && e->kind == record::Entry::Kind::words && e->words.starts_with(believes))
                stoodBy.insert(std::string_view(e->words).substr(std::min(e->words.size(), believes.size() + 1)));
    for (const auto& s : standing) {
        if (s.disagrees)
            continue;
        for (const auto* e : s.last) {
            if (e->kind != record::Entry::Kind::figure)
                continue;
            if (record::isMoment(e->what) || e->what == unnamed || e->what.starts_with(record::ofTank)) {
                out.moments.push_back({e->what, e->engine, e->value, e->id});
                continue;
            }
            const auto* row = record::whatOf(e->what);
            if (!row || !row->gauge || e->rough || e->lasted)
                continue;
            out.readings.push_back({*row->gauge, e->engine, static_cast<double>(e->at - run.began) / 1000.0, e->value,
                                    e->id, stoodBy.contains(e->id)});
        }
    }
    std::stable_sort(out.moments.begin(), out.moments.end(),
                     [](const Given& a, const Given& b) { return a.at < b.at; });
    std::stable_sort(out.readings.begin(), out.readings.end(),
                     [](const Reading& a, const Reading& b) { return a.at < b.at; });
    return out;
}

} // namespace amber::aloft
