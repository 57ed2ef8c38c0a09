// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/drill_figures_page.h"
#include "kit/theme.h"
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {
namespace {
constexpr int leastPicture = 180, tallestPicture = 380; // px
}

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
    chart_->setFixedHeight(leastPicture);
    column->addWidget(verdict_);
    column->addWidget(figures_);
    column->addWidget(title_);
    column->addWidget(chart_);
    more_ = new FiguresView(right);
    more_->setObjectName(QStringLiteral("more-figures"));
    more_->hide();
    column->addWidget(more_);
    column->addStretch(1);
    halves_->addWidget(right, 1);
}

void DrillFiguresPage::begin() {
    chart_->hide();
    title_->hide();
    figures_->hide();
    more_->hide();
}

void DrillFiguresPage::widen() {
    const bool narrow = width() < 900;
    halves_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    drill_.holder->setMinimumWidth(narrow ? 0 : width() * 44 / 100);
    drill_.holder->setMaximumWidth(narrow ? QWIDGETSIZE_MAX : width() * 44 / 100);
    fit();
}

void DrillFiguresPage::fit() {
    const int room = inView_.height();
    if (room == 0)
        return;
    drill_.view->setRoom(room - drill_.view->mapTo(this, QPoint()).y());
    auto* right = chart_->parentWidget();
    layout()->activate();
    right->layout()->activate();
    // What stands over it, by what each needs: a layout that is still under way has it elsewhere.
    int above = right->mapTo(this, QPoint()).y();
    for (const QWidget* w : {static_cast<const QWidget*>(verdict_), static_cast<const QWidget*>(figures_),
                             static_cast<const QWidget*>(title_)})
        if (!w->isHidden())
            above += right->layout()->spacing() +
                     (w->hasHeightForWidth() ? w->heightForWidth(right->width()) : w->sizeHint().height());
    chart_->setFixedHeight(std::clamp(room - above - 4, leastPicture, tallestPicture));
}

void DrillFiguresPage::say(const QString& text) {
    verdict_->setText(text);
    verdict_->setVisible(!text.isEmpty());
}

void DrillFiguresPage::put(const trouble::Figures& figures, const QString& heading,
                           const std::vector<std::string_view>& first) {
    trouble::Figures over, under;
    for (const auto id : first)
        for (const auto& f : figures)
            if (f.id == id)
                over.push_back(f);
    for (const auto& f : figures)
        if (std::find(first.begin(), first.end(), std::string_view(f.id)) == first.end())
            under.push_back(f);
    Figures shown, more;
    shown.emplace_back(tableOf(over, heading));
    figures_->put(std::move(shown));
    figures_->setVisible(!over.empty());
    more.emplace_back(tableOf(under, over.empty() ? heading : tr("more")));
    more_->put(std::move(more));
    more_->setVisible(!under.empty());
}

void DrillFiguresPage::putUnderDrill(const trouble::Figures& figures, const QString& heading) {
    Figures shown;
    if (!figures.empty())
        shown.emplace_back(tableOf(figures, heading));
    under_->put(std::move(shown));
    under_->setVisible(!figures.empty());
}

} // namespace amber::app
