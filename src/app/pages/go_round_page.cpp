// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/go_round_page.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QVBoxLayout>

namespace amber::app {

GoRoundPage::GoRoundPage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("go-round-page"));
    halves_ = new QHBoxLayout(this);
    halves_->setContentsMargins(0, 0, 0, 0);
    halves_->setSpacing(20);
    drill_ = drillPart(QStringLiteral("drill"), {});
    left_ = new FiguresView(drill_.holder);
    left_->setObjectName(QStringLiteral("left-so"));
    static_cast<QVBoxLayout*>(drill_.holder->layout())->insertWidget(2, left_);
    halves_->addWidget(drill_.holder, 0);
    auto* right = new QWidget(this);
    auto* column = new QVBoxLayout(right);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    verdict_ = new RichLabel(right);
    verdict_->setFont(face(16, true));
    verdict_->setObjectName(QStringLiteral("verdict"));
    figures_ = new FiguresView(right);
    figures_->setObjectName(QStringLiteral("trouble-figures"));
    title_ = new QLabel(right);
    title_->setFont(captionFace());
    title_->setWordWrap(true);
    chart_ = new TroubleChart(document, right);
    chart_->setMinimumHeight(170);
    column->addWidget(verdict_);
    column->addWidget(figures_);
    column->addWidget(title_);
    column->addWidget(chart_, 1);
    halves_->addWidget(right, 1);
}

void GoRoundPage::widen() {
    const bool narrow = width() < 900;
    halves_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    drill_.holder->setMinimumWidth(narrow ? 0 : width() * 42 / 100);
    drill_.holder->setMaximumWidth(narrow ? QWIDGETSIZE_MAX : width() * 42 / 100);
}

void GoRoundPage::present(const TroubleMoment& m) {
    fill(drill_, trouble::goRoundDrill(caseOf(m)));
    verdict_->setText(tr("Opening it up at the landing field…"));
}

void GoRoundPage::reckon(const TroubleMoment&) {
    const Colours c(this);
    const auto& a = document_.aircraft();
    auto g = trouble::goRound(a, document_.sortie(), document_.plan().flown);
    const auto& n = a.notes;
    QStringList lines{QStringLiteral("%1 %2").arg(html::mark(g.climbs, c), html::text(g.climbs.sentence())),
                      QStringLiteral("<span style='font-weight:normal;font-size:13px'>%1</span>")
                          .arg(tr("At the landing field, %1, %2, %3.")
                                   .arg(html::text(formatHeight(g.field.si(), *n.cockpit.height)),
                                        html::text(format(g.air.si(), *n.cockpit.temperature)),
                                        html::text(trouble::roundWeight(g.weight.si(), n.cockpit))))};
    verdict_->setText(lines.join(QStringLiteral("<br>")));
    Figures shown, left;
    shown.emplace_back(tableOf(trouble::figuresOf(g, n), tr("going round (model)")));
    figures_->put(std::move(shown));
    if (!g.left.empty())
        left.emplace_back(tableOf(trouble::leftSo(g, n), tr("left as it was")));
    left_->put(std::move(left));
    chart_->put(std::move(g));
    title_->setText(chart_->title());
}

} // namespace amber::app
