// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/schedule_page.h"
#include "advice/let_down.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
using namespace figures;

SchedulePage::SchedulePage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Power off, step by step (model)"), HeatChart::Kind::schedule, 0.427}, parent) {
    setObjectName(QStringLiteral("schedule-page"));
}

Figures SchedulePage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const bool boost = n.gauges.contains(Gauge::boost);
    const auto limit = flight::coolingLimit(n);
    Table steps({tr("from"), boost ? tr("boost") : tr("rpm"), tr("flaps"),
                 n.engine.cooling == Cooling::air ? tr("heads") : tr("coolant"), tr("at")});
    std::size_t shown = 0;
    for (const auto& s : f.letDown) {
        // The last step is always told; of many, those between are on the card.
        if (++shown > 4 && shown < f.letDown.size() && f.letDown.size() > 5)
            continue;
        steps.row({q(formatHeight(s.height.si(), *n.cockpit.height)),
                   boost ? q(format(s.boost.si(), n.unitOf(Gauge::boost)))
                         : q(format(rounded(s.setting.rpm.si(), 10.0 / 60), *units::rpm.spec)),
                   q(flapText(s.setting.coolingFlap)), q(format(s.headOrCoolant.si(), *n.cockpit.temperature)),
                   clock(s.time - f[Phase::letDown].start)});
    }
    Figures out{std::move(steps)};
    out.emplace_back(
        tr("%1 Falls max %2 a minute, where %3 is %4.")
            .arg(html::mark(watch::coolingRate(f.letDownCooling, limit.perMinute, {}), c),
                 degrees(f.letDownCooling, n.cockpit).remove(QLatin1Char('+')),
                 degrees(limit.perMinute, n.cockpit).remove(QLatin1Char('+')),
                 limit.origin == Origin::notes ? tr("the notes' most") : tr("our own figure, for want of the notes'")));
    Table ways({tr("if let down at"), tr("needs"), tr("takes"), tr("over"), tr("fuel"), tr("at once")});
    const auto all = advice::letDownWays(document_.aircraft(), document_.sortie(), f);
    for (const auto& w : all)
        ways.row({Table::Cell(q(format(w.rate.si(), verticalSpeedUnit(n.cockpit))), w.verdict),
                  !w.boost ? tr("shut, and drag")
                  : boost  ? q(format(w.boost->si(), n.unitOf(Gauge::boost)))
                           : q(format(w.power.si(), *n.cockpit.power)),
                  tr("%1 min").arg(std::lround(w.duration / 60)), q(format(w.distance, *n.cockpit.distance)),
                  q(format(w.fuel, *n.cockpit.fuel)), degrees(-w.cooling, n.cockpit)},
                 w.planned);
    out.emplace_back(std::move(ways));
    QStringList lines;
    lines << tr("At %1, flaps %2, power taken off at once; the last column is the change of the first minute.")
                 .arg(html::text(format(n.phase(Phase::letDown).ias->si(), *n.cockpit.speed)),
                      html::text(flapText(f[Phase::letDown].setting.coolingFlap)));
    for (const auto& w : all)
        if (w.verdict.colour() != watch::Colour::normal && lines.size() < 3)
            lines << QStringLiteral("%1 %2: %3")
                         .arg(html::mark(w.verdict, c), html::text(format(w.rate.si(), verticalSpeedUnit(n.cockpit))),
                              html::text(w.verdict.sentence()));
    if (n.letDown.clearEvery)
        lines << tr("▴ marks the bursts that clear the engine.");
    out.emplace_back(lines.join(QStringLiteral("<br>")));
    return out;
}

} // namespace amber::app
