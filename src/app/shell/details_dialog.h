// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/sortie_document.h"
#include <QDialog>

class QLabel;
class QLineEdit;

namespace amber::app {

/// What a sortie is called and where it goes: title, registration, turning point, destination and its elevation. One
/// undoable edit when it is taken; what cannot be taken is said, and the dialogue stays.
class DetailsDialog : public QDialog {
    Q_OBJECT
public:
    explicit DetailsDialog(SortieDocument& document, QWidget* parent = nullptr);

private:
    void take();
    SortieDocument& document_;
    QLineEdit *title_, *registration_, *over_, *to_, *toElevation_;
    QLabel* verdict_;
};

} // namespace amber::app
