// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/clock.h"
#include "units/text.h"
#include <charconv>
#include <chrono>
#include <cmath>
#include <ctime>
#include <fmt/format.h>
#include <fstream>

namespace amber::aloft {
namespace {
constexpr std::int64_t sets = 2000; // ms that two clocks drift apart without having been set
std::optional<std::int64_t> wholeNumber(std::string_view text) {
    std::int64_t out = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out);
    return error == std::errc() && end == text.data() + text.size() ? std::optional(out) : std::nullopt;
}
} // namespace

Stamp stampNow() {
    Stamp out;
    std::ifstream("/proc/sys/kernel/random/boot_id") >> out.boot;
    timespec t{};
    clock_gettime(CLOCK_BOOTTIME, &t);
    out.running = static_cast<std::int64_t>(t.tv_sec) * 1000 + t.tv_nsec / 1'000'000;
    out.utc = std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::system_clock::now().time_since_epoch())
                  .count();
    return out;
}

std::string textOf(const Stamp& s) {
    return fmt::format("{} {} {}", s.boot.empty() ? "-" : s.boot, s.running, s.utc);
}

std::optional<Stamp> stampFrom(std::string_view text) {
    const auto first = text.find(' '), second = text.find(' ', first == std::string_view::npos ? first : first + 1);
    if (second == std::string_view::npos)
        return std::nullopt;
    const auto running = wholeNumber(text.substr(first + 1, second - first - 1)),
               utc = wholeNumber(text.substr(second + 1));
    if (!running || !utc)
        return std::nullopt;
    return Stamp{std::string(text.substr(0, first)), *running, *utc};
}

Passed passed(const Stamp& kept, const Stamp& now) {
    const std::int64_t byClock = now.utc - kept.utc;
    if (!kept.boot.empty() && kept.boot != "-" && kept.boot == now.boot && now.running >= kept.running) {
        Passed out{now.running - kept.running, true, {}};
        if (const auto set = byClock - out.milliseconds; std::llabs(set) > sets)
            out.says = fmt::format(
                "The computer's clock was set {} by {} meanwhile: the run goes by the time that really "
                "passed.",
                set > 0 ? "on" : "back", formatMinutesSeconds(static_cast<double>(std::llabs(set)) / 1000.0));
        return out;
    }
    if (byClock < 0)
        return {0, false,
                "The computer was started again and its clock stands before the last entry. Does the run go on from "
                "there?"};
    return {byClock, false,
            fmt::format("The computer was started again. By its clock {} went by since the last entry: is that so?",
                        formatHoursOrMinutes(static_cast<double>(byClock) / 1000.0))};
}

} // namespace amber::aloft
