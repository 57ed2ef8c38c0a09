// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QLayout>
#include <vector>

namespace amber::app {

/// Widgets in a line, wrapped into further lines where the width is too small; each stands on the foot of its line, and
/// hidden ones take no room.
class FlowLayout : public QLayout {
public:
    explicit FlowLayout(QWidget* parent, int across, int down);
    ~FlowLayout() override;
    FlowLayout(const FlowLayout&) = delete;
    FlowLayout& operator=(const FlowLayout&) = delete;

    void addItem(QLayoutItem* item) override;
    [[nodiscard]] int count() const override;
    [[nodiscard]] QLayoutItem* itemAt(int index) const override;
    QLayoutItem* takeAt(int index) override;
    [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;
    void setGeometry(const QRect& rect) override;
    /// All in one line.
    [[nodiscard]] QSize sizeHint() const override;
    /// The widest alone.
    [[nodiscard]] QSize minimumSize() const override;
    void setRightAligned(bool right) { right_ = right; }

private:
    /// @return height @param place whether the widgets are put in their places too
    int arrange(const QRect& rect, bool place) const;
    std::vector<QLayoutItem*> items_;
    int across_, down_;
    bool right_ = false;
};

} // namespace amber::app
