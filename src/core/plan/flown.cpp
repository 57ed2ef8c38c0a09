// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/flown.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/leaning.h"
#include "notes/standard_schools.h"
#include "start/start_school.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber::plan {
namespace {
constexpr double groundStep = 30.0, climbStep = 10.0, airStep = 30.0, cruiseStep = 60.0; // s between moments
constexpr double longestWarmUp = 25 * 60.0, longestCoolDown = 15 * 60.0;
constexpr double leastClimb = 0.5;      // m/s: service ceiling, 100 ft/min
constexpr double circuitHeight = 300.0; // m above the field, where let-down ends
constexpr double takeOffHeight = 150.0; // m above the field, least height where the climb begins
constexpr double gearChangeTime = 6.0;  // s, throttle back, shift, open
constexpr double groundBudgetHorizon = 3600.0;
constexpr double blankedCooler = 0.15; // of the oil cooler's air that gets past the blanks
constexpr double stepMinute = 60.0;    // s that a setting of the let-down is held

class Simulation {
public:
    Simulation(const Aircraft& aircraft, const Sortie& sortie)
        : a_(aircraft), n_(aircraft.notes), s_(sortie), day_(sortie.day),
          knock_(aircraft.notes, aircraft.model(), sortie.fuelGrade) {
        height_ = day_.elevation.si();
        const Temperature engine = engineTemperatureOf(s_);
        temperatures_ = {engine, engine};
        for (const Tank& tank : n_.fuel.tanks) {
            const double unusable = tank.capacity.si() - tank.usable.si();
            const Volume held = start::contentsOf(n_, tank, s_.walk.found, s_.contents);
            contents_.push_back(std::max(0.0, held.si() - unusable));
        }
        out_.fuelAtStart = total();
        tank_ = tankIndex(n_.fuel.takeOffTank);
        engines_ = static_cast<double>(n_.engineCount());
        out_.moments.reserve(700);
    }

    Flown run() {
        walkRound();
        start();
        warmUp();
        runUp();
        takeOff();
        climb();
        cruise();
        letDown();
        landing();
        stop();
        out_.fuelAtEnd = total();
        reserve();
        return std::move(out_);
    }

private:
    // ---- bookkeeping
    [[nodiscard]] double total() const {
        double sum = 0.0;
        for (const double c : contents_)
            sum += c;
        return sum;
    }
    [[nodiscard]] int tankIndex(std::string_view id) const {
        for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
            if (n_.fuel.tanks[i].id == id)
                return static_cast<int>(i);
        return 0;
    }
    [[nodiscard]] Mass weight() const {
        return Mass::si(s_.weight.si() - (out_.fuelAtStart - total()) * n_.fuel.density);
    }
    [[nodiscard]] Length pressureAltitude() const { return day_.pressureAltitudeOf(Length::si(height_)); }
    [[nodiscard]] air::Ambient air() const { return day_.at(pressureAltitude()); }
    void say(Phase phase, watch::Colour colour, std::string sentence) {
        out_.remarks.push_back({phase, colour, std::move(sentence)});
    }

    void begin(Phase phase) {
        phase_ = phase;
        auto& p = out_[phase];
        p.start = time_;
        p.firstMoment = out_.moments.size();
        fuelBefore_ = total();
        distanceBefore_ = distance_;
    }
    void end() {
        auto& p = out_[phase_];
        p.duration = time_ - p.start;
        p.fuel = fuelBefore_ - total();
        p.distance = distance_ - distanceBefore_;
        if (out_.moments.size() == p.firstMoment)
            note({}, {}, false);
        p.lastMoment = out_.moments.size() - 1;
    }

    void switchTo(int tank, bool dry) {
        if (tank == tank_)
            return;
        tank_ = tank;
        out_.tankChanges.push_back({time_, tank, phase_, dry});
    }

    void burn(double volume) {
        while (volume > 0) {
            double& here = contents_[static_cast<std::size_t>(tank_)];
            const double taken = std::min(here, volume);
            here -= taken;
            volume -= taken;
            if (volume <= 1e-12)
                return;
            const auto fullest = std::max_element(contents_.begin(), contents_.end());
            if (*fullest <= 0) {
                if (!dry_)
                    say(phase_, watch::Colour::red,
                        fmt::format("All tanks are empty at {}.", formatHoursMinutes(time_)));
                dry_ = true;
                return;
            }
            switchTo(static_cast<int>(fullest - contents_.begin()), true);
        }
    }

    void note(const Setting& setting, const engine::OperatingPoint& point, bool running) {
        Moment m;
        m.time = time_;
        m.phase = phase_;
        m.height = height_;
        m.metal = temperatures_.metal.si();
        m.oil = temperatures_.oil.si();
        m.fuel = total();
        m.tank = running ? tank_ : -1;
        if (running) {
            m.rpm = setting.rpm.si();
            m.boost = point.manifoldPressure.si();
            m.oilPressure = a_.thermal.oilPressure(setting.rpm, temperatures_.oil, thinning()).si();
            m.charge = point.chargeTemperature.si();
            m.power = point.power.si();
            m.bmep = std::max(0.0, point.meanEffectivePressure);
            m.speed = setting.ias.si();
            m.gear = setting.gear;
        } else {
            m.boost = air().pressure.si();
            m.charge = air().temperature.si();
        }
        out_.moments.push_back(m);
    }

    engine::OperatingPoint operate(const Setting& s) const { return engine::operate(a_.model(), demand(s)); }
    [[nodiscard]] engine::Demand demand(const Setting& s) const {
        engine::Demand d{s.rpm, s.boost, s.gear, air(), s.ias, s.mixture};
        d.water = s.water;
        return d;
    }

    /// Knock boundary at a phase's setting; beyond it is said, and only the notes decide.
    void boundary(Phase phase) {
        auto& p = out_[phase];
        if (n_.engine.gears.empty())
            return;
        p.boundary = knock_.permitted(demand(p.setting));
        if (const double over = p.point.manifoldPressure.si() - p.boundary.si(); over > 300.0)
            say(phase, watch::Colour::amber,
                fmt::format("The charge is at {} today: the model's knock boundary is {}, {} under what is set.",
                            format(p.point.chargeTemperature.si(), *n_.cockpit.temperature),
                            format(p.boundary.si(), n_.unitOf(Gauge::boost)),
                            format(over + n_.unitOf(Gauge::boost).offset, n_.unitOf(Gauge::boost))));
    }
    void ice(Phase phase) {
        const auto here = air();
        const auto dew = dewPointAt(day_, Length::si(height_), here.temperature);
        out_.ice.push_back(
            {phase, engine::carburettorIce(n_.engine, a_.model(), knock_, demand(out_[phase].setting), dew)});
    }

    heat::Drive drive(const Setting& s, const engine::OperatingPoint& p) const {
        const air::Ambient here = air();
        return {true,
                p.airFlow,
                p.fuelAirRatio,
                p.power,
                s.rpm,
                here,
                s.ias.si() > 0 ? air::trueAirspeed(s.ias, here.pressure, here.temperature) : Speed{},
                s.flap,
                blanked() ? blankedCooler : 1.0,
                thinning()};
    }
    /// Dilution boils out while it warms: reckoned until the run-up.
    [[nodiscard]] double thinning() const { return phase_ < Phase::runUp ? oilThinning(n_, s_) : 1.0; }
    /// Blanks stay on until the take-off.
    [[nodiscard]] bool blanked() const { return s_.start.blanks && phase_ < Phase::takeOff; }

    /// The one place where the temperatures move.
    void heatFor(const heat::Drive& d, double dt) {
        temperatures_ = a_.thermal.after(temperatures_, d, Duration::si(dt));
        out_.stretches.push_back({time_, dt, d});
    }

    /// Runs for a time at constant setting and height.
    void steady(const Setting& setting, double duration, double step, double enginesRunning) {
        if (duration <= 0)
            return;
        const auto point = operate(setting);
        const auto d = drive(setting, point);
        note(setting, point, true);
        const int steps = std::max(1, static_cast<int>(std::ceil(duration / step)));
        const double dt = duration / steps;
        for (int i = 0; i < steps; ++i) {
            heatFor(d, dt);
            burn(point.fuelFlow.si() / n_.fuel.density * enginesRunning * dt);
            distance_ += d.trueAirspeed.si() * dt;
            time_ += dt;
            note(setting, point, true);
        }
    }

    void standing(double duration) {
        note({}, {}, false);
        heatFor({false, {}, 0.08, {}, {}, air(), {}, 0.5}, duration);
        time_ += duration;
        note({}, {}, false);
    }

    /// The rpm on the ground, by throttle, on the fine stop.
    [[nodiscard]] Setting groundSetting(Rotation rpm, double flap) const {
        Setting s;
        s.rpm = rpm;
        s.boost = engine::boostForRpm(a_.model(), a_.fineStop, rpm, 0, air());
        s.boostOrigin = Origin::model;
        s.flap = flap;
        return s;
    }

    [[nodiscard]] Setting ratedSetting(Phase phase) const {
        const Rating& rating = ratingFor(n_, s_, phase);
        const auto permitted = engine::permittedBoost(n_, rating, s_.fuelGrade);
        const PhaseNotes& notes = n_.phase(phase);
        Setting s;
        s.rpm = rating.rpm;
        s.boost = permitted.boost;
        s.boostOrigin = permitted.origin;
        s.mixture = notes.mixture.value_or(rating.mixture);
        s.flap = notes.flap.value_or(0.5);
        s.gear = n_.gearIndex(notes.gear).value_or(0);
        s.ias = notes.ias.value_or(Speed{});
        s.water = rating.water;
        limit(s, phase);
        // A grade the notes say nothing of: not past the boundary either.
        if (permitted.origin == Origin::model && s.boost && !n_.engine.gears.empty())
            if (const auto most = knock_.permitted(demand(s)); most < *s.boost) {
                s.boost = most;
                s.boostOrigin = Origin::model;
            }
        return s;
    }

    /// What the propeller makes of a setting in the air: with a fixed or two-position one the rpm follows throttle and
    /// speed, and the throttle is held back rather than pass the wanted rpm.
    [[nodiscard]] Setting settled(Setting s, const engine::BladeAngle& blades) const {
        if (!a_.propeller.followsThrottle())
            return s;
        const auto both = engine::agree(a_.model(), blades, s.rpm, s.boost, s.gear, air(), s.ias, s.mixture);
        s.rpm = both.rpm;
        // Wide open stays wide open as it climbs; only what is held back is a boost.
        if (both.throttled || s.boost) {
            if (both.throttled || !s.boost)
                s.boostOrigin = Origin::model;
            s.boost = both.throttled || !s.boost ? both.boost : *s.boost;
        }
        return s;
    }
    [[nodiscard]] Setting settled(const Setting& s) const { return settled(s, a_.propeller.coarse); }

    [[nodiscard]] Setting notedSetting(Phase phase) const {
        const PhaseNotes& notes = n_.phase(phase);
        Setting s;
        s.rpm = notes.rpm.value_or(Rotation::si(20));
        s.boost = notes.boost;
        s.mixture = notes.mixture.value_or(Mixture::rich);
        s.flap = notes.flap.value_or(0.5);
        s.gear = n_.gearIndex(notes.gear).value_or(0);
        s.ias = notes.ias.value_or(Speed{});
        limit(s, phase);
        return s;
    }

    /// No setting beyond a limit of the notes, whatever the ratings say.
    void limit(Setting& s, Phase phase) const {
        if (const auto g = n_.gauges.find(Gauge::boost); s.boost && g != n_.gauges.end())
            if (const auto most = g->second.in(phase).limitHigh; most && s.boost->si() > *most)
                s.boost = ManifoldPressure::si(*most);
        if (const auto g = n_.gauges.find(Gauge::rpm); g != n_.gauges.end())
            if (const auto most = g->second.in(phase).limitHigh; most && s.rpm.si() > *most)
                s.rpm = Rotation::si(*most);
    }

    // ---- phases
    void walkRound() {
        begin(Phase::walkRound);
        standing(n_.phase(Phase::walkRound).duration.value_or(Duration::si(900)).si());
        end();
    }

    void start() {
        begin(Phase::start);
        const auto& notes = n_.phase(Phase::start);
        const StartNotes inForce = start::startInForce(n_, s_.choices);
        const Setting s = groundSetting(start::firstRpm(n_, inForce), notes.flap.value_or(1.0));
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
        // What the others have burnt, and how warm they are, by then.
        const auto d = drive(s, p.point);
        for (const auto& position : n_.positions) {
            const auto from = out_.start.runningFrom.find(position.id);
            if (from == out_.start.runningFrom.end())
                continue;
            EngineWarmth w{position.id, time_ - lastFires + from->second, {}, {}};
            const Temperature cold = engineTemperatureOf(s_);
            w.atStartEnd = a_.thermal.after({cold, cold}, d, Duration::si(lastFires + lastRun - from->second));
            out_.warmth.push_back(w);
            burn(p.point.fuelFlow.si() / n_.fuel.density * (lastFires - from->second));
        }
        steady(s, lastRun, lastRun, engines_);
        end();
    }

    [[nodiscard]] bool warmEnough(const heat::Temperatures& t, Temperature oil,
                                  std::optional<Temperature> metal) const {
        return t.oil >= oil && (!metal || t.metal >= *metal);
    }

    /// Settings of the warm-up: the notes' steps by oil temperature, held back while cold oil would pass its pressure
    /// limit; the flaps by the school in force.
    class WarmUp {
    public:
        explicit WarmUp(const Simulation& s) : s_(s) {
            const PhaseNotes& notes = s.n_.phase(Phase::warmUp);
            flap_ = notes.flap.value_or(1.0);
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
            const bool shut = shut_ && s_.n_.warmUp.headRunUp && t.metal < *s_.n_.warmUp.headRunUp;
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

    /// Warms for a time at the steps' rpm.
    void warmFor(WarmUp& warm, double duration) {
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

    void warmUp() {
        begin(Phase::warmUp);
        WarmUp warm(*this);
        const Setting taxi = groundSetting(n_.warmUp.taxiRpm, n_.phase(Phase::warmUp).flap.value_or(1.0));
        auto& p = out_[Phase::warmUp];
        groundBudget(taxi);
        // How long at the warm-up's rpm, counted before the taxi which warms it further.
        const auto waitFor = [&](heat::Temperatures& t, Temperature oil, std::optional<Temperature> metal,
                                 double already) {
            while (already < longestWarmUp && !warmEnough(t, oil, metal)) {
                t = a_.thermal.after(t, warm.at(t).drive, Duration::si(10));
                already += 10.0;
            }
            return already;
        };
        heat::Temperatures t = temperatures_;
        const double waited = waitFor(t, n_.warmUp.oilRunUp, n_.warmUp.headRunUp, 0.0);
        p.setting = warm.at(t).setting;
        p.point = warm.at(t).point;
        if (waited < longestWarmUp)
            out_.minutesToRunUp = waited;
        else
            say(Phase::warmUp, watch::Colour::red,
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

    void groundBudget(const Setting& taxi) {
        const Gauge gauge = n_.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature;
        const auto found = n_.gauges.find(gauge);
        if (found == n_.gauges.end())
            return;
        const Band& band = found->second.in(Phase::warmUp);
        const auto d = drive(taxi, operate(taxi));
        heat::Temperatures t = temperatures_;
        for (double at = 0.0; at < groundBudgetHorizon && !out_.groundToRed; at += 30.0) {
            if (band.normalHigh && !out_.groundToAmber && t.metal.si() > *band.normalHigh)
                out_.groundToAmber = at;
            if (band.limitHigh && t.metal.si() > *band.limitHigh)
                out_.groundToRed = at;
            t = a_.thermal.after(t, d, Duration::si(30));
        }
    }

    void runUp() {
        begin(Phase::runUp);
        const PhaseNotes& notes = n_.phase(Phase::runUp);
        const double flap = notes.flap.value_or(1.0);
        out_.fieldBoost = ManifoldPressure::si(day_.fieldPressure().si());
        const Rating& takeOffRating = ratingFor(n_, s_, Phase::takeOff);
        out_.referenceRpm = engine::staticRpm(a_.model(), a_.fineStop, out_.fieldBoost, 0, air(), takeOffRating.rpm);
        const double duration = notes.duration.value_or(Duration::si(300)).si();
        const Rotation exercise = notes.rpm.value_or(Rotation::si(30));
        const Setting idle = groundSetting(n_.warmUp.taxiRpm, flap), middle = groundSetting(exercise, flap);
        Setting reference;
        reference.rpm = out_.referenceRpm;
        reference.boost = out_.fieldBoost;
        reference.boostOrigin = Origin::model;
        reference.flap = flap;
        auto& p = out_[Phase::runUp];
        p.setting = reference;
        p.point = operate(reference);
        constexpr double atReference = 40.0;
        steady(idle, 0.35 * duration, groundStep, engines_);
        steady(middle, std::max(20.0, 0.35 * duration - atReference), groundStep, engines_);
        steady(reference, atReference, atReference / 2, engines_);
        steady(idle, 0.30 * duration, groundStep, engines_);
        steady(idle, s_.flight.hold.si(), groundStep, engines_);
        const Setting warmest =
            groundSetting(n_.warmUp.steps.empty() ? *n_.phase(Phase::warmUp).rpm : n_.warmUp.steps.back().second, flap);
        double more = 0.0;
        while (more < longestWarmUp / 2 && !warmEnough(temperatures_, n_.warmUp.oilTakeOff, n_.warmUp.headTakeOff)) {
            steady(warmest, groundStep, groundStep, engines_);
            more += groundStep;
        }
        if (more >= longestWarmUp / 2)
            say(Phase::runUp, watch::Colour::red,
                "The least temperatures for take-off are not reached at warm-up rpm today.");
        end();
    }

    void takeOff() {
        begin(Phase::takeOff);
        const Rating& rating = ratingFor(n_, s_, Phase::takeOff);
        Setting s = ratedSetting(Phase::takeOff);
        auto& p = out_[Phase::takeOff];
        p.setting = s;
        p.point = operate(s);
        boundary(Phase::takeOff);
        const auto permitted = engine::permittedBoost(n_, rating, s_.fuelGrade);
        if (permitted.cut)
            say(Phase::takeOff, watch::Colour::amber, permitted.because + ".");
        const air::Day standard = air::standardDay(Length{});
        out_.seaLevelPower = engine::operate(a_.model(), {rating.rpm, rating.boost, s.gear, standard.at(Length{}),
                                                          Speed{}, rating.mixture})
                                 .power;
        out_.staticRpm =
            engine::staticRpm(a_.model(), a_.fineStop, p.point.manifoldPressure, s.gear, air(), rating.rpm);
        const double duration = n_.phase(Phase::takeOff).duration.value_or(Duration::si(60)).si();
        const auto liftOff = speedFor(n_, "lift-off", weight());
        const auto best = speedFor(n_, "climb", weight());
        constexpr double roll = 25.0; // s on the runway
        Setting ground = s;
        ground.ias = Speed::si(0.5 * liftOff->speed.si());
        ground = settled(ground, a_.propeller.fine);
        steady(ground, std::min(roll, duration / 2), roll, engines_);
        s.ias = Speed::si(0.5 * (liftOff->speed.si() + best->speed.si()));
        if (a_.propeller.followsThrottle()) {
            s = settled(s, a_.propeller.fine);
            p.setting = s;
            p.point = operate(s);
        }
        const double airborne = duration - std::min(roll, duration / 2);
        const double rate = rateOfClimb(a_, operate(s).power.si() * engines_, weight(), s.ias, air()).si();
        if (rate < leastClimb)
            say(Phase::takeOff, watch::Colour::red, "At this power and weight it does not climb away.");
        const double top = day_.elevation.si() + std::max(takeOffHeight, 0.6 * std::max(0.0, rate) * airborne);
        const double rise = std::max(0.0, std::min(top, s_.flight.cruiseHeight.si()) - height_);
        steady(s, airborne / 2, airborne / 2, engines_);
        height_ += rise / 2;
        steady(s, airborne / 2, airborne / 2, engines_);
        height_ += rise / 2;
        end();
    }

    [[nodiscard]] Speed climbSpeed() const {
        const double above = std::max(0.0, pressureAltitude().si());
        const auto entry = speedFor(n_, "climb", weight());
        return Speed::si(
            std::max(0.75 * entry->speed.si(), entry->speed.si() - n_.speeds.climbLossPerKm.si() * above / 1000.0));
    }

    /// By the notes' rule: boost has fallen by so much at full throttle, and the other gear gives more power.
    [[nodiscard]] bool timeToChange(const Setting& s, const engine::OperatingPoint& p) const {
        if (!n_.gearChange || s.gear + 1 >= n_.engine.gears.size() || !p.fullThrottle || !s.boost)
            return false;
        if (s.boost->si() - p.manifoldPressure.si() < n_.gearChange->fall.si() - 1.0)
            return false;
        Setting other = s;
        ++other.gear;
        other.boost = boostInGear(ratingFor(n_, s_, Phase::climb), other);
        return operate(other).power > p.power;
    }

    [[nodiscard]] std::optional<Length> gearHeight(const Rating& rating, Setting s, std::size_t gear) const {
        s.gear = gear;
        return engine::fullThrottleHeight(a_.model(), s.rpm, *boostInGear(rating, s), gear, day_, s.ias, s.mixture);
    }

    /// Boost of a rating in a gear, with the grade's cut in proportion and within the limit.
    [[nodiscard]] std::optional<ManifoldPressure> boostInGear(const Rating& rating, const Setting& s) const {
        const auto permitted = engine::permittedBoost(n_, rating, s_.fuelGrade).boost;
        if (!permitted || n_.engine.gears.empty())
            return permitted;
        const auto own = rating.boostIn(n_.engine.gears[std::min(s.gear, n_.engine.gears.size() - 1)].name);
        Setting out = s;
        out.boost = ManifoldPressure::si(own->si() * permitted->si() / rating.boost->si());
        limit(out, phase_);
        return out.boost;
    }

    /// Pressure altitude where the next gear gives as much power at this setting.
    [[nodiscard]] std::optional<Length> equalPower(const Rating& rating, const Setting& s, std::size_t from) const {
        const auto power = [&](double altitude, std::size_t gear) {
            Setting in = s;
            in.gear = gear;
            in.boost = boostInGear(rating, in);
            engine::Demand d = demand(in);
            d.air = day_.at(Length::si(altitude));
            return engine::operate(a_.model(), d).power.si();
        };
        const auto gain = [&](double altitude) { return power(altitude, from + 1) - power(altitude, from); };
        double low = 0.0, high = 12000.0;
        if (gain(low) > 0 || gain(high) < 0)
            return std::nullopt;
        for (int i = 0; i < 24; ++i) {
            const double mid = 0.5 * (low + high);
            (gain(mid) > 0 ? high : low) = mid;
        }
        return Length::si(high);
    }

    void climb() {
        begin(Phase::climb);
        Setting s = ratedSetting(Phase::climb);
        const Rating& rating = ratingFor(n_, s_, Phase::climb);
        const auto permitted = engine::permittedBoost(n_, rating, s_.fuelGrade);
        if (permitted.cut)
            say(Phase::climb, watch::Colour::amber, permitted.because + ".");
        const Setting asked = s;
        s.ias = climbSpeed();
        s = settled(s);
        auto& phase = out_[Phase::climb];
        phase.setting = s;
        phase.point = operate(s);
        boundary(Phase::climb);
        ice(Phase::climb);
        if (s.boost)
            for (std::size_t g = 0; g < std::min<std::size_t>(4, n_.engine.gears.size()); ++g)
                out_.fullThrottleHeights[g] = gearHeight(rating, s, g);
        out_.firstRate = rateOfClimb(a_, phase.point.power.si() * engines_, weight(), s.ias, air());
        const double goal = s_.flight.cruiseHeight.si();
        constexpr double longest = 3 * 3600.0;
        double dt = climbStep;
        note(s, phase.point, true);
        while (height_ < goal - 0.5 && time_ - phase.start < longest) {
            if (a_.propeller.followsThrottle()) {
                s = asked;
                s.ias = climbSpeed();
                s = settled(s);
            } else {
                s.ias = climbSpeed();
            }
            auto point = operate(s);
            if (timeToChange(s, point)) {
                GearChange change{
                    time_, pressureAltitude(), Length::si(height_), point.manifoldPressure, s.gear, s.gear + 1, {}};
                Setting back = s;
                back.boost =
                    ManifoldPressure::si(std::min(n_.gearChange->throttleBackTo.si(), point.manifoldPressure.si()));
                steady(back, gearChangeTime, gearChangeTime, engines_);
                ++s.gear;
                s.boost = boostInGear(rating, s);
                change.equalPower = equalPower(rating, s, change.from);
                out_.gearChanges.push_back(change);
                point = operate(s);
                note(s, point, true);
            }
            const air::Ambient here = air();
            const double rate = rateOfClimb(a_, point.power.si() * engines_, weight(), s.ias, here).si();
            if (rate < leastClimb) {
                out_.reachedHeight = false;
                say(Phase::climb, watch::Colour::red,
                    fmt::format("It climbs no higher than {} today; the cruise is planned there.",
                                formatHeight(height_, *n_.cockpit.height)));
                break;
            }
            const double untilTop = (goal - height_) / rate;
            dt = std::min(climbStep, untilTop);
            // The step ends where the gear is changed, found by halving.
            const double before = height_;
            if (s.gear + 1 < n_.engine.gears.size() && n_.gearChange) {
                height_ = before + rate * dt;
                if (timeToChange(s, operate(s))) {
                    double low = 0.0, high = dt;
                    for (int i = 0; i < 12; ++i) {
                        const double mid = 0.5 * (low + high);
                        height_ = before + rate * mid;
                        (timeToChange(s, operate(s)) ? high : low) = mid;
                    }
                    dt = std::max(0.05, high);
                }
                height_ = before;
            }
            heatFor(drive(s, point), dt);
            burn(point.fuelFlow.si() / n_.fuel.density * engines_ * dt);
            const double tas = air::trueAirspeed(s.ias, here.pressure, here.temperature).si();
            distance_ += std::sqrt(std::max(0.0, tas * tas - rate * rate)) * dt;
            height_ += rate * dt;
            time_ += dt;
            note(s, operate(s), true);
        }
        end();
    }

    /// The lowest gear that holds the boost; else the one with most power.
    void chooseGear(Setting& s) const {
        double best = -1e18;
        std::size_t chosen = 0;
        for (std::size_t g = 0; g < std::max<std::size_t>(1, n_.engine.gears.size()); ++g) {
            s.gear = g;
            const auto p = operate(s);
            if (!p.fullThrottle) {
                chosen = g;
                break;
            }
            if (p.power.si() > best) {
                best = p.power.si();
                chosen = g;
            }
        }
        s.gear = chosen;
    }

    /// What the let-down needs over the ground, so that the cruise ends in time.
    [[nodiscard]] double letDownDistance(double from, double to) const {
        const PhaseNotes& notes = n_.phase(Phase::letDown);
        const double middle = 0.5 * (from + to);
        const air::Ambient mid = day_.at(day_.pressureAltitudeOf(Length::si(middle)));
        return std::max(0.0, from - to) / notes.rate->si() *
               air::trueAirspeed(*notes.ias, mid.pressure, mid.temperature).si();
    }

    void cruise() {
        begin(Phase::cruise);
        Setting s = ratedSetting(Phase::cruise);
        const Rating& rating = ratingFor(n_, s_, Phase::cruise);
        const auto permitted = engine::permittedBoost(n_, rating, s_.fuelGrade);
        if (permitted.cut)
            say(Phase::cruise, watch::Colour::amber, permitted.because + ".");
        const auto& choice = s_.flight;
        const bool chosen = choice.cruiseRpm || choice.cruiseBoost || choice.cruiseMixture;
        if (choice.cruiseRpm)
            s.rpm = *choice.cruiseRpm;
        if (choice.cruiseBoost) {
            s.boost = *choice.cruiseBoost;
            s.boostOrigin = Origin::model;
        }
        if (choice.cruiseMixture)
            s.mixture = *choice.cruiseMixture;
        if (chosen)
            limit(s, Phase::cruise);
        out_.cruisePressureAltitude = pressureAltitude();
        if (!n_.fuel.order.empty())
            switchTo(tankIndex(n_.fuel.order.front()), false);
        auto& phase = out_[Phase::cruise];
        Speed tas = Speed::si(60);
        // Ram depends on the speed and the speed on the power: three rounds settle it to a tenth of a knot.
        const Setting asked = s;
        for (int round = 0; round < (a_.propeller.followsThrottle() ? 8 : 3); ++round) {
            const Speed ias = s.ias;
            s = asked;
            s.ias = ias;
            if (const auto gear = n_.gearIndex(choice.cruiseGear); !choice.cruiseGear.empty() && gear)
                s.gear = *gear;
            else
                chooseGear(s);
            s = settled(s);
            const auto point = operate(s);
            const auto level = levelSpeed(a_, point.power.si() * engines_, weight(), air());
            if (!level) {
                say(Phase::cruise, watch::Colour::red, "At this power it cannot hold the height.");
                tas = air::trueAirspeed(climbSpeed(), air().pressure, air().temperature);
            } else {
                tas = *level;
            }
            s.ias = air::calibratedAirspeed(tas, air().pressure, air().temperature);
            if (!level)
                break;
        }
        phase.setting = s;
        phase.point = operate(s);
        boundary(Phase::cruise);
        ice(Phase::cruise);
        if (chosen && s.boost && phase.point.fullThrottle)
            phase.setting.boost = phase.point.manifoldPressure;
        if (s.mixture == Mixture::weak && !engine::weakAllowed(n_, phase.point.power))
            say(Phase::cruise, watch::Colour::amber,
                fmt::format("Weak mixture is for up to {:.0f} % of the highest power; this is more.",
                            100 * n_.engine.weakUpTo));
        out_.cruiseTas = tas;
        out_.cruiseFuelFlow = phase.point.fuelFlow.si() / n_.fuel.density * engines_;
        const double left =
            s_.flight.distance.si() - distance_ - letDownDistance(height_, s_.flight.toElevation.si() + circuitHeight);
        if (left < -5000.0)
            say(Phase::cruise, watch::Colour::amber,
                "Climb and let-down together are longer than the distance: choose a lower height.");
        double toGo = std::max(0.0, left) / tas.si();
        note(s, phase.point, true);
        std::size_t at = 0;
        while (toGo > 1e-6 && !dry_) {
            // Each tank of the order down to a twentieth, the last as far as it goes.
            double usable = contents_[static_cast<std::size_t>(tank_)] -
                            0.05 * n_.fuel.tanks[static_cast<std::size_t>(tank_)].usable.si();
            while (usable <= 0 && at + 1 < n_.fuel.order.size()) {
                ++at;
                switchTo(tankIndex(n_.fuel.order[at]), false);
                usable = contents_[static_cast<std::size_t>(tank_)] -
                         0.05 * n_.fuel.tanks[static_cast<std::size_t>(tank_)].usable.si();
            }
            const double fed = at + 1 < n_.fuel.order.size() ? usable / std::max(out_.cruiseFuelFlow, 1e-9) : toGo;
            const double stretch = std::min(toGo, std::max(1.0, fed));
            steady(s, stretch, cruiseStep, engines_);
            toGo -= stretch;
        }
        end();
    }

    /// The let-down's setting, its power `share` of the way from the notes' up to the cruise's.
    [[nodiscard]] Setting eased(const Setting& low, const Setting& high, double share) const {
        Setting s = low;
        if (low.boost && !a_.propeller.followsThrottle()) {
            const double top = std::max(low.boost->si(), out_[Phase::cruise].point.manifoldPressure.si());
            s.boost = ManifoldPressure::si(low.boost->si() + share * (top - low.boost->si()));
            if (share > 0)
                s.boostOrigin = Origin::model;
        } else {
            s.rpm = Rotation::si(low.rpm.si() + share * std::max(0.0, high.rpm.si() - low.rpm.si()));
        }
        limit(s, Phase::letDown);
        return settled(s);
    }

    /// Power is taken off by steps of a minute: the least at which heads or coolant fall no faster than they may and
    /// stay above their least; the flaps go shut where even that is too little.
    void letDown() {
        begin(Phase::letDown);
        switchTo(tankIndex(n_.fuel.landingTank), false);
        const Setting asked = notedSetting(Phase::letDown);
        const Setting cruise = out_[Phase::cruise].setting;
        const double goal = s_.flight.toElevation.si() + circuitHeight;
        const double rate = n_.phase(Phase::letDown).rate->si();
        const double most = 0.97 * coolingLimit(n_).perMinute;
        const auto least = letDownLeast(n_);
        auto& phase = out_[Phase::letDown];
        const double flapNotes = asked.flap;
        double share = 1.0, told = -1.0;
        bool low = false;
        const std::size_t first = out_.moments.size();
        while (height_ > goal + 0.5) {
            const double span = std::min(stepMinute, (height_ - goal) / rate);
            const double before = temperatures_.metal.si();
            const auto holds = [&](double s, double flap) {
                Setting trial = asked;
                trial.flap = flap;
                trial = eased(trial, cruise, s);
                trial.flap = flap;
                const auto after =
                    a_.thermal.after(temperatures_, drive(trial, operate(trial)), Duration::si(stepMinute)).metal.si();
                return before - after <= most && (!least || after >= std::min(before, least->si()) - 0.05);
            };
            // Shut the flaps before giving power back; then the least power of sixteen steps that will do.
            double flap = flapNotes;
            if (!holds(share, flap))
                flap = 0.0;
            constexpr int parts = 16;
            int chosen = parts;
            for (int i = 0; i <= parts; ++i)
                if (holds(i / static_cast<double>(parts), flap)) {
                    chosen = i;
                    break;
                }
            low = low || (chosen == parts && !holds(1.0, flap));
            share = chosen / static_cast<double>(parts);
            Setting s = asked;
            s.flap = flap;
            s = eased(s, cruise, share);
            s.flap = flap;
            const auto point = operate(s);
            // Without a governor the rpm drifts with the height: only a lever that is moved is a step.
            if (out_.letDown.empty() || std::abs(share - told) > 1e-9 || out_.letDown.back().setting.flap != s.flap) {
                told = share;
                out_.letDown.push_back({time_, Length::si(height_), s, point.manifoldPressure, temperatures_.metal});
            }
            note(s, point, true);
            for (double done = 0.0; done < span - 1e-6;) {
                const double dt = std::min(airStep, span - done);
                const auto now = operate(s);
                const auto d = drive(s, now);
                heatFor(d, dt);
                burn(now.fuelFlow.si() / n_.fuel.density * engines_ * dt);
                distance_ += d.trueAirspeed.si() * dt;
                height_ -= rate * dt;
                time_ += dt;
                done += dt;
                note(s, operate(s), true);
            }
            out_.letDownCooling = std::max(out_.letDownCooling, before - temperatures_.metal.si());
        }
        // Where it settles: the notes' own setting as far as the cooling lets it.
        Setting s = asked;
        if (!out_.letDown.empty())
            s = out_.letDown.back().setting;
        else
            s = settled(s);
        phase.setting = s;
        phase.point = operate(s);
        ice(Phase::letDown);
        if (out_.moments.size() == first)
            note(s, phase.point, true);
        if (low)
            say(Phase::letDown, watch::Colour::amber,
                "Even at cruising power with the flaps shut it cools faster than it may, or below its least: slow down "
                "or let down in steps.");
        end();
    }

    void landing() {
        begin(Phase::landing);
        const Setting s = settled(notedSetting(Phase::landing));
        const double duration = n_.phase(Phase::landing).duration.value_or(Duration::si(300)).si();
        auto& phase = out_[Phase::landing];
        phase.setting = s;
        phase.point = operate(s);
        ice(Phase::landing);
        const double down = height_ - s_.flight.toElevation.si();
        constexpr int legs = 6;
        for (int i = 0; i < legs; ++i) {
            steady(s, duration / legs, duration / legs, engines_);
            height_ -= down / legs;
        }
        height_ = s_.flight.toElevation.si();
        note(s, operate(s), true);
        end();
    }

    void stop() {
        begin(Phase::stop);
        const PhaseNotes& notes = n_.phase(Phase::stop);
        const double flap = notes.flap.value_or(1.0);
        const Setting taxi = groundSetting(n_.warmUp.taxiRpm, flap), idle = groundSetting(*notes.rpm, flap);
        auto& phase = out_[Phase::stop];
        phase.setting = idle;
        phase.point = operate(idle);
        steady(taxi, n_.warmUp.taxi.si(), groundStep, engines_);
        while (n_.stop.coolBelow && temperatures_.metal > *n_.stop.coolBelow && out_.coolDown < longestCoolDown) {
            steady(idle, groundStep, groundStep, engines_);
            out_.coolDown += groundStep;
        }
        if (out_.coolDown >= longestCoolDown)
            say(Phase::stop, watch::Colour::amber,
                fmt::format("It does not cool under the figure in {:.0f} minutes at idle today.",
                            longestCoolDown / 60));
        steady(groundSetting(n_.stop.scavengeRpm, flap), n_.stop.scavenge.si(), n_.stop.scavenge.si(), engines_);
        standing(120.0);
        end();
    }

    void reserve() {
        const double wanted = n_.fuel.reserve.si() * out_.cruiseFuelFlow;
        if (!dry_ && out_.fuelAtEnd < wanted)
            say(Phase::cruise, watch::Colour::red,
                fmt::format("{} is left at the end, less than the reserve of {}.",
                            format(out_.fuelAtEnd, *n_.cockpit.fuel), format(wanted, *n_.cockpit.fuel)));
    }

    const Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const air::Day& day_;
    engine::KnockBoundary knock_;
    Flown out_;
    Phase phase_ = Phase::walkRound;
    double time_ = 0.0, height_ = 0.0, distance_ = 0.0;
    double fuelBefore_ = 0.0, distanceBefore_ = 0.0, engines_ = 1.0;
    heat::Temperatures temperatures_;
    std::vector<double> contents_;
    int tank_ = 0;
    bool dry_ = false;
};
} // namespace

CoolingLimit coolingLimit(const TypeNotes& notes) {
    if (notes.letDown.coolingPerMinute)
        return {notes.letDown.coolingPerMinute->si(), Origin::notes};
    return {notes.engine.cooling == Cooling::air ? 20.0 : 15.0, Origin::model};
}

std::optional<Temperature> letDownLeast(const TypeNotes& notes) {
    const Gauge gauge = notes.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature;
    const auto found = notes.gauges.find(gauge);
    if (found == notes.gauges.end())
        return std::nullopt;
    const Band& band = found->second.in(Phase::letDown);
    if (band.normalLow)
        return Temperature::si(*band.normalLow);
    if (band.limitLow)
        return Temperature::si(*band.limitLow);
    return std::nullopt;
}

double oilThinning(const TypeNotes& notes, const Sortie& sortie) {
    return sortie.start.diluted ? notes.start.cold.dilutedViscosity : 1.0;
}

const Rating& ratingFor(const TypeNotes& notes, const Sortie& sortie, Phase phase) {
    const std::string& chosen = phase == Phase::climb    ? sortie.flight.climbRating
                                : phase == Phase::cruise ? sortie.flight.cruiseRating
                                                         : notes.phase(phase).rating;
    if (const Rating* rating = notes.rating(chosen))
        return *rating;
    if (const Rating* rating = notes.rating(notes.phase(phase).rating))
        return *rating;
    return notes.ratings.front();
}

std::optional<TabulatedSpeed> speedFor(const TypeNotes& notes, std::string_view id, Mass weight) {
    for (const auto& entry : notes.speeds.entries)
        if (entry.id == id) {
            const double t = std::clamp((weight.si() - notes.speeds.lightWeight.si()) /
                                            (notes.speeds.heavyWeight.si() - notes.speeds.lightWeight.si()),
                                        0.0, 1.0);
            const Origin origin = t <= 0.0 || t >= 1.0 ? Origin::notes : Origin::betweenNotes;
            return TabulatedSpeed{Speed::si(entry.light.si() + t * (entry.heavy.si() - entry.light.si())), origin};
        }
    return std::nullopt;
}

Temperature dewPointAt(const air::Day& day, Length height, Temperature air) {
    constexpr double fallPerMetre = 1.8e-3;
    const double dew = day.dewPoint.si() - fallPerMetre * std::max(0.0, height.si() - day.elevation.si());
    return Temperature::si(std::min(dew, air.si()));
}

Temperature engineTemperatureOf(const Sortie& sortie) {
    return start::engineTemperature({sortie.start.sinceStop, start::Soak{}.whenStopped, sortie.start.preheated},
                                    sortie.day.oat);
}

start::StartRequest startRequestOf(const Sortie& sortie) {
    start::StartRequest r;
    r.order = sortie.start.order;
    r.engine = engineTemperatureOf(sortie);
    r.oil = r.engine;
    r.field = sortie.day.fieldPressure();
    r.supply = sortie.start.supply;
    r.extraPrime = sortie.airframe.extraPrime;
    r.diluted = sortie.start.diluted;
    return r;
}

Flown fly(const Aircraft& aircraft, const Sortie& sortie) {
    return Simulation(aircraft, sortie).run();
}

} // namespace amber::plan
