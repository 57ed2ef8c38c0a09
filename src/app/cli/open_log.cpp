// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/open_log.h"
#include "store/hangar_log.h"
#include <cstdio>
#include <fmt/format.h>

namespace amber::app {

OpenLog::OpenLog(const std::string& where, LogFile::Check check) {
    if (!QCoreApplication::instance())
        application_ = std::make_unique<QCoreApplication>(count_, names_);
    const QString path = QString::fromStdString(where);
    if (HangarLog::isAddress(path))
        hangar_ = path;
    auto opened = LogFile::open(path.isEmpty() || !hangar_.isEmpty() ? LogFile::usual() : path, check);
    if (!opened) {
        why_ = opened.error();
        return;
    }
    file_ = std::move(opened.value());
    for (const auto& line : file_->told())
        fmt::print(stderr, "{}\n", line.toStdString());
    file_->wasTold();
    if (!hangar_.isEmpty() && !exchange(true))
        hangar_.clear();
}

OpenLog::~OpenLog() {
    if (file_ && !hangar_.isEmpty())
        exchange(false);
}

/// @param tell also where nothing is wrong
bool OpenLog::exchange(bool tell) {
    const auto hangar = HangarLog::open(hangar_);
    const auto done = hangar ? hangar.value()->merge(*file_) : Result<HangarLog::Exchanged>(Failure{hangar.error()});
    if (!done) {
        fmt::print(stderr, "{}\nYour own log is used; it is merged with the hangar's the next time.\n", done.error());
        return false;
    }
    if (tell)
        for (const auto& line : done.value().told())
            fmt::print(stderr, "{}\n", line.toStdString());
    return true;
}

} // namespace amber::app
