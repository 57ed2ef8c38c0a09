// SPDX-License-Identifier: GPL-3.0-or-later
#include "rehearse/rehearsal.h"
#include "flight/aim_figures.h"
#include "start/start_school.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>
#include <utility>

namespace amber::rehearse {
namespace {
using powerplant::shortStep;
}

Rehearsal::Rehearsal(const powerplant::Aircraft& aircraft, const Sortie& sortie, const flight::Flown& plan, Setup setup)
    : aircraft_(&aircraft), sortie_(&sortie), soaked_(flight::engineTemperatureOf(sortie)), plan_(&plan),
      setup_(std::move(setup)), plant_(std::make_shared<powerplant::Powerplant>(aircraft, sortie.fuelGrade)),
      live_(atFirst()) {
    begin_ = live_.state.now;
    live_.phaseBegan = 0;
    pulledByHand_ = start::startInForce(aircraft.notes, sortie.choices).primer == "blades";
    fuelAtFirst_ = std::accumulate(live_.state.tanks.begin(), live_.state.tanks.end(), 0.0);
    for (std::size_t i = 0; i < setup_.traps.size(); ++i)
        drawn_.push_back(drawn(setup_.traps[i], i, setup_.seed, plant_->count()));
    kept_.push_back(live_);
}

Rehearsal::Rehearsal(const Rehearsal& of, Milliseconds at)
    : aircraft_(of.aircraft_), sortie_(of.sortie_), soaked_(of.soaked_), plan_(of.plan_), setup_(of.setup_),
      plant_(of.plant_), drawn_(of.drawn_), begin_(of.begin_), fuelAtFirst_(of.fuelAtFirst_),
      pulledByHand_(of.pulledByHand_), live_(of.kept_.front()), acts_(of.acts_), waiting_(of.waiting_),
      timesBack_(of.timesBack_) {
    const auto after = std::upper_bound(of.kept_.begin(), of.kept_.end(), at,
                                        [&](Milliseconds t, const Live& l) { return t < l.state.now - begin_; });
    live_ = *std::prev(after);
    kept_.push_back(live_);
    trace_.assign(of.trace_.begin(),
                  std::find_if(of.trace_.begin(), of.trace_.end(), [&](const Kept& k) { return k.at > now(); }));
    waiting_.insert(waiting_.begin(), acts_.begin() + static_cast<std::ptrdiff_t>(live_.done), acts_.end());
    acts_.resize(live_.done);
    advance(at - now());
}

std::unique_ptr<Rehearsal> Rehearsal::branchAt(Milliseconds at) const {
    at = std::clamp(at / shortStep * shortStep, earliest(), now());
    return std::unique_ptr<Rehearsal>(new Rehearsal(*this, at));
}

Rehearsal::Live Rehearsal::atFirst() {
    const TypeNotes& n = aircraft_->notes;
    Live out{hand::Hands(*plant_, flight::oilThinning(n, *sortie_)),
             hand::FlightPath(*plant_, *sortie_, *plan_),
             hand::standingReady(*plant_, *sortie_),
             {},
             {},
             {},
             {},
             {},
             {},
             {},
             watch::Aims(n, flight::aimFigures(n, *sortie_, *plan_))};
    out.sprung.resize(setup_.traps.size());
    out.run.day = &sortie_->day;
    out.run.ice = setup_.ice;
    out.run.conditions.resize(plant_->count());
    for (const auto& position : n.positions)
        out.watches.emplace_back(n, position.id);
    out.spent.resize(plant_->count());
    out.stories.resize(plant_->count());
    out.ratings = watch::RatingLedger(n.ratings);
    out.phase = setup_.from;
    if (setup_.from > Phase::walkRound) {
        auto come = hand::comeTo(*plant_, *sortie_, *plan_, setup_.from);
        out.state = std::move(come.state);
        out.hands = std::move(come.hands);
    }
    out.path.begin(out.phase, out.hands.levers().path, out.state);
    auto still = out.state; // what the needles show before the first step
    out.readings = plant_->step(still, out.hands.levers(), out.run, shortStep);
    return out;
}

void Rehearsal::act(Act act) {
    if (live_.over)
        return;
    act.at = now();
    done(std::move(act));
}

void Rehearsal::done(Act act) {
    acts_.push_back(std::move(act));
    live_.done = acts_.size();
    perform(acts_.back());
    if (acted_)
        acted_();
}

void Rehearsal::script(std::vector<Act> acts) {
    waiting_ = std::move(acts);
    std::stable_sort(waiting_.begin(), waiting_.end(), [](const Act& a, const Act& b) { return a.at < b.at; });
    std::erase_if(waiting_, [&](const Act& a) { return a.at < now(); });
}

void Rehearsal::advance(Milliseconds by, const hand::Watcher& watcher) {
    const Milliseconds end = now() + by;
    while (now() < end && !live_.over) {
        while (!waiting_.empty() && waiting_.front().at <= now()) {
            Act next = std::move(waiting_.front());
            waiting_.erase(waiting_.begin());
            done(std::move(next));
        }
        if (live_.over)
            break;
        step(watcher);
    }
}

void Rehearsal::step(const hand::Watcher& watcher) {
    spring();
    auto& levers = live_.hands.levers();
    live_.hands.advance(live_.state.now);
    live_.path.follow(live_.phase, levers.path, live_.state);
    live_.readings = plant_->step(live_.state, levers, live_.run, shortStep);
    flight::keepAsSoaked(live_.phase, live_.state, soaked_);
    const hand::Ground ground = live_.path.meet(live_.phase, levers.path, live_.state);
    if (ground == hand::Ground::hit || ground == hand::Ground::offTheEnd)
        live_.over = Over{now(), ground == hand::Ground::hit ? OverBy::hitGround : OverBy::offTheEnd, live_.phase, 0};
    const hand::Moment moment{live_.phase, live_.state, live_.readings, levers};
    hand::look(live_.watches, seconds(), moment);
    for (std::size_t e = 0; e < plant_->count(); ++e) {
        tell(live_.stories[e], *plant_, *sortie_, moment, e, seconds());
        // Pulled through by hand with its ignition on it may fire: whoever is at the blades is struck.
        if (const auto& l = levers.engines[e];
            pulledByHand_ && l.primer > 0 && l.ignition != powerplant::Ignition::off && !live_.over)
            live_.over = Over{now(), OverBy::liveBlades, live_.phase, e};
    }
    live_.down = live_.down || ground == hand::Ground::touchesDown;
    if (now() % 1000 == 0 || live_.over)
        aim();
    if (now() % 1000 == 0) {
        spendRating();
        for (std::size_t e = 0; e < plant_->count(); ++e)
            live_.spent[e].see(live_.state.engines[e], now());
        Kept kept{now(), live_.phase, {}};
        for (const auto& e : live_.readings.engines)
            kept.engines.push_back(e);
        trace_.push_back(std::move(kept));
    }
    if (now() % keptEvery == 0)
        keep();
    if (watcher)
        watcher(moment);
}

void Rehearsal::aim() {
    const auto& levers = live_.hands.levers();
    std::vector<watch::EngineSeen> engines;
    for (std::size_t e = 0; e < plant_->count(); ++e)
        engines.push_back({live_.state.engines[e].firing, levers.engines[e].ignition != powerplant::Ignition::off,
                           levers.engines[e].mesh, &live_.readings.engines[e]});
    watch::AimMoment m;
    m.time = seconds();
    m.phase = live_.phase;
    m.airborne = hand::FlightPath::isAirborne(levers.path);
    m.touchedDown = live_.down;
    m.hit = live_.over && live_.over->by == OverBy::hitGround;
    m.offTheEnd = live_.over && live_.over->by == OverBy::offTheEnd;
    m.height = live_.state.height;
    m.ias = live_.state.ias;
    m.rate = live_.state.rate;
    m.distance = live_.state.distance;
    if (const auto stall = live_.path.stall(live_.phase, live_.state))
        m.stall = *stall;
    m.engines = engines;
    live_.aims.see(m);
}

std::vector<Spent> Rehearsal::spent() const {
    std::vector<Spent> out;
    for (std::size_t e = 0; e < live_.spent.size(); ++e)
        for (const auto& one : live_.spent[e].all(e))
            out.push_back(one);
    return out;
}

void Rehearsal::keep() {
    kept_.push_back(live_);
    if (kept_.size() <= keptFinely)
        return;
    const auto old = kept_.end() - static_cast<std::ptrdiff_t>(keptFinely) - 1;
    if ((old->state.now - begin_) % keptLater != 0)
        kept_.erase(old);
}

void Rehearsal::spendRating() {
    if (live_.phase < Phase::takeOff || live_.phase > Phase::landing)
        return;
    // One second at the rating of the engine that works hardest.
    const Rating* hardest = nullptr;
    const auto minutes = [](const Rating& r) { return r.minutes ? r.minutes->si() : 1e9; };
    for (std::size_t e = 0; e < plant_->count(); ++e)
        if (const auto& engine = live_.state.engines[e]; engine.firing)
            if (const Rating* r = watch::ratingAt(aircraft_->notes.ratings, engine.n, engine.manifold);
                r && (!hardest || minutes(*r) < minutes(*hardest)))
                hardest = r;
    if (!hardest || !hardest->minutes)
        return;
    live_.ratings.add(hardest->key, Duration::si(1.0));
    const auto& clock = *live_.ratings.of(hardest->key);
    if (clock.left()->si() >= 0.0)
        return;
    auto [found, isNew] = live_.overRated.try_emplace(hardest->key);
    auto& finding = found->second;
    if (isNew)
        finding = {watch::Rule::ratingTime, live_.phase, "", seconds(), seconds(), 0.0, {}};
    finding.end = seconds();
    finding.worst = clock.used().si();
    finding.verdict = clock.verdict();
}

void Rehearsal::spring() {
    for (std::size_t i = 0; i < drawn_.size(); ++i) {
        const Trap& trap = setup_.traps[i];
        if (live_.sprung[i] || (trap.phase && *trap.phase != live_.phase))
            continue;
        if (now() < (trap.phase ? live_.phaseBegan : 0) + drawn_[i].after)
            continue;
        live_.sprung[i] = true;
        if (!drawn_[i].comes)
            continue;
        live_.run.conditions[drawn_[i].engine].faults.push_back({trap.fault, trap.severity, live_.state.now});
        live_.came.push_back({trap.fault, trap.severity, drawn_[i].engine, now(), live_.phase});
    }
}

void Rehearsal::begin(Phase phase) {
    live_.phase = phase;
    live_.phaseBegan = now();
    live_.path.begin(phase, live_.hands.levers().path, live_.state);
}

void Rehearsal::perform(const Act& act) {
    if (act.kind == Act::Kind::phase)
        begin(act.phase);
    if (act.kind != Act::Kind::control)
        return;
    const auto figure = figureOf(act);
    for (std::size_t e = 0; e < plant_->count(); ++e)
        if (act.engine < 0 || static_cast<std::size_t>(act.engine) == e)
            live_.hands.put(act.control, figure, e, act.over, live_.state);
    hand::FlightPath::touched(live_.phase, aircraft_->notes.controls[act.control].acts, figure.position,
                              live_.hands.levers().path);
}

std::string Rehearsal::stands(std::size_t control, std::size_t engine) const {
    const TypeNotes& n = aircraft_->notes;
    const Control& c = n.controls[control];
    const auto& at = live_.hands.at(control, engine);
    if (const auto* position = c.position(at.position))
        return position->name;
    if (at.share)
        return shareText(c, *at.share);
    if (c.acts == Acts::throttle) {
        using By = powerplant::Throttle::By;
        const auto& throttle = live_.hands.levers().engines[engine].throttle;
        return throttle.by == By::place
                   ? shareText(c, throttle.value)
                   : format(throttle.value, n.unitOf(throttle.by == By::boost ? Gauge::boost : Gauge::rpm));
    }
    if (at.si && c.acts == Acts::propeller)
        return format(*at.si, n.unitOf(Gauge::rpm));
    return at.position;
}

Milliseconds Rehearsal::back(Milliseconds to) {
    ++timesBack_;
    to = std::clamp(to / shortStep * shortStep, Milliseconds{0}, now());
    const auto after = std::upper_bound(kept_.begin(), kept_.end(), to,
                                        [&](Milliseconds t, const Live& l) { return t < l.state.now - begin_; });
    kept_.erase(after, kept_.end());
    live_ = kept_.back();
    std::erase_if(trace_, [&](const Kept& k) { return k.at > now(); });
    // What had been done since the state that was kept, and up to that moment, is done again.
    std::vector<Act> again(acts_.begin() + static_cast<std::ptrdiff_t>(live_.done), acts_.end());
    acts_.resize(live_.done);
    const auto off = std::stable_partition(again.begin(), again.end(), [&](const Act& a) { return a.at < to; });
    leftOff_.assign(off, again.end());
    again.erase(off, again.end());
    const auto toCome = std::exchange(waiting_, std::move(again));
    const auto acted = std::exchange(acted_, {});
    advance(to - now());
    acted_ = acted;
    waiting_ = toCome;
    return now();
}

void Rehearsal::backBefore(std::size_t index) {
    const Milliseconds at = acts_[index].at;
    const std::vector<Act> before(acts_.begin(), acts_.begin() + static_cast<std::ptrdiff_t>(index));
    const std::vector<Act> off(acts_.begin() + static_cast<std::ptrdiff_t>(index), acts_.end());
    back(at);
    const auto acted = std::exchange(acted_, {});
    for (std::size_t i = acts_.size(); i < before.size(); ++i)
        done(before[i]);
    acted_ = acted;
    leftOff_ = off;
}

bool Rehearsal::undo() {
    if (acts_.empty())
        return false;
    backBefore(acts_.size() - 1);
    return true;
}

std::vector<watch::Finding> Rehearsal::findings() const {
    std::vector<watch::Finding> out;
    for (const auto& w : live_.watches) {
        const auto found = w.findings();
        out.insert(out.end(), found.begin(), found.end());
    }
    for (const auto& [key, finding] : live_.overRated)
        out.push_back(finding);
    std::stable_sort(out.begin(), out.end(), [](const auto& a, const auto& b) { return a.begin < b.begin; });
    return out;
}

double Rehearsal::fuelBurnt() const {
    return fuelAtFirst_ - std::accumulate(live_.state.tanks.begin(), live_.state.tanks.end(), 0.0);
}

} // namespace amber::rehearse
