// SPDX-License-Identifier: GPL-3.0-or-later
// Every flown sortie obeys mechanics and bookkeeping: what its own samples tell of power, speed, weight and fuel is
// reckoned again by hand, on every type.
#include "advice/climb_bands.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "flight/flown.h"
#include "loading/load_sheet.h"
#include "test_data.h"
#include <cmath>
#include <gtest/gtest.h>

namespace amber {
namespace {
using namespace flight;
using test::loaded;

constexpr double g = 9.80665;

class FlownBy : public testing::TestWithParam<std::string> {
protected:
    FlownBy()
        : aircraft(*loaded(GetParam()).aircraft), sortie(*loaded(GetParam()).sortie), f(fly(aircraft, sortie)),
          engines(static_cast<double>(aircraft.notes.engineCount())) {}
    [[nodiscard]] air::Ambient airAt(const Sample& s) const {
        return sortie.day.at(sortie.day.pressureAltitudeOf(Length::si(s[Gauge::height])));
    }
    [[nodiscard]] double trueSpeed(const Sample& s) const {
        return air::trueAirspeed(Speed::si(s[Gauge::airspeed]), airAt(s).pressure, airAt(s).temperature).si();
    }
    /// m/s up, from the sample's own power, speed and weight: (0.8 P − D V)/W, D = q f + k W²/q.
    [[nodiscard]] double rateOf(const Sample& s) const {
        const double v = trueSpeed(s), rho = air::density(airAt(s).pressure, airAt(s).temperature),
                     q = 0.5 * rho * v * v;
        const double w = s[Gauge::weight] * g, d = q * aircraft.drag.area + aircraft.drag.induced * w * w / q;
        return (0.8 * engines * s[Gauge::power] - d * v) / w;
    }
    /// Pairs of samples one after the other in a phase, the levers standing.
    template <class Do>
    void pairs(Phase phase, Do&& act) const {
        for (std::size_t i = f[phase].firstSample + 1; i <= f[phase].lastSample; ++i) {
            const Sample &a = f.samples[i - 1], &b = f.samples[i];
            if (b.time - a.time > 1.0 && a.phase == phase && a.gear == b.gear)
                act(a, b);
        }
    }
    const powerplant::Aircraft& aircraft;
    const Sortie& sortie;
    const Flown f;
    const double engines;
};

TEST_P(FlownBy, TheClimbIsWhatPowerLeavesOverDrag) {
    std::size_t seen = 0;
    double off = 0, all = 0;
    pairs(Phase::climb, [&](const Sample& a, const Sample& b) {
        if (std::abs(a[Gauge::power] / b[Gauge::power] - 1) > 0.05)
            return; // the boost fell, or a gear was changed
        // What speed it gave away, or gained, in the same air, is height too.
        const double vb = trueSpeed(b),
                     was =
                         air::trueAirspeed(Speed::si(a[Gauge::airspeed]), airAt(b).pressure, airAt(b).temperature).si();
        const double gained = (b[Gauge::height] - a[Gauge::height]) + (vb * vb - was * was) / (2 * g),
                     dt = b.time - a.time;
        off += std::abs(gained - 0.5 * (rateOf(a) + rateOf(b)) * dt);
        all += gained;
        ++seen;
    });
    ASSERT_GT(seen, 3u);
    EXPECT_LT(off / all, 0.06) << "of all the height";
}

TEST_P(FlownBy, LevelThrustIsDrag) {
    const auto& c = f[Phase::cruise];
    if (!f.reachedHeight || c.duration < 120)
        return;
    const Sample& s = f.samples[(c.firstSample + c.lastSample) / 2];
    const double power = 0.8 * engines * s[Gauge::power] / (s[Gauge::weight] * g);
    EXPECT_NEAR(rateOf(s) / power, 0.0, 0.02) << "of its climb at no drag, at the weight of the moment";
    EXPECT_NEAR(rateOf(f.samples[c.firstSample + 1]) / power, 0.0, 0.012);
    EXPECT_GE(trueSpeed(s), 0.998 * f.cruiseTas.si()) << "lighter it is no slower";
    EXPECT_LT(trueSpeed(s), 1.04 * f.cruiseTas.si());
}

TEST_P(FlownBy, TheLetDownGivesHeightForWhatPowerLacks) {
    double off = 0, all = 0;
    pairs(Phase::letDown, [&](const Sample& a, const Sample& b) {
        if (std::abs(a[Gauge::power] - b[Gauge::power]) > 0.1 * std::max(a[Gauge::power], b[Gauge::power]) ||
            a[Gauge::airspeed] != b[Gauge::airspeed])
            return;
        const double down = a[Gauge::height] - b[Gauge::height];
        off += std::abs(down + 0.5 * (rateOf(a) + rateOf(b)) * (b.time - a.time));
        all += down;
    });
    ASSERT_GT(all, 100);
    EXPECT_LT(off / all, 0.06);
    EXPECT_NEAR(f.samples[f[Phase::letDown].lastSample][Gauge::height], sortie.flight.toElevation.si() + 300, 2.0)
        << "down to the circuit, a thousand feet up";
}

TEST_P(FlownBy, ItsRateOfDescentIsTheNotesUnlessTheHeadsAskForMorePower) {
    const double asked = aircraft.notes.phase(Phase::letDown).rate->si();
    double time = 0;
    pairs(Phase::letDown, [&](const Sample& a, const Sample& b) {
        const double rate = (a[Gauge::height] - b[Gauge::height]) / (b.time - a.time);
        EXPECT_GT(rate, 0.19 * asked);
        // Never faster than the notes', but for the twentieth that is no new setting, and where an open throttle in hot
        // air and low gear is all there is.
        EXPECT_LT(rate, 1.16 * asked);
        time += b.time - a.time;
    });
    EXPECT_GT(time, 60);
}

TEST_P(FlownBy, FuelIsTheFlowOfEveryEngineOverTime) {
    if (!f.dropped.empty())
        return; // what was left in a drop tank went with it
    for (const Phase phase :
         {Phase::warmUp, Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown, Phase::landing}) {
        double sum = 0;
        for (std::size_t i = f[phase].firstSample + 1; i <= f[phase].lastSample; ++i)
            sum += 0.5 * (f.samples[i - 1][Gauge::fuelFlow] + f.samples[i][Gauge::fuelFlow]) *
                   (f.samples[i].time - f.samples[i - 1].time);
        EXPECT_NEAR(sum * engines / f[phase].fuel, 1.0, phase == Phase::takeOff ? 0.12 : 0.05) << titleOf(phase);
        EXPECT_NEAR(f.samples[f[phase].firstSample][Gauge::fuel] - f.samples[f[phase].lastSample][Gauge::fuel],
                    f[phase].fuel, 1e-9)
            << titleOf(phase);
    }
    EXPECT_NEAR(f.cruiseFuelFlow, engines * f.samples[f[Phase::cruise].firstSample + 1][Gauge::fuelFlow],
                0.01 * f.cruiseFuelFlow);
    EXPECT_NEAR(f.reserveFuel / f.cruiseFuelFlow, reserveTime(aircraft.notes, sortie), 1e-6);
}

TEST_P(FlownBy, WhatIsBurntIsOffTheWeightAndEightGramsOfOilAKilogram) {
    if (!f.dropped.empty())
        return;
    for (const Sample& s : f.samples)
        ASSERT_NEAR(s[Gauge::weight], f.rampWeight - (f.fuelAtStart - s[Gauge::fuel]) * f.fuelDensity, 0.01);
    const Sample &off = f.samples[f[Phase::takeOff].firstSample], &down = f.samples[f[Phase::landing].lastSample];
    const double oil = (off[Gauge::oilContents] - down[Gauge::oilContents]) * 880,
                 fuel = (off[Gauge::fuel] - down[Gauge::fuel]) * f.fuelDensity / engines;
    EXPECT_NEAR(oil / fuel, 0.008, 0.0004);
}

TEST_P(FlownBy, DistancesAddUpToTheFlight) {
    const double flown = f[Phase::climb].distance + f[Phase::cruise].distance + f[Phase::letDown].distance;
    const double before = f[Phase::takeOff].distance;
    if (f[Phase::cruise].duration > 1) {
        EXPECT_NEAR((flown + before) / sortie.flight.distance.si(), 1.0, 0.01);
        if (!f.knowsWind())
            // The speed at its beginning, and what is gained as fuel is burnt.
            EXPECT_NEAR(f[Phase::cruise].distance / f[Phase::cruise].duration, 1.02 * f.cruiseTas.si(),
                        0.025 * f.cruiseTas.si());
    }
    double along = 0;
    pairs(Phase::climb,
          [&](const Sample& a, const Sample& b) { along += 0.5 * (trueSpeed(a) + trueSpeed(b)) * (b.time - a.time); });
    if (!f.knowsWind())
        EXPECT_NEAR(f[Phase::climb].distance / along, 1.0, 0.06)
            << "level speed of the way up; a gear change is left out";
}

TEST_P(FlownBy, PhasesLastAsTheNotesSay) {
    const auto& n = aircraft.notes;
    EXPECT_NEAR(f[Phase::takeOff].duration, n.phase(Phase::takeOff).duration.value_or(Duration::si(60)).si(), 0.01);
    EXPECT_NEAR(f[Phase::landing].duration, n.phase(Phase::landing).duration.value_or(Duration::si(300)).si(), 0.01);
    EXPECT_NEAR(f.samples[f[Phase::landing].lastSample][Gauge::height], sortie.flight.toElevation.si(), 0.01);
    EXPECT_NEAR(f[Phase::walkRound].duration, n.phase(Phase::walkRound).duration.value_or(Duration::si(900)).si(),
                0.01);
    // Ice is looked for wherever the engine runs, if fuel evaporates at its throttle.
    for (const Phase phase :
         {Phase::warmUp, Phase::runUp, Phase::takeOff, Phase::climb, Phase::cruise, Phase::letDown, Phase::landing})
        EXPECT_EQ(std::any_of(f.ice.begin(), f.ice.end(), [&](const auto& i) { return i.phase == phase; }),
                  n.engine.suctionCarburettor)
            << titleOf(phase);
    for (std::size_t i = 1; i < f.samples.size(); ++i)
        EXPECT_GE(f.samples[i].time, f.samples[i - 1].time);
    for (const auto& change : f.gearChanges) {
        const auto& after = sampleAt(f.samples, change.time + 30);
        EXPECT_EQ(after.gear, change.to) << "half a minute after the change";
    }
    EXPECT_EQ(f.samples[f[Phase::takeOff].firstSample].gear, f[Phase::takeOff].setting.gear);
    // Take-off uses its rating for as long as it lasts, and ends 150 m up at least.
    if (const auto* clock = f.ratings.of(ratingFor(n, sortie, Phase::takeOff).key))
        EXPECT_GE(clock->used().si(), f[Phase::takeOff].duration - 0.01);
    const double up = f.samples[f[Phase::takeOff].lastSample][Gauge::height] - sortie.day.elevation.si();
    EXPECT_GE(up, std::min(149.0, sortie.flight.cruiseHeight.si() - sortie.day.elevation.si()));
    const Sample& airborne = f.samples[f[Phase::takeOff].lastSample];
    // The roll, at half the lift-off speed: m V²/2 from the thrust there, a tenth of it lost to drag and wheels.
    const auto& onGround = f.samples[f[Phase::takeOff].firstSample];
    const double roll = f.samples[f[Phase::takeOff].firstSample + 1].time - onGround.time;
    const double weight = loading::rampWeight(n, sortie).si(),
                 v = speedFor(n, "lift-off", Mass::si(weight))->speed.si();
    const double thrust = 0.8 * onGround[Gauge::power] * static_cast<double>(n.engineCount()) / (0.5 * v);
    EXPECT_GT(roll, 0.9 * weight * v / thrust) << "no faster than the thrust at half the speed";
    EXPECT_LT(roll, 4.0 * weight * v / thrust) << "a standing propeller gives less than that";
    const double seconds = f[Phase::takeOff].duration - roll;
    EXPECT_NEAR(up, std::max(150.0, 0.6 * rateOf(airborne) * seconds), 0.15 * up)
        << "six tenths of its climb once it has left the ground";
}

TEST_P(FlownBy, BrakeMeanEffectivePressureIsPowerOverTheVolumeSweptASecond) {
    for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise}) {
        const Sample& s = f.samples[f[phase].lastSample];
        EXPECT_NEAR(s[Gauge::torque] * aircraft.model().displacement * s[Gauge::rpm] / 2 / s[Gauge::power], 1.0, 1e-6)
            << titleOf(phase);
    }
}

TEST_P(FlownBy, NoSettingPassesItsRatingOrAnotherLimit) {
    for (const Phase phase : {Phase::takeOff, Phase::climb}) {
        const Rating& r = ratingFor(aircraft.notes, sortie, phase);
        for (std::size_t i = f[phase].firstSample; i <= f[phase].lastSample; ++i) {
            const Sample& s = f.samples[i];
            EXPECT_LE(s[Gauge::rpm], r.rpm.si() * 1.001);
            if (r.boost) {
                double most = r.boost->si();
                for (const auto& gear : aircraft.notes.engine.gears)
                    if (const auto own = r.boostIn(gear.name))
                        most = std::max(most, own->si());
                EXPECT_LE(s[Gauge::boost], most * 1.001) << titleOf(phase);
            }
        }
    }
}

std::vector<std::string> allDemos() {
    auto names = test::demoNames();
    names.push_back("wheelwright-windy");
    return names;
}
INSTANTIATE_TEST_SUITE_P(Demos, FlownBy, testing::ValuesIn(allDemos()), [](const auto& given) {
    std::string name = given.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});

TEST(ClimbFigures, BandsEndAtTheTopAndAddUpToTheClimb) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
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

TEST(ClimbFigures, BandsAreEveryRoundStepOfTheHeightAndTheSmallestThatNeedsNoMoreThanNine) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto bands = advice::climbBands(*l.aircraft, *l.sortie, f);
        ASSERT_GT(bands.size(), 1u) << name;
        const double unit = l.aircraft->notes.cockpit.height->scale;
        const double first = f.samples[f[Phase::climb].firstSample][Gauge::height] / unit,
                     top = f.samples[f[Phase::climb].lastSample][Gauge::height] / unit;
        double step = 0.0;
        for (const double round : {500.0, 1000.0, 2000.0, 2500.0, 5000.0})
            if (step == 0.0 && (top - first) / round <= 9.0)
                step = round;
        // The first that lies a quarter of a step above the beginning, then each, to a twentieth under the top.
        double next = step * std::ceil(first / step + 0.25);
        for (std::size_t i = 0; i + 1 < bands.size(); ++i, next += step)
            EXPECT_NEAR(bands[i].height.si() / unit, next, 1e-6 * next) << name << " " << i;
        EXPECT_GE(next, top - 0.05 * step - 1e-6) << name << ": one is missing";
    }
}

TEST(ClimbFigures, ABandIsReadWhereTheLinePassesItsHeight) {
    const auto& l = test::loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto& climb = f[Phase::climb];
    const auto bands = advice::climbBands(*l.aircraft, *l.sortie, f);
    std::size_t looked = 0;
    for (const auto& b : bands)
        for (std::size_t i = climb.firstSample + 1; i <= climb.lastSample; ++i) {
            const auto &m = f.samples[i - 1], &n = f.samples[i];
            if (m[Gauge::height] < b.height.si() && n[Gauge::height] >= b.height.si()) {
                const double t = (b.height.si() - m[Gauge::height]) / (n[Gauge::height] - m[Gauge::height]);
                EXPECT_NEAR(b.time, m.time + t * (n.time - m.time) - climb.start, 0.01);
                EXPECT_NEAR(b.headOrCoolant.si(), m.headOrCoolant() + t * (n.headOrCoolant() - m.headOrCoolant()),
                            0.05);
                ++looked;
                break;
            }
        }
    EXPECT_EQ(looked, bands.size());
    // Its way is the true speed over the time.
    for (std::size_t i = 1; i < bands.size(); ++i) {
        const auto high = l.sortie->day.at(
            l.sortie->day.pressureAltitudeOf(Length::si(0.5 * (bands[i].height.si() + bands[i - 1].height.si()))));
        const double tas = air::trueAirspeed(Speed::si(0.5 * (bands[i].ias.si() + bands[i - 1].ias.si())),
                                             high.pressure, high.temperature)
                               .si();
        const double dt = bands[i].time - bands[i - 1].time, up = bands[i].height.si() - bands[i - 1].height.si();
        EXPECT_NEAR(bands[i].distance - bands[i - 1].distance, std::sqrt(tas * dt * tas * dt - up * up),
                    0.02 * tas * dt);
    }
}

} // namespace
} // namespace amber
