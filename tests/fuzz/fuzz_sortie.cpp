// SPDX-License-Identifier: GPL-3.0-or-later
#include "data_folder.h"
#include "flight/open_files.h"
#include "plan/plan_export.h"
#include "reading/notes_reader.h"
#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <fstream>
#include <sstream>

namespace {
const amber::powerplant::Aircraft& lorimer() {
    static const auto loaded = amber::flight::loadAircraft(amber::test::dataFolder() + "/notes/lorimer-l4.toml", {});
    return *loaded.aircraft;
}
} // namespace

/// Any bytes are a sortie that can be planned and written again, or problems; a plan holds finite figures only.
extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* bytes, std::size_t size) {
    const auto reading = amber::readSortie({reinterpret_cast<const char*>(bytes), size}, "fuzz.toml");
    if (reading.sortie.has_value() == !reading.problems.empty())
        std::abort();
    if (!reading.sortie || !amber::checkSortie(*reading.sortie, lorimer().notes, "fuzz.toml").empty())
        return 0;
    const auto plan = amber::plan::makePlan(lorimer(), *reading.sortie);
    for (const auto& m : plan.flown.samples)
        if (!std::isfinite(m.headOrCoolant()) || !std::isfinite(m[amber::Gauge::fuel]) ||
            !std::isfinite(m[amber::Gauge::height]) || !std::isfinite(m.time))
            std::abort();
    if (amber::plan::planJson(lorimer(), *reading.sortie, plan).empty())
        std::abort();
    if (!amber::readSortie(amber::writeSortie(*reading.sortie, lorimer().notes.cockpit), "again.toml").sortie)
        std::abort();
    return 0;
}
