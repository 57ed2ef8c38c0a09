// SPDX-License-Identifier: GPL-3.0-or-later
// Not only which way a figure moves but how far: hand reckonings and published forms with their numbers.
#include "advice/cool_down.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/carburettor_ice.h"
#include "engine/fuel_grade.h"
#include "engine/knock.h"
#include "engine/power_chart.h"
#include "plan/plan.h"
#include "powerplant/engine.h"
#include "reading/notes_reader.h"
#include "start/priming.h"
#include "test_data.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/rating_clock.h"
#include <cmath>
#include <functional>

namespace {
using namespace amber;

struct Flight {
    const powerplant::Aircraft& aircraft;
    Sortie sortie;
    flight::Flown flown;
};
Flight fly(
    const std::string& name, const std::function<void(Sortie&)>& change = [](Sortie&) {}) {
    const auto& demo = test::loaded(name);
    Sortie s = *demo.sortie;
    change(s);
    EXPECT_TRUE(checkSortie(s, demo.aircraft->notes, "").empty());
    return {*demo.aircraft, s, flight::fly(*demo.aircraft, s)};
}
bool remarked(const flight::Flown& f, const std::string& piece) {
    return std::any_of(f.findings.begin(), f.findings.end(),
                       [&](const watch::Finding& r) { return r.verdict.sentence().find(piece) != std::string::npos; });
}
engine::OperatingPoint pointAt(const Flight& f, const flight::Sample& m, Mixture mixture, double hotAir = 0.0) {
    engine::Demand d{Rotation::si(m[Gauge::rpm]),
                     ManifoldPressure::si(m[Gauge::boost]),
                     m.gear,
                     f.sortie.day.at(f.sortie.day.pressureAltitudeOf(Length::si(m[Gauge::height]))),
                     Speed::si(m[Gauge::airspeed]),
                     mixture};
    d.carburettorHeat = hotAir * powerplant::hotAirRise(f.aircraft.notes);
    return engine::operate(f.aircraft.model(), d);
}

/// A battery at nine tenths shows 95 + 0.9 · 10 % of its volts; what the starters took is missing from that until the
/// generators have put it back, and then they hold 1.19 of it.
TEST(Magnitude, TheStartDrawsTheBatteryDownAndTheGeneratorsHoldTheVolts) {
    const auto cart = fly("lorimer-spring"),
               ship = fly("lorimer-spring", [](Sortie&s) { s.start.supply = start::Supply::battery; });
    const double nominal = cart.aircraft.notes.start.battery.volts, left = ship.flown.start.batteryLeft;
    ASSERT_LT(left, 0.98);
    const auto volts = [](const Flight& f, std::size_t i) { return f.flown.samples[i][Gauge::volts]; };
    const std::size_t afterCart = cart.flown[Phase::warmUp].firstSample + 1,
                      afterShip = ship.flown[Phase::warmUp].firstSample + 1;
    EXPECT_NEAR(volts(cart, afterCart) - volts(ship, afterShip), 0.10 * nominal * 0.9 * (1.0 - left), 0.02 * nominal);
    EXPECT_LT(volts(ship, afterShip), volts(cart, afterCart));
    EXPECT_NEAR(volts(ship, ship.flown[Phase::cruise].lastSample), 1.19 * nominal, 0.01 * nominal);
    EXPECT_FALSE(ship.flown.samples[ship.flown[Phase::walkRound].lastSample].has(Gauge::volts)) << "switched off";
}

/// Fuel of a phase is what every engine burns at the figures shown, by the trapezium rule over its moments.
TEST(Magnitude, FuelIsBurntByEveryEngineInEveryPhaseOfTheFlight) {
    for (const char* name : {"lorimer-spring", "mercer-frost", "ostler-bush", "farrier-summer"}) {
        const auto f = fly(name);
        const double engines = static_cast<double>(f.aircraft.notes.positions.size());
        for (const Phase phase : {Phase::climb, Phase::cruise, Phase::letDown}) {
            const auto& p = f.flown[phase];
            double volume = 0.0;
            for (std::size_t i = p.firstSample + 1; i <= p.lastSample; ++i) {
                const auto &a = f.flown.samples[i - 1], &b = f.flown.samples[i];
                volume += 0.5 * (b.time - a.time) *
                          (pointAt(f, a, p.setting.mixture, p.setting.hotAir).fuelFlow.si() +
                           pointAt(f, b, p.setting.mixture, p.setting.hotAir).fuelFlow.si());
            }
            volume *= engines / f.flown.fuelDensity;
            EXPECT_NEAR(p.fuel / volume, 1.0, 0.02) << name << " " << titleOf(phase);
            EXPECT_NEAR(f.flown.samples[p.firstSample][Gauge::fuel] - f.flown.samples[p.lastSample][Gauge::fuel],
                        p.fuel, 1e-3 * p.fuel)
                << "and the tanks hold so much less";
        }
    }
}

TEST(Magnitude, TheReserveIsMissedFromTheMinuteItIsShort) {
    // Fuel for the flight and just more, or just less, than the reserve: minutes of cruise by the notes.
    const auto full = fly("farrier-summer");
    const double used = full.flown.fuelAtStart - full.flown.fuelAtEnd;
    const double reserve = full.aircraft.notes.fuel.reserve.si() * full.flown.cruiseFuelFlow;
    bool short_ = false, enough = false;
    for (const double share : {0.5, 0.8, 0.9, 1.0, 1.1, 1.2, 1.5}) {
        double wanted = used + share * reserve;
        const auto f = fly("farrier-summer", [&](Sortie& s) {
            s.walk.found.clear(); // dips would go before what is loaded
            for (const auto& tank : full.aircraft.notes.fuel.tanks) {
                s.contents[tank.id] = Volume::si(std::min(wanted, tank.usable.si()));
                wanted -= s.contents[tank.id].si();
            }
        });
        const bool missed = f.flown.fuelAtEnd < f.aircraft.notes.fuel.reserve.si() * f.flown.cruiseFuelFlow;
        EXPECT_NEAR(f.flown.fuelAtEnd / reserve, share, 0.15) << "what is left is what was loaded less what is burnt";
        EXPECT_EQ(remarked(f.flown, "less than the reserve"), missed) << share;
        (missed ? short_ : enough) = true;
    }
    EXPECT_TRUE(short_ && enough) << "both must have been seen";
}

TEST(Magnitude, BoostPastTheKnockBoundaryIsSaid) {
    const auto f = fly("lorimer-spring", [](Sortie& s) {
        s.flight.cruiseRpm = Rotation::of(1900, units::rpm);
        s.flight.cruiseBoost = ManifoldPressure::of(44, units::manifold::inHg);
        s.fuelGrade = "91";
        s.flight.cruiseMixture = Mixture::weak;
        s.flight.cruiseHeight = Length::of(2000, units::foot);
    });
    const auto& p = f.flown[Phase::cruise];
    ASSERT_TRUE(p.knock && p.knock->overFrom);
    ASSERT_LT(p.knock->margin(), -300);
    EXPECT_TRUE(remarked(f.flown, "detonation limit"));
    EXPECT_FALSE(remarked(fly("lorimer-spring").flown, "detonation limit"));
}

/// Decision 0009: the rating that lies nearest is 5 % inside on its own grade and the standard day.
TEST(Magnitude, TheNearestRatingLiesFivePercentInsideTheBoundary) {
    for (const char* name :
         {"lorimer-spring", "farrier-summer", "thatcher-lesson", "tanner-winter", "wheelwright-height"}) {
        const auto& a = *test::loaded(name).aircraft;
        std::string grade;
        for (const auto& r : a.notes.ratings)
            if (!r.grade.empty() && (grade.empty() || *engine::gradeNumber(r.grade) > *engine::gradeNumber(grade)))
                grade = r.grade;
        const engine::KnockBoundary knock(a.notes, a.model(), grade.empty() ? a.notes.fuel.grades.front() : grade);
        double least = 1e9;
        for (const auto& r : a.notes.ratings)
            for (const auto& l : r.lines)
                for (const Length h : {l.power ? l.at : l.holdsTo.value_or(l.at), l.holdsTo.value_or(l.at)}) {
                    engine::Demand d{
                        r.rpm,   r.boostOf(l), a.notes.gearIndex(l.gear).value_or(0), air::standardDay(Length{}).at(h),
                        Speed{}, r.mixture};
                    const auto p = engine::operate(a.model(), d);
                    least = std::min(least,
                                     knock.permitted(d).si() / std::min(r.boostOf(l)->si(), p.manifoldPressure.si()));
                }
        EXPECT_NEAR(least, 1.05, 0.004) << name;
    }
}

TEST(Magnitude, TheClimbingSpeedFallsWithHeightByTheNotes) {
    const auto f = fly("lorimer-spring");
    const auto& p = f.flown[Phase::climb];
    const auto &low = f.flown.samples[p.firstSample], &high = f.flown.samples[p.lastSample];
    const double loss = f.aircraft.notes.speeds.climbLossPerKm.si(),
                 rise = (high[Gauge::height] - low[Gauge::height]) / 1000;
    ASSERT_GT(loss, 0.1);
    // The weight falls by the climb's fuel, 48 US gal or some 290 lb: under half a knot.
    EXPECT_NEAR(low[Gauge::airspeed] - high[Gauge::airspeed], loss * rise, 0.4);
    EXPECT_GT(low[Gauge::airspeed], high[Gauge::airspeed]);
}

TEST(Magnitude, ARatingIsAmberFromFourFifthsOfItsTime) {
    const auto* rating = test::loaded("lorimer-spring").aircraft->notes.rating("take-off");
    ASSERT_NEAR(rating->minutes->si(), 300, 1e-9);
    const auto colour = [&](double seconds) {
        watch::RatingClock clock(*rating);
        clock.add(Duration::si(seconds));
        return clock.verdict().colour();
    };
    EXPECT_EQ(colour(239), watch::Colour::normal);
    EXPECT_EQ(colour(241), watch::Colour::amber);
    EXPECT_EQ(colour(300), watch::Colour::amber);
    EXPECT_EQ(colour(301), watch::Colour::red);
}

TEST(Magnitude, RatingMinutesAddUpAndTheClimbStepsDownWhenTheyAreUsed) {
    // The Tinker takes off and climbs at the same five minutes.
    const auto f = fly("tinker-damp", [](Sortie& s) { s.flight.cruiseHeight = Length::of(7000, units::foot); });
    const Rating& rating = flight::ratingFor(f.aircraft.notes, f.sortie, Phase::takeOff);
    ASSERT_EQ(&rating, &flight::ratingFor(f.aircraft.notes, f.sortie, Phase::climb));
    ASSERT_NEAR(rating.minutes->si(), 300, 1e-9);
    const auto& clock = *f.flown.ratings.of(rating.key);
    EXPECT_NEAR(clock.used().si(), 300, 1.0) << "all of it and no more";
    EXPECT_EQ(clock.verdict().colour(), watch::Colour::amber);
    ASSERT_EQ(f.flown.ratingChanges.size(), 1u);
    const auto& change = f.flown.ratingChanges.front();
    EXPECT_NEAR(change.time - f.flown[Phase::takeOff].start, 300, 1.0);
    EXPECT_NE(change.to, rating.name);
    EXPECT_TRUE(remarked(f.flown, "5:00 of " + rating.name + " are used"));
    // A short climb leaves some: take-off's minute and a half and the climb's.
    const auto low = fly("tinker-damp", [](Sortie& s) { s.flight.cruiseHeight = Length::of(1200, units::foot); });
    EXPECT_NEAR(low.flown.ratings.of(rating.key)->used().si(),
                low.flown[Phase::takeOff].duration + low.flown[Phase::climb].duration, 1e-6);
    EXPECT_TRUE(low.flown.ratingChanges.empty());
}

TEST(Magnitude, AClimbWhoseMinutesAreUsedSaysThatNothingWeakerIsLeft) {
    // The Tinker with no rating under its five minutes: it goes on, past them, and says so where they end.
    const auto& demo = test::loaded("tinker-damp");
    Sortie s = *demo.sortie;
    s.flight.cruiseHeight = Length::of(7000, units::foot);
    powerplant::Aircraft a = *demo.aircraft;
    const std::string key = flight::ratingFor(a.notes, s, Phase::climb).key;
    const Rotation rpm = a.notes.rating(key)->rpm;
    for (auto& r : a.notes.ratings)
        if (r.key != key)
            r.rpm = Rotation::si(1.01 * rpm.si());
    const auto flown = flight::fly(a, s);
    EXPECT_TRUE(flown.ratingChanges.empty());
    EXPECT_TRUE(remarked(flown, "no weaker rating to climb on at"));
    EXPECT_GT(flown.ratings.of(key)->used().si(), 301);
    EXPECT_EQ(flown.ratings.of(key)->verdict().colour(), watch::Colour::red);
    const auto said = std::find_if(flown.findings.begin(), flown.findings.end(), [](const watch::Finding& f) {
        return f.rule == watch::Rule::ratingNoneLeft && f.phase == Phase::climb;
    });
    ASSERT_NE(said, flown.findings.end());
    EXPECT_NEAR(said->begin - flown[Phase::takeOff].start, 300, 1.5) << "where the minutes end";
}

TEST(Magnitude, AChosenCruiseUsesTheMinutesOfTheRatingThatCoversIt) {
    // Within a rating without limit nothing runs out.
    const auto farrier = [](int rpm, double pounds) {
        return fly("farrier-summer", [&](Sortie& s) {
            s.flight.cruiseRpm = Rotation::of(rpm, units::rpm);
            s.flight.cruiseBoost = ManifoldPressure::si(standardPressure + pounds * 6894.757);
            s.flight.cruiseMixture = Mixture::rich;
            s.flight.distance = Distance::of(200, units::nauticalMile);
        });
    };
    const auto easy = farrier(2000, 2);
    EXPECT_TRUE(easy.flown.ratingChanges.empty());
    EXPECT_FALSE(easy.aircraft.notes.rating(easy.flown[Phase::cruise].rating)->minutes);
    // At the climb's rpm and boost its half hour goes on from what the climb left, and then the cruise steps down.
    const auto hard = farrier(2700, 8);
    const Rating& climb = flight::ratingFor(hard.aircraft.notes, hard.sortie, Phase::climb);
    ASSERT_NEAR(climb.minutes->si(), 1800, 1e-9);
    ASSERT_EQ(hard.flown[Phase::cruise].rating, climb.key);
    ASSERT_EQ(hard.flown.ratingChanges.size(), 1u);
    const auto& change = hard.flown.ratingChanges.front();
    EXPECT_EQ(change.phase, Phase::cruise);
    EXPECT_NEAR(change.time - hard.flown[Phase::climb].start, 1800, 1.0);
    EXPECT_NEAR(hard.flown.ratings.of(climb.key)->used().si(), 1800, 1.0);
    EXPECT_TRUE(remarked(hard.flown, "are used after"));
    // The slower end takes longer than at the setting all the way, and the distance is flown all the same.
    EXPECT_NEAR(hard.flown[Phase::cruise].distance, easy.flown[Phase::cruise].distance,
                0.03 * easy.flown[Phase::cruise].distance);
    EXPECT_GT(hard.flown[Phase::cruise].duration,
              1.02 * hard.flown[Phase::cruise].distance / hard.flown.cruiseTas.si());
}

TEST(Magnitude, AboveFullThrottleTheRulerMissesWhatTheBlowerLosesInHotAir) {
    // Twenty degrees over standard at 9,000 ft: pressure ratio of a blower with T02/T01 = 1 + w/T falls by some
    // (γ/(γ-1)) (1 - 1/(1 + w/T)) 20/270 of itself; for a rise of 60 K that is 3.5 × 0.18 × 0.074 = 4.7 %.
    const auto& a = *test::loaded("lorimer-spring").aircraft;
    const auto at = [&](double feet, double warmer) {
        const Length height = Length::of(feet, units::foot);
        return *engine::construct(a.model(), Rotation::of(2550, units::rpm),
                                  ManifoldPressure::of(41.5, units::manifold::inHg), 0, height,
                                  Temperature::si(air::standardTemperature(height).si() + warmer));
    };
    ASSERT_TRUE(at(9000, 20).beyond);
    EXPECT_NEAR(at(9000, 20).overModel(), 0.047, 0.012);
    EXPECT_NEAR(at(9000, -15).overModel(), -0.037, 0.012);
    EXPECT_NEAR(at(9000, 0).overModel(), 0.0, 0.002);
    ASSERT_FALSE(at(3000, 20).beyond);
    EXPECT_NEAR(at(3000, 20).overModel(), 0.0, 0.005) << "boost is held: √T is the whole of it";
}

TEST(Magnitude, BlanksLetThroughAFifteenthOfAHundred) {
    const auto f = fly("tanner-winter", [](Sortie& s) { s.start.blanks = true; });
    bool any = false;
    for (const auto& stretch : f.flown.stretches)
        if (stretch.drive.running && stretch.time < f.flown[Phase::takeOff].start - 1) {
            EXPECT_NEAR(stretch.drive.oilCooler, 0.15, 1e-9);
            any = true;
        }
    EXPECT_TRUE(any);
}

TEST(Magnitude, TheDewPointFallsByOnePointEightDegreesAKilometre) {
    air::Day day = air::standardDay(Length::si(100));
    day.dewPoint = Temperature::of(5, units::celsius);
    EXPECT_NEAR(flight::dewPointAt(day, Length::si(2100), Temperature::of(10, units::celsius)).in(units::celsius), 1.4,
                1e-6);
    EXPECT_NEAR(flight::dewPointAt(day, Length::si(2100), Temperature::of(-3, units::celsius)).in(units::celsius), -3,
                1e-6)
        << "never above the air";
}

TEST(Magnitude, AGearChangeTakesSixSecondsThrottledBack) {
    const auto f = fly("lorimer-spring");
    ASSERT_EQ(f.flown.gearChanges.size(), 1u);
    const auto& change = f.flown.gearChanges.front();
    double begin = -1, end = -1;
    for (const auto& m : f.flown.samples) {
        const bool back = std::abs(m[Gauge::boost] - f.aircraft.notes.gearChange->throttleBackTo.si()) < 50;
        if (m.time >= change.time - 1e-6 && back && begin < 0)
            begin = m.time;
        if (m.time > change.time && m.gear == change.to && end < 0)
            end = m.time;
    }
    EXPECT_NEAR(begin, change.time, 1e-6);
    EXPECT_NEAR(end - begin, 6.0, 1e-6);
}

TEST(Magnitude, TheLetDownEndsInTheCircuitAThousandFeetUp) {
    for (const char* name : {"lorimer-spring", "tanner-winter"}) {
        const auto f = fly(name);
        const double above =
            f.flown.samples[f.flown[Phase::letDown].lastSample][Gauge::height] - f.sortie.flight.toElevation.si();
        EXPECT_NEAR(above, 300.0, 1.0) << name;
    }
}

/// Hot air at the same throttle: thinner charge, and less boost from the same blower. With ΔT at T the same boost alone
/// would cost 1 − √(T/(T + ΔT)) of the power.
TEST(Magnitude, HotAirCostsBoostBesidesItsDensity) {
    const auto& a = *test::loaded("thatcher-lesson").aircraft;
    const engine::KnockBoundary knock(a.notes, a.model(), a.notes.fuel.grades.front());
    engine::Demand d{Rotation::of(1850, units::rpm),
                     ManifoldPressure::of(27, units::manifold::inHg),
                     0,
                     air::standardDay(Length{}).at(Length::si(600)),
                     Speed::si(50),
                     Mixture::rich};
    d.air.temperature = Temperature::of(11, units::celsius);
    const auto ice = engine::carburettorIce(a.notes.engine, a.model(), knock, d, Temperature::of(10, units::celsius));
    ASSERT_NE(ice.risk, engine::IceRisk::none);
    const double rise = std::min(ice.heatNeeded, a.notes.engine.carburettorHeatRise.value_or(1e9));
    ASSERT_GT(rise, 3.0);
    const double density = 1.0 - std::sqrt(284.15 / (284.15 + rise));
    EXPECT_GT(ice.powerCost, 1.25 * density) << "at " << rise << " K";
    EXPECT_LT(ice.powerCost, 4.0 * density);
}

/// Standing, oil and metal fall to the air's temperature as exp(−t/τ): 40 minutes for the metal, an hour for the oil.
TEST(Magnitude, StandingOilLosesAnEthOfItsExcessInAnHour) {
    const auto& a = *test::loaded("lorimer-spring").aircraft;
    heat::Drive standing;
    standing.air = air::standardDay(Length{}).at(Length{});
    const heat::Temperatures hot{Temperature::si(288.15 + 100), Temperature::si(288.15 + 60)};
    const auto after = a.thermal.after(hot, standing, Duration::si(3600));
    EXPECT_NEAR((after.oil.si() - 288.15) / 60, std::exp(-1.0), 0.01);
    EXPECT_NEAR((after.headOrCoolant.si() - 288.15) / 100, std::exp(-1.5), 0.01);
    const auto primed =
        start::engineTemperature({Duration::si(2400), Temperature::si(393.15), {}}, Temperature::si(293.15));
    EXPECT_NEAR(primed.si() - 293.15, 100 * std::exp(-1.0), 0.01) << "and the prime counts on the same metal";
}

TEST(Magnitude, FuelBoilsInTheLinesForAnHourOnAMildDay) {
    const auto& notes = test::loaded("lorimer-spring").aircraft->notes;
    // Heads stopped at 200 °C are still over 60 °C after an hour: 28 + 172 exp(−65/40) = 62 °C after 65 minutes.
    const auto advice = [&](double minutes, double celsius) {
        return advice::restartAfter(notes, minutes * 60, Temperature::of(200, units::celsius),
                                    Temperature::of(celsius, units::celsius), Length{})
            .advice;
    };
    const auto boils = [&](double minutes, double celsius) {
        return advice(minutes, celsius).find("boiled in the lines") != std::string::npos;
    };
    EXPECT_TRUE(boils(15, 28)) << advice(15, 28);
    EXPECT_TRUE(boils(55, 28)) << advice(55, 28);
    EXPECT_FALSE(boils(65, 28)) << advice(65, 28);
    EXPECT_FALSE(boils(30, 10)) << advice(30, 10);
}

/// Walther's law (ASTM D341) through 1,060 mm²/s at 20 °C and 25 at 100 °C, reckoned by hand with log10 log10(ν + 0.7).
TEST(Magnitude, OilThickensAsWaltherSays) {
    EXPECT_NEAR(heat::oilViscosity(Temperature::of(20, units::celsius)), 1060, 1);
    EXPECT_NEAR(heat::oilViscosity(Temperature::of(100, units::celsius)), 25, 0.05);
    EXPECT_NEAR(heat::oilViscosity(Temperature::of(50, units::celsius)), 166.4, 1.0);
    EXPECT_NEAR(heat::oilViscosity(Temperature::of(0, units::celsius)), 6077, 60);
}

/// The cruise's speed is that of level flight at the weight that is left: start less the fuel burnt till then.
TEST(Magnitude, TheCruiseIsFlownAtTheWeightThatIsLeft) {
    for (const char* name : {"lorimer-spring", "mercer-frost"}) {
        const auto f = fly(name);
        const auto& p = f.flown[Phase::cruise];
        const double burnt = f.flown.fuelAtStart - f.flown.samples[p.firstSample][Gauge::fuel];
        const auto air = f.sortie.day.at(f.flown.cruisePressureAltitude);
        const double power = p.point.power.si() * static_cast<double>(f.aircraft.notes.positions.size());
        const auto at = [&](double kilograms) {
            return powerplant::levelSpeed(f.aircraft, power, Mass::si(f.sortie.weight.si() + kilograms), air)->si();
        };
        const double lighter = at(-burnt * f.flown.fuelDensity), heavier = at(burnt * f.flown.fuelDensity);
        ASSERT_GT(lighter - heavier, 0.05) << "the weight must matter";
        EXPECT_NEAR(f.flown.cruiseTas.si(), lighter, 0.25 * (lighter - heavier)) << name;
    }
}

/// Vapour fraction 1/(1 + exp(−(T − 14)/16)): a half at 14 °C, 0.269 at −2, 0.119 at −18; the weakest dose that fires
/// gives 0.050 of vapour fuel to air.
TEST(Magnitude, ThePrimeFiresFromFiveHundredthsOfVapour) {
    EXPECT_NEAR(start::vapourFraction(Temperature::of(14, units::celsius)), 0.5, 1e-6);
    EXPECT_NEAR(start::vapourFraction(Temperature::of(-2, units::celsius)), 1 / (1 + std::exp(1.0)), 1e-6);
    EXPECT_NEAR(start::vapourFraction(Temperature::of(-18, units::celsius)), 1 / (1 + std::exp(2.0)), 1e-6);
    for (const char* name : {"lorimer-spring", "farrier-summer", "tinker-damp"})
        for (const double celsius : {-5.0, 10.0, 25.0}) {
            const start::Priming priming(test::loaded(name).aircraft->notes.start);
            const auto t = Temperature::of(celsius, units::celsius);
            const auto field = Pressure::si(standardPressure);
            const auto advice = priming.advice(t, field);
            if (advice.blades > 0)
                continue;
            EXPECT_NEAR(priming.vapourRatio(advice.fireLow, t, field), 0.050, 0.0005) << name << celsius;
            EXPECT_NEAR(priming.vapourRatio(advice.fireHigh, t, field), 0.140, 0.0014) << name << celsius;
        }
}

TEST(Magnitude, MinutesHaveSixtySeconds) {
    EXPECT_EQ(formatMinutesSeconds(89), "1:29");
    EXPECT_EQ(formatMinutesSeconds(3600), "60:00");
    EXPECT_EQ(formatHoursMinutes(5400), "1:30");
}

TEST(Magnitude, TooLongAtHighPowerOnTheGroundIsAmber) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto at = text.find("high_power_most"), end = text.find('\n', at);
    ASSERT_NE(at, std::string::npos);
    const auto colour = [&](const char* most) {
        auto reading =
            readNotes(text.substr(0, at) + "high_power_most = \"" + most + "\"" + text.substr(end), "t.toml");
        auto aircraft = powerplant::assemble(std::move(*reading.notes), reading.problems);
        const auto made = plan::makePlan(*aircraft, *test::loaded("lorimer-spring").sortie);
        for (const auto& k : made[Phase::runUp].clocks)
            if (k.what == "At high power")
                return k.verdict.colour();
        return watch::Colour::red;
    };
    EXPECT_EQ(colour("600 s"), watch::Colour::normal);
    EXPECT_EQ(colour("5 s"), watch::Colour::amber);
}

} // namespace
