// SPDX-License-Identifier: GPL-3.0-or-later
// What the drill does to the carburettor's air and the propeller in the let-down and the landing is in the plan's
// figures.
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "drills/state.h"
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include "test_data.h"
#include <algorithm>
#include <cmath>

namespace {
using namespace amber;

/// The same aircraft whose drill never touches the carburettor's air.
powerplant::Aircraft leftCold(const powerplant::Aircraft& aircraft) {
    auto out = aircraft;
    for (auto& [phase, notes] : out.notes.phases)
        for (auto& step : notes.steps) {
            std::erase_if(step.actions, [](const Action& a) { return a.control == "carburettor-air"; });
            for (auto& school : step.schools)
                if (school.actions)
                    std::erase_if(*school.actions, [](const Action& a) { return a.control == "carburettor-air"; });
        }
    return out;
}

TEST(HotAir, OfTheLetDownTakesTheBoostThatItsPowerThenWants) {
    const auto& l = test::loaded("lorimer-spring");
    const auto hot = flight::fly(*l.aircraft, *l.sortie), cold = flight::fly(leftCold(*l.aircraft), *l.sortie);
    // Under boost no more than keeps it clear: +5 °C behind the throttle, to the next tenth of the lever.
    const auto ice =
        std::find_if(hot.ice.begin(), hot.ice.end(), [](const auto& i) { return i.phase == Phase::letDown; });
    ASSERT_NE(ice, hot.ice.end());
    const double share = hot[Phase::letDown].setting.hotAir;
    ASSERT_NEAR(share, std::ceil(10 * ice->advice.heatNeeded / powerplant::hotAirRise(l.aircraft->notes)) / 10, 1e-9);
    ASSERT_GT(share, 0.3);
    ASSERT_LT(share, 0.95);
    ASSERT_EQ(cold[Phase::letDown].setting.hotAir, 0.0);
    // The same mixture and rpm at the same height: for each bar of boost so much less air and fuel as it is hotter,
    // 1/√T behind the carburettor.
    const auto &a = hot.samples[hot[Phase::letDown].firstSample + 1],
               &b = cold.samples[cold[Phase::letDown].firstSample + 1];
    ASSERT_NEAR(a[Gauge::height], b[Gauge::height], 60.0);
    ASSERT_NEAR(a[Gauge::rpm], b[Gauge::rpm], 0.01);
    const double rise = share * powerplant::hotAirRise(l.aircraft->notes),
                 air =
                     l.sortie->day.at(l.sortie->day.pressureAltitudeOf(Length::si(a[Gauge::height]))).temperature.si();
    const double each = a[Gauge::fuelFlow] / a[Gauge::boost] / (b[Gauge::fuelFlow] / b[Gauge::boost]);
    EXPECT_NEAR(each, std::sqrt(air / (air + rise)), 0.03);
    EXPECT_GT(hot.letDown.front().boost.si(), 1.01 * cold.letDown.front().boost.si()) << "and so more boost is set";
}

TEST(HotAir, OfALandingIsAsTheDrillLeavesIt) {
    // Cold again before the landing where the drill says so, and hot on the way down where it says that.
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto state = cockpit::stateAtEnd(l.aircraft->notes, l.sortie->choices, Phase::landing);
        for (std::size_t c = 0; c < l.aircraft->notes.controls.size(); ++c)
            if (l.aircraft->notes.controls[c].acts == Acts::carburettorAir)
                EXPECT_EQ(f[Phase::landing].setting.hotAir, state.of(c, 0).target.word == "hot" ? 1.0 : 0.0) << name;
    }
}

TEST(FixedBlades, AgreeWithTheEngineInHotAirToo) {
    const auto& l = test::loaded("tinker-damp");
    const auto& a = *l.aircraft;
    const auto air = l.sortie->day.at(Length::si(500));
    const Speed ias = Speed::of(65, units::knot);
    const double rho = air::density(air.pressure, air.temperature),
                 v = air::trueAirspeed(ias, air.pressure, air.temperature).si();
    for (const double rpm : {1700.0, 1965.0, 2600.0}) { // held back twice, wide open once
        engine::Demand d{Rotation::of(rpm, units::rpm), std::nullopt, 0, air, ias, Mixture::rich};
        const auto cold = engine::agree(a.model(), a.propeller.coarse, d);
        d.carburettorHeat = 50.0;
        const auto hot = engine::agree(a.model(), a.propeller.coarse, d);
        d.rpm = hot.rpm;
        d.boost = hot.boost;
        const double engine = engine::operate(a.model(), d).power.si(),
                     taken = a.propeller.coarse.power(hot.rpm.si(), v, rho);
        EXPECT_NEAR(engine, taken, 0.01 * taken) << rpm;
        if (hot.throttled)
            EXPECT_GT(hot.boost.si(), 1.03 * cold.boost.si()) << rpm << ": thinner air, opened further";
        else
            EXPECT_LT(hot.rpm.si(), 0.985 * cold.rpm.si()) << rpm;
    }
}

TEST(TwoPositionPropeller, IsFineForTheLandingWhereTheDrillPutsItSo) {
    const auto& l = test::loaded("thatcher-lesson");
    const auto& a = *l.aircraft;
    const auto f = flight::fly(a, *l.sortie);
    const auto& s = f.samples[f[Phase::landing].firstSample];
    const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(Length::si(s[Gauge::height])));
    const double rho = air::density(air.pressure, air.temperature),
                 v = air::trueAirspeed(Speed::si(s[Gauge::airspeed]), air.pressure, air.temperature).si();
    const double taken = a.propeller.fine.power(f[Phase::landing].setting.rpm.si(), v, rho);
    EXPECT_NEAR(taken, f[Phase::landing].point.power.si(), 0.02 * taken)
        << "blades that stand fine take what the engine makes";
    // Coarse they would hold it some hundred and fifty rpm slower.
    auto coarse = a;
    for (auto& step : coarse.notes.phases.at(Phase::landing).steps)
        std::erase_if(step.actions, [](const Action& act) { return act.control == "propeller"; });
    for (auto& step : coarse.notes.phases.at(Phase::letDown).steps)
        std::erase_if(step.actions, [](const Action& act) { return act.control == "propeller"; });
    const auto slow = flight::fly(coarse, *l.sortie);
    EXPECT_GT(f[Phase::landing].setting.rpm.si(), slow[Phase::landing].setting.rpm.si() + 100.0 / 60.0);
}
} // namespace
