// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "record/recorder_file.h"
#include <cstdint>
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace amber::record {

/// Some minutes of one quantity as a recorder wrote it: 600 samples at most. Never changed once it is kept; its id is
/// made of its content, so that a file that is imported twice is kept once.
struct TraceBlock {
    std::string id, run;
    std::string source;     ///< name of the file
    std::string engine;     ///< position id; empty: of the aircraft
    std::string quantity;   ///< key of a gauge
    std::int64_t start = 0; ///< ms since 1970
    std::int64_t step = 1000;
    std::vector<float> values; ///< SI, NaN: nothing was written
    [[nodiscard]] std::int64_t end() const { return start + step * static_cast<std::int64_t>(values.size()); }
};
inline constexpr std::size_t blockSamples = 600;

/// An id of what is there: the same content, the same id. @param prefix what it is of
std::string contentId(char prefix, const std::vector<std::string>& content);

/// Samples as an array in JSON, null where nothing was written; and back, empty where it is none.
std::string samplesText(const std::vector<float>& values);
std::vector<float> samplesFrom(std::string_view text);
/// What is wrong with a block, in words; empty: nothing.
std::string wrongWith(const TraceBlock& block);

/// A recording as blocks of a run. @param began ms since 1970: of its first line, where the file has no dates
std::vector<TraceBlock> blocksOf(const Recording& recording, const std::string& run, const std::string& source,
                                 std::int64_t began);

/// What the recorder saw at each moment, all engines side by side.
struct RunTrace {
    std::vector<std::int64_t> at;               ///< ms since 1970, rising
    std::vector<std::vector<Readings>> engines; ///< by engine of the notes, then by moment
    [[nodiscard]] bool empty() const { return at.empty(); }
    [[nodiscard]] double seconds(std::size_t i) const { return static_cast<double>(at[i] - at.front()) / 1000.0; }
};
/// Blocks of a run side by side: moments as the finest of them has them; what is of the aircraft stands with every
/// engine. A quantity holds until its next figure, at most five of its steps.
RunTrace traceOf(const std::vector<TraceBlock>& blocks, const TypeNotes& notes);

} // namespace amber::record
