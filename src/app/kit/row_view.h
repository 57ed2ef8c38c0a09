// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "plan/plan.h"
#include <QAbstractListModel>
#include <QListView>
#include <optional>
#include <utility>
#include <variant>
#include <vector>

namespace amber::app {

/// What is set at one moment of the start, engine by engine.
struct SequenceRow {
    double time = 0.0;  ///< s
    std::string engine; ///< its name; empty: the same as above
    std::string text;
    bool operator==(const SequenceRow&) const = default;
};

/// A setting that answers what was asked of the cruise, in the cockpit's units.
struct CandidateRow {
    std::string rpm, boost, gear, mixture, power, burn, speed, endurance, why;
    bool chosen = false; ///< the one the plan uses
    bool heading = false;
    bool operator==(const CandidateRow&) const = default;
};

using Row =
    std::variant<plan::SetLine, plan::ExpectLine, plan::ClockLine, watch::WalkFinding, SequenceRow, CandidateRow>;

/// The rows of one column of a phase page.
class RowModel : public QAbstractListModel {
    Q_OBJECT
public:
    using QAbstractListModel::QAbstractListModel;
    /// @return whether anything differs from before; only rows that do are painted again
    bool put(std::vector<Row> rows);
    [[nodiscard]] const Row& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(rows_.size());
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

signals:
    void typed(int row, QString text);

private:
    std::vector<Row> rows_;
};

/// A ruled list of settings, gauges or clocks, set like a page of notes: reached and read by keyboard, reasons in the
/// tool tips.
class RowView : public QListView {
    Q_OBJECT
public:
    explicit RowView(const QString& name, QWidget* parent = nullptr);
    void put(std::vector<Row> rows);
    [[nodiscard]] const RowModel& rows() const { return *model_; }
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;
    /// Of all rows at this width; reckoned when rows or width change.
    [[nodiscard]] int contentHeight() const;

signals:
    void rowSelected(int row);
    void found(int row, QString text); ///< a finding of the walk-round was typed, ticked ("in order") or cleared ("")
    void taken(int row);               ///< Enter or a double click on a candidate
    void pastEnd(int by);              ///< Down on the last row, Up on the first
    void schoolWanted(int row);        ///< Enter, Space or a double click on a step with schools that may be chosen

protected:
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;
    void currentChanged(const QModelIndex& current, const QModelIndex& previous) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    RowModel* model_;
    mutable int contentHeight_ = -1;                 ///< px; −1: not reckoned
    std::optional<std::pair<int, QString>> finding_; ///< typed, while its editor closes
};

/// Whether all words and figures of a row have room beside each other.
[[nodiscard]] bool namesFit(const RowView& view, int row);

} // namespace amber::app
