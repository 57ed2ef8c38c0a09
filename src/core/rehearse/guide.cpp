// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/guide.h"
#include "cockpit/controls.h"
#include "units/ascii.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::rehearse {
namespace {
constexpr double mostOfDose = 0.8; // of a dose: the next stroke would be too much
constexpr double onHeight = 1.0;   // m

double seconds(Milliseconds from, Milliseconds to) {
    return static_cast<double>(to - from) / 1000.0;
}
double read(const Rehearsal& r, Gauge gauge, std::size_t engine) {
    if (gauge == Gauge::height)
        return r.state().height;
    if (gauge == Gauge::airspeed)
        return r.state().ias;
    return r.readings().engines[engine][gauge];
}
} // namespace

Guide::Guide(const TypeNotes& notes, const hand::HandRun& reference, Phase from, Drill drill)
    : notes_(&notes), drill_(drill) {
    const std::size_t engines = notes.engineCount();
    strokes_.assign(engines, 0.0);
    Phase phase = from;
    const auto beganAt = [&](Phase p) {
        return p > Phase::walkRound ? reference[static_cast<Phase>(static_cast<int>(p) - 1)].time : 0.0;
    };
    const auto moment = [&](Ask& ask, Phase p, double time, double height) {
        if (p == Phase::takeOff || p == Phase::climb)
            ask.above = height;
        else if (p == Phase::letDown || p == Phase::landing)
            ask.below = height;
        else if (p == Phase::warmUp || p == Phase::cruise || p == Phase::stop)
            ask.after = time - beganAt(p);
    };
    const auto turnTo = [&](Phase next) {
        while (phase < next) {
            Ask ask;
            moment(ask, phase, reference[phase].time, reference[phase].height);
            ask.phase = phase = static_cast<Phase>(static_cast<int>(phase) + 1);
            ask.begins = true;
            asks_.push_back(std::move(ask));
        }
    };
    for (const auto& done : reference.done) {
        if (done.phase < from && phase == from) {
            // What is started again in the middle of the stop belongs to the stop.
            if (done.time < beganAt(from))
                continue;
        } else if (done.phase > phase)
            turnTo(done.phase);
        Ask ask;
        ask.phase = phase;
        ask.step = done.step;
        ask.wait = done.wait;
        ask.engines = done.engines;
        for (std::size_t i = 0; i < done.puts; ++i)
            if (const auto& put = reference.put[done.firstPut + i]; !put.linked && !noStrokes(put, notes))
                ask.puts.push_back(put);
        for (std::size_t e = 0; e < engines; ++e)
            if (!done.engine.empty() && notes.positions[e].id == done.engine)
                ask.turn = static_cast<int>(e);
        if (done.later)
            moment(ask, phase, done.time, done.height);
        if (!ask.puts.empty() || ask.wait.gauge || ask.wait.lasts > 0)
            asks_.push_back(std::move(ask));
    }
    turnTo(Phase::stop);
    for (std::size_t e = 0; e < engines; ++e) {
        Ask rest;
        rest.phase = Phase::start;
        rest.engines = {e};
        rest.turn = static_cast<int>(e);
        rest.wait.lasts = notes.start.rest.si();
        for (std::size_t c = 0; c < notes.controls.size(); ++c)
            if (std::find(hand::startingControls.begin(), hand::startingControls.end(), notes.controls[c].acts) !=
                hand::startingControls.end())
                if (const auto& positions = notes.controls[c].positions; !positions.empty()) {
                    hand::Put put;
                    put.control = c;
                    put.engine = e;
                    put.to.position = positions.front().is;
                    rest.puts.push_back(std::move(put));
                }
        rest_.push_back(std::move(rest));
    }
    places_.push_back({});
}

void Guide::prime(const Act& act) {
    if (notes_->controls[act.control].acts == Acts::primer)
        for (std::size_t e = 0; e < strokes_.size(); ++e)
            if (act.engine < 0 || static_cast<std::size_t>(act.engine) == e)
                strokes_[e] += act.strokes;
}

bool Guide::stands(const hand::Put& put, const Rehearsal& r) const {
    const hand::At& s = r.hands().at(put.control, put.engine);
    const Control& control = notes_->controls[put.control];
    if (control.acts == Acts::primer && put.to.position.empty())
        return strokes_[put.engine] >= mostOfDose * put.to.doses;
    if (standsAs(control, put.to, s)) // held to a figure, the needle will follow
        return true;
    return control.acts == Acts::throttle && put.to.si && put.to.position.empty() &&
           isNear(read(r, put.to.dimension == Dimension::rotation ? Gauge::rpm : Gauge::boost, put.engine), *put.to.si);
}

bool Guide::isDue(const Rehearsal& r) const {
    const Ask& ask = asks_[at_];
    return !(ask.after && seconds(r.phaseBegan(), r.now()) < *ask.after - 0.05) &&
           !(ask.above && r.state().height < *ask.above - onHeight) &&
           !(ask.below && r.state().height > *ask.below + onHeight);
}

bool Guide::reads(const Ask& ask, const Rehearsal& r) const {
    return std::all_of(ask.engines.begin(), ask.engines.end(), [&](std::size_t e) {
        const double now = read(r, *ask.wait.gauge, e);
        return std::isnan(now) || (ask.wait.above ? now >= ask.wait.level : now <= ask.wait.level);
    });
}

void Guide::go(const Rehearsal& r, std::size_t to) {
    at_ = to;
    came_ = r.now();
    put_ = rests_ = wrong_ = false;
    strokes_.assign(strokes_.size(), 0.0);
}

void Guide::toPhase(const Rehearsal& r, Phase phase) {
    const auto found =
        std::find_if(asks_.begin(), asks_.end(), [&](const Ask& a) { return a.begins && a.phase == phase; });
    const auto after = found == asks_.end() ? 0 : static_cast<std::size_t>(found - asks_.begin()) + 1;
    inVain_.clear();
    go(r, after);
}

void Guide::hear(const Rehearsal& r) {
    for (; seen_ < r.acts().size(); ++seen_) {
        const Act& act = r.acts()[seen_];
        if (act.kind == Act::Kind::phase)
            toPhase(r, act.phase);
        if (act.kind == Act::Kind::control)
            prime(act);
        if (act.kind == Act::Kind::answer)
            answer(r, seen_);
    }
}

void Guide::answer(const Rehearsal& r, std::size_t act) {
    if (put_ || at_ >= asks_.size() || !isItem(current()) || !isDue(r))
        return; // nothing was challenged
    const Ask& ask = current();
    if (r.acts()[act].item != ask.step || r.acts()[act].engine != ask.turn)
        return; // it answers another item
    ItemAnswered out{r.acts()[act].at, act, ask.phase, challenge(ask, *notes_), {}, {}, false, wrong_};
    // All engines alike are told once, else each.
    const auto words = [&](const auto& of) {
        std::vector<std::string> all;
        for (const auto& put : ask.puts)
            all.push_back(of(put));
        if (std::all_of(all.begin(), all.end(), [&](const std::string& one) { return one == all.front(); }))
            all.resize(1);
        return fmt::format("{}", fmt::join(all, ", "));
    };
    const auto wanting = this->wanting(r);
    out.right = wanting.empty();
    const auto& told = out.right ? ask.puts : wanting;
    out.stood = words([&](const hand::Put& put) {
        const Control& c = notes_->controls[put.control];
        return c.acts == Acts::primer && put.to.position.empty()
                   ? fmt::format("{} strokes", formatNumber(strokes_[put.engine], 0))
                   : r.stands(put.control, put.engine);
    });
    std::vector<std::string> wanted;
    for (const auto& put : told)
        if (const auto text = whereTo(actOf(put), *notes_); wanted.empty() || wanted.back() != text)
            wanted.push_back(text);
    out.wanted = fmt::format("{}", fmt::join(wanted, ", "));
    if (out.right) {
        put_ = true;
        done_ = r.now();
    }
    wrong_ = !out.right;
    answered_.push_back(std::move(out));
}

void Guide::follow(const Rehearsal& r) {
    hear(r);
    while (at_ < asks_.size()) {
        const Ask& ask = current();
        if (ask.begins || (!rests_ && !isDue(r)))
            break;
        if (!put_) {
            if (isItem(ask) || !wanting(r).empty())
                break;
            put_ = true;
            done_ = r.now();
        }
        if (seconds(done_, r.now()) < ask.wait.lasts - 0.05)
            break;
        if (ask.wait.gauge && !reads(ask, r)) {
            if (ask.wait.within <= 0 || seconds(done_, r.now()) < ask.wait.within)
                break;
            // In vain: in the start its engine begins again, else the line goes on.
            const std::string otherwise = ask.wait.otherwise;
            std::size_t to = at_ + 1;
            const bool again = ask.phase == Phase::start && ask.turn >= 0;
            if (again)
                for (to = at_; to > 0 && asks_[to - 1].turn == ask.turn && asks_[to - 1].phase == Phase::start;)
                    --to;
            go(r, to);
            rests_ = again;
            inVain_ = otherwise;
            break;
        }
        if (rests_) { // the engine's own line begins again
            go(r, at_);
            continue;
        }
        const bool said = !ask.puts.empty();
        go(r, at_ + 1);
        if (said)
            inVain_.clear();
    }
    due_ = at_ < asks_.size() && (rests_ || isDue(r));
    if (const Place& p = places_.back();
        p.at != at_ || p.put != put_ || p.came != came_ || p.rests != rests_ || p.wrong != wrong_)
        places_.push_back({r.now(), r.acts().size(), at_, came_, done_, put_, rests_, wrong_, inVain_});
}

void Guide::back(const Rehearsal& r) {
    while (places_.size() > 1 && (places_.back().from > r.now() || places_.back().acts > r.acts().size()))
        places_.pop_back();
    const Place& p = places_.back();
    at_ = p.at;
    came_ = p.came;
    done_ = p.done;
    put_ = p.put;
    rests_ = p.rests;
    wrong_ = p.wrong;
    inVain_ = p.inVain;
    std::erase_if(answered_, [&](const ItemAnswered& a) { return a.act >= r.acts().size(); });
    strokes_.assign(strokes_.size(), 0.0);
    for (const Act& act : r.acts())
        if (act.kind == Act::Kind::control && act.at >= came_)
            prime(act);
    seen_ = r.acts().size();
    follow(r);
}

std::vector<hand::Put> Guide::wanting(const Rehearsal& r) const {
    std::vector<hand::Put> out;
    if (at_ < asks_.size())
        for (const auto& put : current().puts)
            if (!stands(put, r))
                out.push_back(put);
    return out;
}

std::optional<double> Guide::left(const Rehearsal& r) const {
    if (at_ >= asks_.size() || !put_)
        return std::nullopt;
    const auto& wait = current().wait;
    const double gone = seconds(done_, r.now());
    if (gone < wait.lasts)
        return wait.lasts - gone;
    return wait.gauge && wait.within > 0 ? std::optional{std::max(0.0, wait.within - gone)} : std::nullopt;
}

std::optional<advice::Figure> Guide::planned(std::size_t control, std::size_t engine) const {
    const auto of = [&](const Ask& ask) -> std::optional<advice::Figure> {
        for (const auto& put : ask.puts)
            if (put.control == control && put.engine == engine)
                return put.to;
        return std::nullopt;
    };
    if (at_ < asks_.size())
        if (auto figure = of(current()))
            return figure;
    for (std::size_t i = std::min(at_ + 1, asks_.size()); i-- > 0;)
        if (auto figure = of(asks_[i]))
            return figure;
    return std::nullopt;
}

ItemsAtOnce itemsAtOnce(const std::vector<ItemAnswered>& items) {
    ItemsAtOnce out;
    for (const auto& item : items)
        if (!item.again) {
            ++out.asked;
            out.well += item.right ? 1 : 0;
        }
    return out;
}

const Step* stepOf(const TypeNotes& n, const Ask& ask) {
    for (const Step& step : n.phase(ask.phase).steps)
        if (step.id == ask.step)
            return &step;
    return nullptr;
}

std::string said(const Ask& ask, const TypeNotes& n) {
    if (ask.begins)
        return fmt::format("{} begins", titleOf(ask.phase));
    if (ask.puts.empty())
        return "wait";
    // Control by control: all engines alike are one; engines that want different figures are told one by one.
    std::vector<std::string> parts;
    std::vector<std::size_t> told;
    for (const auto& put : ask.puts) {
        if (std::find(told.begin(), told.end(), put.control) != told.end())
            continue;
        told.push_back(put.control);
        std::vector<Act> acts;
        for (const auto& other : ask.puts)
            if (other.control == put.control)
                acts.push_back(actOf(other));
        const bool alike = std::all_of(acts.begin(), acts.end(),
                                       [&](const Act& a) { return whereTo(a, n) == whereTo(acts.front(), n); });
        if (alike && (!n.controls[put.control].each || acts.size() == n.engineCount())) {
            acts.resize(1);
            acts.front().engine = -1;
        }
        for (const auto& act : acts)
            parts.push_back(said(act, n));
    }
    return fmt::format("{}", fmt::join(parts, ", "));
}

std::string challenge(const Ask& ask, const TypeNotes& n) {
    std::vector<std::string> parts;
    for (const auto& put : ask.puts) {
        const std::string& name = n.controls[put.control].name;
        if (std::find(parts.begin(), parts.end(), name) == parts.end())
            parts.push_back(name);
    }
    const std::string whose = ask.turn < 0 || n.engineCount() < 2
                                  ? std::string{}
                                  : n.positions[static_cast<std::size_t>(ask.turn)].name + " ";
    return fmt::format("{}{}", whose, fmt::join(parts, ", "));
}

std::string answers(const Ask& ask, const TypeNotes& n) {
    return ask.puts.empty() ? std::string{} : cockpit::worker(n.controls[ask.puts.front().control], n.crew);
}

std::string waitsFor(const Ask& ask, const TypeNotes& n) {
    std::string out;
    if (ask.wait.lasts > 0)
        out = fmt::format("for {}", ask.wait.lasts < 120 ? fmt::format("{:.0f} s", ask.wait.lasts)
                                                         : formatMinutesSeconds(ask.wait.lasts));
    if (ask.wait.gauge) {
        std::string name(nameOf(*ask.wait.gauge).title);
        if (!name.empty())
            name[0] = ascii::lower(name[0]);
        out += fmt::format("{}until {} is {} {}", out.empty() ? "" : ", ", name, ask.wait.above ? "over" : "under",
                           format(ask.wait.level, n.unitOf(*ask.wait.gauge)));
        if (ask.wait.within > 0)
            out += fmt::format(", within {:.0f} s", ask.wait.within);
    }
    return out;
}

} // namespace amber::rehearse
