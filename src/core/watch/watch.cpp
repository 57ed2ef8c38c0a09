// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/watch.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include "watch/judge.h"
#include "watch/maker.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double minute = 60.0;      // s
constexpr double stillTurning = 0.9; // of the notes' slowest rpm: under it an engine is about to stand
constexpr double openedUpAt =
    0.75; // of the greatest rpm of any rating: a propeller of fixed pitch stands at little more
constexpr double slowestUsual = 8.0; // rev/s
constexpr double slack = 0.15;       // s, of a hand or a recorder that looks ten times a second
constexpr double switching = 1.5;    // s between ignition and booster coil, where it is turned before them
/// The edge of the normal range that a value has passed.
std::optional<double> edgePassed(const Band& band, double value) {
    if (band.normalHigh && value > *band.normalHigh)
        return band.normalHigh;
    if (band.limitHigh && value > *band.limitHigh)
        return band.limitHigh;
    if (band.normalLow && value < *band.normalLow)
        return band.normalLow;
    return band.limitLow;
}
std::optional<double> limitPassed(const Band& band, double value) {
    return band.limitHigh && value > *band.limitHigh ? band.limitHigh : band.limitLow;
}
/// When a straight line from one reading to the next crossed an edge; the later time where it did not.
double crossing(std::pair<double, double> a, std::pair<double, double> b, std::optional<double> edge) {
    if (!edge || a.second == b.second || (a.second - *edge) * (b.second - *edge) > 0)
        return b.first;
    return a.first + (b.first - a.first) * (*edge - a.second) / (b.second - a.second);
}
/// How far out of the normal range, for the worst of several.
double beyond(const Band& band, double value) {
    const auto edge = edgePassed(band, value);
    return edge ? std::abs(value - *edge) : 0.0;
}
} // namespace

Watch::Watch(const TypeNotes& notes, std::string engine)
    : notes_(&notes), engine_(std::move(engine)), headOrCoolant_(headOrCoolantGauge(notes)) {
    for (const auto& [gauge, of] : notes.gauges) {
        const UnitSpec& unit = notes.unitOf(gauge);
        followed_.push_back({gauge, &of, unit.scale * std::pow(10.0, 1 - unit.decimals)});
    }
    for (const auto& rating : notes.ratings)
        opensUpAt_ = std::max(opensUpAt_, openedUpAt * rating.rpm.si());
}

Phase Watch::phaseOf(Gauge gauge, Phase phase) const {
    // Until it is opened up for the take-off these are still what the run-up leaves them at.
    const bool follows = gauge == Gauge::oilPressure || gauge == Gauge::rpm || gauge == Gauge::boost ||
                         gauge == Gauge::fuelPressure || gauge == Gauge::fuelFlow;
    return follows && phase == Phase::takeOff && !openedUp_ ? Phase::runUp : phase;
}

void Watch::see(double time, Phase phase, const Readings& now, bool running) {
    openedUp_ = phase > Phase::takeOff ||
                (phase == Phase::takeOff && (openedUp_ || !now.has(Gauge::rpm) || now[Gauge::rpm] >= opensUpAt_));
    if (!running) {
        stopped();
        for (auto& f : followed_) {
            f.seen = f.red = false;
            f.open = -1;
        }
        minute_.clear();
        fast_.reset();
        runsFrom_.reset();
        oilCame_ = false;
        return;
    }
    if (!runsFrom_)
        runsFrom_ = time;
    bool withOil = true;
    for (const auto& f : followed_)
        if (f.gauge == Gauge::oilPressure && now.has(f.gauge))
            withOil = !oilIsAwaited(f, time, phase, now[f.gauge]);
    const Waiting seen{time, phase, now, withOil};
    const bool onGround = phase < Phase::takeOff || phase >= Phase::landing;
    while (!waiting_.empty() && (!onGround || waiting_.front().time <= time - stopping)) {
        judge(waiting_.front());
        waiting_.pop_front();
    }
    if (!onGround || (waiting_.empty() && quiet(seen)))
        judge(seen);
    else
        waiting_.push_back(seen);
    if (now.has(headOrCoolant_))
        fall(time, phase, now[headOrCoolant_]);
    ground(time, phase, now);
}

bool Watch::farInside(const Followed& f, const Band& band, double value) {
    return (!band.normalLow || value > *band.normalLow + f.readingWidth) &&
           (!band.normalHigh || value < *band.normalHigh - f.readingWidth) &&
           (!band.limitLow || value > *band.limitLow + f.readingWidth) &&
           (!band.limitHigh || value < *band.limitHigh - f.readingWidth);
}

bool Watch::quiet(const Waiting& w) const {
    return std::all_of(followed_.begin(), followed_.end(), [&](const Followed& f) {
        return f.open < 0 && (!w.now.has(f.gauge) || farInside(f, f.notes->in(w.phase), w.now[f.gauge]));
    });
}

void Watch::judge(const Waiting& w) {
    for (auto& f : followed_)
        if (w.now.has(f.gauge) && (w.withOil || f.gauge != Gauge::oilPressure))
            follow(f, w.time, phaseOf(f.gauge, w.phase), w.now[f.gauge]);
}

void Watch::stopped() {
    // Where the notes name no slowest rpm, the slowest that they have it run at.
    double slowest = notes_->warmUp.leastRpm ? notes_->warmUp.leastRpm->si() : HUGE_VAL;
    for (const auto& [phase, of] : notes_->phases)
        if (!notes_->warmUp.leastRpm && of.rpm)
            slowest = std::min(slowest, of.rpm->si());
    if (!std::isfinite(slowest))
        slowest = slowestUsual;
    for (const auto& w : waiting_)
        for (auto& f : followed_)
            if (f.gauge == Gauge::oilPressure && w.withOil && w.now.has(f.gauge) &&
                !(w.now[Gauge::rpm] < slowest * stillTurning))
                follow(f, w.time, w.phase, w.now[f.gauge]);
    waiting_.clear();
}

bool Watch::oilIsAwaited(const Followed& f, double time, Phase phase, double pressure) {
    const auto& least = f.notes->in(phase).limitLow;
    oilCame_ = oilCame_ || !least || asRead(*notes_, f.gauge, pressure) >= *least;
    return !oilCame_ && time - *runsFrom_ <= notes_->start.oilPressureWithin.si();
}

Colour Watch::colourAt(double time, Phase phase, Gauge gauge, double value, bool running) const {
    const auto found = notes_->gauges.find(gauge);
    const bool awaitsOil = gauge == Gauge::oilPressure &&
                           (!runsFrom_ || (!oilCame_ && time - *runsFrom_ <= notes_->start.oilPressureWithin.si()));
    return !running || awaitsOil || found == notes_->gauges.end() || std::isnan(value)
               ? Colour::normal
               : colourOf(found->second.in(phaseOf(gauge, phase)), asRead(*notes_, gauge, value));
}

void Watch::ground(double time, Phase phase, const Readings& now) {
    // A reading holds until the next: levers move between two moments, not from one to the other.
    if (fast_)
        highPower_ += time - *fast_;
    const bool fast = phase < Phase::takeOff && now[Gauge::rpm] >= notes_->runUp.highPowerFrom.si();
    if (fast && highPower_ <= 0)
        highFrom_ = time;
    if (fast || fast_)
        highEnd_ = time;
    fast_ = fast ? std::optional(time) : std::nullopt;
}

void Watch::starter(double time, bool turns, bool live) {
    const StartNotes& start = notes_->start;
    if (turns && live && turnsFrom_ && deadFrom_ && time - *deadFrom_ <= start.crankMost.si()) {
        turnsFrom_ = time + switching;
        deadFrom_.reset();
    } else if (turns && !turnsFrom_) {
        turnsFrom_ = time;
        deadFrom_ = live ? std::nullopt : std::optional(time);
        if (turnedUntil_ && time - *turnedUntil_ < start.rest.si() - slack)
            duty_.push_back(
                {Rule::starterDuty, Phase::start, engine_, *turnedUntil_, time, time - *turnedUntil_,
                 broken(Rule::starterDuty, fmt::format("The starter turns again after {:.0f} s; its rest is "
                                                       "{:.0f} s.",
                                                       time - *turnedUntil_, start.rest.si()))});
    } else if (!turns && turnsFrom_) {
        if (time - *turnsFrom_ > start.crankMost.si() + slack)
            duty_.push_back({Rule::starterDuty, Phase::start, engine_, *turnsFrom_, time, time - *turnsFrom_,
                             broken(Rule::starterDuty, fmt::format("The starter cranked for {:.0f} s, limit {:.0f} s.",
                                                                   time - *turnsFrom_, start.crankMost.si()))});
        turnedUntil_ = time;
        turnsFrom_.reset();
    }
}

std::optional<Watch::StarterNow> Watch::starterNow(double time) const {
    const StartNotes& start = notes_->start;
    if (turnsFrom_) {
        const double turned = time - *turnsFrom_, most = start.crankMost.si();
        return StarterNow{true, turned, most,
                          unless(turned <= most + slack, Rule::starterDuty,
                                 fmt::format("The starter has cranked for {:.0f} s, limit {:.0f} s.", turned, most))};
    }
    if (turnedUntil_ && time - *turnedUntil_ < start.rest.si())
        return StarterNow{false, time - *turnedUntil_, start.rest.si(), {}};
    return std::nullopt;
}

void Watch::follow(Followed& f, double time, Phase phase, double value) {
    const Band& band = f.notes->in(phase);
    const std::pair now{time, value}, last = f.seen ? std::pair{f.time, f.value} : now;
    f.seen = true;
    f.time = time;
    f.value = value;
    // Far inside the normal range it need not be rounded to be judged.
    if (f.open < 0 && farInside(f, band, value))
        return;
    const double read = asRead(*notes_, f.gauge, value);
    const Colour colour = colourOf(band, read);
    if (f.open < 0) {
        if (colour == Colour::normal)
            return;
        f.open = static_cast<int>(stretches_.size());
        stretches_.push_back({f.gauge, phase, crossing(last, now, edgePassed(band, read)), time, read, colour});
        spend(stretches_.back(), band, phase, stretches_.back().begin, time);
        red(f, stretches_.back(), band, last, now, colour == Colour::red);
        return;
    }
    Stretch& open = stretches_[static_cast<std::size_t>(f.open)];
    red(f, open, band, last, now, colour == Colour::red);
    if (colour == Colour::normal) {
        open.end = crossing(last, now, edgePassed(band, last.second));
        spend(open, band, phase, last.first, open.end);
        f.open = -1;
        return;
    }
    open.end = time;
    spend(open, band, phase, last.first, time);
    if (colour > open.colour ||
        (colour == open.colour && beyond(band, read) > beyond(f.notes->in(open.phase), open.worst))) {
        open.worst = read;
        open.phase = phase;
    }
    open.colour = std::max(open.colour, colour);
}

void Watch::red(Followed& f, Stretch& s, const Band& band, std::pair<double, double> last,
                std::pair<double, double> now, bool past) {
    if (past) {
        const double from = f.red ? last.first : crossing(last, now, limitPassed(band, now.second));
        if (s.past <= 0.0 && s.redEnd <= 0.0)
            s.redBegin = from;
        s.past += now.first - from;
        s.redEnd = now.first;
    } else if (f.red) {
        s.redEnd = crossing(last, now, limitPassed(band, last.second));
        s.past += s.redEnd - last.first;
    }
    f.red = past;
}

void Watch::spend(Stretch& s, const Band& band, Phase phase, double from, double to) {
    if (!band.amberFor)
        return;
    s.timed += to - from;
    if (!s.allowed || band.amberFor->si() < *s.allowed) {
        s.allowed = band.amberFor->si();
        s.allowedIn = phase;
    }
}

void Watch::fall(double time, Phase phase, double value) {
    minute_.emplace_back(time, value);
    // Two moments may stand at one time; one at or before the minute's beginning is kept to read it from.
    while (minute_.size() > 2 && minute_[1].first <= time - minute)
        minute_.pop_front();
    const auto& a = minute_.front();
    double then = a.second;
    if (a.first < time - minute && minute_.size() > 1 && minute_[1].first > a.first)
        then += (minute_[1].second - a.second) * (time - minute - a.first) / (minute_[1].first - a.first);
    auto& most = falls_[static_cast<std::size_t>(phase)];
    most = std::max(most, then - value);
}

double Watch::greatestFall(Phase phase) const {
    return falls_[static_cast<std::size_t>(phase)];
}

bool Watch::overshoots(const Stretch& s) const {
    if (s.gauge != Gauge::rpm || s.phase != Phase::takeOff || s.past >= overshoot)
        return false;
    const auto& limit = notes_->gauges.at(Gauge::rpm).in(s.phase).limitHigh;
    return limit && s.worst > *limit && s.worst <= *limit * overshootBy;
}

std::vector<Finding> Watch::findings() const {
    if (!waiting_.empty()) { // as far as anybody knows it goes on running
        Watch sure(*this);
        for (const auto& w : waiting_)
            sure.judge(w);
        sure.waiting_.clear();
        return sure.findings();
    }
    std::vector<Finding> out;
    for (const auto& s : stretches_) {
        if (overshoots(s)) {
            // What it stood out of its normal range beside that is told as that.
            const double limit = *notes_->gauges.at(s.gauge).in(s.phase).limitHigh;
            if (s.end - s.begin - s.past >= overshoot)
                out.push_back({Rule::normalRange, s.phase, engine_, s.begin, s.end, limit,
                               watch::judge(*notes_, s.gauge, s.phase, limit), s.gauge, std::nullopt});
            continue;
        }
        const bool past = s.colour == Colour::red;
        out.push_back({past ? Rule::limit : Rule::normalRange, s.phase, engine_, past ? s.redBegin : s.begin,
                       past ? s.redEnd : s.end, s.worst, watch::judge(*notes_, s.gauge, s.phase, s.worst), s.gauge,
                       s.allowed ? std::optional(s.timed) : std::nullopt});
        if (s.allowed && s.timed > *s.allowed)
            out.push_back({Rule::amberTime, s.allowedIn, engine_, s.begin, s.end, s.timed,
                           broken(Rule::amberTime, fmt::format("{} is out of its normal range for {}; {} allowed.",
                                                               nameOf(s.gauge).title, formatMinutesSeconds(s.timed),
                                                               formatMinutesSeconds(*s.allowed)))});
    }
    if (const auto& most = notes_->runUp.highPowerMost; most && highPower_ > most->si())
        out.push_back({Rule::highPower, Phase::runUp, engine_, highFrom_, highEnd_, highPower_,
                       watch::highPower(highPower_, most->si(),
                                        fmt::format("{:.0f} s at high power on the ground, limit {:.0f} s.", highPower_,
                                                    most->si()))});
    out.insert(out.end(), duty_.begin(), duty_.end());
    return out;
}

} // namespace amber::watch
