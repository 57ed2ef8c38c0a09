// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/dive_page.h"
#include "kit/theme.h"
#include <QVBoxLayout>

namespace amber::app {

DivePage::DivePage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("dive-page"));
    halves_ = new QHBoxLayout(this);
    halves_->setContentsMargins(0, 0, 0, 0);
    halves_->setSpacing(20);
    drill_ = drillPart(QStringLiteral("drill"), {});
    halves_->addWidget(drill_.holder, 0);
    auto* right = new QWidget(this);
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    figures_ = new FiguresView(right);
    figures_->setObjectName(QStringLiteral("trouble-figures"));
    title_ = new QLabel(right);
    title_->setFont(captionFace());
    title_->setWordWrap(true);
    chart_ = new TroubleChart(document, right);
    chart_->setMinimumHeight(190);
    column->addWidget(figures_);
    column->addWidget(title_);
    column->addWidget(chart_, 1);
    halves_->addWidget(right, 1);
}

void DivePage::widen() {
    const bool narrow = width() < 900;
    halves_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    drill_.holder->setMinimumWidth(narrow ? 0 : width() * 42 / 100);
    drill_.holder->setMaximumWidth(narrow ? QWIDGETSIZE_MAX : width() * 42 / 100);
}

void DivePage::present(const TroubleMoment& m) {
    fill(drill_, trouble::drillOf(caseOf(m), Emergency::dive));
}

void DivePage::reckon(const TroubleMoment& m) {
    const auto& a = document_.aircraft();
    auto d = trouble::dive(a, document_.sortie(), document_.plan().flown, m.time);
    Figures shown;
    shown.emplace_back(tableOf(trouble::figuresOf(d, a.notes), tr("dive")));
    figures_->put(std::move(shown));
    chart_->put(std::move(d));
    title_->setText(chart_->title());
}

} // namespace amber::app
