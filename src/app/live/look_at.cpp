// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/look_at.h"
#include "kit/needle_bar.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "plan/dial.h"
#include "units/text.h"
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr std::size_t needlesShown = 4;
/// In the order in which they are looked at.
constexpr std::array lookedAt{Gauge::headTemperature, Gauge::coolantTemperature, Gauge::oilTemperature,
                              Gauge::oilPressure,     Gauge::chargeTemperature,  Gauge::rpm};
} // namespace

LookAt::LookAt(QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void LookAt::setSizes(int text) {
    text_ = text;
    setFixedHeight(static_cast<int>(needlesShown) * (text + 12));
    update();
}

void LookAt::show(const LiveRun& live) {
    lines_.clear();
    const auto& n = live.book().notes();
    const auto& now = live.now();
    const auto& expect = live.book().plan()[std::min(now.phase, Phase::stop)].expect;
    for (const Gauge gauge : lookedAt) {
        if (lines_.size() == needlesShown || !n.gauges.contains(gauge))
            continue;
        const auto planned =
            std::find_if(expect.begin(), expect.end(), [&](const auto& e) { return e.gauge == gauge; });
        Line line;
        line.title = q(nameOf(gauge).title) + QStringLiteral(" ") + q(n.unitOf(gauge).symbol);
        line.band = n.gauges.at(gauge).in(now.phase);
        QStringList values;
        const auto& unit = n.unitOf(gauge);
        bool any = false;
        for (const auto& p : n.positions) {
            std::optional<double> value = live.needle(gauge, p.id);
            bool expected = !value;
            if (!value) {
                value = live.happened().lastRead(gauge, p.id, now.at - aloft::readStands, now.at);
                expected = !value;
            }
            if (!value)
                for (const auto& needle : now.needles)
                    if (needle.gauge == gauge && needle.engine == p.id)
                        value = needle.expected.value;
            if (!value && planned != expect.end() && now.phase >= Phase::warmUp)
                value = planned->value;
            if (!value) {
                values << QStringLiteral("–");
                continue;
            }
            any = true;
            const double read = watch::asRead(n, gauge, *value);
            line.needles.push_back(read);
            line.expected = line.expected && expected;
            line.colour = std::max(line.colour, watch::judge(n, gauge, now.phase, read).colour());
            values << (expected ? QStringLiteral("≈") : QString()) + q(formatValue(read, unit));
        }
        if (!any)
            continue;
        line.scale = plan::dialOf(n.gauges.at(gauge), line.needles.front());
        // Engines that all stand alike are said once.
        if (std::all_of(values.begin(), values.end(), [&](const QString& v) { return v == values.front(); }))
            values = values.mid(0, 1);
        line.values = values.join(QStringLiteral(" · "));
        lines_.push_back(std::move(line));
    }
    setAccessibleName(tr("Needles to look at: %1").arg(said().join(QStringLiteral("; "))));
    update();
}

QStringList LookAt::said() const {
    QStringList out;
    for (const auto& l : lines_)
        out << QStringLiteral("%1 %2").arg(l.title, l.values);
    return out;
}

watch::Colour LookAt::worst() const {
    auto out = watch::Colour::normal;
    for (const auto& l : lines_)
        if (!l.expected)
            out = std::max(out, l.colour);
    return out;
}

void LookAt::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    const int row = text_ + 12;
    int titles = 0, values = 0;
    const QFontMetrics plain(face(text_)), bold(face(text_, true));
    for (const auto& l : lines_) {
        titles = std::max(titles, plain.horizontalAdvance(l.title));
        values = std::max(values, bold.horizontalAdvance(l.values));
    }
    int y = 0;
    for (const auto& l : lines_) {
        p.setFont(face(text_));
        p.setPen(l.colour != watch::Colour::normal ? c.of(l.colour) : c.ink);
        p.drawText(QRect(0, y, titles, row), Qt::AlignLeft | Qt::AlignVCenter, l.title);
        int size = text_;
        const int room = width() - plain.horizontalAdvance(l.title) - 12;
        while (size > 11 && QFontMetrics(face(size, true)).horizontalAdvance(l.values) > room)
            --size;
        p.setFont(face(size, true));
        p.setPen(l.colour != watch::Colour::normal ? c.of(l.colour) : l.expected ? c.faint : c.ink);
        p.drawText(QRect(0, y, width(), row), Qt::AlignRight | Qt::AlignVCenter, l.values);
        const int from = titles + 14, to = width() - values - 14;
        if (to - from > 40) {
            const NeedleBar bar(QRectF(from, y + row / 2.0 - 3, to - from, 10), l.scale);
            bar.paint(p, c, l.band);
            for (const double v : l.needles)
                bar.paintNeedle(p, v,
                                l.colour != watch::Colour::normal ? c.of(l.colour)
                                : l.expected                      ? c.faint
                                                                  : c.ink);
        }
        if (l.colour != watch::Colour::normal)
            drawColourMark(p, {static_cast<double>(titles) + 7.0, y + row / 2.0}, l.colour, c, 4.0);
        y += row;
    }
}

} // namespace amber::app
