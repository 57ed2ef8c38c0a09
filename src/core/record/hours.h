// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/log.h"
#include "sortie/sortie.h"
#include "watch/verdict.h"
#include <optional>
#include <string>
#include <utility>
#include <vector>

/// Hours, starts, oil and minutes at ratings of an airframe and its engines, and what is due.
namespace amber::record {

/// One engine: what its airframe's file says of it, and what the log has added since.
struct EngineHours {
    std::string engine, name, serial;              ///< position id, name
    std::optional<double> sinceNew, sinceOverhaul; ///< s; none: nobody has said what they stood at
    std::string overhauled;                        ///< day of the last overhaul in the log; empty: none in it
    double logged = 0.0;                           ///< s that it ran, by the log
    int starts = 0;                                ///< runs in which it ran
    int tries = 0;                                 ///< of them all; one where nobody has counted
    double oilAdded = 0.0;                         ///< m³
    std::optional<double> oilAnHour; ///< m³/s, by the runs whose time is known; none: under five hours of them
    std::vector<std::pair<std::string, double>> ratings; ///< name, s at it, of those with a limit
};

/// Something that comes round.
struct DueLine {
    std::string what, engine;                  ///< position id; empty: the airframe
    std::string done;                          ///< the day; empty: not known
    std::optional<double> leftHours, leftDays; ///< h, days; negative: past it
    watch::Verdict verdict;                    ///< and the words
};

struct Hours {
    std::optional<double> sinceNew; ///< s, of the airframe
    double logged = 0.0;            ///< s, take-off to stop where that is known, else as long as an engine ran
    std::vector<EngineHours> engines;
    std::vector<DueLine> due;   ///< the most pressing first
    int runs = 0, timeless = 0; ///< that count, and those of them without any time
    int earlier = 0;            ///< of before the day of the file's hours
};

/// By the log and the airframe's file. A run's time is what was kept as *running*, else from first fire to stop; an
/// overhaul in the log begins an engine (without a name: all of them) anew; *work* that begins with the name of what is
/// due has done it.
/// @param facts null: nothing is known but the log @param now ms since 1970
Hours hoursOf(const Log& log, const std::string& airframe, const TypeNotes& notes, const AirframeFacts* facts,
              std::int64_t now);

/// The same as people read it: engines side by side.
struct HoursTable {
    std::vector<std::string> columns; ///< names of the engines
    struct Row {
        std::string what;
        std::vector<std::string> cells; ///< one an engine
    };
    std::vector<Row> rows;
    std::vector<std::string> told; ///< of the whole aircraft, and what is not known, in sentences
};
HoursTable hoursTable(const Hours& hours, const TypeNotes& notes);

/// "612.4 h": a tenth is six minutes.
std::string hoursText(double seconds);

} // namespace amber::record
