// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/rich_label.h"
#include <QAbstractTextDocumentLayout>
#include <QEvent>
#include <QPainter>
#include <QTextOption>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int usual = 320; // px, before the column has given a width
}

RichLabel::RichLabel(QWidget* parent) : QLabel(parent) {
    setWordWrap(true);
    setTextFormat(Qt::RichText);
    document_.setUndoRedoEnabled(false);
    document_.setDocumentMargin(0);
    QTextOption option;
    option.setWrapMode(QTextOption::WordWrap); // never within a word
    document_.setDefaultTextOption(option);
}

QTextDocument& RichLabel::laidOut(int width) const {
    const QMargins around = contentsMargins();
    const int inner = std::max(1, width - around.left() - around.right());
    if (known_ != text()) {
        known_ = text();
        heights_.clear();
        document_.setDefaultFont(font());
        document_.setTextWidth(inner);
        document_.setHtml(known_);
    }
    if (document_.textWidth() != inner)
        document_.setTextWidth(inner);
    heights_[width] = static_cast<int>(std::ceil(document_.size().height())) + around.top() + around.bottom();
    return document_;
}

int RichLabel::heightForWidth(int width) const {
    if (text().isEmpty())
        return 0;
    if (const auto found = heights_.constFind(width); known_ == text() && found != heights_.cend())
        return *found;
    (void)laidOut(width);
    return heights_.value(width);
}

QSize RichLabel::sizeHint() const {
    const int width = std::max(this->width(), usual);
    return {width, heightForWidth(width)};
}

QSize RichLabel::minimumSizeHint() const {
    return {80, text().isEmpty() ? 0 : fontMetrics().height()};
}

void RichLabel::paintEvent(QPaintEvent*) {
    if (text().isEmpty())
        return;
    QPainter painter(this);
    const QTextDocument& document = laidOut(width());
    const QRect inner = contentsRect();
    QAbstractTextDocumentLayout::PaintContext context;
    context.palette = palette();
    context.palette.setColor(QPalette::Text, palette().color(foregroundRole()));
    context.clip = QRectF(0, 0, inner.width(), inner.height());
    painter.translate(inner.topLeft());
    document.documentLayout()->draw(&painter, context);
}

void RichLabel::changeEvent(QEvent* event) {
    if (event->type() == QEvent::FontChange || event->type() == QEvent::StyleChange)
        known_ = QString();
    if (event->type() == QEvent::ContentsRectChange)
        heights_.clear();
    QLabel::changeEvent(event);
}

} // namespace amber::app
