// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/log.h"
#include "sortie/sortie.h"
#include "watch/verdict.h"
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace amber::record {

/// All that stands in a run, judged by the one judge against the notes: needles by their bands in their phase, counts
/// and clocks of the start, the walk-round and the run-up sheet as their own pages judge them.
class Judged {
public:
    struct Said {
        watch::Verdict verdict;
        std::string cause, next; ///< likely, and what to do; empty when all is well
    };
    /// @param sortie of the run: fuel that was planned, how she stands
    Judged(const TypeNotes& notes, const Sortie& sortie, const std::vector<Standing>& all);

    /// What is said of an entry; null: nothing judges it (a note, oil added, a needle without limits read as such).
    [[nodiscard]] const Said* of(const std::string& entry) const;

private:
    std::map<std::string, Said> said_;
};

/// A single figure by itself, where its key alone says what judges it: gauges, counts, clocks, standing rpm.
std::optional<watch::Verdict> judgedAlone(const TypeNotes& notes, const Entry& entry);

} // namespace amber::record
