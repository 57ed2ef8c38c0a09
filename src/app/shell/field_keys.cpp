// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/field_keys.h"
#include "kit/theme.h"
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPainter>
#include <algorithm>

namespace amber::app {

FieldKeys::FieldKeys(QWidget* over) : QWidget(over) {
    setObjectName(QStringLiteral("field-keys"));
    setAccessibleName(tr("Letters of the fields"));
    setFocusPolicy(Qt::StrongFocus);
    hide();
}

void FieldKeys::offer() {
    before_ = QApplication::focusWidget();
    letters_.clear();
    QList<QWidget*> fields;
    for (auto* widget : parentWidget()->findChildren<QWidget*>())
        if (widget->isVisible() && widget->isEnabled() && widget->focusPolicy() != Qt::NoFocus &&
            (qobject_cast<QComboBox*>(widget) || qobject_cast<QLineEdit*>(widget)) &&
            !qobject_cast<QComboBox*>(widget->parentWidget()))
            fields << widget;
    std::stable_sort(fields.begin(), fields.end(), [this](QWidget* a, QWidget* b) {
        const QPoint p = a->mapTo(parentWidget(), QPoint()), r = b->mapTo(parentWidget(), QPoint());
        constexpr int row = 28; // px: fields of one row differ less in height
        return p.y() / row != r.y() / row ? p.y() < r.y() : p.x() < r.x();
    });
    const QString names = QStringLiteral("asdfghjklqwertyuiopzxcvbnm1234567890");
    for (int i = 0; i < fields.size() && i < names.size(); ++i)
        letters_.append({names.at(i), fields.at(i)});
    setGeometry(parentWidget()->rect());
    raise();
    show();
    setFocus(Qt::ShortcutFocusReason);
}

void FieldKeys::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    p.setFont(face(14, true));
    for (const auto& [letter, field] : letters_) {
        const QPoint at = field->mapTo(parentWidget(), QPoint(0, 0));
        const QRect badge(at.x() - 2, at.y() - 19, 20, 20); // over the caption: the figure stays legible
        p.setPen(QPen(c.ink, 1));
        p.setBrush(c.amberWash.darker(103));
        p.fillRect(badge, c.paper);
        p.drawRect(badge);
        p.drawText(badge, Qt::AlignCenter, QString(letter.toUpper()));
    }
}

bool FieldKeys::event(QEvent* event) {
    // While the letters are up every key is one of them, also those that are shortcuts elsewhere.
    if (event->type() == QEvent::ShortcutOverride) {
        event->accept();
        return true;
    }
    return QWidget::event(event);
}

void FieldKeys::keyPressEvent(QKeyEvent* event) {
    const QString typed = event->text().toLower();
    for (const auto& [letter, field] : letters_)
        if (typed == QString(letter)) {
            before_ = nullptr;
            hide();
            field->setFocus(Qt::ShortcutFocusReason);
            return;
        }
    hide();
    if (before_)
        before_->setFocus(Qt::OtherFocusReason);
}

void FieldKeys::mousePressEvent(QMouseEvent*) {
    hide();
}

void FieldKeys::focusOutEvent(QFocusEvent* event) {
    hide();
    QWidget::focusOutEvent(event);
}

} // namespace amber::app
