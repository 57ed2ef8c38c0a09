// SPDX-License-Identifier: GPL-3.0-or-later
#include "hand/careful_hand.h"
#include "advice/figures.h"
#include "cockpit/controls.h"
#include "hand/flight_path.h"
#include "hand/hands.h"
#include "hand/needs.h"
#include "loading/load_sheet.h"
#include "notes/standard_schools.h"
#include "reading/control_reader.h"
#include "start/start_school.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/watch.h"
#include <algorithm>
#include <cmath>
#include <deque>
#include <fmt/format.h>

namespace amber::hand {
namespace {
using cockpit::Turn;
using powerplant::EngineLevers;
using powerplant::Milliseconds;
using powerplant::shortStep;

using flight::moveTime;
constexpr double unbounded = 3 * 3600; // s, a wait without an end: it is given up
constexpr double reads = 0.1;          // s between two looks
constexpr double stillTurns = 3.0;     // rev/s, slower it will not catch again by itself
constexpr int longestCooling = 6 * 60; // min standing until the oil is cool
constexpr double wellUnder = 8.0,
                 justUnder = 3.0; // K under its figure: one engine; several, of which the first must not go cold

class Hand {
public:
    Hand(const powerplant::Powerplant& plant, const Sortie& sortie, const flight::Flown& flown, const Haste& haste,
         const Watcher& watcher, const std::vector<powerplant::Condition>& conditions = {})
        : a_(plant.aircraft()), n_(a_.notes), s_(sortie), f_(flown), haste_(haste), watcher_(watcher), plant_(plant),
          hands_(plant_, flight::oilThinning(n_, sortie)), path_(plant_, sortie, flown),
          state_(standingReady(plant_, sortie)), levers_(hands_.levers()) {
        run_.day = &sortie.day;
        run_.conditions = conditions;
        run_.ice = haste.ice; // the plan's drill keeps it clear
        order_ = sortie.start.order.empty() ? n_.start.order : sortie.start.order;
        for (const auto& position : n_.positions)
            watches_.emplace_back(n_, position.id);
    }

    /// @param before the phase that it stops before
    HandRun run(std::size_t before = plannedPhases) {
        const double full = tanks();
        std::size_t i = 0;
        try {
            for (; i < before; ++i)
                fly(static_cast<Phase>(i));
        } catch (const Over&) { // nothing more can be done
            out_.missed.push_back({phase_, "", "", fmt::format("{}: it met the ground", keyOf(phase_))});
            for (; i < before; ++i)
                ended(static_cast<Phase>(i));
        }
        out_.fuel = full - tanks();
        out_.state = state_;
        for (const auto& watch : watches_) {
            const auto found = watch.findings();
            out_.findings.insert(out_.findings.end(), found.begin(), found.end());
        }
        return std::move(out_);
    }
    [[nodiscard]] const Hands& hands() const { return hands_; }

private:
    struct Over {}; ///< the ground was met where it should not have been
    void fly(Phase phase) {
        phase_ = phase;
        begin();
        const auto turns = cockpit::turns(n_, phase_, order_);
        for (std::size_t k = 0; k < turns.size(); ++k)
            if (phase_ == Phase::start && turns[k].engine >= 0 && !step(turns[k]).atEnd) {
                std::size_t end = k;
                while (end < turns.size() && turns[end].engine >= 0 && !step(turns[end]).atEnd)
                    ++end;
                if (haste_.byTheClock && now() < firstEngine())
                    tillPlanned(firstEngine());
                startEach(
                    {turns.begin() + static_cast<std::ptrdiff_t>(k), turns.begin() + static_cast<std::ptrdiff_t>(end)});
                k = end - 1;
            } else if (!step(turns[k]).atEnd && !step(turns[k]).branch) {
                take(turns[k]);
            }
        dwell();
        later_ = true;
        for (const Turn& t : turns)
            if (step(t).atEnd && !step(t).branch)
                take(t);
        later_ = false;
        finish();
        ended(phase);
    }
    void ended(Phase phase) {
        auto& end = out_.ends[static_cast<std::size_t>(phase)];
        end.time = now();
        end.height = state_.height;
        end.put = out_.put.size();
        end.levers = levers_.engines;
        end.readings = readings_;
    }
    [[nodiscard]] double now() const { return static_cast<double>(state_.now) / 1000.0; }
    [[nodiscard]] double tanks() const {
        double sum = 0.0;
        for (const double t : state_.tanks)
            sum += t;
        return sum;
    }
    [[nodiscard]] const Step& step(const Turn& t) const { return n_.phase(phase_).steps[t.step]; }

    // ---- time
    void go(double seconds) {
        for (double left = seconds; left > reads / 2; left -= reads) {
            hands_.advance(state_.now);
            if (phase_ == Phase::warmUp && byWarmUp_)
                warmUpRpm();
            path_.follow(phase_, levers_.path, state_);
            readings_ = plant_.step(state_, levers_, run_, shortStep);
            flight::keepAsSoaked(phase_, state_, soaked_);
            const Ground ground = path_.meet(phase_, levers_.path, state_);
            const Moment moment{phase_, state_, readings_, levers_};
            look(watches_, now(), moment);
            if (watcher_)
                watcher_(moment);
            if ((haste_.ice || phase_ == Phase::start) && state_.now % 1000 == 0)
                asTheDayWants(moment);
            if (ground == Ground::hit || ground == Ground::offTheEnd)
                throw Over{};
        }
    }
    /// Heat against ice, and cold air again: beside the drill.
    void asTheDayWants(const Moment& moment) {
        for (const auto& need : needs(plant_, moment)) {
            const bool ofIce = need.of == NeedOf::hotAir || need.of == NeedOf::coldAir;
            if (need.of != NeedOf::jets && !(ofIce && haste_.ice))
                continue;
            const std::size_t first = out_.put.size();
            for (const auto& put : need.puts)
                note(hands_.put(put.control, put.to, put.engine, 0.0, state_));
            byTheClock(ofTheDay, first);
        }
    }
    void warmUpRpm() {
        const auto& steps = n_.warmUp.steps;
        if (steps.empty())
            return;
        for (std::size_t i = 0; i < levers_.engines.size(); ++i) {
            std::size_t k = 0;
            while (k + 1 < steps.size() && state_.engines[i].oil >= steps[k + 1].first.si())
                ++k;
            holdRpm(steps[k].second.si(), i);
        }
    }
    void note(const std::vector<Put>& put) { out_.put.insert(out_.put.end(), put.begin(), put.end()); }
    /// A hand on the throttle holds rpm.
    void holdRpm(double revs, std::size_t e) {
        if (levers_.engines[e].throttle != powerplant::rpmHeld(revs))
            set(Acts::throttle, Dimension::rotation, revs, e);
    }

    // ---- acts
    [[nodiscard]] static std::vector<Turn> turnsOfEngines(const std::vector<Turn>& turns) {
        std::vector<Turn> out;
        std::copy_if(turns.begin(), turns.end(), std::back_inserter(out), [](const Turn& t) { return t.engine >= 0; });
        return out;
    }
    /// One engine whose turn it is to be started, or to be tried again.
    struct Starting {
        int engine = 0, tries = 0;
        double rested = 0.0; ///< s, when its starter may turn again
        std::vector<Turn> steps;
    };
    /// The engines one after the other by their own steps. What does not catch is let go, and tried again when its
    /// starter is rested, as often as the notes allow; the next engine is not kept waiting for it.
    void startEach(const std::vector<Turn>& turns) {
        std::deque<Starting> queue;
        for (const Turn& t : turns) {
            if (step(t).branch || std::find(givenUp_.begin(), givenUp_.end(), t.engine) != givenUp_.end())
                continue;
            if (queue.empty() || queue.back().engine != t.engine)
                queue.push_back({t.engine, 0, 0.0, {}});
            queue.back().steps.push_back(t);
        }
        while (!queue.empty()) {
            auto next = std::find_if(queue.begin(), queue.end(), [&](const Starting& s) { return s.rested <= now(); });
            if (next == queue.end()) {
                next = std::min_element(queue.begin(), queue.end(),
                                        [](const Starting& a, const Starting& b) { return a.rested < b.rested; });
                go(next->rested - now());
            }
            Starting one = *next;
            queue.erase(next);
            if (!attempt(one))
                queue.push_back(one);
        }
    }
    /// Whether there is no more to be done for it: it runs, or is given up.
    bool attempt(Starting& one) {
        const auto& id = n_.positions[static_cast<std::size_t>(one.engine)].id;
        const auto ofIt = [&](const auto& x) { return x.phase == Phase::start && x.engine == id; };
        if (one.tries > 0) {
            // What was done in vain is not asked of anybody.
            std::erase_if(out_.done, ofIt);
            std::erase_if(out_.missed, ofIt);
            out_.retries += 1;
        }
        retries_ = one.tries > 0;
        const bool catches = std::all_of(one.steps.begin(), one.steps.end(), [&](const Turn& t) { return take(t); });
        retries_ = false;
        if (catches)
            return true;
        for (const Acts acts : startingControls)
            note(hands_.put(acts, "off", static_cast<std::size_t>(one.engine), state_));
        note(hands_.put(Acts::ignition, "off", static_cast<std::size_t>(one.engine), state_));
        one.rested = now() + n_.start.rest.si();
        // No oil pressure is a stop, and its cause is looked for first.
        const double ran = state_.engines[static_cast<std::size_t>(one.engine)].fired;
        if (++one.tries >= n_.start.tries || ran > n_.start.oilPressureWithin.si() - 1.0) {
            givenUp_.push_back(one.engine);
            return true;
        }
        return false;
    }
    /// Whether every condition of it came.
    bool take(const Turn& turn) {
        const Step& s = step(turn);
        const auto& actions = cockpit::actionsInForce(s, schools::inForce(s, phase_, s_.choices));
        // Flaps are opened as she leaves the runway; what is done with the engines waits until she is in.
        const auto ofEngines = [&](const Action& act) {
            const Control* c = cockpit::find(n_.controls, act.control);
            return act.until || (c && (c->acts == Acts::throttle || c->acts == Acts::ignition ||
                                       c->acts == Acts::mixture || c->acts == Acts::brakes));
        };
        if (phase_ == Phase::stop && taxiedIn_ && std::any_of(actions.begin(), actions.end(), ofEngines)) {
            go(*taxiedIn_ - now());
            taxiedIn_.reset();
            levers_.path = {};
        }
        // What happens at a height of the climb waits for it while the rest goes on; what is not come to today is not
        // done.
        if (const auto height = advice::heightOfStep(a_, s_, f_, phase_, s)) {
            if (!std::isnan(*height))
                waiting_.push_back(turn);
            return true;
        }
        return perform(s, turn, actions, 0);
    }
    bool perform(const Step& s, const Turn& turn, const std::vector<Action>& actions, std::size_t from) {
        for (std::size_t i = from; i < actions.size(); ++i) {
            const Action& act = actions[i];
            Done done;
            const double began = done.time = now();
            done.engines = enginesOf(act, turn);
            const std::vector<std::size_t>& engines = done.engines;
            if (engines.empty())
                continue; // an act of other engines than this
            done.phase = phase_;
            done.step = s.id;
            done.engine = turn.engine >= 0 ? n_.positions[static_cast<std::size_t>(turn.engine)].id : "";
            done.control = act.control;
            done.height = state_.height;
            done.later = later_ || from > 0;
            done.firstPut = out_.put.size();
            if (!act.control.empty())
                for (const std::size_t e : engines)
                    put(act, e);
            done.puts = out_.put.size() - done.firstPut;
            done.wait = waitOf(act, engines.front());
            if (!act.control.empty())
                go(moveTime);
            if (act.over > 0)
                go(act.over);
            go(done.wait.lasts);
            if (act.until && act.until->gauge == Gauge::oilTemperature && phase_ == Phase::stop && !act.until->above) {
                if (!oilBelow(s, act, engines))
                    return false;
            } else if (act.until && !waitFor(s, act, engines) && !act.otherwise.empty()) {
                // What the act says is done else; the rest of the step is not.
                if (phase_ == Phase::start && act.until->gauge == Gauge::oilPressure)
                    for (const std::size_t e : engines)
                        note(hands_.put(Acts::ignition, "off", e, state_));
                return false;
            }
            done.waited = now() - began;
            out_.done.push_back(std::move(done));
        }
        return true;
    }
    [[nodiscard]] std::vector<std::size_t> enginesOf(const Action& act, const Turn& turn) const {
        std::vector<std::size_t> out;
        for (std::size_t e = 0; e < plant_.count(); ++e) {
            if (turn.engine >= 0 && static_cast<std::size_t>(turn.engine) != e)
                continue;
            if (!act.engines.empty() &&
                std::find(act.engines.begin(), act.engines.end(), n_.positions[e].id) == act.engines.end())
                continue;
            out.push_back(e);
        }
        return out;
    }
    /// What a target comes to today; nothing where the notes leave it out.
    [[nodiscard]] std::optional<double> siOf(const Target& t, std::size_t engine) const {
        if (t.kind == Target::Kind::quantity)
            return t.si;
        const auto figure = advice::figureOf(a_, s_, f_, phase_, t.word, engine);
        return figure ? figure->si : std::nullopt;
    }
    [[nodiscard]] Wait waitOf(const Action& act, std::size_t engine) const {
        Wait out;
        if (act.lasts)
            out.lasts = siOf(*act.lasts, engine).value_or(0.0);
        if (act.until)
            if (const auto level = siOf(act.until->level, engine)) { // else the notes leave it out
                out.gauge = act.until->gauge;
                out.above = act.until->above;
                out.level = *level;
                out.within = act.within;
                out.otherwise = act.otherwise;
            }
        return out;
    }
    /// Whether it came in time.
    bool waitFor(const Step& s, const Action& act, const std::vector<std::size_t>& engines) {
        const Awaited& c = *act.until;
        const auto level = siOf(c.level, engines.front());
        if (!level)
            return true; // the notes leave it out: nothing to wait for
        // No cooler than the plan: what idling does not bring today she is stopped without.
        const bool cools = phase_ == Phase::stop && !c.above &&
                           (c.gauge == Gauge::headTemperature || c.gauge == Gauge::coolantTemperature);
        const bool coolsToday = f_.coolDown < flight::longestCoolDown;
        const double most = act.within > 0 && !(cools && !coolsToday) ? act.within
                            : cools                                   ? flight::longestCoolDown
                                                                      : unbounded;
        const double began = now();
        const auto reached = [&](std::size_t e) {
            const double read = value(c.gauge, e);
            return std::isnan(read) || (c.above ? read >= *level : read <= *level);
        };
        const auto all = [&] { return std::all_of(engines.begin(), engines.end(), reached); };
        while (!all() && now() - began < most && !starterIsDone(engines)) {
            go(reads);
            if (phase_ == Phase::start && c.gauge == Gauge::rpm)
                catches();
        }
        for (const std::size_t e : engines)
            if (!reached(e) && !(cools && !coolsToday)) // as the plan says
                out_.missed.push_back(
                    {phase_, s.id, n_.positions[e].id,
                     fmt::format("{}/{}: {} had not come in {:.0f} s: it read {}", keyOf(phase_), s.id,
                                 notes::written(c), now() - began, format(value(c.gauge, e), n_.unitOf(c.gauge)))});
        return all();
    }
    /// A starter has turned as long as it may.
    [[nodiscard]] bool starterIsDone(const std::vector<std::size_t>& engines) const {
        return phase_ == Phase::start && std::any_of(engines.begin(), engines.end(), [&](std::size_t e) {
                   const auto at = watches_[e].starterNow(now());
                   return at && at->turns && at->seconds >= at->of - reads;
               });
    }
    /// Oil too hot to be diluted while it runs: stopped, left to cool, and started again for it.
    bool oilBelow(const Step& s, const Action& act, const std::vector<std::size_t>& engines) {
        const auto before = out_.missed.size();
        if (waitFor(s, act, engines))
            return true;
        const double level = siOf(act.until->level, engines.front()).value_or(0.0);
        const auto again = [&](const char* id) {
            for (std::size_t k = 0; k < n_.phase(phase_).steps.size(); ++k)
                if (n_.phase(phase_).steps[k].id == id)
                    take({k, -1});
        };
        again("cut");
        for (int minutes = 0;
             minutes < longestCooling &&
             std::any_of(state_.engines.begin(), state_.engines.end(),
                         [&](const auto& e) { return e.oil > level - (plant_.count() > 1 ? justUnder : wellUnder); });
             ++minutes)
            readings_ = plant_.stride(state_, levers_, run_, 60'000);
        phase_ = Phase::start;
        warm_ = true;
        const auto turns = cockpit::turns(n_, phase_, order_);
        for (const char* id : {"fuel", "throttle-cracked", "mixture"})
            again(id);
        startEach(turnsOfEngines(turns));
        again("pump-after");
        phase_ = Phase::stop;
        for (std::size_t e = 0; e < plant_.count(); ++e)
            holdRpm(f_[Phase::stop].setting.rpm.si(), e);
        if (std::any_of(engines.begin(), engines.end(),
                        [&](std::size_t e) { return !state_.engines[e].firing || state_.engines[e].oil > level; }))
            return false;
        out_.missed.resize(before);
        out_.cooledFirst = true;
        return true;
    }
    /// A hand is on the throttle as it catches: it keeps the starting rpm.
    void catches() {
        for (std::size_t e = 0; e < plant_.count(); ++e)
            if (const auto& t = levers_.engines[e].throttle;
                state_.engines[e].firing && t.by == powerplant::Throttle::By::place) {
                const auto slow = advice::figureOf(a_, s_, f_, Phase::start, "slow-rpm", e);
                holdRpm(slow && slow->si ? *slow->si : 12.0, e);
            }
    }
    [[nodiscard]] double value(Gauge gauge, std::size_t e) const {
        if (gauge == Gauge::height)
            return state_.height;
        if (gauge == Gauge::airspeed)
            return state_.ias;
        return readings_.engines.empty() ? std::numeric_limits<double>::quiet_NaN() : readings_.engines[e][gauge];
    }

    /// A control of one engine put where an act wants it.
    void put(const Action& act, std::size_t e) {
        const Control* c = cockpit::find(n_.controls, act.control);
        if (!c)
            return;
        advice::Figure to;
        if (act.to.kind == Target::Kind::figure) {
            const auto figure = advice::figureOf(a_, s_, f_, phase_, act.to.word, e);
            if (!figure)
                return;
            to = *figure;
        } else if (act.to.kind == Target::Kind::quantity) {
            to.si = act.to.si;
            to.dimension = act.to.dimension;
        } else {
            to.position = act.to.word;
        }
        if (c->acts == Acts::throttle)
            byWarmUp_ = phase_ == Phase::warmUp && act.to.kind == Target::Kind::figure && act.to.word == "rpm";
        if (c->acts == Acts::mixture && to.position == "cut-off" && warm_ && phase_ == Phase::start && unprimed(e))
            to.position = "rich"; // it starts on its jets
        if (c->acts == Acts::primer && to.si && *to.si > 0 &&
            warm_) { // started again: the dose for what the engine is now
            to.doses = unprimed(e) ? 0.0 : warmDose(e);
            to.si = to.doses * std::max(0.5, start::startInForce(n_, s_.choices).primeTime.si());
        }
        if (c->acts == Acts::primer && to.si && *to.si > 0 && retries_ &&
            to.doses > 0) { // what lies in it is not given again
            const double given = state_.engines[e].primed / plant_.engine(e).doseMass();
            const double wants = std::max(0.0, std::round(to.doses - given));
            to.si = *to.si * wants / to.doses;
            to.doses = wants;
        }
        note(hands_.put(static_cast<std::size_t>(c - n_.controls.data()), to, e, act.over, state_));
        if (c->acts == Acts::primer)
            go(to.si.value_or(0.0)); // strokes go in while the hand is on it
        FlightPath::touched(phase_, c->acts, to.position, levers_.path);
    }
    [[nodiscard]] double warmDose(std::size_t e) const {
        // Run dry there is nothing in the jets at first.
        const double dry = cockpit::equipmentOf(n_).carburettor == cockpit::Carburettor::floatWithout ? 1.0 : 0.0;
        return std::max(dry, start::Priming(start::startInForce(n_, s_.choices))
                                 .advice(Temperature::si(state_.engines[e].headOrCoolant), s_.day.fieldPressure())
                                 .dose);
    }
    /// Still so warm that its jets alone start it.
    [[nodiscard]] bool unprimed(std::size_t e) const {
        return warmDose(e) < 0.5 && cockpit::equipmentOf(n_).carburettor != cockpit::Carburettor::floatWithout;
    }
    // ---- the phases between the acts
    void begin() {
        // A cowling without a flap is as the notes reckon with it.
        if (!cockpit::acting(n_.controls, Acts::coolingFlap))
            for (auto& l : levers_.engines)
                l.coolingFlap = f_[phase_].setting.coolingFlap;
        path_.begin(phase_, levers_.path, state_);
        // What is set before the first engine is done in the time before its turn.
        if (haste_.byTheClock && phase_ == Phase::start)
            go(std::max(0.0, firstEngine() - now() - settingUp()));
        if (haste_.byTheClock && phase_ == Phase::runUp) {
            taxi();
            go(flight::runUpTaxi * std::max(0.0, f_[Phase::runUp].duration - s_.flight.hold.si()));
        }
        if (phase_ == Phase::stop)
            taxiedIn_ = now() + (haste_.byTheClock ? n_.warmUp.taxi.si() : FlightPath::taxiIn);
    }
    void until(const std::function<bool()>& done, double most) {
        const double began = now();
        while (!done() && now() - began < most) {
            planned();
            go(reads);
            atHeight();
            if (phase_ > Phase::start && phase_ < Phase::stop &&
                std::none_of(state_.engines.begin(), state_.engines.end(), // a cut of the ignition is no stop
                             [](const auto& e) { return e.firing || e.n > stillTurns; })) {
                out_.missed.push_back({phase_, "", "", fmt::format("{}: every engine has stopped", keyOf(phase_))});
                return;
            }
        }
    }
    void atHeight() {
        for (std::size_t i = 0; i < waiting_.size(); ++i) {
            const Turn turn = waiting_[i];
            const Step& s = step(turn);
            const auto& actions = cockpit::actionsInForce(s, schools::inForce(s, phase_, s_.choices));
            const auto height = advice::heightOfStep(a_, s_, f_, phase_, s);
            if (!height || !(state_.height >= *height))
                continue;
            waiting_.erase(waiting_.begin() + static_cast<std::ptrdiff_t>(i));
            perform(s, turn, actions, 1);
            return;
        }
    }
    /// s of the plan's time at which the first engine's turn begins.
    [[nodiscard]] double firstEngine() const {
        const auto& start = f_[Phase::start];
        return start.start + std::max(0.0, start.duration - f_.start.total - flight::afterLastStart);
    }
    /// s that the hand takes for one act, waits apart.
    [[nodiscard]] static double timeOf(const Action& act) { return (act.control.empty() ? 0.0 : moveTime) + act.over; }
    /// s that the acts before it take, and what they wait for.
    [[nodiscard]] double settingUp() const {
        constexpr double waits = 15.0; // of a pump, for its pressure
        double sum = waits;
        for (const Step& s : n_.phase(Phase::start).steps) {
            if (s.each)
                break;
            for (const Action& act : cockpit::actionsInForce(s, schools::inForce(s, Phase::start, s_.choices)))
                sum += timeOf(act);
        }
        return sum;
    }
    void taxi() {
        for (std::size_t e = 0; e < plant_.count(); ++e)
            holdRpm(n_.warmUp.taxiRpm.si(), e);
    }
    /// Till a moment of the plan.
    void tillPlanned(double time) {
        until([&] { return now() >= time - reads / 2; }, std::max(0.0, time - now()) + reads);
    }
    /// Changes of tanks and steps of the let-down that are due.
    void planned() {
        if (!haste_.byTheClock)
            return;
        while (tanksChanged_ < f_.tankChanges.size() && f_.tankChanges[tanksChanged_].time <= now()) {
            const auto& change = f_.tankChanges[tanksChanged_++];
            if (change.kind != flight::TankChange::Kind::feed && change.kind != flight::TankChange::Kind::reserve)
                continue;
            const std::size_t first = out_.put.size();
            for (std::size_t e = 0; e < plant_.count(); ++e)
                note(hands_.put(Acts::fuel, n_.fuel.tanks[static_cast<std::size_t>(change.tank)].id, e, state_));
            byTheClock("tanks", first);
        }
        if (phase_ == Phase::letDown && a_.propeller.followsThrottle())
            for (std::size_t e = 0; e < plant_.count(); ++e) // it follows the throttle and the height: kept as planned
                if (const double revs = plannedDown(Gauge::rpm);
                    std::abs(revs - levers_.engines[e].throttle.value) > 0.05 || stepsDown_ == 0)
                    holdRpm(revs, e);
        while (phase_ == Phase::letDown && stepsDown_ < f_.letDown.size() &&
               state_.height <= f_.letDown[stepsDown_].height.si()) {
            const auto& s = f_.letDown[stepsDown_++].setting;
            const std::size_t first = out_.put.size();
            for (std::size_t e = 0; e < plant_.count(); ++e) {
                if (s.boost && !s.byRpm && !a_.propeller.followsThrottle())
                    set(Acts::throttle, Dimension::manifoldPressure, s.boost->si(), e);
                else if (!a_.propeller.followsThrottle())
                    set(Acts::throttle, Dimension::rotation, s.rpm.si(), e);
                if (n_.propeller.control == PropellerControl::constantSpeed)
                    set(Acts::propeller, Dimension::rotation, s.rpm.si(), e);
                advice::Figure flap;
                flap.share = s.coolingFlap;
                if (const Control* c = cockpit::acting(n_.controls, Acts::coolingFlap))
                    note(hands_.put(static_cast<std::size_t>(c - n_.controls.data()), flap, e, 0.0, state_));
            }
            byTheClock("let-down", first);
        }
    }
    /// What the plan's own clock or height had it put since `first`: as an act that is no step of the drill.
    void byTheClock(const char* step, std::size_t first) {
        Done done;
        done.time = now();
        done.phase = phase_;
        done.step = step;
        done.height = state_.height;
        done.later = true;
        done.firstPut = first;
        done.puts = out_.put.size() - first;
        for (std::size_t e = 0; e < plant_.count(); ++e)
            done.engines.push_back(e);
        out_.done.push_back(std::move(done));
    }
    /// What the plan reads at this height of the let-down.
    [[nodiscard]] double plannedDown(Gauge gauge) const {
        const auto planned = path_.plannedDown(state_.height);
        if (!planned)
            return f_.samples[f_[Phase::letDown].lastSample][gauge];
        const auto &a = *planned->first, &b = *planned->second;
        const double x = (a[Gauge::height] - state_.height) / (a[Gauge::height] - b[Gauge::height]);
        return a[gauge] + (b[gauge] - a[gauge]) * std::clamp(x, 0.0, 1.0);
    }
    /// s that the acts of a phase take, those at its end or the others.
    [[nodiscard]] double timeOf(Phase phase, bool atEnd) const {
        double sum = 0.0;
        for (const Step& s : n_.phase(phase).steps)
            if (s.atEnd == atEnd && !s.branch)
                for (const Action& act : cockpit::actionsInForce(s, schools::inForce(s, phase, s_.choices)))
                    sum += timeOf(act);
        return sum;
    }
    /// s that the acts of the take-off take before its throttle is opened.
    [[nodiscard]] double beforeOpening() const {
        double sum = 0.0;
        for (const Step& s : n_.phase(Phase::takeOff).steps) {
            if (s.atEnd || s.branch)
                continue;
            for (const Action& act : cockpit::actionsInForce(s, schools::inForce(s, Phase::takeOff, s_.choices))) {
                const Control* control = cockpit::find(n_.controls, act.control);
                if (control && control->acts == Acts::throttle)
                    return sum;
                sum += timeOf(act);
            }
        }
        return sum;
    }
    void set(Acts acts, Dimension dimension, double si, std::size_t e) {
        advice::Figure to;
        to.dimension = dimension;
        to.si = si;
        if (const Control* c = cockpit::acting(n_.controls, acts))
            note(hands_.put(static_cast<std::size_t>(c - n_.controls.data()), to, e, 0.0, state_));
    }
    void dwell() {
        if (haste_.byTheClock) {
            const double end = f_[phase_].start + f_[phase_].duration;
            switch (phase_) {
            case Phase::walkRound:
            case Phase::start:
            case Phase::cruise:
                tillPlanned(end);
                break;
            case Phase::takeOff: {
                // The first reduction is done when the plan's take-off is over; she is at its height by then.
                const double reduces = end - 0.5 * timeOf(Phase::takeOff, true);
                until([&] { return levers_.path.kind == powerplant::Path::Kind::speedHeld; }, 120.0);
                const double rise = f_.samples[f_[Phase::takeOff].lastSample][Gauge::height] - state_.height;
                // Behind the plan's clock by a second try she climbs as she can.
                constexpr double climbsMore = 1.5; // than the climb begins with
                if (rise > 0 && end - now() > 1.0 && rise / (end - now()) < climbsMore * f_.firstRate.si())
                    levers_.path = {powerplant::Path::Kind::rateHeld, levers_.path.ias, rise / (end - now())};
                tillPlanned(reduces);
                return;
            }
            case Phase::warmUp:
                tillPlanned(end - n_.warmUp.taxi.si());
                byWarmUp_ = false;
                taxi();
                tillPlanned(end);
                break;
            case Phase::runUp: // and the checks before take-off, so that its throttle opens when the plan's does
                taxi();
                tillPlanned(end - beforeOpening());
                break;
            default:
                break;
            }
        }
        const double cruise = std::min(haste_.cruise, f_[Phase::cruise].duration);
        const auto begun = [&](double most) { until([&] { return path_.flown(phase_, state_, 0.0); }, most); };
        switch (phase_) {
        case Phase::takeOff:
            begun(300.0);
            break;
        case Phase::climb:
            begun(3 * 3600.0);
            break;
        case Phase::cruise:
            if (!haste_.byTheClock)
                until([] { return false; }, cruise);
            break;
        case Phase::letDown:
            begun(2 * 3600.0);
            break;
        case Phase::landing:
            begun(1800.0);
            break;
        default:
            break;
        }
    }
    void finish() {
        if (haste_.byTheClock && phase_ == Phase::stop)
            tillPlanned(f_[Phase::stop].start + f_[Phase::stop].duration);
        waiting_.clear();
        hands_.letGo();
        if (phase_ == Phase::landing)
            taxi();
    }

    const powerplant::Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const flight::Flown& f_;
    Haste haste_;
    const Watcher& watcher_;
    const powerplant::Powerplant& plant_;
    Hands hands_;
    FlightPath path_;
    powerplant::AircraftState state_;
    powerplant::Levers& levers_; ///< of the hands
    powerplant::Run run_;
    powerplant::AircraftReadings readings_;
    std::vector<std::string> order_;
    std::vector<Turn> waiting_;
    HandRun out_;
    std::vector<watch::Watch> watches_;                    ///< one an engine
    Temperature soaked_ = flight::engineTemperatureOf(s_); ///< of the engines until each is started
    Phase phase_ = Phase::walkRound;
    std::optional<double> taxiedIn_; ///< s, when she will be
    bool byWarmUp_ = false, warm_ = false, later_ = false, retries_ = false;
    std::size_t tanksChanged_ = 0, stepsDown_ = 0;
    std::vector<int> givenUp_; ///< engines that no try has fired
};
} // namespace

void look(std::vector<watch::Watch>& watches, double time, const Moment& m) {
    for (std::size_t i = 0; i < watches.size(); ++i) {
        watches[i].starter(time, m.levers.engines[i].mesh, m.levers.engines[i].ignition != powerplant::Ignition::off);
        if (m.state.now % 1000 == 0)
            watches[i].see(time, m.phase, m.readings.engines[i], m.state.engines[i].firing);
    }
}

powerplant::AircraftState standingReady(const powerplant::Powerplant& plant, const Sortie& sortie) {
    auto state = plant.standing(sortie.day, flight::engineTemperatureOf(sortie));
    const TypeNotes& n = plant.aircraft().notes;
    for (std::size_t i = 0; i < n.fuel.tanks.size(); ++i)
        state.tanks[i] = loading::usableAtStart(n, sortie, n.fuel.tanks[i]);
    state.dryMass += loading::rampWeight(n, sortie).si() - plant.weight(state).si();
    return state;
}

HandRun doDrill(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                const Haste& haste, const Watcher& watcher, const std::vector<powerplant::Condition>& conditions) {
    const powerplant::Powerplant plant(aircraft, sortie.fuelGrade);
    return Hand(plant, sortie, flown, haste, watcher, conditions).run();
}

Come comeTo(const powerplant::Powerplant& plant, const Sortie& sortie, const flight::Flown& flown, Phase phase) {
    const Watcher nobody;
    Hand hand(plant, sortie, flown, byThePlansClock, nobody);
    auto run = hand.run(static_cast<std::size_t>(phase));
    return {std::move(run.state), hand.hands()};
}

} // namespace amber::hand
