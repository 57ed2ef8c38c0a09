// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/engines_page.h"
#include "flight/engine_traces.h"
#include "kit/html.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
using namespace figures;

EnginesPage::EnginesPage(SortieDocument& document, QWidget* parent)
    : FiguresPage(document, {tr("Each engine (model)"), HeatChart::Kind::engines, 0.427}, parent) {
    setObjectName(QStringLiteral("engines-page"));
}

Figures EnginesPage::figures() const {
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const auto& traces = document_.warmUpTraces();
    const std::size_t slowest = flight::slowestEngine(traces);
    double first = 1e18;
    for (const auto& t : traces)
        first = std::min(first, t.firedAt);
    Table table({tr("engine"), tr("fires"), tr("run-up from"), tr("take-off from"), tr("waits")});
    const double all = traces.empty() ? 0.0 : traces[slowest].runUpAt.value_or(0.0);
    for (std::size_t i = 0; i < traces.size(); ++i) {
        const auto& t = traces[i];
        QString name = q(t.engine);
        for (const auto& p : n.positions)
            if (p.id == t.engine)
                name = q(p.name);
        const auto at = [&](std::optional<double> when) {
            return when ? clock(*when - first) : tr("never at this rpm");
        };
        table.row({name, clock(t.firedAt - first), at(t.runUpAt), at(t.takeOffAt),
                   i == slowest && traces.size() > 1           ? tr("slowest")
                   : t.runUpAt && all > 0 && traces.size() > 1 ? clock(all - *t.runUpAt)
                                                               : QString()},
                  i == slowest);
    }
    Figures out{std::move(table), tr("Minutes and seconds from the first fire.")};
    // The rpm in steps.
    if (!f.warmUpSteps.empty()) {
        Table steps({tr("throttle"), tr("oil from"), tr("in the warm-up at")});
        for (const auto& [time, rpm] : f.warmUpSteps) {
            QString from = tr("cold");
            for (const auto& [oil, wanted] : n.warmUp.steps)
                if (std::abs(wanted.si() - rpm.si()) < 0.1 && &wanted != &n.warmUp.steps.front().second)
                    from = q(format(oil.si(), *n.cockpit.temperature));
            steps.row({q(format(rpm.si(), *units::rpm.spec)), from, clock(time)});
        }
        out.emplace_back(std::move(steps));
        out.emplace_back(tr("The taxi, %1 at %2 (notes), is in it and warms too.")
                             .arg(html::text(format(n.warmUp.taxi.si(), *units::minute.spec)),
                                  html::text(format(n.warmUp.taxiRpm.si(), *units::rpm.spec))));
    }
    QStringList lines;
    if (n.warmUp.leastRpm)
        lines << tr("<b>Too slow</b> Under %1 (notes) the plugs foul and little oil is flung about.")
                     .arg(html::text(format(n.warmUp.leastRpm->si(), *units::rpm.spec)));
    const Temperature cold = flight::engineTemperatureOf(document_.sortie());
    if (const auto g = n.gauges.find(Gauge::oilPressure); g != n.gauges.end())
        if (const auto most = g->second.in(Phase::warmUp).limitHigh) {
            const Rotation top = Rotation::si(40);
            const Rotation rpm =
                heat::rpmForOilPressure(document_.aircraft().thermal, cold, flight::oilThinning(n, document_.sortie()),
                                        Pressure::si(*most), top);
            lines << (rpm < top ? tr("<b>Too fast</b> With oil at %1 its pressure passes %2 above %3.")
                                      .arg(html::text(format(cold.si(), *n.cockpit.temperature)),
                                           html::text(format(*most, n.unitOf(Gauge::oilPressure))),
                                           html::text(format(rounded(rpm.si(), 10.0 / 60), *units::rpm.spec)))
                                : tr("<b>Too fast</b> Oil pressure stays under %1 even cold; bearings still want the "
                                     "notes' steps.")
                                      .arg(html::text(format(*most, n.unitOf(Gauge::oilPressure)))));
        }
    if (document_.sortie().start.diluted)
        lines << tr("<b>Diluted</b> The oil is thin until it has boiled out: half an hour warm; watch its pressure.");
    if (document_.sortie().start.blanks)
        lines << tr("<b>Blanks</b> On the oil cooler until the take-off: take them off before it, and say so.");
    for (const auto& s : document_.plan()[Phase::warmUp].set)
        if (s.schools.size() > 1 && s.school >= 0)
            lines << QStringLiteral("<b>%1</b> ● %2: %3 <i>%4</i> %5")
                         .arg(html::text(s.what), html::text(s.schools[static_cast<std::size_t>(s.school)].name),
                              html::text(s.schools[static_cast<std::size_t>(s.school)].gain), tr("But:"),
                              html::text(s.schools[static_cast<std::size_t>(s.school)].risk));
    out.emplace_back(lines.join(QStringLiteral("<br>")));
    return out;
}

} // namespace amber::app
