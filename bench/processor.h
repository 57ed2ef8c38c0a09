// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <ctime>

namespace amber::bench {

/// s of processor time that this process has used.
inline double processorSeconds() {
    timespec t{};
    clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &t);
    return static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
}

} // namespace amber::bench
