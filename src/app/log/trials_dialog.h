// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/sheet_dialog.h"
#include "record/trials.h"

namespace amber::app {

/// What was tried on an airframe's runs, and what of it shows in the readings.
class TrialsDialog : public SheetDialog {
    Q_OBJECT
public:
    TrialsDialog(const QString& airframe, const std::vector<record::Trial>& trials, QWidget* parent);
};

} // namespace amber::app
