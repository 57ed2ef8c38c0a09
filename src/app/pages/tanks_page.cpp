// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/tanks_page.h"
#include "kit/html.h"
#include "kit/words.h"
#include "loading/tank_sequence.h"
#include "plan/load_plan.h"
#include "units/text.h"

namespace amber::app {

TanksPage::TanksPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Tanks, when to change (%1)"), LoadChart::Kind::tanks, 0.44}, parent) {
    setObjectName(QStringLiteral("tanks-page"));
}

Figures TanksPage::figures() const {
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const UnitSpec& u = *n.cockpit.fuel;
    const double zero = f[Phase::start].start;
    Table table({tr("after the start"), tr("because")}, 1);
    for (const auto& line : plan::tankLines(document_.plan(), n)) {
        const QString text =
            QStringLiteral("%1  %2").arg(q(formatHoursMinutes(std::max(0.0, line.time - zero))), q(line.text));
        table.row({line.verdict.colour() == watch::Colour::normal ? Table::Cell(text) : Table::Cell(text, line.verdict),
                   q(line.why)});
    }
    Figures out{std::move(table)};
    Table tanks({tr("tank"), tr("at the start, %1").arg(q(std::string(u.symbol))), tr("left at the end"),
                 tr("left for another at")});
    const loading::TankSequence sequence(n, document_.sortie());
    const auto first = f.contents.at(0), last = f.contents.at(f.samples.size() - 1);
    for (std::size_t i = 0; i < n.fuel.tanks.size(); ++i) {
        const Tank& t = n.fuel.tanks[i];
        if (t.removable && !document_.sortie().contents.contains(t.id))
            continue;
        tanks.row({q(t.name) + (t.gauged ? QString() : tr(", no gauge")), q(formatValue(first[i], u)),
                   q(formatValue(last[i], u)),
                   t.id == n.fuel.landingTank
                       ? tr("kept to land: %1")
                             .arg(q(formatValue(std::max(sequence.leaveAt(static_cast<int>(i)), f.reserveFuel), u)))
                   : t.kind == TankKind::transfer ? tr("pumped over")
                   : t.runDry                     ? tr("run dry")
                                                  : q(formatValue(sequence.leaveAt(static_cast<int>(i)), u))});
    }
    out.emplace_back(std::move(tanks));
    QStringList lines;
    lines << tr("No tank is changed under %1 above the ground. Fuel pressure falls first when one runs dry: booster "
                "on, other "
                "tank, then look for why.")
                 .arg(html::text(formatHeight(sequence.changeAbove(), *n.cockpit.height)));
    for (const Phase phase : {Phase::climb, Phase::cruise, Phase::letDown})
        for (const auto& chore : n.phase(phase).clocks)
            if (chore.every)
                lines << tr("<b>%1</b> %2 in the %3 (notes): marked on the score.")
                             .arg(html::text(chore.what), html::text(chore.value),
                                  q(std::string(titleOf(phase))).toLower());
    out.emplace_back(lines.join(QStringLiteral("<br>")));
    return out;
}

} // namespace amber::app
