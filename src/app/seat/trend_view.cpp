// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/trend_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr double span = 180.0; // s
constexpr int numberRoom = 34, scaleRoom = 44, footRoom = 16;
} // namespace

TrendView::TrendView(Seat& seat, QWidget* parent) : QWidget(parent), seat_(seat) {
    setObjectName(QStringLiteral("trend"));
    setAccessibleName(tr("The chosen needle, the last three minutes"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

QString TrendView::title() const {
    if (!seat_.isTaken())
        return {};
    return tr("%1, %2, three minutes; the plan in grey")
        .arg(q(nameOf(seat_.gauge()).title), q(seat_.notes().unitOf(seat_.gauge()).symbol));
}

void TrendView::paintEvent(QPaintEvent*) {
    if (!seat_.isTaken())
        return;
    QPainter p(this);
    const Colours c(this);
    const auto& s = seat_.session();
    const auto& r = s.rehearsal();
    const TypeNotes& n = seat_.notes();
    const Gauge gauge = seat_.gauge();
    const UnitSpec& unit = n.unitOf(gauge);
    const QRectF box(scaleRoom, 4, width() - scaleRoom - numberRoom, height() - footRoom - 4);
    p.fillRect(box, c.sheet);
    const double now = static_cast<double>(r.now()) / 1000.0;
    const auto& trace = r.trace();
    const auto first = std::lower_bound(trace.begin(), trace.end(), now - span, [](const rehearse::Kept& k, double t) {
        return static_cast<double>(k.at) / 1000.0 < t;
    });
    double low = 1e300, high = -1e300;
    const auto take = [&](double v) {
        if (std::isnan(v))
            return;
        low = std::min(low, v);
        high = std::max(high, v);
    };
    for (auto k = first; k != trace.end(); ++k)
        for (const auto& e : k->engines)
            take(e[gauge]);
    for (const auto& e : r.readings().engines)
        take(e[gauge]);
    const auto planned = [&](double t) {
        return flight::sampleAt(s.plan().samples, s.planTime(static_cast<rehearse::Milliseconds>(t * 1000.0)))[gauge];
    };
    take(planned(now));
    const Band& band = n.gauges.at(gauge).in(r.phase());
    for (const auto& edge : {band.normalLow, band.normalHigh, band.limitHigh})
        if (edge)
            take(*edge);
    if (low > high)
        return;
    const double margin = std::max(0.06 * (high - low), 1e-6);
    low -= margin;
    high += margin;
    const auto y = [&](double v) { return box.bottom() - box.height() * (v - low) / (high - low); };
    const auto x = [&](double t) { return box.right() - box.width() * (now - t) / span; };
    if (band.normalLow || band.normalHigh) {
        QColor green = c.green;
        green.setAlpha(36);
        p.fillRect(QRectF(QPointF(box.left(), y(band.normalHigh.value_or(high))),
                          QPointF(box.right(), y(band.normalLow.value_or(low)))),
                   green);
    }
    p.setPen(QPen(c.red, 1.2));
    for (const auto& limit : {band.limitLow, band.limitHigh})
        if (limit && *limit > low && *limit < high)
            p.drawLine(QPointF(box.left(), y(*limit)), QPointF(box.right(), y(*limit)));
    p.setRenderHint(QPainter::Antialiasing);
    p.setClipRect(box.adjusted(0, -1, numberRoom, 1));
    QPolygonF plan;
    for (double t = now - span; t <= now; t += 3.0)
        if (const double v = t < 0 ? std::nan("") : planned(t); !std::isnan(v))
            plan << QPointF(x(t), y(v));
    p.setPen(QPen(c.faint, 1.2));
    p.drawPolyline(plan);
    struct Number {
        double y;
        std::size_t engine;
        QColor colour;
    };
    std::vector<Number> numbers;
    for (std::size_t e = 0; e < n.engineCount(); ++e) {
        QPolygonF line;
        for (auto k = first; k != trace.end(); ++k)
            if (const double v = k->engines[e][gauge]; !std::isnan(v))
                line << QPointF(x(static_cast<double>(k->at) / 1000.0), y(v));
        const double v = r.readings().engines[e][gauge];
        if (std::isnan(v))
            continue;
        line << QPointF(x(now), y(v));
        const auto colour = r.watches()[e].colourAt(now, r.phase(), gauge, v, r.state().engines[e].firing);
        const bool odd = colour != watch::Colour::normal;
        p.setPen(QPen(odd ? c.of(colour) : c.ink, odd ? 2.2 : 1.3));
        p.drawPolyline(line);
        numbers.push_back({y(v), e, odd ? c.of(colour) : c.ink});
    }
    p.setClipping(false);
    // Numbers at the lines' ends: those that end together stand side by side.
    std::stable_sort(numbers.begin(), numbers.end(), [](const Number& a, const Number& b) { return a.y < b.y; });
    p.setFont(face(11));
    double last = -100.0, along = 0.0;
    for (std::size_t i = 0; n.engineCount() > 1 && i < numbers.size(); ++i) {
        const bool together = numbers[i].y - last < 11.0;
        along = together ? along + 8.0 : 0.0;
        last = together ? last : numbers[i].y;
        p.setPen(numbers[i].colour);
        p.drawText(QRectF(box.right() + 3 + along, last - 8, 12, 16), Qt::AlignVCenter | Qt::AlignLeft,
                   QString::number(numbers[i].engine + 1));
    }
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(QPen(c.rule, 1));
    p.drawRect(box);
    p.setFont(face(11));
    p.setPen(c.faint);
    for (const double v : {low + margin, high - margin})
        p.drawText(QRectF(0, y(v) - 8, scaleRoom - 4, 16), Qt::AlignRight | Qt::AlignVCenter, q(formatValue(v, unit)));
    for (const int back : {180, 120, 60})
        p.drawText(QRectF(x(now - back) - (back == 180 ? 0 : 30), box.bottom() + 1, 60, footRoom - 1),
                   (back == 180 ? Qt::AlignLeft : Qt::AlignHCenter) | Qt::AlignVCenter, tr("−%1 min").arg(back / 60));
    p.drawText(QRectF(box.right() - 40, box.bottom() + 1, 40, footRoom - 1), Qt::AlignRight | Qt::AlignVCenter,
               tr("now"));
}

} // namespace amber::app
