// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "log/hangar.h"
#include <QDialog>
#include <functional>

class QLabel;
class QLineEdit;
class QPushButton;

namespace amber::app {

/// The log that a hangar shares: its address, and how it stands with it.
class HangarDialog : public QDialog {
    Q_OBJECT
public:
    /// @param keep remembers an address from one day to the next
    HangarDialog(Hangar& hangar, std::function<void(const QString&)> keep, QWidget* parent = nullptr);
    [[nodiscard]] QString shown() const;

private:
    /// What the line says, with the password that it does not show.
    [[nodiscard]] QString meant() const;
    void take();
    void refresh();
    Hangar& hangar_;
    std::function<void(const QString&)> keep_;
    QLineEdit* address_;
    QLabel *state_, *wrong_;
    QPushButton *merge_, *stop_;
};

} // namespace amber::app
