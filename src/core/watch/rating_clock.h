// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "watch/judge.h"

namespace amber::watch {

/// Counts the time spent at a time-limited rating (J36) and judges it.
class RatingClock {
public:
    explicit RatingClock(const Rating& rating) : key_(rating.key), name_(rating.name), allowed_(rating.minutes) {}

    void add(Duration time) { used_ = used_ + time; }
    [[nodiscard]] const std::string& key() const { return key_; }
    [[nodiscard]] const std::string& name() const { return name_; }
    [[nodiscard]] Duration used() const { return used_; }
    [[nodiscard]] std::optional<Duration> allowed() const { return allowed_; }
    /// Time left, nothing for a rating without limit.
    [[nodiscard]] std::optional<Duration> left() const;
    /// Amber past four fifths of the time, red past all of it.
    [[nodiscard]] Verdict verdict() const;
    /// The same once it is over: nobody need reduce any more, within its time it is normal.
    [[nodiscard]] Verdict verdictAfterwards() const;

private:
    [[nodiscard]] bool isOver() const;
    std::string key_, name_;
    std::optional<Duration> allowed_;
    Duration used_;
};

/// The rating that an engine runs at: of those whose rpm and boost are not passed, by more than can be read, the one
/// that may be used longest; past all of them, the strongest. Null where there are no ratings.
/// @param rpm rev/s @param boost Pa
const Rating* ratingAt(const std::vector<Rating>& ratings, double rpm, double boost);

/// What is left of a rating's time, s, when it is wanted for an emergency: red when nothing is.
Verdict minutesLeft(double left, const std::string& name);

/// The clocks of all ratings through a whole sortie: what was used at take-off is gone in the climb.
class RatingLedger {
public:
    RatingLedger() = default;
    explicit RatingLedger(const std::vector<Rating>& ratings) : clocks_(ratings.begin(), ratings.end()) {}

    void add(std::string_view key, Duration time);
    /// The clock of a rating; null when there is no such rating.
    [[nodiscard]] const RatingClock* of(std::string_view key) const;
    [[nodiscard]] const std::vector<RatingClock>& clocks() const { return clocks_; }

private:
    std::vector<RatingClock> clocks_;
};

} // namespace amber::watch
