// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/log_file.h"
#include "store/log_rows.h"
#include "store/log_tables.h"
#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QLockFile>
#include <QStandardPaths>
#include <QUrl>
#include <QUuid>
#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <functional>
#include <limits>
#include <optional>
#include <sys/stat.h>
#include <unistd.h>

namespace amber::app {
namespace {
using record::Entry;
using record::Run;
using rows::said;

QString tr(const char* text) {
    return QCoreApplication::translate("LogFile", text);
}
QString q(const std::string& text) {
    return QString::fromStdString(text);
}

constexpr auto corrupt = "11";      // SQLITE_CORRUPT
constexpr auto noDatabase = "26";   // SQLITE_NOTADB
constexpr qint64 small = 4'000'000; // bytes: read in some tens of milliseconds
const QString asTheWriter = QStringLiteral("BEGIN IMMEDIATE");

template <class Row>
bool insert(QSqlDatabase& db, const rows::Kept& table, const Row& row, QString& why) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO %1 (%2) VALUES (%3)")
                      .arg(QLatin1String(table.table), rows::columnsOf(table), rows::places(table.count)));
    for (const auto& value : rows::valuesOf(row))
        query.addBindValue(value);
    if (query.exec())
        return true;
    why = said(query.lastError());
    return false;
}
bool insert(QSqlDatabase& db, const Run& run, QString& why) {
    return insert(db, rows::runs, run, why);
}
bool insert(QSqlDatabase& db, const Entry& entry, QString& why) {
    return insert(db, rows::entries, entry, why);
}
/// One that is there already is passed over.
class InsertNew {
public:
    InsertNew(QSqlDatabase& db, const rows::Kept& table) : query_(db) {
        query_.prepare(QStringLiteral("INSERT OR IGNORE INTO %1 (%2) VALUES (%3)")
                           .arg(QLatin1String(table.table), rows::columnsOf(table), rows::places(table.count)));
    }
    template <class Row>
    bool put(const Row& row, QString& why) {
        int at = 0;
        for (const auto& value : rows::valuesOf(row))
            query_.bindValue(at++, value);
        if (!query_.exec()) {
            why = said(query_.lastError());
            return false;
        }
        added_ += query_.numRowsAffected() > 0 ? 1 : 0;
        return true;
    }
    [[nodiscard]] std::size_t added() const { return added_; }

private:
    QSqlQuery query_;
    std::size_t added_ = 0;
};

/// A name beside a file that is not taken yet.
QString besides(const QString& path, const QString& suffix) {
    QString out = path + suffix;
    for (int i = 2; QFileInfo::exists(out); ++i)
        out = path + suffix + QString::number(i);
    return out;
}
/// Device and inode, or noughts where there is no such file.
std::pair<quint64, quint64> identityOf(const QString& path) {
    struct stat found {};
    if (::stat(QFile::encodeName(path).constData(), &found) != 0)
        return {};
    return {found.st_dev, found.st_ino};
}
} // namespace

QSqlDatabase LogFile::database() const {
    return QSqlDatabase::database(connection_);
}

QString LogFile::connect() {
    connection_ = QStringLiteral("log-") + QUuid::createUuid().toString(QUuid::WithoutBraces);
    QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), connection_);
    if (!db.isValid())
        return tr("Qt's driver for SQLite is missing: install libqt6sql6-sqlite.");
    db.setDatabaseName(path_);
    QString options = QStringLiteral("QSQLITE_BUSY_TIMEOUT=%1").arg(patience);
    // In a folder that may only be read (a medium, somebody else's) it is read: without a journal nobody can be writing
    // it.
    const QFileInfo file(path_);
    readOnly_ = file.exists() && (!file.isWritable() || !QFileInfo(file.absolutePath()).isWritable());
    if (readOnly_) {
        options += QStringLiteral(";QSQLITE_OPEN_READONLY");
        if (QFileInfo(path_ + QStringLiteral("-wal")).size() <= 0) {
            db.setDatabaseName(QUrl::fromLocalFile(path_).toString(QUrl::FullyEncoded) +
                               QStringLiteral("?immutable=1"));
            options += QStringLiteral(";QSQLITE_OPEN_URI");
        }
    }
    db.setConnectOptions(options);
    if (!db.open())
        return said(db.lastError());
    return {};
}

bool LogFile::isInPlace() const {
    return identityOf(path_) == identity_;
}

/// Why it went no further; remembers whether that was because pages of the file are not what they should be.
QString LogFile::stopped(const QSqlError& error) {
    damaged_ =
        error.nativeErrorCode() == QLatin1String(corrupt) || error.nativeErrorCode() == QLatin1String(noDatabase);
    return said(error);
}

QString LogFile::prepare(bool thorough) {
    QSqlDatabase db = database();
    if (thorough) {
        QSqlQuery sound(db);
        if (!sound.exec(QStringLiteral("PRAGMA quick_check(1)")) || !sound.next())
            return stopped(sound.lastError());
        damaged_ = sound.value(0).toString() != QLatin1String("ok");
        if (damaged_)
            return sound.value(0).toString();
    }
    // Nothing is written before it is known whose file it is.
    int at = 0;
    const QStringList tables = db.tables();
    if (tables.contains(QStringLiteral("version")) && tables.contains(QStringLiteral("entries"))) {
        QSqlQuery number(db);
        if (!number.exec(QStringLiteral("SELECT number FROM version")))
            return stopped(number.lastError());
        if (!number.next())
            return tr("it does not say of which version it is");
        at = number.value(0).toInt();
    } else if (!tables.isEmpty()) {
        return tr("this SQLite file is another program's, no log. Nothing was changed.");
    }
    if (at > version)
        return tr("it was written by a newer program (version %1, this one knows %2). Nothing was changed.")
            .arg(at)
            .arg(version);
    if (readOnly_ && at < version)
        return tr("it is of version %1, and cannot be brought up to date where it may only be read: copy it elsewhere")
            .arg(at);
    if (readOnly_)
        return {};
    for (const auto* pragma : {"PRAGMA journal_mode = WAL", "PRAGMA synchronous = FULL"}) {
        QSqlQuery query(db);
        if (!query.exec(QLatin1String(pragma)))
            return stopped(query.lastError());
    }
    if (at == version)
        return {};
    if (at > 0) {
        const QString copy = besides(path_, QStringLiteral(".before-%1").arg(version));
        QSqlQuery into(db);
        into.prepare(QStringLiteral("VACUUM INTO ?"));
        into.addBindValue(copy);
        if (!into.exec())
            return stopped(into.lastError());
        told_ << tr("The log was of version %1; a copy as it was is %2.").arg(at).arg(copy);
    }
    return rows::inOneGo(db, asTheWriter, [&](QSqlDatabase& d, QString& why) {
        for (int v = at; v < version; ++v)
            for (const auto& sql : tables::migration(v + 1, tables::Database::sqlite)) {
                QSqlQuery query(d);
                if (!query.exec(sql)) {
                    why = stopped(query.lastError());
                    return false;
                }
            }
        return true;
    });
}

namespace {
/// Beside the log while it is rescued: being filled; full, to take the log's place; what is to be told of it.
QString filling(const QString& path) {
    return path + QStringLiteral(".rescuing");
}
QString full(const QString& path) {
    return path + QStringLiteral(".rescued");
}
QString untold(const QString& path) {
    return path + QStringLiteral(".untold");
}
const QStringList journals{QStringLiteral("-wal"), QStringLiteral("-shm")};

void removeWithJournals(const QString& path) {
    for (const auto& more : journals)
        QFile::remove(path + more);
    QFile::remove(path);
}
/// What a file holds is on the disk, or false.
bool written(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadWrite) && ::fsync(file.handle()) == 0;
}
/// A copy that is there whole or not at all.
bool copied(const QString& from, const QString& to) {
    const QString part = to + QStringLiteral(".part");
    QFile::remove(part);
    if (QFile::copy(from, part) && QFileInfo(part).size() == QFileInfo(from).size() && written(part) &&
        QFile::rename(part, to))
        return true;
    QFile::remove(part);
    return false;
}
/// Takes the place of another at one instant.
bool inPlaceOf(const QString& file, const QString& of) {
    return std::rename(QFile::encodeName(file).constData(), QFile::encodeName(of).constData()) == 0;
}
} // namespace

/// A rescue that was stopped: what had been filled takes the log's place, what was half filled goes; what was not told
/// is.
QString LogFile::finishRescue() {
    if (!QFileInfo::exists(full(path_)) && !QFileInfo::exists(filling(path_)) && !QFileInfo::exists(untold(path_)))
        return {};
    QLockFile lock(path_ + QStringLiteral(".lock"));
    lock.setStaleLockTime(0);
    if (!lock.tryLock(patience))
        return tr("another program is rescuing it: try again when it has ended");
    if (QFileInfo::exists(full(path_))) {
        for (const auto& more : journals)
            QFile::remove(path_ + more); // of the damaged one, which is kept with them
        if (!inPlaceOf(full(path_), path_))
            return tr("What was rescued is in %1 and cannot take its place.").arg(full(path_));
    } else if (QFileInfo::exists(filling(path_))) {
        removeWithJournals(filling(path_));
        QFile::remove(untold(path_)); // begun anew
    }
    if (QFile note(untold(path_)); note.open(QIODevice::ReadOnly))
        told_ << QString::fromUtf8(note.readAll()).split(QLatin1Char('\n'), Qt::SkipEmptyParts);
    return {};
}

void LogFile::wasTold() const {
    if (!told_.isEmpty())
        QFile::remove(untold(path_));
}

/// Takes what can be read of a damaged file into a file beside it, which takes its place last of all: stopped at any
/// moment, or on a full disk, the damaged one is there as it was.
QString LogFile::rescue() {
    {
        QSqlDatabase db = database();
        db.close();
    }
    QSqlDatabase::removeDatabase(connection_);
    connection_.clear();
    QLockFile lock(path_ + QStringLiteral(".lock"));
    lock.setStaleLockTime(0);
    if (!lock.tryLock(patience))
        return tr("it is damaged, and another program is rescuing it: try again when it has ended");
    const QString damaged = besides(path_, QStringLiteral(".damaged"));
    const QString untouched = tr("It is damaged, and %1 cannot be written: is the disk full? It was left as it was.");
    for (const auto& more : journals)
        if (more != QLatin1String("-shm") && QFileInfo::exists(path_ + more) && !copied(path_ + more, damaged + more))
            return untouched.arg(damaged + more);
    if (!copied(path_, damaged))
        return untouched.arg(damaged);
    removeWithJournals(filling(path_));
    LogFile side;
    side.path_ = filling(path_);
    QString why = side.connect();
    if (why.isEmpty())
        why = side.prepare(false);
    const QStringList words = why.isEmpty() ? side.fillFrom(damaged, why) : QStringList();
    if (why.isEmpty()) { // one file, without journals
        QSqlQuery checkpoint(side.database());
        if (!checkpoint.exec(QStringLiteral("PRAGMA wal_checkpoint(TRUNCATE)")) || !checkpoint.next() ||
            checkpoint.value(0).toInt() != 0)
            why = said(checkpoint.lastError());
        checkpoint.clear();
        QSqlQuery sound(side.database());
        if (why.isEmpty() && (!sound.exec(QStringLiteral("PRAGMA quick_check(1)")) || !sound.next() ||
                              sound.value(0).toString() != QLatin1String("ok")))
            why = tr("what was taken out of it is not in order");
    }
    side.close();
    QFile note(untold(path_));
    if (why.isEmpty() && (!note.open(QIODevice::WriteOnly) || note.write(words.join(QLatin1Char('\n')).toUtf8()) < 0 ||
                          !note.flush() || !written(filling(path_))))
        why = note.errorString();
    note.close();
    if (!why.isEmpty()) {
        removeWithJournals(filling(path_));
        QFile::remove(untold(path_));
        return tr("It is damaged and could not be rescued (%1). It was left as it was; %2 is a copy.")
            .arg(why, damaged);
    }
    if (!inPlaceOf(filling(path_), full(path_)))
        return untouched.arg(full(path_));
    lock.unlock();
    if (const QString stopped = finishRescue(); !stopped.isEmpty())
        return stopped;
    if (why = connect(); why.isEmpty())
        why = prepare(false);
    return why;
}

/// What can be read of a damaged one. @return what to tell of it
QStringList LogFile::fillFrom(const QString& damaged, QString& why) {
    record::Log found;
    std::vector<record::TraceBlock> blocks;
    qint64 lost = 0;
    const QString old = connection_ + QStringLiteral("-damaged");
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), old);
        db.setDatabaseName(damaged);
        db.setConnectOptions(QStringLiteral("QSQLITE_OPEN_READONLY"));
        if (db.open()) {
            // Block by block, and row by row where one cannot be read: behind a page that is gone there are others.
            const auto each = [&](const QString& table, const QString& columns, const auto& take) {
                constexpr qint64 block = 500, inVain = 50'000;
                qint64 last = std::numeric_limits<qint64>::max();
                if (QSqlQuery most(db);
                    most.exec(QStringLiteral("SELECT max(rowid) FROM %1").arg(table)) && most.next())
                    last = most.value(0).toLongLong();
                QSqlQuery query(db);
                query.setForwardOnly(true);
                const QString select = QStringLiteral("SELECT %1 FROM %2 WHERE rowid BETWEEN ? AND ?");
                if (!query.prepare(select.arg(columns, table))) // an older one: no answers in it
                    query.prepare(select.arg(
                        QString(columns).replace(QStringLiteral(", about, lasted"), QStringLiteral(", '', NULL")),
                        table));
                /// @return rows that were read; nothing where one could not be
                const auto between = [&](qint64 from, qint64 to) -> std::optional<qint64> {
                    query.bindValue(0, from);
                    query.bindValue(1, to);
                    if (!query.exec())
                        return std::nullopt;
                    qint64 read = 0;
                    for (; query.next(); ++read)
                        take(query);
                    return query.lastError().isValid() ? std::nullopt : std::optional(read);
                };
                qint64 empty = 0;
                for (qint64 from = 1; from <= last && empty < inVain; from += block) {
                    auto read = between(from, from + block - 1);
                    if (!read) {
                        read = 0;
                        for (qint64 row = from; row < from + block; ++row)
                            *read += between(row, row).value_or(0);
                    }
                    empty = *read > 0 ? 0 : empty + block;
                }
            };
            each(QStringLiteral("runs"), rows::columnsOf(rows::runs), [&](const QSqlQuery& row) {
                const Run r = rows::runOf(row);
                const bool well = record::wrongWith(r).empty();
                if (well)
                    found.runs.try_emplace(r.id, r);
                lost += well ? 0 : 1;
            });
            each(QStringLiteral("entries"), rows::columnsOf(rows::entries), [&](const QSqlQuery& row) {
                const auto e = rows::entryOf(row);
                const bool well = e && record::wrongWith(*e).empty();
                if (well)
                    found.entries.try_emplace(e->id, *e);
                lost += well ? 0 : 1;
            });
            each(QStringLiteral("traces"), rows::columnsOf(rows::traces), [&](const QSqlQuery& row) {
                auto b = rows::blockOf(row);
                const bool well = record::wrongWith(b).empty();
                if (well)
                    blocks.push_back(std::move(b));
                lost += well ? 0 : 1;
            });
        }
        db.close();
    }
    QSqlDatabase::removeDatabase(old);
    const auto merged = merge(found);
    if (!merged)
        why = q(merged.error());
    else if (const auto kept = keepTrace(blocks, {}); !kept)
        why = q(kept.error());
    QStringList words{
        tr("The log was damaged. What could still be read of it, %1 runs and %2 entries, is in a new one; the "
           "damaged one is kept as %3: an SQLite tool may find more.")
            .arg(found.runs.size())
            .arg(found.entries.size())
            .arg(damaged)};
    if (lost > 0)
        words << tr("%1 rows made no sense and were left.").arg(lost);
    return words;
}

Result<std::unique_ptr<LogFile>> LogFile::open(const QString& path, Check check) {
    std::unique_ptr<LogFile> out(new LogFile);
    out->path_ = QFileInfo(path).absoluteFilePath();
    const auto failed = [&](const QString& why) { return Failure{tr("%1: %2").arg(path, why).toStdString()}; };
    if (const QFileInfo there(out->path_); there.isDir())
        return failed(tr("this is a folder, not a log"));
    if (!QDir().mkpath(QFileInfo(out->path_).absolutePath()))
        return failed(tr("its folder cannot be made"));
    // A small log is looked through each time, a large one where it was not closed in order or where somebody asks.
    const qint64 size = QFileInfo(out->path_).size();
    const bool wasThere = size > 0;
    const bool thorough =
        check == Check::thorough ||
        (check == Check::usual && (size < small || QFileInfo(out->path_ + QStringLiteral("-wal")).size() > 0));
    QString why = check == Check::none ? QString() : out->finishRescue();
    if (!why.isEmpty())
        return failed(why);
    why = out->connect();
    if (why.isEmpty())
        why = out->prepare(thorough);
    if (!why.isEmpty() && wasThere && out->damaged_ && !out->readOnly_ && check != Check::none) {
        // Only of a file that is SQLite by its first bytes: anything else is somebody's other file.
        QFile file(out->path_);
        const bool sqlite = file.open(QIODevice::ReadOnly) && file.read(15) == QByteArrayLiteral("SQLite format 3");
        file.close();
        if (!sqlite)
            return failed(tr("this is no SQLite file (%1)").arg(why));
        why = out->rescue();
    }
    if (!why.isEmpty())
        return failed(why);
    out->identity_ = identityOf(out->path_);
    return out;
}

QString LogFile::usual() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/log.sqlite");
}

LogFile::~LogFile() {
    close();
}

void LogFile::close() {
    if (connection_.isEmpty())
        return;
    {
        QSqlDatabase db = QSqlDatabase::database(connection_, false);
        db.close();
    }
    QSqlDatabase::removeDatabase(connection_);
    connection_.clear();
}

QString LogFile::add(const record::Run& run) {
    if (const auto wrong = record::wrongWith(run); !wrong.empty())
        return q(wrong);
    return rows::inOneGo(database(), asTheWriter, [&](QSqlDatabase& db, QString& why) { return insert(db, run, why); });
}

QString LogFile::add(const record::Entry& entry) {
    if (const auto wrong = record::wrongWith(entry); !wrong.empty())
        return q(wrong);
    return rows::inOneGo(database(), asTheWriter,
                         [&](QSqlDatabase& db, QString& why) { return insert(db, entry, why); });
}

QString LogFile::append(const record::Log& news) {
    for (const auto& [id, run] : news.runs)
        if (const auto wrong = record::wrongWith(run); !wrong.empty())
            return q(wrong);
    for (const auto& [id, entry] : news.entries)
        if (const auto wrong = record::wrongWith(entry); !wrong.empty())
            return q(wrong);
    return rows::inOneGo(database(), asTheWriter, [&](QSqlDatabase& db, QString& why) {
        return std::all_of(news.runs.begin(), news.runs.end(),
                           [&](const auto& r) { return insert(db, r.second, why); }) &&
               std::all_of(news.entries.begin(), news.entries.end(),
                           [&](const auto& e) { return insert(db, e.second, why); });
    });
}

Result<record::Merged> LogFile::merge(const record::Log& from) {
    record::Merged out;
    // Row by row, each looked up by its id: what is in the log already need not be read.
    const QString why = rows::inOneGo(database(), asTheWriter, [&](QSqlDatabase& db, QString& wrong) {
        const auto each = [&](const rows::Kept& table, const auto& all, const auto& read, const char* name,
                              std::size_t& added) {
            QSqlQuery there(db);
            there.setForwardOnly(true);
            there.prepare(QStringLiteral("SELECT %1 FROM %2 WHERE id = ?")
                              .arg(rows::columnsOf(table), QLatin1String(table.table)));
            InsertNew put(db, table);
            for (const auto& [id, row] : all) {
                there.bindValue(0, rows::textValue(id));
                if (!there.exec()) {
                    wrong = said(there.lastError());
                    return false;
                }
                if (there.next()) {
                    if (!(read(there) == row))
                        out.told.push_back(fmt::format(
                            "{} {} is there already and says something else: what was kept first stays", name, id));
                } else if (!put.put(row, wrong)) {
                    return false;
                }
            }
            added = put.added();
            return true;
        };
        if (!each(
                rows::runs, from.runs, [](const QSqlQuery& row) { return std::optional(rows::runOf(row)); }, "run",
                out.runs) ||
            !each(
                rows::entries, from.entries, [](const QSqlQuery& row) { return rows::entryOf(row); }, "entry",
                out.entries))
            return false;
        QSqlQuery twice(db);
        twice.setForwardOnly(true);
        twice.prepare(QStringLiteral("SELECT count(*) FROM entries WHERE run = ? AND supersedes = ?"));
        for (const auto& [id, e] : from.entries) {
            if (e.supersedes.empty())
                continue;
            twice.bindValue(0, rows::textValue(e.run));
            twice.bindValue(1, rows::textValue(e.supersedes));
            if (twice.exec() && twice.next() && twice.value(0).toInt() > 1)
                out.told.push_back(fmt::format("entry {} has been corrected {} times apart: all are kept", e.supersedes,
                                               twice.value(0).toInt()));
        }
        std::sort(out.told.begin(), out.told.end());
        out.told.erase(std::unique(out.told.begin(), out.told.end()), out.told.end());
        return true;
    });
    if (!why.isEmpty())
        return Failure{why.toStdString()};
    return out;
}

QString LogFile::each(const Each& take) const {
    return rows::inOneGo(database(), QStringLiteral("BEGIN"), [&](QSqlDatabase& db, QString& wrong) {
        const auto all = [&](const rows::Kept& table, const auto& row) {
            QSqlQuery query(db);
            query.setForwardOnly(true);
            if (!query.exec(QStringLiteral("SELECT %1 FROM %2 ORDER BY id")
                                .arg(rows::columnsOf(table), QLatin1String(table.table)))) {
                wrong = said(query.lastError());
                return false;
            }
            while (query.next())
                if (!row(query)) {
                    wrong = tr("stopped");
                    return false;
                }
            wrong = said(query.lastError());
            return !query.lastError().isValid();
        };
        return all(rows::runs, [&](const QSqlQuery& row) { return take.run(rows::runOf(row)); }) &&
               all(rows::entries,
                   [&](const QSqlQuery& row) {
                       const auto e = rows::entryOf(row);
                       return !e || take.entry(*e);
                   }) &&
               all(rows::traces, [&](const QSqlQuery& row) { return take.block(rows::blockOf(row)); });
    });
}

Result<std::size_t> LogFile::keepTrace(const std::vector<record::TraceBlock>& blocks,
                                       const std::vector<record::Entry>& entries) {
    for (const auto& b : blocks)
        if (const auto wrong = record::wrongWith(b); !wrong.empty())
            return Failure{wrong};
    std::size_t added = 0;
    const QString why = rows::inOneGo(database(), asTheWriter, [&](QSqlDatabase& db, QString& wrong) {
        QSqlQuery there(db);
        InsertNew put(db, rows::traces);
        for (const auto& b : blocks)
            if (!put.put(b, wrong))
                return false;
        added = put.added();
        there.prepare(QStringLiteral("SELECT 1 FROM entries WHERE id = ?"));
        for (const auto& e : entries) {
            if (const auto no = record::wrongWith(e); !no.empty()) {
                wrong = q(no);
                return false;
            }
            there.bindValue(0, rows::textValue(e.id));
            if (there.exec() && there.next())
                continue; // the same file came in before
            if (!insert(db, e, wrong))
                return false;
        }
        return true;
    });
    if (!why.isEmpty())
        return Failure{why.toStdString()};
    return added;
}

Result<std::vector<record::TraceBlock>> LogFile::traces(const QString& run) const {
    std::vector<record::TraceBlock> out;
    QSqlQuery query(database());
    query.setForwardOnly(true);
    query.prepare(
        QStringLiteral("SELECT %1 FROM traces%2 ORDER BY start, id")
            .arg(rows::columnsOf(rows::traces), run.isEmpty() ? QString() : QStringLiteral(" WHERE run = ?")));
    if (!run.isEmpty())
        query.addBindValue(run);
    query.exec();
    while (query.next())
        if (auto b = rows::blockOf(query); record::wrongWith(b).empty())
            out.push_back(std::move(b));
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    return out;
}

Result<LogFile::Marks> LogFile::marks(const QString& server) const {
    Marks out;
    QSqlQuery query(database());
    query.prepare(QStringLiteral("SELECT runs, entries, traces, arrived, last FROM marks WHERE server = ?"));
    query.addBindValue(server);
    if (!query.exec())
        return Failure{said(query.lastError()).toStdString()};
    if (query.next())
        out = {query.value(0).toLongLong(), query.value(1).toLongLong(), query.value(2).toLongLong(),
               query.value(3).toLongLong(), query.value(4).toString()};
    return out;
}

Result<Batch> LogFile::since(Marks& marks, int most) const {
    Batch out;
    const auto read = [&](const rows::Kept& table, qint64& mark, const auto& take) {
        QSqlQuery query(database());
        query.setForwardOnly(true);
        query.prepare(QStringLiteral("SELECT rowid, %1 FROM %2 WHERE rowid > ? ORDER BY rowid LIMIT ?")
                          .arg(rows::columnsOf(table), QLatin1String(table.table)));
        query.addBindValue(mark);
        query.addBindValue(most);
        query.exec();
        while (query.next()) {
            mark = query.value(0).toLongLong();
            take(query);
        }
        return said(query.lastError());
    };
    QString why = read(rows::runs, marks.runs, [&](const QSqlQuery& row) { out.runs.push_back(rows::runOf(row, 1)); });
    if (why.isEmpty())
        why = read(rows::entries, marks.entries, [&](const QSqlQuery& row) {
            if (auto entry = rows::entryOf(row, 1))
                out.entries.push_back(std::move(*entry));
        });
    if (why.isEmpty())
        why = read(rows::traces, marks.traces,
                   [&](const QSqlQuery& row) { out.traces.push_back(rows::blockOf(row, 1)); });
    if (!why.isEmpty())
        return Failure{why.toStdString()};
    return out;
}

Result<LogFile::Taken> LogFile::takeIn(const QString& server, const Batch& from, Marks& marks) {
    Taken out;
    const QString why = rows::inOneGo(database(), asTheWriter, [&](QSqlDatabase& db, QString& wrong) {
        const auto last = [&](const char* table) {
            QSqlQuery query(db);
            return query.exec(QStringLiteral("SELECT max(rowid) FROM %1").arg(QLatin1String(table))) && query.next()
                       ? query.value(0).toLongLong()
                       : 0;
        };
        const auto all = [&](const rows::Kept& table, const auto& rows, qint64& mark, std::size_t& added) {
            // Where all that was here had been sent, what comes now need not be sent back.
            const bool sent = last(table.table) <= mark;
            InsertNew put(db, table);
            for (const auto& row : rows) {
                if (!record::wrongWith(row).empty()) {
                    ++out.senseless;
                    continue;
                }
                if (!put.put(row, wrong))
                    return false;
            }
            added = put.added();
            if (sent)
                mark = last(table.table);
            return true;
        };
        if (!all(rows::runs, from.runs, marks.runs, out.runs) ||
            !all(rows::entries, from.entries, marks.entries, out.entries) ||
            !all(rows::traces, from.traces, marks.traces, out.traces))
            return false;
        QSqlQuery twice(db);
        twice.prepare(QStringLiteral("SELECT count(*) FROM entries WHERE run = ? AND supersedes = ?"));
        for (const auto& e : from.entries) {
            if (e.supersedes.empty())
                continue;
            twice.bindValue(0, rows::textValue(e.run));
            twice.bindValue(1, rows::textValue(e.supersedes));
            if (twice.exec() && twice.next() && twice.value(0).toInt() > 1)
                out.told << tr("entry %1 has been corrected %2 times apart: all are kept")
                                .arg(q(e.supersedes))
                                .arg(twice.value(0).toInt());
        }
        out.told.removeDuplicates();
        QSqlQuery mark(db);
        mark.prepare(QStringLiteral("INSERT OR REPLACE INTO marks VALUES (?, ?, ?, ?, ?, ?)"));
        mark.addBindValue(server);
        for (const qint64 at : {marks.runs, marks.entries, marks.traces, marks.arrived})
            mark.addBindValue(at);
        mark.addBindValue(marks.last);
        if (mark.exec())
            return true;
        wrong = said(mark.lastError());
        return false;
    });
    if (!why.isEmpty())
        return Failure{why.toStdString()};
    return out;
}

Result<record::Log> LogFile::read(const Wanted& wanted) const {
    record::Log out;
    QSqlQuery query(database());
    query.setForwardOnly(true);
    QStringList where;
    if (!wanted.airframe.isEmpty())
        where << QStringLiteral("airframe = :airframe");
    if (!wanted.run.isEmpty())
        where << QStringLiteral("id = :run");
    QString which = where.isEmpty() ? QString() : QStringLiteral(" WHERE ") + where.join(QStringLiteral(" AND "));
    if (wanted.latest > 0)
        which += QStringLiteral(" ORDER BY began DESC, id DESC LIMIT %1").arg(wanted.latest);
    const auto bind = [&] {
        if (!wanted.airframe.isEmpty())
            query.bindValue(QStringLiteral(":airframe"), wanted.airframe);
        if (!wanted.run.isEmpty())
            query.bindValue(QStringLiteral(":run"), wanted.run);
    };
    query.prepare(QStringLiteral("SELECT %1 FROM runs%2").arg(rows::columnsOf(rows::runs), which));
    bind();
    if (!query.exec())
        return Failure{said(query.lastError()).toStdString()};
    while (query.next()) {
        Run r = rows::runOf(query);
        out.runs.emplace(r.id, std::move(r));
    }
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    if (which.isEmpty()) {
        query.prepare(QStringLiteral("SELECT %1 FROM entries").arg(rows::columnsOf(rows::entries)));
    } else {
        query.prepare(QStringLiteral("SELECT %1 FROM entries WHERE run IN (SELECT id FROM runs%2)")
                          .arg(rows::columnsOf(rows::entries), which));
        bind();
    }
    if (!query.exec())
        return Failure{said(query.lastError()).toStdString()};
    while (query.next())
        if (auto e = rows::entryOf(query))
            out.entries.emplace(e->id, std::move(*e));
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    return out;
}

Result<QStringList> LogFile::airframes() const {
    QStringList out;
    QSqlQuery query(database());
    query.exec(QStringLiteral("SELECT DISTINCT airframe FROM runs ORDER BY airframe"));
    while (query.next())
        out << query.value(0).toString();
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    return out;
}

Result<std::vector<record::Run>> LogFile::runs(const QString& airframe, int most) const {
    std::vector<record::Run> out;
    QSqlQuery query(database());
    query.setForwardOnly(true);
    query.prepare(
        QStringLiteral("SELECT %1 FROM runs%2 ORDER BY began DESC, id DESC LIMIT %3")
            .arg(rows::columnsOf(rows::runs), airframe.isEmpty() ? QString() : QStringLiteral(" WHERE airframe = ?"))
            .arg(most));
    if (!airframe.isEmpty())
        query.addBindValue(airframe);
    query.exec();
    while (query.next())
        out.push_back(rows::runOf(query));
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    return out;
}

} // namespace amber::app
