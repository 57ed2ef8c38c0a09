// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "seat/seat.h"
#include <QWidget>

namespace amber::app {

/// One gauge over the last three minutes: a line an engine, the phase's normal range and limits behind, the plan's own
/// line in grey.
class TrendView : public QWidget {
    Q_OBJECT
public:
    explicit TrendView(Seat& seat, QWidget* parent = nullptr);
    [[nodiscard]] QString title() const;
    [[nodiscard]] QSize sizeHint() const override { return {330, 136}; }
    [[nodiscard]] QSize minimumSizeHint() const override { return {200, 84}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Seat& seat_;
};

} // namespace amber::app
