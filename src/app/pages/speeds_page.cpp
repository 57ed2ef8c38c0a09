// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/speeds_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "plan/load_plan.h"
#include "units/text.h"

namespace amber::app {

SpeedsPage::SpeedsPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Speeds by weight (notes, and between them)"), LoadChart::Kind::speeds, 0.44}, parent) {
    setObjectName(QStringLiteral("speeds-page"));
}

Figures SpeedsPage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const UnitSpec &v = *n.cockpit.speed, &w = *n.cockpit.weight;
    const auto lines = plan::speedLines(document_.aircraft(), document_.plan().flown);
    Figures out;
    if (!lines.empty() && !lines.front().at.empty()) {
        QStringList heads{tr("IAS, %1").arg(q(std::string(v.symbol)))};
        for (const auto& at : lines.front().at)
            heads << q(at.where);
        Table table(heads);
        std::vector<Table::Cell> weights{tr("weight, %1").arg(q(std::string(w.symbol)))};
        for (const auto& at : lines.front().at)
            weights.emplace_back(q(formatValue(at.weight, w)));
        table.row(std::move(weights));
        for (const auto& l : lines) {
            std::vector<Table::Cell> row{q(l.name)};
            for (const auto& at : l.at)
                row.emplace_back(q(formatValue(at.speed.si(), v)));
            table.row(std::move(row), true);
        }
        out.emplace_back(std::move(table));
        out.emplace_back(tr("Between the columns for %1 and %2; beyond them as at their end.")
                             .arg(html::text(format(n.speeds.lightWeight.si(), w)),
                                  html::text(format(n.speeds.heavyWeight.si(), w))));
    }
    const auto load = plan::loadPlan(document_.aircraft(), document_.sortie(), document_.plan().flown);
    if (!load.distances.empty()) {
        Table table({tr("distances today"), tr("is"), tr("because")}, 2);
        for (std::size_t i = 0; i < load.distances.size(); ++i) {
            const auto& d = load.distances[i];
            const auto& verdict = load.distanceVerdicts[i];
            const QString is = d.value ? q(format(*d.value, *d.unit)) : tr("not in the table");
            // What nothing is held against has no colour.
            table.row({q(d.name), verdict.sentence().empty() ? Table::Cell(is) : Table::Cell(is, verdict), q(d.why)});
        }
        out.emplace_back(std::move(table));
        QStringList notes;
        for (const auto& verdict : load.distanceVerdicts)
            if (verdict.colour() != watch::Colour::normal)
                notes << QStringLiteral("%1 %2").arg(html::mark(verdict, c), html::text(verdict.sentence()));
        notes << tr(
            "By the notes' tables, between their entries only. They were flown by one pilot on one day in a new "
            "aircraft: keep a margin, and the approved manual comes first.");
        out.emplace_back(notes.join(QStringLiteral("<br>")));
    }
    return out;
}

} // namespace amber::app
