// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "watch/judge.h"

namespace amber::watch {

/// Counts the time spent at a time-limited rating (J36). The clock runs while boost or rpm is above every rating of
/// longer permission, that is, above the strongest unlimited one.
class RatingClock {
public:
    explicit RatingClock(const Rating& rating) : rating_(&rating) {}

    void add(Duration time) { used_ = used_ + time; }
    [[nodiscard]] Duration used() const { return used_; }
    /// Time left, nothing for a rating without limit.
    [[nodiscard]] std::optional<Duration> left() const;
    /// Amber past four fifths of the time, red past all of it.
    [[nodiscard]] Judgement judgement() const;
    [[nodiscard]] const Rating& rating() const { return *rating_; }

private:
    const Rating* rating_;
    Duration used_;
};

} // namespace amber::watch
