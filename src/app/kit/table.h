// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "watch/verdict.h"
#include <QString>
#include <QStringList>
#include <optional>
#include <utility>
#include <vector>

namespace amber::app {

/// A small table of figures: plain words, some with the mark of a verdict before them. kit/figures_view draws it.
struct Table {
    struct Cell {
        Cell(QString words) : text(std::move(words)) {} // NOLINT: a cell is its words
        Cell(QString words, const watch::Verdict& verdict) : text(std::move(words)), mark(verdict.colour()) {}
        QString text;
        std::optional<watch::Colour> mark{};
        bool operator==(const Cell&) const = default;
    };
    struct Line {
        std::vector<Cell> cells;
        bool strong = false;
        bool operator==(const Line&) const = default;
    };
    /// @param leftColumn a column set to the left besides the first
    explicit Table(QStringList columns, int leftColumn = 0) : heads(std::move(columns)), left(leftColumn) {}
    void row(std::vector<Cell> cells, bool strong = false) { lines.push_back({std::move(cells), strong}); }
    bool operator==(const Table&) const = default;

    QStringList heads;
    int left;
    bool leftOn = false; ///< and those after it
    std::vector<Line> lines;
};

} // namespace amber::app
