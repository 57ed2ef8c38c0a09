// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "cli/exit_codes.h"
#include "flight/open_files.h"
#include "record/log.h"
#include <string>

namespace amber::app {

/// A sortie's airframe and what the log has of it; or what is wrong, told on standard error.
struct AirframeLog {
    /// @param latest runs; 0: all
    AirframeLog(const std::string& sortiePath, const std::string& logPath, int latest = 0);
    explicit operator bool() const { return code == exitOk; }
    [[nodiscard]] const std::string& airframe() const { return loaded.sortie->airframe.registration; }

    flight::LoadedSortie loaded;
    record::Log log;
    int code = exitProblems; ///< to end with where it is not there
};

} // namespace amber::app
