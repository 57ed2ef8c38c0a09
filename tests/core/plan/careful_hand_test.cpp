// SPDX-License-Identifier: GPL-3.0-or-later
// The drill of every type, done on the engines by a hand that waits for what each act waits for.
#include "advice/figures.h"
#include "hand/careful_hand.h"
#include "test_data.h"
#include "thorough.h"
#include <algorithm>
#include <map>

namespace {
using namespace amber;

class CarefulHand : public testing::TestWithParam<std::string> {
protected:
    struct Done {
        flight::Flown flown;
        hand::HandRun run;
    };
    /// Each demo's drill is done once.
    static const Done& doneOnce(const std::string& demo) {
        static std::map<std::string, Done> all;
        auto found = all.find(demo);
        if (found == all.end()) {
            const auto& l = test::loaded(demo);
            auto flown = flight::fly(*l.aircraft, *l.sortie);
            auto run = hand::doDrill(*l.aircraft, *l.sortie, flown);
            found = all.emplace(demo, Done{std::move(flown), std::move(run)}).first;
        }
        return found->second;
    }
    [[nodiscard]] const TypeNotes& notes() const { return test::loaded(GetParam()).aircraft->notes; }
    const flight::Flown& flown = doneOnce(GetParam()).flown;
    const hand::HandRun& run = doneOnce(GetParam()).run;
};

TEST_P(CarefulHand, ReachesEveryConditionFromColdMetalToStoppedEngines) {
    for (const auto& m : run.missed)
        ADD_FAILURE() << m.sentence;
    EXPECT_LE(run.retries, static_cast<int>(notes().engineCount())) << "a second try at most";
    EXPECT_GT(run.done.size(), 55u);
    for (const auto& engine : run.state.engines) {
        EXPECT_FALSE(engine.firing);
        EXPECT_LT(engine.n, 0.6) << "stands";
    }
    for (const auto& engine : run[Phase::warmUp].readings.engines)
        EXPECT_GT(engine[Gauge::oilTemperature], notes().warmUp.oilRunUp.si() - 2.0) << "warm enough for the run-up";
    EXPECT_GT(run[Phase::climb].time, run[Phase::takeOff].time + 60);
    const auto height = [&](Phase phase) { return run[phase].readings.engines.front()[Gauge::height]; };
    const auto& sortie = *test::loaded(GetParam()).sortie;
    EXPECT_NEAR(height(Phase::letDown), sortie.flight.toElevation.si() + 300, 5.0) << "let down to the circuit";
    EXPECT_GE(run[Phase::stop].time - run[Phase::landing].time, 60.0) << "it is taxied in first";
    EXPECT_NEAR(height(Phase::landing), sortie.flight.toElevation.si(), 2.0);
    if (flown.reachedHeight)
        EXPECT_NEAR(height(Phase::climb), sortie.flight.cruiseHeight.si(), 30.0);
}

TEST_P(CarefulHand, StandsWhereThePlanStandsAtTheEndOfEveryPhaseOfTheFlight) {
    for (const Phase phase : {Phase::climb, Phase::cruise, Phase::letDown}) {
        const auto& setting = flown[phase].setting;
        const std::size_t lastGear = flown.samples[flown[phase].lastSample].gear;
        for (std::size_t e = 0; e < notes().engineCount(); ++e) {
            const auto& l = run[phase].levers[e];
            EXPECT_EQ(l.mixture, phase == Phase::letDown ? Mixture::rich : setting.mixture) << keyOf(phase);
            if (phase != Phase::letDown) {
                EXPECT_EQ(l.gear, lastGear) << keyOf(phase);
            } else {
                EXPECT_EQ(l.gear, 0u) << "low before the field";
            }
            EXPECT_NEAR(l.coolingFlap, setting.coolingFlap, 1e-9) << keyOf(phase);
            if (phase == Phase::climb) // the notes' speed falls with the height
                EXPECT_NEAR(run[phase].readings.engines[e][Gauge::airspeed],
                            flown.samples[flown[phase].lastSample][Gauge::airspeed], 1.0);
            EXPECT_EQ(l.ignition, powerplant::Ignition::both);
            EXPECT_TRUE(l.cock);
            EXPECT_FALSE(l.cutOff);
            if (phase != Phase::letDown)
                EXPECT_EQ(l.hotAir, 0.0);
            // The rating's boost in the gear and at the height where the phase ends.
            auto wanted = setting.boost ? std::optional(setting.boost->si()) : std::nullopt;
            const auto& l_ = test::loaded(GetParam());
            for (const char* name : {"changed-boost", "fallen-boost"})
                if (phase == Phase::climb && (name[0] == 'f' || flown.gearChange()))
                    if (const auto f = advice::figureOf(*l_.aircraft, *l_.sortie, flown, phase, name))
                        wanted = f->si;
            if (wanted && l.throttle.by == powerplant::Throttle::By::boost)
                EXPECT_NEAR(l.throttle.value, *wanted, 700.0) << keyOf(phase);
            if (notes().propeller.control == PropellerControl::constantSpeed)
                EXPECT_NEAR(l.rpm, setting.rpm.si(), 0.02) << keyOf(phase);
        }
    }
    // What the needles show of it, reckoned by two ways: strides at settings, short steps by a hand.
    const auto& plan = flown.samples[flown[Phase::climb].lastSample];
    const auto& read = run[Phase::climb].readings.engines.front();
    EXPECT_NEAR(read[Gauge::rpm] * 60, plan[Gauge::rpm] * 60, 40);
    if (!std::isnan(plan[Gauge::boost]) && notes().gauges.contains(Gauge::boost))
        EXPECT_NEAR(read[Gauge::boost], plan[Gauge::boost], 2500.0);
    EXPECT_NEAR(read.headOrCoolant(), plan.headOrCoolant(), 18.0)
        << "as warm as the minutes of the way up have made it";
}

TEST(CarefulHandOnOtherDays, TheDrillComesToItsEndHotHighColdAndDamp) {
    struct Weather {
        const char* name;
        double oat, dew, elevation; // °C, m
    };
    const Weather all[] = {{"hot", 36, 20, 366}, {"high", 24, 5, 1585}, {"cold", -12, -14, 91}, {"damp", 8, 8, 183}};
    const auto names = test::demoNames();
    for (std::size_t type = 0; type < names.size(); ++type)
        for (std::size_t k = 0; k < std::size(all); ++k) {
            // One of them each type, by turns; all where a run is thorough.
            if (!test::thorough() && k != type % std::size(all))
                continue;
            const std::string& name = names[type];
            const auto& l = test::loaded(name);
            Sortie s = *l.sortie;
            s.day.oat = Temperature::of(all[k].oat, units::celsius);
            s.day.dewPoint = Temperature::of(all[k].dew, units::celsius);
            const double rise = all[k].elevation - s.day.elevation.si();
            s.day.elevation = Length::si(all[k].elevation);
            s.flight.toElevation = Length::si(s.flight.toElevation.si() + rise);
            s.flight.cruiseHeight = Length::si(std::max(s.flight.cruiseHeight.si(), all[k].elevation + 600.0));
            const auto plan = flight::fly(*l.aircraft, s);
            const auto run = hand::doDrill(*l.aircraft, s, plan, {10.0});
            const std::string where = name + ", " + all[k].name;
            EXPECT_TRUE(run.missed.empty()) << where << ": " << run.missed.front().sentence;
            EXPECT_LE(run.retries, all[k].oat < 0 ? static_cast<int>(l.aircraft->notes.engineCount()) : 0)
                << where << ": in frost an engine may want a second try";
        }
}

TEST(CarefulHandLinks, ALinkedLeverIsMovedWithItsPartner) {
    const auto& l = test::loaded("thatcher-lesson");
    const auto pump = [&](bool linked) {
        powerplant::Aircraft own = *l.aircraft;
        Control *pumps = nullptr, *air = nullptr;
        for (auto& c : own.notes.controls) {
            pumps = c.acts == Acts::pump ? &c : pumps;
            air = c.acts == Acts::carburettorAir ? &c : air;
        }
        if (linked)
            air->links = {pumps->id};
        EXPECT_EQ(air->positions.back().is, "cold");
        const auto f = flight::fly(own, *l.sortie);
        return hand::doDrill(own, *l.sortie, f, {10.0})[Phase::warmUp].levers.front().booster;
    };
    EXPECT_FALSE(pump(false));
    EXPECT_TRUE(pump(true)) << "air to cold, the far end, before the start: what is linked to it goes to its own, on";
}

TEST_P(CarefulHand, LeavesNothingOnBehindIt) {
    for (const auto& l : run.ends.back().levers) {
        EXPECT_EQ(l.ignition, powerplant::Ignition::off);
        EXPECT_FALSE(l.cock);
        EXPECT_FALSE(l.mesh || l.energise || l.boosterCoil || l.feather || l.water);
        EXPECT_FALSE(l.booster && notes().name != "Sexton S.1");
        EXPECT_EQ(l.gear, 0u);
    }
}
INSTANTIATE_TEST_SUITE_P(Demos, CarefulHand, testing::ValuesIn(test::demoNames()), [](const auto& given) {
    std::string name = given.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});

TEST(CarefulHandAlone, AWrongDrillIsNotReached) {
    const auto& l = test::loaded("farrier-summer");
    powerplant::Aircraft spoiled = *l.aircraft;
    auto& steps = spoiled.notes.phases.at(Phase::start).steps;
    std::erase_if(steps, [](const Step& s) { return s.id == "ignition"; });
    const auto run = hand::doDrill(spoiled, *l.sortie, flight::fly(*l.aircraft, *l.sortie));
    ASSERT_FALSE(run.missed.empty());
    EXPECT_EQ(run.missed.front().step, "starter") << run.missed.front().sentence;
}

TEST(CarefulHandAlone, EveryActTakesItsTime) {
    const auto& l = test::loaded("lorimer-spring");
    const auto run = hand::doDrill(*l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie));
    const auto waited = [&](const char* step, const char* control) {
        for (const auto& d : run.done)
            if (d.step == step && d.control == control)
                return d.waited;
        return -1.0;
    };
    EXPECT_NEAR(waited("energise", "starter"), 12.4, 0.3) << "12 s on the cart, and the hand's own";
    EXPECT_NEAR(waited("scavenge", "throttle"), 32.4, 0.3) << "30 s after two of opening up";
    double last = 0.0;
    for (const auto& d : run.done) {
        EXPECT_GE(d.time, last);
        last = d.time;
    }
}
} // namespace
