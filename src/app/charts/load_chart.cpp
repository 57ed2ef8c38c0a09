// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/load_chart.h"
#include "kit/plot_style.h"
#include "kit/words.h"
#include "plan/load_plan.h"
#include "units/text.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace amber::app {
namespace {
const std::array<Qt::PenStyle, 4> lineKinds{Qt::SolidLine, Qt::DashLine, Qt::DashDotLine, Qt::DotLine};

void addBox(QCustomPlot& plot, double left, double right, double low, double high, const QColor& line,
            const QBrush& fill) {
    auto* box = new QCPItemRect(&plot);
    box->topLeft->setCoords(left, high);
    box->bottomRight->setCoords(right, low);
    box->setPen(QPen(line, 1.2));
    box->setBrush(fill);
}
/// A line that may go both ways in x, as no graph does.
void addCurve(QCustomPlot& plot, const QVector<double>& x, const QVector<double>& y, const QPen& pen) {
    auto* curve = new QCPCurve(plot.xAxis, plot.yAxis);
    curve->setData(x, y);
    curve->setPen(pen);
}
} // namespace

LoadChart::LoadChart(SortieDocument& document, QWidget* parent)
    : PictureChart(document, QStringLiteral("load-chart"), parent) {}

void LoadChart::draw(Kind kind, Phase phase) {
    const bool same = kind == kind_ && phase == phase_;
    kind_ = kind;
    phase_ = phase;
    redraw(same);
}

void LoadChart::compose() {
    dressPlot(*plot_);
    xDecimals_ = yDecimals_ = 0;
    switch (kind_) {
    case Kind::envelope:
        envelope();
        break;
    case Kind::fuel:
        fuel();
        break;
    case Kind::speeds:
        speeds();
        break;
    case Kind::tanks:
        tanks();
        break;
    case Kind::best:
        best();
        break;
    case Kind::allows:
        allows();
        break;
    }
}

void LoadChart::envelope() {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const auto& l = n.loading;
    const UnitSpec& w = *n.cockpit.weight;
    yUnit_ = q(std::string(w.symbol));
    title_ = tr("Weight, %1, against centre of gravity, and today's track through the envelope").arg(yUnit_);
    if (!l.given) {
        title_ = tr("The notes give no load sheet: no envelope");
        ranges(0, 1, 0, 1);
        return;
    }
    xUnit_ = q(std::string(l.inPercent ? "%" : l.armUnit->symbol));
    xDecimals_ = l.inPercent || l.armUnit->scale < 0.5 ? 1 : 3;
    title_ = tr("Weight, %1, against CG, %2 %3: today's flight (model)")
                 .arg(yUnit_, xUnit_, l.inPercent ? tr("of the mean chord") : tr("from the datum"));
    const auto load = plan::loadPlan(document_.aircraft(), document_.sortie(), document_.plan().flown);
    const auto x = [&](double metres) { return loading::armWritten(l, metres); };
    const double bottom = l.envelope.front().weight.si(), top = n.maxWeight.si();
    double low = std::min(bottom, load.moments.back().balance.mass), high = top;
    double left = 1e9, right = -1e9;
    for (const auto& e : l.envelope) {
        left = std::min(left, x(e.forward));
        right = std::max(right, x(e.aft));
    }
    const double width = right - left;
    for (const auto& m : load.moments) {
        left = std::min(left, x(m.balance.arm()));
        right = std::max(right, x(m.balance.arm()));
        high = std::max(high, m.balance.mass);
    }
    ranges(left - 0.12 * width, right + 0.46 * width, shown(low - 0.04 * (top - low), w),
           shown(high + 0.13 * (top - low), w));
    // The envelope, with amber strips along its edges.
    QVector<double> fx, fy, ax, ay, fa, aa;
    for (int i = 0; i <= 30; ++i) {
        const double mass = bottom + (top - bottom) * i / 30.0;
        const auto limits = loading::limitsAt(l, mass);
        const double strip = watch::edgeShare * (limits.aft - limits.forward);
        fx << x(limits.forward);
        ax << x(limits.aft);
        fa << x(limits.forward + strip);
        aa << x(limits.aft - strip);
        fy << shown(mass, w);
        ay << shown(mass, w);
    }
    for (const auto& [xs, ys] : {std::pair{fx, fy}, std::pair{ax, ay}})
        addCurve(*plot_, xs, ys, QPen(c.red, 1.8));
    for (const auto& xs : {fa, aa})
        addCurve(*plot_, xs, fy, QPen(c.amber, 1, Qt::DashLine));
    addLine(*plot_, {fx.back(), ax.back()}, {fy.back(), fy.back()}, QPen(c.red, 1.8));
    addText(*plot_, fx.back(), fy.back(), tr("max %1").arg(q(format(top, w))), Qt::AlignLeft | Qt::AlignBottom, c.red);
    const auto line = [&](std::optional<Mass> at, const QString& name) {
        if (!at || *at >= n.maxWeight)
            return;
        const auto limits = loading::limitsAt(l, at->si());
        addLine(*plot_, {x(limits.forward), x(limits.aft)}, {shown(at->si(), w), shown(at->si(), w)},
                QPen(c.faint, 1, Qt::DashLine));
        addText(*plot_, x(limits.aft), shown(at->si(), w), name, Qt::AlignRight | Qt::AlignTop, c.faint);
    };
    line(l.maxLanding, tr("max landing"));
    line(l.maxZeroFuel, tr("max zero-fuel"));
    // The flight, coloured where it leaves or comes close.
    QVector<double> tx, ty;
    std::optional<watch::Colour> held;
    const auto flush = [&] {
        if (tx.size() < 2)
            return;
        addCurve(*plot_, tx, ty, QPen(held == watch::Colour::normal ? c.ink : c.of(*held), 2.6));
    };
    for (const auto& b : load.track) {
        const auto place = loading::placeOf(l, b);
        const auto colour = watch::centreOfGravity(place.room(), place.width, {}).colour();
        const double px = x(b.arm()), py = shown(b.mass, w);
        if (held && *held != colour) {
            tx << px;
            ty << py;
            flush();
            tx.clear();
            ty.clear();
        }
        held = colour;
        tx << px;
        ty << py;
    }
    flush();
    // Their names at the right, one under the other where they stand close.
    const double step = 0.052 * (plot_->yAxis->range().upper - plot_->yAxis->range().lower);
    double free = 1e18;
    const double column = right + 0.05 * width;
    for (const auto& m : load.moments) {
        if (m.id == "ramp")
            continue;
        const double px = x(m.balance.arm()), py = shown(m.balance.mass, w);
        const QColor colour = m.verdict.colour() == watch::Colour::normal ? c.ink : c.of(m.verdict.colour());
        addRing(*plot_, px, py, colour, m.id == "take-off" ? colour : c.sheet, 8);
        const double at = std::min(py, free - step);
        free = at;
        addLine(*plot_, {px, column}, {py, at}, QPen(c.faint, 0.8, Qt::DotLine));
        addText(*plot_, column, at, q(m.name), Qt::AlignLeft | Qt::AlignVCenter, colour, m.id == "take-off");
    }
}

void LoadChart::fuel() {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec& u = *n.cockpit.fuel;
    xUnit_ = QString();
    yUnit_ = q(std::string(u.symbol));
    title_ = tr("Fuel on board, %1, less each part, down to what remains (%2)")
                 .arg(yUnit_, q(powerplant::markWithFuel(document_.aircraft())));
    const auto need = advice::fuelNeeded(document_.aircraft(), document_.sortie(), document_.plan().flown);
    struct Bar {
        QString name;
        double volume;
        bool kept;
    };
    std::vector<Bar> bars;
    double ground = 0.0;
    for (const auto& p : need.parts) {
        if (p.id == "start" || p.id == "warm-up" || p.id == "run-up" || p.id == "take-off") {
            ground += p.volume;
            if (p.id == "take-off")
                bars.push_back({tr("until\nlift-off"), ground, false});
            continue;
        }
        if (p.id == "stop") {
            bars.back().volume += p.volume;
            bars.back().name = tr("landing,\nstop");
            continue;
        }
        bars.push_back({p.id == "alternate" ? tr("alternate") : q(p.what).toLower(), p.volume,
                        p.id == "alternate" || p.id == "reserve"});
    }
    const double top = std::max(need.aboard, need.needed);
    const double count = static_cast<double>(bars.size()) + 2.0;
    ranges(-0.1, count, shown(-0.17 * top, u), shown(1.08 * top, u));
    const auto label = [&](double at, const QString& name, double low, double volume, const QColor& colour) {
        addText(*plot_, at, shown(-0.02 * top, u), name, Qt::AlignHCenter | Qt::AlignTop, c.ink);
        const bool inside = volume > 0.09 * top;
        addText(*plot_, at, shown(inside ? low + 0.5 * volume : low - 0.005 * top, u),
                q(formatValue(volume, u, volume < 10 * u.scale ? 1 : 0)),
                Qt::AlignHCenter | (inside ? Qt::AlignVCenter : Qt::AlignTop), colour, true);
    };
    addBox(*plot_, 0.06, 0.94, 0.0, shown(need.aboard, u), c.ink, c.paper);
    label(0.5, tr("on board"), 0.0, need.aboard, c.ink);
    double level = need.aboard;
    double at = 1.0;
    for (const auto& bar : bars) {
        const double low = level - bar.volume;
        QColor wash = c.amber;
        wash.setAlpha(bar.kept ? 40 : 110);
        addBox(*plot_, at + 0.06, at + 0.94, shown(low, u), shown(level, u), bar.kept ? c.amber : c.ink, wash);
        addLine(*plot_, {at - 0.06, at + 1.06}, {shown(level, u), shown(level, u)}, QPen(c.faint, 0.8, Qt::DotLine));
        label(at + 0.5, bar.name, low, bar.volume, c.ink);
        level = low;
        at += 1.0;
    }
    const bool shortOf = need.margin < 0;
    addBox(*plot_, at + 0.06, at + 0.94, shown(std::min(0.0, level), u), shown(std::max(0.0, level), u),
           shortOf ? c.red : c.green, Qt::NoBrush);
    label(at + 0.5, shortOf ? tr("short") : tr("margin"), std::min(0.0, level), std::abs(level),
          shortOf ? c.red : c.green);
    addLine(*plot_, {-1.0, count + 1.0}, {0.0, 0.0}, QPen(c.ink, 1.4));
    plot_->xAxis->setTickLabels(false);
    plot_->xAxis->grid()->setVisible(false);
}

void LoadChart::speeds() {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec &w = *n.cockpit.weight, &v = *n.cockpit.speed;
    xUnit_ = q(std::string(w.symbol));
    yUnit_ = q(std::string(v.symbol));
    title_ = tr("Speeds of the notes, %1 IAS, against weight, %2, and today's on them").arg(yUnit_, xUnit_);
    const auto lines = plan::speedLines(document_.aircraft(), document_.plan().flown);
    double low = 1e9, high = 0.0;
    for (const auto& l : lines) {
        low = std::min({low, l.light.si(), l.heavy.si()});
        high = std::max({high, l.light.si(), l.heavy.si()});
    }
    const double light = n.speeds.lightWeight.si(), heavy = n.speeds.heavyWeight.si();
    double left = light, right = heavy;
    for (const auto& l : lines)
        for (const auto& at : l.at) {
            left = std::min(left, at.weight);
            right = std::max(right, at.weight);
        }
    const double span = right - left, tall = std::max(1.0, high - low);
    ranges(shown(left - 0.08 * span, w), shown(right + 0.44 * span, w), shown(low - 0.1 * tall, v),
           shown(high + 0.12 * tall, v));
    if (lines.empty() || lines.front().at.empty())
        return;
    const auto upright = [&](double weight, const QString& name, Qt::Alignment side) {
        addLine(*plot_, {shown(weight, w), shown(weight, w)},
                {shown(low - 0.1 * tall, v), shown(high + 0.12 * tall, v)}, QPen(c.amber, 1, Qt::DashLine));
        addText(*plot_, shown(weight, w), shown(high + 0.11 * tall, v), name, side | Qt::AlignTop, c.amber, true);
    };
    upright(lines.front().at.front().weight, tr("take-off"), Qt::AlignLeft);
    upright(lines.front().at.back().weight, tr("landing"), Qt::AlignRight);
    // Names at the right, in their order, apart.
    std::vector<const plan::SpeedLine*> order;
    for (const auto& l : lines)
        order.push_back(&l);
    std::sort(order.begin(), order.end(),
              [](const plan::SpeedLine* a, const plan::SpeedLine* b) { return a->heavy < b->heavy; });
    double free = -1e9;
    for (const auto* l : order) {
        addLine(*plot_, {shown(left, w), shown(light, w), shown(heavy, w), shown(right, w)},
                {shown(l->light.si(), v), shown(l->light.si(), v), shown(l->heavy.si(), v), shown(l->heavy.si(), v)},
                QPen(c.ink, 1.4));
        for (const auto& at : l->at)
            addRing(*plot_, shown(at.weight, w), shown(at.speed.si(), v), c.amber,
                    at.where == "take-off" ? c.amber : c.sheet, 8);
        const double at = std::max(l->heavy.si(), free + 0.06 * tall);
        free = at;
        addText(*plot_, shown(right + 0.02 * span, w), shown(at, v), q(l->name), Qt::AlignLeft | Qt::AlignVCenter,
                c.ink);
    }
}

void LoadChart::tanks() {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const auto& f = document_.plan().flown;
    const UnitSpec& u = *n.cockpit.fuel;
    xUnit_ = tr("h");
    xDecimals_ = 2;
    yUnit_ = q(std::string(u.symbol));
    title_ = tr("Usable fuel of each tank, %1, against hours from the first engine's start (%2)")
                 .arg(yUnit_, q(powerplant::markWithFuel(document_.aircraft())));
    const double zero = f[Phase::start].start;
    const auto hours = [&](double time) { return (time - zero) / 3600.0; };
    double most = 0.0, last = hours(f.totalTime());
    std::vector<std::size_t> drawn;
    for (std::size_t t = 0; t < n.fuel.tanks.size(); ++t) {
        double high = 0.0;
        for (std::size_t i = 0; i < f.samples.size(); ++i)
            high = std::max(high, f.contents.at(i)[t]);
        if (high > 0)
            drawn.push_back(t);
        most = std::max(most, high);
    }
    const double top = shown(most, u) * 1.28;
    ranges(-0.02 * last, last * 1.16, -0.03 * top, top);
    for (std::size_t k = 0; k < drawn.size(); ++k) {
        const std::size_t t = drawn[k];
        QVector<double> x, y;
        for (std::size_t i = f[Phase::start].firstSample; i < f.samples.size(); ++i) {
            x << hours(f.samples[i].time);
            y << shown(f.contents.at(i)[t], u);
        }
        addLine(*plot_, x, y, QPen(c.ink, 2.0, lineKinds[k % 4]));
        double at = y.back();
        for (std::size_t o = 0; o < k; ++o) // apart from those drawn before
            if (const double other = shown(f.contents.at(f.samples.size() - 1)[drawn[o]], u);
                std::abs(other - at) < 0.05 * top)
                at = other + (at >= other ? 0.05 : -0.05) * top;
        addText(*plot_, last * 1.01, at, q(n.fuel.tanks[t].name), Qt::AlignLeft | Qt::AlignVCenter, c.ink, true);
    }
    // Bad ground, where no tank is changed.
    for (const auto& [from, to] : document_.sortie().flight.badGround) {
        double begin = -1, end = -1, flown = 0.0, before = f[Phase::takeOff].start;
        for (std::size_t i = f[Phase::takeOff].firstSample + 1; i < f.samples.size(); ++i) {
            const double dt = f.samples[i].time - before;
            const auto& p = f[f.samples[i].phase];
            flown += p.duration > 0 ? p.distance / p.duration * dt : 0.0;
            before = f.samples[i].time;
            if (begin < 0 && flown >= from)
                begin = f.samples[i].time;
            if (end < 0 && flown >= to)
                end = f.samples[i].time;
        }
        if (begin < 0)
            continue;
        QColor wash = c.red;
        wash.setAlpha(28);
        addBox(*plot_, hours(begin), hours(end < 0 ? f.totalTime() : end), 0, top, Qt::transparent, wash);
        addText(*plot_, hours(begin), 0.0, tr("bad ground"), Qt::AlignLeft | Qt::AlignBottom, c.red);
    }
    int row = 0;
    double free = -1e9;
    const auto words = plan::tankLines(document_.plan(), n);
    for (const auto& line : words) {
        const double at = hours(line.time);
        const QColor colour = line.verdict.colour() == watch::Colour::normal ? c.amber : c.of(line.verdict.colour());
        addLine(*plot_, {at, at}, {0.0, top}, QPen(colour, 1, Qt::DashLine));
        row = at < free ? (row + 1) % 4 : 0;
        const bool right = at > 0.7 * last;
        addText(*plot_, at, top * (0.99 - 0.055 * row), q(line.text),
                (right ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop, colour, true);
        free = at + 0.3 * last;
    }
}

void LoadChart::best() {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec &v = *n.cockpit.speed, &d = *n.cockpit.distance, &u = *n.cockpit.fuel;
    const double scale = u.scale / d.scale; // m per m³ → miles per gallon
    xUnit_ = q(std::string(v.symbol));
    yUnit_ = q(plan::milesUnit(n));
    yDecimals_ = 2;
    title_ = tr("%1 over the ground, against true %2, by height (model)").arg(yUnit_, xUnit_);
    if (!best_ || best_->curves.empty()) {
        title_ = tr("No permitted setting maintains height today");
        ranges(0, 1, 0, 1);
        return;
    }
    double left = 1e9, right = 0.0, low = 1e18, high = 0.0;
    for (const auto* p : {&best_->now, &best_->hours, &best_->price})
        if (*p) {
            left = std::min(left, (*p)->cruise.tas.si());
            low = std::min(low, (*p)->miles);
        }
    for (const auto& curve : best_->curves)
        for (const auto& p : curve.points) {
            left = std::min(left, p.cruise.tas.si());
            right = std::max(right, p.cruise.tas.si());
            low = std::min(low, p.miles);
            high = std::max(high, p.miles);
        }
    if (best_->miles)
        high = std::max(high, best_->miles->miles);
    const double span = right - left;
    ranges(shown(left - 0.03 * span, v), shown(right + 0.38 * span, v), low * scale * 0.86, high * scale * 1.09);
    double free = 1e18;
    const double step = 0.05 * (high * 1.09 - low * 0.86) * scale;
    std::vector<std::pair<double, const advice::BestCruise::Curve*>> ends;
    int kind = 0;
    for (const auto& curve : best_->curves) {
        QVector<double> x, y;
        for (const auto& p : curve.points) {
            x << shown(p.cruise.tas.si(), v);
            y << p.miles * scale;
        }
        const bool planned = best_->now && std::abs(curve.height.si() - best_->now->height.si()) < 30.0;
        addLine(*plot_, x, y,
                planned ? QPen(c.ink, 2.8) : QPen(c.ink, 1.2, lineKinds[static_cast<std::size_t>(kind++ % 4)]));
        ends.emplace_back(y.back(), &curve);
    }
    std::sort(ends.begin(), ends.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    for (const auto& [y, curve] : ends) {
        const double at = std::min(y, free - step);
        free = at;
        const double px = shown(curve->points.back().cruise.tas.si(), v);
        addLine(*plot_, {px, shown(right + 0.02 * span, v)}, {y, at}, QPen(c.faint, 0.8, Qt::DotLine));
        addText(*plot_, shown(right + 0.025 * span, v), at, q(formatHeight(curve->height.si(), *n.cockpit.height)),
                Qt::AlignLeft | Qt::AlignVCenter, c.ink);
    }
    const auto mark = [&](const std::optional<advice::BestPoint>& p, const QString& name, const QColor& colour,
                          bool filled, Qt::Alignment side) {
        if (!p)
            return;
        const double x = shown(p->cruise.tas.si(), v), y = p->miles * scale;
        addRing(*plot_, x, y, colour, filled ? colour : c.sheet, 9);
        addText(*plot_, x, y, name, side, colour, true);
    };
    mark(best_->now, tr("as planned"), c.ink, true, Qt::AlignLeft | Qt::AlignTop);
    mark(best_->hours, tr("most hours"), c.amber, false, Qt::AlignLeft | Qt::AlignTop);
    mark(best_->price, tr("cheapest"), c.amber, false, Qt::AlignLeft | Qt::AlignTop);
    mark(best_->miles, tr("most miles"), c.amber, true, Qt::AlignRight | Qt::AlignBottom);
    mark(best_->knee, tr("knee"), c.amber, false, Qt::AlignLeft | Qt::AlignBottom);
}

void LoadChart::allows() {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const auto allowed = advice::dayAllows(document_.aircraft(), document_.sortie(), document_.plan().flown, phase_);
    const UnitSpec& u = n.unitOf(Gauge::boost);
    xUnit_ = tr("rpm");
    yUnit_ = q(std::string(u.symbol));
    yDecimals_ = 1;
    title_ = tr("Most boost, %1, against rpm, at %2: what bounds it today (model)")
                 .arg(yUnit_, q(formatHeight(allowed.height.si(), *n.cockpit.height)));
    if (allowed.lines.empty()) {
        // The engine wide open against the blades: where they meet she turns.
        const UnitSpec& w = *n.cockpit.power;
        yUnit_ = q(std::string(w.symbol));
        yDecimals_ = 0;
        title_ = tr("Power, %1, against rpm: what the engine gives and the blades take (model)").arg(yUnit_);
        QVector<double> x, gives, takes;
        double most = 1.0;
        for (std::size_t i = 0; i < allowed.gives.size(); ++i) {
            x << allowed.gives[i].first * 60;
            gives << shown(allowed.gives[i].second, w);
            takes << shown(allowed.takes[i].second, w);
            most = std::max(most, gives.back());
        }
        if (x.isEmpty()) {
            ranges(0, 1, 0, 1);
            return;
        }
        const double span = x.back() - x.front();
        ranges(x.front() - 0.03 * span, x.back() + 0.34 * span, 0.0, 1.3 * most);
        addLine(*plot_, x, gives, QPen(c.ink, 2.0));
        addLine(*plot_, x, takes, QPen(c.ink, 2.0, Qt::DashLine));
        addText(*plot_, x.back() + 0.02 * span, gives.back(), tr("the engine gives"), Qt::AlignLeft | Qt::AlignVCenter,
                c.ink);
        addText(*plot_, x.back() + 0.02 * span, std::clamp(takes.back(), 0.0, 1.22 * most), tr("the blades take"),
                Qt::AlignLeft | Qt::AlignVCenter, c.ink);
        const double limit = flight::ratingFor(n, document_.sortie(), phase_).rpm.si() * 60;
        addLine(*plot_, {limit, limit}, {0.0, 1.3 * most}, QPen(c.red, 1.4));
        addText(*plot_, limit, 1.29 * most, tr("rating"), Qt::AlignRight | Qt::AlignTop, c.red);
        addRing(*plot_, allowed.rpm.si() * 60, shown(allowed.power.si(), w), c.amber, c.amber, 10);
        addText(*plot_, allowed.rpm.si() * 60, shown(allowed.power.si(), w),
                allowed.binds == advice::Bound::throttle ? tr("full throttle binds") : tr("held at the rating"),
                Qt::AlignRight | Qt::AlignBottom, c.amber, true);
        return;
    }
    double low = allowed.boost ? allowed.boost->si() : 1e5, high = low;
    low = std::min(low, allowed.plannedBoost.si());
    double left = 1e9, right = 0.0;
    const double interesting = 1.35 * allowed.boost->si();
    for (const auto& line : allowed.lines)
        for (const auto& [rpm, most] : line.points) {
            left = std::min(left, rpm);
            right = std::max(right, rpm);
            if (most < interesting)
                high = std::max(high, most);
            low = std::min(low, std::max(most, 0.62 * allowed.boost->si()));
        }
    const double span = right - left, tall = high - low + 5e3;
    ranges(left * 60 - 0.02 * span * 60, (right + 0.42 * span) * 60, shown(low - 0.1 * tall, u),
           shown(high + 0.1 * tall, u));
    // What is left under all of them, washed.
    const auto& grid = allowed.lines.front().points;
    QVector<double> ex, ey;
    for (std::size_t i = 0; i < grid.size(); ++i) {
        double most = 1e18;
        for (const auto& line : allowed.lines)
            for (const auto& [rpm, boost] : line.points)
                if (std::abs(rpm - grid[i].first) < 1e-9)
                    most = std::min(most, boost);
        if (grid[i].first > allowed.rpm.si() * 1.0001) {
            ex << allowed.rpm.si() * 60;
            ey << shown(allowed.boost->si(), u);
            break;
        }
        ex << grid[i].first * 60;
        ey << shown(most, u);
    }
    auto* area = addLine(*plot_, ex, ey, QPen(Qt::transparent));
    QColor wash = c.green;
    wash.setAlpha(34);
    area->setBrush(wash);
    int kind = 0;
    std::vector<std::pair<double, QString>> names;
    for (const auto& line : allowed.lines) {
        QVector<double> x, y;
        for (const auto& [rpm, most] : line.points) {
            x << rpm * 60;
            y << shown(most, u);
        }
        const bool binds = line.bound == allowed.binds;
        addLine(*plot_, x, y,
                QPen(binds ? c.amber : c.ink, binds ? 2.6 : 1.4, lineKinds[static_cast<std::size_t>(kind++ % 4)]));
        names.emplace_back(std::min(y.back(), shown(high + 0.06 * tall, u)),
                           binds ? tr("%1 binds").arg(q(std::string(advice::nameOf(line.bound))))
                                 : q(std::string(advice::nameOf(line.bound))));
    }
    std::sort(names.begin(), names.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    double free = 1e18;
    const double step = 0.055 * std::abs(shown(high + 0.1 * tall, u) - shown(low - 0.1 * tall, u));
    for (const auto& [y, name] : names) {
        const double at = std::min(y, free - step);
        free = at;
        addText(*plot_, (right + 0.02 * span) * 60, at, name, Qt::AlignLeft | Qt::AlignVCenter,
                name.endsWith(tr(" binds")) ? c.amber : c.ink, name.endsWith(tr(" binds")));
    }
    addRing(*plot_, allowed.rpm.si() * 60, shown(allowed.boost->si(), u), c.amber, c.amber, 10);
    addText(*plot_, allowed.rpm.si() * 60, shown(allowed.boost->si(), u), tr("allowed"), Qt::AlignRight | Qt::AlignTop,
            c.amber, true);
    if (!allowed.planned) {
        addRing(*plot_, allowed.plannedRpm.si() * 60, shown(allowed.plannedBoost.si(), u), c.ink, c.sheet, 9);
        addText(*plot_, allowed.plannedRpm.si() * 60, shown(allowed.plannedBoost.si(), u), tr("planned"),
                Qt::AlignRight | Qt::AlignBottom, c.ink, true);
    }
}

} // namespace amber::app
