// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/trouble_chart.h"
#include "kit/plot_style.h"
#include "kit/words.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>

namespace amber::app {
namespace {
const std::array<Qt::PenStyle, 3> wayLines{Qt::SolidLine, Qt::DashLine, Qt::DotLine};

/// A line that may go both ways in x.
QCPCurve* addPath(QCustomPlot& plot, const QVector<double>& x, const QVector<double>& y, const QPen& pen) {
    auto* curve = new QCPCurve(plot.xAxis, plot.yAxis);
    curve->setData(x, y);
    curve->setPen(pen);
    return curve;
}
} // namespace

TroubleChart::TroubleChart(SortieDocument& document, QWidget* parent)
    : PictureChart(document, QStringLiteral("trouble-chart"), parent) {}

void TroubleChart::put(OutPicture picture) {
    picture_ = std::move(picture);
    redraw(false);
}
void TroubleChart::put(trouble::GoRound round) {
    picture_ = std::move(round);
    redraw(false);
}
void TroubleChart::put(trouble::Dive dive) {
    picture_ = std::move(dive);
    redraw(false);
}
void TroubleChart::clear() {
    picture_ = std::monostate{};
    redraw(false);
}

void TroubleChart::compose() {
    dressPlot(*plot_);
    xDecimals_ = yDecimals_ = 0;
    xUnit_.clear();
    yUnit_.clear();
    title_.clear();
    if (const auto* out = std::get_if<OutPicture>(&picture_))
        out->out.anyLeft ? rates(*out) : glide(out->out);
    else if (const auto* going = std::get_if<trouble::GoRound>(&picture_))
        round(*going);
    else if (const auto* diving = std::get_if<trouble::Dive>(&picture_))
        dive(*diving);
    else
        ranges(0, 1, 0, 1);
}

void TroubleChart::rates(const OutPicture& picture) {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec &v = verticalSpeedUnit(n.cockpit), &h = *n.cockpit.height;
    xUnit_ = q(std::string(v.symbol));
    yUnit_ = q(std::string(h.symbol));
    title_ = tr("Height, %1, against climb on the remaining engines, %2 (model)").arg(yUnit_, xUnit_);
    const auto& k = picture.curves;
    double left = 0.0, right = 0.0, low = 1e9, high = -1e9;
    for (const auto* line : {&k.feathered, &k.windmilling, &k.limited})
        for (const auto& [height, rate] : *line) {
            left = std::min(left, shown(rate, v));
            right = std::max(right, shown(rate, v));
            low = std::min(low, shown(height, h));
            high = std::max(high, shown(height, h));
        }
    const double wide = std::max(1e-9, right - left), tall = std::max(1e-9, high - low);
    ranges(left - 0.08 * wide, right + 0.30 * wide, low - 0.04 * tall, high + 0.06 * tall);
    addLine(*plot_, {0, 0}, {low - tall, high + tall}, QPen(c.ink, 1.4));
    addText(*plot_, 0, high + 0.05 * tall, tr("climbs →"), Qt::AlignLeft | Qt::AlignTop, c.faint);
    addText(*plot_, 0, high + 0.05 * tall, tr("← sinks"), Qt::AlignRight | Qt::AlignTop, c.faint);
    const auto draw = [&](const std::vector<std::pair<double, double>>& line, const QPen& pen, const QString& name) {
        if (line.empty())
            return;
        QVector<double> x, y;
        for (const auto& [height, rate] : line) {
            x << shown(rate, v);
            y << shown(height, h);
        }
        addPath(*plot_, x, y, pen);
        addText(*plot_, x.front(), y.front(), name, Qt::AlignLeft | Qt::AlignBottom, pen.color());
    };
    const QString least = picture.out.feathers ? tr("feathered") : tr("propeller as it goes");
    draw(k.limited, QPen(c.faint, 1.6, Qt::DashLine), q(picture.out.limited.rating));
    draw(k.windmilling, QPen(c.red, 1.8, Qt::DotLine), tr("windmilling"));
    draw(k.feathered, QPen(c.green, 2.6), least);
    const auto nil = [&](const std::optional<Length>& at, const QColor& colour) {
        if (!at)
            return;
        addRing(*plot_, 0, shown(at->si(), h), colour, c.sheet);
        addText(*plot_, 0, shown(at->si(), h), q(formatHeight(at->si(), h)), Qt::AlignLeft | Qt::AlignBottom, colour,
                true);
    };
    nil(picture.out.ceilingWindmilling, c.red);
    nil(picture.out.ceiling, c.green);
    // Where she is.
    const double here = shown(picture.out.moment.height.si(), h);
    addLine(*plot_, {left - wide, right + wide}, {here, here}, QPen(c.amber, 1.4, Qt::DashLine));
    addText(*plot_, right + 0.28 * wide, here, tr("now"), Qt::AlignRight | Qt::AlignBottom, c.amber);
    addRing(*plot_, shown(picture.out.feathered.rate.si(), v), here, c.ink, c.amber, 10);
}

void TroubleChart::glide(const trouble::EngineOut& out) {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec &d = *n.cockpit.distance, &h = *n.cockpit.height;
    xUnit_ = q(std::string(d.symbol));
    yUnit_ = q(std::string(h.symbol));
    xDecimals_ = 1;
    title_ = tr("Glide: height over the field, %1, against distance, %2, still air (model)").arg(yUnit_, xUnit_);
    if (!out.glide)
        return;
    const double down = out.moment.aboveField.si(), far = out.glide->distance;
    const double x = shown(far, d), y = shown(down, h);
    ranges(-0.04 * std::max(x, 0.1), 1.15 * std::max(x, 0.1), -0.06 * std::max(y, 10.0), 1.15 * std::max(y, 10.0));
    addLine(*plot_, {-x, 2 * x}, {0, 0}, QPen(c.ink, 1.4));
    addLine(*plot_, {0, x}, {y, 0}, QPen(c.green, 2.6));
    addRing(*plot_, 0, y, c.ink, c.amber, 10);
    addText(*plot_, 0, y, q(formatHeight(down, h)), Qt::AlignLeft | Qt::AlignBottom, c.amber, true);
    addRing(*plot_, x, 0, c.green, c.sheet);
    addText(*plot_, x, 0, q(format(far, d, 1)), Qt::AlignRight | Qt::AlignBottom, c.green, true);
}

void TroubleChart::round(const trouble::GoRound& g) {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec& h = *n.cockpit.height;
    xUnit_ = tr("s");
    yUnit_ = q(std::string(h.symbol));
    title_ = tr("Height against where it was decided, %1, seconds after (model)").arg(yUnit_);
    if (g.path.empty())
        return;
    QVector<double> x, y;
    double low = 0.0, high = 0.0;
    for (const auto& [t, height] : g.path) {
        x << t;
        y << shown(height, h);
        low = std::min(low, y.back());
        high = std::max(high, y.back());
    }
    const double tall = std::max(high - low, shown(20.0, h));
    ranges(-1, x.back() * 1.04, low - 0.15 * tall, high + 0.15 * tall);
    addLine(*plot_, {-10, 100}, {0, 0}, QPen(c.rule, 1));
    addPath(*plot_, x, y, QPen(g.climbs.colour() == watch::Colour::red ? c.red : c.green, 2.6));
    const double full = 2.0 + g.fullAfter;
    addLine(*plot_, {full, full}, {low - tall, high + tall}, QPen(c.amber, 1.2, Qt::DashLine));
    addText(*plot_, full, high + 0.13 * tall, tr("full power, drag on its way up"), Qt::AlignLeft | Qt::AlignTop,
            c.amber);
    if (g.dip) {
        const auto lowest = std::min_element(y.begin(), y.end());
        const double at = x[static_cast<int>(lowest - y.begin())];
        addRing(*plot_, at, *lowest, c.ink, c.sheet);
        addText(*plot_, at, *lowest, tr("lost %1").arg(q(trouble::lowHeight(g.dip->si(), n.cockpit))),
                Qt::AlignLeft | Qt::AlignTop, c.ink, true);
    }
}

void TroubleChart::dive(const trouble::Dive& d) {
    const Colours c(plot_);
    const auto& n = document_.aircraft().notes;
    const UnitSpec& u = *n.cockpit.temperature;
    xUnit_ = tr("min");
    xDecimals_ = 1;
    yUnit_ = q(std::string(u.symbol));
    title_ =
        tr("%1, %2, minutes down (model)").arg(n.engine.cooling == Cooling::air ? tr("Heads") : tr("Coolant"), yUnit_);
    double low = 1e9, high = -1e9, longest = 0.0;
    for (const auto& w : d.ways)
        for (const auto& [t, kelvin] : w.path) {
            low = std::min(low, shown(kelvin, u));
            high = std::max(high, shown(kelvin, u));
            longest = std::max(longest, t / 60.0);
        }
    if (d.ways.empty() || longest <= 0) {
        title_ = tr("The aircraft is not flying high enough to dive: choose a moment on the score");
        ranges(0, 1, 0, 1);
        return;
    }
    const double tall = std::max(10.0, high - low);
    ranges(-0.03 * longest, 1.25 * longest, low - 0.1 * tall, high + 0.15 * tall);
    for (std::size_t i = 0; i < d.ways.size(); ++i) {
        const auto& w = d.ways[i];
        QVector<double> x, y;
        for (const auto& [t, kelvin] : w.path) {
            x << t / 60.0;
            y << shown(kelvin, u);
        }
        const bool bad = w.shock.colour() != watch::Colour::normal;
        const QColor colour = bad ? c.amber : i == 0 ? c.green : c.ink;
        addLine(*plot_, x, y, QPen(colour, 2.2, wayLines[i % wayLines.size()]));
        if (!x.isEmpty())
            addText(*plot_, x.back(), y.back(), q(w.name), Qt::AlignLeft | Qt::AlignBottom, colour);
    }
}

} // namespace amber::app
