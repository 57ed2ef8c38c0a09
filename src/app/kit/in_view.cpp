// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/in_view.h"
#include <QAbstractScrollArea>
#include <QEvent>

namespace amber::app {

InView::InView(QWidget* page, std::function<void()> changed)
    : QObject(page), page_(page), changed_(std::move(changed)) {}

int InView::height() {
    if (!area_) {
        QWidget* above = page_->parentWidget();
        while (above && !qobject_cast<QAbstractScrollArea*>(above))
            above = above->parentWidget();
        if (!above)
            return 0;
        area_ = static_cast<QAbstractScrollArea*>(above)->viewport();
        area_->installEventFilter(this);
    }
    return area_->height();
}

bool InView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == area_ && event->type() == QEvent::Resize)
        changed_();
    return QObject::eventFilter(watched, event);
}

} // namespace amber::app
