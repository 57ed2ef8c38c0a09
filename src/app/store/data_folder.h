// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>
#include <vector>

namespace amber::app {

/// Folder with notes/ and demo/: AMBER_THROTTLE_DATA, else share/amber-throttle beside the program's bin (a build has a
/// link there).
QString dataFolder();
/// Whether a file ships with the program: it is opened, and never written to.
bool shipsWithTheProgram(const QString& path);
/// The demo sorties that ship with the program.
struct DemoSortie {
    const char* aircraft; ///< short name, begins the names of its snapshots
    const char* file;     ///< without .toml
    const char* title;    ///< in the menu
};
const std::vector<DemoSortie>& demoSorties();
/// Path of one of them by file name without .toml: "lorimer-spring".
QString demoSortie(const QString& name);

} // namespace amber::app
