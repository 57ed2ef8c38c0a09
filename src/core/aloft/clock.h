// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace amber::aloft {

/// What the computer's clocks show at one moment.
struct Stamp {
    std::string boot;         ///< id of this start of the computer
    std::int64_t running = 0; ///< ms since it started, sleep included (CLOCK_BOOTTIME; the monotonic clock stops in it)
    std::int64_t utc = 0;     ///< ms since 1970, by a clock that may be set
    bool operator==(const Stamp&) const = default;
};
/// Of this moment. Linux: /proc/sys/kernel/random/boot_id.
Stamp stampNow();
/// "0c3e… 5012345 1764673800000": as it is kept with a run; and back.
std::string textOf(const Stamp& stamp);
std::optional<Stamp> stampFrom(std::string_view text);

/// How much time went by between two of them.
struct Passed {
    std::int64_t milliseconds = 0;
    bool certain = true; ///< else it is asked, with this as the answer that is offered
    std::string says;    ///< the clock was set; the computer was started again; empty: nothing of it
};
/// Within one start of the computer by its running clock, however the other was set and however long it slept. Across a
/// start only the clock tells, and whether it was set meanwhile nobody knows: that is asked.
Passed passed(const Stamp& kept, const Stamp& now);

} // namespace amber::aloft
