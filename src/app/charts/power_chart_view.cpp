// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/power_chart_view.h"
#include "air/atmosphere.h"
#include "kit/plot_style.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QBuffer>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QSvgGenerator>
#include <QToolTip>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace amber::app {
namespace {
constexpr double reach = 16; // px, for taking hold of a point

} // namespace

struct PowerChartView::Impl {
    QCustomPlot* plot = nullptr;
    QCPAxisRect *left = nullptr, *right = nullptr;
    std::shared_ptr<const powerplant::Aircraft> aircraft;
    Reading reading, home;
    std::optional<engine::Construction> construction;
    engine::PowerChart chart;
    double chartRpm = 0.0;
    std::shared_ptr<const powerplant::Aircraft> chartOf; ///< held, so that its address cannot be given to another
    std::vector<QRectF> taken;                           ///< px, by the words of the construction
    bool zoomed = false;
    int held = 0; // 1 A, 2 the reading

    [[nodiscard]] const TypeNotes& notes() const { return aircraft->notes; }
    [[nodiscard]] const UnitSpec& boostUnit() const { return notes().unitOf(Gauge::boost); }
    [[nodiscard]] const UnitSpec& heightUnit() const { return *notes().cockpit.height; }
    [[nodiscard]] const UnitSpec& powerUnit() const { return *notes().cockpit.power; }
    [[nodiscard]] QCPAxis* x(QCPAxisRect* rect) const { return rect->axis(QCPAxis::atBottom); }
    [[nodiscard]] QCPAxis* y(QCPAxisRect* rect) const { return rect->axis(QCPAxis::atLeft); }

    [[nodiscard]] QPointF pixel(QCPAxisRect* rect, double xValue, double yValue) const {
        return {x(rect)->coordToPixel(xValue), y(rect)->coordToPixel(yValue)};
    }
    [[nodiscard]] QPointF pointA() const {
        return {shown(construction->boost.si(), boostUnit()), shown(construction->seaLevel.si(), powerUnit())};
    }
    [[nodiscard]] QPointF pointRead() const {
        return {shown(construction->height.si(), heightUnit()), shown(construction->read.si(), powerUnit())};
    }

    void line(QCPAxisRect* rect, const QVector<double>& xs, const QVector<double>& ys, const QPen& pen) {
        auto* graph = plot->addGraph(x(rect), y(rect));
        graph->setData(xs, ys, true);
        graph->setPen(pen);
    }
    void ring(QCPAxisRect* rect, QPointF at, const QColor& edge, const QColor& fill, double size,
              QCPScatterStyle::ScatterShape shape = QCPScatterStyle::ssCircle) {
        auto* graph = plot->addGraph(x(rect), y(rect));
        graph->setData({at.x()}, {at.y()});
        graph->setLineStyle(QCPGraph::lsNone);
        graph->setScatterStyle(QCPScatterStyle(shape, QPen(edge, 1.8), QBrush(fill), size));
    }
    void text(QCPAxisRect* rect, QPointF at, const QString& words, Qt::Alignment anchor, const QColor& colour,
              bool bold = false, int size = 12) {
        auto* item = new QCPItemText(plot);
        item->setClipAxisRect(rect);
        item->position->setAxes(x(rect), y(rect));
        item->position->setAxisRect(rect);
        item->position->setCoords(at);
        item->setPositionAlignment(anchor);
        item->setText(words);
        QFont font = face(size, bold);
        item->setFont(font);
        item->setColor(colour);
        item->setPadding(QMargins(5, 2, 5, 2));
        QColor behind = Colours(plot).sheet;
        behind.setAlpha(180);
        item->setBrush(behind);
    }

    /// Where a text would stand, in pixels.
    [[nodiscard]] QRectF boxOf(QCPAxisRect* rect, QPointF at, const QString& words, Qt::Alignment anchor, bool bold,
                               int size) const {
        const QFontMetricsF metrics(face(size, bold));
        const QSizeF box(metrics.horizontalAdvance(words) + 10, metrics.height() + 4);
        const QPointF p = pixel(rect, at.x(), at.y());
        return {anchor & Qt::AlignRight ? p.x() - box.width() : p.x(),
                anchor & Qt::AlignTop      ? p.y()
                : anchor & Qt::AlignBottom ? p.y() - box.height()
                                           : p.y() - box.height() / 2,
                box.width(), box.height()};
    }
    /// @param own a point whose mark may be touched
    [[nodiscard]] bool isFree(const QRectF& box, QPointF own = {-1e6, -1e6}) const {
        return std::none_of(taken.begin(), taken.end(),
                            [&](const QRectF& other) { return !other.contains(own) && other.intersects(box); });
    }
    /// A text at a point of the construction, on the first side of it where nothing else stands.
    void beside(QCPAxisRect* rect, QPointF at, const QString& words, std::initializer_list<Qt::Alignment> sides,
                const QColor& colour) {
        const QRectF whole(rect->rect());
        const double line = QFontMetricsF(face(13, true)).height() + 6;
        for (const double down : {0.0, line, -line, 2 * line, -2 * line})
            for (const Qt::Alignment side : sides) {
                const QPointF moved(at.x(), y(rect)->pixelToCoord(y(rect)->coordToPixel(at.y()) + down));
                const QRectF box = boxOf(rect, moved, words, side, true, 13);
                if (!whole.contains(box) || !isFree(box, pixel(rect, at.x(), at.y())))
                    continue;
                taken.push_back(box);
                text(rect, moved, words, side, colour, true, 13);
                return;
            }
        text(rect, at, words, *sides.begin(), colour, true, 13);
    }

    void compute() {
        construction = engine::construct(aircraft->model(), reading.rpm, reading.boost, reading.gear, reading.height,
                                         reading.outside);
        if (chartOf != aircraft || chartRpm != reading.rpm.si()) {
            chart = engine::powerChart(notes(), aircraft->model(), reading.rpm);
            chartOf = aircraft;
            chartRpm = reading.rpm.si();
        }
    }

    void draw() {
        if (!aircraft)
            return;
        const Colours c(plot);
        plot->clearGraphs();
        plot->clearItems();
        dressRects();
        double most = 0.0, least = 1e18, boostLow = 1e18, boostHigh = 0.0;
        const bool blown = !notes().engine.gears.empty();
        for (const auto& l : chart.seaLevel)
            for (const auto& p : l.points) {
                most = std::max(most, p.power);
                boostLow = std::min(boostLow, p.x);
                boostHigh = std::max(boostHigh, p.x);
            }
        for (const auto& l : chart.fullThrottle)
            for (const auto& p : l.points) {
                most = std::max(most, p.power);
                least = std::min(least, p.power);
            }
        for (const auto& l : chart.constantBoost)
            for (const auto& p : l.points)
                most = std::max(most, p.power);
        most = std::min(most, 1.6 * chart.seaLevel.back().points.back().power);
        if (!zoomed) {
            x(left)->setRange(shown(boostLow, boostUnit()),
                              shown(boostHigh + 0.22 * (boostHigh - boostLow), boostUnit()));
            x(right)->setRange(0, shown(chart.top, heightUnit()));
            for (auto* rect : {left, right})
                y(rect)->setRange(0, shown(1.06 * most, powerUnit()));
        }
        const auto path = [&](QCPAxisRect* rect, const engine::ChartLine& l, const UnitSpec& unit, const QPen& pen) {
            QVector<double> xs, ys;
            for (const auto& p : l.points) {
                xs << shown(p.x, unit);
                ys << shown(p.power, powerUnit());
            }
            line(rect, xs, ys, pen);
            return QPointF(xs.isEmpty() ? 0 : xs.back(), ys.isEmpty() ? 0 : ys.back());
        };
        QColor thin = c.ink;
        thin.setAlpha(110);
        double lastLabel = -1e9;
        for (const auto& l : chart.seaLevel) {
            const QPointF end =
                path(left, l, boostUnit(), QPen(c.ink, std::abs(l.rpm.si() - reading.rpm.si()) < 0.4 ? 2 : 1));
            if (end.y() - lastLabel > 0.05 * y(left)->range().upper) {
                text(left, end, q(formatNumber(l.rpm.si() * 60, 0)), Qt::AlignLeft | Qt::AlignVCenter, c.faint, false,
                     11);
                lastLabel = end.y();
            }
        }
        for (const auto& l : chart.fullThrottle)
            path(right, l, heightUnit(),
                 QPen(std::abs(l.rpm.si() - reading.rpm.si()) < 0.4 ? c.ink : thin,
                      std::abs(l.rpm.si() - reading.rpm.si()) < 0.4 ? 1.8 : 1,
                      l.gear == 0   ? Qt::SolidLine
                      : l.gear == 1 ? Qt::DashLine
                                    : Qt::DashDotLine));
        std::vector<std::pair<QPointF, QString>> boosts;
        for (const auto& l : chart.constantBoost)
            if (l.gear == reading.gear)
                boosts.emplace_back(path(right, l, heightUnit(), QPen(c.faint, 1, Qt::DotLine)),
                                    q(formatValue(l.boost->si(), boostUnit())));
        for (const auto& m : chart.marks)
            ring(m.seaLevel ? left : right,
                 {shown(m.x, m.seaLevel ? boostUnit() : heightUnit()), shown(m.power, powerUnit())}, c.ink,
                 m.gear == reading.gear || m.seaLevel ? c.ink : c.sheet, 5, QCPScatterStyle::ssSquare);
        taken.clear();
        if (blown && construction)
            drawConstruction(c);
        // Where the words of the construction stand, a line goes without its figure.
        for (const auto& [end, value] : boosts)
            if (const QRectF box = boxOf(right, end, value, Qt::AlignLeft | Qt::AlignBottom, false, 11); isFree(box)) {
                taken.push_back(box);
                text(right, end, value, Qt::AlignLeft | Qt::AlignBottom, c.faint, false, 11);
            }
        ticks();
        plot->replot(QCustomPlot::rpQueuedRefresh);
    }

    /// A, B, the line that joins them and what is read on it.
    void drawConstruction(const Colours& c) {
        const auto& k = *construction;
        const QPointF a = pointA(), read = pointRead();
        const QPointF b(shown(k.holdsTo->si(), heightUnit()), shown(k.atFullThrottle.si(), powerUnit()));
        const QPen rule(c.amber, 1.2, Qt::DashLine), strong(c.amber, 2.4);
        // Across from A to the height axis of the other panel.
        line(left, {a.x(), a.x()}, {0, a.y()}, rule);
        line(left, {a.x(), x(left)->range().upper}, {a.y(), a.y()}, rule);
        line(right, {0, b.x()}, {a.y(), b.y()}, strong);
        line(right, {read.x(), read.x()}, {0, read.y()}, rule);
        ring(left, a, c.amber, c.amberWash, 11);
        ring(right, {0, a.y()}, c.amber, c.sheet, 7);
        ring(right, b, c.amber, c.sheet, 9);
        ring(right, read, c.amber, c.amberWash, 11, QCPScatterStyle::ssDiamond);
        // Half the size of a mark: words may touch a point's edge.
        const auto around = [](QPointF px) { return QRectF(px - QPointF(4, 4), QSizeF(8, 8)); };
        taken = {around(pixel(left, a.x(), a.y())), around(pixel(right, b.x(), b.y())),
                 around(pixel(right, read.x(), read.y()))};
        constexpr auto leftAbove = Qt::AlignRight | Qt::AlignBottom, rightAbove = Qt::AlignLeft | Qt::AlignBottom,
                       rightBelow = Qt::AlignLeft | Qt::AlignTop, leftBelow = Qt::AlignRight | Qt::AlignTop;
        beside(left, a, QStringLiteral("A  %1").arg(q(format(k.seaLevel.si(), powerUnit()))),
               {leftAbove, leftBelow, rightBelow}, c.amber);
        beside(right, b, QStringLiteral("B  %1").arg(q(format(k.atFullThrottle.si(), powerUnit()))),
               {rightAbove, leftAbove, rightBelow}, c.amber);
        beside(
            right, read,
            tr("%1 read, %2 today").arg(q(format(k.read.si(), powerUnit())), q(format(k.corrected.si(), powerUnit()))),
            {rightBelow, leftBelow, rightAbove, leftAbove}, c.amber);
    }

    void dressRects() {
        const Colours c(plot);
        plot->setPlottingHints(QCP::phCacheLabels);
        plot->setBackground(QBrush(c.paper));
        for (auto* rect : {left, right}) {
            rect->setBackground(QBrush(c.sheet));
            for (auto type : {QCPAxis::atBottom, QCPAxis::atLeft, QCPAxis::atTop, QCPAxis::atRight})
                dressAxis(*rect->axis(type), c);
            for (auto type : {QCPAxis::atTop, QCPAxis::atRight})
                rect->axis(type)->setTickLabels(false);
        }
    }

    void ticks() {
        for (auto* rect : {left, right})
            for (auto* axis : {x(rect), y(rect)}) {
                const int room = axis->orientation() == Qt::Horizontal ? rect->width() / 90 : rect->height() / 44;
                axis->setTicker(roundTicks(axis->range().lower, axis->range().upper, std::max(3, room)));
                const double step = qSharedPointerCast<QCPAxisTickerFixed>(axis->ticker())->tickStep();
                axis->setNumberPrecision(step >= 0.999 ? 0 : 1);
            }
    }

    void clamp() {
        const double top = chart.top > 0 ? chart.top : 9000;
        reading.height = Length::si(std::clamp(reading.height.si(), 0.0, top));
        reading.rpm =
            Rotation::si(std::clamp(reading.rpm.si(), 0.4 * aircraft->model().ratedRpm, aircraft->model().ratedRpm));
        double highest = 0.0;
        for (const auto& r : notes().ratings)
            highest = std::max(highest, r.boost ? r.boost->si() : 0.0);
        reading.boost = ManifoldPressure::si(
            std::clamp(reading.boost.si(), 0.5 * standardPressure, std::max(highest, 0.6 * standardPressure)));
        reading.gear = std::min(reading.gear, std::max<std::size_t>(1, notes().engine.gears.size()) - 1);
    }
};

PowerChartView::PowerChartView(QWidget* parent) : QWidget(parent), d_(new Impl) {
    setObjectName(QStringLiteral("power-chart"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    d_->plot = new QCustomPlot(this);
    layout->addWidget(d_->plot);
    d_->plot->plotLayout()->clear();
    for (auto** rect : {&d_->left, &d_->right}) {
        *rect = new QCPAxisRect(d_->plot);
        (*rect)->setupFullAxesBox(true);
        (*rect)->setMinimumMargins(QMargins(8, 6, 8, 4));
        d_->plot->plotLayout()->addElement(0, rect == &d_->left ? 0 : 1, *rect);
        for (auto* axis : (*rect)->axes()) {
            axis->setLayer(QStringLiteral("axes"));
            axis->grid()->setLayer(QStringLiteral("grid"));
        }
    }
    d_->plot->plotLayout()->setColumnStretchFactor(0, 0.62);
    d_->plot->plotLayout()->setColumnSpacing(4);
    d_->plot->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    d_->plot->setLocale(QLocale(QLocale::English));
    d_->plot->setFocusPolicy(Qt::StrongFocus);
    d_->plot->setMouseTracking(true);
    d_->plot->installEventFilter(this);
    d_->plot->setAccessibleName(tr("Power chart with the construction of a reading"));
    connect(d_->plot, &QCustomPlot::mouseWheel, this, [this] { d_->zoomed = true; });
}

PowerChartView::~PowerChartView() = default;

void PowerChartView::show(std::shared_ptr<const powerplant::Aircraft> aircraft, const Reading& reading) {
    if (d_->aircraft != aircraft)
        d_->zoomed = false;
    d_->aircraft = std::move(aircraft);
    d_->home = reading;
    read(reading);
}

void PowerChartView::read(const Reading& reading) {
    d_->reading = reading;
    d_->clamp();
    d_->compute();
    d_->draw();
    emit readingChanged();
}

const PowerChartView::Reading& PowerChartView::reading() const {
    return d_->reading;
}
const std::optional<engine::Construction>& PowerChartView::construction() const {
    return d_->construction;
}
QCustomPlot& PowerChartView::plot() {
    return *d_->plot;
}

QStringList PowerChartView::steps() const {
    if (!d_->aircraft)
        return {};
    const auto& n = d_->notes();
    if (n.engine.gears.empty())
        return {tr("Without a blower there is no line to join: power falls with the air from the ground up. The curves "
                   "are full "
                   "throttle; part throttle is read on the left.")};
    if (!d_->construction)
        return {tr("This boost cannot be had at sea level at %1: there is no point A. Less boost, or more rpm.")
                    .arg(q(format(d_->reading.rpm, units::rpm)))};
    const auto& k = *d_->construction;
    const auto power = [&](Power p) { return q(format(p.si(), *n.cockpit.power)); };
    const auto height = [&](Length h) { return q(formatHeight(h.si(), *n.cockpit.height)); };
    const auto degrees = [&](Temperature t) { return q(format(t.si(), *n.cockpit.temperature)); };
    const QString gear = n.engine.gears.size() > 1 ? tr(", %1").arg(q(n.engine.gears[k.gear].name)) : QString();
    QStringList out;
    out << tr("<b>A</b> At sea level %1 and %2 make %3.")
               .arg(q(format(k.rpm, units::rpm)), q(format(k.boost.si(), d_->boostUnit())), power(k.seaLevel));
    out << tr("<b>B</b> Full throttle%1 gives that boost up to %2: %3 there.")
               .arg(gear, height(*k.holdsTo), power(k.atFullThrottle));
    out << (k.beyond
                ? tr("<b>Read</b> %1 lies above B: on the full-throttle curve, %2.")
                      .arg(height(k.height), power(k.read))
                : tr("<b>Read</b> Join A and B; at %1 the line stands at %2.").arg(height(k.height), power(k.read)));
    out << tr("<b>Correct</b> Air at %1, standard %2: × √(%3/%4) = %5.")
               .arg(degrees(k.outside), degrees(k.standard), q(formatNumber(k.standard.si(), 0)),
                    q(formatNumber(k.outside.si(), 0)), q(formatNumber(k.correction, 3)));
    QString today =
        tr("<b>Today</b> %1 by the chart; the model itself says %2.").arg(power(k.corrected), power(k.model));
    constexpr double worthSaying = 0.01;
    if (std::abs(k.overModel()) > worthSaying)
        today += tr(" The ruler reads %1 % %2%3.")
                     .arg(q(formatNumber(100 * std::abs(k.overModel()), 1)), k.overModel() > 0 ? tr("high") : tr("low"),
                          k.beyond ? tr(": in %1 air the blower also gives %2 boost, which the paper's rule leaves out")
                                         .arg(k.outside > k.standard ? tr("warm") : tr("cold"),
                                              k.outside > k.standard ? tr("less") : tr("more"))
                                   : QString());
    out << today;
    return out;
}

QByteArray PowerChartView::png(int width, int height) const {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    d_->plot->toPixmap(width, height, 1.0).save(&buffer, "PNG");
    return bytes;
}

QByteArray PowerChartView::csv() const {
    return d_->aircraft ? QByteArray::fromStdString(engine::chartCsv(d_->notes(), d_->chart)) : QByteArray();
}

QByteArray PowerChartView::svg(int width, int height) const {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    QSvgGenerator generator;
    generator.setOutputDevice(&buffer);
    generator.setSize(QSize(width, height));
    generator.setViewBox(QRect(0, 0, width, height));
    generator.setTitle(tr("Power chart, %1").arg(q(d_->notes().engine.name)));
    QCPPainter painter;
    painter.begin(&generator);
    d_->plot->toPainter(&painter, width, height);
    painter.end();
    return bytes;
}

bool PowerChartView::eventFilter(QObject* watched, QEvent* event) {
    if (watched != d_->plot || !d_->aircraft)
        return QWidget::eventFilter(watched, event);
    const bool blown = !d_->notes().engine.gears.empty();
    const auto nearest = [this, blown](QPointF at) {
        if (!d_->construction || !blown)
            return 0;
        if (QLineF(d_->pixel(d_->left, d_->pointA().x(), d_->pointA().y()), at).length() < reach)
            return 1;
        if (QLineF(d_->pixel(d_->right, d_->pointRead().x(), d_->pointRead().y()), at).length() < reach)
            return 2;
        return 0;
    };
    switch (event->type()) {
    case QEvent::MouseButtonPress: {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        if (mouse->button() == Qt::LeftButton && (d_->held = nearest(mouse->position())) > 0)
            return true;
        break;
    }
    case QEvent::MouseMove: {
        const auto* mouse = static_cast<QMouseEvent*>(event);
        if (d_->held > 0) {
            Reading r = d_->reading;
            if (d_->held == 1) {
                const UnitSpec& b = d_->boostUnit();
                r.boost =
                    ManifoldPressure::si(b.offset + b.scale * d_->x(d_->left)->pixelToCoord(mouse->position().x()));
            } else {
                const double deviation = r.outside.si() - air::standardTemperature(r.height).si();
                const double round = d_->heightUnit().symbol == "ft" ? 100.0 : 50.0;
                r.height =
                    Length::si(std::max(0.0, std::round(d_->x(d_->right)->pixelToCoord(mouse->position().x()) / round) *
                                                 round * d_->heightUnit().scale));
                r.outside = Temperature::si(air::standardTemperature(r.height).si() + deviation);
            }
            read(r);
            return true;
        }
        d_->plot->setCursor(nearest(mouse->position()) > 0 ? Qt::SizeHorCursor : Qt::ArrowCursor);
        if (mouse->buttons() & Qt::LeftButton)
            d_->zoomed = true;
        for (auto* rect : {d_->left, d_->right})
            if (rect->rect().contains(mouse->position().toPoint()) && !(mouse->buttons() & Qt::LeftButton)) {
                const auto& unit = rect == d_->left ? d_->boostUnit() : d_->heightUnit();
                QToolTip::showText(
                    mouse->globalPosition().toPoint() + QPoint(8, -30),
                    QStringLiteral("%1 %2 · %3 %4")
                        .arg(q(formatNumber(d_->x(rect)->pixelToCoord(mouse->position().x()), unit.decimals)),
                             q(std::string(unit.symbol)),
                             q(formatNumber(d_->y(rect)->pixelToCoord(mouse->position().y()), 0)),
                             q(std::string(d_->powerUnit().symbol))),
                    d_->plot);
            }
        break;
    }
    case QEvent::MouseButtonRelease:
        if (d_->held > 0) {
            d_->held = 0;
            return true;
        }
        break;
    case QEvent::MouseButtonDblClick:
        d_->zoomed = false;
        d_->draw();
        return true;
    case QEvent::KeyPress: {
        Reading r = d_->reading;
        const double deviation = r.outside.si() - air::standardTemperature(r.height).si();
        const double step = d_->heightUnit().symbol == "ft" ? 152.4 : 100.0;
        switch (static_cast<QKeyEvent*>(event)->key()) {
        case Qt::Key_Left:
        case Qt::Key_Right:
            r.height = Length::si(
                std::max(0.0, r.height.si() + (static_cast<QKeyEvent*>(event)->key() == Qt::Key_Right ? step : -step)));
            r.outside = Temperature::si(air::standardTemperature(r.height).si() + deviation);
            break;
        case Qt::Key_Up:
            r.boost = ManifoldPressure::si(r.boost.si() + 0.5 * 3386.389);
            break;
        case Qt::Key_Down:
            r.boost = ManifoldPressure::si(r.boost.si() - 0.5 * 3386.389);
            break;
        case Qt::Key_PageUp:
            r.rpm = Rotation::si(r.rpm.si() + 50.0 / 60);
            break;
        case Qt::Key_PageDown:
            r.rpm = Rotation::si(r.rpm.si() - 50.0 / 60);
            break;
        case Qt::Key_G:
            r.gear = (r.gear + 1) % std::max<std::size_t>(1, d_->notes().engine.gears.size());
            break;
        case Qt::Key_Home:
            r = d_->home;
            d_->zoomed = false;
            break;
        default:
            return QWidget::eventFilter(watched, event);
        }
        read(r);
        return true;
    }
    case QEvent::Resize:
    case QEvent::PaletteChange:
        QMetaObject::invokeMethod(
            this, [this] { d_->draw(); }, Qt::QueuedConnection);
        break;
    default:
        break;
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace amber::app
