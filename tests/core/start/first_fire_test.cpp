// SPDX-License-Identifier: GPL-3.0-or-later
// What the plan says of a start is what a hand that does the drill then gets of the engine.
#include "plan/plan.h"
#include "powerplant/first_fire.h"
#include "start/start_school.h"
#include "started.h"
#include "test_data.h"
#include <cmath>
#include <fmt/format.h>
#include <gtest/gtest.h>

namespace amber {
namespace {
using test::Got;
using test::started;
Sortie at(const flight::LoadedSortie& d, double celsius) {
    return test::atWarmth(*d.sortie, celsius);
}

bool told(const flight::Flown& f, watch::Rule rule) {
    return std::any_of(f.findings.begin(), f.findings.end(), [&](const auto& x) { return x.rule == rule; });
}
std::string sentenceOf(const flight::Flown& f, watch::Rule rule) {
    for (const auto& x : f.findings)
        if (x.rule == rule)
            return x.verdict.sentence();
    return {};
}
} // namespace

TEST(FirstFire, TheHandGetsTheStartThatThePlanForetells) {
    for (const char* demo : {"tinker-damp", "sexton-meadow", "farrier-summer", "collier-high", "tanner-winter",
                             "wheelwright-windy", "chandler-haven", "mercer-frost"}) {
        const auto d = test::loaded(demo);
        // tools/starts has every day.
        for (const double celsius : {-22.0, -4.0, 29.0}) {
            const Sortie s = at(d, celsius);
            const auto f = flight::fly(*d.aircraft, s);
            const Got got = started(*d.aircraft, s, f);
            const bool warned = told(f, watch::Rule::startsHardly);
            for (std::size_t e = 0; e < got.tries.size(); ++e) {
                const auto& id = d.aircraft->notes.positions[e].id;
                const auto& tries = f.foreseen.at(id);
                const std::string where = fmt::format("{} {} at {:.0f} °C", demo, id, celsius);
                if (!tries.back().fires) {
                    EXPECT_LT(got.fires[e], 0.0) << where << ": red, and it fired";
                    EXPECT_TRUE(told(f, watch::Rule::startsNever)) << where;
                    continue;
                }
                EXPECT_GT(got.fires[e], 0.0) << where << ": promised, and it never fired";
                if (tries.size() > 1) {
                    EXPECT_TRUE(warned) << where;
                    continue; // how the crew shares out its rests is its own
                }
                EXPECT_EQ(got.tries[e], 1) << where;
                const auto& order = f.start.order; // twenty seconds a start
                const auto turn = std::find(order.begin(), order.end(), id) - order.begin() + 1;
                EXPECT_NEAR(got.fires[e] - got.before, f.start.runningFrom.at(id), 20.0 * static_cast<double>(turn))
                    << where;
            }
        }
    }
}

TEST(FirstFire, WhatIsSaidToCureAColdStartCuresItAndFiveKelvinsLessDoNot) {
    const auto d = test::loaded("farrier-summer");
    Sortie s = at(d, -20.0);
    const auto cold = flight::fly(*d.aircraft, s);
    ASSERT_TRUE(told(cold, watch::Rule::startsNever));
    const auto says = sentenceOf(cold, watch::Rule::startsNever);
    const auto from = says.find("pre-heating to ");
    ASSERT_NE(from, std::string::npos) << says;
    const bool minus = says.compare(from + 15, 3, "−") == 0;
    const double warm = std::stod(says.substr(from + 15 + (minus ? 3 : 0))) * (minus ? -1.0 : 1.0);
    s.start.preheated = Temperature::si(273.15 + warm);
    const auto heated = flight::fly(*d.aircraft, s);
    EXPECT_FALSE(told(heated, watch::Rule::startsNever) || told(heated, watch::Rule::startsHardly)) << says;
    EXPECT_EQ(started(*d.aircraft, s, heated).tries[0], 1);
    s.start.preheated = Temperature::si(273.15 + warm - 5.0);
    const auto less = flight::fly(*d.aircraft, s);
    EXPECT_TRUE(told(less, watch::Rule::startsNever) || told(less, watch::Rule::startsHardly) ||
                told(less, watch::Rule::oilPressureLate))
        << says;
}

TEST(FirstFire, ColdOilWhosePressureComesTooLateIsToldBeforeItIsStarted) {
    const auto d = test::loaded("tanner-winter");
    const Sortie s = at(d, -30.0);
    const auto f = flight::fly(*d.aircraft, s);
    const auto says = sentenceOf(f, watch::Rule::oilPressureLate);
    EXPECT_NE(says.find("stopped after 20 s"), std::string::npos) << says;
    EXPECT_NE(says.find("pre-heating"), std::string::npos) << says;
    EXPECT_FALSE(told(flight::fly(*d.aircraft, at(d, -10.0)), watch::Rule::oilPressureLate));
    // The hand stops it for want of pressure, and does not start it again.
    const Got got = started(*d.aircraft, s, f);
    EXPECT_EQ(got.tries[0], 1);
}

TEST(FirstFire, AWarmEngineIsNotPrimedAndFiresOnItsJetsAsItTurns) {
    const auto d = test::loaded("collier-high");
    Sortie s = at(d, 20.0);
    s.start.sinceStop = Duration::si(1500);
    const auto f = flight::fly(*d.aircraft, s);
    ASSERT_FALSE(d.aircraft->notes.start.openJets);
    ASSERT_EQ(f.foreseen.at("1").size(), 1u);
    EXPECT_EQ(f.foreseen.at("1")[0].dose, 0.0);
    EXPECT_TRUE(f.foreseen.at("1")[0].fires);
    EXPECT_EQ(started(*d.aircraft, s, f).tries[0], 1);
    // Pressed on open jets before it turns it would be full of fuel: the hand opens them with the starter.
    EXPECT_FALSE(told(f, watch::Rule::startsHardly));
}

TEST(FirstFire, ASecondTryIsToldTheDoseThatIsThenMissingAndNotTheWholeAgain) {
    const auto d = test::loaded("mercer-frost");
    const Sortie s = at(d, -22.0);
    const auto f = flight::fly(*d.aircraft, s);
    const auto& tries = f.foreseen.at("1");
    ASSERT_GE(tries.size(), 2u);
    EXPECT_LT(tries[1].dose, 0.7 * tries[0].dose) << "most of the first still lies in it";
    const auto inForce = start::startInForce(d.aircraft->notes, s.choices);
    const auto lines = start::startSequence(d.aircraft->notes, inForce, f.start, flight::startRequestOf(s, f));
    std::vector<std::string> told;
    for (const auto& line : lines)
        if (line.engine == "1" && line.set.find("prime ") != std::string::npos)
            told.push_back(line.set);
    ASSERT_GE(told.size(), 2u);
    EXPECT_NE(told[0].find(fmt::format("prime {:.0f} ", tries[0].dose)), std::string::npos) << told[0];
    EXPECT_NE(told[1].find(fmt::format("prime {:.0f} ", tries[1].dose)), std::string::npos) << told[1];
}

TEST(FirstFire, ABatteryThatIsFlatFiresNothingAndTheCartDoes) {
    const auto d = test::loaded("farrier-summer");
    const powerplant::Powerplant plant(*d.aircraft, d.sortie->fuelGrade);
    const Sortie s = at(d, 20.0);
    auto request = flight::startRequestOf(s);
    const auto inForce = d.aircraft->notes.start;
    powerplant::BeforeFire flat{0, s.day.at(Length{}), 0.0, 0.0, 0};
    request.supply = start::Supply::battery;
    EXPECT_FALSE(powerplant::firstFire(plant, inForce, request, flat).tries.back().fires);
    request.supply = start::Supply::cart;
    EXPECT_TRUE(powerplant::firstFire(plant, inForce, request, flat).tries.back().fires);
    flat.charge = plant.batteryCapacity();
    request.supply = start::Supply::battery;
    const auto full = powerplant::firstFire(plant, inForce, request, flat);
    EXPECT_TRUE(full.tries.back().fires);
    EXPECT_LT(full.charge, plant.batteryCapacity());
}

} // namespace amber
