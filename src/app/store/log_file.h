// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/log.h"
#include "record/trace.h"
#include "units/result.h"
#include <QString>
#include <QStringList>
#include <memory>

class QSqlDatabase;
class QSqlError;

namespace amber::app {

/// The log as it is kept: one SQLite file that any SQLite tool reads (docs/formats/log.md). What `add` has returned
/// from without a word is on the disk: a write-ahead log, written through at every commit. Rows are never changed: the
/// file itself refuses it.
class LogFile {
public:
    enum class Check { usual, thorough };
    /// Opens a log or begins one. An older one is copied beside itself and brought up to date; a newer one is refused;
    /// of a damaged one what can still be read is taken into a new file, the damaged one is kept, and it is told
    /// (`told`).
    /// @param check thorough: every page is looked at though the log is large and was closed in order
    static Result<std::unique_ptr<LogFile>> open(const QString& path, Check check = Check::usual);
    /// Somebody's own log, where programs keep their data.
    static QString usual();
    ~LogFile();
    LogFile(const LogFile&) = delete;
    LogFile& operator=(const LogFile&) = delete;

    /// @return why it could not be kept; empty: it is on the disk
    QString add(const record::Run& run);
    QString add(const record::Entry& entry);
    /// All of a log at once, or nothing of it. What is there already is passed over.
    Result<record::Merged> merge(const record::Log& from);
    /// New ones that nobody has yet, all or none of them. @return why not; empty: they are on the disk
    QString append(const record::Log& news);

    /// Blocks of a recorder's trace and what they come to, all or none; what is there already is passed over.
    /// @return how many blocks were new
    Result<std::size_t> keepTrace(const std::vector<record::TraceBlock>& blocks,
                                  const std::vector<record::Entry>& entries);
    /// The blocks of a run (of all runs, where it is empty), by when they begin.
    Result<std::vector<record::TraceBlock>> traces(const QString& run) const;

    /// What to read; empty members ask for nothing.
    struct Wanted {
        QString airframe, run;
        int latest = 0; ///< runs at most, the last ones; 0: all
    };
    Result<record::Log> read(const Wanted& wanted) const;
    Result<record::Log> read() const { return read({}); }
    /// Registrations, in their order.
    Result<QStringList> airframes() const;
    /// The latest runs of an airframe (of all, where it is empty), newest first.
    Result<std::vector<record::Run>> runs(const QString& airframe, int most) const;

    [[nodiscard]] const QString& path() const { return path_; }
    /// What was found wrong and mended when it was opened.
    [[nodiscard]] const QStringList& told() const { return told_; }

    static constexpr int version = 3;  ///< of the tables
    static inline int patience = 5000; ///< ms, that a log is waited for which somebody else is writing

private:
    LogFile() = default;
    [[nodiscard]] QSqlDatabase database() const;
    QString connect();
    QString prepare(bool thorough);
    QString rescue();
    QString stopped(const QSqlError& error);

    QString path_, connection_;
    bool damaged_ = false;
    QStringList told_;
};

} // namespace amber::app
