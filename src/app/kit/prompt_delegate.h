// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <QKeyEvent>
#include <QStyledItemDelegate>

namespace amber::app {

/// A delegate whose editor is finished the moment Return is pressed. The usual one finishes it when the events that are
/// waiting have been handled; keys typed meanwhile, on a slow laptop, would go on into the same reading.
class PromptDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        auto* editor = qobject_cast<QWidget*>(watched);
        if (editor && event->type() == QEvent::KeyPress) {
            const int key = static_cast<QKeyEvent*>(event)->key();
            if (key == Qt::Key_Return || key == Qt::Key_Enter) {
                emit commitData(editor);
                emit closeEditor(editor, NoHint);
                return true;
            }
        }
        return QStyledItemDelegate::eventFilter(watched, event);
    }
};

} // namespace amber::app
