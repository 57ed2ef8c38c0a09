// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/settings.h"
#include <QDir>
#include <QFile>
#include <QFileInfo>

namespace amber::app {
namespace {
constexpr int mostRecent = 8;
}

Settings::Settings(const QString& file)
    : store_(file.isEmpty()
                 ? std::make_unique<QSettings>(QSettings::IniFormat, QSettings::UserScope,
                                               QStringLiteral("amber-throttle"), QStringLiteral("amber-throttle"))
                 : std::make_unique<QSettings>(file, QSettings::IniFormat)) {
    // The address of a hangar's log may hold a password: nobody else reads this file (one that is written anew keeps it
    // so).
    QFile mine(store_->fileName());
    QDir().mkpath(QFileInfo(mine).absolutePath());
    if (mine.exists() || mine.open(QIODevice::WriteOnly | QIODevice::Append))
        mine.setPermissions(QFile::ReadOwner | QFile::WriteOwner);
}

QString Settings::file() const {
    return store_->fileName();
}

QStringList Settings::recentFiles() const {
    QStringList out;
    for (const auto& path : store_->value(QStringLiteral("recent")).toStringList())
        if (QFileInfo::exists(path))
            out << path;
    return out;
}

void Settings::addRecent(const QString& path) {
    const QString absolute = QFileInfo(path).absoluteFilePath();
    QStringList all = recentFiles();
    all.removeAll(absolute);
    all.prepend(absolute);
    store_->setValue(QStringLiteral("recent"), QStringList(all.mid(0, mostRecent)));
}

void Settings::forgetRecent(const QString& path) {
    QStringList all = recentFiles();
    all.removeAll(path);
    store_->setValue(QStringLiteral("recent"), all);
}

ThemeKind Settings::theme() const {
    return store_->value(QStringLiteral("theme")).toString() == QLatin1String("hangar") ? ThemeKind::hangar
                                                                                        : ThemeKind::day;
}
void Settings::setTheme(ThemeKind theme) {
    store_->setValue(QStringLiteral("theme"),
                     theme == ThemeKind::hangar ? QStringLiteral("hangar") : QStringLiteral("day"));
}
QByteArray Settings::geometry() const {
    return store_->value(QStringLiteral("geometry")).toByteArray();
}
void Settings::setGeometry(const QByteArray& geometry) {
    store_->setValue(QStringLiteral("geometry"), geometry);
}
QStringList Settings::cards(const QString& type) const {
    return store_->value(QStringLiteral("cards/") + QString::fromLatin1(type.toUtf8().toHex())).toStringList();
}
void Settings::setCards(const QString& type, const QStringList& cards) {
    store_->setValue(QStringLiteral("cards/") + QString::fromLatin1(type.toUtf8().toHex()), cards);
}

QByteArray Settings::halves() const {
    return store_->value(QStringLiteral("halves")).toByteArray();
}
void Settings::setHalves(const QByteArray& halves) {
    store_->setValue(QStringLiteral("halves"), halves);
}

QString Settings::recorder() const {
    return store_->value(QStringLiteral("recorder")).toString();
}
void Settings::setRecorder(const QString& address) {
    store_->setValue(QStringLiteral("recorder"), address);
}

QString Settings::hangar() const {
    return store_->value(QStringLiteral("hangar")).toString();
}
void Settings::setHangar(const QString& address) {
    store_->setValue(QStringLiteral("hangar"), address);
}

} // namespace amber::app
