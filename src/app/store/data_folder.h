// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>

namespace amber::app {

/// Folder with notes/ and demo/: AMBER_THROTTLE_DATA, else share/amber-throttle beside the program's bin, else the
/// source tree.
QString dataFolder();
/// One of the demo sorties: "lorimer-spring" or "farrier-summer".
QString demoSortie(const QString& name);

} // namespace amber::app
