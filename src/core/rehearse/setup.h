// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/phase.h"
#include "notes/problem.h"
#include "notes/type_notes.h"
#include "powerplant/condition.h"
#include "units/result.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::rehearse {

using powerplant::Milliseconds;

/// A fault that may come: when, how bad and how likely.
struct Trap {
    powerplant::Fault fault = powerplant::Fault::oilLost;
    double severity = 1.0;
    int engine = -1;                     ///< index; −1: any one of them, drawn
    std::optional<Phase> phase;          ///< counted from when this phase begins; else from the beginning
    double earliest = 0.0, latest = 0.0; ///< s
    double chance = 1.0;                 ///< 0 … 1
    bool operator==(const Trap&) const = default;
};

/// How a rehearsal is set up: an instructor's file (docs/formats/rehearsal.md), or what the command line says.
struct Setup {
    std::string title;
    Phase from = Phase::walkRound; ///< where it begins: as a careful hand would come to it
    std::uint64_t seed = 1;
    bool ice = true; ///< forms in the carburettors; false: they are kept clear, as a plan reckons
    std::vector<Trap> traps;
    bool operator==(const Setup&) const = default;
};

/// Reads a set-up from TOML text.
std::optional<Setup> readSetup(std::string_view text, const std::string& file, const TypeNotes& notes,
                               Problems& problems);
/// "oil-pump@120", "oil-pump 0.5@12:30", "dead P@climb+40": fault, severity, engine, and when. The reason, where it
/// cannot be read.
Result<Trap> readTrap(std::string_view text, const TypeNotes& notes);

/// One fault that this type can have, somewhere after the beginning, drawn by a seed.
Trap oneByChance(const TypeNotes& notes, Phase from, std::uint64_t seed);

/// What a trap comes to in one rehearsal: by the seed alone, whatever hands do.
struct Drawn {
    bool comes = false;
    std::size_t engine = 0;
    Milliseconds after = 0; ///< its phase's beginning, or the rehearsal's
};
Drawn drawn(const Trap& trap, std::size_t index, std::uint64_t seed, std::size_t engines);

} // namespace amber::rehearse
