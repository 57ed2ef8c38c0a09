// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <functional>
#include <string>
#include <string_view>
#include <vector>

/// Small CSV files as people write them: a comma parts cells, quotes hold one together.
namespace amber::csv {

/// Without spaces, tabs and carriage returns at either end.
std::string trimmed(std::string_view text);
/// Every line that has something in it and is no comment (#): its cells, trimmed, and its number from 1.
void eachLine(std::string_view text, const std::function<void(const std::vector<std::string>& cells, int line)>& seen);

} // namespace amber::csv
