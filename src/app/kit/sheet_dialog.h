// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QDialog>
#include <QLabel>
#include <QVBoxLayout>

namespace amber::app {

/// A window of words and figures that scrolls, with one button: Close.
class SheetDialog : public QDialog {
    Q_OBJECT
public:
    SheetDialog(const QString& title, QSize size, QWidget* parent);
    /// All words of it, plain.
    [[nodiscard]] QString shown() const { return shown_; }

protected:
    /// What it is filled into, from above down.
    [[nodiscard]] QVBoxLayout& column() { return *column_; }
    [[nodiscard]] QWidget* page() { return page_; }
    QLabel* label(const QString& text, const QFont& font, bool faint = false);
    void headed(const QString& title);
    /// A paragraph. @param plain what it says, where the text is rich
    void add(const QString& text, int pixels = 14, bool bold = false, bool faint = false, const QString& plain = {});
    void tell(const QString& words) { shown_ += words + QLatin1Char('\n'); }

private:
    QWidget* page_;
    QVBoxLayout* column_;
    QString shown_;
};

} // namespace amber::app
