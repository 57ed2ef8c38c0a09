// SPDX-License-Identifier: GPL-3.0-or-later
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "heat/thermal_model.h"
#include "test_data.h"
#include <rapidcheck/gtest.h>

using namespace amber;

namespace {

const powerplant::Aircraft& lorimerOfHeat() {
    return *test::demo("lorimer").aircraft;
}
const powerplant::Aircraft& farrierOfHeat() {
    return *test::demo("farrier").aircraft;
}

heat::Drive driveAt(const powerplant::Aircraft& a, double rpm, std::optional<ManifoldPressure> boost, double celsius,
                    Speed ias, double coolingFlap) {
    air::Day day = air::standardDay(Length{});
    day.oat = Temperature::of(celsius, units::celsius);
    const auto air = day.at(Length{});
    const Rotation n = Rotation::of(rpm, units::rpm);
    const auto set = boost ? *boost : engine::boostForRpm(a.model(), a.fineStop, n, 0, air);
    const auto p = engine::operate(a.model(), {n, set, 0, air, ias, Mixture::rich});
    return {true,
            p.airFlow,
            p.fuelAirRatio,
            p.power,
            n,
            air,
            ias.si() > 0 ? air::trueAirspeed(ias, air.pressure, air.temperature) : Speed{},
            coolingFlap};
}

heat::Temperatures cold(double celsius) {
    return {Temperature::of(celsius, units::celsius), Temperature::of(celsius, units::celsius)};
}

TEST(Heat, TheRatedPointIsSteady) {
    for (const auto* a : {&lorimerOfHeat(), &farrierOfHeat()}) {
        const auto& h = a->notes.heat;
        const Rating& rating = *a->notes.rating(h.rating);
        const auto drive = driveAt(*a, rating.rpm.in(units::rpm), rating.boost, 15, h.ias, h.coolingFlap);
        const auto settled = a->thermal.steady(drive);
        const Temperature headOrCoolant = a->notes.engine.cooling == Cooling::air ? *h.head : *h.coolant;
        EXPECT_NEAR(settled.headOrCoolant.si(), headOrCoolant.si(), 1.0) << a->notes.name;
        EXPECT_NEAR(settled.oil.si(), h.oil.si(), 3.0) << a->notes.name;
    }
}

TEST(Heat, ALargeRadialWarmsInTheKnownTime) {
    // 15 → 120 °C heads at 1,000 rpm in four to about nine minutes with open flaps, oil 15 → 40 °C in about as long.
    const auto drive = driveAt(lorimerOfHeat(), 1000, {}, 15, Speed{}, 1.0);
    double heads = 0, oil = 0;
    auto t = cold(15);
    for (double s = 0; s < 1200; s += 10) {
        t = lorimerOfHeat().thermal.after(t, drive, Duration::si(10));
        if (heads == 0 && t.headOrCoolant.in(units::celsius) >= 120)
            heads = s / 60;
        if (oil == 0 && t.oil.in(units::celsius) >= 40)
            oil = s / 60;
    }
    EXPECT_GT(heads, 4);
    EXPECT_LT(heads, 9);
    EXPECT_GT(oil, 3);
    EXPECT_LT(oil, 7);
}

TEST(Heat, HalvingTheStepChangesNothingThatMatters) {
    // Three hours of changing drives, in steps as long as they come and in halves of them.
    auto whole = cold(6), halves = cold(6);
    for (int i = 0; i < 180; ++i) {
        const auto d =
            driveAt(lorimerOfHeat(), i % 3 == 0 ? 1000 : 2350,
                    i % 3 == 0 ? std::nullopt : std::optional(ManifoldPressure::of(30 + i % 9, units::manifold::inHg)),
                    6, i % 3 == 0 ? Speed{} : Speed::of(130, units::knot), 0.33);
        whole = lorimerOfHeat().thermal.after(whole, d, Duration::si(60));
        for (int half = 0; half < 12; ++half)
            halves = lorimerOfHeat().thermal.after(halves, d, Duration::si(5));
        EXPECT_NEAR(whole.headOrCoolant.si(), halves.headOrCoolant.si(), 0.1);
        EXPECT_NEAR(whole.oil.si(), halves.oil.si(), 0.1);
    }
}

TEST(Heat, AStoppedEngineCoolsTowardsTheAir) {
    const heat::Temperatures hot{Temperature::of(200, units::celsius), Temperature::of(75, units::celsius)};
    heat::Drive stopped;
    stopped.air = air::standardDay(Length{}).at(Length{});
    const auto later = lorimerOfHeat().thermal.after(hot, stopped, Duration::si(6 * 3600));
    EXPECT_NEAR(later.headOrCoolant.in(units::celsius), 15, 2);
    EXPECT_NEAR(later.oil.in(units::celsius), 15, 3);
}

TEST(OilPressure, ColdOilOvershootsAndIdleIsLow) {
    const auto& t = lorimerOfHeat().thermal;
    const auto psi = [&](double rpm, double celsius) {
        return t.oilPressure(Rotation::of(rpm, units::rpm), Temperature::of(celsius, units::celsius)).in(units::psi);
    };
    EXPECT_GT(psi(1000, 0), psi(1000, 70));
    EXPECT_LT(psi(700, 80), psi(2350, 80));
    EXPECT_NEAR(psi(2350, 75), 86, 8) << "near the relief setting";
    EXPECT_EQ(psi(0, 50), 0.0);
    EXPECT_GT(heat::oilViscosity(Temperature::of(-10, units::celsius)),
              10 * heat::oilViscosity(Temperature::of(40, units::celsius)));
}

RC_GTEST_PROP(HeatProperty, HotterAirNeverWarmsSlowerNorCoolsBetter, ()) {
    const auto& a = *rc::gen::arbitrary<bool>() ? lorimerOfHeat() : farrierOfHeat();
    const double rpm = *rc::gen::inRange(800, 1400), air = *rc::gen::inRange(-20, 30),
                 coolingFlap = *rc::gen::inRange(0, 11) / 10.0, seconds = *rc::gen::inRange(30, 1500);
    const auto start = cold(air);
    const auto cool = a.thermal.after(start, driveAt(a, rpm, {}, air, Speed{}, coolingFlap), Duration::si(seconds));
    auto hotter = driveAt(a, rpm, {}, air, Speed{}, coolingFlap);
    hotter.air.temperature = Temperature::si(hotter.air.temperature.si() + 12);
    const auto warm = a.thermal.after(start, hotter, Duration::si(seconds));
    RC_ASSERT(warm.headOrCoolant.si() >= cool.headOrCoolant.si() - 1e-6);
}

RC_GTEST_PROP(HeatProperty, MoreFlapIsNeverHotter, ()) {
    const auto& a = *rc::gen::arbitrary<bool>() ? lorimerOfHeat() : farrierOfHeat();
    const double coolingFlap = *rc::gen::inRange(0, 10) / 10.0;
    const Speed ias = Speed::of(*rc::gen::inRange(90, 220), units::knot);
    const auto d = [&](double f) {
        return driveAt(a, 2300, ManifoldPressure::of(*rc::gen::just(36), units::manifold::inHg), 15, ias, f);
    };
    RC_ASSERT(a.thermal.steady(d(coolingFlap + 0.1)).headOrCoolant.si() <=
              a.thermal.steady(d(coolingFlap)).headOrCoolant.si() + 1e-6);
}

} // namespace
