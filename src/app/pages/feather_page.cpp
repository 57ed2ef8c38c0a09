// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/feather_page.h"
#include "cockpit/equipment.h"

namespace amber::app {

FeatherPage::FeatherPage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("feather-page"));
    columns_ = new QHBoxLayout(this);
    columns_->setContentsMargins(0, 0, 0, 0);
    columns_->setSpacing(20);
    feather_ = drillPart(QStringLiteral("feather-drill"), tr("Stop it"));
    restart_ = drillPart(QStringLiteral("restart-drill"), tr("Let it out, start it again"));
    auto* figures = new QWidget(this);
    auto* column = new QVBoxLayout(figures);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(heading(tr("Times and figures")));
    figures_ = new FiguresView(figures);
    figures_->setObjectName(QStringLiteral("trouble-figures"));
    column->addWidget(figures_);
    column->addStretch(1);
    columns_->addWidget(feather_.holder, 3);
    columns_->addWidget(restart_.holder, 3);
    columns_->addWidget(figures, 3);
}

void FeatherPage::widen() {
    columns_->setDirection(width() < 900 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void FeatherPage::present(const TroubleMoment& m) {
    const auto at = caseOf(m);
    fill(feather_, trouble::drillOf(at, Emergency::feather));
    fill(restart_, trouble::drillOf(at, Emergency::restart));
}

void FeatherPage::reckon(const TroubleMoment& m) {
    const auto at = caseOf(m);
    Figures shown;
    shown.emplace_back(
        tableOf(trouble::restartFigures(document_.aircraft(), document_.sortie(), document_.plan().flown, at.moment),
                tr("restart (model)")));
    if (!cockpit::equipmentOf(document_.aircraft().notes).feathers)
        shown.emplace_back(tr("This propeller does not feather: it is put where it drags least."));
    figures_->put(std::move(shown));
}

} // namespace amber::app
