// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/lever_map.h"
#include "kit/plot_style.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
flight::CruiseConditions cruiseConditionsOf(const SortieDocument& document) {
    const auto& f = document.plan().flown;
    const auto& s = document.sortie();
    const auto& first = f.samples[f[Phase::cruise].firstSample];
    flight::CruiseConditions c;
    c.air = s.day.at(f.cruisePressureAltitude);
    c.weight = Mass::si(first[Gauge::weight]);
    c.fuel = Volume::si(first[Gauge::fuel]);
    c.grade = s.fuelGrade;
    c.fuelDensity = f.fuelDensity;
    return c;
}

LeverMap::LeverMap(SortieDocument& document, QWidget* parent)
    : QWidget(parent), document_(document), plot_(new QCustomPlot(this)) {
    setObjectName(QStringLiteral("lever-map"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(plot_);
    plot_->setAccessibleName(tr("Boost against rpm: detonation limit and the path of the levers"));
    plot_->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
}

void LeverMap::refresh() {
    if (!document_.isOpen() || document_.aircraft().notes.engine.gears.empty())
        return;
    const auto& a = document_.aircraft();
    const auto& f = document_.plan().flown;
    const auto& climb = f[Phase::climb];
    const auto& cruise = f[Phase::cruise];
    // Where the climb ended: the last moment of it.
    const auto& last = f.samples[climb.lastSample];
    from_ = {Rotation::si(last[Gauge::rpm]), ManifoldPressure::si(last[Gauge::boost])};
    to_ = {cruise.setting.rpm, cruise.point.manifoldPressure};
    const engine::KnockBoundary knock(a.notes, a.model(), document_.sortie().fuelGrade);
    const auto conditions = cruiseConditionsOf(document_);
    // Rich while the levers move; the mixture comes last.
    const auto permitted = [&](Rotation n) {
        return knock.permitted(
            engine::Demand{n, std::nullopt, cruise.setting.gear, conditions.air, cruise.setting.ias, Mixture::rich});
    };
    path_ = engine::leverOrder(from_, to_, permitted);
    draw();
}

QStringList LeverMap::words() const {
    const auto& n = document_.aircraft().notes;
    QStringList out;
    int number = 1;
    for (const auto& m : path_.moves)
        out << tr("%1  %2 to <b>%3</b>")
                   .arg(number++)
                   .arg(m.rpmLever ? tr("Rpm") : tr("Boost"),
                        m.rpmLever ? q(format(std::round(m.to.rpm.si() * 6) / 6, *units::rpm.spec))
                                   : q(format(m.to.boost.si(), n.unitOf(Gauge::boost))));
    if (path_.moves.empty())
        out << tr("Nothing to move.");
    if (document_.plan().flown[Phase::cruise].setting.mixture == Mixture::weak)
        out << tr("%1  Mixture to <b>weak</b>, last").arg(number);
    out << QStringLiteral("<i>%1</i>").arg(q(path_.why));
    return out;
}

void LeverMap::draw() {
    const Colours c(plot_);
    const auto& a = document_.aircraft();
    const auto& n = a.notes;
    const UnitSpec& unit = n.unitOf(Gauge::boost);
    const auto shown = [&](double si) { return (si - unit.offset) / unit.scale; };
    const auto& cruise = document_.plan().flown[Phase::cruise];
    const auto conditions = cruiseConditionsOf(document_);
    const engine::KnockBoundary knock(n, a.model(), document_.sortie().fuelGrade);
    plot_->clearGraphs();
    plot_->clearItems();
    dressPlot(*plot_);
    const double low = 0.45 * a.model().ratedRpm, high = 1.03 * a.model().ratedRpm;
    double bottom = 0.5 * standardPressure, top = 0.0;
    for (const auto& r : n.ratings)
        top = std::max(top, r.boost ? r.boost->si() : 0.0);
    top *= 1.12;
    plot_->xAxis->setRange(low * 60, high * 60);
    plot_->yAxis->setRange(shown(bottom), shown(top));
    // Lines of equal power of one engine.
    const UnitSpec& power = *n.cockpit.power;
    const double rated = cruise.point.power.si();
    for (const double share : {0.6, 0.8, 1.0, 1.25, 1.5}) {
        const double target = std::round(rated * share / power.scale / 50) * 50 * power.scale;
        QVector<double> x, y;
        for (int i = 0; i <= 40; ++i) {
            const double rpm = low + (high - low) * i / 40;
            double from = bottom, to = top;
            const auto at = [&](double p) {
                engine::Demand d{Rotation::si(rpm), ManifoldPressure::si(p), cruise.setting.gear,
                                 conditions.air,    cruise.setting.ias,      Mixture::rich};
                d.held = true;
                return engine::operate(a.model(), d).power.si();
            };
            if (at(from) > target || at(to) < target)
                continue;
            for (int k = 0; k < 18; ++k) {
                const double mid = 0.5 * (from + to);
                (at(mid) > target ? to : from) = mid;
            }
            x << rpm * 60;
            y << shown(to);
        }
        if (x.size() < 2)
            continue;
        QColor thin = c.ink;
        thin.setAlpha(90);
        addLine(*plot_, x, y, QPen(thin, 1));
        addText(*plot_, x.back(), y.back(), q(format(target, power)), Qt::AlignRight | Qt::AlignBottom, c.faint);
    }
    // The boundary, rich and, where the cruise is weak, weak.
    const auto boundary = [&](Mixture mixture, const QPen& pen, const QString& name, double where) {
        QVector<double> x, y;
        for (int i = 0; i <= 50; ++i) {
            const double rpm = low + (high - low) * i / 50;
            const auto p = knock.permitted(engine::Demand{Rotation::si(rpm), std::nullopt, cruise.setting.gear,
                                                          conditions.air, cruise.setting.ias, mixture});
            x << rpm * 60;
            y << shown(p.si());
        }
        addLine(*plot_, x, y, pen);
        const int at = static_cast<int>(where * 50);
        addText(*plot_, x[at], y[at], name, Qt::AlignLeft | Qt::AlignBottom, c.red);
    };
    boundary(Mixture::rich, QPen(c.red, 2), tr("detonation limit, rich"), 0.03);
    if (cruise.setting.mixture == Mixture::weak)
        boundary(Mixture::weak, QPen(c.red, 1.3, Qt::DashLine), tr("weak"), 0.45);
    for (const auto& r : n.ratings)
        if (r.boost)
            addRing(*plot_, r.rpm.si() * 60, shown(r.boost->si()), c.ink, c.ink, 4);
    // The path.
    engine::LeverPosition at = from_;
    int number = 1;
    for (const auto& m : path_.moves) {
        addLine(*plot_, {at.rpm.si() * 60, m.to.rpm.si() * 60}, {shown(at.boost.si()), shown(m.to.boost.si())},
                QPen(c.amber, 2.6));
        addText(*plot_, 30 * (at.rpm.si() + m.to.rpm.si()), 0.5 * (shown(at.boost.si()) + shown(m.to.boost.si())),
                QString::number(number++),
                m.rpmLever ? Qt::AlignHCenter | Qt::AlignTop : Qt::AlignLeft | Qt::AlignVCenter, c.amber, true);
        at = m.to;
    }
    addRing(*plot_, from_.rpm.si() * 60, shown(from_.boost.si()), c.amber, c.sheet, 10);
    addRing(*plot_, to_.rpm.si() * 60, shown(to_.boost.si()), c.amber, c.amber, 10);
    addText(*plot_, from_.rpm.si() * 60, shown(from_.boost.si()), tr("climb"), Qt::AlignLeft | Qt::AlignBottom, c.amber,
            true);
    addText(*plot_, to_.rpm.si() * 60, shown(to_.boost.si()), tr("cruise"), Qt::AlignRight | Qt::AlignTop, c.amber,
            true);
    plot_->xAxis->setTicker(roundTicks(low * 60, high * 60, 6));
    plot_->yAxis->setTicker(roundTicks(plot_->yAxis->range().lower, plot_->yAxis->range().upper, 6));
    plot_->xAxis2->setTicker(plot_->xAxis->ticker());
    plot_->yAxis2->setTicker(plot_->yAxis->ticker());
    plot_->replot(QCustomPlot::rpQueuedRefresh);
}

} // namespace amber::app
