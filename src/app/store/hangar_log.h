// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/log_file.h"
#include <QCoreApplication>
#include <functional>
#include <optional>

namespace amber::app {

/// The log that a hangar shares: a PostgreSQL database with the tables of a laptop's own log (docs/formats/log.md).
/// Nobody works in it: everyone keeps in their own file first and merges it with this one, when it is there. A merge is
/// a union of rows that never change, so twice is as once; only what is new since the last one goes over the line.
class HangarLog {
    Q_DECLARE_TR_FUNCTIONS(HangarLog)
public:
    /// "postgresql://user@host:5432/name?sslmode=require"; what is left out is as libpq has it (its environment, its
    /// file of passwords).
    static bool isAddress(const QString& text);
    /// Why it can be no address; empty: it can.
    static QString wrongWith(const QString& address);
    /// An address without its password.
    static QString shown(const QString& address);
    /// Connects, and begins or brings up to date the tables; a newer program's are refused.
    static Result<std::unique_ptr<HangarLog>> open(const QString& address);
    ~HangarLog();
    HangarLog(const HangarLog&) = delete;
    HangarLog& operator=(const HangarLog&) = delete;

    struct Exchanged {
        std::size_t sent = 0;     ///< rows that were new there
        LogFile::Taken came;      ///< that were new here
        bool stopped = false;     ///< before it was done: the next merge goes on from there
        QStringList told() const; ///< sentences: what went and came, and what does not agree
    };
    /// @param goOn asked between blocks, with the rows that have gone over; false: stop there
    Result<Exchanged> merge(LogFile& own, const std::function<bool(std::size_t)>& goOn = {});

    static inline int patience = 4; ///< s, that a server is waited for which does not answer

private:
    HangarLog() = default;
    [[nodiscard]] QSqlDatabase database() const;
    QString connect(const QString& address);
    QString prepare();
    struct Arrival {
        qint64 number = 0;
        QString id;
    };
    /// @param number the last one up to it
    [[nodiscard]] Result<Arrival> arrival(qint64 number) const;
    QString send(const Batch& batch, LogFile::Marks& marks, Exchanged& out);
    Result<Batch> next(LogFile::Marks& marks, std::size_t& senseless);

    QString connection_, id_;
};

} // namespace amber::app
