// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/flow_layout.h"
#include <algorithm>

namespace amber::app {
namespace {
constexpr int closest = 8; // px between two in a line
}

FlowLayout::FlowLayout(QWidget* parent, int across, int down) : QLayout(parent), across_(across), down_(down) {}

FlowLayout::~FlowLayout() {
    for (auto* item : items_)
        delete item;
}

void FlowLayout::addItem(QLayoutItem* item) {
    items_.push_back(item);
}
int FlowLayout::count() const {
    return static_cast<int>(items_.size());
}
QLayoutItem* FlowLayout::itemAt(int index) const {
    return index >= 0 && index < count() ? items_[static_cast<std::size_t>(index)] : nullptr;
}
QLayoutItem* FlowLayout::takeAt(int index) {
    if (index < 0 || index >= count())
        return nullptr;
    auto* item = items_[static_cast<std::size_t>(index)];
    items_.erase(items_.begin() + index);
    return item;
}

int FlowLayout::heightForWidth(int width) const {
    return arrange(QRect(0, 0, width, 0), false);
}
void FlowLayout::setGeometry(const QRect& rect) {
    QLayout::setGeometry(rect);
    arrange(rect, true);
}

QSize FlowLayout::sizeHint() const {
    QSize out(0, 0);
    for (auto* item : items_)
        if (!item->isEmpty()) {
            const QSize hint = item->sizeHint();
            out.rwidth() += hint.width() + (out.width() > 0 ? across_ : 0);
            out.rheight() = std::max(out.height(), hint.height());
        }
    const auto m = contentsMargins();
    return out + QSize(m.left() + m.right(), m.top() + m.bottom());
}
QSize FlowLayout::minimumSize() const {
    QSize out(0, 0);
    for (auto* item : items_)
        if (!item->isEmpty())
            out = out.expandedTo(item->minimumSize());
    const auto m = contentsMargins();
    return out + QSize(m.left() + m.right(), m.top() + m.bottom());
}

int FlowLayout::arrange(const QRect& rect, bool place) const {
    const QRect inside = rect.marginsRemoved(contentsMargins());
    std::vector<QLayoutItem*> shown;
    int sum = 0;
    for (auto* item : items_)
        if (!item->isEmpty()) {
            shown.push_back(item);
            sum += item->sizeHint().width();
        }
    // Closer together rather than in two lines.
    const int gaps = static_cast<int>(shown.size()) - 1;
    int across = across_;
    if (gaps > 0 && sum + gaps * across > inside.width() && sum + gaps * closest <= inside.width())
        across = (inside.width() - sum) / gaps;
    std::vector<std::vector<QLayoutItem*>> lines;
    int used = 0;
    for (auto* item : shown) {
        const int wide = item->sizeHint().width();
        if (lines.empty() || used + across + wide > inside.width()) {
            lines.emplace_back();
            used = -across;
        }
        used += across + wide;
        lines.back().push_back(item);
    }
    int y = inside.top();
    for (const auto& line : lines) {
        int high = 0, wide = -across;
        for (auto* item : line) {
            high = std::max(high, item->sizeHint().height());
            wide += across + item->sizeHint().width();
        }
        int x = right_ && lines.size() == 1 ? inside.right() + 1 - wide : inside.left();
        for (auto* item : line) {
            const QSize hint = item->sizeHint();
            if (place)
                item->setGeometry(
                    QRect(x, y + high - hint.height(), std::min(hint.width(), inside.width()), hint.height()));
            x += hint.width() + across;
        }
        y += high + down_;
    }
    const auto m = contentsMargins();
    return (lines.empty() ? 0 : y - down_ - inside.top()) + m.top() + m.bottom();
}

} // namespace amber::app
