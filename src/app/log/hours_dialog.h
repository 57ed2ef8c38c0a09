// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/sheet_dialog.h"
#include "record/hours.h"

namespace amber::app {

/// Hours, starts, oil and minutes at ratings of an airframe's engines side by side, and what is due.
class HoursDialog : public SheetDialog {
    Q_OBJECT
public:
    HoursDialog(const QString& airframe, const record::Hours& hours, const TypeNotes& notes, QWidget* parent);
};

} // namespace amber::app
