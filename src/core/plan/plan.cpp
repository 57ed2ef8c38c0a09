// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/plan.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/leaning.h"
#include "notes/placeholder.h"
#include "notes/standard_schools.h"
#include "plan/cool_down.h"
#include "plan/start_words.h"
#include "units/text.h"
#include "watch/rating_clock.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace amber::plan {
namespace {

struct Filled {
    std::string text;
    Origin origin = Origin::notes;
};

double roundTo(double value, double step) {
    return std::round(value / step) * step;
}

/// Words for one sortie already flown in figures.
class Describer {
public:
    Describer(const Aircraft& aircraft, const Sortie& sortie, const Flown& flown)
        : a_(aircraft), n_(aircraft.notes), s_(sortie), f_(flown), words_(aircraft, sortie, flown) {}

    Plan run() {
        Plan plan;
        plan.walk = words_.walk();
        plan.startInForce = words_.inForce();
        plan.prime = words_.prime();
        plan.startSequence = words_.sequence();
        plan.orders = words_.orders();
        plan.title = s_.title;
        plan.aircraft = n_.name;
        if (!s_.airframe.registration.empty())
            plan.aircraft += fmt::format(" “{}”", s_.airframe.registration);
        for (const auto& v : n_.variants)
            if (v.id == n_.variant)
                plan.aircraft += ", " + v.name;
        plan.route = s_.day.field + (s_.flight.over.empty() ? "" : " → " + s_.flight.over) + " → " + s_.flight.to;
        plan.dayLine = fmt::format("pressure {} · pressure altitude {} · density altitude {} · ISA {}",
                                   format(s_.day.fieldPressure().si(), *units::hPa.spec),
                                   height(s_.day.pressureAltitude()), height(s_.day.densityAltitude()),
                                   fmt::format("{} °C", formatNumber(s_.day.deviation().si(), 0, true)));
        plan.runUpSheet = runUpSheet(n_, s_, f_);
        sheet_ = &plan.runUpSheet;
        for (std::size_t i = 0; i < plannedPhases; ++i)
            plan.phases.push_back(describe(static_cast<Phase>(i)));
        marks(plan);
        plan.flown = f_;
        return plan;
    }

private:
    // ---- figures in the cockpit's units
    [[nodiscard]] std::string height(Length h) const { return formatHeight(h.si(), *n_.cockpit.height); }
    [[nodiscard]] std::string boost(double si) const { return format(si, n_.unitOf(Gauge::boost)); }
    [[nodiscard]] std::string rpm(double revsPerSecond) const {
        return format(roundTo(revsPerSecond, 10.0 / 60.0), *units::rpm.spec);
    }
    [[nodiscard]] std::string speed(Speed v) const { return format(v.si(), *n_.cockpit.speed); }
    /// Less than ten of the gauge's unit is written to a tenth.
    [[nodiscard]] std::string fuel(double cubicMetres) const {
        return format(cubicMetres, *n_.cockpit.fuel, cubicMetres < 9.95 * n_.cockpit.fuel->scale ? 1 : 0);
    }
    [[nodiscard]] std::string temperature(Temperature t) const { return format(t.si(), *n_.cockpit.temperature); }
    [[nodiscard]] static std::string minutes(double seconds) {
        return fmt::format("{:.0f} min", std::max(1.0, std::round(seconds / 60.0)));
    }
    [[nodiscard]] std::string gearName(std::size_t gear) const {
        return n_.engine.gears.empty() ? "none" : n_.engine.gears[std::min(gear, n_.engine.gears.size() - 1)].name;
    }
    [[nodiscard]] std::string mixtureName(Mixture m) const {
        for (const auto& lever : n_.levers)
            if (lever.id == "mixture")
                for (const auto& position : lever.positions)
                    if (position.find(m == Mixture::rich ? "rich" : "weak") != std::string::npos)
                        return position;
        return m == Mixture::rich ? "rich" : "weak";
    }
    [[nodiscard]] std::string tankName(int index) const {
        return n_.fuel.tanks[static_cast<std::size_t>(std::max(0, index))].name;
    }

    // ---- placeholders
    [[nodiscard]] Filled figure(Phase phase, std::string_view name) const {
        const PhaseFlown& p = f_[phase];
        const Setting& s = p.setting;
        if (name == "boost") {
            if (!s.boost)
                return {"full throttle", Origin::notes};
            if (p.point.fullThrottle && p.point.manifoldPressure.si() < s.boost->si() - 300.0)
                return {fmt::format("full throttle, {}", boost(p.point.manifoldPressure.si())), Origin::model};
            return {boost(s.boost->si()), s.boostOrigin};
        }
        if (name == "rpm" && phase == Phase::warmUp)
            return {warmUpSteps(), Origin::notes};
        if (name == "rpm")
            return {rpm(s.rpm.si()), rpmOrigin(phase)};
        if (name == "mixture")
            return {mixtureName(s.mixture), Origin::notes};
        if (name == "gear")
            return {gearName(s.gear), phase == Phase::cruise ? Origin::model : Origin::notes};
        if (name == "flap")
            return {flapText(s.flap), Origin::notes};
        if (name == "ias") {
            if (phase == Phase::climb)
                if (const auto v = speedFor(n_, "climb", weightAt(phase)))
                    return {speed(s.ias), v->origin};
            return {speed(s.ias), phase == Phase::cruise ? Origin::model : Origin::notes};
        }
        if (name == "rate")
            return {format(n_.phase(phase).rate->si(),
                           *(n_.cockpit.height == units::metre.spec ? &units::detail::verticalSpeedTable[1]
                                                                    : units::feetPerMinute.spec)),
                    Origin::notes};
        if (name == "tank")
            return {tankName(phase == Phase::start || phase == Phase::takeOff ? tankOf(n_.fuel.takeOffTank)
                                                                              : tankAtStartOf(phase)),
                    Origin::notes};
        if (const auto start = words_.figure(name))
            return {start->first, start->second};
        if (name == "taxi-rpm")
            return {rpm(n_.warmUp.taxiRpm.si()), Origin::notes};
        if (name == "oil-run-up")
            return {temperature(n_.warmUp.oilRunUp), Origin::notes};
        if (name == "metal-run-up")
            return {n_.warmUp.headRunUp ? temperature(*n_.warmUp.headRunUp) : "no minimum", Origin::notes};
        if (name == "field-boost")
            return {boost(f_.fieldBoost.si()), Origin::model};
        if (name == "reference-rpm")
            return {fmt::format("{} ± {}", formatValue(roundTo(f_.referenceRpm.si(), 10.0 / 60), *units::rpm.spec),
                                format(n_.propeller.referenceTolerance, *units::rpm.spec)),
                    Origin::model};
        if (name == "static-rpm")
            return {fmt::format("{} ± {}", formatValue(roundTo(f_.staticRpm.si(), 10.0 / 60), *units::rpm.spec),
                                format(n_.propeller.referenceTolerance, *units::rpm.spec)),
                    Origin::model};
        if (name == "lift-off" || name == "safe-single" || name == "approach") {
            const auto v = speedFor(n_, name, weightAt(phase));
            return v ? Filled{speed(v->speed), v->origin} : Filled{"not in the notes", Origin::notes};
        }
        if (name == "climb-boost")
            return figure(Phase::climb, "boost");
        if (name == "climb-rpm")
            return figure(Phase::climb, "rpm");
        if (name == "change-height")
            return f_.gearChange() ? Filled{height(f_.gearChange()->height), Origin::model}
                                   : Filled{"the top: no change", Origin::model};
        if (name == "throttle-back")
            return {n_.gearChange ? boost(n_.gearChange->throttleBackTo.si()) : "", Origin::notes};
        if (name == "cool-below")
            return {n_.stop.coolBelow ? temperature(*n_.stop.coolBelow) : "", Origin::notes};
        if (name == "scavenge")
            return {format(n_.stop.scavenge.si(), *units::second.spec), Origin::notes};
        if (name == "scavenge-rpm")
            return {rpm(n_.stop.scavengeRpm.si()), Origin::notes};
        if (name == "magneto-limits")
            return {magnetoLimits(n_), Origin::notes};
        if (name == "parking")
            return {n_.stop.parking.empty() ? "as it stops" : n_.stop.parking, Origin::notes};
        if (name == "dilution") {
            const auto d = dilutionFor(n_.stop, forecast());
            if (!d)
                return {n_.stop.dilution.empty() ? "none in the notes" : "not needed", Origin::notes};
            return {fmt::format("{:.0f} min{}", std::max(1.0, std::round(d->seconds / 60)),
                                n_.stop.diluteUnder ? ", oil under " + temperature(*n_.stop.diluteUnder) : ""),
                    d->origin};
        }
        if (name == "clear")
            return {clearing(), Origin::notes};
        return {"—", Origin::notes};
    }

    /// "800 rpm; 1,000 from oil 12 °C; 1,200 from 30 °C"
    [[nodiscard]] std::string warmUpSteps() const {
        const auto& steps = n_.warmUp.steps;
        if (steps.size() < 2)
            return rpm(f_[Phase::warmUp].setting.rpm.si());
        std::string out = rpm(steps.front().second.si());
        for (std::size_t i = 1; i < steps.size(); ++i)
            out += fmt::format("; {} from {}{}", formatValue(steps[i].second.si(), *units::rpm.spec),
                               i == 1 ? "oil " : "", temperature(steps[i].first));
        return out;
    }
    [[nodiscard]] Temperature forecast() const { return s_.forecast.value_or(s_.day.oat); }
    /// "30 inHg for 10 s each 5 min"
    [[nodiscard]] std::string clearing() const {
        const auto& l = n_.letDown;
        if (!l.clearEvery)
            return "not needed";
        const std::string where = l.clearBoost && n_.gauges.contains(Gauge::boost) ? boost(l.clearBoost->si())
                                  : l.clearRpm                                     ? rpm(l.clearRpm->si())
                                                                                   : std::string("a little power");
        return fmt::format("{} for {:.0f} s each {}", where, l.clearFor.si(), minutes(l.clearEvery->si()));
    }
    [[nodiscard]] std::string degrees(double kelvin) const {
        return format(
            kelvin,
            units::detail::temperatureDifferenceTable[n_.cockpit.temperature == units::fahrenheit.spec ? 1 : 0]);
    }
    /// What the intercooler's flap does to the charge at the end of the climb.
    void intercoolerClock(PhasePlan& p) const {
        if (n_.engine.intercooler <= 0)
            return;
        const Moment& m = f_.moments[f_[Phase::climb].lastMoment];
        const auto air = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m.height)));
        engine::Demand d{Rotation::si(m.rpm), ManifoldPressure::si(m.boost),   m.gear, air,
                         Speed::si(m.speed),  f_[Phase::climb].setting.mixture};
        const Temperature open = engine::operate(a_.model(), d).chargeTemperature;
        d.intercooler = 0.0;
        const Temperature shut = engine::operate(a_.model(), d).chargeTemperature;
        p.clocks.push_back(
            {"Intercooler", "open at the top", "model",
             fmt::format("Charge {} with its flap open, {} shut, at the end of the climb. Shut it in the "
                         "let-down: cold charge does not vaporise.",
                         temperature(open), temperature(shut)),
             watch::Colour::normal});
    }
    /// Let-down: how fast it cools against how fast it may.
    void coolingClocks(PhasePlan& p) const {
        const auto limit = coolingLimit(n_);
        p.clocks.push_back(
            {"Cools, a minute", fmt::format("{} of {}", degrees(f_.letDownCooling), degrees(limit.perMinute)),
             limit.origin == Origin::notes ? "model" : "ours",
             limit.origin == Origin::notes
                 ? "Fastest fall of a minute by the model, and the most the notes allow."
                 : "Fastest fall of a minute by the model. The notes give no most: the figure is ours, a common one.",
             watch::Colour::normal});
        if (f_.letDown.size() > 1)
            p.clocks.push_back({"Power off in", fmt::format("{} steps", f_.letDown.size()), "model",
                                "The page \"schedule\" gives each with its height.", watch::Colour::normal});
        if (n_.letDown.clearEvery)
            p.clocks.push_back({"Clear the engine", "each " + minutes(n_.letDown.clearEvery->si()), "notes",
                                clearing() + ": it keeps the plugs clean and the heads warm.", watch::Colour::normal});
    }
    /// "2 strokes", "1 stroke"
    [[nodiscard]] std::string doses(double dose) const {
        std::string unit = n_.start.primer;
        if (dose < 1.5 && unit.ends_with('s'))
            unit.pop_back();
        return fmt::format("{:.0f} {}", dose, unit);
    }
    void stopClocks(PhasePlan& p) const {
        const auto cool = coolDown(a_, s_, f_);
        p.clocks.push_back(
            {"Dilute the oil",
             cool.dilute ? fmt::format("{:.0f} min", std::max(1.0, std::round(*cool.dilute / 60))) : "no",
             cool.dilute ? std::string(markOf(cool.diluteOrigin)) : "notes", cool.diluteWhy, watch::Colour::normal});
        for (const auto& r : cool.restarts)
            if (r.after == 900.0 || r.after == 3600.0)
                p.clocks.push_back({fmt::format("Again in {}", minutes(r.after)),
                                    r.dose > 0 ? doses(r.dose) : "no prime", std::string(markOf(r.origin)), r.advice,
                                    watch::Colour::normal});
    }
    void warmUpClocks(PhasePlan& p) const {
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

    /// A governor holds what the notes say; without one the propeller decides in the air.
    [[nodiscard]] Origin rpmOrigin(Phase phase) const {
        return a_.propeller.followsThrottle() && phase >= Phase::takeOff && phase <= Phase::landing ? Origin::model
                                                                                                    : Origin::notes;
    }
    [[nodiscard]] Mass weightAt(Phase phase) const {
        const double burnt = f_.fuelAtStart - f_.moments[f_[phase].firstMoment].fuel;
        return Mass::si(s_.weight.si() - burnt * n_.fuel.density);
    }
    [[nodiscard]] int tankOf(const std::string& id) const {
        for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
            if (n_.fuel.tanks[i].id == id)
                return static_cast<int>(i);
        return 0;
    }
    [[nodiscard]] int tankAtStartOf(Phase phase) const { return f_.moments[f_[phase].firstMoment].tank; }

    // ---- one phase
    PhasePlan describe(Phase phase) {
        const PhaseFlown& flown = f_[phase];
        const PhaseNotes& notes = n_.phase(phase);
        PhasePlan p;
        p.phase = phase;
        p.start = flown.start;
        p.duration = flown.duration;
        p.fuel = flown.fuel;
        p.cautions = notes.cautions;
        for (const Step& step : notes.steps)
            p.set.push_back(setLine(phase, step));
        expectations(phase, p);
        clocks(phase, p);
        for (const auto& r : f_.remarks)
            if (r.phase == phase)
                p.remarks.push_back(r);
        words_.remarks(phase, p);
        p.headline = headline(phase, p);
        const auto worse = [&](watch::Colour colour, const std::string& sentence) {
            if (colour > p.worst) {
                p.worst = colour;
                p.worstBecause = sentence;
            }
        };
        for (const auto& e : p.expect)
            worse(e.judgement.colour, e.judgement.sentence);
        for (const auto& c : p.clocks)
            worse(c.colour, c.why);
        for (const auto& r : p.remarks)
            worse(r.colour, r.sentence);
        return p;
    }

    SetLine setLine(Phase phase, const Step& step) const {
        SetLine line;
        line.stepId = step.id;
        line.what = step.what;
        line.why = step.why;
        line.skipped = step.skipped;
        line.job = step.job;
        line.open = step.open;
        for (const auto& lever : n_.levers)
            if (lever.name == step.what) {
                line.sense = lever.sense;
                line.reversed = lever.reversed;
            }
        const auto fill = [&](const std::string& text, Origin& origin) {
            return placeholder::filled(text, [&](std::string_view name) {
                const Filled value = figure(phase, name);
                origin = std::max(origin, value.origin);
                return value.text;
            });
        };
        std::string set = step.set;
        line.schools = step.schools;
        if (const School* school = schools::inForce(step, phase, s_.choices))
            line.school = static_cast<int>(school - step.schools.data());
        if (phase == Phase::start && step.schools.empty() && n_.positions.size() > 1 &&
            step.set.find("{order}") != std::string::npos)
            for (const auto& o : words_.orders()) {
                if (o.wanted)
                    line.school = static_cast<int>(line.schools.size());
                line.schools.push_back(
                    {o.named.name, step.set, o.named.reason, o.named.risk, o.named.order == n_.start.order, {}});
                line.ordersOffered = line.open = true;
            }
        if (line.school >= 0 && !line.ordersOffered)
            set = step.schools[static_cast<std::size_t>(line.school)].set;
        line.value = fill(set, line.origin);
        Origin ignored = Origin::notes;
        line.at = fill(step.at, ignored);
        for (auto& school : line.schools)
            school.set = fill(school.set, ignored);
        return line;
    }

    void expect(PhasePlan& p, Gauge gauge, double value, Origin origin, const char* moment) const {
        const auto found = n_.gauges.find(gauge);
        if (found == n_.gauges.end())
            return;
        ExpectLine line;
        line.gauge = gauge;
        line.title = nameOf(gauge).title;
        // What the needle can show: judged as read, so that the words and the colour agree.
        const UnitSpec& unit = n_.unitOf(gauge);
        const double precision = gauge == Gauge::rpm ? 10.0 / 60.0 : unit.scale * std::pow(10.0, -unit.decimals);
        line.value = unit.offset + roundTo(value - unit.offset, precision);
        line.text = format(line.value, unit);
        line.moment = moment;
        line.origin = origin;
        line.band = found->second.in(p.phase);
        line.scale = scaleOf(found->second, line.value);
        line.judgement = watch::judge(n_, gauge, p.phase, line.value);
        p.expect.push_back(std::move(line));
    }

    static std::pair<double, double> scaleOf(const GaugeNotes& g, double value) {
        if (g.scale)
            return *g.scale;
        double low = value, high = value;
        for (const auto& edge : {g.band.limitLow, g.band.normalLow, g.band.normalHigh, g.band.limitHigh})
            if (edge) {
                low = std::min(low, *edge);
                high = std::max(high, *edge);
            }
        const double margin = std::max(1e-6, 0.15 * (high - low));
        return {low - margin, high + margin};
    }

    void expectations(Phase phase, PhasePlan& p) const {
        if (phase == Phase::walkRound)
            return;
        const PhaseFlown& flown = f_[phase];
        double metalHigh = 0, metalLow = 1e9, oilHigh = 0, chargeHigh = 0, bmepHigh = 0, pressureLow = 1e12,
               pressureHigh = 0, rpmHigh = 0, boostHigh = 0;
        const Moment* last = nullptr;
        for (std::size_t i = flown.firstMoment; i <= flown.lastMoment; ++i) {
            const Moment& m = f_.moments[i];
            if (m.rpm <= 0)
                continue;
            metalHigh = std::max(metalHigh, m.metal);
            metalLow = std::min(metalLow, m.metal);
            oilHigh = std::max(oilHigh, m.oil);
            chargeHigh = std::max(chargeHigh, m.charge);
            bmepHigh = std::max(bmepHigh, m.bmep);
            pressureLow = std::min(pressureLow, m.oilPressure);
            pressureHigh = std::max(pressureHigh, m.oilPressure);
            rpmHigh = std::max(rpmHigh, m.rpm);
            boostHigh = std::max(boostHigh, m.boost);
            last = &m;
        }
        if (!last)
            return;
        const bool descending = phase == Phase::letDown || phase == Phase::landing;
        const bool warming = phase == Phase::start || phase == Phase::warmUp;
        const bool settled = phase == Phase::cruise;
        const Gauge metal = n_.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature;
        const Moment& first = f_.moments[flown.firstMoment];
        expect(p, Gauge::boost,
               phase == Phase::runUp || phase == Phase::cruise ? f_[phase].point.manifoldPressure.si() : boostHigh,
               phase >= Phase::takeOff && phase <= Phase::landing && !f_[phase].point.fullThrottle
                   ? f_[phase].setting.boostOrigin
                   : Origin::model,
               phase == Phase::runUp ? "at the reference" : "highest");
        expect(p, Gauge::rpm, rpmHigh, phase == Phase::runUp ? Origin::model : rpmOrigin(phase), "highest");
        if (descending)
            expect(p, metal, metalLow, Origin::model, "lowest");
        else if (phase == Phase::stop)
            expect(p, metal, last->metal, Origin::model, "when stopped");
        else if (warming)
            expect(p, metal, last->metal, Origin::model, "at the end");
        else if (phase == Phase::takeOff && worstIsFirst(metal, phase, first.metal, metalHigh))
            expect(p, metal, first.metal, Origin::model, "before opening up");
        else
            expect(p, metal, metalHigh, Origin::model, "highest");
        if (phase == Phase::takeOff && worstIsFirst(Gauge::oilTemperature, phase, first.oil, oilHigh))
            expect(p, Gauge::oilTemperature, first.oil, Origin::model, "before opening up");
        else
            expect(p, Gauge::oilTemperature, warming || descending || phase == Phase::stop ? last->oil : oilHigh,
                   Origin::model, warming || descending || phase == Phase::stop ? "at the end" : "highest");
        // Cold oil stands high, idling low: the one nearer its limit is shown.
        const auto pressureColour = [&](double v) { return watch::judge(n_, Gauge::oilPressure, phase, v).colour; };
        if (settled)
            expect(p, Gauge::oilPressure, last->oilPressure, Origin::model, "steady");
        else if (pressureColour(pressureHigh) > pressureColour(pressureLow))
            expect(p, Gauge::oilPressure, pressureHigh, Origin::model, "highest");
        else
            expect(p, Gauge::oilPressure, pressureLow, Origin::model, "lowest");
        expect(p, Gauge::fuelPressure, n_.heat.fuelPressure.si(), Origin::notes, "steady");
        expect(p, Gauge::chargeTemperature, settled ? last->charge : chargeHigh, Origin::model, "highest");
        expect(p, Gauge::torque, settled ? last->bmep : bmepHigh, Origin::model, settled ? "steady" : "highest");
    }

    [[nodiscard]] bool worstIsFirst(Gauge gauge, Phase phase, double first, double highest) const {
        return watch::judge(n_, gauge, phase, first).colour > watch::judge(n_, gauge, phase, highest).colour;
    }

    void ratingClock(PhasePlan& p, const Rating& rating, double used) const {
        watch::RatingClock clock(rating);
        clock.add(Duration::si(used));
        const auto judged = clock.judgement();
        if (rating.minutes)
            p.clocks.push_back(
                {rating.name,
                 fmt::format("{} of {}", formatMinutesSeconds(used), formatMinutesSeconds(rating.minutes->si())),
                 "notes", judged.sentence, judged.colour});
        else
            p.clocks.push_back({rating.name, "no limit", "notes", judged.sentence, judged.colour});
    }

    void clocks(Phase phase, PhasePlan& p) const {
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
                budgeted
                    ? fmt::format(
                          "At {} with the flaps as set, from the start of the warm-up, the metal passes its normal.",
                          rpm(n_.warmUp.taxiRpm.si()))
                    : "At taxi rpm it stays in its normal range.",
                budgeted && *f_.groundToAmber < f_[Phase::warmUp].duration + f_[Phase::runUp].duration
                    ? watch::Colour::amber
                    : watch::Colour::normal);
            if (f_.groundToRed)
                add("Ground, to the limit", minutes(*f_.groundToRed), "model",
                    "Shut down before this rather than wait.");
            add("Taxi", minutes(n_.warmUp.taxi.si()), "notes", "To the run-up point.");
            warmUpClocks(p);
            break;
        }
        case Phase::runUp:
            add("Run-up", minutes(n_.phase(phase).duration.value_or(Duration::si(300)).si()), "notes",
                "Idle, exercise, reference, magnetos, idle.");
            if (sheet_->highPowerMost)
                add("At high power", fmt::format("{:.0f} of {:.0f} s", sheet_->highPower, *sheet_->highPowerMost),
                    "notes",
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
            ratingClock(p, ratingFor(n_, s_, phase), f_[phase].duration);
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
            ratingClock(p, ratingFor(n_, s_, phase), f_[phase].duration);
            for (const auto& change : f_.gearChanges)
                add(fmt::format("To {} at {}", gearName(change.to), height(change.height)),
                    "in " + formatMinutesSeconds(change.time - start), "model", changeReason(change));
            add("Rate at first",
                format(roundTo(f_.firstRate.si(), 10 * 0.3048 / 60),
                       *(n_.cockpit.height == units::metre.spec ? &units::detail::verticalSpeedTable[1]
                                                                : units::feetPerMinute.spec)),
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
            iceClock(phase, p);
            break;
        }
        case Phase::cruise: {
            ratingClock(p, ratingFor(n_, s_, phase), f_[phase].duration);
            knockMargin(phase, p);
            iceClock(phase, p);
            add("Leaning", engine::weakAllowed(n_, f_[phase].point.power) ? "allowed" : "not at this power", "notes",
                fmt::format("Weak mixture up to {:.0f} % of the highest power; this is {:.0f} %.",
                            100 * n_.engine.weakUpTo, 100 * powerShare(phase)));
            add("Burn", format(f_.cruiseFuelFlow, fuelFlowUnit()), "model", "All engines, at this setting.");
            add("True airspeed", speed(f_.cruiseTas), "model",
                "From the power and the drag that the notes' performance lines give.");
            const double endurance =
                f_.cruiseFuelFlow > 0 ? f_.moments[f_[phase].firstMoment].fuel / f_.cruiseFuelFlow : 0.0;
            add("Endurance from here", formatHoursMinutes(endurance) + " h", "model", "To dry tanks, at this burn.");
            break;
        }
        case Phase::letDown:
            add("Time down", minutes(f_[phase].duration), "model", "At the notes' rate.");
            coolingClocks(p);
            iceClock(phase, p);
            break;
        case Phase::landing:
            add("Circuit", minutes(f_[phase].duration), "notes", "From the end of the let-down to the wheels.");
            iceClock(phase, p);
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
        for (const auto& change : f_.tankChanges)
            if (change.phase == phase)
                add(fmt::format("Fuel to {}, {}", tankName(change.tank), formatHoursMinutes(change.time)),
                    change.time - start < 1.0 ? "at once" : "in " + formatHoursMinutes(change.time - start), "model",
                    change.ranDry ? "The tank before it is empty." : "By the notes' order.",
                    change.ranDry ? watch::Colour::red : watch::Colour::normal);
        for (const auto& c : n_.phase(phase).clocks)
            add(c.what, c.value, "notes", c.why);
    }

    [[nodiscard]] double powerShare(Phase phase) const {
        double most = 1.0;
        for (const auto& rating : n_.ratings)
            for (const auto& line : rating.lines)
                if (line.power)
                    most = std::max(most, line.power->si());
        return f_[phase].point.power.si() / most;
    }

    void knockMargin(Phase phase, PhasePlan& p) const {
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

    void iceClock(Phase phase, PhasePlan& p) const {
        for (const auto& ice : f_.ice) {
            const auto& a = ice.advice;
            if (ice.phase != phase || a.risk == engine::IceRisk::none)
                continue;
            const UnitSpec& degree = n_.cockpit.temperature == units::fahrenheit.spec
                                         ? units::detail::temperatureDifferenceTable[1]
                                         : units::detail::temperatureDifferenceTable[0];
            const bool serious = a.risk == engine::IceRisk::serious;
            p.clocks.push_back(
                {"Carb. ice",
                 fmt::format("{}, heat +{}", serious ? "serious" : "possible", format(a.heatNeeded, degree)), "model",
                 fmt::format("{} behind the throttle in moist air. That heat clears the band{}; it costs {:.0f} % of "
                             "power{}.",
                             temperature(a.atThrottle), a.withinHeat ? "" : ", more than full hot air gives",
                             100 * std::max(0.0, a.powerCost),
                             n_.engine.gears.empty()
                                 ? ""
                                 : fmt::format(" and takes the margin to knock from {:.0f} to {:.0f} %",
                                               100 * a.marginBefore, 100 * a.marginAfter)),
                 serious ? watch::Colour::amber : watch::Colour::normal});
        }
    }

    /// Loss of boost over a thousand feet (300 m) with the throttle left where it is.
    [[nodiscard]] double boostFall(Phase phase) const {
        const auto& p = f_[phase].point;
        const double up = n_.cockpit.height == units::metre.spec ? 300.0 : 304.8;
        const auto& m = f_.moments[f_[phase].firstMoment];
        const auto here = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m.height))),
                   above = s_.day.at(s_.day.pressureAltitudeOf(Length::si(m.height + up)));
        return p.manifoldPressure.si() * (1.0 - above.pressure.si() / here.pressure.si());
    }

    [[nodiscard]] std::string changeReason(const GearChange& change) const {
        std::string out = fmt::format("Boost has fallen to {} at full throttle.", boost(change.boostBefore.si()));
        if (change.equalPower) {
            const double apart = change.pressureAltitude.si() - change.equalPower->si();
            out += fmt::format(" Equal power in both gears is at {} pressure altitude, {} {}: {}",
                               height(*change.equalPower), height(Length::si(std::abs(apart))),
                               apart >= 0 ? "lower" : "higher",
                               apart >= 0 ? "the notes wait, for the higher gear heats the charge and loads the clutch."
                                          : "the notes change a little before it.");
        }
        return out;
    }

    [[nodiscard]] const UnitSpec& fuelFlowUnit() const {
        using namespace units::detail;
        return n_.cockpit.fuel == &volumeTable[1]   ? volumeFlowTable[1]
               : n_.cockpit.fuel == &volumeTable[2] ? volumeFlowTable[2]
                                                    : volumeFlowTable[0];
    }

    [[nodiscard]] std::string headline(Phase phase, const PhasePlan& p) const {
        const auto burnt = fuel(p.fuel);
        switch (phase) {
        case Phase::walkRound:
            return fmt::format("{} · engines cold at {}", minutes(p.duration), temperature(s_.day.oat));
        case Phase::start:
            return fmt::format("{} · {}", words_.orderText(), minutes(p.duration));
        case Phase::warmUp:
        case Phase::stop:
        case Phase::runUp:
            return fmt::format("{} · {}", minutes(p.duration), burnt);
        case Phase::takeOff:
            return fmt::format("grade {} · {} · {}", s_.fuelGrade, height(Length::si(s_.day.elevation.si())), burnt);
        case Phase::climb: {
            const auto top = height(Length::si(f_.moments[f_[phase].lastMoment].height));
            return fmt::format("to {} · {} · {} · {}", top, ratingFor(n_, s_, phase).name, minutes(p.duration), burnt);
        }
        case Phase::cruise:
            return fmt::format("at {} · {} · {} h · {}", height(Length::si(f_.moments[f_[phase].firstMoment].height)),
                               ratingFor(n_, s_, phase).name, formatHoursMinutes(p.duration), burnt);
        case Phase::letDown:
        case Phase::landing:
            return fmt::format("{} · {} · {}", s_.flight.to, minutes(p.duration), burnt);
        case Phase::writeUp:
            break;
        }
        return {};
    }

    void marks(Plan& plan) const {
        const auto add = [&](double time, Phase phase, std::string text, watch::Colour colour = watch::Colour::normal) {
            plan.marks.push_back({time, phase, std::move(text), colour});
        };
        add(f_[Phase::start].start, Phase::start, "Start");
        add(f_[Phase::runUp].start, Phase::runUp, "Run-up");
        add(f_[Phase::takeOff].start, Phase::takeOff, "Take-off");
        add(f_[Phase::climb].start, Phase::climb, "First reduction");
        for (const auto& change : f_.gearChanges)
            add(change.time, Phase::climb, "Blower to " + gearName(change.to));
        for (const auto& c : f_.tankChanges)
            add(c.time, c.phase, "Fuel to " + tankName(c.tank), c.ranDry ? watch::Colour::red : watch::Colour::normal);
        add(f_[Phase::letDown].start, Phase::letDown, "Let-down");
        add(f_[Phase::stop].start, Phase::stop, "Cool and stop");
        for (const auto& p : plan.phases)
            if (p.worst != watch::Colour::normal)
                add(p.start, p.phase, p.worstBecause, p.worst);
        std::stable_sort(plan.marks.begin(), plan.marks.end(),
                         [](const Mark& a, const Mark& b) { return a.time < b.time; });
    }

    const Aircraft& a_;
    const TypeNotes& n_;
    const Sortie& s_;
    const Flown& f_;
    const RunUpSheet* sheet_ = nullptr;
    StartWords words_;
};
} // namespace

std::string flapText(double opening) {
    struct Word {
        double value;
        const char* text;
    };
    static constexpr std::array<Word, 7> words{{{0.0, "shut"},
                                                {0.25, "one quarter"},
                                                {1.0 / 3, "one third"},
                                                {0.5, "half"},
                                                {2.0 / 3, "two thirds"},
                                                {0.75, "three quarters"},
                                                {1.0, "open"}}};
    for (const auto& w : words)
        if (std::abs(opening - w.value) < 0.012)
            return w.text;
    return fmt::format("{:.0f} % open", 100 * opening);
}

Plan makePlan(const Aircraft& aircraft, const Sortie& sortie) {
    const Flown flown = fly(aircraft, sortie);
    return Describer(aircraft, sortie, flown).run();
}

Comparison compareDays(const Aircraft& aircraft, const Sortie& sortie, const Flown& today, Phase phase) {
    Comparison out;
    if (phase != Phase::takeOff && phase != Phase::climb && phase != Phase::cruise)
        return out;
    const TypeNotes& n = aircraft.notes;
    std::vector<Flown> others;
    out.columns = {"today", n.cockpit.temperature == units::fahrenheit.spec ? "+36 °F" : "+20 °C"};
    Sortie hot = sortie;
    hot.day.oat = Temperature::si(std::min(333.0, sortie.day.oat.si() + 20.0));
    others.push_back(fly(aircraft, hot));
    const auto grade = std::find(n.fuel.grades.begin(), n.fuel.grades.end(), sortie.fuelGrade);
    if (grade != n.fuel.grades.end() && n.fuel.grades.size() > 1) {
        Sortie lower = sortie;
        lower.fuelGrade = grade + 1 != n.fuel.grades.end() ? *(grade + 1) : n.fuel.grades.front();
        out.columns.push_back("grade " + lower.fuelGrade);
        others.push_back(fly(aircraft, lower));
    }
    if (phase == Phase::climb) {
        // The next rating down that may be climbed at, beside the one chosen.
        const Rating& now = ratingFor(n, sortie, phase);
        const Rating* other = nullptr;
        for (const auto& r : n.ratings)
            if (r.key != now.key && r.mixture == Mixture::rich && !r.water && (r.rpm < now.rpm || !other) &&
                (!other || std::abs(r.rpm.si() - now.rpm.si()) < std::abs(other->rpm.si() - now.rpm.si())))
                other = &r;
        if (other) {
            Sortie changed = sortie;
            changed.flight.climbRating = other->key;
            // A long name is told up to its "and": the column is narrow.
            out.columns.push_back(other->name.substr(0, std::min(other->name.find(" and "), other->name.find(','))));
            others.push_back(fly(aircraft, changed));
        }
    }
    const auto row = [&](std::string what, auto text) {
        Comparison::Row r{std::move(what), {}, {}};
        const auto cell = [&](const Flown& f) {
            auto [shown, colour] = text(f);
            r.cells.push_back(std::move(shown));
            r.colours.push_back(colour);
        };
        cell(today);
        for (const auto& f : others)
            cell(f);
        out.rows.push_back(std::move(r));
    };
    using Cell = std::pair<std::string, watch::Colour>;
    const auto plain = [](std::string text) { return Cell{std::move(text), watch::Colour::normal}; };
    const Gauge metal = n.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature;
    const auto highest = [&](const Flown& f) {
        double most = 0.0;
        for (std::size_t i = f[phase].firstMoment; i <= f[phase].lastMoment; ++i)
            most = std::max(most, f.moments[i].metal);
        return Cell{format(most, n.unitOf(metal)), watch::judge(n, metal, phase, most).colour};
    };
    if (phase == Phase::takeOff) {
        row("boost", [&](const Flown& f) {
            return plain(format(f[phase].point.manifoldPressure.si(), n.unitOf(Gauge::boost)));
        });
        row("power", [&](const Flown& f) { return plain(format(f[phase].point.power.si(), *n.cockpit.power)); });
    }
    if (phase == Phase::climb) {
        row("time", [&](const Flown& f) { return plain(fmt::format("{:.0f} min", f[phase].duration / 60)); });
        row("fuel", [&](const Flown& f) { return plain(format(f[phase].fuel, *n.cockpit.fuel)); });
        row("gear change", [&](const Flown& f) {
            return plain(f.gearChange() ? formatHeight(f.gearChange()->height.si(), *n.cockpit.height) : "none");
        });
    }
    if (phase == Phase::cruise) {
        row("power", [&](const Flown& f) { return plain(format(f[phase].point.power.si(), *n.cockpit.power)); });
        row("true airspeed", [&](const Flown& f) { return plain(format(f.cruiseTas.si(), *n.cockpit.speed)); });
        row("fuel", [&](const Flown& f) { return plain(format(f[phase].fuel, *n.cockpit.fuel)); });
    }
    row(n.engine.cooling == Cooling::air ? "heads, highest" : "coolant, highest", highest);
    return out;
}

} // namespace amber::plan
