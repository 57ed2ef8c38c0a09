// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/season_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QDateTime>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int labelRoom = 48, dayRoom = 16; // px
QString dateOf(double day) {
    return QLocale(QLocale::English)
        .toString(QDateTime::fromMSecsSinceEpoch(static_cast<qint64>(day * 86'400'000.0), Qt::UTC).date(),
                  QStringLiteral("d MMM yy"));
}
} // namespace

SeasonView::SeasonView(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("season"));
    setAccessibleName(tr("The chosen reading, run by run"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void SeasonView::show(record::Series series, record::Trend trend, const UnitSpec* unit) {
    series_ = std::move(series);
    trend_ = trend;
    unit_ = unit;
    update();
}

void SeasonView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    const QRectF box(labelRoom, 4, width() - labelRoom - 6, height() - dayRoom - 6);
    p.fillRect(box, c.sheet);
    p.setPen(QPen(c.rule, 1));
    p.drawRect(box);
    const auto& points = series_.points;
    p.setFont(face(12));
    if (points.empty()) {
        p.setPen(c.faint);
        p.drawText(box, Qt::AlignCenter, tr("Not read on this airframe yet: its runs will stand here side by side."));
        return;
    }
    double low = series_.againstPlan ? 0.0 : points.front().residual, high = low;
    for (const auto& point : points) {
        low = std::min(low, point.residual);
        high = std::max(high, point.residual);
    }
    const double room = std::max(0.12 * (high - low), unit_ ? 1.5 * unit_->scale : 0.6);
    low -= room;
    high += room;
    const auto y = [&](double v) { return box.bottom() - box.height() * (v - low) / (high - low); };
    // Run by run, not day by day: a winter in the hangar takes no room.
    const auto x = [&](std::size_t i) {
        return box.left() + box.width() * (static_cast<double>(i) + 0.5) / static_cast<double>(points.size());
    };
    if (points.size() >= 5) {
        std::vector<double> before;
        for (std::size_t i = 0; i + 1 < points.size(); ++i)
            before.push_back(points[i].residual);
        std::sort(before.begin(), before.end());
        const double q1 = before[before.size() / 4], q3 = before[before.size() * 3 / 4];
        QColor band = c.green;
        band.setAlpha(40);
        p.fillRect(QRectF(QPointF(box.left() + 1, y(q3)), QPointF(box.right() - 1, std::max(y(q1), y(q3) + 2))), band);
    }
    p.setRenderHint(QPainter::Antialiasing);
    if (series_.againstPlan) {
        p.setPen(QPen(c.faint, 1, Qt::DotLine));
        p.drawLine(QPointF(box.left(), y(0.0)), QPointF(box.right(), y(0.0)));
    }
    if (trend_.tells()) {
        // Its line goes by days: through the medians, drawn from run to run.
        QPolygonF line;
        const double days = points.back().day - points.front().day;
        for (std::size_t i = 0; i < points.size(); ++i)
            line << QPointF(x(i),
                            y(trend_.begins + (trend_.ends - trend_.begins) *
                                                  (days > 0 ? (points[i].day - points.front().day) / days : 0.0)));
        p.setPen(QPen(c.amber, 1.4));
        p.drawPolyline(line);
    }
    const double size = points.size() > 150 ? 1.6 : 3.0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const bool latest = i + 1 == points.size();
        p.setPen(Qt::NoPen);
        p.setBrush(latest ? c.amber : c.ink);
        p.drawEllipse(QPointF(x(i), y(points[i].residual)), latest ? 4.5 : size, latest ? 4.5 : size);
    }
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setFont(face(11));
    p.setPen(c.faint);
    const auto label = [&](double v) {
        const double shownValue = unit_ ? (series_.againstPlan ? v / unit_->scale : shown(v, *unit_)) : v;
        const QString text = q(formatNumber(shownValue, unit_ ? std::max(0, unit_->decimals) : 0, false));
        p.drawText(QRectF(0, y(v) - 8, labelRoom - 5, 16), Qt::AlignRight | Qt::AlignVCenter,
                   series_.againstPlan && v > 0 ? QLatin1Char('+') + text : text);
    };
    label(high - room);
    if (series_.againstPlan && y(0.0) - y(high - room) > 14 && y(low + room) - y(0.0) > 14)
        label(0.0);
    if (y(low + room) - y(high - room) > 14)
        label(low + room);
    p.drawText(QRectF(box.left(), box.bottom() + 1, 120, dayRoom), Qt::AlignLeft | Qt::AlignVCenter,
               dateOf(points.front().day));
    if (points.size() > 1)
        p.drawText(QRectF(box.right() - 120, box.bottom() + 1, 120, dayRoom), Qt::AlignRight | Qt::AlignVCenter,
                   dateOf(points.back().day));
}

} // namespace amber::app
