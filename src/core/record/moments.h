// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/phase.h"
#include <array>
#include <cstdint>
#include <optional>
#include <string_view>
#include <vector>

namespace amber::record {

/// The moments of a run that its phases hang on, ms since 1970.
struct Anchors {
    std::vector<std::optional<std::int64_t>> firstFire, stopped; ///< by engine of the notes
    std::optional<std::int64_t> taxi, takeOffPower, climbPower, gearChange, topOfClimb, topOfDescent, touchDown, stop;
};

/// One of them as the log and the pages call it.
struct MomentRow {
    std::string_view key;   ///< of its figure in the log, s from the beginning of the run: "at-take-off"
    std::string_view title; ///< of that figure: "Take-off power, in the run"
    Phase phase;            ///< it is kept with
    std::optional<std::int64_t> Anchors::*at;                          ///< null: one of each engine
    std::vector<std::optional<std::int64_t>> Anchors::*each = nullptr; ///< of those
    bool found = true; ///< a recorder's trace shows it; else somebody has pressed for it

    /// "Take-off power".
    [[nodiscard]] constexpr std::string_view name() const { return title.substr(0, title.find(',')); }
};
/// All of them, in the order of a flight.
inline constexpr std::array<MomentRow, 10> momentRows{{
    {"at-first-fire", "First fire, in the run", Phase::start, nullptr, &Anchors::firstFire},
    {"at-taxi", "Taxi, in the run", Phase::warmUp, &Anchors::taxi, nullptr, false},
    {"at-take-off", "Take-off power, in the run", Phase::takeOff, &Anchors::takeOffPower},
    {"at-climb-power", "Climb power, in the run", Phase::climb, &Anchors::climbPower, nullptr, false},
    {"at-gear-change", "Blower changed, in the run", Phase::climb, &Anchors::gearChange, nullptr, false},
    {"at-top-of-climb", "Top of climb, in the run", Phase::climb, &Anchors::topOfClimb},
    {"at-top-of-descent", "Top of descent, in the run", Phase::letDown, &Anchors::topOfDescent},
    {"at-touch-down", "Touch-down, in the run", Phase::landing, &Anchors::touchDown, nullptr, false},
    {"at-engine-stop", "Stopped, in the run", Phase::stop, nullptr, &Anchors::stopped, false},
    {"at-stop", "Stop, in the run", Phase::stop, &Anchors::stop},
}};
/// The row of a key; null: it is of no moment.
constexpr const MomentRow* momentOf(std::string_view key) {
    for (const auto& row : momentRows)
        if (row.key == key)
            return &row;
    return nullptr;
}
/// Whether it is of one: such a figure tells of the flight and the crew, nothing of an engine.
constexpr bool isMoment(std::string_view key) {
    return momentOf(key) != nullptr;
}

} // namespace amber::record
