// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/walk_round_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolTip>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace amber::app {
namespace {
constexpr double labelWidth = 148, labelHeight = 20, markRadius = 9.5, margin = 10;

} // namespace

struct WalkRoundView::Frame {
    double scale = 1.0;
    QPointF origin; // pixels of the nose
    [[nodiscard]] QPointF at(double aft, double starboard) const {
        return {origin.x() + starboard * scale, origin.y() + aft * scale};
    }
};

WalkRoundView::WalkRoundView(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("walk-round-view"));
    setAccessibleName(tr("Walk-round: stations on the top view"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
}

int WalkRoundView::stations() const {
    return document_.isOpen() ? static_cast<int>(document_.aircraft().notes.walk.stations.size()) : 0;
}

void WalkRoundView::refresh() {
    if (document_.isOpen()) {
        if (document_.plan().walk == drawn_ && document_.sharedAircraft() == drawnOf_)
            return;
        drawn_ = document_.plan().walk;
        drawnOf_ = document_.sharedAircraft();
    }
    station_ = std::clamp(station_, 0, std::max(0, stations() - 1));
    update();
}

void WalkRoundView::select(int station) {
    station_ = std::clamp(station, 0, std::max(0, stations() - 1));
    update();
}

void WalkRoundView::take(int station) {
    if (stations() == 0)
        return;
    select(station);
    emit chosen(station_);
}

WalkRoundView::Frame WalkRoundView::frame() const {
    const auto& walk = document_.aircraft().notes.walk;
    double left = 1e9, right = -1e9, front = 1e9, rear = -1e9;
    const auto consider = [&](double aft, double starboard) {
        left = std::min(left, starboard);
        right = std::max(right, starboard);
        front = std::min(front, aft);
        rear = std::max(rear, aft);
    };
    for (const auto& part : walk.outline)
        for (const auto& [aft, starboard] : part.points) {
            consider(aft, starboard);
            if (part.mirrored)
                consider(aft, -starboard);
        }
    for (const auto& s : walk.stations)
        consider(s.aft, s.starboard);
    Frame f;
    const double wide = std::max(1.0, right - left), tall = std::max(1.0, rear - front);
    f.scale = std::max(
        1.0, std::min((width() - 2 * labelWidth - 2 * margin) / wide, (height() - 2 * margin - 2 * markRadius) / tall));
    f.origin = {width() / 2.0 - 0.5 * (left + right) * f.scale, height() / 2.0 - 0.5 * (front + rear) * f.scale};
    return f;
}

QPointF WalkRoundView::markOf(int station) const {
    const auto& s = document_.aircraft().notes.walk.stations.at(static_cast<std::size_t>(station));
    return frame().at(s.aft, s.starboard);
}

std::vector<QRectF> WalkRoundView::labels() const {
    const int count = stations();
    std::vector<QRectF> out(static_cast<std::size_t>(count));
    for (const bool port : {true, false}) {
        std::vector<int> side;
        for (int i = 0; i < count; ++i) {
            const auto& s = document_.aircraft().notes.walk.stations[static_cast<std::size_t>(i)];
            if ((s.starboard < 0) == port)
                side.push_back(i);
        }
        std::stable_sort(side.begin(), side.end(), [this](int a, int b) { return markOf(a).y() < markOf(b).y(); });
        double y = 2;
        std::vector<double> tops;
        for (const int i : side) {
            const double top = std::max(y, markOf(i).y() - labelHeight / 2);
            tops.push_back(top);
            y = top + labelHeight;
        }
        // Too low at the foot: pushed up again from there.
        double floor = height() - 2.0;
        for (std::size_t k = side.size(); k-- > 0;) {
            tops[k] = std::min(tops[k], floor - labelHeight);
            floor = tops[k];
        }
        for (std::size_t k = 0; k < side.size(); ++k)
            out[static_cast<std::size_t>(side[k])] =
                QRectF(port ? 0.0 : width() - labelWidth, tops[k], labelWidth, labelHeight);
    }
    return out;
}

void WalkRoundView::paintEvent(QPaintEvent*) {
    if (!document_.isOpen() || stations() == 0)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours c(this);
    const auto& notes = document_.aircraft().notes;
    const auto& stops = document_.plan().walk.stops;
    const Frame f = frame();
    p.fillRect(QRectF(labelWidth - 6, 0, width() - 2 * labelWidth + 12, height()), c.sheet);
    // The outline, engraved: one line, no shading.
    p.setPen(QPen(c.ink, 1.2));
    p.setBrush(Qt::NoBrush);
    for (const auto& part : notes.walk.outline)
        for (const double side : part.mirrored ? std::vector<double>{1.0, -1.0} : std::vector<double>{1.0}) {
            QPolygonF shape;
            for (const auto& [aft, starboard] : part.points)
                shape << f.at(aft, side * starboard);
            QPainterPath path;
            path.addPolygon(shape);
            path.closeSubpath();
            p.fillPath(path, c.paper);
            p.drawPath(path);
        }
    // The path round it.
    QPointF last;
    for (int i = 0; i < stations(); ++i) {
        const QPointF here = markOf(i);
        if (i > 0) {
            p.setPen(QPen(c.amber, 1.3, Qt::DashLine));
            p.drawLine(last, here);
            const QLineF way(last, here);
            if (way.length() > 4 * markRadius) {
                const QPointF mid = way.pointAt(0.5), along = (here - last) / way.length(),
                              across(-along.y(), along.x());
                p.setPen(Qt::NoPen);
                p.setBrush(c.amber);
                p.drawPolygon(QPolygonF{{mid + along * 5, mid - along * 4 + across * 4, mid - along * 4 - across * 4}});
            }
        }
        last = here;
    }
    const auto names = labels();
    for (int i = 0; i < stations(); ++i) {
        const auto index = static_cast<std::size_t>(i);
        const auto& stop = stops[index];
        const QPointF at = markOf(i);
        const QRectF label = names[index];
        const bool port = notes.walk.stations[index].starboard < 0, here = i == station_;
        p.setPen(QPen(c.rule, 1));
        p.drawLine(at, QPointF(port ? label.right() - 3 : label.left() + 3, label.center().y()));
        const bool seen = stop.open == 0;
        p.setPen(QPen(here ? c.amber : c.ink, here ? 2.2 : 1.2));
        p.setBrush(here ? c.amberWash : c.sheet);
        p.drawEllipse(at, markRadius, markRadius);
        p.setFont(face(12, true));
        p.setPen(c.ink);
        p.drawText(QRectF(at.x() - markRadius, at.y() - markRadius, 2 * markRadius, 2 * markRadius), Qt::AlignCenter,
                   QString::number(i + 1));
        // Name, and how the station was found: a shape and a colour.
        p.setFont(face(13, here));
        p.setPen(here ? c.amber : c.ink);
        const QPointF state(port ? label.right() - 10 : label.left() + 10, label.center().y());
        const QRectF text = port ? label.adjusted(0, 0, -20, 0) : label.adjusted(20, 0, 0, 0);
        p.drawText(text, Qt::AlignVCenter | (port ? Qt::AlignRight : Qt::AlignLeft),
                   QFontMetrics(p.font()).elidedText(q(stop.name), Qt::ElideRight, static_cast<int>(text.width())));
        if (seen || stop.worst != watch::Colour::normal) {
            drawColourMark(p, state, stop.worst, c, 4);
        } else {
            p.setPen(QPen(c.faint, 1.2));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(state, 4, 4);
        }
    }
    if (hasFocus()) {
        p.setPen(QPen(c.amber, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(labelWidth - 6, 0.75, width() - 2 * labelWidth + 12, height() - 1.5));
    }
}

int WalkRoundView::stationAt(QPointF position) const {
    if (!document_.isOpen())
        return -1;
    const auto names = labels();
    for (int i = 0; i < stations(); ++i)
        if (QLineF(markOf(i), position).length() <= markRadius + 4 ||
            names[static_cast<std::size_t>(i)].contains(position))
            return i;
    return -1;
}

void WalkRoundView::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (const int at = stationAt(event->position()); at >= 0)
        take(at);
}

void WalkRoundView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Right:
    case Qt::Key_Down:
        take(station_ + 1);
        return;
    case Qt::Key_Left:
    case Qt::Key_Up:
        take(station_ - 1);
        return;
    case Qt::Key_Home:
        take(0);
        return;
    case Qt::Key_End:
        take(stations() - 1);
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

bool WalkRoundView::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip && document_.isOpen()) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (const int at = stationAt(help->pos()); at >= 0) {
            const auto& stop = document_.plan().walk.stops[static_cast<std::size_t>(at)];
            QString text = q(stop.name);
            text += stop.open > 0 ? tr(": %n to see", nullptr, stop.open) : tr(": checked");
            for (const auto& f : stop.items)
                if (f.verdict.colour() != watch::Colour::normal)
                    text += QStringLiteral("\n") + q(f.verdict.sentence());
            QToolTip::showText(help->globalPos(), text, this);
        }
        return true;
    }
    return QWidget::event(event);
}

} // namespace amber::app
