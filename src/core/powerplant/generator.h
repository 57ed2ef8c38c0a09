// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <cstdint>

namespace amber::powerplant {

/// Counter-based randomness: the same key always gives the same number, so that what hands do never shifts a fault.
/// Mixing by the finalizer of SplitMix64 (Steele, Lea & Flood, OOPSLA 2014), a round for each part of the key.
/// @return 0 … 1, 53 bits
constexpr double uniformAt(std::uint64_t seed, std::uint64_t what, std::uint64_t time) {
    const auto mix = [](std::uint64_t z) {
        z += 0x9e3779b97f4a7c15U;
        z = (z ^ (z >> 30U)) * 0xbf58476d1ce4e5b9U;
        z = (z ^ (z >> 27U)) * 0x94d049bb133111ebU;
        return z ^ (z >> 31U);
    };
    return static_cast<double>(mix(mix(mix(seed) ^ what) ^ time) >> 11U) * 0x1.0p-53;
}

} // namespace amber::powerplant
