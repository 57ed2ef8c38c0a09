// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/judged.h"
#include "flight/flown.h"
#include "notes/cockpit_units.h"
#include "plan/start_words.h"
#include "record/aims_of.h"
#include "record/what.h"
#include "units/text.h"
#include "watch/judge.h"
#include "watch/rating_clock.h"
#include "watch/rules.h"
#include "watch/run_up_sheet.h"
#include "watch/start_counts.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::record {
namespace {
/// The sheet's line of a key of the log: "left" of "magneto-left", "propeller" of "sheet/propeller".
std::string sheetLineOf(const std::string& what, bool fullThrottle) {
    if (what.starts_with(ofSheet))
        return what.substr(ofSheet.size());
    if (what == "static-rpm")
        return fullThrottle ? "full-throttle" : "reference";
    for (const auto& [line, key] : sheetKeys)
        if (key == what)
            return std::string(line);
    return {};
}
constexpr double leastApart = 20.0, mostApart = 900.0; // s between two readings that tell a rate
constexpr double fallTime = 60.0;

watch::Verdict cooled(const TypeNotes& notes, double k, const std::string& from) {
    const auto limit = flight::coolingLimit(notes);
    const auto words = [](double by) { return format(by, *units::deltaCelsius.spec); };
    return watch::coolingRate(k, limit.perMinute,
                              fmt::format("Heads or coolant fell {} in a minute{}, limit {}{}.", words(k), from,
                                          words(limit.perMinute),
                                          limit.origin == Origin::notes ? "" : ", a common figure"));
}

/// Entries of one engine in the order of their times.
std::map<std::string, std::vector<const Entry*>> byEngine(const std::vector<Standing>& all, auto&& is) {
    std::map<std::string, std::vector<const Entry*>> out;
    for (const auto& s : all)
        for (const Entry* e : s.last)
            if (e->kind == Entry::Kind::figure && is(*e))
                out[e->engine].push_back(e);
    for (auto& [engine, entries] : out)
        std::stable_sort(entries.begin(), entries.end(), [](const Entry* a, const Entry* b) { return a->at < b->at; });
    return out;
}
} // namespace

std::optional<watch::Verdict> judgedAlone(const TypeNotes& notes, const Entry& e) {
    if (e.kind != Entry::Kind::figure)
        return std::nullopt;
    if (const WhatRow* row = whatOf(e.what); row && row->gauge) {
        const auto found = notes.gauges.find(*row->gauge);
        if (found == notes.gauges.end())
            return std::nullopt;
        const std::string lasted = e.lasted ? fmt::format(" For {}.", formatMinutesSeconds(*e.lasted)) : std::string();
        auto verdict = watch::judge(notes, *row->gauge, e.phase, watch::asRead(notes, *row->gauge, e.value), lasted);
        const auto& amberFor = found->second.in(e.phase).amberFor;
        if (verdict.colour() == watch::Colour::amber && e.lasted && amberFor && *e.lasted > amberFor->si())
            return watch::broken(watch::Rule::amberTime, verdict.sentence());
        return verdict;
    }
    if (e.what == "cooling")
        return cooled(notes, e.value, "");
    if (e.what == "high-power" && notes.runUp.highPowerMost)
        return watch::highPower(e.value, notes.runUp.highPowerMost->si(),
                                fmt::format("{:.0f} s at high power on the ground, limit {:.0f} s.", e.value,
                                            notes.runUp.highPowerMost->si()));
    if (const auto* aim = aimOf(e.what))
        return watch::broken(aim->rule, e.words);
    if (e.what.starts_with(ofRating))
        for (const auto& rating : notes.ratings)
            if (rating.key == e.what.substr(ofRating.size())) {
                watch::RatingClock clock(rating);
                clock.add(Duration::si(e.value));
                return clock.verdictAfterwards();
            }
    if (e.what == "tries")
        return watch::judgeTries(notes.start, e.value);
    if (e.what == "prime" && e.planned)
        return watch::judgePrime(e.value, *e.planned, notes.start.primer);
    if (e.what == "crank")
        return watch::judgeCrank(notes.start, e.value);
    if (e.what == "fire")
        return watch::judgeFire(notes.start, e.value);
    if (e.what == "oil-pressure-up")
        return watch::judgeOilPressureUp(notes.start, e.value);
    if (e.what == "static-rpm" && e.planned)
        return watch::judgeStandingRpm(notes.propeller, e.value, *e.planned);
    return std::nullopt;
}

Judged::Judged(const TypeNotes& notes, const Sortie& sortie, const std::vector<Standing>& all) {
    watch::Found walk;
    std::map<std::string, std::string> sheet;
    std::map<std::string, const Entry*> ofItem, ofCell;
    const bool fullThrottle = !notes.gauges.contains(Gauge::boost);
    for (const auto& s : all)
        for (const Entry* e : s.last) {
            if (const auto alone = judgedAlone(notes, *e))
                said_[e->id] = {*alone, {}, {}};
            if (e->what.starts_with(ofWalk)) {
                const auto key = e->what.substr(ofWalk.size());
                walk[key] = e->kind == Entry::Kind::looked ? std::string(watch::inOrder) : e->words;
                ofItem[key] = e;
            } else if (e->phase == Phase::runUp && e->kind == Entry::Kind::figure) {
                const auto line = sheetLineOf(e->what, fullThrottle);
                if (line.empty() || e->what == "static-rpm") // that one by itself: its day is in what was planned
                    continue;
                const auto key = e->engine.empty() ? line : line + "/" + e->engine;
                sheet[key] = e->words.empty() ? format(e->value, *units::rpm.spec) : e->words;
                ofCell[key] = e;
            }
        }
    const auto worse = [&](const Entry& e, watch::Verdict verdict) {
        auto& said = said_[e.id];
        if (verdict.colour() > said.verdict.colour())
            said = {std::move(verdict), {}, {}};
    };
    // Between two readings heads or coolant fell so much: in one of those minutes no less than on the average.
    const Gauge metal = headOrCoolantGauge(notes);
    for (const auto& [engine, reads] : byEngine(all, [&](const Entry& e) {
             const WhatRow* row = whatOf(e.what);
             return row && row->gauge == metal && !e.lasted && !e.rough && e.phase >= Phase::cruise &&
                    e.phase <= Phase::landing;
         }))
        for (std::size_t i = 1; i < reads.size(); ++i) {
            const double apart = static_cast<double>(reads[i]->at - reads[i - 1]->at) / 1000.0;
            if (apart < leastApart || apart > mostApart || reads[i]->phase < Phase::letDown)
                continue;
            const double fell = (reads[i - 1]->value - reads[i]->value) * fallTime / std::max(apart, fallTime);
            if (const auto verdict =
                    cooled(notes, fell, fmt::format(", between two readings {} apart", formatMinutesSeconds(apart)));
                verdict.colour() != watch::Colour::normal)
                worse(*reads[i], verdict);
        }
    // The minutes of a rating are one account through the run; a recorder's are all of them already.
    for (const auto& rating : notes.ratings)
        for (const auto& [engine, used] :
             byEngine(all, [&](const Entry& e) { return !e.rough && e.what == std::string(ofRating) + rating.key; })) {
            watch::RatingClock clock(rating);
            for (const Entry* e : used)
                clock.add(Duration::si(e->value));
            worse(*used.back(), clock.verdictAfterwards());
        }
    for (const auto& n : notMet(all, notes))
        for (const auto& s : all)
            for (const Entry* e : s.last)
                if (e->id == n.entry)
                    worse(*e, n.result.verdict);
    if (!walk.empty())
        for (const auto& stop :
             watch::walkRound(notes, walk, {sortie.contents, plan::groundAttitude(notes, sortie)}).stops)
            for (const auto& item : stop.items)
                if (const auto e = ofItem.find(item.key); e != ofItem.end() && !item.found.empty())
                    said_[e->second->id] = {item.verdict, {}, {}};
    if (sheet.empty())
        return;
    watch::RunUpDay day;
    day.oat = sortie.day.oat;
    const auto judged = watch::runUpSheet(notes, sheet, day);
    for (const auto& line : judged.lines)
        for (const auto& cell : line.cells)
            if (const auto e = ofCell.find(cell.key); e != ofCell.end())
                said_[e->second->id] = {cell.verdict, cell.cause, cell.next};
    // What both magnetos of an engine say together belongs to the worse of the two.
    if (const auto* says = judged.line("magnetos"))
        for (const auto& cell : says->cells) {
            const auto engine = cell.key.substr(cell.key.find('/') + 1);
            const auto l = ofCell.find("left/" + engine), r = ofCell.find("right/" + engine);
            if (l == ofCell.end() || r == ofCell.end() || cell.verdict.colour() == watch::Colour::normal)
                continue;
            auto &left = said_[l->second->id], &right = said_[r->second->id];
            auto& theWorse = right.verdict.colour() > left.verdict.colour() ? right : left;
            if (cell.verdict.colour() > theWorse.verdict.colour())
                theWorse.verdict = cell.verdict;
            theWorse.cause = cell.cause;
            theWorse.next = cell.next;
        }
}

const Judged::Said* Judged::of(const std::string& entry) const {
    const auto at = said_.find(entry);
    return at == said_.end() ? nullptr : &at->second;
}

} // namespace amber::record
