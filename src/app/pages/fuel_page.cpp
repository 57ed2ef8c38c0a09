// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/fuel_page.h"
#include "advice/fuel_needed.h"
#include "kit/html.h"
#include "kit/words.h"
#include "units/text.h"

namespace amber::app {

FuelPage::FuelPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Fuel for today (%1)"), LoadChart::Kind::fuel, 0.42}, parent) {
    setObjectName(QStringLiteral("fuel-page"));
}

Figures FuelPage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const UnitSpec &u = *n.cockpit.fuel, &d = *n.cockpit.distance;
    const auto need = advice::fuelNeeded(document_.aircraft(), document_.sortie(), f);
    bool tabled = false;
    for (const auto& p : need.parts)
        tabled = tabled || p.byTable;
    QStringList heads{tr("part"), q(std::string(u.symbol)), tr("h:mm"), q(std::string(d.symbol))};
    if (tabled)
        heads << tr("by the notes");
    Table table(heads);
    const auto volume = [&](double v) { return q(formatValue(v, u, v < 100 * u.scale ? 1 : 0)); };
    for (const auto& p : need.parts) {
        std::vector<Table::Cell> row{q(p.what), volume(p.volume), q(formatHoursMinutes(p.seconds)),
                                     p.distance > 0 ? q(formatValue(p.distance, d)) : QString()};
        if (tabled)
            row.emplace_back(
                p.byTable ? tr("%1 (%2 %)")
                                .arg(volume(*p.byTable), q(formatNumber(100 * (p.volume / *p.byTable - 1), 0, true)))
                          : QString());
        table.row(std::move(row));
    }
    const auto total = [&](const QString& what, double v) {
        std::vector<Table::Cell> row{what, volume(v), QString(), QString()};
        if (tabled)
            row.emplace_back(QString());
        table.row(std::move(row), true);
    };
    total(tr("required"), need.needed);
    total(tr("on board"), need.aboard);
    Figures out{std::move(table)};
    QStringList lines;
    lines << QStringLiteral("%1 %2").arg(html::mark(need.verdict, c), html::text(need.verdict.sentence()));
    lines << tr("<b>Range with reserve</b> %1, endurance %2 from take-off.")
                 .arg(html::text(format(need.furthest, d)), html::text(formatHoursOrMinutes(need.longest)));
    lines << tr("%1 more is unusable; fuel weighs %2 a %3 today.")
                 .arg(html::text(format(need.unusable, u)),
                      html::text(formatNumber(f.fuelDensity * u.scale / n.cockpit.weight->scale, 2) + " " +
                                 std::string(n.cockpit.weight->symbol)),
                      q(std::string(u.symbol)));
    for (const auto& leg : f.legs)
        if (leg.knowsWind)
            lines << tr("To %1: %2 over the ground, %3 %4.")
                         .arg(html::text(leg.to), html::text(format(leg.ground, *n.cockpit.speed)),
                              html::text(format(std::abs(leg.wind.along), *n.cockpit.speed)),
                              leg.wind.along < 0 ? tr("against it") : tr("behind it"));
    if (need.oilHours > 0)
        lines << tr("<b>Oil</b> %1 on board, %2 used, enough for %3 (notes).")
                     .arg(html::text(format(need.oilAboard, u)), html::text(format(need.oilBurnt, u, 1)),
                          html::text(formatHoursOrMinutes(need.oilHours)));
    out.emplace_back(lines.join(QStringLiteral("<br>")));
    return out;
}

} // namespace amber::app
