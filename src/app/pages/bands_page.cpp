// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/bands_page.h"
#include "advice/climb_bands.h"
#include "kit/html.h"
#include "kit/table.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
using namespace figures;

BandsPage::BandsPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("The climb, band by band (model)"), HeatChart::Kind::climb, 0.427}, parent) {
    setObjectName(QStringLiteral("bands-page"));
}

QString BandsPage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const bool boost = n.gauges.contains(Gauge::boost), geared = n.engine.gears.size() > 1;
    QStringList heads{tr("up to"), tr("IAS"), tr("rpm")};
    if (boost)
        heads << tr("boost");
    if (geared)
        heads << tr("gear");
    heads << tr("climbs") << tr("after") << tr("fuel") << tr("over");
    Table table(c, heads);
    const auto bands = advice::climbBands(document_.aircraft(), document_.sortie(), f);
    for (const auto& b : bands) {
        QStringList row{html::text(formatHeight(b.height.si(), *n.cockpit.height)),
                        html::text(formatValue(b.ias.si(), *n.cockpit.speed)),
                        html::text(formatValue(rounded(b.rpm.si(), 10.0 / 60), *units::rpm.spec))};
        if (boost)
            row << html::text(formatValue(b.boost.si(), n.unitOf(Gauge::boost)));
        if (geared)
            row << html::text(n.engine.gears[b.gear].name);
        row << html::text(formatValue(rounded(b.rate.si(), verticalSpeedStep(n.cockpit)), verticalSpeedUnit(n.cockpit)))
            << clock(b.time) << html::text(formatValue(b.fuel, *n.cockpit.fuel))
            << html::text(formatValue(b.distance, *n.cockpit.distance));
        table.row(row, &b == &bands.back());
    }
    QString out = table.html();
    out +=
        tr("<p>IAS in %1%2, %3, fuel in %4, %5 over the ground in still air, all from the first reduction. What the "
           "needles "
           "show at the top of each band.</p>")
            .arg(html::text(std::string(n.cockpit.speed->symbol)),
                 boost ? tr(", boost in %1").arg(html::text(std::string(n.unitOf(Gauge::boost).symbol))) : QString(),
                 tr("climb in %1").arg(html::text(std::string(verticalSpeedUnit(n.cockpit).symbol))),
                 html::text(std::string(n.cockpit.fuel->symbol)), html::text(std::string(n.cockpit.distance->symbol)));
    for (const auto& change : f.gearChanges)
        out += tr("<p><b>To %1 gear at %2</b> Throttle back to %3 (notes) before it.</p>")
                   .arg(html::text(n.engine.gears[change.to].name),
                        html::text(formatHeight(change.height.si(), *n.cockpit.height)),
                        n.gearChange ? html::text(format(n.gearChange->throttleBackTo.si(), n.unitOf(Gauge::boost)))
                                     : QString());
    if (n.engine.correctorFrom)
        out += tr("<p><b>Corrector</b> from %1 (notes).</p>")
                   .arg(html::text(formatHeight(n.engine.correctorFrom->si(), *n.cockpit.height)));
    return out;
}

} // namespace amber::app
