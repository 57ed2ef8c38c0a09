// SPDX-License-Identifier: GPL-3.0-or-later
// The first act by its outcome: right-act ONE_IN SEED SORTIE.toml…: a fault comes in a phase of a careful hand's
// flight; what a crew could notice in some time (needles to their width, some signs missed) is put to the program; its
// act is done, and nothing else; the flight is held to its aims beside the same flight with nothing done. Worst class
// by name.
#include "bad_hands.h"
#include "noticing.h"
#include "symptoms/symptoms.h"
#include "trouble/context.h"
#include <cstdlib>
#include <map>
#include <set>

using namespace amber;
using namespace amber::test;
using rehearse::Act;
using rehearse::Milliseconds;

namespace {
constexpr double missed = 0.2; // of what shows
constexpr Milliseconds watchedFor = 240'000;
constexpr double oneAim = 2.5; // harm: more than the height or speed that an eased engine does not give

double widthOf(const TypeNotes& n, Gauge g) {
    const auto& unit = n.unitOf(g);
    const double printed = unit.scale * std::pow(10.0, -unit.decimals);
    switch (nameOf(g).dimension) {
    case Dimension::temperature:
        return std::max(4.0, printed);
    case Dimension::rotation:
        return std::max(25.0 / 60, printed);
    case Dimension::manifoldPressure:
        return std::max(1500.0, printed);
    case Dimension::pressure:
        return std::max(g == Gauge::fuelPressure ? 5e3 : g == Gauge::torque ? 4e4 : 1.5e4, printed);
    case Dimension::volume:
        return 2e-3;
    case Dimension::voltage:
        return 0.7;
    case Dimension::current:
        return 8.0;
    default:
        return 0.0;
    }
}

/// What one engine has shown of itself beside the same flight without a fault.
struct Noticing {
    std::map<Gauge, bench::NeedleSeen> needles;
    std::set<Felt> felt;
    double shake = 0.0, yaw = 0.0;

    void see(const TypeNotes& n, double since, const powerplant::EngineReadings& sick, const Readings& well,
             double yaws) {
        for (const auto& [g, notes] : n.gauges) {
            const bool flow = g == Gauge::fuelFlow;
            const double w = flow ? 0.06 * well[g] : widthOf(n, g);
            if (w <= 0 || !sick.has(g) || !well.has(g) || isOfAircraft(g) || std::isnan(sick[g]) || std::isnan(well[g]))
                continue;
            needles[g].see(since, sick[g] - well[g], w);
        }
        const powerplant::Signs& s = sick.signs;
        shake = std::max(shake, s.shake);
        yaw = std::max(yaw, std::abs(yaws));
        bench::feel(felt, s);
    }
    [[nodiscard]] std::vector<Sign> signs(const TypeNotes& n, std::mt19937_64& draw) const {
        std::uniform_real_distribution<double> chance(0.0, 1.0);
        std::vector<Sign> out;
        for (const auto& [g, t] : needles) {
            const double w = g == Gauge::fuelFlow ? 1e-12 : widthOf(n, g);
            if (!t.read || std::abs(t.most) <= w || chance(draw) < missed)
                continue;
            if (g == Gauge::fuelFlow && std::abs(t.way) < 0.5)
                continue; // never moved by its width
            out.emplace_back(g, t.ways(w));
        }
        for (const Felt f : felt)
            if (chance(draw) >= missed)
                out.emplace_back(f);
        if (shake > 0.12 && chance(draw) >= missed)
            out.emplace_back(Felt::shake);
        if (yaw > 0.25 && n.engineCount() > 1 && chance(draw) >= missed)
            out.emplace_back(Felt::yaw);
        return out;
    }
};

/// The act on the controls of an engine; later acts of it that would undo it are left out of `rest`.
std::vector<Act> actsOf(FirstAct first, const TypeNotes& n, std::size_t e, Milliseconds at, std::vector<Act>& rest) {
    std::vector<Act> out;
    const auto put = [&](Acts acts, std::initializer_list<const char*> words, std::optional<double> share = {}) {
        const Control* c = cockpit::acting(n.controls, acts);
        if (!c)
            return;
        Act a;
        a.at = at;
        a.control = static_cast<std::size_t>(c - n.controls.data());
        a.engine = c->each ? static_cast<int>(e) : -1;
        if (share) {
            a.share = share;
            out.push_back(a);
            return;
        }
        for (const char* word : words)
            if (c->position(word)) {
                a.to.kind = Target::Kind::position;
                a.to.word = word;
                out.push_back(a);
                return;
            }
    };
    // As a hand that eases an engine does: a tenth of what was set less, and set again when it has been watched. What
    // it stood at is what was asked of it last.
    const auto last = [&](Acts acts, Milliseconds by) -> const Act* {
        const Act* found = nullptr;
        for (const auto& a : rest)
            if (a.kind == Act::Kind::control && a.at <= by && n.controls[a.control].acts == acts &&
                (a.engine < 0 || a.engine == static_cast<int>(e)))
                found = &a;
        return found;
    };
    const auto again = [&](Acts acts) {
        if (const Act* was = last(acts, at + watchedFor)) {
            out.push_back(*was);
            out.back().at = at + watchedFor;
            if (n.controls[was->control].each)
                out.back().engine = static_cast<int>(e);
        }
    };
    bool off = false, eased = false;
    switch (first) {
    case FirstAct::engineDrill: // it names the dead one before it is shut down
        if (n.engineCount() < 2)
            break;
        [[fallthrough]];
    case FirstAct::shutDown:
    case FirstAct::fuelOff:
        off = true;
        put(Acts::throttle, {"closed"});
        if (n.propeller.feathers)
            put(Acts::feathering, {"feathered"});
        put(Acts::mixture, {"cut-off"});
        put(Acts::fuel, {"off"});
        put(Acts::ignition, {"off"});
        break;
    case FirstAct::ease:
    case FirstAct::boostBack:
    case FirstAct::dryBoost:
    case FirstAct::governorBack:
    case FirstAct::turboBack:
        if (first == FirstAct::turboBack)
            put(Acts::turbo, {"off"});
        if (first == FirstAct::boostBack)
            put(Acts::mixture, {"rich"});
        eased = true;
        break;
    case FirstAct::heat:
        put(Acts::carburettorAir, {"hot"});
        again(Acts::carburettorAir);
        break;
    case FirstAct::coldAir:
        put(Acts::carburettorAir, {"cold"});
        break;
    case FirstAct::booster:
        put(Acts::pump, {"on"});
        break;
    case FirstAct::rich:
        put(Acts::mixture, {"rich"});
        break;
    case FirstAct::lowGear:
        put(Acts::gear, {"low"});
        break;
    case FirstAct::openFlap:
        put(Acts::coolingFlap, {}, 1.0);
        again(Acts::coolingFlap);
        break;
    case FirstAct::openCooler:
        put(Acts::oilCooler, {"open"});
        again(Acts::oilCooler);
        break;
    case FirstAct::shutCooler:
        put(Acts::oilCooler, {"shut"});
        again(Acts::oilCooler);
        break;
    case FirstAct::otherTank:
        for (const auto& tank : n.fuel.tanks)
            if (out.empty())
                put(Acts::fuel, {tank.id.c_str()});
        put(Acts::pump, {"on"});
        break;
    default:
        break; // looked at, and flown on
    }
    if (eased) {
        // What the plan sets meanwhile is eased too.
        std::vector<Act> set;
        if (const Act* was = last(Acts::throttle, at)) {
            set.push_back(*was);
            set.back().at = at;
        }
        for (const auto& a : rest)
            if (a.kind == Act::Kind::control && a.at > at && a.at < at + watchedFor &&
                n.controls[a.control].acts == Acts::throttle && (a.engine < 0 || a.engine == static_cast<int>(e)))
                set.push_back(a);
        for (Act less : set) {
            less.engine = static_cast<int>(e);
            if (less.to.kind == Target::Kind::quantity)
                less.to.si *= 0.9;
            else if (less.share)
                less.share = 0.9 * *less.share;
            else if (less.to.word == "open") {
                less.to = {};
                less.share = 0.9;
            }
            out.push_back(less);
        }
        again(Acts::throttle);
    }
    if (off) {
        std::vector<Act> shared;
        std::erase_if(rest, [&](const Act& a) {
            if (a.kind != Act::Kind::control || a.at < at || !n.controls[a.control].each)
                return false;
            if (a.engine < 0)
                for (std::size_t i = 0; i < n.engineCount(); ++i)
                    if (i != e) {
                        shared.push_back(a);
                        shared.back().engine = static_cast<int>(i);
                    }
            return a.engine < 0 || a.engine == static_cast<int>(e);
        });
        rest.insert(rest.end(), shared.begin(), shared.end());
    }
    return out;
}
} // namespace

int main(int argc, char** argv) {
    if (argc < 4) {
        fmt::print(stderr, "right-act ONE_IN SEED SORTIE.toml...\n");
        return 2;
    }
    const int oneIn = std::max(1, std::atoi(argv[1]));
    std::mt19937_64 draw(static_cast<std::uint64_t>(std::atoll(argv[2])));
    const bool verbose = std::getenv("AMBER_VERBOSE") != nullptr;
    struct Sum {
        int all = 0, better = 0, costs = 0, worse = 0, lost = 0, finals = 0;
    };
    std::map<std::string, Sum> byFault, byPhase, byAct;
    Sum total;
    for (int f = 3; f < argc; ++f) {
        auto loaded = flight::loadSortie(argv[f]);
        if (!loaded.ok())
            return 1;
        const BadDay day(std::move(loaded));
        const TypeNotes& n = day.loaded.aircraft->notes;
        for (const auto& pattern : trouble::patternsFor(n))
            for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown}) {
                trouble::Context where;
                where.phase = phase;
                if (!pattern.fault || trouble::chanceBefore(pattern, where) <= 0.0 ||
                    std::uniform_int_distribution<int>(1, oneIn)(draw) != 1)
                    continue;
                rehearse::Trap trap;
                trap.fault = *pattern.fault;
                trap.engine = 0;
                trap.phase = phase;
                trap.earliest = trap.latest = phase == Phase::takeOff ? 25.0 : phase == Phase::cruise ? 200.0 : 40.0;
                rehearse::Setup setup;
                setup.traps = {trap};
                double begins = 0.0;
                for (const auto& a : day.acts)
                    if (a.kind == Act::Kind::phase && a.phase == phase)
                        begins = static_cast<double>(a.at) / 1000.0;
                const double came = begins + trap.latest;
                const double watched = phase == Phase::takeOff ? 10.0 : 45.0;
                const auto sick = [&](const std::vector<Act>& acts, const hand::Watcher& watcher) {
                    auto r = std::make_unique<rehearse::Rehearsal>(*day.loaded.aircraft, *day.loaded.sortie, day.plan,
                                                                   setup);
                    r->script(acts);
                    r->advance(day.hand.state.now + 60'000, watcher);
                    return r;
                };
                Noticing noticing;
                std::size_t kept = 0;
                const auto& well = day.good->trace();
                const auto nothing = sick(day.acts, [&](const hand::Moment& m) {
                    const double t = static_cast<double>(m.state.now) / 1000.0;
                    if (t < came || t > came + watched || m.state.now % 1000 != 0)
                        return;
                    while (kept + 1 < well.size() && well[kept].at < m.state.now)
                        ++kept;
                    noticing.see(n, t - came, m.readings.engines[0], well[kept].engines[0], m.readings.yaw);
                });
                const auto signs = noticing.signs(n, draw);
                if (signs.empty())
                    continue; // nobody would ask
                const trouble::Case at{
                    *day.loaded.aircraft,
                    *day.loaded.sortie,
                    day.plan,
                    trouble::momentAt(n, *day.loaded.sortie, day.plan, day.plan[phase].start + trap.latest + watched),
                    {0}};
                const auto d = trouble::diagnose(n, signs, trouble::contextOf(at));
                auto acts = day.acts;
                const auto then = static_cast<Milliseconds>((came + watched + 3.0) * 10.0) * 100;
                auto own = actsOf(d.first, n, 0, then, acts);
                const double without = rehearse::harmOf(*nothing);
                double with = without;
                bool lost = false;
                if (!own.empty()) {
                    acts.insert(acts.end(), own.begin(), own.end());
                    std::stable_sort(acts.begin(), acts.end(), [](const Act& a, const Act& b) { return a.at < b.at; });
                    const auto r = sick(acts, {});
                    with = rehearse::harmOf(*r);
                    lost = r->over() && !nothing->over();
                }
                const std::string key(rowOf(d.first).key);
                for (Sum* s : {&byFault[pattern.key], &byPhase[std::string(keyOf(phase))], &byAct[key], &total}) {
                    ++s->all;
                    s->better += with < without - 0.5;
                    s->costs += with > without + 0.5 && with <= without + oneAim;
                    s->worse += with > without + oneAim;
                    s->lost += lost;
                    s->finals += rowOf(d.first).final;
                }
                if (verbose && (with > without + 0.5 || lost)) {
                    std::string told;
                    for (const auto& s : signs)
                        told += keyOf(s) + "; ";
                    fmt::print("## {} {} {}: {} -> {} harm {:.1f} for {:.1f}{}\n", n.name, pattern.key, keyOf(phase),
                               told, key, with, without, lost ? " LOST" : "");
                }
            }
    }
    const auto line = [](const std::string& name, const Sum& s) {
        fmt::print("{:<24} {:>4} asked; better {:>4}, costs height or speed {:>3}, worse {:>3} ({:.1f} %), survived "
                   "turned into lost {}; cannot be "
                   "undone {}\n",
                   name, s.all, s.better, s.costs, s.worse, s.all ? 100.0 * s.worse / s.all : 0.0, s.lost, s.finals);
    };
    for (const auto& [name, s] : byFault)
        line(name, s);
    for (const auto* by : {&byPhase, &byAct})
        for (const auto& [name, s] : *by)
            line(name, s);
    line("all", total);
    return total.lost > 0 || total.worse > 0.03 * total.all ? 1 : 0;
}
