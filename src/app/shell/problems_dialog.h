// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/problem.h"
#include <QDialog>

namespace amber::app {

/// Everything that is wrong with a file, with its lines and what to do; the list can be copied.
class ProblemsDialog : public QDialog {
    Q_OBJECT
public:
    ProblemsDialog(const QString& what, const Problems& problems, QWidget* parent = nullptr);
};

} // namespace amber::app
