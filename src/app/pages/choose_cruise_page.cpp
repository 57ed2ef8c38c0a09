// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/choose_cruise_page.h"
#include "engine/leaning.h"
#include "kit/captioned.h"
#include "kit/flow_layout.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <cmath>

namespace amber::app {

ChooseCruisePage::ChooseCruisePage(SortieDocument& document, QWidget* parent) : Page(document, parent) {
    setObjectName(QStringLiteral("choose-cruise-page"));
    auto [column, left, right] = halves(24, 0);
    left_ = column;
    auto* fields = new QWidget(left_);
    auto* flow = new FlowLayout(fields, 18, 4);
    flow->setContentsMargins(0, 0, 0, 6);
    askChoice_ = new QComboBox(fields);
    askChoice_->setObjectName(QStringLiteral("ask"));
    for (const auto& name : flight::askNames)
        askChoice_->addItem(QString::fromUtf8(name.title.data()));
    flow->addWidget(captioned(tr("Ask for"), askChoice_, fields));
    connect(askChoice_, &QComboBox::activated, this, [this](int index) {
        ask_ = flight::askNames[static_cast<std::size_t>(index)].ask;
        refresh();
    });
    InlineField::Behaviour b;
    b.show = [this] { return q(format(askedValue(), askUnit(), ask_ == flight::Ask::endurance ? 1 : -1)); };
    b.apply = [this](const QString& text, int) -> QString {
        const auto read = readQuantity(flight::nameOf(ask_).dimension, text.toStdString(), &askUnit());
        if (!read || !(read.value().si > 0))
            return read ? tr("Ask for more than nothing.") : q(read.error());
        ask(ask_, read.value().si);
        return {};
    };
    b.step = [this](int steps, int) -> QString {
        ask(ask_, std::max(1e-9, askedValue() * (1.0 + 0.02 * steps)));
        return {};
    };
    asked_ = new InlineField(tr("Of"), QStringLiteral("asked"), std::move(b), fields);
    asked_->setHint(tr("What the cruise should give"));
    connect(asked_, &InlineField::refused, this, &Page::refused);
    flow->addWidget(asked_);
    leanTest_ = new QComboBox(fields);
    leanTest_->setObjectName(QStringLiteral("lean-test"));
    leanTest_->addItems({tr("not tried"), tr("rose, then fell"), tr("fell at once"), tr("no change")});
    leanTest_->setToolTip(tr("What rpm or torque did when the mixture was pulled a little"));
    flow->addWidget(captioned(tr("Lean test"), leanTest_, fields));
    connect(leanTest_, &QComboBox::activated, this, [this] { refresh(); });
    left->addWidget(fields);
    rows_ = new RowView(QStringLiteral("sequence"), this);
    rows_->setAccessibleName(tr("Settings that give it"));
    heading_ = heading({});
    left->addWidget(heading_);
    left->addWidget(rows_);
    left->addStretch(1);
    right->setSpacing(4);
    right->addWidget(heading(tr("Levers, from the climb to this cruise (model)")));
    map_ = new LeverMap(document_, this);
    right->addWidget(map_, 1);
    moves_ = richText("moves");
    right->addWidget(moves_);
    connect(rows_, &RowView::taken, this, [this](int r) { take(r - 1); });
}

void ChooseCruisePage::widen() {
    stack(*static_cast<QBoxLayout*>(layout()), narrow());
    setColumn(*left_, narrow() ? 0 : share(0.562, 500, 900));
    map_->setMinimumHeight(narrow() ? 240 : 0);
}

const UnitSpec& ChooseCruisePage::askUnit() const {
    const auto& c = document_.aircraft().notes.cockpit;
    switch (ask_) {
    case flight::Ask::power:
        return *c.power;
    case flight::Ask::burn:
        return fuelFlowUnit(c);
    case flight::Ask::airspeed:
        return *c.speed;
    case flight::Ask::endurance:
        return *units::hour.spec;
    case flight::Ask::range:
        break;
    }
    return *c.distance;
}

double ChooseCruisePage::askedValue() const {
    if (const auto found = values_.find(ask_); found != values_.end())
        return found->second;
    const auto& f = document_.plan().flown;
    const double fuel = f.samples[f[Phase::cruise].firstSample][Gauge::fuel],
                 endurance = f.cruiseFuelFlow > 0 ? fuel / f.cruiseFuelFlow : 0;
    switch (ask_) {
    case flight::Ask::power:
        return f[Phase::cruise].point.power.si();
    case flight::Ask::burn:
        return f.cruiseFuelFlow;
    case flight::Ask::airspeed:
        return f.cruiseTas.si();
    case flight::Ask::endurance:
        return endurance;
    case flight::Ask::range:
        break;
    }
    return endurance * f.cruiseTas.si();
}

void ChooseCruisePage::ask(flight::Ask what, double valueSi) {
    ask_ = what;
    values_[what] = valueSi;
    askChoice_->setCurrentIndex(static_cast<int>(what));
    refresh();
}

CandidateRow ChooseCruisePage::rowOf(const flight::CruisePoint& p) const {
    const auto& n = document_.aircraft().notes;
    const auto& cruise = document_.plan().flown[Phase::cruise];
    const UnitSpec& flow = fuelFlowUnit(n.cockpit);
    CandidateRow row;
    row.rpm = format(std::round(p.setting.rpm.si() * 6) / 6, *units::rpm.spec);
    row.boost =
        n.gauges.contains(Gauge::boost) ? format(p.point.manifoldPressure.si(), n.unitOf(Gauge::boost)) : std::string{};
    row.gear = n.engine.gears.size() > 1 ? n.engine.gears[p.setting.gear].name : std::string{};
    row.mixture = p.setting.mixture == Mixture::rich ? "rich" : "weak";
    row.power = format(p.point.power.si(), *n.cockpit.power);
    row.burn = format(p.burn, flow, p.burn < 30 * flow.scale ? 1 : 0);
    row.speed = format(p.tas.si(), *n.cockpit.speed);
    row.endurance = formatHoursMinutes(p.endurance) + " h";
    row.why = p.why;
    if (n.gauges.contains(Gauge::torque))
        row.why = "BMEP " + format(p.point.meanEffectivePressure, n.unitOf(Gauge::torque)) + "; " + row.why;
    row.chosen = std::abs(p.setting.rpm.si() - cruise.setting.rpm.si()) < 0.2 &&
                 std::abs(p.point.manifoldPressure.si() - cruise.point.manifoldPressure.si()) < 300 &&
                 p.setting.gear == cruise.setting.gear && p.setting.mixture == cruise.setting.mixture;
    return row;
}

void ChooseCruisePage::refresh() {
    const auto& a = document_.aircraft();
    const auto& n = a.notes;
    const auto& cruise = document_.plan().flown[Phase::cruise];
    asked_->refresh();
    heading_->setText(tr("Settings that give it (%1)").arg(q(powerplant::markWithFuel(a))));
    answer_ = flight::cruiseCandidates(a, cruiseConditionsOf(document_), ask_, askedValue());
    std::vector<Row> rows;
    CandidateRow head{"rpm", "boost", "gear", "mixture", "power", "burn", "true speed", "hours", {}, false, true};
    if (n.engine.gears.size() < 2)
        head.gear.clear();
    rows.emplace_back(head);
    bool any = false;
    for (const auto& p : answer_.candidates) {
        rows.emplace_back(rowOf(p));
        any = any || std::get<CandidateRow>(rows.back()).chosen;
    }
    if (!any) {
        // The plan's own cruise, for comparison.
        const engine::KnockBoundary knock(n, a.model(), document_.sortie().fuelGrade);
        auto own = flight::cruisePoint(
            a, cruiseConditionsOf(document_), knock,
            {cruise.setting.rpm, cruise.setting.boost, cruise.setting.gear, cruise.setting.mixture});
        own.why = "as planned now";
        rows.emplace_back(rowOf(own));
    }
    rows_->put(std::move(rows));
    map_->setVisible(!n.engine.gears.empty());
    map_->refresh();
    QStringList lines;
    if (answer_.candidates.empty())
        lines << QStringLiteral("<b>%1</b>").arg(html::text(answer_.why));
    else
        lines << tr("<i>Enter or a double click takes a setting into the plan.</i>");
    if (!n.engine.gears.empty())
        lines << map_->words();
    if (leanTest_->currentIndex() > 0) {
        const auto told = engine::readLeanTest(static_cast<engine::LeanResponse>(leanTest_->currentIndex() - 1),
                                               engine::weakAllowed(n, cruise.point.power));
        lines << tr("<b>Lean test</b> %1 %2").arg(html::text(told.sentence), html::text(told.next));
    }
    moves_->setText(lines.join(QStringLiteral("<br>")));
}

void ChooseCruisePage::take(int index) {
    if (index < 0 || index >= static_cast<int>(answer_.candidates.size()))
        return;
    const auto& p = answer_.candidates[static_cast<std::size_t>(index)];
    const auto& n = document_.aircraft().notes;
    Sortie changed = document_.sortie();
    changed.flight.cruiseRpm = p.setting.rpm;
    changed.flight.cruiseBoost =
        n.gauges.contains(Gauge::boost) ? std::optional(p.point.manifoldPressure) : std::nullopt;
    changed.flight.cruiseMixture = p.setting.mixture;
    changed.flight.cruiseGear = n.engine.gears.empty() ? std::string{} : n.engine.gears[p.setting.gear].name;
    edit(changed, tr("cruise setting"));
}

} // namespace amber::app
