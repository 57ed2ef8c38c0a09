// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QDialog>
#include <functional>

class QLabel;
class QListWidget;
class QPushButton;

namespace amber::app {

/// Work that a crash left behind, each with its sortie and when it was last kept: bring one back, discard one, or leave
/// them for later. What cannot be brought back is said, and stays until it is discarded.
class RecoveryDialog : public QDialog {
    Q_OBJECT
public:
    /// @param bringBack opens one as unsaved work; returns what is wrong, or an empty text
    RecoveryDialog(QList<SortieDocument::Leftover> leftovers,
                   std::function<QString(const SortieDocument::Leftover&)> bringBack, QWidget* parent = nullptr);

private:
    void list();
    void bringBack();
    void discard();
    QList<SortieDocument::Leftover> leftovers_;
    std::function<QString(const SortieDocument::Leftover&)> bringBack_;
    QListWidget* list_;
    QLabel* verdict_;
    QPushButton *back_, *discard_;
};

} // namespace amber::app
