// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/fire_page.h"
#include "kit/words.h"
#include <QVBoxLayout>

namespace amber::app {

FirePage::FirePage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("fire-page"));
    columns_ = new QHBoxLayout(this);
    columns_->setContentsMargins(0, 0, 0, 0);
    columns_->setSpacing(20);
    starting_ = drillPart(QStringLiteral("fire-starting"), tr("Intake or exhaust, while starting"));
    ground_ = drillPart(QStringLiteral("fire-ground"), tr("Pool or nacelle, on the ground"));
    air_ = drillPart(QStringLiteral("fire-air"), tr("In the air"));
    induction_ = drillPart(QStringLiteral("fire-induction"), tr("In the induction, aloft"));
    stack_ = drillPart(QStringLiteral("fire-stack"), tr("At an exhaust, while it runs"));
    columns_->addWidget(starting_.holder, 1);
    auto* ground = new QVBoxLayout;
    ground->setSpacing(10);
    ground->addWidget(ground_.holder);
    ground->addWidget(stack_.holder);
    ground->addStretch(1);
    columns_->addLayout(ground, 1);
    auto* aloft = new QVBoxLayout;
    aloft->setSpacing(10);
    aloft->addWidget(air_.holder);
    aloft->addWidget(induction_.holder);
    aloft->addStretch(1);
    columns_->addLayout(aloft, 1);
}

QWidget* FirePage::first() {
    return flying_ ? air_.view : starting_.view;
}

void FirePage::widen() {
    columns_->setDirection(width() < 800 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void FirePage::present(const TroubleMoment& m) {
    const auto at = caseOf(m);
    flying_ = at.moment.flying;
    fill(starting_, trouble::drillOf(at, Emergency::fireStarting));
    fill(ground_, trouble::drillOf(at, Emergency::fireGround));
    fill(air_, trouble::drillOf(at, Emergency::fireAir));
    fill(stack_, trouble::drillOf(at, Emergency::fireStack));
    fill(induction_, trouble::drillOf(at, Emergency::fireInduction));
}

} // namespace amber::app
