// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/leaning.h"
#include "flight/cruise.h"
#include "flight/simulation.h"
#include "notes/standard_schools.h"
#include "units/roots.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace amber::flight {
namespace {
constexpr double climbStep = 10.0, airStep = 30.0, cruiseStep = 60.0; // s between moments
constexpr double leastClimb = 0.5;                                    // m/s: service ceiling, 100 ft/min
constexpr double takeOffHeight = 150.0;                    // m above the field, least height where the climb begins
constexpr double gearChangeTime = 6.0;                     // s, throttle back, shift, open
constexpr double leastLeft = 0.5;                          // s, less than this left of a rating is nothing
constexpr double boostReading = 300.0;                     // Pa, what a needle does not show
constexpr double heldStep = 150.0, leastOverField = 150.0; // m, between heights that are tried; over the field at least
constexpr double sinksAtMost = 1.5;      // m/s, 300 ft/min: gently, as a level that is not held is left
constexpr double shortestStep = 0.05;    // s, so that a step towards an event always ends
constexpr double lightensEvery = 1200.0; // s of the cruise between two settlings of its speed
constexpr double slowestGround = 5.0;    // m/s over the ground, less does not arrive
constexpr double stepMinute = 60.0;      // s that a setting of the let-down is held
} // namespace

void Simulation::takeOff() {
    begin(Phase::takeOff);
    const Rating& rating = ratingFor(n_, s_, Phase::takeOff);
    Setting s = ratedSetting(Phase::takeOff);
    auto& p = out_[Phase::takeOff];
    p.setting = s;
    p.point = operate(s);
    ice(Phase::takeOff);
    const auto permitted = boostThere(rating, s, Phase::takeOff);
    if (permitted.cut)
        say(Phase::takeOff, watch::Rule::gradeCut, permitted.because + ".");
    const air::Day standard = air::standardDay(Length{});
    out_.seaLevelPower =
        engine::operate(a_.model(), {rating.rpm, rating.boost, s.gear, standard.at(Length{}), Speed{}, rating.mixture})
            .power;
    out_.staticRpm = engine::staticRpm(a_.model(), a_.fineStop, p.point.manifoldPressure, s.gear, air(), rating.rpm);
    const double duration = n_.phase(Phase::takeOff).duration.value_or(Duration::si(60)).si();
    const auto liftOff = speedFor(n_, "lift-off", weight());
    Setting ground = s;
    ground.ias = Speed::si(0.5 * liftOff->speed.si());
    ground = settled(ground, a_.propeller.fine);
    const double roll = std::min(rollTime(ground, liftOff->speed), duration / 2);
    steady(ground, roll, roll);
    s.ias = climbSpeed(); // she gathers it in the first seconds
    if (a_.propeller.followsThrottle()) {
        s = settled(s, a_.propeller.fine);
        p.setting = s;
        p.point = operate(s);
    }
    const double airborne = duration - roll;
    const double rate = rateOfClimb(a_, operate(s).power.si() * engines_, weight(), s.ias, air()).si();
    if (rate < leastClimb)
        say(Phase::takeOff, watch::Rule::climbAway, "At this power and weight it does not climb away.");
    const double top = day_.elevation.si() + std::max(takeOffHeight, 0.6 * std::max(0.0, rate) * airborne);
    const double rise = std::max(0.0, std::min(top, s_.flight.cruiseHeight.si()) - state_.height);
    for (int half = 0; half < 2; ++half)
        steady(s, airborne / 2, airborne / 2, rise / airborne);
    use(Phase::takeOff, rating, duration);
    end();
}

double Simulation::rollTime(const Setting& s, Speed liftOff) const {
    const double useful = powerplant::Drag::propellerEfficiency * operate(s).power.si() * engines_;
    const air::Ambient here = air();
    const double density = air::density(here.pressure, here.temperature);
    const double lifts = air::trueAirspeed(liftOff, here.pressure, here.temperature).si();
    constexpr double part = 0.5, longest = 120.0; // s
    double v = 0.0, time = 0.0;
    while (v < lifts && time < longest) {
        v += std::max(0.0, powerplant::onTheRunway(a_, useful, v, density, 0.0, weight())) * part;
        time += part;
    }
    return time;
}

Speed Simulation::climbSpeed() const {
    return climbSpeedAt(n_, weight(), pressureAltitude());
}

bool Simulation::timeToChange(const Rating& rating, const Setting& s, const engine::OperatingPoint& p) const {
    if (!n_.gearChange || s.gear + 1 >= n_.engine.gears.size() || !p.fullThrottle || !s.boost)
        return false;
    if (s.boost->si() - p.manifoldPressure.si() < n_.gearChange->fall.si() - 1.0)
        return false;
    for (const auto& step : n_.phase(Phase::climb).steps)
        if (const School* school = schools::inForce(step, Phase::climb, s_.choices);
            school && school->effect.changeAtEqualPower.value_or(false))
            return powerGained(rating, s, p) > 0;
    return true;
}

double Simulation::powerGained(const Rating& rating, const Setting& s, const engine::OperatingPoint& p) const {
    Setting other = s;
    ++other.gear;
    other.boost = boostInGear(rating, other);
    return operate(other).power.si() - p.power.si();
}

std::optional<Length> Simulation::gearHeight(const Rating& rating, Setting s, std::size_t gear) const {
    s.gear = gear;
    return engine::fullThrottleHeight(a_.model(), s.rpm, *boostInGear(rating, s), gear, day_, s.ias, s.mixture);
}

std::optional<ManifoldPressure> Simulation::boostInGear(const Rating& rating, const Setting& s) const {
    return boostThere(rating, s, phase_).boost;
}

std::optional<Length> Simulation::equalPower(const Rating& rating, const Setting& s, std::size_t from) const {
    const auto power = [&](double altitude, std::size_t gear) {
        Setting in = s;
        in.gear = gear;
        in.boost = boostInGear(rating, in);
        engine::Demand d = demand(in);
        d.air = day_.at(Length::si(altitude));
        return engine::operate(a_.model(), d).power.si();
    };
    const auto gain = [&](double altitude) { return power(altitude, from + 1) - power(altitude, from); };
    constexpr double low = 0.0, high = 12000.0;
    if (gain(low) > 0 || gain(high) < 0)
        return std::nullopt;
    return Length::si(roots::turn([&](double altitude) { return gain(altitude) > 0; }, low, high, 24).high);
}

void Simulation::climb() {
    begin(Phase::climb);
    Setting s = ratedSetting(Phase::climb);
    const Rating* held = &ratingFor(n_, s_, Phase::climb); // until its time is up
    const auto permitted = boostThere(*held, s, Phase::climb);
    if (permitted.cut)
        say(Phase::climb, watch::Rule::gradeCut, permitted.because + ".");
    Setting asked = s;
    s.ias = climbSpeed();
    s = settled(s);
    auto& phase = out_[Phase::climb];
    phase.setting = s;
    phase.point = operate(s);
    ice(Phase::climb);
    if (s.boost)
        for (std::size_t g = 0; g < std::min<std::size_t>(4, n_.engine.gears.size()); ++g) {
            Setting in = s;
            in.gear = g;
            out_.gearBoosts[g] = boostInGear(*held, in);
            out_.fullThrottleHeights[g] = gearHeight(*held, s, g);
        }
    out_.firstRate = rateOfClimb(a_, phase.point.power.si() * engines_, weight(), s.ias, air());
    const double goal = s_.flight.cruiseHeight.si();
    constexpr double longest = 3 * 3600.0;
    double dt = climbStep;
    note(s, phase.point, true);
    const auto left = [&] {
        const auto l = out_.ratings.of(held->key)->left();
        return l ? l->si() : std::numeric_limits<double>::infinity();
    };
    bool spent = false; // and no weaker rating to take
    bool due = false;   // a change of gear would outlast it
    while (state_.height < goal - 0.5 && time() - phase.start < longest) {
        feedInClimb();
        if (!spent && (left() < leastLeft || due)) {
            due = false;
            if (const Rating* next = nextWeaker(*held, s)) {
                out_.ratingChanges.push_back({time(), Length::si(state_.height), held->name, next->name, Phase::climb});
                say(Phase::climb, watch::Rule::ratingStepped,
                    fmt::format("The {} of {} are used at {}: {} from there.",
                                formatMinutesSeconds(held->minutes->si()), held->name,
                                formatHeight(state_.height, *n_.cockpit.height), next->name));
                const std::size_t gear = s.gear;
                held = next;
                asked = ratedSetting(Phase::climb, *held);
                s = asked;
                s.gear = gear;
                s.ias = climbSpeed();
                s.boost = boostInGear(*held, s);
                s = settled(s);
            } else {
                spent = true;
                say(Phase::climb, watch::Rule::ratingNoneLeft,
                    fmt::format("The {} of {} are used at {} and the notes have no weaker rating to climb on at.",
                                formatMinutesSeconds(held->minutes->si()), held->name,
                                formatHeight(state_.height, *n_.cockpit.height)));
            }
        }
        if (a_.propeller.followsThrottle()) {
            s = asked;
            s.ias = climbSpeed();
            s = settled(s);
        } else {
            s.ias = climbSpeed();
        }
        if (!held->above.empty() && s.boost) { // a boost that falls with height
            const auto most = *boostInGear(*held, s);
            if (most.si() < std::min(s.boost->si(), operate(s).manifoldPressure.si()) - boostReading)
                out_.boostFalls.push_back({time(), pressureAltitude(), Length::si(state_.height), most});
            s.boost = std::min(*s.boost, most);
            if (asked.boost)
                asked.boost = std::min(*asked.boost, most);
        }
        auto point = operate(s);
        if (timeToChange(*held, s, point)) {
            due = !spent && left() < gearChangeTime;
            if (due)
                continue;
            GearChange change{.time = time(),
                              .pressureAltitude = pressureAltitude(),
                              .height = Length::si(state_.height),
                              .boostBefore = point.manifoldPressure,
                              .boostAfter = {},
                              .from = s.gear,
                              .to = s.gear + 1,
                              .equalPower = {},
                              .gained = {}};
            change.gained = Power::si(powerGained(*held, s, point));
            Setting back = s;
            back.boost =
                ManifoldPressure::si(std::min(n_.gearChange->throttleBackTo.si(), point.manifoldPressure.si()));
            steady(back, gearChangeTime, gearChangeTime);
            use(Phase::climb, *held, gearChangeTime);
            ++s.gear;
            s.boost = boostInGear(*held, s);
            change.boostAfter = s.boost;
            change.equalPower = equalPower(*held, s, change.from);
            out_.gearChanges.push_back(change);
            point = operate(s);
            note(s, point, true);
        }
        const air::Ambient here = air();
        const double rate = rateOfClimb(a_, point.power.si() * engines_, weight(), s.ias, here).si();
        if (rate < leastClimb) {
            out_.reachedHeight = false;
            say(Phase::climb, watch::Rule::ceiling,
                fmt::format("It climbs no higher than {} today; the cruise is planned there.",
                            formatHeight(state_.height, *n_.cockpit.height)));
            break;
        }
        // A slower speed gives height too.
        const double given = std::max(0.0, heightOf(state_.ias, s.ias.si()));
        const double untilTop = std::max(shortestStep, (goal - state_.height - given) / rate);
        dt = std::min(climbStep, untilTop);
        if (!spent)
            dt = std::max(shortestStep, std::min(dt, left()));
        // The step ends where the rating allows less, and where the gear is changed: found by halving.
        for (const auto& [from, most] : held->above)
            if (from > pressureAltitude()) {
                constexpr double past = 0.5; // m, or the step stands still before it
                dt = std::max(shortestStep, std::min(dt, (from.si() - pressureAltitude().si() + past - given) / rate));
                break;
            }
        const double before = state_.height;
        if (s.gear + 1 < n_.engine.gears.size() && n_.gearChange) {
            state_.height = before + rate * dt;
            if (timeToChange(*held, s, operate(s))) {
                const auto changes = [&](double seconds) {
                    state_.height = before + rate * seconds;
                    return timeToChange(*held, s, operate(s));
                };
                dt = std::max(shortestStep, roots::turn(changes, 0.0, dt, 12).high);
            }
            state_.height = before;
        }
        // Half-way up: the air there stands for the whole step.
        const double half = pace_ == Pace::strides ? 0.5 * rate * dt : 0.0;
        state_.height += half;
        Setting midway = s;
        if (half > 0 && a_.propeller.followsThrottle()) { // the rpm there, too
            midway = asked;
            midway.ias = s.ias;
            midway = settled(midway);
        }
        const At at{midway, half > 0 ? operate(midway) : point};
        const double began = time();
        advance({&at}, dt, {powerplant::Path::Kind::speedHeld, s.ias.si(), 0.0});
        state_.height -= half;
        use(Phase::climb, *held, time() - began);
        note(s, operate(s), true);
    }
    end();
}

void Simulation::feedInClimb() {
    if (state_.height - day_.elevation.si() < sequence_.changeAbove() || sequence_.order().empty())
        return;
    const int first = sequence_.order().front();
    const double here = state_.tanks[static_cast<std::size_t>(tank_)];
    if (tank_ != first && sequence_.isDrop(first) && state_.tanks[static_cast<std::size_t>(first)] > 0)
        switchTo(first, false);
    else if (here <= sequence_.leaveAt(tank_, true))
        for (const int next : sequence_.order())
            if (next != tank_ && state_.tanks[static_cast<std::size_t>(next)] > sequence_.leaveAt(next, true)) {
                switchTo(next, false);
                break;
            }
}

void Simulation::release() {
    released_ = true;
    for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i) {
        const Tank& t = n_.fuel.tanks[i];
        if (t.kind != TankKind::drop || !s_.contents.contains(t.id))
            continue;
        state_.dryMass -= t.emptyMass.si();
        markTank(TankChange::Kind::dropped, static_cast<int>(i));
        state_.tanks[i] = 0.0; // what was left in it goes with it
    }
    if (!trial_)
        out_.dropped.assign(1, out_.samples.size());
}

void Simulation::chooseGear(Setting& s) const {
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

double Simulation::letDownDistance() const {
    Simulation trial(*this);
    trial.trial_ = true;
    trial.pace_ = Pace::strides;
    for (auto& engine : trial.state_.engines) // all as the one that is drawn: they are reckoned once
        engine = state_.engines[drawn_];
    // By then the cruise has settled the temperatures.
    const auto& cruise = out_[Phase::cruise];
    const auto settled = a_.thermal.steady(drive(cruise.setting, cruise.point));
    for (auto& engine : trial.state_.engines) {
        engine.headOrCoolant = settled.headOrCoolant.si();
        engine.oil = settled.oil.si();
    }
    trial.letDown();
    return trial.out_[Phase::letDown].distance;
}

std::optional<Speed> Simulation::levelAt(Setting& s) const {
    Speed tas = Speed::si(60);
    // Ram depends on the speed and the speed on the power: three rounds settle it to a tenth of a knot.
    const Setting asked = s;
    for (int round = 0; round < (a_.propeller.followsThrottle() ? 8 : 3); ++round) {
        const Speed ias = s.ias;
        s = asked;
        s.ias = ias;
        if (const auto gear = n_.gearIndex(s_.flight.cruiseGear); !s_.flight.cruiseGear.empty() && gear)
            s.gear = *gear;
        else
            chooseGear(s);
        s = settled(s);
        const auto point = operate(s);
        const auto level = levelSpeed(a_, point.power.si() * engines_, weight(), air());
        if (!level) {
            s.ias = climbSpeed();
            return std::nullopt;
        }
        tas = *level;
        s.ias = air::calibratedAirspeed(tas, air().pressure, air().temperature);
    }
    return tas;
}

Speed Simulation::levelled(Setting& s) {
    const Setting asked = s;
    if (const auto tas = levelAt(s))
        return *tas;
    // What this power does hold: the highest of the heights below, and it sinks to there first.
    const double from = state_.height, lowest = day_.elevation.si() + leastOverField;
    const auto holdsAt = [&](double height) {
        state_.height = height;
        Setting trial = asked;
        return levelAt(trial).has_value();
    };
    std::optional<double> held;
    for (double height = from - heldStep; !held && height > lowest; height -= heldStep)
        if (holdsAt(height))
            held = roots::turn([&](double h) { return !holdsAt(h); }, height, height + heldStep, 8).low;
    state_.height = from;
    if (!held) {
        say(Phase::cruise, watch::Rule::level,
            "At this power it holds no height: the cruise is not flown so. More power, or less weight.");
        return air::trueAirspeed(climbSpeed(), air().pressure, air().temperature);
    }
    say(Phase::cruise, watch::Rule::level,
        fmt::format("At this power it cannot hold {}: it sinks to {} and the cruise is planned there. More power, or "
                    "that height from the start.",
                    formatHeight(from, *n_.cockpit.height), formatHeight(*held, *n_.cockpit.height)));
    out_.heldHeight = Length::si(*held);
    while (state_.height > *held + 0.5 && !dry_) {
        const double dt = std::min(airStep, (state_.height - *held) / sinksAtMost);
        advance({s, operate(s)}, dt, -sinksAtMost);
        note(s, operate(s), true);
    }
    s = asked;
    return levelAt(s).value_or(air::trueAirspeed(climbSpeed(), air().pressure, air().temperature));
}

void Simulation::cruise() {
    begin(Phase::cruise);
    Setting s = ratedSetting(Phase::cruise);
    const Rating& rating = ratingFor(n_, s_, Phase::cruise);
    const auto permitted = boostThere(rating, s, Phase::cruise);
    if (permitted.cut)
        say(Phase::cruise, watch::Rule::gradeCut, permitted.because + ".");
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
    const auto& order = sequence_.order();
    std::size_t at = 0;
    while (at + 1 < order.size() && state_.tanks[static_cast<std::size_t>(order[at])] <= sequence_.leaveAt(order[at]))
        ++at;
    if (!order.empty())
        switchTo(order[at], false);
    auto& phase = out_[Phase::cruise];
    Setting asked = s;
    Speed tas = levelled(s);
    phase.setting = s;
    phase.point = operate(s);
    out_.cruisePressureAltitude = pressureAltitude();
    ice(Phase::cruise);
    if (chosen && s.boost && phase.point.fullThrottle)
        phase.setting.boost = phase.point.manifoldPressure;
    if (s.mixture == Mixture::weak && !engine::weakAllowed(n_, phase.point.power))
        say(Phase::cruise, watch::Rule::weakMixture,
            fmt::format("Weak mixture is for up to {:.0f} % of rated power; this is more.", 100 * n_.engine.weakUpTo));
    out_.cruiseTas = tas;
    out_.cruiseFuelFlow = phase.point.fuelFlow.si() / state_.fuelDensity * engines_;
    const double left = s_.flight.distance.si() - state_.distance - letDownDistance();
    if (left < -5000.0)
        say(Phase::cruise, watch::Rule::distance,
            "Climb and let-down together are longer than the distance: choose a lower height.");
    const Rating* held = chosen ? &ratingSpent(n_, s_.fuelGrade, {s.rpm, s.boost, s.gear, s.mixture},
                                               phase.point.manifoldPressure, pressureAltitude())
                                : &rating;
    double toGo = std::max(0.0, left); // m over the ground
    double flow = out_.cruiseFuelFlow;
    bool spent = false; // and no weaker rating to take
    double levelledAt = time();
    note(s, phase.point, true);
    // What the landing keeps for itself, where its tank is not the last of the order.
    const int landing = tankIndex(n_.fuel.landingTank);
    const double kept = reserveTime(n_, s_) * flow;
    const auto leaves = [&](std::size_t i) {
        const double least = sequence_.leaveAt(order[i]);
        return order[i] == landing ? std::max(least, kept) : least;
    };
    while (toGo > 1e-3 && !dry_) {
        const auto minutesLeft = out_.ratings.of(held->key)->left();
        if (!spent && minutesLeft && minutesLeft->si() < leastLeft) {
            const Rating* next = nextWeaker(*held, s);
            spent = next == nullptr;
            if (spent) {
                say(Phase::cruise, watch::Rule::ratingNoneLeft,
                    fmt::format("The {} of {} are used and the notes have no weaker rating to fly on at.",
                                formatMinutesSeconds(held->minutes->si()), held->name));
            } else {
                out_.ratingChanges.push_back(
                    {time(), Length::si(state_.height), held->name, next->name, Phase::cruise});
                say(Phase::cruise, watch::Rule::ratingStepped,
                    fmt::format("The {} of {} are used after {} of cruise: {} from there.",
                                formatMinutesSeconds(held->minutes->si()), held->name,
                                formatMinutesSeconds(time() - phase.start), next->name));
                held = next;
                asked = s = ratedSetting(Phase::cruise, *held);
                tas = levelled(s);
                levelledAt = time();
                const auto point = operate(s);
                flow = point.fuelFlow.si() / state_.fuelDensity * engines_;
                note(s, point, true);
            }
            continue;
        }
        if (time() - levelledAt >= lightensEvery) { // she is lighter by what was burnt, and faster
            Setting lighter = asked;
            lighter.ias = s.ias;
            tas = levelled(lighter);
            s = lighter;
            flow = operate(s).fuelFlow.si() / state_.fuelDensity * engines_;
            levelledAt = time();
        }
        const auto blows = wind();
        const double ground = air::groundSpeed(tas.si(), blows);
        if (ground < slowestGround) {
            say(Phase::cruise, watch::Rule::headwindPast,
                "The wind on this track is stronger than the airspeed: the aircraft does not arrive.");
            break;
        }
        const std::size_t leg = legNow();
        if (out_.legs.size() <= leg) {
            out_.legs.resize(leg + 1);
            auto& l = out_.legs[leg];
            l.to = legEnds_.empty() ? (s_.flight.over.empty() ? s_.flight.to : s_.flight.over) : s_.flight.legs[leg].to;
            l.wind = blows;
            l.ground = ground;
            l.knowsWind = s_.flight.aloft && (legEnds_.empty() ? s_.flight.track : s_.flight.legs[leg].track);
        }
        // Each tank of the order down to its least, the last as far as it goes.
        double usable = at < order.size() ? state_.tanks[static_cast<std::size_t>(tank_)] - leaves(at) : 0.0;
        bool early = false;
        double until = toGo;
        if (at + 1 < order.size()) {
            const double due = state_.distance + usable / std::max(flow, 1e-9) * ground;
            const double change = sequence_.changeAt(state_.distance, due);
            early = change < due - 1.0;
            if (usable <= 0 || change <= state_.distance + 1.0) {
                ++at;
                switchTo(order[at], false, early);
                continue;
            }
            until = std::min(until, change - state_.distance);
        } else if (const double pipe = n_.fuel.tanks[static_cast<std::size_t>(tank_)].standpipe.si();
                   pipe > 0 && !onReserve_) {
            const double above = state_.tanks[static_cast<std::size_t>(tank_)] - pipe;
            if (above <= 1e-9) {
                onReserve_ = true;
                markTank(TankChange::Kind::reserve, tank_);
                continue;
            }
            until = std::min(until, above / std::max(flow, 1e-9) * ground);
        }
        if (leg + 1 < legEnds_.size())
            until = std::min(until, std::max(1.0, legEnds_[leg] - state_.distance));
        if (s_.fuel.dropAt && !released_) {
            if (const double away = s_.fuel.dropAt->si() - state_.distance; away > 1.0) {
                until = std::min(until, away);
            } else if (!sequence_.isDrop(tank_)) {
                release();
                continue;
            }
        }
        double stretch = std::max(shortestStep, std::min(until / ground, levelledAt + lightensEvery - time())); // s
        if (!spent && minutesLeft)
            stretch = std::min(stretch, minutesLeft->si());
        const double began = time(), flown = state_.distance;
        steady(s, stretch, cruiseStep);
        use(Phase::cruise, *held, time() - began);
        out_.legs[leg].time += time() - began;
        out_.legs[leg].distance += state_.distance - flown;
        if (out_.legs[leg].time > 0)
            out_.legs[leg].ground = out_.legs[leg].distance / out_.legs[leg].time;
        toGo -= state_.distance - flown;
    }
    end();
}

Setting Simulation::eased(const Setting& low, const Setting& high, double share) const {
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

double Simulation::sinkAt(const Setting& s) const {
    return -rateOfClimb(a_, operate(s).power.si() * engines_, weight(), s.ias, air()).si();
}

Setting Simulation::forRate(const Setting& asked, double rate) const {
    const double needed = powerForRate(a_, -rate, weight(), asked.ias, air()).si() / engines_;
    const bool byRpm = a_.propeller.followsThrottle();
    const auto with = [&](double lever) {
        Setting s = asked;
        if (byRpm) {
            s.rpm = Rotation::si(lever);
            if (s.boost) // the throttle is the lever, wherever its gauge stands
                s.boost = std::max(*s.boost, out_[Phase::cruise].point.manifoldPressure);
        } else {
            s.boost = ManifoldPressure::si(lever);
            s.boostOrigin = Origin::model;
        }
        limit(s, Phase::letDown);
        return settled(s);
    };
    const Setting& cruise = out_[Phase::cruise].setting;
    const double low = byRpm ? 0.4 * cruise.rpm.si() : throttleShut;
    const double high =
        byRpm ? cruise.rpm.si()
              : std::max(asked.boost ? asked.boost->si() : 0.0, out_[Phase::cruise].point.manifoldPressure.si());
    if (operate(with(low)).power.si() >= needed)
        return with(low); // even shut she does not come down so fast
    if (operate(with(high)).power.si() <= needed)
        return with(high);
    const auto enough = [&](double lever) { return operate(with(lever)).power.si() >= needed; };
    return with(roots::turn(enough, low, high, 18).high); // the rate is a small difference: to some 1e-5 of the range
}

void Simulation::letDown() {
    begin(Phase::letDown);
    switchTo(tankIndex(n_.fuel.landingTank), false);
    const Setting asked = notedSetting(Phase::letDown);
    const Setting cruise = out_[Phase::cruise].setting;
    const double goal = s_.flight.toElevation.si() + circuitHeight;
    const double rate = n_.phase(Phase::letDown).rate->si();
    const double most = 0.97 * coolingLimit(n_).perMinute;
    const auto least = letDownLeast(n_);
    auto& phase = out_[Phase::letDown];
    const double flapNotes = asked.coolingFlap;
    double share = 1.0, told = -1.0;
    bool low = false;
    const std::size_t first = out_.samples.size();
    if (asked.boost && !a_.propeller.followsThrottle())
        out_.letDownByNotes = {*asked.boost, VerticalSpeed::si(sinkAt(settled(asked)))};
    // The notes' rate and speed ask for a power, and the boost follows; kept until the air has changed it by a step, or
    // the rate by two.
    constexpr double step = 0.05, slowest = 0.2;
    Setting base = forRate(asked, rate);
    const auto apart = [](double x, double y) { return std::abs(x - y) > step * y; };
    while (state_.height > goal + 0.5) {
        if (const double sinks = sinkAt(settled(base)); apart(sinks, rate)) {
            const Setting now = forRate(asked, rate);
            const bool moved = a_.propeller.followsThrottle()
                                   ? apart(now.rpm.si(), base.rpm.si())
                                   : now.boost && base.boost && apart(now.boost->si(), base.boost->si());
            if (moved || std::abs(sinks - rate) > 2.0 * step * rate) {
                base = now;
                told = -1.0;
            }
        }
        const double before = temperatures().headOrCoolant.si(); // the minute's steps are chosen by it
        const auto easedTo = [&](double s, double coolingFlap) {
            Setting trial = base;
            trial.coolingFlap = coolingFlap;
            trial = eased(trial, cruise, s);
            trial.coolingFlap = coolingFlap;
            return trial;
        };
        const auto holds = [&](double s, double coolingFlap) {
            const Setting trial = easedTo(s, coolingFlap);
            const auto after = a_.thermal.after(temperatures(), drive(trial, operate(trial)), Duration::si(stepMinute))
                                   .headOrCoolant.si();
            return before - after <= most && (!least || after >= std::min(before, least->si()) - 0.05);
        };
        // Shut the flaps before giving power back; then the least power of sixteen steps that will do.
        double coolingFlap = flapNotes;
        if (!holds(share, coolingFlap))
            coolingFlap = 0.0;
        constexpr int parts = 16;
        int chosen = 0;
        for (int i = 0; i <= parts; ++i) {
            const double part = i / static_cast<double>(parts);
            if (i > 0 && sinkAt(easedTo(part, coolingFlap)) < slowest * rate)
                break; // with more she would hardly come down
            chosen = i;
            if (holds(part, coolingFlap))
                break;
        }
        share = chosen / static_cast<double>(parts);
        low = low || !holds(share, coolingFlap);
        const Setting s = easedTo(share, coolingFlap);
        const auto point = operate(s);
        // Power and speed give the rate: slower than the notes' where the cooling asks for more power.
        const double sink = std::max(slowest * rate, sinkAt(s));
        const double span = std::min(stepMinute, (state_.height - goal) / sink);
        // Without a governor the rpm drifts with the height: only a lever that is moved is a step.
        if (out_.letDown.empty() || std::abs(share - told) > 1e-9 ||
            out_.letDown.back().setting.coolingFlap != s.coolingFlap) {
            told = share;
            out_.letDown.push_back(
                {time(), Length::si(state_.height), s, point.manifoldPressure, temperatures().headOrCoolant});
        }
        note(s, point, true);
        for (double done = 0.0; done < span - 1e-6;) {
            const double dt = std::min(airStep, span - done);
            Setting now = s;
            if (a_.propeller.followsThrottle()) {
                state_.height -= 0.5 * sink * dt;
                now = easedTo(share, coolingFlap);
                state_.height += 0.5 * sink * dt;
            }
            advance({now, operate(now)}, dt, -sink);
            done += dt;
            note(s, operate(s), true);
        }
    }
    out_.letDownCooling = watch_.greatestFall(Phase::letDown);
    // Where it settles.
    Setting s = base;
    if (!out_.letDown.empty())
        s = out_.letDown.back().setting;
    else
        s = settled(s);
    phase.setting = s;
    phase.point = operate(s);
    ice(Phase::letDown);
    if (out_.samples.size() == first)
        note(s, phase.point, true);
    if (low)
        say(Phase::letDown, watch::Rule::coolingUnavoidable,
            "Even at cruising power with the flaps shut it cools faster than it may, or below its least: slow down "
            "or let down in steps.");
    end();
}

void Simulation::landing() {
    begin(Phase::landing);
    const Setting noted = notedSetting(Phase::landing);
    fineLanding_ = fineForLanding();
    const auto& blades = fineLanding_ ? a_.propeller.fine : a_.propeller.coarse;
    const Setting s = settled(noted, blades);
    const double duration = n_.phase(Phase::landing).duration.value_or(Duration::si(300)).si();
    auto& phase = out_[Phase::landing];
    phase.setting = s;
    phase.point = operate(s);
    ice(Phase::landing);
    const double down = state_.height - s_.flight.toElevation.si();
    constexpr int legs = 6;
    Setting last = s;
    for (int i = 0; i < legs; ++i) {
        // Without a governor the rpm fall as the air thickens: those half-way down the leg.
        const double half = 0.5 * down / legs;
        state_.height -= half;
        Setting leg = settled(noted, blades);
        // With a governor the lever stands as noted, and on the fine stop it turns no faster than the air lets it.
        if (!a_.propeller.followsThrottle())
            leg.rpm = std::min(leg.rpm, engine::agree(a_.model(), a_.propeller.fine, demand(leg)).rpm);
        state_.height += half;
        last = leg;
        steady(leg, duration / legs, duration / legs, -down / duration);
    }
    state_.height = s_.flight.toElevation.si();
    note(last, operate(last), true);
    end();
}

} // namespace amber::flight
