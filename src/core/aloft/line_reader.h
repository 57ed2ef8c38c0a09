// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "record/recorder_map.h"
#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace amber::aloft {

/// One line of a recorder, taken.
struct LiveRow {
    std::int64_t at = 0;       ///< ms, by the clock of whoever receives it
    bool past = false;         ///< the device sends what it had kept: no needle of now
    std::vector<float> values; ///< a column of the map each: SI, NaN where nothing was written
};

/// A recorder's lines as they come over a wire: in bits and pieces, with garbage, gaps and clocks set back. Its
/// headings are those of its files (record::mapFor). What cannot be taken is said and passed over; nothing is guessed.
class LineReader {
public:
    explicit LineReader(const TypeNotes& notes, const AirframeFacts* facts = nullptr);

    /// Bytes as they came. @param received ms since 1970
    std::vector<LiveRow> take(std::string_view bytes, std::int64_t received);
    /// The device was taken away or came back: half a line is dropped, the headings stay.
    void parted();
    [[nodiscard]] const record::RecorderMap* map() const { return headed_ ? &map_ : nullptr; }
    /// What was said since it was last asked.
    [[nodiscard]] std::vector<std::string> told();
    [[nodiscard]] std::size_t lines() const { return lines_; }       ///< taken
    [[nodiscard]] std::size_t passedOver() const { return passed_; } ///< that were none

    static constexpr std::size_t longestLine = 16 * 1024; ///< bytes
    static constexpr std::int64_t finest = 100;           ///< ms between two lines that are kept: 10 a second
    static constexpr std::int64_t late = 5000;            ///< ms after which a line is of the past

private:
    struct Raw {
        std::int64_t device = 0;
        std::vector<float> values;
    };
    void line(std::string_view text, std::vector<Raw>& rows);
    bool heading(const std::vector<std::string_view>& cells);
    void tell(const std::string& key, std::string what);

    const TypeNotes* notes_;
    const AirframeFacts* facts_;
    record::RecorderMap map_;
    bool headed_ = false, overflowed_ = false;
    char mark_ = ',';
    std::size_t headings_ = 0, lines_ = 0, passed_ = 0;
    std::string half_;
    std::optional<std::int64_t> offset_, lastDevice_, lastKept_, lastReceived_;
    std::map<std::string, int> said_; ///< how often each complaint came
    std::vector<std::string> told_;
};

} // namespace amber::aloft
