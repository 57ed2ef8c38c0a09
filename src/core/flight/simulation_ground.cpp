// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/simulation.h"
#include "notes/cockpit_units.h"
#include "notes/standard_schools.h"
#include "start/start_school.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber::flight {
namespace {
constexpr double groundStep = 30.0; // s between moments
constexpr double longestWarmUp = 25 * 60.0, longestCoolDown = 15 * 60.0;
constexpr double groundBudgetHorizon = 3600.0;
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
    struct At {
        Setting setting;
        engine::OperatingPoint point;
        heat::Drive drive;
    };
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
            at.drive = s_.drive(at.setting, at.point);
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

void Simulation::start() {
    begin(Phase::start);
    const auto& notes = n_.phase(Phase::start);
    const StartNotes inForce = start::startInForce(n_, s_.choices);
    // Slowly until oil pressure, or at once, to the rpm with which the warm-up begins.
    WarmUp warm(*this);
    const double coolingFlap = notes.coolingFlap.value_or(1.0);
    const Setting warmed = groundSetting(warm.at(temperatures_).setting.rpm, coolingFlap);
    const auto slowest = start::slowestRpm(n_, inForce);
    const Setting s = slowest ? groundSetting(std::min(*slowest, warmed.rpm), coolingFlap) : warmed;
    auto& p = out_[Phase::start];
    p.setting = s;
    p.point = operate(s);
    if (auto timeline = start::planStart(n_, inForce, startRequestOf(s_)))
        out_.start = std::move(timeline.value());
    // The engine drawn is the one that fires last: the slowest to warm decides. The notes' time is kept where the
    // timeline is shorter; the rest of it goes by before the first stroke.
    constexpr double afterLast = 30.0;
    const double whole = std::max(n_.start.perEngine.si() * engines_, out_.start.total + afterLast);
    double lastFires = 0.0;
    for (const auto& [id, from] : out_.start.runningFrom)
        lastFires = std::max(lastFires, from);
    const double before = whole - out_.start.total - afterLast;
    const double lastRun = std::max(1.0, out_.start.total + afterLast - lastFires);
    standing(before + lastFires);
    const auto oilWatch = [&](const std::string& engine) {
        for (const auto& e : out_.start.events)
            if (e.engine == engine && e.kind == start::EventKind::oilPressureWatch && !e.failed)
                return e.length();
        return 0.0;
    };
    // What the others have burnt, and how warm they are, by then.
    const auto d = drive(s, p.point);
    const auto warmedPoint = operate(warmed);
    const auto onward = drive(warmed, warmedPoint);
    for (const auto& position : n_.positions) {
        const auto from = out_.start.runningFrom.find(position.id);
        if (from == out_.start.runningFrom.end())
            continue;
        EngineWarmth w{position.id, time_ - lastFires + from->second, {}, {}};
        const Temperature cold = engineTemperatureOf(s_);
        const double ran = lastFires + lastRun - from->second, slow = std::min(ran, oilWatch(position.id));
        w.atStartEnd =
            a_.thermal.after(a_.thermal.after({cold, cold}, d, Duration::si(slow)), onward, Duration::si(ran - slow));
        out_.warmth.push_back(w);
        const double early = lastFires - from->second, earlySlow = std::min(early, slow);
        burn((p.point.fuelFlow.si() * earlySlow + warmedPoint.fuelFlow.si() * (early - earlySlow)) / n_.fuel.density);
    }
    const double watched = std::max(1.0, lastRun - afterLast);
    steady(s, watched, watched, engines_);
    steady(warmed, std::max(0.0, lastRun - watched), afterLast, engines_);
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
        const auto& at = warm.at(temperatures_, &out_.oilHoldsRpm);
        if (out_.warmUpSteps.empty() || out_.warmUpSteps.back().second != at.setting.rpm) {
            out_.warmUpSteps.emplace_back(time_ - phaseStart, at.setting.rpm);
            note(at.setting, at.point, true);
        }
        heatFor(at.drive, dt);
        burn(at.point.fuelFlow.si() / n_.fuel.density * engines_ * dt);
        time_ += dt;
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
    const auto waitFor = [&](heat::Temperatures& t, Temperature oil, std::optional<Temperature> headOrCoolant,
                             double already) {
        while (already < longestWarmUp && !warmEnough(t, oil, headOrCoolant)) {
            t = a_.thermal.after(t, warm.at(t).drive, Duration::si(10));
            already += 10.0;
        }
        return already;
    };
    heat::Temperatures t = temperatures_;
    // What is set on entering the phase; the steps that follow are told with their times.
    p.setting = warm.at(t).setting;
    p.point = warm.at(t).point;
    ice(Phase::warmUp);
    const double waited = waitFor(t, n_.warmUp.oilRunUp, n_.warmUp.headRunUp, 0.0);
    if (waited < longestWarmUp)
        out_.minutesToRunUp = waited;
    else
        say(Phase::warmUp, watch::Rule::runUpMinima,
            fmt::format("At {} it does not reach the least temperatures for the run-up in {:.0f} minutes.",
                        format(p.setting.rpm, units::rpm), longestWarmUp / 60));
    const double toTakeOff = waitFor(t, n_.warmUp.oilTakeOff, n_.warmUp.headTakeOff, waited);
    if (toTakeOff < longestWarmUp)
        out_.minutesToTakeOff = toTakeOff;
    for (auto& w : out_.warmth) {
        heat::Temperatures e = w.atStartEnd;
        const double until = waitFor(e, n_.warmUp.oilRunUp, n_.warmUp.headRunUp, 0.0);
        if (until < longestWarmUp)
            w.readyForRunUp = until;
    }
    // Taxying warms too: part of the wait is spent on the way, the oil steady first.
    const double taxiTime = n_.warmUp.taxi.si();
    warmFor(warm, std::max(60.0, waited - taxiTime));
    steady(taxi, taxiTime, groundStep, engines_);
    double more = 0.0;
    while (more < longestWarmUp && out_.minutesToRunUp &&
           !warmEnough(temperatures_, n_.warmUp.oilRunUp, n_.warmUp.headRunUp)) {
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
            heat::timeToPass(a_.thermal, temperatures_, d, Temperature::si(*edge), Duration::si(groundBudgetHorizon));
        return t ? std::optional(t->si()) : std::nullopt;
    };
    out_.groundToAmber = until(band.normalHigh);
    out_.groundToRed = until(band.limitHigh);
}

void Simulation::runUp() {
    begin(Phase::runUp);
    const PhaseNotes& notes = n_.phase(Phase::runUp);
    const double coolingFlap = notes.coolingFlap.value_or(1.0);
    out_.fieldBoost = ManifoldPressure::si(day_.fieldPressure().si());
    const Rating& takeOffRating = ratingFor(n_, s_, Phase::takeOff);
    out_.referenceRpm = engine::staticRpm(a_.model(), a_.fineStop, out_.fieldBoost, 0, air(), takeOffRating.rpm);
    const double duration = notes.duration.value_or(Duration::si(300)).si();
    const Rotation exercise = notes.rpm.value_or(Rotation::si(30));
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
    constexpr double atReference = 40.0;
    steady(idle, 0.35 * duration, groundStep, engines_);
    steady(middle, std::max(20.0, 0.35 * duration - atReference), groundStep, engines_);
    steady(reference, atReference, atReference / 2, engines_);
    steady(idle, 0.30 * duration, groundStep, engines_);
    steady(idle, s_.flight.hold.si(), groundStep, engines_);
    const Setting warmest = groundSetting(
        n_.warmUp.steps.empty() ? *n_.phase(Phase::warmUp).rpm : n_.warmUp.steps.back().second, coolingFlap);
    double more = 0.0;
    while (more < longestWarmUp / 2 && !warmEnough(temperatures_, n_.warmUp.oilTakeOff, n_.warmUp.headTakeOff)) {
        steady(warmest, groundStep, groundStep, engines_);
        more += groundStep;
    }
    if (more >= longestWarmUp / 2)
        say(Phase::runUp, watch::Rule::takeOffMinima,
            "The least temperatures for take-off are not reached at warm-up rpm today.");
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
    steady(taxi, n_.warmUp.taxi.si(), groundStep, engines_);
    while (n_.stop.coolBelow && temperatures_.headOrCoolant > *n_.stop.coolBelow && out_.coolDown < longestCoolDown) {
        steady(idle, groundStep, groundStep, engines_);
        out_.coolDown += groundStep;
    }
    if (out_.coolDown >= longestCoolDown)
        say(Phase::stop, watch::Rule::coolBeforeStop,
            fmt::format("It does not cool under the figure in {:.0f} minutes at idle today.", longestCoolDown / 60));
    steady(groundSetting(n_.stop.scavengeRpm, coolingFlap), n_.stop.scavenge.si(), n_.stop.scavenge.si(), engines_);
    standing(120.0);
    end();
}

} // namespace amber::flight
