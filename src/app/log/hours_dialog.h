// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "record/hours.h"
#include <QDialog>

namespace amber::app {

/// Hours, starts, oil and minutes at ratings of an airframe's engines side by side, and what is due.
class HoursDialog : public QDialog {
    Q_OBJECT
public:
    HoursDialog(const QString& airframe, const record::Hours& hours, const TypeNotes& notes, QWidget* parent);
    /// All words of it, plain.
    [[nodiscard]] QString shown() const { return shown_; }

private:
    QString shown_;
};

} // namespace amber::app
