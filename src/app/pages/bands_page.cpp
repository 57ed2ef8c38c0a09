// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/bands_page.h"
#include "advice/climb_bands.h"
#include "kit/html.h"
#include "kit/words.h"
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

Figures BandsPage::figures() const {
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const bool boost = n.gauges.contains(Gauge::boost), geared = n.engine.gears.size() > 1;
    QStringList heads{tr("up to"), tr("IAS"), tr("rpm")};
    if (boost)
        heads << tr("boost");
    if (geared)
        heads << tr("gear");
    heads << tr("climbs") << tr("after") << tr("fuel") << tr("over");
    Table table(heads);
    const auto bands = advice::climbBands(document_.aircraft(), document_.sortie(), f);
    for (const auto& b : bands) {
        std::vector<Table::Cell> row{q(formatHeight(b.height.si(), *n.cockpit.height)),
                                     q(formatValue(b.ias.si(), *n.cockpit.speed)),
                                     q(formatValue(rounded(b.rpm.si(), 10.0 / 60), *units::rpm.spec))};
        if (boost)
            row.emplace_back(q(formatValue(b.boost.si(), n.unitOf(Gauge::boost))));
        if (geared)
            row.emplace_back(q(n.engine.gears[b.gear].name));
        row.emplace_back(
            q(formatValue(rounded(b.rate.si(), verticalSpeedStep(n.cockpit)), verticalSpeedUnit(n.cockpit))));
        row.emplace_back(clock(b.time));
        row.emplace_back(q(formatValue(b.fuel, *n.cockpit.fuel)));
        row.emplace_back(q(formatValue(b.distance, *n.cockpit.distance)));
        table.row(std::move(row), &b == &bands.back());
    }
    Figures out{std::move(table)};
    out.emplace_back(
        tr("IAS in %1%2, %3, fuel in %4, %5 over the ground, all from the first reduction. What the "
           "needles "
           "show at the top of each band.")
            .arg(html::text(std::string(n.cockpit.speed->symbol)),
                 boost ? tr(", boost in %1").arg(html::text(std::string(n.unitOf(Gauge::boost).symbol))) : QString(),
                 tr("climb in %1").arg(html::text(std::string(verticalSpeedUnit(n.cockpit).symbol))),
                 html::text(std::string(n.cockpit.fuel->symbol)), html::text(std::string(n.cockpit.distance->symbol))));
    for (const auto& change : f.gearChanges)
        out.emplace_back(tr("<b>To %1 gear at %2</b> Throttle back to %3 (notes) before it.")
                             .arg(html::text(n.engine.gears[change.to].name),
                                  html::text(formatHeight(change.height.si(), *n.cockpit.height)),
                                  n.gearChange
                                      ? html::text(format(n.gearChange->throttleBackTo.si(), n.unitOf(Gauge::boost)))
                                      : QString()));
    if (n.engine.correctorFrom)
        out.emplace_back(tr("<b>Corrector</b> from %1 (notes).")
                             .arg(html::text(formatHeight(n.engine.correctorFrom->si(), *n.cockpit.height))));
    return out;
}

} // namespace amber::app
