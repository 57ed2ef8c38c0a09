// SPDX-License-Identifier: GPL-3.0-or-later
// Truths that spoilt code once went past every test with: each reckoned by hand here.
#include "engine/carburettor_ice.h"
#include "engine/knock.h"
#include "engine/lever_order.h"
#include "heat/thermal_model.h"
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "start/cranking.h"
#include "start/start_order.h"
#include "test_data.h"
#include "watch/walk_round.h"
#include <cmath>

namespace {
using namespace amber;

Temperature celsius(double degrees) {
    return Temperature::of(degrees, units::celsius);
}

/// A band of rpm in the middle where little boost is allowed: neither lever may be drawn through it at 40 inHg, though
/// both ends lie inside.
TEST(LeverOrder, AMoveIsHeldAgainstTheBoundaryAllTheWay) {
    const auto inHg = [](double p) { return ManifoldPressure::of(p, units::manifold::inHg); };
    const auto notch = [&](Rotation n) {
        const double rpm = n.si() * 60;
        return rpm > 2150 && rpm < 2250 ? inHg(25) : inHg(45);
    };
    const engine::LeverPosition slow{Rotation::of(2000, units::rpm), inHg(40)},
        fast{Rotation::of(2400, units::rpm), inHg(40)}, low{Rotation::of(2400, units::rpm), inHg(20)};
    const auto through = engine::leverOrder(slow, fast, notch);
    EXPECT_FALSE(through.clean) << through.why;
    // With the boost taken off first the notch is passed below it.
    const auto below = engine::leverOrder(slow, low, notch);
    EXPECT_TRUE(below.clean) << below.why;
    ASSERT_EQ(below.moves.size(), 2u);
    EXPECT_FALSE(below.moves.front().rpmLever);
    EXPECT_NEAR(below.moves.front().to.boost.si(), inHg(20).si(), 1);
    EXPECT_NEAR(below.moves.front().to.rpm.si() * 60, 2000, 1e-6);
    EXPECT_NEAR(below.moves.back().to.rpm.si() * 60, 2400, 1e-6);
}

TEST(Cranking, OilPressureTakesFourSecondsWarmAndGoesWithTheThirdRootOfTenOfTheViscosity) {
    EXPECT_NEAR(start::oilPressureRise(celsius(70)).si(), 4.0, 1e-9);
    EXPECT_NEAR(start::oilPressureRise(celsius(70), 8.0).si(), 4.0 * std::pow(8.0, 0.3), 1e-9) << "7.5 s";
    EXPECT_NEAR(start::oilPressureRise(celsius(70), 0.1).si(), 3.0, 1e-9) << "no pump is quicker";
    EXPECT_NEAR(start::oilPressureRise(celsius(-40)).si(), 25.0, 1e-9) << "the gauge has been watched long enough";
    const double ratio = heat::oilViscosity(celsius(10)) / heat::oilViscosity(celsius(70));
    EXPECT_NEAR(start::oilPressureRise(celsius(10)).si(), 4.0 * std::pow(ratio, 0.3), 1e-9);
}

TEST(Cranking, ACartridgeOfAirTurnsSlowerByTheRootOfTheDrag) {
    // No electric limit: speed goes as 1/sqrt(drag), and drag as the viscosity to a power: four times the time ratio.
    const auto& n = test::loaded("tanner-winter").aircraft->notes;
    ASSERT_EQ(n.start.starter.kind, StarterKind::air);
    const auto warm = start::crank(n.start, {celsius(70), start::Supply::cart, false, 1.5});
    const auto cold = start::crank(n.start, {celsius(0), start::Supply::cart, false, 1.5});
    EXPECT_NEAR(warm.rpm, n.start.starter.warmRpm, 1e-9) << "the notes' figure is for warm oil";
    const double drag = std::pow(warm.rpm / cold.rpm, 2);
    EXPECT_GT(drag, 1.5);
    EXPECT_NEAR(n.start.starter.airBottle.si() - cold.airLeft.si(),
                n.start.starter.airPerStart.si() * std::min(1.6, std::sqrt(drag)),
                1e-6 * n.start.starter.airBottle.si());
}

TEST(StartOrder, AnExtraThatTakesMoreThanTheDoseLeavesNone) {
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    start::StartRequest r;
    r.engine = r.oil = celsius(10);
    r.liking.extra["1"] = -20;
    r.liking.extra["2"] = 2;
    const auto timeline = start::planStart(n, r).value();
    double one = 0, two = 0;
    for (const auto& e : timeline.events)
        if (e.kind == start::EventKind::prime)
            (e.engine == "1" ? one : two) += e.length();
    EXPECT_NEAR(one, 0, 1e-9);
    EXPECT_NEAR(two, (3 + 2) * n.start.primeTime.si(), 1e-9) << "three strokes at 10 °C by the notes, and two";
}

TEST(GroundGauge, BetweenTwoAttitudesItIsReadInProportion) {
    Tank tank;
    tank.gauged = true;
    const auto litres = [](double l) { return Volume::si(l / 1000); };
    tank.ground = {{2.0, {{litres(0), litres(0)}, {litres(100), litres(90)}}},
                   {12.0, {{litres(0), litres(10)}, {litres(100), litres(50)}}}};
    // 60 l: 54 shown at 2°, 34 at 12°; a quarter of the way, at 4.5°, 49.
    EXPECT_NEAR(watch::groundGauge(tank, litres(60), 4.5)->shown.si() * 1000, 49, 1e-9);
    EXPECT_NEAR(watch::groundGauge(tank, litres(60), 2.0)->shown.si() * 1000, 54, 1e-9);
    EXPECT_NEAR(watch::groundGauge(tank, litres(60), 20.0)->shown.si() * 1000, 34, 1e-9) << "held at the table's end";
    EXPECT_NEAR(watch::groundGauge(tank, litres(60), -5.0)->shown.si() * 1000, 54, 1e-9);
}

TEST(CarburettorIce, TheRoomToKnockAfterHeatIsThatOfTheHeatedEngine) {
    const auto& a = *test::loaded("lorimer-spring").aircraft;
    const engine::KnockBoundary knock(a.notes, a.model(), "100");
    engine::Demand d{Rotation::of(2000, units::rpm),
                     ManifoldPressure::of(28, units::manifold::inHg),
                     0,
                     air::standardDay(Length{}).at(Length::si(1500)),
                     Speed{},
                     Mixture::rich};
    const auto ice = engine::carburettorIce(a.notes.engine, a.model(), knock, d, celsius(4));
    ASSERT_NE(ice.risk, engine::IceRisk::none);
    EXPECT_NEAR(ice.marginBefore, knock.permitted(d).si() / engine::operate(a.model(), d).manifoldPressure.si() - 1,
                1e-9);
    // Forty per cent of a kelvin a percent: so many kelvin cost so much of the boundary, exp(-0.004 ΔT), and the same
    // throttle in thinner hot air holds less boost.
    engine::Demand hot = d;
    hot.carburettorHeat = ice.heatNeeded;
    const double boundary = knock.permitted(hot).si() / knock.permitted(d).si();
    EXPECT_LT(boundary, 1 - 0.002 * ice.heatNeeded);
    EXPECT_LT(ice.marginAfter, ice.marginBefore);
    EXPECT_GT(ice.marginAfter, (1 + ice.marginBefore) * boundary - 1 - 1e-9)
        << "less boost comes, so a little is given back";
}

TEST(NotesReader, AKeyThatAVariantDoesNotKnowIsRefused) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto problems =
        readNotes(test::replaced(text, "[[variant]]\n", "[[variant]]\ncolour = \"red\"\n"), "t.toml").problems;
    EXPECT_TRUE(std::any_of(problems.begin(), problems.end(),
                            [](const Problem& p) { return p.what.find("variant.colour is not a key") == 0; }));
}

TEST(Schools, TheNotesOwnIsMarkedAsTheirs) {
    int own = 0;
    for (const auto& name : test::demoNames())
        for (const auto& [phase, notes] : test::loaded(name).aircraft->notes.phases)
            for (const auto& step : notes.steps)
                if (!step.schools.empty()) {
                    const auto byNotes = std::count_if(step.schools.begin(), step.schools.end(),
                                                       [](const School& s) { return s.byNotes; });
                    EXPECT_LE(byNotes, 1) << name << " " << step.id;
                    own += static_cast<int>(byNotes);
                }
    EXPECT_GT(own, 40) << "nearly every point has the notes' own school";
}

TEST(RunUpSheet, TheFallOfAMagnetoIsKeptAsAFigure) {
    auto loaded = test::loadDemo("lorimer-spring");
    Sortie s = *loaded.sortie;
    const auto before = plan::makePlan(*loaded.aircraft, s);
    std::string key;
    for (const auto& line : before.runUpSheet.lines)
        if (line.kind == watch::SheetKind::drop && key.empty())
            key = line.cells.front().key;
    ASSERT_FALSE(key.empty());
    s.runUpFound[key] = "80 rpm, slow";
    const auto after = plan::makePlan(*loaded.aircraft, s);
    bool seen = false;
    for (const auto& line : after.runUpSheet.lines)
        for (const auto& cell : line.cells)
            if (cell.key == key) {
                ASSERT_TRUE(cell.value);
                EXPECT_NEAR(*cell.value * 60, 80, 1e-9);
                seen = true;
            }
    EXPECT_TRUE(seen);
}

TEST(PlanComparison, TheOtherRatingOfAClimbIsTheNearestBelow) {
    // Lorimer: rated 2,350 rpm; below it maximum cruise at 2,100, not economical at 1,650 nor take-off at 2,650.
    const auto& l = test::loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto c = plan::compareDays(*l.aircraft, *l.sortie, f, Phase::climb);
    ASSERT_EQ(c.columns.size(), 4u);
    EXPECT_EQ(c.columns.back(), "Maximum cruise");
}
} // namespace
