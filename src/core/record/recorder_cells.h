// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>
#include <optional>
#include <string_view>

namespace amber::record {

/// A figure as recorders write it. @param comma whether a comma parts the decimals; else it parts thousands, three by
/// three
std::optional<double> numberIn(std::string_view cell, bool comma = false);

/// A time as they write it.
struct CellTime {
    std::int64_t at; ///< ms: since 1970 where it is dated, since midnight of a clock, else of whatever began
    bool dated = false, clock = false;
};
/// Seconds, 14:05:07 or 2026-11-29 14:05:07.
std::optional<CellTime> timeIn(std::string_view cell, bool comma = false);

} // namespace amber::record
