// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/fuel_grade.h"
#include "engine/permitted_boost.h"
#include "plan/lever_picture.h"
#include "plan/load_plan.h"
#include "plan/pictures.h"
#include "plan/plan.h"
#include "plan/plan_export.h"
#include "test_data.h"
#include "units/text.h"
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <rapidcheck/gtest.h>

using namespace amber;
using test::demo;

namespace {

plan::Plan planNamed(const std::string& name) {
    return plan::makePlan(*demo(name).aircraft, *demo(name).sortie);
}

const plan::SetLine& line(const plan::Plan& p, Phase phase, const std::string& what) {
    for (const auto& l : p[phase].set)
        if (l.what == what)
            return l;
    throw std::runtime_error("no line " + what);
}

TEST(Plan, CoversEveryPhaseInOrderWithoutGaps) {
    for (const char* name : {"lorimer", "farrier"}) {
        const auto p = planNamed(name);
        ASSERT_EQ(p.phases.size(), plannedPhases);
        for (std::size_t i = 0; i < plannedPhases; ++i) {
            EXPECT_EQ(p.phases[i].phase, static_cast<Phase>(i));
            EXPECT_TRUE(i == 0 || !p.phases[i].set.empty()) << titleOf(p.phases[i].phase);
            EXPECT_FALSE(p.phases[i].clocks.empty()) << titleOf(p.phases[i].phase);
            if (i > 0) {
                EXPECT_NEAR(p.phases[i].start, p.phases[i - 1].start + p.phases[i - 1].duration, 1e-6);
            }
            for (const auto& s : p.phases[i].set) {
                EXPECT_EQ(s.value.find_first_of("{}"), std::string::npos) << s.value;
                EXPECT_EQ(s.value.find("—"), std::string::npos) << s.what << ": " << s.value;
            }
        }
    }
}

TEST(Plan, TimeRunsForwardAndFuelNeverGrows) {
    const auto p = planNamed("lorimer");
    double burnt = 0;
    for (std::size_t i = 1; i < p.flown.samples.size(); ++i) {
        EXPECT_GE(p.flown.samples[i].time, p.flown.samples[i - 1].time);
        EXPECT_LE(p.flown.samples[i][Gauge::fuel], p.flown.samples[i - 1][Gauge::fuel] + 1e-12);
    }
    for (const auto& phase : p.phases)
        burnt += phase.fuel;
    EXPECT_NEAR(burnt, p.flown.fuelAtStart - p.flown.fuelAtEnd, 1e-9) << "the phases' fuel adds up to the sortie's";
}

TEST(Plan, TheGearIsChangedByTheNotesRule) {
    const auto p = planNamed("lorimer");
    ASSERT_NE(p.flown.gearChange(), nullptr);
    const auto& n = demo("lorimer").aircraft->notes;
    const auto& rating = *n.rating("climb");
    // Boost has fallen by at least three inches at full throttle, and the change is above full-throttle height in low
    // gear.
    const double fallen =
        (rating.boost->si() - p.flown.gearChange()->boostBefore.si()) / units::manifold::inHg.spec->scale;
    EXPECT_GE(fallen, 3.0 - 0.01);
    EXPECT_GT(p.flown.gearChange()->pressureAltitude, *p.flown.fullThrottleHeights[0]);
    EXPECT_LT(p.flown.gearChange()->pressureAltitude, *p.flown.fullThrottleHeights[1]);
    EXPECT_NE(line(p, Phase::climb, "At the change").value.find("back to 32 inHg"), std::string::npos);
    EXPECT_EQ(line(p, Phase::cruise, "Blower").value, "high");
}

TEST(Plan, ALowerGradeCutsTheTakeOff) {
    Sortie s = *demo("lorimer").sortie;
    s.fuelGrade = "91";
    const auto p = plan::makePlan(*demo("lorimer").aircraft, s);
    EXPECT_EQ(line(p, Phase::takeOff, "Throttle").value, "30 inHg, even, then 40.5 inHg");
    EXPECT_EQ(p[Phase::takeOff].worst.colour(), watch::Colour::amber);
    EXPECT_NE(p[Phase::takeOff].worst.sentence().find("Grade 91 permits 40.5 inHg"), std::string::npos);
    EXPECT_LT(p.flown[Phase::takeOff].point.power.si(), planNamed("lorimer").flown[Phase::takeOff].point.power.si());
}

TEST(Plan, QnhTemperatureGradeAndWeightMoveTheFiguresTheRightWay) {
    const auto& a = *demo("lorimer").aircraft;
    const Sortie today = *demo("lorimer").sortie;
    const auto base = flight::fly(a, today);
    Sortie s = today;
    s.day.qnh = Pressure::of(989, units::hPa);
    const auto low = flight::fly(a, s);
    EXPECT_LT(low.fieldBoost, base.fieldBoost);
    EXPECT_LT(low.gearChange()->height, base.gearChange()->height) << "lower pressure, lower change above sea level";
    s = today;
    s.day.oat = Temperature::of(26, units::celsius);
    const auto hot = flight::fly(a, s);
    EXPECT_LT(hot[Phase::takeOff].point.power, base[Phase::takeOff].point.power);
    EXPECT_LT(hot.gearChange()->height, base.gearChange()->height);
    EXPECT_GT(hot[Phase::climb].duration, base[Phase::climb].duration);
    EXPECT_LT(hot[Phase::cruise].point.power, base[Phase::cruise].point.power);
    s = today;
    s.weight = Mass::of(24000, units::pound);
    s.load.weightTyped = true;
    const auto light = flight::fly(a, s);
    EXPECT_LT(light[Phase::climb].duration, base[Phase::climb].duration);
    EXPECT_GT(light.cruiseTas, base.cruiseTas);
    EXPECT_LT(flight::speedFor(a.notes, "lift-off", s.weight)->speed,
              flight::speedFor(a.notes, "lift-off", today.weight)->speed);
    s = today;
    s.day.elevation = Length::of(5380, units::foot);
    EXPECT_FALSE(flight::fly(a, s)[Phase::takeOff].point.fullThrottle && base[Phase::takeOff].point.fullThrottle);
}

TEST(Plan, SpeedsAreReadBetweenTheColumns) {
    const auto& n = demo("lorimer").aircraft->notes;
    EXPECT_EQ(flight::speedFor(n, "lift-off", Mass::of(22000, units::pound))->origin, Origin::notes);
    const auto middle = *flight::speedFor(n, "lift-off", Mass::of(25500, units::pound));
    EXPECT_NEAR(middle.speed.in(units::knot), 84, 1e-6);
    EXPECT_EQ(middle.origin, Origin::between);
    EXPECT_FALSE(flight::speedFor(n, "no such", Mass::of(25500, units::pound)));
}

TEST(Plan, AQueueOnAHotDayTurnsTheRunUpAmber) {
    Sortie s = *demo("farrier").sortie;
    EXPECT_EQ(planNamed("farrier")[Phase::runUp].worst.colour(), watch::Colour::amber);
    s.flight.hold = Duration{};
    const auto straight = plan::makePlan(*demo("farrier").aircraft, s);
    EXPECT_EQ(straight[Phase::runUp].worst.colour(), watch::Colour::normal) << straight[Phase::runUp].worst.sentence();
}

TEST(Plan, TooLittleFuelIsRed) {
    Sortie s = *demo("lorimer").sortie;
    s.contents["rear"] = Volume{};
    s.contents["front"] = Volume::of(120, units::usGallon);
    const auto p = plan::makePlan(*demo("lorimer").aircraft, s);
    EXPECT_EQ(p[Phase::cruise].worst.colour(), watch::Colour::red);
    EXPECT_NE(p[Phase::cruise].worst.sentence().find("empty"), std::string::npos);
}

TEST(Plan, TooHighIsSaidAndPlannedAsHighAsItGoes) {
    Sortie s = *demo("lorimer").sortie;
    s.flight.cruiseHeight = Length::of(36000, units::foot);
    const auto p = plan::makePlan(*demo("lorimer").aircraft, s);
    EXPECT_FALSE(p.flown.reachedHeight);
    EXPECT_EQ(p[Phase::climb].worst.colour(), watch::Colour::red);
}

/// Where the cruising power does not hold the height, the figures are those of the height that it does hold: they do
/// not improve as more height is asked for.
TEST(Plan, AHeightThatIsNotHeldIsPlannedWhereItIs) {
    for (const char* name : {"lorimer-spring", "farrier-summer", "thatcher-lesson"}) {
        const auto l = test::loaded(name);
        Sortie s = *l.sortie;
        // Power for the cruise that holds some height and not the climb's ceiling.
        std::optional<double> held;
        for (double feet = 9000; feet <= 30'000 && !held; feet += 1500) {
            s.flight.cruiseHeight = Length::of(feet, units::foot);
            const auto f = flight::fly(*l.aircraft, s);
            if (!f.heldHeight)
                continue;
            held = f.heldHeight->si();
            EXPECT_LT(*held, s.flight.cruiseHeight.si()) << name;
            EXPECT_TRUE(std::any_of(f.findings.begin(), f.findings.end(), [&](const auto& x) {
                return x.rule == watch::Rule::level && x.verdict.sentence().find("it sinks to") != std::string::npos;
            })) << name;
            // In the cruise it stands there, and all is as it would be if that had been asked for.
            EXPECT_NEAR(f.samples[f[Phase::cruise].lastSample][Gauge::height], *held, 2.0) << name;
            Sortie lower = s;
            lower.flight.cruiseHeight = Length::si(*held);
            const auto same = flight::fly(*l.aircraft, lower);
            EXPECT_NEAR(f.cruiseTas.si() / same.cruiseTas.si(), 1.0, 0.03) << name;
            EXPECT_NEAR(f.cruiseFuelFlow / same.cruiseFuelFlow, 1.0, 0.01) << name;
            // More height asked for changes nothing but the climb: the red says which height it is.
            Sortie higher = s;
            higher.flight.cruiseHeight = Length::si(s.flight.cruiseHeight.si() + 150);
            const auto more = flight::fly(*l.aircraft, higher);
            if (more.reachedHeight) {
                ASSERT_TRUE(more.heldHeight) << name;
                EXPECT_NEAR(more.heldHeight->si(), *held, 60.0) << name;
                EXPECT_LE(more.cruiseTas.si(), f.cruiseTas.si() * 1.01) << name;
            }
        }
        EXPECT_TRUE(held || std::string(name) != "lorimer-spring")
            << name << ": every height was held: it proves nothing";
    }
}

TEST(Plan, ASchoolIsTakenOnlyWhereTheNotesLeaveItOpen) {
    const auto& d = demo("lorimer");
    Sortie s = *d.sortie;
    s.choices["start/propeller"] = "coarse until oil pressure";
    EXPECT_TRUE(checkSortie(s, d.aircraft->notes, "s").empty());
    EXPECT_EQ(line(plan::makePlan(*d.aircraft, s), Phase::start, "Propeller").value,
              "coarse, fine when oil pressure is up");
    s.choices = {{"start/propeller", "sideways"}};
    EXPECT_FALSE(checkSortie(s, d.aircraft->notes, "s").empty());
    s.choices = {{"climb/mixture", "weak"}};
    EXPECT_FALSE(checkSortie(s, d.aircraft->notes, "s").empty());
}

TEST(Prime, AnAirframeThatLikesMoreGetsItAndItIsMarkedLogged) {
    const auto p = planNamed("lorimer");
    const auto& prime = line(p, Phase::start, "Prime");
    EXPECT_NE(prime.value.find("Port 5, Starboard 4 strokes"), std::string::npos) << prime.value;
    EXPECT_EQ(prime.origin, Origin::logged);
}

std::string clockValue(const plan::Plan& p, Phase phase, const std::string& what) {
    for (const auto& c : p[phase].clocks)
        if (c.what == what)
            return c.value;
    return {};
}

TEST(Start, HandTurningFollowsTheHoursStoodAndFloodingHasItsRemedy) {
    const auto& d = demo("lorimer");
    Sortie s = *d.sortie;
    EXPECT_EQ(clockValue(plan::makePlan(*d.aircraft, s), Phase::walkRound, "Turn by hand"), "21 blades each")
        << "cold: stood for longer than anyone knows";
    s.start.sinceStop = Duration::of(5, units::hour);
    EXPECT_EQ(clockValue(plan::makePlan(*d.aircraft, s), Phase::walkRound, "Turn by hand"), "15 blades each");
    s.start.sinceStop = Duration::of(40, units::minute);
    const auto warm = plan::makePlan(*d.aircraft, s);
    EXPECT_EQ(clockValue(warm, Phase::walkRound, "Turn by hand"), "not yet needed");
    EXPECT_NE(clockValue(warm, Phase::start, "If flooded"), "");
    EXPECT_LT(warm.prime.dose, plan::makePlan(*d.aircraft, *d.sortie).prime.dose) << "a warm engine wants less";
}

TEST(Landing, EndsOnTheField) {
    const auto p = planNamed("lorimer");
    EXPECT_NEAR(p.flown.samples[p.flown[Phase::landing].lastSample][Gauge::height],
                demo("lorimer").sortie->flight.toElevation.si(), 1e-6);
}

TEST(Export, JsonCsvAndTextSayWhatThePlanSays) {
    const auto& d = demo("lorimer");
    const auto p = planNamed("lorimer");
    const auto json = nlohmann::json::parse(plan::planJson(*d.aircraft, *d.sortie, p));
    ASSERT_EQ(json["phases"].size(), plannedPhases);
    const std::string csv = plan::planCsv(p), text = plan::planText(p);
    for (std::size_t i = 0; i < plannedPhases; ++i)
        for (std::size_t k = 0; k < p.phases[i].set.size(); ++k) {
            EXPECT_EQ(json["phases"][i]["set"][k]["value"], p.phases[i].set[k].value);
            EXPECT_NE(text.find(p.phases[i].set[k].value), std::string::npos);
            EXPECT_NE(csv.find(plan::csvField(p.phases[i].set[k].value)), std::string::npos);
        }
    EXPECT_EQ(json["series"].size(), p.flown.samples.size());
    EXPECT_EQ(plan::csvField("a,\"b\""), "\"a,\"\"b\"\"\"");
}

TEST(Pictures, ShowWhatThePlanHas) {
    const auto& d = demo("lorimer");
    const auto flown = flight::fly(*d.aircraft, *d.sortie);
    const auto climb = plan::climbPicture(*d.aircraft, *d.sortie, flown);
    ASSERT_EQ(climb.fullThrottle.size(), 2u);
    ASSERT_EQ(climb.fullThrottleHeights.size(), 2u);
    // Each full-throttle curve falls with height and passes through its full-throttle height.
    for (std::size_t g = 0; g < 2; ++g)
        for (std::size_t i = 1; i < climb.fullThrottle[g].points.size(); ++i)
            EXPECT_LT(climb.fullThrottle[g].points[i].y, climb.fullThrottle[g].points[i - 1].y);
    const auto cruise = plan::cruisePicture(*d.aircraft, *d.sortie, flown);
    EXPECT_NEAR(cruise.planned.y, flown[Phase::cruise].point.power.si(), 1e-9);
    // The planned point lies on the line of its boost, in its gear.
    bool on = false;
    for (const auto& curve : cruise.constantBoost)
        if (curve.gear == cruise.plannedGear && curve.label == "33")
            for (std::size_t i = 1; i < curve.points.size(); ++i)
                if (curve.points[i - 1].x <= cruise.planned.x && cruise.planned.x <= curve.points[i].x) {
                    const double t =
                        (cruise.planned.x - curve.points[i - 1].x) / (curve.points[i].x - curve.points[i - 1].x);
                    on = std::abs(curve.points[i - 1].y + t * (curve.points[i].y - curve.points[i - 1].y) -
                                  cruise.planned.y) < 500;
                }
    EXPECT_TRUE(on);
}

TEST(Comparison, HotterIsSlowerAndTheFirstColumnIsToday) {
    const auto& d = demo("lorimer");
    const auto p = planNamed("lorimer");
    const auto c = plan::compareDays(*d.aircraft, *d.sortie, p.flown, Phase::climb);
    ASSERT_EQ(c.columns.size(), 4u) << "today, hotter, the lower grade, another rating";
    EXPECT_EQ(c.rows[0].cells[0], fmt::format("{:.0f} min", p[Phase::climb].duration / 60));
    EXPECT_TRUE(plan::compareDays(*d.aircraft, *d.sortie, p.flown, Phase::start).rows.empty());
}

/// Any day and load that a sortie file may hold.
Sortie anySortie(const flight::LoadedSortie& from) {
    Sortie s = *from.sortie;
    const auto& n = from.aircraft->notes;
    s.day.elevation = Length::si(*rc::gen::inRange(-200, 3000));
    s.day.qnh = Pressure::si(*rc::gen::inRange(95000, 105000));
    s.day.oat = Temperature::si(*rc::gen::inRange(238, 320));
    s.day.dewPoint = Temperature::si(s.day.oat.si() - *rc::gen::inRange(0, 30));
    s.fuelGrade = *rc::gen::elementOf(n.fuel.grades);
    s.weight =
        Mass::si(*rc::gen::inRange(static_cast<int>(n.emptyWeight.si()) + 1, static_cast<int>(n.maxWeight.si())));
    s.flight.toElevation = Length::si(*rc::gen::inRange(-200, 3000));
    s.flight.cruiseHeight = Length::si(*rc::gen::inRange(3100, 13000));
    s.flight.distance = Distance::si(*rc::gen::inRange(0, 900000));
    s.flight.hold = Duration::si(*rc::gen::inRange(0, 1800));
    s.flight.climbRating =
        n.ratings[static_cast<std::size_t>(*rc::gen::inRange<int>(0, static_cast<int>(n.ratings.size())))].key;
    s.flight.cruiseRating =
        n.ratings[static_cast<std::size_t>(*rc::gen::inRange<int>(0, static_cast<int>(n.ratings.size())))].key;
    return s;
}

RC_GTEST_PROP(PlanProperty, NoSettingIsEverBeyondALimitOrTheGrade, ()) {
    const auto& d = demo(*rc::gen::arbitrary<bool>() ? "lorimer" : "farrier");
    const Sortie s = anySortie(d);
    RC_PRE(checkSortie(s, d.aircraft->notes, "s").empty());
    const auto flown = flight::fly(*d.aircraft, s);
    for (const auto& m : flown.samples) {
        RC_ASSERT(std::isfinite(m.headOrCoolant()) && std::isfinite(m[Gauge::oilTemperature]) &&
                  std::isfinite(m[Gauge::height]) && std::isfinite(m[Gauge::fuel]));
        if (m[Gauge::rpm] <= 0)
            continue;
        const auto& boost = d.aircraft->notes.gauges.at(Gauge::boost).in(m.phase);
        const auto& rpm = d.aircraft->notes.gauges.at(Gauge::rpm).in(m.phase);
        RC_ASSERT(!boost.limitHigh || m[Gauge::boost] <= *boost.limitHigh * (1 + 1e-9));
        RC_ASSERT(!rpm.limitHigh || m[Gauge::rpm] <= *rpm.limitHigh * (1 + 1e-9));
    }
    const auto cap = engine::permittedBoost(d.aircraft->notes, flight::ratingFor(d.aircraft->notes, s, Phase::takeOff),
                                            s.fuelGrade, engine::BoostAt::inGear(0));
    RC_ASSERT(flown[Phase::takeOff].point.manifoldPressure.si() <= cap.boost->si() + 1e-6);
}

RC_GTEST_PROP(PlanProperty, AHotterDayNeverGivesMoreTakeOffPower, ()) {
    const auto& d = demo(*rc::gen::arbitrary<bool>() ? "lorimer" : "farrier");
    Sortie s = anySortie(d);
    s.day.oat = Temperature::si(std::min(s.day.oat.si(), 305.0));
    const auto cool = flight::fly(*d.aircraft, s);
    s.day.oat = Temperature::si(s.day.oat.si() + 10);
    RC_ASSERT(flight::fly(*d.aircraft, s)[Phase::takeOff].point.power.si() <=
              cool[Phase::takeOff].point.power.si() * (1 + 1e-9));
}

TEST(Chores, AreDueAfterEachOfTheirTimesAndNoneAtThePhasesEnd) {
    auto l = test::loadDemo("lorimer-spring");
    auto own = *l.aircraft;
    const auto f = flight::fly(own, *l.sortie);
    const auto marked = [&](double every) {
        auto& clocks = own.notes.phases.at(Phase::cruise).clocks;
        clocks = {{"look about", "", "", Duration::si(every)}};
        const auto p = plan::makePlan(own, *l.sortie);
        std::vector<double> due;
        for (const auto& m : p.marks)
            if (m.chore && m.phase == Phase::cruise)
                due.push_back(m.time - p[Phase::cruise].start);
        return due;
    };
    const double all = f[Phase::cruise].duration;
    ASSERT_GT(all, 900.0);
    EXPECT_EQ(marked(all / 3).size(), 2u) << "the third would be at the let-down";
    EXPECT_EQ(marked((all - 0.5) / 3).size(), 2u) << "or half a second before it";
    const auto due = marked((all - 2.0) / 3);
    ASSERT_EQ(due.size(), 3u);
    for (std::size_t i = 0; i < due.size(); ++i)
        EXPECT_NEAR(due[i], static_cast<double>(i + 1) * (all - 2.0) / 3, 1e-6);
}

TEST(TankLines, SayWhyAsTheirClockDoes) {
    std::size_t changes = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto p = plan::makePlan(*l.aircraft, *l.sortie);
        const auto lines = plan::tankLines(p, l.aircraft->notes);
        for (const auto& c : p.flown.tankChanges) {
            const auto line = std::find_if(lines.begin(), lines.end(),
                                           [&](const plan::TankLine& x) { return std::abs(x.time - c.time) < 1e-6; });
            ASSERT_NE(line, lines.end()) << name;
            EXPECT_FALSE(line->text.empty()) << name;
            EXPECT_FALSE(line->why.empty()) << name << ": " << line->text;
            ++changes;
        }
    }
    EXPECT_GT(changes, 3u);
}

TEST(PlainSortie, IsOfTheVariantOfItsNotes) {
    for (const auto& name : test::demoNames()) {
        const auto& notes = test::loaded(name).aircraft->notes;
        EXPECT_EQ(flight::plainSortie(notes).airframe.variant, notes.variant) << name;
    }
    EXPECT_EQ(plan::makePlan(test::lorimer(), *test::demo("lorimer").sortie).title,
              test::demo("lorimer").sortie->title);
    EXPECT_FALSE(test::demo("lorimer").sortie->title.empty());
}

TEST(OpenFiles, NotesThatCannotBeReadSayWhy) {
    const auto nothing = flight::loadAircraft(test::dataPath("notes/nobody.toml"), "");
    EXPECT_FALSE(nothing.aircraft);
    EXPECT_FALSE(nothing.problems.empty());
    const auto wrong = flight::loadAircraft(test::dataPath("demo/lorimer-spring.toml"), "");
    EXPECT_FALSE(wrong.aircraft);
    EXPECT_FALSE(wrong.problems.empty());
}

TEST(Marks, AreByTimeAndHoldTheWorstOfEachPhase) {
    std::size_t coloured = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto p = plan::makePlan(*l.aircraft, *l.sortie);
        for (std::size_t i = 1; i < p.marks.size(); ++i)
            EXPECT_GE(p.marks[i].time, p.marks[i - 1].time) << name;
        for (const auto& phase : p.phases)
            if (phase.worst.colour() != watch::Colour::normal) {
                ++coloured;
                EXPECT_TRUE(std::any_of(p.marks.begin(), p.marks.end(),
                                        [&](const auto& m) {
                                            return m.time == phase.start &&
                                                   m.verdict.colour() == phase.worst.colour() &&
                                                   m.text == phase.worst.sentence();
                                        }))
                    << name << ": " << phase.worst.sentence();
            }
    }
    EXPECT_GT(coloured, 3u);
}

TEST(WarmUpWords, TellTheStepsOfTodayAndThenThoseOfAWait) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto& steps = l.aircraft->notes.warmUp.steps;
        if (steps.size() < 2)
            continue;
        const auto p = plan::makePlan(*l.aircraft, *l.sortie);
        std::string text;
        for (const auto& line : p[Phase::warmUp].set)
            if (line.value.find("from oil") != std::string::npos ||
                line.value.find("if it stands") != std::string::npos)
                text = line.value;
        const auto& flown = p.flown.warmUpSteps;
        ASSERT_FALSE(flown.empty()) << name;
        const auto stands = text.find("if it stands");
        for (const auto& step : steps) {
            const auto at = text.find(formatValue(step.second.si(), *units::rpm.spec));
            const bool today =
                std::any_of(flown.begin(), flown.end(), [&](const auto& s) { return s.second == step.second; });
            const bool after = step.second > flown.back().second;
            if (text.empty())
                continue;
            EXPECT_EQ(at != std::string::npos, today || after) << name << ": " << text;
            if (at != std::string::npos)
                EXPECT_EQ(stands != std::string::npos && at > stands, after && !today) << name << ": " << text;
        }
    }
    const auto& m = test::loaded("mercer-frost");
    const auto p = plan::makePlan(*m.aircraft, *m.sortie);
    EXPECT_TRUE(std::any_of(p[Phase::warmUp].set.begin(), p[Phase::warmUp].set.end(), [](const auto& line) {
        return line.value.find("800 rpm; if it stands, 1,000 from oil 10 °C; 1,200 from 25 °C") != std::string::npos;
    }));
}

TEST(StartWords, SayHowFastItTurnsWhereAStarterTurnsIt) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto p = plan::makePlan(*l.aircraft, *l.sortie);
        const bool starter = l.aircraft->notes.start.starter.kind != StarterKind::hand;
        std::size_t turns = 0;
        for (const auto& line : p[Phase::start].clocks)
            turns += line.fact.id == "turns-at";
        EXPECT_EQ(turns, starter ? 1u : 0u) << name;
    }
}

TEST(LeverPicture, EnginesThatStandAlikeAreToldOnce) {
    std::size_t one = 0;
    for (const char* name : {"lorimer-spring", "mercer-frost"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        for (const auto& lever : plan::leversAt(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 60))
            for (const auto* places : {&lever.before, &lever.now}) {
                ASSERT_FALSE(places->empty()) << lever.id;
                const bool alike =
                    std::all_of(places->begin(), places->end(), [&](const auto& p) { return p == places->front(); });
                EXPECT_EQ(alike, places->size() == 1) << name << " " << lever.id;
                one += places->size() == 1;
            }
    }
    EXPECT_GT(one, 20u);
}

} // namespace
