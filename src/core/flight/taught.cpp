// SPDX-License-Identifier: GPL-3.0-or-later
#include "flight/taught.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <fmt/format.h>

namespace amber::flight {
namespace {
std::vector<const LearntLine*> accepted(const powerplant::Aircraft& aircraft, const Sortie& sortie, bool ofThisModel) {
    std::vector<const LearntLine*> out;
    const auto* facts = sortie.airframe.facts.get();
    if (!facts || facts->learnt.empty())
        return out;
    const std::string mark = powerplant::markOfModel(aircraft);
    for (const auto& l : facts->learnt)
        if (l.accepted && (l.model == mark) == ofThisModel)
            out.push_back(&l);
    return out;
}
} // namespace

std::vector<const LearntLine*> inForce(const powerplant::Aircraft& aircraft, const Sortie& sortie) {
    return accepted(aircraft, sortie, true);
}
std::vector<const LearntLine*> outdated(const powerplant::Aircraft& aircraft, const Sortie& sortie) {
    return accepted(aircraft, sortie, false);
}

std::shared_ptr<const powerplant::Aircraft> taught(std::shared_ptr<const powerplant::Aircraft> aircraft,
                                                   Sortie& sortie) {
    sortie.airframe.primeFactor.clear();
    const auto lines = inForce(*aircraft, sortie);
    if (lines.empty())
        return aircraft->learnt.empty()
                   ? aircraft
                   : std::make_shared<const powerplant::Aircraft>(powerplant::taught(*aircraft, {}));
    const auto& positions = aircraft->notes.positions;
    std::vector<powerplant::Learnt> learnt(positions.size());
    for (const auto* l : lines)
        for (std::size_t i = 0; i < positions.size(); ++i) {
            if (!l->engine.empty() && l->engine != positions[i].id)
                continue;
            if (l->what == "fuel")
                learnt[i].fuel = std::max(1.0, l->value); // never planned shorter than by the model
            else if (l->what == "prime")
                learnt[i].primeDose = sortie.airframe.primeFactor[positions[i].id] = l->value;
            else if (const auto gauge = gaugeFromKey(l->what); gauge && aircraft->notes.gauges.contains(*gauge))
                learnt[i].offsets.push_back({*gauge, l->value});
        }
    return std::make_shared<const powerplant::Aircraft>(powerplant::taught(*aircraft, std::move(learnt)));
}

std::string wordsOf(const LearntLine& l, const TypeNotes& notes) {
    std::string engine;
    for (const auto& p : notes.positions)
        if (p.id == l.engine && notes.engineCount() > 1)
            engine = p.name + ": ";
    if (l.what == "fuel" || l.what == "prime")
        return fmt::format("{}{} {} % {} {} say", engine, l.what == "fuel" ? "Fuel" : "Primer",
                           formatNumber(100.0 * std::abs(l.value - 1.0), 0), l.value >= 1.0 ? "more than" : "less than",
                           l.what == "fuel" ? "the notes and the model" : "the notes");
    const auto gauge = gaugeFromKey(l.what);
    if (!gauge)
        return l.what;
    const auto& row = nameOf(*gauge);
    const bool pressure = row.dimension == Dimension::pressure;
    const UnitSpec& unit = pressure ? notes.unitOf(*gauge) : *units::deltaCelsius.spec;
    return fmt::format("{}{} reads {} {}", engine, row.title, format(std::abs(l.value), unit),
                       l.value >= 0 ? "more than the model" : "less than the model");
}

} // namespace amber::flight
