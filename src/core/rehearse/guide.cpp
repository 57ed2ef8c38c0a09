// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/guide.h"
#include "cockpit/controls.h"
#include "hand/needs.h"
#include "start/start_school.h"
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
/// Asks for the first of these positions that the control of an engine has. @return whether it has one
bool puts(Ask& ask, const TypeNotes& n, std::size_t engine, Acts acts, std::initializer_list<const char*> wanted) {
    const Control* c = cockpit::acting(n.controls, acts);
    if (!c)
        return false;
    for (const char* is : wanted)
        if (c->position(is)) {
            hand::Put one;
            one.control = static_cast<std::size_t>(c - n.controls.data());
            one.engine = engine;
            one.to.position = is;
            ask.puts.push_back(std::move(one));
            return true;
        }
    return false;
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
        if (done.step == hand::ofTheDay)
            continue;
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
        return r.state().engines[put.engine].firing ||
               std::max(strokes_[put.engine], given(r, put.engine)) >= mostOfDose * put.to.doses;
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
    put_ = wrong_ = false;
    reads_.clear();
    willNot_.clear();
    strokes_.assign(strokes_.size(), 0.0);
}

void Guide::toPhase(const Rehearsal& r, Phase phase) {
    const auto found =
        std::find_if(asks_.begin(), asks_.end(), [&](const Ask& a) { return a.begins && a.phase == phase; });
    const auto after = found == asks_.end() ? 0 : static_cast<std::size_t>(found - asks_.begin()) + 1;
    inVain_.clear();
    cure_.clear();
    cureAt_ = 0;
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
    if (put_ || need_ || at_ >= asks_.size() || !isItem(current()) || !isDue(r))
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

double Guide::given(const Rehearsal& r, std::size_t e) const {
    const double dose = r.powerplant().engine(e).doseMass();
    return dose > 0 ? r.state().engines[e].primed / dose : 0.0;
}

bool Guide::flooded(const Rehearsal& r, std::size_t e) const {
    const auto& s = r.state().engines[e];
    if (s.firing || given(r, e) < 1.0)
        return false;
    const start::Priming priming(start::startInForce(*notes_, r.sortie().choices));
    const auto metal = Temperature::si(s.headOrCoolant);
    return priming.vapourRatio(given(r, e), metal, r.sortie().day.fieldPressure()) > start::richestFiring;
}

void Guide::cure(const Rehearsal& r, std::size_t e, bool rests) {
    cure_.clear();
    cureAt_ = 0;
    if (rests)
        cure_.push_back(rest_[e]);
    if (!flooded(r, e))
        return;
    const TypeNotes& n = *notes_;
    const auto put = [&](Ask& ask, Acts acts, std::initializer_list<const char*> wanted) {
        return puts(ask, n, e, acts, wanted);
    };
    const auto ask = [&](std::string why) {
        Ask out;
        out.phase = Phase::start;
        out.engines = {e};
        out.turn = static_cast<int>(e);
        out.why = std::move(why);
        return out;
    };
    // No sparks, no more fuel, and air through it: as many turns as carry the surplus out.
    Ask off = ask("It is flooded: more fuel lies in it than fires.");
    put(off, Acts::ignition, {"off"});
    if (!put(off, Acts::mixture, {"cut-off"}))
        put(off, Acts::fuel, {"off"});
    put(off, Acts::pump, {"off"});
    cure_.push_back(std::move(off));
    Ask open = ask("Air carries the surplus out.");
    put(open, Acts::throttle, {"open"});
    cure_.push_back(std::move(open));
    const start::Priming priming(start::startInForce(n, r.sortie().choices));
    const double turns = priming.clearingRevolutions(given(r, e), Temperature::si(r.state().engines[e].headOrCoolant),
                                                     r.sortie().day.fieldPressure());
    const double time = std::clamp(turns / std::max(0.3, n.start.starter.warmRpm), 3.0, n.start.crankMost.si());
    Ask turn = ask(fmt::format("{:.0f} turns clear it.", turns));
    turn.wait.lasts = time;
    bool turned = false;
    for (const Acts acts : {Acts::starter, Acts::mesh, Acts::airValve})
        turned = put(turn, acts, {"on", "open", "swung"}) || turned;
    if (turned) {
        cure_.push_back(std::move(turn));
        Ask let = rest_[e];
        let.why = "The starter has its rest.";
        cure_.push_back(std::move(let));
    }
    Ask again = ask("As for a start again.");
    put(again, Acts::throttle, {"cracked", "closed"});
    cure_.push_back(std::move(again));
}

bool Guide::fire(const Rehearsal& r) {
    if (r.phase() != Phase::start)
        return false;
    const auto& engines = r.readings().engines;
    const auto burning = std::find_if(engines.begin(), engines.end(), [](const auto& e) { return e.signs.flames; });
    if (burning == engines.end())
        return false;
    const auto e = static_cast<std::size_t>(burning - engines.begin());
    if (burnt_ == static_cast<int>(e) && cures())
        return true; // it is being fought
    burnt_ = static_cast<int>(e);
    const TypeNotes& n = *notes_;
    Ask out;
    out.phase = Phase::start;
    out.engines = {e};
    out.turn = burnt_;
    const auto put = [&](Ask& ask, Acts acts, std::initializer_list<const char*> wanted) {
        return puts(ask, n, e, acts, wanted);
    };
    // The notes' school of the throttle is on the fire page; open draws in.
    Ask turn = out;
    turn.why = "Fire in the intake: kept turning with its fuel shut it is drawn in.";
    if (!put(turn, Acts::mixture, {"cut-off"}))
        put(turn, Acts::fuel, {"off"});
    put(turn, Acts::pump, {"off"});
    put(turn, Acts::throttle, {"open"});
    for (const Acts acts : {Acts::starter, Acts::mesh, Acts::airValve})
        put(turn, acts, {"on", "open", "swung"});
    constexpr double drawsIn = 10.0; // s
    turn.wait.lasts = drawsIn;
    Ask off = rest_[e];
    off.why = "Out it is not started again before it has been looked at.";
    off.wait.lasts = 0.0;
    put(off, Acts::ignition, {"off"});
    put(off, Acts::fuel, {"off"});
    cure_ = {std::move(turn), std::move(off)};
    cureAt_ = 0;
    go(r, at_);
    inVain_.clear();
    return true;
}

std::string Guide::whyNoPower(const Rehearsal& r) const {
    std::vector<std::string> out;
    const auto whose = [&](std::size_t e) {
        return notes_->engineCount() < 2 ? std::string("the engine") : notes_->positions[e].name;
    };
    for (std::size_t e = 0; e < notes_->engineCount(); ++e) {
        const auto& s = r.state().engines[e];
        const auto& story = r.stories()[e];
        if (!s.firing)
            out.push_back(std::isnan(story.stoppedAt) ? fmt::format("{} does not run", whose(e))
                                                      : fmt::format("{} has stopped: {}", whose(e), wordsOf(story.by)));
        else if (s.ice > 0.05)
            out.push_back(fmt::format("ice takes {:.0f} % of the air of {}{}", 100.0 * s.ice, whose(e),
                                      story.heated ? "" : ", and heat has not been used"));
    }
    if (!out.empty())
        return fmt::format("{}", fmt::join(out, "; "));
    const auto& phase = r.plan()[r.phase()];
    for (std::size_t e = 0; e < notes_->engineCount(); ++e) {
        const double boost = r.readings().engines[e][Gauge::boost], rpm = r.readings().engines[e][Gauge::rpm];
        if (const auto& planned = phase.setting.boost; planned && boost < 0.93 * planned->si())
            return fmt::format("{} gives {} where {} is planned", whose(e), format(boost, notes_->unitOf(Gauge::boost)),
                               format(planned->si(), notes_->unitOf(Gauge::boost)));
        if (phase.setting.rpm.si() > 0 && rpm < 0.9 * phase.setting.rpm.si())
            return fmt::format("{} turns {} where {} is planned", whose(e), format(rpm, notes_->unitOf(Gauge::rpm)),
                               format(phase.setting.rpm.si(), notes_->unitOf(Gauge::rpm)));
    }
    return "at this setting it no longer climbs";
}

std::string Guide::comesNot(const Rehearsal& r) const {
    if (r.over())
        return {};
    const Ask& ask = ofDrill();
    constexpr double heightWatched = 30.0, needleWatched = 90.0; // s
    const double gone = reads_.empty() ? 0.0 : seconds(reads_.front().at, r.now());
    const auto height = [&](double si) { return format(si, *notes_->cockpit.height); };
    if (!cures() && !isDue(r)) {
        if ((!ask.above && !ask.below) || gone < heightWatched)
            return {};
        auto before = reads_.begin();
        while (std::next(before) != reads_.end() && seconds(std::next(before)->at, r.now()) >= heightWatched)
            ++before;
        const double rate = (r.state().height - before->height) / std::max(1.0, seconds(before->at, r.now()));
        constexpr double leastRate = 0.15; // m/s
        if (ask.above && rate < leastRate)
            return fmt::format("{} will not come: {}.", height(*ask.above),
                               hand::FlightPath::isAirborne(r.hands().levers().path)
                                   ? fmt::format("it {} at {}; {}", rate < -leastRate ? "sinks" : "stays",
                                                 height(r.state().height), whyNoPower(r))
                                   : "it is on the ground; " + whyNoPower(r));
        if (ask.below && rate > -leastRate)
            return fmt::format("{} will not come: it {} at {}; less power lets it down.", height(*ask.below),
                               rate > leastRate ? "climbs" : "stays", height(r.state().height));
        return {};
    }
    if (!put_ || !ask.wait.gauge || ask.engines.empty())
        return {};
    for (const std::size_t e : ask.engines) {
        const double now = read(r, *ask.wait.gauge, e);
        if (std::isnan(now) || (ask.wait.above ? now >= ask.wait.level : now <= ask.wait.level))
            continue;
        const auto& unit = notes_->unitOf(*ask.wait.gauge);
        if (ask.phase > Phase::start && ask.phase < Phase::stop && !r.state().engines[e].firing &&
            *ask.wait.gauge != Gauge::height && *ask.wait.gauge != Gauge::airspeed && ask.wait.above)
            return fmt::format("{} will not come: {}.", format(ask.wait.level, unit), whyNoPower(r));
        if (ask.wait.within > 0 || gone < needleWatched)
            continue; // its time is bounded, or it has not been watched for long
        const double rate = (now - reads_.front().needle) / gone, wants = ask.wait.level - now;
        constexpr double longest = 3600.0; // s
        if (rate == 0.0 || wants / rate < 0.0 || wants / rate > longest)
            return fmt::format("{} {} will not come: it stays at {}. {}", nameOf(*ask.wait.gauge).title,
                               format(ask.wait.level, unit), format(now, unit),
                               ask.wait.above ? "A little more rpm, or flaps and coolers shut, bring it."
                                              : "Idle it with flaps open, or stop it as warm as it is.");
    }
    return {};
}

void Guide::lookAtDay(const Rehearsal& r) {
    need_.reset();
    if (r.over() || r.phase() < Phase::start || r.phase() > Phase::landing)
        return;
    const hand::Moment moment{r.phase(), r.state(), r.readings(), r.hands().levers()};
    auto all = hand::needs(r.powerplant(), moment);
    if (r.phase() == Phase::start)
        std::erase_if(all, [](const hand::Need& need) { return need.of != hand::NeedOf::jets; });
    // What the drill itself has a hand do with that control now comes first.
    std::erase_if(all, [&](const hand::Need& need) {
        const auto& asked = ofDrill().puts;
        return std::any_of(asked.begin(), asked.end(),
                           [&](const hand::Put& put) { return put.control == need.puts.front().control; });
    });
    if (all.empty())
        return;
    Ask ask;
    ask.phase = r.phase();
    ask.puts = std::move(all.front().puts);
    ask.engines = std::move(all.front().engines);
    ask.why = std::move(all.front().why);
    ask.ofDay = true;
    need_ = std::move(ask);
}

bool Guide::waitIsOver(const Rehearsal& r, const Ask& ask) {
    if (ask.wait.within > 0 && seconds(done_, r.now()) >= ask.wait.within)
        return true;
    // What cannot come is not waited for longer than a careful hand would.
    return !willNot_.empty() && seconds(done_, r.now()) >= flight::longestCoolDown;
}

void Guide::follow(const Rehearsal& r) {
    hear(r);
    if (r.over()) {
        at_ = asks_.size();
        need_.reset();
        willNot_.clear();
        return;
    }
    const bool burns = fire(r);
    while (at_ < asks_.size()) {
        // What has burnt is passed over: the next engine, or the end of the start.
        if (burnt_ >= 0 && !cures() && asks_[at_].phase == Phase::start && asks_[at_].turn == burnt_) {
            go(r, at_ + 1);
            continue;
        }
        if (burns && cureAt_ > 0) { // not out yet: it is kept turning
            cureAt_ = 0;
            go(r, at_);
        }
        const Ask& ask = ofDrill();
        if (ask.begins || (!cures() && !isDue(r)))
            break;
        if (!put_) {
            // Turned over with all that lies in it, it would not fire.
            if (!cures() && ask.phase == Phase::start && ask.turn >= 0 && r.phase() == Phase::start &&
                std::any_of(ask.puts.begin(), ask.puts.end(),
                            [&](const hand::Put& put) {
                                return notes_->controls[put.control].acts == Acts::ignition && put.to.position != "off";
                            }) &&
                flooded(r, static_cast<std::size_t>(ask.turn))) {
                cure(r, static_cast<std::size_t>(ask.turn), false);
                inVain_.clear();
                if (cures())
                    continue;
            }
            if (isItem(ask) ||
                !std::all_of(ask.puts.begin(), ask.puts.end(), [&](const hand::Put& put) { return stands(put, r); }))
                break;
            put_ = true;
            done_ = r.now();
        }
        // Strokes go in while the hand is on it: what lasts begins when they are given.
        if (std::any_of(ask.puts.begin(), ask.puts.end(), [&](const hand::Put& put) {
                return notes_->controls[put.control].acts == Acts::primer && put.to.position.empty() &&
                       r.hands().levers().engines[put.engine].primer > 0.0;
            })) {
            done_ = r.now();
            break;
        }
        if (seconds(done_, r.now()) < ask.wait.lasts - 0.05)
            break;
        if (ask.wait.gauge && !reads(ask, r)) {
            if (!waitIsOver(r, ask))
                break;
            // In vain: in the start its engine begins again, else the line goes on.
            const std::string otherwise =
                ask.wait.otherwise.empty() && !willNot_.empty() ? willNot_ : ask.wait.otherwise;
            std::size_t to = at_ + 1;
            const int turn = ask.turn;
            const bool again = ask.phase == Phase::start && turn >= 0;
            if (again)
                for (to = at_; to > 0 && asks_[to - 1].turn == turn && asks_[to - 1].phase == Phase::start;)
                    --to;
            go(r, to);
            if (again)
                cure(r, static_cast<std::size_t>(turn), true);
            inVain_ = otherwise;
            break;
        }
        if (cures()) { // then the engine's own line goes on
            ++cureAt_;
            go(r, at_);
            continue;
        }
        const bool said = !ask.puts.empty();
        go(r, at_ + 1);
        if (said)
            inVain_.clear();
    }
    due_ = at_ < asks_.size() && (cures() || isDue(r));
    if (at_ < asks_.size()) {
        lookAtDay(r);
        if (r.now() % 1000 == 0) {
            const Ask& ask = ofDrill();
            reads_.push_back(
                {r.now(), r.state().height,
                 ask.wait.gauge && !ask.engines.empty() ? read(r, *ask.wait.gauge, ask.engines.front()) : 0.0});
            constexpr std::size_t kept = 180;
            if (reads_.size() > kept)
                reads_.pop_front();
            willNot_ = comesNot(r);
        }
    } else {
        need_.reset();
        willNot_.clear();
    }
    if (const Place& p = places_.back(); p.at != at_ || p.put != put_ || p.came != came_ || p.cureAt != cureAt_ ||
                                         p.cure.size() != cure_.size() || p.wrong != wrong_)
        places_.push_back({r.now(), r.acts().size(), at_, came_, done_, put_, wrong_, inVain_, cure_, cureAt_, burnt_});
}

void Guide::back(const Rehearsal& r) {
    while (places_.size() > 1 && (places_.back().from > r.now() || places_.back().acts > r.acts().size()))
        places_.pop_back();
    const Place& p = places_.back();
    at_ = p.at;
    came_ = p.came;
    done_ = p.done;
    put_ = p.put;
    cure_ = p.cure;
    cureAt_ = p.cureAt;
    burnt_ = p.burnt;
    reads_.clear();
    willNot_.clear();
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
            if (!stands(put, r)) {
                out.push_back(put);
                // What lies in it already is not given again.
                if (auto& to = out.back().to; notes_->controls[put.control].acts == Acts::primer &&
                                              to.position.empty() && to.doses > 0 && given(r, put.engine) > 0.5) {
                    const double more = std::max(1.0, std::round(to.doses - given(r, put.engine)));
                    to.si = to.si.value_or(0.0) * more / to.doses;
                    to.doses = more;
                }
            }
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
