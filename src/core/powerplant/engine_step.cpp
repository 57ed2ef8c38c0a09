// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/atmosphere.h"
#include "engine/mixture_curve.h"
#include "powerplant/blade_law.h"
#include "powerplant/engine_working.h"
#include "powerplant/throttle_flow.h"
#include "start/cranking.h"
#include <algorithm>
#include <cmath>

namespace amber::powerplant {
namespace {
// Time constants and rates, s and 1/s: estimates of the usual size.
constexpr double clutchTime = 0.8;     // a gear of the blower, from one to the other
constexpr double turboTime = 4.0;      // rotor run up or down
constexpr double controlTime = 0.4;    // automatic boost control
constexpr double handTime = 0.6;       // a hand that holds a needle
constexpr double handGain = 1.5;       // of the hand that holds the rpm by the throttle
constexpr double handLooksAhead = 2.0; // s
constexpr double throttleTravel = 6.0; // fastest share of its logarithm a second: shut to open in under a second
constexpr double governorTime = 0.5, bladeRate = 0.35; // blades: share of pitch a second
constexpr double featherRate = 0.33;
constexpr double coarseStop = 4.0; // of a governed propeller
constexpr double pumpTime = 0.5;   // fuel pressure
constexpr double waterTime = 0.3;
constexpr double waterOver = 1.5e3;  // Pa
constexpr double leastRunning = 3.5; // rev/s under which it does not run on
constexpr double starterTime = 0.5;  // s to cranking speed
constexpr double wheelTime = 15.0;   // s that a meshed inertia wheel turns it
constexpr double shutBoost = 2.5e4;  // Pa that a boost control asks for at the stop
// Burning.
constexpr double oneMagneto = 0.93; // power on one plug of two
constexpr double lateLoss = 0.18, valveLoss = 1.2, ringLoss = 0.25, rattleLoss = 0.08, earlyLoss = 0.35;
constexpr double poolsAt = 0.03;                   // of the rated flow, through jets that are open on a standing engine
constexpr double poolDries = 180.0;                // s
constexpr double catchesFire = 0.015;              // kg that lie there
constexpr double fireLasts = 20.0, fireDies = 5.0; // s until it has burnt what it may not; drawn in
constexpr double rodsBend = 1.5;                   // s that a starter turns against a lock
constexpr double huntSwing = 0.10, huntPeriod = 3.0;
constexpr double featheringAmperes = 80.0, leastVolts = 0.45; // of the battery's, to move blades

double smooth(double from, double to, double x) {
    const double t = std::clamp((x - from) / (to - from), 0.0, 1.0);
    return t * t * (3.0 - 2.0 * t);
}
/// Share of charges that burn: inflammability of gasoline and air, blurred by uneven charges.
constexpr double mostVapour = 0.3;   // fuel–air: to evaporate it takes some 100 K off the charge; more stays liquid
constexpr double catchesWith = 0.45; // share of charges that burn, with which it fires up
constexpr double leanFrom = 0.042, leanTo = 0.052, richFrom = 0.122, richTo = 0.140;
double inflammable(double ratio) {
    return smooth(leanFrom, leanTo, ratio) * (1.0 - smooth(richFrom, richTo, ratio));
}
/// The same where a part of it is the primer's or comes off the walls, in runs that find one cylinder and miss another:
/// its shares are spread exponentially, the widest spread of a given mean, so that of charges that together would be
/// too rich to burn some still do. 0 … 1
double inflammable(double ratio, double uneven) {
    const double even = inflammable(ratio);
    if (uneven <= 0.0)
        return even;
    const double room = 0.5 * (richFrom + richTo) - (ratio - uneven);
    return room <= 0.0 ? even : std::max(even, inflammable(ratio - uneven) * (1.0 - std::exp(-room / uneven)));
}
/// A first-order lag, exact; what is left of next to nothing is nothing, so that no step works on denormal numbers.
double approach(double from, double to, double dt, double tau) {
    const double x = to + (from - to) * std::exp(-dt / tau);
    return std::abs(x) < 1e-12 ? 0.0 : x;
}
constexpr double ofMetal = 0.6;   // that the manifold's walls follow heads or coolant while it stands: an estimate
constexpr double wallTime = 40.0; // s in which the air cools them
/// X and τ of the film on the manifold's walls, after Aquino: more of it, and longer, on a colder charge.
struct Film {
    double x, tau; ///< share of the fuel that falls on them; s until it leaves
};
Film filmOf(Temperature charge) {
    return {0.20 + 0.50 * (1.0 - start::vapourFraction(charge)),
            std::clamp(0.4 * std::exp((333.15 - charge.si()) / 40.0), 0.2, 4.0)};
}
/// Pa from which water that is armed comes in by itself: over the highest dry rating.
double waterFrom(const std::vector<Rating>& ratings) {
    double dry = 0.0;
    for (const auto& r : ratings)
        if (!r.water && r.boost)
            dry = std::max(dry, r.boost->si() + waterOver);
    return dry;
}
} // namespace

void Engine::gearAndTurbo(Working& w) const {
    if (w.l.gear != w.s.gear) {
        w.s.gear = w.l.gear;
        w.s.engaged = 0.55;
    }
    w.s.engaged = std::min(1.0, w.s.engaged + w.dt / clutchTime * 0.45);
    if (w.s.gear > 0 && w.e.clutchSlip > 0) {
        // It grips and lets go, twice a second or so.
        const double beat = 0.5 + 0.5 * std::sin(static_cast<double>(w.a.now) / 1000.0 * 2.1);
        w.s.engaged = std::min(w.s.engaged, 1.0 - w.e.clutchSlip * (0.22 + 0.10 * beat));
    }
    const double held = std::clamp(w.l.turbo, 0.0, 1.2);
    w.s.turbo = approach(w.s.turbo, w.s.firing ? std::max(held, 1.25 * w.e.wasteGate) : 0.0, w.dt, turboTime);
    const bool pumped = w.l.water && w.e.water && w.s.water > 0 && w.s.n > leastRunning &&
                        w.s.manifold > waterFrom(aircraft_->notes.ratings);
    w.s.waterPressure = approach(w.s.waterPressure, pumped ? waterNominal : 0.0, w.dt, waterTime);
}

void Engine::throttle(Working& w) const {
    auto& s = w.s;
    const auto& engine = aircraft_->model();
    const double ambient = w.a.air.pressure.si();
    if (s.n <= 0.05) {
        s.manifold = s.wideOpen = ambient;
        if (w.l.throttle.by == Throttle::By::place)
            s.throttle = throttleArea(w.l.throttle.value, idleArea_);
        return;
    }
    const double speed = s.n / engine.ratedRpm, loss = engine.throttleLoss;
    const bool control = aircraft_->notes.engine.boostControl && !engine.gears.empty();
    const double wide = s.wideOpen * (1.0 - 0.65 * s.ice);
    double target = wide, tau = std::max(0.03, 1.0 / s.n);
    const auto move = [&](double area) { // as fast as a hand moves it
        const double by = std::clamp(std::log(area / s.throttle), -throttleTravel * w.dt, throttleTravel * w.dt);
        s.throttle = std::clamp(s.throttle * std::exp(by), 0.5 * idleArea_, 1.0);
    };
    switch (w.l.throttle.by) {
    case Throttle::By::rpm: {
        // It sees where the needle is going.
        const double off = (w.l.throttle.value - s.n - handLooksAhead * s.quickens) / std::max(1.0, w.l.throttle.value);
        move(s.throttle * std::exp(std::clamp(handGain * off, -1.5, 1.5) * w.dt));
        target = wide * throttledShare(s.throttle, speed, loss);
        if (control) // the capsule lets no more pass, however it is opened
            target = std::min(target, mostBoost_);
        break;
    }
    case Throttle::By::place:
        move(throttleArea(w.l.throttle.value, idleArea_));
        target = wide * throttledShare(s.throttle, speed, loss);
        if (control) {
            // The lever moves the capsule's cam: it asks for a boost, and the throttle goes where that comes.
            const double asked = shutBoost + std::clamp(w.l.throttle.value, 0.0, 1.0) * (mostBoost_ - shutBoost);
            target = w.l.throttle.value <= 0.02 ? std::min(target, wide) : std::min(wide, std::max(target, asked));
            if (w.l.throttle.value > 0.02)
                target = std::min(target, std::max(asked, shutBoost));
            tau = std::max(tau, controlTime);
        }
        break;
    case Throttle::By::boost:
        target = std::min(wide, w.l.throttle.value);
        tau = std::max(tau, control ? controlTime : handTime);
        if (aircraft_->propeller.followsThrottle()) // nor is the rpm let past what is wanted
            target = std::min(target, s.manifold * (1.0 + handGain * (w.l.rpm - s.n) / w.l.rpm));
        break;
    }
    if (control && w.e.boostHunts > 0) {
        const double t = static_cast<double>(w.a.now) / 1000.0;
        target *= 1.0 + w.e.boostHunts * huntSwing * std::sin(6.2832 * t / huntPeriod);
        target = std::min(target, wide * 1.02);
    }
    if (engine.turbo && w.e.wasteGate > 0)
        target *= 1.0 + 0.15 * w.e.wasteGate;
    // A leak lets air in below the outside's pressure and out above it.
    target += w.e.inductionLeak * 0.12 * (ambient - target);
    s.manifold = approach(s.manifold, std::clamp(target, 2e3, 4e5), w.dt, tau);
    if (w.l.throttle.by == Throttle::By::boost)
        s.throttle = areaFor(std::min(1.0, s.manifold / std::max(1.0, wide)), speed, loss);
}

void Engine::combustion(Working& w) const {
    auto& s = w.s;
    auto d = demand(s, w.l, w.e, w.a);
    const double leak = s.manifold < w.a.air.pressure.si()
                            ? w.e.inductionLeak * 0.25 * (1.0 - s.manifold / w.a.air.pressure.si())
                            : 0.0;
    w.metered = std::clamp(engine::meteredRatio(aircraft_->model(), d, s.manifold) * w.e.metering * (1.0 - leak) *
                               (1.0 + 0.35 * s.ice),
                           0.02, 0.20);
    d.mixture = w.metered;
    w.p = engine::operate(aircraft_->model(), d);
    s.wideOpen = w.p.wideOpen.si();

    // Sparks. An unearthed magneto fires whatever the switch says.
    const bool left = w.l.ignition == Ignition::both || w.l.ignition == Ignition::left || !w.e.earths;
    const bool right = w.l.ignition == Ignition::both || w.l.ignition == Ignition::right;
    const bool slow = s.n < leastRunning;
    // A starting magneto is wound by hand and wants no battery.
    const bool wound = aircraft_->notes.start.starter.kind == StarterKind::hand;
    const bool coil = w.l.boosterCoil && (wound || w.a.volts > 0.5 * aircraft_->notes.start.battery.volts);
    const bool strong = !slow || (w.e.spark && (coil || !aircraft_->notes.start.starter.boosterMost));
    const double a = left && strong ? w.e.leftMagneto * (1.0 - s.fouledLeft) : 0.0;
    const double b = right && strong ? std::max(0.0, 1.0 - s.fouledRight - w.e.deadLeads) : 0.0;
    w.oneSpark = a * (1.0 - b) + b * (1.0 - a);
    w.ignition = a * b + oneMagneto * w.oneSpark;

    w.fires = inflammable(s.fuelAir, s.uneven);
    const double richness = engine::powerOfMixture(std::clamp(s.fuelAir, 0.04, 0.14)) /
                            engine::powerOfMixture(std::clamp(w.metered, 0.04, 0.14));
    const auto permitted = knock_.permitted(w.p.chargeTemperature, w.p.fuelAirRatio, Rotation::si(s.n), d.water);
    double most = permitted.si() * (1.0 - 0.35 * w.e.detonation);
    if (const auto low = knock_.lowRpmBoost(Rotation::si(s.n)))
        most = std::min(most, low->si() * 1.05);
    const bool blown = !aircraft_->model().gears.empty();
    w.out.knock = s.firing ? std::clamp((s.manifold / most - 1.0) / 0.15, 0.0, 1.0) * (blown ? 1.0 : 0.0) : 0.0;
    if (!blown && w.e.detonation > 0 && s.firing) // an unblown engine knocks by its own heat, opened up
        w.out.knock = w.e.detonation * smooth(0.55, 0.95, s.manifold / standardPressure);
    const double hurt = (1.0 - w.e.deadCylinders * valveLoss) * (1.0 - ringLoss * std::min(1.0, w.e.ring + s.rings)) *
                        (1.0 - lateLoss * w.e.late) * (1.0 - rattleLoss * w.out.knock) *
                        (1.0 - earlyLoss * w.e.preIgnition);
    w.quality = w.ignition * w.fires * richness * std::max(0.0, hurt);
    const bool alive = !w.e.dead && s.bearing < 1.0;
    const double running = s.n / std::max(s.n, 1.0);
    const double lost =
        (w.p.friction * (1.0 + 0.5 * w.e.bearing + 2.0 * s.bearing) + w.p.pumping + w.p.impeller) * running;
    if (s.firing && (!alive || w.ignition < 0.05 || w.fires * hurt < 0.1 || s.n < 0.9 * leastRunning))
        if (s.fired > 2.0 || !alive || w.ignition < 0.05)
            s.firing = false;
    // Turned fast enough with all it needs it catches again by itself.
    if (!s.firing && alive && s.n > 1.3 * leastRunning && w.ignition > 0.3 && w.fires > catchesWith) {
        s.firing = true;
        s.fired = std::max(s.fired, 0.1);
    }
    w.shaft = (s.firing ? w.p.indicated * running * w.quality : 0.0) - lost;
    s.fired = s.firing ? s.fired + w.dt : s.n > 0.05 ? s.fired : 0.0;
    // A lean charge burns on until the valve opens: back through the carburettor.
    if (s.firing && s.fuelAir < 0.051 && s.fuelAir > 0.036 && w.l.ignition != Ignition::off && s.n > leastRunning)
        s.backfire = 1.0;
    s.backfire = std::max(0.0, s.backfire - w.dt);
}

void Engine::fuel(Working& w) const {
    auto& s = w.s;
    // Pump and line.
    const bool flows = w.l.cock && w.a.fuelAtTank && w.e.tank;
    const double turning = std::min(1.0, s.n / (0.25 * aircraft_->model().ratedRpm));
    const bool boosted = w.l.booster && (w.a.volts > 0.5 * aircraft_->notes.start.battery.volts ||
                                         aircraft_->notes.engine.gears.empty());
    const bool gravity = fuelPressure_ < 1.2e4;
    const double demandShare = w.p.fuelFlow.si() / ratedFuel_;
    double pressure =
        std::max(turning * std::max(0.0, 1.0 - (1.0 - w.e.fuelPump) * (0.6 + 0.9 * demandShare)), boosted   ? 0.85
                                                                                                  : gravity ? 0.6
                                                                                                            : 0.0);
    pressure *= 1.0 - w.e.vapour * (boosted ? 0.1 : 0.75 + 0.2 * std::sin(static_cast<double>(w.a.now) / 700.0));
    pressure = std::max(0.0, pressure - 8.0 * w.e.fuelLeak);
    s.fuelPressure = approach(s.fuelPressure, flows ? fuelPressure_ * pressure : 0.0, w.dt, pumpTime);
    const double share = s.fuelPressure / fuelPressure_;
    const double full = bowlSeconds * ratedFuel_;
    const double inflow = flows ? std::min(full - s.bowl, 2.2 * ratedFuel_ * share * w.dt) : 0.0;
    const double lost = flows ? w.e.fuelLeak * std::max(share, boosted ? 0.85 : 0.3) * w.dt : 0.0;
    s.bowl += inflow;
    const double beside = inflow * (w.learnt.fuel - 1.0); // found on this airframe, beside what the model burns
    s.taken += inflow + lost + beside;
    s.spilled += lost + beside;
    // Jets: while it is only cranked less of it is vapour on cold metal.
    const double slow = std::min(1.0, s.n / leastRunning);
    const double jets = w.l.cutOff || s.n < 0.1 ? 0.0 : w.p.airFlow.si() * w.metered;
    const double sent = std::min(s.bowl, jets * w.dt);
    s.bowl -= sent;
    // What stood has warmed the walls; the air cools them once it runs.
    const Temperature metal = Temperature::si(s.headOrCoolant);
    const double soaked = ofMetal * std::exp(-s.fired / wallTime);
    const auto [x, tau] =
        filmOf(Temperature::si(w.p.chargeTemperature.si() + soaked * (metal.si() - w.p.chargeTemperature.si())));
    const double before = s.wall;
    const double deposit = x * sent / w.dt;
    double dried;
    if (s.n > 0.1) {
        s.wall = approach(before, deposit * tau, w.dt, tau);
        dried = before + x * sent - s.wall;
    } else {
        s.wall = before * std::exp(-w.dt / start::drainTime(metal).si());
        dried = 0.0;
        s.spilled += before - s.wall;
    }
    // The primer's.
    const double given = w.l.primer * doseMass_ * w.dt;
    if (given > 0) {
        s.vapour *= s.primed / (s.primed + given);
        s.primed += given;
        s.taken += given;
    }
    s.vapour = approach(s.vapour, 1.0, w.dt, start::evaporationTime(metal, s.n).si());
    const double cycles = s.n / 2.0 * w.dt;
    const double carriedShare =
        s.n < 0.1 ? 0.0 : std::clamp(0.04 + 1.5 * s.throttle, 0.05, 1.0) * start::carriedPerCycle;
    const double drained = s.primed * (1.0 - std::exp(-w.dt / start::drainTime(metal).si()));
    const double carried = (s.primed - drained) * (1.0 - std::pow(1.0 - carriedShare, cycles));
    s.primed -= drained + carried;
    s.spilled += drained;
    // A pump that presses on open jets fills an engine that stands; what is too much for it runs out below.
    if (s.n < 0.1 && !w.l.cutOff && w.l.booster && cutsOff_ && share > 0.5) {
        const double runs = std::min(s.bowl, poolsAt * ratedFuel_ * w.dt);
        s.bowl -= runs;
        s.vapour *= s.primed / (s.primed + runs + 1e-12);
        s.primed += runs;
    }
    const double holds =
        start::richestFiring / start::bestFiring * doseMass_ * std::max(1.0, priming_.wanted(metal, w.a.air.pressure));
    s.pooled = std::max(0.0, s.pooled * (1.0 - w.dt / poolDries)) + (s.primed > holds ? drained : 0.0);
    // It burns where a flame comes to it: back through the carburettor, or out of the stacks as it fires up rich.
    if (s.fire <= 0.0 && s.pooled > catchesFire && (s.backfire > 0.9 || (s.firing && s.fired < 3.0)))
        s.fire = 0.05;
    if (s.fire > 0.0 && s.fire < 1.0) {
        const bool drawnIn = s.n > 0.5 && (w.l.cutOff || !w.l.cock || s.firing);
        s.fire = s.pooled <= 0.001 && !drawnIn ? s.fire - w.dt / fireDies
                                               : s.fire + (drawnIn ? -w.dt / fireDies : w.dt / fireLasts);
        if (s.fire <= 0.0)
            s.fire = s.pooled = 0.0;
        s.fire = std::clamp(s.fire, 0.0, 1.0);
    }
    const double intoCylinders = (1.0 - x) * sent + dried + carried;
    s.burnt += intoCylinders;
    // Vapour in the cylinders: of the primer's by the notes' doses, of the carburettor's by what evaporates.
    const double wanted = priming_.bestDose(metal, w.a.air.pressure);
    const double primer = priming_.primerPart(metal) * s.primed / doseMass_ / w.learnt.primeDose / wanted * s.vapour;
    double carburetted = 0.0;
    if (s.n > 0.1 && w.p.airFlow.si() > 0) {
        carburetted = ((1.0 - x) * sent + dried) / (w.p.airFlow.si() * w.dt);
        const double run = std::min(1.0, 0.84 + 0.18 * start::vapourFraction(metal));
        carburetted *= run + (start::turnedCarburettor(1.0, metal) - run) * (1.0 - smooth(0.7, 1.0, slow));
    }
    s.fuelAir = std::min(mostVapour, primer + carburetted);
    const double surplus = std::max(0.0, dried - x * sent);
    const double even = surplus > 0 ? carburetted * (1.0 - surplus / ((1.0 - x) * sent + dried)) : carburetted;
    s.uneven = std::max(0.0, s.fuelAir - even);
}

void Engine::starter(Working& w) const {
    auto& s = w.s;
    const auto& start = aircraft_->notes.start;
    const auto kind = start.starter.kind;
    const bool electric = kind == StarterKind::direct || kind == StarterKind::inertia;
    if (kind == StarterKind::cartridge) { // one for each push of the button, while there are any
        s.breech = std::max(0.0, s.breech - w.dt);
        if (w.l.mesh && !s.button && w.a.cartridges > 0) {
            w.out.cartridge = 1;
            s.breech = start.crankMost.si();
        }
        s.button = w.l.mesh;
    }
    const bool powered = kind == StarterKind::air         ? w.a.airBottle > 0.3 * start.starter.airPerStart.si()
                         : kind == StarterKind::cartridge ? s.breech > 0
                                                          : w.a.volts > 0.4 * start.battery.volts || !electric;
    w.meshed = (w.l.mesh || w.e.starterStuck) && powered && !w.e.locked;
    const bool stalled = w.l.mesh && w.e.locked;
    s.starterHeat = std::max(0.0, s.starterHeat - w.dt / 600.0);
    if (!(w.l.mesh || w.l.energise || w.e.starterStuck)) {
        s.wheel = approach(s.wheel, 0.0, w.dt, 60.0);
        return;
    }
    start::CrankConditions c;
    c.oil = Temperature::si(s.oil);
    c.supply = w.a.cart ? start::Supply::cart : start::Supply::battery;
    c.bladesPerRevolution = start::bladesPerRevolution(aircraft_->notes);
    c.diluted = w.l.thinning < 0.99;
    w.crank = start::crank(start, c);
    if (kind == StarterKind::inertia && w.l.energise && powered) {
        const double time = std::max(1.0, w.crank.energise.si());
        s.wheel = std::min(1.0, s.wheel + w.dt / time);
        w.out.starterAmperes = 0.6 * w.crank.amperes;
    }
    double turns = w.crank.rpm;
    if (kind == StarterKind::inertia) {
        turns *= std::sqrt(s.wheel);
        if (w.meshed)
            s.wheel = std::max(w.l.energise ? 0.5 : 0.0, s.wheel - w.dt / wheelTime);
    }
    if (w.meshed && electric)
        w.out.starterAmperes = std::max(w.out.starterAmperes, w.crank.amperes);
    if (stalled)
        s.strained = std::min(1.0, s.strained + w.dt / rodsBend);
    if (stalled && electric)
        w.out.starterAmperes = 1.6 * w.crank.amperes;
    if (w.meshed || stalled)
        s.starterHeat = std::min(1.0, s.starterHeat + w.dt / (3.0 * start.crankMost.si()) * (stalled ? 3.0 : 1.0));
    if (!w.meshed)
        return;
    if (kind == StarterKind::air) // what a start takes, over the time that one lasts
        w.out.airDrawn =
            (start.starter.airBottle.si() - w.crank.airLeft.si()) / std::max(1.0, w.crank.untilFiring.si());
    if (s.n < turns)
        s.n = approach(s.n, turns, w.dt, starterTime);
    // A first fire takes its turns once a mixture that burns is there: as long as the notes' starter takes.
    const bool firesUp = !w.e.dead && !s.firing && w.ignition > 0.3 && w.fires > catchesWith && s.n > 0.5 * turns;
    const double slowness = std::clamp(start.starter.warmRpm / std::max(w.crank.rpm, 0.05), 1.0, 3.0);
    s.kindling = firesUp ? s.kindling + w.dt / std::max(0.5, start.starter.firesAfter.si() * slowness) : 0.0;
    if (s.kindling >= 1.0 - 1e-9 && sparkLever_ && w.l.advanced) { // it fires before the top, and turns back
        s.kindling = 0.0;
        s.n = 0.0;
        ++s.kicks;
        return;
    }
    if (s.kindling >= 1.0 - 1e-9) {
        s.firing = true;
        s.fired = 0.0;
        s.kindling = 0.0;
        s.n = std::max(s.n, 1.3 * leastRunning); // the first charges throw it clear of the starter
    }
}

void Engine::blades(Working& w) const {
    auto& s = w.s;
    const auto& propeller = aircraft_->propeller;
    const auto kind = propeller.control;
    const bool electric = aircraft_->notes.propeller.electric;
    const bool feathers = aircraft_->notes.propeller.feathers;
    const bool current = w.a.volts > leastVolts * aircraft_->notes.start.battery.volts;
    const bool oilLost = !electric && s.n > leastRunning && s.fired > 20.0 &&
                         s.oilPressure < 0.12 * aircraft_->notes.heat.oilRelief.si();
    w.out.signs.propellerLeverDead =
        kind != PropellerControl::fixed && (w.e.pitchFixed || w.e.runaway > 0 || oilLost || (electric && !current));
    if (kind == PropellerControl::fixed || w.e.pitchFixed ||
        (electric && !current && kind == PropellerControl::constantSpeed))
        return;
    if (kind == PropellerControl::twoPosition) {
        const double coarse = std::cbrt(propeller.coarse.absorption / propeller.fine.absorption);
        s.pitch = approach(s.pitch, w.l.coarse && !oilLost ? coarse : 1.0, w.dt, 2.0);
        return;
    }
    const double most = bladeRate * w.dt;
    double target;
    if (feathers && w.l.feather && current) {
        w.out.feathering = s.pitch < 0.99 * featheredPitch ? featheringAmperes : 0.0;
        s.pitch = std::min(featheredPitch, s.pitch * std::exp(featherRate * w.dt));
        return;
    }
    if (s.pitch > coarseStop) { // coming out of feather: its own pump, until it is turned
        if (current) {
            w.out.feathering = featheringAmperes;
            s.pitch = std::max(1.0, s.pitch * std::exp(-featherRate * w.dt));
        }
        return;
    }
    if (w.e.runaway > 0 || oilLost) {
        target = 1.0;
    } else {
        const double set = std::max(1.0, w.l.rpm), advance = advanceRatio(set, w.tas);
        const double share = w.shaft / (propeller.fine.absorption * w.rho * set * set * set);
        target = std::clamp(pitchTaking(share, advance), 1.0, coarseStop);
        // The governor watches the speed itself too.
        target *= std::clamp(1.0 + 0.8 * (s.n - set) / set, 0.7, 1.3);
        target = std::clamp(target, 1.0, coarseStop);
    }
    const double wanted = approach(s.pitch, target, w.dt, governorTime);
    s.pitch = std::clamp(wanted, s.pitch * (1.0 - most), s.pitch * (1.0 + most));
}

void Engine::turning(Working& w) const {
    auto& s = w.s;
    w.propeller = s.n > 0 ? propellerPower(s.n, s.pitch, w.tas, w.rho) : 0.0;
    const bool held = w.meshed && !s.firing && s.n <= w.crank.rpm * 1.05;
    if (held || (s.n <= 0.0 && w.tas < 1.0))
        return;
    if (w.e.locked && !s.firing) {
        s.n = 0.0;
        return;
    }
    const double n = std::max(s.n, 0.3);
    // Blades that the air drives from a stand: only in fine pitch and fast does it pull through the compressions.
    const double driven = s.n > 0.3 ? w.propeller : propellerPower(0.3, s.pitch, w.tas, w.rho);
    const double surplus = w.shaft - driven;
    const double slope =
        -3.0 * std::abs(aircraft_->propeller.fine.absorption * w.rho * s.pitch * s.pitch * s.pitch) * n / inertia_ -
        (std::abs(w.p.friction) + std::abs(w.p.pumping)) / (inertia_ * n * n) - 0.05;
    const double change = surplus / (inertia_ * n) * std::expm1(slope * w.dt) / slope;
    const double next = s.n + change;
    s.quickens = change / w.dt;
    if (s.bearing >= 1.0)
        s.n = std::max(0.0, s.n - 8.0 * w.dt); // seizes
    else
        s.n = next < 0.3 && change < 0 ? 0.0 : std::clamp(next, 0.0, 2.0 * aircraft_->model().ratedRpm);
}

EngineReadings Engine::step(EngineState& s, const EngineLevers& l, const Effects& e, const Learnt& learnt,
                            const Surroundings& around, Milliseconds ms) const {
    Working w{s, l, e, learnt, around, static_cast<double>(ms) / 1000.0};
    w.tas = around.trueAirspeed().si();
    w.rho = air::density(around.air.pressure, around.air.temperature);
    gearAndTurbo(w);
    throttle(w);
    combustion(w);
    fuel(w);
    starter(w);
    blades(w);
    turning(w);
    heat(w);
    oilAndWear(w);
    plugs(w);
    ice(w);
    s.airFlow = s.n > 0 ? w.p.airFlow.si() : 0.0;
    needles(w);
    signs(w);
    return w.out;
}

EngineState Engine::running(EngineState s, const EngineLevers& l, const Surroundings& around) const {
    s.firing = true;
    if (s.gallery >= 1.0)
        s.fired = std::max(s.fired, 20.0 * wallTime); // it has run long enough that its walls are the air's
    s.turbo = l.turbo;
    stride(s, l, around, 0);
    s.throttle = areaFor(std::min(1.0, s.manifold / s.wideOpen), s.n / aircraft_->model().ratedRpm,
                         aircraft_->model().throttleLoss);
    // The film and the blades as they stand at this.
    const auto d = demand(s, l, {}, around);
    const auto p = engine::operate(aircraft_->model(), d);
    const auto [x, tau] = filmOf(p.chargeTemperature);
    s.wall = x * p.fuelFlow.si() * tau;
    const auto& fine = aircraft_->propeller.fine;
    if (aircraft_->propeller.control == PropellerControl::constantSpeed) {
        const double advance = advanceRatio(s.n, around.trueAirspeed().si());
        const double rho = air::density(around.air.pressure, around.air.temperature);
        s.pitch =
            std::clamp(pitchTaking(p.power.si() / (fine.absorption * rho * s.n * s.n * s.n), advance), 1.0, coarseStop);
    } else if (aircraft_->propeller.control == PropellerControl::twoPosition) {
        s.pitch = l.coarse ? std::cbrt(aircraft_->propeller.coarse.absorption / fine.absorption) : 1.0;
    }
    return s;
}

} // namespace amber::powerplant
