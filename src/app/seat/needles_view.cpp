// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/needles_view.h"
#include "kit/needle_bar.h"
#include "kit/words.h"
#include "plan/dial.h"
#include "script/script.h"
#include "units/text.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int mostHeight = 32, leastHeight = 22, titleWidth = 112; // px
constexpr double apart = 9.0;                                      // px between two numbers over one bar
} // namespace

NeedlesView::NeedlesView(Seat& seat, QWidget* parent) : QWidget(parent), seat_(seat) {
    setObjectName(QStringLiteral("needles"));
    setAccessibleName(tr("Needles"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
}

std::vector<Gauge> NeedlesView::gauges() const {
    std::vector<Gauge> out;
    for (const auto& row : gaugeRegister)
        if (row.limited && seat_.notes().gauges.contains(row.gauge))
            out.push_back(row.gauge);
    return out;
}

QSize NeedlesView::sizeHint() const {
    return {330, seat_.isTaken() ? static_cast<int>(gauges().size()) * mostHeight : 200};
}

int NeedlesView::lineHeight() const {
    return std::clamp(height() / std::max(1, static_cast<int>(gauges().size())), leastHeight, mostHeight);
}

std::vector<NeedlesView::Line> NeedlesView::lines() const {
    std::vector<Line> out;
    const auto& r = seat_.session().rehearsal();
    const TypeNotes& n = seat_.notes();
    const auto shown = powerplant::trembling(r.readings(), r.setup().seed, r.state().now);
    for (const Gauge gauge : gauges()) {
        Line line;
        line.gauge = gauge;
        line.title = q(nameOf(gauge).title);
        const UnitSpec& unit = n.unitOf(gauge);
        double low = 1e300, high = -1e300;
        std::size_t odd = 0;
        for (std::size_t e = 0; e < shown.engines.size(); ++e) {
            const double read = shown.engines[e][gauge];
            line.engines.push_back(read);
            if (std::isnan(read))
                continue;
            low = std::min(low, read);
            high = std::max(high, read);
            const auto colour = r.watches()[e].colourAt(static_cast<double>(r.now()) / 1000.0, r.phase(), gauge, read,
                                                        r.state().engines[e].firing);
            if (colour > line.worst) {
                line.worst = colour;
                odd = e;
            }
        }
        if (low > high) {
            line.value = tr("—");
        } else {
            const QString from = q(formatValue(low, unit)), to = q(format(high, unit));
            line.value = from == q(formatValue(high, unit)) ? to : tr("%1 … %2").arg(from, to);
            if (line.worst != watch::Colour::normal && shown.engines.size() > 1)
                line.value = tr("%1: %2").arg(odd + 1).arg(q(format(line.engines[odd], unit)));
        }
        out.push_back(std::move(line));
    }
    return out;
}

void NeedlesView::paintEvent(QPaintEvent*) {
    if (!seat_.isTaken())
        return;
    QPainter p(this);
    const Colours c(this);
    const TypeNotes& n = seat_.notes();
    const auto all = lines();
    const int high = lineHeight();
    int valueWidth = 84;
    for (const auto& line : all)
        valueWidth = std::max(valueWidth, QFontMetrics(face(14, true)).horizontalAdvance(line.value) + 6);
    valueWidth = std::min(valueWidth, width() - titleWidth - 40);
    int y = 0;
    for (const auto& line : all) {
        const QRect r(0, y, width(), high);
        y += high;
        if (line.gauge == seat_.gauge()) {
            p.fillRect(r, hasFocus() ? c.amberWash : c.sheet);
            p.fillRect(QRect(r.left(), r.top(), 3, r.height()), hasFocus() ? c.amber : c.faint);
        }
        const bool normal = line.worst == watch::Colour::normal;
        int left = 8;
        if (!normal) {
            drawColourMark(p, QPointF(left + 4, r.center().y() + 1), line.worst, c, 4.4);
            left += 13;
        }
        p.setFont(face(14, !normal));
        p.setPen(normal ? c.ink : c.of(line.worst));
        p.drawText(QRect(left, r.top(), titleWidth - left + 6, high), Qt::AlignVCenter | Qt::AlignLeft, line.title);
        p.setFont(face(14, true));
        p.drawText(QRect(width() - valueWidth, r.top(), valueWidth - 2, high), Qt::AlignVCenter | Qt::AlignRight,
                   p.fontMetrics().elidedText(line.value, Qt::ElideRight, valueWidth - 2));
        const QRectF bar(titleWidth + 8, r.center().y() + 3, width() - titleWidth - valueWidth - 18, 7);
        if (bar.width() < 24)
            continue;
        const GaugeNotes& gauge = n.gauges.at(line.gauge);
        const NeedleBar dial(bar, plan::dialOf(gauge, gauge.band.normalHigh.value_or(
                                                          gauge.band.limitHigh.value_or(line.engines.front()))));
        dial.paint(p, c, gauge.in(seat_.session().rehearsal().phase()));
        // Numbers over the needles, apart from each other where the needles are not.
        struct At {
            double x;
            std::size_t engine;
        };
        std::vector<At> numbers;
        for (std::size_t e = 0; e < line.engines.size(); ++e) {
            if (std::isnan(line.engines[e]))
                continue;
            dial.paintNeedle(p, line.engines[e], c.ink);
            numbers.push_back({dial.x(line.engines[e]), e});
        }
        if (numbers.size() < 2)
            continue;
        std::stable_sort(numbers.begin(), numbers.end(), [](const At& a, const At& b) { return a.x < b.x; });
        p.setFont(face(10));
        p.setPen(c.faint);
        for (std::size_t i = 0; i < numbers.size();) {
            std::size_t end = i + 1;
            while (end < numbers.size() && numbers[end].x - numbers[end - 1].x < apart)
                ++end;
            const double middle = (numbers[i].x + numbers[end - 1].x) / 2;
            const auto count = static_cast<double>(end - i);
            for (std::size_t k = i; k < end; ++k)
                p.drawText(
                    QRectF(middle + apart * (static_cast<double>(k - i) - (count - 1) / 2) - 8, bar.top() - 20, 16, 12),
                    Qt::AlignCenter, QString::number(numbers[k].engine + 1));
            i = end;
        }
    }
}

void NeedlesView::mousePressEvent(QMouseEvent* event) {
    if (!seat_.isTaken())
        return;
    const auto all = gauges();
    const auto line = static_cast<std::size_t>(std::max(0, static_cast<int>(event->position().y()) / lineHeight()));
    if (line < all.size())
        seat_.chooseGauge(all[line]);
}

void NeedlesView::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (by == 0 || !seat_.isTaken()) {
        QWidget::keyPressEvent(event);
        return;
    }
    const auto all = gauges();
    const auto at = static_cast<int>(std::find(all.begin(), all.end(), seat_.gauge()) - all.begin());
    seat_.chooseGauge(all[static_cast<std::size_t>(std::clamp(at + by, 0, static_cast<int>(all.size()) - 1))]);
}

} // namespace amber::app
