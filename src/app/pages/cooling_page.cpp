// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/cooling_page.h"
#include "advice/cooling.h"
#include "kit/html.h"
#include "kit/table.h"
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

QString CoolingPage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto picture =
        advice::coolingPicture(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    const auto& t = *n.cockpit.temperature;
    Table table(c, {tr("IAS"), phase_ == Phase::climb ? tr("climbs") : tr("to spare"), tr("settles"),
                    tr("opening for normal")});
    for (const auto& w : picture.ways) {
        table.row({html::text(format(w.ias.si(), *n.cockpit.speed)),
                   html::text(format(rounded(w.rate.si(), verticalSpeedStep(n.cockpit)), verticalSpeedUnit(n.cockpit))),
                   html::mark(w.verdict, c) + QStringLiteral(" ") + html::text(format(w.settles.si(), t)),
                   w.need.enough ? tr("%1 %").arg(std::lround(100 * w.need.opening))
                                 : tr("not even open: %1").arg(html::text(format(w.need.settles.si(), t)))},
                  w.planned);
    }
    QString out = table.html();
    QStringList lines;
    lines << tr("Bold is the plan: %1 at %2, the hottest moment. Faster is flatter and cooler; slower is steeper and "
                "hotter.")
                 .arg(html::text(flapText(picture.opening)),
                      html::text(formatHeight(picture.height.si(), *n.cockpit.height)));
    if (picture.amber)
        lines << QStringLiteral("%1 %2").arg(html::mark(picture.planSettles, c),
                                             html::text(picture.planSettles.sentence()));
    if (picture.boils)
        lines << tr("Coolant boils at %1 here, with %2 % glycol%3.")
                     .arg(html::text(format(picture.boils->si(), t)))
                     .arg(std::lround(100 * n.heat.glycol))
                     .arg(n.heat.coolantCap.si() > 0
                              ? tr(" and the cap at %1")
                                    .arg(html::text(format(n.heat.coolantCap.si(), *n.cockpit.pressure)))
                              : QString());
    out += QStringLiteral("<p>%1</p>").arg(lines.join(QStringLiteral("<br>")));
    if (!picture.remedies.empty()) {
        Table remedies(c, {tr("when it passes amber"), tr("brings"), tr("costs")}, 2);
        for (const auto& r : picture.remedies)
            remedies.row({html::text(r.what), degrees(r.change, n.cockpit), html::text(r.cost)});
        out += remedies.html();
    }
    return out;
}

} // namespace amber::app
