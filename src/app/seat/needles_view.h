// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "seat/seat.h"
#include <QWidget>

namespace amber::app {

/// The gauges of the cockpit laid straight, one needle an engine with its number, so that the odd one out is seen. Up
/// and Down choose the one whose last minutes are drawn.
class NeedlesView : public QWidget {
    Q_OBJECT
public:
    explicit NeedlesView(Seat& seat, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {230, 6 * 24}; }
    /// One line of it as it stands now.
    struct Line {
        Gauge gauge = Gauge::rpm;
        QString title, value;
        std::vector<double> engines; ///< SI, as the needle shows it; NaN: no needle
        watch::Colour worst = watch::Colour::normal;
    };
    [[nodiscard]] std::vector<Line> lines() const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    [[nodiscard]] std::vector<Gauge> gauges() const;
    [[nodiscard]] int lineHeight() const;
    Seat& seat_;
};

} // namespace amber::app
