// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/needle_bar.h"
#include <QPainter>
#include <QPolygonF>
#include <algorithm>

namespace amber::app {

double NeedleBar::x(double si) const {
    return bar_.left() + bar_.width() * std::clamp((si - low_) / (high_ - low_), 0.0, 1.0);
}

void NeedleBar::paint(QPainter& p, const Colours& c, const Band& b) const {
    p.save();
    p.fillRect(bar_, c.grid);
    const double normalFrom = x(b.normalLow.value_or(b.limitLow.value_or(low_))),
                 normalTo = x(b.normalHigh.value_or(b.limitHigh.value_or(high_)));
    const auto washed = [&](double from, double to) {
        if (to - from < 0.5)
            return;
        QColor wash = c.amber;
        wash.setAlpha(70);
        p.fillRect(QRectF(from, bar_.top(), to - from, bar_.height()), wash);
        p.fillRect(QRectF(from, bar_.top(), to - from, bar_.height()), QBrush(c.amber, Qt::BDiagPattern));
    };
    if (b.normalLow)
        washed(x(b.limitLow.value_or(low_)), normalFrom);
    if (b.normalHigh)
        washed(normalTo, x(b.limitHigh.value_or(high_)));
    QColor green = c.green;
    green.setAlpha(150);
    p.fillRect(QRectF(normalFrom, bar_.top(), normalTo - normalFrom, bar_.height()), green);
    p.setPen(QPen(c.red, 2));
    for (const auto& limit : {b.limitLow, b.limitHigh})
        if (limit && *limit >= low_ && *limit <= high_)
            p.drawLine(QPointF(x(*limit), bar_.top() - 3), QPointF(x(*limit), bar_.bottom() + 3));
    p.restore();
}

void NeedleBar::paintNeedle(QPainter& p, double si, const QColor& colour) const {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(colour);
    const double at = x(si);
    p.drawPolygon(QPolygonF{
        {QPointF(at - 4.5, bar_.top() - 8), QPointF(at + 4.5, bar_.top() - 8), QPointF(at, bar_.top() - 0.5)}});
    p.restore();
}

} // namespace amber::app
