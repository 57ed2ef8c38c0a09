// SPDX-License-Identifier: GPL-3.0-or-later
#include "drills/drill.h"
#include "drills/draft.h"
#include "files/document.h"
#include "files/table_reader.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "notes/placeholder.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::cockpit {
namespace {

std::vector<std::string> idsOf(const std::vector<Step>& steps) {
    std::vector<std::string> out;
    for (const auto& s : steps)
        out.push_back(s.id);
    return out;
}

/// One phase: the notes' steps laid upon the standard ones.
class Merge {
public:
    Merge(const TypeNotes& notes, std::string where, std::vector<Step> standard, Problems& problems)
        : n_(notes), where_(std::move(where)), steps_(std::move(standard)), problems_(problems) {}

    template <class Written>
    std::vector<Step> run(const Written& written) {
        std::string last;
        for (const Step& s : written.steps) {
            const auto found = at(s.id);
            if (found != steps_.end()) {
                patch(*found, s);
                move(s);
            } else {
                Step added = s;
                added.origin = Origin::notes;
                insert(std::move(added), s, last);
            }
            last = s.id;
        }
        for (const auto& id : written.without)
            if (const auto found = at(id); found != steps_.end())
                steps_.erase(found);
            else
                missing(written.line, id, "without");
        return std::move(steps_);
    }

private:
    std::vector<Step>::iterator at(std::string_view id) {
        const auto exact = std::find_if(steps_.begin(), steps_.end(), [&](const Step& s) { return s.id == id; });
        return exact;
    }
    void missing(int line, const std::string& id, const char* where) {
        const auto guess = document::nearest(id, idsOf(steps_));
        problems_.push_back({n_.file, line,
                             fmt::format("{}: {} names a step \"{}\" that is not there", where_, where, id),
                             guess.empty() ? fmt::format("Use one of: {}", fmt::join(idsOf(steps_), ", "))
                                           : fmt::format("Did you mean \"{}\"?", guess)});
    }
    void patch(Step& into, const Step& s) {
        const auto given = [&](const char* key) { return s.given.contains(key); };
        const auto take = [&](const char* key, std::string& text, const std::string& from) {
            if (given(key))
                text = from;
        };
        take("what", into.what, s.what);
        take("at", into.at, s.at);
        take("why", into.why, s.why);
        take("skipped", into.skipped, s.skipped);
        take("job", into.job, s.job);
        take("caution", into.caution, s.caution);
        if (given("each"))
            into.each = s.each;
        if (given("at_end"))
            into.atEnd = s.atEnd;
        if (given("branch"))
            into.branch = s.branch;
        if (given("memory"))
            into.memory = s.memory;
        if (given("school") || given("standard"))
            into.schools = s.schools;
        if (!s.takes.empty()) {
            const auto taken = std::find_if(into.schools.begin(), into.schools.end(),
                                            [&](const School& c) { return c.name == s.takes; });
            if (taken == into.schools.end())
                problems_.push_back({n_.file, s.line,
                                     fmt::format("{}/{}: there is no school \"{}\"", where_, s.id, s.takes),
                                     "Name one of the step's schools"});
            else {
                for (auto& c : into.schools)
                    c.byNotes = &c == &*taken;
                if (taken->actions)
                    into.actions = *taken->actions;
                if (!given("set"))
                    into.set = taken->set;
            }
        }
        if (given("open"))
            into.open = s.open;
        if (given("do"))
            into.actions = s.actions;
        if (given("set") || given("standard"))
            into.set = s.set;
        else if (given("do"))
            into.set.clear(); // told anew from what is done
        for (auto& c : into.schools)
            if (c.byNotes) {
                if (given("do"))
                    c.actions = s.actions;
                if (!into.set.empty())
                    c.set = into.set;
            }
        into.given = s.given;
        into.line = s.line;
        into.origin = Origin::notes;
    }
    void move(const Step& s) {
        if (s.before.empty() && s.after.empty())
            return;
        const auto found = at(s.id);
        Step moved = std::move(*found);
        steps_.erase(found);
        insert(std::move(moved), s, {});
    }
    void insert(Step step, const Step& s, const std::string& last) {
        const std::string& anchor = !s.before.empty() ? s.before : !s.after.empty() ? s.after : last;
        if (anchor.empty()) {
            steps_.push_back(std::move(step));
            return;
        }
        auto found = at(anchor);
        if (found == steps_.end()) {
            if (anchor != last)
                missing(s.line, anchor, s.before.empty() ? "after" : "before");
            steps_.push_back(std::move(step));
            return;
        }
        if (s.before.empty())
            ++found;
        steps_.insert(found, std::move(step));
    }

    const TypeNotes& n_;
    std::string where_;
    std::vector<Step> steps_;
    Problems& problems_;
};

/// Where a step stands: a phase, or a drill of an emergency.
struct Place {
    std::string name;
    Phase phase = Phase::climb;
    bool emergency = false;
    [[nodiscard]] bool has(std::string_view figure) const {
        return emergency ? placeholder::availableInTrouble(figure) : placeholder::availableIn(figure, phase);
    }
};

/// Names made sure of: what an act touches and where it puts it.
class Names {
public:
    Names(const TypeNotes& notes, Problems& problems) : n_(notes), problems_(problems) {}
    void check(const Place& place, const Step& step, std::vector<Action>& actions) {
        for (auto& a : actions) {
            if (!a.control.empty()) {
                const Control* c = find(n_.controls, a.control);
                if (!c) {
                    std::vector<std::string> ids;
                    for (const auto& known : n_.controls)
                        ids.push_back(known.id);
                    const auto guess = document::nearest(a.control, ids);
                    say(place, step, a, fmt::format("there is no control \"{}\"", a.control),
                        guess.empty() ? fmt::format("Use one of: {}", fmt::join(ids, ", "))
                                      : fmt::format("Did you mean \"{}\"?", guess));
                    continue;
                }
                target(place, step, a, *c);
            }
            if (a.lasts)
                figure(place, step, a, *a.lasts);
            if (a.until)
                figure(place, step, a, a.until->level);
            for (const auto& id : a.engines)
                if (!(place.emergency && (id == failedEngines || id == liveEngines)) &&
                    std::none_of(n_.positions.begin(), n_.positions.end(),
                                 [&](const Position& p) { return p.id == id; }))
                    say(place, step, a, fmt::format("there is no engine \"{}\"", id), "Use the id of a [[position]]");
        }
    }

private:
    void say(const Place& place, const Step& step, const Action& a, std::string what, std::string remedy) {
        problems_.push_back({n_.file, a.line > 0 ? a.line : step.line,
                             fmt::format("{}/{}: {}", place.name, step.id, what), std::move(remedy)});
    }
    void figure(const Place& place, const Step& step, const Action& a, const Target& t) {
        if (t.kind == Target::Kind::figure && !place.has(t.word))
            say(place, step, a, fmt::format("there is no figure {{{}}} in this phase", t.word),
                "docs/formats/type-notes.md lists the figures of each phase");
    }
    void target(const Place& place, const Step& step, Action& a, const Control& c) {
        if (a.to.kind == Target::Kind::figure)
            return figure(place, step, a, a.to);
        if (a.to.kind == Target::Kind::quantity) {
            const bool fits =
                c.acts == Acts::throttle || c.acts == Acts::turbo
                    ? a.to.dimension == Dimension::rotation || a.to.dimension == Dimension::manifoldPressure
                : c.acts == Acts::propeller ? a.to.dimension == Dimension::rotation
                                            : false;
            if (!fits)
                say(place, step, a, fmt::format("{} cannot be set to that", c.id),
                    "A throttle goes to a boost or rpm, a propeller lever to rpm; others to a position");
            return;
        }
        const auto* p = c.position(a.to.word);
        if (p) {
            a.to.word = p->is;
            return;
        }
        std::vector<std::string> words;
        for (const auto& known : c.positions)
            words.push_back(known.is == known.name ? known.is : fmt::format("{} ({})", known.is, known.name));
        say(place, step, a, fmt::format("{} has no position \"{}\"", c.id, a.to.word),
            fmt::format("Use one of: {}", fmt::join(words, ", ")));
    }
    const TypeNotes& n_;
    Problems& problems_;
};

/// What is set between two engines, for the start told in order: of the drill's own steps those without a figure.
void sequence(TypeNotes& n) {
    if (!n.start.actions.empty())
        return;
    using When = StartAction::When;
    bool primed = false, turned = false, each = false;
    for (const auto& s : n.phase(Phase::start).steps) {
        const bool told = s.id == "prime" || s.id == "ignition" || s.id == "starter" || s.id == "energise" ||
                          s.id == "mesh" || s.id == "first-rpm" || s.id == "fires" || s.id == "keep-alive" ||
                          s.id == "air";
        primed = primed || s.id == "prime";
        turned = turned || s.id == "starter" || s.id == "mesh";
        each = each || s.each;
        if (told || s.set.find('{') != std::string::npos || (!s.each && !each))
            continue;
        const When when = !s.each  ? When::allRunning
                          : turned ? When::running
                          : primed ? When::beforeCrank
                                   : When::beforePrime;
        n.start.actions.push_back({when, s.what, s.set, s.line});
    }
}

std::string levelText(const Target& t, const UnitSpec& unit) {
    return t.kind == Target::Kind::figure ? "{" + t.word + "}" : format(t.si, unit);
}
} // namespace

std::map<Phase, std::vector<Step>> standardDrill(const TypeNotes& notes, const std::vector<Control>& controls) {
    const Equipment e = equipmentOf(notes);
    // A school that the notes take may put a step elsewhere.
    TypeNotes taken = notes;
    for (const auto& s : notes.phase(Phase::start).steps)
        if (s.id == "prime" && !s.takes.empty())
            taken.start.primeWhileTurning = s.takes == "while turning";
    Draft d(taken, e, controls);
    draftWalkRound(d);
    draftStart(d);
    draftWarmUp(d);
    draftRunUp(d);
    draftTakeOff(d);
    draftClimb(d);
    draftCruise(d);
    draftLetDown(d);
    draftLanding(d);
    draftStop(d);
    return d.done();
}

const std::vector<Action>& actionsInForce(const Step& step, const School* school) {
    return school && school->actions ? *school->actions : step.actions;
}

std::string wordsOf(const Action& a, const Step& step, const std::vector<Control>& controls, const TypeNotes& n) {
    std::string out;
    if (const Control* c = find(controls, a.control)) {
        if (c->name != step.what)
            out = inSentence(c->name) + " ";
        switch (a.to.kind) {
        case Target::Kind::position: {
            const auto* p = c->position(a.to.word);
            out += p ? p->name : a.to.word;
            // Which way that is, where a hand trained elsewhere would go wrong.
            if (p && c->reversed && c->positions.size() > 1 &&
                (p == &c->positions.front() || p == &c->positions.back()))
                out += fmt::format(" ({})", p == &c->positions.front() ? c->less : c->more);
            break;
        }
        case Target::Kind::figure:
            out += "{" + a.to.word + "}";
            break;
        case Target::Kind::quantity:
            out += format(a.to.si, a.to.dimension == Dimension::rotation ? *units::rpm.spec : *n.cockpit.boost);
            break;
        case Target::Kind::none:
            break;
        }
        if (a.over >= 4.0)
            out += fmt::format(" over {:.0f} s", a.over);
    }
    if (a.lasts && a.lasts->kind == Target::Kind::figure)
        out += fmt::format("{}wait {{{}}}", out.empty() ? "" : ", ", a.lasts->word);
    else if (a.lasts)
        out += fmt::format("{}{} {}", out.empty() ? "" : " ", out.empty() ? "wait" : "for",
                           format(a.lasts->si, *units::second.spec));
    if (a.until && a.until->gauge != Gauge::rpm && a.until->gauge != Gauge::height) {
        const auto& row = nameOf(a.until->gauge);
        std::string gauge = inSentence(std::string(row.title));
        if (const auto dot = gauge.find(" temp."); dot != std::string::npos)
            gauge = gauge.substr(0, dot);
        out += fmt::format("{}{} {}{}", out.empty() ? "" : ", ", gauge, a.until->above ? "over " : "below ",
                           levelText(a.until->level, n.unitOf(a.until->gauge)));
    }
    return out;
}

std::string wordsOf(const Step& step, const std::vector<Action>& actions, const std::vector<Control>& controls,
                    const TypeNotes& notes) {
    std::string out;
    for (const auto& a : actions) {
        const auto words = wordsOf(a, step, controls, notes);
        if (!words.empty())
            out += (out.empty() ? "" : "; ") + words;
    }
    return out;
}

namespace {
/// The words of a step from its acts, where the notes leave them out; its names made sure of.
void tell(Step& step, const Place& place, TypeNotes& n, Names& names) {
    names.check(place, step, step.actions);
    for (auto& school : step.schools)
        if (school.actions)
            names.check(place, step, *school.actions);
    for (auto& school : step.schools)
        if (school.set.empty() && school.actions && !school.byNotes)
            school.set = wordsOf(step, *school.actions, n.controls, n);
    if (!step.set.empty())
        return;
    step.set = wordsOf(step, step.actions, n.controls, n);
    for (auto& school : step.schools)
        if (school.byNotes && school.set.empty())
            school.set = step.set;
}

/// The drills of emergencies: standard ones with the notes laid upon them; written whole they stay as they are.
void expandEmergencies(TypeNotes& n, Names& names, Problems& problems) {
    const Equipment e = equipmentOf(n);
    const bool done = n.format == 1 && !n.trouble.drills.empty();
    for (const auto& name : emergencyNames) {
        auto& drill = n.trouble.drills[name.emergency];
        const Place place{fmt::format("trouble.{}", name.key), name.like, true};
        if (!done && !(n.wholeDrill && !drill.steps.empty())) {
            Draft d(n, e, n.controls);
            draftEmergency(d, name.emergency);
            drill.steps = Merge(n, place.name, std::move(d.done()[Phase::climb]), problems).run(drill);
        }
        drill.without.clear();
        for (auto& step : drill.steps)
            tell(step, place, n, names);
    }
}
} // namespace

void expand(TypeNotes& n, Problems& problems) {
    n.controls = controls(n, problems);
    n.start.openJets = std::none_of(n.controls.begin(), n.controls.end(),
                                    [](const Control& c) { return c.acts == Acts::mixture && c.position("cut-off"); });
    Names names(n, problems);
    expandEmergencies(n, names, problems);
    if (n.format == 1)
        return;
    // Words that look a lever up by its id find the control.
    n.levers.clear();
    auto standard = n.wholeDrill ? std::map<Phase, std::vector<Step>>{} : standardDrill(n, n.controls);
    for (const auto& [phase, ignored] : standard)
        n.phases.try_emplace(phase);
    for (auto& [phase, notes] : n.phases) {
        if (!n.wholeDrill)
            notes.steps = Merge(n, std::string(keyOf(phase)), std::move(standard[phase]), problems).run(notes);
        notes.without.clear();
        for (auto& step : notes.steps)
            tell(step, {std::string(keyOf(phase)), phase}, n, names);
    }
    sequence(n);
    n.wholeDrill = true;
    for (const auto& c : n.controls) {
        Lever lever;
        lever.id = c.id;
        lever.name = c.name;
        lever.sense = c.sense;
        lever.reversed = c.reversed;
        for (const auto& p : c.positions)
            lever.positions.push_back(p.name);
        n.levers.push_back(std::move(lever));
    }
}

} // namespace amber::cockpit
