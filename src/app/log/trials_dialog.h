// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/trials.h"
#include <QDialog>

namespace amber::app {

/// What was tried on an airframe's runs, and what of it shows in the readings.
class TrialsDialog : public QDialog {
    Q_OBJECT
public:
    TrialsDialog(const QString& airframe, const std::vector<record::Trial>& trials, QWidget* parent);
    /// All words of it, plain.
    [[nodiscard]] QString shown() const { return shown_; }

private:
    QString shown_;
};

} // namespace amber::app
