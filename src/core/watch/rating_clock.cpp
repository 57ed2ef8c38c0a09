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

Verdict RatingClock::verdict() const {
    if (!allowed_)
        return Maker::normal(fmt::format("{} has no time limit in the notes.", name_));
    const double limit = allowed_->si();
    const auto shown = formatMinutesSeconds(used_.si()), of = formatMinutesSeconds(limit);
    if (used_.si() > limit * (1 + 1e-9))
        return Maker::red(fmt::format("{} {} used, past the limit of {}.", name_, shown, of));
    if (used_.si() > amberFraction * limit)
        return Maker::amber(fmt::format("{} {} used of {}: reduce soon.", name_, shown, of));
    return Maker::normal(fmt::format("{} {} used of {}.", name_, shown, of));
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
