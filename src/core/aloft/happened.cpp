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

std::optional<double> Happened::lastDone(std::string_view what, std::string_view engine, double until) const {
    std::optional<double> out;
    for (const auto& d : done)
        if (d.what == what && d.engine == engine && d.at <= until)
            out = std::max(out.value_or(d.at), d.at);
    return out;
}

std::optional<double> Happened::lastRead(Gauge gauge, std::string_view engine, double after, double until) const {
    std::optional<double> out;
    for (const auto& r : readings)
        if (r.gauge == gauge && (r.engine == engine || r.engine.empty()) && r.at > after && r.at <= until)
            out = r.value;
    return out;
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
            const double at = static_cast<double>(e->at - run.began) / 1000.0;
            if (e->kind == record::Entry::Kind::looked && !e->rough)
                out.done.push_back({e->what, e->engine, at});
            if (e->kind == record::Entry::Kind::words && e->what == "tick")
                out.done.push_back({e->words, e->engine, at});
            if (e->kind != record::Entry::Kind::figure)
                continue;
            if (record::isMoment(e->what) || e->what == unnamed || e->what.starts_with(record::ofTank)) {
                out.moments.push_back({e->what, e->engine, e->value, e->id});
                continue;
            }
            const auto* row = record::whatOf(e->what);
            if (!row || !row->gauge || e->rough || e->lasted)
                continue;
            out.readings.push_back({*row->gauge, e->engine, at, e->value, e->id, stoodBy.contains(e->id)});
        }
    }
    std::stable_sort(out.moments.begin(), out.moments.end(),
                     [](const Given& a, const Given& b) { return a.at < b.at; });
    std::stable_sort(out.readings.begin(), out.readings.end(),
                     [](const Reading& a, const Reading& b) { return a.at < b.at; });
    return out;
}

} // namespace amber::aloft
