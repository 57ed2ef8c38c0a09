// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/airframe_log.h"
#include "cli/open_log.h"
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {

AirframeLog::AirframeLog(const std::string& sortiePath, const std::string& logPath, int latest)
    : loaded(flight::loadSortie(sortiePath)) {
    for (const auto& p : loaded.problems)
        fmt::print(stderr, "{}\n", p.text());
    if (!loaded.ok())
        return;
    OpenLog file(logPath);
    LogFile::Wanted wanted;
    wanted.airframe = QString::fromStdString(airframe());
    wanted.latest = latest;
    auto read = file ? file->read(wanted) : Result<record::Log>(Failure{file.why()});
    if (!read) {
        fmt::print(stderr, "{}\n", read.error());
        return;
    }
    log = std::move(read.value());
    code = exitOk;
}

} // namespace amber::app
