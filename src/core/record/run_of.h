// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/entry.h"
#include "sortie/sortie.h"

namespace amber::record {

/// A run of a sortie: the sortie whole, as it was planned, with the files it names by where they are, so that it can be
/// read from anywhere. Without a registration there is none (`wrongWith` says so).
/// @param sortiePath of the sortie's file, as it was opened; what it names lies beside it @param began ms since 1970
Run runOf(const Sortie& sortie, const std::string& sortiePath, const TypeNotes& notes, std::string id,
          std::int64_t began);

} // namespace amber::record
