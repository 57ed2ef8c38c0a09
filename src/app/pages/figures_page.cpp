// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/figures_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace figures {
QString clock(double seconds) {
    return html::text(formatMinutesSeconds(std::max(0.0, seconds)));
}
QString degrees(double kelvin, const Cockpit& cockpit) {
    const auto& unit = differenceUnit(cockpit);
    return html::text(formatNumber(kelvin / unit.scale, 0, true) + " " + std::string(unit.symbol));
}
double rounded(double value, double to) {
    return std::round(value / to) * to;
}
} // namespace figures

FiguresPage::FiguresPage(SortieDocument& document, Look look, QWidget* parent)
    : Page(document, parent), look_(std::move(look)) {
    auto [column, left, right] = halves(22, 2);
    left_ = column;
    figures_ = new FiguresView(this);
    figures_->setObjectName(QStringLiteral("heat-figures"));
    heading_ = heading(QString());
    left->addWidget(heading_);
    left->addWidget(figures_);
    below_ = new QVBoxLayout;
    below_->setSpacing(4);
    left->addLayout(below_);
    left->addStretch(1);
    right->setSpacing(2);
    title_ = pictureTitle("heat-title");
    if (std::holds_alternative<HeatChart::Kind>(look_.picture))
        chart_ = heat_ = new HeatChart(document_, this);
    else
        chart_ = load_ = new LoadChart(document_, this);
    right->addWidget(title_);
    right->addWidget(chart_, 1);
    under_ = new QVBoxLayout;
    under_->setSpacing(3);
    right->addLayout(under_);
}

void FiguresPage::addBelow(QWidget* widget) {
    below_->addWidget(widget);
}

void FiguresPage::addUnderPicture(QWidget* widget) {
    under_->addWidget(widget);
}

void FiguresPage::widen() {
    left_->setFixedWidth(share(look_.share, 350, 760));
}

void FiguresPage::refresh() {
    const auto mark = q(powerplant::markWithFuel(document_.aircraft()));
    heading_->setText(look_.heading.contains(QStringLiteral("%1")) ? look_.heading.arg(mark) : look_.heading);
    figures_->setAccessibleName(heading_->text());
    figures_->put(figures());
    if (heat_)
        heat_->draw(std::get<HeatChart::Kind>(look_.picture), phase_);
    else
        load_->draw(std::get<LoadChart::Kind>(look_.picture), phase_);
    title_->setText(chart_->title());
    title_->setToolTip(title_->text());
}

} // namespace amber::app
