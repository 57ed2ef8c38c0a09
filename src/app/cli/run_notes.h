// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include "record/entry.h"
#include <map>
#include <memory>
#include <set>

namespace amber::app {

/// The notes of the runs of a log, so that a figure is shown in its cockpit's units. Each type is read once; a run
/// without a sortie, or whose files are not there any more, has those of another run of its type, or none.
class RunNotes {
public:
    [[nodiscard]] const TypeNotes* of(const record::Run& run) {
        auto& known = types_[run.type];
        if (!known && !run.sortie.empty() && tried_.emplace(run.type, run.sortie.size()).second)
            known = flight::loadSortieText(run.sortie, "run.toml").aircraft;
        return known ? &known->notes : nullptr;
    }

private:
    std::map<std::string, std::shared_ptr<const powerplant::Aircraft>> types_;
    std::set<std::pair<std::string, std::size_t>> tried_;
};

} // namespace amber::app
