// SPDX-License-Identifier: GPL-3.0-or-later
// What the advice and the emergencies say, in figures: sums by hand beside each.
#include "advice/best_cruise.h"
#include "advice/cool_down.h"
#include "advice/ground_budget.h"
#include "advice/load_cures.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "heat/heat_solve.h"
#include "plan/plan.h"
#include "start/start_order.h"
#include "test_data.h"
#include "trouble/dive.h"
#include "trouble/go_round.h"
#include "watch/watch.h"
#include <cmath>

namespace amber {
namespace {
using test::loaded;

// ---------------------------------------------------------------- best cruise

TEST(BestCruiseFigures, HeightsAreTriedFromTwoThousandFeetAboveTheHigherField) {
    auto l = test::loadDemo("lorimer-spring");
    l.sortie->flight.toElevation = Length::si(l.sortie->day.elevation.si() + 400);
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const advice::CruiseSearch search(*l.aircraft, *l.sortie, f);
    EXPECT_NEAR(search.lowest().si(), l.sortie->flight.toElevation.si() + 600, 1.0);
    EXPECT_LE(search.highest().si(), 10000.0);
}

TEST(BestCruiseFigures, MilesAreGroundOverFuelAndPriceCountsTheHours) {
    auto l = test::loadDemo("wheelwright-windy");
    l.sortie->fuel.priceOfTime = VolumeFlow::si(0.0001); // an hour is worth 360 l
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto best = advice::CruiseSearch(*l.aircraft, *l.sortie, f).search();
    ASSERT_TRUE(best.now && best.price);
    for (const auto& p : {*best.now, *best.price}) {
        EXPECT_NEAR(p.miles * p.cruise.burn / p.ground, 1.0, 1e-9);
        EXPECT_NEAR(p.price * p.ground / (p.cruise.burn + 0.0001), 1.0, 1e-9);
    }
    EXPECT_LE(best.price->price, best.now->price * 1.001) << "no dearer than as planned";
    EXPECT_LE(best.price->price, (best.miles->cruise.burn + 0.0001) / best.miles->ground * 1.001);
    EXPECT_NEAR(best.now->cruise.tas.si() / f.cruiseTas.si(), 1.0, 0.03);
}

// ---------------------------------------------------------------- cooling down

TEST(CoolDownFigures, TheCurveIsCountedFromTheStopAndFallsByHalfItsExcessInTwentyEightMinutes) {
    const auto& l = loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto c = advice::coolDown(*l.aircraft, *l.sortie, f);
    EXPECT_EQ(c.below, l.aircraft->notes.stop.coolBelow);
    ASSERT_GT(c.curve.size(), 10u);
    EXPECT_LT(c.curve.front().time, 0.0) << "the taxi and the idle before";
    EXPECT_GT(c.curve.front().time, -f[Phase::stop].duration - 1);
    const auto standing = [&](double minutes) {
        const advice::CoolDown::Point* best = nullptr;
        for (const auto& p : c.curve)
            if (!p.running && (!best || std::abs(p.time - minutes * 60) < std::abs(best->time - minutes * 60)))
                best = &p;
        return best->headOrCoolant;
    };
    // Forty minutes is the time constant: 40 ln 2 = 27.7 min.
    const double ambient =
        l.sortie->day.at(l.sortie->day.pressureAltitudeOf(l.sortie->flight.toElevation)).temperature.si();
    EXPECT_NEAR((standing(27.7) - ambient) / (standing(0) - ambient), 0.5, 0.03);
    // Read after five minutes to two hours, its dose by the notes' table there.
    ASSERT_EQ(c.restarts.size(), 5u);
    EXPECT_NEAR(c.restarts[0].after, 300, 1e-9);
    EXPECT_NEAR(c.restarts[4].after, 7200, 1e-9);
    for (const auto& r : c.restarts)
        EXPECT_NEAR(r.engine.si(), ambient + (standing(0) - ambient) * std::exp(-r.after / 2400), 4.0) << r.after;
}

TEST(GroundBudgetFigures, StoppedItCoolsInTheDaysAirWithTheEnginesOwnTimeConstant) {
    auto l = test::loadDemo("farrier-summer");
    l.sortie->day.oat = Temperature::of(36, units::celsius);
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto b = advice::groundBudget(*l.aircraft, *l.sortie, f, advice::GroundFrom::holding);
    ASSERT_TRUE(b.amber && b.stopFor);
    // From amber to eight degrees or so under it, by e^(−t/τ) towards the air.
    const double from = std::max(b.headOrCoolant.si(), b.amber->si()), air = l.sortie->day.oat.si();
    heat::Drive off;
    off.air = l.sortie->day.at(l.sortie->day.pressureAltitude());
    const auto cooled =
        l.aircraft->thermal.after({Temperature::si(from), Temperature::si(360)}, off, Duration::si(*b.stopFor));
    const double under = b.amber->si() - cooled.headOrCoolant.si();
    EXPECT_NEAR(under, 25.0, 1.0) << "well under";
    EXPECT_NEAR(*b.stopFor, 2400 * std::log((from - air) / (b.amber->si() - under - air)), 0.35 * *b.stopFor);
}

// ---------------------------------------------------------------- load

TEST(LoadCureFigures, WhatIsMovedIsNeitherMadeNorLost) {
    auto d = test::loadDemo("wheelwright-windy");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    double before = 0;
    for (const auto& [id, mass] : d.sortie->load.stations)
        before += mass.si();
    bool moved = false;
    for (const auto& cure : advice::loadCures(*d.aircraft, *d.sortie, f)) {
        double after = 0;
        for (const auto& [id, mass] : cure.sortie.load.stations)
            after += mass.si();
        if (cure.kind == advice::LoadCure::Kind::move) {
            moved = true;
            EXPECT_NEAR(after, before, 1e-6) << cure.text;
        } else if (cure.kind == advice::LoadCure::Kind::ballast) {
            EXPECT_GT(after, before + 1) << cure.text;
        } else if (cure.kind == advice::LoadCure::Kind::leave) {
            EXPECT_LT(after, before - 1) << cure.text;
        }
    }
    (void)moved;
}

// ---------------------------------------------------------------- going round and diving

TEST(GoRoundFigures, EachLeverLeftCostsItsPowerOverTheWeight) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "mercer-frost"}) {
        const auto& l = loaded(name);
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
    hot.carburettorHeat = n.engine.carburettorHeatRise.value_or(45.0);
    EXPECT_NEAR(so("Carburettor air hot"), engine::operate(l.aircraft->model(), hot).power.si() / whole, 0.005);
    engine::Demand slow = d;
    slow.rpm = g.approachRpm;
    EXPECT_NEAR(so("Rpm as on the approach"), engine::operate(l.aircraft->model(), slow).power.si() / whole, 0.005);
    // Where the notes do not say how hot, 45 K.
    const auto with = [&](std::optional<double> rise) {
        powerplant::Aircraft own = *l.aircraft;
        own.notes.engine.carburettorHeatRise = rise;
        return trouble::goRound(own, *l.sortie, flight::fly(own, *l.sortie));
    };
    const auto unknown = with(std::nullopt), known = with(45.0);
    ASSERT_EQ(unknown.left.size(), known.left.size());
    for (std::size_t i = 0; i < known.left.size(); ++i)
        EXPECT_NEAR(unknown.left[i].power.si(), known.left[i].power.si(), 1.0) << known.left[i].lever;
}

TEST(DiveFigures, ItEndsThreeHundredMetresOverTheNearerField) {
    const auto& l = loaded("lorimer-spring");
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

// ---------------------------------------------------------------- watch and words

TEST(WatchFigures, AFallIsReadFromWhereAMinuteAgoItStood) {
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    watch::Watch w(n);
    const auto see = [&](double time, double kelvin) {
        flight::Sample s;
        s.time = time;
        s.phase = Phase::letDown;
        s[Gauge::headTemperature] = kelvin;
        s[Gauge::oilTemperature] = 345;
        w.see(time, Phase::letDown, s, true);
    };
    see(0, 400);
    see(60, 395);
    see(90, 330);
    // Thirty seconds in it stood half-way, at 397.5 K.
    EXPECT_NEAR(w.greatestFall(Phase::letDown), 67.5, 0.01);
}

TEST(SetFigures, AReversedLeverIsMarkedWhereItIsMoved) {
    std::size_t reversed = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        const auto p = plan::makePlan(*l.aircraft, *l.sortie);
        for (const auto& lever : l.aircraft->notes.levers)
            for (const auto& phase : p.phases)
                for (const auto& line : phase.set)
                    if (line.what == lever.name) {
                        EXPECT_EQ(line.reversed, lever.reversed) << name << ": " << lever.name;
                        reversed += lever.reversed;
                    }
    }
    EXPECT_GT(reversed, 0u);
}

TEST(FlownFigures, ALetDownOnWeakMixtureIsFlownSo) {
    const auto& l = loaded("lorimer-spring");
    powerplant::Aircraft own = *l.aircraft;
    own.notes.phases[Phase::letDown].mixture = Mixture::weak;
    EXPECT_EQ(flight::fly(own, *l.sortie)[Phase::letDown].setting.mixture, Mixture::weak);
    own.notes.phases[Phase::letDown].mixture = std::nullopt;
    EXPECT_EQ(flight::fly(own, *l.sortie)[Phase::letDown].setting.mixture, Mixture::rich);
}

TEST(StartFigures, ACartridgeEngineIsTriedAsLongAsThereAreCartridgesAndTries) {
    const auto& n = loaded("collier-high").aircraft->notes;
    ASSERT_EQ(n.start.starter.kind, StarterKind::cartridge);
    start::StartRequest r;
    r.failures[n.positions.front().id] = 1;
    const auto once = start::planStart(n, r);
    ASSERT_TRUE(once.ok());
    EXPECT_TRUE(once.value().abandoned.empty()) << "the second fires it";
    EXPECT_EQ(once.value().cartridgesLeft, n.start.starter.cartridges - 2);
    TypeNotes two = n;
    two.start.starter.cartridges = 2;
    two.start.tries = 9;
    r.failures[n.positions.front().id] = 5;
    const auto never = start::planStart(two, r);
    ASSERT_TRUE(never.ok());
    EXPECT_EQ(never.value().abandoned.size(), 1u);
    EXPECT_EQ(std::count_if(never.value().events.begin(), never.value().events.end(),
                            [](const auto& e) { return e.kind == start::EventKind::crank; }),
              2);
}

TEST(FlownFigures, EveryGearHasItsOwnFullThrottleHeight) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const flight::Setting& s = f[Phase::climb].setting;
        for (std::size_t gear = 0; gear + 1 < l.aircraft->notes.engine.gears.size() && gear < 3; ++gear)
            if (const auto& low = f.fullThrottleHeights[gear], &high = f.fullThrottleHeights[gear + 1]; low && high) {
                ++seen;
                EXPECT_GT(high->si(), low->si() + 500) << name << ": what a higher gear is for";
            }
        if (f.fullThrottleHeights[0] && s.boost) {
            const auto own =
                engine::fullThrottleHeight(l.aircraft->model(), s.rpm, *s.boost, 0, l.sortie->day, s.ias, s.mixture);
            if (own && s.gear == 0)
                EXPECT_NEAR(own->si(), f.fullThrottleHeights[0]->si(), 30) << name;
        }
    }
    EXPECT_GE(seen, 3u);
}

TEST(FlownFigures, WhereNotesGiveAWeakRatingTheCruiseIsSoughtWeakToo) {
    for (const auto& name : test::demoNames()) {
        const auto& n = loaded(name).aircraft->notes;
        const bool weak =
            std::any_of(n.ratings.begin(), n.ratings.end(), [](const Rating& r) { return r.mixture == Mixture::weak; });
        const auto range = flight::cruiseRange(n);
        EXPECT_EQ(range.mixtures.size(), weak ? 2u : 1u) << name;
        EXPECT_EQ(range.mixtures.front(), Mixture::rich) << name;
        EXPECT_EQ(range.mixtures.back(), weak ? Mixture::weak : Mixture::rich) << name;
        EXPECT_EQ(range.gears, std::max<std::size_t>(1, n.engine.gears.size())) << name;
    }
}

TEST(FlownFigures, ACruiseThatIsNotTheFirstSaysWhatItCosts) {
    const auto& l = loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    flight::CruiseConditions c;
    c.air = l.sortie->day.at(f.cruisePressureAltitude);
    c.weight = Mass::si(f.samples[f[Phase::cruise].firstSample][Gauge::weight]);
    c.grade = l.sortie->fuelGrade;
    c.fuel = Volume::si(1.0);
    const auto answer = flight::cruiseCandidates(*l.aircraft, c, flight::Ask::power, 700 * 745.7);
    ASSERT_GT(answer.candidates.size(), 1u) << answer.why;
    const auto& first = answer.candidates.front();
    for (const auto& p : answer.candidates)
        if (&p != &answer.candidates.front() && p.setting.gear <= first.setting.gear &&
            p.setting.mixture == first.setting.mixture) {
            if (p.setting.rpm > first.setting.rpm)
                EXPECT_TRUE(p.why.starts_with("more rpm")) << p.why;
            else
                EXPECT_TRUE(p.why.starts_with("less rpm")) << p.why;
        }
}

TEST(StartFigures, AWarmEngineFiresAfterTheNotesSeconds) {
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    start::CrankConditions c;
    c.oil = Temperature::of(100, units::celsius);
    c.bladesPerRevolution = start::bladesPerRevolution(n);
    const auto k = start::crank(n.start, c);
    ASSERT_GE(k.rpm, n.start.starter.warmRpm);
    EXPECT_NEAR(k.untilFiring.si() - k.forBlades.si(), n.start.starter.firesAfter.si(), 0.02);
}

} // namespace
} // namespace amber
