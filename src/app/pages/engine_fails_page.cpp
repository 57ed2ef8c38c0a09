// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/engine_fails_page.h"
#include "kit/html.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QVBoxLayout>

namespace amber::app {

EngineFailsPage::EngineFailsPage(SortieDocument& document, QWidget* parent) : TroublePage(document, parent) {
    setObjectName(QStringLiteral("engine-fails-page"));
    halves_ = new QHBoxLayout(this);
    halves_->setContentsMargins(0, 0, 0, 0);
    halves_->setSpacing(20);
    drill_ = drillPart(QStringLiteral("drill"), {});
    halves_->addWidget(drill_.holder, 0);
    right_ = new QWidget(this);
    auto* column = new QVBoxLayout(right_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    verdict_ = new RichLabel(right_);
    verdict_->setFont(face(16, true));
    verdict_->setObjectName(QStringLiteral("verdict"));
    figures_ = new FiguresView(right_);
    figures_->setObjectName(QStringLiteral("trouble-figures"));
    title_ = new QLabel(right_);
    title_->setFont(captionFace());
    title_->setWordWrap(true);
    chart_ = new TroubleChart(document, right_);
    chart_->setMinimumHeight(190);
    column->addWidget(verdict_);
    column->addWidget(figures_);
    column->addWidget(title_);
    column->addWidget(chart_, 1);
    halves_->addWidget(right_, 1);
}

void EngineFailsPage::widen() {
    const bool narrow = width() < 900;
    halves_->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
    drill_.holder->setMinimumWidth(narrow ? 0 : width() * 42 / 100);
    drill_.holder->setMaximumWidth(narrow ? QWIDGETSIZE_MAX : width() * 42 / 100);
}

void EngineFailsPage::present(const TroubleMoment& m) {
    fill(drill_, trouble::drillOf(caseOf(m), Emergency::engineFails));
    verdict_->setText(tr("Flying it on the rest…"));
}

void EngineFailsPage::reckon(const TroubleMoment& m) {
    const Colours c(this);
    const auto& a = document_.aircraft();
    auto out = trouble::engineOut(a, document_.sortie(), document_.plan().flown, m.time, m.dead);
    QStringList lines{QStringLiteral("%1 %2").arg(html::mark(out.verdict, c), html::text(out.verdict.sentence()))};
    for (const auto* v : {&out.speed, &out.cooling, &out.rating})
        if (v->colour() != watch::Colour::normal)
            lines << QStringLiteral("%1 %2").arg(html::mark(*v, c), html::text(v->sentence()));
    verdict_->setText(lines.join(QStringLiteral("<br>")));
    runsOut_.reset();
    if (out.limitedLive.left)
        runsOut_ = std::pair{out.limitedLive.left->si(), q(out.limitedLive.rating->name)};
    Figures shown;
    shown.emplace_back(tableOf(trouble::figuresOf(out, a.notes), tr("on the rest (model)")));
    figures_->put(std::move(shown));
    TroubleChart::OutPicture picture{out, {}};
    if (out.anyLeft)
        picture.curves = trouble::rateCurves(a, document_.sortie(), out);
    chart_->put(std::move(picture));
    title_->setText(chart_->title());
}

} // namespace amber::app
