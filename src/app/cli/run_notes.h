// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include "record/entry.h"
#include <map>
#include <memory>

namespace amber::app {

/// The notes of the runs of a log, so that a figure is shown in its cockpit's units. Each type is read once, by the
/// first of its runs whose files are there; where three have none any more, no more are tried and the usual units
/// stand.
class RunNotes {
public:
    [[nodiscard]] const TypeNotes* of(const record::Run& run) {
        auto& known = types_[run.type];
        constexpr int most = 3;
        if (!known && !run.sortie.empty() && tried_[run.type]++ < most)
            known = flight::loadSortieText(run.sortie, "run.toml").aircraft;
        return known ? &known->notes : nullptr;
    }

private:
    std::map<std::string, std::shared_ptr<const powerplant::Aircraft>> types_;
    std::map<std::string, int> tried_;
};

} // namespace amber::app
