// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/schedule_page.h"
#include "advice/let_down.h"
#include "kit/html.h"
#include "kit/table.h"
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

QString SchedulePage::figures() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const bool boost = n.gauges.contains(Gauge::boost);
    const auto limit = flight::coolingLimit(n);
    Table steps(c, {tr("from"), boost ? tr("boost") : tr("rpm"), tr("flaps"),
                    n.engine.cooling == Cooling::air ? tr("heads") : tr("coolant"), tr("at")});
    std::size_t shown = 0;
    for (const auto& s : f.letDown) {
        // The last step is always told; of many, those between are on the card.
        if (++shown > 4 && shown < f.letDown.size() && f.letDown.size() > 5)
            continue;
        steps.row({html::text(formatHeight(s.height.si(), *n.cockpit.height)),
                   boost ? html::text(format(s.boost.si(), n.unitOf(Gauge::boost)))
                         : html::text(format(rounded(s.setting.rpm.si(), 10.0 / 60), *units::rpm.spec)),
                   html::text(flapText(s.setting.coolingFlap)),
                   html::text(format(s.headOrCoolant.si(), *n.cockpit.temperature)),
                   clock(s.time - f[Phase::letDown].start)});
    }
    QString out = steps.html();
    out +=
        tr("<p>%1 Falls %2 a minute at most, where %3 is %4.</p>")
            .arg(html::mark(watch::coolingRate(f.letDownCooling, limit.perMinute, {}), c),
                 degrees(f.letDownCooling, n.cockpit).remove(QLatin1Char('+')),
                 degrees(limit.perMinute, n.cockpit).remove(QLatin1Char('+')),
                 limit.origin == Origin::notes ? tr("the notes' most") : tr("our own figure, for want of the notes'"));
    Table ways(c, {tr("if let down at"), tr("needs"), tr("takes"), tr("over"), tr("fuel"), tr("at once")});
    const auto all = advice::letDownWays(document_.aircraft(), document_.sortie(), f);
    for (const auto& w : all)
        ways.row({html::mark(w.verdict, c) + QStringLiteral(" ") +
                      html::text(format(w.rate.si(), verticalSpeedUnit(n.cockpit))),
                  !w.boost ? tr("shut, and drag")
                  : boost  ? html::text(format(w.boost->si(), n.unitOf(Gauge::boost)))
                           : html::text(format(w.power.si(), *n.cockpit.power)),
                  tr("%1 min").arg(std::lround(w.duration / 60)), html::text(format(w.distance, *n.cockpit.distance)),
                  html::text(format(w.fuel, *n.cockpit.fuel)), degrees(-w.cooling, n.cockpit)},
                 w.planned);
    out += ways.html();
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
    return out + QStringLiteral("<p>%1</p>").arg(lines.join(QStringLiteral("<br>")));
}

} // namespace amber::app
