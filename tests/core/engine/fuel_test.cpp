// SPDX-License-Identifier: GPL-3.0-or-later
// Fuel needed, tanks in sequence, wind on the way.
#include "advice/fuel_needed.h"
#include "loading/tank_sequence.h"
#include "plan/plan.h"
#include "test_data.h"
#include <cmath>
#include <random>

namespace amber {
namespace {
using Kind = flight::TankChange::Kind;

std::size_t tankAt(const TypeNotes& n, const std::string& id) {
    for (std::size_t i = 0; i < n.fuel.tanks.size(); ++i)
        if (n.fuel.tanks[i].id == id)
            return i;
    throw std::invalid_argument("no tank " + id);
}
double sum(std::span<const double> tanks) {
    double out = 0.0;
    for (const double t : tanks)
        out += t;
    return out;
}
} // namespace

TEST(FuelNeeded, IsTheBurnOfThePlanAndTheReserveOnEveryType) {
    for (const auto& name : test::demoNames()) {
        const auto& d = test::loaded(name);
        const auto& n = d.aircraft->notes;
        const auto f = flight::fly(*d.aircraft, *d.sortie);
        const auto need = advice::fuelNeeded(*d.aircraft, *d.sortie, f);
        const double burnt = sum(f.contents.at(0)) - sum(f.contents.at(f.samples.size() - 1));
        const auto& m = f.samples[f[Phase::cruise].lastSample - 1];
        const double reserve = n.fuel.reserve.si() * m[Gauge::fuelFlow] * static_cast<double>(n.engineCount());
        EXPECT_NEAR(need.needed / (burnt + reserve), 1.0, f.ratingChanges.empty() ? 0.001 : 0.05) << name;
        double parts = 0.0;
        for (const auto& p : need.parts)
            parts += p.volume;
        EXPECT_NEAR(parts, need.needed, 1e-9) << name;
        EXPECT_NEAR(need.margin, need.aboard - need.needed, 1e-12);
        EXPECT_EQ(need.verdict.colour() == watch::Colour::red, need.margin < 0) << name;
    }
}

TEST(FuelNeeded, TurnedRoundItIsFlownToTheLastOfIt) {
    const auto& d = test::demo("lorimer");
    const auto f = flight::fly(*d.aircraft, *d.sortie);
    const auto need = advice::fuelNeeded(*d.aircraft, *d.sortie, f);
    ASSERT_GT(need.margin, 0.0);
    // Flown as far as that, reserve and nothing else is left: to one part in a hundred of the fuel.
    auto far = *d.sortie;
    far.flight.distance = Distance::si(need.furthest);
    const auto g = flight::fly(*d.aircraft, far);
    EXPECT_NEAR(g.fuelAtEnd / g.reserveFuel, 1.0, 0.04);
    const auto asked = advice::fuelForDistance(*d.aircraft, *d.sortie, Distance::si(need.furthest));
    ASSERT_TRUE(asked);
    EXPECT_NEAR(*asked / need.aboard, 1.0, 0.01);
    EXPECT_FALSE(advice::fuelForDistance(*d.aircraft, *d.sortie, Distance::si(6e6))) << "no tank holds it";
}

TEST(FuelNeeded, AnAlternateIsItsDistanceAtTheBurnOfTheCruise) {
    auto s = *test::demo("lorimer").sortie;
    const auto before = flight::fly(test::lorimer(), s);
    s.flight.alternate = "Tarn Haven";
    s.flight.alternateDistance = Distance::si(100e3);
    const auto f = flight::fly(test::lorimer(), s);
    const auto need = advice::fuelNeeded(test::lorimer(), s, f);
    EXPECT_NEAR(need.alternate, 100e3 / before.cruiseTas.si() * before.cruiseFuelFlow, 1e-6);
    EXPECT_NEAR(need.needed - advice::fuelNeeded(test::lorimer(), *test::demo("lorimer").sortie, before).needed,
                need.alternate, 1e-6);
}

TEST(FuelNeeded, AHeadwindLengthensTheCruiseByTheTriangle) {
    auto s = *test::demo("lorimer").sortie;
    s.flight.track = 60.0;
    const auto still = flight::fly(test::lorimer(), s);
    s.flight.aloft = air::Wind{60, Speed::si(25.0)};
    const auto against = flight::fly(test::lorimer(), s);
    ASSERT_EQ(against.legs.size(), 1u);
    EXPECT_TRUE(against.knowsWind());
    // Of the whole leg, in which she grows faster as she lightens.
    EXPECT_GE(against.legs[0].ground, against.cruiseTas.si() - 25.0 - 0.01);
    EXPECT_LT(against.legs[0].ground, against.cruiseTas.si() - 25.0 + 0.03 * against.cruiseTas.si());
    // Time in the cruise is its distance over the ground by that speed.
    EXPECT_NEAR(against[Phase::cruise].duration, against[Phase::cruise].distance / against.legs[0].ground, 3.0);
    EXPECT_GT(against[Phase::cruise].duration, 1.2 * still[Phase::cruise].duration);
    // In the climb it comes in with the height: half of it in the middle, so the climb reaches less far.
    const double climb = still[Phase::climb].duration;
    EXPECT_NEAR(still[Phase::climb].distance - against[Phase::climb].distance, 0.5 * 25.0 * climb, 0.25 * 25.0 * climb);
    s.flight.aloft->fromDegrees = 240;
    EXPECT_LT(flight::fly(test::lorimer(), s)[Phase::cruise].duration, 0.87 * still[Phase::cruise].duration);
}

TEST(Tanks, NoPlannedSequenceRunsOneDryNorDrainsTheLandingTank) {
    std::mt19937 dice(20240611);
    int flown = 0;
    for (const auto& name : test::demoNames()) {
        const auto& d = test::loaded(name);
        const auto& n = d.aircraft->notes;
        for (int round = 0; round < 6; ++round) {
            Sortie s = *d.sortie;
            s.fuel.order = n.fuel.order;
            std::shuffle(s.fuel.order.begin(), s.fuel.order.end(), dice);
            s.flight.distance = Distance::si(s.flight.distance.si() * std::uniform_real_distribution<>(0.8, 3.0)(dice));
            const auto f = flight::fly(*d.aircraft, s);
            const auto need = advice::fuelNeeded(*d.aircraft, s, f);
            if (need.margin < 0.25 * need.reserve + 0.12 * need.aboard)
                continue; // not enough for a sequence at all
            ++flown;
            for (const auto& c : f.tankChanges)
                EXPECT_FALSE(c.ranDry) << name << " order " << s.fuel.order.front() << " at " << c.time;
            const auto landing = tankAt(n, n.fuel.landingTank);
            for (std::size_t i = f[Phase::cruise].firstSample; i <= f[Phase::cruise].lastSample; ++i)
                ASSERT_GT(f.contents.at(i)[landing], 0.4 * f.reserveFuel) << name;
            // What left the tanks was burnt, phase by phase.
            double burnt = 0.0;
            for (const auto& p : f.phases)
                burnt += p.fuel;
            EXPECT_NEAR(sum(f.contents.at(0)) - sum(f.contents.at(f.samples.size() - 1)), burnt, 1e-9) << name;
        }
    }
    EXPECT_GT(flown, 25);
}

TEST(Tanks, AGaugelessTankIsLeftSoonerAndTheOrderIsThePilots) {
    const auto& d = test::loaded("tanner-winter");
    const auto& n = d.aircraft->notes;
    const loading::TankSequence sequence(n, *d.sortie);
    const auto wing = static_cast<int>(tankAt(n, "wing")), centre = static_cast<int>(tankAt(n, "centre"));
    EXPECT_NEAR(sequence.leaveAt(wing), 0.10 * 0.295, 1e-6) << "only the clock counts it";
    EXPECT_NEAR(sequence.leaveAt(centre), 0.05 * 0.175, 1e-6);
    EXPECT_EQ(sequence.order(), (std::vector<int>{wing, centre}));
    auto s = *d.sortie;
    s.fuel.order = {"centre", "wing"};
    EXPECT_EQ(loading::TankSequence(n, s).order(), (std::vector<int>{centre, wing}));
    // The main tank of the Wheelwright keeps 30 US gal for the reserve cock.
    const auto& w = test::loaded("wheelwright-height");
    EXPECT_NEAR(loading::TankSequence(w.aircraft->notes, *w.sortie)
                    .leaveAt(static_cast<int>(tankAt(w.aircraft->notes, "main"))),
                30 * 3.785411784e-3, 1e-6);
}

TEST(Tanks, ADropTankGoesFirstIsRunDryAndLetGo) {
    auto s = *test::demo("farrier").sortie;
    const auto& n = test::farrier().notes;
    const auto drop = tankAt(n, "drop");
    s.contents["drop"] = Volume::of(60, units::impGallon);
    s.flight.distance = Distance::of(330, units::nauticalMile);
    s.fuel.dropAt = Distance::of(284, units::nauticalMile);
    const double without = loading::rampWeight(n, *test::demo("farrier").sortie).si();
    EXPECT_NEAR(loading::rampWeight(n, s).si() - without,
                78 * 0.45359237 + 59 * 4.54609e-3 * n.fuel.densityAt(s.day.oat), 0.01);
    const auto f = flight::fly(test::farrier(), s);
    std::vector<Kind> kinds;
    double before = 0.0, after = 0.0;
    for (const auto& c : f.tankChanges) {
        kinds.push_back(c.kind);
        if (static_cast<std::size_t>(c.tank) == drop && c.kind == Kind::feed) {
            EXPECT_EQ(c.phase, Phase::climb) << "as soon as it is high enough";
        }
        if (c.from == static_cast<int>(drop) && c.kind == Kind::feed) {
            EXPECT_TRUE(c.wanted);
            EXPECT_FALSE(c.ranDry) << "the notes ask for it";
            EXPECT_LT(c.left, 1e-4);
        }
        if (c.kind == Kind::dropped)
            EXPECT_NEAR(c.distance / 1852, 284, 1.0);
    }
    ASSERT_NE(std::find(kinds.begin(), kinds.end(), Kind::dropped), kinds.end());
    ASSERT_EQ(f.dropped.size(), 1u);
    before = f.samples[f.dropped[0] - 1][Gauge::weight] - f.samples[f.dropped[0] - 1][Gauge::fuel] * f.fuelDensity;
    after = f.samples[f.dropped[0]][Gauge::weight] - f.samples[f.dropped[0]][Gauge::fuel] * f.fuelDensity;
    EXPECT_NEAR(before - after, 78 * 0.45359237, 0.01) << "the tank itself";
}

TEST(Tanks, ATransferTankIsPumpedOverWhenThereIsRoom) {
    auto s = *test::loaded("mercer-frost").sortie;
    const auto& a = *test::loaded("mercer-frost").aircraft;
    const auto ferry = tankAt(a.notes, "ferry"), inner = tankAt(a.notes, "inner");
    s.contents["ferry"] = Volume::of(400, units::usGallon);
    s.fuel.order = {"inner", "outer"};
    s.flight.distance = Distance::of(900, units::nauticalMile);
    const auto f = flight::fly(a, s);
    double begun = -1, ended = -1;
    for (const auto& c : f.tankChanges) {
        if (c.kind == Kind::transferBegins)
            begun = c.time;
        if (c.kind == Kind::transferEnds)
            ended = c.time;
    }
    ASSERT_GT(begun, 0);
    // 395 US gal usable at 900 an hour: 26 min and a bit.
    EXPECT_NEAR(ended - begun, 395.0 / 900 * 3600, 90);
    for (std::size_t i = 0; i < f.samples.size(); ++i) {
        EXPECT_LE(f.contents.at(i)[inner], a.notes.fuel.tanks[inner].usable.si() + 1e-9) << "nothing overboard";
        EXPECT_GE(f.contents.at(i)[ferry], -1e-12);
    }
    EXPECT_NEAR(sum(f.contents.at(0)) - sum(f.contents.at(f.samples.size() - 1)), f.fuelAtStart - f.fuelAtEnd, 1e-9);
}

TEST(Tanks, NoneIsChangedOverBadGround) {
    auto s = *test::demo("lorimer").sortie;
    s.flight.distance = Distance::of(450, units::nauticalMile);
    const auto free = flight::fly(test::lorimer(), s);
    double due = 0.0;
    for (const auto& c : free.tankChanges)
        if (c.phase == Phase::cruise && c.time > free[Phase::cruise].start + 1)
            due = c.distance;
    ASSERT_GT(due, 100e3);
    s.flight.badGround = {{due - 60e3, due + 40e3}};
    const auto f = flight::fly(test::lorimer(), s);
    int changes = 0;
    for (const auto& c : f.tankChanges)
        if (c.phase == Phase::cruise && c.time > f[Phase::cruise].start + 1) {
            ++changes;
            EXPECT_TRUE(c.beforeBadGround);
            EXPECT_NEAR(c.distance, due - 60e3 - 500, 300);
        }
    EXPECT_EQ(changes, 1);
}

TEST(Tanks, OneThatDoesNotFeedEveryEngineAsksForTheCrossfeed) {
    const auto& d = test::loaded("ostler-bush");
    powerplant::Aircraft a = *d.aircraft;
    a.notes.fuel.tanks[tankAt(a.notes, "left")].feeds = {"L", "C"};
    const loading::TankSequence sequence(a.notes, *d.sortie);
    EXPECT_TRUE(sequence.needsCrossfeed(static_cast<int>(tankAt(a.notes, "left"))));
    EXPECT_FALSE(sequence.needsCrossfeed(static_cast<int>(tankAt(a.notes, "right"))));
    auto s = *d.sortie;
    s.fuel.order = {"right", "left"};
    s.flight.distance = Distance::of(330, units::nauticalMile);
    const auto plan = plan::makePlan(a, s);
    bool told = false;
    for (const auto& mark : plan.marks)
        told = told || mark.text == "Fuel to Left wing, crossfeed open";
    EXPECT_TRUE(told);
}

TEST(Tanks, AnOutletThatUncoversNoseUpIsLeftSoonerInTheClimb) {
    const auto& d = test::loaded("thatcher-lesson");
    const auto& n = d.aircraft->notes;
    const auto left = static_cast<int>(tankAt(n, "left"));
    const loading::TankSequence sequence(n, *d.sortie);
    EXPECT_NEAR(sequence.leaveAt(left, true), 9 * 3.785411784e-3, 1e-6);
    EXPECT_LT(sequence.leaveAt(left), 3 * 3.785411784e-3);
    auto s = *d.sortie;
    s.contents["left"] = Volume::of(13.5, units::usGallon);
    const auto f = flight::fly(*d.aircraft, s);
    bool changed = false;
    for (const auto& c : f.tankChanges)
        if (c.phase == Phase::climb) {
            changed = true;
            EXPECT_GT(sampleAt(f.samples, c.time)[Gauge::height], s.day.elevation.si() + 300 - 1);
        }
    EXPECT_TRUE(changed) << "before it uncovers, and not low";
}

TEST(Sortie, LoadFuelAndWindAreWrittenAndReadAgain) {
    const auto d = test::loadDemo("wheelwright-windy");
    auto s = *d.sortie;
    s.load.oil = Volume::of(20, units::usGallon);
    s.fuel.reserve = Duration::si(3000);
    s.fuel.dropAt = Distance::si(200e3);
    s.strip = {240.0, Length::si(900), 1.5, true, true};
    s.flight.climbBoost = ManifoldPressure::si(1.4e5);
    s.flight.takeOffRpm = Rotation::si(45);
    const auto text = writeSortie(s, d.aircraft->notes.cockpit);
    const auto back = readSortie(text, "s.toml");
    ASSERT_TRUE(back.sortie) << back.problems.front().text() << text;
    const auto& b = *back.sortie;
    EXPECT_FALSE(b.load.weightTyped);
    EXPECT_EQ(b.load.names, s.load.names);
    for (const auto& [id, mass] : s.load.stations)
        EXPECT_NEAR(b.load.stations.at(id).si(), mass.si(), 1e-6);
    EXPECT_NEAR(b.load.oil->si(), s.load.oil->si(), 1e-9);
    EXPECT_EQ(b.fuel.order, s.fuel.order);
    EXPECT_NEAR(b.fuel.reserve->si(), 3000, 1e-6);
    EXPECT_NEAR(b.fuel.dropAt->si(), 200e3, 1e-3);
    EXPECT_NEAR(b.fuel.priceOfTime->si(), s.fuel.priceOfTime->si(), 1e-12);
    ASSERT_EQ(b.flight.legs.size(), 2u);
    EXPECT_EQ(*b.flight.legs[0].track, 255);
    EXPECT_NEAR(b.flight.legs[1].distance.si(), s.flight.legs[1].distance.si(), 1e-3);
    EXPECT_EQ(b.flight.aloft->fromDegrees, 260);
    EXPECT_EQ(b.flight.alternate, "Upper Ferrow");
    ASSERT_EQ(b.flight.badGround.size(), 1u);
    EXPECT_NEAR(b.flight.badGround[0].second, 150 * 1609.344, 1e-3);
    EXPECT_TRUE(b.strip.grass && b.strip.wet);
    EXPECT_NEAR(b.strip.slope, 1.5, 1e-9);
    EXPECT_NEAR(b.flight.climbBoost->si(), 1.4e5, 1e-3);
    EXPECT_NEAR(b.flight.takeOffRpm->si(), 45, 1e-9);
    EXPECT_EQ(writeSortie(b, d.aircraft->notes.cockpit), text) << "and the same again";
}

TEST(FuelNeeded, WhatCannotBeUsedIsTheDifferenceOfTheTanks) {
    std::size_t some = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto needed = advice::fuelNeeded(*l.aircraft, *l.sortie, f);
        double left = 0;
        for (const auto& tank : l.aircraft->notes.fuel.tanks)
            if (!tank.removable || l.sortie->contents.contains(tank.id))
                left += tank.capacity.si() - tank.usable.si();
        EXPECT_NEAR(needed.unusable, left, 1e-9) << name;
        some += left > 1e-3;
    }
    EXPECT_GT(some, 0u);
}

} // namespace amber
