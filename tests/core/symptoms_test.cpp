// SPDX-License-Identifier: GPL-3.0-or-later
// Causes ranked from signs. The signs are not the table's own: each fault is stepped on an engine beside a sound one,
// at three settings, and what its needles and senses show is read to a needle's width.
#include "powerplant/script.h"
#include "running_engines.h"
#include "test_data.h"
#include "trouble/symptoms.h"
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <set>

namespace amber {
namespace {
using namespace powerplant;
using trouble::diagnose;

/// A setting of the air or the ground, and how long it is watched.
struct Where {
    std::string demo, setting;
    double seconds = 240;
};
const std::string aloft =
    "0,,height,\"6,000 ft\"\n0,,ias,170 kt\n0,,path,descend\n0,all,cock,on\n0,all,ignition,both\n0,all,cut-off,off\n"
    "0,all,cooling-flap,0.3\n0,all,head,180 °C\n0,all,oil,72 °C\n";
const std::string cruising = aloft + "0,all,rpm,2100 rpm\n0,all,gear,low\n0,all,boost,32 inHg\n0,all,running,on\n";
const std::string climbing = aloft + "0,all,rpm,2350 rpm\n0,all,gear,low\n0,all,boost,38 inHg\n0,all,running,on\n";
const std::string slowly = aloft + "0,all,rpm,1800 rpm\n0,all,gear,low\n0,all,boost,27 inHg\n0,all,running,on\n";

/// Half a needle's width, SI: what a crew can tell.
double widthOf(Gauge g) {
    switch (nameOf(g).dimension) {
    case Dimension::temperature:
        return 4.0;
    case Dimension::rotation:
        return 25.0 / 60;
    case Dimension::manifoldPressure:
        return 1500.0;
    case Dimension::pressure:
        return g == Gauge::fuelPressure ? 5000.0 : g == Gauge::torque ? 4e4 : 1.5e4;
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

/// What a fault on the first engine shows beside its sister.
std::vector<Sign> signature(Fault fault, const Where& where) {
    const auto& l = test::loaded(where.demo);
    const TypeNotes& n = l.aircraft->notes;
    Problems problems;
    const auto script = readScript(fmt::format("time,engine,what,value\n{}60,{},fault,{}\n", where.setting,
                                               n.positions.front().id, nameOf(fault).key),
                                   "s.csv", n, problems);
    EXPECT_TRUE(script) << (problems.empty() ? "" : problems.front().text());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    air::Day day = l.sortie->day;
    day.dewPoint = Temperature::of(-30, units::celsius);
    ScriptRun run(plant, *script, day, Temperature::of(15, units::celsius));
    struct Trace {
        double early = 0.0, most = 0.0, last = 0.0;
        int turns = 0;
        double way = 0.0;
        bool read = false;
    };
    std::map<Gauge, Trace> traces;
    std::set<Felt> felt;
    double yaw = 0.0, shake = 0.0;
    const auto end = static_cast<Milliseconds>((60 + where.seconds) * 1000);
    while (run.state().now < end) {
        run.step();
        if (run.state().now <= 60'000)
            continue;
        const auto& sick = run.readings().engines.front();
        const auto& well = run.readings().engines.back();
        for (const auto& row : gaugeRegister) {
            const Gauge g = row.gauge;
            const double width = widthOf(g);
            const bool flow = g == Gauge::fuelFlow;
            if ((width <= 0 && !flow) || !well.has(g) || g == Gauge::height || g == Gauge::fuel)
                continue;
            auto& t = traces[g];
            t.read = true;
            // Of the aircraft's own needles there is one: against its start.
            const double off = sick[g] - well[g];
            const double w = flow ? 0.06 * well[g] : width;
            if (run.state().now <= 72'000 && std::abs(off) > std::abs(t.early))
                t.early = off;
            if (std::abs(off) > std::abs(t.most))
                t.most = off;
            if (std::abs(off - t.last) > w) {
                const double way = off > t.last ? 1 : -1;
                t.turns += way != t.way && t.way != 0 ? 1 : 0;
                t.way = way;
                t.last = off;
            }
        }
        const Signs& s = sick.signs;
        shake = std::max(shake, s.shake);
        yaw = std::max(yaw, std::abs(run.readings().yaw));
        const auto add = [&](bool seen, Felt what) {
            if (seen)
                felt.insert(what);
        };
        add(s.smoke == Smoke::black, Felt::blackSmoke);
        add(s.smoke == Smoke::blue, Felt::blueSmoke);
        add(s.smoke == Smoke::white, Felt::whiteVapour);
        add(s.smell == Smell::fuel, Felt::smellOfFuel);
        add(s.smell == Smell::oil, Felt::smellOfOil);
        add(s.smell == Smell::coolant, Felt::sweetSmell);
        add(s.cowl == Cowl::oil, Felt::oilOnCowl);
        add(s.cowl == Cowl::fuel, Felt::fuelOnCowl);
        add(s.cowl == Cowl::coolant, Felt::coolantOnCowl);
        add(s.sound == Sound::backfire, Felt::backfire);
        add(s.sound == Sound::bangs, Felt::bangs);
        add(s.sound == Sound::howl, Felt::howl);
        add(s.sound == Sound::whine, Felt::whine);
        add(s.sound == Sound::beat, Felt::beat);
        add(s.sound == Sound::whistle, Felt::whistle);
        add(s.sound == Sound::rough, Felt::rough);
        add(s.propellerLeverDead, Felt::leverDead);
    }
    std::vector<Sign> out;
    for (const auto& [g, t] : traces) {
        const bool flow = g == Gauge::fuelFlow;
        const double w = flow ? 0.06 * run.readings().engines.back()[g] : widthOf(g);
        const bool marked = n.gauges.contains(g) || flow || g == Gauge::oilContents || g == Gauge::carburettorAir ||
                            g == Gauge::waterPressure;
        if (!t.read || !marked)
            continue;
        if (std::abs(t.most) <= w) {
            out.emplace_back(g, Way::still);
            continue;
        }
        const bool fast = std::abs(t.early) > 0.6 * std::abs(t.most);
        if (t.turns >= 6)
            out.emplace_back(g, Way::flickers);
        else
            out.emplace_back(g,
                             t.most > 0 ? (fast ? Way::risesFast : Way::rises) : (fast ? Way::fallsFast : Way::falls));
    }
    for (const Felt f : felt)
        out.emplace_back(f);
    if (shake > 0.12)
        out.emplace_back(Felt::shake);
    if (yaw > 0.25)
        out.emplace_back(Felt::yaw);
    return out;
}

std::string told(const std::vector<Sign>& signs) {
    std::string out;
    for (const auto& s : signs)
        if (!(s.isNeedle() && s.way == Way::still))
            out += (out.empty() ? "" : ", ") + keyOf(s);
    return out;
}

/// Faults that show aloft, with what a crew knows besides: the gear, the air it flies in.
struct Shown {
    Fault fault;
    std::vector<Sign> besides;
};
const std::vector<Shown>& aloftFaults() {
    static const std::vector<Shown> all{
        {Fault::oilLost, {}},
        {Fault::oilPump, {}},
        {Fault::oilPressureGauge, {}},
        {Fault::reliefValve, {}},
        {Fault::coolerClogged, {Felt::worstAtPower}},
        {Fault::bearing, {}},
        {Fault::ring, {}},
        {Fault::deadLead, {Felt::oneMagneto}},
        {Fault::magnetoDead, {Felt::silentOnOne}},
        {Fault::carburettorIce, {Felt::inDampAir}},
        {Fault::airDoorHot, {}},
        {Fault::tankDry, {}},
        {Fault::fuelPump, {Felt::worstAtPower}},
        {Fault::fuelLeak, {}},
        {Fault::vapourLock, {Felt::hotAndHigh}},
        {Fault::fuelPressureGauge, {}},
        {Fault::rich, {Felt::worstAtIdle}},
        {Fault::lean, {}},
        {Fault::detonation, {}},
        {Fault::preIgnition, {}},
        {Fault::governorRunaway, {}},
        {Fault::pitchFixed, {Felt::followsThrottle}},
        {Fault::tachometer, {}},
        {Fault::flapShut, {}},
        {Fault::boostGaugeLine, {}},
        {Fault::boostControl, {}},
        {Fault::valve, {Felt::eitherMagneto}},
        {Fault::gaugeSupply, {}},
        {Fault::dead, {}},
    };
    return all;
}
/// Pairs that cannot be told apart aloft by what is seen alone: "unsure, the worst assumed".
bool listedPair(Fault a, Fault b) {
    static const std::set<std::pair<Fault, Fault>> pairs{{Fault::oilPump, Fault::oilPressureGauge},
                                                         {Fault::reliefValve, Fault::oilPressureGauge},
                                                         {Fault::reliefValve, Fault::oilPump},
                                                         {Fault::fuelPump, Fault::fuelPressureGauge},
                                                         {Fault::fuelLeak, Fault::fuelPressureGauge},
                                                         {Fault::coolerClogged, Fault::coolerCongealed},
                                                         {Fault::tankDry, Fault::fuelPump}};
    return pairs.contains({a, b}) || pairs.contains({b, a});
}
} // namespace

TEST(Symptoms, WhatTheEngineShowsRanksItsCauseFirstWithAnySignWithheld) {
    const std::vector<Where> settings{
        {"lorimer-spring", cruising}, {"lorimer-spring", climbing}, {"lorimer-spring", slowly}};
    const auto patterns = trouble::patternsFor(test::lorimer().notes);
    int asked = 0, first = 0;
    std::string misses;
    for (const auto& shown : aloftFaults())
        for (std::size_t k = 0; k < settings.size(); ++k) {
            auto signs = signature(shown.fault, settings[k]);
            signs.insert(signs.end(), shown.besides.begin(), shown.besides.end());
            const auto moved = std::count_if(signs.begin(), signs.end(),
                                             [](const Sign& s) { return !(s.isNeedle() && s.way == Way::still); });
            if (moved == 0)
                continue; // it does not show at that setting
            // All of them, and each of those that moved left out in its turn.
            for (std::size_t out = 0; out <= signs.size(); ++out) {
                auto seen = signs;
                if (out < signs.size()) {
                    if ((signs[out].isNeedle() && signs[out].way == Way::still) || moved < 2)
                        continue;
                    seen.erase(seen.begin() + static_cast<std::ptrdiff_t>(out));
                }
                const auto d = diagnose(patterns, seen);
                std::size_t rank = 0;
                while (rank < d.causes.size() && d.causes[rank].pattern.fault != shown.fault)
                    ++rank;
                ++asked;
                const bool pair = rank > 0 && rank < d.causes.size() && d.causes.front().pattern.fault &&
                                  listedPair(shown.fault, *d.causes.front().pattern.fault);
                first += rank == 0 || pair ? 1 : 0;
                const std::string what = fmt::format("{} at {}: {}{}; first {}", nameOf(shown.fault).key, k, told(seen),
                                                     out < signs.size() ? " without " + keyOf(signs[out]) : "",
                                                     d.causes.empty() ? "nothing" : d.causes.front().pattern.key);
                if (rank > 0 && !pair)
                    misses += what + "\n";
                // Aside from listed pairs it is among the first two.
                std::size_t among = 0;
                for (std::size_t i = 0; i < rank && i < d.causes.size(); ++i)
                    among += !d.causes[i].pattern.fault || !listedPair(shown.fault, *d.causes[i].pattern.fault) ? 1 : 0;
                EXPECT_LT(among, 2u) << what << ", rank " << rank + 1;
            }
        }
    EXPECT_GT(asked, 200);
    EXPECT_GE(first, 0.9 * asked) << first << " of " << asked << "\n" << misses;
}

TEST(Symptoms, ASingleFallingPressureIsNeverPutDownToItsGauge) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        for (const Gauge g : {Gauge::oilPressure, Gauge::fuelPressure})
            for (const Way way : {Way::falls, Way::fallsFast, Way::flickers}) {
                const auto d = diagnose(n, std::vector<Sign>{{g, way}});
                ASSERT_FALSE(d.causes.empty()) << name;
                EXPECT_FALSE(d.causes.front().pattern.gauge) << name << " " << keyOf(Sign(g, way));
                EXPECT_FALSE(d.causes[d.act].pattern.gauge) << name;
                // The gauge is among them: it is not forgotten either.
                if (way == Way::fallsFast)
                    EXPECT_TRUE(std::any_of(d.causes.begin(), d.causes.end(), [](const auto& c) {
                        return c.pattern.gauge;
                    })) << name;
            }
        // Even with the others seen to stand still the act is that of the worst that fits.
        const auto d = diagnose(n, std::vector<Sign>{{Gauge::oilPressure, Way::fallsFast},
                                                     {Gauge::oilTemperature, Way::still},
                                                     {Gauge::rpm, Way::still}});
        EXPECT_FALSE(d.causes.front().pattern.gauge) << name;
    }
}

TEST(Symptoms, TheActIsThatOfTheWorstPlausibleCause) {
    const auto& n = test::lorimer().notes;
    // Fuel pressure falls and nothing else is known: pump, leak or gauge. A leak burns: it is looked for first.
    const auto d = diagnose(n, std::vector<Sign>{{Gauge::fuelPressure, Way::falls}});
    ASSERT_FALSE(d.causes.empty());
    EXPECT_EQ(d.causes[d.act].pattern.fault, Fault::fuelLeak);
    EXPECT_TRUE(d.unsure());
    EXPECT_NE(d.causes[d.act].pattern.act.find("No booster"), std::string::npos);
    for (const auto& c : d.causes)
        if (c.plausible)
            EXPECT_LE(c.pattern.grave, d.causes[d.act].pattern.grave) << c.pattern.key;
    // Smelt, it is certain.
    const auto smelt = diagnose(n, std::vector<Sign>{{Gauge::fuelPressure, Way::falls}, Felt::smellOfFuel});
    EXPECT_EQ(smelt.causes.front().pattern.fault, Fault::fuelLeak);
    EXPECT_FALSE(smelt.unsure());
    EXPECT_GT(smelt.causes.front().fit, 0.75);
}

TEST(Symptoms, TheTriedSignParts) {
    // Each pattern's own act of telling, tried and shown: its cause is first among it and its like.
    for (const char* name : {"lorimer-spring", "mercer-frost", "farrier-summer", "tinker-damp"}) {
        const auto& n = test::loaded(name).aircraft->notes;
        const auto all = trouble::patternsFor(n);
        for (const auto& p : all) {
            if (!p.tried || !p.fault || p.gauge)
                continue;
            const auto showsIt = [&](Fault like) { // its like may show that sign too: then something else parts them
                return std::any_of(all.begin(), all.end(), [&](const trouble::Pattern& o) {
                    return o.fault == like && std::any_of(o.signs.begin(), o.signs.end(),
                                                          [&](const auto& e) { return e.sign == *p.tried; });
                });
            };
            std::vector<Sign> seen{*p.tried};
            for (const auto& e : p.signs)
                if (e.shows == trouble::Shows::surely && !(e.sign == *p.tried))
                    seen.push_back(e.sign);
            const auto d = diagnose(n, seen);
            ASSERT_FALSE(d.causes.empty()) << name << ": " << p.key;
            EXPECT_EQ(d.causes.front().pattern.key, p.key) << name << ": " << told(seen);
            for (std::size_t i = 1; i < d.causes.size(); ++i)
                for (const Fault like : p.like)
                    if (d.causes[i].pattern.fault == like && !showsIt(like))
                        EXPECT_LT(d.causes[i].fit, 0.5 * d.causes.front().fit)
                            << name << ": " << p.key << " and " << d.causes[i].pattern.key;
        }
    }
}

TEST(Symptoms, ChancesAreSharedAndOneMoreSignMovesThem) {
    const auto& n = test::farrier().notes;
    const std::vector<Sign> one{{Gauge::coolantTemperature, Way::rises}};
    auto two = one;
    two.emplace_back(Felt::whiteVapour);
    const auto a = diagnose(n, one), b = diagnose(n, two);
    double sum = 0.0;
    for (const auto& c : a.causes)
        sum += c.fit;
    EXPECT_NEAR(sum, 1.0, 0.05) << "what fits nothing is left out";
    const auto fitOf = [](const trouble::Diagnosis& d, const std::string& key) {
        for (const auto& c : d.causes)
            if (c.pattern.key == key)
                return c.fit;
        return 0.0;
    };
    EXPECT_GT(fitOf(b, "coolant-lost"), 2.0 * fitOf(a, "coolant-lost"));
    EXPECT_LT(fitOf(b, "flap-shut"), 0.25 * fitOf(a, "flap-shut"));
    EXPECT_TRUE(diagnose(n, std::vector<Sign>{}).causes.empty());
}

TEST(Symptoms, EachTypeHasOnlyWhatItCanHave) {
    const auto has = [](const std::string& demo, Fault f) {
        const auto all = trouble::patternsFor(test::loaded(demo).aircraft->notes);
        return std::any_of(all.begin(), all.end(), [&](const auto& p) { return p.fault == f; });
    };
    EXPECT_TRUE(has("farrier-summer", Fault::coolantLost));
    EXPECT_FALSE(has("lorimer-spring", Fault::coolantLost));
    EXPECT_FALSE(has("tinker-damp", Fault::governorRunaway));
    EXPECT_TRUE(has("mercer-frost", Fault::governorRunaway));
    EXPECT_TRUE(has("wheelwright-height", Fault::wasteGate));
    EXPECT_FALSE(has("lorimer-spring", Fault::wasteGate));
    EXPECT_TRUE(has("collier-high", Fault::waterFails));
    EXPECT_FALSE(has("sexton-meadow", Fault::boostControl));
    // A dead engine of a fixed propeller shows in its rpm, of a governed one in yaw.
    const auto d = diagnose(test::loaded("ostler-bush").aircraft->notes,
                            std::vector<Sign>{{Gauge::rpm, Way::fallsFast}, Felt::yaw, Felt::silent});
    EXPECT_EQ(d.causes.front().pattern.fault, Fault::dead);
}

TEST(Symptoms, TheNotesOwnPatternsAreThereAndSayThatTheyAre) {
    const auto& n = test::loaded("sexton-meadow").aircraft->notes;
    const auto d =
        diagnose(n, std::vector<Sign>{{Gauge::fuelPressure, Way::falls}, {Gauge::rpm, Way::falls}, Felt::rough});
    ASSERT_FALSE(d.causes.empty());
    EXPECT_EQ(d.causes.front().pattern.key, "tank-air");
    EXPECT_EQ(d.causes.front().pattern.origin, Origin::notes);
    EXPECT_FALSE(d.causes.front().pattern.words.empty());
    // One that replaces a general pattern keeps its key.
    const auto farrier = trouble::patternsFor(test::farrier().notes);
    const auto lost =
        std::find_if(farrier.begin(), farrier.end(), [](const auto& p) { return p.key == "coolant-lost"; });
    ASSERT_NE(lost, farrier.end());
    EXPECT_EQ(lost->origin, Origin::notes);
    EXPECT_EQ(lost->drill, Emergency::engineFails);
}

TEST(Signs, EveryKeyIsReadBackAsItself) {
    std::set<std::string> all;
    for (const auto& key : allSignKeys()) {
        const auto sign = signFromKey(key);
        ASSERT_TRUE(sign) << key;
        EXPECT_EQ(keyOf(*sign), key);
        EXPECT_TRUE(all.insert(key).second) << key;
        EXPECT_FALSE(wordsOf(*sign).empty());
    }
    EXPECT_EQ(wordsOf(*signFromKey("oil-pressure falls-fast")), "oil pressure falls fast");
    EXPECT_FALSE(signFromKey("oil-pressure wobbles"));
    EXPECT_FALSE(signFromKey("shakes"));
}

} // namespace amber
