// SPDX-License-Identifier: GPL-3.0-or-later
// What the advice and the emergencies say, in figures: sums by hand beside each.
#include "advice/best_cruise.h"
#include "advice/climb_bands.h"
#include "advice/cool_down.h"
#include "advice/cooling.h"
#include "advice/ground_budget.h"
#include "advice/load_cures.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/energy_balance.h"
#include "engine/fuel_grade.h"
#include "engine/power_chart.h"
#include "heat/drive.h"
#include "heat/heat_solve.h"
#include "loading/distances.h"
#include "loading/envelope.h"
#include "plan/lever_picture.h"
#include "plan/load_plan.h"
#include "plan/plan.h"
#include "reading/notes_check.h"
#include "reading/notes_reader.h"
#include "start/preheat.h"
#include "start/start_order.h"
#include "test_data.h"
#include "trouble/dive.h"
#include "trouble/engine_out.h"
#include "trouble/go_round.h"
#include "units/text.h"
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
    EXPECT_TRUE(moved);
    // At most two of a kind, the least first.
    std::map<advice::LoadCure::Kind, std::vector<double>> masses;
    for (const auto& cure : advice::loadCures(*d.aircraft, *d.sortie, f)) {
        double changed = 0;
        for (const auto& [id, mass] : cure.sortie.load.stations) {
            const auto was = d.sortie->load.stations.find(id);
            changed += std::abs(mass.si() - (was == d.sortie->load.stations.end() ? 0.0 : was->second.si()));
        }
        masses[cure.kind].push_back(changed);
    }
    for (const auto kind :
         {advice::LoadCure::Kind::move, advice::LoadCure::Kind::ballast, advice::LoadCure::Kind::leave}) {
        EXPECT_LE(masses[kind].size(), 2u);
        EXPECT_TRUE(std::is_sorted(masses[kind].begin(), masses[kind].end()));
    }
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

TEST(GlideFigures, TimeIsTheWayOverTheTrueSpeedHalfWayDown) {
    const auto& l = loaded("farrier-summer");
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

TEST(NotesFigures, AColumnThatGivesANormalRangeOnlyIsTakenForItsPhase) {
    const auto& heads = loaded("tinker-damp").aircraft->notes.gauges.at(Gauge::headTemperature);
    const auto fahrenheit = [](double f) { return (f - 32) / 1.8 + 273.15; };
    EXPECT_NEAR(*heads.in(Phase::start).normalLow, fahrenheit(-40), 0.01);
    EXPECT_NEAR(*heads.in(Phase::start).normalHigh, fahrenheit(410), 0.01);
    EXPECT_NEAR(*heads.in(Phase::runUp).normalLow, fahrenheit(120), 0.01);
    EXPECT_NEAR(*heads.in(Phase::takeOff).normalHigh, fahrenheit(440), 0.01);
}

TEST(NotesFigures, FourThousandKilowattsAnEngineAreTheMostThatIsBelieved) {
    TypeNotes n = loaded("lorimer-spring").aircraft->notes;
    const auto told = [&](double watt) {
        n.ratings.front().lines.front().power = Power::si(watt);
        Problems problems;
        checkNotes(n, problems);
        return std::any_of(problems.begin(), problems.end(), [](const Problem& p) {
            return p.text().find("power is out of range") != std::string::npos;
        });
    };
    EXPECT_FALSE(told(3.9e6));
    EXPECT_TRUE(told(4.1e6));
    EXPECT_TRUE(told(900));
    EXPECT_FALSE(told(1.1e3));
}

TEST(CalibrationFigures, WhatALineMissesIsThePointOverTheLine) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& a = *loaded(name).aircraft;
        for (const auto& residual : a.calibration.residuals) {
            const Rating* rating = a.notes.rating(residual.rating);
            ASSERT_TRUE(rating) << name;
            for (const auto& line : rating->lines) {
                if (line.line != residual.line || !line.power || !residual.power)
                    continue;
                engine::Demand d{rating->rpm,
                                 rating->boostOf(line),
                                 a.notes.gearIndex(line.gear).value_or(0),
                                 air::standardDay(Length{}).at(line.at),
                                 Speed{},
                                 rating->mixture};
                d.held = d.boost.has_value();
                d.water = rating->water;
                const auto p = engine::operate(a.model(), d);
                ++seen;
                EXPECT_NEAR(*residual.power, p.power.si() / line.power->si() - 1, 0.002)
                    << name << " " << residual.rating;
                if (line.fuelFlow && residual.fuel)
                    EXPECT_NEAR(*residual.fuel, p.fuelFlow.si() / (line.fuelFlow->si() * a.notes.fuel.density) - 1,
                                0.002)
                        << name << " " << residual.rating;
                EXPECT_EQ(line.fuelFlow.has_value(), residual.fuel.has_value()) << name << " " << residual.rating;
            }
        }
    }
    EXPECT_GT(seen, 30u);
}

TEST(StartFigures, ThePlanComparesTheOrdersThatHaveANameAndAReason) {
    const auto& l = loaded("mercer-frost");
    const auto p = plan::makePlan(*l.aircraft, *l.sortie);
    const auto named = start::namedOrders(l.aircraft->notes);
    ASSERT_GE(named.size(), 2u);
    ASSERT_GE(p.orders.size(), named.size());
    EXPECT_EQ(std::count_if(p.orders.begin(), p.orders.end(), [](const auto& o) { return o.wanted; }), 1);
    for (const auto& o : p.orders)
        EXPECT_FALSE(o.named.reason.empty()) << o.named.name;
}

TEST(WordFigures, MilesAGallonAreThoseOfTheCockpit) {
    // A kilometre on a litre: 3.785 km on a US gallon are 2.044 nautical miles.
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    EXPECT_EQ(plan::milesText(n, 1e6, false), "2.04");
}

TEST(CoolingFigures, ThePictureHoldsTheNotesEdgesAndEachSpeedsOwnRate) {
    const auto& l = loaded("farrier-summer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto c = advice::coolingPicture(*l.aircraft, *l.sortie, f, Phase::climb);
    const auto& band = l.aircraft->notes.gauges.at(Gauge::coolantTemperature).in(Phase::climb);
    ASSERT_TRUE(c.amber && c.red);
    EXPECT_EQ(c.amber->si(), *band.normalHigh);
    EXPECT_EQ(c.red->si(), *band.limitHigh);
    ASSERT_GE(c.ways.size(), 3u);
    EXPECT_EQ(std::count_if(c.ways.begin(), c.ways.end(), [](const auto& w) { return w.planned; }), 1);
    for (std::size_t i = 1; i < c.ways.size(); ++i)
        if (c.ways[i].ias > c.ways[i - 1].ias)
            EXPECT_LT(c.ways[i].settles.si(), c.ways[i - 1].settles.si()) << "faster is cooler";
    ASSERT_TRUE(c.boils);
    EXPECT_GT(c.boils->si(), 373.15) << "under a relief valve, with glycol in it";
    for (const auto& r : c.remedies)
        EXPECT_LT(r.change, 0.0) << r.what;
    // Where the plan's own setting settles, reckoned from its point.
    const flight::Sample* at = nullptr;
    for (std::size_t i = f[Phase::climb].firstSample; i <= f[Phase::climb].lastSample; ++i)
        if (std::abs(f.samples[i][Gauge::airspeed] - c.planned.x) < 1e-6 &&
            std::abs(f.samples[i][Gauge::height] - c.height.si()) < 1e-6)
            at = &f.samples[i];
    ASSERT_TRUE(at);
    const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(c.height));
    const auto point = engine::operate(l.aircraft->model(),
                                       {Rotation::si((*at)[Gauge::rpm]), ManifoldPressure::si((*at)[Gauge::boost]),
                                        at->gear, air, Speed::si(c.planned.x), f[Phase::climb].setting.mixture});
    const auto settles = l.aircraft->thermal.steadyHeadOrCoolant(l.aircraft->thermal.forcing(
        heat::driveOf(point, Rotation::si((*at)[Gauge::rpm]), air, Speed::si(c.planned.x), c.opening)));
    EXPECT_NEAR(c.planned.y, settles.si(), 0.3);
    ASSERT_GE(c.openings.size(), 3u);
    EXPECT_GT(c.openings.front().points.front().y, c.openings.back().points.front().y) << "shut is hotter than open";
}

TEST(ClimbFigures, BandsEndAtTheTopAndAddUpToTheClimb) {
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto bands = advice::climbBands(*l.aircraft, *l.sortie, f);
        ASSERT_GT(bands.size(), 1u) << name;
        const auto& top = f.samples[f[Phase::climb].lastSample];
        EXPECT_NEAR(bands.back().height.si(), top[Gauge::height], 1.0) << name;
        EXPECT_NEAR(bands.back().time, f[Phase::climb].duration, 1.0) << name;
        EXPECT_NEAR(bands.back().fuel, f[Phase::climb].fuel, 0.01 * f[Phase::climb].fuel) << name;
        EXPECT_NEAR(bands.back().distance, f[Phase::climb].distance, 0.02 * f[Phase::climb].distance) << name;
        for (std::size_t i = 1; i < bands.size(); ++i) {
            EXPECT_GT(bands[i].height.si(), bands[i - 1].height.si()) << name;
            EXPECT_GT(bands[i].time, bands[i - 1].time) << name;
        }
    }
}

TEST(BestCruiseFigures, EachHeightHasItsCurveFromSlowToFast) {
    const auto& l = loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto best = advice::CruiseSearch(*l.aircraft, *l.sortie, f).search();
    ASSERT_GE(best.curves.size(), 4u);
    for (const auto& c : best.curves) {
        if (&c - &best.curves.front() < 3)
            ASSERT_GE(c.points.size(), 8u) << c.height.si();
        if (c.points.size() >= 8)
            EXPECT_GT(c.points.back().cruise.tas.si(), 1.1 * c.points.front().cruise.tas.si()) << c.height.si();
        for (std::size_t i = 1; i < c.points.size(); ++i)
            EXPECT_GT(c.points[i].cruise.tas.si(), c.points[i - 1].cruise.tas.si());
    }
    ASSERT_TRUE(best.knee && best.miles);
    EXPECT_GE(best.knee->miles, 0.985 * best.miles->miles);
    EXPECT_GE(best.knee->cruise.tas.si(), best.miles->cruise.tas.si() * 0.999);
}

TEST(PrimingFigures, FuelEvaporatesInSevenSecondsAtFifteenDegreesAndEFoldSlowerThirtyTwoColder) {
    EXPECT_NEAR(start::evaporationTime(Temperature::of(15, units::celsius)).si(), 7.0, 0.01);
    EXPECT_NEAR(start::evaporationTime(Temperature::of(-17, units::celsius)).si(), 7 * std::exp(1.0), 0.05);
    EXPECT_NEAR(start::evaporationTime(Temperature::of(31, units::celsius)).si(), 7 * std::exp(-0.5), 0.03);
    // Half of a gasoline is vapour at 14 °C, e/(1 + e) of it sixteen degrees warmer.
    EXPECT_NEAR(start::vapourFraction(Temperature::of(14, units::celsius)), 0.5, 1e-9);
    EXPECT_NEAR(start::vapourFraction(Temperature::of(30, units::celsius)), std::exp(1) / (1 + std::exp(1)), 1e-9);
}

TEST(PrimingFigures, DosesThatFireLieBetweenFiveAndThirteenHundredthsOfVapour) {
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    const start::Priming p(n.start);
    const Temperature cold = Temperature::of(5, units::celsius);
    const Pressure field = Pressure::si(standardPressure);
    const auto advice = p.advice(cold, field);
    EXPECT_NEAR(p.vapourRatio(advice.fireLow, cold, field), 0.050, 1e-6);
    EXPECT_NEAR(p.vapourRatio(advice.fireHigh, cold, field), 0.130, 1e-6);
    EXPECT_EQ(advice.flood, std::floor(advice.fireHigh) + 1);
}

TEST(CruiseFigures, EnduranceIsFuelOverBurnAndRangeThatTimesTheSpeed) {
    const auto& l = loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    flight::CruiseConditions c;
    c.air = l.sortie->day.at(f.cruisePressureAltitude);
    c.weight = Mass::si(f.samples[f[Phase::cruise].firstSample][Gauge::weight]);
    c.grade = l.sortie->fuelGrade;
    c.fuel = Volume::si(1.0);
    const engine::KnockBoundary knock(l.aircraft->notes, l.aircraft->model(), c.grade);
    const auto& s = f[Phase::cruise].setting;
    const auto p = flight::cruisePoint(*l.aircraft, c, knock, {s.rpm, s.boost, s.gear, s.mixture});
    EXPECT_NEAR(p.burn, 2 * p.point.fuelFlow.si() / l.aircraft->notes.fuel.density, 1e-9)
        << "two engines, the notes' density";
    EXPECT_NEAR(p.endurance * p.burn, 1.0, 1e-9);
    EXPECT_NEAR(p.range, p.endurance * p.tas.si(), 1e-3);
    EXPECT_NEAR(p.burn / f.cruiseFuelFlow, f.fuelDensity / l.aircraft->notes.fuel.density, 0.01);
}

TEST(DistanceFigures, ATableIsReadInProportionAlongAllThreeOfItsSides) {
    PerformanceTable table;
    table.weights = {1000, 2000};
    table.heights = {0, 1000};
    table.temperatures = {273.15, 293.15};
    table.entries = {100, 120, 150, 190, 300, 340, 420, 500}; // by weight, height, temperature
    const Cockpit cockpit = loaded("lorimer-spring").aircraft->notes.cockpit;
    std::string why;
    const auto at = [&](double weight, double height, double temperature) {
        return *loading::entryOf(table, cockpit, weight, height, temperature, why);
    };
    EXPECT_NEAR(at(1000, 0, 273.15), 100, 1e-9);
    EXPECT_NEAR(at(2000, 1000, 293.15), 500, 1e-9);
    EXPECT_NEAR(at(1250, 0, 273.15), 150, 1e-9) << "a quarter of the way to 300";
    EXPECT_NEAR(at(1000, 750, 273.15), 137.5, 1e-9) << "three quarters of the way to 150";
    EXPECT_NEAR(at(1000, 0, 278.15), 105, 1e-9) << "a quarter of the way to 120";
    // By hand in all three: 0.75 × (0.25 × (100, 120) + 0.75 × (150, 190)) + 0.25 × (0.25 × (300, 340) + 0.75 × (420,
    // 500)), the pairs a quarter along.
    EXPECT_NEAR(at(1250, 750, 278.15), 0.75 * (0.25 * 105 + 0.75 * 160) + 0.25 * (0.25 * 310 + 0.75 * 440), 1e-9);
    EXPECT_FALSE(loading::entryOf(table, cockpit, 2100, 0, 280, why));
    EXPECT_FALSE(why.empty());
}

TEST(FlownFigures, BoostThatAGradeCutsIsFromItsEntryOrReckoned) {
    auto l = test::loadDemo("farrier-summer");
    const auto& n = l.aircraft->notes;
    const Rating& rating = flight::ratingFor(n, *l.sortie, Phase::takeOff);
    for (const auto& grade : n.fuel.grades) {
        l.sortie->fuelGrade = grade;
        const auto permitted = engine::permittedBoost(n, rating, grade);
        const auto& s = flight::fly(*l.aircraft, *l.sortie)[Phase::takeOff].setting;
        EXPECT_EQ(s.boostOrigin, permitted.origin) << grade;
        EXPECT_LE(s.boost->si(), permitted.boost->si() + 1) << grade;
    }
}

TEST(FlownFigures, ASettingUsesTheMinutesOfTheLongestRatingThatCoversIt) {
    TypeNotes n = loaded("lorimer-spring").aircraft->notes;
    const std::string grade = loaded("lorimer-spring").sortie->fuelGrade;
    ASSERT_GE(n.ratings.size(), 2u);
    // Two without limit, alike but for the rpm: the slower is meant.
    Rating slow = n.ratings.front(), fast = slow;
    slow.key = "slow";
    fast.key = "fast";
    slow.minutes = fast.minutes = std::nullopt;
    slow.rpm = Rotation::si(30);
    fast.rpm = Rotation::si(35);
    slow.water = fast.water = false;
    for (const bool slowFirst : {true, false}) {
        n.ratings = slowFirst ? std::vector{slow, fast} : std::vector{fast, slow};
        const auto* covers = flight::coveringRating(
            n, grade, {Rotation::si(29), ManifoldPressure::si(60e3), 0, Mixture::rich}, ManifoldPressure::si(60e3));
        ASSERT_TRUE(covers);
        EXPECT_EQ(covers->key, "slow");
        const auto* only = flight::coveringRating(
            n, grade, {Rotation::si(33), ManifoldPressure::si(60e3), 0, Mixture::rich}, ManifoldPressure::si(60e3));
        ASSERT_TRUE(only);
        EXPECT_EQ(only->key, "fast");
    }
}

TEST(PreheatFigures, AHeaterWarmsByItsWattsAgainstTheHoursLoss) {
    TypeNotes n = loaded("lorimer-spring").aircraft->notes;
    n.start.cold.heater = Power::si(6000);
    // 23 t of metal a cubic metre of displacement, 600 J/(kg K); under covers an hour's time constant.
    const double capacity = n.engine.displacement.si() * 23000 * 600, air = 258.15, top = air + 6000 * 3600 / capacity;
    ASSERT_GT(top, 283.15);
    const auto t = start::heaterTime(n, Temperature::si(263.15), Temperature::si(278.15), Temperature::si(air));
    ASSERT_TRUE(t);
    EXPECT_NEAR(t->si(), 3600 * std::log((top - 263.15) / (top - 278.15)), 0.5);
    EXPECT_FALSE(start::heaterTime(n, Temperature::si(263.15), Temperature::si(top + 1), Temperature::si(air)))
        << "never";
    EXPECT_EQ(start::heaterTime(n, Temperature::si(280), Temperature::si(275), Temperature::si(air))->si(), 0.0);
}

TEST(GoRoundFigures, WheelsAndFlapsDownDragSixTenthsAndHalfAsMuchAgain) {
    TypeNotes n = loaded("lorimer-spring").aircraft->notes;
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

TEST(WordFigures, WithoutAControlBoostFallsByAThousandthOfTheAirForEachThousandFeet) {
    const auto& l = loaded("lorimer-spring");
    powerplant::Aircraft own = *l.aircraft;
    own.notes.engine.boostControl = false;
    const auto p = plan::makePlan(own, *l.sortie);
    const plan::ClockLine* falls = nullptr;
    for (const auto& c : p[Phase::climb].clocks)
        if (c.fact.id == "boost-falls")
            falls = &c;
    ASSERT_TRUE(falls);
    // The standard air loses 3.5 to 3.6 % of its pressure in the first thousand feet: so does what hangs on it.
    const double share = falls->fact.value / p.flown[Phase::climb].point.manifoldPressure.si();
    EXPECT_NEAR(share, 0.0358, 0.0012);
}

TEST(ChartFigures, TheTableHoldsThePointsOfTheChart) {
    const auto& a = *loaded("farrier-summer").aircraft;
    const auto chart = engine::powerChart(a.notes, a.model(), Rotation::si(45));
    std::istringstream in(engine::chartCsv(a.notes, chart));
    std::string line;
    std::getline(in, line);
    EXPECT_EQ(line, "panel,rpm,gear,boost_kPa,altitude_m,power_kW");
    std::size_t rows = 0;
    for (const auto* lines : {&chart.seaLevel, &chart.fullThrottle, &chart.constantBoost})
        for (const auto& l : *lines)
            for (const auto& p : l.points) {
                ASSERT_TRUE(std::getline(in, line));
                ++rows;
                std::vector<std::string> cells;
                std::istringstream of(line);
                for (std::string cell; std::getline(of, cell, ',');)
                    cells.push_back(cell);
                ASSERT_EQ(cells.size(), 6u) << line;
                EXPECT_NEAR(std::stod(cells[1]), l.rpm.si() * 60, 0.51) << line;
                EXPECT_NEAR(std::stod(cells[5]), p.power / 1000, 0.0051) << line;
                EXPECT_NEAR(lines == &chart.seaLevel ? std::stod(cells[3]) * 1000 : std::stod(cells[4]), p.x,
                            lines == &chart.seaLevel ? 5.1 : 0.051)
                    << line;
            }
    EXPECT_GT(rows, 200u);
}

TEST(LoadFigures, ADropTankThatIsGoneTakesItsMassAndMomentWithIt) {
    for (const char* name : {"collier-high", "farrier-summer"}) {
        auto l = test::loadDemo(name);
        const auto& n = l.aircraft->notes;
        double mass = 0, moment = 0, sideways = 0;
        for (const auto& t : n.fuel.tanks)
            if (t.kind == TankKind::drop) {
                l.sortie->contents[t.id] = t.usable;
                mass += t.emptyMass.si();
                moment += t.emptyMass.si() * t.arm;
                sideways += t.emptyMass.si() * t.side;
            }
        if (mass <= 0)
            continue;
        const loading::Sheet sheet(n, *l.sortie);
        const std::vector<double> empty(n.fuel.tanks.size(), 0.0);
        const auto on = sheet.with(empty, false), off = sheet.with(empty, true);
        EXPECT_NEAR(on.mass - off.mass, mass, 1e-6) << name;
        EXPECT_NEAR(on.sideways - off.sideways, sideways, 1e-6) << name;
        EXPECT_NEAR((on.moment - off.moment) / moment, 1.0, 0.02) << name;
    }
}

TEST(EnergyFigures, WhatTheHeadsTakeGoesWithThePowerOfTheAir) {
    const auto& a = *loaded("lorimer-spring").aircraft;
    const air::Day day = air::standardDay(Length{});
    const auto balance = [&](double boost) {
        const auto p = engine::operate(
            a.model(), {Rotation::si(35), ManifoldPressure::si(boost), 0, day.at(Length{}), Speed{}, Mixture::rich});
        return std::pair{engine::energyBalance(a.notes, a.model(), p), p};
    };
    const auto [full, at] = balance(140e3);
    const auto [half, there] = balance(80e3);
    EXPECT_NEAR(half.headOrCoolant / full.headOrCoolant, std::pow(there.airFlow.si() / at.airFlow.si(), 0.65), 1e-3);
    EXPECT_NEAR(full.fuel / at.fuelFlow.si(), 43.5e6, 1.5e6) << "J a kilogram of gasoline";
    // At the strongest line of the notes heads and oil take 55 hundredths of the brake power.
    double rated = 0, flow = 0;
    for (const auto& r : a.notes.ratings)
        for (const auto& line : r.lines)
            if (line.power && line.power->si() > rated) {
                rated = line.power->si();
                flow = engine::operate(a.model(), {r.rpm, r.boostOf(line), a.notes.gearIndex(line.gear).value_or(0),
                                                   day.at(line.at), Speed{}, r.mixture})
                           .airFlow.si();
            }
    EXPECT_NEAR(full.headOrCoolant, 0.55 * rated * std::pow(at.airFlow.si() / flow, 0.65), 0.01 * full.headOrCoolant);
    EXPECT_NEAR(full.shaft, at.power.si(), 1e-6);
}

TEST(GroundBudgetFigures, SlowerAndFasterAreTwoHundredTurns) {
    const auto& l = loaded("farrier-summer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto b = advice::groundBudget(*l.aircraft, *l.sortie, f, advice::GroundFrom::holding);
    const double taxi = l.aircraft->notes.warmUp.taxiRpm.si() * 60;
    const double slow =
        std::max(l.aircraft->notes.warmUp.leastRpm ? l.aircraft->notes.warmUp.leastRpm->si() * 60 : 0.0, taxi - 200);
    const auto names = [&](const std::string& begins, double rpm) {
        return std::any_of(b.runs.begin(), b.runs.end(),
                           [&](const auto& r) { return r.name == begins + format(rpm / 60, *units::rpm.spec); });
    };
    EXPECT_TRUE(names("Faster, ", taxi + 200));
    if (slow < taxi - 30)
        EXPECT_TRUE(names("Slower, ", slow));
    for (const auto& r : b.runs)
        EXPECT_FALSE(r.why.empty()) << r.name;
}

TEST(NotesFigures, WhatOldNotesDoBetweenTheStartsIsRead) {
    const auto path = test::dataPath("../tests/fixtures/format1/chandler-b1.toml");
    const auto old = readNotes(test::fileText(path), path);
    ASSERT_TRUE(old.notes);
    ASSERT_EQ(old.notes->start.actions.size(), 2u);
    for (const auto& a : old.notes->start.actions) {
        EXPECT_FALSE(a.what.empty());
        EXPECT_FALSE(a.set.empty());
        EXPECT_GT(a.line, 300);
    }
}

TEST(WordFigures, TheLetDownsRateIsToldInTensOfFeet) {
    const auto& l = loaded("ostler-bush");
    const auto p = plan::makePlan(*l.aircraft, *l.sortie);
    for (const auto& c : p[Phase::letDown].clocks)
        if (const auto end = c.value.find(" ft/min"); end != std::string::npos)
            EXPECT_EQ(c.value[end - 1], '0') << c.what << " " << c.value;
}

TEST(DrillFigures, AGearIsChangedThrottledBackOverTwoSecondsAndOpenedOverThree) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& n = loaded(name).aircraft->notes;
        const auto found = n.phases.find(Phase::climb);
        if (found == n.phases.end() || !n.gearChange)
            continue;
        for (const auto& step : found->second.steps) {
            if (step.origin != Origin::practice)
                continue;
            const auto throttled = std::find_if(step.actions.begin(), step.actions.end(),
                                                [](const Action& a) { return a.to.word == "throttle-back"; });
            if (throttled == step.actions.end())
                continue;
            ++seen;
            EXPECT_EQ(throttled->over, 2.0) << name;
            const auto oil = std::find_if(step.actions.begin(), step.actions.end(), [](const Action& a) {
                return a.until && a.until->gauge == Gauge::oilPressure;
            });
            ASSERT_NE(oil, step.actions.end()) << name;
            EXPECT_EQ(oil->within, 10.0) << name;
            EXPECT_EQ(oil->otherwise, "back to the lower gear") << name;
            EXPECT_EQ(step.actions.back().over, 3.0) << name;
        }
    }
    EXPECT_GT(seen, 0u);
}

TEST(DrillFigures, EverySchoolSaysWhatItSets) {
    for (const auto& name : test::demoNames())
        for (const auto& [phase, notes] : loaded(name).aircraft->notes.phases)
            for (const auto& step : notes.steps)
                for (const auto& school : step.schools) {
                    EXPECT_FALSE(school.set.empty()) << name << ": " << step.id << ": " << school.name;
                    EXPECT_FALSE(school.gain.empty()) << name << ": " << step.id << ": " << school.name;
                }
}

TEST(LoadFigures, HowMuchTooHeavyIsTheDifference) {
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    const double pound = 0.45359237;
    const auto over = loading::judgeWeight(n, 27400 * pound, 26000 * pound, "At take-off");
    EXPECT_EQ(over.colour(), watch::Colour::red);
    EXPECT_NE(over.sentence().find("1,400 lb more than the 26,000 lb"), std::string::npos) << over.sentence();
    EXPECT_EQ(loading::judgeWeight(n, 26000.4 * pound, 26000 * pound, "").colour(), watch::Colour::normal)
        << "less than can be read";
    EXPECT_EQ(loading::judgeWeight(n, 26000.6 * pound, 26000 * pound, "").colour(), watch::Colour::red);
}

TEST(LoadFigures, PercentOfTheChordAreMetresBehindItsLeadingEdge) {
    std::size_t seen = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name).aircraft->notes.loading;
        if (!l.inPercent)
            continue;
        ++seen;
        for (const auto& e : l.envelope) {
            const double forward = (e.forward - l.leadingEdge) / l.chord, aft = (e.aft - l.leadingEdge) / l.chord;
            EXPECT_GT(forward, 0.05) << name;
            EXPECT_LT(aft, 0.50) << name << ": nothing flies with it farther back";
            EXPECT_LT(forward, aft) << name;
        }
    }
    EXPECT_GT(seen, 0u);
}

TEST(DrillFigures, AStepOfTheNotesIsTheNotesAndOneOfTheDrillPractice) {
    for (const auto& name : test::demoNames()) {
        const auto& n = loaded(name).aircraft->notes;
        std::size_t ours = 0, theirs = 0;
        for (const auto& [phase, notes] : n.phases)
            for (const auto& step : notes.steps)
                if (step.line > 0) {
                    EXPECT_EQ(step.origin, Origin::notes) << name << ": " << step.id;
                    ++theirs;
                } else {
                    ours += step.origin == Origin::practice;
                }
        EXPECT_GT(ours, 10u) << name;
        EXPECT_GT(theirs, 5u) << name;
    }
}

TEST(LeverFigures, APropellerLeverStandsByItsRpm) {
    // Fully fine at the most, fully coarse at 45 hundredths of it: half-way at 72½.
    const auto& l = loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    double most = 0;
    for (const auto& r : l.aircraft->notes.ratings)
        most = std::max(most, r.rpm.si());
    std::size_t seen = 0;
    for (const Phase phase : {Phase::climb, Phase::cruise})
        for (const auto& lever : plan::leversAt(*l.aircraft, *l.sortie, f, f[phase].start + 0.5 * f[phase].duration))
            if (lever.acts == Acts::propeller && !lever.now.empty() && lever.now.front().share) {
                ++seen;
                EXPECT_NEAR(*lever.now.front().share,
                            std::clamp((f[phase].setting.rpm.si() / most - 0.45) / 0.55, 0.0, 1.0), 0.01)
                    << titleOf(phase);
            }
    EXPECT_EQ(seen, 2u);
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
