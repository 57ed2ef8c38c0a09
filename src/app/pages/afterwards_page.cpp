// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/afterwards_page.h"
#include "advice/cool_down.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
using namespace figures;

AfterwardsPage::AfterwardsPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Stopped, and started again (model)"), HeatChart::Kind::afterwards, 0.403}, parent) {
    setObjectName(QStringLiteral("afterwards-page"));
}

Figures AfterwardsPage::figures() const {
    const auto& n = document_.aircraft().notes;
    const auto cool = advice::coolDown(document_.aircraft(), document_.sortie(), document_.plan().flown);
    QStringList lines;
    if (cool.below)
        lines << (cool.atIdle > 0
                      ? tr("<b>Idle</b> %1 more after the taxi, until under %2.")
                            .arg(clock(cool.atIdle), html::text(format(cool.below->si(), *n.cockpit.temperature)))
                      : tr("<b>Idle</b> Under %1 when parked: no need to wait.")
                            .arg(html::text(format(cool.below->si(), *n.cockpit.temperature))));
    lines << tr("<b>Scavenge</b> %1 at %2; then the propeller %3 (notes).")
                 .arg(html::text(format(n.stop.scavenge.si(), *units::second.spec)),
                      html::text(format(n.stop.scavengeRpm.si(), *units::rpm.spec)),
                      html::text(n.stop.parking.empty() ? std::string("as it stops") : n.stop.parking));
    lines << (cool.dilute ? tr("<b>Dilute</b> %1 (%2). %3")
                                .arg(clock(*cool.dilute), html::text(std::string(markOf(cool.diluteOrigin))),
                                     html::text(cool.diluteWhy))
                          : tr("<b>Dilution</b> %1").arg(html::text(cool.diluteWhy)));
    Figures out{lines.join(QStringLiteral("<br>"))};
    Table table({tr("again after"), tr("engine"), tr("prime"), QString()});
    QString advice;
    for (const auto& r : cool.restarts) {
        table.row({tr("%1 min").arg(std::lround(r.after / 60)), q(format(r.engine.si(), *n.cockpit.temperature)),
                   r.dose > 0 ? q(advice::doseText(r.dose, n.start.primer)) : tr("none"),
                   q(std::string(markOf(r.origin)))});
        if (html::text(r.advice) != advice.section(QStringLiteral("</b> "), -1))
            advice += QStringLiteral("%1<b>%2</b> %3")
                          .arg(advice.isEmpty() ? QString() : QStringLiteral("<br>"),
                               tr("After %1 min").arg(std::lround(r.after / 60)), html::text(r.advice));
    }
    out.emplace_back(std::move(table));
    out.emplace_back(advice);
    return out;
}

} // namespace amber::app
