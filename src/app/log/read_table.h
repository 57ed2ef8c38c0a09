// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "log/book.h"
#include "watch/judge.h"
#include <QAbstractTableModel>
#include <QTableView>
#include <optional>

namespace amber::app {

/// What is read in a phase: a line a reading, what is planned, a cell an engine, and how far each is from the plan of
/// the day.
class ReadModel : public QAbstractTableModel {
    Q_OBJECT
public:
    static constexpr int firstEngine = 2; ///< columns before it: what, planned
    explicit ReadModel(Book& book, QObject* parent) : QAbstractTableModel(parent), book_(book) {}
    void show(Phase phase);
    void refresh(); ///< the same phase, after something was kept

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override; ///< the last one: off the plan
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] const std::vector<record::ReadLine>& lines() const { return lines_; }
    [[nodiscard]] const record::ReadLine* line(int row) const;
    [[nodiscard]] std::size_t engines() const { return positions_.size(); }
    /// Where a cell's reading is kept; nothing where it takes none.
    [[nodiscard]] std::optional<Book::Place> place(const QModelIndex& index) const;
    /// Of a reading that stands there, by the one judge; nothing where it has no limits or was not read.
    [[nodiscard]] std::optional<watch::Verdict> verdict(const QModelIndex& index) const;
    /// "182 °C", "in its band"; empty: not read.
    [[nodiscard]] QString shown(const QModelIndex& index) const;
    [[nodiscard]] Phase phase() const { return phase_; }

signals:
    void refused(QString why);

private:
    Book& book_;
    Phase phase_ = Phase::climb;
    std::vector<record::ReadLine> lines_;
    std::vector<Position> positions_; ///< of the lines' aircraft, which may go before they do
};

/// The table: a figure typed is kept as the cell is left; Return goes on to the next line, Space: looked, in its band;
/// Delete: not read after all; S: the stop clock of a reading that is a time.
class ReadTable : public QTableView {
    Q_OBJECT
public:
    explicit ReadTable(QWidget* parent = nullptr);
    /// Lines that show however low the window is; the others scroll.
    void setLeastRows(int rows);
    void setReadModel(ReadModel* model);
    /// Columns and lines for the room there is.
    void layOut();

signals:
    void looked(const QModelIndex& index);
    void clockPressed(const QModelIndex& index);

protected:
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void goOn();
    void place();
    void rowHeights();
    int leastRows_ = 4;
    ReadModel* read_ = nullptr;
    bool laying_ = false, again_ = false;
};

} // namespace amber::app
