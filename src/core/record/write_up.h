// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/aircraft.h"
#include "record/log.h"
#include "sortie/sortie.h"
#include "units/result.h"
#include "watch/verdict.h"
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace amber::record {

/// An engineer's answer to something found: what it was, what was done about it, who answers for it.
struct Answer {
    std::string found, done, by;
    std::int64_t at = 0; ///< ms since 1970, when it was written
    /// It closes what it is about.
    [[nodiscard]] bool whole() const { return !found.empty() && !done.empty() && !by.empty(); }
};

/// One thing that an engineer should know of.
struct WriteUpLine {
    std::string about; ///< id of the entry that tells it: answers are about it
    std::int64_t at = 0;
    bool rough = false;
    Phase phase = Phase::writeUp;
    std::string engine; ///< position id; empty: of the aircraft
    std::string what;   ///< key of the log
    watch::Verdict verdict;
    std::string look; ///< what to look at: practice
    std::vector<Answer> answers;
    [[nodiscard]] bool answered() const;
    /// It holds the next flight: past a limit or a stopper, and no engineer has answered it whole.
    [[nodiscard]] bool holds() const { return verdict.colour() == watch::Colour::red && !answered(); }
};

/// The write-up of a run: every reading that stands out of normal, defects in words, and readings out of their limits
/// that were corrected to others; the worst first, then by when they were.
struct WriteUp {
    std::string run;
    std::vector<WriteUpLine> lines;
    [[nodiscard]] std::size_t open() const; ///< not answered
    [[nodiscard]] bool holds() const;
    /// The first that is not answered; normal when there is none.
    [[nodiscard]] watch::Verdict worst() const;
};
/// @param all what stands in the run @param looks whether it is told what to look at, which takes longest
WriteUp writeUp(const std::string& run, const std::vector<Standing>& all, const TypeNotes& notes, const Sortie& sortie,
                bool looks = true);

/// What an answer adds to a log: three entries about the same one, kept together or not at all.
/// @param about of a line of that run @return why not, where something of it is missing
Result<std::vector<Entry>> answerEntries(const WriteUpLine& line, const std::string& run, const Answer& answer,
                                         const Ids& ids, std::int64_t now);

/// Aircraft and sortie of a run, as it was planned.
struct RunFlown {
    std::shared_ptr<const powerplant::Aircraft> aircraft;
    Sortie sortie;
};
using FlownOf = std::function<std::optional<RunFlown>(const Run&)>;
/// Reads what a run holds of its sortie; nothing where its notes are not there any more.
FlownOf flownOf();

/// Something that holds the next flight, and when it was.
struct Holding {
    Run run;
    WriteUpLine line;
};
/// All that holds an airframe's next flight, the latest first. A run is looked at closely, by its own day, where the
/// aircraft as it is now finds something red in it, or where fuel was dipped.
/// @param flown reads a run's own aircraft; where it reads none, the aircraft as it is now judges
std::vector<Holding> holding(const Log& log, const std::string& airframe, const TypeNotes& notes, const Sortie& sortie,
                             const FlownOf& flown);
/// The sentence that holds the next flight, by the one judge; normal when nothing does.
/// Name of a position, where there are more than one; empty: of the aircraft.
std::string engineName(const TypeNotes& notes, const std::string& id);
watch::Verdict heldBy(const std::string& airframe, const std::vector<Holding>& holding, const TypeNotes& notes);

} // namespace amber::record
