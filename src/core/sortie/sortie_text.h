// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "sortie/sortie.h"
#include <string>

namespace amber {

/// A sortie as TOML laid over the text it was read from: lines whose figure has not changed stay as they were written,
/// with their comments, their order and their units; changed figures are exchanged in place; what is new is added to
/// its table. Where the old text cannot be followed line by line (a value over several lines, say) the whole is written
/// anew with the old comments on top. Reading the result gives the same sortie as reading writeSortie().
/// @param original the text it was read from; empty or unreadable: written anew
std::string rewriteSortie(const std::string& original, const Sortie& sortie, const Cockpit& cockpit);

} // namespace amber
