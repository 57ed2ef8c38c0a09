// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/lever_panel.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr double cellWidth = 112, cellHeight = 112, titleHeight = 20, gap = 14, nameHeight = 18, textHeight = 17;
constexpr double knob = 5.5;
} // namespace

LeverPanel::LeverPanel(QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("lever-panel"));
    setAccessibleName(tr("The cockpit's controls, before and now"));
    setFocusPolicy(Qt::StrongFocus);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Minimum);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void LeverPanel::show(std::vector<plan::LeverState> levers) {
    if (levers == levers_)
        return;
    levers_ = std::move(levers);
    chosen_ = std::min(chosen_, levers_.empty() ? 0 : levers_.size() - 1);
    holdHeight();
    updateGeometry();
    update();
    emit chosen();
}

void LeverPanel::holdHeight() {
    setMinimumHeight(heightForWidth(std::max(300, width())));
}

void LeverPanel::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    holdHeight();
}

LeverPanel::Layout LeverPanel::layOut(double width) const {
    Layout out;
    double x = 0.0, y = 0.0, row = 0.0;
    for (std::size_t i = 0; i < levers_.size();) {
        std::size_t end = i;
        while (end < levers_.size() && levers_[end].panel == levers_[i].panel)
            ++end;
        const auto most = std::max<std::size_t>(1, static_cast<std::size_t>((width + gap) / cellWidth));
        const std::size_t columns = std::min(end - i, most);
        const std::size_t rows = (end - i + columns - 1) / columns;
        const double w = static_cast<double>(columns) * cellWidth,
                     h = titleHeight + static_cast<double>(rows) * cellHeight;
        if (x > 0 && x + w > width) {
            x = 0.0;
            y += row + gap;
            row = 0.0;
        }
        out.groups.push_back({q(levers_[i].panel), {x, y, w, h}});
        for (std::size_t k = i; k < end; ++k)
            out.cells.push_back(
                {k,
                 {x + static_cast<double>((k - i) % columns) * cellWidth,
                  y + titleHeight + static_cast<double>((k - i) / columns) * cellHeight, cellWidth, cellHeight}});
        x += w + gap;
        row = std::max(row, h);
        i = end;
    }
    out.height = y + row + 2;
    return out;
}

int LeverPanel::heightForWidth(int width) const {
    return static_cast<int>(std::ceil(layOut(width).height));
}

QRectF LeverPanel::placeOf(const std::string& id) const {
    for (const auto& cell : layOut(width()).cells)
        if (levers_[cell.lever].id == id)
            return cell.box;
    return {};
}

QString LeverPanel::textOf(const std::vector<plan::LeverPlace>& places, bool marked) {
    QStringList out;
    for (const auto& p : places)
        out << (marked && p.origin ? tr("%1 (%2)").arg(q(p.text), q(markOf(*p.origin))) : q(p.text));
    return out.join(QStringLiteral(" · "));
}

QString LeverPanel::readingOf(const plan::LeverState& l) {
    QString text = tr("%1: %2").arg(q(l.name), textOf(l.now, true));
    if (l.changed)
        text += tr(", from %1").arg(textOf(l.before, true));
    if (!l.sense.empty())
        text += tr("; %1").arg(q(l.sense));
    if (l.reversed)
        text += tr(", the reverse of most");
    if (!l.who.empty())
        text += tr("; worked by the %1").arg(q(l.who));
    return text + QStringLiteral(".");
}

void LeverPanel::paintLever(QPainter& p, const plan::LeverState& l, const QRectF& box, bool isChosen) const {
    const Colours c(this);
    if (isChosen && hasFocus()) {
        p.setPen(QPen(c.amber, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box.adjusted(1, 1, -3, -3));
    }
    const QRectF inner = box.adjusted(4, 2, -6, -4);
    p.setFont(face(12, l.changed));
    p.setPen(c.ink);
    p.drawText(QRectF(inner.left(), inner.top(), inner.width(), nameHeight), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(q(l.name), Qt::ElideRight, static_cast<int>(inner.width())));
    // Its place now, in words; what it was, where it has moved.
    const QRectF line(inner.left(), inner.bottom() - textHeight, inner.width(), textHeight);
    double right = 0.0;
    if (l.reversed) {
        p.setFont(face(11, true));
        p.setPen(c.red);
        const QString mark = tr("× reversed");
        right = p.fontMetrics().horizontalAdvance(mark) + 4;
        p.drawText(line, Qt::AlignRight | Qt::AlignVCenter, mark);
    }
    if (const auto& origin = l.now.front().origin; origin && right == 0) { // where the figure comes from
        p.setFont(face(11));
        p.setPen(c.faint);
        const QString mark = q(markOf(*origin));
        right = p.fontMetrics().horizontalAdvance(mark) + 4;
        p.drawText(line, Qt::AlignRight | Qt::AlignVCenter, mark);
    }
    p.setFont(face(13, l.changed));
    p.setPen(l.changed ? c.ink : c.faint);
    p.drawText(line.adjusted(0, 0, -right, 0), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(textOf(l.now), Qt::ElideRight, static_cast<int>(line.width() - right)));
    const QRectF travel(inner.left(), inner.top() + nameHeight + 6, inner.width(),
                        inner.height() - nameHeight - textHeight - 18);
    const bool across = l.kind == ControlKind::valve || l.kind == ControlKind::positions;
    // The slot, with its ends named as they lie; up is forward, right is right.
    const bool moreIsUp = l.more == "forward" || l.more == "up" || l.more == "out" || l.more == "on";
    const double slotX = inner.left() + 18;
    const QPointF less = across ? QPointF(travel.left() + 8, travel.center().y() + 8)
                                : QPointF(slotX, moreIsUp ? travel.bottom() : travel.top());
    const QPointF more = across ? QPointF(travel.right() - 8, travel.center().y() + 8)
                                : QPointF(slotX, moreIsUp ? travel.top() : travel.bottom());
    const auto at = [&](double share, double aside) {
        const QPointF on = less + (more - less) * share;
        return across ? on + QPointF(0, aside) : on + QPointF(aside, 0);
    };
    p.setPen(QPen(c.ink, l.reversed ? 1.6 : 1.0, l.reversed ? Qt::DashLine : Qt::SolidLine));
    p.setBrush(Qt::NoBrush);
    p.drawLine(less, more);
    p.setPen(QPen(c.ink, 1));
    const std::size_t marks = l.positions.size();
    for (std::size_t i = 0; i < marks; ++i) {
        const double share = marks < 2 ? 0.5 : static_cast<double>(i) / static_cast<double>(marks - 1);
        p.drawLine(at(share, -4), at(share, 4));
    }
    p.setFont(face(11));
    p.setPen(c.faint);
    if (!across && marks > 0) {
        for (std::size_t i = 0; i < marks; ++i) {
            if (marks > 3 && i > 0 && i + 1 < marks)
                continue;
            const double share = marks < 2 ? 0.5 : static_cast<double>(i) / static_cast<double>(marks - 1);
            const QPointF on = at(share, 0);
            p.drawText(QRectF(on.x() + 12, on.y() - 8, inner.right() - on.x() - 12, 16),
                       Qt::AlignLeft | Qt::AlignVCenter,
                       p.fontMetrics().elidedText(q(l.positions[i]), Qt::ElideRight,
                                                  static_cast<int>(inner.right() - on.x() - 12)));
        }
    } else if (marks > 1) {
        const QRectF words(travel.left(), travel.center().y() - 18, travel.width(), 16);
        const int half = static_cast<int>(words.width() / 2) - 2;
        p.drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(q(l.positions.front()), Qt::ElideRight, half));
        p.drawText(words, Qt::AlignRight | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(q(l.positions.back()), Qt::ElideRight, half));
    }
    // Found: a ring. Now: filled. Several engines beside each other where they differ.
    const auto knobs = [&](const std::vector<plan::LeverPlace>& places, bool now) {
        for (std::size_t e = 0; e < places.size(); ++e) {
            if (!places[e].share)
                continue;
            const double aside =
                places.size() < 2 ? 0.0 : (static_cast<double>(e) - static_cast<double>(places.size() - 1) / 2) * 7.0;
            p.setPen(QPen(now ? (l.changed ? c.amber : c.ink) : c.ink, 1.4));
            p.setBrush(now ? QBrush(l.changed ? c.amber : c.ink) : QBrush(c.sheet));
            p.drawEllipse(at(*places[e].share, aside), now ? knob : knob - 0.5, now ? knob : knob - 0.5);
        }
    };
    if (l.changed)
        knobs(l.before, false);
    knobs(l.now, true);
}

void LeverPanel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours c(this);
    const Layout layout = layOut(width());
    for (const auto& g : layout.groups) {
        p.setFont(captionFace());
        p.setPen(c.faint);
        p.drawText(QRectF(g.box.left() + 4, g.box.top(), g.box.width(), titleHeight - 4),
                   Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(g.title, Qt::ElideRight, static_cast<int>(g.box.width())));
        p.setPen(QPen(c.rule, 1));
        p.drawLine(QPointF(g.box.left(), g.box.top() + titleHeight - 3),
                   QPointF(g.box.right() - 6, g.box.top() + titleHeight - 3));
    }
    for (const auto& cell : layout.cells)
        paintLever(p, levers_[cell.lever], cell.box, cell.lever == chosen_);
}

void LeverPanel::mousePressEvent(QMouseEvent* event) {
    for (const auto& cell : layOut(width()).cells)
        if (cell.box.contains(event->position())) {
            chosen_ = cell.lever;
            update();
            emit chosen();
        }
}

void LeverPanel::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Right || event->key() == Qt::Key_Down ? 1
                   : event->key() == Qt::Key_Left || event->key() == Qt::Key_Up  ? -1
                                                                                 : 0;
    if (by == 0 || levers_.empty()) {
        QWidget::keyPressEvent(event);
        return;
    }
    const auto count = static_cast<int>(levers_.size());
    chosen_ = static_cast<std::size_t>((static_cast<int>(chosen_) + by + count) % count);
    update();
    emit chosen();
}

bool LeverPanel::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        for (const auto& cell : layOut(width()).cells)
            if (cell.box.contains(help->pos())) {
                QToolTip::showText(help->globalPos(), readingOf(levers_[cell.lever]), this);
                return true;
            }
        QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

} // namespace amber::app
