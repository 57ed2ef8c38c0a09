// SPDX-License-Identifier: GPL-3.0-or-later
#include "audit/audit.h"
#include "cockpit/migrate.h"
#include "cockpit/written.h"
#include "powerplant/aircraft.h"
#include "reading/notes_reader.h"
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
        // The whole drill: looked through, written out, and format 1 made format 2 that reads.
        if (aircraft) {
            for (const auto& p : amber::cockpit::audit(aircraft->notes))
                if (p.text().empty() || p.remedy.empty())
                    std::abort();
            const std::string text(reinterpret_cast<const char*>(bytes), size);
            amber::Problems ignored;
            if (aircraft->notes.format == 1)
                (void)amber::cockpit::migrate(text, "fuzz.toml", ignored);
            else if (const auto root = amber::document::parse(text, "fuzz.toml", ignored))
                if (amber::cockpit::expanded(*root, aircraft->notes).empty())
                    std::abort();
        }
    }
    return 0;
}
