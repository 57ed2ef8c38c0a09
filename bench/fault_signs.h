// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include "notes/sign.h"
#include "powerplant/fault.h"
#include <string>
#include <vector>

namespace amber::bench {

/// A setting of the air, as lines of a script, and how long it is watched, s.
struct Where {
    std::string setting;
    double seconds = 240;
};
/// Cruise, climb and low power of the twin.
const std::vector<Where>& threeSettings();

/// What a fault on the first engine shows beside its sound sister, read to half a needle's width by stepping both: each
/// needle's way (fast: most of it in twelve seconds), what is seen, heard, felt and smelt.
std::vector<Sign> signature(const flight::LoadedSortie& loaded, powerplant::Fault fault, const Where& where);

/// Faults that show aloft, with what a crew knows besides: the air it flies in, what trying shows.
struct Shown {
    powerplant::Fault fault;
    std::vector<Sign> besides;
};
const std::vector<Shown>& aloftFaults();
/// Pairs that cannot be told apart aloft by what is seen alone: "unsure, the worst assumed".
bool listedPair(powerplant::Fault a, powerplant::Fault b);

/// One question asked of the ranking: what was seen, with one sign withheld or none, and where the cause came.
struct Asked {
    powerplant::Fault fault = powerplant::Fault::oilLost;
    std::string seen;  ///< in words
    std::string first; ///< cause that came first
    std::size_t rank = 0;
    bool pair = false;      ///< it came behind one that it cannot be told from
    std::size_t before = 0; ///< causes before it that are no such pair
};
/// Every fault at every setting, all signs and each of those that moved withheld in its turn.
std::vector<Asked> askAll(const flight::LoadedSortie& loaded);

} // namespace amber::bench
