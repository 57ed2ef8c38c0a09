// SPDX-License-Identifier: GPL-3.0-or-later
// Hot days: every setting of a phase is held to the knock boundary, and where the careful hand's engine knocks the plan
// has said so.
#include "advice/figures.h"
#include "hand/careful_hand.h"
#include "rehearse/rehearsal.h"
#include "test_data.h"

namespace {
using namespace amber;

flight::LoadedSortie hot(const std::string& demo, double oat) {
    flight::LoadedSortie l = test::loaded(demo);
    l.sortie->day.oat = Temperature::of(oat, units::celsius);
    l.sortie->day.dewPoint = Temperature::of(-5.0, units::celsius); // dry: ice is another matter
    return l;
}
const watch::Finding* knocks(const flight::Flown& f, Phase phase) {
    for (const auto& x : f.findings)
        if ((x.rule == watch::Rule::knockRoom || x.rule == watch::Rule::knockPast) && x.phase == phase)
            return &x;
    return nullptr;
}

TEST(HotClimb, WhatIsSetAfterTheChangeOfGearIsJudgedWhereTheRoomIsLeast) {
    const auto mild = hot("lorimer-spring", 6.0), warm = hot("lorimer-spring", 33.0);
    const auto cool = flight::fly(*mild.aircraft, *mild.sortie), red = flight::fly(*warm.aircraft, *warm.sortie);
    EXPECT_EQ(knocks(cool, Phase::climb), nullptr);
    ASSERT_TRUE(cool[Phase::climb].knock && red[Phase::climb].knock);
    // The charge is hottest just after the change, in high gear.
    EXPECT_EQ(red[Phase::climb].knock->gear, 1u);
    EXPECT_NEAR(red[Phase::climb].knock->height.si(), red.gearChanges.front().height.si(), 200.0);
    const auto* told = knocks(red, Phase::climb);
    ASSERT_NE(told, nullptr);
    EXPECT_EQ(told->verdict.colour(), watch::Colour::red);
    EXPECT_NE(told->verdict.sentence().find("in high gear"), std::string::npos) << told->verdict.sentence();
    // pk goes with exp(−0.004 (Tm − 100 °C)): so much hotter, so much lower.
    const auto &a = *cool[Phase::climb].knock, &b = *red[Phase::climb].knock;
    EXPECT_NEAR(b.boundary.si() / a.boundary.si(), std::exp(-0.004 * (b.charge.si() - a.charge.si())), 0.02);
}

TEST(HotClimb, NoPlanLeadsACarefulHandIntoKnockingUntold) {
    for (const auto* demo : {"lorimer-spring", "farrier-summer"})
        for (const double oat : {38.0}) {
            const auto l = hot(demo, oat);
            const auto plan = flight::fly(*l.aircraft, *l.sortie);
            std::map<Phase, double> knocked;
            hand::doDrill(*l.aircraft, *l.sortie, plan, hand::byThePlansClock, [&](const hand::Moment& m) {
                if (m.readings.engines.front().knock > 0.1)
                    knocked[m.phase] += 0.1;
            });
            for (const auto& [phase, seconds] : knocked)
                if (seconds > 20.0)
                    EXPECT_NE(knocks(plan, phase), nullptr)
                        << demo << " at " << oat << " °C detonates for " << seconds << " s in " << keyOf(phase);
        }
}

TEST(HeightSteps, ARatingsHeightTakesNothingFromWhatIsLessAlreadyAndEveryStepIsTold) {
    // 43 inHg to 20,000 ft, 41 above it.
    auto l = test::loaded("wheelwright-height");
    const auto inHg = [](double x) { return ManifoldPressure::of(x, units::manifold::inHg); };
    const auto figure = [&](const char* name) -> std::optional<double> {
        const auto flown = flight::fly(*l.aircraft, *l.sortie);
        const auto f = advice::figureOf(*l.aircraft, *l.sortie, flown, Phase::climb, name);
        return f ? f->si : std::nullopt;
    };
    ASSERT_TRUE(figure("falls-at"));
    EXPECT_NEAR(*figure("fallen-boost"), inHg(41).si(), 1.0);
    EXPECT_FALSE(figure("second-falls-at")) << "there is one step";
    // Set to 32.5 for the grade or by hand: 41 is no step back.
    l.sortie->flight.climbBoost = inHg(32.5);
    EXPECT_FALSE(figure("falls-at"));
    EXPECT_FALSE(figure("fallen-boost"));
    const auto flown = flight::fly(*l.aircraft, *l.sortie);
    const auto hand = hand::doDrill(*l.aircraft, *l.sortie, flown, hand::byThePlansClock);
    const auto seconds = [](const hand::Put& put) { return static_cast<double>(put.at) / 1000.0; };
    for (const auto& put : hand.put)
        if (l.aircraft->notes.controls[put.control].acts == Acts::throttle && put.to.si && put.to.position.empty() &&
            put.to.dimension == Dimension::manifoldPressure && seconds(put) > hand[Phase::takeOff].time &&
            seconds(put) < hand[Phase::climb].time)
            EXPECT_LE(*put.to.si, inHg(32.5).si() + 400.0) << "at " << seconds(put);
    // Two steps: both, each from its height.
    auto two = std::make_shared<powerplant::Aircraft>(*l.aircraft);
    for (auto& rating : two->notes.ratings)
        if (!rating.above.empty())
            rating.above.insert(rating.above.begin(), {Length::of(15000, units::foot), inHg(42)});
    l.aircraft = two;
    l.sortie->flight.climbBoost.reset();
    EXPECT_NEAR(*figure("fallen-boost"), inHg(42).si(), 1.0);
    EXPECT_NEAR(*figure("second-fallen-boost"), inHg(41).si(), 1.0);
    EXPECT_LT(*figure("falls-at"), *figure("second-falls-at"));
    l.sortie->flight.climbBoost = inHg(41.5);
    EXPECT_NEAR(*figure("fallen-boost"), inHg(41).si(), 1.0) << "the first that takes something";
    EXPECT_FALSE(figure("second-fallen-boost"));
}
} // namespace
