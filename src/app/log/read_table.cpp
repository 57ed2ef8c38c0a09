// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/read_table.h"
#include "kit/prompt_delegate.h"
#include "kit/ruled_table.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QHeaderView>
#include <QKeyEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <utility>

namespace amber::app {
namespace {
constexpr int leastLine = 22, mostLine = 30; // px
constexpr double fullOff = 0.12;             // of the dial, from the middle of "off the plan" to its end

/// Ruled lines; figures in their cells with a mark where the judge has something to say; engines' numbers where they
/// stand off the plan.
class ReadDelegate : public PromptDelegate {
public:
    using PromptDelegate::PromptDelegate;
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto* model = static_cast<const ReadModel*>(index.model());
        const auto* line = model->line(index.row());
        if (!line)
            return;
        const Colours c(option.widget ? option.widget->window()->palette() : option.palette);
        const QRect r = option.rect;
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        p->setPen(QPen(c.grid, 1));
        p->drawLine(r.bottomLeft(), r.bottomRight());
        const int last = model->columnCount() - 1;
        if (index.column() == last)
            paintOff(*p, r, *model, *line, index.row(), c);
        else if (index.column() < ReadModel::firstEngine)
            paintWords(*p, r, index, c);
        else if (model->place(index))
            paintCell(*p, option, *model, index, c);
        p->restore();
    }

private:
    static void paintWords(QPainter& p, const QRect& r, const QModelIndex& index, const Colours& c) {
        const bool name = index.column() == 0;
        p.setFont(face(name ? 14 : 13));
        p.setPen(name ? c.ink : c.faint);
        QString text = index.data().toString();
        const QFontMetrics metrics(p.font());
        // In a narrow column the moment is left to the tool tip; a figure keeps its unit and its origin.
        if (name && metrics.horizontalAdvance(text) > r.width() - 10)
            text = text.section(QLatin1Char(','), 0, 0);
        for (const int smaller : {12, 11})
            if (QFontMetrics(p.font()).horizontalAdvance(text) > r.width() - 10)
                p.setFont(face(smaller));
        p.drawText(r.adjusted(4, 0, -6, 0), Qt::AlignVCenter | (name ? Qt::AlignLeft : Qt::AlignRight),
                   QFontMetrics(p.font()).elidedText(text, Qt::ElideRight, r.width() - 10));
    }
    static void paintCell(QPainter& p, const QStyleOptionViewItem& option, const ReadModel& model,
                          const QModelIndex& index, const Colours& c) {
        const QRect cell = option.rect.adjusted(4, 2, -4, -3);
        p.fillRect(cell, c.sheet);
        if (option.state.testFlag(QStyle::State_HasFocus) || option.state.testFlag(QStyle::State_Selected)) {
            p.setPen(QPen(c.amber, 1.6));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(cell).adjusted(-0.5, -0.5, 0.5, 0.5));
        }
        QString text = model.shown(index);
        if (text.isEmpty())
            return;
        const auto* unit = model.line(index.row())->unit;
        const auto verdict = model.verdict(index);
        const bool odd = verdict && verdict->colour() != watch::Colour::normal;
        if (odd)
            drawColourMark(p, QPointF(cell.left() + 11, cell.center().y() + 0.5), verdict->colour(), c, 4.4);
        p.setPen(odd ? c.of(verdict->colour()) : c.ink);
        p.setFont(face(14, true));
        const int room = cell.width() - (odd ? 24 : 10);
        // In a narrow cell the unit is left to what is planned.
        if (unit && QFontMetrics(p.font()).horizontalAdvance(text) > room)
            text.remove(QLatin1Char(' ') + QString::fromUtf8(unit->symbol));
        if (QFontMetrics(p.font()).horizontalAdvance(text) > room)
            p.setFont(face(12));
        p.drawText(cell.adjusted(0, 0, -6, 0), Qt::AlignVCenter | Qt::AlignRight,
                   QFontMetrics(p.font()).elidedText(text, Qt::ElideRight, room));
    }
    static void paintOff(QPainter& p, const QRect& r, const ReadModel& model, const record::ReadLine& line, int row,
                         const Colours& c) {
        if (!line.gauge)
            return;
        const double middle = r.center().x(), reach = 0.5 * r.width() - 16, y = r.center().y() + 0.5;
        p.setPen(QPen(c.grid, 1));
        p.drawLine(QPointF(middle - reach, y), QPointF(middle + reach, y));
        p.setPen(QPen(c.faint, 1));
        p.drawLine(QPointF(middle, y - 6), QPointF(middle, y + 6));
        struct At {
            double x;
            QString engine;
            QColor colour;
        };
        std::vector<At> all;
        for (std::size_t e = 0; e < model.engines(); ++e) {
            const auto index = model.index(row, ReadModel::firstEngine + static_cast<int>(e));
            const auto off = index.data(Qt::UserRole);
            if (!off.isValid())
                continue;
            const auto verdict = model.verdict(index);
            const bool odd = verdict && verdict->colour() != watch::Colour::normal;
            all.push_back({middle + reach * std::clamp(off.toDouble() / (fullOff * line.span), -1.0, 1.0),
                           QString::number(e + 1), odd ? c.of(verdict->colour()) : c.ink});
        }
        // Engines that stand together stand side by side.
        std::stable_sort(all.begin(), all.end(), [](const At& a, const At& b) { return a.x < b.x; });
        p.setFont(face(12, true));
        double from = -1e9;
        for (auto& a : all) {
            a.x = std::max(a.x, from + 9.0);
            from = a.x;
            const QRectF place(a.x - 7, r.top(), 14, r.height());
            p.fillRect(QRectF(a.x - 5, r.top() + 3, 10, r.height() - 7), c.paper);
            p.setPen(a.colour);
            p.drawText(place, Qt::AlignCenter, model.engines() > 1 ? a.engine : QStringLiteral("●"));
        }
    }
};
} // namespace

void ReadModel::show(Phase phase) {
    beginResetModel();
    phase_ = phase;
    lines_ = book_.lines(phase);
    positions_ = book_.notes().positions;
    endResetModel();
}

void ReadModel::refresh() {
    if (lines_.empty())
        return;
    emit dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
}

int ReadModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(lines_.size());
}
int ReadModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : firstEngine + static_cast<int>(engines()) + 1;
}

const record::ReadLine* ReadModel::line(int row) const {
    return row >= 0 && row < static_cast<int>(lines_.size()) ? &lines_[static_cast<std::size_t>(row)] : nullptr;
}

std::optional<Book::Place> ReadModel::place(const QModelIndex& index) const {
    const auto* l = line(index.row());
    const int engine = index.column() - firstEngine;
    if (!l || engine < 0 || engine >= static_cast<int>(engines()) || (!l->eachEngine && engine > 0))
        return std::nullopt;
    return Book::Place{phase_, l->what,
                       l->eachEngine ? positions_.at(static_cast<std::size_t>(engine)).id : std::string()};
}

std::optional<watch::Verdict> ReadModel::verdict(const QModelIndex& index) const {
    const auto where = place(index);
    const auto* e = where ? book_.at(*where) : nullptr;
    if (!e)
        return std::nullopt;
    const auto* said = book_.judged(*e);
    return said ? std::optional(said->verdict) : std::nullopt;
}

QString ReadModel::shown(const QModelIndex& index) const {
    const auto where = place(index);
    const auto* e = where ? book_.at(*where) : nullptr;
    if (!e)
        return {};
    return q(record::shownAs(*line(index.row()), *e));
}

QVariant ReadModel::data(const QModelIndex& index, int role) const {
    const auto* l = line(index.row());
    if (!l)
        return {};
    const auto where = place(index);
    const auto* e = where ? book_.at(*where) : nullptr;
    switch (role) {
    case Qt::DisplayRole:
        if (index.column() == 0)
            return l->moment.empty() ? q(l->title)
                                     : tr("%1, %2").arg(q(l->title), q(l->moment.substr(0, l->moment.find(','))));
        if (index.column() == 1) {
            QStringList figures;
            if (l->planned)
                figures << q(record::figureText(l->what, *l->planned, l->unit));
            for (const double one : l->each)
                figures << q(record::figureText(l->what, one, l->unit));
            if (figures.isEmpty() && !l->want.empty())
                return q(l->want);
            return figures.isEmpty()
                       ? QString()
                       : tr("%1 (%2)").arg(figures.join(QStringLiteral(" / ")), q(std::string(markOf(l->origin))));
        }
        return where ? shown(index) : QVariant();
    case Qt::EditRole:
        return e && e->kind != record::Entry::Kind::looked ? shown(index) : QString();
    case Qt::UserRole: // off the plan of the day, SI
        return e && e->kind == record::Entry::Kind::figure && e->planned ? e->value - *e->planned : QVariant();
    case Qt::ToolTipRole:
        if (const auto said = verdict(index))
            return q(said->sentence());
        if (where)
            return tr("Type what it reads. Space: looked, in its band. Delete: not read.");
        // What a narrow column leaves out.
        if (index.column() == 0 && !l->moment.empty())
            return tr("%1, %2").arg(q(l->title), q(l->moment));
        return index.column() == 1 ? index.data() : QVariant();
    case Qt::AccessibleTextRole: {
        const auto said = verdict(index);
        return where ? tr("%1: %2 %3").arg(q(l->title), shown(index), said ? q(said->sentence()) : QString())
                     : q(l->title);
    }
    default:
        return {};
    }
}

QVariant ReadModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal)
        return {};
    if (role == Qt::TextAlignmentRole)
        return static_cast<int>(Qt::AlignVCenter | (section == 0                   ? Qt::AlignLeft
                                                    : section == columnCount() - 1 ? Qt::AlignHCenter
                                                                                   : Qt::AlignRight));
    if (role != Qt::DisplayRole)
        return {};
    if (section == 0)
        return tr("read");
    if (section == 1)
        return tr("planned");
    if (section == columnCount() - 1)
        return tr("− off plan +");
    if (engines() < 2 || std::none_of(lines_.begin(), lines_.end(), [](const auto& l) { return l.eachEngine; }))
        return tr("is");
    // By its number, which stands off the plan too, and its name.
    const QString name = q(positions_.at(static_cast<std::size_t>(section - firstEngine)).name);
    const QString number = QString::number(section - firstEngine + 1);
    return name.contains(number) ? name : tr("%1 %2").arg(number, name);
}

Qt::ItemFlags ReadModel::flags(const QModelIndex& index) const {
    return place(index) ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                        : Qt::ItemFlags(Qt::ItemIsEnabled);
}

bool ReadModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const auto where = place(index);
    if (role != Qt::EditRole || !where)
        return false;
    const QString text = value.toString().trimmed();
    const auto* e = book_.at(*where);
    if (text == (e && e->kind != record::Entry::Kind::looked ? shown(index) : QString()))
        return false;
    if (text.isEmpty()) {
        book_.withdraw(*where);
        return true;
    }
    const auto typed = record::readTyped(*line(index.row()), text.toStdString());
    if (!typed) {
        emit refused(q(typed.error()));
        return false;
    }
    if (e && e->kind == typed.value().kind && e->value == typed.value().value && e->words == typed.value().words)
        return false;
    return book_.keepTyped(*where, typed.value()).isEmpty();
}

ReadTable::ReadTable(QWidget* parent) : QTableView(parent) {
    setObjectName(QStringLiteral("read-table"));
    setAccessibleName(tr("Readings"));
    setItemDelegate(new ReadDelegate(this));
    rule(*this, tr("Columns of the readings"), 6);
    verticalHeader()->setMinimumSectionSize(leastLine);
}

void ReadTable::setReadModel(ReadModel* model) {
    read_ = model;
    setModel(model);
    connect(model, &QAbstractItemModel::modelReset, this, [this] {
        layOut();
        setCurrentIndex(read_->index(0, ReadModel::firstEngine));
    });
}

void ReadTable::layOut() {
    // A column's width may bring or take the scroll bar, which resizes the table while it is laid out.
    again_ = true;
    if (std::exchange(laying_, true))
        return;
    for (int i = 0; i < 3 && std::exchange(again_, false); ++i)
        place();
    laying_ = false;
}

void ReadTable::place() {
    if (!read_ || read_->rowCount() == 0)
        return;
    const int room = viewport()->width(), engines = static_cast<int>(read_->engines());
    const auto& lines = read_->lines();
    const bool alone = std::none_of(lines.begin(), lines.end(), [](const auto& l) { return l.eachEngine; });
    for (int e = 1; e <= engines; ++e) // nothing is an engine's or off a plan: those columns are given to the words
        setColumnHidden(ReadModel::firstEngine + e, alone);
    if (alone) {
        const int cell = std::clamp(room * 22 / 100, 130, 220), name = std::clamp(room * 32 / 100, 130, 340);
        setColumnWidth(0, name);
        setColumnWidth(1, room - name - cell);
        setColumnWidth(ReadModel::firstEngine, cell);
        rowHeights();
        return;
    }
    const bool tight = room < 420 + 90 * engines;
    const int words = std::clamp(room * (engines > 2 ? 20 : 25) / 100, 112, 300);
    const int planned = tight ? 130 : std::clamp(room * 21 / 100, 128, 210);
    const int off = tight ? 78 : std::clamp(room * 18 / 100, 96, 260);
    setColumnWidth(0, words);
    setColumnWidth(1, planned);
    const int cell = std::min(150, (room - words - planned - off) / std::max(1, engines));
    for (int e = 0; e < engines; ++e)
        setColumnWidth(ReadModel::firstEngine + e, cell);
    setColumnWidth(ReadModel::firstEngine + engines, std::min(off, room - words - planned - cell * engines));
    rowHeights();
}

void ReadTable::setLeastRows(int rows) {
    if (std::exchange(leastRows_, rows) != rows && read_)
        rowHeights();
}

void ReadTable::rowHeights() {
    const int head = horizontalHeader()->sizeHint().height() + 2;
    verticalHeader()->setDefaultSectionSize(
        std::clamp((height() - head) / std::max(1, read_->rowCount()), leastLine, mostLine));
    setMinimumHeight(head + std::min(read_->rowCount(), leastRows_) * leastLine);
}

void ReadTable::resizeEvent(QResizeEvent* event) {
    QTableView::resizeEvent(event);
    layOut();
}

void ReadTable::goOn() {
    // On to the next line of the same engine; from the last one to the next engine's first.
    const auto here = currentIndex();
    for (int e = here.column(); e < ReadModel::firstEngine + static_cast<int>(read_->engines()); ++e)
        for (int row = e == here.column() ? here.row() + 1 : 0; row < read_->rowCount(); ++row)
            if (const auto next = read_->index(row, e); read_->place(next)) {
                setCurrentIndex(next);
                return;
            }
}

void ReadTable::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
    QTableView::closeEditor(editor, hint);
    if (hint == QAbstractItemDelegate::NoHint)
        goOn();
}

void ReadTable::keyPressEvent(QKeyEvent* event) {
    const auto index = currentIndex();
    if (!read_ || !index.isValid() || !read_->place(index) || state() == EditingState ||
        (event->modifiers() & ~Qt::KeypadModifier) != Qt::NoModifier) {
        QTableView::keyPressEvent(event);
        return;
    }
    switch (event->key()) {
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        read_->setData(index, QString(), Qt::EditRole);
        return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        goOn();
        return;
    case Qt::Key_Space:
        emit looked(index);
        goOn();
        return;
    case Qt::Key_S:
        emit clockPressed(index);
        return;
    default:
        QTableView::keyPressEvent(event);
    }
}

} // namespace amber::app
