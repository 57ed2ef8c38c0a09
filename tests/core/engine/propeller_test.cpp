// SPDX-License-Identifier: GPL-3.0-or-later
// Fixed and two-position propellers: rpm follows throttle and speed.
#include "engine/propeller.h"
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;

struct Case {
    flight::LoadedSortie loaded;
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return *loaded.aircraft; }
};
const Case& ostler() {
    static const Case c{test::loadDemo("ostler-bush")};
    return c;
}
air::Ambient airAt(double metres) {
    return air::standardDay(Length{}).at(Length::si(metres));
}
engine::Agreement agreed(double boost, double ias, double rpm = 40, double metres = 0) {
    const auto& a = ostler().aircraft();
    return engine::agree(
        a.model(), a.propeller.coarse,
        {Rotation::si(rpm), ManifoldPressure::si(boost), 0, airAt(metres), Speed::si(ias), Mixture::rich});
}

TEST(FixedPitch, StandingItTurnsAtItsReferenceRpm) {
    const auto& n = ostler().aircraft().notes;
    EXPECT_NEAR(agreed(standardPressure, 0).rpm.si(), n.propeller.referenceRpm->si(), 0.05);
}

TEST(FixedPitch, InLevelFlightItTurnsAtTheNotesLine) {
    const auto& a = ostler().aircraft();
    for (const auto& line : a.notes.performance)
        if (!line.rate) {
            const Rating& r = *a.notes.rating(line.rating);
            const auto both = engine::agree(a.model(), a.propeller.coarse,
                                            {Rotation::si(r.rpm.si() * 1.3), r.boost, 0,
                                             air::standardDay(Length{}).at(line.height), line.ias, r.mixture});
            EXPECT_NEAR(both.rpm.si(), r.rpm.si(), 0.02);
        }
}

RC_GTEST_PROP(FixedPitchProperty, FasterOrMoreBoostNeverTurnsSlower, ()) {
    const double boost = *rc::gen::inRange(40000, 115000), ias = *rc::gen::inRange(0, 60);
    const auto slow = agreed(boost, ias), fast = agreed(boost, ias + *rc::gen::inRange(0, 15)),
               open = agreed(boost + *rc::gen::inRange(0, 15000), ias);
    RC_ASSERT(fast.rpm.si() >= slow.rpm.si() - 0.01);
    RC_ASSERT(open.rpm.si() >= slow.rpm.si() - 0.01);
}

RC_GTEST_PROP(FixedPitchProperty, TheWantedRpmIsNeverPassed, ()) {
    const double rpm = *rc::gen::inRange(900, 2250) / 60.0;
    const auto both =
        agreed(*rc::gen::inRange(20000, 120000), *rc::gen::inRange(0, 80), rpm, *rc::gen::inRange(0, 4000));
    RC_ASSERT(both.rpm.si() <= rpm + 1e-9);
}

TEST(TwoPosition, CoarseTurnsSlowerThanFine) {
    const auto d = test::loadDemo("thatcher-lesson");
    const auto& a = *d.aircraft;
    const auto rpm = [&](const engine::BladeAngle& blades) {
        return engine::agree(a.model(), blades,
                             {Rotation::si(60), ManifoldPressure::si(1e5), 0, airAt(0), Speed::si(30), Mixture::rich})
            .rpm.si();
    };
    EXPECT_LT(rpm(a.propeller.coarse), rpm(a.propeller.fine));
}

TEST(FixedPitch, ContradictingNotesAreRefusedWithTheLine) {
    const auto text = test::fileText(test::dataPath("notes/ostler-o3.toml"));
    const auto reading = readNotes(test::replaced(text, "reference_rpm = 1650", "reference_rpm = 1950"), "ostler.toml");
    ASSERT_TRUE(reading.notes.has_value());
    Problems problems;
    EXPECT_FALSE(powerplant::assemble(*reading.notes, problems));
    ASSERT_EQ(problems.size(), 1u);
    EXPECT_NE(problems.front().text().find("reference_rpm"), std::string::npos) << problems.front().text();
    EXPECT_EQ(problems.front().text().find("ostler.toml:"), 0u);
    EXPECT_GT(problems.front().line, 0);
}

TEST(Tinker, IsFlownByRpmAloneAndNeverPastItsLimit) {
    const auto d = test::loadDemo("tinker-damp");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    const double most = *d.aircraft->notes.gauges.at(Gauge::rpm).band.limitHigh;
    for (const auto& m : f.samples)
        EXPECT_LE(m[Gauge::rpm], most + 1e-6);
    EXPECT_NEAR(f[Phase::cruise].setting.rpm.si() * 60, 2300, 0.5) << "the rpm asked for";
    EXPECT_LT(f[Phase::climb].setting.rpm.si() * 60, 2450) << "in the climb the propeller holds it back";
    EXPECT_GT(f[Phase::climb].setting.rpm, f.staticRpm);
    const auto p = plan::makePlan(*d.aircraft, *d.sortie);
    for (const auto& phase : p.phases)
        for (const auto& e : phase.expect)
            EXPECT_NE(e.gauge, Gauge::boost) << "there is no boost gauge";
    EXPECT_EQ(p.prime.unit, "blades");
}
} // namespace
