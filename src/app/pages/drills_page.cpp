// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/drills_page.h"
#include "kit/words.h"
#include <QVBoxLayout>

namespace amber::app {

DrillsPage::DrillsPage(SortieDocument& document, const QString& name,
                       const std::vector<std::vector<Emergency>>& columns, Emergency ground, Emergency flying,
                       QWidget* parent)
    : TroublePage(document, parent), ground_(ground), aloft_(flying) {
    setObjectName(name);
    columns_ = new QHBoxLayout(this);
    columns_->setContentsMargins(0, 0, 0, 0);
    columns_->setSpacing(20);
    for (const auto& column : columns) {
        auto* stack = new QVBoxLayout;
        stack->setSpacing(10);
        for (const Emergency e : column) {
            parts_.emplace_back(e, drillPart(q(nameOf(e).key), q(nameOf(e).title)));
            stack->addWidget(parts_.back().second.holder);
        }
        stack->addStretch(1);
        columns_->addLayout(stack, 1);
    }
}

QWidget* DrillsPage::first() {
    for (const auto& [emergency, part] : parts_)
        if (emergency == (flying_ ? aloft_ : ground_))
            return part.view;
    return parts_.front().second.view;
}

void DrillsPage::widen() {
    columns_->setDirection(width() < 800 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void DrillsPage::present(const TroubleMoment& m) {
    const auto at = caseOf(m);
    flying_ = at.moment.flying;
    for (auto& [emergency, part] : parts_) {
        const auto drill = trouble::drillOf(at, emergency);
        part.holder->setVisible(!drill.lines.empty()); // nothing of the kind is fitted
        fill(part, drill);
    }
}

FirePage::FirePage(SortieDocument& document, QWidget* parent)
    : DrillsPage(document, QStringLiteral("fire-page"),
                 {{Emergency::fireStarting},
                  {Emergency::fireGround, Emergency::fireStack},
                  {Emergency::fireAir, Emergency::fireInduction}},
                 Emergency::fireStarting, Emergency::fireAir, parent) {}

SystemsPage::SystemsPage(SortieDocument& document, QWidget* parent)
    : DrillsPage(document, QStringLiteral("systems-page"),
                 {{Emergency::smoke, Emergency::waterInFuel},
                  {Emergency::generatorFails, Emergency::chargeHigh},
                  {Emergency::wheelsStay}},
                 Emergency::smoke, Emergency::smoke, parent) {}

} // namespace amber::app
