// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/phase.h"
#include <array>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

/// Figures that a step of the notes leaves to the plan, written in braces: set = "{boost}, then lock".
namespace amber::placeholder {

struct Name {
    std::string_view name;
    std::string_view meaning;
    std::vector<Phase> phases; ///< where it has a value
};

/// The heights from which the climb's rating allows less boost, and the boost that is left, in order: as many steps as
/// a rating may have.
struct Fall {
    std::string_view at, boost;
};
inline constexpr std::array<Fall, 6> fallNames{{{"falls-at", "fallen-boost"},
                                                {"second-falls-at", "second-fallen-boost"},
                                                {"third-falls-at", "third-fallen-boost"},
                                                {"fourth-falls-at", "fourth-fallen-boost"},
                                                {"fifth-falls-at", "fifth-fallen-boost"},
                                                {"sixth-falls-at", "sixth-fallen-boost"}}};

const std::vector<Name>& all();
/// Whether the plan has this figure in this phase.
bool availableIn(std::string_view name, Phase phase);
/// Figures that a drill of an emergency may name (trouble/drill.h fills them).
struct TroubleName {
    std::string_view name, meaning;
};
const std::vector<TroubleName>& allInTrouble();
bool availableInTrouble(std::string_view name);
/// The names in a text, in order. A brace without its partner ends the list with "{".
std::vector<std::string> namesIn(std::string_view text);
/// The text with every {name} replaced by what `value` says.
std::string filled(std::string_view text, const std::function<std::string(std::string_view)>& value);

} // namespace amber::placeholder
