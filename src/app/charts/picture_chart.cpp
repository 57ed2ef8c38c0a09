// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/picture_chart.h"
#include "kit/plot_style.h"
#include "kit/words.h"
#include "units/text.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {

PictureChart::PictureChart(SortieDocument& document, const QString& name, QWidget* parent)
    : QWidget(parent), document_(document), plot_(new QCustomPlot(this)) {
    setObjectName(name);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(plot_);
    plot_->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    plot_->setNoAntialiasingOnDrag(true);
    plot_->setFocusPolicy(Qt::StrongFocus);
    plot_->setMouseTracking(true);
    plot_->installEventFilter(this);
    connect(plot_, &QCustomPlot::mouseWheel, this, [this] { zoomed_ = true; });
    connect(plot_, &QCustomPlot::beforeReplot, this, [this] { ticks(); });
}

PictureChart::~PictureChart() = default;

void PictureChart::redraw(bool same) {
    if (!same)
        zoomed_ = false;
    plot_->clearPlottables();
    plot_->clearItems();
    if (!document_.isOpen())
        return;
    compose();
    ticks();
    plot_->setAccessibleName(title_);
    plot_->replot(QCustomPlot::rpQueuedRefresh);
}

void PictureChart::ranges(double xLow, double xHigh, double yLow, double yHigh) {
    if (zoomed_)
        return;
    plot_->xAxis->setRange(xLow, xHigh);
    plot_->yAxis->setRange(yLow, yHigh);
}

void PictureChart::ticks() {
    plot_->xAxis->setTicker(
        roundTicks(plot_->xAxis->range().lower, plot_->xAxis->range().upper, std::max(3, plot_->width() / 100)));
    plot_->yAxis->setTicker(
        roundTicks(plot_->yAxis->range().lower, plot_->yAxis->range().upper, std::max(3, plot_->height() / 44)));
    for (auto* axis : {plot_->xAxis, plot_->yAxis}) {
        const double step = qSharedPointerCast<QCPAxisTickerFixed>(axis->ticker())->tickStep();
        axis->setNumberPrecision(step >= 0.999 ? 0 : step >= 0.0999 ? 1 : step >= 0.00999 ? 2 : 3);
    }
    plot_->xAxis2->setTicker(plot_->xAxis->ticker());
    plot_->yAxis2->setTicker(plot_->yAxis->ticker());
}

QString PictureChart::readOut(QPoint position) const {
    return QStringLiteral("%1 %2 · %3 %4")
        .arg(q(formatNumber(plot_->xAxis->pixelToCoord(position.x()), xDecimals_)), xUnit_,
             q(formatNumber(plot_->yAxis->pixelToCoord(position.y()), yDecimals_)), yUnit_);
}

bool PictureChart::eventFilter(QObject* watched, QEvent* event) {
    if (watched != plot_)
        return QWidget::eventFilter(watched, event);
    switch (event->type()) {
    case QEvent::MouseMove: {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        if (mouse->buttons() & Qt::LeftButton)
            zoomed_ = true;
        else if (plot_->axisRect()->rect().contains(mouse->position().toPoint()))
            QToolTip::showText(mouse->globalPosition().toPoint() + QPoint(8, -30), readOut(mouse->position().toPoint()),
                               plot_);
        break;
    }
    case QEvent::MouseButtonDblClick:
        redraw(false);
        return true;
    case QEvent::KeyPress: {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Home) {
            redraw(false);
            return true;
        }
        if (key == Qt::Key_Plus || key == Qt::Key_Minus) {
            zoomed_ = true;
            const double factor = key == Qt::Key_Plus ? 0.8 : 1.25;
            plot_->xAxis->scaleRange(factor);
            plot_->yAxis->scaleRange(factor);
            plot_->replot();
            return true;
        }
        break;
    }
    case QEvent::Resize:
    case QEvent::PaletteChange:
        QMetaObject::invokeMethod(
            this, [this] { redraw(); }, Qt::QueuedConnection);
        break;
    default:
        break;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace amber::app
