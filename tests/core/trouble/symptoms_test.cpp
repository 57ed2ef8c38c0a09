// SPDX-License-Identifier: GPL-3.0-or-later
// Causes ranked from signs. The signs are not the table's own: each fault is stepped on an engine beside a sound one,
// at three settings, and what its needles and senses show is read to a needle's width.
#include "fault_signs.h"
#include "symptoms/symptoms.h"
#include "test_data.h"
#include "thorough.h"
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <set>

namespace amber {
namespace {
using namespace powerplant;
using namespace bench;
using trouble::diagnose;

std::string told(const std::vector<Sign>& signs) {
    std::string out;
    for (const auto& s : signs)
        if (!(s.isNeedle() && s.way == Way::still))
            out += (out.empty() ? "" : ", ") + keyOf(s);
    return out;
}

} // namespace

TEST(Symptoms, WhatTheEngineShowsRanksItsCauseFirstWithAnySignWithheld) {
    const auto all = askAll(test::demo("lorimer"));
    std::size_t first = 0;
    std::string misses;
    for (const auto& a : all) {
        const bool is = a.rank == 0 || a.pair;
        first += is ? 1 : 0;
        if (!is)
            misses += fmt::format("{}: {}; first {}\n", nameOf(a.fault).key, a.seen, a.first);
        EXPECT_LT(a.before, 2u) << nameOf(a.fault).key << ": " << a.seen << "; rank " << a.rank + 1 << " behind "
                                << a.first << ": among the first two always, listed pairs aside";
    }
    EXPECT_GT(all.size(), 200u);
    EXPECT_GE(static_cast<double>(first), 0.9 * static_cast<double>(all.size()))
        << first << " of " << all.size() << "\n"
        << misses;
}

TEST(Symptoms, ASingleFallingPressureIsNeverPutDownToItsGauge) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        for (const Gauge g : {Gauge::oilPressure, Gauge::fuelPressure})
            for (const Way way : {Way::falls, Way::fallsFast, Way::flickers}) {
                const auto d = diagnose(n, std::vector<Sign>{{g, way}});
                ASSERT_FALSE(d.causes.empty()) << name;
                EXPECT_FALSE(d.causes.front().pattern.gauge) << name << " " << keyOf(Sign(g, way));
                EXPECT_FALSE(rowOf(d.first).final) << name << ": one needle shuts nothing down";
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

trouble::Context in(Phase phase) {
    trouble::Context c;
    c.phase = phase;
    return c;
}

TEST(Symptoms, TheFirstActIsTheOneWithTheLeastHarmAndATestGoesBeforeWhatCannotBeUndone) {
    const auto& n = test::lorimer().notes;
    // Fuel pressure falls and nothing else is known: pump, leak or gauge. The booster is right once and deadly once.
    const auto d = diagnose(n, std::vector<Sign>{{Gauge::fuelPressure, Way::falls}}, in(Phase::cruise));
    ASSERT_FALSE(d.causes.empty());
    EXPECT_TRUE(d.unsure);
    EXPECT_NE(d.first, FirstAct::booster);
    EXPECT_FALSE(rowOf(d.first).final);
    EXPECT_NE(d.test.find("Spray"), std::string::npos) << d.test;
    // Smelt and seen, it is certain: straight to the drill.
    const auto seen =
        diagnose(n, std::vector<Sign>{{Gauge::fuelPressure, Way::falls}, Felt::smellOfFuel, Felt::fuelOnCowl},
                 in(Phase::cruise));
    EXPECT_EQ(seen.causes.front().pattern.fault, Fault::fuelLeak);
    EXPECT_FALSE(seen.unsure);
    EXPECT_GT(seen.causes.front().fit, 0.85);
    EXPECT_EQ(seen.first, FirstAct::fuelOff);
    EXPECT_NE(seen.act.find("no booster"), std::string::npos) << seen.act;
    ASSERT_TRUE(seen.drill);
    // No smell, smooth, and worst at power: the pump, and its booster.
    const auto pump = diagnose(
        n, std::vector<Sign>{{Gauge::fuelPressure, Way::falls}, {Gauge::fuelFlow, Way::falls}, Felt::worstAtPower},
        in(Phase::climb));
    EXPECT_EQ(pump.causes.front().pattern.fault, Fault::fuelPump);
    EXPECT_FALSE(rowOf(pump.first).final);
    EXPECT_NE(pump.causes.front().then.find("pump on"), std::string::npos) << pump.causes.front().then;
    // A bearing: one sign eases it, four stop it, and low down they do not.
    const std::vector<Sign> bearing{{Gauge::oilPressure, Way::falls},
                                    {Gauge::oilTemperature, Way::rises},
                                    Felt::shake,
                                    {Gauge::oilPressure, Way::flickers},
                                    Felt::smellOfOil};
    EXPECT_EQ(diagnose(n, std::vector<Sign>{{Gauge::oilPressure, Way::falls}}, in(Phase::cruise)).first,
              FirstAct::ease);
    const auto stop = diagnose(n, bearing, in(Phase::cruise));
    EXPECT_EQ(stop.first, FirstAct::shutDown) << stop.act;
    EXPECT_EQ(stop.drill, Emergency::feather);
    EXPECT_NE(diagnose(n, bearing, in(Phase::takeOff)).first, FirstAct::shutDown) << "thrust first";
    EXPECT_EQ(diagnose(n, bearing, in(Phase::warmUp)).first, FirstAct::stopNow);
}

TEST(Symptoms, WhatTheIssueSawIsAnsweredRightly) {
    const auto& lorimer = test::lorimer().notes;
    const auto first = [](const TypeNotes& n, std::vector<Sign> signs, trouble::Context c) {
        return diagnose(n, signs, c).first;
    };
    using enum FirstAct;
    // One needle in flight shuts down nothing, and is put to no rod or plug.
    for (const Gauge g : {Gauge::rpm, Gauge::carburettorAir, Gauge::fuelFlow, Gauge::chargeTemperature})
        for (const Way w : {Way::falls, Way::rises}) {
            const auto d = diagnose(lorimer, std::vector<Sign>{{g, w}}, in(Phase::cruise));
            EXPECT_FALSE(rowOf(d.first).final) << keyOf(Sign(g, w)) << ": " << d.act;
            EXPECT_EQ(d.act.find("Plugs"), std::string::npos) << d.act;
            EXPECT_NE(d.first, dryBoost);
        }
    // In damp air a rough engine without a boost gauge is iced until it is shown otherwise.
    const auto& tinker = test::loaded("tinker-damp").aircraft->notes;
    auto damp = in(Phase::cruise);
    damp.ice = 3;
    EXPECT_EQ(first(tinker, {{Gauge::rpm, Way::falls}, Felt::rough}, damp), heat);
    EXPECT_EQ(first(tinker, {{Gauge::rpm, Way::falls}}, damp), heat);
    // At the start.
    auto start = in(Phase::start);
    EXPECT_EQ(first(lorimer, {Felt::noCough, Felt::drips, Felt::blackSmoke}, start), clear) << "flooded";
    EXPECT_EQ(first(lorimer, {Felt::turnsSlowly, {Gauge::volts, Way::fallsFast}}, start), rest) << "flat";
    EXPECT_EQ(first(lorimer, {Felt::noTurn, {Gauge::volts, Way::still}}, start), fuse);
    EXPECT_EQ(first(lorimer, {Felt::stalls}, start), plugsOut) << "locked";
    EXPECT_EQ(first(lorimer, {Felt::flames}, start), drawIn);
    EXPECT_EQ(first(lorimer, {Felt::noCough, Felt::dryStack, {Gauge::fuelPressure, Way::falls}}, start), checkFuel);
    EXPECT_EQ(first(lorimer, {Felt::noCough, Felt::wetAndSilent}, start), checkSpark);
    start.doses = 1.0;
    start.firesFrom = 3.0;
    start.firesTo = 7.0;
    EXPECT_EQ(first(lorimer, {Felt::noCough}, start), prime) << "one stroke where three fire";
    start.doses = 12.0;
    EXPECT_EQ(first(lorimer, {Felt::noCough}, start), clear) << "twelve strokes where seven fire";
    // Low down rpm that rise fast are no reason to give power away.
    const auto runaway =
        diagnose(lorimer, std::vector<Sign>{{Gauge::rpm, Way::risesFast}, Felt::howl}, in(Phase::takeOff));
    EXPECT_NE(runaway.act.find("safe speed"), std::string::npos) << runaway.act;
}

TEST(Symptoms, EverySignAndEveryPairOnEveryTypeInEveryPhaseIsAnsweredByWhatCanBeDone) {
    std::size_t asked = 0, unsure = 0;
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        std::vector<Sign> all;
        for (const auto& key : allSignKeys())
            if (const auto s = *signFromKey(key); !s.isNeedle() || (n.gauges.contains(s.gauge) && s.way != Way::still))
                all.push_back(s);
        for (const Phase phase : {Phase::start, Phase::runUp, Phase::takeOff, Phase::cruise, Phase::landing}) {
            const auto context = in(phase);
            const bool inAir = phase >= Phase::takeOff && phase < Phase::stop;
            const auto ask = [&](const std::vector<Sign>& signs) {
                const auto d = diagnose(n, signs, context);
                ++asked;
                unsure += d.unsure ? 1 : 0;
                const std::string where = name + " " + std::string(keyOf(phase)) + ": " + told(signs) + ": " + d.act;
                EXPECT_EQ(trouble::impossible(d.first, n, context), "") << where;
                EXPECT_FALSE(d.act.empty() || d.test.empty()) << where;
                if (inAir && rowOf(d.first).final) {
                    EXPECT_FALSE(d.unsure) << where;
                    double sure = 0.0;
                    for (const auto& c : d.causes)
                        if (std::find(c.pattern.acts.begin(), c.pattern.acts.end(), d.first) != c.pattern.acts.end())
                            sure += c.fit;
                    EXPECT_GE(sure, signs.size() > 1 ? 0.6 : 0.85) << where;
                    EXPECT_FALSE(n.engineCount() < 2 && d.first == FirstAct::shutDown) << where;
                }
                if (!n.propeller.feathers || n.engineCount() < 2)
                    EXPECT_EQ(d.act.find("eather"), d.act.find("eather for it")) << where;
                for (const auto& c : d.causes)
                    EXPECT_FALSE(c.then.empty()) << where;
            };
            for (std::size_t i = 0; i < all.size(); ++i) {
                ask({all[i]});
                if (test::thorough() || i % 7 == static_cast<std::size_t>(phase) % 7)
                    for (std::size_t k = i + 1; k < all.size(); k += test::thorough() ? 1 : 5)
                        ask({all[i], all[k]});
            }
        }
    }
    EXPECT_GT(asked, 5000u);
    EXPECT_LT(static_cast<double>(unsure), 0.5 * static_cast<double>(asked)) << "unsure of everything says nothing";
}

TEST(Symptoms, ChancesMoveByWhatWasDoneAndWhereOneIs) {
    const auto& n = test::lorimer().notes;
    const auto fit = [&](std::vector<Sign> signs, const trouble::Context& c, const std::string& key) {
        for (const auto& cause : diagnose(n, signs, c).causes)
            if (cause.pattern.key == key)
                return cause.fit;
        return 0.0;
    };
    const std::vector<Sign> starving{{Gauge::fuelPressure, Way::fallsFast}};
    auto fed = in(Phase::cruise), dry = fed;
    fed.tankLeft = 3600.0;
    dry.tankLeft = 60.0;
    EXPECT_GT(fit(starving, dry, "tank-dry"), 4.0 * fit(starving, fed, "tank-dry"));
    EXPECT_EQ(fit({Felt::stalls}, in(Phase::cruise), "hydraulic-lock"), 0.0) << "it runs";
    EXPECT_EQ(fit({Felt::noCough}, in(Phase::cruise), "flooded"), 0.0);
    EXPECT_EQ(fit({Felt::yaw}, in(Phase::warmUp), "dead"), 0.0);
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
    EXPECT_EQ(lost->drill, Emergency::engineFails) << "as the notes say";
    EXPECT_EQ(lost->toldBy.find("White vapour from the radiator's side"), 0u) << "told as the notes tell it";
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

TEST(Signs, AreSaidByTheirFirstWords) {
    const auto words = [](const char* key) {
        const auto sign = signFromKey(key);
        return sign ? wordsOf(*sign) : std::string("unknown");
    };
    EXPECT_EQ(words("torque falls"), "torque falls") << "not: torque, BMEP falls";
    EXPECT_EQ(words("amperes falls"), "generator falls");
    EXPECT_EQ(words("oil rises"), "oil temperature rises");
}

TEST(Symptoms, EveryCauseOfEveryTypeSaysHowItIsToldAndWhatToDo) {
    for (const auto& name : test::demoNames())
        for (const auto& p : trouble::patternsFor(test::loaded(name).aircraft->notes)) {
            EXPECT_FALSE(p.toldBy.empty()) << name << ": " << p.key;
            EXPECT_FALSE(p.acts.empty()) << name << ": " << p.key;
            EXPECT_FALSE(p.name.empty()) << name << ": " << p.key;
        }
}

} // namespace amber
