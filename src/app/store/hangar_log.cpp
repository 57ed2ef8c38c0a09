// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/hangar_log.h"
#include "store/log_rows.h"
#include "store/log_tables.h"
#include <QCoreApplication>
#include <QUrl>
#include <QUrlQuery>
#include <QUuid>
#include <algorithm>
#include <limits>
#include <span>

namespace amber::app {
namespace {
using rows::said;
constexpr int rowsAtOnce = 2000;            // rows of a table that go over in one transaction
constexpr std::size_t rowsAStatement = 100; // rows of one statement
constexpr qint64 everything = std::numeric_limits<qint64>::max();
const QString inTransaction = QStringLiteral("BEGIN");
const QString oneAtATime = QStringLiteral("SELECT pg_advisory_xact_lock(%1)").arg(tables::lock);

std::string kindNamed(const record::Run&) {
    return "run";
}
std::string kindNamed(const record::Entry&) {
    return "entry";
}
std::string kindNamed(const record::TraceBlock&) {
    return "trace";
}
record::Run readLike(const record::Run&, const QSqlQuery& row) {
    return rows::runOf(row);
}
record::Entry readLike(const record::Entry&, const QSqlQuery& row) {
    return rows::entryOf(row).value_or(record::Entry{});
}
record::TraceBlock readLike(const record::TraceBlock&, const QSqlQuery& row) {
    return rows::blockOf(row);
}
bool saysTheSame(const record::TraceBlock& a, const record::TraceBlock& b) {
    return a.id == b.id && a.run == b.run && a.values.size() == b.values.size(); // the id is of the content
}
template <class Row>
bool saysTheSame(const Row& a, const Row& b) {
    return a == b;
}

/// Whether a server refuses what a row says, and not the work as a whole (SQLSTATE classes 22 and 23).
bool refusesTheRow(const QSqlError& error) {
    return error.nativeErrorCode().startsWith(QLatin1String("22")) ||
           error.nativeErrorCode().startsWith(QLatin1String("23"));
}

/// Rows that are not there yet are put there; of the others it is told where they say something else. A row that the
/// server refuses is found by halving, left and told: one of them does not end the merge.
template <class Row>
bool putNew(QSqlDatabase& db, const rows::Kept& table, std::span<const Row> all, HangarLog::Exchanged& out,
            QString& why, std::size_t atOnce = rowsAStatement) {
    while (!all.empty()) {
        const auto some = all.first(std::min(atOnce, all.size()));
        all = all.subspan(some.size());
        const QString one = QLatin1Char('(') + rows::places(table.count) + QLatin1Char(')');
        QSqlQuery query(db);
        query.prepare(QStringLiteral("INSERT INTO %1 (%2) VALUES %3 ON CONFLICT (id) DO NOTHING RETURNING id")
                          .arg(QLatin1String(table.table), rows::columnsOf(table),
                               QStringList(static_cast<qsizetype>(some.size()), one).join(QStringLiteral(", "))));
        for (const Row& row : some)
            for (const auto& value : rows::valuesOf(row))
                query.addBindValue(value);
        QSqlQuery(db).exec(QStringLiteral("SAVEPOINT some_rows"));
        const bool put = query.exec();
        QSqlQuery(db).exec(put ? QStringLiteral("RELEASE SAVEPOINT some_rows")
                               : QStringLiteral("ROLLBACK TO SAVEPOINT some_rows"));
        if (!put && refusesTheRow(query.lastError())) {
            if (some.size() > 1) {
                if (!putNew(db, table, some, out, why, (some.size() + 1) / 2))
                    return false;
            } else {
                out.came.told << HangarLog::tr("%1 %2 was left: the server refuses it (%3)")
                                     .arg(QString::fromStdString(kindNamed(some.front())),
                                          QString::fromStdString(some.front().id), said(query.lastError()));
            }
            continue;
        }
        if (!put) {
            why = said(query.lastError());
            return false;
        }
        std::vector<std::string> fresh;
        while (query.next())
            fresh.push_back(query.value(0).toString().toStdString());
        out.sent += fresh.size();
        if (fresh.size() == some.size())
            continue;
        std::sort(fresh.begin(), fresh.end());
        for (const Row& row : some) {
            if (std::binary_search(fresh.begin(), fresh.end(), row.id))
                continue;
            QSqlQuery there(db);
            there.prepare(QStringLiteral("SELECT %1 FROM %2 WHERE id = ?")
                              .arg(rows::columnsOf(table), QLatin1String(table.table)));
            there.addBindValue(rows::textValue(row.id));
            if (!there.exec()) {
                why = said(there.lastError());
                return false;
            }
            if (there.next() && !saysTheSame(readLike(row, there), row))
                out.came.told << HangarLog::tr(
                                     "%1 %2 is there already and says something else: what was kept first stays")
                                     .arg(QString::fromStdString(kindNamed(row)), QString::fromStdString(row.id));
        }
    }
    return true;
}
} // namespace

bool HangarLog::isAddress(const QString& text) {
    return text.startsWith(QLatin1String("postgresql:")) || text.startsWith(QLatin1String("postgres:"));
}

QString HangarLog::wrongWith(const QString& address) {
    return isAddress(address) && QUrl(address, QUrl::StrictMode).isValid()
               ? QString()
               : tr("An address is written postgresql://user@host/name.");
}

QString HangarLog::shown(const QString& address) {
    QUrl url(address);
    if (!url.isValid())
        return tr("(the address)"); // it is not known what of it is a password
    QUrlQuery asked(url);
    for (const auto& [key, value] : asked.queryItems())
        if (key.contains(QLatin1String("passw"), Qt::CaseInsensitive) || key == QLatin1String("sslkey"))
            asked.removeQueryItem(key);
    url.setQuery(asked);
    return url.toString(QUrl::RemovePassword);
}

QStringList HangarLog::Exchanged::told() const {
    QStringList out;
    if (sent > 0)
        out << (sent == 1 ? tr("1 row went to the hangar's log.") : tr("%1 rows went to the hangar's log.").arg(sent));
    QStringList new_;
    const auto counted = [&](std::size_t n, const QString& one, const QString& more) {
        if (n > 0)
            new_ << QStringLiteral("%1 %2").arg(n).arg(n == 1 ? one : more);
    };
    counted(came.runs, tr("run"), tr("runs"));
    counted(came.entries, tr("entry"), tr("entries"));
    counted(came.traces, tr("block of a recorder's trace"), tr("blocks of recorders' traces"));
    if (!new_.isEmpty())
        out << tr("Came: %1.").arg(new_.join(QStringLiteral(", ")));
    if (out.isEmpty() && !stopped)
        out << tr("Nothing is new on either side.");
    if (came.senseless > 0)
        out << tr("%1 rows made no sense and were left.").arg(came.senseless);
    if (stopped)
        out << tr("It was stopped: the next time it goes on from here.");
    return out + came.told;
}

QSqlDatabase HangarLog::database() const {
    return QSqlDatabase::database(connection_, false);
}

QString HangarLog::connect(const QString& address) {
    const QUrl url(address, QUrl::StrictMode);
    if (const QString why = wrongWith(address); !why.isEmpty())
        return why;
    connection_ = QStringLiteral("hangar-") + QUuid::createUuid().toString(QUuid::WithoutBraces);
    QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QPSQL"), connection_);
    if (!db.isValid())
        return tr("Qt's driver for PostgreSQL is missing: install libqt6sql6-psql.");
    const QUrlQuery asked(url);
    QStringList options{QStringLiteral("connect_timeout=%1").arg(patience),
                        QStringLiteral("tcp_user_timeout=%1").arg(2000 * patience)};
    QString host = url.host();
    for (const auto& [key, value] : asked.queryItems(QUrl::FullyDecoded)) {
        if (key == QLatin1String("host"))
            host = value;
        else
            options << key + QLatin1Char('=') + value;
    }
    db.setHostName(host);
    if (url.port() > 0)
        db.setPort(url.port());
    db.setDatabaseName(url.path().mid(1));
    db.setUserName(url.userName(QUrl::FullyDecoded));
    db.setPassword(url.password(QUrl::FullyDecoded));
    db.setConnectOptions(options.join(QLatin1Char(';')));
    return db.open() ? QString() : said(db.lastError());
}

QString HangarLog::prepare() {
    QSqlDatabase db = database();
    for (const auto* setting : {"SET client_min_messages = warning", "SET lock_timeout = '10s'"})
        QSqlQuery(db).exec(QLatin1String(setting));
    return rows::inOneGo(db, inTransaction, [&](QSqlDatabase& d, QString& why) {
        const auto did = [&](const QString& sql) {
            QSqlQuery query(d);
            if (query.exec(sql))
                return true;
            why = said(query.lastError());
            return false;
        };
        // Two laptops that come to an empty database at once begin it once.
        if (!did(oneAtATime))
            return false;
        // What lacks letters that people write cannot keep their words; bytes that are left as they are can.
        QSqlQuery letters(d);
        const QString kept = letters.exec(QStringLiteral("SHOW server_encoding")) && letters.next()
                                 ? letters.value(0).toString()
                                 : tr("it does not say what");
        if (kept != QLatin1String("UTF8") && kept != QLatin1String("SQL_ASCII")) {
            why = tr("its letters are kept as %1, which lacks some that people write: make the database with ENCODING "
                     "'UTF8'. Nothing was changed.")
                      .arg(kept);
            return false;
        }
        int at = 0;
        const QStringList there = d.tables();
        if (there.contains(QStringLiteral("version")) && there.contains(QStringLiteral("entries"))) {
            QSqlQuery number(d);
            if (!number.exec(QStringLiteral("SELECT number FROM version")) || !number.next()) {
                why = tr("it does not say of which version it is");
                return false;
            }
            at = number.value(0).toInt();
        } else if (!there.isEmpty()) {
            why = tr("this database is another program's, no log. Nothing was changed.");
            return false;
        }
        if (at > tables::version) {
            why = tr("it was written by a newer program (version %1, this one knows %2). Nothing was changed.")
                      .arg(at)
                      .arg(tables::version);
            return false;
        }
        for (int v = at; v < tables::version; ++v)
            for (const auto& sql : tables::migration(v + 1, tables::Database::postgres))
                if (!did(sql))
                    return false;
        QSqlQuery id(d);
        if (!id.exec(QStringLiteral("SELECT id FROM identity")) || !id.next()) {
            why = said(id.lastError());
            return false;
        }
        id_ = id.value(0).toString();
        return true;
    });
}

Result<std::unique_ptr<HangarLog>> HangarLog::open(const QString& address) {
    std::unique_ptr<HangarLog> out(new HangarLog);
    QString why = out->connect(address);
    if (why.isEmpty())
        why = out->prepare();
    if (!why.isEmpty())
        return Failure{tr("The hangar's log at %1: %2").arg(shown(address), why).toStdString()};
    return out;
}

HangarLog::~HangarLog() {
    if (connection_.isEmpty())
        return;
    {
        QSqlDatabase db = database();
        db.close();
    }
    QSqlDatabase::removeDatabase(connection_);
}

Result<HangarLog::Arrival> HangarLog::arrival(qint64 number) const {
    QSqlQuery last(database());
    last.prepare(QStringLiteral("SELECT number, id FROM arrivals WHERE number <= ? ORDER BY number DESC LIMIT 1"));
    last.addBindValue(number);
    if (!last.exec())
        return Failure{said(last.lastError()).toStdString()};
    return last.next() ? Arrival{last.value(0).toLongLong(), last.value(1).toString()} : Arrival{};
}

QString HangarLog::send(const Batch& batch, LogFile::Marks& marks, Exchanged& out) {
    const auto fit = [&](const auto& all) {
        auto some = all;
        std::erase_if(some, [&](const auto& row) {
            const auto wrong = record::wrongWith(row);
            if (!wrong.empty())
                out.came.told << tr("left here: %1").arg(QString::fromStdString(wrong));
            return !wrong.empty();
        });
        return some;
    };
    const Batch sound{fit(batch.runs), fit(batch.entries), fit(batch.traces)};
    return rows::inOneGo(database(), inTransaction, [&](QSqlDatabase& db, QString& why) {
        QSqlQuery lock(db);
        if (!lock.exec(oneAtATime)) {
            why = said(lock.lastError());
            return false;
        }
        // Nobody else adds until this is over: where all that was there had come, one's own need not come back.
        const auto before = arrival(everything);
        if (!putNew(db, rows::runs, std::span<const record::Run>(sound.runs), out, why) ||
            !putNew(db, rows::entries, std::span<const record::Entry>(sound.entries), out, why) ||
            !putNew(db, rows::traces, std::span<const record::TraceBlock>(sound.traces), out, why))
            return false;
        const auto after = arrival(everything);
        if (!before || !after) {
            why = tr("it does not say what has come to it");
            return false;
        }
        if (before.value().number == marks.arrived) {
            marks.arrived = after.value().number;
            marks.last = after.value().id;
        }
        return true;
    });
}

/// The next rows by the order in which they have come there, and the mark moved behind them.
Result<Batch> HangarLog::next(LogFile::Marks& marks, std::size_t& senseless) {
    Batch out;
    QSqlDatabase db = database();
    QSqlQuery last(db);
    last.prepare(
        QStringLiteral("SELECT number, id FROM (SELECT number, id FROM arrivals WHERE number > ? ORDER BY number "
                       "LIMIT %1) AS coming ORDER BY number DESC LIMIT 1")
            .arg(rowsAtOnce));
    last.addBindValue(marks.arrived);
    if (!last.exec())
        return Failure{said(last.lastError()).toStdString()};
    if (!last.next())
        return out;
    const Arrival to{last.value(0).toLongLong(), last.value(1).toString()};
    const auto read = [&](const rows::Kept& table, const auto& take) {
        QSqlQuery query(db);
        query.setForwardOnly(true);
        query.prepare(QStringLiteral("SELECT %1 FROM arrivals a JOIN %2 t ON t.id = a.id WHERE a.kept = '%2' AND "
                                     "a.number > ? AND a.number <= ? ORDER BY a.number")
                          .arg(rows::columnsOf(table, QStringLiteral("t.")), QLatin1String(table.table)));
        query.addBindValue(marks.arrived);
        query.addBindValue(to.number);
        query.exec();
        while (query.next())
            take(query);
        return said(query.lastError());
    };
    QString why = read(rows::runs, [&](const QSqlQuery& row) { out.runs.push_back(rows::runOf(row)); });
    if (why.isEmpty())
        why = read(rows::entries, [&](const QSqlQuery& row) {
            if (auto entry = rows::entryOf(row))
                out.entries.push_back(std::move(*entry));
            else
                ++senseless;
        });
    if (why.isEmpty())
        why = read(rows::traces, [&](const QSqlQuery& row) { out.traces.push_back(rows::blockOf(row)); });
    if (!why.isEmpty())
        return Failure{why.toStdString()};
    marks.arrived = to.number;
    marks.last = to.id;
    return out;
}

Result<HangarLog::Exchanged> HangarLog::merge(LogFile& own, const std::function<bool(std::size_t)>& goOn) {
    Exchanged out;
    std::size_t gone = 0;
    const auto known = own.marks(id_);
    if (!known)
        return Failure{known.error()};
    LogFile::Marks marks = known.value();
    // Where another row has the number of the one that came last, the server was put back from an older copy: all of it
    // goes over again.
    const auto there = arrival(marks.arrived);
    if (!there)
        return Failure{there.error()};
    if (there.value().number != marks.arrived || there.value().id != marks.last)
        marks = {};
    const auto keptOn = [&](std::size_t rows) {
        gone += rows;
        out.stopped = out.stopped || (goOn && !goOn(gone));
        return !out.stopped;
    };
    while (!out.stopped) {
        auto moved = marks;
        const auto batch = own.since(moved, rowsAtOnce);
        if (!batch)
            return Failure{batch.error()};
        if (moved == marks)
            break;
        if (const QString why = send(batch.value(), moved, out); !why.isEmpty())
            return Failure{why.toStdString()};
        marks = moved;
        if (const auto kept = own.takeIn(id_, {}, marks); !kept)
            return Failure{kept.error()};
        keptOn(batch.value().size());
    }
    while (!out.stopped) {
        auto moved = marks;
        const auto batch = next(moved, out.came.senseless);
        if (!batch)
            return Failure{batch.error()};
        if (moved == marks)
            break;
        const auto taken = own.takeIn(id_, batch.value(), moved);
        if (!taken)
            return Failure{taken.error()};
        marks = moved;
        const auto& t = taken.value();
        out.came.runs += t.runs;
        out.came.entries += t.entries;
        out.came.traces += t.traces;
        out.came.senseless += t.senseless;
        out.came.told += t.told;
        keptOn(batch.value().size());
    }
    out.came.told.removeDuplicates();
    return out;
}

} // namespace amber::app
