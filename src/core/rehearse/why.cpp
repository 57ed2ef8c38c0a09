// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/why.h"
#include "cockpit/controls.h"
#include "notes/cockpit_units.h"
#include "start/priming.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::rehearse {
namespace {
using watch::Aim;
constexpr double iceMatters = 0.10;    // of the passage
constexpr double iceLeads = 0.30;      // more than a hand lets form that uses its heat
constexpr double lessPower = 0.95;     // of the planned figure
constexpr double settles = 15.0;       // s in which levers of a new phase come to it
constexpr double beforeCooling = 90.0; // s in which its cause lies

std::string at(double seconds) {
    return formatMinutesSeconds(seconds);
}
std::string doses(double count, const std::string& unit) {
    const double whole = std::round(count);
    return fmt::format("{:.0f} {}", whole,
                       whole == 1.0 && unit.ends_with('s') ? unit.substr(0, unit.size() - 1) : unit);
}

class Follows {
public:
    Follows(const Rehearsal& r, const watch::AimResult& result)
        : r_(r), n_(r.powerplant().aircraft().notes), plan_(r.plan()) {
        out_.result = result;
        out_.engine = result.engine < 0 ? 0 : static_cast<std::size_t>(result.engine);
    }
    Unmet all() {
        switch (out_.result.aim) {
        case Aim::starts:
            starts();
            break;
        case Aim::oilPressure:
            if (!fault(out_.engine, out_.result.at, powerplant::takesOil | powerplant::takesEngine))
                root(Root::stopped, out_.result.at, "it was not stopped when the seconds were over");
            break;
        case Aim::runUpWarm:
        case Aim::takeOffWarm:
            root(Root::cold, out_.result.at, "the needles were not waited for");
            break;
        case Aim::runsOn:
            stopped(out_.engine);
            break;
        case Aim::coolsSlowly:
            cools();
            break;
        case Aim::lands:
            root(Root::path, began(Phase::landing), "the landing was begun there");
            break;
        case Aim::cooledFirst:
            root(Root::cold, out_.result.at, "it was not idled until it was cool");
            break;
        case Aim::stopped:
            if (!fault(out_.engine, out_.result.at, powerplant::takesStop))
                root(Root::switches, out_.result.at, "the stop was not gone through");
            break;
        default:
            power();
            break;
        }
        const double when = out_.begun.value_or(out_.result.at);
        out_.phase = r_.setup().from;
        for (const auto& a : r_.acts())
            if (a.kind == Act::Kind::phase && static_cast<double>(a.at) / 1000.0 <= when)
                out_.phase = a.phase;
        return std::move(out_);
    }

private:
    void because(std::string link) { out_.because.push_back(std::move(link)); }
    void root(Root root, std::optional<double> begun, std::string link) {
        out_.root = root;
        out_.begun = begun;
        because(std::move(link));
    }
    [[nodiscard]] std::string whose(std::size_t e) const {
        return n_.engineCount() < 2 ? std::string("the engine") : n_.positions[e].name;
    }
    [[nodiscard]] std::optional<double> began(Phase phase) const {
        for (const auto& a : r_.acts())
            if (a.kind == Act::Kind::phase && a.phase == phase)
                return static_cast<double>(a.at) / 1000.0;
        return std::nullopt;
    }
    /// The set-up's fault of that engine, where it can have taken that away.
    bool fault(std::size_t e, double before, unsigned taken) {
        for (const auto& came : r_.came())
            if (came.engine == e && static_cast<double>(came.at) / 1000.0 <= before &&
                (nameOf(came.fault).takes & taken) != 0) {
                std::string name(nameOf(came.fault).title);
                root(
                    Root::fault, static_cast<double>(came.at) / 1000.0,
                    fmt::format("{}, which came at {} by the set-up", name, at(static_cast<double>(came.at) / 1000.0)));
                return true;
            }
        return false;
    }
    void starts() {
        const std::size_t e = out_.engine;
        const EngineStory& s = r_.stories()[e];
        const bool ran = !std::isnan(s.firedAt);
        if (!(ran && s.by == StoppedBy::hand) &&
            fault(e, out_.result.at, ran ? powerplant::takesEngine : powerplant::takesStart))
            return;
        if (ran) {
            because(fmt::format("it had fired at {}", at(s.firedAt)));
            if (!std::isnan(s.stoppedAt))
                root(s.by == StoppedBy::dryTank ? Root::tank : Root::switches, s.stoppedAt,
                     fmt::format("{}, at {}", wordsOf(s.by), at(s.stoppedAt)));
            return;
        }
        if (s.kicks > 0)
            return root(Root::spark, s.kickedBackAt,
                        fmt::format("it kicked back {}; its spark was advanced",
                                    s.kicks == 1 ? "once" : fmt::format("{} times", s.kicks)));
        if (!std::isnan(s.lockedAt))
            return root(Root::lock, s.lockedAt, "it was turned against a lock");
        if (s.tries == 0)
            return root(Root::noTry, std::nullopt,
                        s.doses > 0 ? fmt::format("{} were given, and nobody turned it", doses(s.doses, s.unit))
                                    : "it was neither primed nor turned");
        if (!s.hadIgnition)
            return root(Root::switches, s.triedAt,
                        fmt::format("it was turned for {:.0f} s with its ignition off", s.turned));
        const double low = start::leanestFiring, high = start::richestFiring;
        const std::string range = s.unit.empty() ? std::string{}
                                                 : fmt::format("{:.0f} to {:.0f} fire", std::ceil(s.fireLow),
                                                               std::floor(std::max(s.fireLow, s.fireHigh)));
        if (s.lean > 0.5 * s.turned || (!std::isnan(s.richest) && s.richest < low * 1.1)) {
            because(fmt::format("vapour {:.3f} where {:.3f} fires", std::min(s.leanest, s.meanVapour()), low));
            if (s.doses < s.fireLow || s.unit.empty())
                return root(Root::dose, std::isnan(s.dosesAt) ? s.triedAt : s.dosesAt,
                            s.unit.empty() ? "it was not primed"
                                           : fmt::format("{} where {}", doses(s.doses, s.unit), range));
            return root(Root::tooShort, s.triedAt,
                        fmt::format("{} given, and turned {:.0f} s after them: not yet vapour, or drained",
                                    doses(s.doses, s.unit), std::max(0.0, s.triedAt - s.dosesAt)));
        }
        if (s.rich > 0.3 * s.turned) {
            because(fmt::format("flooded: vapour {:.2f} where {:.2f} to {:.2f} fires", s.meanVapour(), low, high));
            if (s.doses > s.fireHigh && !s.unit.empty())
                return root(Root::dose, s.dosesAt, fmt::format("{} where {}", doses(s.doses, s.unit), range));
            return root(Root::switches, std::isnan(s.pooledAt) ? s.triedAt : s.pooledAt,
                        "fuel ran through its open mixture while it stood");
        }
        if (!s.hadCoil)
            return root(Root::switches, s.triedAt, "too slow for its magnetos, and the booster coil was not on");
        root(Root::tooShort, s.triedAt,
             fmt::format("it was turned for {:.0f} s in {}; it takes some {:.0f} s to fire", s.turned,
                         s.tries == 1 ? "one try" : fmt::format("{} tries", s.tries),
                         n_.start.starter.firesAfter.si()));
    }
    void stopped(std::size_t e) {
        const EngineStory& s = r_.stories()[e];
        // A tank that a hand let run dry, and ice that it let form, are no fault of another kind.
        const auto came = [&](powerplant::Fault f) {
            return std::any_of(r_.came().begin(), r_.came().end(),
                               [&](const auto& c) { return c.engine == e && c.fault == f; });
        };
        using powerplant::Fault;
        const bool byHand = (s.by == StoppedBy::dryTank && !came(Fault::tankDry) && !came(Fault::fuelLeak)) ||
                            (s.by == StoppedBy::ice && !came(Fault::carburettorIce));
        if (!byHand && fault(e, std::isnan(s.stoppedAt) ? out_.result.at : s.stoppedAt, powerplant::takesEngine))
            return;
        out_.engine = e;
        if (s.by == StoppedBy::ice)
            return ice(e);
        const double when = std::isnan(s.stoppedAt) ? out_.result.at : s.stoppedAt;
        std::string words = wordsOf(s.by);
        if (s.by == StoppedBy::dryTank && s.tank >= 0)
            words = fmt::format("{} had run dry", n_.fuel.tanks[static_cast<std::size_t>(s.tank)].name);
        // A hand that stops an engine while another has failed has taken the wrong one.
        if (s.by == StoppedBy::hand)
            for (const auto& other : r_.came())
                if (other.engine != e && static_cast<double>(other.at) / 1000.0 <= when &&
                    !r_.state().engines[other.engine].firing) { // a needle that lies there is no failed engine
                    because(fmt::format("{}, at {}", words, at(when)));
                    return root(Root::stopped, when,
                                fmt::format("the wrong engine: {} had failed, at {}", whose(other.engine),
                                            at(static_cast<double>(other.at) / 1000.0)));
                }
        root(s.by == StoppedBy::dryTank  ? Root::tank
             : s.by == StoppedBy::broken ? Root::unknown
                                         : Root::stopped,
             when, fmt::format("{}, at {}", words, at(when)));
    }
    void ice(std::size_t e) {
        const EngineStory& s = r_.stories()[e];
        out_.engine = e;
        because(fmt::format("ice took {:.0f} % of the air of {}, from {}", 100.0 * s.ice, whose(e), at(s.iceFrom)));
        std::string last = s.heated ? "heat came late, or too little" : "heat was never used";
        if (!cockpit::acting(n_.controls, Acts::carburettorAir))
            last = "this aircraft has no heat: such air is not flown in";
        for (const auto& f : plan_.findings)
            if (f.rule == watch::Rule::carburettorIce) {
                last += fmt::format("; the plan had warned of it from {}", at(f.begin));
                break;
            }
        root(Root::ice, s.iceFrom, last);
    }
    /// Power that was wanting on the way to where it shows.
    void power() {
        const double when = out_.result.at;
        const auto& stories = r_.stories();
        for (std::size_t e = 0; e < stories.size(); ++e) {
            const auto& s = stories[e];
            if (std::isnan(s.firedAt)) {
                because(fmt::format("{} never ran", whose(e)));
                out_.engine = e;
                starts();
                return;
            }
        }
        std::size_t iced = 0;
        for (std::size_t e = 0; e < stories.size(); ++e)
            if (stories[e].ice > stories[iced].ice)
                iced = e;
        for (std::size_t e = 0; e < stories.size(); ++e)
            if (!r_.state().engines[e].firing && stories[e].stoppedAt <= when) {
                because(fmt::format("{} had stopped", whose(e)));
                stopped(e);
                return;
            }
        const bool byIce = stories[iced].ice > iceMatters && stories[iced].iceFrom <= when;
        if (byIce && stories[iced].ice > iceLeads)
            return ice(iced);
        for (std::size_t e = 0; e < stories.size(); ++e)
            if (fault(e, when, powerplant::takesPower | powerplant::takesEngine))
                return;
        // The first moment from which less was set than was planned, up to where it shows.
        const auto& trace = r_.trace();
        for (std::size_t e = 0; e < n_.engineCount(); ++e) {
            std::optional<double> since;
            double read = 0.0;
            const char* of = "";
            Gauge gauge = Gauge::boost;
            double planned = 0.0;
            Phase phase = Phase::walkRound;
            double began = 0.0;
            for (const auto& k : trace) {
                const double t = static_cast<double>(k.at) / 1000.0;
                if (t > when)
                    break;
                if (k.phase != phase) {
                    phase = k.phase;
                    began = t;
                }
                if (k.phase < Phase::takeOff || k.phase > Phase::cruise || t - began < settles)
                    continue;
                // As the plan stands at that moment of the phase: over full-throttle height less comes.
                const auto& flown = plan_[k.phase];
                const auto as = flight::sampleAt(plan_.samples, flown.start + std::min(t - began, flown.duration));
                const double boost = k.engines[e][Gauge::boost], rpm = k.engines[e][Gauge::rpm];
                const double wantsBoost = as[Gauge::boost], wantsRpm = as[Gauge::rpm];
                const bool lowBoost = n_.gauges.contains(Gauge::boost) && boost < lessPower * wantsBoost;
                const bool lowRpm = wantsRpm > 0 && rpm < lessPower * wantsRpm;
                if (!lowBoost && !lowRpm) {
                    since.reset();
                    continue;
                }
                if (!since)
                    since = t;
                gauge = lowRpm && !lowBoost ? Gauge::rpm : Gauge::boost;
                read = gauge == Gauge::rpm ? rpm : boost;
                planned = gauge == Gauge::rpm ? wantsRpm : wantsBoost;
                of = gauge == Gauge::rpm ? "turned" : "gave";
            }
            if (since) {
                out_.engine = e;
                return root(Root::power, since,
                            fmt::format("{} {} {} where {} was planned, from {}", whose(e), of,
                                        format(read, n_.unitOf(gauge)), format(planned, n_.unitOf(gauge)), at(*since)));
            }
        }
        if (byIce)
            return ice(iced);
        if (out_.result.aim == Aim::height || out_.result.aim == Aim::leavesGround)
            root(Root::path, when, "the next phase was begun there");
        else if (out_.result.aim == Aim::clearOfGround)
            root(Root::path, began(r_.phase()), fmt::format("the {} was begun there", titleOf(r_.phase())));
    }
    void cools() {
        const double when = out_.result.at;
        const Act* shut = nullptr;
        const Act* flaps = nullptr;
        for (const auto& a : r_.acts()) {
            const double t = static_cast<double>(a.at) / 1000.0;
            if (a.kind != Act::Kind::control || t > when + 60.0 || t < when - beforeCooling ||
                (a.engine >= 0 && static_cast<std::size_t>(a.engine) != out_.engine))
                continue;
            const Acts acts = n_.controls[a.control].acts;
            if (acts == Acts::throttle)
                shut = &a;
            if (acts == Acts::coolingFlap)
                flaps = &a;
        }
        if (shut)
            root(Root::cooling, static_cast<double>(shut->at) / 1000.0,
                 fmt::format("{} at {}", said(*shut, n_), at(static_cast<double>(shut->at) / 1000.0)));
        if (flaps)
            root(Root::cooling, static_cast<double>((shut ? shut : flaps)->at) / 1000.0,
                 fmt::format("{} at {}", said(*flaps, n_), at(static_cast<double>(flaps->at) / 1000.0)));
        if (!shut && !flaps)
            fault(out_.engine, when, powerplant::takesHeat | powerplant::takesEngine);
    }
    const Rehearsal& r_;
    const TypeNotes& n_;
    const flight::Flown& plan_;
    Unmet out_;
};
} // namespace

std::string Unmet::sentence() const {
    std::string out = result.verdict.sentence();
    if (out.ends_with('.'))
        out.pop_back();
    for (const auto& link : because)
        out += " ← " + link;
    return out + ".";
}

std::vector<Unmet> unmet(const Rehearsal& r, bool ended) {
    std::vector<Unmet> out;
    for (const auto& result : r.aims(ended))
        if (result.status == watch::AimStatus::unmet)
            out.push_back(Follows(r, result).all());
    // What ends a flight leads; then by where the roots lie in time.
    const auto grave = [](const Unmet& u) {
        return u.result.aim == Aim::clearOfGround ? 0
               : u.result.aim == Aim::starts || u.result.aim == Aim::runsOn || u.result.aim == Aim::flyingSpeed ||
                       u.result.aim == Aim::leavesGround
                   ? 1
                   : 2;
    };
    std::stable_sort(out.begin(), out.end(), [&](const Unmet& a, const Unmet& b) {
        return std::pair(grave(a), a.begun.value_or(a.result.at)) < std::pair(grave(b), b.begun.value_or(b.result.at));
    });
    return out;
}

} // namespace amber::rehearse
