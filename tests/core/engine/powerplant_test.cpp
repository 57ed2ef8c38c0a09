// SPDX-License-Identifier: GPL-3.0-or-later
// The powerplant in time: what must balance, what must settle, what must be the same, and how it starts.
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "powerplant/blade_law.h"
#include "powerplant/generator.h"
#include "powerplant/throttle_flow.h"
#include "running_engines.h"
#include "script/script.h"
#include "start/start_order.h"
#include "test_data.h"
#include "thorough.h"
#include <fmt/format.h>
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>

namespace amber {
namespace {
using namespace powerplant;
using test::loaded;

/// One demo's aircraft on a script, stepped.
struct Bench {
    explicit Bench(const std::string& demo, const std::string& lines = {}, double celsius = 15)
        : sortie(loaded(demo)), plant(*sortie.aircraft, sortie.sortie->fuelGrade), day(sortie.sortie->day) {
        day.dewPoint = Temperature::of(-30, units::celsius); // no ice
        Problems problems;
        auto read = readScript("time,engine,what,value\n" + lines, "script.csv", sortie.aircraft->notes, problems);
        EXPECT_TRUE(read) << (problems.empty() ? "" : problems.front().text());
        if (read)
            script = std::move(*read);
        run.emplace(plant, script, day, Temperature::of(celsius, units::celsius));
    }
    const AircraftReadings& until(double seconds) {
        while (run->state().now < static_cast<Milliseconds>(seconds * 1000))
            run->step();
        return run->readings();
    }
    [[nodiscard]] const EngineState& engine(std::size_t i = 0) const { return run->state().engines[i]; }
    const flight::LoadedSortie& sortie;
    Powerplant plant;
    air::Day day;
    Script script;
    std::optional<ScriptRun> run;
};

/// Running settled in the air, all engines alike.
std::string flying(const std::string& height, const std::string& ias, const std::string& rpm, const std::string& boost,
                   const std::string& more = {}) {
    return "0,,height," + height + "\n0,,ias," + ias + "\n0,,path,level\n0,all,cock,on\n0,all,ignition,both\n" +
           "0,all,cut-off,off\n0,all,cooling-flap,0.4\n0,all,head,170 °C\n0,all,oil,70 °C\n0,all,rpm," + rpm +
           "\n0,all,boost," + boost + "\n" + more + "0,all,running,on\n";
}
const std::string lorimerCruise = flying("\"8,000 ft\"", "180 kt", "2000 rpm", "32 inHg", "0,all,gear,low\n");

// ---------------------------------------------------------------- throttle and blades

TEST(ThrottleFlow, OpenLosesNothingMoreChokedPassesByArea) {
    EXPECT_NEAR(throttledShare(1.0, 0.7, 0.02), 1.0, 1e-12);
    // Choked: the flow is that of the area alone, so half of it leaves half the pressure, and half the speed double.
    const double a = throttledShare(0.04, 1.0, 0.02);
    ASSERT_LT(a, 0.5);
    EXPECT_NEAR(throttledShare(0.02, 1.0, 0.02), 0.5 * a, 1e-9);
    EXPECT_NEAR(throttledShare(0.02, 0.5, 0.02) / a, 1.0, 0.02);
    // By hand: 2 % lost at the rated rpm is Ψ(0.98) = √(1 − (0.452/0.472)²) = 0.288; demand 0.288/0.98 = 0.294 of what
    // the open throttle chokes at; a tenth of the area: r = 0.1/0.294 = 0.340, over 0.98.
    EXPECT_NEAR(throttledShare(0.1, 1.0, 0.02), 0.340 / 0.98, 0.003);
}

RC_GTEST_PROP(ThrottleFlowProperty, TheAreaForAShareLeavesThatShare, ()) {
    const double speed = *rc::gen::inRange(5, 120) / 100.0, loss = *rc::gen::inRange(5, 80) / 1000.0;
    const double area = *rc::gen::inRange(2, 60) / 100.0;
    const double share = throttledShare(area, speed, loss);
    RC_PRE(share < 0.985);
    RC_ASSERT(std::abs(areaFor(share, speed, loss) - area) < 1e-6 * area + 1e-9);
    RC_ASSERT(throttledShare(area * 1.1, speed, loss) >= share);
    RC_ASSERT(throttledShare(area, speed * 1.1, loss) <= share + 1e-12);
}

TEST(BladeLaw, TakesTheShareItWasSetFor) {
    // By hand: pitch 1.5 at an advance of 1 takes 3.375 − 1.5 = 1.875 of the fine stop's static power.
    EXPECT_NEAR(takenAt(1.5, 1.0), 1.875, 1e-12);
    EXPECT_NEAR(pitchTaking(1.875, 1.0), 1.5, 1e-8);
    EXPECT_NEAR(pitchTaking(1.0, 0.0), 1.0, 1e-8) << "standing, the fine stop takes its own";
    // Driven hardest at a/√3, where it gives 2a³/(3√3): 0.3849 of the static power at an advance of 1.
    EXPECT_NEAR(pitchTaking(-0.5, 1.0), 1.0 / std::sqrt(3.0), 1e-8);
    EXPECT_NEAR(takenAt(1.0 / std::sqrt(3.0), 1.0), std::max(-0.3849, -mostDriven * 0.19245), 1e-4);
}

RC_GTEST_PROP(BladeLawProperty, PitchAndPowerAreEachOthersInverse, ()) {
    const double advance = *rc::gen::inRange(0, 250) / 100.0, share = *rc::gen::inRange(-20, 300) / 100.0;
    const double pitch = pitchTaking(share, advance);
    if (share > -0.38 * advance * advance * advance)
        RC_ASSERT(std::abs(pitch * pitch * pitch - advance * advance * pitch - share) < 1e-6);
    RC_ASSERT(pitch >= advance / std::sqrt(3.0) - 1e-9);
}

// ---------------------------------------------------------------- the generator

TEST(CounterGenerator, AKeyAlwaysGivesItsNumberAndTheyAreSpreadEvenly) {
    EXPECT_EQ(uniformAt(1, 2, 3), uniformAt(1, 2, 3));
    EXPECT_NE(uniformAt(1, 2, 3), uniformAt(1, 3, 2));
    double sum = 0, squares = 0;
    constexpr int many = 20000;
    for (int i = 0; i < many; ++i) {
        const double u = uniformAt(7, static_cast<std::uint64_t>(i), 11);
        sum += u;
        squares += u * u;
    }
    EXPECT_NEAR(sum / many, 0.5, 0.01);
    EXPECT_NEAR(squares / many - 0.25, 1.0 / 12, 0.005);
}

// ---------------------------------------------------------------- settled states

class EachPowerplant : public testing::TestWithParam<std::string> {};

TEST_P(EachPowerplant, HeldByTheHandTheShortStepsComeToTheSteadyPoint) {
    const auto& l = loaded(GetParam());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    auto state = plant.standing(l.sortie->day, Temperature::of(60, units::celsius));
    const double rpm = l.aircraft->notes.warmUp.taxiRpm.si() * 1.3;
    auto levers = test::runningLevers(plant, rpm);
    const powerplant::Run run{&l.sortie->day, {}, false};
    test::settle(plant, state, levers, run);
    const auto settled = plant.engine(0).settle(levers.engines[0], plant.around(state, levers, run, 0));
    // Another rpm, and back: the hand has something to do.
    for (auto& e : levers.engines)
        e.throttle = rpmHeld(1.4 * rpm);
    plant.steps(state, levers, run, 40'000);
    EXPECT_NEAR(state.engines[0].n, 1.4 * rpm, 0.01 * rpm);
    for (auto& e : levers.engines)
        e.throttle = rpmHeld(rpm);
    const auto now = plant.steps(state, levers, run, 90'000);
    EXPECT_NEAR(state.engines[0].n, rpm, 0.005 * rpm);
    EXPECT_NEAR(state.engines[0].manifold, settled.point.manifoldPressure.si(),
                0.02 * settled.point.manifoldPressure.si());
    EXPECT_NEAR(now.engines[0][Gauge::fuelFlow] * state.fuelDensity, settled.point.fuelFlow.si(),
                0.02 * settled.point.fuelFlow.si());
    // The propeller takes what the engine gives.
    EXPECT_NEAR(now.engines[0].propeller, now.engines[0].shaft, 0.02 * settled.point.power.si());
}

TEST_P(EachPowerplant, HalvingTheStepMovesNoNeedleByHalfItsReading) {
    const auto& l = loaded(GetParam());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    const powerplant::Run run{&l.sortie->day, {}, false};
    const auto fly = [&](Milliseconds dt) {
        auto state = plant.standing(l.sortie->day, Temperature::of(70, units::celsius));
        auto levers = test::runningLevers(plant, 16.0);
        test::settle(plant, state, levers, run);
        AircraftReadings now;
        const auto pass = [&](double seconds) {
            for (double t = 0; t < seconds - 1e-9; t += static_cast<double>(dt) / 1000.0)
                now = plant.step(state, levers, run, dt);
        };
        pass(20);
        for (auto& e : levers.engines)
            e.throttle = boostHeld(95000.0);
        pass(20);
        for (auto& e : levers.engines)
            e.throttle = rpmHeld(20.0);
        pass(40);
        return std::pair{state, now};
    };
    const auto whole = fly(100), half = fly(50);
    const auto &a = whole.second.engines[0], &b = half.second.engines[0];
    EXPECT_NEAR(a[Gauge::rpm] * 60, b[Gauge::rpm] * 60, 10);
    EXPECT_NEAR(a[Gauge::boost] / 3386.389, b[Gauge::boost] / 3386.389, 0.1);
    EXPECT_NEAR(a.headOrCoolant(), b.headOrCoolant(), 0.5);
    EXPECT_NEAR(a[Gauge::oilTemperature], b[Gauge::oilTemperature], 0.5);
    EXPECT_NEAR(a[Gauge::oilPressure] / 6894.757, b[Gauge::oilPressure] / 6894.757, 0.5);
    EXPECT_NEAR(whole.first.engines[0].taken, half.first.engines[0].taken, 0.003 * half.first.engines[0].taken);
}

TEST_P(EachPowerplant, HalvingTheStepMovesNoEventByASecond) {
    // Primed, cranked until it fires, run until what little is in the tank has gone: when it fires and when it stops.
    const auto& l = loaded(GetParam());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    const powerplant::Run run{&l.sortie->day, {}, false};
    const double dose = start::Priming(l.aircraft->notes.start)
                            .wanted(Temperature::of(10, units::celsius), l.sortie->day.fieldPressure());
    struct Events {
        double fires = -1.0, stops = -1.0;
    };
    const auto events = [&](Milliseconds dt) {
        Events out;
        auto state = plant.standing(l.sortie->day, Temperature::of(10, units::celsius));
        std::fill(state.tanks.begin(), state.tanks.end(), 0.4e-3);
        auto levers = plant.levers();
        levers.shared.cart = true;
        auto& hand = levers.engines[0];
        state.engines[0].primed = std::max(dose, 1.0) * plant.engine(0).doseMass();
        state.engines[0].vapour = 1.0;
        hand.cock = hand.booster = hand.energise = true;
        hand.throttle = throttleAt(0.15);
        for (double t = 0; t < 900 && out.stops < 0; t += static_cast<double>(dt) / 1000.0) {
            if (t > 20 && out.fires < 0) {
                hand.mesh = hand.boosterCoil = true;
                hand.ignition = Ignition::both;
                hand.cutOff = false;
            }
            plant.step(state, levers, run, dt);
            const double now = static_cast<double>(state.now) / 1000.0;
            if (out.fires < 0 && state.engines[0].firing) {
                out.fires = now;
                hand.mesh = hand.energise = hand.boosterCoil = false;
            } else if (out.fires > 0 && now > out.fires + 5 && !state.engines[0].firing) {
                out.stops = now;
            }
        }
        return out;
    };
    const Events whole = events(100), half = events(50);
    ASSERT_GT(whole.fires, 20);
    ASSERT_GT(whole.stops, whole.fires);
    EXPECT_NEAR(whole.fires, half.fires, 1.0);
    EXPECT_NEAR(whole.stops, half.stops, 1.0);
}

// ---------------------------------------------------------------- balances over random hands and faults

TEST_P(EachPowerplant, ARandomWalkOfLeversAndFaultsBalancesAndStaysWithinBounds) {
    const auto& l = loaded(GetParam());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    const TypeNotes& n = l.aircraft->notes;
    auto state = plant.standing(l.sortie->day, Temperature::of(10, units::celsius));
    auto levers = plant.levers();
    powerplant::Run run{&l.sortie->day, std::vector<Condition>(plant.count()), true};
    std::uint64_t draws = 0;
    const std::uint64_t seed = std::hash<std::string>{}(GetParam());
    const auto draw = [&] { return uniformAt(seed, 1, ++draws); };
    const auto mass = [&] {
        double sum = 0;
        for (const double t : state.tanks)
            sum += t * state.fuelDensity;
        for (const auto& e : state.engines)
            sum += e.bowl + e.wall + e.primed;
        return sum;
    };
    const auto gone = [&] {
        double sum = 0;
        for (const auto& e : state.engines)
            sum += e.burnt + e.spilled;
        return sum;
    };
    for (std::size_t i = 0; i < plant.count(); ++i) { // from a warm start: a walk of levers hardly ever starts one
        levers.engines[i].cock = levers.engines[i].booster = true;
        levers.engines[i].cutOff = false;
        levers.engines[i].ignition = Ignition::both;
        levers.engines[i].throttle = rpmHeld(17);
        state.engines[i] =
            plant.engine(i).running(state.engines[i], levers.engines[i], plant.around(state, levers, run, i));
    }
    const double fuelAtFirst = mass(), goneAtFirst = gone();
    double charged = 0.0, chargeAtFirst = state.charge;
    bool hitEnds = false;
    const int seconds = test::thorough() ? 3600 : 1200;
    for (int second = 0; second < seconds; ++second) {
        if (second % 4 == 0) {
            auto& e = levers.engines[static_cast<std::size_t>(draw() * static_cast<double>(plant.count()))];
            switch (static_cast<int>(draw() * 22)) {
            case 0:
                e.cock = draw() < 0.9;
                break;
            case 1:
                e.booster = draw() < 0.5;
                break;
            case 2:
                e.cutOff = draw() < 0.1;
                break;
            case 3:
                e.throttle = throttleAt(draw());
                break;
            case 4:
                e.throttle = boostHeld(3e4 + 1.2e5 * draw());
                break;
            case 5:
                e.throttle = rpmHeld(8 + 20 * draw());
                break;
            case 6:
                e.rpm = 15 + 40 * draw();
                break;
            case 7:
                e.feather = draw() < 0.2;
                break;
            case 8:
                e.mixture = draw() < 0.5 ? Mixture::rich : Mixture::weak;
                break;
            case 9:
                e.byHand = draw() < 0.3 ? 0.04 + 0.1 * draw() : 0.0;
                break;
            case 10:
                e.gear = static_cast<std::size_t>(draw() *
                                                  static_cast<double>(std::max<std::size_t>(1, n.engine.gears.size())));
                break;
            case 11:
                e.coolingFlap = draw();
                break;
            case 12:
                e.hotAir = draw() < 0.5 ? 0.0 : draw();
                break;
            case 13:
                e.ignition = static_cast<Ignition>(static_cast<int>(draw() * 4));
                break;
            case 14:
                e.mesh = draw() < 0.3;
                break;
            case 15:
                e.primer = draw() < 0.2 ? draw() : 0.0;
                break;
            case 16:
                e.tank = static_cast<int>(draw() * static_cast<double>(n.fuel.tanks.size()));
                break;
            case 17:
                levers.shared.battery = draw() < 0.8;
                break;
            case 18:
                levers.path = {static_cast<Path::Kind>(static_cast<int>(draw() * 6)), 20 + 70 * draw(), 6 * draw() - 3};
                break;
            case 19:
                e.water = draw() < 0.5;
                break;
            case 20:
                e.oilCooler = draw();
                break;
            default: {
                auto& faults =
                    run.conditions[static_cast<std::size_t>(draw() * static_cast<double>(plant.count()))].faults;
                if (faults.size() > 2)
                    faults.clear();
                faults.push_back(
                    {static_cast<Fault>(static_cast<int>(draw() * static_cast<double>(faultRegister.size()))), draw(),
                     state.now});
            }
            }
            if (state.height > 9000 || state.height < -100)
                state.height = 1000;
        }
        for (int tenth = 0; tenth < 10; ++tenth) {
            const auto now = plant.step(state, levers, run, shortStep);
            charged += now.amperes * 0.1 / 3600;
            hitEnds = hitEnds || state.charge <= 0.0 || state.charge >= plant.batteryCapacity();
            for (std::size_t i = 0; i < plant.count(); ++i) {
                const auto& e = state.engines[i];
                for (const double x :
                     {e.n, e.manifold, e.pitch, e.fuelAir, e.primed, e.wall, e.bowl, e.headOrCoolant, e.oil, e.oilMass,
                      e.oilPressure, e.taken, e.burnt, now.engines[i].shaft, state.height, state.ias})
                    ASSERT_TRUE(std::isfinite(x)) << GetParam() << " at " << state.now;
                ASSERT_GE(e.n, 0.0);
                ASSERT_LE(e.n, 2.0 * l.aircraft->model().ratedRpm);
                ASSERT_GE(e.manifold, 1e3);
                ASSERT_LE(e.manifold, 5e5);
                ASSERT_GE(e.primed, 0.0);
                ASSERT_GE(e.wall, 0.0);
                ASSERT_GE(e.bowl, -1e-9);
                ASSERT_GE(e.oilMass, 0.0);
                ASSERT_LE(e.oilMass, plant.engine(i).oilCapacity() + 1e-9);
                for (const double share :
                     {e.throttle, e.vapour, e.kindling, e.engaged, e.wheel, e.gallery, e.coolant, e.fouledLeft,
                      e.fouledRight, e.ice, e.bearing, e.rings, e.starterHeat, now.engines[i].knock}) {
                    ASSERT_GE(share, 0.0);
                    ASSERT_LE(share, 1.0);
                }
                ASSERT_GE(e.headOrCoolant, 200.0);
                ASSERT_LE(e.headOrCoolant, 1100.0);
                // No more power than the fuel in the cylinders could give: 43.5 MJ/kg, less than half of it.
                if (run.conditions[i].faults.empty() && e.fired > 5) {
                    ASSERT_LE(now.engines[i].shaft, 0.45 * 43.5e6 * e.airFlow * std::max(e.fuelAir, 0.05) * 1.3 + 5e4);
                }
            }
            for (const double t : state.tanks)
                ASSERT_GE(t, 0.0);
        }
    }
    // Fuel: what left the tanks and lines went into cylinders or overboard.
    EXPECT_NEAR(fuelAtFirst - mass(), gone() - goneAtFirst, 1e-6 * fuelAtFirst);
    if (!hitEnds) {
        EXPECT_NEAR(state.charge - chargeAtFirst, charged, 1e-6 * std::max(1.0, plant.batteryCapacity()));
    }
}

TEST_P(EachPowerplant, TheTurningPartsKeepTheirEnergy) {
    // What the shaft gives less what the propeller takes is what the parts gain: reckoned from the readings alone.
    const auto& l = loaded(GetParam());
    const Powerplant plant(*l.aircraft, l.sortie->fuelGrade);
    const powerplant::Run run{&l.sortie->day, {}, false};
    auto state = plant.standing(l.sortie->day, Temperature::of(70, units::celsius));
    auto levers = test::runningLevers(plant, 15.0);
    test::settle(plant, state, levers, run);
    for (auto& e : levers.engines)
        e.throttle = boostHeld(90000.0);
    plant.steps(state, levers, run, 1000);
    const double before = plant.engine(0).kineticEnergy(state.engines[0].n);
    double given = 0.0, moved = 0.0;
    for (int i = 0; i < 250; ++i) {
        const auto now = plant.step(state, levers, run, 20);
        given += (now.engines[0].shaft - now.engines[0].propeller) * 0.02;
        moved += std::abs(now.engines[0].shaft - now.engines[0].propeller) * 0.02;
    }
    EXPECT_NEAR(plant.engine(0).kineticEnergy(state.engines[0].n) - before, given, 0.03 * moved);
}

INSTANTIATE_TEST_SUITE_P(Demos, EachPowerplant, testing::ValuesIn(test::demoNames()), [](const auto& i) {
    std::string name = i.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});

// ---------------------------------------------------------------- sameness

TEST(Powerplant, TheSameActsGiveTheSameBytes) {
    std::vector<std::string> traces;
    for (int i = 0; i < 2; ++i) {
        Bench b("lorimer-spring", lorimerCruise + "20,1,fault,fouled-plugs 0.7\n30,all,boost,40 inHg\n");
        std::string text = traceHeader(b.plant);
        for (double t = 1; t < 60; ++t) {
            b.until(t);
            text += traceLine(b.plant, b.run->state(), trembling(b.run->readings(), 5, b.run->state().now));
        }
        traces.push_back(text);
    }
    EXPECT_EQ(traces[0], traces[1]);
}

TEST(Powerplant, EnginesAlikeAreAlikeToTheBit) {
    Bench b("mercer-frost", flying("\"5,000 ft\"", "160 kt", "2000 rpm", "32 inHg"));
    b.until(60);
    EXPECT_EQ(b.engine(1).headOrCoolant, b.engine(2).headOrCoolant);
    EXPECT_EQ(b.engine(0).burnt, b.engine(3).burnt);
}

// ---------------------------------------------------------------- starting

/// A start as the notes' crew would do it: primed by the advice, waited for, cranked, switched on.
struct Started {
    double fired = -1.0, crankedFrom = 0.0;
    EngineState state;
};
Started start(const std::string& demo, double celsius, double doses, bool spark = true, double crank = 60) {
    const auto& l = loaded(demo);
    const TypeNotes& n = l.aircraft->notes;
    const double stroke = n.start.primeTime.si();
    const double wait = start::Priming(n.start)
                            .advice(Temperature::of(celsius, units::celsius), l.sortie->day.fieldPressure())
                            .vaporise.si();
    const double from = 2.0 + doses * stroke + wait;
    Bench b(demo,
            fmt::format(
                "0,,cart,on\n0,all,cock,on\n0,all,booster,on\n0,all,throttle,0.045\n0,all,energise,on\n2,all,prime,{}\n"
                "{:.1f},all,ignition,{}\n{:.1f},all,booster-coil,on\n{:.1f},all,starter,on\n",
                doses, std::max(from, 30.0), spark ? "both" : "off", std::max(from, 30.0), std::max(from, 30.0)),
            celsius);
    Started out;
    out.crankedFrom = std::max(from, 30.0);
    for (double t = 0; t < out.crankedFrom + crank && out.fired < 0; t += 0.1) {
        b.run->step();
        if (b.engine().firing)
            out.fired = static_cast<double>(b.run->state().now) / 1000.0;
    }
    out.state = b.engine();
    return out;
}

TEST(Starting, FiresAsSoonAsTheStartersPlanSaysWithTheNotesDose) {
    for (const auto& demo : test::demoNames()) {
        const auto& l = loaded(demo);
        const double celsius = 5;
        const start::Priming priming(l.aircraft->notes.start);
        const auto field = l.sortie->day.fieldPressure();
        const auto advice = priming.advice(Temperature::of(celsius, units::celsius), field);
        const double dose = advice.dose + advice.blades / l.aircraft->notes.start.bladesPerDose;
        const auto s = start(demo, celsius, dose);
        ASSERT_GT(s.fired, 0) << demo;
        start::CrankConditions c;
        c.oil = Temperature::of(celsius, units::celsius);
        const auto plan = start::crank(l.aircraft->notes.start, c);
        // The blades before the ignition are the hand's business: it is on from the first turn here.
        EXPECT_NEAR(s.fired - s.crankedFrom, plan.untilFiring.si() - plan.forBlades.si(), 2.0) << demo;
    }
}

TEST(Starting, DryDoesNotCoughFloodedDripsAndSilentIsWet) {
    EXPECT_LT(start("lorimer-spring", -5, 0).fired, 0) << "dry";
    const auto& notes = loaded("lorimer-spring").aircraft->notes;
    const start::Priming priming(notes.start);
    const Pressure field = loaded("lorimer-spring").sortie->day.fieldPressure();
    const double wanted = priming.wanted(Temperature::of(-5, units::celsius), field);
    EXPECT_LT(start("lorimer-spring", -5, 2.6 * wanted, true, 4).fired, 0) << "flooded";
    const auto silent = start("lorimer-spring", -5, wanted, false, 10);
    EXPECT_LT(silent.fired, 0) << "no spark";
    EXPECT_GT(silent.state.spilled + silent.state.burnt, 0.0) << "wet all the same";
}

TEST(Starting, AFloodedEngineClearsByTurningWithTheThrottleOpen) {
    const auto& notes = loaded("lorimer-spring").aircraft->notes;
    const double wanted =
        start::Priming(notes.start)
            .wanted(Temperature::of(10, units::celsius), loaded("lorimer-spring").sortie->day.fieldPressure());
    const std::string flood = fmt::format(
        "0,,cart,on\n0,all,cock,on\n0,all,throttle,1\n0,all,prime,{:.1f}\n0,all,energise,on\n40,all,starter,on\n",
        3 * wanted);
    Bench b("lorimer-spring", flood, 10);
    const double before = [&] {
        b.until(39);
        return b.engine().primed;
    }();
    b.until(50);
    // 30 % of it by each cycle of two turns: ten seconds at some 80 rpm are seven cycles.
    EXPECT_LT(b.engine().primed, 0.3 * before);
    EXPECT_GT(b.engine().burnt, 0.6 * before);
}

TEST(Starting, TheBatterySagsUnderTheStarterAndRecovers) {
    Bench b("lorimer-spring", "10,1,starter,on\n25,1,starter,off\n", 5);
    b.until(9);
    const double rest = b.run->state().volts, charge = b.run->state().charge;
    b.until(20);
    const double sagged = b.run->state().volts;
    b.until(40);
    const auto& battery = loaded("lorimer-spring").aircraft->notes.start.battery;
    start::CrankConditions c;
    c.oil = Temperature::of(5, units::celsius);
    c.supply = start::Supply::battery;
    const auto crank = start::crank(loaded("lorimer-spring").aircraft->notes.start, c);
    EXPECT_NEAR(rest - sagged, crank.amperes * battery.resistance, 0.02 * rest);
    EXPECT_NEAR(b.run->state().volts, rest, 0.03 * rest);
    EXPECT_NEAR(charge - b.run->state().charge, (15 * crank.amperes + 31 * 10.0) / 3600.0, 0.03 * charge);
}

TEST(Starting, AnAirBottleGivesItsStartsAndNoMore) {
    // 50 kgf/cm² and 9 a start of warm oil: by hand five full tries, each as long as a start takes, then nothing turns.
    const auto& notes = loaded("tanner-winter").aircraft->notes.start;
    ASSERT_EQ(notes.starter.kind, StarterKind::air);
    start::CrankConditions c;
    c.oil = Temperature::of(60, units::celsius);
    const auto one = start::crank(notes, c);
    std::string tries;
    const double lasts = one.untilFiring.si();
    for (int i = 0; i < 7; ++i)
        tries += fmt::format("{0:.1f},all,starter,on\n{1:.1f},all,starter,off\n", 10 + 60.0 * i, 10 + 60.0 * i + lasts);
    Bench b("tanner-winter", tries, 60);
    const double full = b.run->state().airBottle, each = full - one.airLeft.si();
    ASSERT_GT(each, 0.0);
    const int starts = static_cast<int>(full / each);
    int turned = 0;
    for (int i = 0; i < 7; ++i) {
        b.until(10 + 60.0 * i + 0.8 * lasts);
        turned += b.engine().n * 60 > 20 ? 1 : 0;
        b.until(65 + 60.0 * i);
        if (i == 0) {
            EXPECT_NEAR(full - b.run->state().airBottle, each, 0.06 * each);
        }
    }
    EXPECT_EQ(turned, starts);
    EXPECT_LT(starts, 7);
}

TEST(Starting, ACartridgeTurnsItOnceAndTheRackEmpties) {
    // Six in the rack, seven pushes of the button, each held for twenty seconds: one cartridge a push, six turns of it.
    const auto& notes = loaded("collier-high").aircraft->notes.start;
    ASSERT_EQ(notes.starter.cartridges, 6);
    std::string pushes;
    for (int i = 0; i < 7; ++i)
        pushes += fmt::format("{0},all,starter,on\n{1},all,starter,off\n", 10 + 60 * i, 30 + 60 * i);
    Bench b("collier-high", pushes, 20);
    for (int i = 0; i < 7; ++i) {
        b.until(10 + 60 * i + 0.7 * notes.crankMost.si());
        EXPECT_EQ(b.engine().n * 60 > 20, i < 6) << i;
        EXPECT_EQ(b.run->state().cartridges, std::max(0, 5 - i));
        b.until(10 + 60 * i + notes.crankMost.si() + 10);
        EXPECT_LT(b.engine().n * 60, 20) << "spent, though the button is held";
    }
}

TEST(Starting, OilPressureComesAfterItsSecondsAndSlowerInTheCold) {
    const auto rise = [&](double celsius) {
        Bench b("lorimer-spring",
                "0,all,cock,on\n0,all,booster,on\n0,all,cut-off,off\n0,all,ignition,both\n0,all,rpm-by-throttle,900 "
                "rpm\n0,all,head,60 °C\n",
                celsius);
        auto state = b.run->state();
        auto levers = b.run->levers();
        b.run->step();
        levers = b.run->levers();
        state = b.run->state();
        const powerplant::Run run{&b.day, {}, false};
        for (std::size_t i = 0; i < b.plant.count(); ++i)
            state.engines[i] =
                b.plant.engine(i).running(state.engines[i], levers.engines[i], b.plant.around(state, levers, run, i));
        double t = 0;
        while (state.engines[0].oilPressure < 0.3 * loaded("lorimer-spring").aircraft->notes.heat.oilRelief.si() &&
               t < 120) {
            b.plant.step(state, levers, run, shortStep);
            t += 0.1;
        }
        return t;
    };
    EXPECT_NEAR(rise(70), start::oilPressureRise(Temperature::of(70, units::celsius)).si(), 1.0);
    EXPECT_NEAR(rise(-10), start::oilPressureRise(Temperature::of(-10, units::celsius)).si(), 1.5);
    EXPECT_GT(rise(-10), 2 * rise(70));
}

// ---------------------------------------------------------------- hands

TEST(Transients, OpenedQuicklyAfterALongGlideItStumblesOpenedSlowlyItDoesNot) {
    const std::string glide = flying("\"9,000 ft\"", "120 kt", "2200 rpm", "30 inHg", "0,all,gear,low\n") +
                              "10,all,throttle,0\n10,,path,descend\n10,,rate,-1500 ft/min\n10,all,cooling-flap,0\n";
    // The highest boost at which it still gives nothing after it was asked for power.
    const auto deaf = [&](const std::string& opening) {
        Bench b("lorimer-spring", glide + opening);
        b.until(180);
        double highest = 0.0;
        while (b.run->state().now < 200'000) {
            b.run->step();
            if (b.run->readings().engines[0].shaft < 0)
                highest = std::max(highest, b.engine().manifold);
        }
        return highest;
    };
    std::string slowly;
    for (int i = 1; i <= 40; ++i)
        slowly += fmt::format("{:.1f},all,throttle,{:.2f}\n", 180 + 0.4 * i, 0.02 * i);
    EXPECT_GT(deaf("180,all,throttle,0.8\n"), 70e3) << "wide open and nothing comes: the walls must be wetted first";
    EXPECT_LT(deaf(slowly), 40e3);
}

TEST(Transients, RpmRunUpInSecondsAndTheBoostLeadsThem) {
    Bench b("farrier-summer",
            "0,,cart,on\n0,all,cock,on\n0,all,booster,on\n0,all,cut-off,off\n0,all,ignition,both\n0,all,head,80 °C\n"
            "0,all,oil,50 °C\n0,all,rpm-by-throttle,900 rpm\n0,all,running,on\n20,all,boost,0 lb\n");
    b.until(20);
    double halfBoost = -1, halfRpm = -1;
    const double n0 = b.engine().n, p0 = b.engine().manifold, p1 = standardPressure;
    const double n1 =
        engine::staticRpm(b.sortie.aircraft->model(), b.sortie.aircraft->fineStop, ManifoldPressure::si(p1), 0,
                          b.day.at(b.day.pressureAltitude()), Rotation::si(100))
            .si();
    while (b.run->state().now < 60'000) {
        b.run->step();
        const double t = static_cast<double>(b.run->state().now) / 1000.0 - 20;
        if (halfBoost < 0 && b.engine().manifold > 0.5 * (p0 + p1))
            halfBoost = t;
        if (halfRpm < 0 && b.engine().n > 0.5 * (n0 + n1))
            halfRpm = t;
    }
    EXPECT_NEAR(halfBoost, 0.4 * std::log(2.0), 0.15) << "the control's own lag";
    EXPECT_GT(halfRpm, 1.0);
    EXPECT_LT(halfRpm, 4.0);
    EXPECT_NEAR(b.engine().n, n1, 0.01 * n1);
}

TEST(Transients, AFeatheredPropellerStopsAndCostsLessThanAWindmill) {
    const std::string cruise = flying("\"8,000 ft\"", "150 kt", "2100 rpm", "34 inHg", "0,all,gear,low\n");
    Bench windmill("lorimer-spring", cruise + "20,1,fault,dead\n");
    Bench feathered("lorimer-spring", cruise + "20,1,fault,dead\n25,1,feather,on\n25,1,cut-off,on\n");
    Bench both("lorimer-spring", cruise);
    windmill.until(100);
    feathered.until(100);
    both.until(100);
    EXPECT_EQ(feathered.engine().n, 0.0);
    EXPECT_GT(windmill.engine().n, 20.0) << "held up by the air";
    EXPECT_GT(feathered.run->state().ias, windmill.run->state().ias + 3.0);
    EXPECT_GT(both.run->state().ias, feathered.run->state().ias + 10.0);
    EXPECT_GT(feathered.run->readings().yaw, 0.3) << "towards the dead port engine";
    EXPECT_GT(windmill.run->readings().yaw, feathered.run->readings().yaw);
    EXPECT_NEAR(both.run->readings().yaw, 0.0, 1e-6);
}

TEST(Transients, PastTheRatingHeadsComeFirstThenOilThenItsPressureFalls) {
    Bench b("lorimer-spring", flying("\"2,000 ft\"", "150 kt", "2650 rpm", "57 inHg", "0,all,gear,high\n"));
    const double h0 = b.engine().headOrCoolant;
    b.until(60);
    const double knock = b.run->readings().engines[0].knock, h1 = b.engine().headOrCoolant, o1 = b.engine().oil,
                 p1 = b.engine().oilPressure;
    EXPECT_GT(knock, 0.3) << "far past the rating";
    EXPECT_GT(h1 - h0, 25.0);
    b.until(420);
    EXPECT_GT(b.engine().oil, o1 + 10.0);
    EXPECT_LT(b.engine().oilPressure, p1 - 2e4);
    EXPECT_GT(b.engine().rings, 0.3);
}

TEST(Transients, ATankRunsDryAndAnotherBringsItBack) {
    Bench b("lorimer-spring", "0,,contents,0.2 l\n" + lorimerCruise + "0,,path,descend\n0,,rate,-500 ft/min\n" +
                                  "90,,contents,60 l\n90,all,tank," +
                                  loaded("lorimer-spring").aircraft->notes.fuel.tanks.back().id + "\n");
    bool quit = false;
    double quitAt = 0;
    while (b.run->state().now < 90'000) {
        b.run->step();
        if (!quit && b.run->readings().engines[0].shaft < 0) {
            quit = true;
            quitAt = static_cast<double>(b.run->state().now) / 1000;
        }
    }
    EXPECT_TRUE(quit);
    EXPECT_LT(b.run->readings().engines[0][Gauge::fuelPressure], 1e3);
    EXPECT_GT(quitAt, 2.0) << "what is in the lines lasts a while";
    b.until(100);
    EXPECT_GT(b.run->readings().engines[0].shaft, 1e5) << "windmilling it catches by itself";
}

TEST(Transients, StoppedByTheMixtureItRunsDownInSeconds) {
    Bench b("tinker-damp", "0,all,cock,on\n0,all,cut-off,off\n0,all,ignition,both\n0,all,head,120 °C\n0,all,oil,50 °C\n"
                           "0,all,rpm-by-throttle,700 rpm\n0,all,running,on\n30,all,cut-off,on\n");
    b.until(29);
    ASSERT_GT(b.engine().n, 10.0);
    b.until(50);
    EXPECT_EQ(b.engine().n, 0.0);
    EXPECT_FALSE(b.engine().firing);
    b.until(2450);
    // Standing forty minutes, 1/e of its warmth is left.
    const double ambient = b.day.oat.si();
    EXPECT_NEAR((b.engine().headOrCoolant - ambient) / (393.15 - ambient), std::exp(-1.0), 0.05);
}

TEST(Transients, SpeedIsPaidForInHeight) {
    // By hand: from 160 kt to 130 kt, true 84.7 to 68.8 m/s at 2,000 ft standard, are 124 m besides what the power
    // gives.
    const std::string at = flying("\"2,000 ft\"", "160 kt", "2200 rpm", "32 inHg", "0,all,gear,low\n0,,path,climb\n");
    Bench slowing("lorimer-spring", at + "10,,ias,160 kt\n"), steady("lorimer-spring", at);
    slowing.day = steady.day = air::standardDay(Length{});
    slowing.until(10);
    auto state = slowing.run->state();
    auto levers = slowing.run->levers();
    const powerplant::Run run{&slowing.day, {}, false};
    const double energy0 =
        state.height * air::gravity +
        0.5 * std::pow(air::trueAirspeed(Speed::si(state.ias), slowing.day.at(Length::si(state.height)).pressure,
                                         slowing.day.at(Length::si(state.height)).temperature)
                           .si(),
                       2);
    levers.path.ias = 130 * 0.514444;
    double work = 0.0;
    for (int i = 0; i < 250; ++i) {
        const double before = state.height;
        const auto now = slowing.plant.step(state, levers, run, shortStep);
        const auto here = slowing.day.at(Length::si(before));
        const double v = air::trueAirspeed(Speed::si(state.ias), here.pressure, here.temperature).si();
        const double q = 0.5 * air::density(here.pressure, here.temperature) * v * v,
                     w = slowing.plant.weight(state).si() * air::gravity;
        double thrust = 0.0;
        for (const auto& e : now.engines)
            thrust += 0.8 * e.propeller / v;
        work += (thrust - slowing.sortie.aircraft->drag.force(q, w)) * v * 0.1 / slowing.plant.weight(state).si();
    }
    const auto here = slowing.day.at(Length::si(state.height));
    const double v = air::trueAirspeed(Speed::si(state.ias), here.pressure, here.temperature).si();
    EXPECT_NEAR(state.height * air::gravity + 0.5 * v * v - energy0, work, 120.0) << "J/kg: twelve metres of height";
    EXPECT_NEAR(state.ias, 130 * 0.514444, 0.01);
}

// ---------------------------------------------------------------- scripts

TEST(Script, TellsEveryProblemWithItsLine) {
    Problems problems;
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    const auto script =
        readScript("time,engine,what,value\n0,all,throttle,0.5\n1,9,throttle,0.5\n2,1,thrust,0.5\n3,1,gear,third\n"
                   "4,1,fault,gremlin\nx,1,cock,on\n5,1,boost,12\n6,1,throttle\n",
                   "s.csv", n, problems);
    EXPECT_FALSE(script);
    std::vector<int> lines;
    for (const auto& p : problems)
        lines.push_back(p.line);
    EXPECT_EQ(lines, (std::vector<int>{3, 4, 5, 6, 7, 9}));
}

TEST(Script, TheFormatPageListsEveryKeyAndFault) {
    const std::string page = test::fileText(test::dataPath("../docs/formats/trace.md"));
    for (const auto& key : scriptKeys())
        EXPECT_NE(page.find("| " + std::string(key.key) + " |"), std::string::npos) << key.key;
    for (const auto& fault : faultRegister)
        EXPECT_NE(page.find("| " + std::string(fault.key) + " |"), std::string::npos) << fault.key;
}
} // namespace
} // namespace amber
