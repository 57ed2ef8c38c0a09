// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/table.h"
#include <QHash>
#include <QTextDocument>
#include <QWidget>
#include <memory>
#include <variant>
#include <vector>

namespace amber::app {

/// Tables and words (rich text) under each other.
using Figures = std::vector<std::variant<Table, QString>>;

/// Shows them. Tables are drawn cell by cell: laid out as rich text they would cost more than the flight they tell of.
/// Words are laid out anew only when they change.
class FiguresView : public QWidget {
    Q_OBJECT
public:
    explicit FiguresView(QWidget* parent = nullptr);
    void put(Figures figures);
    /// All of it as text, tables row by row; for readers aloud and tests.
    [[nodiscard]] QString text() const;

    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override { return {120, 20}; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    struct Grid {
        std::vector<int> widths, heights; ///< px, of columns and of lines, the heads first
    };
    [[nodiscard]] static Grid laidOut(const Table& table, int width);
    /// The table of a block laid out for a width, kept: layouts ask for several widths in turn.
    [[nodiscard]] const Grid& grid(std::size_t block, int width) const;
    void paint(QPainter& painter, std::size_t block, int top) const;
    QTextDocument& laidOut(std::size_t block, int width) const;
    [[nodiscard]] int heightOf(std::size_t block, int width) const;

    Figures figures_;
    struct Laid {
        QString text;
        int width = -1;
        std::unique_ptr<QTextDocument> document;
    };
    mutable std::vector<Laid> laid_;                         ///< of the blocks that are words
    mutable QHash<std::pair<std::size_t, int>, Grid> grids_; ///< of the blocks that are tables, by block and width
};

} // namespace amber::app
