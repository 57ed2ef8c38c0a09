// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/allows_page.h"
#include "advice/best_cruise.h"
#include "advice/day_allows.h"
#include "kit/html.h"
#include "kit/words.h"
#include "units/text.h"

namespace amber::app {

AllowsPage::AllowsPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("What the day allows (model)"), LoadChart::Kind::allows, 0.40}, parent) {
    setObjectName(QStringLiteral("allows-page"));
    take_ = new QPushButton(tr("Take it"), this);
    take_->setObjectName(QStringLiteral("take"));
    back_ = new QPushButton(tr("Back to the rating"), this);
    back_->setObjectName(QStringLiteral("back-to-rating"));
    for (auto* button : {take_, back_}) {
        button->setFont(face(13));
        addBelow(button);
    }
    connect(take_, &QPushButton::clicked, this, &AllowsPage::take);
    connect(back_, &QPushButton::clicked, this, [this] {
        Sortie changed = document_.sortie();
        auto& f = changed.flight;
        if (phase_ == Phase::takeOff) {
            f.takeOffRpm.reset();
            f.takeOffBoost.reset();
        } else if (phase_ == Phase::climb) {
            f.climbRpm.reset();
            f.climbBoost.reset();
        } else {
            f.cruiseRpm.reset();
            f.cruiseBoost.reset();
            f.cruiseGear.clear();
        }
        edit(changed, tr("setting"));
    });
}

void AllowsPage::refresh() {
    FiguresPage::refresh();
    const auto d = advice::dayAllows(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    take_->setVisible(!d.planned && d.boost);
    const auto& f = document_.sortie().flight;
    back_->setVisible(phase_ == Phase::takeOff ? f.takeOffBoost.has_value()
                      : phase_ == Phase::climb ? f.climbBoost.has_value()
                                               : f.cruiseBoost.has_value());
}

void AllowsPage::take() {
    const auto d = advice::dayAllows(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    edit(advice::taken(document_.aircraft().notes, document_.sortie(), d), tr("setting"));
}

Figures AllowsPage::figures() const {
    const auto& a = document_.aircraft();
    const auto& n = a.notes;
    const auto& f = document_.plan().flown;
    const auto d = advice::dayAllows(a, document_.sortie(), f, phase_);
    Figures out;
    if (!d.lines.empty()) {
        const UnitSpec& u = n.unitOf(Gauge::boost);
        Table table({tr("at %1").arg(q(format(d.rpm, units::rpm))), tr("leaves, %1").arg(q(std::string(u.symbol)))});
        for (const auto& line : d.lines)
            if (const auto most = advice::boundAt(a, document_.sortie(), f, phase_, line.bound, d.rpm))
                table.row({q(std::string(advice::nameOf(line.bound))), q(formatValue(*most, u))},
                          line.bound == d.binds);
        table.row({tr("allowed"), q(formatValue(d.boost->si(), u))}, true);
        table.row({tr("planned, %1").arg(q(format(d.plannedRpm, units::rpm))), q(formatValue(d.plannedBoost.si(), u))});
        out.emplace_back(std::move(table));
    }
    QStringList lines;
    lines << QStringLiteral("<b>%1</b>").arg(html::text(d.sentence));
    lines << tr("%1 from each engine here; the rating gives %2 at sea level on the standard day.")
                 .arg(html::text(format(d.power.si(), *n.cockpit.power)),
                      html::text(format(d.standard.si(), *n.cockpit.power)));
    if (!d.gear.empty() && n.engine.gears.size() > 1)
        lines << tr("%1, %2 gear, at %3.")
                     .arg(html::text(d.rating), html::text(d.gear),
                          html::text(formatHeight(d.height.si(), *n.cockpit.height)));
    if (d.planned && d.boost)
        lines << tr("The plan has it so.");
    if (const auto above = advice::gradeAbove(n, document_.sortie().fuelGrade); !above.empty())
        lines << html::text(above);
    lines << (d.boost ? tr("Less boost wears the engine less: this is a maximum, not a target. The approved manual "
                           "comes first.")
                      : tr("This is a maximum, not a target. The approved manual comes first."));
    out.emplace_back(lines.join(QStringLiteral("<br>")));
    return out;
}

} // namespace amber::app
