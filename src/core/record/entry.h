// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/phase.h"
#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace amber::record {

/// One day's flying of an airframe, or a run on the ground: what entries belong to. Never changed once it is kept.
struct Run {
    std::string id;
    std::string airframe; ///< registration
    std::string type;     ///< name of the notes
    std::string title;
    std::int64_t began = 0; ///< ms since 1970, UTC
    std::string sortie;     ///< the sortie whole, as a file of one; empty: none was planned
    bool operator==(const Run&) const = default;
};

/// One thing that was read, done or noted. Never changed: a correction is another that supersedes it.
struct Entry {
    enum class Kind {
        figure,   ///< a needle, a count, a clock
        looked,   ///< it was in its band, nobody wrote the figure down: kept as that
        words,    ///< a defect, a note
        withdrawn ///< what it supersedes should not have been written
    };
    std::string id;
    std::string run;
    std::string supersedes;   ///< id of the entry that it corrects; empty: none
    std::int64_t at = 0;      ///< ms since 1970, UTC, when it was so
    bool rough = false;       ///< about then
    std::int64_t entered = 0; ///< ms since 1970, UTC, when it was typed
    std::string who;
    Phase phase = Phase::writeUp;
    std::string engine; ///< position of the notes; empty: of the aircraft
    std::string what;   ///< a key of whatRows, "defect", "note", a part of an answer, or a key of the notes (isOfNotes)
    Kind kind = Kind::figure;
    double value = 0.0;              ///< SI or a count, of a figure
    std::optional<double> planned{}; ///< SI, what the plan of the run's day expected there
    std::optional<double> lasted{};  ///< s that it was so: a stretch out of its band, by a recorder, the worst of it
    /// Of a defect, a note or an answer; of a figure of the walk-round or the run-up sheet as it was written, with its
    /// unit; how the rpm fell.
    std::string words;
    std::string about; ///< id of the entry that an engineer's answer is about; empty: no answer
    bool operator==(const Entry&) const = default;
};

std::string_view keyOf(Entry::Kind kind);
std::optional<Entry::Kind> kindFromKey(std::string_view key);

/// Gives ids that no other laptop gives. @param now ms since 1970
using Ids = std::function<std::string(std::int64_t now)>;
/// Of the time (48 bits), a count that goes on within it (16) and chance (64): they sort by time.
/// @param chance 64 bits from wherever they are good: `std::random_device` in the program, a seed in tests
Ids idsFrom(std::function<std::uint64_t()> chance);

inline constexpr std::int64_t lastTime = 253'402'300'799'000; ///< ms since 1970: the end of 9999

/// What is wrong with an entry or a run, in words; empty: nothing.
/// What is wrong with text that is to be kept and merged anywhere: over `most` bytes, not UTF-8, or with characters
/// that steer a terminal or that a database refuses (a line's end and a tab are allowed); empty: nothing.
std::string wrongText(std::string_view text, std::size_t most);
std::string wrongWith(const Run& run);
std::string wrongWith(const Entry& entry);

} // namespace amber::record
