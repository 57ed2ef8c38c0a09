// SPDX-License-Identifier: GPL-3.0-or-later
// Scripts of levers: every key moves its own lever by what is written, of one engine or of all; the trembling of a
// rough engine's needles is even to both sides.
#include "powerplant/powerplant.h"
#include "script/script.h"
#include "test_data.h"
#include <cmath>
#include <functional>

namespace amber {
namespace {
using namespace powerplant;
using test::loaded;

/// The levers of a demo's aircraft after one step of a script, and what it flies.
struct After {
    explicit After(const std::string& lines, const std::string& demo = "lorimer-spring", int steps = 1)
        : sortie(loaded(demo)), plant(*sortie.aircraft, sortie.sortie->fuelGrade), day(sortie.sortie->day) {
        Problems problems;
        const auto read =
            readScript("time,engine,what,value\n" + lines, "script.csv", sortie.aircraft->notes, problems);
        EXPECT_TRUE(read) << lines << (problems.empty() ? "" : problems.front().text());
        if (!read)
            return;
        script = *read;
        ScriptRun run(plant, script, day, Temperature::si(288.15));
        for (int i = 0; i < steps; ++i)
            readings = run.step();
        levers = run.levers();
        state = run.state();
    }
    const flight::LoadedSortie& sortie;
    Powerplant plant;
    air::Day day;
    Script script;
    Levers levers;
    AircraftState state;
    AircraftReadings readings;
};

TEST(ScriptKeys, EachMovesItsOwnLeverOfItsEngineAlone) {
    using Of = std::function<double(const EngineLevers&)>;
    const std::vector<std::tuple<std::string, std::string, Of, double>> keys{
        {"cock", "on", [](const EngineLevers& l) -> double { return l.cock; }, 1},
        {"booster", "on", [](const EngineLevers& l) -> double { return l.booster; }, 1},
        {"cut-off", "off", [](const EngineLevers& l) -> double { return l.cutOff; }, 0},
        {"mixture", "weak", [](const EngineLevers& l) -> double { return l.mixture == Mixture::weak; }, 1},
        {"mixture", "0.07", [](const EngineLevers& l) -> double { return l.byHand; }, 0.07},
        {"throttle", "0.6",
         [](const EngineLevers& l) -> double { return l.throttle.by == Throttle::By::place ? l.throttle.value : -1; },
         0.6},
        {"boost", "\"30 inHg\"",
         [](const EngineLevers& l) -> double {
             return l.throttle.by == Throttle::By::boost ? l.throttle.value / 3386.389 : -1;
         },
         30},
        {"rpm-by-throttle", "1200",
         [](const EngineLevers& l) -> double {
             return l.throttle.by == Throttle::By::rpm ? l.throttle.value * 60 : -1;
         },
         1200},
        {"rpm", "2100 rpm", [](const EngineLevers& l) -> double { return l.rpm * 60; }, 2100},
        {"coarse", "off", [](const EngineLevers& l) -> double { return l.coarse; }, 0},
        {"feather", "on", [](const EngineLevers& l) -> double { return l.feather; }, 1},
        {"gear", "high", [](const EngineLevers& l) -> double { return static_cast<double>(l.gear); }, 1},
        {"cooling-flap", "0.3", [](const EngineLevers& l) -> double { return l.coolingFlap; }, 0.3},
        {"oil-cooler", "0.2", [](const EngineLevers& l) -> double { return l.oilCooler; }, 0.2},
        {"intercooler", "0.4", [](const EngineLevers& l) -> double { return l.intercooler; }, 0.4},
        {"hot-air", "0.7", [](const EngineLevers& l) -> double { return l.hotAir; }, 0.7},
        {"turbo", "0.8", [](const EngineLevers& l) -> double { return l.turbo; }, 0.8},
        {"water", "on", [](const EngineLevers& l) -> double { return l.water; }, 1},
        {"ignition", "left", [](const EngineLevers& l) -> double { return l.ignition == Ignition::left; }, 1},
        {"energise", "on", [](const EngineLevers& l) -> double { return l.energise; }, 1},
        {"starter", "on", [](const EngineLevers& l) -> double { return l.mesh; }, 1},
        {"booster-coil", "on", [](const EngineLevers& l) -> double { return l.boosterCoil; }, 1},
        {"oil-thinning", "0.5", [](const EngineLevers& l) -> double { return l.thinning; }, 0.5},
    };
    const After untouched("0,,battery,on\n");
    for (const auto& [key, value, of, wanted] : keys) {
        const After one("0,2," + key + "," + value + "\n");
        ASSERT_EQ(one.levers.engines.size(), 2u) << key;
        EXPECT_NEAR(of(one.levers.engines[1]), wanted, 1e-4) << key;
        EXPECT_EQ(one.levers.engines[0], untouched.levers.engines[0]) << key << ": the other engine's too";
        EXPECT_GT(std::abs(of(untouched.levers.engines[1]) - wanted), 0.01) << key << ": nothing to see";
        EXPECT_EQ(one.levers.shared, untouched.levers.shared) << key;
        const After all("0,all," + key + "," + value + "\n");
        EXPECT_NEAR(of(all.levers.engines[0]), wanted, 1e-4) << key;
        EXPECT_NEAR(of(all.levers.engines[1]), wanted, 1e-4) << key;
    }
}

TEST(ScriptKeys, WhatBelongsToNoEngineAndWhatIsNow) {
    EXPECT_FALSE(After("0,,battery,off\n").levers.shared.battery);
    EXPECT_FALSE(After("0,,generators,off\n").levers.shared.generators);
    EXPECT_TRUE(After("0,,cart,on\n").levers.shared.cart);
    EXPECT_FALSE(After("0,,battery,off\n0,,cart,on\n0,,battery,on\n0,,cart,off\n").levers.shared.cart);
    const After flown("0,,path,descend\n0,,rate,-600 ft/min\n0,,ias,150 kt\n0,,height,\"6,000 ft\"\n");
    EXPECT_EQ(flown.levers.path.kind, Path::Kind::rateHeld);
    EXPECT_NEAR(flown.levers.path.rate, -600 * 0.3048 / 60, 1e-6);
    EXPECT_NEAR(flown.levers.path.ias, 150 * 0.514444, 1e-3);
    EXPECT_NEAR(flown.state.height, 6000 * 0.3048, 1.0);
    // A weight is all up, whatever fuel is aboard; contents fill every tank and no tank above what it takes.
    const After heavy("0,,weight,\"25,000 lb\"\n0,,contents,40 l\n0,,weight,\"24,000 lb\"\n");
    EXPECT_NEAR(heavy.plant.weight(heavy.state).si(), 24000 * 0.45359237, 0.5);
    for (std::size_t i = 0; i < heavy.state.tanks.size(); ++i)
        EXPECT_NEAR(heavy.state.tanks[i], std::min(0.040, heavy.sortie.aircraft->notes.fuel.tanks[i].usable.si()),
                    1e-6);
    const After warm("0,1,head,120 °C\n0,1,oil,55 °C\n");
    EXPECT_NEAR(warm.state.engines[0].headOrCoolant, 393.15, 0.1);
    EXPECT_NEAR(warm.state.engines[0].oil, 328.15, 0.1);
    EXPECT_NEAR(warm.state.engines[1].oil, 288.15, 0.1);
}

TEST(ScriptKeys, DosesAreGivenOneAfterTheOtherInTheNotesTime) {
    const auto& notes = loaded("lorimer-spring").aircraft->notes;
    const double time = notes.start.primeTime.si();
    ASSERT_GE(time, 0.2);
    const auto given = [](double doses, int steps) {
        const After a("0,1,prime," + std::to_string(doses) + "\n", "lorimer-spring", steps);
        return a.state.engines[0].taken;
    };
    const int whole = static_cast<int>(std::lround(time * 10));
    const double one = given(1, whole + 1);
    EXPECT_GT(one, 0);
    EXPECT_NEAR(given(3, 3 * whole + 1), 3 * one, 0.01 * one);
    EXPECT_NEAR(given(3, whole), one, 0.15 * one) << "the others follow";
    EXPECT_NEAR(given(1, 5 * whole), one, 1e-9) << "and no more comes";
}

TEST(ScriptKeys, AFaultIsThereFromItsTimeUntilNone) {
    const std::string running =
        "0,,height,\"8,000 ft\"\n0,,ias,180 kt\n0,,path,level\n0,all,cock,on\n0,all,ignition,both\n"
        "0,all,cut-off,off\n0,all,head,170 °C\n0,all,oil,70 °C\n0,all,rpm,2000 rpm\n"
        "0,all,boost,\"32 inHg\"\n0,all,running,on\n";
    const After sound(running, "lorimer-spring", 60);
    const After dead(running + "2,1,fault,dead\n", "lorimer-spring", 60);
    EXPECT_FALSE(dead.state.engines[0].firing);
    EXPECT_TRUE(dead.state.engines[1].firing);
    EXPECT_NEAR(dead.state.engines[1].n, sound.state.engines[1].n, 0.2);
    const After before(running + "2,1,fault,dead\n", "lorimer-spring", 15);
    EXPECT_TRUE(before.state.engines[0].firing);
    const After cured(running + "2,1,fault,dead\n3,1,fault,none\n", "lorimer-spring", 120);
    EXPECT_TRUE(cured.state.engines[0].firing);
}

TEST(Trembling, IsEvenToBothSidesAndLeavesTemperaturesAlone) {
    const After a("0,,path,standing\n");
    AircraftReadings rough = a.readings;
    auto& engine = rough.engines[0];
    engine.signs.shake = 1.0;
    engine[Gauge::rpm] = 30.0;
    engine[Gauge::oilTemperature] = 350.0;
    rough.engines[1].signs.shake = 0.0;
    double sum = 0, least = 1e9, most = 0;
    constexpr int times = 4000;
    for (int i = 0; i < times; ++i) {
        const auto shaken = trembling(rough, 7, i * 100);
        sum += shaken.engines[0][Gauge::rpm];
        least = std::min(least, shaken.engines[0][Gauge::rpm]);
        most = std::max(most, shaken.engines[0][Gauge::rpm]);
        EXPECT_EQ(shaken.engines[0][Gauge::oilTemperature], 350.0);
        EXPECT_EQ(shaken.engines[1][Gauge::rpm], rough.engines[1][Gauge::rpm]);
    }
    const double widest = (most - least) / 2;
    EXPECT_GT(widest, 0.1);
    EXPECT_NEAR((most + least) / 2, 30.0, 0.02 * widest);
    EXPECT_NEAR(sum / times, 30.0, 4 * widest / std::sqrt(3.0 * times)) << "four standard errors of an even spread";
    // Half the shake, half the width.
    engine.signs.shake = 0.5;
    double half = 0;
    for (int i = 0; i < times; ++i)
        half = std::max(half, std::abs(trembling(rough, 7, i * 100).engines[0][Gauge::rpm] - 30.0));
    EXPECT_NEAR(half, widest / 2, 0.02 * widest);
}
} // namespace
} // namespace amber
