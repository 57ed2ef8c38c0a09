// SPDX-License-Identifier: GPL-3.0-or-later
#include "live/next_card.h"
#include "aloft/next.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {

QString countdown(double seconds) {
    const double s = std::abs(seconds);
    const QString text = s < 600.0    ? q(formatMinutesSeconds(std::floor(s)))
                         : s < 3600.0 ? QObject::tr("%1 min").arg(std::lround(s / 60.0))
                                      : q(formatHoursMinutes(s)) + QObject::tr(" h");
    return seconds < -0.5 ? QStringLiteral("−") + text : text;
}

NextCard::NextCard(QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

void NextCard::setSizes(int title, int small) {
    title_ = title;
    small_ = small;
    setMinimumHeight(title + 2 * small + 28);
    setMaximumHeight(title + 3 * small + 48);
    update();
}

void NextCard::show(const aloft::NextItem* item, double since) {
    if (!item) {
        what_ = when_ = why_ = said_ = QString();
        id_.clear();
        setAccessibleName({});
        update();
        return;
    }
    what_ = q(item->what);
    why_ = q(item->why);
    colour_ = aloft::verdictAt(*item, since).colour();
    when_ = q(item->told);
    full_ = -1.0;
    if (item->in) {
        const double in = *item->in - since;
        when_ = countdown(in);
        if (id_ != item->id)
            from_ = std::max(60.0, in);
        full_ = std::clamp(1.0 - in / from_, 0.0, 1.0);
        if (item->width && in > 0.0) {
            const double low = std::max(0.0, item->width->first - since),
                         high = std::max(0.0, item->width->second - since);
            if (high - low > 20.0)
                why_ += (why_.isEmpty() ? QString() : QStringLiteral(" · ")) +
                        QObject::tr("%1 to %2").arg(countdown(low), countdown(high));
        }
    }
    id_ = item->id;
    said_ = QStringLiteral("%1 %2").arg(what_, when_);
    setAccessibleName(said_ + (why_.isEmpty() ? QString() : QStringLiteral(", ") + why_));
    update();
}

void NextCard::mouseReleaseEvent(QMouseEvent* event) {
    if (rect().contains(event->pos()) && !what_.isEmpty())
        emit ticked();
}

void NextCard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    const QRect box = rect().adjusted(1, 1, -2, -2);
    if (what_.isEmpty())
        return;
    p.fillRect(box, first_ ? c.sheet : c.paper);
    const bool due = colour_ != watch::Colour::normal;
    p.setPen(QPen(due ? c.of(colour_) : first_ ? c.faint : c.rule, due ? 3 : 1));
    p.drawRect(box);
    const QRect in = box.adjusted(14, 8, -14, -8);
    const QFont big = face(title_, true), little = face(small_);
    const QFontMetrics m(big);
    p.setFont(big);
    p.setPen(due ? c.of(colour_) : c.ink);
    const int whenWidth = m.horizontalAdvance(when_);
    p.drawText(QRect(in.left(), in.top(), in.width(), m.height()), Qt::AlignRight | Qt::AlignVCenter, when_);
    p.setPen(c.ink);
    QFont name = big;
    int size = title_;
    while (size > 14 && QFontMetrics(name).horizontalAdvance(what_) > in.width() - whenWidth - 16)
        name = face(--size, true);
    p.setFont(name);
    p.drawText(QRect(in.left(), in.top(), in.width() - whenWidth - 12, m.height()), Qt::AlignLeft | Qt::AlignVCenter,
               what_);
    p.setFont(little);
    p.setPen(c.faint);
    const QFontMetrics lm(little);
    p.drawText(QRect(in.left(), in.top() + m.height() + 1, in.width(), in.height() - m.height() - 8),
               Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, why_);
    if (full_ >= 0.0) {
        const QRectF bar(in.left(), box.bottom() - 6, in.width(), 4);
        p.fillRect(bar, c.grid);
        p.fillRect(QRectF(bar.left(), bar.top(), bar.width() * full_, bar.height()), due ? c.of(colour_) : c.faint);
    }
}

} // namespace amber::app
