// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/session.h"
#include "cockpit/controls.h"
#include "powerplant/generator.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <set>

namespace amber::rehearse {
namespace {
using powerplant::shortStep;
constexpr double longestStall = 0.25;           // s of real time that is made good, no more
constexpr Milliseconds farthest = 6 * 3600'000; // that a jump looks for an act
constexpr Milliseconds asksEvery = 10'000;
constexpr Milliseconds littleByLittle = 2'000;   // between two moves of one hand
constexpr double soonest = 60.0, latest = 240.0; // s between two questions
constexpr double hair = 1e-9;                    // s, of sums
constexpr double leastFlow = 1e-9;               // m³/s: under it nothing is burnt
constexpr double felt = 0.12;                    // of shaking
} // namespace

std::string_view nameOf(Way way) {
    return way == Way::led        ? "guided"
           : way == Way::alone    ? "unprompted"
           : way == Way::examined ? "check"
                                  : "challenged";
}

Session::Session(std::shared_ptr<const powerplant::Aircraft> aircraft, Sortie sortie, flight::Flown plan, Setup setup,
                 Way way, std::shared_ptr<const hand::HandRun> reference)
    : aircraft_(std::move(aircraft)), sortie_(std::move(sortie)), plan_(std::move(plan)),
      reference_(reference ? std::move(reference)
                           : std::make_shared<const hand::HandRun>(
                                 hand::doDrill(*aircraft_, sortie_, plan_, hand::byThePlansClock))),
      rehearsal_(*aircraft_, sortie_, plan_, std::move(setup)),
      guide_(aircraft_->notes, *reference_, rehearsal_.setup().from,
             way == Way::challenged ? Drill::challenged : Drill::followed),
      way_(way) {
    rehearsal_.onAct([this] { guide_.follow(rehearsal_); });
    guide_.follow(rehearsal_);
    questions_ = questionsOf(aircraft_->notes);
    drawQuestion();
}

void Session::drawQuestion() {
    if (questions_.empty())
        return;
    // Each question once before any comes again: a step through them that meets all, from a drawn place.
    const auto draw = [&](std::uint64_t what) {
        return powerplant::uniformAt(rehearsal_.setup().seed, 2'000 + what, asked_.size());
    };
    std::set<std::size_t> was;
    for (const auto& a : asked_)
        was.insert(a.question);
    if (was.size() >= questions_.size())
        was.clear();
    nextQuestion_ =
        std::min(questions_.size() - 1, static_cast<std::size_t>(draw(1) * static_cast<double>(questions_.size())));
    while (was.contains(nextQuestion_))
        nextQuestion_ = (nextQuestion_ + 1) % questions_.size();
    questionAt_ = rehearsal_.now() +
                  static_cast<Milliseconds>(std::llround((soonest + draw(2) * (latest - soonest)) * 10.0)) * shortStep;
}

std::optional<std::size_t> Session::question() const {
    if (way_ != Way::examined || questions_.empty() || rehearsal_.now() < questionAt_)
        return std::nullopt;
    // Hands are not held up while something is wrong that has not been called.
    for (const auto& came : rehearsal_.came())
        if (std::none_of(rehearsal_.acts().begin(), rehearsal_.acts().end(), [&](const Act& a) {
                return a.kind == Act::Kind::call && a.called == came.fault && a.at >= came.at;
            }))
            return std::nullopt;
    return nextQuestion_;
}

std::optional<bool> Session::answer(std::string_view text) {
    const auto now = question();
    if (!now)
        return std::nullopt;
    const auto right = isRight(questions_[*now], text);
    if (right) {
        asked_.push_back({rehearsal_.now(), *now, std::string(text), *right});
        drawQuestion();
    }
    return right;
}

Debrief Session::debriefed() const {
    Debrief out = debrief(rehearsal_, *reference_);
    for (const auto& a : asked_)
        out.questions.push_back(
            {a.at, questions_[a.question].text, a.answer, answerOf(questions_[a.question]), a.right});
    out.items = guide_.answered();
    return out;
}

bool Session::standsStill() const {
    if (question())
        return true;
    return isAccompanied(way_) && guide_.next() && guide_.due() && !guide_.waits();
}

void Session::step() {
    const auto before = rehearsal_.came().size();
    rehearsal_.advance(shortStep);
    guide_.follow(rehearsal_);
    if (rehearsal_.came().size() > before && speed_ > 1)
        speed_ = 1;
}

bool Session::live(double realSeconds) {
    if (speed_ == 0 || rehearsal_.over())
        return false;
    pending_ += std::min(realSeconds, longestStall) * speed_;
    bool moved = false;
    while (pending_ >= static_cast<double>(shortStep) / 1000.0 - hair) {
        if (standsStill() || rehearsal_.over()) {
            pending_ = 0.0;
            break;
        }
        const int was = speed_;
        step();
        moved = true;
        pending_ -= static_cast<double>(shortStep) / 1000.0;
        if (speed_ != was) // a fault has come
            pending_ = 0.0;
    }
    return moved;
}

bool Session::toNextAct(const std::function<bool()>& goOn) {
    const Milliseconds end = rehearsal_.now() + farthest;
    const auto faults = rehearsal_.came().size();
    while (guide_.next() && rehearsal_.now() < end) {
        if ((guide_.due() && !guide_.waits()) || question())
            return true;
        if (!guide_.willNotCome().empty() || rehearsal_.over())
            return false; // said at once
        step();
        if (rehearsal_.came().size() > faults)
            return true;
        if (rehearsal_.now() % asksEvery == 0 && goOn && !goOn())
            return false;
    }
    return false;
}

bool Session::back(Milliseconds to) {
    if (way_ == Way::examined)
        return false;
    rehearsal_.back(to);
    guide_.back(rehearsal_);
    pending_ = 0.0;
    return true;
}

bool Session::undo() {
    if (way_ == Way::examined || rehearsal_.acts().empty())
        return false;
    const auto& acts = rehearsal_.acts();
    std::size_t first = acts.size() - 1;
    while (first > 0 && goesOn(acts[first - 1], acts[first]))
        --first;
    rehearsal_.backBefore(first);
    guide_.back(rehearsal_);
    pending_ = 0.0;
    return true;
}

bool Session::goesOn(const Act& before, const Act& act) const {
    return before.kind == Act::Kind::control && act.kind == Act::Kind::control && before.control == act.control &&
           before.engine == act.engine && act.to.kind != Target::Kind::position && act.strokes == 0.0 &&
           before.strokes == 0.0 && before.to.kind != Target::Kind::position && act.at - before.at < littleByLittle;
}

void Session::put(Act act, const std::vector<std::size_t>& engines) {
    act.kind = Act::Kind::control;
    const Control& control = aircraft_->notes.controls[act.control];
    // One primer serves the engine that it is turned to.
    if (engines.size() == aircraft_->notes.engineCount() || (!control.each && control.acts != Acts::primer)) {
        act.engine = -1;
        rehearsal_.act(act);
    } else {
        for (const std::size_t e : engines) {
            act.engine = static_cast<int>(e);
            rehearsal_.act(act);
        }
    }
}

bool Session::doNext() {
    const Ask* ask = guide_.next();
    if (!ask || (ask->begins ? false : !guide_.due()) || guide_.waits())
        return false;
    if (ask->begins) {
        begin(ask->phase);
        return true;
    }
    perform(guide_.wanting(rehearsal_));
    return true;
}

void Session::perform(const std::vector<hand::Put>& puts) {
    const TypeNotes& n = aircraft_->notes;
    const auto withoutEngine = [](const hand::Put& put) {
        Act act = actOf(put);
        act.engine = -1;
        act.at = 0;
        return act;
    };
    std::vector<Act> done;
    for (const auto& put : puts) {
        Act act = withoutEngine(put);
        if (std::find(done.begin(), done.end(), act) != done.end())
            continue;
        done.push_back(act);
        std::vector<std::size_t> engines;
        for (const auto& other : puts)
            if (withoutEngine(other) == act)
                engines.push_back(other.engine);
        const Control& control = n.controls[act.control];
        const bool all = engines.size() == n.engineCount() || (!control.each && control.acts != Acts::primer);
        if (all)
            rehearsal_.act(act);
        for (const std::size_t e : all ? std::vector<std::size_t>{} : engines) {
            act.engine = static_cast<int>(e);
            rehearsal_.act(act);
        }
    }
    guide_.follow(rehearsal_); // where nothing wanted doing
}

bool Session::mayTell(std::size_t control) const {
    if (way_ == Way::led)
        return true;
    if (!guide_.wasWrong())
        return false;
    const auto& puts = guide_.next()->puts;
    return std::any_of(puts.begin(), puts.end(), [&](const hand::Put& put) { return put.control == control; });
}

std::optional<bool> Session::answerItem() {
    if (!guide_.challenges())
        return std::nullopt;
    const Ask& ask = *guide_.next();
    Act act;
    act.kind = Act::Kind::answer;
    act.item = ask.step;
    act.engine = ask.turn;
    rehearsal_.act(act);
    return guide_.answered().back().right;
}

bool Session::putAsPlanned(std::size_t control, const std::vector<std::size_t>& engines) {
    std::vector<hand::Put> puts;
    for (const std::size_t e : engines)
        if (const auto to = guide_.planned(control, e);
            to && !(aircraft_->notes.controls[control].acts == Acts::primer && guide_.waits())) {
            hand::Put put;
            put.control = control;
            put.engine = e;
            put.to = *to;
            puts.push_back(std::move(put));
        }
    perform(puts);
    return !puts.empty();
}

void Session::begin(Phase phase) {
    Act act;
    act.kind = Act::Kind::phase;
    act.phase = phase;
    rehearsal_.act(act);
}

void Session::call(powerplant::Fault fault, int engine) {
    Act act;
    act.kind = Act::Kind::call;
    act.called = fault;
    act.engine = engine;
    rehearsal_.act(act);
}

std::vector<Said> Session::saidAndDone() const {
    const TypeNotes& n = aircraft_->notes;
    std::vector<Said> out;
    const auto& acts = rehearsal_.acts();
    auto answer = guide_.answered().begin();
    for (std::size_t i = 0; i < acts.size(); ++i) {
        if (i + 1 < acts.size() && goesOn(acts[i], acts[i + 1]))
            continue;
        if (answer == guide_.answered().end() || answer->act != i) {
            out.push_back({acts[i].at, said(acts[i], n), watch::Colour::normal});
            continue;
        }
        out.push_back({answer->at,
                       fmt::format("{}? {}{}", answer->item, answer->stood,
                                   answer->right ? "" : fmt::format(": no, {}", answer->wanted)),
                       answer->right ? watch::Colour::normal : watch::Colour::amber});
        ++answer;
    }
    if (isAccompanied(way_))
        for (const auto& f : rehearsal_.findings()) {
            if (f.rule == watch::Rule::normalRange && f.end - f.begin < passing)
                continue;
            std::string engine;
            for (const auto& p : n.positions)
                if (p.id == f.engine && n.engineCount() > 1)
                    engine = p.name + ": ";
            out.push_back(
                {static_cast<Milliseconds>(f.begin * 1000.0), engine + f.verdict.sentence(), f.verdict.colour()});
        }
    std::stable_sort(out.begin(), out.end(), [](const Said& a, const Said& b) { return a.at < b.at; });
    return out;
}

std::vector<ClockNow> Session::clocks() const {
    const TypeNotes& n = aircraft_->notes;
    const Phase phase = rehearsal_.phase();
    std::vector<ClockNow> out;
    const double gone = static_cast<double>(rehearsal_.now() - rehearsal_.phaseBegan()) / 1000.0;
    out.push_back({std::string(titleOf(phase)),
                   fmt::format("{} of {}", formatMinutesSeconds(gone), formatMinutesSeconds(plan_[phase].duration)),
                   {}});
    for (const auto& clock : rehearsal_.ratings().clocks())
        if (const auto allowed = clock.allowed(); allowed && clock.used().si() > 0)
            out.push_back(
                {clock.name(),
                 fmt::format("{} of {}", formatMinutesSeconds(clock.used().si()), formatMinutesSeconds(allowed->si())),
                 clock.verdict()});
    for (std::size_t e = 0; e < n.engineCount(); ++e) {
        const auto starter = rehearsal_.watches()[e].starterNow(static_cast<double>(rehearsal_.now()) / 1000.0);
        if (!starter)
            continue;
        const std::string whose = n.engineCount() > 1 ? ", " + n.positions[e].name : "";
        out.push_back({(starter->turns ? "Starter turns" : "Starter rests") + whose,
                       fmt::format("{:.0f} of {:.0f} s", starter->seconds, starter->of), starter->verdict});
    }
    double left = 0.0, flow = 0.0;
    for (const double tank : rehearsal_.state().tanks)
        left += tank;
    for (const auto& engine : rehearsal_.readings().engines)
        if (const double one = engine[Gauge::fuelFlow]; one > 0)
            flow += one;
    out.push_back({"Fuel", format(left, *n.cockpit.fuel), {}});
    if (flow > leastFlow)
        out.push_back({"Lasts at this rate", formatHoursMinutes(left / flow) + " h", {}});
    for (const auto& change : plan_.tankChanges)
        if (change.kind == flight::TankChange::Kind::feed && change.phase == phase &&
            change.time > planTime(rehearsal_.now())) {
            out.push_back({fmt::format("To {}", n.fuel.tanks[static_cast<std::size_t>(change.tank)].name),
                           fmt::format("in {}", formatMinutesSeconds(change.time - planTime(rehearsal_.now()))),
                           {}});
            break;
        }
    return out;
}

std::vector<std::string> Session::signs() const {
    using namespace powerplant;
    const TypeNotes& n = aircraft_->notes;
    std::vector<std::string> out;
    const auto& readings = rehearsal_.readings();
    for (std::size_t e = 0; e < readings.engines.size(); ++e) {
        const Signs& s = readings.engines[e].signs;
        const auto& state = rehearsal_.state().engines[e];
        std::vector<std::string> words;
        if (s.sound != Sound::even && !(s.sound == Sound::silent && !s.turning))
            words.emplace_back(nameOf(s.sound));
        else if (s.shake > felt)
            words.emplace_back("it shakes");
        if (s.smoke != Smoke::none)
            words.emplace_back(nameOf(s.smoke));
        if (s.smell != Smell::none)
            words.emplace_back(nameOf(s.smell));
        if (s.cowl != Cowl::dry)
            words.emplace_back(nameOf(s.cowl));
        if (s.propellerLeverDead)
            words.emplace_back("the propeller lever does nothing");
        if (s.turning && !state.firing)
            words.emplace_back("it turns and does not fire");
        if (s.flames)
            words.emplace_back("flames from its stacks");
        if (words.empty())
            continue;
        const std::string whose = n.engineCount() > 1 ? n.positions[e].name + ": " : "";
        out.push_back(whose + fmt::format("{}", fmt::join(words, ", ")));
    }
    if (std::abs(readings.yaw) > felt)
        out.push_back(fmt::format("it yaws to {}", readings.yaw > 0 ? "port" : "starboard"));
    return out;
}

} // namespace amber::rehearse
