// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/step_reader.h"
#include "notes/standard_schools.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::notes {
namespace {
using document::TableReader;

School readSchool(TableReader& t, const std::vector<School>& standard) {
    School s;
    s.name = t.text("name", true);
    const auto known =
        std::find_if(standard.begin(), standard.end(), [&](const School& k) { return k.name == s.name; });
    const bool bare = known == standard.end();
    if (!bare)
        s = *known;
    const auto take = [&](const char* key, std::string& into) {
        if (t.has(key) || bare)
            into = t.text(key, bare);
    };
    take("set", s.set);
    take("gain", s.gain);
    take("risk", s.risk);
    s.byNotes = t.flag("notes").value_or(false);
    t.finish();
    return s;
}

void addStandard(TableReader& t, Step& s) {
    const std::string key = t.text("standard");
    const std::string byNotes = t.text("notes");
    if (key.empty()) {
        if (!byNotes.empty())
            t.problem(t.line("notes"), fmt::format("step \"{}\" marks a school but names no standard point", s.what),
                      "Add standard = \"…\", or put notes = true on a [[…step.school]]");
        return;
    }
    const auto* point = schools::point(key);
    if (!point) {
        std::vector<std::string> keys;
        for (const auto& p : schools::points())
            keys.emplace_back(p.key);
        t.problem(t.line("standard"), fmt::format("there is no point \"{}\" on which crews differ", key),
                  fmt::format("Use one of: {}", fmt::join(keys, ", ")));
        return;
    }
    for (auto& written : s.schools)
        written.byNotes = written.byNotes || written.name == byNotes;
    // Written schools go before the standard ones of the same name; the others follow.
    for (const auto& standard : point->schools)
        if (std::none_of(s.schools.begin(), s.schools.end(),
                         [&](const School& w) { return w.name == standard.name; })) {
            s.schools.push_back(standard);
            s.schools.back().byNotes = standard.name == byNotes;
            // The step's own words are the setting of the school the notes take.
            if (s.schools.back().byNotes && !s.set.empty())
                s.schools.back().set = s.set;
        }
    if (s.set.empty())
        for (const auto& school : s.schools)
            if (school.byNotes)
                s.set = school.set;
}
} // namespace

Step readStep(TableReader& t) {
    Step s;
    s.line = t.line();
    s.what = t.text("what", true);
    s.id = t.text("id");
    if (s.id.empty())
        s.id = s.what;
    s.set = t.text("set", !t.has("standard"));
    s.at = t.text("at");
    s.why = t.text("why");
    s.skipped = t.text("skipped");
    s.job = t.text("job");
    s.open = t.flag("open").value_or(false);
    const auto* point = t.has("standard") ? schools::point(t.text("standard")) : nullptr;
    for (auto& school : t.tables("school"))
        s.schools.push_back(readSchool(school, point ? point->schools : std::vector<School>{}));
    addStandard(t, s);
    const auto byNotes = std::count_if(s.schools.begin(), s.schools.end(), [](const School& c) { return c.byNotes; });
    if (!s.schools.empty() && byNotes != 1)
        t.problem(t.line(), fmt::format("step \"{}\" marks {} schools as the notes' own", s.what, byNotes),
                  "Put notes = true on exactly one school, or notes = \"…\" beside standard");
    t.finish();
    return s;
}

} // namespace amber::notes
