// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/budget_page.h"
#include "kit/html.h"
#include "notes/cockpit_units.h"
#include "pages/figures_page.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
using namespace figures;

BudgetPage::BudgetPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("budget-page"));
    auto [column, left, right] = halves(22, 2);
    left_ = column;
    figures_ = richText("heat-figures");
    left->addWidget(heading(tr("Waiting (model)")));
    left->addWidget(figures_);
    left->addStretch(1);
    right->setSpacing(2);
    title_ = pictureTitle("heat-title");
    budget_ = new GroundBudgetView(document_, this);
    right->addWidget(title_);
    right->addWidget(budget_, 1);
    connect(budget_, &GroundBudgetView::chosen, this, [this] { figures_->setText(words()); });
}

void BudgetPage::widen() {
    left_->setFixedWidth(share(0.281, 260, 520));
}

void BudgetPage::refresh() {
    // The warm-up asks from its own start, the run-up from the holding point, until the pilot says otherwise.
    if (phase_ != asked_)
        budget_->startFrom(phase_ == Phase::warmUp ? advice::GroundFrom::warmUp : advice::GroundFrom::holding);
    asked_ = phase_;
    budget_->refresh();
    figures_->setText(words());
    title_->setText(document_.aircraft().notes.engine.cooling == Cooling::air
                        ? tr("How long the heads stay normal on the ground today, by the way of waiting")
                        : tr("How long the coolant stays normal on the ground today, by the way of waiting"));
    title_->setToolTip(title_->text());
}

QString BudgetPage::words() const {
    const auto& b = budget_->budget();
    const auto& n = document_.aircraft().notes;
    const auto& t = *n.cockpit.temperature;
    QStringList lines;
    const QString headOrCoolant = n.engine.cooling == Cooling::air ? tr("Heads") : tr("Coolant");
    lines << (budget_->from() == advice::GroundFrom::holding
                  ? tr("<b>From the holding point</b>, after the run-up: %1 at %2.")
                  : tr("<b>From the start of the warm-up</b>: %1 at %2."))
                 .arg(headOrCoolant.toLower(), html::text(format(b.headOrCoolant.si(), t)));
    if (b.amber)
        lines << tr("Normal to %1%2 (notes).")
                     .arg(html::text(format(b.amber->si(), t)),
                          b.red ? tr(", limit %1").arg(html::text(format(b.red->si(), t))) : QString());
    if (!b.runs.empty()) {
        const auto& run = b.runs[static_cast<std::size_t>(budget_->selected())];
        lines << QStringLiteral("<b>%1</b> %2. %3 %4")
                     .arg(html::text(run.name), budget_->words(budget_->selected()), html::text(run.why),
                          run.toAmber ? tr("It would settle at %1.").arg(html::text(format(run.settles.si(), t)))
                                      : QString());
    }
    if (b.amber)
        lines << (b.rpmForEver ? tr("<b>Without time limit</b> Standing in calm air it stays normal up to %1.")
                                     .arg(html::text(format(rounded(b.rpmForEver->si(), 10.0 / 60), *units::rpm.spec)))
                               : tr("<b>Without time limit</b> No rpm above the minimum keeps it normal in calm air."));
    if (b.stopFor)
        lines << tr("<b>Stopping the engine</b> at amber and standing %1 brings it down enough; started again it lasts "
                    "%2 to amber. Restarting hot has its own troubles: see the stop.")
                     .arg(tr("%1 min").arg(std::lround(*b.stopFor / 60)),
                          b.thenToAmber >= advice::GroundBudget::horizon
                              ? tr("over two hours")
                              : tr("%1 min").arg(std::lround(b.thenToAmber / 60)));
    const auto& s = document_.sortie();
    if (s.flight.hold.si() > 0) {
        const Colours c(this);
        lines << QStringLiteral("%1 %2").arg(html::mark(b.queue, c), html::text(b.queue.sentence()));
    }
    lines << tr("<i>W: from the warm-up. H: from the holding point. Up and Down: another way.</i>");
    return lines.join(QStringLiteral("<br><br>"));
}

} // namespace amber::app
