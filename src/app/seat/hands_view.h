// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "seat/seat.h"
#include <QLineEdit>
#include <QWidget>
#include <array>
#include <optional>

namespace amber::app {

/// The controls as this cockpit has them, every engine's own. A letter takes one, numbers the engines that the hand is
/// on (0 all), arrows move it, Shift finely; Space works a switch, strokes a primer, and holds what must be held; Enter
/// goes to the planned mark; = types a figure. With the mouse: levers are dragged, switches clicked or held, the wheel
/// moves what it is over. Two at the keyboard have the arrows, Space and Enter, and W A S D, Q, E and R, each for what
/// is theirs, and hold at once.
class HandsView : public QWidget {
    Q_OBJECT
public:
    explicit HandsView(Seat& seat, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] QSize sizeHint() const override { return {430, 420}; }
    [[nodiscard]] QSize minimumSizeHint() const override;
    /// The letter that takes a control.
    [[nodiscard]] QChar letterOf(std::size_t control) const { return letters_.at(control); }
    [[nodiscard]] QString markOf(std::size_t control) const;
    /// Where it stands in words: all engines alike once; a position that most have, then the odd ones by their numbers;
    /// else one by one.
    [[nodiscard]] QString valueOf(std::size_t control) const;
    /// All of the chosen control: where it stands, its sense, who works it.
    [[nodiscard]] QString reading() const;
    /// Where a control is drawn, and the knob of one engine on its slot.
    [[nodiscard]] QRectF placeOf(std::size_t control) const;
    [[nodiscard]] QRectF knobOf(std::size_t control, std::size_t engine) const;
    [[nodiscard]] QLineEdit* figure() const { return figure_; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void keyReleaseEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    bool event(QEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Cell {
        std::size_t control;
        QRectF box;
        bool slot; ///< a lever on its travel; else a line of the list
    };
    enum class Step { fine, usual, coarse };
    void layOut();
    void nameLetters();
    [[nodiscard]] const Control& control(std::size_t index) const { return seat_.notes().controls[index]; }
    [[nodiscard]] QString valueOf(std::size_t control, std::size_t engine) const;
    [[nodiscard]] std::optional<double> shareOf(std::size_t control, std::size_t engine) const;
    [[nodiscard]] std::optional<double> plannedShare(std::size_t control, std::size_t engine) const;
    [[nodiscard]] QString plannedText(std::size_t control) const;
    [[nodiscard]] bool isAsked(std::size_t control) const;
    [[nodiscard]] bool governs(std::size_t control) const;
    [[nodiscard]] bool isSlot(std::size_t control) const;
    [[nodiscard]] std::pair<double, double> revs() const;
    [[nodiscard]] bool moreIsUp(std::size_t control) const;
    [[nodiscard]] const Cell* cellAt(QPointF place) const;
    void move(int up, Step step);
    void moveTo(double share);
    /// Index of the position in which a control of the first engine of the hand stands.
    [[nodiscard]] std::size_t positionOf(std::size_t control) const;
    void putPosition(std::size_t position);
    void work(bool pressed);
    void step(int by);             ///< from control to control as they are drawn, of the one whose key it is
    bool shared(QKeyEvent& event); ///< of two at the keyboard. @return whether the key was theirs
    void letGo();
    [[nodiscard]] bool isChosen(std::size_t control) const;
    void paintChosen(QPainter& painter, const Cell& cell) const;
    void typed();
    void paintSlot(QPainter& painter, const Cell& cell) const;
    void paintLine(QPainter& painter, const Cell& cell) const;
    [[nodiscard]] QRectF travelOf(const Cell& cell) const;

    Seat& seat_;
    std::vector<Cell> cells_;
    std::vector<QChar> letters_;
    QLineEdit* figure_;
    std::array<std::optional<std::size_t>, 2> held_; ///< control that is held on, by each
    bool dragging_ = false;
};

} // namespace amber::app
