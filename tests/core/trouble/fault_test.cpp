// SPDX-License-Identifier: GPL-3.0-or-later
// Every fault by what it shows, from stepping it: engine 1 has it, its sister does not, in a cruise; the difference is
// the fault's own. Directions and sizes are those of the crew's table of signs, not of the code.
#include "running_engines.h"
#include "script/script.h"
#include "test_data.h"
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <set>

namespace amber {
namespace {
using namespace powerplant;
using test::loaded;

/// Both engines of the twin after some time with a fault on the first.
struct Pair {
    EngineReadings sick, well;
    EngineState sickState;
    double yaw = 0.0, volts = 0.0;
    std::set<std::string> seen; ///< sounds, smokes, smells and fluids since the fault
    double shake = 0.0;
    [[nodiscard]] double off(Gauge g) const { return sick[g] - well[g]; }
    [[nodiscard]] double share(Gauge g) const { return sick[g] / well[g] - 1; }
};
const std::string air =
    "0,,height,\"6,000 ft\"\n0,,ias,170 kt\n0,,path,descend\n0,all,cock,on\n0,all,ignition,both\n0,all,cut-off,off\n"
    "0,all,cooling-flap,0.3\n0,all,head,180 °C\n0,all,oil,72 °C\n0,all,rpm,2100 rpm\n";
const std::string cruise = air + "0,all,gear,low\n0,all,boost,32 inHg\n0,all,running,on\n";
const std::string power = air + "0,all,gear,low\n0,all,rpm,2400 rpm\n0,all,boost,38 inHg\n0,all,running,on\n";
const std::string idle =
    "0,,cart,on\n0,all,cock,on\n0,all,ignition,both\n0,all,cut-off,off\n0,all,head,120 °C\n0,all,oil,50 °C\n"
    "0,all,rpm-by-throttle,900 rpm\n0,all,running,on\n";

Pair after(double seconds, const std::string& fault, const std::string& setting = cruise, const std::string& more = {},
           const std::string& demo = "lorimer-spring") {
    const auto& l = loaded(demo);
    const std::string one = l.aircraft->notes.positions.front().id;
    Problems problems;
    const auto script = readScript("time,engine,what,value\n" + setting +
                                       (fault.empty() ? "" : "60," + one + ",fault," + fault + "\n") + more,
                                   "s.csv", l.aircraft->notes, problems);
    EXPECT_TRUE(script) << (problems.empty() ? "" : problems.front().text());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    air::Day day = l.sortie->day;
    day.dewPoint = Temperature::of(-30, units::celsius); // no ice but the fault's own
    ScriptRun run(plant, *script, day, Temperature::of(15, units::celsius));
    Pair out;
    while (run.state().now < static_cast<Milliseconds>((60 + seconds) * 1000)) {
        run.step();
        if (run.state().now > 60'000) {
            const Signs& g = run.readings().engines[0].signs;
            for (const auto word : {nameOf(g.smoke), nameOf(g.smell), nameOf(g.cowl), nameOf(g.sound)})
                out.seen.insert(std::string(word));
            if (g.propellerLeverDead)
                out.seen.insert("lever dead");
            if (g.oneHeadCold)
                out.seen.insert("one head cold");
            out.shake = std::max(out.shake, g.shake);
        }
    }
    out.sick = run.readings().engines.front();
    out.well = run.readings().engines.back();
    out.sickState = run.state().engines.front();
    out.yaw = run.readings().yaw;
    out.volts = run.state().volts;
    return out;
}
constexpr double psi = 6894.757, inHg = 3386.389;
const Gauge heads = Gauge::headTemperature, oilT = Gauge::oilTemperature, oilP = Gauge::oilPressure;

TEST(Fault, WithoutOneTheSistersAreAlike) {
    const Pair p = after(120, "");
    for (const auto& row : gaugeRegister)
        if (p.well.has(row.gauge) && row.gauge != Gauge::amperes && row.gauge != Gauge::hydraulicPressure)
            EXPECT_EQ(p.sick[row.gauge], p.well[row.gauge]) << row.key;
    EXPECT_EQ(p.shake, 0.0);
}

// ---------------------------------------------------------------- oil

TEST(Fault, OilLostShowsInContentsThenHeatThenNothing) {
    const Pair early = after(180, "oil-lost"), late = after(1500, "oil-lost");
    EXPECT_LT(early.share(Gauge::oilContents), -0.1);
    EXPECT_TRUE(early.seen.contains("oil on the cowl"));
    EXPECT_NEAR(early.off(oilP) / psi, 0.0, 3.0) << "the pressure says nothing yet";
    EXPECT_LT(late.sick[oilP], 0.3 * late.well[oilP]);
    EXPECT_GT(late.sickState.bearing, 0.5);
}

TEST(Fault, OilPumpAndItsGaugeDifferInTheLeverAndInTime) {
    const Pair pump = after(20, "oil-pump", cruise, {}, "mercer-frost"),
               gauge = after(20, "oil-pressure-gauge", cruise, {}, "mercer-frost");
    EXPECT_LT(pump.sick[oilP], psi);
    EXPECT_LT(gauge.sick[oilP], psi);
    EXPECT_TRUE(pump.seen.contains("lever dead"));
    EXPECT_GT(pump.share(Gauge::rpm), 0.05) << "to its fail side, fine";
    EXPECT_FALSE(gauge.seen.contains("lever dead"));
    EXPECT_EQ(gauge.share(Gauge::rpm), 0.0);
    EXPECT_EQ(after(300, "oil-pressure-gauge").off(oilT), 0.0);
    EXPECT_EQ(after(300, "oil-pressure-gauge").shake, 0.0);
}

TEST(Fault, ReliefValveStepsDownFollowsTheRpmAndIsNotHot) {
    const Pair p = after(120, "relief-valve"),
               slower = after(120, "relief-valve",
                              air + "0,all,gear,low\n0,all,rpm,1600 rpm\n0,all,boost,26 inHg\n0,all,running,on\n");
    EXPECT_LT(p.share(oilP), -0.4);
    EXPECT_LT(slower.sick[oilP], 0.92 * p.sick[oilP]);
    EXPECT_NEAR(p.off(oilT), 0.0, 1.0);
    EXPECT_EQ(p.shake, 0.0);
}

TEST(Fault, CongealedGetsWorseOpenedCloggedDoesNot) {
    const Pair open = after(600, "cooler-congealed"),
               shut = after(600, "cooler-congealed", cruise + "0,all,oil-cooler,0.3\n");
    EXPECT_GT(open.off(oilT), 8.0);
    EXPECT_LT(open.off(oilP), -1.0 * psi);
    EXPECT_GT(open.sick[oilT], shut.sick[oilT] + 3.0) << "less air through it, more oil";
    const Pair clogged = after(600, "cooler-clogged", power);
    EXPECT_GT(clogged.off(oilT), 10.0);
    EXPECT_LT(clogged.off(oilP), -1.0 * psi);
}

TEST(Fault, ABearingIsHotShakesAndItsPressureFlickers) {
    const Pair p = after(300, "bearing");
    EXPECT_GT(p.off(oilT), 8.0);
    EXPECT_LT(p.share(oilP), -0.4);
    EXPECT_GT(p.shake, 0.3);
    EXPECT_TRUE(p.seen.contains("smell of hot oil"));
}

TEST(Fault, ARingSmokesBlueAndCostsPower) {
    const Pair p = after(300, "ring");
    EXPECT_LT(p.share(Gauge::torque), -0.15);
    EXPECT_GT(p.off(oilT), 5.0);
    EXPECT_TRUE(p.seen.contains("blue smoke"));
    EXPECT_NEAR(p.share(Gauge::rpm), 0.0, 0.01) << "under a governor lost power does not show in the rpm";
    EXPECT_NEAR(p.off(Gauge::boost) / inHg, 0.0, 0.1);
}

// ---------------------------------------------------------------- ignition

TEST(Fault, FoulingClearsByABurstADeadLeadDoesNot) {
    const auto drop = [](const std::string& fault, const std::string& before) { // of rpm, on the right magneto
        const auto& l = loaded("lorimer-spring");
        Problems problems;
        const auto script =
            readScript("time,engine,what,value\n0,1,fault," + fault + "\n" + idle + "1,1,fault," + fault +
                           "\n20,all,boost,30 inHg\n" + before + "100,all,throttle,0.5\n140,1,ignition,right\n",
                       "s.csv", l.aircraft->notes, problems);
        const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
        air::Day day = l.sortie->day;
        day.dewPoint = Temperature::of(-30, units::celsius);
        ScriptRun run(plant, *script, day, Temperature::of(15, units::celsius));
        double both = 0;
        while (run.state().now < 155'000) {
            run.step();
            if (run.state().now == 139'000)
                both = run.state().engines[0].n;
        }
        return (both - run.state().engines[0].n) * 60;
    };
    const double sound = drop("timing-late 0", "");
    EXPECT_GT(sound, 20) << "one plug of two burns slower";
    EXPECT_LT(sound, 120);
    EXPECT_GT(drop("dead-lead", ""), sound + 20);
    EXPECT_NEAR(drop("dead-lead", "30,all,boost,42 inHg\n90,all,boost,30 inHg\n"), drop("dead-lead", ""), 8)
        << "a burst does nothing";
    EXPECT_GT(drop("fouled-plugs", ""), sound + 40);
    // What was fouled fires again.
    EXPECT_NEAR(drop("fouled-plugs", "30,all,boost,42 inHg\n90,all,boost,30 inHg\n"), sound, 12);
}

TEST(Fault, ADeadMagnetoIsSilentWhenChosenAndAnUnearthedOneRunsOn) {
    const Pair p = after(60, "magneto-dead");
    EXPECT_NEAR(p.share(Gauge::power), -0.08, 0.03);
    EXPECT_NEAR(p.off(Gauge::exhaustTemperature), 40.0, 8.0) << "one flame burns longer, and leaves hotter";
    EXPECT_LT(after(10, "magneto-dead", cruise, "62,1,ignition,left\n").sick.shaft, 0.0);
    EXPECT_GT(after(10, "magneto-dead", cruise, "62,1,ignition,right\n").sick.shaft, 0.0);
    EXPECT_LT(after(10, "", cruise, "62,1,ignition,off\n").sick.shaft, 0.0);
    EXPECT_GT(after(10, "not-earthing", cruise, "62,1,ignition,off\n").sick.shaft, 0.0) << "live with the switch off";
}

TEST(Fault, LateTimingIsASmoothLoss) {
    const Pair p = after(60, "timing-late");
    EXPECT_NEAR(p.share(Gauge::power), -0.2, 0.06);
    EXPECT_NEAR(p.off(Gauge::exhaustTemperature), 60.0, 10.0);
    EXPECT_EQ(p.shake, 0.0);
}

TEST(Fault, ExhaustIsHottestAtItsMixtureAndColderRichWeakAndThrottled) {
    engine::OperatingPoint p;
    p.chargeTemperature = Temperature::of(60, units::celsius);
    const auto celsius = [&](double ratio, double share) { return exhaustTemperature(p, ratio, share) - 273.15; };
    EXPECT_NEAR(celsius(0.067, 1.0), 870, 0.1);
    EXPECT_NEAR(celsius(0.085, 1.0), 870 - 18 * 6, 0.1); // 6 K for each thousandth
    EXPECT_NEAR(celsius(0.060, 1.0), 870 - 7 * 8, 0.1);
    EXPECT_NEAR(celsius(0.067, 0.5), 870 - 55, 0.1); // a quarter of 220
    EXPECT_NEAR(exhaustTemperature(p, 0.5, 1.0), p.chargeTemperature.si(), 1e-9) << "never colder than its charge";
}

// ---------------------------------------------------------------- induction and fuel

TEST(Fault, CarburettorIceTakesBoostHeatGivesItBack) {
    const std::string fixed = air + "0,all,gear,low\n0,all,throttle,0.45\n0,all,running,on\n";
    const Pair p = after(240, "carburettor-ice", fixed),
               hot = after(360, "carburettor-ice", fixed, "300,1,hot-air,1\n");
    EXPECT_LT(p.sickState.ice, 0.96);
    EXPECT_GT(p.sickState.ice, 0.4);
    EXPECT_LT(p.share(Gauge::power), -0.15);
    EXPECT_LT(hot.sickState.ice, 0.2);
    EXPECT_GT(hot.sick[Gauge::boost], p.sick[Gauge::boost]);
}

/// 12 g of water freeze out of each kilogram of air; a kilogram in an engine of one kilogram of air a second closes
/// half the passage. Of the rated air flow f that is 12e-3 × f × 0.5 a second: at two thirds of it 0.24 in a minute.
TEST(Fault, CarburettorIceGrowsAtItsRate) {
    const Pair a = after(30, "carburettor-ice"), b = after(90, "carburettor-ice");
    const double perMinute = b.sickState.ice - a.sickState.ice;
    EXPECT_GT(perMinute, 0.17) << "the cruise draws half of the rated air at least";
    EXPECT_LT(perMinute, 0.30);
    const Pair half = after(90, "carburettor-ice 0.5");
    EXPECT_NEAR(half.sickState.ice / b.sickState.ice, 0.5, 0.05) << "half the water, half the ice";
}

TEST(Fault, HotAirStuckWarmsTheChargeAndCostsPower) {
    const Pair p = after(60, "air-door-hot");
    EXPECT_GT(p.off(Gauge::carburettorAir), 25.0);
    EXPECT_GT(p.off(Gauge::chargeTemperature), 25.0);
    EXPECT_LT(p.share(Gauge::power), -0.03);
}

TEST(Fault, TankPumpLeakAndGaugeAreToldApart) {
    const Pair dry = after(40, "tank-dry"), pump = after(60, "fuel-pump", power),
               boosted = after(60, "fuel-pump", power, "80,1,booster,on\n"), leak = after(60, "fuel-leak"),
               gauge = after(60, "fuel-pressure-gauge");
    EXPECT_LT(dry.sick[Gauge::fuelPressure], psi);
    EXPECT_LT(dry.sick.shaft, 0.0);
    EXPECT_GT(dry.yaw, 0.3);
    EXPECT_LT(pump.share(Gauge::fuelPressure), -0.5);
    EXPECT_NEAR(boosted.share(Gauge::fuelPressure), -0.15, 0.1) << "the booster restores it";
    EXPECT_FALSE(pump.seen.contains("smell of fuel"));
    EXPECT_TRUE(leak.seen.contains("smell of fuel"));
    EXPECT_TRUE(leak.seen.contains("fuel on the cowl"));
    EXPECT_LT(leak.share(Gauge::fuelPressure), -0.1);
    EXPECT_GT(leak.share(Gauge::fuelFlow), 0.2) << "it is metered before the leak";
    EXPECT_LT(gauge.sick[Gauge::fuelPressure], psi);
    EXPECT_EQ(gauge.off(Gauge::fuelFlow), 0.0);
    EXPECT_EQ(gauge.off(Gauge::torque), 0.0);
}

TEST(Fault, VapourLockIsCuredByTheBooster) {
    const Pair p = after(60, "vapour-lock"), cured = after(120, "vapour-lock", cruise, "100,1,booster,on\n");
    EXPECT_LT(p.share(Gauge::fuelPressure), -0.4);
    EXPECT_GT(cured.sick[Gauge::fuelPressure], 0.7 * cured.well[Gauge::fuelPressure]);
}

TEST(Fault, RichSmokesBlackLeanRunsHotAndRough) {
    const Pair rich = after(120, "rich"), lean = after(120, "lean 0.7");
    EXPECT_GT(rich.share(Gauge::fuelFlow), 0.3);
    EXPECT_LT(rich.share(Gauge::power), -0.03);
    EXPECT_LT(rich.off(heads), -5.0);
    EXPECT_TRUE(rich.seen.contains("black smoke"));
    EXPECT_LT(lean.share(Gauge::fuelFlow), -0.15);
    EXPECT_LT(lean.share(Gauge::power), -0.05);
    EXPECT_GT(lean.shake, 0.1);
    EXPECT_TRUE(after(60, "lean").seen.contains("backfire")) << "altogether lean it spits back";
}

TEST(Fault, AnInductionLeakRaisesTheIdleBoostAndWhistlesBoosted) {
    const std::string fixed =
        "0,,cart,on\n0,all,cock,on\n0,all,ignition,both\n0,all,cut-off,off\n0,all,head,120 °C\n0,all,oil,50 °C\n"
        "0,all,throttle,0.0\n0,all,running,on\n0,all,rpm-by-throttle,800 rpm\n40,all,throttle,0.02\n";
    const Pair p = after(40, "induction-leak", fixed);
    EXPECT_GT(p.off(Gauge::boost) / inHg, 1.0);
    EXPECT_GT(p.shake, 0.1);
    EXPECT_TRUE(after(20, "induction-leak", power).seen.contains("whistle"));
}

TEST(Fault, BoostBackCuresDetonationNotPreIgnition) {
    const Pair knock = after(90, "detonation", power),
               eased = after(240, "detonation", power, "150,1,boost,24 inHg\n150,2,boost,24 inHg\n");
    EXPECT_GT(knock.off(heads), 15.0);
    EXPECT_GT(knock.sick.knock, 0.5);
    EXPECT_TRUE(knock.seen.contains("black puffs"));
    EXPECT_EQ(eased.sick.knock, 0.0);
    EXPECT_LT(eased.off(heads), 0.5 * knock.off(heads));
    const Pair early = after(90, "pre-ignition", power),
               still = after(240, "pre-ignition", power, "150,1,boost,24 inHg\n150,2,boost,24 inHg\n");
    EXPECT_GT(early.off(heads), 25.0);
    EXPECT_LT(early.share(Gauge::power), -0.25);
    EXPECT_TRUE(early.seen.contains("bangs"));
    EXPECT_GT(still.off(heads), 0.6 * early.off(heads));
}

TEST(Fault, BoostControlHuntsInThreeSeconds) {
    const auto& l = loaded("lorimer-spring");
    Problems problems;
    const auto script = readScript("time,engine,what,value\n" + cruise + "60,1,fault,boost-control\n", "s.csv",
                                   l.aircraft->notes, problems);
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    ScriptRun run(plant, *script, l.sortie->day, Temperature::of(15, units::celsius));
    double low = 1e9, high = 0;
    int turns = 0;
    double last = 0, before = 0;
    while (run.state().now < 90'000) {
        run.step();
        const double b = run.state().engines[0].manifold;
        if (run.state().now > 62'000) {
            low = std::min(low, b);
            high = std::max(high, b);
            turns += last > before && b < last ? 1 : 0;
        }
        before = last;
        last = b;
    }
    EXPECT_GT(high - low, 2.0 * inHg);
    EXPECT_NEAR(turns, 28 / 3.0, 1.5);
}

TEST(Fault, TheClutchSlipsInHighOnly) {
    const std::string high =
        air + "0,all,gear,high\n0,all,throttle,1\n0,all,rpm,2300 rpm\n0,all,running,on\n0,,height,\"15,000 ft\"\n";
    const Pair p = after(120, "clutch-slips", high), low = after(120, "clutch-slips");
    EXPECT_LT(p.off(Gauge::boost) / inHg, -3.0);
    EXPECT_LT(p.off(Gauge::chargeTemperature), -10.0);
    EXPECT_GT(p.off(oilT), 2.0);
    EXPECT_NEAR(low.off(Gauge::boost) / inHg, 0.0, 0.05);
    EXPECT_NEAR(low.off(Gauge::power), 0.0, 500.0);
}

TEST(Fault, TheBoostGaugesLineReadsTowardsTheOutsideAndNothingElseMoves) {
    const Pair low = after(30, "boost-gauge-line"), atIdle = after(30, "boost-gauge-line", idle);
    EXPECT_LT(low.off(Gauge::boost) / inHg, -3.0) << "at power low";
    EXPECT_GT(atIdle.off(Gauge::boost) / inHg, 8.0) << "at idle high";
    EXPECT_EQ(low.off(Gauge::torque), 0.0);
    EXPECT_EQ(low.off(Gauge::fuelFlow), 0.0);
}

// ---------------------------------------------------------------- propeller, cooling, electrics

TEST(Fault, RunawayHowlsPitchFixedFollowsTheThrottleATachometerIsAlone) {
    const Pair away = after(30, "governor-runaway");
    EXPECT_GT(away.share(Gauge::rpm), 0.15);
    EXPECT_TRUE(away.seen.contains("howl"));
    EXPECT_TRUE(away.seen.contains("lever dead"));
    const Pair fixed = after(30, "pitch-fixed", cruise, "65,all,boost,26 inHg\n");
    EXPECT_LT(fixed.share(Gauge::rpm), -0.03) << "the sister's governor holds";
    EXPECT_NEAR(fixed.well[Gauge::rpm] * 60, 2100, 15);
    const Pair tacho = after(30, "tachometer");
    EXPECT_EQ(tacho.sick[Gauge::rpm], 0.0);
    EXPECT_EQ(tacho.off(Gauge::torque), 0.0);
}

TEST(Fault, AFlapStuckShutHeatsCoolantLostDriesTheBulb) {
    EXPECT_GT(after(300, "flap-shut", power + "0,all,cooling-flap,0.8\n").off(heads), 15.0);
    const auto solo = [](double seconds, const std::string& fault) { // liquid-cooled, one engine: itself without
        const std::string at = "0,,height,\"6,000 ft\"\n0,,ias,200 "
                               "mph\n0,,path,descend\n0,all,cock,on\n0,all,ignition,both\n0,all,cut-off,off\n"
                               "0,all,cooling-flap,0.4\n0,all,head,95 °C\n0,all,oil,70 °C\n0,all,rpm,2400 "
                               "rpm\n0,all,boost,4 lb\n0,all,running,on\n";
        return after(seconds, fault, at, {}, "farrier-summer");
    };
    const Pair lost = solo(100, "coolant-lost"), sound = solo(100, ""), dry = solo(400, "coolant-lost");
    EXPECT_GT(lost.sick[Gauge::coolantTemperature], sound.sick[Gauge::coolantTemperature] + 15);
    EXPECT_TRUE(lost.seen.contains("sweet smell"));
    EXPECT_TRUE(lost.seen.contains("white vapour"));
    EXPECT_LT(dry.sick[Gauge::coolantTemperature], dry.sickState.headOrCoolant - 30) << "a dry bulb reads the air";
}

TEST(Fault, AValveBeatsTheSameOnBothMagnetos) {
    const Pair p = after(60, "valve"), right = after(60, "valve", cruise, "62,all,ignition,right\n");
    const double one = 1.0 / loaded("lorimer-spring").aircraft->notes.engine.cylinders;
    EXPECT_LT(p.share(Gauge::power), -0.9 * one);
    EXPECT_TRUE(p.seen.contains("beat"));
    EXPECT_TRUE(p.seen.contains("one head cold"));
    EXPECT_FALSE(after(60, "dead-lead").seen.contains("one head cold")) << "its other plug fires";
    EXPECT_NEAR(right.share(Gauge::power), p.share(Gauge::power), 0.02);
}

TEST(Fault, WithoutItsGeneratorTheVoltsSag) {
    // The starboard engine has the only generator.
    const auto& l = loaded("lorimer-spring");
    Problems problems;
    const auto volts = [&](const std::string& fault) {
        const auto script =
            readScript("time,engine,what,value\n" + cruise + fault, "s.csv", l.aircraft->notes, problems);
        const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
        ScriptRun run(plant, *script, l.sortie->day, Temperature::of(15, units::celsius));
        while (run.state().now < 1'800'000)
            run.step();
        return std::pair{run.state().volts, run.readings().engines[1][Gauge::amperes]};
    };
    const auto sound = volts(""), failed = volts("60,2,fault,generator\n");
    EXPECT_NEAR(sound.first, 1.19 * l.aircraft->notes.start.battery.volts, 0.1);
    EXPECT_LT(failed.first, 1.06 * l.aircraft->notes.start.battery.volts);
    EXPECT_EQ(failed.second, 0.0);
    EXPECT_GT(sound.second, 5.0);
}

TEST(Fault, TheElectricGaugesFallTogetherTheDirectOnesStand) {
    const Pair p = after(20, "gauge-supply");
    EXPECT_LT(p.sick[heads], 240.0);
    EXPECT_LT(p.sick[oilT], 240.0);
    EXPECT_EQ(p.off(oilP), 0.0);
    EXPECT_EQ(p.off(Gauge::rpm), 0.0);
    EXPECT_EQ(p.off(Gauge::boost), 0.0);
}

TEST(Fault, AStuckStarterDrawsAndWhinesALockedEngineStalls) {
    const Pair stuck = after(20, "starter-stuck", idle);
    EXPECT_GT(stuck.sick.starterAmperes, 50.0);
    EXPECT_TRUE(stuck.seen.contains("whine"));
    const std::string crank = "0,,cart,on\n0,all,energise,on\n70,all,starter,on\n";
    const Pair locked = after(30, "hydraulic-lock", crank);
    EXPECT_EQ(locked.sick[Gauge::rpm], 0.0);
    EXPECT_GT(locked.well[Gauge::rpm] * 60, 30.0);
    EXPECT_GT(locked.sick.starterAmperes, locked.well.starterAmperes);
}

TEST(Fault, ADeadEngineWindmillsWithYawAndItsThrottleAltersNothing) {
    const Pair p = after(120, "dead");
    EXPECT_GT(p.yaw, 0.4);
    EXPECT_LT(p.sick.shaft, 0.0);
    EXPECT_LT(p.off(heads), -40.0);
    EXPECT_NEAR(p.share(Gauge::rpm), 0.0, 0.02) << "the governor holds it up";
    EXPECT_NEAR(p.off(Gauge::boost) / inHg, 0.0, 0.2) << "and the boost is as set";
    const Pair closed = after(120, "dead", cruise, "100,1,throttle,0\n");
    EXPECT_NEAR(closed.yaw, p.yaw, 0.06);
}

TEST(Fault, WaterThatFailsHeatsTheChargeAndTheHeads) {
    // A type with water injection, at its wet boost.
    for (const auto& name : test::demoNames()) {
        const auto& n = loaded(name).aircraft->notes;
        const auto wet = std::find_if(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.water; });
        if (wet == n.ratings.end())
            continue;
        std::string low = air; // where that boost is reached
        low.replace(low.find("6,000"), 5, "300");
        const std::string at =
            low + fmt::format("0,all,rpm,{:.0f} rpm\n0,all,boost,{:.2f} kPa\n0,all,water,on\n0,all,running,on\n",
                              wet->rpm.si() * 60, wet->boost->si() / 1000);
        const Pair wetNow = after(60, "", at, {}, name), failed = after(60, "water-fails", at, {}, name);
        EXPECT_GT(wetNow.sick[Gauge::waterPressure], 1e5) << name;
        EXPECT_LT(failed.sick[Gauge::waterPressure], 1e4) << name;
        EXPECT_GT(failed.sick[Gauge::chargeTemperature], wetNow.sick[Gauge::chargeTemperature] + 15) << name;
        EXPECT_GE(failed.sick.knock, wetNow.sick.knock) << name;
    }
}

TEST(Fault, AWasteGateStuckShutOverboosts) {
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        if (!l.aircraft->model().turbo)
            continue;
        const std::string at = air + "0,all,throttle,0.5\n0,all,running,on\n0,,height,\"12,000 ft\"\n";
        EXPECT_GT(after(60, "waste-gate", at, {}, name).sick[Gauge::boost],
                  1.08 * after(60, "", at, {}, name).sick[Gauge::boost])
            << name;
    }
}

TEST(Fault, NoSparkIsWetAndSilent) {
    const std::string crank =
        "0,,cart,on\n0,all,cock,on\n0,all,booster,on\n0,all,throttle,0.15\n0,all,energise,on\n30,all,prime,3\n"
        "60,all,ignition,both\n60,all,booster-coil,on\n60,all,starter,on\n";
    const Pair p = after(40, "no-spark", crank);
    EXPECT_FALSE(p.sickState.firing);
    EXPECT_LT(p.sick[Gauge::rpm] * 60, 60.0);
    EXPECT_GT(p.sickState.burnt, 0.0) << "fuel went through it all the same";
}

TEST(Fault, SeverityAndTimeCountAndThePastDoesNot) {
    Condition c;
    c.faults.push_back({Fault::bearing, 0.5, 10'000});
    EXPECT_EQ(effectsOf(c, 9'900, 14).bearing, 0.0);
    EXPECT_NEAR(effectsOf(c, 100'000, 14).bearing, 0.25, 1e-9) << "ninety seconds of its hundred and eighty";
    EXPECT_NEAR(effectsOf(c, 1'000'000, 14).bearing, 0.5, 1e-9);
    c.faults = {{Fault::valve, 1.0, 0}};
    EXPECT_NEAR(effectsOf(c, 0, 14).deadCylinders, 1.0 / 14, 1e-12);
}

TEST(Condition, WhatWasLearntMovesNeedlesNotStates) {
    const auto& l = loaded("lorimer-spring");
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    auto state = plant.standing(l.sortie->day, Temperature::of(60, units::celsius));
    auto levers = test::runningLevers(plant, 20);
    powerplant::Run run{&l.sortie->day, std::vector<Condition>(2), false};
    run.conditions[0].learnt.offsets.push_back({heads, 6.0});
    run.conditions[0].learnt.fuel = 1.04;
    test::settle(plant, state, levers, run);
    const auto now = plant.steps(state, levers, run, 60'000);
    EXPECT_NEAR(now.engines[0][heads] - state.engines[0].headOrCoolant, 6.0, 1e-9);
    EXPECT_NEAR(now.engines[1][heads] - state.engines[1].headOrCoolant, 0.0, 1e-9);
    EXPECT_NEAR(now.engines[0][Gauge::fuelFlow] / now.engines[1][Gauge::fuelFlow], 1.04, 0.0005);
    EXPECT_NEAR(state.engines[0].fuelAir, state.engines[1].fuelAir, 1e-9) << "no knock verdict is lowered by it";
    EXPECT_NEAR(state.engines[0].headOrCoolant, state.engines[1].headOrCoolant, 1e-6);
}
} // namespace
} // namespace amber
