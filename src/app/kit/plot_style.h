// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include <qcustomplot.h>

namespace amber::app {

/// Dresses a plot as an engraved chart: fine grid on the sheet colour, small figures, what the
/// axes are stands in the title above.
void dressPlot(QCustomPlot& plot);
/// One axis of it: thin rules, small figures, no ticks.
void dressAxis(QCPAxis& axis, const Colours& colours);
/// A graph line through points.
QCPGraph* addLine(QCustomPlot& plot, const QVector<double>& x, const QVector<double>& y, const QPen& pen);
/// Text set on the chart at plot coordinates.
QCPItemText* addText(QCustomPlot& plot, double x, double y, const QString& text, Qt::Alignment anchor,
                     const QColor& colour, bool bold = false);
/// An open circle at plot coordinates.
void addRing(QCustomPlot& plot, double x, double y, const QColor& line, const QColor& fill, double size = 9);
/// Ticks of round size over a range, about `count` of them.
QSharedPointer<QCPAxisTicker> roundTicks(double low, double high, int count);

} // namespace amber::app
