// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/data_folder.h"
#include <QCoreApplication>
#include <QDir>

namespace amber::app {

QString dataFolder() {
    const QString named = qEnvironmentVariable("AMBER_THROTTLE_DATA");
    if (!named.isEmpty())
        return named;
    const QString installed = QCoreApplication::applicationDirPath() + QStringLiteral("/../share/amber-throttle");
    if (QDir(installed + QStringLiteral("/demo")).exists())
        return QDir(installed).absolutePath();
    return QStringLiteral(AMBER_SOURCE_DATA);
}

QString demoSortie(const QString& name) {
    return dataFolder() + QStringLiteral("/demo/") + name + QStringLiteral(".toml");
}

} // namespace amber::app
