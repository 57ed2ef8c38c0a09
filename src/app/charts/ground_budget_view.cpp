// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/ground_budget_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr double nameColumn = 236, wordsWidth = 214, marginAbove = 62, rowHeight = 34, barHeight = 14;

QString minutes(double seconds) {
    return GroundBudgetView::tr("%1 min").arg(std::max(1L, std::lround(seconds / 60)));
}
} // namespace

GroundBudgetView::GroundBudgetView(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("ground-budget"));
    setAccessibleName(tr("Time budget on the ground"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    timer_.setInterval(500);
    connect(&timer_, &QTimer::timeout, this, [this] { update(); });
}

void GroundBudgetView::refresh() {
    if (!document_.isOpen())
        return;
    budget_ = advice::groundBudget(document_.aircraft(), document_.sortie(), document_.plan().flown, from_);
    selected_ = std::clamp(selected_, 0, std::max(0, static_cast<int>(budget_.runs.size()) - 1));
    update();
}

void GroundBudgetView::startFrom(advice::GroundFrom from) {
    from_ = from;
    refresh();
    emit chosen();
}

void GroundBudgetView::select(int run) {
    selected_ = std::clamp(run, 0, std::max(0, static_cast<int>(budget_.runs.size()) - 1));
    update();
    emit chosen();
}

void GroundBudgetView::toggleClock() {
    if (timer_.isActive()) {
        timer_.stop();
    } else {
        since_.start();
        timer_.start();
    }
    update();
}

double GroundBudgetView::elapsed() const {
    return timer_.isActive() ? static_cast<double>(since_.elapsed()) / 1000.0 : 0.0;
}

QString GroundBudgetView::clockText(double elapsed) const {
    if (budget_.runs.empty())
        return {};
    const auto& run = budget_.runs[static_cast<std::size_t>(selected_)];
    if (!run.toAmber)
        return tr("no limit");
    if (elapsed < *run.toAmber)
        return tr("%1 to amber").arg(q(formatMinutesSeconds(*run.toAmber - elapsed)));
    if (run.toRed && elapsed < *run.toRed)
        return tr("%1 to the limit").arg(q(formatMinutesSeconds(*run.toRed - elapsed)));
    return run.toRed ? tr("over the limit: stop") : tr("amber");
}

QString GroundBudgetView::words(int index) const {
    const auto& run = budget_.runs[static_cast<std::size_t>(index)];
    const QString settles = q(format(run.settles.si(), *document_.aircraft().notes.cockpit.temperature));
    if (!run.toAmber)
        return tr("for ever: settles at %1").arg(settles);
    if (!run.toRed)
        return tr("%1, then amber at %2").arg(minutes(*run.toAmber), settles);
    return tr("%1, limit at %2").arg(minutes(*run.toAmber), minutes(*run.toRed));
}

double GroundBudgetView::longest() const {
    double most = 600.0;
    for (const auto& r : budget_.runs)
        most = std::max({most, r.toAmber.value_or(0) * 1.15, r.toRed.value_or(0) * 1.05});
    return std::min(advice::GroundBudget::horizon, std::ceil(most / 600.0) * 600.0);
}

QRectF GroundBudgetView::rowBox(int run) const {
    const double high = std::min(rowHeight, (height() - marginAbove - 26) /
                                                std::max<double>(1, static_cast<double>(budget_.runs.size())));
    return {0, marginAbove + run * high, static_cast<double>(width()), high};
}
QRectF GroundBudgetView::clockBox() const {
    return {width() - 268.0, 4, 260, 34};
}

void GroundBudgetView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours c(this);
    if (!document_.isOpen() || budget_.runs.empty())
        return;
    const double scale = longest(), left = nameColumn, right = width() - wordsWidth;
    const auto x = [&](double seconds) { return left + (right - left) * std::min(1.0, seconds / scale); };
    // The clock.
    p.setPen(QPen(clockRuns() || hasFocus() ? c.amber : c.rule, 1.4));
    p.setBrush(c.sheet);
    p.drawRect(clockBox());
    p.setFont(face(18, true));
    p.setPen(clockRuns() ? c.ink : c.faint);
    p.drawText(clockBox(), Qt::AlignCenter, clockText(elapsed()));
    p.setFont(face(12));
    p.setPen(c.faint);
    p.drawText(QRectF(0, 4, clockBox().left() - 10, 34), Qt::AlignVCenter | Qt::AlignLeft,
               clockRuns() ? tr("The clock runs. Space stops it.") : tr("Space starts the clock for the chosen way."));
    // Scale of minutes.
    const double step = scale > 3600 ? 1200 : scale > 1800 ? 600 : 300;
    const double bottom = rowBox(static_cast<int>(budget_.runs.size()) - 1).bottom();
    p.setFont(face(11));
    for (double t = 0; t <= scale + 1; t += step) {
        p.setPen(QPen(c.grid, 1));
        p.drawLine(QPointF(x(t), marginAbove - 4), QPointF(x(t), bottom));
        p.setPen(c.faint);
        p.drawText(QRectF(x(t) - 30, marginAbove - 20, 60, 14), Qt::AlignCenter,
                   t == 0 ? tr("now") : q(formatNumber(t / 60, 0)));
    }
    for (std::size_t i = 0; i < budget_.runs.size(); ++i) {
        const auto& run = budget_.runs[i];
        const QRectF row = rowBox(static_cast<int>(i));
        if (static_cast<int>(i) == selected_) {
            p.fillRect(row, c.amberWash);
            if (hasFocus()) {
                p.setPen(QPen(c.amber, 1));
                p.setBrush(Qt::NoBrush);
                p.drawRect(row.adjusted(0.5, 0.5, -0.5, -0.5));
            }
        }
        p.setPen(QPen(c.grid, 1));
        p.drawLine(row.bottomLeft(), row.bottomRight());
        p.setFont(face(14, run.planned));
        p.setPen(c.ink);
        p.drawText(row.adjusted(6, 0, nameColumn - width() - 6, 0), Qt::AlignVCenter | Qt::AlignLeft,
                   QFontMetricsF(p.font()).elidedText(q(run.name), Qt::ElideRight, nameColumn - 14));
        const double y = row.center().y() - barHeight / 2;
        const double amber = run.toAmber.value_or(scale), red = run.toRed.value_or(scale);
        QColor wash = c.green;
        wash.setAlpha(150);
        p.fillRect(QRectF(QPointF(x(0), y), QPointF(x(amber), y + barHeight)), wash);
        if (run.toAmber) {
            // Amber is hatched besides: shape doubles colour.
            const QRectF late(QPointF(x(amber), y), QPointF(x(red), y + barHeight));
            p.fillRect(late, c.amberWash);
            p.fillRect(late, QBrush(c.amber, Qt::BDiagPattern));
            p.setPen(QPen(c.amber, 2));
            p.drawLine(QPointF(x(amber), y - 4), QPointF(x(amber), y + barHeight + 4));
        }
        if (run.toRed && *run.toRed <= scale) {
            p.setPen(QPen(c.red, 3));
            p.drawLine(QPointF(x(red), y - 5), QPointF(x(red), y + barHeight + 5));
        }
        if (!run.toAmber) {
            p.setPen(QPen(c.green, 2));
            p.drawLine(QPointF(x(scale), y - 3), QPointF(x(scale) + 7, y + barHeight / 2));
            p.drawLine(QPointF(x(scale) + 7, y + barHeight / 2), QPointF(x(scale), y + barHeight + 3));
        }
        p.setFont(face(13));
        p.setPen(c.ink);
        p.drawText(QRectF(right + 14, row.top(), wordsWidth - 16, row.height()), Qt::AlignVCenter | Qt::AlignLeft,
                   words(static_cast<int>(i)));
    }
    if (clockRuns()) {
        p.setPen(QPen(c.ink, 1.6));
        p.drawLine(QPointF(x(elapsed()), marginAbove - 6), QPointF(x(elapsed()), bottom));
    }
    p.setFont(face(11));
    p.setPen(c.faint);
    p.drawText(QRectF(left, bottom + 4, right - left, 16), Qt::AlignCenter, tr("minutes of running from now (model)"));
}

void GroundBudgetView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Space:
        toggleClock();
        break;
    case Qt::Key_Up:
        select(selected_ - 1);
        break;
    case Qt::Key_Down:
        select(selected_ + 1);
        break;
    case Qt::Key_W:
        startFrom(advice::GroundFrom::warmUp);
        break;
    case Qt::Key_H:
        startFrom(advice::GroundFrom::holding);
        break;
    default:
        QWidget::keyPressEvent(event);
    }
}

void GroundBudgetView::mousePressEvent(QMouseEvent* event) {
    if (clockBox().contains(event->position())) {
        toggleClock();
        return;
    }
    for (int i = 0; i < static_cast<int>(budget_.runs.size()); ++i)
        if (rowBox(i).contains(event->position()))
            select(i);
}

void GroundBudgetView::mouseMoveEvent(QMouseEvent* event) {
    for (int i = 0; i < static_cast<int>(budget_.runs.size()); ++i)
        if (rowBox(i).contains(event->position())) {
            QToolTip::showText(event->globalPosition().toPoint(), q(budget_.runs[static_cast<std::size_t>(i)].why),
                               this);
            return;
        }
    QToolTip::hideText();
}

} // namespace amber::app
