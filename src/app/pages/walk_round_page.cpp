// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/walk_round_page.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QHBoxLayout>
#include <QVBoxLayout>

namespace amber::app {

WalkRoundPage::WalkRoundPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("walk-round-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    head_ = heading(QString());
    set_ = new RowView(QStringLiteral("set"), this);
    set_->setAccessibleName(tr("What is checked at this station"));
    why_ = richText("why");
    why_->setContentsMargins(0, 6, 0, 0);
    defects_ = richText("defects");
    defects_->setContentsMargins(0, 8, 0, 0);
    left->addWidget(head_);
    left->addWidget(set_);
    left->addWidget(why_);
    left->addWidget(defects_);
    left->addStretch(1);

    right->setSpacing(0);
    upper_ = new QHBoxLayout;
    fuel_ = rowsUnder(*upper_, "ground-fuel", tr("Fuel by dip and gauge"), tr("Fuel by dip and gauge"), 1);
    clock_ = rowsUnder(*upper_, "clock", tr("Clock"), tr("Clock: waits and times"), 0);
    right->addLayout(upper_);
    walk_ = new WalkRoundView(document_, this);
    right->addSpacing(8);
    right->addWidget(walk_, 1);

    connect(walk_, &WalkRoundView::chosen, this, [this] { showStation(true); });
    connect(set_, &RowView::rowSelected, this, [this](int row) {
        showWhy();
        if (row >= 0) {
            const QRect place = set_->visualRect(set_->model()->index(row, 0));
            emit placeWanted(QRect(set_->mapTo(this, place.topLeft()), place.size()));
        }
    });
    connect(set_, &RowView::found, this, &WalkRoundPage::take);
    connect(set_, &RowView::pastEnd, this, [this](int by) {
        const int to = walk_->selected() + by;
        if (to < 0 || to >= walk_->stations())
            return;
        walk_->select(to);
        showStation(true);
        if (by < 0)
            set_->setCurrentIndex(set_->model()->index(set_->model()->rowCount() - 1, 0));
    });
}

void WalkRoundPage::widen() {
    const int gap = width() < 900 ? 14 : 24;
    layout()->setSpacing(gap);
    upper_->setSpacing(gap);
    left_->setFixedWidth(share(0.379, 320, 680));
    stack(*upper_, narrow());
    setColumn(*clock_, narrow() ? 0 : share(0.259, 238, 440));
}

void WalkRoundPage::enter() {
    showStation(true);
}

void WalkRoundPage::refresh() {
    const plan::PhasePlan& p = document_.plan()[phase_];
    fuel_->put(html::rows(p.groundFuel));
    clock_->put(html::rows(p.clocks));
    showStation(false);
}

void WalkRoundPage::showStation(bool first) {
    const auto& walk = document_.plan().walk;
    walk_->refresh();
    const auto index = static_cast<std::size_t>(walk_->selected());
    if (index >= walk.stops.size())
        return;
    const auto& stop = walk.stops[index];
    head_->setText(tr("%1  ·  station %2 of %3").arg(q(stop.name)).arg(index + 1).arg(walk.stops.size()));
    const int row = first ? 0 : set_->currentIndex().row();
    set_->put(html::rows(stop.items));
    if (row >= 0 && row < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row, 0));
    const Colours c(this);
    QStringList lines;
    for (const auto& d : walk.defects)
        lines << QStringLiteral("%1 %2: %3")
                     .arg(html::mark(d.verdict, c), html::text(d.where), html::text(d.verdict.sentence()));
    const QString head = QStringLiteral("<span style='color:%1'><b>%2</b></span><br>")
                             .arg(palette().color(QPalette::Link).name(), tr("Written up"));
    defects_->setText(head + (lines.isEmpty() ? tr("Nothing so far.") : lines.join(QStringLiteral("<br>"))));
    showWhy();
}

void WalkRoundPage::showWhy() {
    const auto& stops = document_.plan().walk.stops;
    const auto index = static_cast<std::size_t>(walk_->selected());
    const int row = set_->currentIndex().row();
    if (index >= stops.size() || row < 0 || row >= static_cast<int>(stops[index].items.size())) {
        why_->clear();
        return;
    }
    const auto& f = stops[index].items[static_cast<std::size_t>(row)];
    const Colours c(this);
    const bool look = f.item.kind == WalkItemKind::look;
    why_->setText(QStringLiteral("<span style='color:%1'><b>%2</b></span> &nbsp;%3 %4%5")
                      .arg(c.amber.name(), html::text(f.what), html::text(f.item.why),
                           f.item.stopper ? tr("<b>Stops the flight when wrong.</b> ") : QString(),
                           look ? tr("<i>Space: serviceable. Type: the defect. Delete: not checked.</i>")
                                : tr("<i>Type the reading.</i>")));
}

void WalkRoundPage::take(int row, const QString& text) {
    const auto& stops = document_.plan().walk.stops;
    const auto index = static_cast<std::size_t>(walk_->selected());
    if (index >= stops.size() || row < 0 || row >= static_cast<int>(stops[index].items.size()))
        return;
    const auto& finding = stops[index].items[static_cast<std::size_t>(row)];
    Sortie changed = document_.sortie();
    const std::string typed = text.trimmed().toStdString();
    if (typed.empty()) {
        changed.walk.found.erase(finding.key);
    } else {
        if (const auto why = watch::refusal(finding.item, typed); !why.empty()) {
            emit refused(q(finding.what + ": " + why));
            return;
        }
        changed.walk.found[finding.key] = watch::kept(finding.item, typed);
    }
    if (!edit(changed, tr("walk-round")))
        return;
    // On to the next thing at this station.
    if (!typed.empty() && row + 1 < set_->model()->rowCount())
        set_->setCurrentIndex(set_->model()->index(row + 1, 0));
}

} // namespace amber::app
