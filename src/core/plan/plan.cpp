// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/plan.h"
#include "notes/cockpit_units.h"
#include "plan/describer.h"
#include "units/text.h"
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace amber::plan {

// Made, copied and ended in one place: every file that holds one would compile it again.
Plan::Plan() = default;
Plan::Plan(const Plan&) = default;
Plan::Plan(Plan&&) noexcept = default;
Plan& Plan::operator=(const Plan&) = default;
Plan& Plan::operator=(Plan&&) noexcept = default;
Plan::~Plan() = default;

// Made, copied and ended in one place: every file that holds one would compile it again.
PhasePlan::PhasePlan() = default;
PhasePlan::PhasePlan(const PhasePlan&) = default;
PhasePlan::PhasePlan(PhasePlan&&) noexcept = default;
PhasePlan& PhasePlan::operator=(const PhasePlan&) = default;
PhasePlan& PhasePlan::operator=(PhasePlan&&) noexcept = default;
PhasePlan::~PhasePlan() = default;

Plan makePlan(const powerplant::Aircraft& aircraft, const Sortie& sortie) {
    flight::Flown flown = flight::fly(aircraft, sortie);
    Plan plan = Describer(aircraft, sortie, flown).run();
    plan.flown = std::move(flown);
    return plan;
}

Comparison compareDays(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& today,
                       Phase phase) {
    Comparison out;
    if (!comparesDays(phase))
        return out;
    const TypeNotes& n = aircraft.notes;
    std::vector<flight::Flown> others;
    out.columns = {"today", n.cockpit.temperature == units::fahrenheit.spec ? "+36 °F" : "+20 °C"};
    Sortie hot = sortie;
    hot.day.oat = Temperature::si(std::min(333.0, sortie.day.oat.si() + 20.0));
    others.push_back(flight::fly(aircraft, hot));
    const auto grade = std::find(n.fuel.grades.begin(), n.fuel.grades.end(), sortie.fuelGrade);
    if (grade != n.fuel.grades.end() && n.fuel.grades.size() > 1) {
        Sortie lower = sortie;
        lower.fuelGrade = grade + 1 != n.fuel.grades.end() ? *(grade + 1) : n.fuel.grades.front();
        out.columns.push_back("grade " + lower.fuelGrade);
        others.push_back(flight::fly(aircraft, lower));
    }
    if (phase == Phase::climb) {
        // The next rating down that may be climbed at, beside the one chosen.
        const Rating& now = flight::ratingFor(n, sortie, phase);
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
            others.push_back(flight::fly(aircraft, changed));
        }
    }
    const auto row = [&](std::string what, auto text) {
        Comparison::Row r{std::move(what), {}, {}};
        const auto cell = [&](const flight::Flown& f) {
            auto [shown, verdict] = text(f);
            r.cells.push_back(std::move(shown));
            r.verdicts.push_back(std::move(verdict));
        };
        cell(today);
        for (const auto& f : others)
            cell(f);
        out.rows.push_back(std::move(r));
    };
    using Cell = std::pair<std::string, watch::Verdict>;
    const auto plain = [](std::string text) { return Cell{std::move(text), {}}; };
    const Gauge headOrCoolant = headOrCoolantGauge(n);
    const auto highest = [&](const flight::Flown& f) {
        // As the page's own column: settled in the cruise, and judged as it is read.
        double most = f.samples[f[phase].lastSample].headOrCoolant();
        if (phase != Phase::cruise)
            for (std::size_t i = f[phase].firstSample; i <= f[phase].lastSample; ++i)
                most = std::max(most, f.samples[i].headOrCoolant());
        const UnitSpec& unit = n.unitOf(headOrCoolant);
        const double read = watch::asRead(most, unit);
        return Cell{format(read, unit), watch::judge(n, headOrCoolant, phase, read)};
    };
    if (phase == Phase::takeOff) {
        row("boost", [&](const flight::Flown& f) {
            return plain(format(f[phase].point.manifoldPressure.si(), n.unitOf(Gauge::boost)));
        });
        row("power",
            [&](const flight::Flown& f) { return plain(format(f[phase].point.power.si(), *n.cockpit.power)); });
    }
    if (phase == Phase::climb) {
        row("time", [&](const flight::Flown& f) { return plain(fmt::format("{:.0f} min", f[phase].duration / 60)); });
        row("fuel", [&](const flight::Flown& f) { return plain(format(f[phase].fuel, *n.cockpit.fuel)); });
        row("gear change", [&](const flight::Flown& f) {
            return plain(f.gearChange() ? formatHeight(f.gearChange()->height.si(), *n.cockpit.height) : "none");
        });
    }
    if (phase == Phase::cruise) {
        row("power",
            [&](const flight::Flown& f) { return plain(format(f[phase].point.power.si(), *n.cockpit.power)); });
        row("true airspeed", [&](const flight::Flown& f) { return plain(format(f.cruiseTas.si(), *n.cockpit.speed)); });
        row("fuel", [&](const flight::Flown& f) { return plain(format(f[phase].fuel, *n.cockpit.fuel)); });
    }
    row(fmt::format("{}, {}", n.engine.cooling == Cooling::air ? "heads" : "coolant",
                    phase == Phase::cruise ? "settled" : "highest"),
        highest);
    return out;
}

} // namespace amber::plan
