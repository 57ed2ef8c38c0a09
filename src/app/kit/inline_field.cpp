// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/inline_field.h"
#include "kit/theme.h"
#include <QAccessible>
#include <QEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>
#include <QWheelEvent>
#include <atomic>

namespace amber::app {
namespace {
constexpr int pixelsPerStep = 6;
constexpr int pageSteps = 10;
} // namespace

int newGesture() {
    static std::atomic<int> last{0};
    return ++last;
}

InlineField::InlineField(const QString& caption, const QString& name, Behaviour behaviour, QWidget* parent)
    : QWidget(parent), behaviour_(std::move(behaviour)), caption_(new QLabel(caption, this)),
      edit_(new QLineEdit(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(caption_);
    layout->addWidget(edit_);
    setObjectName(name);
    edit_->setObjectName(name + QStringLiteral("-edit"));
    caption_->setTextFormat(Qt::PlainText);
    caption_->setFont(captionFace());
    caption_->setForegroundRole(QPalette::PlaceholderText);
    caption_->setBuddy(edit_);
    edit_->setFrame(false);
    edit_->setFont(face(15, true));
    edit_->setTextMargins(-2, 0, 0, 2);
    edit_->setAccessibleName(caption);
    if (behaviour_.step) {
        caption_->setCursor(Qt::SizeHorCursor);
        caption_->installEventFilter(this);
    }
    edit_->installEventFilter(this);
    connect(edit_, &QLineEdit::textEdited, this, &InlineField::typed);
    connect(edit_, &QLineEdit::editingFinished, this, &InlineField::finish);
    connect(edit_, &QLineEdit::textChanged, this, &InlineField::fit);
}

InlineField::~InlineField() {
    // The editor goes after us and loses the focus on its way: it must not tell.
    edit_->removeEventFilter(this);
    edit_->disconnect(this);
}

void InlineField::setCaption(const QString& caption) {
    caption_->setText(caption);
    edit_->setAccessibleName(caption);
}

void InlineField::setHint(const QString& hint) {
    hint_ = hint;
    setToolTip(error_.isEmpty() ? hint_ : error_);
}

void InlineField::refresh() {
    if (typing_ && edit_->hasFocus())
        return;
    const QString text = behaviour_.show();
    if (edit_->text() != text) {
        const int cursor = edit_->cursorPosition();
        edit_->setText(text);
        edit_->setCursorPosition(std::min<int>(cursor, static_cast<int>(text.size())));
    }
    setError({});
}

void InlineField::fit() {
    const int wide = QFontMetrics(edit_->font()).horizontalAdvance(edit_->text()) + 8;
    // A long name scrolls in its field rather than widen the window.
    constexpr int widest = 190;
    edit_->setFixedWidth(std::max({std::min(wide, widest), 34,
                                   QFontMetrics(caption_->font()).horizontalAdvance(caption_->text().toUpper()) + 2}));
    updateGeometry();
}

void InlineField::setError(const QString& error) {
    error_ = error;
    setToolTip(error_.isEmpty() ? hint_ : error_);
    update();
}

void InlineField::typed() {
    typing_ = true;
    if (gesture_ == 0)
        gesture_ = newGesture();
    const QString error = behaviour_.apply(edit_->text(), gesture_);
    if (!error.isEmpty() && behaviour_.abandon) {
        // "60000 ft" is not 6,000 ft and a slip: nothing of it is taken.
        behaviour_.abandon(gesture_);
    }
    setError(error);
    emit refused(error);
}

void InlineField::finish() {
    // What cannot be read stays in the field, marked, while it has the focus; leaving brings the last good value back.
    if (!error_.isEmpty() && edit_->hasFocus())
        return;
    leave();
}

void InlineField::leave() {
    const QString wrong = typing_ ? error_ : QString(), typed = edit_->text();
    typing_ = false;
    gesture_ = 0;
    refresh();
    if (wrong.isEmpty())
        return;
    const QString told = tr("%1 “%2” was not taken: %3 It stays %4.")
                             .arg(caption_->text(), typed,
                                  wrong.endsWith(QLatin1Char('.')) ? wrong : wrong + QLatin1Char('.'), edit_->text());
    emit refused(told);
    QAccessibleEvent heard(edit_, QAccessible::Alert);
    edit_->setAccessibleDescription(told);
    QAccessible::updateAccessibility(&heard);
}

void InlineField::stepBy(int steps) {
    if (!behaviour_.step)
        return;
    if (gesture_ == 0)
        gesture_ = newGesture();
    typing_ = false;
    const QString error = behaviour_.step(steps, gesture_);
    refresh();
    setError(error);
    emit refused(error);
}

bool InlineField::eventFilter(QObject* watched, QEvent* event) {
    if (watched == caption_) {
        if (event->type() == QEvent::MouseButtonPress) {
            const auto* mouse = static_cast<QMouseEvent*>(event);
            dragging_ = true;
            dragFrom_ = qRound(mouse->globalPosition().x());
            dragSteps_ = 0;
            gesture_ = newGesture();
            return true;
        }
        if (event->type() == QEvent::MouseMove && dragging_) {
            const auto* mouse = static_cast<QMouseEvent*>(event);
            const int steps = (qRound(mouse->globalPosition().x()) - dragFrom_) / pixelsPerStep;
            if (steps != dragSteps_) {
                stepBy(steps - dragSteps_);
                dragSteps_ = steps;
            }
            return true;
        }
        if (event->type() == QEvent::MouseButtonRelease && dragging_) {
            dragging_ = false;
            gesture_ = 0;
            return true;
        }
    }
    if (watched == edit_) {
        switch (event->type()) {
        case QEvent::ShortcutOverride:
            // The line editor would take undo for itself and do nothing: it is the window's, and ends the stay.
            if (auto* key = static_cast<QKeyEvent*>(event);
                key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
                typing_ = false;
                gesture_ = 0;
                key->ignore();
                return true;
            }
            break;
        case QEvent::KeyPress: {
            if (auto* pressed = static_cast<QKeyEvent*>(event);
                pressed->matches(QKeySequence::Undo) || pressed->matches(QKeySequence::Redo)) {
                pressed->ignore();
                return true;
            }
            const int key = static_cast<QKeyEvent*>(event)->key();
            if (key == Qt::Key_Up || key == Qt::Key_Down || key == Qt::Key_PageUp || key == Qt::Key_PageDown) {
                const int size = key == Qt::Key_PageUp || key == Qt::Key_PageDown ? pageSteps : 1;
                stepBy(key == Qt::Key_Up || key == Qt::Key_PageUp ? size : -size);
                return behaviour_.step != nullptr;
            }
            if (key == Qt::Key_Escape && typing_) {
                // Escape takes the whole stay back.
                if (behaviour_.abandon)
                    behaviour_.abandon(gesture_);
                typing_ = false;
                gesture_ = 0;
                refresh();
                emit refused({});
                edit_->selectAll();
                return true;
            }
            break;
        }
        case QEvent::Wheel:
            if (edit_->hasFocus() && behaviour_.step) {
                stepBy(static_cast<QWheelEvent*>(event)->angleDelta().y() > 0 ? 1 : -1);
                return true;
            }
            break;
        case QEvent::FocusIn:
            gesture_ = 0;
            if (static_cast<QFocusEvent*>(event)->reason() != Qt::MouseFocusReason)
                edit_->selectAll();
            update();
            break;
        case QEvent::FocusOut:
            leave();
            update();
            break;
        default:
            break;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void InlineField::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    const double y = edit_->geometry().bottom() + 0.5;
    const bool focus = edit_->hasFocus();
    QPen pen(!error_.isEmpty() ? c.red : focus ? c.amber : c.faint, focus || !error_.isEmpty() ? 2 : 1);
    if (!focus && error_.isEmpty())
        pen.setStyle(Qt::DotLine);
    p.setPen(pen);
    p.drawLine(QPointF(0, y), QPointF(edit_->width(), y));
    if (!error_.isEmpty())
        drawColourMark(p, QPointF(edit_->width() - 5, caption_->geometry().center().y()), watch::Colour::red, c, 3.5);
}

} // namespace amber::app
