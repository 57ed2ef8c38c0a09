// SPDX-License-Identifier: GPL-3.0-or-later
// Preloaded into a program it moves the day by SHIFTED_CLOCK_DAYS: so that no test reads the day, a part of all of them
// is run some weeks and some years ahead (./check; all of them: bench/all). Only the clock of the day: what is measured
// by the other clocks runs on. It asks the kernel itself and allocates nothing, so that it may be there before a
// sanitizer is.
#include <cstdlib>
#include <ctime>
#include <sys/syscall.h>
#include <sys/time.h>
#include <unistd.h>

namespace {
time_t shift() {
    const char* days = std::getenv("SHIFTED_CLOCK_DAYS");
    return days ? std::strtol(days, nullptr, 10) * 86'400 : 0;
}
} // namespace

extern "C" {
__attribute__((visibility("default"))) int clock_gettime(clockid_t clock, timespec* out) noexcept {
    const long code = syscall(SYS_clock_gettime, clock, out);
    if (code == 0 && (clock == CLOCK_REALTIME || clock == CLOCK_REALTIME_COARSE))
        out->tv_sec += shift();
    return static_cast<int>(code);
}
__attribute__((visibility("default"))) int gettimeofday(timeval* out, void*) noexcept {
    timespec now{};
    const int code = clock_gettime(CLOCK_REALTIME, &now);
    out->tv_sec = now.tv_sec;
    out->tv_usec = now.tv_nsec / 1000;
    return code;
}
__attribute__((visibility("default"))) time_t time(time_t* out) noexcept {
    timespec now{};
    clock_gettime(CLOCK_REALTIME, &now);
    if (out)
        *out = now.tv_sec;
    return now.tv_sec;
}
}
