// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include <functional>
#include <string>
#include <vector>

namespace amber::bench {

using Row =
    std::function<void(const std::string& what, const std::string& wanted, const std::string& found, bool holds)>;
/// @param twin with feathering propellers
void transients(const std::vector<flight::LoadedSortie>& fleet, const flight::LoadedSortie& twin, const Row& row);

} // namespace amber::bench
