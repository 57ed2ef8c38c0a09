// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/rating_clock.h"
#include "units/text.h"
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double amberFraction = 0.8;
}

std::optional<Duration> RatingClock::left() const {
    if (!rating_->minutes)
        return std::nullopt;
    return *rating_->minutes - used_;
}

Judgement RatingClock::judgement() const {
    if (!rating_->minutes)
        return {Colour::normal, fmt::format("{} has no time limit in the notes.", rating_->name)};
    const double limit = rating_->minutes->si();
    const auto shown = formatMinutesSeconds(used_.si()), of = formatMinutesSeconds(limit);
    if (used_.si() > limit * (1 + 1e-9))
        return {Colour::red, fmt::format("{} {} used, past the limit of {}.", rating_->name, shown, of)};
    if (used_.si() > amberFraction * limit)
        return {Colour::amber, fmt::format("{} {} used of {}: reduce soon.", rating_->name, shown, of)};
    return {Colour::normal, fmt::format("{} {} used of {}.", rating_->name, shown, of)};
}

} // namespace amber::watch
