// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/write_up.h"
#include "flight/open_files.h"
#include "plan/dial.h"
#include "record/judged.h"
#include "record/log_text.h"
#include "record/what.h"
#include "symptoms/ground_checks.h"
#include "symptoms/symptoms.h"
#include "watch/rules.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::record {
namespace {
constexpr std::int64_t together = 600'000; // ms: needles that tell of the same thing
constexpr std::int64_t slip = 120'000;     // ms: corrected so soon, it was a slip of the finger
constexpr double moved = 0.08;             // of the dial, off the plan: a needle that tells something
constexpr double stood = 0.025;            // and one that stands
constexpr std::size_t mostCauses = 3, mostLooks = 6;

/// What needles of an engine did about when one of them was read: out of their bands, else off the plan of the day.
std::vector<Sign> signsOf(const TypeNotes& notes, const std::vector<Standing>& all, const Entry& of) {
    std::vector<Sign> out;
    for (const auto& s : all)
        for (const Entry* e : s.last) {
            const WhatRow* row = e->kind == Entry::Kind::figure && e->phase == of.phase && e->engine == of.engine &&
                                         std::abs(e->at - of.at) <= together
                                     ? whatOf(e->what)
                                     : nullptr;
            if (!row || !row->gauge || !notes.gauges.contains(*row->gauge))
                continue;
            const auto& gauge = notes.gauges.at(*row->gauge);
            const Band& band = gauge.in(of.phase);
            const auto [least, most] = plan::dialOf(gauge, e->value);
            const double off = e->planned ? (e->value - *e->planned) / (most - least) : 0.0;
            if ((band.normalHigh && e->value > *band.normalHigh) || off > moved)
                out.push_back({*row->gauge, Way::rises});
            else if ((band.normalLow && e->value < *band.normalLow) || off < -moved)
                out.push_back({*row->gauge, Way::falls});
            else if (e->planned && std::abs(off) < stood)
                out.push_back({*row->gauge, Way::still});
        }
    return out;
}

/// What to look at for readings of needles: the causes that fit them, the likeliest first.
std::string lookAt(const TypeNotes& notes, const std::vector<Sign>& signs, Phase phase) {
    trouble::Context context;
    context.phase = phase;
    if (std::all_of(signs.begin(), signs.end(), [](const Sign& s) { return s.way == Way::still; }))
        return {};
    std::string out;
    std::size_t told = 0;
    for (const auto& cause : trouble::diagnose(notes, signs, context).causes) {
        if (!cause.plausible || !cause.pattern.fault || told == mostCauses)
            continue;
        out += fmt::format("{}{}: {}", out.empty() ? "" : ". ", cause.pattern.name,
                           trouble::groundCheck(*cause.pattern.fault));
        ++told;
    }
    return out.empty() ? out : out + ".";
}

std::vector<Answer> answersTo(const std::vector<Standing>& all, const std::string& about) {
    // The three parts of one answer were written together; a part that was corrected stands in its place.
    std::map<std::pair<std::int64_t, std::string>, Answer> by;
    for (const auto& s : all)
        for (const Entry* e : s.last) {
            if (e->about != about)
                continue;
            const Entry& first = s.was.empty() ? *e : *s.was.front();
            auto& answer = by[{first.entered, first.who}];
            answer.at = std::max(answer.at, e->entered);
            (e->what == "found" ? answer.found : e->what == "done" ? answer.done : answer.by) = e->words;
        }
    std::vector<Answer> out;
    for (auto& [key, answer] : by)
        out.push_back(std::move(answer));
    return out;
}
} // namespace

bool WriteUpLine::answered() const {
    return std::any_of(answers.begin(), answers.end(), [](const Answer& a) { return a.whole(); });
}

std::size_t WriteUp::open() const {
    return static_cast<std::size_t>(
        std::count_if(lines.begin(), lines.end(), [](const WriteUpLine& l) { return !l.answered(); }));
}
bool WriteUp::holds() const {
    return std::any_of(lines.begin(), lines.end(), [](const WriteUpLine& l) { return l.holds(); });
}

watch::Verdict WriteUp::worst() const {
    const auto open = std::find_if(lines.begin(), lines.end(), [](const WriteUpLine& l) { return !l.answered(); });
    return open == lines.end() ? watch::Verdict{} : open->verdict;
}

WriteUp writeUp(const std::string& run, const std::vector<Standing>& all, const TypeNotes& notes, const Sortie& sortie,
                bool looks) {
    WriteUp out{run, {}};
    const Judged judged(notes, sortie, all);
    const auto add = [&](const Entry& e, watch::Verdict verdict, std::string look) {
        out.lines.push_back({e.id, e.at, e.rough, e.phase, e.engine, e.what, std::move(verdict), std::move(look),
                             answersTo(all, e.id)});
    };
    for (const auto& s : all) {
        bool red = false;
        for (const Entry* e : s.last) {
            if (e->kind == Entry::Kind::words && e->what == "defect") {
                add(*e, watch::broken(watch::Rule::defect, e->words), {});
                continue;
            }
            const auto* said = judged.of(e->id);
            if (!said || said->verdict.colour() == watch::Colour::normal)
                continue;
            red = red || said->verdict.colour() == watch::Colour::red;
            const WhatRow* row = whatOf(e->what);
            std::string look = !looks              ? std::string()
                               : row && row->gauge ? lookAt(notes, signsOf(notes, all, *e), e->phase)
                                                   : said->cause + (said->next.empty() ? "" : " " + said->next);
            add(*e, said->verdict, std::move(look));
        }
        // A reading past a limit that was corrected to one inside is told: it may have been so.
        for (std::size_t i = 0; i < s.was.size() && !red; ++i) {
            const Entry& was = *s.was[i];
            const Entry* next = i + 1 < s.was.size() ? s.was[i + 1] : s.last.empty() ? nullptr : s.last.front();
            const auto verdict = judgedAlone(notes, was);
            if (!verdict || verdict->colour() != watch::Colour::red || (next && next->entered - was.entered < slip))
                continue;
            add(next ? *next : was,
                watch::broken(
                    watch::Rule::correctedAway,
                    fmt::format("{} It was {} afterwards.", verdict->sentence(),
                                next && next->kind == Entry::Kind::figure
                                    ? "corrected to " + figureText(next->what, next->value, unitIn(next->what, &notes))
                                    : std::string("taken back"))),
                {});
            break;
        }
    }
    std::stable_sort(out.lines.begin(), out.lines.end(), [](const WriteUpLine& a, const WriteUpLine& b) {
        return a.verdict.colour() != b.verdict.colour() ? a.verdict.colour() > b.verdict.colour() : a.at < b.at;
    });
    return out;
}

Result<std::vector<Entry>> answerEntries(const WriteUpLine& line, const std::string& run, const Answer& answer,
                                         const Ids& ids, std::int64_t now) {
    std::vector<Entry> out;
    for (const auto& [what, words] :
         {std::pair("found", answer.found), std::pair("done", answer.done), std::pair("signed", answer.by)}) {
        if (words.empty())
            return Failure{fmt::format("An answer says what was found, what was done and who answers for it: \"{}\" is "
                                       "missing",
                                       what)};
        Entry e;
        e.id = ids(now);
        e.run = run;
        e.at = e.entered = now;
        e.who = answer.by;
        e.phase = Phase::writeUp;
        e.engine = line.engine;
        e.what = what;
        e.kind = Entry::Kind::words;
        e.words = words;
        e.about = line.about;
        out.push_back(std::move(e));
    }
    return out;
}

FlownOf flownOf() {
    // The same aircraft in many runs is read once.
    auto shelf = std::make_shared<flight::Shelf>();
    auto last = std::make_shared<std::shared_ptr<const powerplant::Aircraft>>();
    return [shelf, last](const Run& run) -> std::optional<RunFlown> {
        if (run.sortie.empty())
            return std::nullopt;
        auto loaded = flight::loadSortieText(run.sortie, "run.toml", shelf.get());
        if (!loaded.ok())
            return std::nullopt;
        *last = loaded.aircraft;
        return RunFlown{loaded.aircraft, std::move(*loaded.sortie)};
    };
}

std::vector<Holding> holding(const Log& log, const std::string& airframe, const TypeNotes& notes, const Sortie& sortie,
                             const FlownOf& flown) {
    std::vector<Holding> out;
    const auto standings = standing(log);
    for (const auto& [id, all] : standings) {
        const auto run = log.runs.find(id);
        if (run == log.runs.end() || run->second.airframe != airframe)
            continue;
        const Judged now(notes, sortie, all);
        const bool close = std::any_of(all.begin(), all.end(), [&](const Standing& s) {
            return std::any_of(s.last.begin(), s.last.end(), [&](const Entry* e) {
                const auto* said = now.of(e->id);
                return (said && said->verdict.colour() == watch::Colour::red) ||
                       (e->kind == Entry::Kind::figure && e->what.starts_with(ofWalk));
            });
        });
        if (!close)
            continue;
        const auto then = flown(run->second);
        for (auto& line :
             writeUp(id, all, then ? then->aircraft->notes : notes, then ? then->sortie : sortie, false).lines)
            if (line.holds())
                out.push_back({run->second, std::move(line)});
    }
    std::stable_sort(out.begin(), out.end(), [](const Holding& a, const Holding& b) { return a.line.at > b.line.at; });
    // The latest are told with what to look at.
    for (std::size_t i = 0; i < std::min(out.size(), mostLooks); ++i) {
        if (!out[i].line.look.empty())
            continue;
        const auto& id = out[i].run.id;
        const auto then = flown(out[i].run);
        const auto whole =
            writeUp(id, standings.at(id), then ? then->aircraft->notes : notes, then ? then->sortie : sortie);
        for (auto& held : out)
            for (const auto& line : whole.lines)
                if (held.run.id == id && held.line.about == line.about)
                    held.line.look = line.look;
    }
    return out;
}

std::string engineName(const TypeNotes& notes, const std::string& id) {
    for (const auto& p : notes.positions)
        if (p.id == id && notes.positions.size() > 1)
            return p.name;
    return {};
}

watch::Verdict heldBy(const std::string& airframe, const std::vector<Holding>& all, const TypeNotes& notes) {
    if (all.empty())
        return watch::unless(true, watch::Rule::held, fmt::format("Nothing in the log holds {}.", airframe));
    const auto& line = all.front().line;
    const std::string engine = engineName(notes, line.engine);
    std::string found = line.verdict.sentence();
    if (found.ends_with('.'))
        found.pop_back();
    return watch::broken(watch::Rule::held,
                         fmt::format("{} is held: {}{}{} ({}){} No engineer has answered yet.", airframe, engine,
                                     engine.empty() ? "" : ": ", found, timeText(line.at).substr(0, 10),
                                     all.size() > 1 ? fmt::format(", and {} more.", all.size() - 1) : "."));
}

} // namespace amber::record
