// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/metar.h"
#include <QDialog>
#include <optional>

class QPlainTextEdit;
class QLabel;
class QPushButton;

namespace amber::app {

/// A place to paste a METAR, saying while it is typed what was read and what was not.
class MetarDialog : public QDialog {
    Q_OBJECT
public:
    explicit MetarDialog(const QString& initial, QWidget* parent = nullptr);
    [[nodiscard]] const std::optional<air::MetarReading>& reading() const { return reading_; }

private:
    void read();
    QPlainTextEdit* text_;
    QLabel* verdict_;
    QPushButton* use_;
    std::optional<air::MetarReading> reading_;
};

} // namespace amber::app
