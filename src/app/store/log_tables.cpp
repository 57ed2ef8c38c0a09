// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/log_tables.h"

namespace amber::app::tables {
namespace {
QString text(const char* sql) {
    return QString::fromLatin1(sql);
}

/// Rows of a table stay as they are. @param hint what to do instead
QStringList stays(const char* table, const char* hint, Database database) {
    const QString name = text(table);
    if (database == Database::postgres)
        return {text("CREATE TRIGGER %1_stay BEFORE UPDATE OR DELETE OR TRUNCATE ON %1 FOR EACH STATEMENT EXECUTE "
                     "FUNCTION log_stays('%1 are never changed nor taken out%2')")
                    .arg(name, text(hint))};
    return {text("CREATE TRIGGER %1_stay BEFORE UPDATE ON %1 BEGIN SELECT RAISE(ABORT, '%1 are never changed%2'); END")
                .arg(name, text(hint)),
            text("CREATE TRIGGER %1_remain BEFORE DELETE ON %1 BEGIN SELECT RAISE(ABORT, '%1 are never taken out%2'); "
                 "END")
                .arg(name, text(hint))};
}

QStringList first() {
    return {text("CREATE TABLE version (number BIGINT)"), text("INSERT INTO version VALUES (1)"),
            text("CREATE TABLE runs (id TEXT PRIMARY KEY, airframe TEXT, type TEXT, title TEXT, began BIGINT, sortie "
                 "TEXT)"),
            text("CREATE TABLE entries (id TEXT PRIMARY KEY, run TEXT, supersedes TEXT, at BIGINT, rough BIGINT, "
                 "entered BIGINT, who TEXT, phase TEXT, engine TEXT, what TEXT, kind TEXT, value DOUBLE PRECISION, "
                 "planned DOUBLE PRECISION, words TEXT)")};
}

QStringList second(Database database) {
    QStringList out{text("CREATE INDEX runs_of ON runs (airframe, began)"),
                    text("CREATE INDEX entries_of ON entries (run)")};
    if (database == Database::postgres)
        out << text("CREATE FUNCTION log_stays() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION '%', "
                    "TG_ARGV[0]; END $$");
    out << stays("runs", "", database)
        << stays("entries", ": add one that supersedes or withdraws", database)
        // For people with a tool of their own: what stands, by the calendar.
        << text("CREATE VIEW readings AS SELECT r.airframe, %1 AS time, e.phase, e.engine, e.what, e.kind, e.value, "
                "e.planned, e.words, e.who, e.run, e.id FROM entries e JOIN runs r ON r.id = e.run WHERE e.kind <> "
                "'withdrawn' AND NOT EXISTS (SELECT 1 FROM entries c WHERE c.supersedes = e.id AND c.run = e.run)")
               .arg(database == Database::postgres
                        ? text("to_char(to_timestamp(e.at / 1000) AT TIME ZONE 'UTC', 'YYYY-MM-DD HH24:MI:SS')")
                        : text("datetime(e.at / 1000, 'unixepoch')"));
    return out;
}

QStringList third(Database database) {
    QStringList out{text("ALTER TABLE entries ADD COLUMN about TEXT"),
                    text("ALTER TABLE entries ADD COLUMN lasted DOUBLE PRECISION"),
                    text("CREATE TABLE traces (id TEXT PRIMARY KEY, run TEXT, source TEXT, engine TEXT, quantity "
                         "TEXT, start BIGINT, step BIGINT, samples TEXT)"),
                    text("CREATE INDEX traces_of ON traces (run)")};
    out << stays("traces", "", database);
    // For people with a tool of their own: a line a sample.
    if (database == Database::postgres)
        out << text("CREATE VIEW recorded AS SELECT r.airframe, to_char(to_timestamp((t.start + (s.nth - 1) * t.step) "
                    "/ 1000) AT TIME ZONE 'UTC', 'YYYY-MM-DD HH24:MI:SS') AS time, t.engine, t.quantity, "
                    "s.value::text::double precision AS value, t.source, t.run FROM traces t JOIN runs r ON r.id = "
                    "t.run, json_array_elements(t.samples::json) WITH ORDINALITY AS s(value, nth) WHERE "
                    "json_typeof(s.value) = 'number'");
    else
        out << text("CREATE VIEW recorded AS SELECT r.airframe, datetime((t.start + s.key * t.step) / 1000, "
                    "'unixepoch') AS time, t.engine, t.quantity, s.value, t.source, t.run FROM traces t JOIN runs r ON "
                    "r.id = t.run, json_each(t.samples) s WHERE s.value IS NOT NULL");
    return out;
}

/// What a merge with a shared log needs: there, in which order rows have come; in a laptop's file, how far it has got
/// with each such log.
QStringList fourth(Database database) {
    QStringList out{
        text("CREATE TABLE identity (id TEXT)"),
        text("INSERT INTO identity VALUES (%1)")
            .arg(database == Database::postgres ? text("md5(random()::text || clock_timestamp()::text)")
                                                : text("lower(hex(randomblob(16)))")),
        text("CREATE TABLE marks (server TEXT PRIMARY KEY, runs BIGINT, entries BIGINT, traces BIGINT, arrived "
             "BIGINT, last TEXT)"),
        text("CREATE TABLE arrivals (number BIGINT PRIMARY KEY, kept TEXT, id TEXT)"),
    };
    if (database != Database::postgres)
        return out;
    // Who adds anything holds the lock to the end of the transaction: so numbers become visible in their order, and who
    // has read up to one of them has missed none before it.
    out << text("CREATE SEQUENCE arrival")
        << text("CREATE FUNCTION log_arrives() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM "
                "pg_advisory_xact_lock(%1); INSERT INTO arrivals (number, kept, id) VALUES (nextval('arrival'), "
                "TG_TABLE_NAME, NEW.id); RETURN NULL; END $$")
               .arg(lock);
    for (const char* table : {"runs", "entries", "traces"}) {
        out << text("CREATE TRIGGER %1_arrive AFTER INSERT ON %1 FOR EACH ROW EXECUTE FUNCTION log_arrives()")
                   .arg(text(table));
        // What was there before this version.
        out << text("INSERT INTO arrivals (number, kept, id) SELECT nextval('arrival'), '%1', id FROM %1")
                   .arg(text(table));
    }
    return out << stays("arrivals", "", database);
}
} // namespace

QStringList migration(int to, Database database) {
    QStringList out = to == 1 ? first() : to == 2 ? second(database) : to == 3 ? third(database) : fourth(database);
    if (to > 1)
        out << text("UPDATE version SET number = %1").arg(to);
    return out;
}

} // namespace amber::app::tables
