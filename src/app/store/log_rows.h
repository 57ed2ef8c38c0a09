// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/log.h"
#include "record/trace.h"
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QString>
#include <QVariant>
#include <functional>
#include <optional>

/// Rows of a log's tables, the same in SQLite and in PostgreSQL.
namespace amber::app::rows {

/// One of the three tables that hold what is kept.
struct Kept {
    const char* table;
    const char* columns; ///< id first
    int count;           ///< of them
};
inline constexpr Kept runs{"runs", "id, airframe, type, title, began, sortie", 6};
inline constexpr Kept entries{"entries",
                              "id, run, supersedes, at, rough, entered, who, phase, engine, what, kind, value, "
                              "planned, words, about, lasted",
                              16};
inline constexpr Kept traces{"traces", "id, run, source, engine, quantity, start, step, samples", 8};
/// "id, run"; with a prefix "e.id, e.run"
QString columnsOf(const Kept& table, const QString& prefix = {});
/// "?, ?, ?"
QString places(int count);

/// @param first column of the query that the row begins with
record::Run runOf(const QSqlQuery& row, int first = 0);
/// Nothing of a row that no log writes.
std::optional<record::Entry> entryOf(const QSqlQuery& row, int first = 0);
record::TraceBlock blockOf(const QSqlQuery& row, int first = 0);

/// Values in the order of the columns.
QVariantList valuesOf(const record::Run& run);
QVariantList valuesOf(const record::Entry& entry);
QVariantList valuesOf(const record::TraceBlock& block);
QVariant textValue(const std::string& text); ///< empty, not null

/// What a database says, and what to do of it.
QString said(const QSqlError& error);
/// All that is done, or nothing of it. @param begin how a transaction is begun there @return why not, or empty
QString inOneGo(QSqlDatabase db, const QString& begin, const std::function<bool(QSqlDatabase& db, QString& why)>& work);

} // namespace amber::app::rows
