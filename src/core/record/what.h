// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "units/result.h"
#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace amber::record {

/// Something that a log takes figures of: every gauge of the register, and what is counted, timed or filled up.
struct WhatRow {
    std::string_view key, title;
    std::optional<Dimension> dimension; ///< none: a count
    std::optional<Gauge> gauge;         ///< that it is read off
};

/// Unit that its figures are shown in where no cockpit says another; null: a count.
const UnitSpec* unitOf(const WhatRow& row);
/// All of them, gauges first.
std::span<const WhatRow> whatRows();
/// The row of a key; null when there is none. Words ("defect", "note") have no row.
const WhatRow* whatOf(std::string_view key);
/// Whether a key takes words and no figure.
constexpr bool takesWords(std::string_view key) {
    return key == "defect" || key == "note";
}

/// A figure as it is written, "165 °C", "3": SI, or the count. Refused outside the range of the log's figures
/// (keyRanges, FileFormat::log), with the reason. @param assumed the unit of a bare number; null: one must be written
Result<double> readFigure(std::string_view key, std::string_view text, const UnitSpec* assumed = nullptr);
/// "165 °C", "3": in the unit given, or `unitOf`.
std::string figureText(std::string_view key, double si, const UnitSpec* unit = nullptr);

} // namespace amber::record
