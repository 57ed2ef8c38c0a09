// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/drill_view.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QAccessible>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace amber::app {
namespace {
constexpr int besideBar = 12, tickWidth = 22, betweenParts = 10, betweenColumns = 22; // px
constexpr int columnsFrom = 620;                                                      // px
constexpr int levels = 3;

QFont whatFace(int level) {
    return face(15 - level);
}
QFont setFace(int level) {
    return face(16 - level, true);
}
int linePadding(int level) {
    return level == 0 ? 4 : level == 1 ? 3 : 1;
}
int headingHeight(int level) {
    return 22 - 2 * level;
}
int half(int width) {
    return (width - besideBar - tickWidth - betweenParts) * 46 / 100;
}
int heightOf(const QFont& font, int width, const QString& text) {
    return QFontMetrics(font).boundingRect(0, 0, std::max(20, width), 10000, Qt::TextWordWrap, text).height();
}
} // namespace

DrillView::DrillView(const QString& name, QWidget* parent) : QWidget(parent) {
    setObjectName(name);
    setFocusPolicy(Qt::StrongFocus);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void DrillView::put(const trouble::EmergencyDrill& drill) {
    const auto same = [&] {
        if (drill.lines.size() != lines_.size())
            return false;
        for (std::size_t i = 0; i < lines_.size(); ++i)
            if (lines_[i].step != drill.lines[i].step || lines_[i].what != drill.lines[i].what)
                return false;
        return true;
    };
    if (!same()) {
        done_.clear();
        current_ = 0;
        // The first that is to be done: gates are read past.
        while (current_ + 1 < static_cast<int>(drill.lines.size()) &&
               drill.lines[static_cast<std::size_t>(current_)].gate)
            ++current_;
    }
    if (lines_ != drill.lines)
        laidWidth_ = -1;
    lines_ = drill.lines;
    setAccessibleName(q(drill.title));
    if (QAccessible::isActive())
        setAccessibleDescription(text());
    updateGeometry();
    update();
}

void DrillView::setRoom(int height) {
    if (room_ == height)
        return;
    room_ = height;
    laidWidth_ = -1;
    updateGeometry();
    update();
}

int DrillView::memoryBottom() const {
    int bottom = 0;
    for (const auto& b : blocks(width()))
        if (b.memory)
            bottom = std::max(bottom, b.place.bottom() + 1);
    return bottom;
}

QString DrillView::text() const {
    QStringList out;
    for (const auto& l : lines_)
        out << QStringLiteral("%1%2: %3").arg(l.memory ? QStringLiteral("* ") : QString(), q(l.what), q(l.set));
    return out.join(QLatin1Char('\n'));
}

int DrillView::rowHeight(const trouble::DrillLine& l, int width, int level) const {
    const int left = half(width), right = width - besideBar - tickWidth - betweenParts - left;
    return std::max(heightOf(whatFace(level), left, q(l.what)), heightOf(setFace(level), right, q(l.set))) +
           2 * linePadding(level);
}

const std::vector<DrillView::Block>& DrillView::blocks(int width) const {
    if (laidWidth_ == width)
        return laid_;
    laidWidth_ = width;
    // The largest letters in which what is done from memory is whole; columns before smaller letters.
    for (int level = 0; level < levels; ++level)
        for (int columns = 1; columns <= (width >= columnsFrom ? 2 : 1); ++columns) {
            setting_ = {level, columns};
            laid_ = layOut(width, setting_);
            int bottom = 0;
            for (const auto& b : laid_)
                if (b.memory)
                    bottom = std::max(bottom, b.place.bottom() + 1);
            if (room_ <= 0 || bottom <= room_)
                return laid_;
        }
    return laid_;
}

std::vector<DrillView::Block> DrillView::layOut(int width, Setting setting) const {
    std::vector<Block> out;
    const bool memory = std::any_of(lines_.begin(), lines_.end(), [](const auto& l) { return l.memory; });
    const int columnWidth = (width - (setting.columns - 1) * betweenColumns) / setting.columns;
    const int headingHigh = headingHeight(setting.level);
    // Blocks one under the other, in parts: what is done from memory, then what is read. Each part flows through the
    // columns; a heading stays with the line that follows it.
    int top = 0;
    std::size_t i = 0;
    QString at;
    while (i < lines_.size()) {
        const bool wanted = lines_[i].memory;
        std::vector<std::vector<Block>> groups; // a line with the headings over it
        int all = 0;
        bool first = true;
        for (; i < lines_.size() && lines_[i].memory == wanted; ++i) {
            const auto& l = lines_[i];
            std::vector<Block> group;
            const auto head = [&](const QString& words) {
                group.push_back({{0, 0, columnWidth, headingHigh}, -1, words, l.memory});
            };
            if (first && memory)
                head(l.memory ? tr("memory items") : tr("checklist"));
            first = false;
            if (const QString when = q(l.at); when != at && !when.isEmpty())
                head(when);
            at = q(l.at);
            if (const QString about = q(l.group); l.first && !about.isEmpty() && about != at)
                head(about);
            group.push_back(
                {{0, 0, columnWidth, rowHeight(l, columnWidth, setting.level)}, static_cast<int>(i), {}, l.memory});
            for (const auto& b : group)
                all += b.place.height();
            groups.push_back(std::move(group));
        }
        int y = top, column = 0, deepest = top;
        const int each = setting.columns == 1 ? all : (all + 1) / 2;
        for (auto& group : groups) {
            int high = 0;
            for (const auto& b : group)
                high += b.place.height();
            // On to the next column where more than half of the group would stand under the middle.
            if (column + 1 < setting.columns && y > top && y - top + high / 2 > each) {
                ++column;
                y = top;
            }
            for (auto& b : group) {
                b.place.moveTo(column * (columnWidth + betweenColumns), y);
                y += b.place.height();
                out.push_back(b);
            }
            deepest = std::max(deepest, y);
        }
        top = deepest;
    }
    return out;
}

int DrillView::heightForWidth(int width) const {
    int bottom = 20;
    for (const auto& b : blocks(width))
        bottom = std::max(bottom, b.place.bottom() + 2);
    return bottom;
}

QSize DrillView::sizeHint() const {
    const int wide = std::max(320, width());
    return {wide, heightForWidth(wide)};
}

void DrillView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    const auto& all = blocks(width());
    const int padding = linePadding(setting_.level), letters = QFontMetrics(whatFace(setting_.level)).height();
    for (const auto& b : all) {
        const QRect r = b.place;
        if (b.memory) // a bar along what is done from memory
            p.fillRect(QRect(r.left(), r.top(), 4, r.height()), c.amber);
        if (b.line < 0) {
            p.setPen(c.faint);
            p.setFont(captionFace());
            p.drawText(r.adjusted(besideBar, 0, 0, -1), Qt::AlignLeft | Qt::AlignBottom, b.heading);
            continue;
        }
        const auto& l = lines_[static_cast<std::size_t>(b.line)];
        const bool here = b.line == current_, done = done_.contains(b.line);
        if (here) {
            p.fillRect(r.adjusted(besideBar - 4, 0, 0, -1), c.amberWash);
            if (hasFocus()) {
                p.setPen(QPen(c.amber, 2));
                p.drawRect(r.adjusted(besideBar - 3, 1, -2, -3));
            }
        }
        p.setPen(QPen(c.rule, 1));
        p.drawLine(r.left() + besideBar, r.bottom(), r.right(), r.bottom());
        // The tick's box, and the tick.
        const QRectF box(r.left() + besideBar + 3, r.top() + padding + std::max(1, (letters - 11) / 2), 11, 11);
        p.setPen(QPen(done ? c.green : c.faint, 1.4));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box);
        if (done) {
            p.setPen(QPen(c.green, 2.4));
            p.drawLine(box.bottomLeft() + QPointF(2, -4), box.center() + QPointF(-1, 4));
            p.drawLine(box.center() + QPointF(-1, 4), box.topRight() + QPointF(2, -2));
        }
        const int left = half(r.width()), from = r.left() + besideBar + tickWidth;
        const QRect what(from, r.top() + padding, left, r.height() - 2 * padding);
        const QRect set(from + left + betweenParts, r.top() + padding,
                        r.left() + r.width() - from - left - betweenParts, r.height() - 2 * padding);
        p.setPen(done || l.gate ? c.faint : c.ink);
        p.setFont(whatFace(setting_.level));
        p.drawText(what, Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop, q(l.what));
        p.setPen(done ? c.faint : c.ink);
        p.setFont(setFace(setting_.level));
        p.drawText(set, Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop, q(l.set));
    }
}

void DrillView::choose(int line) {
    if (lines_.empty())
        return;
    current_ = std::clamp(line, 0, static_cast<int>(lines_.size()) - 1);
    for (const auto& b : blocks(width()))
        if (b.line == current_)
            emit placeWanted(b.place);
    emit chosen(current_);
    update();
}

void DrillView::tick(int line) {
    if (line < 0 || line >= static_cast<int>(lines_.size()))
        return;
    if (!done_.insert(line).second)
        done_.erase(line);
    emit ticked();
    update();
}

void DrillView::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Down:
        choose(current_ + 1);
        break;
    case Qt::Key_Up:
        choose(current_ - 1);
        break;
    case Qt::Key_Home:
        done_.clear();
        choose(0);
        break;
    case Qt::Key_End:
        choose(static_cast<int>(lines_.size()) - 1);
        break;
    case Qt::Key_Space:
        tick(current_);
        if (isDone(current_))
            choose(current_ + 1);
        break;
    default:
        QWidget::keyPressEvent(event);
    }
}

void DrillView::mousePressEvent(QMouseEvent* event) {
    for (const auto& b : blocks(width()))
        if (b.line >= 0 && b.place.contains(event->pos())) {
            if (event->pos().x() < b.place.left() + besideBar + tickWidth)
                tick(b.line);
            choose(b.line);
            return;
        }
    QWidget::mousePressEvent(event);
}

void DrillView::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    emit chosen(current_);
    update();
}

void DrillView::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    update();
}

} // namespace amber::app
