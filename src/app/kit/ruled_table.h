// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QString>
#include <QTableView>

namespace amber::app {

/// Makes a table one of ruled lines to type readings into: no grid, no frame, paper behind it, columns of fixed width.
/// @param columns what its heads are to a reader aloud @param aside px, between a head and its column's edge
void rule(QTableView& table, const QString& columns, int aside);

} // namespace amber::app
