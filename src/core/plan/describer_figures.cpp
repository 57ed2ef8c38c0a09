// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cool_down.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "plan/describer.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::plan {

std::string Describer::rpm(double revsPerSecond) const {
    return format(roundTo(revsPerSecond, 10.0 / 60.0), *units::rpm.spec);
}

std::string Describer::fuel(double cubicMetres) const {
    return format(cubicMetres, *n_.cockpit.fuel);
}

std::string Describer::minutes(double seconds) {
    return fmt::format("{:.0f} min", std::max(1.0, std::round(seconds / 60.0)));
}

std::string Describer::gearName(std::size_t gear) const {
    return n_.engine.gears.empty() ? "none" : n_.engine.gears[std::min(gear, n_.engine.gears.size() - 1)].name;
}

std::string Describer::mixtureName(Mixture m) const {
    for (const auto& lever : n_.levers)
        if (lever.id == "mixture")
            for (const auto& position : lever.positions)
                if (position.find(m == Mixture::rich ? "rich" : "weak") != std::string::npos)
                    return position;
    return m == Mixture::rich ? "rich" : "weak";
}

std::string Describer::tankName(int index) const {
    return n_.fuel.tanks[static_cast<std::size_t>(std::max(0, index))].name;
}

Filled Describer::figure(Phase phase, std::string_view name) const {
    Filled out = asPlanned(phase, name);
    if (out.origin == Origin::notes && !n_.estimated.empty() && n_.isEstimated(phase, name))
        out.origin = Origin::ours;
    return out;
}

Filled Describer::asPlanned(Phase phase, std::string_view name) const {
    const flight::PhaseFlown& p = f_[phase];
    const flight::Setting& s = p.setting;
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
        return {flapText(s.coolingFlap), Origin::notes};
    if (name == "ias") {
        if (phase == Phase::climb)
            if (const auto v = flight::speedFor(n_, "climb", weightAt(phase)))
                return {speed(s.ias), v->origin};
        return {speed(s.ias), phase == Phase::cruise ? Origin::model : Origin::notes};
    }
    if (name == "rate")
        return {format(n_.phase(phase).rate->si(), verticalSpeedUnit(n_.cockpit)), Origin::notes};
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
        const auto v = flight::speedFor(n_, name, weightAt(phase));
        return v ? Filled{speed(v->speed), v->origin} : Filled{"not in the notes", Origin::notes};
    }
    if (name == "climb-boost")
        return figure(Phase::climb, "boost");
    if (name == "climb-rpm")
        return figure(Phase::climb, "rpm");
    if (name == "change-height")
        return f_.gearChange() ? Filled{height(f_.gearChange()->height), Origin::model}
                               : Filled{"the top", Origin::model};
    if (name == "throttle-back")
        return {n_.gearChange ? boost(n_.gearChange->throttleBackTo.si()) : "", Origin::notes};
    if (name == "cool-below")
        return {n_.stop.coolBelow ? temperature(*n_.stop.coolBelow) : "", Origin::notes};
    if (name == "scavenge")
        return {format(n_.stop.scavenge.si(), *units::second.spec), Origin::notes};
    if (name == "scavenge-rpm")
        return {rpm(n_.stop.scavengeRpm.si()), Origin::notes};
    if (name == "magneto-limits")
        return {watch::magnetoLimits(n_), n_.runUp.magnetos ? Origin::notes : Origin::practice};
    if (name == "parking")
        return {n_.stop.parking.empty() ? "as it stops" : n_.stop.parking, Origin::notes};
    if (name == "dilution") {
        const auto d = advice::dilutionFor(n_.stop, forecast());
        if (!d)
            return {n_.stop.dilution.empty() ? "none in the notes" : "not needed", Origin::notes};
        return {fmt::format("{:.0f} min{}", std::max(1.0, std::round(d->seconds / 60)),
                            n_.stop.diluteUnder ? ", oil under " + temperature(*n_.stop.diluteUnder) : ""),
                d->origin};
    }
    if (name == "clear")
        return {clearing(), Origin::notes};
    if (const auto f = advice::figureOf(a_, s_, f_, phase, name))
        return {toldFigure(*f), f->origin};
    return {"—", Origin::notes};
}

std::string Describer::toldFigure(const advice::Figure& f) const {
    if (!f.position.empty()) {
        for (const auto& tank : n_.fuel.tanks)
            if (tank.id == f.position)
                return tank.name;
        return f.position;
    }
    if (f.share)
        return flapText(*f.share);
    if (!f.si)
        return "—";
    switch (f.dimension) {
    case Dimension::rotation:
        return rpm(*f.si);
    case Dimension::manifoldPressure:
        return boost(*f.si);
    case Dimension::temperature:
        return temperature(Temperature::si(*f.si));
    case Dimension::pressure:
        return format(*f.si, n_.unitOf(Gauge::oilPressure));
    case Dimension::length:
        return height(Length::si(*f.si));
    case Dimension::speed:
        return speed(Speed::si(*f.si));
    case Dimension::duration:
        return format(std::round(*f.si), *units::second.spec);
    default:
        return "—";
    }
}

std::string Describer::warmUpSteps() const {
    const auto& steps = n_.warmUp.steps;
    if (steps.size() < 2)
        return rpm(f_[Phase::warmUp].setting.rpm.si());
    // Those that come before she taxies; what oil on the way would ask for stays behind the taxi's rpm. One that thick
    // oil held back until the next is not told, nor one that oil warm from the start has passed.
    const auto& flown = f_.warmUpSteps;
    std::string out, later;
    for (const auto& step : steps) {
        const Rotation turns = step.second;
        const bool today = std::any_of(flown.begin(), flown.end(), [&](const auto& s) { return s.second == turns; });
        const bool after = !flown.empty() && turns > flown.back().second;
        if (today && out.empty()) {
            out = rpm(turns.si());
        } else if (today || after) {
            auto& into = today ? out : later;
            into += fmt::format("{}{} from {}{}", into.empty() ? "" : "; ", formatValue(turns.si(), *units::rpm.spec),
                                (out + later).find("oil ") == std::string::npos ? "oil " : "", temperature(step.first));
        }
    }
    return later.empty() ? out : fmt::format("{}; if she stands, {}", out, later);
}

std::string Describer::clearing() const {
    const auto& l = n_.letDown;
    if (!l.clearEvery)
        return "not needed";
    const std::string where = l.clearBoost && n_.gauges.contains(Gauge::boost) ? boost(l.clearBoost->si())
                              : l.clearRpm                                     ? rpm(l.clearRpm->si())
                                                                               : std::string("a little power");
    return fmt::format("{} for {:.0f} s each {}", where, l.clearFor.si(), minutes(l.clearEvery->si()));
}

std::string Describer::degrees(double kelvin) const {
    return format(kelvin, differenceUnit(n_.cockpit));
}

std::string Describer::doses(double dose) const {
    return advice::doseText(dose, n_.start.primer);
}

Origin Describer::rpmOrigin(Phase phase) const {
    return a_.propeller.followsThrottle() && phase >= Phase::takeOff && phase <= Phase::landing ? Origin::model
                                                                                                : Origin::notes;
}

Mass Describer::weightAt(Phase phase) const {
    return Mass::si(f_.samples[f_[phase].firstSample][Gauge::weight]);
}

int Describer::tankOf(const std::string& id) const {
    for (std::size_t i = 0; i < n_.fuel.tanks.size(); ++i)
        if (n_.fuel.tanks[i].id == id)
            return static_cast<int>(i);
    return 0;
}

const UnitSpec& Describer::fuelFlowUnit() const {
    using namespace units::detail;
    return n_.cockpit.fuel == &volumeTable[1]   ? volumeFlowTable[1]
           : n_.cockpit.fuel == &volumeTable[2] ? volumeFlowTable[2]
                                                : volumeFlowTable[0];
}

} // namespace amber::plan
