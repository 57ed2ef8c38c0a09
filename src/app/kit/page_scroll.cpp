// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/page_scroll.h"
#include <QEvent>
#include <QLayout>
#include <QScrollBar>
#include <QStyle>
#include <algorithm>

namespace amber::app {
namespace {
constexpr int leastSeen = 96;   // px of a page
constexpr int leastWidth = 780; // px; its columns are laid out for any width from this on
} // namespace

PageScroll::PageScroll(QWidget* parent) : QScrollArea(parent) {
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    viewport()->setAutoFillBackground(false);
}

void PageScroll::hold(QWidget* page) {
    setWidget(page);
    page->setAutoFillBackground(false);
    page->installEventFilter(this);
}

QSize PageScroll::minimumSizeHint() const {
    return {leastWidth, leastSeen};
}

int PageScroll::leastHeight(int width) const {
    const QLayout* layout = widget()->layout();
    return layout->hasHeightForWidth() ? layout->totalMinimumHeightForWidth(width)
                                       : layout->totalMinimumSize().height();
}

void PageScroll::fit() {
    if (!widget() || !widget()->layout())
        return;
    const int bar = verticalScrollBar()->sizeHint().width();
    int across = width();
    int down = leastHeight(across);
    if (down > height()) {
        across -= bar;
        down = leastHeight(across);
    }
    widget()->resize(across, std::max(height(), down));
}

void PageScroll::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    fit();
}

bool PageScroll::eventFilter(QObject* watched, QEvent* event) {
    const bool out = QScrollArea::eventFilter(watched, event);
    if (watched == widget() && event->type() == QEvent::LayoutRequest)
        fit();
    return out;
}

} // namespace amber::app
