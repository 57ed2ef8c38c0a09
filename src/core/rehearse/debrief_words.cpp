// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/debrief.h"
#include "symptoms/symptoms.h"
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

class Writer {
public:
    Writer(const Debrief& debrief, const TypeNotes& notes)
        : d_(debrief), n_(notes), patterns_(trouble::patternsFor(notes)) {}

    std::vector<DebriefLine> lines() {
        outcome();
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

    /// What it came to, and why, before who did what.
    void outcome() {
        const bool told = std::any_of(d_.unmet.begin(), d_.unmet.end(), [](const Unmet& u) {
            return u.result.aim == watch::Aim::clearOfGround; // with its chain
        });
        if (d_.over && !told)
            add(About::outcome, d_.over->at,
                d_.over->by == OverBy::hitGround
                    ? fmt::format("The aircraft hit the ground in the {}.", titleOf(d_.over->phase))
                : d_.over->by == OverBy::offTheEnd
                    ? std::string("The aircraft ran off the end of the runway.")
                    : fmt::format("{}was pulled through by hand with its ignition on: "
                                  "it may fire, and whoever is at the blades is struck.",
                                  n_.engineCount() < 2 ? std::string("The engine ") : whose(d_.over->engine)),
                watch::broken(watch::Rule::hitGround, {}).colour());
        for (const auto& u : d_.unmet)
            add(About::outcome, momentOf(u.result.at), u.sentence(), u.result.verdict.colour());
        if (d_.unmet.empty() && !d_.over)
            add(About::outcome, std::nullopt,
                d_.aimsMet > 0 ? fmt::format("Every aim of the phases come to was met: {}.", aims())
                               : "Nothing was come to yet.");
        if (!d_.mended.empty())
            for (std::size_t i = 0; i < std::min<std::size_t>(3, d_.mended.size()); ++i)
                add(About::outcome, d_.mended[i].at,
                    fmt::format("{}: {} (flown again on the model).", d_.mended[i].act, d_.mended[i].comes));
    }
    [[nodiscard]] std::string aims() const {
        switch (d_.last) {
        case Phase::walkRound:
        case Phase::start:
            return "every engine runs, with oil pressure in its seconds";
        case Phase::warmUp:
        case Phase::runUp:
            return "every engine runs, warm enough for what was asked of it";
        case Phase::takeOff:
        case Phase::climb:
            return "it is off the ground, every engine running";
        case Phase::cruise:
            return "height and speed are held, every engine running";
        case Phase::letDown:
            return "it came down without cooling too fast";
        default:
            return "it is on the field, every engine ran until it was stopped";
        }
    }

    void people() {
        add(About::people, std::nullopt,
            fmt::format("{} of {} acts of the drill were done in their turn{}.", d_.inTurn, d_.asked,
                        d_.stood ? fmt::format("; {} {} not touched and stood so already", d_.stood,
                                               d_.stood == 1 ? "was" : "were")
                                 : ""));
        for (const auto& f : d_.faults) {
            std::string line = whose(f.came.engine) + std::string(nameOf(f.came.fault).title);
            line += f.called ? fmt::format(", recognised after {:.0f} s", *f.called) : ", not recognised";
            for (const auto w : f.wrongly)
                line += fmt::format("; {} was named first", nameOf(w).title);
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
            if (isWell(a) && a.harmful)
                add(About::people, momentOf(a.at),
                    fmt::format("{}: {}{} to {} came {} too {}.", titleOf(a.phase), whose(a.engine),
                                n_.controls[a.control].name, a.to, formatMinutesSeconds(std::max(a.lateBy, a.earlyBy)),
                                a.lateBy > 0 ? "late" : "soon"),
                    watch::broken(watch::Rule::actAmount, {}).colour());
            if (isWell(a) || a.noEffect)
                continue;
            // Of all engines alike: one line.
            const std::size_t all = n_.engineCount();
            const auto first = d_.acts.begin() + static_cast<std::ptrdiff_t>(i);
            const bool together = all > 1 && i + all <= d_.acts.size() &&
                                  std::all_of(first, first + static_cast<std::ptrdiff_t>(all), [&](const DrillAct& b) {
                                      return b.phase == a.phase && b.control == a.control && b.to == a.to &&
                                             b.done == a.done && b.by == a.by &&
                                             b.engine == static_cast<std::size_t>(&b - &a);
                                  });
            if (together)
                i += all - 1;
            add(About::people, std::isnan(a.at) ? std::nullopt : std::optional(momentOf(a.at)),
                a.done == Done::wrong ? fmt::format("{}: {}{}: {}.", titleOf(a.phase), together ? "" : whose(a.engine),
                                                    n_.controls[a.control].name, a.by)
                                      : fmt::format("{}: {}{} to {} {}", titleOf(a.phase),
                                                    together ? "" : whose(a.engine), n_.controls[a.control].name, a.to,
                                                    a.done == Done::leftOut ? "was left out."
                                                    : a.done == Done::early ? "came before its turn."
                                                    : a.done == Done::late  ? "came after its turn."
                                                                            : "was done in another phase."),
                watch::broken(watch::Rule::actAmount, {}).colour());
        }
        for (const auto& e : d_.extras)
            if (e.harmful)
                add(About::people, momentOf(e.at),
                    fmt::format("{}: {}: neither the drill nor the day asked for it.", titleOf(e.phase), e.words),
                    watch::broken(watch::Rule::actAmount, {}).colour());
        const auto same =
            std::count_if(d_.acts.begin(), d_.acts.end(), [](const DrillAct& a) { return !isWell(a) && a.noEffect; });
        if (same > 0)
            add(About::people, std::nullopt,
                fmt::format("{} {} done otherwise, and nothing that is read came out otherwise today.", same,
                            same == 1 ? "act was" : "acts were"));
    }

    void items() {
        const auto first = itemsAtOnce(d_.items);
        if (first.asked > 0)
            add(About::people, std::nullopt,
                fmt::format("{} of {} items read stood right when first answered.", first.well, first.asked));
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
        stories();
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

    /// What the engines went through that no needle tells.
    void stories() {
        const auto moment = [](double at) { return std::isnan(at) ? std::nullopt : std::optional(momentOf(at)); };
        for (std::size_t e = 0; e < d_.stories.size(); ++e) {
            const EngineStory& s = d_.stories[e];
            const auto tell = [&](double at, std::string text, watch::Rule rule) {
                add(About::engine, moment(at), whoseLine(e) + std::move(text), watch::broken(rule, {}).colour());
            };
            if (s.ice > 0.1)
                tell(s.iceFrom,
                     fmt::format("Ice took up to {:.0f} % of its air; {}.", 100.0 * s.ice,
                                 s.heated ? "heat was used" : "heat was never used"),
                     watch::Rule::carburettorIce);
            if (s.kicks > 0)
                tell(s.kickedBackAt, "It kicked back. Starter and hands suffer: to be written up.",
                     watch::Rule::actAmount);
            if (!std::isnan(s.lockedAt))
                tell(s.lockedAt, "It was turned against a lock: rods may be bent. Plugs out, and the engineer.",
                     watch::Rule::limit);
            if (!std::isnan(s.fireAt))
                tell(s.fireAt,
                     fmt::format("Fire in its intake or stacks, for {:.0f} s. Kept turning with the fuel shut it is "
                                 "drawn in; out it is not started again before it has been looked at.",
                                 s.burned),
                     watch::Rule::limit);
            else if (s.pooled > 0.01)
                tell(s.pooledAt, "Fuel ran down its cowl: it may burn at the next try.", watch::Rule::overPrimed);
            if (s.knocked > 20.0)
                tell(s.knockedAt, fmt::format("It detonated for {:.0f} s.", s.knocked), watch::Rule::knockRoom);
            if (s.backfires > 0)
                tell(s.backfiredAt,
                     fmt::format("It backfired {}.", s.backfires == 1 ? "once" : fmt::format("{} times", s.backfires)),
                     watch::Rule::actAmount);
        }
    }

    void next() {
        const std::size_t before = out_.size();
        if (!d_.mended.empty())
            add(About::next, d_.mended.front().at,
                fmt::format("{}: it would have changed the outcome most ({}).", d_.mended.front().act,
                            d_.mended.front().comes));
        else if (!d_.unmet.empty())
            add(About::next, momentOf(d_.unmet.front().begun.value_or(d_.unmet.front().result.at)),
                fmt::format("{} from there again: {}.", titleOf(d_.unmet.front().phase),
                            d_.unmet.front().because.empty()
                                ? std::string(watch::rowOf(d_.unmet.front().result.aim).what)
                                : d_.unmet.front().because.back()));
        for (const auto& f : d_.faults)
            if (!f.called || !f.wrongly.empty()) {
                const auto* pattern = patternOf(f.came.fault);
                std::string line = fmt::format("{}: ", nameOf(f.came.fault).title);
                line += pattern && !pattern->toldBy.empty() ? fmt::format("told by {}", pattern->toldBy)
                                                            : "look at every needle of that engine";
                if (line.back() == '.')
                    line.pop_back();
                if (pattern) {
                    trouble::Context at;
                    at.phase = f.came.phase;
                    line += fmt::format("; first act: {}", trouble::firstActOf(*pattern, n_, at));
                }
                if (line.back() != '.')
                    line += '.';
                add(About::next, f.came.at, std::move(line));
            }
        // The phase in which most went wrong.
        std::map<Phase, std::size_t> wrong;
        for (const auto& a : d_.acts)
            if (!isWell(a) && !a.noEffect)
                ++wrong[a.phase];
        const auto worst = std::max_element(wrong.begin(), wrong.end(),
                                            [](const auto& a, const auto& b) { return a.second < b.second; });
        if (worst != wrong.end())
            add(About::next, std::nullopt,
                fmt::format("{}, guided: {} of its acts were left out or out of order.", titleOf(worst->first),
                            worst->second));
        for (const auto& f : d_.findings)
            if (f.verdict.colour() == watch::Colour::red) {
                add(About::next, momentOf(f.begin),
                    fmt::format("{} from there again, with an eye on it: {}.", titleOf(f.phase), rowOf(f.rule).what));
                break;
            }
        if (out_.size() == before)
            add(About::next, std::nullopt,
                d_.nothingToMend() ? "Nothing to mend. Next: the same with a fault, or as a check."
                                   : "The same once more.");
    }

    const Debrief& d_;
    const TypeNotes& n_;
    std::vector<trouble::Pattern> patterns_;
    std::vector<DebriefLine> out_;
};
} // namespace

const char* titleOf(About about) {
    switch (about) {
    case About::outcome:
        return "What it came to";
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

bool Debrief::nothingToMend() const {
    if (over || !unmet.empty() || aimsMet == 0)
        return false;
    for (const auto& f : findings)
        if (f.verdict.colour() == watch::Colour::red)
            return false;
    for (const auto& a : acts)
        if ((!isWell(a) && !a.noEffect) || a.harmful)
            return false;
    for (const auto& s : stories)
        if (s.kicks > 0 || !std::isnan(s.lockedAt) || !std::isnan(s.fireAt))
            return false;
    for (const auto& c : costs)
        if (c.of != Spent::Of::plugs) // those burn clear; a rattle that costs no ring is none
            return false;
    return std::none_of(extras.begin(), extras.end(), [](const Extra& e) { return e.harmful; }) &&
           std::all_of(faults.begin(), faults.end(), [](const FaultMet& f) { return f.called && f.wrongly.empty(); });
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
