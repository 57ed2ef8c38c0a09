// SPDX-License-Identifier: GPL-3.0-or-later
// Hot days: every setting of a phase is held to the knock boundary, and where the careful hand's engine knocks the plan
// has said so.
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
    for (const auto* demo : {"lorimer-spring", "farrier-summer", "collier-high"})
        for (const double oat : {30.0, 40.0}) {
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
                        << demo << " at " << oat << " °C knocks for " << seconds << " s in " << keyOf(phase);
        }
}
} // namespace
