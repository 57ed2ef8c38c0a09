// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/figures_view.h"
#include "kit/theme.h"
#include <QAbstractTextDocumentLayout>
#include <QAccessible>
#include <QEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int cellPadding = 3, besideMark = 15, betweenBlocks = 9; // px
constexpr int leastColumn = 48;                                    // px, of one that is wrapped
QFont cellFace(bool strong) {
    return face(13, strong);
}
} // namespace

FiguresView::FiguresView(QWidget* parent) : QWidget(parent) {
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

void FiguresView::put(Figures figures) {
    if (figures == figures_)
        return;
    const int before = heightForWidth(width());
    figures_ = std::move(figures);
    grids_.clear();
    laid_.resize(figures_.size());
    if (heightForWidth(width()) != before)
        updateGeometry();
    update();
    if (QAccessible::isActive())
        setAccessibleDescription(text());
}

QString FiguresView::text() const {
    QStringList out;
    for (const auto& block : figures_) {
        if (const auto* words = std::get_if<QString>(&block)) {
            out << *words;
            continue;
        }
        const auto& table = std::get<Table>(block);
        out << table.heads.join(QLatin1Char('\t'));
        for (const auto& line : table.lines) {
            QStringList cells;
            for (const auto& cell : line.cells)
                cells << cell.text;
            out << cells.join(QLatin1Char('\t'));
        }
    }
    return out.join(QLatin1Char('\n'));
}

const FiguresView::Grid& FiguresView::grid(std::size_t block, int width) const {
    auto& kept = grids_[{block, width}];
    if (kept.heights.empty())
        kept = laidOut(std::get<Table>(figures_[block]), width);
    return kept;
}

FiguresView::Grid FiguresView::laidOut(const Table& table, int width) {
    const auto columns = static_cast<std::size_t>(table.heads.size());
    const QFontMetrics plain(cellFace(false)), bold(cellFace(true));
    Grid out;
    out.widths.assign(columns, 0);
    for (std::size_t i = 0; i < columns; ++i) {
        out.widths[i] = plain.horizontalAdvance(table.heads[static_cast<int>(i)]);
        for (const auto& line : table.lines)
            if (i < line.cells.size())
                out.widths[i] =
                    std::max(out.widths[i], (line.strong ? bold : plain).horizontalAdvance(line.cells[i].text) +
                                                (line.cells[i].mark ? besideMark : 0));
        out.widths[i] += 2 * cellPadding + 2; // a hair more than the words, or they wrap
    }
    int sum = 0;
    for (const int w : out.widths)
        sum += w;
    if (sum < width && columns > 1) {
        // What is left over stands between the columns, not before the first.
        for (std::size_t i = 1; i < columns; ++i)
            out.widths[i] += (width - sum) / static_cast<int>(columns - 1);
    }
    // Too wide: the widest columns wrap, all to the one width at which everything fits.
    if (sum > width) {
        int low = leastColumn, high = *std::max_element(out.widths.begin(), out.widths.end());
        const auto within = [&](int most) {
            int all = 0;
            for (const int w : out.widths)
                all += std::min(w, most);
            return all <= width;
        };
        while (high - low > 1) {
            const int middle = (low + high) / 2;
            (within(middle) ? low : high) = middle;
        }
        for (int& w : out.widths)
            w = std::min(w, low);
    }
    const int line = plain.height();
    const auto highest = [&](std::size_t i, const QString& text, bool strong, int used) {
        const int room = out.widths[i] - 2 * cellPadding - used;
        const QFontMetrics& metrics = strong ? bold : plain;
        return metrics.horizontalAdvance(text) <= room
                   ? line
                   : metrics.boundingRect(QRect(0, 0, std::max(10, room), 1000), Qt::TextWordWrap, text).height();
    };
    int head = line;
    for (std::size_t i = 0; i < columns; ++i)
        head = std::max(head, highest(i, table.heads[static_cast<int>(i)], false, 0));
    out.heights.push_back(head + 4);
    for (const auto& l : table.lines) {
        int high = line;
        for (std::size_t i = 0; i < l.cells.size() && i < columns; ++i)
            high = std::max(high, highest(i, l.cells[i].text, l.strong, l.cells[i].mark ? besideMark : 0));
        out.heights.push_back(high + 4);
    }
    return out;
}

QTextDocument& FiguresView::laidOut(std::size_t block, int width) const {
    auto& laid = laid_[block];
    const QString& text = std::get<QString>(figures_[block]);
    if (!laid.document) {
        laid.document = std::make_unique<QTextDocument>();
        laid.document->setDocumentMargin(0);
        laid.document->setDefaultFont(cellFace(false));
        laid.document->setUndoRedoEnabled(false);
        laid.width = -1;
    }
    if (laid.text != text || laid.width < 0) {
        laid.document->setHtml(text);
        laid.text = text;
        laid.width = -1;
    }
    if (laid.width != width) {
        laid.document->setTextWidth(width);
        laid.width = width;
    }
    return *laid.document;
}

int FiguresView::heightOf(std::size_t block, int width) const {
    if (std::holds_alternative<Table>(figures_[block])) {
        int sum = 0;
        for (const int h : grid(block, width).heights)
            sum += h;
        return sum;
    }
    return static_cast<int>(std::ceil(laidOut(block, width).size().height()));
}

int FiguresView::heightForWidth(int width) const {
    int sum = 0;
    for (std::size_t i = 0; i < figures_.size(); ++i)
        sum += heightOf(i, width) + (i > 0 ? betweenBlocks : 0);
    return sum;
}
QSize FiguresView::sizeHint() const {
    const int wide = std::max(width(), 300);
    return {wide, heightForWidth(wide)};
}

void FiguresView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    int top = 0;
    for (std::size_t i = 0; i < figures_.size(); ++i) {
        const int high = heightOf(i, width());
        if (std::holds_alternative<Table>(figures_[i])) {
            paint(p, i, top);
        } else {
            QAbstractTextDocumentLayout::PaintContext context;
            context.palette = palette();
            context.palette.setColor(QPalette::Text, palette().color(QPalette::WindowText));
            p.save();
            p.translate(0, top);
            laidOut(i, width()).documentLayout()->draw(&p, context);
            p.restore();
        }
        top += high + betweenBlocks;
    }
}

void FiguresView::paint(QPainter& p, std::size_t block, int top) const {
    const Colours c(this);
    const auto& table = std::get<Table>(figures_[block]);
    const Grid& g = grid(block, width());
    const auto flags = [&](std::size_t i) {
        return static_cast<int>(Qt::AlignVCenter | Qt::TextWordWrap) |
               static_cast<int>(i == 0 || static_cast<int>(i) == table.left ||
                                        (table.leftOn && static_cast<int>(i) > table.left)
                                    ? Qt::AlignLeft
                                    : Qt::AlignRight);
    };
    p.setFont(cellFace(false));
    p.setPen(c.faint);
    int x = 0;
    for (std::size_t i = 0; i < g.widths.size(); ++i) {
        p.drawText(QRect(x + cellPadding, top, g.widths[i] - 2 * cellPadding, g.heights[0]), flags(i),
                   table.heads[static_cast<int>(i)]);
        x += g.widths[i];
    }
    int y = top + g.heights[0];
    for (std::size_t r = 0; r < table.lines.size(); ++r) {
        const auto& line = table.lines[r];
        const QFont font = cellFace(line.strong);
        x = 0;
        p.setFont(font);
        for (std::size_t i = 0; i < line.cells.size() && i < g.widths.size(); ++i) {
            const auto& cell = line.cells[i];
            QRect at(x + cellPadding, y, g.widths[i] - 2 * cellPadding, g.heights[r + 1]);
            if (cell.mark) {
                const bool right = (flags(i) & Qt::AlignRight) != 0;
                const int words = QFontMetrics(font).horizontalAdvance(cell.text);
                const double markX = right ? std::max(at.left() + 6.0, at.right() - words - 9.0) : at.left() + 6.0;
                drawColourMark(p, QPointF(markX, at.center().y() + 0.5), *cell.mark, c, 4);
                at.setLeft(at.left() + besideMark);
            }
            p.setPen(c.ink);
            p.drawText(at, flags(i), cell.text);
            x += g.widths[i];
        }
        y += g.heights[r + 1];
    }
}

void FiguresView::changeEvent(QEvent* event) {
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange || event->type() == QEvent::FontChange) {
        grids_.clear();
        update();
    }
}

} // namespace amber::app
