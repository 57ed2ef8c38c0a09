// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/lever_picture.h"
#include <QWidget>

namespace amber::app {

/// The cockpit drawn from its places: panel by panel, each control on its travel, how the phase found it as a hollow
/// ring, where it stands at the moment as a filled one. What is against the usual sense says so in words and by a
/// crossed slot. Left and Right go from control to control; what is told of one stands in reading().
class LeverPanel : public QWidget {
    Q_OBJECT
public:
    explicit LeverPanel(QWidget* parent = nullptr);
    void show(std::vector<plan::LeverState> levers);
    [[nodiscard]] const std::vector<plan::LeverState>& levers() const { return levers_; }
    /// Sense, who works it, before and now of the chosen control.
    [[nodiscard]] QString reading() const { return levers_.empty() ? QString() : readingOf(levers_[chosen_]); }
    [[nodiscard]] QSize sizeHint() const override { return {760, 420}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;
    /// Where a control is drawn.
    [[nodiscard]] QRectF placeOf(const std::string& id) const;

signals:
    void chosen();

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool event(QEvent* event) override;

private:
    struct Cell {
        std::size_t lever;
        QRectF box;
    };
    struct Group {
        QString title;
        QRectF box;
    };
    struct Layout {
        std::vector<Group> groups;
        std::vector<Cell> cells;
        double height = 0.0;
    };
    [[nodiscard]] Layout layOut(double width) const;
    void holdHeight();
    void paintLever(QPainter& painter, const plan::LeverState& lever, const QRectF& box, bool chosen) const;
    [[nodiscard]] static QString readingOf(const plan::LeverState& lever);
    /// @param marked each figure with its origin
    [[nodiscard]] static QString textOf(const std::vector<plan::LeverPlace>& places, bool marked = false);

    std::vector<plan::LeverState> levers_;
    std::size_t chosen_ = 0;
};

} // namespace amber::app
