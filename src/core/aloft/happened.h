// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "notes/type_notes.h"
#include "record/log.h"
#include "record/moments.h"
#include <string>
#include <string_view>
#include <vector>

/// The sortie in its own time: the plan slid to what really happened, bent to what was read, and what comes next.
namespace amber::aloft {

/// A moment that somebody pressed for: s from the beginning of the run.
struct Given {
    std::string what; ///< key of record::momentRows, "at-now" (not yet named), or "tank/ID" (that tank feeds from now)
    std::string engine; ///< position id, where it is one engine's
    double at = 0.0;
    std::string entry; ///< of the log
};
/// A needle that was read.
struct Reading {
    Gauge gauge = Gauge::rpm;
    std::string engine;    ///< position id; empty: of the aircraft
    double at = 0.0;       ///< s from the beginning of the run
    double value = 0.0;    ///< SI
    std::string entry;     ///< of the log
    bool believed = false; ///< it was asked about, and whoever read it stands by it
};
/// All of a run that the plan is slid and bent by.
struct Happened {
    std::vector<Given> moments;    ///< by when they were
    std::vector<Reading> readings; ///< by when they were
    /// What was looked at and in its band without a figure, and what was ticked: by key of the log ("oil-pressure") or
    /// id of what was called for ("ice").
    struct Done {
        std::string what, engine;
        double at = 0.0;
    };
    std::vector<Done> done;
    /// When something was last done, at most then; none: not yet.
    [[nodiscard]] std::optional<double> lastDone(std::string_view what, std::string_view engine, double until) const;
    /// What a needle showed last, read after one time and at most at another, SI; none: it was not read.
    [[nodiscard]] std::optional<double> lastRead(Gauge gauge, std::string_view engine, double after,
                                                 double until) const;
    /// When that moment was; none: not yet.
    [[nodiscard]] std::optional<double> when(std::string_view what, std::string_view engine = {}) const;
};

inline constexpr std::string_view unnamed = "at-now";
inline constexpr std::string_view believes = "stands"; ///< first word of a note about a reading that was asked about

/// What stands in a run of the log: its moments, and each reading of a gauge with when it was so. What is rough in time
/// (typed in the evening) is no reading of a moment and is left out.
Happened happenedOf(const std::vector<record::Standing>& standing, const record::Run& run);

} // namespace amber::aloft
