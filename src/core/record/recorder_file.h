// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include "record/recorder_map.h"
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace amber::record {

/// One piece of a recording in which time goes evenly.
struct RecordedPiece {
    std::int64_t start = 0; ///< ms: since 1970 where the file has dates, else since its first line
    std::int64_t step = 1000;
    std::vector<std::vector<float>> values; ///< a column of the map each: SI, NaN where nothing was written
    [[nodiscard]] std::size_t samples() const { return values.empty() ? 0 : values.front().size(); }
    [[nodiscard]] std::int64_t end() const { return start + step * static_cast<std::int64_t>(samples()); }
};

/// A recorder's file: CSV with any columns.
struct Recording {
    RecorderMap map;
    std::vector<RecordedPiece> pieces; ///< in the order of the file
    bool dated = false;                ///< times are UTC
    std::size_t lines = 0;
    std::vector<std::string> told; ///< gaps, a clock set back, lines that are no samples: in words
};

/// Reads it. The heading line is the first one in which a time's and some known columns stand; what is before it is
/// passed over. Times are seconds, 14:05:07 or 2026-11-29 14:05:07 (UTC); a clock set back begins a new piece, and so
/// does a gap of more than five seconds and three steps, or of ten steps. Cells between commas, semicolons or tabs; an
/// empty cell, a dash or a word is no figure; figures off the gauge's plausible range (the log's) are none either, and
/// are told.
/// @return nothing where there is no sample, with the reason in problems
std::optional<Recording> readRecorder(std::string_view text, const std::string& file, const TypeNotes& notes,
                                      const AirframeFacts* facts, Problems& problems);

} // namespace amber::record
