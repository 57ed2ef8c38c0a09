// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "booklet/missing.h"
#include "store/sortie_document.h"
#include <QDialog>
#include <QLabel>
#include <QListView>
#include <QProgressBar>
#include <QStandardItemModel>
#include <atomic>
#include <thread>

namespace amber::app {

/// What to look for next in the booklet: each figure that the notes do not give, worth most first, by what it moves of
/// the open sortie. The sortie is flown beside the window; closing it ends that.
class MissingDialog : public QDialog {
    Q_OBJECT
public:
    explicit MissingDialog(const SortieDocument& document, QWidget* parent = nullptr);
    ~MissingDialog() override;
    [[nodiscard]] QListView& list() { return *list_; }
    [[nodiscard]] bool isDone() const { return done_; }
    /// Words of a line as the list shows them.
    [[nodiscard]] QString shown(int row) const { return model_->item(row)->text(); }
    [[nodiscard]] QString about() const { return about_->text(); }

private:
    void fill(const std::vector<booklet::Missing>& all, const Cockpit& cockpit);

    QLabel *about_, *rest_;
    QProgressBar* progress_;
    QListView* list_;
    QStandardItemModel* model_;
    std::atomic<bool> stop_ = false;
    std::thread flies_;
    bool done_ = false;
};

} // namespace amber::app
