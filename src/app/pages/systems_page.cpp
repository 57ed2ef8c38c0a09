// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/systems_page.h"
#include "kit/words.h"
#include <QVBoxLayout>

namespace amber::app {

SystemsPage::SystemsPage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("systems-page"));
    columns_ = new QHBoxLayout(this);
    columns_->setContentsMargins(0, 0, 0, 0);
    columns_->setSpacing(20);
    for (const auto& column :
         {std::vector{Emergency::smoke, Emergency::waterInFuel},
          std::vector{Emergency::generatorFails, Emergency::chargeHigh}, std::vector{Emergency::wheelsStay}}) {
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

QWidget* SystemsPage::first() {
    return parts_.front().second.view;
}

void SystemsPage::widen() {
    columns_->setDirection(width() < 800 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void SystemsPage::present(const TroubleMoment& m) {
    const auto at = caseOf(m);
    for (auto& [emergency, part] : parts_) {
        const auto drill = trouble::drillOf(at, emergency);
        part.holder->setVisible(!drill.lines.empty()); // nothing of the kind is fitted
        fill(part, drill);
    }
}

} // namespace amber::app
