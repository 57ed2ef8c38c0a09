// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/leaning.h"
#include "kit/html.h"
#include "kit/rich_label.h"
#include "notes/cockpit_units.h"
#include "pages/phase_page.h"
#include "units/text.h"
#include "units/unit_table.h"
#include <QVBoxLayout>
#include <cmath>

namespace amber::app {

namespace {
std::string fmtTorque(const flight::CruisePoint& p, const TypeNotes& n) {
    return "BMEP " + format(p.point.meanEffectivePressure, n.unitOf(Gauge::torque)) + "; ";
}

} // namespace

void PhasePage::buildEnginePages(QHBoxLayout* row) {
    powerChart_ = new PowerChartView(this);
    row->addWidget(powerChart_, 1);
    connect(powerChart_, &PowerChartView::readingChanged, this, [this] {
        steps_->setText(
            powerChart_->steps().join(QStringLiteral("<br><br>")) +
            tr("<br><br><i>Drag A for the boost, the diamond for the height. Left and Right: height; Up and "
               "Down: boost; Page Up and Down: rpm; G: gear; Home: the plan's setting.</i>"));
    });
    leverColumn_ = new QWidget(this);
    auto* column = new QVBoxLayout(leverColumn_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    column->addWidget(heading(tr("Levers, from the climb to this cruise (model)")));
    leverMap_ = new LeverMap(document_, leverColumn_);
    column->addWidget(leverMap_, 1);
    moves_ = new RichLabel(leverColumn_);
    moves_->setObjectName(QStringLiteral("moves"));
    moves_->setFont(face(13));
    column->addWidget(moves_);
    row->addWidget(leverColumn_, 1);
    connect(sequence_, &RowView::taken, this, [this](int r) { takeCandidate(r - 1); });
}

void PhasePage::refreshChart() {
    const auto& f = document_.plan().flown[phase_];
    const auto& m = document_.plan().flown.samples[f.firstSample];
    const Length altitude = document_.sortie().day.pressureAltitudeOf(Length::si(m[Gauge::height]));
    powerChart_->show(document_.sharedAircraft(),
                      {f.setting.rpm, f.point.manifoldPressure, f.setting.gear,
                       Length::si(std::max(0.0, altitude.si())), document_.sortie().day.at(altitude).temperature});
}

QByteArray PhasePage::chartPicture(bool svg) {
    if (subPage() != SubPage::chart)
        refreshChart();
    constexpr int width = 1100, height = 620;
    return svg ? powerChart_->svg(width, height) : powerChart_->png(width, height);
}

QByteArray PhasePage::chartTable() {
    if (subPage() != SubPage::chart)
        refreshChart();
    return powerChart_->csv();
}

const UnitSpec& PhasePage::askUnit() const {
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

double PhasePage::askedValue() const {
    if (const auto found = askedValues_.find(ask_); found != askedValues_.end())
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

void PhasePage::ask(flight::Ask what, double valueSi) {
    ask_ = what;
    askedValues_[what] = valueSi;
    askChoice_->setCurrentIndex(static_cast<int>(what));
    refresh();
}

void PhasePage::refreshChoice() {
    const auto& a = document_.aircraft();
    const auto& n = a.notes;
    const auto& cruise = document_.plan().flown[Phase::cruise];
    answer_ = flight::cruiseCandidates(a, cruiseConditionsOf(document_), ask_, askedValue());
    std::vector<Row> rows;
    CandidateRow head{"rpm", "boost", "gear", "mixture", "power", "burn", "true speed", "hours", {}, false, true};
    if (n.engine.gears.size() < 2)
        head.gear.clear();
    rows.emplace_back(head);
    const UnitSpec* flow = &fuelFlowUnit(n.cockpit);
    const auto rowOf = [&](const flight::CruisePoint& p) {
        CandidateRow row;
        row.rpm = format(std::round(p.setting.rpm.si() * 6) / 6, *units::rpm.spec);
        row.boost = n.gauges.contains(Gauge::boost) ? format(p.point.manifoldPressure.si(), n.unitOf(Gauge::boost))
                                                    : std::string{};
        row.gear = n.engine.gears.size() > 1 ? n.engine.gears[p.setting.gear].name : std::string{};
        row.mixture = p.setting.mixture == Mixture::rich ? "rich" : "weak";
        row.power = format(p.point.power.si(), *n.cockpit.power);
        row.burn = format(p.burn, *flow, p.burn < 30 * flow->scale ? 1 : 0);
        row.speed = format(p.tas.si(), *n.cockpit.speed);
        row.endurance = formatHoursMinutes(p.endurance) + " h";
        row.why = p.why;
        if (n.gauges.contains(Gauge::torque))
            row.why = fmtTorque(p, n) + row.why;
        row.chosen = std::abs(p.setting.rpm.si() - cruise.setting.rpm.si()) < 0.2 &&
                     std::abs(p.point.manifoldPressure.si() - cruise.point.manifoldPressure.si()) < 300 &&
                     p.setting.gear == cruise.setting.gear && p.setting.mixture == cruise.setting.mixture;
        return row;
    };
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
    sequence_->put(std::move(rows));
    leverMap_->setVisible(!n.engine.gears.empty());
    leverMap_->refresh();
    QStringList lines;
    if (answer_.candidates.empty())
        lines << QStringLiteral("<b>%1</b>").arg(html::text(answer_.why));
    else
        lines << tr("<i>Enter or a double click takes a setting into the plan.</i>");
    if (!n.engine.gears.empty())
        lines << leverMap_->words();
    if (leanTest_->currentIndex() > 0) {
        const auto verdict = engine::readLeanTest(static_cast<engine::LeanResponse>(leanTest_->currentIndex() - 1),
                                                  engine::weakAllowed(n, cruise.point.power));
        lines << tr("<b>Lean test</b> %1 %2").arg(html::text(verdict.sentence), html::text(verdict.next));
    }
    moves_->setText(lines.join(QStringLiteral("<br>")));
}

void PhasePage::takeCandidate(int index) {
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
    if (const QString error = document_.edit(changed, tr("cruise setting")); !error.isEmpty())
        emit refused(error);
}

} // namespace amber::app
