// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/plan.h"
#include "start/cranking.h"
#include "start/preheat.h"
#include "start/priming.h"
#include "start/start_order.h"
#include "test_data.h"
#include <cmath>
#include <rapidcheck/gtest.h>
#include <set>

using namespace amber;
using start::EventKind;

namespace {

const TypeNotes& lorimerNotes() {
    return test::demo("lorimer").aircraft->notes;
}
const Pressure sea = Pressure::si(standardPressure);
Temperature inCelsius(double t) {
    return Temperature::of(t, units::celsius);
}

TEST(Priming, TheNotesRuleAtTheirEntries) {
    const start::Priming p(lorimerNotes().start);
    for (const auto& entry : lorimerNotes().start.prime) {
        const auto a = p.advice(entry.at, sea);
        EXPECT_EQ(a.dose, entry.dose);
        EXPECT_EQ(a.origin, Origin::notes);
        EXPECT_LT(a.fireLow, a.dose);
        EXPECT_GT(a.fireHigh, a.dose);
        EXPECT_GT(a.flood, a.dose);
    }
    EXPECT_EQ(p.advice(inCelsius(0), sea).origin, Origin::between);
    EXPECT_EQ(p.advice(inCelsius(-30), sea).origin, Origin::model);
    EXPECT_EQ(p.advice(inCelsius(6), Pressure::si(80000)).origin, Origin::model) << "a high field is not in the table";
    EXPECT_EQ(p.advice(inCelsius(59), sea).dose, 1);
    EXPECT_EQ(p.advice(inCelsius(90), sea).dose, 0) << "a hot engine is not primed";
    EXPECT_EQ(p.advice(inCelsius(90), sea).origin, Origin::model);
}

TEST(Priming, VapourComesAndDrainsAway) {
    const start::Priming p(lorimerNotes().start);
    const auto a = p.advice(inCelsius(-5), sea);
    const auto ratio = [&](double s) { return p.vapourRatio(a.dose, inCelsius(-5), sea, Duration::si(s)); };
    EXPECT_LT(ratio(1), start::leanestFiring) << "not at once";
    EXPECT_GT(ratio(a.vaporise.si()), start::leanestFiring);
    EXPECT_LT(ratio(a.drain.si() + 240), start::leanestFiring) << "and not for ever";
    EXPECT_GT(p.advice(inCelsius(-15), sea).vaporise, p.advice(inCelsius(20), sea).vaporise);
}

TEST(Priming, AFloodedEngineIsClearedByTurning) {
    const start::Priming p(lorimerNotes().start);
    const auto a = p.advice(inCelsius(10), sea);
    EXPECT_EQ(p.clearingRevolutions(a.dose, inCelsius(10), sea), 0);
    const double few = p.clearingRevolutions(a.flood + 1, inCelsius(10), sea),
                 many = p.clearingRevolutions(3 * a.flood, inCelsius(10), sea);
    EXPECT_GT(few, 0);
    EXPECT_GT(many, few);
    EXPECT_LT(many, 40);
}

TEST(Soak, CoolsTowardsTheAirAndPreheatRules) {
    const Temperature air = inCelsius(5);
    EXPECT_EQ(start::engineTemperature({}, air).si(), air.si());
    const auto after = [&](double h) {
        return start::engineTemperature({Duration::si(h * 3600), inCelsius(120), {}}, air).in(units::celsius);
    };
    EXPECT_NEAR(after(0), 120, 1e-9);
    EXPECT_GT(after(0.5), after(1));
    EXPECT_NEAR(after(12), 5, 0.1);
    EXPECT_NEAR(start::engineTemperature({{}, inCelsius(120), inCelsius(40)}, air).in(units::celsius), 40, 1e-9);
}

RC_GTEST_PROP(PrimingProperty, ColderNeverMeansLessAndHigherNeverMeansMore, ()) {
    // Any table that gives no more to a warmer engine.
    StartNotes notes;
    double t = -25, dose = *rc::gen::inRange(0, 20);
    const int entries = *rc::gen::inRange(1, 6);
    std::vector<PrimeEntry> table;
    for (int i = 0; i < entries; ++i) {
        table.push_back({inCelsius(t), dose});
        t += *rc::gen::inRange(1, 30);
        dose = std::max(0.0, dose - *rc::gen::inRange(0, 6));
    }
    notes.prime = table;
    const start::Priming p(notes);
    const double at = *rc::gen::inRange(-400, 900) / 10.0;
    const double step = *rc::gen::inRange(1, 100) / 10.0;
    const Pressure field = Pressure::si(*rc::gen::inRange(60000, 105000));
    RC_ASSERT(p.wanted(inCelsius(at), field) >= p.wanted(inCelsius(at + step), field) - 1e-9);
    RC_ASSERT(p.advice(inCelsius(at), field).dose >= p.advice(inCelsius(at + step), field).dose);
    RC_ASSERT(p.wanted(inCelsius(at), Pressure::si(field.si() * 0.9)) <= p.wanted(inCelsius(at), field) + 1e-9);
    const auto a = p.advice(inCelsius(at), field);
    RC_ASSERT(a.fireLow < a.fireHigh && a.flood > a.fireHigh - 1e-9);
    RC_ASSERT(a.drain >= a.vaporise);
}

TEST(Cranking, ColdOilTurnsSlowerAndDrawsMore) {
    const auto warm = start::crank(lorimerNotes().start, {inCelsius(40), start::Supply::battery}),
               cold = start::crank(lorimerNotes().start, {inCelsius(-15), start::Supply::battery});
    EXPECT_LT(cold.rpm, warm.rpm);
    EXPECT_GT(cold.amperes, warm.amperes);
    EXPECT_LT(cold.volts, warm.volts);
    EXPECT_GE(cold.untilFiring, warm.untilFiring);
    EXPECT_GT(cold.untilOilPressure, warm.untilOilPressure);
    EXPECT_GT(start::crank(lorimerNotes().start, {inCelsius(-15), start::Supply::cart}).volts, cold.volts);
    EXPECT_TRUE(cold.cartAdvised);
    EXPECT_FALSE(warm.cartAdvised);
}

/// A type with so many engines and whatever starter, for schedules.
TypeNotes anyType() {
    TypeNotes n = lorimerNotes();
    n.positions.clear();
    n.start.order.clear();
    const int engines = *rc::gen::inRange(1, 9);
    for (int i = 1; i <= engines; ++i) {
        n.positions.push_back({std::to_string(i), "No. " + std::to_string(i), {}});
        n.start.order.push_back(std::to_string(i));
    }
    n.start.starter.kind = static_cast<StarterKind>(*rc::gen::inRange(0, 5));
    n.start.starter.cartridges = *rc::gen::inRange(1, 10);
    n.start.starter.airBottle = Pressure::si(5e6);
    n.start.starter.airPerStart = Pressure::si(8e5);
    n.start.crankMost = Duration::si(*rc::gen::inRange(5, 40));
    n.start.starter.firesAfter = Duration::si(*rc::gen::inRange(1, 5));
    n.start.rest = Duration::si(*rc::gen::inRange(5, 300));
    n.start.tries = *rc::gen::inRange(1, 6);
    n.start.primeAhead = *rc::gen::arbitrary<bool>();
    n.start.oilPressureWithin = Duration::si(*rc::gen::inRange(5, 60));
    // Whatever the schools.
    n.start.primeWhileTurning = *rc::gen::arbitrary<bool>();
    n.start.primerShare = *rc::gen::element(0.0, 0.5, 1.0);
    n.start.bladesFirst = *rc::gen::arbitrary<bool>();
    n.start.starter.bladesBeforeIgnition = *rc::gen::inRange(0, 20);
    if (*rc::gen::arbitrary<bool>())
        n.start.starter.boosterMost = Duration::si(*rc::gen::inRange(3, 40));
    return n;
}

start::StartRequest anyRequest(const TypeNotes& n) {
    start::StartRequest r;
    r.order = n.start.order;
    for (std::size_t i = 0; i + 1 < r.order.size(); ++i)
        std::swap(r.order[i],
                  r.order[i + static_cast<std::size_t>(*rc::gen::inRange(0, static_cast<int>(r.order.size() - i)))]);
    for (const auto& id : r.order)
        if (*rc::gen::inRange(0, 3) == 0)
            r.failures[id] = *rc::gen::inRange(0, 7);
    r.engine = r.oil = inCelsius(*rc::gen::inRange(-30, 60));
    r.supply = *rc::gen::arbitrary<bool>() ? start::Supply::cart : start::Supply::battery;
    return r;
}

RC_GTEST_PROP(StartOrderProperty, NoTimelineBreaksALimitARestOrAWatch, ()) {
    const TypeNotes n = anyType();
    const auto request = anyRequest(n);
    const auto planned = start::planStart(n, request);
    RC_ASSERT(planned.ok());
    const auto& t = planned.value();
    std::vector<start::Event> cranks, watches;
    for (const auto& e : t.events) {
        RC_ASSERT(e.end >= e.start && e.start >= 0);
        if (e.kind == EventKind::crank || e.kind == EventKind::energise)
            cranks.push_back(e);
        if (e.kind == EventKind::crank) {
            // The limit counts from the ignition on.
            const auto blades =
                start::crank(n.start, {request.oil, request.supply, false, start::bladesPerRevolution(n)}).forBlades;
            RC_ASSERT(e.length() <= n.start.crankMost.si() + blades.si() + 1e-6);
            RC_ASSERT(e.length() <= start::longestTry(n.start).si() + blades.si() + 1e-6);
        }
        if (e.kind == EventKind::oilPressureWatch) {
            watches.push_back(e);
            RC_ASSERT(e.length() <= n.start.oilPressureWithin.si() + 1e-6);
        }
    }
    for (std::size_t i = 0; i < cranks.size(); ++i)
        for (std::size_t k = i + 1; k < cranks.size(); ++k) {
            // One supply: nothing else turns meanwhile; and the same engine's starter has had its rest.
            RC_ASSERT(cranks[k].start >= cranks[i].end - 1e-6);
            if (cranks[i].kind == EventKind::crank && cranks[i].failed && cranks[k].engine == cranks[i].engine) {
                RC_ASSERT(cranks[k].start >= cranks[i].end + n.start.rest.si() - 1e-6);
            }
        }
    for (const auto& w : watches)
        for (const auto& c : cranks)
            RC_ASSERT(c.end <= w.start + 1e-6 || c.start >= w.end - 1e-6);
    // Every engine runs or was given up after its tries; nobody is forgotten.
    RC_ASSERT(t.runningFrom.size() + t.abandoned.size() == n.positions.size());
    for (const auto& id : t.order) {
        const auto tries = std::count_if(t.events.begin(), t.events.end(), [&](const start::Event& e) {
            return e.engine == id && e.kind == EventKind::crank;
        });
        RC_ASSERT(tries <= n.start.tries);
        RC_ASSERT(tries >= 1);
    }
    // The lanes add up to the events.
    double lanes = 0, all = 0;
    for (const auto& id : t.order)
        lanes += t.laneTotal(id);
    for (const auto& e : t.events)
        all += e.length();
    RC_ASSERT(std::abs(lanes - all) < 1e-6);
}

TEST(StartOrder, AFailedTryRestsWhileAnotherIsTried) {
    start::StartRequest r;
    r.engine = r.oil = inCelsius(6);
    r.failures["2"] = 1;
    const auto t = start::planStart(lorimerNotes(), r).value();
    EXPECT_LT(t.runningFrom.at("1"), t.runningFrom.at("2")) << "port is started during starboard's rest";
    r.failures.clear();
    EXPECT_LT(start::planStart(lorimerNotes(), r).value().total, t.total);
    EXPECT_EQ(start::planStart(lorimerNotes(), r).value().onLineFirst,
              (std::vector<std::string>{"generator", "hydraulic pump"}));
    r.failures["2"] = 9;
    EXPECT_EQ(start::planStart(lorimerNotes(), r).value().abandoned, (std::vector<std::string>{"2"}));
}

TEST(StartOrder, AnOrderMustNameEveryEngineOnce) {
    start::StartRequest r;
    r.order = {"1", "1"};
    EXPECT_FALSE(start::planStart(lorimerNotes(), r).ok());
    r.order = {"1"};
    EXPECT_FALSE(start::planStart(lorimerNotes(), r).ok());
    r.order = {"1", "3"};
    EXPECT_NE(start::planStart(lorimerNotes(), r).error().find("every engine once"), std::string::npos);
    r.order.clear();
    r.failures["7"] = 1;
    EXPECT_FALSE(start::planStart(lorimerNotes(), r).ok());
}

TEST(StartFigures, ACartridgeEngineIsTriedAsLongAsThereAreCartridgesAndTries) {
    const auto& n = test::loaded("collier-high").aircraft->notes;
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

TEST(StartFigures, ThePlanComparesTheOrdersThatHaveANameAndAReason) {
    const auto& l = test::loaded("mercer-frost");
    const auto p = plan::makePlan(*l.aircraft, *l.sortie);
    const auto named = start::namedOrders(l.aircraft->notes);
    ASSERT_GE(named.size(), 2u);
    ASSERT_GE(p.orders.size(), named.size());
    EXPECT_EQ(std::count_if(p.orders.begin(), p.orders.end(), [](const auto& o) { return o.wanted; }), 1);
    for (const auto& o : p.orders)
        EXPECT_FALSE(o.named.reason.empty()) << o.named.name;
}

TEST(PrimingFigures, FuelEvaporatesInSevenSecondsAtFifteenDegreesAndEFoldSlowerThirtyTwoColder) {
    EXPECT_NEAR(start::evaporationTime(Temperature::of(15, units::celsius)).si(), 7.0, 0.01);
    EXPECT_NEAR(start::evaporationTime(Temperature::of(-17, units::celsius)).si(), 7 * std::exp(1.0), 0.05);
    EXPECT_NEAR(start::evaporationTime(Temperature::of(31, units::celsius)).si(), 7 * std::exp(-0.5), 0.03);
    // Half of a gasoline is vapour at 14 °C, e/(1 + e) of it sixteen degrees warmer.
    EXPECT_NEAR(start::vapourFraction(Temperature::of(14, units::celsius)), 0.5, 1e-9);
    EXPECT_NEAR(start::vapourFraction(Temperature::of(30, units::celsius)), std::exp(1) / (1 + std::exp(1)), 1e-9);
}

TEST(PrimingFigures, DosesThatFireLieBetweenFiveAndFourteenHundredthsOfVapour) {
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    const start::Priming p(n.start);
    const Temperature cold = Temperature::of(5, units::celsius);
    const Pressure field = Pressure::si(standardPressure);
    const auto advice = p.advice(cold, field);
    EXPECT_NEAR(p.vapourRatio(advice.fireLow, cold, field), 0.050, 1e-6);
    EXPECT_NEAR(p.vapourRatio(advice.fireHigh, cold, field), 0.140, 1e-6);
    EXPECT_EQ(advice.flood, std::floor(advice.fireHigh) + 1);
}

TEST(PrimingFigures, NoTypeIsToldADoseThatFloodsNorWillItStandUnprimedTooColdToStart) {
    for (const auto& name : test::demoNames())
        for (double celsius = -25; celsius < 70; celsius += 1.0) {
            const start::Priming p(test::loaded(name).aircraft->notes.start);
            const Temperature t = Temperature::of(celsius, units::celsius);
            const auto advice = p.advice(t, Pressure::si(standardPressure));
            if (advice.unit == "blades" || advice.blades > 0)
                continue;
            EXPECT_LT(advice.dose, advice.flood) << name << " at " << celsius;
            // Where none is wanted the carburettor alone brings more than the leanest that fires, five hundredths.
            if (advice.dose == 0.0)
                EXPECT_GT(start::turnedCarburettor(0.08, t), 0.047) << name << " at " << celsius;
        }
    // 0.95 of eight hundredths, all of it vapour in a hot engine; of half of it the 1.5th power at 14 °C.
    EXPECT_NEAR(start::turnedCarburettor(0.08, Temperature::of(120, units::celsius)), 0.076, 0.0002);
    EXPECT_NEAR(start::turnedCarburettor(0.08, Temperature::of(14, units::celsius)), 0.076 * 0.35355, 1e-5);
}

TEST(PrimingFigures, TheFilmRunsOutInThreeMinutesAndMoreSlowlyAsItThickens) {
    EXPECT_NEAR(start::drainTime(Temperature::of(15, units::celsius)).si(), 180.0, 1e-9);
    // Gasoline: 0.60 mPa s at 15 °C, 0.85 at −12 °C.
    EXPECT_NEAR(start::drainTime(Temperature::of(-12, units::celsius)).si(), 180.0 * 0.85 / 0.60, 4.0);
    EXPECT_LT(start::drainTime(Temperature::of(40, units::celsius)).si(), 150.0);
}

TEST(PreheatFigures, AHeaterWarmsByItsWattsAgainstTheHoursLoss) {
    TypeNotes n = test::loaded("lorimer-spring").aircraft->notes;
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

TEST(StartFigures, AWarmEngineFiresAfterTheNotesSeconds) {
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    start::CrankConditions c;
    c.oil = Temperature::of(100, units::celsius);
    c.bladesPerRevolution = start::bladesPerRevolution(n);
    const auto k = start::crank(n.start, c);
    ASSERT_GE(k.rpm, n.start.starter.warmRpm);
    EXPECT_NEAR(k.untilFiring.si() - k.forBlades.si(), n.start.starter.firesAfter.si(), 0.02);
}

TEST(StartOrder, TakesFromTheBatteryWhatItsTurningAndItsWheelsTake) {
    // The starter's current while it turns, six tenths of it while the wheel is run up.
    for (const char* name : {"lorimer-spring", "chandler-haven", "mercer-frost"}) {
        const auto& n = test::loaded(name).aircraft->notes;
        start::StartRequest r;
        r.supply = start::Supply::battery;
        r.engine = r.oil = Temperature::si(288.15);
        const auto t = start::planStart(n, r).value();
        const start::CrankConditions c{r.oil, r.supply, false, start::bladesPerRevolution(n)};
        const auto k = start::crank(n.start, c);
        ASSERT_GT(k.amperes, 0) << name;
        double seconds = 0;
        for (const auto& e : t.events) {
            if (e.kind == start::EventKind::crank)
                seconds += e.length();
            if (e.kind == start::EventKind::energise)
                seconds += 0.6 * e.length();
        }
        EXPECT_NEAR(t.ampereHours, k.amperes * seconds / 3600, 0.02 * t.ampereHours) << name;
    }
}

} // namespace
