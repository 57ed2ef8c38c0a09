// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/log_rows.h"
#include <QCoreApplication>
#include <QStringList>

namespace amber::app::rows {
namespace {
constexpr auto corruptPages = "11"; // SQLITE_CORRUPT

QVariant numberValue(const std::optional<double>& number) {
    return number ? QVariant(*number) : QVariant(QMetaType::fromType<double>());
}
} // namespace

QString columnsOf(const Kept& table, const QString& prefix) {
    const QString all = QString::fromLatin1(table.columns);
    return prefix.isEmpty() ? all : prefix + QString(all).replace(QStringLiteral(", "), QStringLiteral(", ") + prefix);
}

QString places(int count) {
    return QStringList(count, QStringLiteral("?")).join(QStringLiteral(", "));
}

record::Run runOf(const QSqlQuery& row, int first) {
    const auto text = [&](int i) { return row.value(first + i).toString().toStdString(); };
    return {text(0), text(1), text(2), text(3), row.value(first + 4).toLongLong(), text(5)};
}

std::optional<record::Entry> entryOf(const QSqlQuery& row, int first) {
    record::Entry e;
    const auto value = [&](int i) { return row.value(first + i); };
    const auto text = [&](int i) { return value(i).toString().toStdString(); };
    e.id = text(0);
    e.run = text(1);
    e.supersedes = text(2);
    e.at = value(3).toLongLong();
    e.rough = value(4).toLongLong() != 0;
    e.entered = value(5).toLongLong();
    e.who = text(6);
    const auto phase = phaseFromKey(text(7));
    e.engine = text(8);
    e.what = text(9);
    const auto kind = record::kindFromKey(text(10));
    if (!phase || !kind)
        return std::nullopt;
    e.phase = *phase;
    e.kind = *kind;
    e.value = value(11).toDouble();
    if (!value(12).isNull())
        e.planned = value(12).toDouble();
    e.words = text(13);
    e.about = text(14); // null in rows of an older log
    if (!value(15).isNull())
        e.lasted = value(15).toDouble();
    return e;
}

record::TraceBlock blockOf(const QSqlQuery& row, int first) {
    record::TraceBlock b;
    const auto text = [&](int i) { return row.value(first + i).toString().toStdString(); };
    b.id = text(0);
    b.run = text(1);
    b.source = text(2);
    b.engine = text(3);
    b.quantity = text(4);
    b.start = row.value(first + 5).toLongLong();
    b.step = row.value(first + 6).toLongLong();
    b.values = record::samplesFrom(text(7));
    return b;
}

QVariant textValue(const std::string& text) {
    const QString out = QString::fromStdString(text);
    return out.isNull() ? QVariant(QStringLiteral("")) : QVariant(out);
}

QVariantList valuesOf(const record::Run& r) {
    return {textValue(r.id),    textValue(r.airframe),           textValue(r.type),
            textValue(r.title), static_cast<qlonglong>(r.began), textValue(r.sortie)};
}

QVariantList valuesOf(const record::Entry& e) {
    return {textValue(e.id),
            textValue(e.run),
            textValue(e.supersedes),
            static_cast<qlonglong>(e.at),
            static_cast<qlonglong>(e.rough ? 1 : 0),
            static_cast<qlonglong>(e.entered),
            textValue(e.who),
            textValue(std::string(keyOf(e.phase))),
            textValue(e.engine),
            textValue(e.what),
            textValue(std::string(record::keyOf(e.kind))),
            e.value,
            numberValue(e.planned),
            textValue(e.words),
            textValue(e.about),
            numberValue(e.lasted)};
}

QVariantList valuesOf(const record::TraceBlock& b) {
    return {textValue(b.id),
            textValue(b.run),
            textValue(b.source),
            textValue(b.engine),
            textValue(b.quantity),
            static_cast<qlonglong>(b.start),
            static_cast<qlonglong>(b.step),
            QString::fromStdString(record::samplesText(b.values))};
}

QString said(const QSqlError& error) {
    QString out = error.databaseText().trimmed();
    if (out.isEmpty())
        out = error.driverText().trimmed();
    if (error.nativeErrorCode() == QLatin1String(corruptPages))
        out += QCoreApplication::translate(
            "LogFile", ". The log is damaged: amber-throttle log check takes what can still be read into a new one.");
    return out;
}

QString inOneGo(QSqlDatabase db, const QString& begin, const std::function<bool(QSqlDatabase&, QString&)>& work) {
    QSqlQuery first(db);
    if (!first.exec(begin))
        return said(first.lastError());
    first.finish();
    QString why;
    if (!work(db, why)) {
        QSqlQuery(db).exec(QStringLiteral("ROLLBACK"));
        return why.isEmpty() ? QCoreApplication::translate("LogFile", "It could not be kept.") : why;
    }
    QSqlQuery commit(db);
    if (!commit.exec(QStringLiteral("COMMIT"))) {
        why = said(commit.lastError());
        QSqlQuery(db).exec(QStringLiteral("ROLLBACK"));
        return why;
    }
    return {};
}

} // namespace amber::app::rows
