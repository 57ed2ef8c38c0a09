// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/hands_view.h"
#include "cockpit/controls.h"
#include "kit/theme.h"
#include "kit/words.h"
#include "units/text.h"
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>
#include <numeric>

namespace amber::app {
namespace {
/// Moved by keys and the mouse anywhere between its ends; carburettor air goes from place to place, and takes a share
/// where one is typed: its lever lies hot behind, and more of it is not further forward.
bool slides(const Control& control) {
    return rehearse::travels(control) && control.acts != Acts::carburettorAir;
}
constexpr int headHeight = 20, endHeight = 14, valueHeight = 19;
constexpr double knobWidth = 20, knobHeight = 13;
constexpr double lineLeast = 19.5, lineMost = 24, figureRoom = 44, figureLeast = 38; // px
using rehearse::Act;
} // namespace

HandsView::HandsView(Seat& seat, QWidget* parent) : QWidget(parent), seat_(seat) {
    setObjectName(QStringLiteral("hands"));
    setAccessibleName(tr("Hands: the controls"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    figure_ = new QLineEdit(this);
    figure_->setObjectName(QStringLiteral("hand-figure"));
    figure_->setAccessibleName(tr("Figure for the chosen control"));
    figure_->setFont(face(14));
    figure_->setToolTip(tr("A figure in this cockpit's units (=); Enter puts the control there"));
    figure_->hide();
    figure_->installEventFilter(this);
    connect(&seat_, &Seat::seated, this, [this] {
        if (seat_.isTaken()) {
            nameLetters();
            updateGeometry();
            layOut();
        }
        refresh();
    });
    connect(&seat_, &Seat::chosen, this, &HandsView::refresh);
}

void HandsView::refresh() {
    if (!seat_.isTaken()) {
        figure_->hide();
        return;
    }
    const Control& c = control(seat_.controlOf(0));
    const bool figures = rehearse::travels(c) || governs(seat_.controlOf(0));
    figure_->setVisible(figures);
    setAccessibleDescription(reading());
    update();
}

/// The levers first, so that they have their own; each the first letter of its name that is free, or any that is.
void HandsView::nameLetters() {
    const auto& all = seat_.notes().controls;
    letters_.assign(all.size(), QChar());
    QString left = QStringLiteral("XZQVJKYWUHNGDBLFRCSOIAEMPT");
    std::vector<std::size_t> order(all.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_partition(order.begin(), order.end(), [&](std::size_t i) { return isSlot(i); });
    const auto take = [&](std::size_t i, QChar letter) {
        letters_[i] = letter;
        left.remove(letter);
    };
    for (const std::size_t i : order)
        for (const QChar letter : q(all[i].name).toUpper())
            if (letters_[i].isNull() && left.contains(letter))
                take(i, letter);
    for (const std::size_t i : order)
        if (letters_[i].isNull()) // more controls than letters: pressed again it goes from one to the next
            take(i, left.isEmpty() ? q(all[i].name).toUpper().front() : left.front());
}

bool HandsView::isSlot(std::size_t index) const {
    const Control& c = control(index);
    return c.kind == ControlKind::lever &&
           (c.acts == Acts::throttle || c.acts == Acts::mixture || c.acts == Acts::propeller);
}

bool HandsView::governs(std::size_t index) const {
    return control(index).acts == Acts::propeller && seat_.notes().propeller.control == PropellerControl::constantSpeed;
}

std::pair<double, double> HandsView::revs() const {
    return seat_.session().rehearsal().hands().governed();
}

bool HandsView::moreIsUp(std::size_t index) const {
    const auto& more = control(index).more;
    return more != "aft" && more != "down" && more != "in" && more != "left";
}

void HandsView::layOut() {
    cells_.clear();
    const TypeNotes& n = seat_.notes();
    std::vector<std::size_t> levers, lines;
    for (std::size_t i = 0; i < n.controls.size(); ++i)
        (isSlot(i) ? levers : lines).push_back(i);
    const std::size_t rows = (lines.size() + 1) / 2;
    // Levers want a third of the height, the list what it needs, and what is told of the chosen one the rest.
    const double wants = static_cast<double>(rows) * lineLeast + 12 + figureLeast;
    const double slotHeight = std::clamp(std::min(0.34 * height(), height() - wants), 96.0, 230.0);
    const double lineHeight = std::clamp(
        (height() - slotHeight - 10 - figureRoom) / std::max(1.0, static_cast<double>(rows)), lineLeast, lineMost);
    const double listHeight = static_cast<double>(rows) * lineHeight + 4;
    const double each = width() / std::max(1.0, static_cast<double>(levers.size()));
    for (std::size_t i = 0; i < levers.size(); ++i)
        cells_.push_back({levers[i], {static_cast<double>(i) * each, 0, each - 8, slotHeight}, true});
    const double half = width() / 2.0;
    for (std::size_t i = 0; i < lines.size(); ++i)
        cells_.push_back({lines[i],
                          {(i / rows == 0 ? 0.0 : half), slotHeight + 6 + static_cast<double>(i % rows) * lineHeight,
                           half - 10, lineHeight},
                          false});
    figure_->setGeometry(static_cast<int>(width() - 118), static_cast<int>(slotHeight + 8 + listHeight), 108, 26);
}

QSize HandsView::minimumSizeHint() const {
    constexpr int leastWidth = 316, leastSlot = 96;
    const auto lines = seat_.isTaken() ? seat_.notes().controls.size() : std::size_t{20};
    return {leastWidth, leastSlot + static_cast<int>(std::ceil(static_cast<double>((lines + 1) / 2) * lineLeast)) + 12 +
                            static_cast<int>(figureLeast)};
}

void HandsView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (seat_.isTaken())
        layOut();
}

QRectF HandsView::placeOf(std::size_t index) const {
    for (const auto& cell : cells_)
        if (cell.control == index)
            return cell.box;
    return {};
}

QRectF HandsView::travelOf(const Cell& cell) const {
    return cell.box.adjusted(4, headHeight + 8, -4, -valueHeight - 8);
}

QRectF HandsView::knobOf(std::size_t index, std::size_t engine) const {
    for (const auto& cell : cells_)
        if (cell.control == index && cell.slot) {
            const QRectF travel = travelOf(cell);
            const auto count = static_cast<double>(seat_.notes().engineCount());
            const double apart = std::min(28.0, travel.width() / count);
            const double x = travel.left() + 12 + apart * static_cast<double>(engine);
            const double share = shareOf(index, engine).value_or(0.0);
            const double y =
                moreIsUp(index) ? travel.bottom() - share * travel.height() : travel.top() + share * travel.height();
            return {x - knobWidth / 2, y - knobHeight / 2, knobWidth, knobHeight};
        }
    return {};
}

std::optional<double> HandsView::shareOf(std::size_t index, std::size_t engine) const {
    const auto& r = seat_.session().rehearsal();
    const Control& c = control(index);
    const auto& at = r.hands().at(index, engine);
    const auto& levers = r.hands().levers().engines[engine];
    if (c.acts == Acts::throttle)
        return levers.throttle.by == powerplant::Throttle::By::place
                   ? levers.throttle.value
                   : r.powerplant().engine(engine).throttlePlace(r.state().engines[engine].throttle);
    if (governs(index)) {
        const auto [low, high] = revs();
        return std::clamp((levers.rpm - low) / (high - low), 0.0, 1.0);
    }
    if (at.share) // of hot air, whose end lies behind
        return c.acts == Acts::carburettorAir ? 1.0 - *at.share : *at.share;
    return c.position(at.position) ? std::optional(cockpit::place(c, at.position)) : std::nullopt;
}

std::optional<double> HandsView::plannedShare(std::size_t index, std::size_t engine) const {
    if (!seat_.session().mayTell(index))
        return std::nullopt;
    const auto figure = seat_.session().guide().planned(index, engine);
    if (!figure)
        return std::nullopt;
    if (figure->share)
        return control(index).acts == Acts::carburettorAir ? 1.0 - *figure->share : *figure->share;
    if (governs(index) && figure->si) {
        const auto [low, high] = revs();
        return std::clamp((*figure->si - low) / (high - low), 0.0, 1.0);
    }
    if (const Control& c = control(index); c.position(figure->position) && c.acts != Acts::throttle)
        return cockpit::place(c, figure->position);
    return std::nullopt;
}

QString HandsView::plannedText(std::size_t index) const {
    if (!seat_.session().mayTell(index))
        return {};
    for (const auto& put : seat_.session().guide().wanting(seat_.session().rehearsal()))
        if (put.control == index)
            return q(rehearse::whereTo(rehearse::actOf(put), seat_.notes()));
    return {};
}

bool HandsView::isAsked(std::size_t index) const {
    return seat_.session().guide().due() && !plannedText(index).isEmpty();
}

QString HandsView::valueOf(std::size_t index, std::size_t engine) const {
    return q(seat_.session().rehearsal().stands(index, engine));
}

QString HandsView::valueOf(std::size_t index) const {
    const std::size_t engines = control(index).each ? seat_.notes().engineCount() : 1;
    QStringList all;
    for (std::size_t e = 0; e < engines; ++e)
        all << valueOf(index, e);
    if (all.count(all.front()) == all.size())
        return all.front();
    // Most alike and the odd ones out.
    QString most = all.front();
    for (const auto& text : all)
        if (all.count(text) > all.count(most))
            most = text;
    if (all.size() < 3 || all.count(most) * 2 <= all.size())
        return all.join(QStringLiteral(" · "));
    QString out = most;
    for (qsizetype e = 0; e < all.size(); ++e)
        if (all[e] != most)
            out += tr(", %1: %2").arg(e + 1).arg(all[e]);
    return out;
}

/// The letter that takes it; of two at the keyboard whose it is.
QString HandsView::markOf(std::size_t index) const {
    return seat_.areTwo() ? (seat_.pairOf(index) == 1 ? tr("2") : tr("1")) : QString(letterOf(index));
}

QString HandsView::reading() const {
    const Control& c = control(seat_.control());
    const TypeNotes& n = seat_.notes();
    QString out = tr("%1: %2").arg(q(c.name), valueOf(seat_.control()));
    if (!c.sense.empty())
        out += QStringLiteral("; ") + q(c.sense);
    if (c.reversed)
        out += tr(", the reverse of most");
    if (!c.who.empty())
        out += tr("; worked by the %1").arg(q(c.who));
    if (n.engineCount() > 1 && (c.each || c.acts == Acts::primer)) {
        QStringList whose;
        for (const std::size_t e : seat_.engines())
            whose << q(n.positions[e].name);
        out += whose.size() == static_cast<qsizetype>(n.engineCount())
                   ? tr(". All engines")
                   : tr(". Hand on %1").arg(whose.join(QStringLiteral(", ")));
    }
    return out + QStringLiteral(".");
}

// ---- drawing

void HandsView::paintEvent(QPaintEvent*) {
    if (!seat_.isTaken())
        return;
    QPainter p(this);
    const Colours c(this);
    for (const auto& cell : cells_)
        cell.slot ? paintSlot(p, cell) : paintLine(p, cell);
    const QRect foot(7, figure_->y() + 2, figure_->isHidden() ? width() - 12 : figure_->x() - 14,
                     height() - figure_->y());
    p.setFont(face(13));
    p.setPen(c.ink);
    p.drawText(foot, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, reading());
}

bool HandsView::isChosen(std::size_t index) const {
    return index == seat_.controlOf(seat_.pairOf(index));
}

/// The hand is on it: a bar at its left; of the second of two at its right.
void HandsView::paintChosen(QPainter& p, const Cell& cell) const {
    if (!isChosen(cell.control))
        return;
    const Colours c(this);
    p.fillRect(cell.box, hasFocus() ? c.amberWash : c.sheet);
    const bool second = seat_.pairOf(cell.control) == 1;
    p.fillRect(QRectF(second ? cell.box.right() - 3 : cell.box.left(), cell.box.top(), 3, cell.box.height()),
               hasFocus() ? c.amber : c.faint);
}

void HandsView::paintSlot(QPainter& p, const Cell& cell) const {
    const Colours c(this);
    const Control& k = control(cell.control);
    const bool chosen = isChosen(cell.control), asked = isAsked(cell.control);
    paintChosen(p, cell);
    const QRectF head(cell.box.left() + 8, cell.box.top(), cell.box.width() - 10, headHeight);
    p.setFont(face(12));
    p.setPen(c.faint);
    p.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, markOf(cell.control));
    p.setFont(face(14, true));
    p.setPen(asked ? c.amber : c.ink);
    p.drawText(head.adjusted(16, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(q(k.name), Qt::ElideRight, static_cast<int>(head.width()) - 18));
    const QRectF travel = travelOf(cell);
    const bool up = moreIsUp(cell.control);
    const auto end = [&](const std::vector<ControlPosition>& all, bool more) {
        return all.empty() ? QString() : q(more ? all.back().name : all.front().name);
    };
    // What its ends are stands beside them: the upper in the head's line, the lower in the figure's.
    p.setFont(face(11));
    p.setPen(c.faint);
    const int nameWidth = QFontMetrics(face(14, true)).horizontalAdvance(q(k.name));
    if (p.fontMetrics().horizontalAdvance(end(k.positions, up)) < head.width() - 16 - nameWidth - 6)
        p.drawText(head, Qt::AlignRight | Qt::AlignVCenter, end(k.positions, up));
    const QRectF foot(cell.box.left() + 8, cell.box.bottom() - valueHeight, cell.box.width() - 10, valueHeight);
    p.drawText(foot, Qt::AlignRight | Qt::AlignVCenter, end(k.positions, !up));
    const double taken = p.fontMetrics().horizontalAdvance(end(k.positions, !up)) + 6;
    p.setRenderHint(QPainter::Antialiasing);
    for (std::size_t e = 0; e < seat_.notes().engineCount(); ++e) {
        const QRectF knob = knobOf(cell.control, e);
        p.setPen(QPen(c.ink, 1.2));
        p.drawLine(QPointF(knob.center().x(), travel.top()), QPointF(knob.center().x(), travel.bottom()));
        if (const auto planned = plannedShare(cell.control, e)) {
            const double y =
                up ? travel.bottom() - *planned * travel.height() : travel.top() + *planned * travel.height();
            p.setPen(QPen(c.amber, 2.5));
            p.drawLine(QPointF(knob.center().x() - 12, y), QPointF(knob.center().x() + 12, y));
        }
    }
    const auto& hand = seat_.enginesOf(seat_.pairOf(cell.control));
    for (std::size_t e = 0; e < seat_.notes().engineCount(); ++e) {
        const QRectF knob = knobOf(cell.control, e);
        const bool on = chosen && std::find(hand.begin(), hand.end(), e) != hand.end();
        p.setPen(QPen(on ? c.amber : c.ink, on ? 2.2 : 1));
        p.setBrush(c.ink);
        p.drawRect(knob);
        p.setFont(face(11, true));
        p.setPen(c.sheet);
        if (seat_.notes().engineCount() > 1)
            p.drawText(knob, Qt::AlignCenter, QString::number(e + 1));
    }
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setBrush(Qt::NoBrush);
    const QString wanted = plannedText(cell.control);
    p.setFont(face(13, asked));
    p.setPen(asked ? c.amber : c.ink);
    const QRectF value = foot.adjusted(0, 0, -taken, 0);
    p.drawText(
        value, Qt::AlignLeft | Qt::AlignVCenter,
        p.fontMetrics().elidedText(asked ? tr("%1 → %2").arg(valueOf(cell.control), wanted) : valueOf(cell.control),
                                   Qt::ElideRight, static_cast<int>(value.width())));
}

void HandsView::paintLine(QPainter& p, const Cell& cell) const {
    const Colours c(this);
    const Control& k = control(cell.control);
    const bool asked = isAsked(cell.control);
    paintChosen(p, cell);
    p.setPen(QPen(c.rule, 1));
    p.drawLine(cell.box.bottomLeft(), cell.box.bottomRight());
    p.setFont(face(12));
    p.setPen(c.faint);
    p.drawText(cell.box.adjusted(7, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, markOf(cell.control));
    const QString value =
        asked ? tr("%1 → %2").arg(valueOf(cell.control), plannedText(cell.control)) : valueOf(cell.control);
    const QRectF inner = cell.box.adjusted(24, 0, -4, 0);
    QFont bold = face(13, true);
    const int nameWidth = QFontMetrics(face(13)).horizontalAdvance(q(k.name));
    if (QFontMetrics(bold).horizontalAdvance(value) > inner.width() - nameWidth - 8)
        bold = face(12, asked);
    const int valueWidth =
        std::min(static_cast<int>(inner.width() * 0.62), QFontMetrics(bold).horizontalAdvance(value) + 2);
    p.setFont(face(13));
    p.setPen(asked ? c.amber : c.ink);
    p.drawText(inner, Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(q(k.name), Qt::ElideRight, static_cast<int>(inner.width()) - valueWidth - 6));
    p.setFont(bold);
    p.drawText(inner, Qt::AlignRight | Qt::AlignVCenter, p.fontMetrics().elidedText(value, Qt::ElideRight, valueWidth));
}

// ---- hands

std::size_t HandsView::positionOf(std::size_t index) const {
    const Control& c = control(index);
    const auto& at = seat_.session().rehearsal().hands().at(index, seat_.engines().front());
    const auto found = std::find_if(c.positions.begin(), c.positions.end(),
                                    [&](const ControlPosition& p) { return p.is == at.position; });
    return found == c.positions.end() ? 0 : static_cast<std::size_t>(found - c.positions.begin());
}

void HandsView::putPosition(std::size_t position) {
    const Control& c = control(seat_.control());
    if (c.positions.empty())
        return;
    Act act;
    act.control = seat_.control();
    act.to.kind = Target::Kind::position;
    act.to.word = c.positions[std::min(position, c.positions.size() - 1)].is;
    seat_.put(act);
}

void HandsView::moveTo(double share) {
    share = std::clamp(share, 0.0, 1.0);
    const Control& c = control(seat_.control());
    Act act;
    act.control = seat_.control();
    if (governs(seat_.control())) {
        const auto [low, high] = revs();
        act.to.kind = Target::Kind::quantity;
        act.to.dimension = Dimension::rotation;
        act.to.si = std::round((low + share * (high - low)) * 6.0) / 6.0; // to ten rpm
    } else if (slides(c)) {
        act.share = std::round(share * 200.0) / 200.0;
    } else {
        putPosition(static_cast<std::size_t>(std::lround(share * static_cast<double>(c.positions.size() - 1))));
        return;
    }
    seat_.put(act);
}

void HandsView::move(int up, Step step) {
    const std::size_t index = seat_.control();
    const Control& c = control(index);
    const int towards = moreIsUp(index) ? up : -up;
    if (slides(c) || governs(index)) {
        const double usual = governs(index) ? 50.0 / 60.0 / (revs().second - revs().first) : 0.02;
        const double by = towards * usual * (step == Step::fine ? 0.25 : step == Step::coarse ? 5.0 : 1.0);
        std::vector<double> to;
        for (const std::size_t e : seat_.engines())
            to.push_back(std::clamp(shareOf(index, e).value_or(0.0) + by, 0.0, 1.0));
        if (std::all_of(to.begin(), to.end(), [&](double t) { return std::abs(t - to.front()) < 0.003; })) {
            moveTo(to.front());
            return;
        }
        // Each from where it stands: they keep apart.
        std::vector<Act> acts;
        for (std::size_t i = 0; i < to.size(); ++i) {
            Act act;
            act.control = index;
            act.engine = static_cast<int>(seat_.engines()[i]);
            if (governs(index)) {
                act.to.kind = Target::Kind::quantity;
                act.to.dimension = Dimension::rotation;
                act.to.si = revs().first + to[i] * (revs().second - revs().first);
            } else
                act.share = to[i];
            acts.push_back(act);
        }
        seat_.putEach(acts);
        return;
    }
    if (c.positions.size() < 2)
        return;
    const int now = static_cast<int>(positionOf(index));
    const int to = std::clamp(now + towards, 0, static_cast<int>(c.positions.size()) - 1);
    if (to != now)
        putPosition(static_cast<std::size_t>(to));
}

/// Space, or the mouse on a switch: pressed and let go.
void HandsView::work(bool pressed) {
    const std::size_t index = seat_.control();
    const Control& c = control(index);
    if (!pressed) {
        if (auto& held = held_.at(seat_.pair())) {
            const std::size_t was = seat_.control();
            seat_.chooseControl(*held);
            putPosition(0);
            seat_.chooseControl(was);
            held.reset();
        }
        return;
    }
    if (c.acts == Acts::primer) {
        const auto& at = seat_.session().rehearsal().hands().at(index, seat_.engines().front());
        Act act;
        act.control = index;
        if (at.position == "locked") {
            putPosition(1); // unlocked first
            return;
        }
        act.to.kind = Target::Kind::quantity;
        act.to.dimension = Dimension::duration;
        act.to.si = std::max(0.5, seat_.notes().start.primeTime.si());
        act.strokes = 1.0;
        seat_.put(act);
        return;
    }
    if (c.positions.size() < 2)
        return;
    if (c.kind == ControlKind::push) {
        held_.at(seat_.pair()) = index;
        putPosition(1);
        return;
    }
    putPosition((positionOf(index) + 1) % c.positions.size());
}

void HandsView::typed() {
    seat_.take(0);
    const std::size_t index = seat_.control();
    const Control& c = control(index);
    const TypeNotes& n = seat_.notes();
    const std::string text = figure_->text().trimmed().toStdString();
    Act act;
    act.control = index;
    QString wrong;
    const auto take = [&](Gauge gauge) {
        std::string_view rest;
        const auto number = readNumber(text, rest);
        if (!number) {
            wrong = q(number.error());
            return;
        }
        const UnitSpec& unit = n.unitOf(gauge);
        act.to.kind = Target::Kind::quantity;
        act.to.dimension = nameOf(gauge).dimension;
        act.to.si = number.value() * unit.scale + unit.offset;
    };
    if (text.ends_with('%') || (rehearse::travels(c) && c.acts != Acts::throttle)) {
        std::string_view rest;
        const auto number = readNumber(text, rest);
        if (!number || number.value() < 0 || number.value() > 100)
            wrong = tr("A share of its travel is 0 to 100 %.");
        else
            act.share = number.value() / 100.0;
    } else if (c.acts == Acts::throttle) {
        take(n.gauges.contains(Gauge::boost) && !text.ends_with("rpm") ? Gauge::boost : Gauge::rpm);
    } else {
        take(Gauge::rpm);
    }
    if (wrong.isEmpty() && act.to.kind == Target::Kind::quantity) {
        const Gauge gauge = act.to.dimension == Dimension::rotation ? Gauge::rpm : Gauge::boost;
        const double most = gauge == Gauge::rpm ? 2.0 * revs().second : 400e3;
        if (act.to.si <= 0 || act.to.si > most)
            wrong = tr("No engine here goes to %1.").arg(q(format(act.to.si, n.unitOf(gauge))));
    }
    if (!wrong.isEmpty()) {
        emit seat_.refused(wrong);
        figure_->selectAll();
        return;
    }
    figure_->clear();
    seat_.put(act);
    setFocus(Qt::OtherFocusReason);
}

void HandsView::keyPressEvent(QKeyEvent* event) {
    if (!seat_.isTaken() || event->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier)) {
        QWidget::keyPressEvent(event);
        return;
    }
    const bool fine = event->modifiers() & Qt::ShiftModifier;
    const TypeNotes& n = seat_.notes();
    const int key = event->key();
    if (seat_.areTwo() && shared(*event))
        return;
    seat_.take(0);
    if (key >= Qt::Key_A && key <= Qt::Key_Z) {
        // The next control of this letter after the chosen one.
        const auto count = n.controls.size();
        for (std::size_t i = 1; i <= count; ++i) {
            const std::size_t candidate = (seat_.control() + i) % count;
            if (letters_[candidate] == QChar(key)) {
                seat_.chooseControl(candidate);
                break;
            }
        }
        return;
    }
    if (key >= Qt::Key_0 && key <= Qt::Key_9) {
        const auto number = static_cast<std::size_t>(key - Qt::Key_0);
        std::vector<std::size_t> engines;
        if (number == 0) {
            engines.resize(n.engineCount());
            std::iota(engines.begin(), engines.end(), std::size_t{0});
        } else if (number <= n.engineCount()) {
            engines.push_back(number - 1);
        }
        seat_.chooseEngines(std::move(engines));
        return;
    }
    switch (key) {
    case Qt::Key_Up:
    case Qt::Key_Down:
        move(key == Qt::Key_Up ? 1 : -1, fine ? Step::fine : Step::usual);
        return;
    case Qt::Key_PageUp:
    case Qt::Key_PageDown:
        move(key == Qt::Key_PageUp ? 1 : -1, Step::coarse);
        return;
    case Qt::Key_Left:
    case Qt::Key_Right:
        step(key == Qt::Key_Right ? 1 : -1);
        return;
    case Qt::Key_Space:
        if (!event->isAutoRepeat())
            work(true);
        return;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        seat_.putAsPlanned();
        return;
    case Qt::Key_Home:
        if (!seat_.chooseAsked())
            emit seat_.refused(seat_.session().guide().challenges() ? tr("Where it is, is yours to find.")
                                                                    : tr("Nothing is asked for just now."));
        return;
    case Qt::Key_Equal:
        if (!figure_->isHidden()) {
            figure_->setFocus(Qt::ShortcutFocusReason);
            figure_->selectAll();
        }
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

void HandsView::step(int by) {
    const std::size_t count = cells_.size();
    for (std::size_t i = 0; i < count; ++i)
        if (cells_[i].control == seat_.control()) {
            for (std::size_t k = 1; k <= count; ++k) {
                const std::size_t to = cells_[(i + (by > 0 ? k : count - k)) % count].control;
                if (seat_.pairOf(to) == seat_.pair()) {
                    seat_.chooseControl(to);
                    return;
                }
            }
            return;
        }
}

/// W A S D, Q, E and R are the second one's; other letters are nobody's then.
bool HandsView::shared(QKeyEvent& event) {
    const int key = event.key();
    if (key < Qt::Key_A || key > Qt::Key_Z)
        return false;
    seat_.take(1);
    const TypeNotes& n = seat_.notes();
    switch (key) {
    case Qt::Key_W:
    case Qt::Key_S:
        move(key == Qt::Key_W ? 1 : -1, event.modifiers() & Qt::ShiftModifier ? Step::fine : Step::usual);
        break;
    case Qt::Key_A:
    case Qt::Key_D:
        step(key == Qt::Key_D ? 1 : -1);
        break;
    case Qt::Key_Q: {
        // All, then one after the other.
        const auto& now = seat_.engines();
        const std::size_t next = now.size() > 1 || n.engineCount() < 2 ? 0 : now.front() + 1;
        std::vector<std::size_t> engines(1, next);
        if (next >= n.engineCount()) {
            engines.resize(n.engineCount());
            std::iota(engines.begin(), engines.end(), std::size_t{0});
        }
        seat_.chooseEngines(std::move(engines));
        break;
    }
    case Qt::Key_E:
        if (!event.isAutoRepeat())
            work(true);
        break;
    case Qt::Key_R:
        if (!event.isAutoRepeat())
            seat_.putAsPlanned();
        break;
    default:
        break;
    }
    return true;
}

void HandsView::letGo() {
    for (const std::size_t pair : {1, 0}) {
        seat_.take(pair);
        if (seat_.pair() == pair)
            work(false);
    }
}

bool HandsView::eventFilter(QObject* watched, QEvent* event) {
    // What a field does not want goes on to what it stands in: there Enter and the arrows move the control.
    if (watched == figure_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter)
            typed();
        if (key == Qt::Key_Return || key == Qt::Key_Enter || key == Qt::Key_Up || key == Qt::Key_Down)
            return true;
    }
    return QWidget::eventFilter(watched, event);
}

void HandsView::keyReleaseEvent(QKeyEvent* event) {
    const bool second = seat_.isTaken() && seat_.areTwo() && event->key() == Qt::Key_E;
    if (seat_.isTaken() && (second || event->key() == Qt::Key_Space) && !event->isAutoRepeat()) {
        seat_.take(second ? 1 : 0);
        work(false);
    } else
        QWidget::keyReleaseEvent(event);
}

void HandsView::focusOutEvent(QFocusEvent* event) {
    if (seat_.isTaken())
        letGo(); // a hand that is taken away holds nothing
    QWidget::focusOutEvent(event);
    update();
}

const HandsView::Cell* HandsView::cellAt(QPointF place) const {
    for (const auto& cell : cells_)
        if (cell.box.contains(place))
            return &cell;
    return nullptr;
}

void HandsView::mousePressEvent(QMouseEvent* event) {
    const Cell* cell = seat_.isTaken() && event->button() == Qt::LeftButton ? cellAt(event->position()) : nullptr;
    if (!cell)
        return;
    setFocus(Qt::MouseFocusReason);
    seat_.take(seat_.pairOf(cell->control));
    const bool was = cell->control == seat_.control();
    seat_.chooseControl(cell->control);
    if (cell->slot) {
        // A knob of its own is one engine; between them, all that the hand is on.
        if (event->modifiers() & Qt::ShiftModifier)
            for (std::size_t e = 0; e < seat_.notes().engineCount(); ++e)
                if (std::abs(knobOf(cell->control, e).center().x() - event->position().x()) < knobWidth / 2)
                    seat_.chooseEngines({e});
        dragging_ = true;
        mouseMoveEvent(event);
    } else if (was || event->position().x() > cell->box.center().x()) {
        work(true); // its figure, or the line that is chosen already
    }
}

void HandsView::mouseMoveEvent(QMouseEvent* event) {
    if (!dragging_ || !seat_.isTaken())
        return;
    for (const auto& cell : cells_)
        if (cell.control == seat_.control() && cell.slot) {
            const QRectF travel = travelOf(cell);
            if (event->position().y() < travel.top() - endHeight || event->position().y() > travel.bottom() + endHeight)
                return;
            const double up = std::clamp((travel.bottom() - event->position().y()) / travel.height(), 0.0, 1.0);
            const double share = moreIsUp(cell.control) ? up : 1.0 - up;
            if (std::abs(share - shareOf(cell.control, seat_.engines().front()).value_or(-1.0)) > 0.004)
                moveTo(share);
        }
}

void HandsView::mouseReleaseEvent(QMouseEvent*) {
    dragging_ = false;
    if (seat_.isTaken())
        work(false); // of the one whose control it was
}

void HandsView::wheelEvent(QWheelEvent* event) {
    const Cell* cell = seat_.isTaken() ? cellAt(event->position()) : nullptr;
    if (!cell || event->angleDelta().y() == 0)
        return;
    seat_.take(seat_.pairOf(cell->control));
    seat_.chooseControl(cell->control);
    move(event->angleDelta().y() > 0 ? 1 : -1, event->modifiers() & Qt::ShiftModifier ? Step::fine : Step::usual);
    event->accept();
}

bool HandsView::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip && seat_.isTaken()) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (const Cell* cell = cellAt(help->pos())) {
            const Control& c = control(cell->control);
            QStringList lines{tr("%1   %2").arg(q(c.name), markOf(cell->control))};
            if (!c.sense.empty())
                lines << q(c.sense);
            if (!c.panel.empty())
                lines << q(c.panel);
            QToolTip::showText(help->globalPos(), lines.join(QLatin1Char('\n')), this);
        } else
            QToolTip::hideText();
        return true;
    }
    return QWidget::event(event);
}

} // namespace amber::app
