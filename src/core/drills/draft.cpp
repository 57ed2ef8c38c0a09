// SPDX-License-Identifier: GPL-3.0-or-later
#include "drills/draft.h"
#include "notes/standard_schools.h"
#include "reading/control_reader.h"

namespace amber::cockpit {

Draft::Line& Draft::Line::on(Acts acts, std::string_view to) {
    const Control* control = d_.control(acts);
    if (!control)
        return *this;
    const Target target = notes::readTarget(to);
    if (target.kind == Target::Kind::position && !control->positions.empty() && !control->position(target.word))
        return *this; // this one cannot stand there: a mixture lever without cut-off
    Action a;
    a.control = control->id;
    a.to = target;
    s_.actions.push_back(std::move(a));
    return *this;
}
Draft::Line& Draft::Line::on(Acts acts, std::string_view to, std::string_view engines) {
    const auto before = s_.actions.size();
    on(acts, to);
    if (s_.actions.size() > before)
        s_.actions.back().engines = {std::string(engines)};
    return *this;
}
namespace {
/// For what belongs to an act that was left out with its control.
Action& lastOf(Step& step) {
    static thread_local Action nowhere;
    return step.actions.empty() ? nowhere : step.actions.back();
}
} // namespace
Draft::Line& Draft::Line::held() {
    lastOf(s_).hold = true;
    return *this;
}
Draft::Line& Draft::Line::over(double seconds) {
    lastOf(s_).over = seconds;
    return *this;
}
Draft::Line& Draft::Line::lasting(std::string_view time) {
    lastOf(s_).lasts = notes::readTarget(time);
    return *this;
}
Draft::Line& Draft::Line::until(Gauge gauge, bool above, std::string_view level, double within, std::string otherwise) {
    Action& a = lastOf(s_);
    a.until = Awaited{gauge, above, notes::readTarget(level)};
    a.within = within;
    a.otherwise = std::move(otherwise);
    return *this;
}
Draft::Line& Draft::Line::waits(std::string_view time) {
    s_.actions.emplace_back();
    return lasting(time);
}
Draft::Line& Draft::Line::reads(Gauge gauge, bool above, std::string_view level, double within, std::string otherwise) {
    s_.actions.emplace_back();
    return until(gauge, above, level, within, std::move(otherwise));
}
Draft::Line& Draft::Line::set(std::string words) {
    s_.set = std::move(words);
    return *this;
}
Draft::Line& Draft::Line::at(std::string when) {
    s_.at = std::move(when);
    return *this;
}
Draft::Line& Draft::Line::skipped(std::string what) {
    s_.skipped = std::move(what);
    return *this;
}
Draft::Line& Draft::Line::caution(std::string what) {
    s_.caution = std::move(what);
    return *this;
}
Draft::Line& Draft::Line::each() {
    s_.each = true;
    return *this;
}
Draft::Line& Draft::Line::atEnd() {
    s_.atEnd = true;
    return *this;
}
Draft::Line& Draft::Line::branch() {
    s_.branch = true;
    return *this;
}
Draft::Line& Draft::Line::memory() {
    s_.memory = true;
    return *this;
}
Draft::Line& Draft::Line::was(std::vector<std::string> ids) {
    s_.was = std::move(ids);
    return *this;
}
Draft::Line& Draft::Line::schools(std::string_view point, std::string_view taken) {
    if (const auto* known = amber::schools::point(point))
        s_.schools = known->schools;
    for (auto& school : s_.schools) {
        school.byNotes = taken.empty() ? &school == &s_.schools.front() : school.name == taken;
        if (!s_.set.empty() && school.byNotes)
            school.set = s_.set;
    }
    s_.open = true;
    return *this;
}
Draft::Line& Draft::Line::school(std::string_view name, const std::function<void(Line&)>& acts) {
    Step own;
    Line line(d_, own);
    acts(line);
    for (auto& school : s_.schools)
        if (school.name == name) {
            school.actions = own.actions;
            if (school.byNotes)
                s_.actions = own.actions;
        }
    return *this;
}

Draft::Line Draft::act(Phase phase, std::string id, Acts about, std::string why, std::string job) {
    const Control* c = control(about);
    Step& s = c ? steps_[phase].emplace_back() : scratch_.emplace_back();
    s.id = std::move(id);
    s.what = c ? c->name : "";
    s.why = std::move(why);
    s.job = std::move(job);
    s.origin = Origin::practice;
    return {*this, s};
}
Draft::Line Draft::say(Phase phase, std::string id, std::string what, std::string words, std::string why,
                       std::string job) {
    Step& s = steps_[phase].emplace_back();
    s.id = std::move(id);
    s.what = std::move(what);
    s.set = std::move(words);
    s.why = std::move(why);
    s.job = std::move(job);
    s.origin = Origin::practice;
    return {*this, s};
}

std::map<Phase, std::vector<Step>> Draft::done() {
    std::map<Phase, std::vector<Step>> out;
    for (auto& [phase, steps] : steps_)
        for (auto& s : steps)
            if (!s.actions.empty() || !s.set.empty())
                out[phase].push_back(std::move(s));
    return out;
}

} // namespace amber::cockpit
