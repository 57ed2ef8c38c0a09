// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/log.h"
#include "record/trace.h"
#include "store/log_tables.h"
#include "units/result.h"
#include <QString>
#include <QStringList>
#include <functional>
#include <memory>

class QSqlDatabase;
class QSqlError;

namespace amber::app {

/// Rows on their way from one log to another.
struct Batch {
    std::vector<record::Run> runs;
    std::vector<record::Entry> entries;
    std::vector<record::TraceBlock> traces;
    [[nodiscard]] std::size_t size() const { return runs.size() + entries.size() + traces.size(); }
};

/// The log as it is kept: one SQLite file that any SQLite tool reads (docs/formats/log.md). What `add` has returned
/// from without a word is on the disk: a write-ahead log, written through at every commit. Rows are never changed: the
/// file itself refuses it.
class LogFile {
public:
    enum class Check {
        usual,
        thorough,
        none, ///< somebody else of this program looks: a damaged one is refused and left where it is
    };
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

    /// How far it has been merged with a log that a hangar shares: rows sent, by their place here, and rows that have
    /// come, by their number there.
    struct Marks {
        qint64 runs = 0, entries = 0, traces = 0, arrived = 0;
        QString
            last; ///< id of the row of that number: a server where it is another one was put back from an older copy
        bool operator==(const Marks&) const = default;
    };
    Result<Marks> marks(const QString& server) const;
    /// The next rows that were not sent yet, and the marks moved behind them. @param most of each table
    Result<Batch> since(Marks& marks, int most) const;
    struct Taken {
        std::size_t runs = 0, entries = 0, traces = 0; ///< that were new
        std::size_t senseless = 0;                     ///< rows that no log writes: left
        QStringList told;                              ///< what does not agree
    };
    /// Rows that have come, and the marks, all or none; what is there already is passed over.
    Result<Taken> takeIn(const QString& server, const Batch& from, Marks& marks);

    /// What to read; empty members ask for nothing.
    struct Wanted {
        QString airframe, run;
        int latest = 0; ///< runs at most, the last ones; 0: all
    };
    Result<record::Log> read(const Wanted& wanted) const;
    /// All that is in it, row by row as it stood at one moment: runs, then entries, then blocks. Each says whether to
    /// go on.
    struct Each {
        std::function<bool(const record::Run&)> run;
        std::function<bool(const record::Entry&)> entry;
        std::function<bool(const record::TraceBlock&)> block;
    };
    /// @return why it was not read to its end; empty: it was
    QString each(const Each& take) const;
    Result<record::Log> read() const { return read({}); }
    /// Registrations, in their order.
    Result<QStringList> airframes() const;
    /// The latest runs of an airframe (of all, where it is empty), newest first.
    Result<std::vector<record::Run>> runs(const QString& airframe, int most) const;

    [[nodiscard]] const QString& path() const { return path_; }
    /// Whether the file of that name is still the one that is open: neither taken away nor another put in its place.
    [[nodiscard]] bool isInPlace() const;
    /// What was found wrong and mended when it was opened, or earlier by somebody who did not live to tell it.
    [[nodiscard]] const QStringList& told() const { return told_; }
    /// It has been told to a person: it is not kept for the next who opens the log.
    void wasTold() const;

    static constexpr int version = tables::version;
    static inline int patience = 5000; ///< ms, that a log is waited for which somebody else is writing

private:
    LogFile() = default;
    [[nodiscard]] QSqlDatabase database() const;
    QString connect();
    QString prepare(bool thorough);
    QString rescue();
    QString finishRescue();
    QStringList fillFrom(const QString& damaged, QString& why);
    void close();
    QString stopped(const QSqlError& error);

    QString path_, connection_;
    std::pair<quint64, quint64> identity_; ///< device and inode of the open file
    bool damaged_ = false, readOnly_ = false;
    QStringList told_;
};

} // namespace amber::app
