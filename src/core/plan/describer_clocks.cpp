// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cool_down.h"
#include "advice/let_down.h"
#include "engine/leaning.h"
#include "loading/envelope.h"
#include "notes/cockpit_units.h"
#include "plan/describer.h"
#include "powerplant/engine.h"
#include "watch/rating_clock.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::plan {

void Describer::intercoolerClock(PhasePlan& p) const {
    if (n_.engine.intercooler <= 0)
        return;
    const flight::Sample& m = f_.samples[f_[Phase::climb].lastSample];
    const auto air = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m[Gauge::height])));
    engine::Demand d{Rotation::si(m[Gauge::rpm]),   ManifoldPressure::si(m[Gauge::boost]), m.gear, air,
                     Speed::si(m[Gauge::airspeed]), f_[Phase::climb].setting.mixture};
    const Temperature open = engine::operate(a_.model(), d).chargeTemperature;
    d.intercooler = 0.0;
    const Temperature shut = engine::operate(a_.model(), d).chargeTemperature;
    p.clocks.push_back({{"intercooler"},
                        "Intercooler",
                        "open at the top",
                        Origin::model,
                        fmt::format("Charge {} with its flap open, {} shut, at the top of climb. Shut it in the "
                                    "let-down: cold charge does not vaporise.",
                                    temperature(open), temperature(shut)),
                        {}});
}

void Describer::coolingClocks(PhasePlan& p) const {
    const auto limit = flight::coolingLimit(n_);
    const bool notes = limit.origin == Origin::notes;
    std::string why =
        notes ? "Fastest fall of a minute by the model, and the limit of the notes."
              : "Fastest fall of a minute by the model. The notes give no most: the figure is ours, a common one.";
    auto verdict = watch::coolingRate(f_.letDownCooling, limit.perMinute, why);
    p.clocks.push_back({{"cools-a-minute", Dimension::temperatureDifference, f_.letDownCooling},
                        "Cools, a minute",
                        fmt::format("{} of {}", degrees(f_.letDownCooling), degrees(limit.perMinute)),
                        notes ? Origin::model : Origin::ours,
                        std::move(why),
                        std::move(verdict)});
    if (f_.letDown.size() > 1)
        p.clocks.push_back({{"power-off-steps", {}, static_cast<double>(f_.letDown.size())},
                            "Power off in",
                            fmt::format("{} steps", f_.letDown.size()),
                            Origin::model,
                            "The page \"schedule\" gives each with its height.",
                            {}});
    if (n_.letDown.clearEvery)
        p.clocks.push_back({{"clear-every", Dimension::duration, n_.letDown.clearEvery->si()},
                            "Clear the engine",
                            "each " + minutes(n_.letDown.clearEvery->si()),
                            Origin::notes,
                            clearing().text + ": it keeps the plugs clean and the heads warm.",
                            {}});
}

void Describer::stopClocks(PhasePlan& p) const {
    const auto cool = advice::coolDown(a_, s_, f_);
    p.clocks.push_back({cool.dilute ? Fact{"dilute-oil", Dimension::duration, *cool.dilute} : Fact{"dilute-oil"},
                        "Dilute the oil",
                        cool.dilute ? fmt::format("{:.0f} min", std::max(1.0, std::round(*cool.dilute / 60))) : "no",
                        cool.dilute ? cool.diluteOrigin : Origin::notes,
                        cool.diluteWhy,
                        {}});
    for (const auto& r : cool.restarts)
        if (r.after == 900.0 || r.after == 3600.0)
            p.clocks.push_back({{fmt::format("prime-again-in-{:.0f}-min", r.after / 60), {}, r.dose},
                                fmt::format("Again in {}", minutes(r.after)),
                                r.dose > 0 ? doses(r.dose) : "no prime",
                                r.origin,
                                r.advice,
                                {}});
}

void Describer::warmUpClocks(PhasePlan& p) const {
    // Which engine decides.
    const flight::EngineWarmth* slow = nullptr;
    for (const auto& w : f_.warmth)
        if (w.readyForRunUp && (!slow || *w.readyForRunUp > *slow->readyForRunUp))
            slow = &w;
    if (slow && f_.warmth.size() > 1)
        for (const auto& position : n_.positions)
            if (position.id == slow->engine)
                p.clocks.push_back({{"decides", {}, *slow->readyForRunUp, slow->engine},
                                    "Slowest",
                                    position.name,
                                    Origin::model,
                                    "The last to reach its minimum temperatures; the others wait for it.",
                                    {}});
    if (f_.oilHoldsRpm)
        p.clocks.push_back({{"oil-too-thick"},
                            "Oil too thick",
                            "slower at first",
                            Origin::model,
                            "At the next step's rpm the cold oil would pass its pressure limit.",
                            {}});
}

void Describer::ratingClock(PhasePlan& p, Phase phase) const {
    const Rating* flown = n_.rating(f_[phase].rating);
    const Rating& rating = flown ? *flown : flight::ratingFor(n_, s_, phase);
    const double used = f_[phase].ratingUsed;
    watch::RatingClock clock(rating);
    clock.add(Duration::si(used));
    const auto judged = clock.verdict();
    p.clocks.push_back({{"rating-used", Dimension::duration, used},
                        rating.name,
                        rating.minutes ? fmt::format("{} of {}", formatMinutesSeconds(used),
                                                     formatMinutesSeconds(rating.minutes->si()))
                                       : "no limit",
                        Origin::notes,
                        judged.sentence(),
                        judged});
    for (const auto& change : f_.ratingChanges)
        if (change.phase == phase)
            p.clocks.push_back({{"rating-steps-down-in", Dimension::duration, change.time - f_[phase].start},
                                fmt::format("Then {}", change.to),
                                "in " + formatMinutesSeconds(change.time - f_[phase].start),
                                Origin::model,
                                fmt::format("The time of {} is used up{}.", change.from,
                                            phase == Phase::climb ? " at " + height(change.height) : ""),
                                {}});
}

void Describer::clocks(Phase phase, PhasePlan& p) const {
    const auto add = [&](Fact fact, std::string what, std::string value, Origin origin, std::string why,
                         watch::Verdict verdict = {}) {
        p.clocks.push_back(
            {std::move(fact), std::move(what), std::move(value), origin, std::move(why), std::move(verdict)});
    };
    const double start = f_[phase].start;
    switch (phase) {
    case Phase::load:
        loadClocks(p);
        break;
    case Phase::walkRound:
        words_.walkClocks(p);
        words_.groundFuel(p);
        break;
    case Phase::start:
        words_.startClocks(p);
        break;
    case Phase::warmUp: {
        const std::string minima = "Oil and heads or coolant at their least, at warm-up rpm.";
        add({"to-run-up-minima", Dimension::duration, f_.minutesToRunUp.value_or(NAN)}, "Warm-up time",
            f_.minutesToRunUp ? minutes(*f_.minutesToRunUp) : "not today", Origin::model, minima,
            watch::unless(f_.minutesToRunUp.has_value(), watch::Rule::runUpMinima, minima));
        add({"to-take-off-minima", Dimension::duration, f_.minutesToTakeOff.value_or(NAN)}, "To take-off minima",
            f_.minutesToTakeOff ? minutes(*f_.minutesToTakeOff) : "needs the run-up", Origin::model,
            "That of the slowest engine; the run-up itself warms the rest.");
        const bool budgeted = f_.groundToAmber.has_value();
        std::string why =
            budgeted ? fmt::format(
                           "At {} with the flaps as set, from the start of the warm-up, the metal passes its normal.",
                           rpm(n_.warmUp.taxiRpm.si()))
                     : "At taxi rpm it stays in its normal range.";
        auto inTime = watch::groundTime(f_.groundToAmber, f_[Phase::warmUp].duration + f_[Phase::runUp].duration, why);
        add({"ground-to-amber", Dimension::duration, f_.groundToAmber.value_or(NAN)}, "Ground, to amber",
            budgeted ? minutes(*f_.groundToAmber) : "over an hour", Origin::model, std::move(why), std::move(inTime));
        if (f_.groundToRed)
            add({"ground-to-limit", Dimension::duration, *f_.groundToRed}, "Ground, to the limit",
                minutes(*f_.groundToRed), Origin::model, "Shut down before this rather than wait.");
        add({"taxi", Dimension::duration, n_.warmUp.taxi.si()}, "Taxi", minutes(n_.warmUp.taxi.si()), Origin::notes,
            "To the run-up point.");
        warmUpClocks(p);
        break;
    }
    case Phase::runUp:
        add({"run-up", Dimension::duration, n_.phase(phase).duration.value_or(Duration::si(300)).si()}, "Run-up",
            minutes(n_.phase(phase).duration.value_or(Duration::si(300)).si()), Origin::notes,
            "Idle, exercise, reference, magnetos, idle.");
        if (sheet_->highPowerMost) {
            std::string why = fmt::format("What the sheet takes above {}, each engine, against the most on the ground.",
                                          rpm(n_.runUp.highPowerFrom.si()));
            auto verdict = sheet_->highPowerVerdict(why);
            add({"high-power", Dimension::duration, sheet_->highPower}, "At high power",
                fmt::format("{:.0f} of {:.0f} s", sheet_->highPower, *sheet_->highPowerMost), Origin::notes,
                std::move(why), std::move(verdict));
        }
        if (sheet_->read > 0)
            add({"sheet-read", {}, static_cast<double>(sheet_->read)}, "Sheet",
                fmt::format("{} of {} read", sheet_->read, sheet_->cells), Origin::entered,
                sheet_->findings.empty()
                    ? std::string("All readings are within limits.")
                    : sheet_->findings.front().verdict.sentence() + " " + sheet_->findings.front().next,
                sheet_->worst);
        add({"standing-rpm", Dimension::rotation, f_.staticRpm.si()}, "Static rpm", rpm(f_.staticRpm.si()),
            Origin::model, "What full take-off boost should show with the brakes held today.");
        if (n_.phase(phase).brakesHold)
            add({"brakes-hold", Dimension::manifoldPressure, n_.phase(phase).brakesHold->si()}, "Brakes hold",
                boost(n_.phase(phase).brakesHold->si()), Origin::notes, "More than this and it walks over the chocks.");
        if (n_.phase(phase).tailLifts)
            add({"tail-lifts", Dimension::manifoldPressure, n_.phase(phase).tailLifts->si()}, "Tail lifts above",
                boost(n_.phase(phase).tailLifts->si()), Origin::notes, "Two on the tail, or stay below it.");
        if (s_.flight.hold.si() > 0)
            add({"queue", Dimension::duration, s_.flight.hold.si()}, "Queue", minutes(s_.flight.hold.si()),
                Origin::entered, "Each minute of it is on the temperature gauge.");
        break;
    case Phase::takeOff:
        ratingClock(p, phase);
        knockMargin(phase, p);
        add({"power", Dimension::power, f_[phase].point.power.si()}, "Power",
            fmt::format("{:.0f} % of rating",
                        100.0 * f_[phase].point.power.si() / std::max(1.0, f_.seaLevelPower.si())),
            Origin::model,
            fmt::format("{} where the standard day at sea level gives {}.",
                        format(f_[phase].point.power.si(), *n_.cockpit.power),
                        format(f_.seaLevelPower.si(), *n_.cockpit.power)));
        add({"standing-rpm", Dimension::rotation, f_.staticRpm.si()}, "Static rpm", rpm(f_.staticRpm.si()),
            Origin::model, "Rpm the propeller lets it reach at this boost with the brakes held.");
        break;
    case Phase::climb: {
        ratingClock(p, phase);
        for (const auto& change : f_.gearChanges)
            add({"change-gear-in", Dimension::duration, change.time - start},
                fmt::format("To {} at {}", gearName(change.to), height(change.height)),
                "in " + formatMinutesSeconds(change.time - start), Origin::model, changeReason(change));
        add({"rate-at-first", Dimension::verticalSpeed, f_.firstRate.si()}, "Rate at first",
            format(roundTo(f_.firstRate.si(), 10 * 0.3048 / 60), verticalSpeedUnit(n_.cockpit)), Origin::model,
            "At today's weight, air and grade.");
        add({"over-the-ground", Dimension::distance, f_[phase].distance}, "Over the ground",
            format(f_[phase].distance, *n_.cockpit.distance), Origin::model,
            knowsWind() ? "With the wind, from the first reduction to the top."
                        : "Still air, from the first reduction to the top.");
        knockMargin(phase, p);
        intercoolerClock(p);
        if (n_.engine.correctorFrom)
            add({"corrector-from", Dimension::length, n_.engine.correctorFrom->si()}, "Corrector from",
                height(*n_.engine.correctorFrom), Origin::notes,
                "Above it the carburettor runs rich: weaken until the rpm just falls, then a little back.");
        if (!n_.engine.boostControl && !n_.engine.gears.empty())
            add({"boost-falls", Dimension::pressure, boostFall(phase)}, "Boost falls",
                fmt::format("{} per {}", boost(boostFall(phase) + n_.unitOf(Gauge::boost).offset),
                            n_.cockpit.height == units::metre.spec ? "300 m" : "1,000 ft"),
                Origin::model, "No automatic control: the throttle left alone, boost goes with the air. Keep adding.");
        break;
    }
    case Phase::cruise: {
        ratingClock(p, phase);
        knockMargin(phase, p);
        add({"share-of-rated-power", {}, powerShare(phase)}, "Leaning",
            engine::weakAllowed(n_, f_[phase].point.power) ? "allowed" : "not at this power", Origin::notes,
            fmt::format("Weak mixture up to {:.0f} % of rated power; this is {:.0f} %.", 100 * n_.engine.weakUpTo,
                        100 * powerShare(phase)));
        add({"burn", Dimension::volumeFlow, f_.cruiseFuelFlow}, "Burn", format(f_.cruiseFuelFlow, fuelFlowUnit()),
            powerplant::originOfFuel(a_), "All engines, at this setting.");
        add({"true-airspeed", Dimension::speed, f_.cruiseTas.si()}, "True airspeed", speed(f_.cruiseTas), Origin::model,
            "From the power and the drag that the notes' performance lines give.");
        const double endurance =
            f_.cruiseFuelFlow > 0 ? f_.samples[f_[phase].firstSample][Gauge::fuel] / f_.cruiseFuelFlow : 0.0;
        add({"endurance", Dimension::duration, endurance}, "Endurance from here", formatHoursOrMinutes(endurance),
            powerplant::originOfFuel(a_), "To dry tanks, at this burn.");
        break;
    }
    case Phase::letDown:
        letDownClock(p);
        coolingClocks(p);
        break;
    case Phase::landing:
        add({"circuit", Dimension::duration, f_[phase].duration}, "Circuit", minutes(f_[phase].duration), Origin::notes,
            "From the end of the let-down to the wheels.");
        break;
    case Phase::stop:
        add({"cool-at-idle", Dimension::duration, f_.coolDown}, "Cool at idle",
            f_.coolDown > 0 ? minutes(f_.coolDown) : "cool when parked", Origin::model,
            "After the taxi in, until under the figure.");
        add({"scavenge", Dimension::duration, n_.stop.scavenge.si()}, "Scavenge",
            format(n_.stop.scavenge.si(), *units::second.spec), Origin::notes, "The pumps empty the sump.");
        stopClocks(p);
        break;
    case Phase::writeUp:
        break;
    }
    iceClock(phase, p);
    for (const auto& change : f_.tankChanges)
        if (change.phase == phase) {
            std::string why = tankReason(change);
            auto verdict = watch::unless(!change.ranDry, watch::Rule::tankDry, why);
            add({(change.kind == flight::TankChange::Kind::feed ? "fuel-to-" : "tank-") +
                     n_.fuel.tanks[static_cast<std::size_t>(change.tank)].id,
                 Dimension::duration, change.time - start},
                fmt::format("{}, {}", tankText(change), formatHoursMinutes(change.time)),
                change.time - start < 1.0 ? "at once" : "in " + formatHoursMinutes(change.time - start), Origin::model,
                std::move(why), std::move(verdict));
        }
    for (const auto& c : n_.phase(phase).clocks)
        add(c.every ? Fact{"every", Dimension::duration, c.every->si()} : Fact{"notes"}, c.what, c.value, Origin::notes,
            c.why);
    if (phase == Phase::takeOff && n_.loading.given) {
        const auto i = f_[phase].firstSample;
        for (const auto& t : loading::trimFor(n_, loading::Sheet(n_, s_).with(f_.contents.at(i))))
            add({"trim", {}, t.trim}, "Trim, flap " + t.flap, t.text, t.held ? Origin::notes : Origin::between,
                t.held ? "The centre of gravity is beyond the notes' table: its end." : "By weight and CG.");
    }
}

void Describer::letDownClock(PhasePlan& p) const {
    const auto& phase = f_[Phase::letDown];
    const UnitSpec& unit = verticalSpeedUnit(n_.cockpit);
    const auto rate = [&](double si) { return format(roundTo(si, 10 * 0.3048 / 60), unit); };
    const double asked = n_.phase(Phase::letDown).rate->si();
    const double mean =
        phase.duration > 0
            ? (f_.samples[phase.firstSample][Gauge::height] - f_.samples[phase.lastSample][Gauge::height]) /
                  phase.duration
            : asked;
    const double apart = mean / asked;
    std::string why = fmt::format("The notes' rate, {}, and speed rule; the boost follows from the drag.", rate(asked));
    if (apart < 0.95)
        why = fmt::format("{} on the average, under the notes' {}: {}.", rate(mean), rate(asked),
                          f_.letDown.size() > 1 ? "cooling asks for power, and power for time"
                                                : "even with the throttle shut it sinks no faster");
    if (f_.letDownByNotes)
        why += fmt::format(" The notes' {} would give {} at first.", boost(f_.letDownByNotes->boost.si()),
                           rate(f_.letDownByNotes->rate.si()));
    p.clocks.push_back({{"time-down", Dimension::duration, phase.duration},
                        "Time down",
                        minutes(phase.duration),
                        Origin::model,
                        std::move(why),
                        {}});
}

double Describer::powerShare(Phase phase) const {
    return f_[phase].point.power.si() / std::max(1.0, engine::ratedPower(n_).si());
}

void Describer::knockMargin(Phase phase, PhasePlan& p) const {
    const flight::PhaseFlown& f = f_[phase];
    if (!f.knock)
        return;
    const UnitSpec& unit = n_.unitOf(Gauge::boost);
    const double margin = f.knock->margin();
    const bool moves = phase == Phase::climb || phase == Phase::letDown;
    std::string why = fmt::format(
        "{} {} what is set, at {} of charge and this mixture{}{}.", format(std::abs(margin) + unit.offset, unit),
        margin >= 0 ? "above" : "below", temperature(f.knock->charge),
        n_.engine.gears.size() > 1 ? fmt::format(", in {} gear", n_.engine.gears[f.knock->gear].name) : "",
        moves ? fmt::format(", at {}: nearest there", format(f.knock->height.si(), *n_.cockpit.height)) : "");
    auto verdict = watch::knockRoom(margin, f.knock->boundary.si(), why);
    p.clocks.push_back({{"knock-boundary", Dimension::manifoldPressure, f.knock->boundary.si()},
                        "Detonation limit",
                        format(f.knock->boundary.si(), unit),
                        Origin::model,
                        std::move(why),
                        std::move(verdict)});
}

std::string_view Describer::heatWhen(Phase phase, bool boosted) {
    switch (phase) {
    case Phase::takeOff:
        return "Hot until lined up, cold to open up.";
    case Phase::climb:
        return boosted ? "Only while it forms, and no more than that: it costs boost." : "Only while it forms.";
    case Phase::cruise:
        return "Before it forms; taken off now and then to see whether it still does.";
    case Phase::letDown:
        return boosted ? "Before the throttle goes back; cold again before power." : "Before the throttle goes back.";
    case Phase::landing:
        return boosted ? "Hot as far as final; cold before power." : "Hot until the power for going round stands.";
    default:
        return "While it idles; cold for every check and figure.";
    }
}

void Describer::iceClock(Phase phase, PhasePlan& p) const {
    for (const auto& ice : f_.ice) {
        const auto& a = ice.advice;
        if (ice.phase != phase || a.risk == engine::IceRisk::none)
            continue;
        const UnitSpec& degree = differenceUnit(n_.cockpit);
        const bool boosted = !n_.engine.gears.empty();
        // Without a needle of its own nobody can set a part, and too little of it only brings the air to where it
        // freezes. Under boost all of it would knock: there the part is set, and the rise of the charge or the fall of
        // boost read.
        const bool part = boosted || n_.gauges.contains(Gauge::carburettorAir);
        const double rise = powerplant::hotAirRise(n_);
        const double share = part ? engine::heatShare(a, rise) : 1.0;
        const double cost =
            std::max(0.0, a.powerCost) * (part ? 1.0 : std::max(1.0, rise / std::max(1.0, a.heatNeeded)));
        const std::string lever = share > 0.95 ? "full hot" : fmt::format("{:.0f} % hot", 100.0 * share);
        std::string why =
            fmt::format("{} {} behind the throttle in moist air. {} {} {:.0f} % of power{}.", heatWhen(phase, boosted),
                        temperature(a.atThrottle),
                        boosted ? "It has cleared when boost has fallen and come up again."
                                : "It has cleared when rpm has fallen and come up again.",
                        a.withinHeat ? "It costs" : "More is wanted than full hot air gives; it costs", 100 * cost,
                        boosted ? fmt::format(", and the detonation margin falls from {:.0f} to {:.0f} %",
                                              100 * a.marginBefore, 100 * a.marginAfter)
                                : "");
        auto verdict = watch::carburettorIce(a.risk == engine::IceRisk::serious, why);
        p.clocks.push_back(
            {{"carburettor-heat", Dimension::temperatureDifference, a.heatNeeded},
             "Carb. ice",
             fmt::format("{}: {}, +{}", engine::wordOf(a.risk), lever, format(part ? a.heatNeeded : rise, degree)),
             Origin::model,
             std::move(why),
             std::move(verdict)});
    }
}

double Describer::boostFall(Phase phase) const {
    const auto& p = f_[phase].point;
    const double up = n_.cockpit.height == units::metre.spec ? 300.0 : 304.8;
    const auto& m = f_.samples[f_[phase].firstSample];
    const auto here = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m[Gauge::height]))),
               above = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m[Gauge::height] + up)));
    return p.manifoldPressure.si() * (1.0 - above.pressure.si() / here.pressure.si());
}

std::string Describer::changeReason(const flight::GearChange& change) const {
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
