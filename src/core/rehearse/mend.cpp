// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/mend.h"
#include "cockpit/controls.h"
#include "notes/cockpit_units.h"
#include "units/ascii.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <set>

namespace amber::rehearse {
namespace mending {
/// What had come about when a phase was begun, so that it is waited for again.
struct CameAbout {
    std::optional<double> above, below; ///< m
    bool airborne = false;
    double lasted = 0.0;              ///< s of the phase before
    std::optional<double> oil, metal; ///< K at least, of every engine that runs
};
} // namespace mending
namespace {
using mending::CameAbout;
using Done = DrillAct::Done;
using powerplant::shortStep;
constexpr Milliseconds looksOn = 60'000;        // after the last act
constexpr Milliseconds longestWait = 1'800'000; // that one phase waits for what had come about
constexpr Milliseconds givesWayEvery = 10'000;
constexpr double same = 0.02;         // of harm
constexpr int whileItMoves = 20;      // readings apart, a needle and a second: it is put elsewhere a moment later
constexpr double stillWrong = 0.9;    // harm: an aim that is not met
constexpr double worthTelling = 0.15; // harm: three minutes of a needle in amber

double weightOf(watch::Aim aim) {
    using watch::Aim;
    switch (aim) {
    case Aim::clearOfGround:
        return 10.0;
    case Aim::starts:
    case Aim::runsOn:
    case Aim::flyingSpeed:
    case Aim::leavesGround:
        return 6.0;
    case Aim::lands:
        return 4.0;
    case Aim::oilPressure:
        return 3.0;
    case Aim::stopped:
    case Aim::cooledFirst:
        return 1.0;
    default:
        return 2.0;
    }
}
Milliseconds ms(double seconds) {
    return static_cast<Milliseconds>(std::llround(seconds * 10.0)) * shortStep;
}

bool holds(const CameAbout& c, const Rehearsal& r) {
    const bool airborne = hand::FlightPath::isAirborne(r.hands().levers().path);
    for (const auto& e : r.state().engines)
        if (e.firing && ((c.oil && e.oil < *c.oil) || (c.metal && e.headOrCoolant < *c.metal)))
            return false;
    if (static_cast<double>(r.now() - r.phaseBegan()) / 1000.0 < c.lasted)
        return false;
    return (!c.above || r.state().height >= *c.above) && (!c.below || r.state().height <= *c.below) &&
           (!c.airborne || airborne);
}
} // namespace

double harmOf(const Rehearsal& r) {
    double harm = 0.0;
    const double share = 1.0 / static_cast<double>(std::max<std::size_t>(1, r.powerplant().count()));
    for (const auto& a : r.aims(true))
        if (a.status == watch::AimStatus::unmet)
            harm += weightOf(a.aim) * (a.engine < 0 ? 1.0 : 0.4 + 0.6 * share);
    for (const auto& f : r.findings()) {
        if (f.rule == watch::Rule::normalRange && f.end - f.begin < passing)
            continue;
        harm += f.verdict.colour() == watch::Colour::red ? 1.0 + std::min(1.0, (f.end - f.begin) / 120.0)
                                                         : 0.05 + std::min(0.25, (f.end - f.begin) / 1200.0);
    }
    for (const auto& s : r.spent())
        harm += 2.0 * s.share;
    for (const auto& s : r.stories())
        harm += 1.0 * s.kicks + (std::isnan(s.fireAt) ? 0.0 : 2.0) + (std::isnan(s.lockedAt) ? 0.0 : 2.0) +
                0.2 * std::max(0, s.tries - 1) + std::min(1.0, s.knocked / 60.0) + 0.1 * s.backfires;
    if (r.over() && r.over()->by == OverBy::liveBlades)
        harm += 12.0;
    return harm;
}

struct Mending::Base {
    double harm = 0.0;
    std::optional<watch::AimResult> leads;
    std::vector<Kept> trace;
    Milliseconds end = 0;
    std::map<Phase, mending::CameAbout> cameAbout;
    const TypeNotes* notes = nullptr;
    std::optional<Over> over;
};
struct Mending::Candidate {
    std::string words;
    Milliseconds at = 0;
    std::vector<Act> rest; ///< acts from there on, with the change
    std::unique_ptr<Rehearsal> branch;
    std::optional<std::size_t> drillAct, extra, control;
    int engine = -1;
    std::optional<Phase> phase; ///< that waits for what should have come about
    mending::CameAbout waitsFor;
    // found
    bool isFlown = false, reaches = false, noEffect = false;
    double harm = 0.0;
    std::string comes;
};

namespace {
class Finds {
public:
    struct Wanted {
        std::string words;
        Milliseconds at;
        std::vector<Act> acts;
        std::optional<std::size_t> drillAct, extra;
        double score;
        std::optional<Phase> phase{};
        CameAbout waitsFor{};
        std::optional<std::size_t> control{};
        int engine = -1;
    };
    Finds(const Rehearsal& r, const Debrief& d) : r_(r), d_(d), n_(r.powerplant().aircraft().notes) {
        all_ = r.acts();
        for (const auto& a : r.toCome())
            all_.push_back(a);
    }
    std::vector<Wanted> candidates() {
        if (d_.unmet.size() > 0)
            theDays();
        coldAgain();
        for (std::size_t i = 0; i < d_.acts.size();) {
            std::size_t last = i;
            while (last + 1 < d_.acts.size() && alike(d_.acts[i], d_.acts[last + 1]))
                ++last;
            if (isWell(d_.acts[i]) && d_.acts[i].act && d_.acts[i].earlyBy > 0.0)
                waitLonger(i);
            if (!isWell(d_.acts[i]) || d_.acts[i].lateBy > 0.0)
                putRight(i, last);
            i = last + 1;
        }
        phases();
        for (std::size_t i = 0; i < d_.extras.size(); ++i)
            takeAway(i);
        for (std::size_t i = 0; i + 1 < d_.extras.size(); ++i)
            takeAwayTogether(i);
        std::stable_sort(out_.begin(), out_.end(), [](const Wanted& a, const Wanted& b) { return a.score > b.score; });
        if (out_.size() > Mending::most)
            out_.resize(Mending::most);
        return std::move(out_);
    }

private:
    static bool alike(const DrillAct& a, const DrillAct& b) {
        return a.phase == b.phase && a.control == b.control && a.to == b.to && a.done == b.done && a.by == b.by &&
               a.act == b.act && a.engine != b.engine;
    }
    /// How likely an act is behind what was not met.
    [[nodiscard]] double score(Acts acts, std::size_t engine, bool all, double at) const {
        double best = 0.0;
        for (std::size_t i = 0; i < d_.unmet.size(); ++i) {
            const Unmet& u = d_.unmet[i];
            double s = 3.0 / (1.0 + static_cast<double>(i));
            const bool its = all || engine == u.engine;
            const auto is = [&](std::initializer_list<Acts> of) {
                return std::find(of.begin(), of.end(), acts) != of.end() && its;
            };
            using enum Acts;
            bool fits = false;
            switch (u.root) {
            case Root::dose:
                fits = is({primer, pump});
                break;
            case Root::spark:
                fits = is({spark});
                break;
            case Root::ice:
                fits = is({carburettorAir});
                break;
            case Root::tank:
                fits = is({fuel, crossfeed, transfer});
                break;
            case Root::cooling:
                fits = is({throttle, coolingFlap});
                break;
            case Root::power:
            case Root::path:
                fits = is({throttle, propeller, gear, turbo, mixture});
                break;
            case Root::switches:
            case Root::noTry:
            case Root::tooShort:
            case Root::stopped:
                fits = is({ignition, boosterCoil, fuel, mixture, pump, starter, mesh, battery, cart, cutOut, airValve,
                           throttle, feathering, primer, cartridge});
                break;
            default:
                break;
            }
            s *= fits ? 2.0 : 1.0;
            if (u.begun && at <= *u.begun + 5.0)
                s *= 1.0 + 1.0 / (1.0 + std::abs(*u.begun - at) / 60.0);
            else if (u.begun)
                s *= 0.5;
            best = std::max(best, s);
        }
        return best;
    }
    void add(Wanted w) { out_.push_back(std::move(w)); }
    [[nodiscard]] std::vector<Act> from(Milliseconds at) const {
        std::vector<Act> out;
        for (const auto& a : all_)
            if (a.at >= at)
                out.push_back(a);
        return out;
    }
    static void insert(std::vector<Act>& acts, const Act& act) {
        acts.insert(
            std::upper_bound(acts.begin(), acts.end(), act, [](const Act& a, const Act& b) { return a.at < b.at; }),
            act);
    }
    [[nodiscard]] std::string wordsOf(const Act& act) const {
        return fmt::format("{} at {}", said(act, n_), formatMinutesSeconds(static_cast<double>(act.at) / 1000.0));
    }
    /// Heat against the ice that took the power, left on till the drill takes it off.
    void theDays() {
        const Control* air = cockpit::acting(n_.controls, Acts::carburettorAir);
        std::set<std::size_t> iced;
        double first = std::numeric_limits<double>::infinity();
        for (const auto& u : d_.unmet)
            if (u.root == Root::ice)
                for (std::size_t e = 0; e < d_.stories.size(); ++e)
                    if (!std::isnan(d_.stories[e].iceFrom)) {
                        iced.insert(e);
                        first = std::min(first, d_.stories[e].iceWorstFrom);
                    }
        if (!air || iced.empty())
            return;
        // Not while full power takes her off the ground.
        double when = first + 10.0;
        for (const auto& a : all_)
            if (a.kind == Act::Kind::phase && a.phase == Phase::climb && static_cast<double>(a.at) / 1000.0 > when)
                for (const auto& b : all_)
                    if (b.kind == Act::Kind::phase && b.phase == Phase::takeOff &&
                        static_cast<double>(b.at) / 1000.0 - 60.0 <= when)
                        when = static_cast<double>(a.at) / 1000.0 + 1.0;
        Act hot;
        hot.at = ms(when);
        hot.control = static_cast<std::size_t>(air - n_.controls.data());
        hot.to.kind = Target::Kind::position;
        hot.to.word = "hot";
        auto rest = from(hot.at);
        insert(rest, hot);
        add({fmt::format("With {}", wordsOf(hot)), hot.at, std::move(rest), {}, {}, 20.0});
    }
    /// Hot air that was left on where an engine was opened up.
    void coldAgain() {
        const Control* air = cockpit::acting(n_.controls, Acts::carburettorAir);
        if (!air || !d_.unmet.empty())
            return;
        const auto index = static_cast<std::size_t>(air - n_.controls.data());
        for (const auto& f : d_.findings) {
            if (f.verdict.colour() != watch::Colour::red)
                continue;
            const Act* last = nullptr;
            for (const auto& a : all_)
                if (a.kind == Act::Kind::control && a.control == index && a.at <= ms(f.begin) &&
                    (a.engine < 0 || n_.positions[static_cast<std::size_t>(a.engine)].id == f.engine))
                    last = &a;
            if (!last || last->to.word != "hot")
                continue;
            Act cold = *last;
            cold.at = std::max(last->at + 30'000, ms(f.begin) - 60'000);
            cold.to.word = "cold";
            auto rest = from(cold.at);
            insert(rest, cold);
            add({fmt::format("With {}", wordsOf(cold)), cold.at, std::move(rest), {}, {}, 10.0});
            return;
        }
    }
    /// What was waited for too shortly: it and all after it later by as much.
    void waitLonger(std::size_t i) {
        const DrillAct& a = d_.acts[i];
        const Act& mine = all_[*a.act];
        const Milliseconds by = ms(a.earlyBy);
        auto rest = from(mine.at);
        for (auto& act : rest)
            act.at += by;
        add({fmt::format("With {} {:.0f} s later", said(mine, n_), a.earlyBy),
             mine.at,
             std::move(rest),
             i,
             {},
             0.4 + score(n_.controls[a.control].acts, a.engine, mine.engine < 0, a.at)});
    }
    void putRight(std::size_t first, std::size_t last) {
        const DrillAct& a = d_.acts[first];
        const bool all = last > first || n_.engineCount() == 1;
        std::vector<Act> wanted;
        for (std::size_t i = first; i <= last; ++i) {
            Act act = actOf(d_.acts[i].asked);
            act.at = ms(a.act && a.done == Done::wrong ? a.at : std::max(0.0, a.due));
            if (last - first + 1 == n_.engineCount()) {
                act.engine = -1;
                if (i > first)
                    continue;
            }
            wanted.push_back(act);
        }
        Milliseconds at = wanted.front().at;
        if (a.done == Done::leftOut || a.done == Done::late || a.done == Done::another || a.done == Done::early) {
            // Where the act asked for before it was done, or it was due, whichever is later; an early one after that.
            for (std::size_t i = first; i-- > 0;)
                if (d_.acts[i].phase == a.phase && !std::isnan(d_.acts[i].at) && isWell(d_.acts[i])) {
                    at = ms(d_.acts[i].at) + 4 * shortStep;
                    break;
                }
            if (at < ms(phaseBegan(a.phase)))
                at = ms(phaseBegan(a.phase)) + shortStep;
        }
        if (isWell(a))
            at = ms(a.at - a.lateBy);
        if (a.done == Done::leftOut && a.due > static_cast<double>(at) / 1000.0 + 60.0)
            at = ms(a.due);
        for (auto& act : wanted)
            act.at = at;
        const Milliseconds begins = a.act ? std::min(at, all_[*a.act].at) : at;
        auto rest = from(begins);
        if (a.act) {
            // The person's own, and other strokes of the same priming, give way.
            const Act& mine = all_[*a.act];
            const bool strokes = n_.controls[mine.control].acts == Acts::primer && mine.strokes > 0;
            std::erase_if(rest, [&](const Act& x) {
                return x == mine || (strokes && x.kind == Act::Kind::control && x.control == mine.control &&
                                     x.engine == mine.engine && x.strokes > 0 && x.at - mine.at < 60'000);
            });
        }
        for (const auto& act : wanted)
            insert(rest, act);
        add({fmt::format("With {}", wordsOf(wanted.front())),
             begins,
             std::move(rest),
             first,
             {},
             0.5 + score(n_.controls[a.control].acts, a.engine, all,
                         std::isnan(a.at) ? a.due : std::min(a.at, std::max(a.due, 0.0) > 0 ? a.at : a.at))});
    }
    /// Phases begun before what they wait for had come.
    void phases() {
        const flight::Flown& plan = r_.plan();
        const double circuit = r_.sortie().flight.toElevation.si() + flight::circuitHeight;
        const double top = plan[Phase::cruise].duration > 0
                               ? plan.samples[plan[Phase::cruise].firstSample][Gauge::height]
                               : r_.sortie().flight.cruiseHeight.si();
        for (const auto& a : r_.acts()) {
            if (a.kind != Act::Kind::phase)
                continue;
            const auto kept = std::lower_bound(r_.trace().begin(), r_.trace().end(), a.at,
                                               [](const Kept& k, Milliseconds t) { return k.at < t; });
            if (kept == r_.trace().end())
                continue;
            const double height = kept->engines.front()[Gauge::height];
            CameAbout c;
            std::string words;
            switch (a.phase) {
            case Phase::runUp:
            case Phase::takeOff: {
                const bool off = a.phase == Phase::takeOff;
                c.oil = (off ? n_.warmUp.oilTakeOff : n_.warmUp.oilRunUp).si();
                if (const auto& metal = off ? n_.warmUp.headTakeOff : n_.warmUp.headRunUp)
                    c.metal = metal->si();
                const auto aim = off ? watch::Aim::takeOffWarm : watch::Aim::runUpWarm;
                if (std::none_of(d_.unmet.begin(), d_.unmet.end(), [&](const Unmet& u) { return u.result.aim == aim; }))
                    continue;
                words = "once it was warm enough";
                break;
            }
            case Phase::cruise:
                if (height >= top - 30.0)
                    continue;
                c.above = top - 5.0;
                words = "at " + format(top, *n_.cockpit.height);
                break;
            case Phase::letDown: {
                const double began = phaseBegan(Phase::cruise), lasts = plan[Phase::cruise].duration;
                if (static_cast<double>(a.at) / 1000.0 - began > lasts - 20.0)
                    continue;
                c.lasted = lasts;
                words = fmt::format("after {} of cruise", formatMinutesSeconds(lasts));
                break;
            }
            case Phase::landing:
                if (height <= circuit + 30.0)
                    continue;
                c.below = circuit + 1.0;
                words = "at " + format(circuit, *n_.cockpit.height);
                break;
            default:
                continue;
            }
            double s = 0.6;
            for (const auto& u : d_.unmet)
                if (u.root == Root::path || u.root == Root::power || u.root == Root::cold || u.root == Root::cooling ||
                    u.root == Root::ice)
                    s = std::max(s, u.root == Root::path || u.root == Root::cold ? 8.0 : 2.5);
            add({fmt::format("With the {} begun {}", titleOf(a.phase), words),
                 a.at,
                 from(a.at),
                 {},
                 {},
                 s,
                 a.phase,
                 c});
        }
    }
    void takeAway(std::size_t i) {
        const Extra& e = d_.extras[i];
        const Act& mine = all_[e.act];
        auto rest = from(mine.at);
        const auto found = std::find(rest.begin(), rest.end(), mine);
        if (found == rest.end())
            return;
        rest.erase(found);
        const Acts acts = n_.controls[mine.control].acts;
        add({fmt::format("Without {}", wordsOf(mine)),
             mine.at,
             std::move(rest),
             {},
             i,
             0.3 + score(acts, mine.engine < 0 ? 0 : static_cast<std::size_t>(mine.engine), mine.engine < 0, e.at)});
    }
    /// What one hand did to one engine in a breath: feathered it, and cut its mixture.
    void takeAwayTogether(std::size_t i) {
        constexpr double breath = 20.0; // s
        const Act& first = all_[d_.extras[i].act];
        if (i > 0 && all_[d_.extras[i - 1].act].engine == first.engine &&
            d_.extras[i].at - d_.extras[i - 1].at <= breath)
            return; // it belongs to the one before
        auto rest = from(first.at);
        std::size_t away = 0;
        std::string words;
        double last = d_.extras[i].at;
        for (std::size_t j = i; j < d_.extras.size() && d_.extras[j].at - last <= breath; ++j) {
            const Act& mine = all_[d_.extras[j].act];
            const auto found = std::find(rest.begin(), rest.end(), mine);
            if (mine.engine != first.engine || found == rest.end())
                continue;
            rest.erase(found);
            last = d_.extras[j].at;
            words += (words.empty() ? "" : " and ") + said(mine, n_);
            ++away;
        }
        if (away < 2)
            return;
        const Acts acts = n_.controls[first.control].acts;
        add({fmt::format("Without {} at {}", words, formatMinutesSeconds(d_.extras[i].at)),
             first.at,
             std::move(rest),
             {},
             i,
             0.35 + score(acts, first.engine < 0 ? 0 : static_cast<std::size_t>(first.engine), first.engine < 0,
                          d_.extras[i].at)});
    }
    [[nodiscard]] double phaseBegan(Phase phase) const {
        for (const auto& a : all_)
            if (a.kind == Act::Kind::phase && a.phase == phase)
                return static_cast<double>(a.at) / 1000.0;
        return 0.0;
    }
    const Rehearsal& r_;
    const Debrief& d_;
    const TypeNotes& n_;
    std::vector<Act> all_;
    std::vector<Wanted> out_;
};

/// Whether two traces read alike: no needle that the notes know apart by more than its reading width, for more seconds
/// in all than so many.
bool readAlike(const std::vector<Kept>& a, const std::vector<Kept>& b, const TypeNotes& n, int most = 0) {
    if (a.size() != b.size())
        return false;
    int apart = 0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        if (a[i].at != b[i].at || a[i].phase != b[i].phase)
            return false;
        for (std::size_t e = 0; e < a[i].engines.size(); ++e)
            for (const auto& [gauge, notes] : n.gauges) {
                const UnitSpec& unit = n.unitOf(gauge);
                const double width = unit.scale * std::pow(10.0, 1 - unit.decimals);
                const double x = a[i].engines[e][gauge], y = b[i].engines[e][gauge];
                if ((std::isnan(x) != std::isnan(y) || std::abs(x - y) > width) && ++apart > most)
                    return false;
            }
    }
    return true;
}
} // namespace

bool readAlike(const Rehearsal& a, const Rehearsal& b) {
    return readAlike(a.trace(), b.trace(), a.powerplant().aircraft().notes);
}

Mending::~Mending() = default;

Mending::Mending(const Rehearsal& r, const Debrief& d, const hand::HandRun* reference)
    : base_(std::make_unique<Base>()), reference_(reference) {
    base_->harm = harmOf(r);
    base_->notes = &r.powerplant().aircraft().notes;
    base_->over = r.over();
    if (!d.unmet.empty())
        base_->leads = d.unmet.front().result;
    base_->trace = r.trace();
    base_->end = r.now();
    for (const auto& a : r.toCome())
        base_->end = std::max(base_->end, a.at + looksOn);
    // What had come about as each phase was begun.
    const double top = r.plan()[Phase::cruise].duration > 0
                           ? r.plan().samples[r.plan()[Phase::cruise].firstSample][Gauge::height]
                           : r.sortie().flight.cruiseHeight.si();
    for (const auto& a : r.acts()) {
        if (a.kind != Act::Kind::phase)
            continue;
        const auto after = std::upper_bound(r.trace().begin(), r.trace().end(), a.at,
                                            [](Milliseconds t, const Kept& k) { return t < k.at; });
        if (after == r.trace().begin())
            continue;
        const double height = std::prev(after)->engines.front()[Gauge::height];
        CameAbout c;
        if (a.phase == Phase::climb)
            c.airborne = true;
        // What had not come about is not waited for.
        const double circuit = r.sortie().flight.toElevation.si() + flight::circuitHeight;
        if (a.phase == Phase::cruise && height >= top - 30.0)
            c.above = std::min(height, top) - 1.0;
        if (a.phase == Phase::landing && height <= circuit + 30.0)
            c.below = std::max(height, circuit) + 1.0;
        if (a.phase == Phase::stop)
            c.below = std::max(height, r.sortie().flight.toElevation.si() + 5.0);
        base_->cameAbout[a.phase] = c;
    }
    for (const auto& a : r.toCome())
        if (a.kind == Act::Kind::phase) {
            CameAbout c;
            c.airborne = a.phase == Phase::climb;
            if (a.phase == Phase::stop)
                c.below = r.sortie().flight.toElevation.si() + 5.0;
            if (a.phase == Phase::cruise)
                c.above = top - 15.0;
            if (a.phase == Phase::landing)
                c.below = r.sortie().flight.toElevation.si() + flight::circuitHeight + 15.0;
            base_->cameAbout[a.phase] = c;
        }
    if (harmOf(r) <= 0.0 && d.unmet.empty() && !r.over() &&
        std::all_of(d.acts.begin(), d.acts.end(), [](const DrillAct& a) { return isWell(a); }))
        return;
    for (auto& wanted : Finds(r, d).candidates()) {
        if (wanted.at < r.earliest())
            continue; // of a branch: what came before it stands
        auto c = std::make_unique<Candidate>();
        c->words = std::move(wanted.words);
        c->at = wanted.at;
        c->rest = std::move(wanted.acts);
        c->drillAct = wanted.drillAct;
        c->extra = wanted.extra;
        if (wanted.extra) {
            c->control = r.acts()[d.extras[*wanted.extra].act].control;
            c->engine = r.acts()[d.extras[*wanted.extra].act].engine;
        } else if (wanted.drillAct) {
            c->control = d.acts[*wanted.drillAct].control;
            c->engine = static_cast<int>(d.acts[*wanted.drillAct].engine);
        } else if (!wanted.phase) { // the day's: heat
            const auto& controls = r.powerplant().aircraft().notes.controls;
            if (const Control* air = cockpit::acting(controls, Acts::carburettorAir))
                c->control = static_cast<std::size_t>(air - controls.data());
        }
        c->phase = wanted.phase;
        c->waitsFor = wanted.waitsFor;
        c->branch = r.branchAt(std::max<Milliseconds>(0, std::min(wanted.at, r.now())));
        c->branch->script({});
        candidates_.push_back(std::move(c));
    }
}

std::size_t Mending::count() const {
    return candidates_.size();
}

bool Mending::flyNext(const std::function<bool()>& goOn) {
    if (flown_ >= candidates_.size()) {
        if (!besides_ && reference_ && best_ && (best_->over() || bestHarm_ > stillWrong)) {
            auto of = std::make_unique<Debrief>(debrief(*best_, *reference_));
            auto more = of->unmet.empty() ? nullptr : std::make_unique<Mending>(*best_, *of, nullptr);
            const std::lock_guard guard(lock_);
            besidesOf_ = std::move(of);
            besides_ = std::move(more);
            reference_ = nullptr;
        }
        return besides_ && besides_->flyNext(goOn);
    }
    Candidate& c = *candidates_[flown_];
    Rehearsal& r = *c.branch;
    Milliseconds late = 0, waited = 0;
    std::size_t next = 0;
    while (next < c.rest.size() && c.rest[next].at < r.now())
        ++next;
    while (!r.over() && r.now() < base_->end + late) {
        while (next < c.rest.size() && c.rest[next].at + late <= r.now() && !r.over()) {
            const Act& act = c.rest[next];
            if (act.kind == Act::Kind::phase && waited < longestWait) {
                const auto found = base_->cameAbout.find(act.phase);
                if ((found != base_->cameAbout.end() && !holds(found->second, r)) ||
                    (c.phase == act.phase && !holds(c.waitsFor, r))) {
                    late += shortStep;
                    waited += shortStep;
                    break;
                }
            }
            if (act.kind == Act::Kind::phase)
                waited = 0;
            r.act(act);
            ++next;
        }
        r.advance(shortStep);
        if (goOn && r.now() % givesWayEvery == 0 && !goOn())
            return true;
    }
    const std::lock_guard guard(lock_);
    ++flown_;
    c.harm = harmOf(r);
    c.isFlown = true;
    const auto aims = r.aims(true);
    const auto met = [&](const watch::AimResult& lead) {
        return std::none_of(aims.begin(), aims.end(), [&](const watch::AimResult& a) {
            return a.aim == lead.aim && a.engine == lead.engine &&
                   (a.status == watch::AimStatus::unmet || a.status == watch::AimStatus::follows);
        });
    };
    c.reaches = base_->leads ? met(*base_->leads) && !r.over() : c.harm < base_->harm * (1.0 - same);
    c.noEffect = late == 0 && !base_->over && readAlike(base_->trace, r.trace(), *base_->notes, whileItMoves) &&
                 std::abs(c.harm - base_->harm) < 0.01;
    const auto still = std::find_if(aims.begin(), aims.end(),
                                    [](const watch::AimResult& a) { return a.status == watch::AimStatus::unmet; });
    if (c.noEffect)
        c.comes = "nothing that is read comes out otherwise";
    else if (still == aims.end() && !r.over())
        c.comes = base_->leads ? "every aim is met" : "it comes out better";
    else if (c.reaches)
        c.comes = fmt::format("that is met; then: {}", still->verdict.sentence());
    else
        c.comes = c.harm < base_->harm * (1.0 - same) ? "it comes out less badly" : "it comes to the same";
    if (c.comes.ends_with('.'))
        c.comes.pop_back();
    if (base_->leads && c.reaches && r.phase() >= Phase::climb && r.phase() <= Phase::cruise)
        c.comes += fmt::format("; it is at {}", format(r.state().height, *base_->notes->cockpit.height));
    if (reference_ && !c.noEffect && c.harm < base_->harm - worthTelling && (!best_ || c.harm < bestHarm_)) {
        bestHarm_ = c.harm;
        best_ = std::move(c.branch);
    }
    c.branch.reset();
    c.rest.clear();
    return true;
}

void Mending::into(Debrief& d) const {
    const std::lock_guard guard(lock_);
    d.mended.clear();
    for (const auto& c : candidates_) {
        if (!c->isFlown)
            continue;
        if (c->noEffect) {
            if (c->drillAct)
                for (std::size_t i = *c->drillAct; i < d.acts.size(); ++i) {
                    const auto &a = d.acts[*c->drillAct], &b = d.acts[i];
                    if (b.phase != a.phase || b.control != a.control || b.to != a.to || b.done != a.done)
                        break;
                    d.acts[i].noEffect = true;
                }
            continue;
        }
        const double better = base_->harm > 0 ? std::clamp((base_->harm - c->harm) / base_->harm, -1.0, 1.0) : 0.0;
        if (better <= same || base_->harm - c->harm < worthTelling)
            continue;
        if (c->extra)
            d.extras[*c->extra].harmful = true;
        if (c->drillAct && isWell(d.acts[*c->drillAct]))
            d.acts[*c->drillAct].harmful = true;
        d.mended.push_back(
            {c->words, c->comes, c->reaches, better, c->at, c->drillAct, c->extra, c->phase, c->control, c->engine});
    }
    std::stable_sort(d.mended.begin(), d.mended.end(), [](const Mended& a, const Mended& b) {
        // Of two that do, what was done before the phase that only waits longer.
        return a.reaches != b.reaches                       ? a.reaches
               : a.phase.has_value() != b.phase.has_value() ? b.phase.has_value()
                                                            : a.better > b.better + same;
    });
    d.counted = flown_ >= candidates_.size();
    if (!besides_ || d.mended.empty())
        return;
    besides_->into(*besidesOf_);
    if (besidesOf_->mended.empty())
        return;
    Mended second = besidesOf_->mended.front();
    second.besides = true;
    second.drillAct.reset();
    second.extra.reset();
    if (!second.act.empty())
        second.act = "Besides, " + std::string(1, ascii::lower(second.act.front())) + second.act.substr(1);
    d.mended.insert(d.mended.begin() + 1, std::move(second));
}

void mend(const Rehearsal& r, const hand::HandRun& reference, Debrief& d) {
    Mending all(r, d, &reference);
    while (all.flyNext())
        continue;
    all.into(d);
}

} // namespace amber::rehearse
