// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/phase_rail.h"
#include "kit/theme.h"
#include "units/text.h"
#include <QPainter>
#include <QStyledItemDelegate>

namespace amber::app {
namespace {
constexpr int railX = 24;
} // namespace

class PhaseRail::Model : public QAbstractListModel {
public:
    struct Stop {
        QString title, time;
        watch::Colour worst;
        QString because;
    };
    using QAbstractListModel::QAbstractListModel;
    /// The write-up's, after the phases.
    static Stop stopOf(const watch::Verdict& worst) {
        return {QString::fromUtf8(titleOf(Phase::writeUp).data()),
                {},
                worst.colour(),
                QString::fromStdString(worst.sentence())};
    }
    std::vector<Stop> stops;
    int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(stops.size());
    }
    QVariant data(const QModelIndex& index, int role) const override {
        const Stop& s = stops[static_cast<std::size_t>(index.row())];
        if (role == Qt::DisplayRole || role == Qt::AccessibleTextRole)
            return QStringLiteral("%1, %2, %3").arg(s.title, s.time, QString::fromUtf8(watch::wordOf(s.worst).data()));
        if (role == Qt::ToolTipRole)
            return QStringLiteral("%1   %2\n%3")
                .arg(s.title, index.row() == 0                   ? QStringLiteral("Ctrl+L")
                              : index.row() < int(plannedPhases) ? QStringLiteral("Ctrl+%1").arg(index.row() % 10)
                                                                 : QStringLiteral("Ctrl+Shift+W"))
                .arg(s.because.isEmpty() ? QObject::tr("Everything in its normal range.") : s.because);
        return {};
    }
    void put(std::vector<Stop> next) {
        if (next.size() == stops.size()) {
            stops = std::move(next);
            emit dataChanged(index(0), index(rowCount() - 1));
        } else {
            beginResetModel();
            stops = std::move(next);
            endResetModel();
        }
    }
};

class PhaseRail::Delegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const int rows = index.model()->rowCount();
        const auto* view = static_cast<const QListView*>(option.widget);
        return {100, view && rows > 0 ? std::clamp(view->viewport()->height() / rows, 24, 48) : 40};
    }
    void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const auto* model = static_cast<const Model*>(index.model());
        const auto& s = model->stops[static_cast<std::size_t>(index.row())];
        const Colours c(option.palette);
        const QRect r = option.rect;
        const bool here = option.state & QStyle::State_Selected;
        p->save();
        p->setPen(QPen(c.rule, 2));
        p->drawLine(railX, index.row() == 0 ? r.center().y() : r.top(), railX,
                    index.row() + 1 == model->rowCount() ? r.center().y() : r.bottom());
        if (here) {
            const bool focus = static_cast<const QWidget*>(option.widget)->hasFocus();
            p->setPen(QPen(focus ? c.amber : c.faint, focus ? 2 : 1));
            p->setBrush(c.sheet);
            p->drawRect(QRectF(r).adjusted(8.5, 2.5, -5.5, -2.5));
        }
        drawColourMark(*p, QPointF(railX, r.center().y() + 0.5), s.worst, c, 5);
        p->setPen(c.ink);
        p->setFont(face(14, here));
        p->drawText(r.adjusted(42, 0, -46, 0), Qt::AlignVCenter | Qt::AlignLeft, s.title);
        p->setPen(c.faint);
        p->setFont(face(12));
        p->drawText(r.adjusted(0, 0, -14, 0), Qt::AlignVCenter | Qt::AlignRight, s.time);
        p->restore();
    }
};

PhaseRail::PhaseRail(QWidget* parent) : QListView(parent), model_(new Model(this)) {
    setObjectName(QStringLiteral("phase-rail"));
    setAccessibleName(tr("Phases"));
    setModel(model_);
    setItemDelegate(new Delegate(this));
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFixedWidth(172);
    setUniformItemSizes(false);
    viewport()->setBackgroundRole(QPalette::Window);
}

void PhaseRail::show(const plan::Plan& plan) {
    std::vector<Model::Stop> stops;
    for (const auto& p : plan.phases)
        stops.push_back({QString::fromUtf8(titleOf(p.phase).data()),
                         QString::fromStdString(formatHoursMinutes(p.start)), p.worst.colour(),
                         QString::fromStdString(p.worst.sentence())});
    if (writeUp_)
        stops.push_back(Model::stopOf(*writeUp_));
    model_->put(std::move(stops));
    if (!currentIndex().isValid() && model_->rowCount() > 0)
        setCurrentIndex(model_->index(0));
}

void PhaseRail::showWriteUp(std::optional<watch::Verdict> worst) {
    const bool was = writeUp_.has_value();
    writeUp_ = std::move(worst);
    auto stops = model_->stops;
    if (was && !stops.empty())
        stops.pop_back();
    const Phase at = selected();
    if (writeUp_ && !stops.empty())
        stops.push_back(Model::stopOf(*writeUp_));
    const bool another = stops.size() != model_->stops.size();
    model_->put(std::move(stops));
    if (another && model_->rowCount() > 0) // a list of another length has forgotten where it was
        select(std::min(at, static_cast<Phase>(model_->rowCount() - 1)));
}

void PhaseRail::select(Phase phase) {
    setCurrentIndex(model_->index(static_cast<int>(phase)));
}

Phase PhaseRail::selected() const {
    return currentIndex().isValid() ? static_cast<Phase>(currentIndex().row()) : Phase::walkRound;
}

void PhaseRail::currentChanged(const QModelIndex& current, const QModelIndex& previous) {
    QListView::currentChanged(current, previous);
    if (current.isValid())
        emit chosen(static_cast<Phase>(current.row()));
}

void PhaseRail::resizeEvent(QResizeEvent* event) {
    QListView::resizeEvent(event);
    scheduleDelayedItemsLayout();
}

} // namespace amber::app
