// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/metar.h"
#include <QDialog>
#include <functional>
#include <optional>

class QPlainTextEdit;
class QLabel;
class QPushButton;

namespace amber::app {

/// A place to paste a METAR, saying while it is typed what was read and what was not.
class MetarDialog : public QDialog {
    Q_OBJECT
public:
    /// @param refusal why a reading cannot be put into this sortie's day; empty when it can
    MetarDialog(const QString& initial, std::function<QString(const air::MetarReading&)> refusal,
                QWidget* parent = nullptr);
    [[nodiscard]] const std::optional<air::MetarReading>& reading() const { return reading_; }

private:
    void read();
    std::function<QString(const air::MetarReading&)> refusal_;
    QPlainTextEdit* text_;
    QLabel* verdict_;
    QPushButton* use_;
    std::optional<air::MetarReading> reading_;
};

} // namespace amber::app
