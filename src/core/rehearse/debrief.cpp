// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/debrief.h"
#include "cockpit/controls.h"
#include "drills/state.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <map>
#include <set>

namespace amber::rehearse {
namespace {
constexpr double never = std::numeric_limits<double>::quiet_NaN();

/// One control of one engine put somewhere, by whoever.
struct Deed {
    std::size_t control = 0, engine = 0;
    advice::Figure to;
    double at = 0.0; ///< s, of the rehearsal; of what is asked for, since its phase began
    std::string words{};
    std::size_t act = 0; ///< index, of the person's
    hand::Put put{};     ///< of what is asked for
    double due = 0.0;    ///< s since its phase began: its own waits and those before it
    bool later = false;  ///< it waits for a height, a time or the end of its phase
};
hand::At placeOf(const advice::Figure& figure) {
    return {figure.position, figure.share, figure.si};
}
/// Whether what was done is what was asked for. Of a throttle put at a place by a hand that watches the needle, and of
/// strokes, only that it was done.
bool alike(const Deed& asked, const Deed& done, const TypeNotes& n) {
    if (asked.control != done.control || asked.engine != done.engine)
        return false;
    const Control& c = n.controls[asked.control];
    if (asked.to.position.empty() && done.to.position.empty() &&
        ((c.acts == Acts::throttle && done.to.share) || c.acts == Acts::primer))
        return true;
    return standsAs(c, asked.to, placeOf(done.to));
}
/// Where every control of every engine stands as deeds follow each other.
class Stands {
public:
    explicit Stands(const TypeNotes& n) : n_(&n) {
        const cockpit::State found(n);
        for (std::size_t c = 0; c < n.controls.size(); ++c)
            for (std::size_t e = 0; e < n.engineCount(); ++e)
                at_.push_back({found.of(c, e).target.word, {}, {}});
    }
    void put(const Deed& d) {
        if (n_->controls[d.control].acts != Acts::primer || !d.to.position.empty())
            at_[d.control * n_->engineCount() + d.engine] = placeOf(d.to);
    }
    [[nodiscard]] bool so(const Deed& asked) const {
        return standsAs(n_->controls[asked.control], asked.to, at_[asked.control * n_->engineCount() + asked.engine]);
    }

private:
    const TypeNotes* n_;
    std::vector<hand::At> at_;
};

/// Whether the needle of a throttle's figure read it at any moment of the phase: nothing had to be done.
bool wasRead(const Rehearsal& r, Phase phase, const Deed& asked, const TypeNotes& n) {
    if (n.controls[asked.control].acts != Acts::throttle || !asked.to.si || !asked.to.position.empty())
        return false;
    const Gauge gauge = asked.to.dimension == Dimension::rotation ? Gauge::rpm : Gauge::boost;
    double before = never;
    return std::any_of(r.trace().begin(), r.trace().end(), [&](const Kept& k) {
        if (k.phase != phase)
            return false;
        const double now = k.engines[asked.engine][gauge];
        const bool passed = (before - *asked.to.si) * (now - *asked.to.si) <= 0.0; // between two seconds
        before = now;
        return passed || isNear(now, *asked.to.si);
    });
}

/// The longest order that both have: which of `asked` were done in turn, by the classic table of lengths.
std::vector<int> inBoth(const std::vector<Deed>& asked, const std::vector<Deed>& done, const TypeNotes& notes) {
    const std::size_t n = asked.size(), m = done.size();
    std::vector<std::vector<std::uint16_t>> table(n + 1, std::vector<std::uint16_t>(m + 1));
    for (std::size_t i = n; i-- > 0;)
        for (std::size_t j = m; j-- > 0;)
            table[i][j] = alike(asked[i], done[j], notes) ? static_cast<std::uint16_t>(table[i + 1][j + 1] + 1)
                                                          : std::max(table[i + 1][j], table[i][j + 1]);
    std::vector<int> out(n, -1);
    for (std::size_t i = 0, j = 0; i < n && j < m;) {
        if (alike(asked[i], done[j], notes))
            out[i++] = static_cast<int>(j++);
        else if (table[i + 1][j] > table[i][j + 1])
            ++i; // at odds the earlier one asked for is kept
        else
            ++j;
    }
    return out;
}
/// Doses of the priming that an act belongs to: strokes given one by one are one.
double dosesAround(const std::vector<Deed>& own, std::size_t index) {
    constexpr double together = 60.0; // s
    double sum = own[index].to.doses;
    const auto same = [&](std::size_t j) {
        return own[j].control == own[index].control && own[j].engine == own[index].engine;
    };
    double last = own[index].at;
    for (std::size_t j = index; j-- > 0;)
        if (same(j) && last - own[j].at <= together) {
            sum += own[j].to.doses;
            last = own[j].at;
        }
    last = own[index].at;
    for (std::size_t j = index + 1; j < own.size(); ++j)
        if (same(j) && own[j].at - last <= together) {
            sum += own[j].to.doses;
            last = own[j].at;
        }
    return sum;
}
/// How far an act that was done is off what the day wants; empty: as near as it need be.
std::string offBy(const Rehearsal& r, Phase phase, const Deed& asked, const std::vector<Deed>& own, std::size_t done) {
    const TypeNotes& n = r.powerplant().aircraft().notes;
    const Control& c = n.controls[asked.control];
    const Deed& mine = own[done];
    if (c.acts == Acts::primer && asked.to.position.empty() && asked.to.doses > 0) {
        const EngineStory& story = r.stories()[asked.engine];
        const double given = dosesAround(own, done);
        const double low = std::max(std::ceil(story.fireLow), 0.6 * asked.to.doses);
        const double high = std::min(story.fireHigh, 1.6 * std::max(asked.to.doses, story.wanted));
        // Started again in the middle of the stop it is another engine, warm: what was asked is the measure.
        if (phase != Phase::start && given >= 0.6 * asked.to.doses && given <= 1.6 * asked.to.doses)
            return {};
        if (story.unit.empty() || (given >= low - 0.05 && given <= high + 0.05))
            return {};
        return fmt::format("{:.0f} for {:.0f} {} ({:.0f} to {:.0f} fire)", given, asked.to.doses, story.unit,
                           std::ceil(story.fireLow), std::floor(story.fireHigh));
    }
    if (c.acts == Acts::throttle && asked.to.si && asked.to.position.empty() && mine.to.share &&
        !wasRead(r, phase, asked, n)) {
        const Gauge gauge = asked.to.dimension == Dimension::rotation ? Gauge::rpm : Gauge::boost;
        double nearest = never;
        for (const auto& k : r.trace())
            if (k.phase == phase && static_cast<double>(k.at) / 1000.0 >= mine.at)
                if (const double read = k.engines[asked.engine][gauge];
                    std::isnan(nearest) || std::abs(read - *asked.to.si) < std::abs(nearest - *asked.to.si))
                    nearest = read;
        if (!std::isnan(nearest))
            return fmt::format("{} for {}", format(nearest, n.unitOf(gauge)), asked.words);
    }
    return {};
}
/// What the day may want at its own time: standing so already when the drill comes to it is as good.
bool ofTheDay(Acts acts) {
    return acts == Acts::carburettorAir || acts == Acts::coolingFlap || acts == Acts::fuel;
}
} // namespace

Debrief debrief(const Rehearsal& r, const hand::HandRun& reference) {
    const TypeNotes& n = r.powerplant().aircraft().notes;
    Debrief out;
    out.seconds = static_cast<double>(r.now()) / 1000.0;
    out.fuel = r.fuelBurnt();
    out.findings = r.findings();
    out.costs = r.spent();
    out.over = r.over();
    out.stories = r.stories();
    out.unmet = unmet(r, true);
    for (const auto& aim : r.aims(true))
        out.aimsMet += aim.status == watch::AimStatus::met ? 1 : 0;
    for (std::size_t i = static_cast<std::size_t>(r.setup().from); i <= static_cast<std::size_t>(r.phase()); ++i) {
        out.plannedSeconds += r.plan()[static_cast<Phase>(i)].duration;
        out.plannedFuel += r.plan()[static_cast<Phase>(i)].fuel;
    }
    out.last = r.phase();

    // What was asked for: each act of the careful hand's drill in the phases that were come to.
    std::map<Phase, std::vector<Deed>> asked, done;
    const Phase first = r.setup().from, last = r.phase();
    Stands theirs(n), mine(n); // of the hand, and of the person
    Phase phaseOf = Phase::walkRound;
    double waited = 0.0;
    for (const auto& d : reference.done) {
        if (d.step == hand::ofTheDay)
            continue; // not the drill's
        if (d.phase > phaseOf)
            waited = 0.0;
        phaseOf = std::max(phaseOf, d.phase); // what is started again in the middle of the stop belongs to it
        const double due = waited;
        waited += d.waited;
        for (std::size_t i = 0; i < d.puts; ++i) {
            const auto& p = reference.put[d.firstPut + i];
            if (p.linked || noStrokes(p, n))
                continue;
            const double began =
                phaseOf > Phase::walkRound ? reference[static_cast<Phase>(static_cast<int>(phaseOf) - 1)].time : 0.0;
            Deed deed{p.control, p.engine, p.to, d.time - began, whereTo(actOf(p), n), 0, p, due, d.later};
            if (phaseOf < first) {
                theirs.put(deed);
                mine.put(deed);
            } else if (phaseOf <= last)
                asked[phaseOf].push_back(std::move(deed));
        }
    }
    Phase phase = first;
    std::map<Phase, double> phaseBegan{{first, 0.0}};
    for (const auto& a : r.acts()) {
        if (a.kind == Act::Kind::phase)
            phaseBegan[a.phase] = static_cast<double>(a.at) / 1000.0;
        if (a.kind == Act::Kind::phase)
            phase = a.phase;
        if (a.kind != Act::Kind::control)
            continue;
        const auto figure = figureOf(a);
        for (std::size_t e = 0; e < r.powerplant().count(); ++e)
            if (a.engine < 0 || static_cast<std::size_t>(a.engine) == e)
                done[phase].push_back({a.control,
                                       e,
                                       figure,
                                       static_cast<double>(a.at) / 1000.0,
                                       {},
                                       static_cast<std::size_t>(&a - r.acts().data())});
    }

    // One act of several engines is one.
    const auto extra = [&](Phase p, const Deed& deed) {
        // Heat against ice, and another tank, are the day's.
        const Acts acts = n.controls[deed.control].acts;
        const bool iced = std::any_of(r.stories().begin(), r.stories().end(),
                                      [](const EngineStory& s) { return !std::isnan(s.iceFrom); });
        if ((acts == Acts::carburettorAir && iced) || (acts == Acts::fuel && deed.to.position != "off"))
            return;
        // Nor is what the careful hand did there by the plan's clock, between the acts of its drill.
        const auto index = static_cast<std::size_t>(p);
        const std::size_t begin = index > 0 ? reference.ends[index - 1].put : 0, end = reference.ends[index].put;
        for (std::size_t i = begin; i < end && i < reference.put.size(); ++i)
            if (const auto& put = reference.put[i]; put.control == deed.control && put.engine == deed.engine &&
                                                    standsAs(n.controls[put.control], put.to, placeOf(deed.to)))
                return;
        if (out.extras.empty() || out.extras.back().act != deed.act)
            out.extras.push_back({p, deed.act, said(r.acts()[deed.act], n), deed.at});
    };
    constexpr double lateFrom = 40.0;  // s
    constexpr double asksAfter = 20.0; // s that a hand may take for what is due
    const double inLast = static_cast<double>(r.now() - r.phaseBegan()) / 1000.0;
    for (const auto& [p, wanted] : asked) {
        const auto& own = done[p];
        const auto turn = inBoth(wanted, own, n);
        std::set<std::size_t> used;
        for (const int j : turn)
            if (j >= 0)
                used.insert(static_cast<std::size_t>(j));
        int lastTurn = -1; // of mine, of the act in turn before this one
        std::optional<std::pair<double, double>> before{{phaseBegan[p], 0.0}}; // when it was done, and by the drill
        for (std::size_t i = 0; i < wanted.size(); ++i) {
            DrillAct act;
            act.phase = p;
            act.control = wanted[i].control;
            act.engine = wanted[i].engine;
            act.to = wanted[i].words;
            act.at = never;
            act.asked = wanted[i].put;
            act.due = phaseBegan[p] + (wanted[i].later ? wanted[i].at : wanted[i].due);
            if (turn[i] >= 0) {
                act.done = DrillAct::Done::inTurn;
                const auto mineAt = static_cast<std::size_t>(turn[i]);
                act.at = own[mineAt].at;
                act.act = own[mineAt].act;
                if (act.by = offBy(r, p, wanted[i], own, mineAt); !act.by.empty())
                    act.done = DrillAct::Done::wrong;
                for (; lastTurn < turn[i]; ++lastTurn)
                    mine.put(own[static_cast<std::size_t>(lastTurn + 1)]);
            } else if (mine.so(wanted[i]) && theirs.so(wanted[i])) {
                act.done = DrillAct::Done::stood; // the drill only makes sure of it
            } else {
                for (std::size_t j = 0; j < own.size(); ++j)
                    if (!used.contains(j) && alike(wanted[i], own[j], n)) {
                        used.insert(j);
                        act.done = static_cast<int>(j) > lastTurn                 ? DrillAct::Done::late
                                   : ofTheDay(n.controls[wanted[i].control].acts) ? DrillAct::Done::stood
                                                                                  : DrillAct::Done::early;
                        act.at = own[j].at;
                        act.act = own[j].act;
                        break;
                    }
                if (act.done == DrillAct::Done::leftOut)
                    for (const auto& [other, deeds] : done)
                        if (other != p && act.done == DrillAct::Done::leftOut)
                            for (const auto& d : deeds)
                                if (alike(wanted[i], d, n) &&
                                    std::abs(static_cast<int>(other) - static_cast<int>(p)) == 1) {
                                    act.done = ofTheDay(n.controls[wanted[i].control].acts) && other < p
                                                   ? DrillAct::Done::stood
                                                   : DrillAct::Done::another;
                                    act.at = d.at;
                                    act.act = d.act;
                                    break;
                                }
                if (act.done == DrillAct::Done::leftOut && mine.so(wanted[i]))
                    act.done = DrillAct::Done::stood;
                // Put, but elsewhere.
                for (std::size_t j = 0; act.done == DrillAct::Done::leftOut && j < own.size(); ++j)
                    if (!used.contains(j) && own[j].control == wanted[i].control && own[j].engine == wanted[i].engine &&
                        static_cast<int>(j) > lastTurn) {
                        used.insert(j);
                        act.done = DrillAct::Done::wrong;
                        act.at = own[j].at;
                        act.act = own[j].act;
                        act.by = fmt::format("{} for {}", whereTo(r.acts()[own[j].act], n), act.to);
                    }
                if (act.done == DrillAct::Done::leftOut && wasRead(r, p, wanted[i], n))
                    act.done = DrillAct::Done::stood;
            }
            theirs.put(wanted[i]);
            // What comes later in a phase that still goes on has not been asked for yet.
            if (act.done == DrillAct::Done::leftOut && p == last &&
                (wanted[i].later ? wanted[i].at > inLast : wanted[i].due + asksAfter > inLast))
                continue;
            if (act.act && before && act.done == DrillAct::Done::inTurn) {
                const double late = (act.at - before->first) - (wanted[i].at - before->second);
                act.lateBy = late > lateFrom ? late : 0.0;
                act.earlyBy =
                    p == Phase::start && -late > std::max(3.0, 0.3 * (wanted[i].at - before->second)) ? -late : 0.0;
            }
            if (!std::isnan(act.at) && act.done == DrillAct::Done::inTurn)
                before = {act.at, wanted[i].at};
            out.inTurn += act.done == DrillAct::Done::inTurn ? 1 : 0;
            out.stood += act.done == DrillAct::Done::stood ? 1 : 0;
            out.acts.push_back(std::move(act));
        }
        for (; lastTurn + 1 < static_cast<int>(own.size()); ++lastTurn)
            mine.put(own[static_cast<std::size_t>(lastTurn + 1)]);
        for (std::size_t j = 0; j < own.size(); ++j)
            if (!used.contains(j))
                extra(p, own[j]);
    }
    for (const auto& [p, own] : done)
        if (!asked.contains(p))
            for (const auto& deed : own)
                extra(p, deed);
    out.asked = out.acts.size();

    for (const auto& c : r.came()) {
        FaultMet met{c, std::nullopt, {}, "", 0.0};
        for (const auto& a : r.acts()) {
            if (a.at < c.at)
                continue;
            const double after = static_cast<double>(a.at - c.at) / 1000.0;
            if (a.kind == Act::Kind::call && !met.called &&
                (a.engine < 0 || static_cast<std::size_t>(a.engine) == c.engine)) {
                const bool another = std::any_of(r.came().begin(), r.came().end(), [&](const Came& other) {
                    return other.fault == a.called && other.at <= a.at &&
                           (a.engine < 0 || static_cast<std::size_t>(a.engine) == other.engine);
                });
                if (a.called == c.fault)
                    met.called = after;
                else if (!another) // another that has come is rightly called
                    met.wrongly.push_back(a.called);
            }
            if (a.kind == Act::Kind::control && met.first.empty()) {
                met.first = said(a, n);
                met.firstAfter = after;
            }
        }
        out.faults.push_back(std::move(met));
    }
    return out;
}

} // namespace amber::rehearse
