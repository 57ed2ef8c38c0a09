// SPDX-License-Identifier: GPL-3.0-or-later
// A day that changes moves every figure the right way, for every type: ten degrees, twenty hectopascals, weight,
// height.
#include "advice/climb_bands.h"
#include "advice/cooling.h"
#include "advice/ground_budget.h"
#include "advice/let_down.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/knock.h"
#include "engine/permitted_boost.h"
#include "flight/cruise.h"
#include "plan/plan.h"
#include "test_data.h"
#include "units/text.h"
#include <cmath>
#include <functional>
#include <map>
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;

using test::loaded;

class DayTrend : public testing::TestWithParam<std::string> {
protected:
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return *loaded(GetParam()).aircraft; }
    [[nodiscard]] const Sortie& sortie() const { return *loaded(GetParam()).sortie; }
    [[nodiscard]] flight::Flown flown(const std::function<void(Sortie&)>& change = {}) const {
        Sortie s = sortie();
        if (change)
            change(s);
        return flight::fly(aircraft(), s);
    }
    [[nodiscard]] flight::Flown hotter(double kelvin) const {
        return flown([&](Sortie& s) { s.day.oat = Temperature::si(s.day.oat.si() + kelvin); });
    }
};

TEST_P(DayTrend, TenDegreesHotterIsLessPowerAndALongerClimb) {
    const auto now = flown(), hot = hotter(10);
    EXPECT_LT(hot[Phase::takeOff].point.power, now[Phase::takeOff].point.power);
    EXPECT_LT(hot[Phase::climb].point.power, now[Phase::climb].point.power);
    EXPECT_LE(hot.firstRate.si(), now.firstRate.si());
    if (hot.reachedHeight && now.reachedHeight) {
        EXPECT_GT(hot[Phase::climb].duration, now[Phase::climb].duration);
    }
    for (std::size_t g = 0; g < now.fullThrottleHeights.size(); ++g)
        if (now.fullThrottleHeights[g] && hot.fullThrottleHeights[g]) {
            EXPECT_LE(*hot.fullThrottleHeights[g], *now.fullThrottleHeights[g]);
        }
    const double headOrCoolant = now.samples[now[Phase::climb].lastSample].headOrCoolant();
    EXPECT_GE(hot.samples[hot[Phase::climb].lastSample].headOrCoolant(), headOrCoolant - 0.5);
}

TEST_P(DayTrend, TwentyHectopascalsLowerIsLessPowerStanding) {
    const auto low = [](Sortie& s) { s.day.qnh = Pressure::si(s.day.qnh.si() - 2000); };
    const auto now = flown(), thin = flown(low);
    EXPECT_NEAR(now.fieldBoost.si() - thin.fieldBoost.si(), 2000, 380) << "the gauge at rest follows the altimeter";
    // A governed boost is had all the same; an open throttle is not.
    if (now[Phase::takeOff].point.fullThrottle) {
        EXPECT_LT(thin[Phase::takeOff].point.power, now[Phase::takeOff].point.power);
    }
    EXPECT_LE(thin.referenceRpm.si(), 1.001 * now.referenceRpm.si()) << "less boost turns the fine stop no faster";
}

TEST_P(DayTrend, HeavierClimbsSlowerAndCruisesSlower) {
    const auto& n = aircraft().notes;
    const double light = n.emptyWeight.si() + 0.4 * (n.maxWeight.si() - n.emptyWeight.si());
    const auto at = [&](double kg) {
        return flown([&](Sortie& s) {
            s.weight = Mass::si(kg);
            s.load.weightTyped = true;
        });
    };
    const auto l = at(light), h = at(n.maxWeight.si());
    EXPECT_LT(h.firstRate, l.firstRate);
    EXPECT_LE(h.cruiseTas.si(), l.cruiseTas.si() + 1e-6);
}

TEST_P(DayTrend, EverySettingOfEveryDayIsWithinTheLimits) {
    const auto& n = aircraft().notes;
    for (const double off : {-25.0, -10.0, 0.0, 12.0, 25.0})
        for (const auto& grade : n.fuel.grades) {
            Sortie s = sortie();
            s.day.oat = Temperature::si(s.day.oat.si() + off);
            s.day.dewPoint = std::min(s.day.dewPoint, s.day.oat);
            s.fuelGrade = grade;
            const auto f = flight::fly(aircraft(), s);
            const engine::KnockBoundary knock(n, aircraft().model(), grade);
            for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown, Phase::landing}) {
                const auto& set = f[phase].setting;
                if (const auto g = n.gauges.find(Gauge::rpm); g != n.gauges.end())
                    if (const auto most = g->second.in(phase).limitHigh) {
                        EXPECT_LE(set.rpm.si(), *most * 1.0001) << keyOf(phase) << off << grade;
                    }
                if (const auto g = n.gauges.find(Gauge::boost); g != n.gauges.end() && set.boost)
                    if (const auto most = g->second.in(phase).limitHigh) {
                        EXPECT_LE(set.boost->si(), *most * 1.0001) << keyOf(phase) << off << grade;
                    }
                if (phase == Phase::takeOff || phase == Phase::climb || phase == Phase::cruise) {
                    const auto permitted =
                        engine::permittedBoost(n, flight::ratingFor(n, s, phase), grade, engine::BoostAt::inGear(0));
                    if (permitted.boost && set.boost && n.engine.gears.size() < 2) {
                        EXPECT_LE(set.boost->si(), permitted.boost->si() * 1.0001) << keyOf(phase) << grade;
                    }
                }
            }
        }
}

TEST_P(DayTrend, WarmerFieldsGiveLessTimeOnTheGround) {
    double last = 1e18;
    for (const double oat : {-5.0, 10.0, 25.0, 38.0}) {
        Sortie s = sortie();
        s.day.oat = Temperature::of(oat, units::celsius);
        s.day.dewPoint = Temperature::of(oat - 8, units::celsius);
        const auto f = flight::fly(aircraft(), s);
        const auto b = advice::groundBudget(aircraft(), s, f, advice::GroundFrom::warmUp);
        ASSERT_FALSE(b.runs.empty());
        const double time = b.runs.front().toAmber.value_or(advice::GroundBudget::horizon);
        EXPECT_LE(time, last + 1.0) << oat;
        last = time;
        for (const auto& r : b.runs) {
            EXPECT_FALSE(r.why.empty()) << r.name;
        }
    }
}

TEST_P(DayTrend, CruiseTableChartAndPlanAgree) {
    // The plan's own cruise asked back: the same power from rpm and boost by the cruise table.
    const auto f = flown();
    const auto& set = f[Phase::cruise].setting;
    const auto& first = f.samples[f[Phase::cruise].firstSample];
    flight::CruiseConditions c;
    c.air = sortie().day.at(f.cruisePressureAltitude);
    c.weight = Mass::si(sortie().weight.si() - (f.fuelAtStart - first[Gauge::fuel]) * f.fuelDensity);
    c.fuel = Volume::si(first[Gauge::fuel]);
    c.grade = sortie().fuelGrade;
    c.fuelDensity = f.fuelDensity;
    const engine::KnockBoundary knock(aircraft().notes, aircraft().model(), c.grade);
    const auto p = flight::cruisePoint(aircraft(), c, knock, {set.rpm, set.boost, set.gear, set.mixture});
    EXPECT_NEAR(p.point.power.si() / f[Phase::cruise].point.power.si(), 1.0, 0.005);
    EXPECT_NEAR(p.burn / f.cruiseFuelFlow, 1.0, 0.005);
    EXPECT_NEAR(p.tas.si() / f.cruiseTas.si(), 1.0, 0.005);
    EXPECT_NEAR(p.endurance, first[Gauge::fuel] / f.cruiseFuelFlow, 0.01 * p.endurance);
}

TEST_P(DayTrend, TheComparisonSaysWhatFlyingItSays) {
    const auto f = flown(), hot = hotter(20);
    for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise}) {
        const auto c = plan::compareDays(aircraft(), sortie(), f, phase);
        ASSERT_GE(c.columns.size(), 2u);
        EXPECT_EQ(c.columns.front(), "today");
        for (const auto& row : c.rows) {
            EXPECT_EQ(row.cells.size(), c.columns.size());
            EXPECT_EQ(row.verdicts.size(), c.columns.size());
        }
        if (phase == Phase::climb) {
            const auto minutes = std::to_string(std::lround(hot[phase].duration / 60)) + " min";
            EXPECT_EQ(c.rows.front().cells[1], minutes);
        }
        for (const auto& column : c.columns) {
            EXPECT_LE(column.size(), 16u) << column << ": it must fit its column";
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Fleet, DayTrend, testing::ValuesIn(test::demoNames()),
                         [](const auto& each) { return each.param.substr(0, each.param.find('-')); });

RC_GTEST_PROP(LetDownProperty, NoneThatIsOfferedCoolsFasterThanItMay, ()) {
    const auto& l = loaded(*rc::gen::elementOf(test::demoNames()));
    Sortie s = *l.sortie;
    const double lowest = std::max(s.day.elevation.si(), s.flight.toElevation.si());
    s.day.oat = Temperature::of(*rc::gen::inRange(-30, 35), units::celsius);
    s.day.dewPoint = Temperature::si(s.day.oat.si() - 5);
    s.flight.cruiseHeight = Length::si(lowest + *rc::gen::inRange(900, 3000));
    powerplant::Aircraft a = *l.aircraft;
    a.notes.phases[Phase::letDown].rate = VerticalSpeed::si(*rc::gen::inRange(10, 80) / 10.0);
    a.notes.letDown.coolingPerMinute = TemperatureDifference::si(*rc::gen::inRange(6, 30));
    const auto f = flight::fly(a, s);
    const bool said = std::any_of(f.findings.begin(), f.findings.end(),
                                  [](const watch::Finding& r) { return r.phase == Phase::letDown; });
    if (!said) {
        RC_ASSERT(f.letDownCooling <= a.notes.letDown.coolingPerMinute->si() + 1e-6);
    }
    RC_ASSERT(!f.letDown.empty());
    for (std::size_t i = 1; i < f.letDown.size(); ++i) {
        RC_ASSERT(f.letDown[i].height < f.letDown[i - 1].height);
    }
}

RC_GTEST_PROP(SheetProperty, AnyReadingIsJudgedByTheOneJudge, ()) {
    const auto& l = loaded(*rc::gen::elementOf(test::demoNames()));
    const auto blank = plan::makePlan(*l.aircraft, *l.sortie).runUpSheet;
    const auto& line =
        blank.lines[static_cast<std::size_t>(*rc::gen::inRange(0, static_cast<int>(blank.lines.size())))];
    RC_PRE(line.kind == watch::SheetKind::reading && line.band.normalLow && line.band.normalHigh);
    const double low = *line.band.normalLow, high = *line.band.normalHigh;
    const double si = low + (high - low) * *rc::gen::inRange(-300, 400) / 100.0;
    Sortie s = *l.sortie;
    s.runUpFound[line.cells.front().key] = format(si, *line.unit, 6);
    const auto sheet = plan::makePlan(*l.aircraft, s).runUpSheet;
    const auto& cell = sheet.line(line.id)->cells.front();
    RC_ASSERT(cell.value.has_value());
    const auto judged =
        watch::judgeReading(line.what, sheet.line(line.id)->band, *line.unit, *cell.value, line.stopper);
    RC_ASSERT(cell.verdict.colour() == judged.colour());
    RC_ASSERT(cell.verdict.sentence() == judged.sentence());
    RC_ASSERT((cell.verdict.colour() == watch::Colour::normal) == cell.next.empty());
}

RC_GTEST_PROP(SortieProperty, WhatIsTypedOnTheGroundIsSavedAndReadBack, ()) {
    const auto& l = loaded(*rc::gen::elementOf(test::demoNames()));
    const auto sheet = watch::runUpSheet(l.aircraft->notes, l.sortie->runUpFound, {});
    Sortie s = *l.sortie;
    for (const auto& line : sheet.lines)
        for (const auto& cell : line.cells) {
            if (!*rc::gen::arbitrary<bool>())
                continue;
            if (line.kind == watch::SheetKind::drop)
                s.runUpFound[cell.key] = watch::sheetKept(line, std::to_string(*rc::gen::inRange(0, 300)) + " slow");
            else if (line.kind == watch::SheetKind::count)
                s.runUpFound[cell.key] = std::to_string(*rc::gen::inRange(0, 9));
            else if (line.kind == watch::SheetKind::reading)
                s.runUpFound[cell.key] = watch::sheetKept(line, std::to_string(*rc::gen::inRange(0, 900)) + " " +
                                                                    std::string(line.unit->symbol));
        }
    s.start.blanks = *rc::gen::arbitrary<bool>();
    if (*rc::gen::arbitrary<bool>())
        s.forecast = Temperature::of(*rc::gen::inRange(-40, 30), units::celsius);
    const auto again = readSortie(writeSortie(s, l.aircraft->notes.cockpit), "s.toml");
    RC_ASSERT(again.sortie.has_value());
    RC_ASSERT(again.problems.empty());
    RC_ASSERT(again.sortie->runUpFound == s.runUpFound);
    RC_ASSERT(again.sortie->start.blanks == s.start.blanks);
    RC_ASSERT(again.sortie->forecast.has_value() == s.forecast.has_value());
    RC_ASSERT(checkSortie(*again.sortie, l.aircraft->notes, "s").empty());
}

RC_GTEST_PROP(BudgetProperty, MoreWindOrMoreFlapNeverGivesLessTime, ()) {
    const auto& l =
        loaded(*rc::gen::element<std::string>("lorimer-spring", "farrier-summer", "chandler-haven", "tanner-winter"));
    Sortie s = *l.sortie;
    s.day.oat = Temperature::of(*rc::gen::inRange(10, 40), units::celsius);
    s.day.dewPoint = Temperature::si(s.day.oat.si() - 5);
    const auto facing = [&](double knots) {
        s.day.wind.speed = Speed::of(knots, units::knot);
        const auto f = flight::fly(*l.aircraft, s);
        const auto b = advice::groundBudget(*l.aircraft, s, f, advice::GroundFrom::holding);
        for (const auto& r : b.runs)
            if (r.name.starts_with("Facing"))
                return r.toAmber.value_or(advice::GroundBudget::horizon);
        return -1.0;
    };
    const int light = *rc::gen::inRange(3, 15);
    RC_ASSERT(facing(light + *rc::gen::inRange(1, 15)) >= facing(light) - 1.0);
}
} // namespace
