// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "log/book.h"
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QPushButton>
#include <QStandardItemModel>
#include <QWidget>

namespace amber::app {

/// What an engineer should know of a run and of what still holds the aircraft from earlier ones, a paragraph each; and
/// the answer to the one that is chosen: found, done, signed.
class WriteUpView : public QWidget {
    Q_OBJECT
public:
    explicit WriteUpView(Book& book, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] QListView& list() { return *list_; }
    /// The lines in their order: those of the run, then what holds from earlier ones.
    [[nodiscard]] const std::vector<record::Holding>& lines() const { return lines_; }
    /// Words of a line as the list shows them, plain.
    [[nodiscard]] QString shown(int row) const;

signals:
    void sheetWanted(); ///< the engineer's sheet, as a PDF
    void refused(QString why);

protected:
    void changeEvent(QEvent* event) override;

private:
    void showForm();
    void takeAnswer();

    Book& book_;
    QListView* list_;
    QStandardItemModel* model_;
    QLabel* none_;
    QWidget* form_;
    QLineEdit *found_, *done_, *by_;
    QPushButton *answer_, *sheet_;
    std::vector<record::Holding> lines_;
};

} // namespace amber::app
