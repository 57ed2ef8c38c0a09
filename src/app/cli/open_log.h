// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/log_file.h"
#include <QCoreApplication>
#include <memory>
#include <string>

namespace amber::app {

/// A log, and what drivers need about them. Where it is the address of the log that a hangar shares, it is one's own,
/// merged with that one before anything is read and again at the end; where that is not there, one's own alone, and it
/// is said.
class OpenLog {
public:
    explicit OpenLog(const std::string& where, LogFile::Check check = LogFile::Check::usual);
    ~OpenLog();
    OpenLog(const OpenLog&) = delete;
    OpenLog& operator=(const OpenLog&) = delete;
    explicit operator bool() const { return file_ != nullptr; }
    LogFile* operator->() { return file_.get(); }
    [[nodiscard]] LogFile& file() { return *file_; }
    [[nodiscard]] const std::string& why() const { return why_; }

private:
    bool exchange(bool tell);

    int count_ = 1;
    char name_[15] = "amber-throttle";
    char* names_[2] = {name_, nullptr};
    std::unique_ptr<QCoreApplication> application_;
    std::unique_ptr<LogFile> file_;
    QString hangar_; ///< address; empty: none, or it was not there
    std::string why_;
};

} // namespace amber::app
