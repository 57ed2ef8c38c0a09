// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "log/book.h"
#include <QTimer>
#include <QWidget>
#include <functional>

class QVBoxLayout;
class QToolButton;

namespace amber::app {

/// Stop clocks, pressed with one hand: those of the phase's readings that are times (starter, seconds to fire, to oil
/// pressure, warm-up, run-down) and of the engine that is chosen, and the plan's own clocks (ratings, waits). A clock
/// that is stopped keeps its seconds as a reading; clocks run on while other engines and pages are looked at.
class StopClocks : public QWidget {
    Q_OBJECT
public:
    explicit StopClocks(QWidget* parent = nullptr);
    /// One clock as it is offered.
    struct Clock {
        Book::Place place;             ///< where its seconds are kept
        QString title;                 ///< "Starter turned, port"
        std::optional<double> planned; ///< s
        bool keeps = true;             ///< else it only runs, beside what the plan allows
    };
    void offer(std::vector<Clock> clocks);
    /// Starts a clock, or stops it. @return seconds where it was stopped
    std::optional<double> press(const Book::Place& place);
    [[nodiscard]] bool runs(const Book::Place& place) const;

    std::function<std::int64_t()> now; ///< ms

signals:
    void stopped(amber::app::Book::Place place, double seconds); ///< of one that keeps

private:
    struct Running {
        Clock clock;
        std::int64_t since = 0;
    };
    void build();
    void tell();
    [[nodiscard]] QString tellOne(const Clock& clock) const;

    std::vector<Clock> offered_;
    std::vector<Running> running_;
    std::vector<std::pair<Clock, QToolButton*>> buttons_;
    QVBoxLayout* column_;
    QTimer tick_;
};

} // namespace amber::app
