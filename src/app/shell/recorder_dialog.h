// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "store/taken_in.h"
#include <QDialog>

namespace amber::app {

/// What a recorder's file has, before it is kept: its columns and what they are taken for, gaps, the moments found.
class RecorderDialog : public QDialog {
    Q_OBJECT
public:
    RecorderDialog(const QString& name, const std::vector<ToldLine>& lines, QWidget* parent);
};

} // namespace amber::app
