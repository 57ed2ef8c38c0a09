// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "rehearse/questions.h"
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>
#include <optional>
#include <vector>

namespace amber::app {

/// One question and its answer: a figure is typed, one of a few is chosen by its number; then what is right, and why.
class QuestionView : public QWidget {
    Q_OBJECT
public:
    explicit QuestionView(const QString& title, QWidget* parent = nullptr);
    void ask(const rehearse::Question& question, const QString& above);
    /// Tells whether it was right; then Enter goes on.
    void tell(const rehearse::Question& question, bool right);
    /// Nothing is left to ask.
    void rest(const QString& words);
    [[nodiscard]] QString said() const { return text_->text() + QLatin1Char('\n') + told_->text(); }
    [[nodiscard]] QLineEdit* field() const { return field_; }
    [[nodiscard]] bool isTold() const { return isTold_; }

signals:
    void answered(QString text);
    void goOn();
    void leaveWanted();

protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void enter();
    QLabel *above_, *text_, *told_;
    QLineEdit* field_;
    QPushButton *go_, *leave_;
    std::vector<QPushButton*> choices_;
    bool isTold_ = false;
};

} // namespace amber::app
