// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/write_up_view.h"
#include "kit/captioned.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "log/write_up_words.h"
#include <QAbstractItemView>
#include <QEvent>
#include <QHBoxLayout>
#include <QPainter>
#include <QSignalBlocker>
#include <QStyledItemDelegate>
#include <QTextDocument>
#include <QVBoxLayout>

namespace amber::app {
namespace {
constexpr int paragraphGap = 7, inset = 6, leastList = 28; // px
constexpr int htmlRole = Qt::UserRole + 1;

/// A paragraph of rich text a line, the chosen one in its frame.
class ParagraphDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Colours c(option.widget ? option.widget->window()->palette() : option.palette);
        p->save();
        const QRect r = option.rect;
        rowGround(*p, option);
        p->translate(r.left() + inset + 4, r.top() + paragraphGap / 2.0);
        QTextDocument text;
        lay(text, index, r.width(), c);
        text.drawContents(p);
        p->restore();
    }
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto* view = qobject_cast<const QAbstractItemView*>(option.widget);
        const int width = view ? view->viewport()->width() : option.rect.width();
        QTextDocument text;
        lay(text, index, width, Colours(option.palette));
        return {width, static_cast<int>(text.size().height()) + paragraphGap};
    }

private:
    static void lay(QTextDocument& text, const QModelIndex& index, int width, const Colours& c) {
        text.setDocumentMargin(0);
        text.setDefaultFont(face(14));
        text.setTextWidth(width - 2 * inset - 4);
        text.setHtml(
            QStringLiteral("<span style='color:%1'>%2</span>").arg(c.ink.name(), index.data(htmlRole).toString()));
    }
};
} // namespace

WriteUpView::WriteUpView(Book& book, QWidget* parent) : QWidget(parent), book_(book) {
    setObjectName(QStringLiteral("write-up"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(5);
    column->addWidget(heading(tr("For the engineer"), this));
    none_ = new QLabel(tr("Nothing stands out of normal in what was read, and nothing holds the aircraft."), this);
    none_->setObjectName(QStringLiteral("write-up-none"));
    none_->setFont(face(14));
    none_->setWordWrap(true);
    none_->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Ignored);
    none_->setMinimumHeight(leastList);
    none_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(none_, 1);
    list_ = new QListView(this);
    list_->setObjectName(QStringLiteral("write-up-list"));
    list_->setAccessibleName(tr("What an engineer should know of"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->viewport()->setAutoFillBackground(false);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setResizeMode(QListView::Adjust);
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setItemDelegate(new ParagraphDelegate(list_));
    list_->setMinimumHeight(leastList);
    model_ = new QStandardItemModel(this);
    list_->setModel(model_);
    column->addWidget(list_, 1);
    form_ = new QWidget(this);
    auto* row = new QHBoxLayout(form_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(10);
    found_ = typedLine(*row, "answer-found", tr("F&ound"), tr("what it was"), form_);
    done_ = typedLine(*row, "answer-done", tr("Do&ne"), tr("what was done"), form_);
    by_ = typedLine(*row, "answer-by", tr("Si&gned"), tr("engineer, licence"), form_);
    for (int i = 0; i < row->count(); ++i)
        row->setStretch(i, 1);
    answer_ = new QPushButton(tr("&Answer"), form_);
    answer_->setObjectName(QStringLiteral("answer-keep"));
    answer_->setFont(face(14));
    answer_->setToolTip(tr("Keeps the engineer's answer to the chosen line. What the law wants signed is signed in the "
                           "papers it asks for"));
    row->addWidget(answer_, 0, Qt::AlignBottom);
    sheet_ = new QPushButton(tr("As &PDF…"), form_);
    sheet_->setObjectName(QStringLiteral("write-up-pdf"));
    sheet_->setFont(face(14));
    sheet_->setToolTip(tr("The engineer's sheet: what was found, with room to answer"));
    row->addWidget(sheet_, 0, Qt::AlignBottom);
    column->addWidget(form_);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &WriteUpView::showForm);
    connect(answer_, &QPushButton::clicked, this, &WriteUpView::takeAnswer);
    connect(by_, &QLineEdit::returnPressed, this, &WriteUpView::takeAnswer);
    connect(sheet_, &QPushButton::clicked, this, &WriteUpView::sheetWanted);
}

void WriteUpView::refresh() {
    lines_.clear();
    if (book_.run())
        for (const auto& line : book_.writeUp().lines)
            lines_.push_back({*book_.run(), line});
    for (const auto& held : book_.holding())
        if (!book_.run() || held.run.id != book_.run()->id)
            lines_.push_back(held);
    const Colours c(this);
    const int at = std::max(0, list_->currentIndex().row());
    {
        const QSignalBlocker quiet(list_->selectionModel());
        model_->clear();
        for (const auto& l : lines_) {
            auto* item = new QStandardItem;
            const QString html = writtenUp(l.line, book_.notes(), c, !book_.run() || l.run.id != book_.run()->id);
            item->setData(html, htmlRole);
            QTextDocument plain;
            plain.setHtml(html);
            item->setText(plain.toPlainText());
            model_->appendRow(item);
        }
    }
    list_->setVisible(!lines_.empty());
    none_->setVisible(lines_.empty());
    if (!lines_.empty())
        list_->setCurrentIndex(model_->index(std::min(at, static_cast<int>(lines_.size()) - 1), 0));
    showForm();
}

QString WriteUpView::shown(int row) const {
    return model_->item(row)->text();
}

void WriteUpView::showForm() {
    const bool any = list_->currentIndex().isValid() && !lines_.empty();
    for (QWidget* w : {static_cast<QWidget*>(found_), static_cast<QWidget*>(done_), static_cast<QWidget*>(by_),
                       static_cast<QWidget*>(answer_)})
        w->setEnabled(any);
}

void WriteUpView::takeAnswer() {
    const int row = list_->currentIndex().row();
    if (row < 0 || row >= static_cast<int>(lines_.size()))
        return;
    const auto words = [](const QLineEdit* edit) { return edit->text().trimmed().toStdString(); };
    const auto line = lines_[static_cast<std::size_t>(row)];
    if (const QString why = book_.answer(line, {words(found_), words(done_), words(by_), 0}); !why.isEmpty()) {
        emit refused(why);
        return;
    }
    found_->clear();
    done_->clear();
    list_->setFocus(Qt::OtherFocusReason);
}

void WriteUpView::changeEvent(QEvent* event) {
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange && book_.isOpen())
        refresh();
}

} // namespace amber::app
