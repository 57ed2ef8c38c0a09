// SPDX-License-Identifier: GPL-3.0-or-later
// What must hold for the plan of every type of the fleet, on its own day and on others.
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "plan/pictures.h"
#include "plan/plan.h"
#include "plan/plan_export.h"
#include "test_data.h"
#include "thorough.h"
#include "units/text.h"

using namespace amber;

namespace {

class EachDemo : public testing::TestWithParam<std::string> {
protected:
    void SetUp() override {
        loaded = test::loadDemo(GetParam());
        ASSERT_TRUE(loaded.ok());
    }
    [[nodiscard]] const TypeNotes& notes() const { return loaded.aircraft->notes; }
    flight::LoadedSortie loaded;
};

TEST_P(EachDemo, PlansEveryPhaseWithSettingsInItsOwnUnits) {
    const auto p = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    ASSERT_EQ(p.phases.size(), plannedPhases);
    for (const auto& phase : p.phases) {
        if (phase.phase == Phase::load) {
            EXPECT_EQ(phase.duration, 0);
            EXPECT_FALSE(phase.headline.empty());
            continue;
        }
        EXPECT_TRUE(!phase.set.empty() || (phase.phase == Phase::walkRound && !p.walk.stops.empty()))
            << titleOf(phase.phase);
        EXPECT_GT(phase.duration, 0) << titleOf(phase.phase);
        EXPECT_FALSE(phase.headline.empty());
        for (const auto& e : phase.expect) {
            const UnitSpec& unit = notes().unitOf(e.gauge);
            EXPECT_TRUE(e.text.ends_with(unit.symbol)) << e.text;
            const auto back = readQuantity(nameOf(e.gauge).dimension, e.text);
            ASSERT_TRUE(back.ok()) << e.text;
            EXPECT_NEAR(back.value().si, e.value, 1e-6 * std::abs(e.value) + 1e-6)
                << "the words say the figure that was judged";
            const auto colour = watch::judge(notes(), e.gauge, phase.phase, e.value).colour();
            if (e.moment.find("at first") == std::string::npos)
                EXPECT_EQ(colour, e.verdict.colour()) << "one judge";
            else
                EXPECT_LE(colour, e.verdict.colour()) << "the worse of settled and at first";
            EXPECT_LE(e.scale.first, e.scale.second);
        }
    }
}

TEST_P(EachDemo, ShowsNoRedOnItsOwnDay) {
    const auto p = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    for (const auto& phase : p.phases)
        EXPECT_NE(phase.worst.colour(), watch::Colour::red) << titleOf(phase.phase) << ": " << phase.worst.sentence();
}

TEST_P(EachDemo, RunUpAndTakeOffWaitForTheLeastTemperatures) {
    const auto f = flight::fly(*loaded.aircraft, *loaded.sortie);
    const auto& runUp = f.samples[f[Phase::runUp].firstSample];
    const auto& takeOff = f.samples[f[Phase::takeOff].firstSample];
    const auto& w = notes().warmUp;
    EXPECT_GE(runUp[Gauge::oilTemperature], w.oilRunUp.si() - 0.01);
    EXPECT_GE(takeOff[Gauge::oilTemperature], w.oilTakeOff.si() - 0.01);
    if (w.headRunUp) {
        EXPECT_GE(runUp.headOrCoolant(), w.headRunUp->si() - 0.01);
    }
    if (w.headTakeOff) {
        EXPECT_GE(takeOff.headOrCoolant(), w.headTakeOff->si() - 0.01);
    }
}

TEST_P(EachDemo, ClimbsLevelsAndComesDownToTheField) {
    const auto f = flight::fly(*loaded.aircraft, *loaded.sortie);
    double before = -1e9;
    for (std::size_t i = f[Phase::climb].firstSample; i <= f[Phase::climb].lastSample; ++i) {
        EXPECT_GE(f.samples[i][Gauge::height], before - 1e-6);
        before = f.samples[i][Gauge::height];
    }
    EXPECT_NEAR(before, loaded.sortie->flight.cruiseHeight.si(), 1.0);
    for (std::size_t i = f[Phase::cruise].firstSample; i <= f[Phase::cruise].lastSample; ++i)
        EXPECT_NEAR(f.samples[i][Gauge::height], before, 1.0);
    EXPECT_NEAR(f.samples.back()[Gauge::height], loaded.sortie->flight.toElevation.si(), 1e-6);
    double distance = 0;
    for (const Phase p : {Phase::climb, Phase::cruise, Phase::letDown, Phase::takeOff})
        distance += f[p].distance;
    EXPECT_NEAR(distance / loaded.sortie->flight.distance.si(), 1.0, 0.03)
        << "the cruise fills what climb and let-down leave";
}

TEST_P(EachDemo, TheCruiseIsInBalance) {
    const auto f = flight::fly(*loaded.aircraft, *loaded.sortie);
    const auto& m = f.samples[f[Phase::cruise].firstSample];
    const auto air = loaded.sortie->day.at(loaded.sortie->day.pressureAltitudeOf(Length::si(m[Gauge::height])));
    const double burnt = (f.fuelAtStart - m[Gauge::fuel]) * f.fuelDensity;
    const auto rate =
        powerplant::rateOfClimb(*loaded.aircraft, m[Gauge::power] * static_cast<double>(notes().engineCount()),
                                Mass::si(loaded.sortie->weight.si() - burnt), Speed::si(m[Gauge::airspeed]), air);
    EXPECT_NEAR(rate.si(), 0.0, 0.1) << "level flight neither climbs nor sinks";
}

TEST_P(EachDemo, TheDragIsThatOfTheNotesPerformanceLines) {
    const air::Day day = air::standardDay(Length{});
    for (const auto& line : notes().performance) {
        const Rating& rating = *notes().rating(line.rating);
        const auto air = day.at(line.height);
        double power = 0;
        for (std::size_t gear = 0; gear < std::max<std::size_t>(1, notes().engine.gears.size()); ++gear) {
            engine::Demand demand{rating.rpm, rating.boost, gear, air, line.ias, rating.mixture};
            if (loaded.aircraft->propeller.followsThrottle()) {
                const auto both = engine::agree(loaded.aircraft->model(), loaded.aircraft->propeller.coarse, demand);
                demand.rpm = both.rpm;
                demand.boost = both.boost;
            }
            power = std::max(power, engine::operate(loaded.aircraft->model(), demand).power.si());
        }
        const auto rate = powerplant::rateOfClimb(*loaded.aircraft, power * static_cast<double>(notes().engineCount()),
                                                  line.weight, line.ias, air);
        EXPECT_NEAR(rate.si(), line.rate ? line.rate->si() : 0.0, 0.02);
    }
}

TEST_P(EachDemo, HeatKeepsItsOrderThroughTheSortie) {
    const auto f = flight::fly(*loaded.aircraft, *loaded.sortie);
    for (const auto& m : f.samples) {
        EXPECT_GT(m.headOrCoolant(), 220);
        EXPECT_LT(m.headOrCoolant(), 640);
        EXPECT_GT(m[Gauge::oilTemperature], 220);
        EXPECT_LT(m[Gauge::oilTemperature], 400);
        EXPECT_TRUE(!m.has(Gauge::oilPressure) || m[Gauge::oilPressure] >= 0);
    }
}

TEST_P(EachDemo, ExportsParseAndAgree) {
    const auto p = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    const std::string csv = plan::planCsv(p);
    const auto rows = static_cast<std::size_t>(std::count(csv.begin(), csv.end(), '\n'));
    std::size_t expected = 1 + static_cast<std::size_t>(p.walk.items);
    for (const auto& phase : p.phases)
        expected += phase.set.size() + phase.expect.size() + phase.clocks.size();
    EXPECT_EQ(rows, expected);
    EXPECT_EQ(plan::planJson(*loaded.aircraft, *loaded.sortie, p),
              plan::planJson(*loaded.aircraft, *loaded.sortie, plan::makePlan(*loaded.aircraft, *loaded.sortie)))
        << "a plan is a pure function";
}

TEST_P(EachDemo, SurvivesAnyHourOfTheYearAndAnyField) {
    Sortie s = *loaded.sortie;
    std::size_t corner = s.title.size(); // a third of the corners, others for others
    for (const double oat : {-35.0, -10.0, 15.0, 45.0})
        for (const double elevation : {-300.0, 0.0, 2500.0})
            for (const double qnh : {950.0, 1050.0}) {
                if (!test::thorough() && ++corner % 3 != 0)
                    continue;
                s.day.oat = Temperature::of(oat, units::celsius);
                s.day.dewPoint = Temperature::of(oat - 3, units::celsius);
                s.day.elevation = Length::si(elevation);
                s.day.qnh = Pressure::of(qnh, units::hPa);
                s.flight.cruiseHeight = Length::si(elevation + 2000);
                s.flight.toElevation = Length::si(elevation);
                const auto p = plan::makePlan(*loaded.aircraft, s);
                EXPECT_EQ(p.phases.size(), plannedPhases);
                for (const auto& m : p.flown.samples)
                    ASSERT_TRUE(std::isfinite(m.headOrCoolant()) && std::isfinite(m[Gauge::oilTemperature]) &&
                                std::isfinite(m[Gauge::power]))
                        << oat << " " << elevation;
            }
}

TEST_P(EachDemo, PicturesHaveCurvesInEveryGear) {
    const auto f = flight::fly(*loaded.aircraft, *loaded.sortie);
    const auto climb = plan::climbPicture(*loaded.aircraft, *loaded.sortie, f);
    const auto cruise = plan::cruisePicture(*loaded.aircraft, *loaded.sortie, f);
    const auto gears = std::max<std::size_t>(1, notes().engine.gears.size());
    EXPECT_EQ(climb.fullThrottle.size(), gears);
    EXPECT_EQ(cruise.fullThrottle.size(), gears);
    EXPECT_FALSE(cruise.constantBoost.empty());
    for (const auto& curve : cruise.constantBoost)
        for (std::size_t i = 1; i < curve.points.size(); ++i)
            EXPECT_GT(curve.points[i].y, curve.points[i - 1].y * 0.995) << "constant boost rises to full throttle";
    EXPECT_GT(climb.top, loaded.sortie->flight.cruiseHeight.si());
}

TEST_P(EachDemo, HotterNeverGivesMoreTakeOffPowerNorALowerGradeMoreBoost) {
    Sortie s = *loaded.sortie;
    const auto today = flight::fly(*loaded.aircraft, s);
    s.day.oat = Temperature::si(s.day.oat.si() + 10);
    EXPECT_LE(flight::fly(*loaded.aircraft, s)[Phase::takeOff].point.power, today[Phase::takeOff].point.power);
    s = *loaded.sortie;
    s.fuelGrade = notes().fuel.grades.back();
    EXPECT_LE(flight::fly(*loaded.aircraft, s)[Phase::takeOff].point.manifoldPressure,
              today[Phase::takeOff].point.manifoldPressure);
}

INSTANTIATE_TEST_SUITE_P(Fleet, EachDemo, testing::ValuesIn(test::demoNames()),
                         [](const auto& chosen) { return chosen.param.substr(0, chosen.param.find('-')); });

TEST(Tanks, AreUsedInTheNotesOrderAndTheLastIsKeptForLanding) {
    const auto loaded = test::loadDemo("lorimer-spring");
    const auto f = flight::fly(*loaded.aircraft, *loaded.sortie);
    ASSERT_GE(f.tankChanges.size(), 2u);
    EXPECT_EQ(loaded.aircraft->notes.fuel.tanks[static_cast<std::size_t>(f.tankChanges[0].tank)].id, "rear");
    EXPECT_EQ(f.tankChanges[0].phase, Phase::cruise);
    EXPECT_EQ(loaded.aircraft->notes.fuel.tanks[static_cast<std::size_t>(f.tankChanges[1].tank)].id, "front");
    for (const auto& m : f.samples)
        if (m.phase == Phase::takeOff || m.phase == Phase::landing) {
            EXPECT_EQ(loaded.aircraft->notes.fuel.tanks[static_cast<std::size_t>(m.tank)].id, "front");
        }
}

TEST(Tanks, ATankThatRunsDryIsSaidAndAnotherFeeds) {
    auto loaded = test::loadDemo("lorimer-spring");
    loaded.sortie->contents["front"] = Volume::of(30, units::usGallon);
    const auto p = plan::makePlan(*loaded.aircraft, *loaded.sortie);
    bool dry = false;
    for (const auto& c : p.flown.tankChanges)
        dry = dry || c.ranDry;
    EXPECT_TRUE(dry);
}

TEST(Fields, AHigherFieldLowersWhatTheGaugeShowsAtRest) {
    auto loaded = test::loadDemo("lorimer-spring");
    const auto low = flight::fly(*loaded.aircraft, *loaded.sortie);
    loaded.sortie->day.elevation = Length::of(5380, units::foot);
    const auto high = flight::fly(*loaded.aircraft, *loaded.sortie);
    EXPECT_NEAR((low.fieldBoost - high.fieldBoost).in(units::inHg), 5.1, 0.5);
    EXPECT_NEAR(high.samples.front()[Gauge::boost], high.fieldBoost.si(), 1.0);
}

/// A charge that waits for a propeller lever drains: whatever else is set before the engine turns is set before it is
/// primed.
TEST(Fleet, IsPrimedAfterPropellerShutterAndFuelAreSet) {
    int primed = 0;
    for (const auto& name : test::demoNames()) {
        const auto plan = plan::makePlan(*test::loaded(name).aircraft, *test::loaded(name).sortie);
        const auto& set = plan[Phase::start].set;
        const auto at = [&](std::initializer_list<const char*> words) {
            long last = -1;
            for (std::size_t i = 0; i < set.size(); ++i)
                for (const char* word : words)
                    if (set[i].what.starts_with(word))
                        last = static_cast<long>(i);
            return last;
        };
        long prime = -1;
        for (std::size_t i = 0; i < set.size(); ++i)
            if (set[i].what == "Prime" || set[i].what == "Pull through")
                prime = static_cast<long>(i);
        if (prime < 0)
            continue;
        ++primed;
        if (set[static_cast<std::size_t>(prime)].value.find("as it turns") == std::string::npos) {
            // The last time that it is set before it turns; what follows the start is another act.
            const auto before = [&](const char* word) {
                long last = -1;
                for (long i = 0; i < at({"Ignition", "Magnetos"}); ++i)
                    if (set[static_cast<std::size_t>(i)].what.starts_with(word))
                        last = i;
                return last;
            };
            for (const char* word : {"Propeller", "Radiator", "Fuel", "Spark", "Mixture", "Cowl", "Carb."})
                EXPECT_LT(before(word), prime) << name << " " << word;
        }
        const long turned = at({"Ignition", "Magnetos", "Cartridge", "Starter", "Mesh", "Starting air"});
        ASSERT_GE(turned, 0) << name;
        EXPECT_GT(turned, prime) << name << ": and then it is turned";
    }
    EXPECT_GE(primed, 9);
}
} // namespace
