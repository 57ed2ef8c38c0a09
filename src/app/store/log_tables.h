// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QStringList>

/// The tables of a log, numbered, the same in a laptop's own file (SQLite) and in the log that a hangar shares
/// (PostgreSQL). Columns are TEXT, BIGINT and DOUBLE PRECISION only; rows of runs, entries and traces are never changed
/// and never taken out: the database itself refuses it.
namespace amber::app::tables {

enum class Database { sqlite, postgres };

inline constexpr int version = 4;
inline constexpr int lock = 7361; ///< of the server, advisory: who adds rows holds it to the end (our own number)

/// What brings the tables from the version before to this one. @param to 1 … version
QStringList migration(int to, Database database);

} // namespace amber::app::tables
