// SPDX-License-Identifier: GPL-3.0-or-later
#include "charts/score.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPolygonF>
#include <QToolTip>
#include <algorithm>
#include <cmath>
#include <utility>

namespace amber::app {
namespace {
constexpr int leftMargin = 168, rightMargin = 58, topMargin = 40, bottomMargin = 20;
constexpr double lowScore = 180;       // px: under it all lanes are alike, so that each has room for its name
constexpr double laneGap = 4.0;        // px
constexpr double shortestView = 120.0; // s
constexpr double clickSlack = 4.0;     // px
constexpr double flagReach = 10.0;     // px, from the middle of a moment's flag

} // namespace

struct Score::Lane {
    const GaugeRow* row;
    const UnitSpec* unit;
    [[nodiscard]] double value(const flight::Sample& m) const { return m[row->gauge]; } // SI
};

Score::Score(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("score"));
    setAccessibleName(tr("Score of the sortie"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

std::vector<Score::Lane> Score::lanes() const {
    const TypeNotes& n = document_.aircraft().notes;
    const auto& samples = document_.plan().flown.samples;
    std::vector<Lane> out;
    for (const auto& row : gaugeRegister) {
        const bool shown = row.lane == amber::Lane::always ||
                           (row.lane == amber::Lane::whereThereIsAGauge && n.gauges.contains(row.gauge));
        if (shown && !samples.empty() && samples.front().has(row.gauge))
            out.push_back({&row, &n.unitOf(row.gauge)});
    }
    return out;
}

bool Score::crossingAt(QPointF place) const {
    const auto all = lanes();
    const auto& n = document_.aircraft().notes;
    const auto moment = flight::sampleAt(document_.plan().flown.samples, timeAt(place.x()));
    const auto places = boxes(all);
    std::size_t i = 0;
    while (i + 1 < all.size() && place.y() > places[i].bottom())
        ++i;
    const auto& lane = all[i];
    if (lane.row->dimension != Dimension::temperature || moment[Gauge::rpm] <= 0)
        return false;
    const auto gauge = n.gauges.find(lane.row->gauge);
    return gauge != n.gauges.end() &&
           watch::colourOf(gauge->second.in(moment.phase), lane.value(moment)) != watch::Colour::normal;
}

std::vector<QRectF> Score::boxes(const std::vector<Lane>& lanes) const {
    const QRectF box = area();
    const bool low = height() < lowScore;
    const bool tanks = document_.plan().flown.contents.tanks > 1; // each has its line in the lane of fuel
    const auto weight = [low, tanks](const Lane& lane) {
        const bool wide = lane.row->dimension == Dimension::temperature || (tanks && lane.row->gauge == Gauge::fuel);
        return !low && wide ? 1.5 : 1.0;
    };
    double all = 0.0;
    for (const auto& lane : lanes)
        all += weight(lane);
    const double each = (box.height() - laneGap * (static_cast<double>(lanes.size()) - 1)) / all;
    std::vector<QRectF> out;
    double y = box.top();
    for (const auto& lane : lanes) {
        out.emplace_back(box.left(), y, box.width(), each * weight(lane));
        y = out.back().bottom() + laneGap;
    }
    return out;
}

QRectF Score::area() const {
    return QRectF(leftMargin, topMargin, std::max(10, width() - leftMargin - rightMargin),
                  std::max(10, height() - topMargin - bottomMargin));
}
double Score::total() const {
    const double planned = document_.isOpen() ? std::max(60.0, document_.plan().flown.totalTime()) : 60.0;
    return tracing_ || showsRecorded() ? std::max(planned, traceNow_ + 60.0) : planned;
}
double Score::xOf(double seconds) const {
    return area().left() + area().width() * (seconds - from_) / (to_ - from_);
}
double Score::timeAt(double x) const {
    return from_ + (to_ - from_) * (x - area().left()) / area().width();
}

void Score::refresh() {
    if (all_) {
        from_ = 0;
        to_ = total();
    }
    clampView();
    update();
}

void Score::select(Phase phase) {
    phase_ = phase;
    update();
}

void Score::clampView() {
    const double whole = total();
    const double span = std::clamp(to_ - from_, std::min(shortestView, whole), whole);
    from_ = std::clamp(from_, 0.0, whole - span);
    to_ = from_ + span;
    all_ = span >= whole * 0.999;
}

void Score::zoom(double factor, double around) {
    const double span = (to_ - from_) * factor;
    const double share = (around - from_) / (to_ - from_);
    from_ = around - span * share;
    to_ = from_ + span;
    clampView();
    update();
}

void Score::showAll() {
    all_ = true;
    refresh();
}

QStringList Score::readings(double seconds) const {
    QStringList out;
    if (!document_.isOpen())
        return out;
    const auto moment = flight::sampleAt(document_.plan().flown.samples, seconds);
    for (const auto& lane : lanes())
        out << q(format(lane.value(moment), *lane.unit));
    return out;
}

/// A line of many points, piece by piece: the painter is several times quicker with pieces than with one long path,
/// whose outline it would fill. Joints are covered by the pieces' square ends.
static void drawSteps(QPainter& p, const QPolygonF& path) {
    QList<QLineF> pieces;
    pieces.reserve(path.size());
    for (qsizetype i = 1; i < path.size(); ++i)
        pieces << QLineF(path[i - 1], path[i]);
    p.drawLines(pieces);
}
void Score::paintLane(QPainter& p, const Lane& lane, const QRectF& box) const {
    const Colours c(this);
    const auto& samples = document_.plan().flown.samples;
    double low = 1e30, high = -1e30;
    if (lane.row->gauge == Gauge::fuel && document_.plan().flown.contents.tanks > 1)
        low = 0.0; // each tank has its own line in it
    for (const auto& m : samples) {
        low = std::min(low, lane.value(m));
        high = std::max(high, lane.value(m));
    }
    const TypeNotes& n = document_.aircraft().notes;
    const auto gauge = n.gauges.find(lane.row->gauge);
    const bool temperature = lane.row->dimension == Dimension::temperature;
    if (gauge != n.gauges.end() && temperature && gauge->second.band.limitHigh)
        high = std::max(high, *gauge->second.band.limitHigh);
    if (high - low < 1e-9)
        high = low + 1;
    const double margin = 3;
    const auto y = [&](double v) {
        return box.bottom() - margin - (box.height() - 2 * margin) * (v - low) / (high - low);
    };
    p.save();
    p.setClipRect(box.adjusted(-1, -2, 1, 2));
    // Bands of each phase behind the temperature lanes: normal and amber washed, the limit a red line.
    if (gauge != n.gauges.end() && temperature)
        for (const auto& phase : document_.plan().phases) {
            const Band& b = gauge->second.in(phase.phase);
            if (phase.phase <= Phase::walkRound)
                continue;
            const double x0 = std::max(box.left(), xOf(phase.start)),
                         x1 = std::min(box.right(), xOf(phase.start + phase.duration));
            if (x1 <= x0)
                continue;
            if (b.normalHigh) {
                QColor normal = c.green;
                normal.setAlpha(30);
                p.fillRect(QRectF(QPointF(x0, y(*b.normalHigh)), QPointF(x1, y(b.normalLow.value_or(low)))), normal);
            }
            if (!b.limitHigh)
                continue;
            QColor wash = c.amber;
            wash.setAlpha(60);
            if (b.normalHigh)
                p.fillRect(QRectF(QPointF(x0, y(*b.limitHigh)), QPointF(x1, y(*b.normalHigh))), wash);
            p.setPen(QPen(c.red, 1.2));
            p.drawLine(QPointF(x0, y(*b.limitHigh)), QPointF(x1, y(*b.limitHigh)));
        }
    // The line, in its judged colour where that is not normal.
    p.setRenderHint(QPainter::Antialiasing);
    // Of points that a straight line passes within a hair of, only the ends: most of a sortie is steady.
    constexpr double hair = 0.2; // px
    QPolygonF path;
    QPointF last;
    double least = 0, most = 0; // slopes of lines from the last point kept that pass all since
    for (const auto& m : samples) {
        const QPointF at(xOf(m.time), y(lane.value(m)));
        const double across = path.isEmpty() ? 0.0 : at.x() - path.back().x();
        if (path.isEmpty() || across <= 0) {
            if (!path.isEmpty() && last != path.back())
                path << last;
            path << at;
            least = -1e9;
            most = 1e9;
        } else {
            double slope = (at.y() - path.back().y()) / across;
            if (slope < least || slope > most) {
                path << last;
                least = -1e9;
                most = 1e9;
                const double step = std::max(1e-9, at.x() - last.x());
                slope = (at.y() - last.y()) / step;
                least = slope - hair / step;
                most = slope + hair / step;
            } else {
                least = std::max(least, slope - hair / across);
                most = std::min(most, slope + hair / across);
            }
        }
        last = at;
    }
    path << last;
    // Under the fuel of all tanks, each of them.
    const auto& contents = document_.plan().flown.contents;
    if (lane.row->gauge == Gauge::fuel && contents.tanks > 1)
        for (std::size_t tank = 0; tank < contents.tanks; ++tank) {
            QPolygonF held;
            for (std::size_t i = 0; i < samples.size(); ++i) {
                const QPointF at(xOf(samples[i].time), y(contents.at(i)[tank]));
                if (held.isEmpty() || i + 1 == samples.size() || std::abs(at.y() - held.back().y()) > 0.5)
                    held << at;
            }
            p.setPen(QPen(c.faint, 1, tank % 2 ? Qt::DashLine : Qt::SolidLine));
            tank % 2 ? p.drawPolyline(held) : drawSteps(p, held);
        }
    p.setPen(tracing_ || reading_ ? QPen(c.faint, 1.2) : QPen(c.ink, 1.5));
    p.setBrush(Qt::NoBrush);
    drawSteps(p, path);
    if (tracing_ || showsRecorded())
        paintTrace(p, lane, y);
    if (reading_ && !tracing_) {
        p.setPen(Qt::NoPen);
        for (const auto& r : readings_)
            if (r.gauge == lane.row->gauge) {
                const bool normal = r.colour == watch::Colour::normal;
                p.setBrush(normal ? c.ink : c.of(r.colour));
                const double at = std::clamp(y(r.value), box.top() + 1.5, box.bottom() - 1.5);
                p.drawEllipse(QPointF(xOf(r.time), at), normal ? 2.6 : 3.4, normal ? 2.6 : 3.4);
            }
        p.setBrush(Qt::NoBrush);
    } else if (!tracing_ && gauge != n.gauges.end())
        for (std::size_t i = 1; i < samples.size(); ++i) {
            const auto& m = samples[i];
            if (m[Gauge::rpm] <= 0 || samples[i - 1][Gauge::rpm] <= 0)
                continue;
            const auto colour =
                watch::colourOf(gauge->second.in(m.phase), watch::asRead(n, lane.row->gauge, lane.value(m)));
            if (colour == watch::Colour::normal)
                continue;
            p.setPen(QPen(c.of(colour), 3));
            p.drawLine(QPointF(xOf(samples[i - 1].time), y(lane.value(samples[i - 1]))),
                       QPointF(xOf(m.time), y(lane.value(m))));
        }
    p.restore();
    // At the lane's end, apart: the limit and the end of the normal range in the phase that is shown above.
    if (gauge == n.gauges.end() || !temperature || box.height() < 12)
        return;
    const Band& band = gauge->second.in(phase_);
    p.setFont(face(10));
    const double ascent = QFontMetricsF(p.font()).ascent();
    double above = box.top() - 2;
    const auto edge = [&](std::optional<double> at, const QColor& colour) {
        if (!at)
            return;
        const double base = std::max(above + ascent, std::min(y(*at) + ascent / 2 - 1, box.bottom() + 1));
        if (base > box.bottom() + 3)
            return;
        p.setPen(colour);
        p.drawText(QPointF(box.right() + 6, base), q(formatValue(*at, *lane.unit)));
        above = base + 1;
    };
    edge(band.limitHigh, c.red);
    edge(band.normalHigh, c.green);
}

void Score::showTrace(const rehearse::Rehearsal& r, double began) {
    const bool first = !std::exchange(tracing_, true);
    if (first || r.timesBack() != traceBacks_) {
        trace_.clear();
        traceBacks_ = r.timesBack();
    }
    trace_.insert(trace_.end(), r.trace().begin() + static_cast<std::ptrdiff_t>(trace_.size()), r.trace().end());
    traceBegan_ = began;
    traceNow_ = began + static_cast<double>(r.now()) / 1000.0;
    if (all_) {
        from_ = 0;
        to_ = total();
    }
    update();
}

void Score::showReadings(std::vector<Reading> readings) {
    reading_ = true;
    readings_ = std::move(readings);
    update();
}

void Score::showRecorded(std::vector<rehearse::Kept> recorded, double began) {
    trace_ = std::move(recorded);
    traceBegan_ = began;
    traceNow_ = trace_.empty() ? 0.0 : began + static_cast<double>(trace_.back().at) / 1000.0;
    if (all_) {
        from_ = 0;
        to_ = total();
    }
    update();
}

void Score::showMoments(std::vector<Moment> moments) {
    moments_ = std::move(moments);
    held_ = -1;
    update();
}

QPointF Score::flagOf(std::size_t which) const {
    return {xOf(moments_[which].time), area().bottom() - 6};
}

void Score::showNow(std::optional<double> time) {
    if (now_ == time)
        return;
    now_ = time;
    update();
}

void Score::paintMoments(QPainter& p) const {
    const Colours c(this);
    const QRectF box = area();
    p.setFont(face(11, true));
    for (std::size_t i = 0; i < moments_.size(); ++i) {
        const bool held = static_cast<int>(i) == held_;
        const double x = xOf(held ? heldAt_ : moments_[i].time);
        if (x < box.left() - 1 || x > box.right() + 1)
            continue;
        p.setPen(QPen(held ? c.amber : c.ink, held ? 1.6 : 1.0, Qt::DashLine));
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom() - 6));
        p.setPen(QPen(c.ink, 1));
        p.setBrush(held ? c.amber : moments_[i].byHand ? c.ink : c.sheet);
        p.drawRect(QRectF(x - 4, box.bottom() - 10, 8, 8));
        if (!held)
            continue;
        const double second = std::round(heldAt_), within = std::fmod(second, 60.0);
        const QString text = moments_[i].name + QStringLiteral("  ") + q(formatHoursMinutes(second - within)) +
                             QStringLiteral(":%1").arg(static_cast<int>(within), 2, 10, QLatin1Char('0'));
        const double wide = p.fontMetrics().horizontalAdvance(text) + 8;
        const QRectF label(std::min(x + 6, box.right() - wide), box.top() - 22, wide, 16);
        p.fillRect(label, c.sheet);
        p.setPen(c.ink);
        p.drawText(label, Qt::AlignCenter, text);
    }
}

void Score::endReadings() {
    if (!std::exchange(reading_, false))
        return;
    readings_.clear();
    moments_.clear();
    held_ = -1;
    trace_.clear();
    if (all_) {
        from_ = 0;
        to_ = total();
    }
    update();
}

void Score::endTrace() {
    tracing_ = false;
    trace_.clear();
    refresh();
}

/// What was rehearsed: from the lowest to the highest engine in each pixel's breadth, in the judge's colour.
void Score::paintTrace(QPainter& p, const Lane& lane, const std::function<double(double)>& y) const {
    const Colours c(this);
    const TypeNotes& n = document_.aircraft().notes;
    const auto gauge = n.gauges.find(lane.row->gauge);
    QPointF lastLow, lastHigh;
    double column = -1e9;
    for (const auto& k : trace_) {
        const double x = xOf(traceBegan_ + static_cast<double>(k.at) / 1000.0);
        if (x - column < 1.0)
            continue;
        double low = 1e300, high = -1e300;
        auto colour = watch::Colour::normal;
        for (const auto& e : k.engines) {
            const double v = e[lane.row->gauge];
            if (std::isnan(v))
                continue;
            low = std::min(low, v);
            high = std::max(high, v);
            if (gauge != n.gauges.end() && e[Gauge::rpm] > 0)
                colour =
                    std::max(colour, watch::colourOf(gauge->second.in(k.phase), watch::asRead(n, lane.row->gauge, v)));
        }
        if (low > high)
            continue;
        const QPointF atLow(x, y(low)), atHigh(x, y(high));
        if (column > -1e8) {
            p.setPen(QPen(colour == watch::Colour::normal ? c.ink : c.of(colour),
                          colour == watch::Colour::normal ? 1.6 : 2.6));
            p.drawLine(lastHigh, atHigh);
            if (atLow.y() - atHigh.y() > 1.0 || lastLow.y() - lastHigh.y() > 1.0)
                p.drawLine(lastLow, atLow);
        }
        lastLow = atLow;
        lastHigh = atHigh;
        column = x;
    }
}

void Score::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Colours c(this);
    p.fillRect(rect(), c.paper);
    p.setPen(QPen(hasFocus() ? c.amber : c.faint, hasFocus() ? 2 : 1));
    p.drawLine(0, 0, width(), 0);
    if (!document_.isOpen())
        return;
    const QRectF box = area();
    p.setFont(captionFace());
    p.setPen(c.amber);
    p.drawText(QRectF(20, 4, 60, 16), Qt::AlignLeft | Qt::AlignVCenter, tr("Score"));
    p.setFont(face(12));
    p.setPen(c.faint);
    p.drawText(QRectF(74, 4, width() - 100, 16), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(
                   (tracing_ ? tr("plan in grey, rehearsal in ink; a click goes back to that moment  ·  ")
                    : showsRecorded()
                        ? tr("plan in grey, recorder in ink, laid on each other at take-off power; drag a flag to "
                             "where its moment was  ·  ")
                        : QString()) +
                       q(document_.plan().route) + tr("  (model)"),
                   Qt::ElideRight, width() - 100 - (summary_ ? 250 : 0)));
    if (summary_) {
        const auto& f = document_.plan().flown;
        p.setPen(c.ink);
        p.drawText(QRectF(width() - 270, 4, 252, 16), Qt::AlignRight | Qt::AlignVCenter,
                   (f.knowsWind() ? tr("%1 h · %2 with the wind (%3)") : tr("%1 h · %2 in still air (%3)"))
                       .arg(q(formatHoursMinutes(f.totalTime())),
                            q(format(f.fuelAtStart - f.fuelAtEnd, *document_.aircraft().notes.cockpit.fuel)),
                            q(powerplant::markWithFuel(document_.aircraft()))));
    }

    // Time grid.
    static constexpr double steps[] = {30, 60, 120, 300, 600, 900, 1800, 3600, 7200};
    double step = steps[0];
    for (const double s : steps) {
        step = s;
        if (box.width() * s / (to_ - from_) >= 58)
            break;
    }
    p.setFont(face(11));
    for (double t = std::ceil(from_ / step) * step; t <= to_ + 1e-6; t += step) {
        const double x = xOf(t);
        p.setPen(QPen(c.grid, 1));
        p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
        p.setPen(c.faint);
        p.drawText(QRectF(x - 30, box.bottom() + 2, 60, 16), Qt::AlignCenter,
                   q(step < 60 ? formatMinutesSeconds(t) : formatHoursMinutes(t)));
    }

    // The phase shown above.
    const auto& phases = document_.plan().phases;
    const auto& here = phases[static_cast<std::size_t>(phase_)];
    const double x0 = std::max(box.left(), xOf(here.start)),
                 x1 = std::min(box.right(), xOf(here.start + here.duration));
    if (x1 > x0) {
        QColor wash = c.amber;
        wash.setAlpha(26);
        p.fillRect(QRectF(QPointF(x0, box.top() - 6), QPointF(x1, box.bottom())), wash);
        p.setPen(QPen(c.amber, 1));
        p.drawRect(QRectF(QPointF(x0, box.top() - 6), QPointF(x1, box.bottom())));
    }

    // Lanes.
    const auto all = lanes();
    const auto places = boxes(all);
    const bool reading = cursor_ >= 0;
    const QStringList now = readings(reading ? cursor_ : here.start + here.duration - 1e-3);
    for (std::size_t i = 0; i < all.size(); ++i) {
        const QRectF& lane = places[i];
        p.setPen(QPen(c.grid, 1));
        p.drawLine(lane.bottomLeft() + QPointF(0, laneGap / 2), lane.bottomRight() + QPointF(0, laneGap / 2));
        p.setFont(face(12));
        p.setPen(c.faint);
        p.drawText(QRectF(20, lane.top(), 92, lane.height()), Qt::AlignVCenter | Qt::AlignLeft,
                   q(all[i].row->laneTitle));
        p.setFont(face(12, true));
        p.setPen(reading ? c.ink : c.faint);
        p.drawText(QRectF(64, lane.top(), leftMargin - 64 - 10, lane.height()),
                   Qt::AlignVCenter | Qt::AlignRight | Qt::TextDontClip, now.value(static_cast<int>(i)));
        paintLane(p, all[i], lane);
    }

    // Marks: what must be done, above the lanes; labels where there is room.
    p.setFont(face(11));
    const double markY = box.top() - 7;
    struct Span {
        double left, right;
    };
    std::vector<Span> named{{-1e9, box.left() - 1}};
    // What comes round by the clock is named last, where there is room beside the rest.
    for (const bool chores : {false, true})
        for (const auto& mark : document_.plan().marks) {
            const double x = xOf(mark.time);
            if (mark.chore != chores || x < box.left() - 1 || x > box.right() + 1)
                continue;
            p.setPen(QPen(c.rule, 1, Qt::DotLine));
            p.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()));
            if (mark.verdict.colour() != watch::Colour::normal) {
                drawColourMark(p, QPointF(x, box.bottom() - 3), mark.verdict.colour(), c, 4);
                continue;
            }
            p.setPen(QPen(chores ? c.faint : c.ink, 1.5));
            p.drawLine(QPointF(x, markY + 1), QPointF(x, markY + 7));
            const QString text = q(mark.text);
            const double wide = QFontMetricsF(p.font()).horizontalAdvance(text);
            const bool room = std::none_of(named.begin(), named.end(),
                                           [&](const Span& s) { return x - 1 <= s.right && x + wide + 9 >= s.left; });
            if (room && x + wide < box.right() + 10) {
                p.setPen(chores ? c.faint : c.ink);
                p.drawText(QRectF(x - 1, markY - 13, wide + 2, 14), Qt::AlignLeft | Qt::AlignVCenter, text);
                named.push_back({x - 1, x + wide + 9});
            }
        }

    if (tracing_) {
        const double x = xOf(traceNow_);
        p.setPen(QPen(c.amber, 1.6));
        p.drawLine(QPointF(x, box.top() - 8), QPointF(x, box.bottom()));
        p.setPen(Qt::NoPen);
        p.setBrush(c.amber);
        p.drawPolygon(
            QPolygonF{{QPointF(x - 5, box.top() - 14), QPointF(x + 5, box.top() - 14), QPointF(x, box.top() - 6)}});
    }
    paintMoments(p);
    if (now_) {
        const QColor amber = Colours(this).amber;
        const QRectF where = area();
        if (const double x = xOf(*now_); x >= where.left() && x <= where.right()) {
            p.setPen(QPen(amber, 2));
            p.drawLine(QPointF(x, where.top()), QPointF(x, where.bottom()));
            p.setFont(face(11, true));
            p.drawText(QRectF(x + 4, where.top(), 60, 14), Qt::AlignLeft | Qt::AlignTop, tr("now"));
        }
    }
    if (reading && held_ < 0) {
        const double x = xOf(cursor_);
        p.setPen(QPen(c.ink, 1));
        p.drawLine(QPointF(x, box.top() - 6), QPointF(x, box.bottom()));
        p.setFont(face(11, true));
        const QString text = q(formatHoursMinutes(cursor_));
        const QRectF label(x - 20, box.bottom() + 2, 40, 16);
        p.fillRect(label, c.sheet);
        p.drawText(label, Qt::AlignCenter, text);
    }
}

void Score::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton)
        return;
    setFocus(Qt::MouseFocusReason);
    pressed_ = true;
    panned_ = false;
    pressX_ = event->position().x();
    pressFrom_ = from_;
    held_ = -1;
    for (std::size_t i = 0; i < moments_.size(); ++i)
        if ((flagOf(i) - event->position()).manhattanLength() < flagReach) {
            held_ = static_cast<int>(i);
            heldAt_ = moments_[i].time;
            heldByKey_ = false;
        }
}

void Score::mouseMoveEvent(QMouseEvent* event) {
    if (!document_.isOpen())
        return;
    const double x = event->position().x();
    if (pressed_ && held_ >= 0) {
        panned_ = panned_ || std::abs(x - pressX_) > clickSlack;
        heldAt_ = std::clamp(timeAt(x), traceBegan_, traceNow_);
        update();
        return;
    }
    if (pressed_ && std::abs(x - pressX_) > clickSlack && !all_) {
        panned_ = true;
        const double span = to_ - from_;
        from_ = pressFrom_ - (x - pressX_) * span / area().width();
        to_ = from_ + span;
        clampView();
    }
    cursor_ = area().adjusted(0, -topMargin, 0, bottomMargin).contains(event->position())
                  ? std::clamp(timeAt(x), 0.0, total())
                  : -1.0;
    update();
}

void Score::mouseReleaseEvent(QMouseEvent* event) {
    if (!pressed_ || event->button() != Qt::LeftButton)
        return;
    pressed_ = false;
    if (held_ >= 0 && !heldByKey_) {
        const auto which = static_cast<std::size_t>(std::exchange(held_, -1));
        if (panned_)
            emit momentPut(which, heldAt_);
        update();
        return;
    }
    if (panned_ || !document_.isOpen() || event->position().x() < area().left() - clickSlack)
        return;
    const double t = std::clamp(timeAt(event->position().x()), 0.0, total());
    if (tracing_) {
        if (t >= traceBegan_ && t <= traceNow_)
            emit momentWanted(static_cast<qint64>((t - traceBegan_) * 1000.0));
        return;
    }
    for (const auto& p : document_.plan().phases)
        if (t >= p.start && t <= p.start + p.duration) {
            document_.chooseMoment(t);
            if (crossingAt(event->position()))
                emit causeWanted(p.phase);
            else
                emit chosen(p.phase);
            return;
        }
}

void Score::leaveEvent(QEvent*) {
    cursor_ = -1.0;
    update();
}

void Score::wheelEvent(QWheelEvent* event) {
    zoom(event->angleDelta().y() > 0 ? 0.8 : 1.25, std::clamp(timeAt(event->position().x()), from_, to_));
    event->accept();
}

/// A moment by keys. @return whether the key was for it
bool Score::moveMoment(const QKeyEvent& event) {
    if (event.key() == Qt::Key_M) {
        held_ = (held_ + 1) % static_cast<int>(moments_.size());
        heldAt_ = moments_[static_cast<std::size_t>(held_)].time;
        heldByKey_ = true;
    } else if (held_ < 0) {
        return false;
    } else if (event.key() == Qt::Key_Left || event.key() == Qt::Key_Right) {
        const double by = event.modifiers() & Qt::ShiftModifier ? 10.0 : 1.0;
        heldAt_ = std::clamp(heldAt_ + (event.key() == Qt::Key_Left ? -by : by), traceBegan_, traceNow_);
    } else if (event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) {
        emit momentPut(static_cast<std::size_t>(std::exchange(held_, -1)), heldAt_);
    } else if ((event.key() == Qt::Key_Delete || event.key() == Qt::Key_Backspace) &&
               moments_[static_cast<std::size_t>(held_)].byHand) {
        emit momentForgotten(static_cast<std::size_t>(std::exchange(held_, -1)));
    } else if (event.key() == Qt::Key_Escape) {
        held_ = -1;
    } else {
        return false;
    }
    if (held_ >= 0 && (heldAt_ < from_ || heldAt_ > to_)) {
        const double span = to_ - from_;
        from_ = heldAt_ - span / 2;
        to_ = from_ + span;
        clampView();
    }
    update();
    return true;
}

void Score::keyPressEvent(QKeyEvent* event) {
    if (!document_.isOpen())
        return;
    if (!moments_.empty() && moveMoment(*event))
        return;
    const double step = event->modifiers() & Qt::ShiftModifier ? 600.0 : 60.0;
    if (cursor_ < 0)
        cursor_ = document_.plan()[phase_].start;
    switch (event->key()) {
    case Qt::Key_Left:
        cursor_ = std::max(0.0, cursor_ - step);
        break;
    case Qt::Key_Right:
        cursor_ = std::min(total(), cursor_ + step);
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        zoom(0.7, cursor_);
        break;
    case Qt::Key_Minus:
        zoom(1.0 / 0.7, cursor_);
        break;
    case Qt::Key_Home:
        showAll();
        break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
    case Qt::Key_Space:
        if (tracing_) {
            if (cursor_ >= traceBegan_ && cursor_ <= traceNow_)
                emit momentWanted(static_cast<qint64>((cursor_ - traceBegan_) * 1000.0));
            return;
        }
        for (const auto& p : document_.plan().phases)
            if (cursor_ >= p.start && cursor_ <= p.start + p.duration) {
                document_.chooseMoment(cursor_);
                emit chosen(p.phase);
                break;
            }
        return;
    default:
        QWidget::keyPressEvent(event);
        return;
    }
    if (cursor_ < from_ || cursor_ > to_) {
        const double span = to_ - from_;
        from_ = cursor_ - span / 2;
        to_ = from_ + span;
        clampView();
    }
    update();
}

bool Score::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip && document_.isOpen()) {
        const auto* help = static_cast<QHelpEvent*>(event);
        QString text;
        for (const auto& m : document_.plan().marks)
            if (std::abs(xOf(m.time) - help->pos().x()) < 6)
                text += (text.isEmpty() ? QString() : QStringLiteral("\n")) + q(formatHoursMinutes(m.time)) +
                        QStringLiteral("  ") + q(m.text);
        for (std::size_t i = 0; i < moments_.size(); ++i)
            if ((flagOf(i) - QPointF(help->pos())).manhattanLength() < flagReach)
                text = (moments_[i].byHand ? tr("%1, put here by hand: M and Delete take it back to where the trace "
                                                "shows it")
                                           : tr("%1: drag it to where it was"))
                           .arg(moments_[i].name);
        if (text.isEmpty())
            QToolTip::hideText();
        else
            QToolTip::showText(help->globalPos(), text, this);
        return true;
    }
    return QWidget::event(event);
}

} // namespace amber::app
