// SPDX-License-Identifier: GPL-3.0-or-later
#include "record/from_trace.h"
#include "flight/flown.h"
#include "record/aims_of.h"
#include "record/planned.h"
#include "record/what.h"
#include "units/median.h"
#include "units/text.h"
#include "watch/judge.h"
#include "watch/rating_clock.h"
#include "watch/watch.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber::record {
namespace {
constexpr double longestStep = 10.0;     // s: a gap
constexpr double mostHighPower = 7200.0; // s: what a log takes of it
constexpr double passing = 30.0;         // s of amber that are worth a line
constexpr std::size_t leastCruise = 60;  // samples of cruise that have a median

class FromTrace {
public:
    FromTrace(const RunTrace& t, const Anchors& a, const TypeNotes& n, const plan::Plan* plan, const std::string& run,
              const std::string& source)
        : t_(t), n_(n), plan_(plan), run_(run), source_(source), phases_(phasesOf(t, a, n)) {}

    std::vector<Entry> all() {
        if (t_.empty())
            return {};
        for (std::size_t e = 0; e < t_.engines.size(); ++e)
            engine(e);
        for (const auto& aim : notMet(t_, phases_, n_, plan_ ? &plan_->flown : nullptr)) {
            const auto& id = n_.positions[static_cast<std::size_t>(aim.engine)].id;
            const auto after = std::find_if(t_.at.begin(), t_.at.end(), [&](std::int64_t at) {
                return static_cast<double>(at - t_.at.front()) / 1000.0 >= aim.at;
            });
            const auto i = after == t_.at.end() ? phases_.size() - 1 : static_cast<std::size_t>(after - t_.at.begin());
            add(std::string(ofAim) + std::string(watch::rowOf(aim.aim).id), phases_[i], id, aim.at, 1.0).words =
                aim.verdict.sentence();
        }
        return std::move(out_);
    }

private:
    [[nodiscard]] std::int64_t atSeconds(double s) const {
        return t_.at.front() + static_cast<std::int64_t>(std::llround(s * 1000.0));
    }
    Entry& add(std::string_view what, Phase phase, const std::string& engine, double seconds, double value,
               std::optional<double> lasted = std::nullopt) {
        Entry e;
        e.run = run_;
        e.at = atSeconds(seconds);
        e.entered = t_.at.back();
        e.who = source_;
        e.phase = phase;
        e.engine = engine;
        e.what = what;
        e.value = value;
        e.lasted = lasted;
        e.id = contentId('a', {run_, e.what, std::string(keyOf(phase)), engine, std::to_string(e.at),
                               fmt::format("{:.9g} {:.3f}", value, lasted.value_or(-1.0))});
        out_.push_back(std::move(e));
        return out_.back();
    }

    void engine(std::size_t e) {
        const std::string& id = n_.positions[e].id;
        const auto& readings = t_.engines[e];
        watch::Watch watch(n_, id);
        const auto running = runningOf(e);
        watch::RatingLedger ledger(n_.ratings);
        bool seen = false;
        double lastSeen = 0.0;
        for (std::size_t i = 0; i < readings.size(); ++i) {
            const double rpm = readings[i][Gauge::rpm];
            if (std::isnan(rpm))
                continue;
            // Over a gap nobody knows: what comes after it is judged anew.
            if (seen && t_.seconds(i) - lastSeen > longestStep) {
                found(watch, id);
                watch = watch::Watch(n_, id);
            }
            seen = true;
            lastSeen = t_.seconds(i);
            watch.see(t_.seconds(i), phases_[i], readings[i], running[i]);
            if (i + 1 < readings.size() && phases_[i] >= Phase::takeOff && phases_[i] < Phase::stop)
                if (const auto* rating = watch::ratingAt(n_.ratings, rpm, orNothing(readings[i][Gauge::boost])))
                    ledger.add(rating->key, Duration::si(std::min(t_.seconds(i + 1) - t_.seconds(i), longestStep)));
        }
        if (!seen)
            return;
        found(watch, id);
        double ran = 0.0;
        for (std::size_t i = 0; i + 1 < readings.size(); ++i)
            if (running[i])
                ran += std::min(t_.seconds(i + 1) - t_.seconds(i), longestStep);
        if (ran > 0.0)
            add("running", Phase::writeUp, id, t_.seconds(readings.size() - 1), ran);
        for (const auto& clock : ledger.clocks())
            if (clock.allowed() && clock.used().si() > 0.0) {
                auto& entry = add(std::string(ofRating) + clock.key(), Phase::takeOff, id, firstOf(Phase::takeOff),
                                  clock.used().si());
                entry.words = formatMinutesSeconds(clock.used().si());
                entry.rough = true; // all of it, at whatever times
            }
        cruise(e, id);
    }
    /// What a watch has seen, up to a gap or the end.
    void found(const watch::Watch& watch, const std::string& id) {
        for (const auto& f : watch.findings()) {
            if (f.gauge && (f.rule == watch::Rule::limit || f.end - f.begin >= passing))
                add(nameOf(*f.gauge).key, f.phase, id, f.begin, f.worst, lastedOf(f));
            else if (f.rule == watch::Rule::highPower)
                add("high-power", Phase::runUp, id, f.begin, std::min(f.worst, mostHighPower));
        }
        const double most = flight::coolingLimit(n_).perMinute;
        for (const Phase phase : {Phase::letDown, Phase::landing})
            if (const double fall = watch.greatestFall(phase); fall > most)
                add("cooling", phase, id, firstOf(phase), fall).rough = true;
    }
    /// How long; where the notes limit the time in amber what counts against that.
    [[nodiscard]] double lastedOf(const watch::Finding& f) const {
        return f.timed && n_.gauges.at(*f.gauge).in(f.phase).amberFor ? *f.timed : f.end - f.begin;
    }
    /// By moment: whether the engine runs.
    [[nodiscard]] std::vector<bool> runningOf(std::size_t e) const {
        const double least = 0.5 * idleOf(n_);
        std::vector<bool> out(t_.at.size());
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = t_.engines[e][i][Gauge::rpm] >= least;
        return out;
    }
    /// Where the notes give no boost any will do.
    static double orNothing(double boost) { return std::isnan(boost) ? 0.0 : boost; }
    [[nodiscard]] double firstOf(Phase phase) const {
        const auto at = std::find(phases_.begin(), phases_.end(), phase);
        return at == phases_.end() ? 0.0 : t_.seconds(static_cast<std::size_t>(at - phases_.begin()));
    }

    void cruise(std::size_t e, const std::string& id) {
        std::vector<std::size_t> moments;
        for (std::size_t i = 0; i < phases_.size(); ++i)
            if (phases_[i] == Phase::cruise)
                moments.push_back(i);
        if (moments.size() < leastCruise)
            return;
        const auto from = moments.size() / 4, to = moments.size() - from;
        for (const auto& [gauge, notes] : n_.gauges) {
            std::vector<double> values;
            for (auto m = from; m < to; ++m)
                if (const double v = t_.engines[e][moments[m]][gauge]; !std::isnan(v))
                    values.push_back(v);
            if (values.size() < leastCruise / 2)
                continue;
            auto& entry = add(nameOf(gauge).key, Phase::cruise, isOfAircraft(gauge) ? std::string() : id,
                              t_.seconds(moments[moments.size() / 2]), medianOf(values));
            if (plan_)
                entry.planned = unlearntOf(*plan_, Phase::cruise, entry.what, entry.engine);
        }
    }

    const RunTrace& t_;
    const TypeNotes& n_;
    const plan::Plan* plan_;
    const std::string &run_, &source_;
    std::vector<Phase> phases_;
    std::vector<Entry> out_;
};
} // namespace

std::vector<Entry> entriesOf(const RunTrace& trace, const Anchors& anchors, const TypeNotes& notes,
                             const plan::Plan* plan, const std::string& run, const std::string& source) {
    return FromTrace(trace, anchors, notes, plan, run, source).all();
}

std::vector<Entry> reckonedAnew(const Log& log, const Entry& moment, const Run& run,
                                const std::vector<TraceBlock>& blocks, const TypeNotes& notes, const plan::Plan* plan) {
    Log with = log;
    with.entries.insert_or_assign(moment.id.empty() ? "moment" : moment.id, moment);
    const auto standing = record::standing(with, run.id);
    std::map<std::string, std::vector<TraceBlock>> files;
    for (const auto& block : blocks)
        files[block.source].push_back(block);
    std::vector<Entry> out;
    for (const auto& [source, own] : files) {
        const auto trace = traceOf(own, notes);
        auto now = entriesOf(trace, anchorsOf(trace, notes, standing, run.began), notes, plan, run.id, source);
        std::vector<const Entry*> before, byHand;
        for (const auto& s : standing)
            for (const Entry* e : s.last) {
                const bool ours = e->who == source;
                if (ours && e->kind == Entry::Kind::figure && !isMoment(e->what))
                    before.push_back(e);
                else if (!ours && std::any_of(s.was.begin(), s.was.end(),
                                              [name = source](const Entry* was) { return was->who == name; }))
                    byHand.push_back(e);
            }
        const auto ofOneKind = [](const Entry& a, const Entry& b) {
            return a.what == b.what && a.phase == b.phase && a.engine == b.engine;
        };
        const auto take = [&](std::vector<const Entry*>& those, const auto& alike, const auto& meets) {
            for (auto e = now.begin(); e != now.end();) {
                const auto old =
                    std::find_if(those.begin(), those.end(), [&](const Entry* b) { return alike(*b, *e); });
                if (old == those.end()) {
                    ++e;
                    continue;
                }
                meets(**old, *e);
                those.erase(old);
                e = now.erase(e);
            }
        };
        const auto leave = [](const Entry&, const Entry&) {};
        take(byHand, ofOneKind, leave);
        take(
            before,
            [&](const Entry& a, const Entry& b) {
                return ofOneKind(a, b) && a.at == b.at && a.value == b.value && a.lasted == b.lasted;
            },
            leave);
        take(before, ofOneKind, [&](const Entry& old, Entry& e) {
            e.supersedes = old.id;
            out.push_back(e);
        });
        for (const Entry* gone : before) {
            out.push_back(*gone);
            out.back().supersedes = gone->id;
            out.back().kind = Entry::Kind::withdrawn;
        }
        out.insert(out.end(), now.begin(), now.end());
    }
    for (auto& e : out)
        e.id.clear();
    return out;
}

} // namespace amber::record
