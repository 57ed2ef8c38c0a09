// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::cockpit {

/// What became of a file of format 1.
struct Migrated {
    std::string text;                ///< of format 2: every line and comment kept
    std::vector<std::string> silent; ///< steps that stay sentences: "start/Order"
    std::size_t steps = 0;           ///< steps in all
};

/// Rewrites notes of format 1 as format 2: levers become controls, steps gain the acts that their sentences can be
/// understood to mean; the drill stays whole, so that nothing is added and nothing vanishes. Nothing, and problems,
/// where the file does not read as format 1.
std::optional<Migrated> migrate(std::string_view text, const std::string& file, Problems& problems);

} // namespace amber::cockpit
