// SPDX-License-Identifier: GPL-3.0-or-later
#include "cockpit/controls.h"
#include "drills/drill.h"
#include "drills/state.h"
#include "flight/simulation.h"
#include "notes/cockpit_units.h"
#include "notes/standard_schools.h"
#include "powerplant/first_fire.h"
#include "start/start_school.h"
#include "units/text.h"
#include "watch/run_up_sheet.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber::flight {
namespace {
constexpr double groundStep = 30.0; // s between moments
constexpr double longestWarmUp = 25 * 60.0;
constexpr double groundBudgetHorizon = 3600.0;
constexpr double moment = 1e-3;                                        // s, less is nothing
constexpr double freezing = 273.15, heatStep = 5.0, mostHeated = 30.0; // K, of pre-heating
constexpr double usualReference = 40.0; // s at the reference, where the notes have no sheet
} // namespace

/// Settings of the warm-up: the notes' steps by oil temperature, held back while cold oil would pass its pressure
/// limit; the flaps by the school in force.
class Simulation::WarmUp {
public:
    explicit WarmUp(const Simulation& s) : s_(s) {
        const PhaseNotes& notes = s.n_.phase(Phase::warmUp);
        flap_ = notes.coolingFlap.value_or(1.0);
        for (const auto& step : notes.steps)
            if (const School* school = schools::inForce(step, Phase::warmUp, s.s_.choices))
                shut_ = school->effect.shutUntilWarm.value_or(shut_);
        steps_ = s.n_.warmUp.steps;
        if (steps_.empty())
            steps_.emplace_back(Temperature::si(0), *notes.rpm);
        if (const auto g = s.n_.gauges.find(Gauge::oilPressure); g != s.n_.gauges.end())
            most_ = g->second.in(Phase::warmUp).limitHigh;
    }
    [[nodiscard]] const At& at(const heat::Temperatures& t, bool* held = nullptr) {
        std::size_t i = 0;
        while (i + 1 < steps_.size() && t.oil >= steps_[i + 1].first)
            ++i;
        // A step back while the oil is too thick for this one.
        const double thinning = oilThinning(s_.n_, s_.s_);
        while (i > 0 && most_ && s_.a_.thermal.oilPressure(steps_[i].second, t.oil, thinning).si() > *most_) {
            --i;
            if (held)
                *held = true;
        }
        const bool shut = shut_ && s_.n_.warmUp.headRunUp && t.headOrCoolant < *s_.n_.warmUp.headRunUp;
        auto& cached = cache_[{i, shut}];
        if (!cached) {
            At at;
            at.setting = s_.groundSetting(steps_[i].second, shut ? 0.0 : flap_);
            at.point = s_.operate(at.setting);
            cached = std::move(at);
        }
        return *cached;
    }

private:
    const Simulation& s_;
    double flap_ = 1.0;
    bool shut_ = false;
    std::vector<std::pair<Temperature, Rotation>> steps_;
    std::optional<double> most_;
    std::map<std::pair<std::size_t, bool>, std::optional<At>> cache_;
};

void Simulation::walkRound() {
    begin(Phase::walkRound);
    standing(n_.phase(Phase::walkRound).duration.value_or(Duration::si(900)).si());
    end();
}

void Simulation::tellTries(const StartNotes& inForce, const start::StartRequest& request) {
    const auto catches = [](const std::vector<start::Try>& tries) { return tries.size() == 1 && tries[0].fires; };
    const auto turned = [&](const start::StartRequest& r) {
        return start::crank(inForce, {r.oil, r.supply, r.diluted, start::bladesPerRevolution(n_)});
    };
    auto hard = std::find_if(n_.positions.begin(), n_.positions.end(), [&](const Position& p) {
        const auto tries = request.foreseen.find(p.id);
        return tries != request.foreseen.end() && !catches(tries->second);
    });
    const auto rises = turned(request).oilPressureRises;
    const bool late = hard == n_.positions.end() && rises > inForce.oilPressureWithin;
    if (hard == n_.positions.end() && !late)
        return;
    if (late)
        hard = n_.positions.begin();
    const powerplant::BeforeFire before{static_cast<std::size_t>(hard - n_.positions.begin()), air(),
                                        plant_->batteryCapacity(), inForce.starter.airBottle.si(),
                                        inForce.starter.cartridges};
    const auto with = [&](const start::StartRequest& other) {
        return turned(other).oilPressureRises <= inForce.oilPressureWithin &&
               catches(powerplant::firstFire(*plant_, inForce, other, before).tries);
    };
    std::vector<std::string> cures;
    const bool electric = inForce.starter.kind == StarterKind::direct || inForce.starter.kind == StarterKind::inertia;
    if (auto r = request; electric && cockpit::acting(n_.controls, Acts::cart) && r.supply == start::Supply::battery) {
        r.supply = start::Supply::cart;
        if (with(r))
            cures.emplace_back("the ground cart");
    }
    if (auto r = request; !r.diluted && !n_.stop.dilution.empty()) {
        r.diluted = true;
        if (with(r))
            cures.emplace_back("the oil diluted at the stop before");
    }
    // The least pre-heating, in steps of five kelvins, by halves.
    const int from = static_cast<int>(std::floor((request.engine.si() - freezing) / heatStep)) + 1,
              most = static_cast<int>(mostHeated / heatStep);
    const auto heated = [&](int step) {
        auto r = request;
        r.engine = r.oil = Temperature::si(freezing + heatStep * step);
        return with(r);
    };
    if (from <= most && heated(most)) {
        int low = from - 1, high = most;
        while (high - low > 1) {
            const int half = (low + high) / 2;
            (heated(half) ? high : low) = half;
        }
        cures.push_back(fmt::format("pre-heating to {}",
                                    format(Temperature::si(freezing + heatStep * high).si(), *n_.cockpit.temperature)));
    }
    std::string would;
    for (const auto& c : cures)
        would += (would.empty() ? "" : ", or ") + c;
    if (late) {
        say(Phase::start, watch::Rule::oilPressureLate,
            fmt::format("Oil at {} gives pressure after {} (model); it is stopped after {}. {}",
                        format(request.oil.si(), *n_.cockpit.temperature), format(rises.si(), *units::second.spec),
                        format(inForce.oilPressureWithin.si(), *units::second.spec),
                        cures.empty() ? std::string("Nothing that the notes have makes it come in time.")
                                      : fmt::format("In time with {}.", would)));
        return;
    }
    const auto& tries = request.foreseen.at(hard->id);
    const bool fires = !tries.empty() && tries.back().fires;
    const std::string who = n_.positions.size() > 1 ? hard->name + " at " : "At ";
    const std::string what = fires ? fmt::format("fires at try {} only", tries.size())
                                   : fmt::format("does not fire in {} tries", std::max<std::size_t>(1, tries.size()));
    say(Phase::start, fires ? watch::Rule::startsHardly : watch::Rule::startsNever,
        fmt::format("{}{} it {} (model). {}", who, format(request.engine.si(), *n_.cockpit.temperature), what,
                    cures.empty() ? std::string("Nothing that the notes have makes it fire at the first.")
                                  : fmt::format("At the first with {}.", would)));
}

void Simulation::start() {
    begin(Phase::start);
    const auto& notes = n_.phase(Phase::start);
    const StartNotes inForce = start::startInForce(n_, s_.choices);
    // Slowly until oil pressure, or at once, to the rpm with which the warm-up begins.
    WarmUp warm(*this);
    const double coolingFlap = notes.coolingFlap.value_or(1.0);
    const Setting warmed = groundSetting(warm.at(temperatures()).setting.rpm, coolingFlap);
    const auto slowest = start::slowestRpm(n_, inForce);
    const Setting s = slowest ? groundSetting(std::min(*slowest, warmed.rpm), coolingFlap) : warmed;
    auto& p = out_[Phase::start];
    p.setting = s;
    p.point = operate(s);
    auto request = startRequestOf(s_);
    out_.foreseen = request.foreseen = powerplant::foresee(*plant_, inForce, request, air());
    if (auto timeline = start::planStart(n_, inForce, request))
        out_.start = std::move(timeline.value());
    tellTries(inForce, request);
    // What no try fires is planned on as if the last had: the day is red, and its other figures are asked for all the
    // same.
    auto runningFrom = out_.start.runningFrom;
    for (const auto& [id, at] : out_.start.givenUp)
        runningFrom[id] = at;
    // The engine drawn is the one that fires last: the slowest to warm decides. The notes' time is kept where the
    // timeline is shorter; the rest of it goes by before the first stroke.
    constexpr double afterLast = afterLastStart;
    const double whole = std::max(n_.start.perEngine.si() * engines_, out_.start.total + afterLast);
    double lastFires = 0.0;
    for (const auto& [id, from] : runningFrom)
        lastFires = std::max(lastFires, from);
    const double before = whole - out_.start.total - afterLast;
    const double lastRun = std::max(1.0, out_.start.total + afterLast - lastFires);
    for (std::size_t i = 0; i < n_.positions.size(); ++i)
        if (const auto from = runningFrom.find(n_.positions[i].id);
            from != runningFrom.end() && from->second >= lastFires)
            drawn_ = i;
    const auto oilWatch = [&](const std::string& engine) {
        for (const auto& e : out_.start.events)
            if (e.engine == engine && e.kind == start::EventKind::oilPressureWatch && !e.failed)
                return e.length();
        return 0.0;
    };
    // Each engine stands, runs slowly while its oil pressure is watched, then at what begins the warm-up.
    const At slow{s, p.point}, onward{warmed, operate(warmed)};
    const double origin = time() + before, whenDone = before + lastFires + lastRun;
    std::vector<double> fires(n_.positions.size(), 1e18), watched(n_.positions.size(), 1e18), moments{whenDone};
    for (std::size_t i = 0; i < n_.positions.size(); ++i) {
        const auto from = runningFrom.find(n_.positions[i].id);
        if (from == runningFrom.end())
            continue;
        fires[i] = before + from->second;
        watched[i] = fires[i] + (i == drawn_ ? std::max(1.0, lastRun - afterLast) : oilWatch(n_.positions[i].id));
        moments.push_back(fires[i]);
        moments.push_back(std::min(watched[i], whenDone));
        out_.engines[i].firedAt = origin + from->second;
    }
    std::sort(moments.begin(), moments.end());
    note({}, {}, false);
    double now = 0.0;
    for (const double next : moments) {
        if (next - now < moment)
            continue;
        std::vector<const At*> engines;
        for (std::size_t i = 0; i < n_.positions.size(); ++i)
            engines.push_back(now < fires[i] - moment ? nullptr : now < watched[i] - moment ? &slow : &onward);
        const At* drawn = engines[drawn_];
        if (drawn)
            note(drawn->setting, drawn->point, true);
        const double until = next;
        while (until - now > moment) {
            const double dt = std::min(groundStep, until - now);
            advance(engines, dt, {});
            now += dt;
        }
        now = until;
        if (drawn)
            note(drawn->setting, drawn->point, true);
        else if (next >= fires[drawn_] - moment)
            note({}, {}, false);
    }
    // What the start has used is gone; from here the ship's own battery and generators feed her.
    state_.charge *= out_.start.batteryLeft;
    state_.airBottle = out_.start.airLeft.si();
    state_.cartridges = std::max(0, out_.start.cartridgesLeft);
    levers_.shared.cart = false;
    levers_.shared.battery = levers_.shared.generators = true;
    for (std::size_t i = 0; i < n_.positions.size(); ++i)
        if (state_.engines[i].firing)
            out_.warmth.push_back({n_.positions[i].id, out_.engines[i].firedAt, temperaturesOf(state_.engines[i]), {}});
    end();
}

bool Simulation::warmEnough(const heat::Temperatures& t, Temperature oil,
                            std::optional<Temperature> headOrCoolant) const {
    return t.oil >= oil && (!headOrCoolant || t.headOrCoolant >= *headOrCoolant);
}

void Simulation::warmFor(WarmUp& warm, double duration) {
    const double phaseStart = out_[Phase::warmUp].start;
    for (double done = 0.0; done < duration - 1e-6;) {
        const double dt = std::min(groundStep, duration - done);
        const auto& at = warm.at(temperatures(), &out_.oilHoldsRpm);
        if (out_.warmUpSteps.empty() || out_.warmUpSteps.back().second != at.setting.rpm) {
            out_.warmUpSteps.emplace_back(time() - phaseStart, at.setting.rpm);
            note(at.setting, at.point, true);
        }
        advance(at, dt);
        done += dt;
        note(at.setting, at.point, true);
    }
}

void Simulation::warmUp() {
    begin(Phase::warmUp);
    WarmUp warm(*this);
    const Setting taxi = groundSetting(n_.warmUp.taxiRpm, n_.phase(Phase::warmUp).coolingFlap.value_or(1.0));
    auto& p = out_[Phase::warmUp];
    groundBudget(taxi);
    // How long at the warm-up's rpm, counted before the taxi which warms it further.
    const auto around = plant_->around(state_, levers_, run_, 0);
    const auto waitFor = [&](powerplant::EngineState& e, Temperature oil, std::optional<Temperature> headOrCoolant,
                             double already) {
        while (already < longestWarmUp && !warmEnough(temperaturesOf(e), oil, headOrCoolant)) {
            const At& at = warm.at(temperaturesOf(e));
            const auto levers = leversOf(at.setting);
            const auto& engine = plant_->engine(drawn_);
            engine.stride(e, levers, around, engine.settled(at.setting.rpm, at.point, levers, around), 10'000);
            already += 10.0;
        }
        return already;
    };
    powerplant::EngineState t = state_.engines[drawn_];
    // What is set on entering the phase; the steps that follow are told with their times.
    p.setting = warm.at(temperatures()).setting;
    p.point = warm.at(temperatures()).point;
    ice(Phase::warmUp);
    const double waited = waitFor(t, n_.warmUp.oilRunUp, n_.warmUp.headRunUp, 0.0);
    if (waited < longestWarmUp)
        out_.minutesToRunUp = waited;
    else
        say(Phase::warmUp, watch::Rule::runUpMinima,
            fmt::format("At {} it does not reach the minimum temperatures for the run-up in {:.0f} minutes.",
                        format(p.setting.rpm, units::rpm), longestWarmUp / 60));
    const double toTakeOff = waitFor(t, n_.warmUp.oilTakeOff, n_.warmUp.headTakeOff, waited);
    if (toTakeOff < longestWarmUp)
        out_.minutesToTakeOff = toTakeOff;
    for (auto& w : out_.warmth) {
        std::size_t i = 0;
        while (n_.positions[i].id != w.engine)
            ++i;
        powerplant::EngineState e = state_.engines[i];
        const double until = waitFor(e, n_.warmUp.oilRunUp, n_.warmUp.headRunUp, 0.0);
        if (until < longestWarmUp)
            w.readyForRunUp = until;
    }
    // Taxying warms too: part of the wait is spent on the way, the oil steady first.
    const double taxiTime = n_.warmUp.taxi.si();
    warmFor(warm, std::max(60.0, waited - taxiTime));
    steady(taxi, taxiTime, groundStep);
    double more = 0.0;
    while (more < longestWarmUp && out_.minutesToRunUp &&
           !warmEnough(temperatures(), n_.warmUp.oilRunUp, n_.warmUp.headRunUp)) {
        warmFor(warm, groundStep);
        more += groundStep;
    }
    end();
}

void Simulation::groundBudget(const Setting& taxi) {
    const Gauge gauge = headOrCoolantGauge(n_);
    const auto found = n_.gauges.find(gauge);
    if (found == n_.gauges.end())
        return;
    const Band& band = found->second.in(Phase::warmUp);
    const auto d = drive(taxi, operate(taxi));
    const auto until = [&](std::optional<double> edge) -> std::optional<double> {
        if (!edge)
            return std::nullopt;
        const auto t =
            heat::timeToPass(a_.thermal, temperatures(), d, Temperature::si(*edge), Duration::si(groundBudgetHorizon));
        return t ? std::optional(t->si()) : std::nullopt;
    };
    out_.groundToAmber = until(band.normalHigh);
    out_.groundToRed = until(band.limitHigh);
}

std::vector<std::pair<Setting, double>> Simulation::runUpChecks(const Setting& reference) const {
    const double flap = reference.coolingFlap;
    const auto exercise = [&](const auto& check) {
        return groundSetting(
            check && check->at.rpm ? *check->at.rpm : n_.phase(Phase::runUp).rpm.value_or(Rotation::si(28)), flap);
    };
    constexpr double coarsely = 0.8; // of its turns, with the blades coarse: an estimate
    Setting now = groundSetting(n_.warmUp.taxiRpm, flap), fine = now;
    std::vector<std::pair<Setting, double>> out;
    for (const auto& turn : cockpit::turns(n_, Phase::runUp, n_.start.order)) {
        const Step& step = n_.phase(Phase::runUp).steps[turn.step];
        if (step.branch)
            continue;
        for (const Action& act : cockpit::actionsInForce(step, schools::inForce(step, Phase::runUp, s_.choices))) {
            const Control* control = cockpit::find(n_.controls, act.control);
            const bool another = turn.engine >= 0 && turn.engine != static_cast<int>(drawn_); // that one stays
            if (control && control->acts == Acts::throttle && !another) {
                const std::string& word = act.to.word;
                if (word == "exercise-rpm")
                    now = exercise(n_.runUp.propeller);
                else if (word == "blower-rpm")
                    now = exercise(n_.runUp.blower);
                else if (word == "field-boost" || word == "open" || word == "reference-rpm" || word == "static-rpm")
                    now = reference;
                else if (word == "rpm")
                    now = groundSetting(n_.phase(Phase::runUp).rpm.value_or(n_.warmUp.taxiRpm), flap);
                else if (act.to.kind == Target::Kind::quantity && act.to.dimension == Dimension::rotation)
                    now = groundSetting(Rotation::si(act.to.si), flap);
                else if (act.to.kind == Target::Kind::quantity && act.to.dimension == Dimension::manifoldPressure) {
                    now = reference;
                    now.boost = ManifoldPressure::si(act.to.si);
                    now.rpm = engine::staticRpm(a_.model(), a_.fineStop, *now.boost, 0, air(),
                                                ratingFor(n_, s_, Phase::takeOff).rpm);
                } else
                    now = groundSetting(n_.warmUp.taxiRpm, flap);
                fine = now;
            }
            if (control && control->acts == Acts::propeller)
                now = act.to.word == "coarse" ? groundSetting(Rotation::si(coarsely * fine.rpm.si()), flap) : fine;
            const double seconds = (control ? moveTime : 0.0) + act.over +
                                   (act.lasts && act.lasts->kind == Target::Kind::quantity ? act.lasts->si : 0.0);
            if (!out.empty() && out.back().first.rpm == now.rpm && out.back().first.boost == now.boost)
                out.back().second += seconds;
            else if (!out.empty()) { // half of the way there it is still nearer to what was
                out.back().second += 0.5 * act.over;
                out.emplace_back(now, seconds - 0.5 * act.over);
            } else if (seconds > 0)
                out.emplace_back(now, seconds);
        }
    }
    return out;
}

void Simulation::runUp() {
    begin(Phase::runUp);
    const PhaseNotes& notes = n_.phase(Phase::runUp);
    const double coolingFlap = notes.coolingFlap.value_or(1.0);
    out_.fieldBoost = ManifoldPressure::si(day_.fieldPressure().si());
    const Rating& takeOffRating = ratingFor(n_, s_, Phase::takeOff);
    out_.referenceRpm = engine::staticRpm(a_.model(), a_.fineStop, out_.fieldBoost, 0, air(), takeOffRating.rpm);
    const double duration = notes.duration.value_or(Duration::si(300)).si();
    Rotation exercise = notes.rpm.value_or(Rotation::si(30));
    if (n_.runUp.propeller && n_.runUp.propeller->at.rpm) // as the sheet says where
        exercise = *n_.runUp.propeller->at.rpm;
    const Setting idle = groundSetting(n_.warmUp.taxiRpm, coolingFlap), middle = groundSetting(exercise, coolingFlap);
    Setting reference;
    reference.rpm = out_.referenceRpm;
    reference.boost = out_.fieldBoost;
    reference.boostOrigin = Origin::model;
    reference.coolingFlap = coolingFlap;
    auto& p = out_[Phase::runUp];
    p.setting = reference;
    p.point = operate(reference);
    ice(Phase::runUp);
    // As long at high power as the sheet's checks there take.
    const double checks = watch::runUpSheet(n_, {}, runUpDay(s_, out_)).highPower;
    const double atReference = checks > 0 ? std::min(checks, 0.5 * duration) : usualReference;
    // An exercise of the propeller at high power is among the sheet's seconds of it.
    const double exercises = exercise >= n_.runUp.highPowerFrom ? 0.0 : std::max(20.0, 0.35 * duration - atReference);
    steady(idle, runUpTaxi * duration, groundStep);
    const auto asDrilled = runUpChecks(reference);
    double spent = 0.0;
    for (const auto& [setting, seconds] : asDrilled) {
        steady(setting, seconds, groundStep);
        spent += seconds;
    }
    if (asDrilled.empty()) {
        if (exercises > 0)
            steady(middle, exercises, groundStep);
        steady(reference, atReference, atReference / 2);
        spent = exercises + atReference;
    }
    steady(idle, std::max((asDrilled.empty() ? 0.3 : 0.1) * duration, (1.0 - runUpTaxi) * duration - spent),
           groundStep);
    steady(idle, s_.flight.hold.si(), groundStep);
    const Setting warmest = groundSetting(
        n_.warmUp.steps.empty() ? *n_.phase(Phase::warmUp).rpm : n_.warmUp.steps.back().second, coolingFlap);
    double more = 0.0;
    while (more < longestWarmUp / 2 && !warmEnough(temperatures(), n_.warmUp.oilTakeOff, n_.warmUp.headTakeOff)) {
        steady(warmest, groundStep, groundStep);
        more += groundStep;
    }
    if (more >= longestWarmUp / 2)
        say(Phase::runUp, watch::Rule::takeOffMinima,
            "The minimum temperatures for take-off are not reached at warm-up rpm today.");
    end();
}

void Simulation::stop() {
    begin(Phase::stop);
    const PhaseNotes& notes = n_.phase(Phase::stop);
    const double coolingFlap = notes.coolingFlap.value_or(1.0);
    const Setting taxi = groundSetting(n_.warmUp.taxiRpm, coolingFlap), idle = groundSetting(*notes.rpm, coolingFlap);
    auto& phase = out_[Phase::stop];
    phase.setting = idle;
    phase.point = operate(idle);
    steady(taxi, n_.warmUp.taxi.si(), groundStep);
    while (n_.stop.coolBelow && temperatures().headOrCoolant > *n_.stop.coolBelow && out_.coolDown < longestCoolDown) {
        steady(idle, groundStep, groundStep);
        out_.coolDown += groundStep;
    }
    if (out_.coolDown >= longestCoolDown)
        say(Phase::stop, watch::Rule::coolBeforeStop,
            fmt::format("It does not cool under the figure in {:.0f} minutes at idle today.", longestCoolDown / 60));
    steady(groundSetting(n_.stop.scavengeRpm, coolingFlap), n_.stop.scavenge.si(), n_.stop.scavenge.si());
    standing(120.0);
    end();
}

} // namespace amber::flight
