// SPDX-License-Identifier: GPL-3.0-or-later
#include "print/air_card.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "plan/plan_export.h"
#include "print/a5_pdf.h"
#include "print/any_engine.h"
#include "store/output.h"
#include "store/sortie_document.h"
#include "trouble/drill.h"
#include "trouble/go_round.h"
#include "units/text.h"
#include <QBuffer>
#include <QCryptographicHash>
#include <QPainter>
#include <QPdfWriter>
#include <algorithm>

namespace amber::app {
namespace {
constexpr double clipMm = 22, ringsMm = 10, rightMm = 8, bottomMm = 8, footMm = 8;
constexpr double namePoints = 11, setPoints = 14, drillPoints = 12, headPoints = 16;
constexpr double nameShare = 0.30;     // of the width, for what a control is called
constexpr std::size_t mostWords = 120; // on the first side
constexpr qsizetype fewestLimits = 4;  // of gauges
constexpr qsizetype longestSet = 44;   // letters of a setting that is read at a glance

struct Row {
    QString what, set;
    int rank = 1; ///< 1 stays; the highest goes first where there is no room
};
struct Section {
    QString title;
    std::vector<Row> rows;
};

QFont airFont(double points, bool bold = false) {
    QFont font(fontFamily());
    font.setPointSizeF(points);
    font.setBold(bold);
    return font;
}

std::size_t wordsOf(const QString& text) {
    return static_cast<std::size_t>(text.simplified().count(QLatin1Char(' ')) + (text.trimmed().isEmpty() ? 0 : 1));
}

/// One mark of origin: what no notes give is an estimate.
QString marked(const std::string& text, Origin origin) {
    const bool estimate = origin == Origin::model || origin == Origin::between || origin == Origin::ours;
    return estimate ? q(text) + QStringLiteral(" ≈") : q(text);
}

/// Levers of a phase that are set to a figure: boost, rpm and speed stay, the others go where there is no room.
void settings(std::vector<Row>& rows, const plan::PhasePlan& phase, int rank) {
    for (const auto& line : phase.set) {
        if (line.figures.empty() || line.value.empty() || q(line.value).size() > longestSet)
            continue;
        const bool flies = std::any_of(line.figures.begin(), line.figures.end(), [](const plan::SetFigure& f) {
            return f.fact.dimension == Dimension::manifoldPressure || f.fact.dimension == Dimension::rotation ||
                   f.fact.dimension == Dimension::speed;
        });
        rows.push_back({q(line.what), marked(line.value, line.origin), flies ? rank : rank + 2});
    }
}

void clocks(std::vector<Row>& rows, const plan::PhasePlan& phase, std::initializer_list<std::string_view> ids,
            int rank) {
    for (const auto& c : phase.clocks)
        if (std::find(ids.begin(), ids.end(), std::string_view(c.fact.id)) != ids.end())
            rows.push_back({q(c.what), marked(c.value, c.origin), rank});
}

/// Limits of the gauges, in the order of the panel: boost, rpm and heat stay longest.
QStringList limits(const plan::PhasePlan& phase, const TypeNotes& notes) {
    QStringList out;
    for (const auto& e : phase.expect) {
        const UnitSpec& unit = notes.unitOf(e.gauge);
        if (e.band.limitLow && e.band.limitHigh)
            out << QObject::tr("%1 %2–%3")
                       .arg(q(e.title), q(formatValue(*e.band.limitLow, unit)), q(format(*e.band.limitHigh, unit)));
        else if (e.band.limitHigh)
            out << QObject::tr("%1 max %2").arg(q(e.title), q(format(*e.band.limitHigh, unit)));
        else if (e.band.limitLow)
            out << QObject::tr("%1 min %2").arg(q(e.title), q(format(*e.band.limitLow, unit)));
    }
    return out;
}

/// What is red in the plan: a card that is flown with says it first.
QStringList reds(const plan::Plan& plan) {
    QStringList out;
    for (const auto& phase : plan.phases)
        for (const auto& r : phase.remarks)
            if (r.verdict.colour() == watch::Colour::red && !out.contains(q(r.verdict.sentence())))
                out << q(r.verdict.sentence());
    return out;
}

class Painted {
public:
    Painted(QPagedPaintDevice& device, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
            const Sortie& sortie, int of)
        : device_(device), p_(&device), plan_(plan), aircraft_(aircraft), sortie_(sortie), of_(of) {
        mm_ = device.logicalDpiX() / 25.4;
        const QRectF page = device.pageLayout().fullRectPixels(device.logicalDpiX());
        const QRectF paint = device.pageLayout().paintRectPixels(device.logicalDpiX());
        area_ = QRectF(ringsMm * mm_ - paint.left(), clipMm * mm_ - paint.top(),
                       page.width() - (ringsMm + rightMm) * mm_, page.height() - (clipMm + bottomMm) * mm_);
        p_.setPen(Qt::black);
    }
    int paint() {
        head();
        flight();
        foot();
        trouble();
        foot();
        return side_;
    }

private:
    double heightOf(const QString& text, const QFont& font, double width) const {
        return QFontMetricsF(font, &device_).boundingRect(QRectF(0, 0, width, 1e6), Qt::TextWordWrap, text).height();
    }
    void put(double x, double width, const QString& text, const QFont& font, int align = Qt::AlignLeft) {
        p_.setFont(font);
        p_.drawText(QRectF(area_.left() + x, y_, width, 1e4), align | Qt::AlignTop | Qt::TextWordWrap, text);
    }
    void rule() {
        p_.setPen(QPen(Qt::black, 0.25 * mm_));
        p_.drawLine(QPointF(area_.left(), y_), QPointF(area_.right(), y_));
        p_.setPen(Qt::black);
        y_ += 0.8 * mm_;
    }
    [[nodiscard]] double bottom() const { return area_.bottom() - footMm * mm_; }
    void head() {
        y_ = area_.top();
        const QFont font = airFont(namePoints, true);
        put(0, area_.width() * 0.8,
            QFontMetricsF(font, &device_).elidedText(q(plan_.aircraft), Qt::ElideRight, area_.width() * 0.8), font);
        put(area_.width() * 0.8, area_.width() * 0.2, QObject::tr("%1 of %2").arg(side_).arg(of_), airFont(namePoints),
            Qt::AlignRight);
        y_ += heightOf(QStringLiteral("X"), font, 1e4);
        // Of which plan: a card of another day has another code.
        const QFont plain = airFont(namePoints);
        put(0, area_.width() * 0.74,
            QFontMetricsF(plain, &device_).elidedText(q(plan_.route), Qt::ElideRight, area_.width() * 0.74), plain);
        put(area_.width() * 0.74, area_.width() * 0.26, QObject::tr("plan %1").arg(code_), plain, Qt::AlignRight);
        y_ += heightOf(QStringLiteral("X"), plain, 1e4);
    }
    void foot() {
        y_ = area_.bottom() - footMm * mm_ + 1 * mm_;
        put(0, area_.width(), QObject::tr("≈ an estimate. Flight manual and placards come first."),
            airFont(namePoints));
    }
    void turn() {
        foot();
        device_.newPage();
        ++side_;
        head();
        p_.fillRect(QRectF(area_.right() + 2 * mm_, area_.top(), 4 * mm_, area_.height()), Qt::black);
    }
    double rowHeight(const Row& r) const {
        const double name = area_.width() * nameShare - 2 * mm_;
        return std::max(heightOf(r.what, airFont(namePoints), name),
                        heightOf(r.set, airFont(setPoints, true), area_.width() * (1 - nameShare))) +
               0.4 * mm_;
    }
    void row(const Row& r) {
        const double name = area_.width() * nameShare - 2 * mm_;
        const double drop = QFontMetricsF(airFont(setPoints, true), &device_).ascent() -
                            QFontMetricsF(airFont(namePoints), &device_).ascent();
        y_ += drop;
        put(0, name, r.what, airFont(namePoints));
        y_ -= drop;
        put(area_.width() * nameShare, area_.width() * (1 - nameShare), r.set, airFont(setPoints, true));
        y_ += rowHeight(r);
    }
    std::vector<Section> sections() {
        const auto& f = plan_.flown;
        std::vector<Section> out;
        if (const QStringList wrong = reds(plan_); !wrong.isEmpty())
            out.push_back({QObject::tr("Not fit to fly as planned"),
                           {{wrong.size() > 1 ? QObject::tr("1 of %1").arg(wrong.size()) : QString(),
                             QStringLiteral("■ ") + wrong.front(), 1}}});
        Section off{QObject::tr("Take-off"), {}};
        const auto fails = drillAt(f[Phase::takeOff].start + 1.0, Emergency::engineFails);
        // The decision directly over what is set: the last gate is the one in the air.
        const auto gate = std::find_if(fails.lines.rbegin(), fails.lines.rend(), [](const auto& l) { return l.gate; });
        if (gate != fails.lines.rend())
            off.rows.push_back({QObject::tr("Fails: %1").arg(q(gate->what)), q(gate->set), 1});
        settings(off.rows, plan_[Phase::takeOff], 1);
        out.push_back(std::move(off));
        Section climb{QObject::tr("Climb"), {}};
        settings(climb.rows, plan_[Phase::climb], 1);
        clocks(climb.rows, plan_[Phase::climb], {"change-gear-in"}, 1);
        out.push_back(std::move(climb));
        Section cruise{QObject::tr("Cruise"), {}};
        settings(cruise.rows, plan_[Phase::cruise], 1);
        clocks(cruise.rows, plan_[Phase::cruise], {"burn"}, 1);
        clocks(cruise.rows, plan_[Phase::cruise], {"endurance"}, 3);
        out.push_back(std::move(cruise));
        Section down{QObject::tr("Let-down"), {}};
        settings(down.rows, plan_[Phase::letDown], 2);
        out.push_back(std::move(down));
        Section land{QObject::tr("Landing"), {}};
        settings(land.rows, plan_[Phase::landing], 2);
        const auto away = trouble::goRound(aircraft_, sortie_, f).climbs;
        QStringList round;
        for (const auto& l : trouble::goRoundDrill(caseAt(f[Phase::landing].start)).lines)
            if (std::any_of(l.set.begin(), l.set.end(), [](char c) { return c >= '0' && c <= '9'; }))
                round << q(l.set);
        if (away.colour() == watch::Colour::red)
            land.rows.push_back({QObject::tr("Go-around"), QStringLiteral("■ ") + q(away.sentence()), 1});
        else if (!round.isEmpty())
            land.rows.push_back({QObject::tr("Go-around"), round.join(QStringLiteral(", ")), 1});
        out.push_back(std::move(land));
        return out;
    }
    void flight() {
        auto all = sections();
        QStringList bounds = limits(plan_[Phase::climb], aircraft_.notes);
        QString over = bounds.join(QStringLiteral("  ·  "));
        const QFont title = airFont(namePoints, true), limit = airFont(drillPoints, true);
        const auto height = [&] {
            double h = heightOf(over, limit, area_.width()) + 2.4 * mm_;
            for (const auto& s : all) {
                if (s.rows.empty())
                    continue;
                h += heightOf(s.title, title, 1e4) + 1.4 * mm_;
                for (const auto& r : s.rows)
                    h += rowHeight(r);
            }
            return h;
        };
        const auto words = [&] {
            std::size_t n = wordsOf(over);
            for (const auto& s : all)
                for (const auto& r : s.rows)
                    n += wordsOf(r.what) + wordsOf(r.set);
            return n;
        };
        // What goes first: the last of the highest rank.
        while (y_ + height() > bottom() || words() > mostWords) {
            Section* from = nullptr;
            std::size_t at = 0;
            int rank = 1;
            for (auto& s : all)
                for (std::size_t i = 0; i < s.rows.size(); ++i)
                    if (s.rows[i].rank >= rank && s.rows[i].rank > 1) {
                        rank = s.rows[i].rank;
                        from = &s;
                        at = i;
                    }
            if (!from) {
                if (bounds.size() <= fewestLimits)
                    break;
                bounds.removeLast();
                over = bounds.join(QStringLiteral("  ·  "));
                continue;
            }
            from->rows.erase(from->rows.begin() + static_cast<std::ptrdiff_t>(at));
        }
        y_ += 0.6 * mm_;
        rule();
        put(0, area_.width(), over, limit);
        y_ += heightOf(over, limit, area_.width()) + 1 * mm_;
        for (const auto& s : all) {
            if (s.rows.empty())
                continue;
            put(0, area_.width(), s.title.toUpper(), title);
            y_ += heightOf(s.title, title, 1e4);
            rule();
            for (const auto& r : s.rows)
                row(r);
            y_ += 0.6 * mm_;
        }
    }
    [[nodiscard]] trouble::Case caseAt(double time) const {
        return {aircraft_, sortie_, plan_.flown, trouble::momentAt(aircraft_.notes, sortie_, plan_.flown, time), {0}};
    }
    [[nodiscard]] trouble::EmergencyDrill drillAt(double time, Emergency e) const {
        return trouble::drillOf(caseAt(time), e);
    }
    void trouble() {
        const auto& f = plan_.flown;
        const double off = f[Phase::takeOff].start + 1.0,
                     after = f[Phase::takeOff].start + 0.9 * f[Phase::takeOff].duration;
        turn();
        const double top = y_;
        const auto part = [&](const QString& name, const trouble::EmergencyDrill& drill) {
            const QFont what = airFont(drillPoints), set = airFont(drillPoints, true),
                        title = airFont(headPoints, true);
            const double left = area_.width() * 0.42;
            const bool memory =
                std::any_of(drill.lines.begin(), drill.lines.end(), [](const auto& l) { return l.memory; });
            const auto high = [&](const trouble::DrillLine& l) {
                return std::max(heightOf(anyEngine(l.what, aircraft_.notes), what, left - 2 * mm_),
                                heightOf(q(l.set), set, area_.width() - left)) +
                       0.3 * mm_;
            };
            // A line, and over it when it is done, where that is another moment than the line's before.
            const QFont when = airFont(namePoints);
            std::vector<std::pair<QString, const trouble::DrillLine*>> lines;
            std::string at;
            for (const auto& l : drill.lines) {
                if (memory && !l.memory)
                    continue;
                lines.emplace_back(l.at != at && !l.at.empty() ? q(l.at) + QLatin1Char(':') : QString(), &l);
                at = l.at;
            }
            const auto tall = [&](const auto& line) {
                return high(*line.second) + (line.first.isEmpty() ? 0.0 : heightOf(line.first, when, area_.width()));
            };
            double all = heightOf(name, title, 1e4) + 1 * mm_;
            for (const auto& line : lines)
                all += tall(line);
            if (y_ + all > bottom() && y_ > top)
                turn();
            put(0, area_.width(), name, title);
            y_ += heightOf(name, title, 1e4);
            rule();
            for (const auto& line : lines) {
                if (y_ + tall(line) > bottom())
                    turn();
                if (!line.first.isEmpty()) {
                    put(0, area_.width(), line.first, when);
                    y_ += heightOf(line.first, when, area_.width());
                }
                put(0, left - 2 * mm_, anyEngine(line.second->what, aircraft_.notes), what);
                put(left, area_.width() - left, q(line.second->set), set);
                y_ += high(*line.second);
            }
            y_ += 1.5 * mm_;
        };
        part(QObject::tr("Engine fails"), drillAt(off, Emergency::engineFails));
        part(QObject::tr("Fire in the air"), drillAt(after, Emergency::fireAir));
        part(QObject::tr("Fire at the start"), drillAt(off, Emergency::fireStarting));
    }

    QPagedPaintDevice& device_;
    QPainter p_;
    const plan::Plan& plan_;
    const powerplant::Aircraft& aircraft_;
    const Sortie& sortie_;
    double mm_ = 1.0, y_ = 0.0;
    QRectF area_;
    int side_ = 1, of_;
    QString code_ = QString::fromLatin1(
        QCryptographicHash::hash(QByteArray::fromStdString(plan::planCsv(plan_)), QCryptographicHash::Sha256)
            .toHex()
            .left(6));
};
} // namespace

int paintAirCard(QPagedPaintDevice& device, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
                 const Sortie& sortie) {
    // How many sides there are is known when they are painted: once for nobody.
    QBuffer nowhere;
    nowhere.open(QIODevice::WriteOnly);
    QPdfWriter scratch(&nowhere);
    scratch.setPageLayout(device.pageLayout());
    scratch.setResolution(device.logicalDpiX());
    const int sides = Painted(scratch, plan, aircraft, sortie, 0).paint();
    return Painted(device, plan, aircraft, sortie, sides).paint();
}

QString writeAirCardPdf(const QString& path, const plan::Plan& plan, const powerplant::Aircraft& aircraft,
                        const Sortie& sortie) {
    return writeA5Pdf(path, q(plan.title),
                      [&](QPagedPaintDevice& device) { paintAirCard(device, plan, aircraft, sortie); });
}

} // namespace amber::app
