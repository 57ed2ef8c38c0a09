// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QByteArray>
#include <QStringList>

class QPagedPaintDevice;

namespace amber::app {

/// The power chart on one sheet, its construction told below it, black on white. @param svg of the chart @param steps
/// of the reading, rich text
void paintChart(QPagedPaintDevice& device, const QByteArray& svg, const QString& title, const QStringList& steps);

} // namespace amber::app
