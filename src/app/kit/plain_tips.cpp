// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/plain_tips.h"
#include <QAbstractItemView>
#include <QHelpEvent>
#include <QMenu>
#include <QToolTip>

namespace amber::app {
namespace {
/// What the widget under the pointer would say, or nothing.
QString tipAt(QWidget* widget, const QHelpEvent& help) {
    if (const auto* view = qobject_cast<QAbstractItemView*>(widget->parentWidget()); view && view->viewport() == widget)
        if (const QString text = view->indexAt(help.pos()).data(Qt::ToolTipRole).toString(); !text.isEmpty())
            return text;
    if (const auto* menu = qobject_cast<QMenu*>(widget)) {
        const QAction* action = menu->toolTipsVisible() ? menu->actionAt(help.pos()) : nullptr;
        return action ? action->toolTip() : QString();
    }
    return widget->toolTip();
}
} // namespace

QString PlainTips::shown(const QString& text) {
    return Qt::mightBeRichText(text)
               ? QStringLiteral("<p style='white-space:pre-wrap'>%1</p>").arg(text.toHtmlEscaped())
               : text;
}

bool PlainTips::eventFilter(QObject* watched, QEvent* event) {
    auto* widget = event->type() == QEvent::ToolTip ? qobject_cast<QWidget*>(watched) : nullptr;
    if (!widget)
        return false;
    const auto& help = *static_cast<QHelpEvent*>(event);
    const QString text = tipAt(widget, help);
    if (!Qt::mightBeRichText(text))
        return false;
    QToolTip::showText(help.globalPos(), shown(text), widget);
    return true;
}

} // namespace amber::app
