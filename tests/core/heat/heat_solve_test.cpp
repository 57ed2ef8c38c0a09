// SPDX-License-Identifier: GPL-3.0-or-later
// Heat asked backwards, and the whole sortie's temperatures: what must hold whatever the day.
#include "advice/climb_bands.h"
#include "advice/cool_down.h"
#include "advice/cooling.h"
#include "advice/ground_budget.h"
#include "advice/let_down.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "flight/engine_traces.h"
#include "heat/drive.h"
#include "heat/heat_solve.h"
#include "plan/plan.h"
#include "test_data.h"
#include "units/text.h"
#include <cmath>
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;

using test::loaded;
Temperature celsius(double t) {
    return Temperature::of(t, units::celsius);
}
/// The engine at an rpm on the fine stop, standing, flaps at an opening.
heat::Drive standing(const powerplant::Aircraft& a, double rpm, Temperature oat, double coolingFlap,
                     double wind = 0.0) {
    air::Day day = air::standardDay(Length{});
    day.oat = oat;
    const auto air = day.at(Length{});
    const Rotation n = Rotation::of(rpm, units::rpm);
    const auto p = engine::operate(
        a.model(), {n, engine::boostForRpm(a.model(), a.fineStop, n, 0, air), 0, air, Speed{}, Mixture::rich});
    return {true, p.airFlow, p.fuelAirRatio, p.power, n, air, Speed::si(wind), coolingFlap, 1.0, 1.0};
}
heat::Drive flying(const powerplant::Aircraft& a, double fraction, Speed ias, double coolingFlap, Temperature oat) {
    air::Day day = air::standardDay(Length{});
    day.oat = oat;
    const auto air = day.at(Length::si(1000));
    const Rating& r = flight::ratingFor(a.notes, {}, Phase::climb);
    const auto p =
        engine::operate(a.model(), {Rotation::si(r.rpm.si() * fraction), r.boost, 0, air, ias, Mixture::rich});
    return {true,
            p.airFlow,
            p.fuelAirRatio,
            p.power,
            Rotation::si(r.rpm.si() * fraction),
            air,
            air::trueAirspeed(ias, air.pressure, air.temperature),
            coolingFlap,
            1.0,
            1.0};
}

TEST(HeatSlopes, HeadsFollowTheExponentsOfTheCorrelation) {
    // Pinkel: (Th − Ta)/(Tg − Th) ∝ ṁ^0.62 (σΔp)^−0.38, read off the settled model on a log–log plot.
    const auto& a = *loaded("lorimer-spring").aircraft;
    const auto ratio = [&](const heat::Drive& d) {
        const double gas = 1323.15 - 1.6e5 * std::pow(d.fuelAirRatio - 0.08, 2);
        const double t = a.thermal.steady(d).headOrCoolant.si();
        return (t - d.air.temperature.si()) / (gas - t);
    };
    auto d = flying(a, 0.9, Speed::of(150, units::knot), 0.4, celsius(10));
    d.shaft = Power{}; // no wash: the wind is the airspeed's alone
    auto more = d;
    more.airFlow = MassFlow::si(d.airFlow.si() * 1.3);
    EXPECT_NEAR(std::log(ratio(more) / ratio(d)) / std::log(1.3), 0.62, 0.005);
    auto faster = d;
    faster.trueAirspeed = Speed::si(d.trueAirspeed.si() * 1.2);
    EXPECT_NEAR(std::log(ratio(faster) / ratio(d)) / std::log(1.2 * 1.2), -0.38, 0.005);
}

TEST(HeatSlopes, TheTimeConstantIsThatOfALargeRadial) {
    // 44 litres at rated power: about 95 s, at ground idle about five minutes.
    const auto& a = *loaded("lorimer-spring").aircraft;
    const auto constant = [&](const heat::Drive& d) {
        const auto end = a.thermal.steady(d);
        const heat::Temperatures off{Temperature::si(end.headOrCoolant.si() + 10), end.oil};
        return -10.0 / a.thermal.rates(off, d).headOrCoolant;
    };
    const auto& h = a.notes.heat;
    const Rating& r = *a.notes.rating(h.rating);
    const auto air = air::standardDay(Length{}).at(Length{});
    const auto p = engine::operate(a.model(), {r.rpm, r.boost, 0, air, h.ias, r.mixture});
    const heat::Drive rated{true,
                            p.airFlow,
                            p.fuelAirRatio,
                            p.power,
                            r.rpm,
                            air,
                            air::trueAirspeed(h.ias, air.pressure, air.temperature),
                            h.coolingFlap,
                            1.0,
                            1.0};
    EXPECT_NEAR(constant(rated), 95, 5);
    EXPECT_NEAR(constant(standing(a, 700, celsius(15), 1.0)), 300, 90);
}

RC_GTEST_PROP(HeatSolve, FlapFoundSettlesWhereItIsWanted, ()) {
    const auto& a =
        *loaded(*rc::gen::element<std::string>("lorimer-spring", "farrier-summer", "mercer-frost")).aircraft;
    const auto d = flying(a, *rc::gen::inRange(60, 100) / 100.0, Speed::si(*rc::gen::inRange(50, 90)), 0.5,
                          celsius(*rc::gen::inRange(-20, 35)));
    const Temperature wanted = celsius(*rc::gen::inRange(90, 220));
    const auto need = heat::flapFor(a.thermal, d, wanted);
    RC_ASSERT(need.opening >= 0 && need.opening <= 1);
    auto there = d;
    there.coolingFlap = need.opening;
    const double settles = a.thermal.steady(there).headOrCoolant.si();
    RC_ASSERT(std::abs(settles - need.settles.si()) < 0.01);
    if (need.enough) {
        RC_ASSERT(settles <= wanted.si() + 0.05);
    } else
        RC_ASSERT(settles > wanted.si());
    if (need.enough && need.opening > 0.01) {
        there.coolingFlap = need.opening - 0.01;
        RC_ASSERT(a.thermal.steady(there).headOrCoolant.si() > settles - 1e-6); // it is the least opening
    }
}

TEST(HeatSolve, MinutesToTheMinimaAreMinutesToTheMinima) {
    const auto& a = *loaded("lorimer-spring").aircraft;
    const heat::Temperatures cold{celsius(-5), celsius(-5)};
    const auto d = standing(a, 1000, celsius(-5), 1.0);
    const heat::Minima minima{celsius(100), celsius(40)};
    const auto t = heat::timeToMinima(a.thermal, cold, d, minima, Duration::si(3600));
    ASSERT_TRUE(t);
    const auto at = a.thermal.after(cold, d, *t), before = a.thermal.after(cold, d, Duration::si(t->si() - 2));
    EXPECT_TRUE(minima.met(at));
    EXPECT_FALSE(minima.met(before));
    EXPECT_FALSE(heat::timeToMinima(a.thermal, cold, d, {celsius(400), {}}, Duration::si(3600)));
    EXPECT_EQ(heat::timeToMinima(a.thermal, {celsius(150), celsius(60)}, d, minima, Duration::si(10))->si(), 0);
}

TEST(HeatSolve, TheRpmForColdOilKeepsItsPressureUnderTheLimit) {
    const auto& t = loaded("lorimer-spring").aircraft->thermal;
    const Pressure limit = Pressure::of(95, units::psi);
    Rotation last{};
    for (double oil = -10; oil <= 60; oil += 10) {
        const Rotation rpm = heat::rpmForOilPressure(t, celsius(oil), 1.0, limit, Rotation::of(2400, units::rpm));
        EXPECT_LE(t.oilPressure(rpm, celsius(oil)).si(), limit.si() * 1.0001);
        EXPECT_GE(rpm, last) << "warmer oil never wants it slower";
        last = rpm;
    }
    EXPECT_LT(heat::rpmForOilPressure(t, celsius(-10), 1.0, limit, Rotation::of(2400, units::rpm)),
              heat::rpmForOilPressure(t, celsius(-10), 0.35, limit, Rotation::of(2400, units::rpm)))
        << "diluted oil may be run faster";
}

TEST(CoolantBoils, WaterByTheSteamTablesAndHigherWithGlycolAndACap) {
    const auto boils = [](double kPa, double cap, double glycol) {
        return heat::coolantBoils(Pressure::of(kPa, units::kPa), Pressure::of(cap, units::kPa), glycol)
            .in(units::celsius);
    };
    EXPECT_NEAR(boils(101.325, 0, 0), 100.0, 0.2);
    EXPECT_NEAR(boils(70.11, 0, 0), 90.0, 0.3);
    EXPECT_NEAR(boils(198.5, 0, 0), 120.0, 0.4);
    EXPECT_NEAR(boils(101.325, 0, 0.5), 107.2, 0.3);
    EXPECT_GT(boils(70, 100, 0.3), boils(70, 0, 0.3) + 15);
}

TEST(CoolantBoils, NoLimitOfTheNotesLiesBeyondIt) {
    for (const auto& name : test::demoNames()) {
        const auto& n = loaded(name).aircraft->notes;
        if (n.engine.cooling == Cooling::air)
            continue;
        const auto boils = heat::coolantBoils(Pressure::si(standardPressure), n.heat.coolantCap, n.heat.glycol);
        EXPECT_LE(*n.gauges.at(Gauge::coolantTemperature).band.limitHigh, boils.si()) << n.name;
    }
}

RC_GTEST_PROP(HeatSolve, BlanksAndThinOilActAsTheyShould, ()) {
    const auto& a = *loaded("tanner-winter").aircraft;
    auto d = standing(a, *rc::gen::inRange(800, 1400), celsius(*rc::gen::inRange(-30, 10)), 1.0);
    const heat::Temperatures from{d.air.temperature, d.air.temperature};
    const Duration time = Duration::si(*rc::gen::inRange(60, 1500));
    const auto free = a.thermal.after(from, d, time);
    d.oilCooler = 0.15;
    RC_ASSERT(a.thermal.after(from, d, time).oil.si() >= free.oil.si() - 1e-9); // blanked, never colder
    d.oilCooler = 1.0;
    d.oilThinning = 0.35;
    RC_ASSERT(a.thermal.after(from, d, time).oil.si() <= free.oil.si() + 1e-9); // thin oil makes less heat
}

TEST(EngineTraces, EveryEngineFromItsOwnStartAndTheSlowestDecides) {
    for (const char* name : {"lorimer-spring", "ostler-bush", "mercer-frost", "chandler-haven"}) {
        const auto& l = loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto& traces = f.engines;
        ASSERT_EQ(traces.size(), l.aircraft->notes.engineCount()) << name;
        const auto& slow = traces[flight::slowestEngine(traces)];
        for (const auto& t : traces) {
            EXPECT_LE(t.firedAt, slow.firedAt + 1e-6) << name << ": the last to fire is the last to be warm";
            ASSERT_TRUE(t.runUpAt) << name;
            EXPECT_GT(*t.runUpAt, t.firedAt);
            for (std::size_t i = 1; i < t.points.size(); ++i) {
                EXPECT_GE(t.points[i].time, t.points[i - 1].time);
            }
            for (const auto& p : t.points)
                if (p.time < t.firedAt) {
                    EXPECT_NEAR(p.headOrCoolant, flight::engineTemperatureOf(*l.sortie).si(), 1.0)
                        << "cold until it fires";
                }
        }
        // The engine the plan draws is the slowest: its trace is the plan's own.
        const auto& m = f.samples;
        for (const auto& p : slow.points)
            for (const auto& moment : m)
                if (std::abs(moment.time - p.time) < 1e-6 && p.time > f[Phase::warmUp].start + 1) {
                    EXPECT_NEAR(p.headOrCoolant, moment.headOrCoolant(), 0.6) << name << " at " << p.time;
                }
    }
}

TEST(WarmUp, NeverRunsUpOrTakesOffBeforeTheMinima) {
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        for (const double off : {-15.0, 0.0, 12.0}) {
            Sortie s = *l.sortie;
            s.day.oat = Temperature::si(s.day.oat.si() + off);
            s.day.dewPoint = std::min(s.day.dewPoint, s.day.oat);
            const auto f = flight::fly(*l.aircraft, s);
            const auto& n = l.aircraft->notes;
            const auto said = [&](Phase phase) {
                return std::any_of(f.findings.begin(), f.findings.end(), [&](const watch::Finding& r) {
                    return r.phase == phase && r.verdict.colour() == watch::Colour::red;
                });
            };
            const auto& runUp = f.samples[f[Phase::runUp].firstSample];
            const auto& takeOff = f.samples[f[Phase::takeOff].firstSample];
            if (f.minutesToRunUp) {
                EXPECT_GE(runUp[Gauge::oilTemperature], n.warmUp.oilRunUp.si() - 0.01) << name << " " << off;
                if (n.warmUp.headRunUp) {
                    EXPECT_GE(runUp.headOrCoolant(), n.warmUp.headRunUp->si() - 0.01) << name << " " << off;
                }
            } else {
                EXPECT_TRUE(said(Phase::warmUp)) << name << " " << off;
            }
            if (!said(Phase::runUp)) {
                EXPECT_GE(takeOff[Gauge::oilTemperature], n.warmUp.oilTakeOff.si() - 0.01) << name << " " << off;
                if (n.warmUp.headTakeOff) {
                    EXPECT_GE(takeOff.headOrCoolant(), n.warmUp.headTakeOff->si() - 0.01) << name << " " << off;
                }
            }
        }
    }
}

TEST(WarmUp, ColderNeverWarmsFasterAndStepsFollowTheOil) {
    const auto& l = loaded("lorimer-spring");
    double last = 0;
    for (const double oat : {25.0, 10.0, 0.0, -10.0, -20.0}) {
        Sortie s = *l.sortie;
        s.day.oat = celsius(oat);
        s.day.dewPoint = celsius(oat - 3);
        const auto f = flight::fly(*l.aircraft, s);
        ASSERT_TRUE(f.minutesToRunUp);
        EXPECT_GE(*f.minutesToRunUp, last) << oat;
        last = *f.minutesToRunUp;
        for (std::size_t i = 1; i < f.warmUpSteps.size(); ++i) {
            EXPECT_GT(f.warmUpSteps[i].second, f.warmUpSteps[i - 1].second);
        }
        const double pressureLimit = *l.aircraft->notes.gauges.at(Gauge::oilPressure).in(Phase::warmUp).limitHigh;
        for (std::size_t i = f[Phase::warmUp].firstSample; i <= f[Phase::warmUp].lastSample; ++i) {
            EXPECT_LE(f.samples[i][Gauge::oilPressure], pressureLimit) << oat;
        }
    }
}

TEST(WarmUp, TheShutFlapSchoolWarmsFaster) {
    const auto& l = loaded("lorimer-spring");
    Sortie s = *l.sortie;
    const auto open = flight::fly(*l.aircraft, s);
    s.choices["warm-up/Cowl flaps"] = "closed until warm";
    ASSERT_TRUE(checkSortie(s, l.aircraft->notes, "s").empty());
    const auto shut = flight::fly(*l.aircraft, s);
    EXPECT_LE(*shut.minutesToRunUp, *open.minutesToRunUp);
    const auto metalAfter = [](const flight::Flown& f, double seconds) {
        for (const auto& m : f.samples)
            if (m.time >= f[Phase::warmUp].start + seconds)
                return m.headOrCoolant();
        return 0.0;
    };
    EXPECT_GT(metalAfter(shut, 60), metalAfter(open, 60) - 1e-9);
}

TEST(GroundBudget, WindFlapsAndStoppingBuyTime) {
    const auto& l = loaded("farrier-summer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto b = advice::groundBudget(*l.aircraft, *l.sortie, f, advice::GroundFrom::holding);
    const auto run = [&](const std::string& name) {
        const auto found = std::find_if(b.runs.begin(), b.runs.end(),
                                        [&](const advice::GroundRun& r) { return r.name.starts_with(name); });
        EXPECT_NE(found, b.runs.end()) << name;
        return found->toAmber.value_or(advice::GroundBudget::horizon);
    };
    ASSERT_TRUE(b.amber && b.red);
    EXPECT_TRUE(b.runs.front().planned);
    ASSERT_TRUE(b.runs.front().toAmber) << "a hot noon";
    EXPECT_GT(run("Facing"), run("Standing"));
    EXPECT_LT(run("Tail"), run("Standing"));
    EXPECT_LT(run("Flaps half"), run("Standing"));
    EXPECT_GT(run("Slower"), run("Faster"));
    ASSERT_TRUE(b.stopFor);
    EXPECT_GT(*b.stopFor, 60);
    EXPECT_GT(b.thenToAmber, run("Standing"));
    for (const auto& r : b.runs) {
        if (r.toAmber && r.toRed) {
            EXPECT_GT(*r.toRed, *r.toAmber);
        }
        EXPECT_EQ(r.toAmber.has_value(), r.settles > *b.amber) << r.name;
    }
    // A cooler day never gives less time.
    Sortie cool = *l.sortie;
    cool.day.oat = celsius(15);
    cool.day.dewPoint = celsius(8);
    const auto g = flight::fly(*l.aircraft, cool);
    const auto c = advice::groundBudget(*l.aircraft, cool, g, advice::GroundFrom::holding);
    EXPECT_GE(c.runs.front().toAmber.value_or(advice::GroundBudget::horizon), *b.runs.front().toAmber);
}

TEST(Cooling, FasterIsCoolerMoreOpenIsCoolerAndTheNeedIsMet) {
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        for (const Phase phase : {Phase::climb, Phase::cruise}) {
            const auto p = advice::coolingPicture(*l.aircraft, *l.sortie, f, phase);
            ASSERT_EQ(p.openings.size(), 4u);
            for (std::size_t o = 0; o < p.openings.size(); ++o)
                for (std::size_t i = 0; i < p.openings[o].points.size(); ++i) {
                    if (i > 0) {
                        EXPECT_LE(p.openings[o].points[i].y, p.openings[o].points[i - 1].y + 1e-6) << name;
                    }
                    if (o > 0) {
                        EXPECT_LE(p.openings[o].points[i].y, p.openings[o - 1].points[i].y + 1e-6) << name;
                    }
                }
            for (std::size_t i = 1; i < p.ways.size(); ++i) {
                EXPECT_LE(p.ways[i].settles, p.ways[i - 1].settles) << name << ": faster is cooler";
                EXPECT_LE(p.ways[i].need.opening, p.ways[i - 1].need.opening + 1e-3) << name;
            }
            for (const auto& w : p.ways)
                if (w.need.enough && p.amber) {
                    EXPECT_LE(w.need.settles, *p.amber) << name;
                }
            for (const auto& r : p.remedies) {
                EXPECT_LT(r.change, 0) << name << " " << r.what;
            }
        }
    }
}

TEST(LetDown, NeverCoolsFasterThanItMay) {
    for (const auto& name : test::demoNames())
        for (const double off : {-20.0, 0.0, 15.0}) {
            const auto& l = loaded(name);
            Sortie s = *l.sortie;
            s.day.oat = Temperature::si(s.day.oat.si() + off);
            s.day.dewPoint = std::min(s.day.dewPoint, s.day.oat);
            const auto f = flight::fly(*l.aircraft, s);
            const auto limit = flight::coolingLimit(l.aircraft->notes);
            const bool said = std::any_of(f.findings.begin(), f.findings.end(),
                                          [](const watch::Finding& r) { return r.phase == Phase::letDown; });
            if (said)
                continue; // it cannot be held even at cruising power, and the page says so
            EXPECT_LE(f.letDownCooling, limit.perMinute) << name << " " << off;
            // Over any minute of it, not only those the schedule reckoned.
            const auto& p = f[Phase::letDown];
            for (std::size_t i = p.firstSample; i <= p.lastSample; ++i)
                for (std::size_t j = i; j <= p.lastSample && f.samples[j].time <= f.samples[i].time + 60.5; ++j) {
                    EXPECT_LE(f.samples[i].headOrCoolant() - f.samples[j].headOrCoolant(), limit.perMinute * 1.02)
                        << name << " " << off;
                }
            if (const auto least = flight::letDownLeast(l.aircraft->notes)) {
                EXPECT_GE(f.samples[p.lastSample].headOrCoolant(),
                          std::min(least->si(), f.samples[p.firstSample].headOrCoolant()) - 1.0)
                    << name << " " << off;
            }
        }
}

TEST(LetDown, FasterNeedsLessPowerAndCoolsFaster) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "mercer-frost", "thatcher-lesson"}) {
        const auto& l = loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto ways = advice::letDownWays(*l.aircraft, *l.sortie, f);
        ASSERT_EQ(ways.size(), 5u);
        for (std::size_t i = 1; i < ways.size(); ++i) {
            EXPECT_LT(ways[i].power, ways[i - 1].power) << name;
            EXPECT_GE(ways[i].cooling, ways[i - 1].cooling - 1e-6) << name;
            EXPECT_LT(ways[i].duration, ways[i - 1].duration) << name;
        }
        const double limit = flight::coolingLimit(l.aircraft->notes).perMinute;
        for (const auto& w : ways) {
            EXPECT_EQ(w.verdict.colour() == watch::Colour::red, w.cooling > limit) << name;
        }
    }
}

TEST(LetDown, ATighterLimitTakesThePowerOffInMoreSteps) {
    auto l = loaded("tinker-damp");
    auto strict = *l.aircraft;
    strict.notes.letDown.coolingPerMinute = TemperatureDifference::si(6);
    const auto loose = flight::fly(*l.aircraft, *l.sortie), tight = flight::fly(strict, *l.sortie);
    EXPECT_GT(loose.letDownCooling, 6);
    EXPECT_LE(tight.letDownCooling, 6);
    EXPECT_GE(tight.letDown.size(), loose.letDown.size());
    EXPECT_EQ(flight::coolingLimit(strict.notes).origin, Origin::notes);
    EXPECT_EQ(flight::coolingLimit(l.aircraft->notes).origin, Origin::model) << "our own figure";
}

TEST(CoolDown, DilutionFollowsTheTableAndRestartsCoolDown) {
    const auto& l = loaded("tanner-winter");
    const auto& stop = l.aircraft->notes.stop;
    EXPECT_FALSE(advice::dilutionFor(stop, celsius(5)));
    EXPECT_NEAR(advice::dilutionFor(stop, celsius(-5))->seconds, 90, 0.1);
    const auto between = advice::dilutionFor(stop, celsius(-10));
    EXPECT_NEAR(between->seconds, 135, 0.5);
    EXPECT_EQ(between->origin, Origin::between);
    EXPECT_NEAR(advice::dilutionFor(stop, celsius(-60))->seconds, 300, 0.1) << "the coldest entry is held";
    double last = 0;
    for (double t = 5; t >= -40; t -= 2.5)
        if (const auto d = advice::dilutionFor(stop, celsius(t))) {
            EXPECT_GE(d->seconds, last) << "colder never less";
            last = d->seconds;
        }
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto cool = advice::coolDown(*l.aircraft, *l.sortie, f);
    for (std::size_t i = 1; i < cool.restarts.size(); ++i) {
        EXPECT_LT(cool.restarts[i].engine, cool.restarts[i - 1].engine);
        EXPECT_GE(cool.restarts[i].dose, cool.restarts[i - 1].dose) << "colder never less prime";
    }
    EXPECT_EQ(cool.restarts.front().dose, 0) << "hot: none";
    // The restarts lie on the curve that is drawn: one cooling, not two.
    for (const auto& r : cool.restarts)
        for (std::size_t i = 1; i < cool.curve.size(); ++i)
            if (!cool.curve[i].running && cool.curve[i - 1].time <= r.after && cool.curve[i].time >= r.after) {
                EXPECT_LE(r.engine.si(), cool.curve[i - 1].headOrCoolant + 0.5);
                EXPECT_GE(r.engine.si(), cool.curve[i].headOrCoolant - 0.5);
            }
    Sortie s = *l.sortie;
    s.forecast = celsius(8);
    EXPECT_FALSE(advice::coolDown(*l.aircraft, s, f).dilute);
}

TEST(CoolDown, HotFuelBoilsInTheLinesOnAWarmDay) {
    const auto& n = loaded("lorimer-spring").aircraft->notes;
    const auto warm = advice::restartAfter(n, 900, celsius(180), celsius(28), Length{});
    EXPECT_EQ(warm.dose, 0);
    EXPECT_NE(warm.advice.find("boiled"), std::string::npos);
    EXPECT_EQ(advice::restartAfter(n, 900, celsius(180), celsius(5), Length{}).advice.find("boiled"),
              std::string::npos);
    EXPECT_GT(advice::restartAfter(n, 4 * 3600, celsius(180), celsius(5), Length{}).dose, 1);
}

RC_GTEST_PROP(Heat, ABurnOfEnergyIsBalanced, ()) {
    // Where it settles the heat that comes in is the heat that goes out: the rates are nothing there.
    const auto& a =
        *loaded(*rc::gen::element<std::string>("lorimer-spring", "farrier-summer", "sexton-meadow")).aircraft;
    const auto d = flying(a, *rc::gen::inRange(60, 100) / 100.0, Speed::si(*rc::gen::inRange(35, 90)),
                          *rc::gen::inRange(0, 11) / 10.0, celsius(*rc::gen::inRange(-25, 35)));
    const auto settled = a.thermal.steady(d);
    const auto rates = a.thermal.rates(settled, d);
    RC_ASSERT(std::abs(rates.headOrCoolant) < 1e-3);
    RC_ASSERT(std::abs(rates.oil) < 1e-2);
}

TEST(TrendOfADay, TenDegreesHotterIsHotterEverywhere) {
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        Sortie hot = *l.sortie;
        hot.day.oat = Temperature::si(hot.day.oat.si() + 10);
        const auto f = flight::fly(*l.aircraft, *l.sortie), g = flight::fly(*l.aircraft, hot);
        const auto highest = [](const flight::Flown& x, Phase phase) {
            double most = 0;
            for (std::size_t i = x[phase].firstSample; i <= x[phase].lastSample; ++i)
                most = std::max(most, x.samples[i].headOrCoolant());
            return most;
        };
        EXPECT_GT(highest(g, Phase::climb), highest(f, Phase::climb) - 0.5) << name;
        if (f.minutesToRunUp && g.minutesToRunUp) {
            EXPECT_LE(*g.minutesToRunUp, *f.minutesToRunUp) << name;
        }
        if (f.groundToAmber && g.groundToAmber) {
            EXPECT_LE(*g.groundToAmber, *f.groundToAmber) << name;
        }
    }
}

TEST(ClimbBands, RiseAddUpToTheClimbAndAgreeWithIt) {
    for (const auto& name : test::demoNames()) {
        const auto& l = loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto bands = advice::climbBands(*l.aircraft, *l.sortie, f);
        ASSERT_FALSE(bands.empty()) << name;
        EXPECT_LE(bands.size(), 11u) << name;
        for (std::size_t i = 1; i < bands.size(); ++i) {
            EXPECT_GT(bands[i].height, bands[i - 1].height) << name;
            EXPECT_GT(bands[i].time, bands[i - 1].time);
            EXPECT_GT(bands[i].fuel, bands[i - 1].fuel);
            EXPECT_GT(bands[i].distance, bands[i - 1].distance);
            EXPECT_GE(bands[i].gear, bands[i - 1].gear);
        }
        const auto& climb = f[Phase::climb];
        EXPECT_NEAR(bands.back().time, climb.duration, 1e-6) << name;
        EXPECT_NEAR(bands.back().fuel / climb.fuel, 1.0, 1e-6) << name;
        EXPECT_NEAR(bands.back().distance / climb.distance, 1.0, 0.02) << name;
        EXPECT_NEAR(bands.back().height.si(), f.samples[climb.lastSample][Gauge::height], 0.01);
    }
}

TEST(HeatSolve, RpmThatStaysNormalForEver) {
    const auto& l = loaded("farrier-summer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto b = advice::groundBudget(*l.aircraft, *l.sortie, f, advice::GroundFrom::holding);
    if (b.rpmForEver) {
        const auto settles = [&](double rpm) {
            return l.aircraft->thermal.steady(standing(*l.aircraft, rpm, l.sortie->day.oat, 1.0)).headOrCoolant;
        };
        EXPECT_LE(settles(b.rpmForEver->in(units::rpm)-20), settles(b.rpmForEver->in(units::rpm) + 20));
        EXPECT_NEAR(settles(b.rpmForEver->in(units::rpm)).si(), b.amber->si(), 4);
    } else {
        EXPECT_TRUE(b.runs.front().toAmber);
    }
    const auto cold = loaded("lorimer-spring");
    const auto g = flight::fly(*cold.aircraft, *cold.sortie);
    const auto c = advice::groundBudget(*cold.aircraft, *cold.sortie, g, advice::GroundFrom::warmUp);
    ASSERT_TRUE(c.rpmForEver) << "a cool morning";
    EXPECT_GT(*c.rpmForEver, cold.aircraft->notes.warmUp.taxiRpm);
}

TEST(Plan, WhatPassesALimitOnTheGroundIsRed) {
    for (const auto& name : test::demoNames())
        for (const double off : {0.0, 15.0, 25.0}) {
            const auto& l = loaded(name);
            Sortie s = *l.sortie;
            s.day.oat = Temperature::si(s.day.oat.si() + off);
            const auto p = plan::makePlan(*l.aircraft, s);
            const auto& n = l.aircraft->notes;
            const Gauge gauge = n.engine.cooling == Cooling::air ? Gauge::headTemperature : Gauge::coolantTemperature;
            for (const Phase phase : {Phase::runUp, Phase::takeOff}) {
                const auto& flown = p.flown[phase];
                for (std::size_t i = flown.firstSample; i <= flown.lastSample; ++i)
                    if (p.flown.samples[i].headOrCoolant() > *n.gauges.at(gauge).in(phase).limitHigh + 1.0) {
                        EXPECT_EQ(p[phase].worst.colour(), watch::Colour::red) << name << " " << off;
                        break;
                    }
            }
        }
}
TEST(CoolDownFigures, TheCurveIsCountedFromTheStopAndFallsByHalfItsExcessInTwentyEightMinutes) {
    const auto& l = test::loaded("lorimer-spring");
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

TEST(CoolingFigures, ThePictureHoldsTheNotesEdgesAndEachSpeedsOwnRate) {
    const auto& l = test::loaded("farrier-summer");
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

TEST(GroundBudgetFigures, SlowerAndFasterAreTwoHundredTurns) {
    const auto& l = test::loaded("farrier-summer");
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

TEST(HeatFigures, TheWashIsThatOfMomentumTheoryStandingAndFadesWithTheSpeed) {
    // Induced velocity of a propeller that stands: P = 2 ρ A w³; of it w²/(w + v) is left at a speed v. What leaves the
    // heads goes with the dynamic pressure of both to the power 0.38.
    const auto& l = loaded("lorimer-spring");
    const auto& n = l.aircraft->notes;
    heat::Drive d;
    d.running = true;
    d.air = air::standardDay(Length{}).at(Length{});
    d.shaft = Power::of(300, units::kilowatt);
    d.airFlow = MassFlow::si(0.5);
    d.rpm = Rotation::si(20);
    d.coolingFlap = 0.5;
    const double area = 3.14159265 / 4 * n.propeller.diameter * n.propeller.diameter;
    const double w = std::cbrt(0.8 * 300e3 / (2 * 1.225 * area));
    const auto meets = [&](double v) { return v + n.heat.slipstream * w * w / (w + v); };
    const auto out = [&](double v) {
        d.trueAirspeed = Speed::si(v);
        return l.aircraft->thermal.forcing(d).metalOut;
    };
    for (const double v : {0.4, 5.0, 20.0, 60.0})
        EXPECT_NEAR(out(v) / out(0), std::pow(meets(v) / meets(0), 0.76), 0.002) << v;
    d.shaft = Power{}; // an engine that gives nothing drives no air
    EXPECT_NEAR(out(10) / out(20), std::pow(0.5, 0.76), 1e-6);
}

TEST(WarmUp, MinimaThatAreNotReachedAreSaid) {
    const auto& l = test::demo("lorimer");
    const auto says = [&](double oil) {
        auto own = *l.aircraft;
        own.notes.warmUp.oilTakeOff = Temperature::of(oil, units::celsius);
        const auto f = flight::fly(own, *l.sortie);
        return std::any_of(f.findings.begin(), f.findings.end(), [](const watch::Finding& x) {
            return x.rule == watch::Rule::takeOffMinima && x.phase == Phase::runUp;
        });
    };
    EXPECT_FALSE(says(40));
    EXPECT_TRUE(says(140)) << "no warm-up rpm heats oil to that";
}
TEST(CoolDownFigures, StandingIsCountedFromTheStop) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto c = advice::coolDown(*l.aircraft, *l.sortie, f);
        double before = -1.0;
        for (const auto& p : c.curve)
            if (!p.running) {
                if (before < 0)
                    EXPECT_EQ(p.time, 0.0) << name;
                EXPECT_GT(p.time, before) << name;
                before = p.time;
            } else {
                EXPECT_LE(p.time, 0.0) << name;
            }
        EXPECT_GE(before, 7200.0) << name;
    }
}
TEST(GroundFigures, WhereThePhaseNamesNoFlapItIsFullyOpen) {
    auto l = test::loadDemo("lorimer-spring");
    auto own = *l.aircraft;
    own.notes.phases.at(Phase::start).coolingFlap.reset();
    EXPECT_EQ(flight::fly(own, *l.sortie)[Phase::start].setting.coolingFlap, 1.0);
    own.notes.phases.at(Phase::warmUp).coolingFlap = 0.35;
    EXPECT_EQ(flight::fly(own, *l.sortie)[Phase::warmUp].setting.coolingFlap, 0.35) << "and else what it names";
}

TEST(CoolingFigures, IsDrawnFromThreeQuartersOfItsSpeedToHalfAsMuchAgain) {
    const auto& l = test::loaded("farrier-summer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto c = advice::coolingPicture(*l.aircraft, *l.sortie, f, Phase::climb);
    ASSERT_EQ(c.openings.size(), 4u) << "flap shut, a third, two thirds, open";
    const double ias = f[Phase::climb].setting.ias.si();
    for (const auto& curve : c.openings) {
        EXPECT_NEAR(curve.points.front().x, 0.78 * ias, 0.04 * ias);
        EXPECT_NEAR(curve.points.back().x, 1.45 * ias, 0.08 * ias);
    }
}
TEST(GroundFigures, TheSecondsToAmberAndRedOfTheTaxiAreThoseOfItsHeat) {
    auto l = test::loadDemo("farrier-summer");
    l.sortie->day.oat = Temperature::of(34, units::celsius);
    l.sortie->day.dewPoint = Temperature::of(15, units::celsius);
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    ASSERT_TRUE(f.groundToAmber && f.groundToRed);
    EXPECT_GT(*f.groundToAmber, 120.0);
    EXPECT_GT(*f.groundToRed, *f.groundToAmber + 20);
    l.sortie->day.oat = Temperature::of(40, units::celsius);
    const auto hotter = flight::fly(*l.aircraft, *l.sortie);
    ASSERT_TRUE(hotter.groundToAmber);
    EXPECT_LT(*hotter.groundToAmber, *f.groundToAmber);
}

} // namespace
