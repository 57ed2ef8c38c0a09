// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/drill_figures_page.h"
#include "kit/theme.h"
#include <QVBoxLayout>

namespace amber::app {

DrillFiguresPage::DrillFiguresPage(SortieDocument& document, const char* name, QWidget* parent)
    : TroublePage(document, parent) {
    setObjectName(QString::fromLatin1(name));
    halves_ = new QHBoxLayout(this);
    halves_->setContentsMargins(0, 0, 0, 0);
    halves_->setSpacing(20);
    drill_ = drillPart(QStringLiteral("drill"), {});
    under_ = new FiguresView(drill_.holder);
    under_->setObjectName(QStringLiteral("left-so"));
    static_cast<QVBoxLayout*>(drill_.holder->layout())->insertWidget(2, under_);
    under_->hide();
    halves_->addWidget(drill_.holder, 0);
    auto* right = new QWidget(this);
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    verdict_ = new RichLabel(right);
    verdict_->setFont(face(16, true));
    verdict_->setObjectName(QStringLiteral("verdict"));
    verdict_->hide();
    figures_ = new FiguresView(right);
    figures_->setObjectName(QStringLiteral("trouble-figures"));
    title_ = new QLabel(right);
    title_->setFont(captionFace());
    title_->setWordWrap(true);
    chart_ = new TroubleChart(document, right);
    chart_->setMinimumHeight(180);
    column->addWidget(verdict_);
    column->addWidget(figures_);
    column->addWidget(title_);
    column->addWidget(chart_, 1);
    halves_->addWidget(right, 1);
}

void DrillFiguresPage::begin() {
    chart_->hide();
    title_->hide();
    figures_->hide();
}

void DrillFiguresPage::widen() {
    const bool narrow = width() < 900;
    halves_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    drill_.holder->setMinimumWidth(narrow ? 0 : width() * 42 / 100);
    drill_.holder->setMaximumWidth(narrow ? QWIDGETSIZE_MAX : width() * 42 / 100);
}

void DrillFiguresPage::say(const QString& text) {
    verdict_->setText(text);
    verdict_->setVisible(!text.isEmpty());
}

void DrillFiguresPage::put(const trouble::Figures& figures, const QString& heading) {
    Figures shown;
    shown.emplace_back(tableOf(figures, heading));
    figures_->put(std::move(shown));
    figures_->show();
}

void DrillFiguresPage::putUnderDrill(const trouble::Figures& figures, const QString& heading) {
    Figures shown;
    if (!figures.empty())
        shown.emplace_back(tableOf(figures, heading));
    under_->put(std::move(shown));
    under_->setVisible(!figures.empty());
}

} // namespace amber::app
