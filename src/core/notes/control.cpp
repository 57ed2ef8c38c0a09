// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/control.h"
#include <algorithm>
#include <array>

namespace amber {
namespace {
using enum ControlKind;
constexpr std::array actsRows{
    ActsRow{Acts::throttle, "throttle", "Throttle", lever, true, "quadrant 1", "closed|cracked|open", "aft|forward",
            "closed"},
    ActsRow{Acts::propeller, "propeller", "Propeller", lever, true, "quadrant 2", "coarse|fine", "aft|forward", "fine"},
    ActsRow{Acts::mixture, "mixture", "Mixture", lever, true, "quadrant 3", "cut-off|weak|rich", "aft|forward",
            "cut-off"},
    ActsRow{Acts::gear, "gear", "Blower", lever, true, "quadrant 4", "", "down|up", ""},
    ActsRow{Acts::turbo, "turbo", "Turbo", lever, true, "quadrant 5", "off|in", "aft|forward", "off"},
    ActsRow{Acts::coolingFlap, "cooling-flap", "Cowl flaps", positions, true, "engine panel 1", "shut|open", "down|up",
            "open"},
    ActsRow{Acts::oilCooler, "oil-cooler", "Oil cooler", positions, true, "engine panel 2", "shut|automatic|open",
            "down|up", "automatic"},
    ActsRow{Acts::intercooler, "intercooler", "Intercooler", lever, true, "engine panel 3", "shut|open", "aft|forward",
            "shut"},
    ActsRow{Acts::carburettorAir, "carburettor-air", "Carb. air", lever, true, "quadrant 6", "hot|cold", "aft|forward",
            "cold"},
    ActsRow{Acts::water, "water", "Water", toggle, false, "engine panel 4", "off|on", "down|up", "off"},
    ActsRow{Acts::primer, "primer", "Primer", pumpHandle, false, "engine panel 5", "locked|unlocked", "in|out",
            "locked"},
    ActsRow{Acts::pump, "pump", "Booster pump", toggle, true, "fuel panel 2", "off|on", "down|up", "off"},
    ActsRow{Acts::fuel, "fuel", "Fuel cock", valve, true, "fuel panel 1", "off", "left|right", "off"},
    ActsRow{Acts::crossfeed, "crossfeed", "Crossfeed", valve, false, "fuel panel 3", "shut|open", "left|right", "shut"},
    ActsRow{Acts::transfer, "transfer", "Transfer", toggle, false, "fuel panel 4", "off|on", "down|up", "off"},
    ActsRow{Acts::ignition, "ignition", "Ignition", positions, true, "switch panel 1", "off|left|right|both",
            "left|right", "off"},
    ActsRow{Acts::spark, "spark", "Spark", lever, true, "quadrant 7", "retarded|advanced", "aft|forward", "advanced"},
    ActsRow{Acts::starter, "starter", "Starter", toggle, true, "switch panel 3", "off|on", "down|up", "off"},
    ActsRow{Acts::mesh, "mesh", "Mesh", toggle, true, "switch panel 4", "off|on", "down|up", "off"},
    ActsRow{Acts::boosterCoil, "booster-coil", "Booster coil", push, false, "switch panel 5", "off|on", "out|in",
            "off"},
    ActsRow{Acts::cartridge, "cartridge", "Breech", valve, true, "outside 1", "empty|loaded", "open|shut", "empty"},
    ActsRow{Acts::airValve, "air-valve", "Starting air", valve, true, "switch panel 3", "shut|open", "left|right",
            "shut"},
    ActsRow{Acts::generator, "generator", "Generator", toggle, true, "switch panel 6", "off|on", "down|up", "off"},
    ActsRow{Acts::battery, "battery", "Battery", toggle, false, "switch panel 7", "off|on", "down|up", "off"},
    ActsRow{Acts::cart, "cart", "Cart", valve, false, "outside 2", "away|connected", "out|in", "away"},
    ActsRow{Acts::gyros, "gyros", "Gyros", positions, false, "flying panel 1", "caged|free", "in|out", "caged"},
    ActsRow{Acts::dilution, "dilution", "Oil dilution", toggle, true, "engine panel 6", "off|on", "down|up", "off"},
    ActsRow{Acts::feathering, "feathering", "Feathering", push, true, "feathering panel 1", "normal|feathered",
            "out|in", "normal"},
    ActsRow{Acts::reversing, "reversing", "Reverse", lever, true, "quadrant 8", "locked|reverse", "forward|aft",
            "locked"},
    ActsRow{Acts::wingFlap, "wing-flap", "Wing flaps", lever, false, "flying panel 2", "up|take-off|landing", "up|down",
            "up"},
    ActsRow{Acts::trim, "trim", "Trim", lever, false, "flying panel 3", "neutral|take-off", "aft|forward", "neutral"},
    ActsRow{Acts::wheels, "wheels", "Undercarriage", lever, false, "flying panel 4", "down|up", "down|up", "down"},
    ActsRow{Acts::brakes, "brakes", "Brakes", lever, false, "flying panel 5", "off|held", "off|on", "held"},
    ActsRow{Acts::fireBottle, "fire-bottle", "Fire bottle", push, true, "feathering panel 2", "sealed|fired", "out|in",
            "sealed"},
    ActsRow{Acts::lock, "lock", "Control locks", toggle, false, "outside 3", "out|in", "out|in", "in"},
    ActsRow{Acts::cutOut, "cut-out", "Slow-running cut-out", pumpHandle, true, "engine panel 7", "run|pulled", "in|out",
            "run"},
};
static_assert([] {
    for (std::size_t i = 0; i < actsRows.size(); ++i)
        if (actsRows[i].acts != static_cast<Acts>(i))
            return false;
    return true;
}());
} // namespace

std::span<const ActsRow> actsTable() {
    return actsRows;
}
const ActsRow& rowOf(Acts acts) {
    return actsRows[static_cast<std::size_t>(acts)];
}
std::optional<Acts> actsFromKey(std::string_view key) {
    for (const auto& row : actsRows)
        if (row.key == key)
            return row.acts;
    return std::nullopt;
}

std::string_view keyOf(ControlKind kind) {
    static constexpr std::array<std::string_view, 6> keys{"lever", "positions", "switch", "push", "valve", "pump"};
    return keys[static_cast<std::size_t>(kind)];
}

const ControlPosition* Control::position(std::string_view word) const {
    const auto found =
        std::find_if(positions.begin(), positions.end(), [&](const ControlPosition& p) { return p.is == word; });
    const auto engraved =
        std::find_if(positions.begin(), positions.end(), [&](const ControlPosition& p) { return p.name == word; });
    return found != positions.end() ? &*found : engraved != positions.end() ? &*engraved : nullptr;
}

} // namespace amber
