// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <array>
#include <optional>
#include <string_view>

namespace amber {

/// The phases of a sortie, in the order of the phase rail.
enum class Phase { load, walkRound, start, warmUp, runUp, takeOff, climb, cruise, letDown, landing, stop, writeUp };

struct PhaseName {
    Phase phase;
    std::string_view key;   ///< in files and on the command line
    std::string_view title; ///< on screen
};

inline constexpr std::array<PhaseName, 12> phaseNames{{
    {Phase::load, "load", "Load"},
    {Phase::walkRound, "walk-round", "Walk-round"},
    {Phase::start, "start", "Start"},
    {Phase::warmUp, "warm-up", "Warm-up"},
    {Phase::runUp, "run-up", "Run-up"},
    {Phase::takeOff, "take-off", "Take-off"},
    {Phase::climb, "climb", "Climb"},
    {Phase::cruise, "cruise", "Cruise"},
    {Phase::letDown, "let-down", "Let-down"},
    {Phase::landing, "landing", "Landing"},
    {Phase::stop, "stop", "Stop"},
    {Phase::writeUp, "write-up", "Write-up"},
}};
/// The phases a plan computes: all but the write-up.
inline constexpr std::size_t plannedPhases = 11;

constexpr std::string_view keyOf(Phase phase) {
    return phaseNames[static_cast<std::size_t>(phase)].key;
}
constexpr std::string_view titleOf(Phase phase) {
    return phaseNames[static_cast<std::size_t>(phase)].title;
}
constexpr std::optional<Phase> phaseFromKey(std::string_view key) {
    for (const auto& name : phaseNames)
        if (name.key == key)
            return name.phase;
    return std::nullopt;
}

} // namespace amber
