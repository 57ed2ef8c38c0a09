// SPDX-License-Identifier: GPL-3.0-or-later
// Going round and diving: opened and flown on the powerplant, held against hand calculations.
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/permitted_boost.h"
#include "test_data.h"
#include "trouble/dive.h"
#include "trouble/drill.h"
#include "trouble/engine_out.h"
#include "trouble/go_round.h"
#include "trouble/sheet.h"
#include <cmath>

namespace amber {
namespace {
trouble::GoRound round(const flight::LoadedSortie& l) {
    return trouble::goRound(*l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie));
}
TEST(GoRoundFigures, EachLeverLeftCostsItsPowerOverTheWeight) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "mercer-frost"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto g = trouble::goRound(*l.aircraft, *l.sortie, f);
        const double engines = static_cast<double>(l.aircraft->notes.positions.size()),
                     w = g.weight.si() * air::gravity;
        for (const auto& left : g.left)
            EXPECT_NEAR(left.rate.si(), g.rateDown.si() - 0.8 * engines * (g.each.si() - left.power.si()) / w, 0.02)
                << name << ": " << left.lever;
    }
}

TEST(GoRoundFigures, LeversLeftGiveWhatTheEngineGivesSo) {
    auto l = test::loadDemo("farrier-summer");
    const auto& n = l.aircraft->notes;
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto g = trouble::goRound(*l.aircraft, *l.sortie, f);
    const Rating& r = *n.rating(n.phase(Phase::takeOff).rating);
    const auto air = l.sortie->day.at(g.pressureAltitude);
    engine::Demand d{r.rpm, g.boost, 0, air, g.approach, Mixture::rich};
    const double whole = engine::operate(l.aircraft->model(), d).power.si();
    EXPECT_NEAR(g.each.si() / whole, 1.0, 0.05) << "settled, it is the steady point";
    const auto so = [&](const char* lever) {
        for (const auto& left : g.left)
            if (left.lever == lever)
                return left.power.si() / g.each.si();
        return -1.0;
    };
    engine::Demand hot = d;
    hot.carburettorHeat = n.engine.carburettorHeatRise.value_or(50.0);
    EXPECT_NEAR(so("Carburettor air hot"), engine::operate(l.aircraft->model(), hot).power.si() / whole, 0.005);
    engine::Demand slow = d;
    slow.rpm = g.approachRpm;
    EXPECT_NEAR(so("Rpm as on the approach"), engine::operate(l.aircraft->model(), slow).power.si() / whole, 0.005);
    // Where the notes do not say how hot, 50 K.
    const auto with = [&](std::optional<double> rise) {
        powerplant::Aircraft own = *l.aircraft;
        own.notes.engine.carburettorHeatRise = rise;
        return trouble::goRound(own, *l.sortie, flight::fly(own, *l.sortie));
    };
    const auto unknown = with(std::nullopt), known = with(50.0);
    ASSERT_EQ(unknown.left.size(), known.left.size());
    for (std::size_t i = 0; i < known.left.size(); ++i)
        EXPECT_NEAR(unknown.left[i].power.si(), known.left[i].power.si(), 1.0) << known.left[i].lever;
}

TEST(DiveFigures, ItEndsThreeHundredMetresOverTheNearerField) {
    const auto& l = test::loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto d = trouble::dive(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600);
    EXPECT_NEAR(d.to.si(), d.moment.height.si() - d.moment.aboveField.si() + 300, 0.5);
    const double cruise = f[Phase::cruise].setting.ias.si();
    EXPECT_NEAR(d.ias.si(), d.never ? 0.95 * d.never.value().si() : 1.3 * cruise, 0.01);
    for (const auto& way : d.ways) {
        // Where it comes down all the way, its height over its mean sink.
        EXPECT_GT(way.seconds, 0.4 * (d.moment.height - d.to).si() / std::max(0.5, way.sink.si())) << way.name;
        EXPECT_LT(way.seconds, 3600.5) << way.name;
    }
    const auto& first = d.ways.front();
    if (d.allowed && first.fall > *d.allowed)
        EXPECT_NEAR(d.aheadSeconds, 60 * (first.fall / *d.allowed - 1), 0.5);
}

TEST(GlideFigures, TimeIsTheWayOverTheTrueSpeedHalfWayDown) {
    const auto& l = test::loaded("farrier-summer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto m = trouble::momentAt(l.aircraft->notes, *l.sortie, f, f[Phase::cruise].start + 60);
    const auto g = trouble::glideFrom(*l.aircraft, *l.sortie, m);
    const auto air =
        l.sortie->day.at(l.sortie->day.pressureAltitudeOf(Length::si(m.height.si() - 0.5 * m.aboveField.si())));
    const double tas = air::trueAirspeed(g.ias, air.pressure, air.temperature).si(), down = m.aboveField.si();
    EXPECT_NEAR(g.seconds, std::hypot(g.distance, down) / tas, 0.01 * g.seconds);
    if (!g.byNotes)
        EXPECT_NEAR(g.sink.si() * g.seconds, down, 0.01 * down) << "down it is as long as its sink takes";
}

TEST(GoRoundFigures, WheelsAndFlapsDownDragSixTenthsAndHalfAsMuchAgain) {
    TypeNotes n = test::loaded("lorimer-spring").aircraft->notes;
    n.trouble.dragDown = std::nullopt;
    const auto has = [&](Acts acts) {
        return std::any_of(n.controls.begin(), n.controls.end(), [&](const Control& c) { return c.acts == acts; });
    };
    ASSERT_TRUE(has(Acts::wheels) && has(Acts::wingFlap));
    EXPECT_NEAR(trouble::dragDown(n), 2.1, 1e-9);
    std::erase_if(n.controls, [](const Control& c) { return c.acts == Acts::wheels; });
    EXPECT_NEAR(trouble::dragDown(n), 1.5, 1e-9);
    n.trouble.dragDown = 1.8;
    EXPECT_NEAR(trouble::dragDown(n), 1.8, 1e-9) << "the notes' figure goes before";
}

} // namespace

// By hand: P = 0.8 × power, less the polar's drag at the approach speed, over the weight.
TEST(GoRound, ClimbsAtTheRateThatThePolarLeaves) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "mercer-frost", "thatcher-lesson"}) {
        const auto& l = test::loaded(name);
        const auto g = round(l);
        const auto air = l.sortie->day.at(g.pressureAltitude);
        const double tas = air::trueAirspeed(g.approach, air.pressure, air.temperature).si();
        const double q = 0.5 * air::density(air.pressure, air.temperature) * tas * tas,
                     w = g.weight.si() * air::gravity;
        const double useful = 0.8 * g.each.si() * static_cast<double>(l.aircraft->notes.positions.size());
        const auto& drag = l.aircraft->drag;
        const double clean = q * drag.area + drag.induced * w * w / q;
        EXPECT_NEAR(g.rateUp.si(), (useful - clean * tas) / w, 0.05) << name;
        const double down = q * drag.area * trouble::dragDown(l.aircraft->notes) + drag.induced * w * w / q;
        EXPECT_NEAR(g.rateDown.si(), (useful - down * tas) / w, 0.05) << name;
        EXPECT_LT(g.rateDown, g.rateUp) << name;
    }
}

TEST(GoRound, SetsTheTakeOffRatingCutForTheGradeAndTheDay) {
    auto l = test::loadDemo("farrier-summer");
    const auto& n = l.aircraft->notes;
    const Rating& takeOff = *n.rating(n.phase(Phase::takeOff).rating);
    const auto good = round(l);
    EXPECT_EQ(good.boost, engine::permittedBoost(n, takeOff, l.sortie->fuelGrade, engine::BoostAt::inGear(0)).boost);
    EXPECT_EQ(good.rpm, takeOff.rpm);
    l.sortie->fuelGrade = n.fuel.grades.back();
    const auto poor = round(l);
    EXPECT_LT(*poor.boost, *good.boost) << "the next lower grade";
    EXPECT_LT(poor.rateUp, good.rateUp);
    // High and hot it gives less than the boost that is set: past the full-throttle height.
    auto high = test::loadDemo("farrier-summer");
    const auto low = round(high);
    high.sortie->flight.toElevation = Length::si(2600);
    high.sortie->day.oat = Temperature::si(high.sortie->day.oat.si() + 10);
    const auto mountain = round(high);
    EXPECT_TRUE(mountain.fullThrottle);
    EXPECT_LT(mountain.comes.si(), 0.97 * mountain.boost->si());
    EXPECT_LT(mountain.each.si(), 0.97 * low.each.si());
    EXPECT_LT(mountain.rateUp.si(), low.rateUp.si());
}

TEST(GoRound, IsRedWhereSheCannotClimbAndSaysNoHeightThen) {
    auto l = test::loadDemo("tinker-damp");
    double last = 1e9;
    bool red = false;
    for (const double height : {100.0, 1200.0, 2400.0, 3600.0, 4800.0}) {
        l.sortie->flight.toElevation = Length::si(height);
        l.sortie->flight.cruiseHeight = Length::si(std::max(l.sortie->flight.cruiseHeight.si(), height + 300));
        const auto g = round(l);
        EXPECT_LE(g.rateUp.si(), last + 0.05) << height << ": higher is never better";
        last = g.rateUp.si();
        if (g.rateUp.si() <= 0.5) {
            red = true;
            EXPECT_EQ(g.climbs.colour(), watch::Colour::red) << height;
            EXPECT_FALSE(g.dip) << height;
        } else {
            EXPECT_EQ(g.climbs.colour(), watch::Colour::normal) << height;
            ASSERT_TRUE(g.notBelow) << height;
            EXPECT_GE(g.notBelow->si(), g.dip->si() + 14.9) << "what it loses and fifteen metres over it";
        }
    }
    EXPECT_TRUE(red) << "five kilometres are too high for seventy-five horsepower";
}

// By hand: two seconds at three degrees' sink, then the sink turned into a climb over the seconds of the opening.
TEST(GoRound, LosesTheHeightOfTheSecondsThatItTakes) {
    const auto& l = test::demo("lorimer");
    const auto g = round(l);
    const auto air = l.sortie->day.at(g.pressureAltitude);
    const double tas = air::trueAirspeed(g.approach, air.pressure, air.temperature).si();
    const double first = 2.0 * tas * std::sin(3.0 * M_PI / 180.0);
    ASSERT_TRUE(g.dip);
    EXPECT_GE(g.dip->si(), first - 0.1);
    EXPECT_LT(g.dip->si(), first + 0.5 * g.fullAfter * tas * 0.06);
    EXPECT_GT(g.fullAfter, 0.5 * g.openedOver);
    EXPECT_LT(g.fullAfter, g.openedOver + 6.0);
    // The path goes down first and is up again at the end of its half minute.
    EXPECT_LT(g.path[1].second, 0.0);
    EXPECT_GT(g.path.back().second, 50.0);
}

TEST(GoRound, AnEngineSlammedOpenAfterAGlideStumblesAndASlowHandDoesNot) {
    int stumbles = 0;
    for (const auto& name : test::demoNames()) {
        const auto g = round(test::loaded(name));
        EXPECT_FALSE(g.stumbles) << name << ": opened as the notes say";
        stumbles += g.quickStumbles ? 1 : 0;
        EXPECT_GT(g.quickFullAfter, 0.5) << name;
    }
    EXPECT_GE(stumbles, 3) << "the film on cold walls takes the fuel first";
}

TEST(GoRound, WhatIsLeftSoCostsPowerAndRpmLeftLowIsSaid) {
    const auto& l = test::demo("farrier");
    const auto g = round(l);
    ASSERT_GE(g.left.size(), 3u);
    for (const auto& left : g.left) {
        EXPECT_LT(left.power.si(), 1.02 * g.each.si()) << left.lever;
        EXPECT_FALSE(left.planned) << left.lever << ": the notes' approach is ready";
    }
    EXPECT_EQ(g.ready.colour(), watch::Colour::normal);
    // Hot air: thinner by the absolute temperatures' ratio, some tenths of it more by the heat.
    const auto hot =
        std::find_if(g.left.begin(), g.left.end(), [](const auto& x) { return x.lever == "Carburettor air hot"; });
    ASSERT_NE(hot, g.left.end());
    EXPECT_LT(hot->power.si(), 0.97 * g.each.si());
    EXPECT_GT(hot->power.si(), 0.80 * g.each.si());
    // The rule of the house: boosted, cold first; not boosted, when power is set.
    EXPECT_TRUE(g.airColdFirst);
    EXPECT_FALSE(round(test::loaded("tinker-damp")).airColdFirst);
}

TEST(GoRound, TheDrillIsTheLandingsOwnBranchActByAct) {
    const auto& l = test::demo("lorimer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto d = trouble::goRoundDrill(
        {*l.aircraft, *l.sortie, f, trouble::momentAt(l.aircraft->notes, *l.sortie, f, f[Phase::landing].start), {0}});
    const auto at = [&](std::string_view what) {
        for (std::size_t i = 0; i < d.lines.size(); ++i)
            if (d.lines[i].what.find(what) != std::string::npos)
                return static_cast<int>(i);
        return -1;
    };
    ASSERT_GE(at("Mixture"), 0);
    EXPECT_LT(at("Mixture"), at("Propeller"));
    EXPECT_LT(at("Carb. air"), at("Throttle")) << "cold before the power";
    EXPECT_LT(at("Propeller"), at("Throttle")) << "rpm before boost";
    EXPECT_LT(at("Throttle"), at("Undercarriage"));
    EXPECT_EQ(d.lines[static_cast<std::size_t>(at("Throttle"))].set, "45 inHg");
    EXPECT_EQ(d.lines[static_cast<std::size_t>(at("Propeller"))].set, "2,650 rpm");
}

TEST(Dive, LessBoostComesDownFasterAndColder) {
    for (const char* name : {"lorimer-spring", "mercer-frost", "wheelwright-height", "collier-high"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto d = trouble::dive(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600);
        ASSERT_GE(d.ways.size(), 2u) << name;
        const auto &least = d.ways.front(), &shut = d.ways.back();
        EXPECT_GT(shut.sink.si(), least.sink.si() + 0.5) << name;
        EXPECT_LT(shut.seconds, least.seconds) << name;
        EXPECT_GT(shut.fall, least.fall) << name;
        EXPECT_LT(shut.coldest.si(), least.coldest.si()) << name;
        for (const auto& w : d.ways) {
            EXPECT_EQ(w.shock.colour() == watch::Colour::amber, d.allowed && w.fall > *d.allowed) << name;
            EXPECT_EQ(w.rpm.colour() == watch::Colour::red, w.peak.si() > 1.002 * d.most.si()) << name;
        }
        if (d.allowed && least.fall > *d.allowed)
            EXPECT_NEAR(d.aheadSeconds, 60 * (least.fall / *d.allowed - 1), 0.5) << name;
        else
            EXPECT_EQ(d.aheadSeconds, 0.0) << name;
    }
}

// By hand: with the engines giving nothing the sink is the drag's power over the weight; the windmilling propellers
// add.
TEST(Dive, TheSinkIsThatOfThePolar) {
    const auto& l = test::demo("lorimer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto d = trouble::dive(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600);
    EXPECT_EQ(d.never, l.aircraft->notes.trouble.diveIas);
    EXPECT_NEAR(d.ias.si(), 0.95 * d.never->si(), 0.01);
    const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(d.moment.height));
    const double tas = air::trueAirspeed(d.ias, air.pressure, air.temperature).si();
    const double q = 0.5 * air::density(air.pressure, air.temperature) * tas * tas;
    const double w = d.moment.weight.si() * air::gravity;
    const double glide = (q * l.aircraft->drag.area + l.aircraft->drag.induced * w * w / q) * tas / w;
    EXPECT_GT(d.ways.back().sink.si(), 0.9 * glide);
    EXPECT_LT(d.ways.back().sink.si(), 2.0 * glide);
}

TEST(Dive, AFixedPropellerRunsAwayWithTheSpeedAGovernedOneDoesNot) {
    const auto peak = [](const char* name) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto d = trouble::dive(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 300);
        const auto cruise = f[Phase::cruise].setting.rpm.si();
        return std::pair{d.ways.front().peak.si(), cruise};
    };
    const auto governed = peak("lorimer-spring");
    EXPECT_NEAR(governed.first, governed.second, 0.05 * governed.second);
    // Higher speed, more rpm: with the throttle shut already the wind turns it.
    const auto& l = test::loaded("sexton-meadow");
    powerplant::Aircraft own = *l.aircraft;
    const auto f = flight::fly(own, *l.sortie);
    own.notes.trouble.diveIas = Speed::si(45);
    const auto slow = trouble::dive(own, *l.sortie, f, f[Phase::cruise].start + 300);
    own.notes.trouble.diveIas = Speed::si(65);
    const auto fast = trouble::dive(own, *l.sortie, f, f[Phase::cruise].start + 300);
    ASSERT_FALSE(slow.ways.empty());
    EXPECT_GT(fast.ways.back().peak.si(), 1.1 * slow.ways.back().peak.si());
}

TEST(Dive, OnTheGroundThereIsNone) {
    const auto& l = test::demo("farrier");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    EXPECT_TRUE(trouble::dive(*l.aircraft, *l.sortie, f, 10.0).ways.empty());
    EXPECT_FALSE(trouble::figuresOf(trouble::dive(*l.aircraft, *l.sortie, f, 10.0), l.aircraft->notes).empty());
}

TEST(Restart, AStoppedEngineGrowsColdAndTheNotesFiguresAreTold) {
    const auto& l = test::loaded("mercer-frost");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto m = trouble::momentAt(l.aircraft->notes, *l.sortie, f, f[Phase::cruise].start + 600);
    const auto figures = trouble::restartFigures(*l.aircraft, *l.sortie, f, m);
    const auto of = [&](std::string_view id) {
        for (const auto& x : figures)
            if (x.id == id)
                return x;
        ADD_FAILURE() << id;
        return trouble::Figure{};
    };
    EXPECT_EQ(of("takes").si, 9.0);
    EXPECT_EQ(of("takes").origin, Origin::notes);
    EXPECT_EQ(of("warm-for").si, 300.0);
    EXPECT_NEAR(of("before").si, 700.0 / 60, 1e-9);
    EXPECT_LT(of("cold-15").si, of("cold-5").si - 3.0) << "oil";
    EXPECT_LT(of("cold-5").si, m.sample[Gauge::oilTemperature]);
}

TEST(DiveFigures, TheMostRpmAndItsSecondsAreTheNotes) {
    std::size_t timed = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto d = trouble::dive(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 300);
        const auto& own = l.aircraft->notes.trouble;
        EXPECT_EQ(d.mostFor.has_value(), own.diveFor.has_value()) << name;
        if (own.diveFor) {
            EXPECT_EQ(d.mostFor->si(), own.diveFor->si()) << name;
            ++timed;
        }
        EXPECT_EQ(d.most.si(), trouble::diveRpm(l.aircraft->notes).si()) << name;
    }
    EXPECT_GT(timed, 0u);
}

TEST(GoRoundFigures, ItComesDownThreeDegreesUntilTheHandMoves) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "sexton-meadow"}) {
        const auto& l = test::loaded(name);
        const auto g = round(l);
        const auto air = l.sortie->day.at(g.pressureAltitude);
        const double sink = air::trueAirspeed(g.approach, air.pressure, air.temperature).si() * 0.0523360;
        ASSERT_GT(g.path.size(), 3u) << name;
        std::size_t looked = 0;
        for (const auto& [seconds, metres] : g.path)
            if (seconds > 0 && seconds <= 2.0) {
                EXPECT_NEAR(metres, -sink * seconds, 0.01 * sink) << name << " " << seconds;
                ++looked;
            }
        EXPECT_GT(looked, 0u) << name;
    }
}

TEST(GoRoundFigures, OneThatTakesTheSlamIsNotSaidToStumble) {
    for (const char* name : {"farrier-summer", "collier-high", "wheelwright-height"}) {
        const auto g = round(test::loaded(name));
        EXPECT_FALSE(g.quickStumbles) << name;
        EXPECT_LT(g.quickFullAfter, g.fullAfter + 1.0) << name;
        EXPECT_GT(g.quickFullAfter, g.fullAfter - 1.0) << name;
    }
}

} // namespace amber
