// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/page.h"
#include <QAbstractTableModel>
#include <QLabel>
#include <QTableView>
#include <QWidget>

namespace amber::app {

/// The run-up sheet as a table: what is read, where, what it should be today, and a column an engine to type in.
class RunUpModel : public QAbstractTableModel {
    Q_OBJECT
public:
    static constexpr int firstEngine = 3; ///< columns before it: what, at, want
    explicit RunUpModel(SortieDocument& document, QObject* parent) : QAbstractTableModel(parent), document_(document) {}
    void refresh();
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    /// The cell of an index; null where there is none.
    [[nodiscard]] const watch::SheetCell* cell(const QModelIndex& index) const;
    [[nodiscard]] const watch::SheetLine* line(int row) const;

signals:
    void typed(const QString& key, const QString& text, int row);

private:
    SortieDocument& document_;
    int rows_ = 0, columns_ = firstEngine;
};

/// The page of the run-up sheet: table, the verdict on the reading chosen, what is to be done.
class RunUpPage : public Page {
    Q_OBJECT
public:
    explicit RunUpPage(SortieDocument& document, QWidget* parent = nullptr);
    void refresh() override;
    [[nodiscard]] QTableView& table() { return *table_; }
    [[nodiscard]] RunUpModel& model() { return *model_; }
    [[nodiscard]] QString verdict() const { return verdict_->text(); }
    [[nodiscard]] QString findings() const { return findings_->text(); }

protected:
    void widen() override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void take(const QString& key, const QString& text, int row);
    void showVerdict();

    RunUpModel* model_;
    QTableView* table_;
    QPersistentModelIndex next_; ///< where a reading that is being taken leads
    QWidget* right_;
    QLabel *verdict_, *findings_;
};

} // namespace amber::app
