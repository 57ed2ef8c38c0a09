// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QWidget>

namespace amber::app {

/// The walk-round as a plate: top view drawn from the notes' outline, the path from station to station, each station
/// with its number, its name and how it was found. Click a station, or the arrow keys, Home and End, to go to it.
class WalkRoundView : public QWidget {
    Q_OBJECT
public:
    explicit WalkRoundView(SortieDocument& document, QWidget* parent = nullptr);
    void refresh();
    void select(int station);
    [[nodiscard]] int selected() const { return station_; }
    [[nodiscard]] int stations() const;
    /// Middle of a station's mark, in pixels.
    [[nodiscard]] QPointF markOf(int station) const;

signals:
    void chosen(int station);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Frame;
    [[nodiscard]] Frame frame() const;
    [[nodiscard]] int stationAt(QPointF position) const;
    void take(int station);
    /// Where each name stands: in the margin of its own side, pushed apart.
    [[nodiscard]] std::vector<QRectF> labels() const;

    SortieDocument& document_;
    int station_ = 0;
    watch::WalkRound drawn_; ///< what was drawn last, and of which aircraft
    std::shared_ptr<const powerplant::Aircraft> drawnOf_;
};

} // namespace amber::app
