// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/card.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "print/a5_pdf.h"
#include "print/any_engine.h"
#include "store/sortie_document.h"
#include "trouble/drill.h"
#include "trouble/sheet.h"
#include "units/text.h"
#include <QBuffer>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>
#include <cmath>
#include <functional>

namespace amber::app {
namespace {
constexpr double marginMm = 9.0;
constexpr double bodyPoints = 7.6, smallPoints = 6.2, titlePoints = 10.5;

/// Origin marks are letters on the card, explained at its foot.
QString letter(Origin origin) {
    switch (origin) {
    case Origin::entered:
        return QStringLiteral("y");
    case Origin::practice:
        return QStringLiteral("p");
    case Origin::ours:
        return QStringLiteral("o");
    case Origin::notes:
        return QStringLiteral("n");
    case Origin::between:
        return QStringLiteral("b");
    case Origin::model:
        return QStringLiteral("m");
    case Origin::logged:
        return QStringLiteral("l");
    }
    return {};
}

QFont cardFont(double points, bool bold = false) {
    QFont font(fontFamily());
    font.setPointSizeF(points);
    font.setBold(bold);
    return font;
}

/// Sets lines down the page and turns it when full. With a null painter it only measures.
class Setter {
public:
    /// @param tight share of the usual gaps between lines
    Setter(QPagedPaintDevice& device, QPainter& painter, const plan::Plan& plan, double tight)
        : device_(device), p_(painter), plan_(plan), tight_(tight) {
        mm_ = device.logicalDpiX() / 25.4;
        const QRectF page = device.pageLayout().fullRectPixels(device.logicalDpiX());
        const QRectF paint = device.pageLayout().paintRectPixels(device.logicalDpiX());
        area_ = QRectF(marginMm * mm_ - paint.left(), marginMm * mm_ - paint.top(), page.width() - 2 * marginMm * mm_,
                       page.height() - 2 * marginMm * mm_);
        header();
    }

    [[nodiscard]] double mm() const { return mm_; }
    [[nodiscard]] double width() const { return area_.width(); }
    [[nodiscard]] double left() const { return area_.left(); }
    [[nodiscard]] int sides() const { return side_; }

    double heightOf(const QString& text, const QFont& font, double width) const {
        return QFontMetricsF(font, &device_).boundingRect(QRectF(0, 0, width, 1e6), Qt::TextWordWrap, text).height();
    }
    void text(double x, double width, const QString& value, const QFont& font, Qt::Alignment align = Qt::AlignLeft) {
        p_.setFont(font);
        p_.drawText(QRectF(area_.left() + x, y_, width, 1e4), static_cast<int>(align | Qt::AlignTop) | Qt::TextWordWrap,
                    value);
    }
    void rule(double pixels) {
        p_.setPen(QPen(Qt::black, pixels));
        p_.drawLine(QPointF(area_.left(), y_), QPointF(area_.right(), y_));
    }
    void down(double by) { y_ += by; }
    /// Between two lines, of so many millimetres.
    [[nodiscard]] double gap(double millimetres) const { return millimetres * mm_ * tight_; }
    /// Share of this side that is written on.
    [[nodiscard]] double filled() const { return (y_ - area_.top()) / area_.height(); }
    /// Turns the page unless so much room is left.
    void need(double height) {
        if (y_ + height > area_.bottom() - 6 * mm_)
            turn();
    }
    /// To the next side.
    void turn() {
        foot();
        device_.newPage();
        ++side_;
        header();
    }
    /// A bar down the outer edge.
    void bar() { p_.fillRect(QRectF(area_.right() + 3 * mm_, area_.top(), 4 * mm_, area_.height()), Qt::black); }
    [[nodiscard]] double y() const { return y_; }
    [[nodiscard]] double bottom() const { return area_.bottom(); }
    void moveTo(double y) { y_ = y; }
    void foot() {
        p_.setFont(cardFont(smallPoints));
        p_.setPen(Qt::black);
        const QRectF box(area_.left(), area_.bottom() - 5.4 * mm_, area_.width(), 6 * mm_);
        p_.drawText(box, Qt::AlignLeft | Qt::AlignBottom | Qt::TextWordWrap,
                    QObject::tr("y yours · n notes · b between notes · p practice · l logged · o ours · m model, an "
                                "estimate. Approved flight manual, placards and licensed engineers come first. "
                                "Propellers are live, always."));
    }

private:
    void header() {
        y_ = area_.top();
        p_.setPen(Qt::black);
        text(0, width() - 24 * mm_, q(plan_.aircraft), cardFont(titlePoints, true));
        text(width() - 24 * mm_, 24 * mm_, QObject::tr("side %1").arg(side_), cardFont(bodyPoints), Qt::AlignRight);
        y_ += heightOf(q(plan_.aircraft), cardFont(titlePoints, true), width() - 24 * mm_);
        text(0, width(), q(plan_.route), cardFont(bodyPoints));
        y_ += heightOf(q(plan_.route), cardFont(bodyPoints), width());
        text(0, width(), q(plan_.dayLine), cardFont(smallPoints));
        y_ += heightOf(q(plan_.dayLine), cardFont(smallPoints), width()) + 1.0 * mm_;
        rule(0.5 * mm_);
        y_ += 1.2 * mm_;
    }

    QPagedPaintDevice& device_;
    QPainter& p_;
    const plan::Plan& plan_;
    double tight_, mm_ = 1.0, y_ = 0.0;
    QRectF area_;
    int side_ = 1;
};

QString bandText(const plan::ExpectLine& e, const UnitSpec& unit) {
    QStringList parts;
    if (e.band.normalLow && e.band.normalHigh)
        parts << QObject::tr("normal %1–%2")
                     .arg(q(formatValue(*e.band.normalLow, unit)), q(formatValue(*e.band.normalHigh, unit)));
    if (e.band.limitLow)
        parts << QObject::tr("min %1").arg(q(formatValue(*e.band.limitLow, unit)));
    if (e.band.limitHigh)
        parts << QObject::tr("limit %1").arg(q(formatValue(*e.band.limitHigh, unit)));
    return parts.join(QStringLiteral(", "));
}

/// Black on white: a colour is a word and a shape.
QString shape(watch::Colour colour) {
    return colour == watch::Colour::red     ? QStringLiteral("■ ")
           : colour == watch::Colour::amber ? QStringLiteral("▲ ")
                                            : QString();
}
} // namespace

/// The walk-round: a station a paragraph, a box or a blank for each thing, what was found where it is known; and the
/// defects at its foot.
void paintWalk(Setter& s, const watch::WalkRound& walk) {
    const double mm = s.mm();
    const QFont body = cardFont(bodyPoints), bold = cardFont(bodyPoints, true);
    int number = 1;
    for (const auto& stop : walk.stops) {
        QStringList items;
        for (const auto& f : stop.items) {
            const QString found = f.found == watch::inOrder ? QStringLiteral("✓") : q(f.found);
            const bool look = f.item.kind == WalkItemKind::look;
            QString text = look ? q(f.what) : QStringLiteral("%1 (%2)").arg(q(f.what), q(f.want));
            if (f.item.stopper)
                text += QStringLiteral(" !");
            items << shape(f.verdict.colour()) + text +
                         (found.isEmpty() ? (look ? QStringLiteral(" □") : QStringLiteral(" ______"))
                                          : QStringLiteral(" ") + found);
        }
        const QString line = items.join(QStringLiteral("  ·  "));
        const double left = 32 * mm, height = s.heightOf(line, body, s.width() - left);
        s.need(height);
        s.text(0, 5 * mm, QString::number(number++), body);
        s.text(5 * mm, left - 6 * mm, q(stop.name), bold);
        s.text(left, s.width() - left, line, body);
        s.down(height + 0.35 * mm);
    }
    for (const auto& d : walk.defects) {
        const QString line =
            QObject::tr("WRITTEN UP  %1%2: %3").arg(shape(d.verdict.colour()), q(d.where), q(d.verdict.sentence()));
        const double height = s.heightOf(line, bold, s.width() - 5 * mm);
        s.need(height);
        s.text(5 * mm, s.width() - 5 * mm, line, bold);
        s.down(height + 0.3 * mm);
    }
}

void paintSequence(Setter& s, const plan::Plan& plan, const TypeNotes& notes) {
    const QFont body = cardFont(bodyPoints);
    QString engine;
    QStringList lines;
    const auto flush = [&] {
        if (lines.isEmpty())
            return;
        const QString line = QStringLiteral("%1: %2").arg(engine, lines.join(QStringLiteral("  ·  ")));
        const double left = 5 * s.mm(), height = s.heightOf(line, body, s.width() - left);
        s.need(height);
        s.text(left, s.width() - left, line, body);
        s.down(height + 0.3 * s.mm());
        lines.clear();
    };
    for (const auto& l : plan.startSequence) {
        QString name = QObject::tr("All");
        for (const auto& p : notes.positions)
            if (p.id == l.engine)
                name = q(p.name);
        if (name != engine)
            flush();
        engine = name;
        lines << QStringLiteral("%1 %2 %3").arg(q(formatMinutesSeconds(l.time)), q(l.what), q(l.set));
    }
    flush();
}

/// The run-up sheet to be filled in with a pencil, or as it was read; and the let-down's steps.
void paintSheet(Setter& s, const watch::RunUpSheet& sheet) {
    const QFont body = cardFont(bodyPoints), bold = cardFont(bodyPoints, true);
    const double left = 5 * s.mm();
    for (const auto& l : sheet.lines) {
        if (l.kind == watch::SheetKind::computed && l.id != "apart")
            continue;
        QStringList cells;
        for (std::size_t i = 0; i < l.cells.size(); ++i) {
            const auto& c = l.cells[i];
            const QString engine = l.cells.size() > 1 ? q(sheet.engines[i]) + QStringLiteral(" ") : QString();
            cells << engine + shape(c.verdict.colour()) + (c.shown.empty() ? QStringLiteral("______") : q(c.shown));
        }
        const QString line =
            QStringLiteral("%1%2 (%3):  %4")
                .arg(q(l.what), l.at.empty() ? QString() : QObject::tr(" at %1").arg(q(l.at)),
                     q(l.want) + QStringLiteral(" ") + letter(l.origin), cells.join(QStringLiteral("   ")));
        const double height = s.heightOf(line, body, s.width() - left);
        s.need(height);
        s.text(left, s.width() - left, line, body);
        s.down(height + 0.3 * s.mm());
    }
    for (const auto& f : sheet.findings) {
        const QString line = shape(f.verdict.colour()) +
                             (f.engine.empty() ? QString() : q(f.engine) + QStringLiteral(": ")) +
                             q(f.verdict.sentence()) + QStringLiteral(" ") + q(f.next);
        const double height = s.heightOf(line, bold, s.width() - left);
        s.need(height);
        s.text(left, s.width() - left, line, bold);
        s.down(height + 0.3 * s.mm());
    }
}

void paintLetDown(Setter& s, const plan::Plan& plan, const TypeNotes& notes) {
    QStringList steps;
    for (const auto& step : plan.flown.letDown)
        steps << QObject::tr("%1 from %2")
                     .arg(notes.gauges.contains(Gauge::boost)
                              ? q(format(step.boost.si(), notes.unitOf(Gauge::boost)))
                              : q(format(std::round(step.setting.rpm.si() * 6) / 6, *units::rpm.spec)),
                          q(formatHeight(step.height.si(), *notes.cockpit.height)));
    if (steps.size() < 2)
        return;
    const QFont body = cardFont(bodyPoints);
    const double left = 5 * s.mm();
    const QString line = QObject::tr("Power off by steps (m): %1").arg(steps.join(QStringLiteral("  ·  ")));
    const double height = s.heightOf(line, body, s.width() - left);
    s.need(height);
    s.text(left, s.width() - left, line, body);
    s.down(height + 0.3 * s.mm());
}

/// What comes round by the clock: its times, and a blank to write in.
void paintChores(Setter& s, const plan::PhasePlan& phase, const TypeNotes& notes) {
    const QFont body = cardFont(bodyPoints);
    const double left = 5 * s.mm();
    constexpr int most = 8; // blanks of a chore; more would fill the card
    for (const auto& chore : notes.phase(phase.phase).clocks) {
        if (!chore.every || phase.phase < Phase::climb || phase.phase > Phase::letDown)
            continue;
        QStringList due;
        for (double at = chore.every->si(); at < phase.duration - 1.0 && due.size() < most; at += chore.every->si())
            due << QObject::tr("%1 ______").arg(q(formatHoursMinutes(phase.start + at)));
        if (due.isEmpty())
            continue;
        const QString line = QStringLiteral("%1:  %2").arg(q(chore.what), due.join(QStringLiteral("  ")));
        const double height = s.heightOf(line, body, s.width() - left);
        s.need(height);
        s.text(left, s.width() - left, line, body);
        s.down(height + 0.3 * s.mm());
    }
}

namespace {
/// When it goes wrong, on one side: the drills in two columns, what is done from memory with a full dot; the outer edge
/// is barred, to be found with a thumb.
class TroubleSide {
public:
    TroubleSide(Setter& setter, const plan::Plan& plan, const powerplant::Aircraft& aircraft, const Sortie& sortie)
        : s_(setter), n_(aircraft.notes), gap_(4 * setter.mm()), column_((setter.width() - gap_) / 2) {
        const auto& f = plan.flown;
        const auto at = [&](double time) {
            return trouble::Case{aircraft, sortie, f, trouble::momentAt(n_, sortie, f, time), {0}};
        };
        const double after = f[Phase::takeOff].start + 0.9 * f[Phase::takeOff].duration;
        for (const auto e : {Emergency::engineFails, Emergency::fireStarting})
            for (auto& caution : trouble::cautionsOf(n_, e))
                cautions_.push_back(std::move(caution));
        drills_.push_back(
            {trouble::drillOf(at(f[Phase::takeOff].start + 1.0), Emergency::engineFails),
             QObject::tr("An engine fails, after take-off"),
             wanted(trouble::figuresOf(trouble::engineOut(aircraft, sortie, f, after, {0}), n_),
                    {"rate-least-drag", "rate-limited", "safe-speed", "ceiling", "glide", "glide-distance"})});
        drills_.push_back(
            {trouble::goRoundDrill(at(f[Phase::landing].start)), QObject::tr("Going round"),
             wanted(trouble::figuresOf(trouble::goRound(aircraft, sortie, f), n_), {"rate-up", "not-below", "rpm"})});
        for (const auto e : {Emergency::fireAir, Emergency::fireStarting, Emergency::fireGround})
            drills_.push_back({trouble::drillOf(at(after), e),
                               QObject::tr("Fire: %1").arg(QString::fromUtf8(amber::nameOf(e).title.data()).toLower()),
                               {}});
    }
    /// In the largest type in which it has room.
    void paint() {
        s_.turn();
        s_.bar();
        top_ = s_.y();
        for (points_ = 7.2; points_ > 5.4 && !set(false); points_ -= 0.2)
            ;
        set(true);
    }

private:
    struct Part {
        trouble::EmergencyDrill drill;
        QString title;
        trouble::Figures figures;
    };
    static trouble::Figures wanted(const trouble::Figures& all, std::initializer_list<std::string_view> ids) {
        trouble::Figures out;
        for (const auto& figure : all)
            if (std::find(ids.begin(), ids.end(), figure.id) != ids.end())
                out.push_back(figure);
        return out;
    }
    void room(double height) {
        if (y_ + height <= s_.bottom() - 7 * s_.mm())
            return;
        fits_ = fits_ && x_ == 0.0;
        if (x_ != 0.0 && draws_) {
            s_.turn();
            s_.bar();
        }
        x_ = x_ == 0.0 ? column_ + gap_ : 0.0;
        y_ = columnTop_;
    }
    void put(double indent, double width, const QString& text, const QFont& font) {
        if (!draws_)
            return;
        s_.moveTo(y_);
        s_.text(x_ + indent, width, text, font);
    }
    void line(const QString& text, const QFont& font, double indent = 0.0) {
        const double height = s_.heightOf(text, font, column_ - indent);
        room(height);
        put(indent, column_ - indent, text, font);
        y_ += height + 0.2 * s_.mm();
    }
    void part(const Part& p) {
        const double mm = s_.mm(), left = column_ * 0.5;
        const QFont body = cardFont(points_), bold = cardFont(points_, true);
        y_ += 0.7 * mm;
        room(9 * mm);
        line(p.title.toUpper(), cardFont(points_ + 0.4, true));
        std::string when;
        for (const auto& l : p.drill.lines) {
            if (l.at != when && !l.at.empty())
                line(q(l.at) + QLatin1Char(':'), body);
            when = l.at;
            const double height = std::max(s_.heightOf(anyEngine(l.what, n_), body, left - 4 * mm),
                                           s_.heightOf(q(l.set), bold, column_ - left));
            room(height);
            put(0, 4 * mm, l.memory ? QStringLiteral("●") : QStringLiteral("○"), body);
            put(3.2 * mm, left - 4 * mm, anyEngine(l.what, n_), body);
            put(left, column_ - left, q(l.set), bold);
            y_ += height + 0.12 * mm;
        }
        for (const auto& figure : p.figures)
            line(QStringLiteral("%1%2: %3  m")
                     .arg(shape(figure.verdict ? figure.verdict->colour() : watch::Colour::normal), q(figure.what),
                          q(figure.value)),
                 body, 3.2 * mm);
    }
    /// @return whether one side is enough
    bool set(bool draws) {
        draws_ = draws;
        fits_ = true;
        x_ = 0.0;
        y_ = top_;
        const QFont bold = cardFont(points_, true);
        QStringList all;
        for (const auto& caution : cautions_)
            all << q(caution);
        const QString text = QObject::tr("WHEN IT GOES WRONG   ● memory item   ○ checklist\nCAUTION  %1")
                                 .arg(all.join(QStringLiteral("  ")));
        put(0, s_.width(), text, bold);
        y_ += s_.heightOf(text, bold, s_.width()) + 0.5 * s_.mm();
        columnTop_ = y_;
        for (const auto& p : drills_)
            part(p);
        return fits_;
    }
    Setter& s_;
    const TypeNotes& n_;
    double gap_, column_, top_ = 0.0, columnTop_ = 0.0, x_ = 0.0, y_ = 0.0, points_ = 7.2;
    bool draws_ = false, fits_ = true;
    std::vector<std::string> cautions_;
    std::vector<Part> drills_;
};

/// Phase by phase, all but the side of trouble.
void paintPhases(Setter& s, const plan::Plan& plan, const TypeNotes& notes) {
    const double mm = s.mm();
    const QFont body = cardFont(bodyPoints), bold = cardFont(bodyPoints, true), small = cardFont(smallPoints);
    const double markWidth = 4 * mm;
    for (const auto& phase : plan.phases) {
        // A phase's head stays with its first lines.
        s.need(16 * mm);
        s.down(0.8 * mm);
        const QFont head = cardFont(8.6, true);
        s.text(0, 34 * mm, QString::fromUtf8(titleOf(phase.phase).data()).toUpper(), head);
        const QString headline =
            q(formatHoursMinutes(phase.start)) + QStringLiteral("  ") + q(phase.headline) + QStringLiteral("  m");
        s.text(34 * mm, s.width() - 34 * mm, headline, small, Qt::AlignRight);
        s.down(std::max(s.heightOf(QStringLiteral("X"), head, 100 * mm),
                        s.heightOf(headline, small, s.width() - 34 * mm)) +
               s.gap(0.3));
        s.rule(0.25 * mm);
        s.down(s.gap(0.7));
        if (!phase.spoken.empty()) {
            const QString line = QObject::tr("SAY ALOUD  %1  m").arg(q(phase.spoken));
            s.need(s.heightOf(line, bold, s.width()));
            s.text(0, s.width(), line, bold);
            s.down(s.heightOf(line, bold, s.width()) + s.gap(0.3));
        }
        for (const auto& caution : phase.cautions) {
            const QString line = QObject::tr("CAUTION  %1").arg(q(caution));
            s.need(s.heightOf(line, bold, s.width()));
            s.text(0, s.width(), line, bold);
            s.down(s.heightOf(line, bold, s.width()) + s.gap(0.3));
        }
        const bool walking = phase.phase == Phase::walkRound && !plan.walk.stops.empty();
        if (walking)
            paintWalk(s, plan.walk);
        int number = 1;
        for (const auto& step : phase.set) {
            const double valueLeft = 32 * mm, valueWidth = s.width() - valueLeft - markWidth;
            QString value = q(step.value);
            if (!step.at.empty())
                value += QObject::tr("  (at %1)").arg(q(step.at));
            if (step.reversed)
                value += QObject::tr("  — %1").arg(q(step.sense));
            const double height =
                std::max(s.heightOf(value, bold, valueWidth), s.heightOf(q(step.what), body, valueLeft - 6 * mm));
            s.need(height);
            s.text(0, 5 * mm, QString::number(number++), body);
            s.text(5 * mm, valueLeft - 6 * mm, q(step.what), body);
            s.text(valueLeft, valueWidth, value, bold);
            s.text(s.width() - markWidth, markWidth, letter(step.origin), small, Qt::AlignRight);
            s.down(height + s.gap(0.35));
        }
        for (const auto& e : phase.expect) {
            const UnitSpec& unit = notes.unitOf(e.gauge);
            const QString band = bandText(e, unit);
            const double height = s.heightOf(QStringLiteral("X"), body, 50 * mm);
            s.need(height);
            s.text(5 * mm, 27 * mm, q(e.title), body);
            s.text(32 * mm, 28 * mm, shape(e.verdict.colour()) + q(e.text), body);
            s.text(58 * mm, s.width() - 58 * mm - markWidth, band, small);
            s.text(s.width() - markWidth, markWidth, letter(e.origin), small, Qt::AlignRight);
            s.down(height + s.gap(0.1));
            QStringList needles;
            for (const auto& needle : e.needles)
                needles << q(needle.name) + QLatin1Char(' ') + shape(needle.verdict.colour()) + q(needle.text);
            if (needles.isEmpty())
                continue;
            s.need(height);
            s.text(32 * mm, s.width() - 32 * mm - markWidth, needles.join(QStringLiteral(", ")), small);
            s.text(s.width() - markWidth, markWidth, letter(Origin::logged), small, Qt::AlignRight);
            s.down(height + s.gap(0.1));
        }
        QStringList clocks;
        for (const auto& c : phase.clocks)
            clocks << shape(c.verdict.colour()) +
                          QStringLiteral("%1 %2%3").arg(
                              q(c.what), q(c.value),
                              QStringLiteral(" (%1)").arg(QString::fromUtf8(markOf(c.origin).data())));
        if (!clocks.isEmpty()) {
            const QString line = clocks.join(QStringLiteral("  ·  "));
            const double height = s.heightOf(line, body, s.width() - 5 * mm);
            s.need(height);
            s.text(5 * mm, s.width() - 5 * mm, line, body);
            s.down(height + s.gap(0.3));
        }
        paintChores(s, phase, notes);
        if (phase.phase == Phase::runUp)
            paintSheet(s, plan.runUpSheet);
        if (phase.phase == Phase::letDown)
            paintLetDown(s, plan, notes);
        // The start told engine by engine, where there are several.
        if (phase.phase == Phase::start && notes.positions.size() > 1)
            paintSequence(s, plan, notes);
        for (const auto& r : phase.remarks) {
            if (walking)
                break; // written up above
            const QString line = shape(r.verdict.colour()) + q(r.verdict.sentence());
            const double height = s.heightOf(line, bold, s.width() - 5 * mm);
            s.need(height);
            s.text(5 * mm, s.width() - 5 * mm, line, bold);
            s.down(height + s.gap(0.3));
        }
    }
}
} // namespace

int paintCard(QPagedPaintDevice& device, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
              const Sortie& sortie) {
    // A last side with a line or two on it is not worth its paper: then the lines stand closer.
    constexpr double hardly = 0.25, closer = 0.3;
    double tight = 1.0;
    {
        QBuffer nowhere;
        nowhere.open(QIODevice::WriteOnly);
        QPdfWriter scratch(&nowhere);
        scratch.setPageLayout(device.pageLayout());
        scratch.setResolution(device.logicalDpiX());
        QPainter painter(&scratch);
        Setter measured(scratch, painter, plan, 1.0);
        paintPhases(measured, plan, aircraft.notes);
        if (measured.filled() < hardly)
            tight = closer;
    }
    QPainter painter(&device);
    Setter s(device, painter, plan, tight);
    paintPhases(s, plan, aircraft.notes);
    TroubleSide(s, plan, aircraft, sortie).paint();
    s.foot();
    return s.sides();
}

QString writeCardPdf(const QString& path, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
                     const Sortie& sortie) {
    return writeA5Pdf(path, q(plan.title),
                      [&](QPagedPaintDevice& device) { paintCard(device, plan, aircraft, sortie); });
}

} // namespace amber::app
