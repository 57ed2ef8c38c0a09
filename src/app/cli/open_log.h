// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/log_file.h"
#include <QCoreApplication>
#include <cstdio>
#include <fmt/format.h>
#include <memory>
#include <string>

namespace amber::app {

/// A log, and what drivers need about them.
class OpenLog {
public:
    explicit OpenLog(const std::string& path, LogFile::Check check = LogFile::Check::usual) {
        if (!QCoreApplication::instance())
            application_ = std::make_unique<QCoreApplication>(count_, names_);
        auto opened = LogFile::open(path.empty() ? LogFile::usual() : QString::fromStdString(path), check);
        if (!opened) {
            why_ = opened.error();
            return;
        }
        file_ = std::move(opened.value());
        for (const auto& line : file_->told())
            fmt::print(stderr, "{}\n", line.toStdString());
    }
    explicit operator bool() const { return file_ != nullptr; }
    LogFile* operator->() { return file_.get(); }
    [[nodiscard]] const std::string& why() const { return why_; }

private:
    int count_ = 1;
    char name_[15] = "amber-throttle";
    char* names_[2] = {name_, nullptr};
    std::unique_ptr<QCoreApplication> application_;
    std::unique_ptr<LogFile> file_;
    std::string why_;
};

} // namespace amber::app
