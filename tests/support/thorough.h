// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdlib>

namespace amber::test {

/// Whether sweeps look at everything (AMBER_THROTTLE_THOROUGH set) or, as in ./check, at an even share of it.
inline bool thorough() {
    return std::getenv("AMBER_THROTTLE_THOROUGH") != nullptr;
}

} // namespace amber::test
