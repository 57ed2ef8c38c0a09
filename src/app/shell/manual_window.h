// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QDialog>
#include <QLineEdit>
#include <QListWidget>
#include <QTextBrowser>

namespace amber::app {

/// A chapter of the manual that the program carries with it.
struct Chapter {
    const char* key; ///< its file, without .md
    const char* title;
};
const std::vector<Chapter>& chapters();
/// Its text, in Markdown; empty: there is none of that key.
QString chapterText(const QString& key);

/// The manual: chapters at the left, the text at the right, a search through all of it.
class ManualWindow : public QDialog {
    Q_OBJECT
public:
    explicit ManualWindow(QSize size, QWidget* parent = nullptr);
    /// Opens a chapter at a heading (its words; empty: at its head). @return whether both were found
    bool openAt(const QString& chapter, const QString& heading = {});
    [[nodiscard]] QString chapter() const;
    /// The heading or paragraph at the upper edge.
    [[nodiscard]] QString atTop() const;

private:
    void search(const QString& words);

    QListWidget* list_;
    QTextBrowser* text_;
    QLineEdit* search_;
};

} // namespace amber::app
