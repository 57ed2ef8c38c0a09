// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/stop_clocks.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QDateTime>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int tick = 100; // ms
QString onTheClock(double seconds) {
    return seconds < 60.0 ? QString::number(std::floor(seconds * 10.0 + 1e-9) / 10.0, 'f', 1) + QStringLiteral(" s")
                          : q(formatMinutesSeconds(seconds));
}
} // namespace

StopClocks::StopClocks(QWidget* parent)
    : QWidget(parent), now([] { return QDateTime::currentMSecsSinceEpoch(); }), column_(new QVBoxLayout(this)) {
    setObjectName(QStringLiteral("stop-clocks"));
    setAccessibleName(tr("Stop clocks"));
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(3);
    tick_.setInterval(tick);
    connect(&tick_, &QTimer::timeout, this, &StopClocks::tell);
}

void StopClocks::offer(std::vector<Clock> clocks) {
    offered_ = std::move(clocks);
    // What runs stays in sight, wherever it belongs.
    for (const auto& r : running_)
        if (std::none_of(offered_.begin(), offered_.end(), [&](const Clock& c) { return c.place == r.clock.place; }))
            offered_.push_back(r.clock);
    build();
}

bool StopClocks::runs(const Book::Place& place) const {
    return std::any_of(running_.begin(), running_.end(), [&](const Running& r) { return r.clock.place == place; });
}

std::optional<double> StopClocks::press(const Book::Place& place) {
    const auto running =
        std::find_if(running_.begin(), running_.end(), [&](const Running& r) { return r.clock.place == place; });
    if (running != running_.end()) {
        const double seconds = static_cast<double>(std::max<std::int64_t>(0, now() - running->since)) / 1000.0;
        const bool keeps = running->clock.keeps;
        running_.erase(running);
        if (running_.empty())
            tick_.stop();
        tell();
        if (keeps)
            emit stopped(place, seconds);
        return seconds;
    }
    const auto offered =
        std::find_if(offered_.begin(), offered_.end(), [&](const Clock& c) { return c.place == place; });
    if (offered == offered_.end())
        return std::nullopt;
    running_.push_back({*offered, now()});
    tick_.start();
    tell();
    return std::nullopt;
}

QString StopClocks::tellOne(const Clock& clock) const {
    const auto running =
        std::find_if(running_.begin(), running_.end(), [&](const Running& r) { return r.clock.place == clock.place; });
    const QString planned = clock.planned ? tr(" of %1").arg(onTheClock(*clock.planned)) : QString();
    if (running == running_.end())
        return clock.planned ? tr("%1   %2").arg(clock.title, onTheClock(*clock.planned)) : clock.title;
    const double seconds = static_cast<double>(std::max<std::int64_t>(0, now() - running->since)) / 1000.0;
    return tr("%1   %2%3").arg(clock.title, onTheClock(seconds), planned);
}

void StopClocks::build() {
    const bool same = buttons_.size() == offered_.size() &&
                      std::equal(buttons_.begin(), buttons_.end(), offered_.begin(), [](const auto& b, const Clock& c) {
                          return b.first.place == c.place && b.first.title == c.title && b.first.keeps == c.keeps;
                      });
    if (!same) {
        // One of them may be the very button that is being pressed or shown: it goes when that is over.
        for (const auto& [clock, button] : buttons_) {
            column_->removeWidget(button);
            button->disconnect(this);
            button->setObjectName({});
            button->hide();
            button->deleteLater();
        }
        buttons_.clear();
        for (const auto& c : offered_) {
            auto* button = new QToolButton(this);
            button->setObjectName(QStringLiteral("clock-") + QString::fromStdString(c.place.what));
            button->setCheckable(true);
            button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
            button->setMinimumHeight(28);
            button->setFont(face(13, true));
            button->setFocusPolicy(Qt::TabFocus);
            button->setToolTip(c.keeps
                                   ? tr("Starts it; pressed again it stops, and its seconds are kept (S in the table)")
                                   : tr("Starts it; pressed again it stops. Nothing of it is kept"));
            connect(button, &QToolButton::clicked, this, [this, place = c.place] { press(place); });
            column_->addWidget(button);
            buttons_.emplace_back(c, button);
        }
    }
    for (std::size_t i = 0; i < offered_.size(); ++i)
        buttons_[i].first = offered_[i];
    tell();
}

void StopClocks::tell() {
    for (const auto& [clock, button] : buttons_) {
        button->setText(tellOne(clock));
        button->setChecked(runs(clock.place));
    }
}

} // namespace amber::app
