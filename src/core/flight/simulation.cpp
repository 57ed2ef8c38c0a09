// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/simulation.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "cockpit/controls.h"
#include "drills/drill.h"
#include "engine/fuel_grade.h"
#include "heat/drive.h"
#include "loading/envelope.h"
#include "notes/cockpit_units.h"
#include "notes/standard_schools.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <utility>

namespace amber::flight {
namespace {
constexpr double leastFuel = 1e-9;  // m³, less is nothing
constexpr double openingUp = 6.0;   // s
constexpr double leastLag = 0.2;    // s
constexpr double worthTaking = 1.0; // s left of a rating that it is changed to
const std::optional<Rotation> noRpm;
const std::optional<ManifoldPressure> noBoost;
} // namespace

Simulation::Simulation(const powerplant::Aircraft& aircraft, const Sortie& sortie, Pace pace)
    : a_(aircraft), n_(aircraft.notes), s_(sortie), day_(sortie.day), pace_(pace),
      plant_(std::make_shared<const powerplant::Powerplant>(aircraft, sortie.fuelGrade)), knock_(plant_->knock()),
      state_(plant_->standing(day_, engineTemperatureOf(sortie))), levers_(plant_->levers()), watch_(aircraft.notes),
      sheet_(aircraft.notes, sortie), sequence_(aircraft.notes, sortie) {
    run_.day = &day_;
    run_.ice = false;                                           // told where it may form; a pilot keeps it clear
    levers_.shared.battery = levers_.shared.generators = false; // until the start has been reckoned with
    for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
        state_.tanks[i] = sheet_.atStart()[i];
    out_.fuelAtStart = total();
    out_.fuelDensity = state_.fuelDensity;
    out_.rampWeight = s_.load.weightTyped ? s_.weight.si() : sheet_.ramp().mass;
    state_.dryMass = out_.rampWeight - out_.fuelAtStart * state_.fuelDensity;
    out_.contents.tanks = n_.fuel.tanks.size();
    out_.contents.held.reserve(700 * n_.fuel.tanks.size());
    pumping_.assign(n_.fuel.tanks.size(), false);
    double sum = 0.0;
    for (const auto& leg : s_.flight.legs)
        legEnds_.push_back(sum += leg.distance.si());
    tank_ = tankIndex(n_.fuel.takeOffTank);
    engines_ = static_cast<double>(n_.engineCount());
    out_.samples.reserve(700);
    for (const auto& position : n_.positions)
        out_.engines.push_back({position.id, {}, {}, {}, {}});
}

Flown Simulation::run() {
    out_.ratings = watch::RatingLedger(n_.ratings);
    load();
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
    balance();
    tellKnock();
    for (auto& finding : watch_.findings())
        (finding.rule == watch::Rule::limit || finding.rule == watch::Rule::normalRange ? out_.excursions
                                                                                        : out_.findings)
            .push_back(std::move(finding));
    return std::move(out_);
}

double Simulation::total() const {
    double sum = 0.0;
    for (const double c : state_.tanks)
        sum += c;
    return sum;
}

int Simulation::tankIndex(std::string_view id) const {
    for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
        if (n_.fuel.tanks[i].id == id)
            return static_cast<int>(i);
    return 0;
}

void Simulation::say(Phase phase, watch::Rule rule, std::string sentence) {
    out_.findings.push_back({rule, phase, {}, time(), time(), {}, watch::broken(rule, std::move(sentence))});
}

void Simulation::begin(Phase phase) {
    phase_ = phase;
    auto& p = out_[phase];
    p.start = time();
    p.firstSample = out_.samples.size();
    fuelBefore_ = total();
    distanceBefore_ = state_.distance;
}

void Simulation::end() {
    auto& p = out_[phase_];
    p.duration = time() - p.start;
    p.fuel = fuelBefore_ - total();
    p.distance = state_.distance - distanceBefore_;
    if (out_.samples.size() == p.firstSample)
        note({}, {}, false);
    p.lastSample = out_.samples.size() - 1;
}

void Simulation::switchTo(int tank, bool dry, bool beforeBadGround) {
    if (tank == tank_)
        return;
    const int from = std::exchange(tank_, tank);
    const bool wanted = n_.fuel.tanks[static_cast<std::size_t>(from)].runDry;
    out_.tankChanges.push_back({time(), tank, phase_, dry && !wanted, from,
                                state_.tanks[static_cast<std::size_t>(from)], state_.distance, wanted, beforeBadGround,
                                TankChange::Kind::feed});
}

void Simulation::markTank(TankChange::Kind kind, int tank) {
    if (!trial_)
        out_.tankChanges.push_back({time(), tank, phase_, false, tank_, state_.tanks[static_cast<std::size_t>(tank)],
                                    state_.distance, false, false, kind});
}

void Simulation::transfer(double seconds) {
    if (phase_ < Phase::climb || phase_ > Phase::cruise)
        return;
    for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i) {
        const Tank& t = n_.fuel.tanks[i];
        if (t.kind != TankKind::transfer)
            continue;
        const auto to = static_cast<std::size_t>(tankIndex(t.to));
        const double room = n_.fuel.tanks[to].usable.si() - state_.tanks[to];
        // As soon as there is room for all of it: pumped sooner it runs overboard.
        if (!pumping_[i] && state_.tanks[i] > leastFuel && phase_ == Phase::cruise &&
            room >= std::min(state_.tanks[i], 0.5 * n_.fuel.tanks[to].usable.si())) {
            pumping_[i] = true;
            markTank(TankChange::Kind::transferBegins, static_cast<int>(i));
        }
        if (!pumping_[i])
            continue;
        const double moved = std::min({t.transferRate->si() * seconds, state_.tanks[i], room});
        state_.tanks[i] -= moved;
        state_.tanks[to] += moved;
        if (state_.tanks[i] <= leastFuel) {
            state_.tanks[i] = 0.0;
            pumping_[i] = false;
            markTank(TankChange::Kind::transferEnds, static_cast<int>(i));
        }
    }
}

std::size_t Simulation::legNow() const {
    if (phase_ >= Phase::letDown && !legEnds_.empty())
        return legEnds_.size() - 1;
    std::size_t i = 0;
    while (i + 1 < legEnds_.size() && state_.distance >= legEnds_[i] - 1.0)
        ++i;
    return i;
}

air::WindOnTrack Simulation::windAtHeight(double height) const {
    const double ground = phase_ >= Phase::letDown ? s_.flight.toElevation.si() : day_.elevation.si();
    return windAt(s_, height, legEnds_.empty() ? s_.flight.track : s_.flight.legs[legNow()].track, ground);
}

void Simulation::load() {
    begin(Phase::load);
    note({}, {}, false);
    end();
}

void Simulation::balance() {
    const auto when = [&](const Sample& m) {
        return m.time <= out_[Phase::takeOff].start ? std::string("on the ramp")
               : m.phase == Phase::takeOff
                   ? std::string("at take-off")
                   : fmt::format("{} after the start, in the {}",
                                 formatHoursMinutes(std::max(0.0, m.time - out_[Phase::start].start)),
                                 m.phase == Phase::letDown ? "let-down" : std::string(keyOf(m.phase)));
    };
    const auto fuelAt = [&](std::size_t i) {
        const bool gone = !out_.dropped.empty() && i >= out_.dropped.front();
        return sheet_.with(out_.contents.at(i), gone);
    };
    const auto add = [&](watch::Rule rule, watch::Verdict verdict, double begin, double end, double worst) {
        if (verdict.colour() != watch::Colour::normal)
            out_.findings.push_back({rule, Phase::load, {}, begin, end, worst, std::move(verdict)});
    };
    if (n_.loading.given) {
        // The worst moment of every stretch outside or near an edge; one finding for the flight, with the whole of it.
        std::size_t worst = 0, off = 0;
        double least = 1e9, most = -1.0, begin = -1.0, end = 0.0;
        for (std::size_t i = 0; i < out_.samples.size(); ++i) {
            const auto b = fuelAt(i);
            const auto place = loading::placeOf(n_.loading, b);
            if (place.room() < least) {
                least = place.room();
                worst = i;
            }
            if (std::abs(b.sideways) > most) {
                most = std::abs(b.sideways);
                off = i;
            }
            if (place.room() < 0) {
                begin = begin < 0 ? out_.samples[i].time : begin;
                end = out_.samples[i].time;
            }
        }
        auto verdict = loading::judgeBalance(n_, fuelAt(worst), when(out_.samples[worst]));
        add(least < 0 ? watch::Rule::centreOfGravity : watch::Rule::nearEdge, std::move(verdict),
            begin < 0 ? out_.samples[worst].time : begin, begin < 0 ? out_.samples[worst].time : end, least);
        add(watch::Rule::sideways, loading::judgeSideways(n_, fuelAt(off), when(out_.samples[off])),
            out_.samples[off].time, out_.samples[off].time, most);
        for (const auto& line : sheet_.lines())
            add(watch::Rule::stationOver, loading::judgeStation(n_, line), 0.0, 0.0, line.mass);
        if (n_.loading.maxZeroFuel)
            add(watch::Rule::overweight,
                loading::judgeWeight(n_, sheet_.dry().mass, n_.loading.maxZeroFuel->si(), "Zero fuel"), 0.0, 0.0,
                sheet_.dry().mass);
        if (s_.load.weightTyped && !s_.load.stations.empty() &&
            std::abs(sheet_.ramp().mass - out_.rampWeight) > 0.5 * n_.cockpit.weight->scale)
            add(watch::Rule::weightTyped,
                watch::broken(
                    watch::Rule::weightTyped,
                    fmt::format("The weight is typed, {}; the load sheet adds to {}: the flight is reckoned with the "
                                "typed one, its balance by the sheet.",
                                format(out_.rampWeight, *n_.cockpit.weight),
                                format(sheet_.ramp().mass, *n_.cockpit.weight))),
                0.0, 0.0, out_.rampWeight);
        const Duration running = Duration::si(out_.totalTime() - out_[Phase::start].start);
        if (const auto oil = loading::oilForHours(n_, s_, running); oil.lasts > 0 || oil.burnt > 0) {
            const double left = oil.aboard - oil.burnt;
            add(watch::Rule::oilForHours,
                watch::atLeast(watch::Rule::oilForHours, left, oil.least, 0.0,
                               [&](bool) {
                                   return fmt::format("{} of oil is left at the end of {}, of {} that there must be.",
                                                      format(std::max(0.0, left), *n_.cockpit.fuel),
                                                      formatHoursMinutes(running.si()),
                                                      format(oil.least, *n_.cockpit.fuel));
                               }),
                0.0, out_.totalTime(), left);
        }
    }
    const double off = out_.samples[out_[Phase::takeOff].firstSample][Gauge::weight];
    add(watch::Rule::overweight, loading::judgeWeight(n_, off, n_.maxWeight.si(), "At take-off"),
        out_[Phase::takeOff].start, out_[Phase::takeOff].start, off);
    if (n_.loading.maxLanding) {
        const auto& landing = out_[Phase::landing];
        const double down = out_.samples[landing.lastSample][Gauge::weight];
        add(watch::Rule::overweight, loading::judgeWeight(n_, down, n_.loading.maxLanding->si(), "Landing"),
            landing.start, landing.start, down);
    }
}

void Simulation::dryTank() {
    const auto fullest = std::max_element(state_.tanks.begin(), state_.tanks.end());
    if (*fullest > leastFuel) {
        switchTo(static_cast<int>(fullest - state_.tanks.begin()), true);
        return;
    }
    if (!dry_)
        say(phase_, watch::Rule::tanksEmpty, fmt::format("All tanks are empty at {}.", formatHoursMinutes(time())));
    dry_ = true;
}

powerplant::EngineLevers Simulation::leversOf(const Setting& s) const {
    powerplant::EngineLevers l;
    const bool ground = phase_ < Phase::takeOff || phase_ == Phase::stop;
    l.throttle = s.byRpm   ? powerplant::rpmHeld(s.rpm.si())
                 : s.boost ? powerplant::boostHeld(s.boost->si())
                           : powerplant::throttleAt(1.0);
    if (!ground && !a_.propeller.followsThrottle())
        l.rpm = s.rpm.si(); // on the ground it stands fully fine
    l.coarse = phase_ > Phase::takeOff && phase_ < (fineLanding_ ? Phase::landing : Phase::stop);
    l.mixture = s.mixture;
    l.cutOff = false;
    l.gear = s.gear;
    l.coolingFlap = s.coolingFlap;
    l.oilCooler = blanked() ? powerplant::blankedCooler : 1.0;
    l.water = s.water;
    l.hotAir = s.hotAir;
    l.ignition = powerplant::Ignition::both;
    l.cock = true;
    l.tank = tank_;
    l.booster = true;
    l.thinning = thinning();
    return l;
}

void Simulation::trace() {
    if (trial_)
        return;
    const heat::Minima runUp{n_.warmUp.headRunUp, n_.warmUp.oilRunUp}, off{n_.warmUp.headTakeOff, n_.warmUp.oilTakeOff};
    for (std::size_t i = 0; i < state_.engines.size(); ++i) {
        const auto& e = state_.engines[i];
        auto& t = out_.engines[i];
        t.points.push_back({time(), e.headOrCoolant, e.oil, e.oilPressure});
        if (!e.firing || phase_ > Phase::takeOff || (t.runUpAt && t.takeOffAt))
            continue;
        if (!t.runUpAt && runUp.met(temperaturesOf(e)))
            t.runUpAt = time();
        if (!t.takeOffAt && off.met(temperaturesOf(e)))
            t.takeOffAt = time();
    }
}

void Simulation::advance(const At& all, double seconds, double rate) {
    const std::vector<const At*> engines{&all};
    advance(engines, seconds, {powerplant::Path::Kind::rateHeld, all.setting.ias.si(), rate});
}

void Simulation::advance(const std::vector<const At*>& engines, double seconds, const powerplant::Path& path) {
    const At* now = engines.size() == 1 ? engines.front() : nullptr;
    if (const auto before = std::exchange(last_, now ? std::optional(*now) : std::nullopt);
        now && before && pace_ == Pace::strides && phase_ != Phase::start) {
        // Running up takes time, and running down gives some back: for as long as that is worth it goes on as before.
        const double lag =
            std::min(seconds, plant_->engine(drawn_).changeLag(before->setting.rpm, before->point.power,
                                                               now->setting.rpm, now->point.power, path.ias > 0));
        const double down =
            path.ias > 0
                ? 0.0
                : std::min(seconds, plant_->engine(drawn_).runDownTime(before->setting.rpm, now->setting.rpm,
                                                                       plant_->around(state_, levers_, run_, 0)));
        if (down > leastLag) {
            // Running down its throttle is shut, and the blades blow on.
            At shut = *now;
            shut.setting.boost = ManifoldPressure::si(throttleShut);
            shut.setting.byRpm = false;
            shut.point = operate(shut.setting);
            shut.point.power = Power::si(0.5 * before->point.power.si());
            go({&shut}, down, path);
            seconds -= down;
        } else if (phase_ == Phase::takeOff && lag > leastLag) {
            // Opening up for the take-off, where heads rise fastest, is flown out.
            const auto around = plant_->around(state_, levers_, run_, 0);
            for (std::size_t i = 0; i < state_.engines.size(); ++i)
                state_.engines[i] = plant_->engine(i).running(state_.engines[i], leversOf(before->setting), around);
            // Without a governor the rpm take their time to settle.
            const double opening = std::min(seconds, a_.propeller.followsThrottle() ? 2 * openingUp : openingUp);
            pace_ = Pace::shortSteps;
            go(engines, opening, path);
            pace_ = Pace::strides;
            seconds -= opening;
        } else if (lag > leastLag) {
            const std::vector<const At*> old{&*before};
            go(old, lag, path);
            seconds -= lag;
        }
        if (seconds <= 0)
            return;
    }
    go(engines, seconds, path);
}

double Simulation::heightOf(double from, double to) const {
    const auto here = air();
    const auto squared = [&](double ias) {
        const double v = ias > 0 ? air::trueAirspeed(Speed::si(ias), here.pressure, here.temperature).si() : 0.0;
        return v * v;
    };
    return (squared(from) - squared(to)) / (2.0 * air::gravity);
}

void Simulation::go(const std::vector<const At*>& engines, double seconds, const powerplant::Path& path) {
    const At* now = engines.front();
    if (out_.engines.front().points.empty())
        trace();
    if (path.kind != powerplant::Path::Kind::speedHeld) {
        state_.ias = path.ias;
    } else if (pace_ == Pace::strides) {
        // The speed that is gained costs height, and takes its time: at most seven tenths of the climb go into it.
        const double change = path.ias - state_.ias;
        if (std::abs(change) > powerplant::speedHair && now) {
            const double climb =
                rateOfClimb(a_, now->point.power.si() * engines_, weight(), Speed::si(path.ias), air()).si();
            const double eases = change > 0 ? powerplant::easing(climb, path.ias) : powerplant::easesBy;
            const double by = std::clamp(change, -eases * seconds, eases * seconds), took = std::abs(by) / eases;
            state_.height += heightOf(state_.ias, state_.ias + by);
            powerplant::Path between = path;
            between.ias = state_.ias + 0.5 * by;
            const double reached = state_.ias + by;
            state_.ias = between.ias;
            go(engines, took, between);
            seconds -= took;
            state_.ias = reached;
        }
        if (seconds <= 1e-6)
            return;
    }
    levers_.path = path;
    const bool blown = phase_ >= Phase::climb && phase_ <= Phase::landing;
    auto left = std::max<powerplant::Milliseconds>(1, std::llround(seconds * 1000.0));
    const bool alike = engines.size() == 1;
    bool told = false;
    while (left > 0) {
        double flow = 0.0; // m³/s from the tank
        std::vector<powerplant::Engine::Settled> settled;
        const auto around = plant_->around(state_, levers_, run_, 0);
        for (std::size_t i = 0; i < state_.engines.size(); ++i) {
            const At* at = engines[alike ? 0 : i];
            auto& engine = state_.engines[i];
            auto& levers = levers_.engines[i];
            const bool stood = levers.cutOff;
            levers = at ? leversOf(at->setting) : powerplant::EngineLevers{};
            if (pace_ == Pace::strides)
                engine.firing = at != nullptr;
            else if (at && stood)
                engine = plant_->engine(i).running(engine, levers, around);
            flow += at ? at->point.fuelFlow.si() / state_.fuelDensity : 0.0;
            if (i == 0 || !alike)
                settled.push_back(at ? plant_->engine(i).settled(at->setting.rpm, at->point, levers, around)
                                     : plant_->engine(i).settled({}, {}, levers, around));
        }
        auto dt = left;
        if (blown) { // wind half-way for a stride; while she steps it is looked at every second
            if (pace_ == Pace::shortSteps && path.kind != powerplant::Path::Kind::level)
                dt = std::min<powerplant::Milliseconds>(dt, 1000);
            const double halfWay = path.kind == powerplant::Path::Kind::rateHeld
                                       ? 0.5 * path.rate * static_cast<double>(dt) / 1000.0
                                       : 0.0;
            levers_.path.wind = windAtHeight(state_.height + halfWay);
        }
        const double here = state_.tanks[static_cast<std::size_t>(tank_)];
        if (!dry_ && flow > 0 && here < flow * static_cast<double>(left) / 1000.0)
            dt = std::clamp<powerplant::Milliseconds>(std::llround(here / flow * 1000.0), 1, left);
        if (!told && !trial_) {
            const auto& d = settled[alike ? 0 : drawn_].drive;
            out_.stretches.push_back({time(), static_cast<double>(left) / 1000.0, d});
        }
        told = true;
        if (pace_ == Pace::shortSteps)
            plant_->steps(state_, levers_, run_, dt);
        else
            plant_->stride(state_, levers_, run_, settled, dt);
        keepAsSoaked(phase_, state_, soaked_);
        left -= dt;
        transfer(static_cast<double>(dt) / 1000.0);
        if (!dry_ && flow > 0 && state_.tanks[static_cast<std::size_t>(tank_)] <= leastFuel)
            dryTank();
    }
    trace();
}

void Simulation::note(const Setting& setting, const engine::OperatingPoint& point, bool running) {
    Sample m;
    m.time = time();
    m.phase = phase_;
    m.tank = running ? tank_ : -1;
    m[Gauge::height] = state_.height;
    const auto& engine = state_.engines[drawn_];
    m[headOrCoolantGauge(n_)] = engine.headOrCoolant;
    m[Gauge::oilTemperature] = engine.oil;
    if (phase_ > Phase::start && state_.volts > 0)
        m[Gauge::volts] = state_.volts;
    m[Gauge::oilContents] = engine.oilMass / powerplant::oilDensity;
    m[Gauge::fuel] = total();
    m[Gauge::weight] = weight().si();
    if (n_.loading.given)
        m[Gauge::balance] = sheet_.with(state_.tanks, released_).arm();
    m[Gauge::rpm] = m[Gauge::oilPressure] = m[Gauge::power] = m[Gauge::torque] = m[Gauge::airspeed] =
        m[Gauge::fuelFlow] = 0.0;
    if (running) {
        m[Gauge::rpm] = setting.rpm.si();
        m[Gauge::boost] = point.manifoldPressure.si();
        // Until the oil has come to the gauge there is nothing to read: the starter's own seconds judge that.
        m[Gauge::oilPressure] = engine.gallery >= 1.0 - 1e-9
                                    ? a_.thermal.oilPressure(setting.rpm, temperatures().oil, thinning()).si()
                                    : std::numeric_limits<double>::quiet_NaN();
        m[Gauge::fuelFlow] = point.fuelFlow.si() / state_.fuelDensity;
        m[Gauge::carburettorAir] = point.carburettorTemperature.si();
        m[Gauge::chargeTemperature] = point.chargeTemperature.si();
        m[Gauge::exhaustTemperature] = plant_->engine(drawn_).exhaust(point, point.fuelAirRatio);
        m[Gauge::power] = point.power.si();
        m[Gauge::torque] = std::max(0.0, point.meanEffectivePressure);
        m[Gauge::airspeed] = setting.ias.si();
        m.gear = setting.gear;
    } else {
        m[Gauge::boost] = air().pressure.si();
        m[Gauge::chargeTemperature] = m[Gauge::carburettorAir] = m[Gauge::exhaustTemperature] = air().temperature.si();
    }
    if (running)
        nearKnock(setting, point);
    watch_.see(m.time, phase_, m, running);
    out_.samples.push_back(m);
    out_.contents.held.insert(out_.contents.held.end(), state_.tanks.begin(), state_.tanks.end());
}

engine::Demand Simulation::demand(const Setting& s) const {
    engine::Demand d{s.rpm, s.boost, s.gear, air(), s.ias, s.mixture};
    d.water = s.water;
    d.carburettorHeat = s.hotAir * powerplant::hotAirRise(n_);
    return d;
}

void Simulation::nearKnock(const Setting& setting, const engine::OperatingPoint& point) {
    if (n_.engine.gears.empty() || phase_ < Phase::takeOff || phase_ > Phase::landing)
        return;
    // Only where something has changed that the boundary hangs on.
    constexpr double sameHeight = 150.0, sameBoost = 500.0; // m, Pa
    const double boost = point.manifoldPressure.si();
    if (knockAsked_ && knockAsked_->phase == phase_ && knockAsked_->gear == setting.gear &&
        knockAsked_->mixture == setting.mixture && std::abs(knockAsked_->height - state_.height) < sameHeight &&
        std::abs(knockAsked_->boost - boost) < sameBoost)
        return;
    knockAsked_ = {phase_, setting.gear, setting.mixture, state_.height, boost};
    auto& nearest = out_[phase_].knock;
    const auto permitted = knock_.permitted(demand(setting));
    const double margin = permitted.si() - boost;
    const auto over = margin < -watch::knockReadingWidth ? std::optional(Length::si(state_.height)) : std::nullopt;
    if (!nearest || margin < nearest->margin()) {
        const auto from = nearest && nearest->overFrom && nearest->gear == setting.gear ? nearest->overFrom : over;
        nearest = NearKnock{permitted,    point.manifoldPressure,  Length::si(state_.height),
                            setting.gear, point.chargeTemperature, time(),
                            from};
    }
}

void Simulation::tellKnock() {
    const UnitSpec& unit = n_.unitOf(Gauge::boost);
    UnitSpec difference = unit;
    difference.offset = 0.0;
    difference.showSign = false;
    for (std::size_t i = 0; i < plannedPhases; ++i) {
        const auto phase = static_cast<Phase>(i);
        const auto& k = out_[phase].knock;
        if (!k || !k->overFrom)
            continue;
        std::string where = phase == Phase::climb || phase == Phase::letDown
                                ? fmt::format("From {}", format(k->overFrom->si(), *n_.cockpit.height))
                                : "As it is set";
        if (n_.engine.gears.size() > 1)
            where += fmt::format(", in {} gear", n_.engine.gears[k->gear].name);
        auto verdict = watch::knockRoom(k->margin(), k->boundary.si(),
                                        fmt::format("{}, the charge comes to {} today: the detonation limit (model) is "
                                                    "{}, {} under what is set.",
                                                    where, format(k->charge.si(), *n_.cockpit.temperature),
                                                    format(k->boundary.si(), unit), format(-k->margin(), difference)));
        const auto rule = verdict.colour() == watch::Colour::red ? watch::Rule::knockPast : watch::Rule::knockRoom;
        out_.findings.push_back({rule, phase, {}, k->time, k->time, {}, std::move(verdict)});
    }
}

engine::IceAdvice Simulation::iceOf(Setting setting) const {
    const auto dew = dewPointAt(day_, Length::si(state_.height), air().temperature);
    setting.hotAir = 0.0; // what would be without the hot air that is its cure
    return engine::carburettorIce(n_.engine, a_.model(), knock_, demand(setting), dew);
}

void Simulation::ice(Phase phase) {
    if (!n_.engine.suctionCarburettor) // nothing evaporates at the throttle
        return;
    auto advice = iceOf(out_[phase].setting);
    if (phase == Phase::letDown && onTheWayDown_) // the same heat all the way
        advice = *onTheWayDown_;
    out_.ice.push_back({phase, advice});
}

double Simulation::heatOnTheWayDown(const Setting& setting) {
    if (!n_.engine.suctionCarburettor)
        return 0.0;
    const double from = state_.height, to = std::min(from, s_.flight.toElevation.si() + circuitHeight);
    constexpr int looks = 4;
    onTheWayDown_.reset();
    for (int i = 0; i <= looks; ++i) {
        state_.height = from + (to - from) * i / looks;
        const auto advice = iceOf(setting);
        // The worst rules, not the coldest: at −20 °C there is hardly water to freeze.
        if (advice.risk != engine::IceRisk::none &&
            (!onTheWayDown_ || advice.risk > onTheWayDown_->risk ||
             (advice.risk == onTheWayDown_->risk && advice.heatNeeded > onTheWayDown_->heatNeeded)))
            onTheWayDown_ = advice;
    }
    state_.height = from;
    return onTheWayDown_ ? engine::heatShare(*onTheWayDown_, powerplant::hotAirRise(n_)) : 0.0;
}

heat::Drive Simulation::drive(const Setting& s, const engine::OperatingPoint& p) const {
    const air::Ambient here = air();
    auto d = heat::driveOf(p, s.rpm, here, s.ias, s.coolingFlap);
    d.oilCooler = blanked() ? powerplant::blankedCooler : 1.0;
    d.oilThinning = thinning();
    return d;
}

void Simulation::steady(const Setting& setting, double duration, double step, double rate) {
    if (duration <= 0)
        return;
    const At at{setting, operate(setting)};
    note(setting, at.point, true);
    const int steps = std::max(1, static_cast<int>(std::ceil(duration / step)));
    for (int i = 0; i < steps; ++i) {
        advance(at, duration / steps, rate);
        note(setting, at.point, true);
    }
}

void Simulation::standing(double duration) {
    note({}, {}, false);
    advance({nullptr}, duration, {});
    note({}, {}, false);
}

Setting Simulation::groundSetting(Rotation rpm, double coolingFlap) const {
    Setting s;
    s.rpm = rpm;
    s.boost = engine::boostForRpm(a_.model(), a_.fineStop, rpm, 0, air());
    s.boostOrigin = Origin::model;
    s.coolingFlap = coolingFlap;
    s.byRpm = true;
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
    const PhaseNotes& notes = n_.phase(phase);
    const auto& f = s_.flight;
    Setting s;
    s.rpm = rating.rpm;
    s.mixture = notes.mixture.value_or(rating.mixture);
    s.coolingFlap = notes.coolingFlap.value_or(0.5);
    s.gear = n_.gearIndex(notes.gear).value_or(0);
    s.ias = notes.ias.value_or(Speed{});
    s.water = rating.water;
    // Less than the rating, as the day allows or the pilot likes.
    if (const auto& own = phase == Phase::takeOff ? f.takeOffRpm : phase == Phase::climb ? f.climbRpm : noRpm)
        s.rpm = std::min(s.rpm, *own);
    limit(s, phase);
    const auto permitted = boostThere(rating, s, phase);
    s.boost = permitted.boost;
    s.boostOrigin = permitted.origin;
    return s;
}

engine::PermittedBoost Simulation::boostThere(const Rating& rating, const Setting& s, Phase phase) const {
    const auto& f = s_.flight;
    const auto& own = phase == Phase::takeOff ? f.takeOffBoost : phase == Phase::climb ? f.climbBoost : noBoost;
    return engine::permittedBoost(n_, rating, s_.fuelGrade, {s.gear, pressureAltitude(), phase, own}, knock_,
                                  demand(s));
}

Setting Simulation::settled(Setting s, const engine::BladeAngle& blades) const {
    if (!a_.propeller.followsThrottle())
        return s;
    const auto both = engine::agree(a_.model(), blades, demand(s));
    s.rpm = both.rpm;
    s.byRpm = both.throttled;
    // Wide open stays wide open as it climbs; only what is held back is a boost.
    if (both.throttled || s.boost) {
        if (both.throttled || !s.boost)
            s.boostOrigin = Origin::model;
        s.boost = both.throttled || !s.boost ? both.boost : *s.boost;
    }
    return s;
}

Setting Simulation::notedSetting(Phase phase) {
    const PhaseNotes& notes = n_.phase(phase);
    Setting s;
    s.rpm = notes.rpm.value_or(Rotation::si(20));
    s.boost = notes.boost;
    s.mixture = notes.mixture.value_or(Mixture::rich);
    s.coolingFlap = notes.coolingFlap.value_or(0.5);
    s.gear = n_.gearIndex(notes.gear).value_or(0);
    s.ias = notes.ias.value_or(Speed{});
    limit(s, phase);
    if (phase == Phase::letDown || phase == Phase::landing) {
        const std::string air = putIn(Acts::carburettorAir, Phase::letDown, phase);
        s.hotAir = air == "hot" ? 1.0 : air == "{heat}" ? heatOnTheWayDown(s) : 0.0;
    }
    return s;
}

std::string Simulation::putIn(Acts acts, Phase from, Phase phase) const {
    std::string at;
    for (Phase p = from; p <= phase; p = static_cast<Phase>(static_cast<int>(p) + 1))
        for (const Step& step : n_.phase(p).steps)
            if (!step.branch && !(p == phase && step.atEnd))
                for (const Action& act : cockpit::actionsInForce(step, schools::inForce(step, p, s_.choices)))
                    if (const Control* c = cockpit::find(n_.controls, act.control); c && c->acts == acts)
                        at = act.to.kind == Target::Kind::position ? act.to.word
                             : act.to.kind == Target::Kind::figure ? "{" + act.to.word + "}"
                                                                   : at;
    return at;
}

bool Simulation::fineForLanding() const {
    return n_.propeller.control == PropellerControl::twoPosition &&
           putIn(Acts::propeller, Phase::letDown, Phase::landing) == "fine";
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
    out_.reserveFuel = reserveTime(n_, s_) * out_.cruiseFuelFlow;
    out_.alternateFuel =
        out_.cruiseTas.si() > 0 ? s_.flight.alternateDistance.si() / out_.cruiseTas.si() * out_.cruiseFuelFlow : 0.0;
    const double wanted = out_.reserveFuel + out_.alternateFuel;
    if (!dry_ && out_.fuelAtEnd < wanted)
        say(Phase::cruise, watch::Rule::reserve,
            fmt::format("{} is left at the end, less than the reserve of {}{}.",
                        format(out_.fuelAtEnd, *n_.cockpit.fuel), format(wanted, *n_.cockpit.fuel),
                        out_.alternateFuel > 0 ? " with the alternate" : ""));
}

} // namespace amber::flight
