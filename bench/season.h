// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include "powerplant/condition.h"
#include "record/log.h"
#include <string>
#include <vector>

namespace amber::bench {

/// A fault that grows from run to run: nothing until a run, then in even steps to its whole at the last.
struct GrowingFault {
    powerplant::Fault fault = powerplant::Fault::coolerClogged;
    std::size_t engine = 0;
    double most = 0.5; ///< severity at the last run
    int from = 0;      ///< run
};

/// A season of one airframe: made up, but flown. The careful hand flies a short sortie on each of its days, with faults
/// that it knows nothing of; needles are read as people read them.
struct SeasonSetting {
    int runs = 36;
    std::uint64_t seed = 1;
    std::vector<GrowingFault> faults;
    /// How each engine differs from its notes, all season, which nobody knows; empty: not at all.
    std::vector<powerplant::Learnt> differs;
};

/// Its log: what was read in climb, cruise and let-down beside what the plan of each day expected. Days are drawn from
/// a year's warmth; each has an effect of its own on all temperatures (standard deviation 1.5 K, the same for all
/// engines); a needle is read to 2 °C, 20 rpm, 0.5 inHg or 1 lbf/in², blurred by three tenths of that either way; one
/// in eight is not read, one in ten only looked at, one in sixty misread by 10 °C, 100 rpm, 2.5 inHg or 5 lbf/in².
/// Starts are primed as each engine likes, a stroke more or less now and then; tanks are filled up after each run, oil
/// by the quart, and its times kept. The same for the same seed.
record::Log season(const flight::LoadedSortie& base, const SeasonSetting& setting);

} // namespace amber::bench
