// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/simulation.h"
#include "air/airspeed.h"
#include "engine/fuel_grade.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::flight {
namespace {
constexpr double worthTaking = 1.0;    // s left of a rating that it is changed to
constexpr double blankedCooler = 0.15; // of the oil cooler's air that gets past the blanks
} // namespace

Flown Simulation::run() {
    out_.ratings = watch::RatingLedger(n_.ratings);
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
    for (auto& finding : watch_.findings())
        (finding.rule == watch::Rule::amberTime ? out_.findings : out_.excursions).push_back(std::move(finding));
    return std::move(out_);
}

double Simulation::total() const {
    double sum = 0.0;
    for (const double c : contents_)
        sum += c;
    return sum;
}

int Simulation::tankIndex(std::string_view id) const {
    for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
        if (n_.fuel.tanks[i].id == id)
            return static_cast<int>(i);
    return 0;
}

Mass Simulation::weight() const {
    return Mass::si(s_.weight.si() - (out_.fuelAtStart - total()) * n_.fuel.density);
}

void Simulation::say(Phase phase, watch::Rule rule, std::string sentence) {
    out_.findings.push_back({rule, phase, {}, time_, time_, {}, watch::broken(rule, std::move(sentence))});
}

void Simulation::begin(Phase phase) {
    phase_ = phase;
    auto& p = out_[phase];
    p.start = time_;
    p.firstSample = out_.samples.size();
    fuelBefore_ = total();
    distanceBefore_ = distance_;
}

void Simulation::end() {
    auto& p = out_[phase_];
    p.duration = time_ - p.start;
    p.fuel = fuelBefore_ - total();
    p.distance = distance_ - distanceBefore_;
    if (out_.samples.size() == p.firstSample)
        note({}, {}, false);
    p.lastSample = out_.samples.size() - 1;
}

void Simulation::switchTo(int tank, bool dry) {
    if (tank == tank_)
        return;
    tank_ = tank;
    out_.tankChanges.push_back({time_, tank, phase_, dry});
}

void Simulation::burn(double volume) {
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
                say(phase_, watch::Rule::tanksEmpty,
                    fmt::format("All tanks are empty at {}.", formatHoursMinutes(time_)));
            dry_ = true;
            return;
        }
        switchTo(static_cast<int>(fullest - contents_.begin()), true);
    }
}

void Simulation::note(const Setting& setting, const engine::OperatingPoint& point, bool running) {
    Sample m;
    m.time = time_;
    m.phase = phase_;
    m.tank = running ? tank_ : -1;
    m[Gauge::height] = height_;
    m[headOrCoolantGauge(n_)] = temperatures_.headOrCoolant.si();
    m[Gauge::oilTemperature] = temperatures_.oil.si();
    m[Gauge::fuel] = total();
    m[Gauge::rpm] = m[Gauge::oilPressure] = m[Gauge::power] = m[Gauge::torque] = m[Gauge::airspeed] = 0.0;
    if (running) {
        m[Gauge::rpm] = setting.rpm.si();
        m[Gauge::boost] = point.manifoldPressure.si();
        m[Gauge::oilPressure] = a_.thermal.oilPressure(setting.rpm, temperatures_.oil, thinning()).si();
        m[Gauge::chargeTemperature] = point.chargeTemperature.si();
        m[Gauge::power] = point.power.si();
        m[Gauge::torque] = std::max(0.0, point.meanEffectivePressure);
        m[Gauge::airspeed] = setting.ias.si();
        m.gear = setting.gear;
    } else {
        m[Gauge::boost] = air().pressure.si();
        m[Gauge::chargeTemperature] = air().temperature.si();
    }
    watch_.see(time_, phase_, m, running);
    out_.samples.push_back(m);
}

engine::Demand Simulation::demand(const Setting& s) const {
    engine::Demand d{s.rpm, s.boost, s.gear, air(), s.ias, s.mixture};
    d.water = s.water;
    return d;
}

void Simulation::boundary(Phase phase) {
    auto& p = out_[phase];
    if (n_.engine.gears.empty())
        return;
    p.boundary = knock_.permitted(demand(p.setting));
    if (const double over = p.point.manifoldPressure.si() - p.boundary.si(); over > watch::knockReadingWidth)
        say(phase, watch::Rule::knockRoom,
            fmt::format("The charge is at {} today: the model's knock boundary is {}, {} under what is set.",
                        format(p.point.chargeTemperature.si(), *n_.cockpit.temperature),
                        format(p.boundary.si(), n_.unitOf(Gauge::boost)),
                        format(over + n_.unitOf(Gauge::boost).offset, n_.unitOf(Gauge::boost))));
}

void Simulation::ice(Phase phase) {
    const auto here = air();
    const auto dew = dewPointAt(day_, Length::si(height_), here.temperature);
    out_.ice.push_back(
        {phase, engine::carburettorIce(n_.engine, a_.model(), knock_, demand(out_[phase].setting), dew)});
}

heat::Drive Simulation::drive(const Setting& s, const engine::OperatingPoint& p) const {
    const air::Ambient here = air();
    auto d = heat::driveOf(p, s.rpm, here, s.ias, s.coolingFlap);
    d.oilCooler = blanked() ? blankedCooler : 1.0;
    d.oilThinning = thinning();
    return d;
}

void Simulation::heatFor(const heat::Drive& d, double dt) {
    temperatures_ = a_.thermal.after(temperatures_, d, Duration::si(dt));
    out_.stretches.push_back({time_, dt, d});
}

void Simulation::steady(const Setting& setting, double duration, double step, double enginesRunning) {
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

void Simulation::standing(double duration) {
    note({}, {}, false);
    heatFor({false, {}, 0.08, {}, {}, air(), {}, 0.5}, duration);
    time_ += duration;
    note({}, {}, false);
}

Setting Simulation::groundSetting(Rotation rpm, double coolingFlap) const {
    Setting s;
    s.rpm = rpm;
    s.boost = engine::boostForRpm(a_.model(), a_.fineStop, rpm, 0, air());
    s.boostOrigin = Origin::model;
    s.coolingFlap = coolingFlap;
    return s;
}

void Simulation::use(Phase phase, const Rating& rating, double seconds) {
    out_.ratings.add(rating.key, Duration::si(seconds));
    auto& flown = out_[phase];
    if (flown.rating.empty())
        flown.rating = rating.key;
    if (flown.rating == rating.key)
        flown.ratingUsed = out_.ratings.of(rating.key)->used().si();
}

const Rating* Simulation::nextWeaker(const Rating& rating, const Setting& s) const {
    const Rating* best = nullptr;
    double most = 0.0;
    for (const auto& r : n_.ratings) {
        const auto left = out_.ratings.of(r.key)->left();
        const bool weaker = r.rpm <= rating.rpm && (!r.boost || !rating.boost || *r.boost <= *rating.boost) &&
                            (r.rpm < rating.rpm || (r.boost && rating.boost && *r.boost < *rating.boost));
        if (!weaker || (left && left->si() < worthTaking))
            continue;
        Setting trial = ratedSetting(phase_, r);
        trial.gear = s.gear;
        trial.ias = s.ias;
        if (const double power = operate(settled(trial)).power.si(); power > most) {
            most = power;
            best = &r;
        }
    }
    return best;
}

Setting Simulation::ratedSetting(Phase phase, const Rating& rating) const {
    const auto permitted = engine::permittedBoost(n_, rating, s_.fuelGrade);
    const PhaseNotes& notes = n_.phase(phase);
    Setting s;
    s.rpm = rating.rpm;
    s.boost = permitted.boost;
    s.boostOrigin = permitted.origin;
    s.mixture = notes.mixture.value_or(rating.mixture);
    s.coolingFlap = notes.coolingFlap.value_or(0.5);
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

Setting Simulation::settled(Setting s, const engine::BladeAngle& blades) const {
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

Setting Simulation::notedSetting(Phase phase) const {
    const PhaseNotes& notes = n_.phase(phase);
    Setting s;
    s.rpm = notes.rpm.value_or(Rotation::si(20));
    s.boost = notes.boost;
    s.mixture = notes.mixture.value_or(Mixture::rich);
    s.coolingFlap = notes.coolingFlap.value_or(0.5);
    s.gear = n_.gearIndex(notes.gear).value_or(0);
    s.ias = notes.ias.value_or(Speed{});
    limit(s, phase);
    return s;
}

void Simulation::limit(Setting& s, Phase phase) const {
    if (const auto g = n_.gauges.find(Gauge::boost); s.boost && g != n_.gauges.end())
        if (const auto most = g->second.in(phase).limitHigh; most && s.boost->si() > *most)
            s.boost = ManifoldPressure::si(*most);
    if (const auto g = n_.gauges.find(Gauge::rpm); g != n_.gauges.end())
        if (const auto most = g->second.in(phase).limitHigh; most && s.rpm.si() > *most)
            s.rpm = Rotation::si(*most);
}

void Simulation::reserve() {
    const double wanted = n_.fuel.reserve.si() * out_.cruiseFuelFlow;
    if (!dry_ && out_.fuelAtEnd < wanted)
        say(Phase::cruise, watch::Rule::reserve,
            fmt::format("{} is left at the end, less than the reserve of {}.", format(out_.fuelAtEnd, *n_.cockpit.fuel),
                        format(wanted, *n_.cockpit.fuel)));
}

} // namespace amber::flight
