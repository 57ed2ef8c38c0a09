// SPDX-License-Identifier: GPL-3.0-or-later
// What is left when an engine fails.
#include "trouble/engine_out.h"
#include "air/atmosphere.h"
#include "test_data.h"
#include <cmath>

namespace amber {
namespace {
using trouble::DeadBlades;

trouble::OnTheRest rest(const flight::LoadedSortie& l, double height, double kilograms, std::vector<std::size_t> dead,
                       DeadBlades blades) {
    return trouble::onTheRest(*l.aircraft, *l.sortie, Length::si(height), Mass::si(kilograms), dead, blades, true);
}
} // namespace

TEST(EngineOut, FeatheredIsNeverWorseThanWindmilling) {
    for (const char* name : {"lorimer-spring", "mercer-frost"}) {
        const auto& l = test::loaded(name);
        const double weight = 0.95 * l.aircraft->notes.maxWeight.si();
        for (const double height : {500.0, 2500.0, 5000.0}) {
            const auto feathered = rest(l, height, weight, {0}, DeadBlades::feathered);
            const auto windmilling = rest(l, height, weight, {0}, DeadBlades::windmilling);
            EXPECT_GT(feathered.rate.si(), windmilling.rate.si() + 0.1) << name << " " << height;
            EXPECT_LT(feathered.needed.si(), windmilling.needed.si());
        }
    }
}

TEST(EngineOut, LighterAndCoolerIsNeverWorse) {
    auto l = test::loadDemo("lorimer-spring");
    const double heavy = rest(l, 1500, 12500, {0}, DeadBlades::feathered).rate.si();
    const double light = rest(l, 1500, 11000, {0}, DeadBlades::feathered).rate.si();
    EXPECT_GT(light, heavy + 0.2);
    l.sortie->day.oat = Temperature::si(l.sortie->day.oat.si() + 25.0);
    EXPECT_LT(rest(l, 1500, 12500, {0}, DeadBlades::feathered).rate.si(), heavy);
}

// By hand: with one of two feathered she has lost half the power, and with it 0.8 P/W of climb; what the feathered
// blades and the rudder drag takes a little more, some tenths of a metre a second.
TEST(EngineOut, LosesTheClimbThatTheEngineGave) {
    const auto& l = test::demo("lorimer");
    const double weight = 12000, w = weight * air::gravity;
    const auto one = rest(l, 1000, weight, {0}, DeadBlades::feathered);
    const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(Length::si(1000)));
    const double both = powerplant::rateOfClimb(*l.aircraft, 2 * one.each.si(), Mass::si(weight), one.ias, air).si();
    const double lost = 0.8 * one.each.si() / w;
    EXPECT_LT(one.rate.si(), both - lost + 0.05);
    EXPECT_GT(one.rate.si(), both - lost - 0.7);
    // And what is needed is what the polar asks of the one engine, a little over.
    const double polar = powerplant::powerForRate(*l.aircraft, 0.0, Mass::si(weight), one.ias, air).si();
    EXPECT_GT(one.needed.si(), polar);
    EXPECT_LT(one.needed.si(), 1.15 * polar);
    EXPECT_TRUE(one.continuous) << "no rating with a clock for what must be held";
}

TEST(EngineOut, TheCeilingIsWhereTheRateIsNil) {
    const auto& l = test::demo("lorimer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600, {1});
    ASSERT_TRUE(out.ceiling);
    EXPECT_LT(std::abs(rest(l, out.ceiling->si(), out.moment.weight.si(), {1}, DeadBlades::feathered).rate.si()), 0.06);
    EXPECT_GT(rest(l, out.ceiling->si() - 300, out.moment.weight.si(), {1}, DeadBlades::feathered).rate.si(), 0.0);
    // Cruising above it she drifts down to it, no faster than she sinks at the top.
    if (out.moment.height > *out.ceiling) {
        EXPECT_FALSE(out.driftDown.holds);
        EXPECT_NEAR(out.driftDown.to.si(), out.ceiling->si(), 2.0);
        EXPECT_GT(out.driftDown.seconds,
                  (out.moment.height.si() - out.ceiling->si()) / std::max(0.1, -out.feathered.rate.si()));
        EXPECT_EQ(out.verdict.colour(), watch::Colour::red);
    }
    // The starboard engine drives generator and pump, and there is no other.
    EXPECT_NE(std::find_if(out.lost.services.begin(), out.lost.services.end(),
                           [](const std::string& s) { return s.find("generator") != std::string::npos; }),
              out.lost.services.end());
}

TEST(EngineOut, TwoOfFourIsWorseThanOneAndASingleComesDown) {
    const auto& m = test::loaded("mercer-frost");
    const double weight = 34000;
    const double one = rest(m, 2000, weight, {0}, DeadBlades::feathered).rate.si();
    const double two = rest(m, 2000, weight, {0, 1}, DeadBlades::feathered).rate.si();
    EXPECT_LT(two, one - 1.0);
    const auto& t = test::loaded("thatcher-lesson");
    const auto f = flight::fly(*t.aircraft, *t.sortie);
    const auto single = trouble::engineOut(*t.aircraft, *t.sortie, f, f[Phase::cruise].start + 60, {0});
    EXPECT_FALSE(single.ceiling);
    EXPECT_LT(single.feathered.rate.si(), -1.5);
    EXPECT_EQ(single.verdict.colour(), watch::Colour::red);
    EXPECT_NEAR(single.driftDown.to.si(), t.sortie->day.elevation.si(), 5.0) << "to the ground";
}

} // namespace amber
