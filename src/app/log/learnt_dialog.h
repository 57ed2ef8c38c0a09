// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include "store/teaching.h"
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QProgressBar>
#include <QPushButton>
#include <QStandardItemModel>
#include <QTimer>

namespace amber::app {

/// What the log teaches of the open sortie's airframe: each line with its interval beside nothing, the model's; what it
/// would change today; and the answer, accepted or refused, which goes into the airframe's file. Runs are planned anew
/// while it is shown; closing it ends that.
class LearntDialog : public QDialog {
    Q_OBJECT
public:
    LearntDialog(SortieDocument& document, Teaching teaching, const QString& who, QWidget* parent);
    [[nodiscard]] QListView& list() { return *list_; }
    [[nodiscard]] const std::vector<record::Lesson>& lessons() const { return lessons_; }
    /// Words of a line as the list shows them.
    [[nodiscard]] QString shown(int row) const { return model_->item(row)->text(); }
    [[nodiscard]] bool isDone() const { return done_; }
    [[nodiscard]] QString today() const { return today_->text(); }

private:
    void planNext();
    void fill();
    void showChosen();
    void answer(bool accepts);

    SortieDocument& document_;
    Teaching teaching_;
    QTimer timer_;
    QLabel *none_, *today_, *said_;
    QProgressBar* progress_;
    QListView* list_;
    QStandardItemModel* model_;
    QLineEdit* who_;
    QPushButton *accept_, *refuse_;
    std::vector<record::Lesson> lessons_;
    bool done_ = false;
};

} // namespace amber::app
