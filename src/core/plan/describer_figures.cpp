// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cool_down.h"
#include "loading/distances.h"
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

/// Spoken before the take-off, from today's figures: some twenty words, ten seconds.
std::string Describer::brief() const {
    const flight::PhaseFlown& p = f_[Phase::takeOff];
    const Mass weight = Mass::si(f_.samples[p.firstSample][Gauge::weight]);
    const bool single = n_.engineCount() < 2;
    std::string out = rpm(p.setting.rpm.si());
    if (p.setting.boost)
        out = fmt::format("{}, {}", boost(p.point.manifoldPressure.si()), out);
    const auto liftOff = flight::speedFor(n_, "lift-off", weight), safe = flight::speedFor(n_, "safe-single", weight);
    out += fmt::format(". Before {}: {} closed, stop.", liftOff ? speed(liftOff->speed) : "lift-off",
                       single ? "throttle" : "throttles");
    if (single || !safe)
        return out + " After: nose down, land ahead, no turn back; fuel and ignition off.";
    out += fmt::format(" Under {}: throttles back, land ahead. Over: levers{} up, name, prove, {}", speed(safe->speed),
                       cockpit::acting(n_.controls, Acts::wheels) ? ", wheels" : "",
                       n_.propeller.feathers ? "feather" : "full coarse");
    // Heavier than the notes let it climb on fewer here, what is left is a longer glide.
    for (const auto& d : loading::distancesToday(n_, s_, weight, weight))
        if (d.dimension == Dimension::mass) {
            if (!d.value)
                return out + "; whether it climbs is not known here.";
            if (weight.si() > *d.value)
                return out + "; too heavy to climb: land ahead.";
        }
    return out + ".";
}

Filled Describer::asPlanned(Phase phase, std::string_view name) const {
    const flight::PhaseFlown& p = f_[phase];
    if (name == "climb-boost")
        return figure(Phase::climb, "boost");
    if (name == "climb-rpm")
        return figure(Phase::climb, "rpm");
    if (const auto start = words_.figure(name))
        return *start;
    if (name == "mixture")
        return {mixtureName(p.setting.mixture), Origin::notes};
    if (name == "cycles") {
        const int times = n_.runUp.propeller ? n_.runUp.propeller->cyclesAt(s_.day.oat) : 1;
        return {times == 1 ? "once" : times == 2 ? "twice" : fmt::format("{} times", times), Origin::notes};
    }
    if (name == "magneto-limits")
        return {watch::magnetoLimits(n_), n_.runUp.magnetos ? Origin::notes : Origin::practice};
    if (name == "parking")
        return {n_.stop.parking.empty() ? "as it stops" : n_.stop.parking, Origin::notes};
    if (name == "clear")
        return clearing();
    const auto f = advice::figureOf(a_, s_, f_, phase, name);
    if (name == "boost" && !p.setting.boost)
        return {"full throttle", Origin::notes};
    if (name == "boost" && p.point.fullThrottle &&
        p.point.manifoldPressure.si() < p.setting.boost->si() - 300.0) // what the open throttle gives
        return {fmt::format("full throttle, {}", boost(p.point.manifoldPressure.si())),
                Origin::model,
                {{"boost", Dimension::manifoldPressure, p.point.manifoldPressure.si()}}};
    if (name == "dilution" && (!f || *f->si <= 0))
        return {n_.stop.dilution.empty() ? "none in the notes" : "not needed", Origin::notes};
    if (!f && name == "change-height") // none before the top
        return {"the top", Origin::model};
    if (!f) {
        const bool speed = name == "lift-off" || name == "safe-single" || name == "approach";
        return {name == "gear"           ? "none"
                : name == "metal-run-up" ? "no minimum"
                : speed                  ? "not in the notes"
                                         : "—",
                Origin::notes};
    }
    Filled out{toldFigure(*f), f->origin};
    if (f->si)
        out.facts.push_back({std::string(name), f->dimension, *f->si});
    else if (f->share)
        out.facts.push_back({std::string(name), {}, *f->share});
    if (name == "rpm" && phase == Phase::warmUp) {
        out.text = warmUpSteps();
    } else if (name == "reference-rpm" || name == "static-rpm") {
        out.text = fmt::format("{} ± {}", formatValue(roundTo(*f->si, 10.0 / 60), *units::rpm.spec),
                               format(n_.propeller.referenceTolerance, *units::rpm.spec));
        out.facts.push_back({"tolerance", Dimension::rotation, n_.propeller.referenceTolerance});
    } else if (name == "dilution") {
        out.text = fmt::format("{:.0f} min", std::max(1.0, std::round(*f->si / 60)));
        if (n_.stop.diluteUnder) {
            out.text += ", oil under " + temperature(*n_.stop.diluteUnder);
            out.facts.push_back({"dilute-under", Dimension::temperature, n_.stop.diluteUnder->si()});
        }
    }
    return out;
}

std::string Describer::toldFigure(const advice::Figure& f) const {
    if (!f.position.empty()) {
        for (const auto& tank : n_.fuel.tanks)
            if (tank.id == f.position)
                return tank.name;
        return f.position;
    }
    if (f.share)
        return f.heat ? fmt::format("{:.0f} % hot", 100.0 * *f.share) : flapText(*f.share);
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
    case Dimension::verticalSpeed:
        return format(*f.si, verticalSpeedUnit(n_.cockpit));
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
    return later.empty() ? out : fmt::format("{}; if it stands, {}", out, later);
}

Filled Describer::clearing() const {
    const auto& l = n_.letDown;
    if (!l.clearEvery)
        return {"not needed", Origin::notes};
    Filled out{"a little power", Origin::notes};
    if (l.clearBoost && n_.gauges.contains(Gauge::boost)) {
        out.text = boost(l.clearBoost->si());
        out.facts.push_back({"clear-boost", Dimension::manifoldPressure, l.clearBoost->si()});
    } else if (l.clearRpm) {
        out.text = rpm(l.clearRpm->si());
        out.facts.push_back({"clear-rpm", Dimension::rotation, l.clearRpm->si()});
    }
    out.text += fmt::format(" for {:.0f} s each {}", l.clearFor.si(), minutes(l.clearEvery->si()));
    out.facts.push_back({"clear-for", Dimension::duration, l.clearFor.si()});
    out.facts.push_back({"clear-every", Dimension::duration, l.clearEvery->si()});
    return out;
}

std::string Describer::degrees(double kelvin) const {
    return format(kelvin, differenceUnit(n_.cockpit));
}

std::string Describer::doses(double dose) const {
    return advice::doseText(dose, n_.start.primer);
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
