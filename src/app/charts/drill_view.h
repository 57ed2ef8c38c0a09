// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "trouble/drill.h"
#include <QWidget>
#include <set>
#include <vector>

namespace amber::app {

/// A drill of an emergency in large type: what is done from memory apart from what is read, act by act, the act that is
/// next set off. Down and Up walk it, Space ticks an act off and goes on, Home begins anew; a click ticks too. The
/// ticks are of the moment: nothing keeps them.
class DrillView : public QWidget {
    Q_OBJECT
public:
    explicit DrillView(const QString& name, QWidget* parent = nullptr);
    /// Another drill begins unticked; the same, with other figures, keeps its ticks.
    void put(const trouble::EmergencyDrill& drill);
    /// The height, in pixels, in which what is done from memory is to be whole: letters, room between lines and, in a
    /// wide view, two columns are chosen by it; nothing is left out. 0: as large as can be.
    void setRoom(int height);
    /// Where the last of what is done from memory ends, in a view as wide as it is.
    [[nodiscard]] int memoryBottom() const;
    [[nodiscard]] const std::vector<trouble::DrillLine>& lines() const { return lines_; }
    [[nodiscard]] int current() const { return current_; }
    [[nodiscard]] bool isDone(int line) const { return done_.contains(line); }
    /// All of it as text, a line an act; for readers aloud and tests.
    [[nodiscard]] QString text() const;

    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {220, 60}; }

signals:
    void ticked();         ///< an act was done: clocks may run
    void chosen(int line); ///< its reason is wanted
    void placeWanted(QRect place);

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    struct Block {
        QRect place;
        int line = -1; ///< −1: a heading
        QString heading;
        bool memory = false;
    };
    /// Laid out for a width: reckoned once, layouts ask for it many times.
    [[nodiscard]] const std::vector<Block>& blocks(int width) const;
    /// How close it is set: 0 the largest letters, 2 the smallest.
    struct Setting {
        int level = 0, columns = 1;
    };
    [[nodiscard]] std::vector<Block> layOut(int width, Setting setting) const;
    [[nodiscard]] int rowHeight(const trouble::DrillLine& line, int width, int level) const;
    void choose(int line);
    void tick(int line);

    std::vector<trouble::DrillLine> lines_;
    std::set<int> done_;
    int current_ = 0;
    int room_ = 0;
    mutable int laidWidth_ = -1;
    mutable Setting setting_;
    mutable std::vector<Block> laid_;
};

} // namespace amber::app
