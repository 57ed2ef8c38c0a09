// SPDX-License-Identifier: GPL-3.0-or-later
#include "kit/row_view.h"
#include "kit/needle_bar.h"
#include "kit/prompt_delegate.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <array>
#include <cmath>
#include <utility>

namespace amber::app {
namespace {
using plan::ClockLine;
using plan::ExpectLine;
using plan::SetLine;

QString mark(Origin origin) {
    return origin == Origin::between ? QStringLiteral("between") : QString::fromUtf8(markOf(origin).data());
}

constexpr int rowPadding = 4;
constexpr int setWhatLeft = 23, setValueLeft = 128, setMarkWidth = 54;
constexpr int expectHeight = 28, clockHeight = 24;
constexpr int candidateHeight = 42, candidateHeadHeight = 22;
constexpr int walkLeft = 24, walkFoundWidth = 132;
constexpr int sequenceTimeWidth = 38, sequenceEngineWidth = 70;

/// Small print under a setting: when, a reversed lever's sense.
QString smallPrint(const SetLine& s) {
    QStringList parts;
    if (!s.at.empty())
        parts << QObject::tr("at: %1").arg(q(s.at));
    if (s.reversed)
        parts << q(s.sense);
    return parts.join(QStringLiteral(" · "));
}
/// The school in force; a diamond when another may be taken.
QString schoolPrint(const SetLine& s) {
    if (s.school < 0)
        return {};
    return (s.open ? QStringLiteral("◇ ") : QString()) + q(s.schools[static_cast<std::size_t>(s.school)].name);
}

class RowDelegate : public PromptDelegate {
public:
    using PromptDelegate::PromptDelegate;

    static const Row& rowOf(const QModelIndex& index) {
        return static_cast<const RowModel*>(index.model())->row(index.row());
    }

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Row& row = rowOf(index);
        const int width = static_cast<const QListView*>(option.widget)->viewport()->width();
        if (const auto* s = std::get_if<SetLine>(&row)) {
            int height = 2 * rowPadding + valueRect(*s, width).height();
            if (const QString small = below(*s, width); !small.isEmpty())
                height += smallRect(small, width).height() + 1;
            return {width, height};
        }
        if (const auto* f = std::get_if<watch::WalkFinding>(&row))
            return {width, 2 * rowPadding + 19 + wantRect(*f, width).height()};
        if (const auto* k = std::get_if<CandidateRow>(&row))
            return {width, k->heading ? candidateHeadHeight : candidateHeight};
        if (const auto* s = std::get_if<SequenceRow>(&row))
            return {width, 4 + sequenceRect(*s, width).height()};
        return {width, std::holds_alternative<ExpectLine>(row) ? expectHeight : clockHeight};
    }

    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex& index) const override {
        auto* editor = new QLineEdit(parent);
        editor->setObjectName(QStringLiteral("finding"));
        editor->setFont(face(14));
        const auto* f = std::get_if<watch::WalkFinding>(&rowOf(index));
        if (f && f->item.kind == WalkItemKind::look)
            editor->setPlaceholderText(QObject::tr("what is wrong with it"));
        return editor;
    }
    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex& index) const override {
        const auto* f = std::get_if<watch::WalkFinding>(&rowOf(index));
        const bool look = f && f->item.kind == WalkItemKind::look;
        const int left = look ? option.rect.left() + walkLeft : option.rect.right() - walkFoundWidth;
        editor->setGeometry(left, option.rect.top() + 1, option.rect.right() - left, 25);
    }
    void setEditorData(QWidget* editor, const QModelIndex& index) const override {
        if (const auto* f = std::get_if<watch::WalkFinding>(&rowOf(index)))
            static_cast<QLineEdit*>(editor)->setText(f->found == watch::inOrder ? QString() : q(f->found));
    }
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
        model->setData(index, static_cast<QLineEdit*>(editor)->text().trimmed(), Qt::EditRole);
    }

    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Row& row = rowOf(index);
        const Colours c(option.palette);
        const QRect r = option.rect;
        const bool focus = static_cast<const QWidget*>(option.widget)->hasFocus();
        p->save();
        if (option.state & QStyle::State_Selected && focus) {
            p->fillRect(r, c.amberWash);
            p->fillRect(QRect(r.left(), r.top(), 3, r.height()), c.amber);
        }
        if (const auto* s = std::get_if<SetLine>(&row))
            paintSet(*p, r, c, *s, index.row() + 1, option.state & QStyle::State_Selected);
        else if (const auto* e = std::get_if<ExpectLine>(&row))
            paintExpect(*p, r, c, *e, valueWidthOf(*static_cast<const RowModel*>(index.model())));
        else if (const auto* f = std::get_if<watch::WalkFinding>(&row))
            paintFinding(*p, r, c, *f);
        else if (const auto* line = std::get_if<SequenceRow>(&row))
            paintSequence(*p, r, c, *line);
        else if (const auto* k = std::get_if<CandidateRow>(&row))
            paintCandidate(*p, r, c, *k);
        else
            paintClock(*p, r, c, std::get<ClockLine>(row), markWidthOf(*static_cast<const RowModel*>(index.model())));
        p->setPen(QPen(c.rule, 1));
        p->drawLine(r.left(), r.bottom(), r.right(), r.bottom());
        p->restore();
    }

    static bool namesFit(const RowModel& model, int row, int width) {
        const Row& any = model.row(row);
        if (const auto* k = std::get_if<ClockLine>(&any))
            return clockFaces(*k, width, markWidthOf(model)).fit(*k);
        if (const auto* e = std::get_if<ExpectLine>(&any))
            return QFontMetrics(face(14)).horizontalAdvance(q(e->title)) +
                       (e->verdict.colour() != watch::Colour::normal ? 18 : 2) <=
                   width - expectMarkWidth - valueWidthOf(model) - 8;
        if (const auto* k = std::get_if<CandidateRow>(&any)) {
            const auto texts = columnsOf(*k);
            for (std::size_t i = 0; i < texts.size(); ++i)
                if (QFontMetrics(k->heading ? face(12) : face(13, i < 2)).horizontalAdvance(q(*texts[i])) >
                    candidateWidths[i] * (width - 18) - 4)
                    return false;
        }
        return true;
    }

private:
    static QRect valueRect(const SetLine& s, int width) {
        const QFontMetrics metrics(face(15, true));
        return metrics.boundingRect(QRect(0, 0, std::max(60, width - setValueLeft - setMarkWidth - 6), 1000),
                                    Qt::TextWordWrap, q(s.value));
    }
    static QRect smallRect(const QString& text, int width) {
        return QFontMetrics(face(12)).boundingRect(QRect(0, 0, std::max(60, width - setWhatLeft - 8), 1000),
                                                   Qt::TextWordWrap, text);
    }

    /// Pixels left on the setting's own line.
    static int roomBeside(const SetLine& s, int width) {
        if (valueRect(s, width).height() > QFontMetrics(face(15, true)).height() * 3 / 2)
            return 0;
        const int used = QFontMetrics(face(15, true)).horizontalAdvance(q(s.value)) + 12;
        return width - setValueLeft - setMarkWidth - 8 - used;
    }
    static bool schoolBeside(const SetLine& s, int width) {
        return QFontMetrics(face(12)).horizontalAdvance(schoolPrint(s)) <= roomBeside(s, width);
    }
    /// What stands on a line of its own.
    static QString below(const SetLine& s, int width) {
        const QString small = smallPrint(s);
        // One the notes leave no choice about stands in the reasons only, where there is no room.
        if (s.school < 0 || !s.open || schoolBeside(s, width))
            return small;
        return small.isEmpty() ? schoolPrint(s) : small + QStringLiteral(" · ") + schoolPrint(s);
    }

    static void paintSet(QPainter& p, const QRect& r, const Colours& c, const SetLine& s, int number, bool) {
        const int top = r.top() + rowPadding;
        const QRect value = valueRect(s, r.width());
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(r.left(), top, setWhatLeft - 5, 19), Qt::AlignRight | Qt::AlignVCenter,
                   QString::number(number));
        // A long name is set smaller rather than cut.
        const int whatWidth = setValueLeft - setWhatLeft - 4;
        const QFont whatFace = QFontMetrics(face(14)).horizontalAdvance(q(s.what)) <= whatWidth ? face(14) : face(12);
        p.setFont(whatFace);
        p.setPen(c.ink);
        p.drawText(QRect(r.left() + setWhatLeft, top, whatWidth, 19), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(whatFace).elidedText(q(s.what), Qt::ElideRight, whatWidth));
        p.setFont(face(15, true));
        p.drawText(QRect(r.left() + setValueLeft, top, r.width() - setValueLeft - setMarkWidth - 6, value.height() + 2),
                   Qt::TextWordWrap, q(s.value));
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(r.right() - setMarkWidth - 2, top, setMarkWidth, 19), Qt::AlignRight | Qt::AlignVCenter,
                   mark(s.origin));
        // The school, else the lever's sense, stands beside the setting where there is room.
        const int room = roomBeside(s, r.width());
        const auto beside = [&](const QString& text, const QColor& colour) {
            p.setPen(colour);
            p.drawText(QRect(r.left() + r.width() - setMarkWidth - 8 - room, top, room, 19),
                       Qt::AlignLeft | Qt::AlignVCenter, text);
        };
        if (s.school >= 0 && schoolBeside(s, r.width()))
            beside(schoolPrint(s), s.open ? c.amber : c.faint);
        else if (s.school < 0 && !s.sense.empty() && !s.reversed &&
                 QFontMetrics(face(12)).horizontalAdvance(q(s.sense)) <= room)
            beside(q(s.sense), c.faint);
        if (const QString small = below(s, r.width()); !small.isEmpty()) {
            const int y = top + value.height() + 1;
            if (s.reversed) {
                drawColourMark(p, QPointF(r.left() + 8, y + 8), watch::Colour::amber, c, 3.6);
                p.setPen(c.amber);
            } else {
                p.setPen(s.open && s.school >= 0 ? c.amber : c.faint);
            }
            p.drawText(QRect(r.left() + setWhatLeft, y, r.width() - setWhatLeft - 8, r.bottom() - y), Qt::TextWordWrap,
                       small);
        }
    }

    static QRect wantRect(const watch::WalkFinding& f, int width) {
        return QFontMetrics(face(12)).boundingRect(QRect(0, 0, std::max(60, width - walkLeft - 8), 1000),
                                                   Qt::TextWordWrap, q(f.want));
    }
    static QRect sequenceRect(const SequenceRow& s, int width) {
        const int left = sequenceTimeWidth + sequenceEngineWidth;
        return QFontMetrics(face(13)).boundingRect(QRect(0, 0, std::max(60, width - left - 6), 1000), Qt::TextWordWrap,
                                                   q(s.text));
    }

    /// What to look at or read, how it should be, how it was found.
    static void paintFinding(QPainter& p, const QRect& r, const Colours& c, const watch::WalkFinding& f) {
        const int top = r.top() + rowPadding;
        const QPointF state(r.left() + 10, top + 10);
        if (f.found.empty()) {
            p.save();
            p.setRenderHint(QPainter::Antialiasing);
            p.setPen(QPen(c.faint, 1.2));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(state, 4.4, 4.4);
            p.restore();
        } else {
            drawColourMark(p, state, f.verdict.colour(), c, 4.4);
        }
        const QString found = f.found == watch::inOrder ? QObject::tr("serviceable") : q(f.found);
        const bool wrong = f.verdict.colour() != watch::Colour::normal;
        const QFont foundFace = face(14, true);
        const int foundWidth = std::min(QFontMetrics(foundFace).horizontalAdvance(found) + 4, r.width() / 2);
        p.setFont(face(14));
        p.setPen(c.ink);
        const int room = r.width() - walkLeft - foundWidth - 8;
        p.drawText(QRect(r.left() + walkLeft, top, room, 19), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(face(14)).elidedText(q(f.what), Qt::ElideRight, room));
        p.setFont(foundFace);
        p.setPen(wrong ? c.of(f.verdict.colour()) : c.ink);
        p.drawText(QRect(r.right() - foundWidth - 4, top, foundWidth, 19), Qt::AlignRight | Qt::AlignVCenter,
                   QFontMetrics(foundFace).elidedText(found, Qt::ElideRight, foundWidth));
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(r.left() + walkLeft, top + 19, r.width() - walkLeft - 8, r.bottom() - top - 19),
                   Qt::TextWordWrap, q(f.want));
    }

    static void paintSequence(QPainter& p, const QRect& r, const Colours& c, const SequenceRow& s) {
        const int top = r.top() + 1;
        int left = r.left() + 2;
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(left, top, sequenceTimeWidth - 4, 17), Qt::AlignLeft | Qt::AlignVCenter,
                   q(formatMinutesSeconds(s.time)));
        left += sequenceTimeWidth;
        p.setFont(face(13));
        p.drawText(QRect(left, top, sequenceEngineWidth - 4, 17), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(face(13)).elidedText(q(s.engine), Qt::ElideRight, sequenceEngineWidth - 4));
        left += sequenceEngineWidth;
        p.setPen(c.ink);
        p.drawText(QRect(left, top, r.right() - left - 4, r.bottom() - top), Qt::TextWordWrap, q(s.text));
    }

    static constexpr int expectMarkWidth = 50;
    /// Columns: rpm, boost, gear, mixture, power, burn, speed, hours.
    static constexpr std::array candidateWidths{0.135, 0.135, 0.115, 0.09, 0.135, 0.165, 0.125, 0.10};
    static std::array<const std::string*, candidateWidths.size()> columnsOf(const CandidateRow& k) {
        return {&k.rpm, &k.boost, &k.gear, &k.mixture, &k.power, &k.burn, &k.speed, &k.endurance};
    }
    /// Why stands under the columns.
    static void paintCandidate(QPainter& p, const QRect& r, const Colours& c, const CandidateRow& k) {
        const auto texts = columnsOf(k);
        double left = r.left() + 14;
        const double whole = r.width() - 18;
        if (k.chosen)
            drawColourMark(p, QPointF(r.left() + 7, r.top() + 13), watch::Colour::normal, c, 4);
        for (std::size_t i = 0; i < texts.size(); ++i) {
            const QFont font = k.heading ? face(12) : face(13, i < 2);
            p.setFont(font);
            p.setPen(k.heading ? c.faint : c.ink);
            const QRectF cell(left, r.top() + 3, candidateWidths[i] * whole - 4, 20);
            p.drawText(cell, Qt::AlignVCenter | Qt::AlignRight,
                       QFontMetrics(font).elidedText(q(*texts[i]), Qt::ElideRight, static_cast<int>(cell.width())));
            left += candidateWidths[i] * whole;
        }
        if (k.heading)
            return;
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(r.left() + 22, r.top() + 22, r.width() - 26, 18), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(face(12)).elidedText(q(k.why), Qt::ElideRight, r.width() - 30));
    }

    static void paintExpect(QPainter& p, const QRect& r, const Colours& c, const ExpectLine& e, int valueWidth) {
        const int titleWidth = 108, markWidth = expectMarkWidth;
        const watch::Colour colour = e.verdict.colour();
        int left = r.left() + 2;
        if (colour != watch::Colour::normal) {
            drawColourMark(p, QPointF(left + 6, r.center().y() + 1), colour, c, 4.4);
            left += 16;
        }
        p.setFont(face(14));
        p.setPen(c.ink);
        p.drawText(QRect(left, r.top(), titleWidth, r.height()), Qt::AlignVCenter | Qt::AlignLeft, q(e.title));
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(r.right() - markWidth - 2, r.top(), markWidth, r.height()), Qt::AlignVCenter | Qt::AlignRight,
                   mark(e.origin));
        p.setFont(face(15, true));
        p.setPen(colour == watch::Colour::normal ? c.ink : c.of(colour));
        p.drawText(QRect(r.right() - markWidth - valueWidth - 4, r.top(), valueWidth, r.height()),
                   Qt::AlignVCenter | Qt::AlignRight, q(e.text));
        const QRectF bar(r.left() + titleWidth + 10, r.center().y() + 1,
                         r.width() - titleWidth - markWidth - valueWidth - 24, 7);
        if (bar.width() > 24) {
            const NeedleBar dial(bar, e.scale);
            dial.paint(p, c, e.band);
            dial.paintNeedle(p, e.value, c.ink);
        }
    }

    /// The values' column is as wide as its widest.
    static int valueWidthOf(const RowModel& model) {
        int width = 78;
        const QFontMetrics metrics(face(15, true));
        for (int i = 0; i < model.rowCount(); ++i)
            if (const auto* e = std::get_if<ExpectLine>(&model.row(i)))
                width = std::max(width, metrics.horizontalAdvance(q(e->text)));
        return width + 4;
    }

    /// The marks' column is as wide as its widest.
    static int markWidthOf(const RowModel& model) {
        int width = 34;
        const QFontMetrics metrics(face(12));
        for (int i = 0; i < model.rowCount(); ++i)
            if (const auto* k = std::get_if<ClockLine>(&model.row(i)))
                width = std::max(width, metrics.horizontalAdvance(mark(k->origin)));
        return width + 4;
    }

    /// How a clock's name and figure share their line.
    struct ClockFaces {
        QFont what, value;
        int whatWidth = 0, valueWidth = 0;
        [[nodiscard]] bool fit(const ClockLine& k) const {
            return QFontMetrics(what).horizontalAdvance(q(k.what)) <= whatWidth;
        }
    };
    static ClockFaces clockFaces(const ClockLine& k, int width, int markWidth) {
        const int left = 2 + (k.verdict.colour() != watch::Colour::normal ? 16 : 0);
        ClockFaces f;
        // A long figure is set smaller rather than its name cut.
        for (const int size : {15, 14, 13, 12}) {
            f.value = face(size, true);
            f.valueWidth = QFontMetrics(f.value).horizontalAdvance(q(k.value)) + 2;
            f.whatWidth = width - left - markWidth - f.valueWidth - 12;
            f.what = face(14);
            if (f.fit(k))
                break;
            f.what = face(12); // smaller, not cut
            if (f.fit(k))
                break;
        }
        return f;
    }

    static void paintClock(QPainter& p, const QRect& r, const Colours& c, const ClockLine& k, int markWidth) {
        int left = r.left() + 2;
        if (k.verdict.colour() != watch::Colour::normal) {
            drawColourMark(p, QPointF(left + 6, r.center().y() + 1), k.verdict.colour(), c, 4.4);
            left += 16;
        }
        const auto [whatFace, valueFace, whatWidth, valueWidth] = clockFaces(k, r.width(), markWidth);
        p.setFont(whatFace);
        p.setPen(c.ink);
        p.drawText(QRect(left, r.top(), whatWidth, r.height()), Qt::AlignVCenter | Qt::AlignLeft,
                   QFontMetrics(whatFace).elidedText(q(k.what), Qt::ElideRight, whatWidth));
        p.setFont(valueFace);
        p.setPen(k.verdict.colour() == watch::Colour::normal ? c.ink : c.of(k.verdict.colour()));
        p.drawText(QRect(r.right() - markWidth - valueWidth - 6, r.top(), valueWidth, r.height()),
                   Qt::AlignVCenter | Qt::AlignRight, q(k.value));
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRect(r.right() - markWidth, r.top(), markWidth - 2, r.height()), Qt::AlignVCenter | Qt::AlignRight,
                   mark(k.origin));
    }
};
} // namespace

bool namesFit(const RowView& view, int row) {
    return RowDelegate::namesFit(view.rows(), row, view.viewport()->width());
}

bool RowModel::put(std::vector<Row> rows) {
    if (rows.size() != rows_.size()) {
        beginResetModel();
        rows_ = std::move(rows);
        endResetModel();
        return true;
    }
    bool any = false;
    for (std::size_t i = 0; i < rows.size(); ++i)
        if (rows[i] != rows_[i]) {
            any = true;
            rows_[i] = std::move(rows[i]);
            const auto at = index(static_cast<int>(i));
            emit dataChanged(at, at);
        }
    return any;
}

QVariant RowModel::data(const QModelIndex& index, int role) const {
    const Row& any = row(index.row());
    if (role != Qt::DisplayRole && role != Qt::AccessibleTextRole && role != Qt::ToolTipRole)
        return {};
    const bool tip = role == Qt::ToolTipRole;
    if (const auto* f = std::get_if<watch::WalkFinding>(&any))
        return tip ? q(f->found.empty() ? (f->item.why.empty() ? f->want : f->item.why) : f->verdict.sentence())
                   : QStringLiteral("%1, %2: %3")
                         .arg(q(f->what), q(f->want), f->found.empty() ? QObject::tr("not yet checked") : q(f->found));
    if (const auto* k = std::get_if<CandidateRow>(&any))
        return tip ? q(k->why)
                   : QStringLiteral("%1 %2 %3 %4: %5, %6, %7, %8")
                         .arg(q(k->rpm), q(k->boost), q(k->gear), q(k->mixture), q(k->power), q(k->burn), q(k->speed),
                              q(k->endurance));
    if (const auto* s = std::get_if<SequenceRow>(&any))
        return QStringLiteral("%1 %2: %3").arg(q(formatMinutesSeconds(s->time)), q(s->engine), q(s->text));
    if (const auto* s = std::get_if<SetLine>(&any))
        return tip ? q(s->why) + (s->school >= 0 && s->open ? QObject::tr("\n◇ Enter: another school") : QString())
                   : QStringLiteral("%1: %2 (%3)")
                         .arg(q(s->what), q(s->value), QString::fromUtf8(markOf(s->origin).data()));
    if (const auto* e = std::get_if<ExpectLine>(&any))
        return tip ? QStringLiteral("%1\n%2, %3")
                         .arg(q(e->verdict.sentence()), q(e->moment), QString::fromUtf8(markOf(e->origin).data()))
                   : QStringLiteral("%1: %2 (%3)")
                         .arg(q(e->title), q(e->text), QString::fromUtf8(watch::wordOf(e->verdict.colour()).data()));
    const auto& k = std::get<ClockLine>(any);
    return tip ? q(k.why) : QStringLiteral("%1: %2 %3").arg(q(k.what), q(k.value), mark(k.origin));
}

Qt::ItemFlags RowModel::flags(const QModelIndex& index) const {
    const auto plain = QAbstractListModel::flags(index);
    return index.isValid() && std::holds_alternative<watch::WalkFinding>(row(index.row())) ? plain | Qt::ItemIsEditable
                                                                                           : plain;
}

bool RowModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !index.isValid() || !std::holds_alternative<watch::WalkFinding>(row(index.row())))
        return false;
    emit typed(index.row(), value.toString());
    return true;
}

RowView::RowView(const QString& name, QWidget* parent) : QListView(parent), model_(new RowModel(this)) {
    setObjectName(name);
    setModel(model_);
    setItemDelegate(new RowDelegate(this));
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Maximum);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    viewport()->setBackgroundRole(QPalette::Window);
    setMouseTracking(true);
    setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed |
                    QAbstractItemView::AnyKeyPressed);
    connect(model_, &RowModel::typed, this, [this](int row, const QString& text) { finding_ = {row, text}; });
}

void RowView::put(std::vector<Row> rows) {
    const int before = contentHeight();
    if (!model_->put(std::move(rows)))
        return;
    contentHeight_ = -1;
    scheduleDelayedItemsLayout();
    if (contentHeight() != before)
        updateGeometry();
}

int RowView::contentHeight() const {
    if (contentHeight_ < 0) {
        contentHeight_ = 2;
        for (int i = 0; i < model_->rowCount(); ++i)
            contentHeight_ += sizeHintForRow(i);
    }
    return contentHeight_;
}

QSize RowView::sizeHint() const {
    return {280, contentHeight()};
}
QSize RowView::minimumSizeHint() const {
    return {200, contentHeight()}; // the page scrolls, not the list
}

void RowView::currentChanged(const QModelIndex& current, const QModelIndex& previous) {
    QListView::currentChanged(current, previous);
    emit rowSelected(current.isValid() ? current.row() : -1);
}

void RowView::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
    QListView::closeEditor(editor, hint);
    // The document changes, and this list with it, only when the editor has gone; but before the next key.
    if (const auto typed = std::exchange(finding_, std::nullopt))
        emit found(typed->first, typed->second);
}

void RowView::keyPressEvent(QKeyEvent* event) {
    const int row = currentIndex().row(), last = model_->rowCount() - 1;
    if (currentIndex().isValid())
        if (const auto* f = std::get_if<watch::WalkFinding>(&model_->row(row)); f && state() != EditingState) {
            switch (event->key()) {
            case Qt::Key_Space:
                if (f->item.kind == WalkItemKind::look)
                    emit found(row, f->found == watch::inOrder ? QString() : q(std::string(watch::inOrder)));
                else
                    edit(currentIndex());
                return;
            case Qt::Key_Return:
            case Qt::Key_Enter:
                edit(currentIndex());
                return;
            case Qt::Key_Delete:
            case Qt::Key_Backspace:
                emit found(row, QString());
                return;
            case Qt::Key_Down:
            case Qt::Key_Up:
                if (row == (event->key() == Qt::Key_Down ? last : 0)) {
                    emit pastEnd(event->key() == Qt::Key_Down ? 1 : -1);
                    return;
                }
                break;
            default:
                break;
            }
        }
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space) &&
        currentIndex().isValid()) {
        if (std::holds_alternative<CandidateRow>(model_->row(row))) {
            emit taken(row);
            return;
        }
        emit schoolWanted(currentIndex().row());
        return;
    }
    QListView::keyPressEvent(event);
}

void RowView::mousePressEvent(QMouseEvent* event) {
    QListView::mousePressEvent(event);
    // The circle before a thing to look at ticks it.
    const QModelIndex at = indexAt(event->pos());
    if (!at.isValid() || event->pos().x() >= walkLeft || event->button() != Qt::LeftButton)
        return;
    if (const auto* f = std::get_if<watch::WalkFinding>(&model_->row(at.row())))
        if (f->item.kind == WalkItemKind::look)
            emit found(at.row(), f->found == watch::inOrder ? QString() : q(std::string(watch::inOrder)));
}

void RowView::mouseDoubleClickEvent(QMouseEvent* event) {
    QListView::mouseDoubleClickEvent(event);
    if (currentIndex().isValid() && std::holds_alternative<CandidateRow>(model_->row(currentIndex().row())))
        emit taken(currentIndex().row());
    if (currentIndex().isValid() && std::holds_alternative<SetLine>(model_->row(currentIndex().row())))
        emit schoolWanted(currentIndex().row());
}

void RowView::resizeEvent(QResizeEvent* event) {
    QListView::resizeEvent(event);
    scheduleDelayedItemsLayout();
    if (event->size().width() == event->oldSize().width())
        return;
    const int before = contentHeight_;
    contentHeight_ = -1;
    if (contentHeight() != before)
        updateGeometry();
}

} // namespace amber::app
