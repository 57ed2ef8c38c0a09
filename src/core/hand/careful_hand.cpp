// SPDX-License-Identifier: GPL-3.0-or-later
#include "hand/careful_hand.h"
#include "advice/figures.h"
#include "cockpit/controls.h"
#include "loading/load_sheet.h"
#include "notes/standard_schools.h"
#include "reading/control_reader.h"
#include "start/start_school.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/watch.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::hand {
namespace {
using cockpit::Turn;
using powerplant::EngineLevers;
using powerplant::Milliseconds;
using powerplant::Path;
using powerplant::shortStep;

constexpr double cracked = 0.045;      // of the throttle's travel: a thumb's width, an estimate
constexpr double moveTime = 0.4;       // s, from one control to the next
constexpr double unbounded = 3 * 3600; // s, a wait without an end: it is given up
constexpr double reads = 0.1;          // s between two looks
constexpr double safeHeight = 120.0;   // m above the field
constexpr int longestCooling = 6 * 60; // min standing until the oil is cool
constexpr double wellUnder = 8.0,
                 justUnder = 3.0; // K under its figure: one engine; several, of which the first must not go cold
constexpr double taxiIn = 60.0;   // s
constexpr double coarsestGoverned = 10.0; // rev/s that a lever at full coarse asks for

class Hand {
public:
    Hand(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown, const Haste& haste)
        : a_(aircraft), n_(aircraft.notes), s_(sortie), f_(flown), haste_(haste), plant_(aircraft, sortie.fuelGrade),
          state_(plant_.standing(sortie.day, flight::engineTemperatureOf(sortie))), levers_(plant_.levers()) {
        run_.day = &sortie.day;
        run_.ice = false; // the plan's drill keeps it clear
        order_ = sortie.start.order.empty() ? n_.start.order : sortie.start.order;
        for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
            state_.tanks[i] = loading::usableAtStart(n_, sortie, n_.fuel.tanks[i]);
        state_.dryMass += loading::rampWeight(n_, sortie).si() - plant_.weight(state_).si();
        for (auto& e : levers_.engines)
            e.thinning = flight::oilThinning(n_, sortie);
        for (const auto& position : n_.positions)
            watches_.emplace_back(n_, position.id);
        asStanding();
    }

    HandRun run() {
        const double full = tanks();
        for (std::size_t i = 0; i < plannedPhases; ++i) {
            phase_ = static_cast<Phase>(i);
            begin();
            const auto turns = cockpit::turns(n_, phase_, order_);
            for (std::size_t k = 0; k < turns.size(); ++k)
                if (!step(turns[k]).atEnd && !step(turns[k]).branch)
                    if (!take(turns[k]) && phase_ == Phase::start && turns[k].engine >= 0)
                        tryAgain(turns, k);
            dwell();
            for (const Turn& t : turns)
                if (step(t).atEnd && !step(t).branch)
                    take(t);
            finish();
            auto& end = out_.ends[i];
            end.time = now();
            end.levers = levers_.engines;
            end.readings = readings_;
        }
        out_.fuel = full - tanks();
        out_.state = state_;
        for (const auto& watch : watches_) {
            const auto found = watch.findings();
            out_.findings.insert(out_.findings.end(), found.begin(), found.end());
        }
        return std::move(out_);
    }

private:
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
            ramps();
            if (phase_ == Phase::warmUp && byWarmUp_)
                warmUpRpm();
            levers_.path.ias = pathSpeed();
            readings_ = plant_.step(state_, levers_, run_, shortStep);
            look();
        }
    }
    /// The watch on each engine: its starter at every step, its needles every second.
    void look() {
        for (std::size_t i = 0; i < watches_.size(); ++i) {
            watches_[i].starter(now(), levers_.engines[i].mesh);
            if (state_.now % 1000 == 0)
                watches_[i].see(now(), phase_, readings_.engines[i], state_.engines[i].firing);
        }
    }
    /// Speed along the path: what the phase is flown at.
    [[nodiscard]] double pathSpeed() const {
        if (levers_.path.kind == Path::Kind::speedHeld && phase_ <= Phase::climb) {
            return flight::climbSpeedAt(n_, plant_.weight(state_), s_.day.pressureAltitudeOf(Length::si(state_.height)))
                .si();
        }
        return levers_.path.ias;
    }
    void warmUpRpm() {
        const auto& steps = n_.warmUp.steps;
        if (steps.empty())
            return;
        for (std::size_t i = 0; i < levers_.engines.size(); ++i) {
            std::size_t k = 0;
            while (k + 1 < steps.size() && state_.engines[i].oil >= steps[k + 1].first.si())
                ++k;
            levers_.engines[i].throttle = powerplant::rpmHeld(steps[k].second.si());
        }
    }
    struct Ramp {
        std::size_t engine;
        double from, to, begin, end;
        bool throttle; // else rpm
    };
    void ramps() {
        for (const auto& r : ramps_) {
            const double x = std::clamp((now() - r.begin) / std::max(reads, r.end - r.begin), 0.0, 1.0);
            const double value = r.from + (r.to - r.from) * x;
            if (r.throttle)
                levers_.engines[r.engine].throttle.value = value;
            else
                levers_.engines[r.engine].rpm = value;
        }
        std::erase_if(ramps_, [&](const Ramp& r) { return now() >= r.end; });
    }

    // ---- acts
    /// A start that did not catch: starter off, its rest, and the engine's own steps again, as often as the notes
    /// allow.
    void tryAgain(const std::vector<Turn>& turns, std::size_t failed) {
        const int engine = turns[failed].engine;
        std::size_t first = failed;
        while (first > 0 && turns[first - 1].engine == engine)
            --first;
        for (int tries = 1; tries < n_.start.tries; ++tries) {
            EngineLevers& l = levers_.engines[static_cast<std::size_t>(engine)];
            l.mesh = l.energise = l.boosterCoil = false;
            go(n_.start.rest.si());
            const auto before = out_.missed;
            out_.missed.clear();
            bool caught = true;
            for (std::size_t k = first; k <= failed && caught; ++k)
                caught = take(turns[k]);
            out_.retries += 1;
            if (caught) {
                out_.missed = before;
                std::erase_if(out_.missed, [&](const Missed& m) {
                    return m.phase == Phase::start && m.engine == n_.positions[static_cast<std::size_t>(engine)].id;
                });
                return;
            }
            out_.missed.insert(out_.missed.begin(), before.begin(), before.end());
        }
    }
    /// Whether every condition of it came.
    bool take(const Turn& turn) {
        const Step& s = step(turn);
        const auto& actions = cockpit::actionsInForce(s, schools::inForce(s, phase_, s_.choices));
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
            const double began = now();
            const std::vector<std::size_t> engines = enginesOf(act, turn);
            if (engines.empty())
                continue; // an act of other engines than this
            if (!act.control.empty())
                for (const std::size_t e : engines)
                    put(act, e);
            if (!act.control.empty())
                go(moveTime);
            if (act.over > 0)
                go(act.over);
            if (act.lasts)
                go(siOf(*act.lasts, engines.front()).value_or(0.0));
            if (act.until && act.until->gauge == Gauge::oilTemperature && phase_ == Phase::stop && !act.until->above) {
                if (!oilBelow(s, act, engines))
                    return false;
            } else if (act.until && !waitFor(s, act, engines) && !act.otherwise.empty()) {
                // What the act says is done else; the rest of the step is not.
                if (phase_ == Phase::start && act.until->gauge == Gauge::oilPressure)
                    for (const std::size_t e : engines)
                        levers_.engines[e].ignition = powerplant::Ignition::off;
                return false;
            }
            out_.done.push_back({began, phase_, s.id,
                                 turn.engine >= 0 ? n_.positions[static_cast<std::size_t>(turn.engine)].id : "",
                                 act.control, now() - began});
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
    /// Whether it came in time.
    bool waitFor(const Step& s, const Action& act, const std::vector<std::size_t>& engines) {
        const Awaited& c = *act.until;
        const auto level = siOf(c.level, engines.front());
        if (!level)
            return true; // the notes leave it out: nothing to wait for
        const double most = act.within > 0 ? act.within : unbounded;
        const double began = now();
        const auto reached = [&](std::size_t e) {
            const double read = value(c.gauge, e);
            return std::isnan(read) || (c.above ? read >= *level : read <= *level);
        };
        const auto all = [&] { return std::all_of(engines.begin(), engines.end(), reached); };
        while (!all() && now() - began < most) {
            go(reads);
            if (phase_ == Phase::start && c.gauge == Gauge::rpm)
                catches();
        }
        for (const std::size_t e : engines)
            if (!reached(e))
                out_.missed.push_back(
                    {phase_, s.id, n_.positions[e].id,
                     fmt::format("{}/{}: {} had not come in {:.0f} s: it read {}", keyOf(phase_), s.id,
                                 notes::written(c), now() - began, format(value(c.gauge, e), n_.unitOf(c.gauge)))});
        return all();
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
        for (std::size_t k = 0; k < turns.size(); ++k)
            if (turns[k].engine >= 0 && !take(turns[k]))
                tryAgain(turns, k);
        again("pump-after");
        phase_ = Phase::stop;
        for (auto& e : levers_.engines)
            e.throttle = powerplant::rpmHeld(f_[Phase::stop].setting.rpm.si());
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
            if (auto& t = levers_.engines[e].throttle;
                state_.engines[e].firing && t.by == powerplant::Throttle::By::place) {
                const auto slow = advice::figureOf(a_, s_, f_, Phase::start, "slow-rpm", e);
                t = powerplant::rpmHeld(slow && slow->si ? *slow->si : 12.0);
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
        move(*c, to, e, act);
        for (const auto& [follower, is] : cockpit::followers(n_.controls, *c, to.position)) {
            advice::Figure there;
            there.position = is;
            move(*follower, there, e, act);
        }
    }
    void move(const Control& c, const advice::Figure& to, std::size_t e, const Action& act) {
        EngineLevers& l = levers_.engines[e];
        const std::string& is = to.position;
        const bool on = is == "on" || is == "connected" || is == "open" || is == "in" || is == "unlocked";
        switch (c.acts) {
        case Acts::throttle:
            byWarmUp_ = phase_ == Phase::warmUp && act.to.kind == Target::Kind::figure && act.to.word == "rpm";
            throttle(l, to, e, act);
            break;
        case Acts::propeller:
            l.coarse = is == "coarse";
            if (n_.propeller.control == PropellerControl::constantSpeed)
                ramp(e, false, l.rpm,
                     is == "fine"     ? finest()
                     : is == "coarse" ? coarsestGoverned
                                      : to.si.value_or(l.rpm),
                     act.over);
            break;
        case Acts::mixture:
            l.cutOff =
                is == "cut-off" && !(warm_ && phase_ == Phase::start && unprimed(e)); // then it starts on its jets
            if (!l.cutOff)
                l.mixture = is == "weak" ? Mixture::weak : Mixture::rich;
            break;
        case Acts::cutOut:
            l.cutOff = is == "pulled";
            break;
        case Acts::gear:
            if (const auto gear = n_.gearIndex(is))
                l.gear = *gear;
            break;
        case Acts::turbo:
            l.turbo = is == "off" ? 0.0 : 1.0;
            break;
        case Acts::coolingFlap:
            l.coolingFlap = to.share ? *to.share : is == "shut" ? 0.0 : 1.0;
            break;
        case Acts::oilCooler:
            l.oilCooler = is == "shut" ? powerplant::blankedCooler : 1.0;
            break;
        case Acts::intercooler:
            l.intercooler = on ? 1.0 : 0.0;
            break;
        case Acts::carburettorAir:
            l.hotAir = is == "hot" ? 1.0 : 0.0;
            break;
        case Acts::water:
            l.water = on;
            break;
        case Acts::primer:
            if (to.si && *to.si > 0 && warm_) { // started again: the dose for what the engine is now
                const auto start = start::startInForce(n_, s_.choices);
                const double doses = unprimed(e) ? 0.0 : warmDose(e);
                l.primer = 1.0 / std::max(0.5, start.primeTime.si());
                go(doses / l.primer);
                l.primer = 0.0;
            } else if (to.si && *to.si > 0) { // strokes go in while the hand is on it
                l.primer = to.doses / *to.si;
                go(*to.si);
                l.primer = 0.0;
            }
            break;
        case Acts::pump:
            l.booster = on;
            break;
        case Acts::fuel:
            l.cock = is != "off";
            for (std::size_t t = 0; t < n_.fuel.tanks.size(); ++t)
                if (n_.fuel.tanks[t].id == is)
                    l.tank = static_cast<int>(t);
            break;
        case Acts::ignition:
            l.ignition = is == "both"    ? powerplant::Ignition::both
                         : is == "left"  ? powerplant::Ignition::left
                         : is == "right" ? powerplant::Ignition::right
                                         : powerplant::Ignition::off;
            break;
        case Acts::starter:
            if (n_.start.starter.kind == StarterKind::inertia)
                l.energise = on;
            else
                l.mesh = on;
            break;
        case Acts::mesh:
        case Acts::airValve:
            l.mesh = on;
            break;
        case Acts::boosterCoil:
            l.boosterCoil = on;
            break;
        case Acts::generator:
            levers_.shared.generators = on;
            break;
        case Acts::battery:
            levers_.shared.battery = on;
            break;
        case Acts::cart:
            levers_.shared.cart = on;
            break;
        case Acts::feathering:
            l.feather = is == "feathered";
            break;
        case Acts::dilution:
            if (on)
                l.thinning = n_.start.cold.dilutedViscosity;
            break;
        case Acts::brakes:
            if (is == "off" && phase_ == Phase::takeOff && levers_.path.kind == Path::Kind::standing)
                levers_.path = {Path::Kind::roll, 0.0, 0.0};
            break;
        default:
            break; // the engine does not feel it
        }
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
    [[nodiscard]] double finest() const {
        return n_.ratings.empty()
                   ? 100.0
                   : std::max_element(n_.ratings.begin(), n_.ratings.end(), [](const Rating& x, const Rating& y) {
                         return x.rpm < y.rpm;
                     })->rpm.si();
    }
    void throttle(EngineLevers& l, const advice::Figure& to, std::size_t e, const Action& act) {
        const auto by = !to.position.empty()                  ? powerplant::Throttle::By::place
                        : to.dimension == Dimension::rotation ? powerplant::Throttle::By::rpm
                                                              : powerplant::Throttle::By::boost;
        const double value = to.position == "open"      ? 1.0
                             : to.position == "cracked" ? cracked
                             : to.position == "closed"  ? 0.0
                                                        : to.si.value_or(0.0);
        double from = value;
        if (act.over > 0) {
            const auto& engine = state_.engines[e];
            from = by == powerplant::Throttle::By::boost ? engine.manifold
                   : by == powerplant::Throttle::By::rpm ? engine.n
                                                         : plant_.engine(e).throttlePlace(engine.throttle);
        }
        l.throttle = {by, from};
        ramp(e, true, from, value, act.over);
        // Opened for the take-off she moves, whatever holds her.
        if (phase_ == Phase::takeOff && levers_.path.kind == Path::Kind::standing)
            levers_.path = {Path::Kind::roll, 0.0, 0.0};
    }
    void ramp(std::size_t e, bool throttle, double from, double to, double over) {
        std::erase_if(ramps_, [&](const Ramp& r) { return r.engine == e && r.throttle == throttle; });
        if (over <= 0) {
            (throttle ? levers_.engines[e].throttle.value : levers_.engines[e].rpm) = to;
            return;
        }
        ramps_.push_back({e, from, to, now(), now() + over, throttle});
    }
    /// Every control where it is found on an aircraft left for the night.
    void asStanding() {
        const cockpit::State found(n_);
        for (std::size_t c = 0; c < n_.controls.size(); ++c)
            for (std::size_t e = 0; e < plant_.count(); ++e) {
                advice::Figure at;
                at.position = found.of(c, e).target.word;
                if (n_.controls[c].acts != Acts::primer)
                    move(n_.controls[c], at, e, {});
            }
    }

    // ---- the phases between the acts
    void begin() {
        // A cowling without a flap is as the notes reckon with it.
        if (!cockpit::acting(n_.controls, Acts::coolingFlap))
            for (auto& l : levers_.engines)
                l.coolingFlap = f_[phase_].setting.coolingFlap;
        const double speed = f_[phase_].setting.ias.si();
        switch (phase_) {
        case Phase::climb:
            levers_.path = {Path::Kind::speedHeld, speed, 0.0};
            break;
        case Phase::cruise:
            levers_.path = {Path::Kind::level, 0.0, 0.0};
            break;
        case Phase::letDown:
        case Phase::landing:
            levers_.path = {Path::Kind::rateHeld, speed,
                            n_.phase(Phase::letDown).rate ? -n_.phase(Phase::letDown).rate->si() : -2.5};
            break;
        case Phase::stop:
            levers_.path = {Path::Kind::taxi, 4.0, 0.0};
            go(taxiIn);
            levers_.path = {};
            break;
        default:
            break;
        }
    }
    void until(const std::function<bool()>& done, double most) {
        const double began = now();
        while (!done() && now() - began < most) {
            go(reads);
            atHeight();
            if (std::none_of(state_.engines.begin(), state_.engines.end(), [](const auto& e) { return e.firing; })) {
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
    void dwell() {
        const double field = s_.day.elevation.si(), home = s_.flight.toElevation.si();
        switch (phase_) {
        case Phase::takeOff: {
            const auto lift = flight::speedFor(n_, "lift-off", plant_.weight(state_));
            const double fast = lift ? lift->speed.si() : 40.0;
            until([&] { return state_.ias >= fast; }, 120.0);
            levers_.path = {Path::Kind::speedHeld, f_[Phase::climb].setting.ias.si(), 0.0};
            until([&] { return state_.height > field + safeHeight; }, 180.0);
            break;
        }
        case Phase::climb: {
            const double top = f_[Phase::cruise].duration > 0 ? f_.samples[f_[Phase::cruise].firstSample][Gauge::height]
                                                              : s_.flight.cruiseHeight.si();
            until([&] { return state_.height >= top - 1.0; }, 3 * 3600.0);
            break;
        }
        case Phase::cruise:
            until([] { return false; }, std::min(haste_.cruise, f_[Phase::cruise].duration));
            break;
        case Phase::letDown:
            until([&] { return state_.height <= home + flight::circuitHeight; }, 2 * 3600.0);
            break;
        case Phase::landing:
            until([&] { return state_.height <= home + 1.0; }, 1800.0);
            break;
        default:
            break;
        }
    }
    void finish() {
        waiting_.clear();
        ramps_.clear();
        if (phase_ == Phase::landing) {
            levers_.path = {Path::Kind::taxi, 4.0, 0.0};
            for (auto& e : levers_.engines)
                e.throttle = powerplant::rpmHeld(n_.warmUp.taxiRpm.si());
        }
    }

    const powerplant::Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const flight::Flown& f_;
    Haste haste_;
    powerplant::Powerplant plant_;
    powerplant::AircraftState state_;
    powerplant::Levers levers_;
    powerplant::Run run_;
    powerplant::AircraftReadings readings_;
    std::vector<std::string> order_;
    std::vector<Ramp> ramps_;
    std::vector<Turn> waiting_;
    HandRun out_;
    std::vector<watch::Watch> watches_; ///< one an engine
    Phase phase_ = Phase::walkRound;
    bool byWarmUp_ = false, warm_ = false;
};
} // namespace

HandRun doDrill(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& flown,
                const Haste& haste) {
    return Hand(aircraft, sortie, flown, haste).run();
}

} // namespace amber::hand
