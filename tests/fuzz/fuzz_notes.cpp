// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/notes_reader.h"
#include "powerplant/aircraft.h"
#include <cstdint>
#include <cstdlib>

/// Any bytes are notes that can be assembled, or problems that say where; never both, never a trap.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* bytes, std::size_t size) {
    const auto reading = amber::readNotes({reinterpret_cast<const char*>(bytes), size}, "fuzz.toml");
    if (reading.notes.has_value() == !reading.problems.empty())
        std::abort();
    for (const auto& p : reading.problems)
        if (p.text().empty())
            std::abort();
    if (reading.notes) {
        amber::Problems problems;
        const auto aircraft = amber::powerplant::assemble(*reading.notes, problems);
        if (!aircraft && (problems.empty() || problems.front().what.empty()))
            std::abort();
    }
    return 0;
}
