// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/aims.h"
#include "notes/cockpit_units.h"
#include "units/ascii.h"
#include "units/text.h"
#include "watch/judge.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double fallTime = 60.0;      // s
constexpr double standsFor = 10.0;     // s: a cut of the ignition, from which it catches again, is no stop
constexpr double openedUpShare = 0.75; // of the greatest rpm of any rating
constexpr double runsUpShare = 0.9;    // of the rpm of high power on the ground
constexpr double heightSlack = 0.03, heightLeast = 60.0;  // of the height; m
constexpr double lostHeight = 90.0;                       // m under where the climb ends
constexpr double slowShare = 0.85;                        // of the planned speed
constexpr double settling = 300.0;                        // s in which the cruise comes to its speed
constexpr double shortFor = 60.0;                         // s that height or speed may be short
constexpr double coolingWidth = 3.5;                      // K/min: what a hand that follows the plan leaves open
constexpr double coolWidth = 3.0;                         // K
constexpr double fieldShare = 0.25, fieldLeast = 8'000.0; // of the distance, m: winds and circuits
constexpr double slowly = 2.0;                            // m/s: she stands
constexpr double rolledAt = 8.0;                          // m/s
constexpr double safeAt = 30.0;                           // m over the field: she has left it

/// "It did not run": of a single engine no name stands before it.
std::string capital(std::string words) {
    if (!words.empty())
        words.front() = ascii::upper(words.front());
    return words;
}
bool known(double x) {
    return !std::isnan(x);
}
} // namespace

Aims::Aims(const TypeNotes& notes, AimFigures figures)
    : notes_(&notes), figures_(figures), headOrCoolant_(headOrCoolantGauge(notes)) {
    engines_.resize(notes.engineCount());
    for (const auto& rating : notes.ratings)
        opensUpAt_ = std::max(opensUpAt_, openedUpShare * rating.rpm.si());
    for (const AimRow& row : aimTable)
        for (int e = row.each ? 0 : -1; e < (row.each ? static_cast<int>(engines_.size()) : 0); ++e) {
            AimResult r;
            r.aim = row.aim;
            r.engine = e;
            all_.push_back(r);
        }
}

AimResult* Aims::of(Aim aim, int engine) {
    const auto found =
        std::find_if(all_.begin(), all_.end(), [&](const AimResult& r) { return r.aim == aim && r.engine == engine; });
    return found == all_.end() ? nullptr : &*found;
}

void Aims::decide(Aim aim, int engine, bool met, double at, const std::string& why) {
    AimResult* r = of(aim, engine);
    if (!r || r->status == AimStatus::unmet || (r->status == AimStatus::met && met))
        return;
    r->status = met ? AimStatus::met : AimStatus::unmet;
    r->at = at;
    r->verdict = met ? Verdict{} : broken(rowOf(aim).rule, capital(why));
}

void Aims::giveUp(Aim aim, double at) {
    if (AimResult* r = of(aim, -1); r && r->status == AimStatus::open) {
        r->status = AimStatus::givenUp;
        r->at = at;
    }
}

std::string Aims::whose(std::size_t e) const {
    return engines_.size() < 2 ? std::string{} : notes_->positions[e].name + ": ";
}

std::string Aims::cold(const Readings& needles, std::optional<Temperature> oil,
                       std::optional<Temperature> metal) const {
    std::string out;
    const auto one = [&](Gauge gauge, std::optional<Temperature> least) {
        if (!least || !needles.has(gauge) || std::isnan(needles[gauge]))
            return;
        const double read = asRead(*notes_, gauge, needles[gauge]);
        if (read < asRead(*notes_, gauge, least->si()))
            out += fmt::format("{}{} {} for {}", out.empty() ? "" : ", ", nameOf(gauge).title,
                               format(read, notes_->unitOf(gauge)), format(least->si(), notes_->unitOf(gauge)));
    };
    one(Gauge::oilTemperature, oil);
    one(headOrCoolant_, metal);
    return out;
}

void Aims::seeEngine(std::size_t e, const AimMoment& now, const EngineSeen& seen) {
    Of& of = engines_[e];
    const int index = static_cast<int>(e);
    const auto needle = [&](Gauge gauge) {
        return seen.needles && seen.needles->has(gauge) ? (*seen.needles)[gauge] : AimMoment::unknown;
    };
    of.tried = of.tried || seen.turned;
    if (seen.running && !known(of.ranAt))
        of.ranAt = now.time;
    if (seen.running && !of.running) {
        of.oilFrom = now.time;
        of.oilCame = false;
    }
    if (seen.running)
        of.stands = AimMoment::unknown;
    else if (!known(of.stands))
        of.stands = now.time;

    if (now.phase > Phase::start && now.phase < Phase::stop) {
        if (!known(of.ranAt))
            decide(Aim::starts, index, false, now.time,
                   fmt::format("{}it did not run when the start was over.", whose(e)));
        else
            decide(Aim::starts, index, true, of.ranAt, {});
        if (known(of.ranAt) && !seen.running && now.time - of.stands >= standsFor && !now.touchedDown)
            decide(Aim::runsOn, index, false, of.stands,
                   fmt::format("{}it stopped in the {}.", whose(e), titleOf(now.phase)));
    }
    if (now.phase == Phase::stop && known(of.ranAt))
        decide(Aim::runsOn, index, true, now.time, {});

    // Oil pressure within its seconds of running; an engine that is stopped before they are over was stopped rightly.
    if (seen.running && known(of.oilFrom) && !of.oilCame) {
        const auto gauge = notes_->gauges.find(Gauge::oilPressure);
        const double read = needle(Gauge::oilPressure);
        const auto least = gauge == notes_->gauges.end() ? std::nullopt : gauge->second.in(Phase::start).limitLow;
        if (known(read) && least) {
            const double within = notes_->start.oilPressureWithin.si();
            if (asRead(*notes_, Gauge::oilPressure, read) >= *least) {
                of.oilCame = true;
                decide(Aim::oilPressure, index, true, now.time, {});
            } else if (now.time - of.oilFrom > within + 1.0) {
                of.oilCame = true; // told once
                decide(Aim::oilPressure, index, false, of.oilFrom + within,
                       fmt::format("{}oil pressure {} after {:.0f} s, and it was run on; {} within {:.0f} s is wanted.",
                                   whose(e), format(read, notes_->unitOf(Gauge::oilPressure)), now.time - of.oilFrom,
                                   format(*least, notes_->unitOf(Gauge::oilPressure)), within));
            }
        }
    }
    const double rpm = needle(Gauge::rpm);
    if (seen.running && known(rpm) && seen.needles) {
        if (!of.opened && now.phase <= Phase::runUp && rpm >= runsUpShare * notes_->runUp.highPowerFrom.si()) {
            of.opened = true;
            const auto short_ = cold(*seen.needles, notes_->warmUp.oilRunUp, notes_->warmUp.headRunUp);
            decide(Aim::runUpWarm, index, short_.empty(), now.time,
                   fmt::format("{}opened up cold: {}.", whose(e), short_));
        }
        if (!of.openedForTakeOff && now.phase == Phase::takeOff && rpm >= opensUpAt_) {
            of.openedForTakeOff = true;
            const auto short_ = cold(*seen.needles, notes_->warmUp.oilTakeOff, notes_->warmUp.headTakeOff);
            decide(Aim::takeOffWarm, index, short_.empty(), now.time,
                   fmt::format("{}take-off power on a cold engine: {}.", whose(e), short_));
        }
    }
    // Heads or coolant in the last minute.
    const double head = needle(headOrCoolant_);
    if (!seen.running || !now.airborne || now.phase < Phase::cruise) {
        of.minute.clear();
    } else if (known(head)) {
        of.minute.emplace_back(now.time, head);
        while (of.minute.size() > 1 && of.minute.front().first < now.time - fallTime)
            of.minute.pop_front();
        const double fall = of.minute.front().second - head;
        const double most = figures_.coolingPerMinute[std::min(static_cast<std::size_t>(now.phase), plannedPhases - 1)];
        if (fall > most + coolingWidth && fall > of.worstFall) {
            of.worstFall = fall;
            UnitSpec difference = notes_->unitOf(headOrCoolant_);
            difference.offset = 0.0;
            const std::string words = fmt::format("{}shock-cooled: {} fell {} in a minute; {} may be.", whose(e),
                                                  headOrCoolant_ == Gauge::coolantTemperature ? "coolant" : "heads",
                                                  format(fall, difference), format(most, difference));
            if (AimResult* r = this->of(Aim::coolsSlowly, index); r && r->status == AimStatus::unmet)
                r->verdict = broken(rowOf(Aim::coolsSlowly).rule, capital(words)); // it went on
            else
                decide(Aim::coolsSlowly, index, false, of.minute.front().first, words);
        }
        if (now.phase == Phase::landing)
            decide(Aim::coolsSlowly, index, true, now.time, {});
    }
    if (now.phase == Phase::stop) {
        if (of.running && !seen.running && figures_.coolBelow && known(of.lastHead))
            decide(Aim::cooledFirst, index, of.lastHead <= *figures_.coolBelow + coolWidth, now.time,
                   fmt::format("{}stopped at {}; cooled to {} first is wanted.", whose(e),
                               format(of.lastHead, notes_->unitOf(headOrCoolant_)),
                               format(*figures_.coolBelow, notes_->unitOf(headOrCoolant_))));
        if (!seen.running && !seen.sparks)
            decide(Aim::stopped, index, true, now.time, {});
    }
    if (known(head))
        of.lastHead = head;
    of.running = seen.running;
    of.sparks = seen.sparks;
}

void Aims::seeAircraft(const AimMoment& now) {
    const auto height = [&](double si) { return format(si, *notes_->cockpit.height); };
    const auto speed = [&](double si) { return format(si, *notes_->cockpit.speed); };
    const bool newPhase = !seen_ || now.phase != last_.phase;
    const bool jumped = seen_ && newPhase;
    if (now.hit || now.offTheEnd)
        decide(Aim::clearOfGround, -1, false, now.time,
               now.hit ? fmt::format("The aircraft hit the ground in the {}.", titleOf(now.phase))
                       : "The aircraft ran off the end of the runway.");
    if (now.touchedDown) {
        decide(Aim::clearOfGround, -1, true, now.time, {});
        decide(Aim::flyingSpeed, -1, true, now.time, {});
    }
    if (now.airborne && known(now.ias) && known(now.stall) && now.phase < Phase::landing) {
        if (now.ias < now.stall)
            decide(Aim::flyingSpeed, -1, false, now.time,
                   fmt::format(
                       "The aircraft flew at {}; it stalls at about {} (an estimate from the notes' lift-off speed).",
                       speed(now.ias), speed(now.stall)));
    }
    if (now.phase == Phase::takeOff) {
        rolled_ = rolled_ || (known(now.ias) && now.ias > rolledAt);
        if (now.airborne && known(now.height))
            flew_ = true;
        if (rolled_ && !flew_ && known(now.ias) && now.ias < slowly && !now.hit && !now.offTheEnd)
            giveUp(Aim::leavesGround, now.time);
    }
    if (now.phase > Phase::takeOff && now.phase < Phase::stop && jumped && last_.phase == Phase::takeOff)
        decide(Aim::leavesGround, -1, now.airborne, now.time,
               "The take-off was left for the climb while it was still on the ground.");
    if (jumped && last_.phase == Phase::climb && now.phase == Phase::cruise && known(now.height)) {
        const double least = figures_.top - std::max(heightLeast, heightSlack * figures_.top);
        decide(Aim::height, -1, now.height >= least, now.time,
               fmt::format("The climb was left at {}; {} was planned.", height(now.height), height(figures_.top)));
    }
    if (newPhase) {
        phaseBegan_ = now.time;
        shortSince_ = slowSince_ = AimMoment::unknown;
    }
    if (now.phase == Phase::cruise && now.airborne) {
        const auto lasts = [&](double& since, bool isShort) {
            if (!isShort)
                since = AimMoment::unknown;
            else if (!known(since))
                since = now.time;
            return known(since) && now.time - since >= shortFor;
        };
        // What the climb has not reached is its own matter.
        const bool low = known(now.height) && known(now.rate) && now.height < figures_.top - lostHeight && now.rate < 0;
        if (lasts(shortSince_, low))
            decide(Aim::level, -1, false, shortSince_,
                   fmt::format("Height was lost in the cruise: {} where {} was planned.", height(now.height),
                               height(figures_.top)));
        const bool slow = known(now.ias) && figures_.cruiseIas > 0 && now.time - phaseBegan_ > settling &&
                          now.ias < slowShare * figures_.cruiseIas;
        if (lasts(slowSince_, slow))
            decide(Aim::level, -1, false, slowSince_,
                   fmt::format("Speed of the cruise {}; {} was planned.", speed(now.ias), speed(figures_.cruiseIas)));
    }
    if (jumped && last_.phase == Phase::cruise && now.phase > Phase::cruise)
        decide(Aim::level, -1, true, now.time, {});
    if (now.touchedDown && (now.phase == Phase::landing || now.phase == Phase::stop)) {
        const double off = known(now.distance) ? std::abs(now.distance - figures_.distance) : 0.0;
        const double room = std::max(fieldLeast, fieldShare * figures_.distance);
        decide(Aim::lands, -1, off <= room || figures_.distance <= 0, now.time,
               fmt::format("The aircraft came down {} {} the field.", format(off, *notes_->cockpit.distance),
                           now.distance < figures_.distance ? "short of" : "beyond"));
    }
}

void Aims::see(const AimMoment& now) {
    for (std::size_t e = 0; e < engines_.size() && e < now.engines.size(); ++e)
        seeEngine(e, now, now.engines[e]);
    seeAircraft(now);
    last_ = now;
    last_.engines = {};
    seen_ = true;
}

std::vector<AimResult> Aims::results(bool ended) const {
    Aims sure(*this);
    const double at = last_.time;
    if (ended && seen_) {
        for (std::size_t e = 0; e < engines_.size(); ++e) {
            const Of& of = engines_[e];
            const int index = static_cast<int>(e);
            if (last_.phase == Phase::start) {
                if (of.running)
                    sure.decide(Aim::starts, index, true, of.ranAt, {});
                else
                    sure.decide(Aim::starts, index, false, at,
                                fmt::format("{}it {} when the rehearsal ended.", whose(e),
                                            known(of.ranAt) ? "had stopped again"
                                            : of.tried      ? "had been tried and did not run"
                                                            : "had not been started"));
            }
            if (last_.phase > Phase::start && last_.phase < Phase::stop && known(of.ranAt) && of.running)
                sure.decide(Aim::runsOn, index, true, at, {});
            if (last_.phase == Phase::stop && at - phaseBegan_ > figures_.stopTakes && (of.running || of.sparks))
                sure.decide(Aim::stopped, index, false, at,
                            of.running ? fmt::format("{}it still ran when the stop was over.", whose(e))
                                       : fmt::format("{}its ignition was left on: the propeller is live.", whose(e)));
        }
        if (last_.phase >= Phase::takeOff && last_.airborne)
            sure.decide(Aim::leavesGround, -1, true, at, {});
        if (last_.phase > Phase::landing && !last_.airborne)
            sure.decide(Aim::clearOfGround, -1, true, at, {});
    }
    std::vector<AimResult> out = sure.all_;
    std::erase_if(out,
                  [&](const AimResult& r) { return r.status == AimStatus::open && rowOf(r.aim).owner > last_.phase; });
    std::stable_sort(out.begin(), out.end(),
                     [](const AimResult& a, const AimResult& b) { return rowOf(a.aim).before < rowOf(b.aim).before; });
    // What could not be met any more follows from what was not met before it.
    const auto firstUnmet = [&](auto&& is) {
        double first = std::numeric_limits<double>::infinity();
        for (const auto& r : out)
            if (r.status == AimStatus::unmet && is(r))
                first = std::min(first, r.at);
        return first;
    };
    const double ground = firstUnmet([](const AimResult& r) { return r.aim == Aim::clearOfGround; });
    for (auto& r : out) {
        if (r.status != AimStatus::unmet || r.aim == Aim::clearOfGround)
            continue;
        const bool ofPath = r.engine < 0;
        const double stopped = firstUnmet([&](const AimResult& o) {
            return (o.aim == Aim::starts || o.aim == Aim::runsOn) && (ofPath || o.engine == r.engine) && &o != &r;
        });
        if ((ofPath && ground < std::numeric_limits<double>::infinity()) || (!ofPath && r.at > ground) ||
            (r.aim != Aim::starts && r.at > stopped))
            r.status = AimStatus::follows;
    }
    return out;
}

} // namespace amber::watch
