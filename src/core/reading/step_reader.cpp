// SPDX-License-Identifier: GPL-3.0-or-later
#include "reading/step_reader.h"
#include "notes/standard_schools.h"
#include "reading/control_reader.h"
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
    if (t.has("do"))
        s.actions = readActions(t, "do");
    t.finish();
    return s;
}

void addStandard(TableReader& t, Step& s, int format) {
    const std::string key = t.text("standard");
    const std::string byNotes = t.text("notes");
    s.takes = byNotes;
    if (key.empty()) {
        if (!byNotes.empty() && format == 1)
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

Step readStep(TableReader& t, int format) {
    Step s;
    s.line = t.line();
    for (const auto& key : t.keys())
        s.given.insert(key);
    s.id = t.text("id");
    // A step of format 2 may be only what the notes change of the standard drill's, called by its id.
    s.what = t.text("what", format == 1 || s.id.empty());
    if (s.id.empty())
        s.id = s.what;
    s.set = t.text("set", format == 1 && !t.has("standard"));
    if (format > 1) {
        s.actions = readActions(t, "do");
        s.each = t.flag("each").value_or(false);
        s.atEnd = t.flag("at_end").value_or(false);
        s.branch = t.flag("branch").value_or(false);
        s.memory = t.flag("memory").value_or(false);
        s.caution = t.text("caution");
        s.before = t.text("before");
        s.after = t.text("after");
        s.was = t.texts("was");
        if (t.word("origin", {"notes", "practice"}).value_or(0) == 1)
            s.origin = Origin::practice;
        if (!s.before.empty() && !s.after.empty())
            t.problem(t.line("after"), fmt::format("step \"{}\" stands before one and after another", s.id),
                      "Keep one of before and after");
    }
    s.at = t.text("at");
    s.why = t.text("why");
    s.skipped = t.text("skipped");
    s.job = t.text("job");
    s.open = t.flag("open").value_or(false);
    const auto* point = t.has("standard") ? schools::point(t.text("standard")) : nullptr;
    for (auto& school : t.tables("school"))
        s.schools.push_back(readSchool(school, point ? point->schools : std::vector<School>{}));
    addStandard(t, s, format);
    const auto byNotes = std::count_if(s.schools.begin(), s.schools.end(), [](const School& c) { return c.byNotes; });
    if (!s.schools.empty() && byNotes != 1)
        t.problem(t.line(), fmt::format("step \"{}\" marks {} schools as the notes' own", s.what, byNotes),
                  "Put notes = true on exactly one school, or notes = \"…\" beside standard");
    t.finish();
    return s;
}

} // namespace amber::notes
