// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/heat_chart.h"
#include "advice/cool_down.h"
#include "advice/cooling.h"
#include "flight/engine_traces.h"
#include "kit/plot_style.h"
#include "kit/words.h"
#include "notes/lever_words.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
/// One line kind an engine, so that they are told apart without colour.
const std::array<Qt::PenStyle, 4> engineLines{Qt::SolidLine, Qt::DashLine, Qt::DashDotLine, Qt::DotLine};
} // namespace

struct HeatChart::Impl {
    HeatChart& chart;
    SortieDocument& document = chart.document_;
    QCustomPlot* plot = chart.plot_;
    QString &title = chart.title_, &xUnit = chart.xUnit_, &yUnit = chart.yUnit_;
    Kind kind = Kind::engines;
    Phase phase = Phase::warmUp;

    [[nodiscard]] const TypeNotes& notes() const { return document.aircraft().notes; }
    [[nodiscard]] const UnitSpec& t() const { return *notes().cockpit.temperature; }
    [[nodiscard]] bool heads() const { return notes().engine.cooling == Cooling::air; }
    [[nodiscard]] QString headOrCoolant() const { return heads() ? tr("heads") : tr("coolant"); }

    void ranges(double xLow, double xHigh, double yLow, double yHigh) { chart.ranges(xLow, xHigh, yLow, yHigh); }
    void level(double si, const QString& text, const QColor& colour, Qt::PenStyle style, double x,
               Qt::Alignment side = Qt::AlignLeft | Qt::AlignBottom) {
        addLine(*plot, {-1e4, 1e5}, {shown(si, t()), shown(si, t())}, QPen(colour, 1.3, style));
        addText(*plot, x, shown(si, t()), text, side, colour);
    }
    void upright(double x, double low, double high, const QColor& colour) {
        addLine(*plot, {x, x}, {low, high}, QPen(colour, 1, Qt::DotLine));
    }

    void draw() {
        switch (kind) {
        case Kind::engines:
            engines();
            break;
        case Kind::climb:
            climb();
            break;
        case Kind::cooling:
            cooling();
            break;
        case Kind::schedule:
            schedule();
            break;
        case Kind::afterwards:
            afterwards();
            break;
        }
        chart.xDecimals_ = kind == Kind::cooling ? 0 : 1;
    }

    void engines() {
        const Colours c(plot);
        const auto& plan = document.plan();
        const auto& f = plan.flown;
        const auto& n = notes();
        const double runUpEnd = f[Phase::runUp].start + f[Phase::runUp].duration;
        const auto& traces = document.warmUpTraces();
        xUnit = tr("min");
        yUnit = q(std::string(t().symbol));
        title = tr("%1 (heavy) and oil (light), %2, against minutes from the first engine's first fire")
                    .arg(heads() ? tr("Heads") : tr("Coolant"), yUnit);
        dressPlot(*plot);
        if (traces.empty())
            return;
        double first = 1e18, last = 0, low = 1e9, high = n.warmUp.oilTakeOff.si();
        for (const auto& e : traces) {
            first = std::min(first, e.firedAt);
            last = std::max(last, e.runUpAt.value_or(runUpEnd));
        }
        last = std::min(runUpEnd, std::max(last + 90, first + 240));
        if (n.warmUp.headRunUp)
            high = std::max(high, n.warmUp.headRunUp->si());
        for (const auto& e : traces)
            for (const auto& p : e.points)
                if (p.time <= last && p.time >= first) {
                    low = std::min({low, p.headOrCoolant, p.oil});
                    high = std::max({high, p.headOrCoolant, p.oil});
                }
        const double end = (last - first) / 60, margin = 0.1 * (shown(high, t()) - shown(low, t()));
        const double bottom = shown(low, t()) - (traces.size() > 1 ? 3.4 : 1.0) * margin,
                     top = shown(high, t()) + margin;
        ranges(-0.04 * end, end * 1.12, bottom, top);
        level(n.warmUp.oilRunUp.si(), tr("oil %1").arg(q(format(n.warmUp.oilRunUp.si(), t()))), c.green, Qt::DotLine,
              -0.035 * end);
        if (n.warmUp.headRunUp)
            level(n.warmUp.headRunUp->si(), tr("%1 %2").arg(headOrCoolant(), q(format(n.warmUp.headRunUp->si(), t()))),
                  c.green, Qt::DotLine, -0.035 * end);
        const std::size_t slowest = flight::slowestEngine(traces);
        for (std::size_t i = 0; i < traces.size(); ++i) {
            const auto& e = traces[i];
            QVector<double> x, metals, oils;
            double readyMetal = 0;
            for (const auto& p : e.points) {
                if (p.time < first - 60 || p.time > last)
                    continue;
                x << (p.time - first) / 60;
                metals << shown(p.headOrCoolant, t());
                oils << shown(p.oil, t());
                if (e.runUpAt && p.time <= *e.runUpAt)
                    readyMetal = metals.back();
            }
            addLine(*plot, x, metals, QPen(c.ink, 2.2, engineLines[i % 4]));
            addLine(*plot, x, oils, QPen(c.ink, 1.2, engineLines[i % 4]));
            QString name = q(e.engine);
            for (const auto& position : n.positions)
                if (position.id == e.engine)
                    name = q(position.name);
            const double fires = (e.firedAt - first) / 60;
            if (traces.size() > 1) // one above the other, so that they do not meet
                addText(*plot, fires, bottom + (0.01 + 0.045 * static_cast<double>(i % 4)) * (top - bottom), name,
                        Qt::AlignLeft | Qt::AlignBottom, c.faint);
            upright(fires, bottom, shown(low, t()), c.faint);
            if (e.runUpAt && *e.runUpAt <= last) {
                const double ready = (*e.runUpAt - first) / 60;
                addRing(*plot, ready, readyMetal, i == slowest ? c.amber : c.ink, c.sheet, 8);
                if (i == slowest)
                    addText(*plot, ready, readyMetal,
                            traces.size() > 1 ? tr("slowest: %1").arg(name) : tr("ready for the run-up"),
                            Qt::AlignRight | Qt::AlignBottom, c.amber, true);
            }
        }
    }

    void climb() {
        const Colours c(plot);
        const auto& f = document.plan().flown;
        const auto& p = f[Phase::climb];
        const UnitSpec& h = *notes().cockpit.height;
        xUnit = q(std::string(h.symbol));
        yUnit = q(std::string(t().symbol));
        title = tr("%1, charge and oil, %2, against height, %3, in the planned climb")
                    .arg(heads() ? tr("Heads") : tr("Coolant"), yUnit, xUnit);
        dressPlot(*plot);
        QVector<double> x, metals, charges, oils;
        double low = 1e9, high = 0;
        for (std::size_t i = p.firstSample; i <= p.lastSample; ++i) {
            const auto& m = f.samples[i];
            x << shown(m[Gauge::height], h);
            metals << shown(m.headOrCoolant(), t());
            charges << shown(m[Gauge::chargeTemperature], t());
            oils << shown(m[Gauge::oilTemperature], t());
            low = std::min({low, m.headOrCoolant(), m[Gauge::chargeTemperature], m[Gauge::oilTemperature]});
            high = std::max({high, m.headOrCoolant(), m[Gauge::chargeTemperature], m[Gauge::oilTemperature]});
        }
        if (x.isEmpty())
            return;
        const Gauge gauge = heads() ? Gauge::headTemperature : Gauge::coolantTemperature;
        const auto found = notes().gauges.find(gauge);
        const Band band = found == notes().gauges.end() ? Band{} : found->second.in(Phase::climb);
        high = std::max({high, band.limitHigh.value_or(high), band.normalHigh.value_or(high)});
        const double margin = 0.07 * (high - low) + 2, span = std::max(1.0, x.back() - x.front());
        ranges(x.front(), x.back() + 0.14 * span, shown(low - margin, t()), shown(high + 1.6 * margin, t()));
        if (band.limitHigh)
            level(*band.limitHigh, tr("limit %1").arg(q(format(*band.limitHigh, t()))), c.red, Qt::SolidLine,
                  x.front());
        if (band.normalHigh && band.normalHigh != band.limitHigh)
            level(*band.normalHigh, tr("normal to %1").arg(q(format(*band.normalHigh, t()))), c.amber, Qt::DashLine,
                  x.front(), Qt::AlignLeft | Qt::AlignTop);
        addLine(*plot, x, metals, QPen(c.ink, 2.2));
        addLine(*plot, x, charges, QPen(c.ink, 1.4, Qt::DotLine));
        addLine(*plot, x, oils, QPen(c.ink, 1.4, Qt::DashLine));
        const bool close = std::abs(charges.back() - oils.back()) < 0.05 * shown(high - low + t().offset, t());
        addText(*plot, x.back(), metals.back(), headOrCoolant(), Qt::AlignLeft | Qt::AlignVCenter, c.ink, true);
        addText(*plot, x.back(), charges.back(), tr("charge"),
                Qt::AlignLeft | (!close                         ? Qt::AlignVCenter
                                 : charges.back() > oils.back() ? Qt::AlignBottom
                                                                : Qt::AlignTop),
                c.ink, true);
        addText(*plot, x.back(), oils.back(), tr("oil"),
                Qt::AlignLeft | (!close                         ? Qt::AlignVCenter
                                 : charges.back() > oils.back() ? Qt::AlignTop
                                                                : Qt::AlignBottom),
                c.ink, true);
        for (const auto& change : f.gearChanges) {
            const double at = shown(change.height.si(), h);
            upright(at, plot->yAxis->range().lower, plot->yAxis->range().upper, c.amber);
            addText(*plot, at, plot->yAxis->range().lower, q(notes().engine.gears[change.to].name),
                    Qt::AlignLeft | Qt::AlignBottom, c.amber, true);
        }
    }

    void cooling() {
        const Colours c(plot);
        const auto& f = document.plan().flown;
        const auto picture = advice::coolingPicture(document.aircraft(), document.sortie(), f, phase);
        const UnitSpec& v = *notes().cockpit.speed;
        xUnit = q(std::string(v.symbol));
        yUnit = q(std::string(t().symbol));
        title = tr("Where %1, %2, against IAS, %3, at %4 and the plan's power, by opening")
                    .arg(heads() ? tr("heads settle") : tr("coolant settles"), yUnit, xUnit,
                         q(formatHeight(picture.height.si(), *notes().cockpit.height)));
        dressPlot(*plot);
        double low = picture.planned.y, high = picture.planned.y;
        const auto consider = [&](std::optional<Temperature> x) {
            if (x) {
                low = std::min(low, x->si());
                high = std::max(high, x->si());
            }
        };
        consider(picture.amber);
        consider(picture.red);
        for (const auto& o : picture.openings) {
            low = std::min(low, o.points.back().y);
            high = std::max(high, std::min(o.points.front().y, picture.planned.y + 90));
        }
        const double margin = 0.06 * (high - low);
        const double left = shown(picture.openings.front().points.front().x, v),
                     right = shown(picture.openings.front().points.back().x, v);
        ranges(left, right + 0.16 * (right - left), shown(low - margin, t()), shown(high + margin, t()));
        // Beside the boiling point its label goes to the other end and under its line, clear of the normal range's.
        const bool tight = picture.red && picture.boils && std::abs(picture.boils->si() - picture.red->si()) < 8;
        if (picture.red)
            level(picture.red->si(), tr("limit %1").arg(q(format(picture.red->si(), t()))), c.red, Qt::SolidLine,
                  tight ? right + 0.155 * (right - left) : left,
                  tight ? Qt::AlignRight | Qt::AlignTop : Qt::AlignLeft | Qt::AlignBottom);
        if (picture.amber && picture.amber != picture.red)
            level(picture.amber->si(), tr("normal to %1").arg(q(format(picture.amber->si(), t()))), c.amber,
                  Qt::DashLine, left);
        if (picture.boils)
            level(picture.boils->si(), tr("boils %1").arg(q(format(picture.boils->si(), t()))), c.red, Qt::DotLine,
                  right + 0.155 * (right - left), Qt::AlignRight | Qt::AlignBottom);
        for (const auto& o : picture.openings) {
            QVector<double> x, y;
            for (const auto& p : o.points) {
                x << shown(p.x, v);
                y << shown(p.y, t());
            }
            addLine(*plot, x, y, QPen(c.ink, 1.6));
            // Lines that meet at the end have their names above and below.
            const double apart = 0.05 * (plot->yAxis->range().upper - plot->yAxis->range().lower);
            const double next = &o == &picture.openings.back() ? -1e9 : shown((&o + 1)->points.back().y, t());
            const double before = &o == &picture.openings.front() ? 1e9 : shown((&o - 1)->points.back().y, t());
            addText(*plot, x.back(), y.back(), q(o.label),
                    Qt::AlignLeft | (y.back() - next < apart     ? Qt::AlignBottom
                                     : before - y.back() < apart ? Qt::AlignTop
                                                                 : Qt::AlignVCenter),
                    c.ink);
        }
        addRing(*plot, shown(picture.planned.x, v), shown(picture.planned.y, t()), c.amber, c.sheet, 10);
        addText(*plot, shown(picture.planned.x, v), shown(picture.planned.y, t()),
                tr("planned, %1").arg(q(flapText(picture.opening))), Qt::AlignLeft | Qt::AlignBottom, c.amber, true);
    }

    void schedule() {
        const Colours c(plot);
        const auto& f = document.plan().flown;
        const auto& p = f[Phase::letDown];
        xUnit = tr("min");
        yUnit = q(std::string(t().symbol));
        title = tr("%1 and oil, %2, against minutes from the top; each step of power where it is taken")
                    .arg(heads() ? tr("Heads") : tr("Coolant"), yUnit);
        dressPlot(*plot);
        QVector<double> x, metals, oils;
        double low = 1e9, high = 0;
        const std::size_t before = p.firstSample > 3 ? p.firstSample - 3 : 0;
        for (std::size_t i = before; i <= p.lastSample; ++i) {
            const auto& m = f.samples[i];
            x << (m.time - p.start) / 60;
            metals << shown(m.headOrCoolant(), t());
            oils << shown(m[Gauge::oilTemperature], t());
            low = std::min({low, m.headOrCoolant(), m[Gauge::oilTemperature]});
            high = std::max({high, m.headOrCoolant(), m[Gauge::oilTemperature]});
        }
        const auto least = flight::letDownLeast(notes());
        if (least)
            low = std::min(low, least->si());
        const double margin = 0.1 * (high - low) + 2, end = std::max(1.0, p.duration / 60);
        const double top = shown(high + 3.2 * margin, t()), bottom = shown(low - margin, t());
        ranges(-0.08 * end, 1.12 * end, bottom, top);
        if (least)
            level(least->si(), tr("%1 no cooler than %2").arg(headOrCoolant(), q(format(least->si(), t()))), c.amber,
                  Qt::DashLine, 1.115 * end, Qt::AlignRight | Qt::AlignBottom);
        addLine(*plot, x, metals, QPen(c.ink, 2.2));
        addLine(*plot, x, oils, QPen(c.ink, 1.2, Qt::DashLine));
        if (!x.isEmpty()) {
            addText(*plot, x.back(), metals.back(), headOrCoolant(), Qt::AlignLeft | Qt::AlignVCenter, c.ink, true);
            addText(*plot, x.back(), oils.back(), tr("oil"), Qt::AlignLeft | Qt::AlignVCenter, c.ink, true);
        }
        int row = 0;
        double freeUntil = -1e9;
        for (const auto& s : f.letDown) {
            const double at = (s.time - p.start) / 60, y = shown(s.headOrCoolant.si(), t());
            upright(at, bottom, top, c.rule);
            addRing(*plot, at, y, c.amber, c.sheet, 7);
            const QString setting = notes().gauges.contains(Gauge::boost)
                                        ? q(format(s.boost.si(), notes().unitOf(Gauge::boost)))
                                        : q(format(std::round(s.setting.rpm.si() * 6) / 6, *units::rpm.spec));
            row = at < freeUntil ? (row + 1) % 3 : 0;
            addText(*plot, at, top - (0.02 + 0.055 * row) * (top - bottom), setting,
                    (at > 0.9 * end ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop, c.amber, true);
            freeUntil = std::max(freeUntil, at) + 0.14 * end;
        }
        // Bursts that clear the engine.
        if (const auto& l = notes().letDown; l.clearEvery)
            for (double at = l.clearEvery->si() / 60; at < end - 0.2; at += l.clearEvery->si() / 60)
                addText(*plot, at, bottom, QStringLiteral("▴"), Qt::AlignHCenter | Qt::AlignBottom, c.ink);
    }

    void afterwards() {
        const Colours c(plot);
        const auto cool = advice::coolDown(document.aircraft(), document.sortie(), document.plan().flown);
        xUnit = tr("min");
        yUnit = q(std::string(t().symbol));
        title = tr("%1 and oil, %2, against minutes from the stop; prime of a start from there")
                    .arg(heads() ? tr("Heads") : tr("Coolant"), yUnit);
        dressPlot(*plot);
        QVector<double> x, metals, oils;
        double low = 1e9, high = 0, left = 0;
        for (const auto& p : cool.curve) {
            if (p.time > 130 * 60)
                continue;
            x << p.time / 60;
            metals << shown(p.headOrCoolant, t());
            oils << shown(p.oil, t());
            low = std::min({low, p.headOrCoolant, p.oil});
            high = std::max({high, p.headOrCoolant, p.oil});
            left = std::min(left, p.time / 60);
        }
        const double margin = 0.1 * (high - low) + 2;
        const double top = shown(high + 1.4 * margin, t()), bottom = shown(low - margin, t());
        ranges(left - 2, 140, bottom, top);
        upright(0, bottom, top, c.ink);
        addText(*plot, 0, top, tr("stopped"), Qt::AlignLeft | Qt::AlignTop, c.faint);
        if (cool.below)
            level(cool.below->si(), tr("stop under %1").arg(q(format(cool.below->si(), t()))), c.amber, Qt::DashLine,
                  139, Qt::AlignRight | Qt::AlignBottom);
        addLine(*plot, x, metals, QPen(c.ink, 2.2));
        addLine(*plot, x, oils, QPen(c.ink, 1.2, Qt::DashLine));
        if (x.size() > 8) {
            // Named where they are well apart: on the way down.
            const auto at = x.size() * 5 / 8;
            const bool above = metals[at] > oils[at];
            addText(*plot, x[at], metals[at], headOrCoolant(), Qt::AlignLeft | (above ? Qt::AlignBottom : Qt::AlignTop),
                    c.ink, true);
            addText(*plot, x[at], oils[at], tr("oil"), Qt::AlignLeft | (above ? Qt::AlignTop : Qt::AlignBottom), c.ink,
                    true);
        }
        for (const auto& r : cool.restarts) {
            const double at = r.after / 60, y = shown(r.engine.si(), t());
            addRing(*plot, at, y, c.amber, c.sheet, 8);
            addText(*plot, at, y, r.dose > 0 ? q(formatNumber(r.dose, 0)) : tr("none"), Qt::AlignLeft | Qt::AlignBottom,
                    c.amber, true);
        }
    }
};

HeatChart::HeatChart(SortieDocument& document, QWidget* parent)
    : PictureChart(document, QStringLiteral("heat-chart"), parent), d_(new Impl{*this}) {}

HeatChart::~HeatChart() = default;

void HeatChart::compose() {
    d_->draw();
}

void HeatChart::draw(Kind kind, Phase phase) {
    const bool same = kind == d_->kind && phase == d_->phase;
    d_->kind = kind;
    d_->phase = phase;
    redraw(same);
}

} // namespace amber::app
