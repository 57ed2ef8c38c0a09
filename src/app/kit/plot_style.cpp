// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/plot_style.h"
#include <cmath>

namespace amber::app {

QSharedPointer<QCPAxisTicker> roundTicks(double low, double high, int count) {
    const double raw = std::max(1e-9, high - low) / count;
    const double decade = std::pow(10.0, std::floor(std::log10(raw)));
    double step = 10 * decade;
    for (const double m : {1.0, 2.0, 5.0})
        if (m * decade >= raw * 0.999) {
            step = m * decade;
            break;
        }
    QSharedPointer<QCPAxisTickerFixed> ticker(new QCPAxisTickerFixed);
    ticker->setTickStep(step);
    ticker->setScaleStrategy(QCPAxisTickerFixed::ssNone);
    return ticker;
}

void dressAxis(QCPAxis& axis, const Colours& c) {
    axis.setBasePen(QPen(c.rule, 1));
    axis.setTickPen(QPen(c.rule, 1));
    axis.setSubTickPen(Qt::NoPen);
    axis.setTickLabelColor(c.faint);
    axis.setTickLabelFont(face(12));
    axis.setTickLengthIn(0);
    axis.setTickLengthOut(0);
    axis.setNumberFormat(QStringLiteral("f"));
    axis.setNumberPrecision(0);
    axis.grid()->setPen(QPen(c.grid, 1));
    axis.grid()->setZeroLinePen(QPen(c.grid, 1));
}

void dressPlot(QCustomPlot& plot) {
    const Colours c(&plot);
    // Painted with the rest of the window, once, not at once and for itself.
    plot.setPlottingHints(QCP::phCacheLabels);
    plot.setBackground(QBrush(c.paper));
    plot.axisRect()->setBackground(QBrush(c.sheet));
    plot.axisRect()->setupFullAxesBox(true);
    for (auto* axis : {plot.xAxis, plot.yAxis, plot.xAxis2, plot.yAxis2}) {
        dressAxis(*axis, c);
        axis->grid()->setSubGridVisible(true);
        QColor sub = c.grid;
        sub.setAlpha(120);
        axis->grid()->setSubGridPen(QPen(sub, 1));
        axis->setPadding(2);
    }
    QLocale locale(QLocale::English);
    plot.setLocale(locale);
    plot.xAxis->setNumberFormat(QStringLiteral("f"));
    plot.xAxis2->setTickLabels(false);
    plot.yAxis2->setTickLabels(false);
    plot.axisRect()->setMinimumMargins(QMargins(8, 6, 10, 4));
    plot.setFocusPolicy(Qt::StrongFocus);
}

QCPGraph* addLine(QCustomPlot& plot, const QVector<double>& x, const QVector<double>& y, const QPen& pen) {
    auto* graph = plot.addGraph();
    graph->setData(x, y, true);
    graph->setPen(pen);
    return graph;
}

QCPItemText* addText(QCustomPlot& plot, double x, double y, const QString& text, Qt::Alignment anchor,
                     const QColor& colour, bool bold) {
    auto* item = new QCPItemText(&plot);
    item->position->setCoords(x, y);
    item->setPositionAlignment(anchor);
    item->setText(text);
    item->setFont(face(13, bold));
    item->setColor(colour);
    item->setPadding(QMargins(7, 3, 7, 3));
    QColor behind = Colours(&plot).sheet;
    behind.setAlpha(190);
    item->setBrush(behind);
    return item;
}

void addRing(QCustomPlot& plot, double x, double y, const QColor& line, const QColor& fill, double size) {
    auto* graph = plot.addGraph();
    graph->setData({x}, {y});
    graph->setLineStyle(QCPGraph::lsNone);
    graph->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(line, 1.8), QBrush(fill), size));
}

} // namespace amber::app
