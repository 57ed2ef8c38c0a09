// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/heat_page.h"
#include "advice/climb_bands.h"
#include "advice/cool_down.h"
#include "advice/cooling.h"
#include "advice/let_down.h"
#include "flight/engine_traces.h"
#include "kit/html.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "notes/cockpit_units.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
/// A small ruled table in the page's own type.
class Table {
public:
    Table(const Colours& colours, const QStringList& heads, int leftColumn = 0) : c_(colours), left_(leftColumn) {
        html_ = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='2'><tr>");
        for (int i = 0; i < heads.size(); ++i)
            html_ += QStringLiteral("<td align='%1' style='color:%2'>%3</td>")
                         .arg(side(i), c_.faint.name(), heads[i].toHtmlEscaped());
        html_ += QStringLiteral("</tr>");
    }
    void row(const QStringList& cells, bool strong = false) {
        html_ += QStringLiteral("<tr>");
        for (int i = 0; i < cells.size(); ++i) {
            const QString text = strong ? QStringLiteral("<b>%1</b>").arg(cells[i]) : cells[i];
            html_ += QStringLiteral("<td align='%1' style='color:%2'>%3</td>").arg(side(i), c_.ink.name(), text);
        }
        html_ += QStringLiteral("</tr>");
    }
    [[nodiscard]] QString html() const { return html_ + QStringLiteral("</table>"); }

private:
    [[nodiscard]] QString side(int column) const {
        return column == 0 || column == left_ ? QStringLiteral("left") : QStringLiteral("right");
    }
    const Colours& c_;
    int left_; // a column set to the left besides the first
    QString html_;
};

QString clock(double seconds) {
    return html::text(formatMinutesSeconds(std::max(0.0, seconds)));
}
/// A temperature difference in the cockpit's degrees, signed.
QString degrees(double kelvin, const Cockpit& cockpit) {
    const auto& unit = differenceUnit(cockpit);
    return html::text(formatNumber(kelvin / unit.scale, 0, true) + " " + std::string(unit.symbol));
}
double rounded(double value, double to) {
    return std::round(value / to) * to;
}
} // namespace

HeatPage::HeatPage(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("heat-page"));
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(22);
    auto* right = new QVBoxLayout;
    right->setSpacing(2);
    title_ = new QLabel(this);
    title_->setObjectName(QStringLiteral("heat-title"));
    title_->setFont(face(12));
    title_->setForegroundRole(QPalette::PlaceholderText);
    title_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    chart_ = new HeatChart(document_, this);
    budget_ = new GroundBudgetView(document_, this);
    right->addWidget(title_);
    right->addWidget(chart_, 1);
    right->addWidget(budget_, 1);
    auto* left = new QVBoxLayout;
    left->setSpacing(2);
    head_ = new QLabel(this);
    QFont caption = captionFace();
    caption.setBold(true);
    caption.setPixelSize(12);
    head_->setFont(caption);
    head_->setForegroundRole(QPalette::Link);
    head_->setFixedHeight(20);
    figures_ = new RichLabel(this);
    figures_->setObjectName(QStringLiteral("heat-figures"));
    figures_->setFont(face(13));
    figures_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    figures_->setFixedWidth(456);
    left->addWidget(head_);
    left->addWidget(figures_);
    left->addStretch(1);
    columns->addLayout(left, 0);
    columns->addLayout(right, 1);
    connect(budget_, &GroundBudgetView::chosen, this, [this] {
        if (kind_ == Kind::budget)
            figures_->setText(budgetWords());
    });
}

void HeatPage::present(Kind kind, Phase phase) {
    kind_ = kind;
    if (!document_.isOpen())
        return;
    const bool budget = kind == Kind::budget;
    // What goes is hidden first.
    if (budget) {
        chart_->hide();
        budget_->show();
        figures_->setFixedWidth(300);
        // The warm-up asks from its own start, the run-up from the holding point, until the pilot says otherwise.
        if (phase != phase_)
            budget_->startFrom(phase == Phase::warmUp ? advice::GroundFrom::warmUp : advice::GroundFrom::holding);
        budget_->refresh();
    } else {
        budget_->hide();
        chart_->show();
        figures_->setFixedWidth(kind == Kind::afterwards ? 430 : 456);
    }
    switch (kind) {
    case Kind::engines:
        head_->setText(tr("Each engine (model)"));
        figures_->setText(engines());
        chart_->draw(HeatChart::Kind::engines, phase);
        break;
    case Kind::budget:
        head_->setText(tr("Waiting (model)"));
        figures_->setText(budgetWords());
        break;
    case Kind::bands:
        head_->setText(tr("The climb, band by band (model)"));
        figures_->setText(bands());
        chart_->draw(HeatChart::Kind::climb, phase);
        break;
    case Kind::cooling:
        head_->setText(tr("Speed and opening (model)"));
        figures_->setText(cooling(phase));
        chart_->draw(HeatChart::Kind::cooling, phase);
        break;
    case Kind::schedule:
        head_->setText(tr("Power off, step by step (model)"));
        figures_->setText(schedule());
        chart_->draw(HeatChart::Kind::schedule, phase);
        break;
    case Kind::afterwards:
        head_->setText(tr("Stopped, and started again (model)"));
        figures_->setText(afterwards());
        chart_->draw(HeatChart::Kind::afterwards, phase);
        break;
    }
    phase_ = phase;
    title_->setText(budget ? (document_.aircraft().notes.engine.cooling == Cooling::air
                                  ? tr("How long the heads stay normal on the ground today, by the way of waiting")
                                  : tr("How long the coolant stays normal on the ground today, by the way of waiting"))
                           : chart_->title());
    title_->setToolTip(title_->text());
}

QString HeatPage::engines() const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const double runUpEnd = f[Phase::runUp].start + f[Phase::runUp].duration;
    const auto traces = flight::engineTraces(document_.aircraft(), document_.sortie(), f, runUpEnd);
    const std::size_t slowest = flight::slowestEngine(traces);
    double first = 1e18;
    for (const auto& t : traces)
        first = std::min(first, t.firedAt);
    Table table(c, {tr("engine"), tr("fires"), tr("run-up from"), tr("take-off from"), tr("waits")});
    const double all = traces.empty() ? 0.0 : traces[slowest].runUpAt.value_or(0.0);
    for (std::size_t i = 0; i < traces.size(); ++i) {
        const auto& t = traces[i];
        QString name = html::text(t.engine);
        for (const auto& p : n.positions)
            if (p.id == t.engine)
                name = html::text(p.name);
        const auto at = [&](std::optional<double> when) {
            return when ? clock(*when - first) : tr("never at this rpm");
        };
        table.row({name, clock(t.firedAt - first), at(t.runUpAt), at(t.takeOffAt),
                   i == slowest && traces.size() > 1           ? tr("decides")
                   : t.runUpAt && all > 0 && traces.size() > 1 ? clock(all - *t.runUpAt)
                                                               : QString()},
                  i == slowest);
    }
    QString out = table.html() + tr("<p>Minutes and seconds from the first fire.</p>");
    // The rpm in steps.
    if (!f.warmUpSteps.empty()) {
        Table steps(c, {tr("throttle"), tr("oil from"), tr("in the warm-up at")});
        for (const auto& [time, rpm] : f.warmUpSteps) {
            QString from = tr("cold");
            for (const auto& [oil, wanted] : n.warmUp.steps)
                if (std::abs(wanted.si() - rpm.si()) < 0.1 && &wanted != &n.warmUp.steps.front().second)
                    from = html::text(format(oil.si(), *n.cockpit.temperature));
            steps.row({html::text(format(rpm.si(), *units::rpm.spec)), from, clock(time)});
        }
        out += steps.html() + tr("<p>The taxi, %1 at %2 (notes), is in it and warms too.</p>")
                                  .arg(html::text(format(n.warmUp.taxi.si(), *units::minute.spec)),
                                       html::text(format(n.warmUp.taxiRpm.si(), *units::rpm.spec)));
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
    return out + QStringLiteral("<p>%1</p>").arg(lines.join(QStringLiteral("<br>")));
}

QString HeatPage::budgetWords() const {
    const auto& b = budget_->budget();
    const auto& n = document_.aircraft().notes;
    const auto& t = *n.cockpit.temperature;
    QStringList lines;
    const QString headOrCoolant = n.engine.cooling == Cooling::air ? tr("Heads") : tr("Coolant");
    lines << (budget_->from() == advice::GroundFrom::holding
                  ? tr("<b>From the holding point</b>, after the run-up: %1 at %2.")
                  : tr("<b>From the start of the warm-up</b>: %1 at %2."))
                 .arg(headOrCoolant.toLower(), html::text(format(b.headOrCoolant.si(), t)));
    if (b.amber)
        lines << tr("Normal to %1%2 (notes).")
                     .arg(html::text(format(b.amber->si(), t)),
                          b.red ? tr(", limit %1").arg(html::text(format(b.red->si(), t))) : QString());
    if (!b.runs.empty()) {
        const auto& run = b.runs[static_cast<std::size_t>(budget_->selected())];
        lines << QStringLiteral("<b>%1</b> %2. %3 %4")
                     .arg(html::text(run.name), budget_->words(budget_->selected()), html::text(run.why),
                          run.toAmber ? tr("It would settle at %1.").arg(html::text(format(run.settles.si(), t)))
                                      : QString());
    }
    if (b.amber)
        lines << (b.rpmForEver ? tr("<b>For ever</b> Standing in calm air it stays normal up to %1.")
                                     .arg(html::text(format(rounded(b.rpmForEver->si(), 10.0 / 60), *units::rpm.spec)))
                               : tr("<b>For ever</b> No rpm above the least keeps it normal in calm air."));
    if (b.stopFor)
        lines << tr("<b>Stopping the engine</b> at amber and standing %1 brings it down enough; started again it lasts "
                    "%2 to amber. Restarting hot has its own troubles: see the stop.")
                     .arg(tr("%1 min").arg(std::lround(*b.stopFor / 60)),
                          b.thenToAmber >= advice::GroundBudget::horizon
                              ? tr("over two hours")
                              : tr("%1 min").arg(std::lround(b.thenToAmber / 60)));
    const auto& s = document_.sortie();
    if (s.flight.hold.si() > 0) {
        const Colours c(this);
        lines << QStringLiteral("%1 %2").arg(html::mark(b.queue, c), html::text(b.queue.sentence()));
    }
    lines << tr("<i>W: from the warm-up. H: from the holding point. Up and Down: another way.</i>");
    return lines.join(QStringLiteral("<br><br>"));
}

QString HeatPage::bands() const {
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

QString HeatPage::cooling(Phase phase) const {
    const Colours c(this);
    const auto& n = document_.aircraft().notes;
    const auto picture =
        advice::coolingPicture(document_.aircraft(), document_.sortie(), document_.plan().flown, phase);
    const auto& t = *n.cockpit.temperature;
    Table table(
        c, {tr("IAS"), phase == Phase::climb ? tr("climbs") : tr("to spare"), tr("settles"), tr("opening for normal")});
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

QString HeatPage::schedule() const {
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

QString HeatPage::afterwards() const {
    const Colours c(this);
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
    QString out = QStringLiteral("<p>%1</p>").arg(lines.join(QStringLiteral("<br>")));
    Table table(c, {tr("again after"), tr("engine"), tr("prime"), QString()});
    QString advice;
    for (const auto& r : cool.restarts) {
        table.row({tr("%1 min").arg(std::lround(r.after / 60)),
                   html::text(format(r.engine.si(), *n.cockpit.temperature)),
                   r.dose > 0 ? html::text(advice::doseText(r.dose, n.start.primer)) : tr("none"),
                   html::text(std::string(markOf(r.origin)))});
        if (html::text(r.advice) != advice.section(QStringLiteral("</b> "), -1))
            advice += QStringLiteral("%1<b>%2</b> %3")
                          .arg(advice.isEmpty() ? QString() : QStringLiteral("<br>"),
                               tr("After %1 min").arg(std::lround(r.after / 60)), html::text(r.advice));
    }
    return out + table.html() + QStringLiteral("<p>%1</p>").arg(advice);
}

} // namespace amber::app
