// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "transients.h"

namespace amber::bench {

/// Engines out, going round, gliding and symptoms against hand calculations.
void troubles(const std::vector<flight::LoadedSortie>& fleet, const flight::LoadedSortie& twin, const Row& row);

} // namespace amber::bench
