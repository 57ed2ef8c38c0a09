// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/start_timeline_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr double nameWidth = 92, axisHeight = 18, legendHeight = 16, topGap = 2;

/// A block of the timeline: each kind its own fill and edge, so that it reads without colour.
void paintKind(QPainter& p, const Colours& c, const QRectF& box, start::EventKind kind, bool failed) {
    using start::EventKind;
    p.setPen(QPen(c.ink, 1));
    p.setBrush(Qt::NoBrush);
    switch (kind) {
    case EventKind::prime:
        p.setBrush(c.amberWash);
        break;
    case EventKind::wait:
        p.setPen(QPen(c.faint, 1, Qt::DotLine));
        break;
    case EventKind::energise:
        p.setBrush(QBrush(c.ink, Qt::BDiagPattern));
        break;
    case EventKind::crank:
        p.setBrush(failed ? c.red : c.ink);
        break;
    case EventKind::oilPressureWatch:
        p.setBrush(QBrush(c.green, Qt::Dense4Pattern));
        break;
    case EventKind::rest:
        p.setPen(QPen(c.red, 1, Qt::DashLine));
        break;
    }
    p.drawRect(box);
}
} // namespace

StartTimelineView::StartTimelineView(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("start-timeline"));
    setAccessibleName(tr("Start order against time"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

void StartTimelineView::recompute() {
    const TypeNotes& n = document_.aircraft().notes;
    std::erase_if(failures_, [&](const auto& f) {
        return std::none_of(n.positions.begin(), n.positions.end(), [&](const Position& p) { return p.id == f.first; });
    });
    auto request = flight::startRequestOf(document_.sortie(), document_.plan().flown);
    request.failures = failures_;
    if (auto result = start::planStart(n, document_.plan().startInForce, request))
        timeline_ = std::move(result.value());
}

void StartTimelineView::refresh() {
    if (!document_.isOpen())
        return;
    recompute();
    lane_ = std::clamp(lane_, 0, static_cast<int>(timeline_.order.size()) - 1);
    update();
    emit summaryChanged();
}

int StartTimelineView::failuresOf(const std::string& engine) const {
    const auto found = failures_.find(engine);
    return found == failures_.end() ? 0 : found->second;
}

void StartTimelineView::failOnceMore(const std::string& engine) {
    const int tries = document_.aircraft().notes.start.tries;
    const int next = (failuresOf(engine) + 1) % (tries + 1);
    if (next == 0)
        failures_.erase(engine);
    else
        failures_[engine] = next;
    refresh();
}

QString StartTimelineView::nameOf(const std::string& engine) const {
    for (const auto& p : document_.aircraft().notes.positions)
        if (p.id == engine)
            return q(p.name);
    return q(engine);
}

QString StartTimelineView::supplyName() const {
    switch (document_.aircraft().notes.start.starter.kind) {
    case StarterKind::cartridge:
        return tr("cartridges");
    case StarterKind::air:
        return tr("air bottle");
    case StarterKind::hand:
        return tr("by hand");
    case StarterKind::direct:
    case StarterKind::inertia:
        break;
    }
    return document_.sortie().start.supply == start::Supply::cart ? tr("ground cart") : tr("battery");
}

QString StartTimelineView::summary() const {
    QStringList parts;
    parts << (timeline_.abandoned.empty() ? tr("All running in %1 (model)") : tr("Tries used up in %1 (model)"))
                 .arg(q(formatMinutesSeconds(timeline_.total)));
    if (document_.sortie().start.supply == start::Supply::battery)
        parts << tr("battery left %1 %").arg(std::lround(100 * timeline_.batteryLeft));
    if (timeline_.cartridgesLeft >= 0)
        parts << tr("%n cartridge(s) left", nullptr, timeline_.cartridgesLeft);
    if (timeline_.airLeft.si() > 0)
        parts << tr("air left %1").arg(q(format(timeline_.airLeft.si(), *document_.aircraft().notes.cockpit.pressure)));
    if (!timeline_.onLineFirst.empty()) {
        QStringList line;
        for (const auto& a : timeline_.onLineFirst)
            line << q(a);
        parts << tr("on line first: %1").arg(line.join(QStringLiteral(", ")));
    }
    for (const auto& id : timeline_.abandoned)
        parts << tr("%1 left to its long rest").arg(nameOf(id));
    return parts.join(QStringLiteral(" · "));
}

double StartTimelineView::laneHeight() const {
    const double lanes = static_cast<double>(timeline_.order.size()) + 1.0;
    return std::clamp((height() - axisHeight - legendHeight - topGap) / lanes, 12.0, 34.0);
}

QRectF StartTimelineView::laneRect(int lane) const {
    return {0, topGap + lane * laneHeight(), static_cast<double>(width()), laneHeight()};
}

double StartTimelineView::xOf(double seconds) const {
    double end = 60.0;
    for (const auto& e : timeline_.events)
        if (e.kind != start::EventKind::rest || e.end < timeline_.total + 120)
            end = std::max(end, e.end);
    return nameWidth + (width() - nameWidth - 8) * seconds / (end * 1.03);
}

void StartTimelineView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    if (!document_.isOpen())
        return;
    const double lane = laneHeight(), bottom = topGap + lane * (static_cast<double>(timeline_.order.size()) + 1);
    p.fillRect(QRectF(nameWidth, topGap, width() - nameWidth - 4, bottom - topGap), c.sheet);
    // Time grid.
    p.setFont(face(12));
    const double perMinute = xOf(60) - xOf(0);
    const double step = perMinute > 110 ? 30 : perMinute > 45 ? 60 : perMinute > 16 ? 180 : 600;
    for (double t = 0; xOf(t) < width() - 20; t += step) {
        p.setPen(QPen(c.grid, 1));
        p.drawLine(QPointF(xOf(t), topGap), QPointF(xOf(t), bottom));
        p.setPen(c.faint);
        p.drawText(QRectF(xOf(t) - 24, bottom + 1, 48, axisHeight - 2), Qt::AlignCenter, q(formatMinutesSeconds(t)));
    }
    const auto label = [&](int row, const QString& text, bool failed) {
        const QRectF r = laneRect(row);
        p.setFont(face(13, hasFocus() && row == lane_));
        p.setPen(c.ink);
        double left = 4;
        if (failed) {
            drawColourMark(p, QPointF(left + 5, r.center().y()), watch::Colour::amber, c, 4);
            left += 14;
        }
        p.drawText(QRectF(left, r.top(), nameWidth - left - 4, r.height()), Qt::AlignVCenter | Qt::AlignLeft,
                   QFontMetrics(p.font()).elidedText(text, Qt::ElideRight, static_cast<int>(nameWidth - left - 4)));
        p.setPen(QPen(c.rule, 1));
        p.drawLine(QPointF(0, r.bottom()), QPointF(width() - 4, r.bottom()));
    };
    std::map<std::string, int> row;
    for (std::size_t i = 0; i < timeline_.order.size(); ++i) {
        row[timeline_.order[i]] = static_cast<int>(i);
        label(static_cast<int>(i), nameOf(timeline_.order[i]), failuresOf(timeline_.order[i]) > 0);
    }
    const int supplyRow = static_cast<int>(timeline_.order.size());
    label(supplyRow, supplyName(), false);
    if (hasFocus()) {
        p.setPen(QPen(c.amber, 2));
        p.drawRect(laneRect(lane_).adjusted(1, 1, -5, -1));
    }
    for (const auto& e : timeline_.events) {
        const QRectF r = laneRect(row[e.engine]);
        const QRectF box(xOf(e.start), r.top() + 3, std::max(1.5, xOf(e.end) - xOf(e.start)), r.height() - 6);
        using start::EventKind;
        paintKind(p, c, box, e.kind, e.failed);
        if (e.kind == EventKind::crank || e.kind == EventKind::energise) {
            const QRectF s = laneRect(supplyRow);
            paintKind(p, c, QRectF(box.left(), s.top() + 3, box.width(), s.height() - 6), e.kind, e.failed);
        }
        const QString word = e.failed ? tr("no catch") : q(std::string(titleOf(e.kind)));
        p.setFont(face(11));
        if (QFontMetricsF(p.font()).horizontalAdvance(word) + 4 < box.width() && box.height() > 11 &&
            e.kind != EventKind::crank) {
            const QRectF text(box.left() + 2, box.top(), box.width() - 4, box.height());
            if (e.kind == EventKind::energise || e.kind == EventKind::oilPressureWatch) {
                const double wide = QFontMetricsF(p.font()).horizontalAdvance(word) + 4;
                p.fillRect(QRectF(box.center().x() - wide / 2, box.center().y() - 7, wide, 14), c.sheet);
            }
            p.setPen(c.ink);
            p.drawText(text, Qt::AlignCenter, word);
        }
    }
    // What the blocks mean.
    p.setFont(face(11));
    double x = 4;
    for (const auto kind : {start::EventKind::prime, start::EventKind::wait, start::EventKind::energise,
                            start::EventKind::crank, start::EventKind::oilPressureWatch, start::EventKind::rest}) {
        if (std::none_of(timeline_.events.begin(), timeline_.events.end(),
                         [&](const start::Event& e) { return e.kind == kind; }))
            continue;
        const QString name = q(std::string(titleOf(kind)));
        const double y = bottom + axisHeight;
        paintKind(p, c, QRectF(x, y + 2, 12, 10), kind, false);
        p.setPen(c.faint);
        const double wide = QFontMetricsF(p.font()).horizontalAdvance(name);
        p.drawText(QRectF(x + 16, y, wide + 2, 14), Qt::AlignVCenter | Qt::AlignLeft, name);
        x += wide + 26;
    }
    for (const auto& [engine, from] : timeline_.runningFrom) {
        const QRectF r = laneRect(row[engine]);
        p.setPen(QPen(c.green, 3));
        const double end = width() - 8.0;
        for (const auto& e : timeline_.events)
            if (e.engine == engine && e.kind == start::EventKind::oilPressureWatch && xOf(e.end) < end)
                p.drawLine(QPointF(xOf(e.end) + 2, r.center().y()), QPointF(end, r.center().y()));
    }
    // How warm each is when the last one runs: the early ones warm while the late ones start.
    if (failures_.empty())
        for (const auto& w : document_.plan().flown.warmth) {
            const QRectF r = laneRect(row[w.engine]);
            const QString text =
                tr("oil %1").arg(q(format(w.atStartEnd.oil.si(), *document_.aircraft().notes.cockpit.temperature)));
            p.setFont(face(11));
            const double wide = QFontMetricsF(p.font()).horizontalAdvance(text) + 6;
            const double left = width() - 8.0 - wide;
            for (const auto& e : timeline_.events)
                if (e.engine == w.engine && e.kind == start::EventKind::oilPressureWatch && xOf(e.end) + 4 < left) {
                    p.fillRect(QRectF(left, r.center().y() - 8, width() - left - 4, 16), c.sheet);
                    p.setPen(c.ink);
                    p.drawText(QRectF(left, r.top(), wide, r.height()), Qt::AlignCenter, text);
                }
        }
}

void StartTimelineView::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    const int lane = static_cast<int>((event->position().y() - topGap) / laneHeight());
    pressed_ = lane >= 0 && lane < static_cast<int>(timeline_.order.size()) ? lane : -1;
    if (pressed_ >= 0)
        lane_ = pressed_;
    update();
}

void StartTimelineView::mouseReleaseEvent(QMouseEvent* event) {
    if (pressed_ < 0)
        return;
    const int last = static_cast<int>(timeline_.order.size()) - 1;
    const int lane = std::clamp(static_cast<int>((event->position().y() - topGap) / laneHeight()), 0, last);
    const int from = std::exchange(pressed_, -1);
    if (lane == from)
        failOnceMore(timeline_.order[static_cast<std::size_t>(from)]);
    else
        move(from, lane - from);
}

void StartTimelineView::move(int lane, int by) {
    auto order = timeline_.order;
    const int to = std::clamp(lane + by, 0, static_cast<int>(order.size()) - 1);
    if (to == lane)
        return;
    const auto id = order[static_cast<std::size_t>(lane)];
    order.erase(order.begin() + lane);
    order.insert(order.begin() + to, id);
    lane_ = to;
    emit orderWanted(order);
}

void StartTimelineView::keyPressEvent(QKeyEvent* event) {
    const int last = static_cast<int>(timeline_.order.size()) - 1;
    const bool moving = event->modifiers() & Qt::ControlModifier;
    switch (event->key()) {
    case Qt::Key_Up:
    case Qt::Key_Down: {
        const int by = event->key() == Qt::Key_Up ? -1 : 1;
        if (moving)
            move(lane_, by);
        else
            lane_ = std::clamp(lane_ + by, 0, last);
        update();
        return;
    }
    case Qt::Key_F:
    case Qt::Key_Space:
    case Qt::Key_Return:
        failOnceMore(timeline_.order[static_cast<std::size_t>(lane_)]);
        return;
    case Qt::Key_Home:
        failures_.clear();
        refresh();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

bool StartTimelineView::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip && document_.isOpen()) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const int lane = static_cast<int>((help->pos().y() - topGap) / laneHeight());
        QString text = tr("Click an engine, or press F, when it does not catch; drag it, or Ctrl+Up and Down, to "
                          "change the order; Home: all catch.");
        if (lane >= 0 && lane < static_cast<int>(timeline_.order.size()))
            for (const auto& e : timeline_.events)
                if (e.engine == timeline_.order[static_cast<std::size_t>(lane)] && help->pos().x() >= xOf(e.start) &&
                    help->pos().x() <= xOf(e.end))
                    text = tr("%1, try %2: %3 from %4 to %5")
                               .arg(nameOf(e.engine))
                               .arg(e.attempt)
                               .arg(q(std::string(titleOf(e.kind))), q(formatMinutesSeconds(e.start)),
                                    q(formatMinutesSeconds(e.end)));
        QToolTip::showText(help->globalPos(), text, this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace amber::app
