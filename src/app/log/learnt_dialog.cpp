// SPDX-License-Identifier: GPL-3.0-or-later
#include "log/learnt_dialog.h"
#include "kit/captioned.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "notes/gauge_register.h"
#include <QDate>
#include <QHBoxLayout>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr int lessonHeight = 46, lessonPicture = 190, lessonEdge = 8; // px
enum LessonRole { stateRole = Qt::UserRole + 1, lowRole, foundRole, highRole, offeredRole };

/// Where a line lies between as far less and as far more as the picture shows, −1 … 1: 20 K, 1 bar, half of the dose, a
/// fifth of the fuel.
double placeOf(const record::Lesson& lesson, double value) {
    const auto gauge = gaugeFromKey(lesson.line.what);
    const double at = !gauge ? (value - 1.0) / (lesson.line.what == "fuel" ? 0.2 : 0.5)
                      : nameOf(*gauge).dimension == Dimension::pressure ? value / 1e5
                                                                        : value / 20.0;
    return std::clamp(at, -1.0, 1.0);
}

/// A sentence and what stands to it; beside them the interval about nothing.
class LessonDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Colours c(option.widget ? option.widget->window()->palette() : option.palette);
        const QRect r = option.rect;
        p->save();
        rowGround(*p, option);
        const bool offered = index.data(offeredRole).toBool();
        const QRect words = r.adjusted(lessonEdge + 4, 5, -lessonPicture - 2 * lessonEdge, -4);
        p->setFont(face(14, offered));
        p->setPen(offered ? c.ink : c.faint);
        p->drawText(words, Qt::AlignTop | Qt::AlignLeft,
                    p->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, words.width()));
        p->setFont(face(13));
        p->setPen(c.faint);
        p->drawText(words, Qt::AlignBottom | Qt::AlignLeft,
                    p->fontMetrics().elidedText(index.data(stateRole).toString(), Qt::ElideRight, words.width()));
        const auto low = index.data(lowRole);
        if (low.isValid()) {
            const QRectF box(r.right() - lessonPicture - lessonEdge, r.top() + 6, lessonPicture, r.height() - 12);
            const auto x = [&](double at) { return box.center().x() + at * box.width() / 2.0; };
            p->setRenderHint(QPainter::Antialiasing);
            p->setPen(QPen(c.rule, 1));
            p->drawLine(QPointF(box.center().x(), box.top()), QPointF(box.center().x(), box.bottom()));
            p->setPen(QPen(c.grid, 1));
            p->drawLine(QPointF(box.left(), box.center().y()), QPointF(box.right(), box.center().y()));
            p->setPen(QPen(offered ? c.amber : c.faint, 5, Qt::SolidLine, Qt::FlatCap));
            p->drawLine(
                QPointF(x(low.toDouble()), box.center().y()),
                QPointF(std::max(x(low.toDouble()) + 1.0, x(index.data(highRole).toDouble())), box.center().y()));
            p->setPen(Qt::NoPen);
            p->setBrush(c.ink);
            p->drawEllipse(QPointF(x(index.data(foundRole).toDouble()), box.center().y()), 4.0, 4.0);
        }
        p->restore();
    }
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {400, lessonHeight};
    }
};

QString standingOf(const record::Lesson& lesson, const LearntLine* said) {
    if (said && said->accepted)
        return said->model == lesson.line.model
                   ? QObject::tr("Planned with since %1.").arg(q(said->answered))
                   : QObject::tr("Accepted %1 against other models: not planned with until it is accepted anew.")
                         .arg(q(said->answered));
    if (said)
        return QObject::tr("Refused %1.").arg(q(said->answered));
    if (!lesson.planned)
        return lesson.notOffered.empty() ? QObject::tr("Told only: no plan reckons with it.") : q(lesson.notOffered);
    return lesson.offered() ? QObject::tr("Offered.") : q(lesson.notOffered);
}
} // namespace

LearntDialog::LearntDialog(SortieDocument& document, Teaching teaching, const QString& who, QWidget* parent)
    : QDialog(parent), document_(document), teaching_(std::move(teaching)) {
    setObjectName(QStringLiteral("learnt"));
    setWindowTitle(tr("What the log teaches of %1").arg(q(document.sortie().airframe.registration)));
    resize(860, 560);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(20, 16, 20, 16);
    column->setSpacing(10);
    auto* about = new QLabel(tr("By how much needles, primer and fuel differ from the notes and the model, run after "
                                "run: later runs count more, few runs little. What you accept is planned with, marked "
                                "logged. It loosens no limit, takes no colour away and never doses into flooding."),
                             this);
    about->setFont(face(14));
    about->setWordWrap(true);
    column->addWidget(about);
    progress_ = new QProgressBar(this);
    progress_->setObjectName(QStringLiteral("learnt-progress"));
    progress_->setRange(0, static_cast<int>(std::max<std::size_t>(1, teaching_.of())));
    progress_->setFormat(tr("Planning each run anew by the models of today: %v of %m"));
    column->addWidget(progress_);
    none_ = new QLabel(
        tr("Nothing was read yet that tells of it: needles in the air, strokes of the primer, fuel filled up."), this);
    none_->setFont(face(14));
    none_->hide();
    column->addWidget(none_, 1, Qt::AlignTop);
    auto* scale = new QLabel(tr("less  ·  as the notes and the model say  ·  more"), this);
    scale->setFont(captionFace());
    scale->setForegroundRole(QPalette::PlaceholderText);
    scale->setAlignment(Qt::AlignRight);
    column->addWidget(scale);
    model_ = new QStandardItemModel;
    list_ = readList("learnt-list", tr("What the log teaches"), new LessonDelegate, model_, this);
    column->addWidget(list_, 1);
    today_ = new QLabel(this);
    today_->setObjectName(QStringLiteral("learnt-today"));
    today_->setFont(face(14, true));
    today_->setWordWrap(true);
    column->addWidget(today_);
    said_ = new QLabel(this);
    said_->setObjectName(QStringLiteral("learnt-said"));
    said_->setFont(face(13));
    said_->setWordWrap(true);
    column->addWidget(said_);
    auto* row = new QHBoxLayout;
    row->setSpacing(10);
    who_ = typedLine(*row, "learnt-who", tr("&By"), tr("who answers"), this);
    who_->setText(who);
    who_->setFixedWidth(180);
    row->addStretch(1);
    const auto button = [&](const char* name, const QString& text) {
        auto* out = new QPushButton(text, this);
        out->setObjectName(QLatin1String(name));
        out->setFont(face(14));
        out->setAutoDefault(false);
        row->addWidget(out, 0, Qt::AlignBottom);
        return out;
    };
    accept_ = button("learnt-accept", tr("&Accept: plan with it"));
    refuse_ = button("learnt-refuse", tr("&Refuse"));
    auto* close = button("learnt-close", tr("&Close"));
    column->addLayout(row);
    connect(accept_, &QPushButton::clicked, this, [this] { answer(true); });
    connect(refuse_, &QPushButton::clicked, this, [this] { answer(false); });
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this, &LearntDialog::showChosen);
    connect(&timer_, &QTimer::timeout, this, &LearntDialog::planNext);
    accept_->setEnabled(false);
    refuse_->setEnabled(false);
    timer_.start(0);
}

void LearntDialog::planNext() {
    const bool more = teaching_.next();
    progress_->setValue(static_cast<int>(teaching_.done()));
    if (more)
        return;
    timer_.stop();
    progress_->hide();
    lessons_ = teaching_.lessons();
    std::erase_if(lessons_, [](const record::Lesson& l) { return l.line.runs == 0; });
    // What is offered and what is planned with first.
    std::stable_sort(lessons_.begin(), lessons_.end(),
                     [](const record::Lesson& a, const record::Lesson& b) { return a.offered() && !b.offered(); });
    done_ = true;
    fill();
    list_->setFocus(Qt::OtherFocusReason);
}

void LearntDialog::fill() {
    const int at = std::max(0, list_->currentIndex().row());
    const auto lines = teaching_.lines();
    model_->clear();
    for (const auto& lesson : lessons_) {
        auto* item = new QStandardItem(q(lesson.words));
        item->setData(standingOf(lesson, record::answerTo(lines, lesson)), stateRole);
        item->setData(lesson.offered(), offeredRole);
        if (lesson.planned && lesson.line.runs > 0) {
            item->setData(placeOf(lesson, lesson.low), lowRole);
            item->setData(placeOf(lesson, lesson.line.value), foundRole);
            item->setData(placeOf(lesson, lesson.high), highRole);
        }
        model_->appendRow(item);
    }
    const bool any = !lessons_.empty();
    none_->setVisible(!any);
    list_->setVisible(any);
    if (any && model_->rowCount() > 0)
        list_->setCurrentIndex(model_->index(std::min(at, model_->rowCount() - 1), 0));
    showChosen();
}

void LearntDialog::showChosen() {
    const int row = list_->currentIndex().row();
    const bool any = row >= 0 && row < static_cast<int>(lessons_.size());
    const auto* lesson = any ? &lessons_[static_cast<std::size_t>(row)] : nullptr;
    const auto lines = teaching_.lines();
    const auto* said = lesson ? record::answerTo(lines, *lesson) : nullptr;
    accept_->setEnabled(lesson && lesson->offered());
    refuse_->setEnabled(lesson && lesson->planned && (lesson->offered() || (said && said->accepted)));
    QString today;
    if (lesson && lesson->planned && (lesson->offered() || said)) {
        const auto changes = record::beforeAndAfter(*lesson, document_.sharedAircraft(), document_.sortie());
        today =
            changes.empty() ? tr("Today it would change nothing that can be read.") : tr("Today: %1.").arg(q(changes));
    }
    today_->setText(today);
}

void LearntDialog::answer(bool accepts) {
    const int row = list_->currentIndex().row();
    if (row < 0 || row >= static_cast<int>(lessons_.size()))
        return;
    QString why = teaching_.answer(lessons_[static_cast<std::size_t>(row)], accepts,
                                   QDate::currentDate().toString(Qt::ISODate), who_->text());
    if (why.isEmpty())
        why = document_.rereadAirframe();
    said_->setForegroundRole(QPalette::WindowText);
    said_->setText(why.isEmpty() ? tr("Kept in %1.").arg(q(teaching_.file())) : why);
    fill();
    list_->setFocus(Qt::OtherFocusReason);
}

} // namespace amber::app
