// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/data_folder.h"
#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>

namespace amber::app {

QString dataFolder() {
    const QString named = qEnvironmentVariable("AMBER_THROTTLE_DATA");
    if (!named.isEmpty())
        return named;
    const QString installed = QCoreApplication::applicationDirPath() + QStringLiteral("/../share/amber-throttle");
    return QDir(installed).absolutePath();
}

bool shipsWithTheProgram(const QString& path) {
    const QString ours = QFileInfo(dataFolder()).canonicalFilePath();
    // A file that is not there yet is where its folder is.
    const QFileInfo file(path);
    const QString there = file.exists() ? file.canonicalFilePath()
                                        : QFileInfo(file.absolutePath()).canonicalFilePath() + QLatin1Char('/');
    return !ours.isEmpty() && there.startsWith(ours + QLatin1Char('/'));
}

const std::vector<DemoSortie>& demoSorties() {
    static const std::vector<DemoSortie> all{
        {"lorimer", "lorimer-spring", "Lorimer, a cool spring morning"},
        {"farrier", "farrier-summer", "Farrier, a hot noon with a queue"},
        {"mercer", "mercer-frost", "Mercer, four engines on a frosty morning"},
        {"ostler", "ostler-bush", "Ostler, three engines from the mountain strip"},
        {"tanner", "tanner-winter", "Tanner, a winter start by air bottle"},
        {"thatcher", "thatcher-lesson", "Thatcher, a lesson before breakfast"},
        {"tinker", "tinker-damp", "Tinker, a damp autumn hop"},
        {"collier", "collier-high", "Collier, through both stages"},
        {"wheelwright", "wheelwright-height", "Wheelwright, by turbo to 25,000 ft"},
        {"sexton", "sexton-meadow", "Sexton, a cool evening"},
        {"chandler", "chandler-haven", "Chandler, from the water"},
        {"windy", "wheelwright-windy", "Wheelwright, a gale aloft and tanks in the wrong order"},
    };
    return all;
}

QString demoSortie(const QString& name) {
    return dataFolder() + QStringLiteral("/demo/") + name + QStringLiteral(".toml");
}

} // namespace amber::app
