// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/type_notes.h"
#include <algorithm>

namespace amber {

// Made, copied and ended in one place: every file that holds one would compile it again.
TypeNotes::TypeNotes() = default;
TypeNotes::TypeNotes(const TypeNotes&) = default;
TypeNotes::TypeNotes(TypeNotes&&) noexcept = default;
TypeNotes& TypeNotes::operator=(const TypeNotes&) = default;
TypeNotes& TypeNotes::operator=(TypeNotes&&) noexcept = default;
TypeNotes::~TypeNotes() = default;

// Made, copied and ended in one place: every file that holds one would compile it again.
PhaseNotes::PhaseNotes() = default;
PhaseNotes::PhaseNotes(const PhaseNotes&) = default;
PhaseNotes::PhaseNotes(PhaseNotes&&) noexcept = default;
PhaseNotes& PhaseNotes::operator=(const PhaseNotes&) = default;
PhaseNotes& PhaseNotes::operator=(PhaseNotes&&) noexcept = default;
PhaseNotes::~PhaseNotes() = default;

// Made, copied and ended in one place: every file that holds one would compile it again.
EngineNotes::EngineNotes() = default;
EngineNotes::EngineNotes(const EngineNotes&) = default;
EngineNotes::EngineNotes(EngineNotes&&) noexcept = default;
EngineNotes& EngineNotes::operator=(const EngineNotes&) = default;
EngineNotes& EngineNotes::operator=(EngineNotes&&) noexcept = default;
EngineNotes::~EngineNotes() = default;

// Made, copied and ended in one place: every file that holds one would compile it again.
StartNotes::StartNotes() = default;
StartNotes::StartNotes(const StartNotes&) = default;
StartNotes::StartNotes(StartNotes&&) noexcept = default;
StartNotes& StartNotes::operator=(const StartNotes&) = default;
StartNotes& StartNotes::operator=(StartNotes&&) noexcept = default;
StartNotes::~StartNotes() = default;

bool Step::called(std::string_view name) const {
    return id == name || std::find(was.begin(), was.end(), name) != was.end();
}

const Rating* TypeNotes::rating(std::string_view key) const {
    for (const auto& r : ratings)
        if (r.key == key)
            return &r;
    return nullptr;
}

bool TypeNotes::isEstimated(Phase in, std::string_view figure) const {
    struct Stands {
        std::string_view figure, path;
    };
    static constexpr Stands elsewhere[] = {{"taxi-rpm", "warming.taxi_rpm"},
                                           {"taxi", "warming.taxi"},
                                           {"oil-run-up", "warming.oil_run_up"},
                                           {"oil-take-off", "warming.oil_take_off"},
                                           {"throttle-back", "gear_change.throttle_back_to"},
                                           {"scavenge", "cooling_down.scavenge"},
                                           {"scavenge-rpm", "cooling_down.scavenge_rpm"},
                                           {"oil-pressure-least", "engine_start.oil_pressure"},
                                           {"oil-pressure-within", "engine_start.oil_pressure_within"},
                                           {"starter-most", "engine_start.crank_most"},
                                           {"order", "engine_start.order"},
                                           {"warm-up-rpm", "warm-up.rpm"},
                                           {"slow-rpm", "start.rpm"}};
    std::string path = std::string(keyOf(in)) + "." + std::string(figure);
    for (const auto& e : elsewhere)
        if (e.figure == figure)
            path = e.path;
    return std::any_of(estimated.begin(), estimated.end(), [&](const Estimate& e) { return e.path == path; });
}

const PhaseNotes& TypeNotes::phase(Phase wanted) const {
    static const PhaseNotes none;
    const auto found = phases.find(wanted);
    return found == phases.end() ? none : found->second;
}

std::optional<std::size_t> TypeNotes::gearIndex(std::string_view wanted) const {
    if (engine.gears.empty() || wanted.empty())
        return 0;
    for (std::size_t i = 0; i < engine.gears.size(); ++i)
        if (engine.gears[i].name == wanted)
            return i;
    return std::nullopt;
}

const UnitSpec& TypeNotes::unitOf(Gauge gauge) const {
    if (const auto found = gauges.find(gauge); found != gauges.end() && found->second.unit)
        return *found->second.unit;
    switch (amber::nameOf(gauge).dimension) {
    case Dimension::length:
        return *cockpit.height;
    case Dimension::speed:
        return *cockpit.speed;
    case Dimension::power:
        return *cockpit.power;
    case Dimension::volume:
        return *cockpit.fuel;
    case Dimension::manifoldPressure:
        return *cockpit.boost;
    case Dimension::temperature:
        return *cockpit.temperature;
    case Dimension::rotation:
        return *units::rpm.spec;
    default:
        return *cockpit.pressure;
    }
}

double HandTurning::bladesAfter(std::optional<Duration> stood) const {
    if (stood && *stood < standing)
        return 0.0;
    double out = blades;
    for (const auto& [after, more] : longer)
        if (!stood || *stood >= after)
            out = more;
    return out;
}

} // namespace amber
