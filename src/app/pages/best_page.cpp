// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/best_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QTimer>
#include <QVBoxLayout>
#include <fmt/format.h>

namespace amber::app {

BestPage::BestPage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("best-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    rows_ = new RowView(QStringLiteral("sequence"), this);
    rows_->setAccessibleName(tr("Best cruises"));
    heading_ = heading({});
    left->addWidget(heading_);
    left->addWidget(rows_);
    words_ = richText("best-words");
    left->addWidget(words_);
    left->addStretch(1);
    right->setSpacing(2);
    title_ = pictureTitle("best-title");
    chart_ = new LoadChart(document_, this);
    right->addWidget(title_);
    right->addWidget(chart_, 1);
    later_ = new QTimer(this);
    later_->setSingleShot(true);
    connect(later_, &QTimer::timeout, this, &BestPage::search);
    connect(rows_, &RowView::taken, this, [this](int r) { take(r - 1); });
}

void BestPage::widen() {
    stack(*static_cast<QBoxLayout*>(layout()), narrow());
    setColumn(*left_, narrow() ? 0 : share(0.60, 500, 900));
    chart_->setMinimumHeight(narrow() ? 240 : 0);
}

void BestPage::refresh() {
    // The search and the flights at every height take longer than a frame: where a picture stands already, they come
    // after the frame that shows the edit.
    if (!best_.curves.empty() && isVisible()) {
        later_->start();
        return;
    }
    search();
}

void BestPage::enter() {
    best_ = {};
    later_->stop();
}

void BestPage::hideEvent(QHideEvent* event) {
    enter();
    Page::hideEvent(event);
}

void BestPage::search() {
    later_->stop();
    if (!document_.isOpen())
        return;
    const auto& a = document_.aircraft();
    best_ = advice::CruiseSearch(a, document_.sortie(), document_.plan().flown).search();
    legs_ = advice::leastFuelForLeg(a, document_.sortie(), document_.plan().flown);
    chart_->put(&best_);
    chart_->draw(LoadChart::Kind::best, phase_);
    heading_->setText(tr("Best for today's wind and weight (%1)").arg(q(powerplant::markWithFuel(a))));
    title_->setText(chart_->title());
    title_->setToolTip(title_->text());
    showRows();
}

void BestPage::showRows() {
    const auto& n = document_.aircraft().notes;
    const UnitSpec& flow = fuelFlowUnit(n.cockpit);
    found_ = plan::bestRows(best_, legs_);
    std::vector<Row> rows;
    CandidateRow head{"rpm",   "boost", "gear",       "mixture",
                      "power", "burn",  "true speed", std::string(n.cockpit.height->symbol),
                      {},      false,   true};
    if (n.engine.gears.size() < 2)
        head.gear.clear();
    if (!n.gauges.contains(Gauge::boost))
        head.boost.clear();
    rows.emplace_back(head);
    for (const auto& r : found_) {
        const auto& c = r.point.cruise;
        CandidateRow row;
        row.rpm = format(std::round(c.setting.rpm.si() * 6) / 6, *units::rpm.spec);
        row.boost = n.gauges.contains(Gauge::boost) ? format(c.point.manifoldPressure.si(), n.unitOf(Gauge::boost))
                                                    : std::string{};
        row.gear = n.engine.gears.size() > 1 ? plan::gearName(n, c.setting.gear) : std::string{};
        row.mixture = c.setting.mixture == Mixture::rich ? "rich" : "weak";
        row.power = format(c.point.power.si(), *n.cockpit.power);
        row.burn = format(c.burn, flow, c.burn < 30 * flow.scale ? 1 : 0);
        row.speed = format(c.tas.si(), *n.cockpit.speed);
        row.endurance = formatHeight(r.point.height.si(), *n.cockpit.height);
        row.endurance = row.endurance.substr(0, row.endurance.rfind(' '));
        row.why = r.name + ": " + plan::milesText(n, r.point.miles);
        if (r.id == "leg" && !legs_.empty())
            row.why += fmt::format(", {} in all", format(legs_.front().fuel, *n.cockpit.fuel));
        row.chosen = r.id == "now";
        rows.emplace_back(std::move(row));
    }
    rows_->put(std::move(rows));
    QStringList lines;
    lines << tr("<i>Enter or a double click takes a line into the plan, with its height.</i>");
    if (!best_.whyGear.empty()) {
        QString why = html::text(best_.whyGear);
        why[0] = why[0].toUpper();
        lines << why;
    }
    lines << (best_.windKnown ? tr("With the wind aloft on today's track.")
                              : tr("Still air: write the wind aloft and a track above, and it is reckoned in."));
    if (!document_.sortie().fuel.priceOfTime)
        lines << tr("Cheapest wants the price of an hour, in fuel.");
    lines << tr("Inside notes, grade, detonation limit and charge temperature. Ground, weather and oxygen are for you "
                "to judge.");
    words_->setText(lines.join(QStringLiteral("<br>")));
}

void BestPage::take(int row) {
    if (row < 0 || row >= static_cast<int>(found_.size()) || found_[static_cast<std::size_t>(row)].id == "now")
        return;
    edit(advice::taken(document_.aircraft().notes, document_.sortie(), found_[static_cast<std::size_t>(row)].point,
                       true),
         tr("best cruise"));
}

} // namespace amber::app
