// SPDX-License-Identifier: GPL-3.0-or-later
// Load sheet, envelope, trim and tables against hand reckonings.
#include "advice/load_cures.h"
#include "air/wind.h"
#include "loading/distances.h"
#include "loading/envelope.h"
#include "loading/tank_sequence.h"
#include "plan/load_plan.h"
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace amber {
namespace {
constexpr double lb = 0.45359237, inch = 0.0254, usGallon = 3.785411784e-3;

const loading::SheetLine& lineOf(const std::vector<loading::SheetLine>& lines, const std::string& id) {
    for (const auto& l : lines)
        if (l.id == id)
            return l;
    throw std::invalid_argument("no line " + id);
}

bool hasRule(const flight::Flown& f, watch::Rule rule) {
    for (const auto& finding : f.findings)
        if (finding.rule == rule)
            return true;
    return false;
}
TEST(LoadCureFigures, WhatIsMovedIsNeitherMadeNorLost) {
    auto d = test::loadDemo("wheelwright-windy");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    double before = 0;
    for (const auto& [id, mass] : d.sortie->load.stations)
        before += mass.si();
    bool moved = false;
    for (const auto& cure : advice::loadCures(*d.aircraft, *d.sortie, f)) {
        double after = 0;
        for (const auto& [id, mass] : cure.sortie.load.stations)
            after += mass.si();
        if (cure.kind == advice::LoadCure::Kind::move) {
            moved = true;
            EXPECT_NEAR(after, before, 1e-6) << cure.text;
        } else if (cure.kind == advice::LoadCure::Kind::ballast) {
            EXPECT_GT(after, before + 1) << cure.text;
        } else if (cure.kind == advice::LoadCure::Kind::leave) {
            EXPECT_LT(after, before - 1) << cure.text;
        }
    }
    EXPECT_TRUE(moved);
    // At most two of a kind, the least first.
    std::map<advice::LoadCure::Kind, std::vector<double>> masses;
    for (const auto& cure : advice::loadCures(*d.aircraft, *d.sortie, f)) {
        double changed = 0;
        for (const auto& [id, mass] : cure.sortie.load.stations) {
            const auto was = d.sortie->load.stations.find(id);
            changed += std::abs(mass.si() - (was == d.sortie->load.stations.end() ? 0.0 : was->second.si()));
        }
        masses[cure.kind].push_back(changed);
    }
    for (const auto kind :
         {advice::LoadCure::Kind::move, advice::LoadCure::Kind::ballast, advice::LoadCure::Kind::leave}) {
        EXPECT_LE(masses[kind].size(), 2u);
        EXPECT_TRUE(std::is_sorted(masses[kind].begin(), masses[kind].end()));
    }
}

TEST(DistanceFigures, ATableIsReadInProportionAlongAllThreeOfItsSides) {
    PerformanceTable table;
    table.weights = {1000, 2000};
    table.heights = {0, 1000};
    table.temperatures = {273.15, 293.15};
    table.entries = {100, 120, 150, 190, 300, 340, 420, 500}; // by weight, height, temperature
    const Cockpit cockpit = test::loaded("lorimer-spring").aircraft->notes.cockpit;
    std::string why;
    const auto at = [&](double weight, double height, double temperature) {
        return *loading::entryOf(table, cockpit, weight, height, temperature, why);
    };
    EXPECT_NEAR(at(1000, 0, 273.15), 100, 1e-9);
    EXPECT_NEAR(at(2000, 1000, 293.15), 500, 1e-9);
    EXPECT_NEAR(at(1250, 0, 273.15), 150, 1e-9) << "a quarter of the way to 300";
    EXPECT_NEAR(at(1000, 750, 273.15), 137.5, 1e-9) << "three quarters of the way to 150";
    EXPECT_NEAR(at(1000, 0, 278.15), 105, 1e-9) << "a quarter of the way to 120";
    // By hand in all three: 0.75 × (0.25 × (100, 120) + 0.75 × (150, 190)) + 0.25 × (0.25 × (300, 340) + 0.75 × (420,
    // 500)), the pairs a quarter along.
    EXPECT_NEAR(at(1250, 750, 278.15), 0.75 * (0.25 * 105 + 0.75 * 160) + 0.25 * (0.25 * 310 + 0.75 * 440), 1e-9);
    EXPECT_FALSE(loading::entryOf(table, cockpit, 2100, 0, 280, why));
    EXPECT_FALSE(why.empty());
}

TEST(LoadFigures, ADropTankThatIsGoneTakesItsMassAndMomentWithIt) {
    for (const char* name : {"collier-high", "farrier-summer"}) {
        auto l = test::loadDemo(name);
        TypeNotes n = l.aircraft->notes;
        for (auto& tank : n.fuel.tanks) // hung on one side, so that this is seen too
            tank.side = tank.kind == TankKind::drop ? 0.4 : tank.side;
        double mass = 0, moment = 0, sideways = 0;
        for (const auto& t : n.fuel.tanks)
            if (t.kind == TankKind::drop) {
                l.sortie->contents[t.id] = t.usable;
                mass += t.emptyMass.si();
                moment += t.emptyMass.si() * t.arm;
                sideways += t.emptyMass.si() * t.side;
            }
        if (mass <= 0)
            continue;
        const loading::Sheet sheet(n, *l.sortie);
        const std::vector<double> empty(n.fuel.tanks.size(), 0.0);
        const auto on = sheet.with(empty, false), off = sheet.with(empty, true);
        EXPECT_NEAR(on.mass - off.mass, mass, 1e-6) << name;
        EXPECT_NEAR(on.sideways - off.sideways, sideways, 1e-6) << name;
        EXPECT_NEAR((on.moment - off.moment) / moment, 1.0, 0.02) << name;
    }
}

TEST(LoadFigures, HowMuchTooHeavyIsTheDifference) {
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    const double pound = 0.45359237;
    const auto over = loading::judgeWeight(n, 27400 * pound, 26000 * pound, "At take-off");
    EXPECT_EQ(over.colour(), watch::Colour::red);
    EXPECT_NE(over.sentence().find("1,400 lb more than the 26,000 lb"), std::string::npos) << over.sentence();
    EXPECT_EQ(loading::judgeWeight(n, 26000.4 * pound, 26000 * pound, "").colour(), watch::Colour::normal)
        << "less than can be read";
    EXPECT_EQ(loading::judgeWeight(n, 26000.6 * pound, 26000 * pound, "").colour(), watch::Colour::red);
}

TEST(LoadFigures, PercentOfTheChordAreMetresBehindItsLeadingEdge) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name).aircraft->notes.loading;
        if (!l.inPercent)
            continue;
        ++seen;
        for (const auto& e : l.envelope) {
            const double forward = (e.forward - l.leadingEdge) / l.chord, aft = (e.aft - l.leadingEdge) / l.chord;
            EXPECT_GT(forward, 0.05) << name;
            EXPECT_LT(aft, 0.50) << name << ": nothing flies with it farther back";
            EXPECT_LT(forward, aft) << name;
        }
    }
    EXPECT_GT(seen, 0u);
}

} // namespace

// By hand, in lb and lb in: the airframe as weighed 19,140 at 7.41 m (291.732 in); pilots 360 × 120; engineer 175 ×
// 165; forward cabin 2,750 × 260; aft cabin 1,171.1 × 400; kit 85 × 430; oil 44 US gal of 0.89 kg/l = 326.80 lb × 190;
// fuel of 0.72 × (1 + 9 × 0.0013) kg/l: front 384 US gal = 2,334.36 lb at 279 + 4 × 192/200 = 282.84; rear 174 =
// 1,057.76 × 345.
TEST(LoadSheet, TheTwinAddsToWhatAHandSheetGives) {
    const auto& d = test::demo("lorimer");
    const loading::Sheet sheet(d.aircraft->notes, *d.sortie);
    const auto ramp = sheet.ramp();
    const double weight = 19140 + 360 + 175 + 2750 + 1171.1 + 85 + 326.80 + 2334.36 + 1057.76;
    const double moment = 19140 * 291.7323 + 360 * 120.0 + 175 * 165.0 + 2750 * 260.0 + 1171.1 * 400 + 85 * 430.0 +
                          326.80 * 190 + 2334.36 * 282.84 + 1057.76 * 345;
    EXPECT_NEAR(ramp.mass / lb, weight, 0.5);
    EXPECT_NEAR(ramp.moment / lb / inch, moment, 300) << "of 8 million";
    EXPECT_NEAR(ramp.arm() / inch, moment / weight, 0.02);
    EXPECT_NEAR(lineOf(sheet.fuel(), "front").arm / inch, 282.84, 0.005);
}

// Metric: empty 2,350 × 3.375; pilot 85 × 4.55; weights 132.8 × 3.05; radio 25 × 5.25; covers 20 × 4.95; oil 40 l ×
// 0.89 = 35.6 kg × 2.25; fuel of 0.72 × (1 + 30 × 0.0013) = 0.74808 kg/l: centre 175 l × 3.72, wing 295 l × 3.46.
TEST(LoadSheet, AMetricSheetAddsToWhatAHandSheetGives) {
    const auto& d = test::loaded("tanner-winter");
    const auto ramp = loading::Sheet(d.aircraft->notes, *d.sortie).ramp();
    const double centre = 175 * 0.74808, wing = 295 * 0.74808;
    const double weight = 2350 + 85 + 132.8 + 25 + 20 + 35.6 + centre + wing;
    const double moment =
        2350 * 3.375 + 85 * 4.55 + 132.8 * 3.05 + 25 * 5.25 + 20 * 4.95 + 35.6 * 2.25 + centre * 3.72 + wing * 3.46;
    EXPECT_NEAR(ramp.mass, weight, 0.05);
    EXPECT_NEAR(ramp.moment, moment, 0.5);
    EXPECT_EQ(loading::armText(d.aircraft->notes.loading, ramp.arm()), fmt::format("{:.3f} m", moment / weight));
}

// In percent of a mean chord of 102 in whose leading edge lies 118 in aft of the datum: 25.2 % is 143.704 in.
TEST(LoadSheet, ASheetInPercentOfTheChordAddsToWhatAHandSheetGives) {
    const auto& d = test::loaded("collier-high");
    const auto& n = d.aircraft->notes;
    const loading::Sheet sheet(n, *d.sortie);
    EXPECT_NEAR(lineOf(sheet.lines(), "empty").arm / inch, 118 + 0.252 * 102, 1e-6);
    // 13 °C: 0.72 × 1.0026 = 0.721872 kg/l; 225 and 96 US gal; oil 20 US gal.
    const double main = 225 * usGallon * 721.872 / lb, aux = 96 * usGallon * 721.872 / lb,
                 oil = 20 * usGallon * 890 / lb;
    const double weight = 9100 + 185 + 205 + 95 + 732.6 + oil + main + aux;
    const double moment =
        9100 * 143.704 + 185 * 172.0 + 205 * 100.0 + 95 * 262.0 + 732.6 * 150 + oil * 62 + main * 140 + aux * 153;
    EXPECT_NEAR(sheet.ramp().mass / lb, weight, 0.5);
    const double percent = 100 * (moment / weight - 118) / 102;
    EXPECT_NEAR(loading::armWritten(n.loading, sheet.ramp().arm()), percent, 0.02);
    EXPECT_TRUE(loading::armText(n.loading, sheet.ramp().arm()).ends_with(" %"));
}

TEST(LoadSheet, TheBalanceMovesSmoothlyWithTheFuelOnEveryType) {
    for (const auto& name : test::demoNames()) {
        const auto& d = test::loaded(name);
        const auto& tanks = d.aircraft->notes.fuel.tanks;
        ASSERT_TRUE(d.aircraft->notes.loading.given) << name;
        const loading::Sheet sheet(d.aircraft->notes, *d.sortie);
        auto held = sheet.atStart();
        for (std::size_t t = 0; t < tanks.size(); ++t) {
            const double full = held[t];
            double before = sheet.with(held).arm();
            for (int i = 199; i >= 0; --i) {
                held[t] = full * i / 200;
                const double now = sheet.with(held).arm();
                EXPECT_LT(std::abs(now - before), 0.005) << name << " " << tanks[t].id << " at " << i;
                before = now;
            }
            held[t] = full;
        }
    }
}

TEST(LoadSheet, FuelWeighsLessWhenItIsWarm) {
    // 720 kg/m³ at 15 °C; 20 K warmer 720 × (1 − 0.026) = 701.3.
    FuelNotes fuel;
    EXPECT_DOUBLE_EQ(fuel.densityAt(Temperature::si(288.15)), 720.0);
    EXPECT_NEAR(fuel.densityAt(Temperature::si(308.15)), 701.28, 0.01);
    auto s = *test::demo("farrier").sortie;
    const auto& n = test::farrier().notes;
    const double warm = loading::rampWeight(n, s).si();
    s.day.oat = Temperature::si(s.day.oat.si() - 30.0);
    EXPECT_NEAR(loading::rampWeight(n, s).si() - warm, 86 * 4.54609 * 0.720 * 1.3e-3 * 30, 0.5);
}

TEST(LoadSheet, AWeightThatIsTypedStandsAndSaysSo) {
    auto s = *test::demo("lorimer").sortie;
    s.weight = Mass::si(26000 * lb);
    s.load.weightTyped = true;
    const auto f = flight::fly(test::lorimer(), s);
    EXPECT_NEAR(f.rampWeight / lb, 26000, 1e-6);
    EXPECT_TRUE(hasRule(f, watch::Rule::weightTyped));
    s.load.weightTyped = false;
    const auto follows = flight::fly(test::lorimer(), s);
    EXPECT_NEAR(follows.rampWeight / lb, 27400, 0.5);
    EXPECT_FALSE(hasRule(follows, watch::Rule::weightTyped));
    // And all downstream follows: 300 lb more in the cabin climbs slower by what the polar says, T − D over W.
    auto heavier = s;
    heavier.load.stations["forward-cabin"] = Mass::si(3050 * lb);
    const auto h = flight::fly(test::lorimer(), heavier);
    EXPECT_NEAR((h.rampWeight - follows.rampWeight) / lb, 300, 1e-6);
    EXPECT_LT(h.firstRate.si(), follows.firstRate.si() * (1 - 0.009));
    EXPECT_GT(h.firstRate.si(), follows.firstRate.si() * (1 - 0.04));
}

TEST(Envelope, LiesBetweenItsLinesAndColoursItsEdges) {
    LoadingNotes l;
    l.given = true;
    l.envelope = {{Mass::si(1000), 2.0, 3.0}, {Mass::si(2000), 2.4, 2.8}};
    EXPECT_NEAR(loading::limitsAt(l, 1500).forward, 2.2, 1e-12);
    EXPECT_NEAR(loading::limitsAt(l, 1500).aft, 2.9, 1e-12);
    EXPECT_NEAR(loading::limitsAt(l, 900).forward, 2.0, 1e-12);
    EXPECT_NEAR(loading::limitsAt(l, 2500).aft, 2.8, 1e-12);
    // At 1,500 kg it is 0.7 m wide: amber within 35 mm.
    const auto colour = [&](double arm) {
        const loading::Balance b{1500, 1500 * arm, 0};
        const auto p = loading::placeOf(l, b);
        return watch::centreOfGravity(p.room(), p.width, {}).colour();
    };
    EXPECT_EQ(colour(2.5), watch::Colour::normal);
    EXPECT_EQ(colour(2.23), watch::Colour::amber);
    EXPECT_EQ(colour(2.24), watch::Colour::normal);
    EXPECT_EQ(colour(2.87), watch::Colour::amber);
    EXPECT_EQ(colour(2.19), watch::Colour::red);
    EXPECT_EQ(colour(2.91), watch::Colour::red);
}

TEST(Envelope, TheWindyLoadLeavesItOnTheWayAndEveryCureWorks) {
    const auto d = test::loadDemo("wheelwright-windy");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    const auto load = plan::loadPlan(*d.aircraft, *d.sortie, f);
    std::map<std::string, watch::Colour> colours;
    for (const auto& m : load.moments)
        colours[m.id] = m.verdict.colour();
    EXPECT_EQ(colours["take-off"], watch::Colour::normal);
    EXPECT_EQ(colours["landing"], watch::Colour::normal);
    EXPECT_EQ(colours["worst"], watch::Colour::red);
    ASSERT_TRUE(hasRule(f, watch::Rule::centreOfGravity));
    for (const auto& finding : f.findings)
        if (finding.rule == watch::Rule::centreOfGravity) {
            EXPECT_GT(finding.begin, f[Phase::cruise].start);
            EXPECT_LT(finding.end, f[Phase::letDown].start);
            EXPECT_GT(finding.end, finding.begin);
        }
    const auto cures = advice::loadCures(*d.aircraft, *d.sortie, f);
    std::set<advice::LoadCure::Kind> kinds;
    for (const auto& cure : cures) {
        kinds.insert(cure.kind);
        ASSERT_TRUE(checkSortie(cure.sortie, d.aircraft->notes, "").empty()) << cure.text;
        const auto cured = flight::fly(*d.aircraft, cure.sortie);
        EXPECT_FALSE(hasRule(cured, watch::Rule::centreOfGravity)) << cure.text;
        EXPECT_NEAR(advice::leastRoom(*d.aircraft, cure.sortie, cured), cure.room, 1e-9);
        EXPECT_GE(cure.room, 0) << cure.text;
    }
    EXPECT_TRUE(kinds.contains(advice::LoadCure::Kind::tankOrder));
    EXPECT_TRUE(kinds.contains(advice::LoadCure::Kind::move));
    EXPECT_TRUE(kinds.contains(advice::LoadCure::Kind::ballast));
    EXPECT_TRUE(kinds.contains(advice::LoadCure::Kind::leave));
    EXPECT_TRUE(advice::loadCures(test::lorimer(), *test::demo("lorimer").sortie,
                                  flight::fly(test::lorimer(), *test::demo("lorimer").sortie))
                    .empty())
        << "nothing to cure";
}

TEST(Envelope, TooMuchAtAStationOrOnOneSideOrInAllIsSaid) {
    auto s = *test::demo("lorimer").sortie;
    s.load.stations["tail-locker"] = Mass::si(400 * lb);
    s.load.stations["forward-cabin"] = Mass::si(5200 * lb);
    const auto f = flight::fly(test::lorimer(), s);
    EXPECT_TRUE(hasRule(f, watch::Rule::stationOver));
    EXPECT_TRUE(hasRule(f, watch::Rule::overweight)) << "over the mark's 27,800 lb";
    // One full tank of the two of the Ostler: 116 US gal × 70 in = some 49,000 lb in, of 38,000 allowed.
    auto lopsided = *test::loaded("ostler-bush").sortie;
    lopsided.contents["left"] = Volume{};
    lopsided.fuel.order = {"right"};
    const auto g = flight::fly(*test::loaded("ostler-bush").aircraft, lopsided);
    EXPECT_TRUE(hasRule(g, watch::Rule::sideways));
}

// Flap 15°: light 5 at 284 in, −1 at 309; heavy (29,000 lb) 6.5 at 286, 0.5 at 309; the light column for 22,000 lb. At
// 25,500 lb and 295 in: light 5 − 6 × 11/25 = 2.36; heavy 6.5 − 6 × 9/23 = 4.152; half-way 3.256.
TEST(Trim, IsReadBetweenTheTablesOfTheNotes) {
    const auto& n = test::lorimer().notes;
    const loading::Balance b{25500 * lb, 25500 * lb * 295 * inch, 0};
    const auto trim = loading::trimFor(n, b);
    ASSERT_EQ(trim.size(), 2u);
    EXPECT_NEAR(trim[0].trim, 3.256, 0.005);
    EXPECT_EQ(trim[0].text, "3.3 divisions nose up");
    EXPECT_FALSE(trim[0].held);
    const loading::Balance aft{25500 * lb, 25500 * lb * 320 * inch, 0};
    EXPECT_TRUE(loading::trimFor(n, aft)[0].held) << "beyond the table its end, and it says so";
}

// Take-off, the eight entries around 23,750 lb, 1,500 ft and 10 °C: 1,050 1,220 1,320 1,530 1,450 1,680 1,820 2,120.
TEST(Distances, AreReadBetweenTheEntriesAndNowhereElse) {
    const auto& n = test::lorimer().notes;
    const auto& table = n.tables.front();
    ASSERT_EQ(table.id, "take-off");
    std::string why;
    const auto mean = loading::entryOf(table, n.cockpit, 23750 * lb, 1500 * 0.3048, 283.15, why);
    ASSERT_TRUE(mean);
    EXPECT_NEAR(*mean / 0.3048, (1050 + 1220 + 1320 + 1530 + 1450 + 1680 + 1820 + 2120) / 8.0, 0.01);
    EXPECT_FALSE(loading::entryOf(table, n.cockpit, 31000 * lb, 1500 * 0.3048, 283.15, why));
    EXPECT_NE(why.find("22,000 lb to 29,500 lb"), std::string::npos) << why;
    EXPECT_FALSE(loading::entryOf(table, n.cockpit, 23750 * lb, 7000 * 0.3048, 283.15, why));
    // 20 kt down the runway: 0.86² of it; grass 1.15; two in a hundred up 1.07².
    auto s = *test::demo("lorimer").sortie;
    const auto still = loading::distancesToday(n, s, Mass::si(27000 * lb), Mass::si(25000 * lb)).front();
    s.strip = {240.0, Length::of(3000, units::foot), 2.0, true, false};
    s.day.wind = {240, Speed::of(20, units::knot)};
    const auto windy = loading::distancesToday(n, s, Mass::si(27000 * lb), Mass::si(25000 * lb)).front();
    EXPECT_NEAR(*windy.value / *still.value, 0.86 * 0.86 * 1.15 * 1.07 * 1.07, 1e-6);
    s.day.wind.fromDegrees = 60; // behind
    const auto behind = loading::distancesToday(n, s, Mass::si(27000 * lb), Mass::si(25000 * lb)).front();
    EXPECT_NEAR(*behind.value / *still.value, 1.25 * 1.25 * 1.15 * 1.07 * 1.07, 1e-6);
    EXPECT_GT(*behind.value, s.strip.length->si());
    const auto load = plan::loadPlan(test::lorimer(), s, flight::fly(test::lorimer(), s));
    EXPECT_EQ(load.distanceVerdicts.front().colour(), watch::Colour::red) << "longer than the runway";
}

TEST(Wind, IsTheTriangleOfEveryTextbook) {
    // 150 kt and 30 kt square across: √(150² − 30²) = 146.97; against 120; behind 180; 45° ahead: 127.27 kt.
    const double kt = 1852.0 / 3600;
    const auto ground = [&](int from, double track) {
        return air::groundSpeed(150 * kt, air::onTrack({from, Speed::si(30 * kt)}, track)) / kt;
    };
    EXPECT_NEAR(ground(90, 0), 146.97, 0.01);
    EXPECT_NEAR(ground(10, 10), 120.0, 0.01);
    EXPECT_NEAR(ground(190, 10), 180.0, 0.01);
    EXPECT_NEAR(ground(45, 0), 127.27, 0.01);
}

TEST(LoadNotes, WhatDoesNotFitIsSaidWithItsLine) {
    const auto text = test::fileText(test::dataPath("notes/collier-c2.toml"));
    const auto said = [&](const std::string& from, const std::string& to) {
        const auto reading = readNotes(test::replaced(text, from, to), "c.toml");
        EXPECT_FALSE(reading.notes) << to;
        return reading.problems.empty() ? std::string() : reading.problems.front().text();
    };
    EXPECT_NE(said("aft = \"31.5 %\"", "aft = \"20 %\"").find("not behind the forward one"), std::string::npos);
    EXPECT_NE(said("chord = \"102 in\"\n", "").find("mean chord"), std::string::npos);
    EXPECT_NE(said("id = \"radio\"", "id = \"water\"").find("there twice"), std::string::npos);
    EXPECT_NE(said("kind = \"drop\"", "kind = \"transfer\"").find("to"), std::string::npos);
    EXPECT_NE(said("usual = \"95 lb\"\nmost = \"95 lb\"", "usual = \"105 lb\"\nmost = \"95 lb\"").find("usual is more"),
              std::string::npos);
}

TEST(Miles, AreTheCockpitsDistanceForItsFuelInThreeFigures) {
    const auto& n = test::demo("lorimer").aircraft->notes;
    const double one = 1852.0 / n.cockpit.fuel->scale; // a nautical mile for one of its fuel, in m for a m³
    ASSERT_EQ(n.cockpit.distance->symbol, "nm");
    EXPECT_EQ(plan::milesText(n, 0.4567 * one, false), "0.457");
    EXPECT_EQ(plan::milesText(n, 2.346 * one, false), "2.35");
    EXPECT_EQ(plan::milesText(n, 9.994 * one, false), "9.99");
    EXPECT_EQ(plan::milesText(n, 11.26 * one, false), "11.3");
    EXPECT_EQ(plan::milesText(n, 2.346 * one), "2.35 " + plan::milesUnit(n));
}

TEST(LoadCureFigures, AWeightThatIsTypedFollowsAndNoLessWouldDo) {
    auto d = test::loadDemo("wheelwright-windy");
    const auto& n = d.aircraft->notes;
    d.sortie->load.weightTyped = true;
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    const auto sum = [](const Sortie& s) {
        double all = 0;
        for (const auto& [id, mass] : s.load.stations)
            all += mass.si();
        return all;
    };
    const double step = 10 * n.cockpit.weight->scale; // what is weighed out to
    std::set<advice::LoadCure::Kind> kinds;
    for (const auto& cure : advice::loadCures(*d.aircraft, *d.sortie, f)) {
        if (cure.kind != advice::LoadCure::Kind::ballast && cure.kind != advice::LoadCure::Kind::leave)
            continue;
        kinds.insert(cure.kind);
        const double change = sum(cure.sortie) - sum(*d.sortie);
        EXPECT_NEAR(cure.sortie.weight.si() - d.sortie->weight.si(), change, 1e-6) << cure.text;
        EXPECT_NEAR(std::round(change / step), change / step, 1e-6) << cure.text;
        // Three steps less leave it out somewhere.
        Sortie less = cure.sortie;
        for (auto& [id, mass] : less.load.stations) {
            const auto was = d.sortie->load.stations.find(id);
            const double moved = mass.si() - (was == d.sortie->load.stations.end() ? 0.0 : was->second.si());
            if (std::abs(moved) > 3 * step)
                mass = Mass::si(mass.si() - (moved > 0 ? 3 : -3) * step);
        }
        less.weight = Mass::si(d.sortie->weight.si() + sum(less) - sum(*d.sortie));
        EXPECT_LT(advice::leastRoom(*d.aircraft, less, flight::fly(*d.aircraft, less)), 1e-3) << cure.text;
    }
    EXPECT_EQ(kinds.size(), 2u);
}

TEST(LoadCureFigures, BallastGoesNoFurtherThanItsPlaceTakes) {
    const auto d = test::loadDemo("wheelwright-windy");
    auto own = *d.aircraft;
    const auto place = std::find_if(own.notes.loading.stations.begin(), own.notes.loading.stations.end(),
                                    [](const LoadStation& s) { return s.kind == StationKind::ballast; });
    ASSERT_NE(place, own.notes.loading.stations.end());
    const auto byBallast = [&](const Sortie& s, std::size_t* all) {
        const auto cures = advice::loadCures(own, s, flight::fly(own, s));
        *all = cures.size();
        const auto found = std::find_if(cures.begin(), cures.end(),
                                        [](const auto& c) { return c.kind == advice::LoadCure::Kind::ballast; });
        return found == cures.end() ? 0.0 : found->sortie.load.stations.at(place->id).si();
    };
    std::size_t all = 0;
    const double wanted = byBallast(*d.sortie, &all);
    ASSERT_GT(wanted, 0.0);
    // Six tenths of it lie there already: four are wanted, and there is room for three, then for six.
    Sortie s = *d.sortie;
    s.load.stations[place->id] = Mass::si(0.6 * wanted);
    place->most = Mass::si(0.9 * wanted);
    EXPECT_EQ(byBallast(s, &all), 0.0);
    EXPECT_GT(all, 0u) << "other cures there are";
    place->most = Mass::si(1.2 * wanted);
    EXPECT_NEAR(byBallast(s, &all), wanted, 0.2 * wanted);
}

} // namespace amber
