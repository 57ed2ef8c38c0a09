// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QList>
#include <QWidget>

namespace amber::app {

/// Every field on the page in two keys: over each field that can be edited stands a letter; typing it goes there, any
/// other key or a click takes the letters away.
class FieldKeys : public QWidget {
    Q_OBJECT
public:
    /// Lies over a window's contents, hidden.
    explicit FieldKeys(QWidget* over);
    /// Puts the letters up over the fields that show now.
    void offer();
    /// The letters in force, by the field's object name: "a" → "elevation-edit".
    [[nodiscard]] QList<QPair<QChar, QWidget*>> letters() const { return letters_; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    bool event(QEvent* event) override;

private:
    QList<QPair<QChar, QWidget*>> letters_;
    QWidget* before_ = nullptr;
};

} // namespace amber::app
