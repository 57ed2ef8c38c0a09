// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/entry.h"
#include <map>
#include <string>
#include <vector>

namespace amber::record {

/// Runs and entries by their ids. It only ever grows.
struct Log {
    std::map<std::string, Run> runs;
    std::map<std::string, Entry> entries;
    bool operator==(const Log&) const = default;
};

/// What a union came to.
struct Merged {
    std::size_t runs = 0, entries = 0; ///< that were new
    std::vector<std::string> told;     ///< what was refused, and what does not agree
};
/// Adds what is not there yet. Doing it twice changes nothing, and in which order does not matter. An id that is there
/// with another content is refused and told: what was kept first stays.
Merged merge(Log& into, const Log& from);

/// What stands now in the place of one thing read: of entries that correct each other the last ones. There are two or
/// more where two people have corrected the same one apart: all are kept and it is said.
struct Standing {
    std::vector<const Entry*> last; ///< by id; none: it was withdrawn
    std::vector<const Entry*> was;  ///< what they supersede, oldest first
    bool disagrees = false;         ///< it was corrected apart
};
/// Everything of a run by when it was so, withdrawn lines too. A correction whose original is in no log yet stands by
/// itself, and of a circle the one of the first id.
std::vector<Standing> standing(const Log& log, const std::string& run);
std::vector<Standing> standing(Log&&, const std::string&) = delete; // what stands points into the log
/// The same of every run, by its id.
std::map<std::string, std::vector<Standing>> standing(const Log& log);
std::map<std::string, std::vector<Standing>> standing(Log&&) = delete;

} // namespace amber::record
