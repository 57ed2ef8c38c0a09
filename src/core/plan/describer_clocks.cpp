// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/leaning.h"
#include "notes/cockpit_units.h"
#include "plan/cool_down.h"
#include "plan/describer.h"
#include "plan/let_down.h"
#include "watch/rating_clock.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::plan {

void Describer::intercoolerClock(PhasePlan& p) const {
    if (n_.engine.intercooler <= 0)
        return;
    const Moment& m = f_.moments[f_[Phase::climb].lastMoment];
    const auto air = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m.height)));
    engine::Demand d{Rotation::si(m.rpm), ManifoldPressure::si(m.boost),   m.gear, air,
                     Speed::si(m.speed),  f_[Phase::climb].setting.mixture};
    const Temperature open = engine::operate(a_.model(), d).chargeTemperature;
    d.intercooler = 0.0;
    const Temperature shut = engine::operate(a_.model(), d).chargeTemperature;
    p.clocks.push_back({"Intercooler", "open at the top", "model",
                        fmt::format("Charge {} with its flap open, {} shut, at the end of the climb. Shut it in the "
                                    "let-down: cold charge does not vaporise.",
                                    temperature(open), temperature(shut)),
                        watch::Colour::normal});
}

void Describer::coolingClocks(PhasePlan& p) const {
    const auto limit = coolingLimit(n_);
    p.clocks.push_back(
        {"Cools, a minute", fmt::format("{} of {}", degrees(f_.letDownCooling), degrees(limit.perMinute)),
         limit.origin == Origin::notes ? "model" : "ours",
         limit.origin == Origin::notes
             ? "Fastest fall of a minute by the model, and the most the notes allow."
             : "Fastest fall of a minute by the model. The notes give no most: the figure is ours, a common one.",
         coolingColour(limit, f_.letDownCooling)});
    if (f_.letDown.size() > 1)
        p.clocks.push_back({"Power off in", fmt::format("{} steps", f_.letDown.size()), "model",
                            "The page \"schedule\" gives each with its height.", watch::Colour::normal});
    if (n_.letDown.clearEvery)
        p.clocks.push_back({"Clear the engine", "each " + minutes(n_.letDown.clearEvery->si()), "notes",
                            clearing() + ": it keeps the plugs clean and the heads warm.", watch::Colour::normal});
}

void Describer::stopClocks(PhasePlan& p) const {
    const auto cool = coolDown(a_, s_, f_);
    p.clocks.push_back(
        {"Dilute the oil", cool.dilute ? fmt::format("{:.0f} min", std::max(1.0, std::round(*cool.dilute / 60))) : "no",
         cool.dilute ? std::string(markOf(cool.diluteOrigin)) : "notes", cool.diluteWhy, watch::Colour::normal});
    for (const auto& r : cool.restarts)
        if (r.after == 900.0 || r.after == 3600.0)
            p.clocks.push_back({fmt::format("Again in {}", minutes(r.after)), r.dose > 0 ? doses(r.dose) : "no prime",
                                std::string(markOf(r.origin)), r.advice, watch::Colour::normal});
}

void Describer::warmUpClocks(PhasePlan& p) const {
    // Which engine decides.
    const EngineWarmth* slow = nullptr;
    for (const auto& w : f_.warmth)
        if (w.readyForRunUp && (!slow || *w.readyForRunUp > *slow->readyForRunUp))
            slow = &w;
    if (slow && f_.warmth.size() > 1)
        for (const auto& position : n_.positions)
            if (position.id == slow->engine)
                p.clocks.push_back({"Decides", position.name, "model",
                                    "The last to have the run-up minima; the others wait for it.",
                                    watch::Colour::normal});
    if (f_.oilHoldsRpm)
        p.clocks.push_back({"Oil too thick", "slower at first", "model",
                            "At the next step's rpm the cold oil would pass its pressure limit.",
                            watch::Colour::normal});
}

void Describer::ratingClock(PhasePlan& p, Phase phase) const {
    const Rating* flown = n_.rating(f_[phase].rating);
    const Rating& rating = flown ? *flown : ratingFor(n_, s_, phase);
    const double used = f_[phase].ratingUsed;
    watch::RatingClock clock(rating);
    clock.add(Duration::si(used));
    const auto judged = clock.judgement();
    if (rating.minutes)
        p.clocks.push_back(
            {rating.name,
             fmt::format("{} of {}", formatMinutesSeconds(used), formatMinutesSeconds(rating.minutes->si())), "notes",
             judged.sentence, judged.colour});
    else
        p.clocks.push_back({rating.name, "no limit", "notes", judged.sentence, judged.colour});
    for (const auto& change : f_.ratingChanges)
        if (change.phase == phase)
            p.clocks.push_back({fmt::format("Then {}", change.to),
                                "in " + formatMinutesSeconds(change.time - f_[phase].start), "model",
                                fmt::format("The time of {} is used up{}.", change.from,
                                            phase == Phase::climb ? " at " + height(change.height) : ""),
                                watch::Colour::normal});
}

void Describer::clocks(Phase phase, PhasePlan& p) const {
    const auto add = [&](std::string what, std::string value, std::string mark, std::string why,
                         watch::Colour colour = watch::Colour::normal) {
        p.clocks.push_back({std::move(what), std::move(value), std::move(mark), std::move(why), colour});
    };
    const double start = f_[phase].start;
    switch (phase) {
    case Phase::walkRound:
        words_.walkClocks(p);
        words_.groundFuel(p);
        break;
    case Phase::start:
        words_.startClocks(p);
        break;
    case Phase::warmUp: {
        add("To run-up minima", f_.minutesToRunUp ? minutes(*f_.minutesToRunUp) : "not today", "model",
            "Oil and heads or coolant at their least, at warm-up rpm.",
            f_.minutesToRunUp ? watch::Colour::normal : watch::Colour::red);
        add("To take-off minima", f_.minutesToTakeOff ? minutes(*f_.minutesToTakeOff) : "needs the run-up", "model",
            "The slowest engine decides; the run-up itself warms the rest.");
        const bool budgeted = f_.groundToAmber.has_value();
        add("Ground, to amber", budgeted ? minutes(*f_.groundToAmber) : "over an hour", "model",
            budgeted ? fmt::format(
                           "At {} with the flaps as set, from the start of the warm-up, the metal passes its normal.",
                           rpm(n_.warmUp.taxiRpm.si()))
                     : "At taxi rpm it stays in its normal range.",
            budgeted && *f_.groundToAmber < f_[Phase::warmUp].duration + f_[Phase::runUp].duration
                ? watch::Colour::amber
                : watch::Colour::normal);
        if (f_.groundToRed)
            add("Ground, to the limit", minutes(*f_.groundToRed), "model", "Shut down before this rather than wait.");
        add("Taxi", minutes(n_.warmUp.taxi.si()), "notes", "To the run-up point.");
        warmUpClocks(p);
        break;
    }
    case Phase::runUp:
        add("Run-up", minutes(n_.phase(phase).duration.value_or(Duration::si(300)).si()), "notes",
            "Idle, exercise, reference, magnetos, idle.");
        if (sheet_->highPowerMost)
            add("At high power", fmt::format("{:.0f} of {:.0f} s", sheet_->highPower, *sheet_->highPowerMost), "notes",
                fmt::format("What the sheet takes above {}, each engine, against the most on the ground.",
                            rpm(n_.runUp.highPowerFrom.si())),
                sheet_->highPower > *sheet_->highPowerMost ? watch::Colour::amber : watch::Colour::normal);
        if (sheet_->read > 0)
            add("Sheet", fmt::format("{} of {} read", sheet_->read, sheet_->cells), "yours",
                sheet_->findings.empty() ? std::string("All that was read is in order.")
                                         : sheet_->findings.front().sentence + " " + sheet_->findings.front().next,
                sheet_->worst);
        add("Standing rpm", rpm(f_.staticRpm.si()), "model",
            "What full take-off boost should show with the brakes held today.");
        if (n_.phase(phase).brakesHold)
            add("Brakes hold", boost(n_.phase(phase).brakesHold->si()), "notes",
                "More than this and she walks over the chocks.");
        if (n_.phase(phase).tailLifts)
            add("Tail lifts above", boost(n_.phase(phase).tailLifts->si()), "notes",
                "Two on the tail, or stay below it.");
        if (s_.flight.hold.si() > 0)
            add("Queue", minutes(s_.flight.hold.si()), "yours", "Each minute of it is on the temperature gauge.");
        break;
    case Phase::takeOff:
        ratingClock(p, phase);
        knockMargin(phase, p);
        add("Power",
            fmt::format("{:.0f} % of rating",
                        100.0 * f_[phase].point.power.si() / std::max(1.0, f_.seaLevelPower.si())),
            "model",
            fmt::format("{} where the standard day at sea level gives {}.",
                        format(f_[phase].point.power.si(), *n_.cockpit.power),
                        format(f_.seaLevelPower.si(), *n_.cockpit.power)));
        add("Standing rpm", rpm(f_.staticRpm.si()), "model",
            "Rpm the propeller lets it reach at this boost with the brakes held.");
        break;
    case Phase::climb: {
        ratingClock(p, phase);
        for (const auto& change : f_.gearChanges)
            add(fmt::format("To {} at {}", gearName(change.to), height(change.height)),
                "in " + formatMinutesSeconds(change.time - start), "model", changeReason(change));
        add("Rate at first", format(roundTo(f_.firstRate.si(), 10 * 0.3048 / 60), verticalSpeedUnit(n_.cockpit)),
            "model", "At today's weight, air and grade.");
        add("Over the ground", format(f_[phase].distance, *n_.cockpit.distance), "model",
            "Still air, from the first reduction to the top.");
        knockMargin(phase, p);
        intercoolerClock(p);
        if (n_.engine.correctorFrom)
            add("Corrector from", height(*n_.engine.correctorFrom), "notes",
                "Above it the carburettor runs rich: weaken until the rpm just falls, then a little back.");
        if (!n_.engine.boostControl && !n_.engine.gears.empty())
            add("Boost falls",
                fmt::format("{} per {}", boost(boostFall(phase) + n_.unitOf(Gauge::boost).offset),
                            n_.cockpit.height == units::metre.spec ? "300 m" : "1,000 ft"),
                "model", "No automatic control: the throttle left alone, boost goes with the air. Keep adding.");
        break;
    }
    case Phase::cruise: {
        ratingClock(p, phase);
        knockMargin(phase, p);
        add("Leaning", engine::weakAllowed(n_, f_[phase].point.power) ? "allowed" : "not at this power", "notes",
            fmt::format("Weak mixture up to {:.0f} % of rated power; this is {:.0f} %.", 100 * n_.engine.weakUpTo,
                        100 * powerShare(phase)));
        add("Burn", format(f_.cruiseFuelFlow, fuelFlowUnit()), "model", "All engines, at this setting.");
        add("True airspeed", speed(f_.cruiseTas), "model",
            "From the power and the drag that the notes' performance lines give.");
        const double endurance =
            f_.cruiseFuelFlow > 0 ? f_.moments[f_[phase].firstMoment].fuel / f_.cruiseFuelFlow : 0.0;
        add("Endurance from here", formatHoursOrMinutes(endurance), "model", "To dry tanks, at this burn.");
        break;
    }
    case Phase::letDown:
        letDownClock(p);
        coolingClocks(p);
        break;
    case Phase::landing:
        add("Circuit", minutes(f_[phase].duration), "notes", "From the end of the let-down to the wheels.");
        break;
    case Phase::stop:
        add("Cool at idle", f_.coolDown > 0 ? minutes(f_.coolDown) : "cool when parked", "model",
            "After the taxi in, until under the figure.");
        add("Scavenge", format(n_.stop.scavenge.si(), *units::second.spec), "notes", "The pumps empty the sump.");
        stopClocks(p);
        break;
    case Phase::writeUp:
        break;
    }
    iceClock(phase, p);
    for (const auto& change : f_.tankChanges)
        if (change.phase == phase)
            add(fmt::format("Fuel to {}, {}", tankName(change.tank), formatHoursMinutes(change.time)),
                change.time - start < 1.0 ? "at once" : "in " + formatHoursMinutes(change.time - start), "model",
                change.ranDry ? "The tank before it is empty." : "By the notes' order.",
                change.ranDry ? watch::Colour::red : watch::Colour::normal);
    for (const auto& c : n_.phase(phase).clocks)
        add(c.what, c.value, "notes", c.why);
}

void Describer::letDownClock(PhasePlan& p) const {
    const auto& phase = f_[Phase::letDown];
    const UnitSpec& unit = verticalSpeedUnit(n_.cockpit);
    const auto rate = [&](double si) { return format(roundTo(si, 10 * 0.3048 / 60), unit); };
    const double asked = n_.phase(Phase::letDown).rate->si();
    const double mean =
        phase.duration > 0
            ? (f_.moments[phase.firstMoment].height - f_.moments[phase.lastMoment].height) / phase.duration
            : asked;
    const double apart = mean / asked;
    std::string why = fmt::format("The notes' rate, {}, and speed rule; the boost follows from the drag.", rate(asked));
    if (apart < 0.95)
        why = fmt::format("{} on the average, under the notes' {}: {}.", rate(mean), rate(asked),
                          f_.letDown.size() > 1 ? "cooling asks for power, and power for time"
                                                : "even with the throttle shut she sinks no faster");
    if (f_.letDownByNotes)
        why += fmt::format(" The notes' {} would give {} at first.", boost(f_.letDownByNotes->boost.si()),
                           rate(f_.letDownByNotes->rate.si()));
    p.clocks.push_back({"Time down", minutes(phase.duration), "model", std::move(why)});
}

double Describer::powerShare(Phase phase) const {
    return f_[phase].point.power.si() / std::max(1.0, engine::ratedPower(n_).si());
}

void Describer::knockMargin(Phase phase, PhasePlan& p) const {
    const PhaseFlown& f = f_[phase];
    if (!(f.boundary.si() > 0))
        return;
    const UnitSpec& unit = n_.unitOf(Gauge::boost);
    const double margin = f.boundary.si() - f.point.manifoldPressure.si();
    p.clocks.push_back({"Knock boundary", format(f.boundary.si(), unit), "model",
                        fmt::format("{} {} what is set, at {} of charge and this mixture.",
                                    format(std::abs(margin) + unit.offset, unit), margin >= 0 ? "above" : "below",
                                    temperature(f.point.chargeTemperature)),
                        margin < -300.0 ? watch::Colour::amber : watch::Colour::normal});
}

void Describer::iceClock(Phase phase, PhasePlan& p) const {
    for (const auto& ice : f_.ice) {
        const auto& a = ice.advice;
        if (ice.phase != phase || a.risk == engine::IceRisk::none)
            continue;
        const UnitSpec& degree = differenceUnit(n_.cockpit);
        // Where it is cured by a step of the run-up or blown through in minutes at full throttle it is told only.
        const bool serious = a.risk == engine::IceRisk::serious && phase >= Phase::cruise;
        p.clocks.push_back(
            {"Carb. ice",
             fmt::format("{}, heat +{}{}", engine::wordOf(a.risk), format(a.heatNeeded, degree),
                         a.position ? fmt::format(" ({:.0f} % hot)", 100 * *a.position) : ""),
             "model",
             fmt::format("{} behind the throttle in moist air. That heat clears it{}; it costs {:.0f} % of "
                         "power{}.",
                         temperature(a.atThrottle), a.withinHeat ? "" : ", more than full hot air gives",
                         100 * std::max(0.0, a.powerCost),
                         n_.engine.gears.empty() ? ""
                                                 : fmt::format(" and takes the margin to knock from {:.0f} to {:.0f} %",
                                                               100 * a.marginBefore, 100 * a.marginAfter)),
             serious ? watch::Colour::amber : watch::Colour::normal});
    }
}

double Describer::boostFall(Phase phase) const {
    const auto& p = f_[phase].point;
    const double up = n_.cockpit.height == units::metre.spec ? 300.0 : 304.8;
    const auto& m = f_.moments[f_[phase].firstMoment];
    const auto here = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m.height))),
               above = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m.height + up)));
    return p.manifoldPressure.si() * (1.0 - above.pressure.si() / here.pressure.si());
}

std::string Describer::changeReason(const GearChange& change) const {
    std::string out = fmt::format("Boost has fallen to {} at full throttle.", boost(change.boostBefore.si()));
    if (change.equalPower) {
        const double apart = change.pressureAltitude.si() - change.equalPower->si();
        const std::string power = format(std::abs(change.gained.si()), *n_.cockpit.power);
        out += fmt::format(
            " Equal power in both gears is at {} pressure altitude, {} {}: {}", height(*change.equalPower),
            height(Length::si(std::abs(apart))), apart >= 0 ? "lower" : "higher",
            apart >= 0 ? fmt::format("the change gains {} each engine.", power)
                       : fmt::format("the change loses {} each engine, which the school that waits keeps.", power));
    }
    return out;
}

} // namespace amber::plan
