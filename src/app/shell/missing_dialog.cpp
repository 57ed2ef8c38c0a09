// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/missing_dialog.h"
#include "files/document.h"
#include "flight/open_files.h"
#include "kit/captioned.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QDialogButtonBox>
#include <QPainter>
#include <QPushButton>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int rowHeight = 46, barWidth = 150, edge = 8; // px
constexpr double fullBar = 4.0;                         // weight at which a bar is full
enum MissingRole { movesRole = Qt::UserRole + 1, estimateRole, weightRole };

/// Key and estimate; beside them what it moves and how much that is against what a pilot would act on.
class MissingDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Colours c(option.widget ? option.widget->window()->palette() : option.palette);
        const QRect r = option.rect;
        p->save();
        rowGround(*p, option);
        const int middle = r.left() + (r.width() - barWidth) * 52 / 100;
        const QRect left(r.left() + edge + 4, r.top() + 5, middle - r.left() - 2 * edge, r.height() - 9);
        const QRect right(middle, left.top(), r.right() - barWidth - 2 * edge - middle, left.height());
        const auto line = [&](const QRect& box, Qt::Alignment at, const QString& text) {
            p->drawText(box, at | Qt::AlignLeft, p->fontMetrics().elidedText(text, Qt::ElideRight, box.width()));
        };
        p->setFont(face(14, true));
        p->setPen(c.ink);
        line(left, Qt::AlignTop, index.data(nameRole).toString());
        p->setFont(face(14));
        line(right, Qt::AlignTop, index.data(movesRole).toString());
        p->setFont(face(13));
        p->setPen(c.faint);
        line(QRect(left.topLeft(), right.bottomRight()), Qt::AlignBottom, index.data(estimateRole).toString());
        const QRectF bar(r.right() - barWidth - edge, r.center().y() - 4, barWidth, 8);
        p->fillRect(bar, c.grid);
        QRectF filled = bar;
        filled.setWidth(bar.width() * std::min(1.0, index.data(weightRole).toDouble() / fullBar));
        p->fillRect(filled, c.amber);
        p->setPen(QPen(c.ink, 1)); // where a pilot would act on it
        p->drawLine(QPointF(bar.left() + bar.width() / fullBar, bar.top() - 3),
                    QPointF(bar.left() + bar.width() / fullBar, bar.bottom() + 3));
        p->restore();
    }
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {400, rowHeight};
    }
    static constexpr int nameRole = Qt::UserRole + 20;
};

/// "[warming] taxi": as it is written in the notes.
QString keyOf(const std::string& path) {
    if (path == booklet::fuelPath)
        return QObject::tr("[[rating]] a fuel flow in one line");
    const auto dot = path.rfind('.');
    return dot == std::string::npos ? q(path)
                                    : QStringLiteral("[%1] %2").arg(q(path.substr(0, dot)), q(path.substr(dot + 1)));
}
} // namespace

MissingDialog::MissingDialog(const SortieDocument& document, QWidget* parent) : QDialog(parent) {
    setObjectName(QStringLiteral("missing"));
    setWindowTitle(tr("Figures missing in the notes"));
    resize(900, 560);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 16, 20, 16);
    column->setSpacing(10);
    about_ = new QLabel(
        tr("Figures that the notes of the %1 do not give, worth most first: this sortie is flown with each at "
           "either end of its plausible range.")
            .arg(q(document.aircraft().notes.name)),
        this);
    about_->setFont(face(14));
    about_->setTextFormat(Qt::PlainText);
    about_->setWordWrap(true);
    column->addWidget(about_);
    progress_ = new QProgressBar(this);
    progress_->setObjectName(QStringLiteral("missing-progress"));
    progress_->setFormat(tr("Flying the sortie with each: %v of %m"));
    column->addWidget(progress_);
    auto* scale = new QLabel(tr("the mark: %1").arg(q(booklet::markOfWeight(document.aircraft().notes.cockpit))), this);
    scale->setFont(captionFace());
    scale->setForegroundRole(QPalette::PlaceholderText);
    scale->setAlignment(Qt::AlignRight);
    column->addWidget(scale);
    model_ = new QStandardItemModel;
    list_ = readList("missing-list", tr("Figures to look for"), new MissingDelegate, model_, this);
    column->addWidget(list_, 1);
    rest_ = new QLabel(this);
    rest_->setFont(face(13));
    rest_->setForegroundRole(QPalette::PlaceholderText);
    rest_->setWordWrap(true);
    column->addWidget(rest_);
    auto* buttons = new QDialogButtonBox(this);
    buttons->addButton(tr("&Close"), QDialogButtonBox::AcceptRole)->setFont(face(14));
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    column->addWidget(buttons);

    const Sortie sortie = document.sortie();
    const std::string notes = flight::notesPathOf(sortie, document.path().toStdString());
    Problems problems;
    auto text = document::readFile(notes, problems);
    if (!text) {
        progress_->hide();
        rest_->setText(problems.empty() ? tr("The notes cannot be read.") : q(problems.front().text()));
        done_ = true;
        return;
    }
    flies_ = std::thread([this, sortie, notes, words = std::move(*text), notesOf = document.sharedAircraft()] {
        const auto all = booklet::missing(words, notes, sortie.airframe.variant, sortie, [this](int done, int of) {
            QMetaObject::invokeMethod(this, [this, done, of] {
                progress_->setRange(0, of);
                progress_->setValue(done);
            });
            return !stop_;
        });
        QMetaObject::invokeMethod(this, [this, all, cockpit = notesOf->notes.cockpit] { fill(all, cockpit); });
    });
}

MissingDialog::~MissingDialog() {
    stop_ = true;
    if (flies_.joinable())
        flies_.join();
}

void MissingDialog::fill(const std::vector<booklet::Missing>& all, const Cockpit& cockpit) {
    done_ = true;
    progress_->hide();
    for (const auto& m : all) {
        if (!m.counts())
            continue;
        const QString moves = q(m.moves.words(cockpit));
        auto* item = new QStandardItem;
        const QString key = keyOf(m.path), estimate = tr("%1: %2 (%3); flown with %4 and %5")
                                                          .arg(q(std::string(markOf(Origin::ours))), q(m.text),
                                                               q(m.why), q(m.low), q(m.high));
        item->setData(key, MissingDelegate::nameRole);
        item->setData(moves, movesRole);
        item->setData(estimate, estimateRole);
        item->setData(m.moves.weight(), weightRole);
        item->setText(QStringLiteral("%1: %2. %3").arg(key, moves, estimate)); // read aloud
        item->setToolTip(q(m.why));
        model_->appendRow(item);
    }
    rest_->setText(all.empty() ? tr("The notes give every figure: nothing is estimated.") : q(booklet::restOf(all)));
    if (model_->rowCount())
        list_->setCurrentIndex(model_->index(0, 0));
}

} // namespace amber::app
