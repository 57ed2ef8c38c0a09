// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/question_view.h"
#include "kit/html.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace amber::app {
namespace {
constexpr std::size_t mostAnswers = 4;
}

QuestionView::QuestionView(const QString& title, QWidget* parent) : QWidget(parent) {
    setObjectName(QStringLiteral("question"));
    setFocusPolicy(Qt::StrongFocus);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 8, 20, 8);
    column->setSpacing(12);
    auto* head = new QHBoxLayout;
    auto* name = new QLabel(title, this);
    name->setTextFormat(Qt::PlainText);
    name->setFont(face(25, true));
    head->addWidget(name, 0, Qt::AlignBottom);
    above_ = new QLabel(this);
    above_->setObjectName(QStringLiteral("question-above"));
    above_->setFont(face(14));
    above_->setForegroundRole(QPalette::PlaceholderText);
    above_->setContentsMargins(8, 0, 0, 4);
    above_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    head->addWidget(above_, 1, Qt::AlignBottom);
    leave_ = new QPushButton(tr("&Leave"), this);
    leave_->setObjectName(QStringLiteral("question-leave"));
    leave_->setFont(face(14));
    connect(leave_, &QPushButton::clicked, this, &QuestionView::leaveWanted);
    head->addWidget(leave_, 0, Qt::AlignBottom);
    column->addLayout(head);
    column->addSpacing(20);
    text_ = new QLabel(this);
    text_->setObjectName(QStringLiteral("question-text"));
    text_->setFont(face(22, true));
    text_->setWordWrap(true);
    text_->setMaximumWidth(860);
    column->addWidget(text_);
    field_ = new QLineEdit(this);
    field_->setObjectName(QStringLiteral("question-field"));
    field_->setFont(face(20));
    field_->setMaximumWidth(280);
    field_->installEventFilter(this);
    column->addWidget(field_);
    for (std::size_t i = 0; i < mostAnswers; ++i) {
        auto* choice = new QPushButton(this);
        choice->setObjectName(QStringLiteral("question-choice-%1").arg(i + 1));
        choice->setFont(face(16));
        choice->setMinimumHeight(34);
        choice->setMaximumWidth(620);
        connect(choice, &QPushButton::clicked, this, [this, i] {
            if (!isTold_)
                emit answered(QString::number(i + 1));
        });
        column->addWidget(choice);
        choices_.push_back(choice);
    }
    told_ = new RichLabel(this);
    told_->setObjectName(QStringLiteral("question-told"));
    told_->setFont(face(16));
    told_->setMaximumWidth(860);
    column->addWidget(told_);
    go_ = new QPushButton(this);
    go_->setObjectName(QStringLiteral("question-go"));
    go_->setFont(face(16, true));
    go_->setMinimumHeight(34);
    go_->setMaximumWidth(180);
    connect(go_, &QPushButton::clicked, this, &QuestionView::enter);
    column->addWidget(go_);
    column->addStretch(1);
}

void QuestionView::ask(const rehearse::Question& question, const QString& above) {
    isTold_ = false;
    above_->setText(above);
    text_->setText(q(question.text));
    told_->clear();
    field_->clear();
    field_->setVisible(question.choices.empty());
    field_->setPlaceholderText(question.unit ? q(question.unit->symbol) : QString());
    field_->setAccessibleName(q(question.text));
    for (std::size_t i = 0; i < choices_.size(); ++i) {
        choices_[i]->setVisible(i < question.choices.size());
        choices_[i]->setEnabled(true);
        if (i < question.choices.size())
            choices_[i]->setText(tr("%1   %2").arg(i + 1).arg(q(question.choices[i])));
    }
    go_->setText(tr("Answer"));
    go_->setVisible(question.choices.empty());
    if (question.choices.empty())
        field_->setFocus(Qt::OtherFocusReason);
    else
        setFocus(Qt::OtherFocusReason);
}

void QuestionView::tell(const rehearse::Question& question, bool right) {
    isTold_ = true;
    const Colours c(this);
    const QString word = right ? QStringLiteral("<b style='color:%1'>%2</b>").arg(c.green.name(), tr("Right."))
                               : QStringLiteral("<b style='color:%1'>%2</b>")
                                     .arg(c.red.name(), tr("No: %1.").arg(html::text(rehearse::answerOf(question))));
    told_->setText(word + QStringLiteral(" ") + html::text(question.because));
    for (auto* choice : choices_)
        choice->setEnabled(false);
    go_->setText(tr("Go on"));
    go_->show();
    go_->setFocus(Qt::OtherFocusReason);
}

void QuestionView::rest(const QString& words) {
    isTold_ = true;
    above_->clear();
    text_->setText(words);
    told_->clear();
    field_->hide();
    go_->hide();
    for (auto* choice : choices_)
        choice->hide();
    leave_->setFocus(Qt::OtherFocusReason);
}

void QuestionView::enter() {
    if (isTold_)
        emit goOn();
    else if (!field_->isHidden())
        emit answered(field_->text());
}

void QuestionView::keyPressEvent(QKeyEvent* event) {
    const int key = event->key();
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        enter();
        return;
    }
    if (key == Qt::Key_Escape) {
        emit leaveWanted();
        return;
    }
    const int number = key - Qt::Key_0;
    if (!isTold_ && number >= 1 && number <= static_cast<int>(choices_.size()) &&
        !choices_[static_cast<std::size_t>(number - 1)]->isHidden()) {
        emit answered(QString::number(number));
        return;
    }
    QWidget::keyPressEvent(event);
}

bool QuestionView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            enter();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace amber::app
