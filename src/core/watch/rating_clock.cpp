// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/rating_clock.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include "watch/maker.h"
#include "watch/rules.h"
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double amberFraction = 0.8;
}

std::optional<Duration> RatingClock::left() const {
    if (!allowed_)
        return std::nullopt;
    return *allowed_ - used_;
}

bool RatingClock::isOver() const {
    return allowed_ && used_.si() > allowed_->si() * (1 + 1e-9);
}

Verdict RatingClock::verdictAfterwards() const {
    return !allowed_ || isOver()
               ? verdict()
               : Maker::normal(fmt::format("{} {} used of {}.", name_, formatMinutesSeconds(used_.si()),
                                           formatMinutesSeconds(allowed_->si())));
}

Verdict RatingClock::verdict() const {
    if (!allowed_)
        return Maker::normal(fmt::format("{} has no time limit in the notes.", name_));
    const double limit = allowed_->si();
    const auto shown = formatMinutesSeconds(used_.si()), of = formatMinutesSeconds(limit);
    if (isOver())
        return Maker::red(fmt::format("{} {} used, past the limit of {}.", name_, shown, of));
    if (used_.si() > amberFraction * limit)
        return Maker::amber(fmt::format("{} {} used of {}: reduce soon.", name_, shown, of));
    return Maker::normal(fmt::format("{} {} used of {}.", name_, shown, of));
}

const Rating* ratingAt(const std::vector<Rating>& ratings, double rpm, double boost) {
    constexpr double width = 0.005; // of an rpm, of a boost: what a needle cannot tell
    const Rating *longest = nullptr, *strongest = nullptr;
    const auto minutes = [](const Rating& r) {
        return r.minutes ? r.minutes->si() : std::numeric_limits<double>::infinity();
    };
    for (const auto& r : ratings) {
        if (rpm <= r.rpm.si() * (1 + width) && (!r.boost || boost <= r.boost->si() * (1 + width)) &&
            (!longest || minutes(r) > minutes(*longest)))
            longest = &r;
        if (!strongest || r.rpm.si() > strongest->rpm.si() ||
            (r.rpm.si() == strongest->rpm.si() && r.boost && strongest->boost && *r.boost > *strongest->boost))
            strongest = &r;
    }
    return longest ? longest : strongest;
}

Verdict minutesLeft(double left, const std::string& name) {
    return unless(left > 0, Rule::ratingTime,
                  left > 0 ? std::string("Minutes of the rating are left.")
                           : fmt::format("The minutes of {} are used.", inSentence(name)));
}

void RatingLedger::add(std::string_view key, Duration time) {
    for (auto& clock : clocks_)
        if (clock.key() == key)
            clock.add(time);
}

const RatingClock* RatingLedger::of(std::string_view key) const {
    for (const auto& clock : clocks_)
        if (clock.key() == key)
            return &clock;
    return nullptr;
}

} // namespace amber::watch
