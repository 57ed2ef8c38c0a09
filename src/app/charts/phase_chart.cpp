// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/phase_chart.h"
#include "kit/inline_field.h"
#include "kit/plot_style.h"
#include "kit/words.h"
#include "plan/pictures.h"
#include "start/priming.h"
#include "units/text.h"
#include <QMouseEvent>
#include <QToolTip>
#include <QVBoxLayout>
#include <cmath>

namespace amber::app {
namespace {
constexpr double handleReach = 14; // px

struct Columns {
    QVector<double> x, y;
};
Columns inUnits(const std::vector<flight::CurvePoint>& points, const UnitSpec& xUnit, const UnitSpec& yUnit) {
    Columns out;
    for (const auto& p : points) {
        out.x << shown(p.x, xUnit);
        out.y << shown(p.y, yUnit);
    }
    return out;
}
} // namespace

struct PhaseChart::Impl {
    SortieDocument& document;
    QCustomPlot* plot;
    Phase phase = Phase::climb;
    QString title;
    QString xUnit, yUnit;
    int xDecimals = 0, yDecimals = 1;
    std::optional<QPointF> handle; // plot coordinates of the planned height
    bool dragging = false;
    int gesture = 0;
    std::optional<Phase> zoomedPhase; // the axes were moved by hand in this phase
    Kind kind = Kind::byPhase;

    [[nodiscard]] const TypeNotes& notes() const { return document.aircraft().notes; }

    void ranges(double xLow, double xHigh, double yLow, double yHigh) {
        if (zoomedPhase == phase)
            return;
        zoomedPhase.reset();
        plot->xAxis->setRange(xLow, xHigh);
        plot->yAxis->setRange(yLow, yHigh);
    }

    void ticks() {
        plot->xAxis->setTicker(
            roundTicks(plot->xAxis->range().lower, plot->xAxis->range().upper, std::max(3, plot->width() / 110)));
        plot->yAxis->setTicker(
            roundTicks(plot->yAxis->range().lower, plot->yAxis->range().upper, std::max(3, plot->height() / 44)));
        for (auto* axis : {plot->xAxis, plot->yAxis}) {
            const double step = qSharedPointerCast<QCPAxisTickerFixed>(axis->ticker())->tickStep();
            axis->setNumberPrecision(step >= 0.999 ? 0 : step >= 0.0999 ? 1 : 2);
        }
        plot->xAxis2->setTicker(plot->xAxis->ticker());
        plot->yAxis2->setTicker(plot->yAxis->ticker());
    }

    void draw() {
        plot->clearGraphs();
        plot->clearItems();
        handle.reset();
        switch (phase) {
        case Phase::start:
            kind == Kind::primeTime ? drawPrimingTime() : drawPriming();
            break;
        case Phase::climb:
            drawClimb();
            break;
        case Phase::cruise:
            drawCruise();
            break;
        default:
            drawTemperatures();
            break;
        }
        ticks();
        plot->replot(QCustomPlot::rpQueuedRefresh);
    }

    void drawClimb() {
        const Colours c(plot);
        const auto& f = document.plan().flown;
        const auto picture = plan::climbPicture(document.aircraft(), document.sortie(), f);
        const UnitSpec &h = *notes().cockpit.height, &b = notes().unitOf(Gauge::boost);
        const auto& setting = f[Phase::climb].setting;
        xUnit = q(std::string(h.symbol));
        yUnit = q(std::string(b.symbol));
        xDecimals = 0;
        yDecimals = 1;
        title =
            tr("Boost, %1, against pressure altitude, %2, at %3").arg(yUnit, xUnit, q(format(setting.rpm, units::rpm)));
        dressPlot(*plot);
        const double chosen = setting.boost ? setting.boost->si() : standardPressure;
        double low = chosen, high = chosen;
        for (const auto& p : picture.planned) {
            low = std::min(low, p.y);
            high = std::max(high, p.y);
        }
        const double span = std::max(high - low, 0.25 * chosen);
        ranges(0, shown(picture.top, h), shown(std::max(2e4, low - 0.55 * span), b), shown(high + 0.45 * span, b));
        for (const auto& curve : picture.fullThrottle) {
            const auto line = inUnits(curve.points, h, b);
            addLine(*plot, line.x, line.y, QPen(c.ink, 1.3, curve.gear == 0 ? Qt::DashLine : Qt::DashDotLine));
        }
        const auto planned = inUnits(picture.planned, h, b);
        addLine(*plot, planned.x, planned.y, QPen(c.amber, 3));
        for (std::size_t i = 0; i < picture.fullThrottleHeights.size(); ++i) {
            const auto& p = picture.fullThrottleHeights[i];
            addRing(*plot, shown(p.x, h), shown(p.y, b), c.ink, c.sheet);
            const bool right = shown(p.x, h) > 0.72 * shown(picture.top, h);
            addText(*plot, shown(p.x, h), shown(p.y, b),
                    picture.fullThrottleHeights.size() > 1
                        ? tr("%1: full throttle at %2").arg(q(picture.heightGears[i]), q(formatHeight(p.x, h)))
                        : tr("full throttle %1").arg(q(formatHeight(p.x, h))),
                    (i % 2 == 0 ? Qt::AlignBottom : Qt::AlignTop) | (right ? Qt::AlignRight : Qt::AlignLeft), c.ink);
        }
        if (f.gearChange()) {
            const double x = shown(f.gearChange()->pressureAltitude.si(), h),
                         y = shown(f.gearChange()->boostBefore.si(), b);
            const double fallen =
                setting.boost ? (setting.boost->si() - f.gearChange()->boostBefore.si()) / b.scale : 0.0;
            addText(*plot, x, y,
                    tr("change at %1, %2 %3 down")
                        .arg(q(formatHeight(f.gearChange()->height.si(), h)), q(formatNumber(fallen, 1)), yUnit),
                    Qt::AlignTop | Qt::AlignLeft, c.amber, true);
        }
        if (!picture.planned.empty())
            handleAt(shown(picture.planned.back().x, h), shown(picture.planned.back().y, b));
    }

    void drawCruise() {
        const Colours c(plot);
        const auto& f = document.plan().flown;
        const auto picture = plan::cruisePicture(document.aircraft(), document.sortie(), f);
        const UnitSpec &h = *notes().cockpit.height, &w = *notes().cockpit.power;
        const auto& setting = f[Phase::cruise].setting;
        xUnit = q(std::string(h.symbol));
        yUnit = q(std::string(w.symbol));
        xDecimals = 0;
        yDecimals = 0;
        title = tr("Power of one engine, %1, against pressure altitude, %2, at %3; lines of boost in %4")
                    .arg(yUnit, xUnit, q(format(setting.rpm, units::rpm)),
                         q(std::string(notes().unitOf(Gauge::boost).symbol)));
        dressPlot(*plot);
        double low = picture.planned.y, high = picture.planned.y;
        for (const auto& curve : picture.constantBoost)
            for (const auto& p : curve.points) {
                low = std::min(low, p.y);
                high = std::max(high, p.y);
            }
        ranges(0, shown(picture.top, h), shown(std::max(0.0, low - 0.08 * (high - low) - 1e3), w),
               shown(high + 0.16 * (high - low) + 1e3, w));
        for (const auto& curve : picture.fullThrottle) {
            const auto line = inUnits(curve.points, h, w);
            addLine(*plot, line.x, line.y, QPen(c.ink, 1.3, curve.gear == 0 ? Qt::DashLine : Qt::DashDotLine));
        }
        double lastLabel = 1e18; // px; labels stand apart by the height of their type
        for (const auto& curve : picture.constantBoost) {
            const auto line = inUnits(curve.points, h, w);
            const bool here = curve.gear == picture.plannedGear;
            addLine(*plot, line.x, line.y, QPen(here ? c.ink : c.faint, here ? 1.4 : 0.9));
            const double at = plot->yAxis->coordToPixel(line.y.front());
            if (!here || std::abs(at - lastLabel) < QFontMetrics(face(12)).height() + 1)
                continue;
            lastLabel = at;
            auto* label =
                addText(*plot, line.x.front(), line.y.front(), q(curve.label), Qt::AlignLeft | Qt::AlignVCenter, c.ink);
            label->setBrush(c.sheet);
            label->setPadding(QMargins(3, 0, 3, 0));
        }
        const double x = shown(picture.planned.x, h), y = shown(picture.planned.y, w);
        addLine(*plot, {x, x}, {-1e6, y}, QPen(c.amber, 1, Qt::DotLine));
        addLine(*plot, {-1e6, x}, {y, y}, QPen(c.amber, 1, Qt::DotLine));
        const QString gear = notes().engine.gears.empty()
                                 ? QString()
                                 : q(notes().engine.gears[picture.plannedGear].name) + QStringLiteral(", ");
        const bool right = x > 0.62 * plot->xAxis->range().upper;
        addText(*plot, x, y, tr("%1%2").arg(gear, q(format(picture.planned.y, w))),
                Qt::AlignBottom | (right ? Qt::AlignRight : Qt::AlignLeft), c.amber, true);
        handleAt(x, y);
    }

    void handleAt(double x, double y) {
        const Colours c(plot);
        handle = QPointF(x, y);
        auto* graph = plot->addGraph();
        graph->setData({x}, {y});
        graph->setLineStyle(QCPGraph::lsNone);
        graph->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDiamond, QPen(c.amber, 2), QBrush(c.sheet), 13));
    }

    void drawTemperatures() {
        const Colours c(plot);
        const auto& f = document.plan().flown;
        const auto& p = f[phase];
        const UnitSpec& t = *notes().cockpit.temperature;
        const bool heads = notes().engine.cooling == Cooling::air;
        const Gauge headOrCoolantGauge = heads ? Gauge::headTemperature : Gauge::coolantTemperature;
        xUnit = tr("min");
        yUnit = q(std::string(t.symbol));
        xDecimals = 1;
        yDecimals = 0;
        title = (heads ? tr("Heads and oil, %1, against minutes from the start of this phase")
                       : tr("Coolant and oil, %1, against minutes from the start of this phase"))
                    .arg(yUnit);
        dressPlot(*plot);
        QVector<double> x, headOrCoolant, oil;
        for (std::size_t i = p.firstSample; i <= p.lastSample; ++i) {
            const auto& m = f.samples[i];
            x << (m.time - p.start) / 60.0;
            headOrCoolant << shown(m.headOrCoolant(), t);
            oil << shown(m[Gauge::oilTemperature], t);
        }
        const double end = std::max(1.0, p.duration / 60.0);
        double low = 1e9, high = -1e9;
        for (const double v : headOrCoolant + oil) {
            low = std::min(low, v);
            high = std::max(high, v);
        }
        const auto consider = [&](std::optional<double> si) {
            if (si) {
                low = std::min(low, shown(*si, t));
                high = std::max(high, shown(*si, t));
            }
        };
        const auto band = notes().gauges.find(headOrCoolantGauge);
        if (band != notes().gauges.end())
            consider(band->second.in(phase).limitHigh);
        const double margin = 0.08 * (high - low) + 2;
        ranges(0, end * 1.14, low - margin, high + 2.4 * margin);
        const auto level = [&](double si, const QString& text, const QColor& colour, Qt::PenStyle style,
                               Qt::Alignment side = Qt::AlignBottom) {
            addLine(*plot, {-1000, 1e5}, {shown(si, t), shown(si, t)}, QPen(colour, 1.4, style));
            addText(*plot, 0, shown(si, t), text, Qt::AlignLeft | side, colour);
        };
        if (band != notes().gauges.end()) {
            const Band& b = band->second.in(phase);
            if (b.limitHigh)
                level(*b.limitHigh, tr("limit %1").arg(q(format(*b.limitHigh, t))), c.red, Qt::SolidLine);
            if (b.normalHigh && b.normalHigh != b.limitHigh)
                level(*b.normalHigh, tr("normal to %1").arg(q(format(*b.normalHigh, t))), c.amber, Qt::DashLine,
                      Qt::AlignTop);
            if (b.limitLow)
                level(*b.limitLow, tr("min %1").arg(q(format(*b.limitLow, t))), c.red, Qt::SolidLine);
        }
        if (phase == Phase::warmUp) {
            level(notes().warmUp.oilRunUp.si(), tr("oil for run-up %1").arg(q(format(notes().warmUp.oilRunUp.si(), t))),
                  c.green, Qt::DotLine);
            if (notes().warmUp.headRunUp)
                level(notes().warmUp.headRunUp->si(),
                      tr("%1 for run-up %2")
                          .arg(heads ? tr("heads") : tr("coolant"), q(format(notes().warmUp.headRunUp->si(), t))),
                      c.green, Qt::DotLine);
        }
        addLine(*plot, x, headOrCoolant, QPen(c.ink, 2.4));
        addLine(*plot, x, oil, QPen(c.ink, 1.6, Qt::DashLine));
        if (!x.isEmpty()) {
            addText(*plot, x.back(), headOrCoolant.back(), heads ? tr("heads") : tr("coolant"),
                    Qt::AlignLeft | Qt::AlignVCenter, c.ink, true);
            addText(*plot, x.back(), oil.back(), tr("oil"), Qt::AlignLeft | Qt::AlignVCenter, c.ink, true);
        }
    }

    [[nodiscard]] Temperature engine() const { return flight::engineTemperatureOf(document.sortie()); }
    [[nodiscard]] Pressure field() const { return document.sortie().day.fieldPressure(); }

    /// The two edges of the firing window.
    void firingWindow(double right) {
        const Colours c(plot);
        const auto level = [&](double ratio, const QString& text, const QColor& colour, double at, Qt::Alignment side) {
            addLine(*plot, {-10, 1e5}, {ratio, ratio}, QPen(colour, 1.3, Qt::DashLine));
            addText(*plot, at, ratio, text, side, colour);
        };
        level(start::richestFiring, tr("floods"), c.red, 0, Qt::AlignLeft | Qt::AlignBottom);
        level(start::leanestFiring, tr("too weak"), c.amber, right, Qt::AlignRight | Qt::AlignBottom);
    }

    void drawPriming() {
        const Colours c(plot);
        const start::Priming priming(document.plan().startInForce);
        const UnitSpec& t = *notes().cockpit.temperature;
        const auto& advice = document.plan().prime;
        xUnit = q(advice.unit);
        yUnit = tr("vapour fuel–air");
        xDecimals = 1;
        yDecimals = 3;
        title = tr("Vapour fuel–air against %1, engine at %2").arg(xUnit, q(format(engine().si(), t)));
        dressPlot(*plot);
        const double most = std::max({advice.flood * 1.35, advice.dose + 2.0, 3.0});
        ranges(0, most, 0, 0.2);
        QVector<double> x, y;
        for (int i = 0; i <= 60; ++i) {
            x << most * i / 60;
            y << priming.vapourRatio(x.back(), engine(), field());
        }
        addLine(*plot, x, y, QPen(c.ink, 2));
        firingWindow(most);
        // The notes' own doses near this temperature, at the ratio they give today.
        if (advice.unit == notes().start.primer && advice.blades == 0)
            for (const auto& entry : notes().start.prime)
                if (std::abs(entry.at.si() - engine().si()) < 15.0 && entry.dose > 0) {
                    const double ratio = priming.vapourRatio(entry.dose, engine(), field());
                    addRing(*plot, entry.dose, ratio, c.ink, c.sheet, 6);
                    if (std::abs(entry.dose - advice.dose) > 0.12 * most)
                        addText(*plot, entry.dose, ratio, tr("notes at %1").arg(q(format(entry.at.si(), t))),
                                (entry.dose > 0.6 * most ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignBottom, c.faint);
                }
        const double ratio = priming.vapourRatio(advice.dose, engine(), field());
        addLine(*plot, {advice.dose, advice.dose}, {0, ratio}, QPen(c.amber, 2));
        addRing(*plot, advice.dose, ratio, c.amber, c.sheet);
        const QString mark = advice.origin == Origin::between ? tr("between") : q(std::string(markOf(advice.origin)));
        addText(*plot, advice.dose, 0.047, tr("%1 · %2").arg(q(formatNumber(advice.dose, 0)), mark),
                (advice.dose > 0.55 * most ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop, c.amber, true);
    }

    void drawPrimingTime() {
        const Colours c(plot);
        const start::Priming priming(document.plan().startInForce);
        const auto& advice = document.plan().prime;
        xUnit = tr("s");
        yUnit = tr("vapour fuel–air");
        xDecimals = 0;
        yDecimals = 3;
        title = tr("The same against seconds after the last of %1 %2")
                    .arg(q(formatNumber(std::max(1.0, advice.dose), 0)), q(advice.unit));
        dressPlot(*plot);
        const double end = std::max(60.0, 1.25 * advice.drain.si());
        ranges(0, end, 0, 0.2);
        const auto curve = [&](double dose, const QPen& pen) {
            QVector<double> x, y;
            for (int i = 0; i <= 120; ++i) {
                x << end * i / 120;
                y << priming.vapourRatio(dose, engine(), field(), Duration::si(x.back()));
            }
            addLine(*plot, x, y, pen);
        };
        const double dose = std::max(1.0, advice.dose);
        curve(advice.flood, QPen(c.red, 1, Qt::DotLine));
        curve(dose, QPen(c.ink, 2));
        firingWindow(end);
        const auto moment = [&](Duration at, const QString& text, Qt::Alignment side) {
            const double ratio = priming.vapourRatio(dose, engine(), field(), at);
            addRing(*plot, at.si(), ratio, c.amber, c.sheet);
            addText(*plot, at.si(), ratio, text, side, c.amber, true);
        };
        moment(advice.vaporise, tr("vapour %1").arg(q(formatMinutesSeconds(advice.vaporise.si()))),
               Qt::AlignLeft | Qt::AlignTop);
        if (advice.drain > advice.vaporise)
            moment(advice.drain, tr("drained %1").arg(q(formatMinutesSeconds(advice.drain.si()))),
                   Qt::AlignRight | Qt::AlignTop);
    }

    /// What the curve of a priming picture says at x.
    [[nodiscard]] QString primingReadOut(double x) const {
        const start::Priming priming(document.plan().startInForce);
        const auto& advice = document.plan().prime;
        const double at = std::max(0.0, x);
        const double ratio = kind == Kind::primeTime
                                 ? priming.vapourRatio(std::max(1.0, advice.dose), engine(), field(), Duration::si(at))
                                 : priming.vapourRatio(at, engine(), field());
        const QString verdict = ratio < start::leanestFiring   ? tr("too weak to fire")
                                : ratio > start::richestFiring ? tr("flooded")
                                                               : tr("fires");
        return QStringLiteral("%1 %2 · %3 · %4")
            .arg(q(formatNumber(at, xDecimals)), xUnit, q(formatNumber(ratio, 3)), verdict);
    }
};

PhaseChart::PhaseChart(SortieDocument& document, QWidget* parent, Kind kind)
    : QWidget(parent),
      d_(new Impl{document, new QCustomPlot(this), Phase::climb, {}, {}, {}, 0, 1, {}, false, 0, {}, kind}) {
    setObjectName(kind == Kind::byPhase     ? QStringLiteral("phase-chart")
                  : kind == Kind::primeDose ? QStringLiteral("dose-chart")
                                            : QStringLiteral("prime-time-chart"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(d_->plot);
    d_->plot->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    d_->plot->setNoAntialiasingOnDrag(true);
    d_->plot->installEventFilter(this);
    d_->plot->setMouseTracking(true);
    d_->plot->setAccessibleName(tr("Picture of the phase"));
    connect(d_->plot, &QCustomPlot::mouseWheel, this, [this] { d_->zoomedPhase = d_->phase; });
    connect(d_->plot, &QCustomPlot::beforeReplot, this, [this] { d_->ticks(); });
}

PhaseChart::~PhaseChart() = default;

bool PhaseChart::hasPicture(Phase phase) {
    return phase > Phase::walkRound && phase != Phase::start && phase != Phase::writeUp;
}
QString PhaseChart::title() const {
    return d_->title;
}

void PhaseChart::show(Phase phase) {
    if (phase != d_->phase)
        d_->zoomedPhase.reset();
    d_->phase = phase;
    const bool drawn = d_->kind == Kind::byPhase ? hasPicture(phase) : phase == Phase::start;
    setVisible(drawn);
    if (drawn && d_->document.isOpen())
        d_->draw();
}

QString PhaseChart::readOut(QPoint position) const {
    const double x = d_->plot->xAxis->pixelToCoord(position.x()), y = d_->plot->yAxis->pixelToCoord(position.y());
    if (d_->phase == Phase::start && d_->document.isOpen())
        return d_->primingReadOut(x);
    return QStringLiteral("%1 %2 · %3 %4")
        .arg(q(formatNumber(x, d_->xDecimals)), d_->xUnit, q(formatNumber(y, d_->yDecimals)), d_->yUnit);
}

bool PhaseChart::eventFilter(QObject* watched, QEvent* event) {
    if (watched != d_->plot)
        return QWidget::eventFilter(watched, event);
    const auto near = [this](const QPointF& at) {
        if (!d_->handle)
            return false;
        const QPointF handle(d_->plot->xAxis->coordToPixel(d_->handle->x()),
                             d_->plot->yAxis->coordToPixel(d_->handle->y()));
        return QLineF(handle, at).length() < handleReach;
    };
    switch (event->type()) {
    case QEvent::MouseButtonPress: {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        if (mouse->button() == Qt::LeftButton && near(mouse->position())) {
            d_->dragging = true;
            d_->gesture = newGesture();
            return true;
        }
        break;
    }
    case QEvent::MouseMove: {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        if (d_->dragging) {
            const UnitSpec& h = *d_->notes().cockpit.height;
            const double round = h.symbol == "ft" ? 100.0 : 50.0;
            const double x = std::round(d_->plot->xAxis->pixelToCoord(mouse->position().x()) / round) * round;
            // The picture counts in pressure altitude, the sortie in height on the QNH.
            const double metres = x * h.scale - (d_->document.sortie().day.pressureAltitudeOf(Length{}).si());
            emit heightDragged(metres, d_->gesture);
            return true;
        }
        d_->plot->setCursor(near(mouse->position()) ? Qt::SizeHorCursor : Qt::ArrowCursor);
        if (mouse->buttons() & Qt::LeftButton)
            d_->zoomedPhase = d_->phase;
        else if (d_->plot->axisRect()->rect().contains(mouse->position().toPoint()))
            QToolTip::showText(mouse->globalPosition().toPoint() + QPoint(8, -30),
                               readOut(mouse->position().toPoint()) +
                                   (near(mouse->position()) ? tr("\ndrag to change the height") : QString()),
                               d_->plot);
        break;
    }
    case QEvent::MouseButtonRelease:
        if (d_->dragging) {
            d_->dragging = false;
            return true;
        }
        break;
    case QEvent::MouseButtonDblClick:
        d_->zoomedPhase.reset();
        d_->draw();
        return true;
    case QEvent::KeyPress: {
        // Left and Right move the planned height, + and − zoom, Home shows all: as on the score.
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Home) {
            d_->zoomedPhase.reset();
            d_->draw();
            return true;
        }
        if (key == Qt::Key_Plus || key == Qt::Key_Minus) {
            d_->zoomedPhase = d_->phase;
            const double factor = key == Qt::Key_Plus ? 0.8 : 1.25;
            d_->plot->xAxis->scaleRange(factor);
            d_->plot->yAxis->scaleRange(factor);
            d_->plot->replot();
            return true;
        }
        if (d_->handle && (key == Qt::Key_Left || key == Qt::Key_Right)) {
            const double step = d_->notes().cockpit.height->symbol == "ft" ? 152.4 : 100.0;
            emit heightDragged(d_->document.sortie().flight.cruiseHeight.si() + (key == Qt::Key_Right ? step : -step),
                               0);
            return true;
        }
        break;
    }
    case QEvent::Resize:
        if (d_->document.isOpen())
            QMetaObject::invokeMethod(
                this, [this] { d_->draw(); }, Qt::QueuedConnection);
        break;
    case QEvent::PaletteChange:
        if (d_->document.isOpen())
            d_->draw();
        break;
    default:
        break;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace amber::app
