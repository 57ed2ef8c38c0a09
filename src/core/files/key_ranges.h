// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <span>
#include <string>
#include <string_view>

namespace amber {

/// What a figure of a file may plausibly be, and why. Outside it a figure is a slip of the pen or of its unit: reading,
/// typing, dragging, a METAR and the command line all refuse it alike. docs/formats lists the same table
/// (amber-throttle ranges).
struct KeyRange {
    std::string_view key; ///< path in the file; PHASE stands for any phase
    const UnitSpec* unit; ///< of low and high; null: a plain number
    double low, high;     ///< both still allowed
    std::string_view why;

    [[nodiscard]] double lowSi() const { return unit ? low * unit->scale + unit->offset : low; }
    [[nodiscard]] double highSi() const { return unit ? high * unit->scale + unit->offset : high; }
    /// Whether a figure (SI, or the plain number) lies within; never for NaN.
    [[nodiscard]] bool holds(double si) const;
    /// "Between 0.1 and 200 l is expected: the largest piston engines held some 120 l".
    /// @param in another unit of the same dimension to say it in: the one that the figure was written in
    [[nodiscard]] std::string expected(const UnitSpec* in = nullptr) const;
};

/// Whose figures: of type notes, of a sortie, an airframe, a rehearsal or a log, or of the command line's options where
/// neither has them.
enum class FileFormat { notes, sortie, command, airframe, rehearsal, log };

std::span<const KeyRange> keyRanges(FileFormat format);
/// The range of a figure by its path, "limits.oil.climb.max" or "climb.ias"; null when it has none.
const KeyRange* rangeOf(FileFormat format, std::string_view path);
/// The table as Markdown, for docs/formats.
std::string rangesAsMarkdown(FileFormat format);

} // namespace amber
