// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/log_file.h"
#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QStandardPaths>
#include <QUuid>
#include <QVariant>
#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <iterator>
#include <limits>
#include <optional>

namespace amber::app {
namespace {
using record::Entry;
using record::Run;

QString tr(const char* text) {
    return QCoreApplication::translate("LogFile", text);
}
QString q(const std::string& text) {
    return QString::fromStdString(text);
}

constexpr auto corrupt = "11";      // SQLITE_CORRUPT
constexpr auto noDatabase = "26";   // SQLITE_NOTADB
constexpr qint64 small = 4'000'000; // bytes: read in some tens of milliseconds

QString said(const QSqlError& error) {
    QString out = error.databaseText();
    if (error.nativeErrorCode() == QLatin1String(corrupt))
        out += tr(". The log is damaged: amber-throttle log check takes what can still be read into a new one.");
    return out;
}

/// What brings the tables from each version to the next. Columns are TEXT, BIGINT and DOUBLE only.
const std::array<QStringList, LogFile::version> migrations{
    QStringList{QStringLiteral("CREATE TABLE version (number BIGINT)"),
                QStringLiteral("INSERT INTO version VALUES (1)"),
                QStringLiteral("CREATE TABLE runs (id TEXT PRIMARY KEY, airframe TEXT, type TEXT, title TEXT, began "
                               "BIGINT, sortie TEXT)"),
                QStringLiteral("CREATE TABLE entries (id TEXT PRIMARY KEY, run TEXT, supersedes TEXT, at BIGINT, rough "
                               "BIGINT, entered BIGINT, who TEXT, phase TEXT, engine TEXT, what TEXT, kind TEXT, value "
                               "DOUBLE, planned DOUBLE, words TEXT)")},
    QStringList{
        QStringLiteral("CREATE INDEX runs_of ON runs (airframe, began)"),
        QStringLiteral("CREATE INDEX entries_of ON entries (run)"),
        QStringLiteral("CREATE TRIGGER runs_stay BEFORE UPDATE ON runs BEGIN SELECT RAISE(ABORT, 'runs are never "
                       "changed'); END"),
        QStringLiteral("CREATE TRIGGER runs_remain BEFORE DELETE ON runs BEGIN SELECT RAISE(ABORT, 'runs are never "
                       "taken out'); END"),
        QStringLiteral("CREATE TRIGGER entries_stay BEFORE UPDATE ON entries BEGIN SELECT RAISE(ABORT, 'entries are "
                       "never changed: add one that supersedes'); END"),
        QStringLiteral("CREATE TRIGGER entries_remain BEFORE DELETE ON entries BEGIN SELECT RAISE(ABORT, 'entries are "
                       "never taken out: add one that withdraws'); END"),
        // For people with an SQLite tool: what stands, by the calendar.
        QStringLiteral(
            "CREATE VIEW readings AS SELECT r.airframe, datetime(e.at / 1000, 'unixepoch') AS time, e.phase, "
            "e.engine, e.what, e.kind, e.value, e.planned, e.words, e.who, e.run, e.id FROM entries e JOIN "
            "runs r ON r.id = e.run WHERE e.kind <> 'withdrawn' AND NOT EXISTS (SELECT 1 FROM entries c "
            "WHERE c.supersedes = e.id AND c.run = e.run)"),
        QStringLiteral("UPDATE version SET number = 2")},
    QStringList{
        QStringLiteral("ALTER TABLE entries ADD COLUMN about TEXT"),
        QStringLiteral("ALTER TABLE entries ADD COLUMN lasted DOUBLE"),
        QStringLiteral("CREATE TABLE traces (id TEXT PRIMARY KEY, run TEXT, source TEXT, engine TEXT, quantity TEXT, "
                       "start BIGINT, step BIGINT, samples TEXT)"),
        QStringLiteral("CREATE INDEX traces_of ON traces (run)"),
        QStringLiteral("CREATE TRIGGER traces_stay BEFORE UPDATE ON traces BEGIN SELECT RAISE(ABORT, 'traces are never "
                       "changed'); END"),
        QStringLiteral("CREATE TRIGGER traces_remain BEFORE DELETE ON traces BEGIN SELECT RAISE(ABORT, 'traces are "
                       "never taken out'); END"),
        // For people with an SQLite tool: a line a sample.
        QStringLiteral("CREATE VIEW recorded AS SELECT r.airframe, datetime((t.start + s.key * t.step) / 1000, "
                       "'unixepoch') AS time, t.engine, t.quantity, s.value, t.source, t.run FROM traces t JOIN runs r "
                       "ON r.id = t.run, json_each(t.samples) s WHERE s.value IS NOT NULL"),
        QStringLiteral("UPDATE version SET number = 3")}};

const QString runColumns = QStringLiteral("id, airframe, type, title, began, sortie");
const QString entryColumns = QStringLiteral(
    "id, run, supersedes, at, rough, entered, who, phase, engine, what, kind, value, planned, words, about, lasted");

Run runOf(const QSqlQuery& row) {
    return {row.value(0).toString().toStdString(),
            row.value(1).toString().toStdString(),
            row.value(2).toString().toStdString(),
            row.value(3).toString().toStdString(),
            row.value(4).toLongLong(),
            row.value(5).toString().toStdString()};
}
/// Nothing of a row that no log writes.
std::optional<Entry> entryOf(const QSqlQuery& row) {
    Entry e;
    const auto text = [&](int i) { return row.value(i).toString().toStdString(); };
    e.id = text(0);
    e.run = text(1);
    e.supersedes = text(2);
    e.at = row.value(3).toLongLong();
    e.rough = row.value(4).toLongLong() != 0;
    e.entered = row.value(5).toLongLong();
    e.who = text(6);
    const auto phase = phaseFromKey(text(7));
    e.engine = text(8);
    e.what = text(9);
    const auto kind = record::kindFromKey(text(10));
    if (!phase || !kind)
        return std::nullopt;
    e.phase = *phase;
    e.kind = *kind;
    e.value = row.value(11).toDouble();
    if (!row.value(12).isNull())
        e.planned = row.value(12).toDouble();
    e.words = text(13);
    e.about = text(14); // null in rows of an older log
    if (!row.value(15).isNull())
        e.lasted = row.value(15).toDouble();
    return e;
}

QVariant textValue(const std::string& text) {
    const QString out = q(text);
    return out.isNull() ? QVariant(QStringLiteral("")) : QVariant(out);
}

bool insert(QSqlDatabase& db, const Run& r, QString& why) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO runs (%1) VALUES (?, ?, ?, ?, ?, ?)").arg(runColumns));
    for (const auto& text : {r.id, r.airframe, r.type, r.title})
        query.addBindValue(textValue(text));
    query.addBindValue(static_cast<qlonglong>(r.began));
    query.addBindValue(textValue(r.sortie));
    if (query.exec())
        return true;
    why = said(query.lastError());
    return false;
}
bool insert(QSqlDatabase& db, const Entry& e, QString& why) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO entries (%1) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
                      .arg(entryColumns));
    for (const auto& text : {e.id, e.run, e.supersedes})
        query.addBindValue(textValue(text));
    query.addBindValue(static_cast<qlonglong>(e.at));
    query.addBindValue(static_cast<qlonglong>(e.rough ? 1 : 0));
    query.addBindValue(static_cast<qlonglong>(e.entered));
    for (const auto& text : {e.who, std::string(keyOf(e.phase)), e.engine, e.what, std::string(record::keyOf(e.kind))})
        query.addBindValue(textValue(text));
    query.addBindValue(e.value);
    query.addBindValue(e.planned ? QVariant(*e.planned) : QVariant(QMetaType::fromType<double>()));
    query.addBindValue(textValue(e.words));
    query.addBindValue(textValue(e.about));
    query.addBindValue(e.lasted ? QVariant(*e.lasted) : QVariant(QMetaType::fromType<double>()));
    if (query.exec())
        return true;
    why = said(query.lastError());
    return false;
}

/// Samples as an array in JSON, null where nothing was written.
QString samplesText(const std::vector<float>& values) {
    std::string out = "[";
    for (const float v : values) {
        if (out.size() > 1)
            out += ',';
        if (std::isnan(v))
            out += "null";
        else
            fmt::format_to(std::back_inserter(out), "{:.9g}", v);
    }
    return QString::fromStdString(out + "]");
}
std::vector<float> samplesFrom(const QString& text) {
    std::vector<float> out;
    const QByteArray all = text.toLatin1();
    if (!all.startsWith('[') || !all.endsWith(']'))
        return out;
    for (const QByteArray& one : all.mid(1, all.size() - 2).split(',')) {
        bool is = false;
        const float v = one.toFloat(&is);
        out.push_back(is ? v : std::numeric_limits<float>::quiet_NaN());
    }
    return out;
}
const QString traceColumns = QStringLiteral("id, run, source, engine, quantity, start, step, samples");

record::TraceBlock blockOf(const QSqlQuery& row) {
    record::TraceBlock b;
    const auto text = [&](int i) { return row.value(i).toString().toStdString(); };
    b.id = text(0);
    b.run = text(1);
    b.source = text(2);
    b.engine = text(3);
    b.quantity = text(4);
    b.start = row.value(5).toLongLong();
    b.step = row.value(6).toLongLong();
    b.values = samplesFrom(row.value(7).toString());
    return b;
}
bool insertNew(QSqlQuery& query, const record::TraceBlock& b, QString& why) {
    int at = 0;
    for (const auto& text : {b.id, b.run, b.source, b.engine, b.quantity})
        query.bindValue(at++, textValue(text));
    query.bindValue(at++, static_cast<qlonglong>(b.start));
    query.bindValue(at++, static_cast<qlonglong>(b.step));
    query.bindValue(at, samplesText(b.values));
    if (query.exec())
        return true;
    why = said(query.lastError());
    return false;
}

/// All that is done, or nothing of it.
QString inOneGo(QSqlDatabase db, const std::function<bool(QSqlDatabase&, QString&)>& work) {
    QSqlQuery begin(db);
    if (!begin.exec(QStringLiteral("BEGIN IMMEDIATE")))
        return said(begin.lastError());
    begin.finish();
    QString why;
    if (!work(db, why)) {
        QSqlQuery(db).exec(QStringLiteral("ROLLBACK"));
        return why.isEmpty() ? tr("It could not be kept.") : why;
    }
    QSqlQuery commit(db);
    if (!commit.exec(QStringLiteral("COMMIT"))) {
        why = said(commit.lastError());
        QSqlQuery(db).exec(QStringLiteral("ROLLBACK"));
        return why;
    }
    return {};
}

/// A name beside a file that is not taken yet.
QString besides(const QString& path, const QString& suffix) {
    QString out = path + suffix;
    for (int i = 2; QFileInfo::exists(out); ++i)
        out = path + suffix + QString::number(i);
    return out;
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
    db.setConnectOptions(QStringLiteral("QSQLITE_BUSY_TIMEOUT=%1").arg(patience));
    if (!db.open())
        return said(db.lastError());
    return {};
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
    return inOneGo(db, [&](QSqlDatabase& d, QString& why) {
        for (int v = at; v < version; ++v)
            for (const auto& sql : migrations[static_cast<std::size_t>(v)]) {
                QSqlQuery query(d);
                if (!query.exec(sql)) {
                    why = stopped(query.lastError());
                    return false;
                }
            }
        return true;
    });
}

/// Takes what can be read of a damaged file into a new one.
QString LogFile::rescue() {
    {
        QSqlDatabase db = database();
        db.close();
    }
    QSqlDatabase::removeDatabase(connection_);
    const QString damaged = besides(path_, QStringLiteral(".damaged"));
    if (!QFile::rename(path_, damaged))
        return tr("It is damaged and cannot be put aside as %1.").arg(damaged);
    for (const auto* more : {"-wal", "-shm"})
        if (QFileInfo::exists(path_ + QLatin1String(more)))
            QFile::rename(path_ + QLatin1String(more), damaged + QLatin1String(more));
    if (const QString why = connect(); !why.isEmpty())
        return why;
    if (const QString why = prepare(false); !why.isEmpty())
        return why;

    record::Log found;
    std::vector<record::TraceBlock> blocks;
    qint64 lost = 0;
    const QString old = connection_ + QStringLiteral("-damaged");
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), old);
        db.setDatabaseName(damaged);
        if (db.open()) {
            // Block by block, and row by row where one cannot be read: behind a page that is gone there are others.
            const auto rows = [&](const QString& table, const QString& columns, const auto& take) {
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
            rows(QStringLiteral("runs"), runColumns, [&](const QSqlQuery& row) {
                const Run r = runOf(row);
                const bool well = record::wrongWith(r).empty();
                if (well)
                    found.runs.try_emplace(r.id, r);
                lost += well ? 0 : 1;
            });
            rows(QStringLiteral("entries"), entryColumns, [&](const QSqlQuery& row) {
                const auto e = entryOf(row);
                const bool well = e && record::wrongWith(*e).empty();
                if (well)
                    found.entries.try_emplace(e->id, *e);
                lost += well ? 0 : 1;
            });
            rows(QStringLiteral("traces"), traceColumns, [&](const QSqlQuery& row) {
                auto b = blockOf(row);
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
        return q(merged.error());
    if (const auto kept = keepTrace(blocks, {}); !kept)
        return q(kept.error());
    told_ << tr("The log was damaged. What could still be read of it, %1 runs and %2 entries, is in a new one; the "
                "damaged "
                "one is kept as %3: an SQLite tool may find more.")
                 .arg(found.runs.size())
                 .arg(found.entries.size())
                 .arg(damaged);
    if (lost > 0)
        told_ << tr("%1 rows made no sense and were left.").arg(lost);
    return {};
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
        check == Check::thorough || size < small || QFileInfo(out->path_ + QStringLiteral("-wal")).size() > 0;
    QString why = out->connect();
    if (why.isEmpty())
        why = out->prepare(thorough);
    if (!why.isEmpty() && wasThere && out->damaged_) {
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
    return out;
}

QString LogFile::usual() {
    return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + QStringLiteral("/log.sqlite");
}

LogFile::~LogFile() {
    if (connection_.isEmpty())
        return;
    {
        QSqlDatabase db = QSqlDatabase::database(connection_, false);
        db.close();
    }
    QSqlDatabase::removeDatabase(connection_);
}

QString LogFile::add(const record::Run& run) {
    if (const auto wrong = record::wrongWith(run); !wrong.empty())
        return q(wrong);
    return inOneGo(database(), [&](QSqlDatabase& db, QString& why) { return insert(db, run, why); });
}

QString LogFile::add(const record::Entry& entry) {
    if (const auto wrong = record::wrongWith(entry); !wrong.empty())
        return q(wrong);
    return inOneGo(database(), [&](QSqlDatabase& db, QString& why) { return insert(db, entry, why); });
}

QString LogFile::append(const record::Log& news) {
    for (const auto& [id, run] : news.runs)
        if (const auto wrong = record::wrongWith(run); !wrong.empty())
            return q(wrong);
    for (const auto& [id, entry] : news.entries)
        if (const auto wrong = record::wrongWith(entry); !wrong.empty())
            return q(wrong);
    return inOneGo(database(), [&](QSqlDatabase& db, QString& why) {
        return std::all_of(news.runs.begin(), news.runs.end(),
                           [&](const auto& r) { return insert(db, r.second, why); }) &&
               std::all_of(news.entries.begin(), news.entries.end(),
                           [&](const auto& e) { return insert(db, e.second, why); });
    });
}

Result<record::Merged> LogFile::merge(const record::Log& from) {
    record::Merged out;
    const QString why = inOneGo(database(), [&](QSqlDatabase& db, QString& wrong) {
        // Inside the transaction: nobody writes between what is read and what is added.
        auto there = read();
        if (!there) {
            wrong = q(there.error());
            return false;
        }
        const record::Log before = there.value();
        out = record::merge(there.value(), from);
        for (const auto& [id, run] : there.value().runs)
            if (!before.runs.contains(id) && !insert(db, run, wrong))
                return false;
        for (const auto& [id, entry] : there.value().entries)
            if (!before.entries.contains(id) && !insert(db, entry, wrong))
                return false;
        return true;
    });
    if (!why.isEmpty())
        return Failure{why.toStdString()};
    return out;
}

Result<std::size_t> LogFile::keepTrace(const std::vector<record::TraceBlock>& blocks,
                                       const std::vector<record::Entry>& entries) {
    for (const auto& b : blocks)
        if (const auto wrong = record::wrongWith(b); !wrong.empty())
            return Failure{wrong};
    std::size_t added = 0;
    const QString why = inOneGo(database(), [&](QSqlDatabase& db, QString& wrong) {
        QSqlQuery put(db), there(db);
        put.prepare(
            QStringLiteral("INSERT OR IGNORE INTO traces (%1) VALUES (?, ?, ?, ?, ?, ?, ?, ?)").arg(traceColumns));
        for (const auto& b : blocks) {
            if (!insertNew(put, b, wrong))
                return false;
            added += put.numRowsAffected() > 0 ? 1 : 0;
        }
        there.prepare(QStringLiteral("SELECT 1 FROM entries WHERE id = ?"));
        for (const auto& e : entries) {
            if (const auto no = record::wrongWith(e); !no.empty()) {
                wrong = q(no);
                return false;
            }
            there.bindValue(0, textValue(e.id));
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
    query.prepare(QStringLiteral("SELECT %1 FROM traces%2 ORDER BY start, id")
                      .arg(traceColumns, run.isEmpty() ? QString() : QStringLiteral(" WHERE run = ?")));
    if (!run.isEmpty())
        query.addBindValue(run);
    query.exec();
    while (query.next())
        if (auto b = blockOf(query); record::wrongWith(b).empty())
            out.push_back(std::move(b));
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
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
    query.prepare(QStringLiteral("SELECT %1 FROM runs%2").arg(runColumns, which));
    bind();
    if (!query.exec())
        return Failure{said(query.lastError()).toStdString()};
    while (query.next()) {
        Run r = runOf(query);
        out.runs.emplace(r.id, std::move(r));
    }
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    if (which.isEmpty()) {
        query.prepare(QStringLiteral("SELECT %1 FROM entries").arg(entryColumns));
    } else {
        query.prepare(
            QStringLiteral("SELECT %1 FROM entries WHERE run IN (SELECT id FROM runs%2)").arg(entryColumns, which));
        bind();
    }
    if (!query.exec())
        return Failure{said(query.lastError()).toStdString()};
    while (query.next())
        if (auto e = entryOf(query))
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
    query.prepare(QStringLiteral("SELECT %1 FROM runs%2 ORDER BY began DESC, id DESC LIMIT %3")
                      .arg(runColumns, airframe.isEmpty() ? QString() : QStringLiteral(" WHERE airframe = ?"))
                      .arg(most));
    if (!airframe.isEmpty())
        query.addBindValue(airframe);
    query.exec();
    while (query.next())
        out.push_back(runOf(query));
    if (query.lastError().isValid())
        return Failure{said(query.lastError()).toStdString()};
    return out;
}

} // namespace amber::app
