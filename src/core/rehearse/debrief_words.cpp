// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/debrief.h"
#include "symptoms/patterns.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber::rehearse {
namespace {
using Done = DrillAct::Done;

Milliseconds momentOf(double seconds) {
    return static_cast<Milliseconds>(std::llround(seconds * 1000.0));
}
bool isWell(const DrillAct& a) {
    return a.done == Done::inTurn || a.done == Done::stood;
}

class Writer {
public:
    Writer(const Debrief& debrief, const TypeNotes& notes)
        : d_(debrief), n_(notes), patterns_(trouble::patternsFor(notes)) {}

    std::vector<DebriefLine> lines() {
        people();
        aircraft();
        engines();
        next();
        return std::move(out_);
    }

private:
    void add(About about, std::optional<Milliseconds> at, std::string text,
             watch::Colour colour = watch::Colour::normal) {
        out_.push_back({about, at, std::move(text), colour});
    }
    [[nodiscard]] std::string whose(std::size_t e) const {
        return n_.engineCount() < 2 ? std::string{} : n_.positions[e].name + " ";
    }
    /// "Port: "
    [[nodiscard]] std::string whoseLine(std::size_t e) const {
        return n_.engineCount() < 2 ? std::string{} : n_.positions[e].name + ": ";
    }
    [[nodiscard]] const trouble::Pattern* patternOf(powerplant::Fault fault) const {
        const auto found = std::find_if(patterns_.begin(), patterns_.end(),
                                        [&](const trouble::Pattern& p) { return p.fault == fault; });
        return found == patterns_.end() ? nullptr : &*found;
    }

    void people() {
        add(About::people, std::nullopt,
            fmt::format("{} of {} acts of the drill were done in their turn{}.", d_.inTurn, d_.asked,
                        d_.stood ? fmt::format("; {} were not touched and stood so already", d_.stood) : ""));
        for (const auto& f : d_.faults) {
            std::string line = whose(f.came.engine) + std::string(nameOf(f.came.fault).title);
            line += f.called ? fmt::format(", called after {:.0f} s", *f.called) : ", never called";
            for (const auto w : f.wrongly)
                line += fmt::format("; {} was called first", nameOf(w).title);
            line += f.first.empty() ? "; nothing was done."
                                    : fmt::format("; first act after {:.0f} s: {}.", f.firstAfter, f.first);
            add(About::people, f.came.at, std::move(line),
                f.called && f.wrongly.empty() ? watch::Colour::normal : watch::Colour::amber);
        }
        if (!d_.questions.empty())
            add(About::people, std::nullopt,
                fmt::format(
                    "{} of {} questions were answered rightly.",
                    std::count_if(d_.questions.begin(), d_.questions.end(), [](const auto& a) { return a.right; }),
                    d_.questions.size()));
        for (const auto& a : d_.questions)
            if (!a.right)
                add(About::people, a.at, fmt::format("{} “{}”: it is {}.", a.question, a.answer, a.rightly),
                    watch::Colour::amber);
        items();
        for (std::size_t i = 0; i < d_.acts.size(); ++i) {
            const auto& a = d_.acts[i];
            if (isWell(a))
                continue;
            // Of all engines alike: one line.
            const std::size_t all = n_.engineCount();
            const auto first = d_.acts.begin() + static_cast<std::ptrdiff_t>(i);
            const bool together = all > 1 && i + all <= d_.acts.size() &&
                                  std::all_of(first, first + static_cast<std::ptrdiff_t>(all), [&](const DrillAct& b) {
                                      return b.phase == a.phase && b.control == a.control && b.to == a.to &&
                                             b.done == a.done && b.engine == static_cast<std::size_t>(&b - &a);
                                  });
            if (together)
                i += all - 1;
            add(About::people, std::isnan(a.at) ? std::nullopt : std::optional(momentOf(a.at)),
                fmt::format("{}: {}{} to {} {}", titleOf(a.phase), together ? "" : whose(a.engine),
                            n_.controls[a.control].name, a.to,
                            a.done == Done::leftOut ? "was left out."
                            : a.done == Done::early ? "came before its turn."
                            : a.done == Done::late  ? "came after its turn."
                                                    : "was done in another phase."),
                watch::Colour::amber);
        }
    }

    void items() {
        const auto first = itemsAtOnce(d_.items);
        if (first.asked > 0)
            add(About::people, std::nullopt,
                fmt::format("{} of {} items challenged stood rightly when they were first answered.", first.well,
                            first.asked));
        for (const auto& a : d_.items)
            if (!a.right)
                add(About::people, a.at,
                    fmt::format("{}: {} was answered “{}”; it should stand at {}.", titleOf(a.phase), a.item, a.stood,
                                a.wanted),
                    watch::Colour::amber);
    }

    void aircraft() {
        add(About::aircraft, std::nullopt,
            fmt::format("{} rehearsed, fuel {} (model); planned to the end of {}: {}, {}.",
                        formatMinutesSeconds(d_.seconds), format(d_.fuel, *n_.cockpit.fuel), titleOf(d_.last),
                        formatMinutesSeconds(d_.plannedSeconds), format(d_.plannedFuel, *n_.cockpit.fuel)));
    }

    void engines() {
        bool any = false;
        for (const auto& f : d_.findings) {
            if (f.rule == watch::Rule::normalRange && f.end - f.begin < passing)
                continue;
            any = true;
            std::string engine;
            for (std::size_t e = 0; e < n_.positions.size(); ++e)
                if (n_.positions[e].id == f.engine)
                    engine = whoseLine(e);
            const bool red = f.verdict.colour() == watch::Colour::red;
            std::string sentence = f.verdict.sentence();
            if (sentence.ends_with('.'))
                sentence.pop_back();
            add(About::engine, momentOf(f.begin),
                fmt::format("{}{} ({}, until {}).{}", engine, sentence, wordOf(f.verdict.colour()),
                            formatMinutesSeconds(f.end), red ? " To be written up for the engineer." : ""),
                f.verdict.colour());
        }
        if (!any)
            add(About::engine, std::nullopt,
                "No needle left its normal range for longer than it takes to pass through.");
        for (const auto& c : d_.costs)
            add(About::engine, c.from, fmt::format("{}{} (model, an estimate).", whoseLine(c.engine), wordsOf(c)),
                watch::Colour::amber);
    }

    void next() {
        const std::size_t before = out_.size();
        for (const auto& f : d_.faults)
            if (!f.called || !f.wrongly.empty()) {
                const auto* pattern = patternOf(f.came.fault);
                std::string line = fmt::format("{}: ", nameOf(f.came.fault).title);
                line += pattern && !pattern->toldBy.empty() ? fmt::format("told by {}", pattern->toldBy)
                                                            : "look at every needle of that engine";
                if (line.back() == '.')
                    line.pop_back();
                line += pattern && !pattern->act.empty() ? fmt::format("; first act: {}", pattern->act) : "";
                if (line.back() != '.')
                    line += '.';
                add(About::next, f.came.at, std::move(line));
            }
        // The phase in which most went wrong.
        std::map<Phase, std::size_t> wrong;
        for (const auto& a : d_.acts)
            if (!isWell(a))
                ++wrong[a.phase];
        const auto worst = std::max_element(wrong.begin(), wrong.end(),
                                            [](const auto& a, const auto& b) { return a.second < b.second; });
        if (worst != wrong.end())
            add(About::next, std::nullopt,
                fmt::format("{}, led: {} of its acts were left out or out of their turn.", titleOf(worst->first),
                            worst->second));
        for (const auto& f : d_.findings)
            if (f.verdict.colour() == watch::Colour::red) {
                add(About::next, momentOf(f.begin),
                    fmt::format("{} from there again, with an eye on it: {}.", titleOf(f.phase), rowOf(f.rule).what));
                break;
            }
        if (out_.size() == before)
            add(About::next, std::nullopt, "Nothing to mend. The same with a fault, or examined.");
    }

    const Debrief& d_;
    const TypeNotes& n_;
    std::vector<trouble::Pattern> patterns_;
    std::vector<DebriefLine> out_;
};
} // namespace

const char* titleOf(About about) {
    switch (about) {
    case About::people:
        return "People";
    case About::aircraft:
        return "Aircraft";
    case About::engine:
        return "Engines";
    default:
        return "Practise next";
    }
}

std::vector<DebriefLine> Debrief::lines(const TypeNotes& n) const {
    return Writer(*this, n).lines();
}

std::vector<std::string> Debrief::sentences(const TypeNotes& n) const {
    std::vector<std::string> out;
    for (const auto& line : lines(n)) {
        const std::string when =
            line.at ? formatMinutesSeconds(static_cast<double>(*line.at) / 1000.0) + ": " : std::string{};
        out.push_back(when + (line.about == About::next ? "Practise next: " : "") + line.text);
    }
    return out;
}

} // namespace amber::rehearse
