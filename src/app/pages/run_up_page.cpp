// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/run_up_page.h"
#include "kit/html.h"
#include "kit/prompt_delegate.h"
#include "kit/rich_label.h"
#include "kit/ruled_table.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QPainter>
#include <QVBoxLayout>
#include <cmath>
#include <functional>
#include <utility>

namespace amber::app {
namespace {
constexpr int leastRow = 21; // px

/// Ruled rows; a reading with its mark before it; the chosen cell framed.
class SheetDelegate : public PromptDelegate {
public:
    using PromptDelegate::PromptDelegate;
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto* model = static_cast<const RunUpModel*>(index.model());
        const auto* line = model->line(index.row());
        const auto* cell = model->cell(index);
        const Colours c(option.widget ? option.widget->window()->palette() : option.palette);
        const QRect r = option.rect;
        p->save();
        p->setRenderHint(QPainter::Antialiasing);
        p->setPen(QPen(c.grid, 1));
        p->drawLine(r.bottomLeft(), r.bottomRight());
        const int column = index.column();
        if (column < RunUpModel::firstEngine) {
            p->setFont(face(13, column == 0));
            p->setPen(column == 0 ? c.ink : c.faint);
            const QString text = index.data().toString();
            p->drawText(r.adjusted(4, 0, -4, 0), Qt::AlignVCenter | Qt::AlignLeft,
                        QFontMetrics(p->font()).elidedText(text, Qt::ElideRight, r.width() - 8));
        } else if (cell) {
            const bool computed = line->kind == watch::SheetKind::computed;
            const bool current =
                option.state.testFlag(QStyle::State_HasFocus) || option.state.testFlag(QStyle::State_Selected);
            if (!computed)
                p->fillRect(r.adjusted(3, 3, -3, -3), c.sheet);
            if (current) {
                p->setPen(QPen(c.amber, 1.5));
                p->setBrush(Qt::NoBrush);
                p->drawRect(QRectF(r).adjusted(2.5, 2.5, -2.5, -2.5));
            }
            p->setFont(face(14, true));
            if (cell->shown.empty()) {
                p->setPen(c.rule);
                p->setFont(face(12));
                p->drawText(r, Qt::AlignCenter, computed ? QString() : QStringLiteral("…"));
            } else {
                if (line->kind != watch::SheetKind::count)
                    drawColourMark(*p, QPointF(r.left() + 14, r.center().y() + 0.5), cell->verdict.colour(), c, 4.5);
                p->setPen(cell->verdict.colour() == watch::Colour::normal ? c.ink : c.of(cell->verdict.colour()));
                // In a narrow column the unit is left to what it should be.
                QString text = q(cell->shown);
                if (QFontMetrics(p->font()).horizontalAdvance(text) > r.width() - 30)
                    text.remove(QStringLiteral(" ") + QString::fromUtf8(line->unit->symbol));
                if (QFontMetrics(p->font()).horizontalAdvance(text) > r.width() - 30)
                    p->setFont(face(13));
                p->drawText(r.adjusted(24, 0, -4, 0), Qt::AlignVCenter | Qt::AlignLeft,
                            QFontMetrics(p->font()).elidedText(text, Qt::ElideRight, r.width() - 28));
            }
        }
        p->restore();
    }
};

class SheetTable : public QTableView {
public:
    using QTableView::QTableView;
    std::function<void(bool on)> closed; ///< the editor has gone; by Return, and not to a neighbour of its own choosing

protected:
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override {
        QTableView::closeEditor(editor, hint);
        closed(hint == QAbstractItemDelegate::NoHint);
    }
    void keyPressEvent(QKeyEvent* event) override {
        const auto index = currentIndex();
        if ((event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) && index.isValid()) {
            model()->setData(index, QString(), Qt::EditRole);
            return;
        }
        if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && index.isValid() &&
            state() != EditingState) {
            edit(index);
            return;
        }
        QTableView::keyPressEvent(event);
    }
};
} // namespace

void RunUpModel::refresh() {
    const auto& sheet = document_.plan().runUpSheet;
    const int rows = static_cast<int>(sheet.lines.size()),
              columns = firstEngine + std::max(1, static_cast<int>(sheet.engines.size()));
    if (rows != rows_ || columns != columns_) {
        beginResetModel();
        rows_ = rows;
        columns_ = columns;
        endResetModel();
    } else if (rows > 0) {
        emit dataChanged(index(0, 0), index(rows - 1, columns - 1));
        emit headerDataChanged(Qt::Horizontal, 0, columns - 1);
    }
}

int RunUpModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : rows_;
}
int RunUpModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : columns_;
}

const watch::SheetLine* RunUpModel::line(int row) const {
    const auto& lines = document_.plan().runUpSheet.lines;
    return row >= 0 && row < static_cast<int>(lines.size()) ? &lines[static_cast<std::size_t>(row)] : nullptr;
}

const watch::SheetCell* RunUpModel::cell(const QModelIndex& index) const {
    const auto* l = line(index.row());
    const int engine = index.column() - firstEngine;
    if (!l || engine < 0)
        return nullptr;
    // A reading of the whole aircraft stands in the first column.
    return engine < static_cast<int>(l->cells.size()) ? &l->cells[static_cast<std::size_t>(engine)] : nullptr;
}

QVariant RunUpModel::data(const QModelIndex& index, int role) const {
    const auto* l = line(index.row());
    if (!l)
        return {};
    const auto* c = cell(index);
    if (role == Qt::DisplayRole)
        switch (index.column()) {
        case 0: // notes, unless it says otherwise
            return l->origin == Origin::notes
                       ? q(l->what)
                       : QStringLiteral("%1 (%2)").arg(q(l->what), q(std::string(markOf(l->origin))));
        case 1:
            return q(l->at);
        case 2:
            return q(l->want);
        default:
            return c ? q(c->shown) : QString();
        }
    if (role == Qt::EditRole)
        return c ? q(c->shown) : QString();
    if (role == Qt::ToolTipRole)
        return c && !c->verdict.sentence().empty() ? q(c->verdict.sentence()) : q(l->why);
    if (role == Qt::AccessibleTextRole)
        return c ? q(l->what + ": " + c->shown + " " + c->verdict.sentence()) : q(l->what);
    return {};
}

QVariant RunUpModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
        return {};
    if (section == 0)
        return tr("read");
    if (section == 1)
        return tr("at");
    if (section == 2)
        return tr("should be (notes)");
    const auto& engines = document_.plan().runUpSheet.engines;
    const auto i = static_cast<std::size_t>(section - firstEngine);
    return engines.size() < 2 ? tr("is") : i < engines.size() ? q(engines[i]) : QString();
}

Qt::ItemFlags RunUpModel::flags(const QModelIndex& index) const {
    const auto* c = cell(index);
    if (!c)
        return Qt::ItemIsEnabled;
    Qt::ItemFlags f = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    if (line(index.row())->kind != watch::SheetKind::computed)
        f |= Qt::ItemIsEditable;
    return f;
}

bool RunUpModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    const auto* c = cell(index);
    if (role != Qt::EditRole || !c || line(index.row())->kind == watch::SheetKind::computed)
        return false;
    if (value.toString().trimmed() == q(c->shown))
        return false;
    emit typed(q(c->key), value.toString(), index.row());
    return true;
}

RunUpPage::RunUpPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("run-up-page"));
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(22);
    model_ = new RunUpModel(document_, this);
    auto* sheet = new SheetTable(this);
    sheet->closed = [this](bool on) {
        const QPersistentModelIndex next = std::exchange(next_, {});
        if (on && next.isValid())
            table_->setCurrentIndex(next);
    };
    table_ = sheet;
    table_->setObjectName(QStringLiteral("run-up-table"));
    table_->setAccessibleName(tr("Run-up sheet"));
    table_->setModel(model_);
    table_->setItemDelegate(new SheetDelegate(table_));
    rule(*table_, tr("Columns of the run-up sheet"), 4);
    table_->verticalHeader()->setDefaultSectionSize(24);
    table_->verticalHeader()->setMinimumSectionSize(20);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    columns->addWidget(table_, 1);
    right_ = new QWidget(this);
    auto* right = new QVBoxLayout(right_);
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(6);
    const auto label = [&](const char* name, int size) {
        auto* l = new RichLabel(this);
        l->setObjectName(QLatin1String(name));
        l->setFont(face(size));
        l->setAlignment(Qt::AlignTop | Qt::AlignLeft);
        right->addWidget(l);
        return l;
    };
    verdict_ = label("run-up-verdict", 14);
    findings_ = label("run-up-findings", 13);
    right->addStretch(1);
    columns->addWidget(right_);
    connect(model_, &RunUpModel::typed, this, &RunUpPage::take);
    connect(table_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this] { showVerdict(); });
}

void RunUpPage::refresh() {
    if (!document_.isOpen())
        return;
    model_->refresh();
    const int engines = model_->columnCount() - RunUpModel::firstEngine;
    const int room = narrow() ? width() : width() - layout()->spacing() - right_->maximumWidth();
    const bool many = engines > 2;
    table_->setColumnWidth(0, std::clamp(room * (many ? 20 : 24) / 100, many ? 130 : 200, 320));
    table_->setColumnWidth(1, std::clamp(room * (many ? 9 : 12) / 100, 76, 160));
    table_->setColumnWidth(2, std::clamp(room * 19 / 100, 130, 260));
    // All lines in sight where the window is high enough.
    const int rows = std::max(1, model_->rowCount());
    const int head = table_->horizontalHeader()->sizeHint().height() + 2;
    table_->verticalHeader()->setDefaultSectionSize(narrow() ? leastRow
                                                             : std::clamp((height() - head) / rows, leastRow, 26));
    table_->setMinimumHeight(head + rows * leastRow); // the page scrolls, not the table
    const int left = room - table_->columnWidth(0) - table_->columnWidth(1) - table_->columnWidth(2);
    for (int i = 0; i < engines; ++i)
        table_->setColumnWidth(RunUpModel::firstEngine + i, std::min(260, left / engines));
    if (!table_->currentIndex().isValid() || !model_->cell(table_->currentIndex()))
        table_->setCurrentIndex(model_->index(0, RunUpModel::firstEngine));
    showVerdict();
}

void RunUpPage::widen() {
    stack(*static_cast<QBoxLayout*>(layout()), narrow());
    setColumn(*right_, narrow() ? 0 : share(0.236, 200, 460));
}

void RunUpPage::resizeEvent(QResizeEvent* event) {
    Page::resizeEvent(event);
    if (document_.isOpen())
        refresh();
}

void RunUpPage::showVerdict() {
    const Colours c(this);
    const auto index = table_->currentIndex();
    const auto* line = model_->line(index.row());
    const auto* cell = model_->cell(index);
    const auto& sheet = document_.plan().runUpSheet;
    if (!line) {
        verdict_->clear();
        return;
    }
    QStringList lines;
    lines
        << QStringLiteral("<span style='color:%1'><b>%2</b></span>").arg(c.amber.name(), q(line->what).toHtmlEscaped());
    if (cell && !cell->shown.empty() && line->kind != watch::SheetKind::count) {
        lines << QStringLiteral("%1 %2").arg(html::mark(cell->verdict, c), q(cell->verdict.sentence()).toHtmlEscaped());
        if (!cell->cause.empty())
            lines << tr("<i>Likely:</i> %1").arg(q(cell->cause).toHtmlEscaped());
        if (!cell->next.empty())
            lines << tr("<b>Now:</b> %1").arg(q(cell->next).toHtmlEscaped());
    } else if (!line->why.empty()) {
        lines << q(line->why).toHtmlEscaped();
    }
    verdict_->setText(lines.join(QStringLiteral("<br>")));
    QStringList found;
    found << QStringLiteral("<span style='color:%1'><b>%2</b></span>").arg(c.amber.name(), tr("On the whole sheet"));
    for (const auto& f : sheet.findings)
        if (found.size() < 5)
            found << QStringLiteral("%1 %2%3 <b>%4</b>")
                         .arg(html::mark(f.verdict, c),
                              f.engine.empty() ? QString()
                                               : QStringLiteral("<b>%1</b>: ").arg(q(f.engine).toHtmlEscaped()),
                              q(f.verdict.sentence()).toHtmlEscaped(), q(f.next).toHtmlEscaped());
    if (sheet.findings.empty())
        found << (sheet.read == 0 ? tr("Nothing read yet. Type a reading in its place.")
                                  : tr("%1 All readings are within limits.").arg(html::mark({}, c)));
    found << tr("%1 of %2 read.").arg(sheet.read).arg(sheet.cells);
    if (sheet.highPowerMost)
        found << tr("%1 At high power: %2 s each engine by the sheet, limit on the ground %3 s.")
                     .arg(html::mark(sheet.highPowerVerdict({}), c))
                     .arg(std::lround(sheet.highPower))
                     .arg(std::lround(*sheet.highPowerMost));
    if (sheet.findings.size() < 3) // they matter more
        found << tr(
            "<i>Type the reading; of a magneto the fall, and slow or rough: \"80 slow\", \"stops\". Delete takes it "
            "out. What is out of the ordinary is for the engineer to judge.</i>");
    findings_->setText(found.join(QStringLiteral("<br>")));
}

void RunUpPage::take(const QString& key, const QString& text, int row) {
    const auto* line = model_->line(row);
    if (!line)
        return;
    Sortie changed = document_.sortie();
    const std::string typed = text.trimmed().toStdString();
    if (typed.empty()) {
        changed.runUpFound.erase(key.toStdString());
    } else {
        if (const auto why = watch::sheetRefusal(*line, typed); !why.empty()) {
            emit refused(q(line->what + ": " + why));
            return;
        }
        changed.runUpFound[key.toStdString()] = watch::sheetKept(*line, typed);
    }
    if (const QString error = document_.edit(changed, tr("run-up reading")); !error.isEmpty()) {
        emit refused(error);
        return;
    }
    // On to the next line of the same engine.
    const auto index = table_->currentIndex();
    if (!typed.empty() && index.row() == row)
        for (int r = row + 1; r < model_->rowCount(); ++r)
            if (const auto next = model_->index(r, index.column());
                model_->cell(next) && model_->line(r)->kind != watch::SheetKind::computed) {
                next_ = next; // when the editor has closed: not from within its own commit
                break;
            }
}

} // namespace amber::app
