// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/cooling_page.h"
#include "advice/cooling.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
using namespace figures;

CoolingPage::CoolingPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Speed and opening (model)"), HeatChart::Kind::cooling, 0.427}, parent) {
    setObjectName(QStringLiteral("cooling-page"));
}

Figures CoolingPage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto picture =
        advice::coolingPicture(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    const auto& t = *n.cockpit.temperature;
    Table table(
        {tr("IAS"), phase_ == Phase::climb ? tr("climbs") : tr("margin"), tr("settles"), tr("opening for normal")});
    for (const auto& w : picture.ways) {
        table.row({q(format(w.ias.si(), *n.cockpit.speed)),
                   q(format(rounded(w.rate.si(), verticalSpeedStep(n.cockpit)), verticalSpeedUnit(n.cockpit))),
                   Table::Cell(q(format(w.settles.si(), t)), w.verdict),
                   w.need.enough ? tr("%1 %").arg(std::lround(100 * w.need.opening))
                                 : tr("not even open: %1").arg(q(format(w.need.settles.si(), t)))},
                  w.planned);
    }
    Figures out{std::move(table)};
    QStringList lines;
    lines << tr("Bold is the plan: %1 at %2, the hottest moment. Faster is flatter and cooler; slower is steeper and "
                "hotter.")
                 .arg(q(flapText(picture.opening)), q(formatHeight(picture.height.si(), *n.cockpit.height)));
    if (picture.amber)
        lines << QStringLiteral("%1 %2").arg(html::mark(picture.planSettles, c),
                                             html::text(picture.planSettles.sentence()));
    if (picture.boils)
        lines << tr("Coolant boils at %1 here, with %2 % glycol%3.")
                     .arg(q(format(picture.boils->si(), t)))
                     .arg(std::lround(100 * n.heat.glycol))
                     .arg(n.heat.coolantCap.si() > 0
                              ? tr(" and the cap at %1").arg(q(format(n.heat.coolantCap.si(), *n.cockpit.pressure)))
                              : QString());
    out.emplace_back(lines.join(QStringLiteral("<br>")));
    if (!picture.remedies.empty()) {
        Table remedies({tr("when it passes amber"), tr("brings"), tr("costs")}, 2);
        for (const auto& r : picture.remedies)
            remedies.row({q(r.what), degrees(r.change, n.cockpit), q(r.cost)});
        out.emplace_back(std::move(remedies));
    }
    return out;
}

} // namespace amber::app
