// SPDX-License-Identifier: GPL-3.0-or-later
// The fit on engines of another build, and what it says of itself.
#include "air/atmosphere.h"
#include "engine/calibration.h"
#include "engine/engine_parameters.h"
#include "engine/operating_point.h"
#include "other_engines.h"
#include "test_data.h"
#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>

using namespace amber;

namespace {
/// Nine of ten lie within, of |model / truth − 1| in weak and rich cruise of a hundred engines.
struct Nine {
    double power, consumption;
};
Nine nineOfTen(int fuelLines) {
    std::vector<double> power, consumption;
    for (std::uint64_t seed = 1; seed <= 100; ++seed) {
        const auto truth = bench::otherEngine(seed);
        const auto model = engine::calibrate(bench::bookletOf(truth, seed, fuelLines)).parameters;
        const auto air = air::standardDay(Length{}).at(Length::si(1800));
        for (const bool weak : {true, false}) {
            const double rpm = weak ? truth.weakRpm : 0.9 * truth.ratedRpm;
            const double boost = weak ? truth.weakBoost : 0.9 * truth.ratedBoost;
            const auto t = truth.run(rpm, boost, 0, air, weak);
            const auto m = engine::operate(model, {Rotation::si(rpm), ManifoldPressure::si(boost), 0, air, Speed{},
                                                   weak ? Mixture::weak : Mixture::rich});
            power.push_back(std::abs(m.power.si() / t.power - 1));
            consumption.push_back(std::abs(m.specificConsumption() * t.power / t.fuel - 1));
        }
    }
    std::sort(power.begin(), power.end());
    std::sort(consumption.begin(), consumption.end());
    return {power[power.size() * 9 / 10], consumption[consumption.size() * 9 / 10]};
}
} // namespace

TEST(OtherEngines, AreSuchAsFlew) {
    for (std::uint64_t seed = 1; seed <= 100; ++seed) {
        const auto e = bench::otherEngine(seed);
        const auto o = e.run(e.weakRpm, e.weakBoost, 0, air::standardDay(Length{}).at(Length::si(600)), true);
        const double litres = e.displacement * 1000, kilowatts = o.power / 1000;
        EXPECT_GT(kilowatts / litres, 4.0) << seed; // cruise
        EXPECT_LT(kilowatts / litres, 18.0) << seed;
        EXPECT_GT(o.fuel / o.power * 3.6e9, 250) << seed; // g/(kW·h): 0.41 … 0.60 lb/(hp·h)
        EXPECT_LT(o.fuel / o.power * 3.6e9, 420) << seed; // more where the blower takes much of little power
    }
}

TEST(Calibration, WithoutAFuelLineConsumptionIsWithinEightPercentInNineOfTen) {
    const Nine n = nineOfTen(0);
    EXPECT_LT(n.consumption, 0.08);
    EXPECT_LT(n.power, 0.03);
}

TEST(Calibration, WithTwoFuelLinesConsumptionIsWithinThreePercentInNineOfTen) {
    const Nine n = nineOfTen(2);
    EXPECT_LT(n.consumption, 0.035); // rich and weak alike; 3 % over all settings of bench/calibration_truth
    EXPECT_LT(n.power, 0.03);
}

TEST(Calibration, SaysWhenFuelIsOnlyAnEstimate) {
    const auto truth = bench::otherEngine(4);
    EXPECT_TRUE(engine::fuelIsEstimate(bench::bookletOf(truth, 4, 0)));
    EXPECT_FALSE(engine::fuelIsEstimate(bench::bookletOf(truth, 4, 1)));
}

TEST(Calibration, AParameterOnItsBoundIsNotCalledSettled) {
    auto notes = bench::bookletOf(bench::otherEngine(4), 4, 0);
    for (auto& r : notes.ratings)
        for (auto& l : r.lines)
            l.power = Power::si(l.power->si() * 0.12); // of an engine an eighth the size
    const auto fitted = engine::calibrate(notes).fitted;
    const auto stuck = std::find_if(fitted.begin(), fitted.end(), [](const auto& f) { return f.atBound; });
    ASSERT_NE(stuck, fitted.end());
    EXPECT_FALSE(stuck->settled());
    for (const auto& name : test::demoNames()) // of the types that ship, none
        for (const auto& f : test::loaded(name).aircraft->calibration.fitted)
            EXPECT_FALSE(f.atBound) << name << " " << f.name;
}

TEST(Calibration, AirForWorkStaysWhatSuchEnginesNeed) {
    for (const auto& name :
         test::demoNames()) { // 3.3 … 4.3 kg/kWh: 36 … 30 % of the heat at best power (Taylor op. cit.)
        const auto& p = test::loaded(name).aircraft->model();
        EXPECT_GT(p.isac * 3.6e6, 3.3) << name;
        EXPECT_LT(p.isac * 3.6e6, 4.3) << name;
    }
}

TEST(Calibration, TheMeteringOfAWrittenFitIsReadBack) {
    const auto notes = bench::bookletOf(bench::otherEngine(5), 5, 2);
    const auto fit = engine::calibrate(notes);
    auto written = notes;
    written.engine.calibrated.emplace();
    written.engine.calibrated->isac = fit.parameters.isac;
    written.engine.calibrated->friction = fit.parameters.frictionBase;
    written.engine.calibrated->volumetric = fit.parameters.volumetric;
    for (const auto& g : fit.parameters.gears)
        written.engine.calibrated->efficiency.push_back(g.efficiency);
    written.engine.calibrated->rich = fit.parameters.rich;
    written.engine.calibrated->weak = fit.parameters.weak;
    const engine::Demand d{Rotation::si(35), ManifoldPressure::si(9e4), 0,
                           air::standardDay(Length{}).at(Length::si(900)), Speed{}};
    EXPECT_NEAR(engine::operate(engine::calibrate(written).parameters, d).fuelFlow.si(),
                engine::operate(fit.parameters, d).fuelFlow.si(), 1e-9);
}

TEST(Calibration, WhatItTellsOfEachParameterIsTheEnginesInItsUnit) {
    for (const auto& name : test::demoNames()) {
        const auto& a = *test::loaded(name).aircraft;
        const auto typical = engine::typicalParameters(a.notes);
        const auto c = engine::calibrate(a.notes);
        std::size_t looked = 0;
        const auto is = [&](const engine::FittedParameter& f, double value, double usual) {
            EXPECT_NEAR(f.value, value, 1e-9 * value) << name << " " << f.name;
            EXPECT_NEAR(f.typical, usual, 1e-9 * usual) << name << " " << f.name;
            ++looked;
        };
        for (const auto& f : c.fitted) {
            if (f.name == "friction at no speed" && f.unit == "bar")
                is(f, c.parameters.frictionBase / 1e5, typical.frictionBase / 1e5);
            if (f.unit == "kg/kWh")
                is(f, c.parameters.isac * 3.6e6, typical.isac * 3.6e6);
            if (f.name == "volumetric efficiency")
                is(f, c.parameters.volumetric, typical.volumetric);
        }
        EXPECT_EQ(looked, 3u) << name;
        EXPECT_GT(c.parameters.isac * 3.6e6, 3.2)
            << "three and a half to four kilograms of air an indicated kilowatt hour";
        EXPECT_LT(c.parameters.isac * 3.6e6, 4.4);
    }
}
