// SPDX-License-Identifier: GPL-3.0-or-later
// What is left when an engine fails.
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "engine/fuel_grade.h"
#include "engine/permitted_boost.h"
#include "test_data.h"
#include "trouble/engine_out.h"
#include "trouble/go_round.h"
#include "trouble/sheet.h"
#include <cmath>

namespace amber {
namespace {
using trouble::DeadBlades;

trouble::OnTheRest rest(const flight::LoadedSortie& l, double height, double kilograms, std::vector<std::size_t> dead,
                        DeadBlades blades) {
    return trouble::onTheRest(*l.aircraft, *l.sortie, Length::si(height), Mass::si(kilograms), dead, blades, true);
}
} // namespace

TEST(EngineOut, FeatheredIsNeverWorseThanWindmilling) {
    for (const char* name : {"lorimer-spring", "mercer-frost"}) {
        const auto& l = test::loaded(name);
        const double weight = 0.95 * l.aircraft->notes.maxWeight.si();
        for (const double height : {500.0, 2500.0, 5000.0}) {
            const auto feathered = rest(l, height, weight, {0}, DeadBlades::feathered);
            const auto windmilling = rest(l, height, weight, {0}, DeadBlades::windmilling);
            EXPECT_GT(feathered.rate.si(), windmilling.rate.si() + 0.1) << name << " " << height;
            EXPECT_LT(feathered.needed.si(), windmilling.needed.si());
        }
    }
}

TEST(EngineOut, LighterAndCoolerIsNeverWorse) {
    auto l = test::loadDemo("lorimer-spring");
    const double heavy = rest(l, 1500, 12500, {0}, DeadBlades::feathered).rate.si();
    const double light = rest(l, 1500, 11000, {0}, DeadBlades::feathered).rate.si();
    EXPECT_GT(light, heavy + 0.2);
    l.sortie->day.oat = Temperature::si(l.sortie->day.oat.si() + 25.0);
    EXPECT_LT(rest(l, 1500, 12500, {0}, DeadBlades::feathered).rate.si(), heavy);
}

// By hand: with one of two feathered she has lost half the power, and with it 0.8 P/W of climb; what the feathered
// blades and the rudder drag takes a little more, some tenths of a metre a second.
TEST(EngineOut, LosesTheClimbThatTheEngineGave) {
    const auto& l = test::demo("lorimer");
    const double weight = 12000, w = weight * air::gravity;
    const auto one = rest(l, 1000, weight, {0}, DeadBlades::feathered);
    const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(Length::si(1000)));
    const double both = powerplant::rateOfClimb(*l.aircraft, 2 * one.each.si(), Mass::si(weight), one.ias, air).si();
    const double lost = 0.8 * one.each.si() / w;
    EXPECT_LT(one.rate.si(), both - lost + 0.05);
    EXPECT_GT(one.rate.si(), both - lost - 0.7);
    // And what is needed is what the polar asks of the one engine, a little over.
    const double polar = powerplant::powerForRate(*l.aircraft, 0.0, Mass::si(weight), one.ias, air).si();
    EXPECT_GT(one.needed.si(), polar);
    EXPECT_LT(one.needed.si(), 1.15 * polar);
    EXPECT_TRUE(one.continuous) << "no rating with a clock for what must be held";
}

TEST(EngineOut, TheCeilingIsWhereTheRateIsNil) {
    const auto& l = test::demo("lorimer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600, {1});
    ASSERT_TRUE(out.ceiling);
    EXPECT_LT(std::abs(rest(l, out.ceiling->si(), out.moment.weight.si(), {1}, DeadBlades::feathered).rate.si()), 0.06);
    EXPECT_GT(rest(l, out.ceiling->si() - 300, out.moment.weight.si(), {1}, DeadBlades::feathered).rate.si(), 0.0);
    // Cruising above it she drifts down to it, no faster than she sinks at the top.
    if (out.moment.height > *out.ceiling) {
        EXPECT_FALSE(out.driftDown.holds);
        EXPECT_NEAR(out.driftDown.to.si(), out.ceiling->si(), 2.0);
        EXPECT_GT(out.driftDown.seconds,
                  (out.moment.height.si() - out.ceiling->si()) / std::max(0.1, -out.feathered.rate.si()));
        EXPECT_EQ(out.verdict.colour(), watch::Colour::red);
    }
    // The starboard engine drives generator and pump, and there is no other.
    EXPECT_NE(std::find_if(out.lost.services.begin(), out.lost.services.end(),
                           [](const std::string& s) { return s.find("generator") != std::string::npos; }),
              out.lost.services.end());
}

TEST(EngineOut, TwoOfFourIsWorseThanOneAndASingleComesDown) {
    const auto& m = test::loaded("mercer-frost");
    const double weight = 34000;
    const double one = rest(m, 2000, weight, {0}, DeadBlades::feathered).rate.si();
    const double two = rest(m, 2000, weight, {0, 1}, DeadBlades::feathered).rate.si();
    EXPECT_LT(two, one - 1.0);
    const auto& t = test::loaded("thatcher-lesson");
    const auto f = flight::fly(*t.aircraft, *t.sortie);
    const auto single = trouble::engineOut(*t.aircraft, *t.sortie, f, f[Phase::cruise].start + 60, {0});
    EXPECT_FALSE(single.ceiling);
    EXPECT_LT(single.feathered.rate.si(), -1.5);
    EXPECT_EQ(single.verdict.colour(), watch::Colour::red);
    EXPECT_NEAR(single.driftDown.to.si(), t.sortie->day.elevation.si(), 5.0) << "to the ground";
}

// Drift-down by hand: from the top to the height she holds, the sink at a few heights asked one by one and the time
// between them by the trapezium rule; the distance by the mean true airspeed.
TEST(EngineOut, TheDriftDownIsThatOfAHandCalculation) {
    const auto& l = test::demo("lorimer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600, {1});
    ASSERT_TRUE(out.ceiling);
    ASSERT_FALSE(out.driftDown.holds);
    // The last hundred metres take for ever, as the rate goes to nil: both stop there.
    const double top = out.moment.height.si(), bottom = out.ceiling->si() + 300.0;
    constexpr int steps = 6;
    double seconds = 0.0, metres = 0.0, before = 0.0, tasBefore = 0.0;
    for (int i = 0; i <= steps; ++i) {
        const double height = top + (bottom - top) * i / steps;
        const auto here = rest(l, height, out.moment.weight.si(), {1}, DeadBlades::feathered);
        const auto air = l.sortie->day.at(l.sortie->day.pressureAltitudeOf(Length::si(height)));
        const double sink = -here.rate.si(), tas = air::trueAirspeed(here.ias, air.pressure, air.temperature).si();
        ASSERT_GT(sink, 0.0) << height;
        if (i > 0) {
            const double dt = (top - bottom) / steps * 0.5 * (1.0 / sink + 1.0 / before);
            seconds += dt;
            metres += 0.5 * (tas + tasBefore) * dt;
        }
        before = sink;
        tasBefore = tas;
    }
    double told = 0.0, far = 0.0;
    for (const auto& p : out.driftDown.path)
        if (p.height >= bottom - 75.0) {
            told = p.seconds;
            far = p.distance;
        }
    EXPECT_NEAR(told, seconds, 0.08 * seconds);
    EXPECT_NEAR(far, metres, 0.08 * metres);
    // The path falls, in time and distance without turning back.
    for (std::size_t i = 1; i < out.driftDown.path.size(); ++i) {
        EXPECT_LT(out.driftDown.path[i].height, out.driftDown.path[i - 1].height);
        EXPECT_GT(out.driftDown.path[i].seconds, out.driftDown.path[i - 1].seconds);
    }
}

TEST(EngineOut, LowerIsNeverWorseAboveTheFullThrottleHeight) {
    for (const char* name : {"lorimer-spring", "mercer-frost", "ostler-bush", "chandler-haven"}) {
        const auto& l = test::loaded(name);
        const double weight = 0.9 * l.aircraft->notes.maxWeight.si();
        double last = -1e9;
        for (const double height : {6500.0, 6000.0, 5500.0}) {
            const double rate = rest(l, height, weight, {0}, DeadBlades::feathered).rate.si();
            EXPECT_GT(rate, last) << name << " " << height;
            last = rate;
        }
    }
}

TEST(EngineOut, TheCeilingIsFoundToThirtyFeetOnEveryTypeWithMoreThanOneEngine) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        if (l.aircraft->notes.positions.size() < 2)
            continue;
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::climb].start + 60, {0});
        if (!out.ceiling) {
            EXPECT_LT(out.feathered.rate.si(), 0.0) << name;
            EXPECT_EQ(out.verdict.colour(), watch::Colour::red) << name;
            continue;
        }
        const double kilograms = out.moment.weight.si();
        EXPECT_GT(rest(l, out.ceiling->si() - 10.0, kilograms, {0}, DeadBlades::feathered).rate.si(), -0.02) << name;
        EXPECT_LT(rest(l, out.ceiling->si() + 10.0, kilograms, {0}, DeadBlades::feathered).rate.si(), 0.02) << name;
        if (out.ceilingWindmilling && out.feathers)
            EXPECT_LT(*out.ceilingWindmilling, *out.ceiling) << name;
    }
}

TEST(EngineOut, NoSettingIsBeyondARatingOrItsMinutes) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto& n = l.aircraft->notes;
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        for (const Phase phase : {Phase::takeOff, Phase::climb, Phase::cruise}) {
            const auto m = trouble::momentAt(n, *l.sortie, f, f[phase].start + 20);
            const auto live = trouble::liveSetting(*l.aircraft, *l.sortie, f, m);
            const auto allowed = engine::permittedBoost(n, *live.rating, l.sortie->fuelGrade,
                                                        {live.gear, l.sortie->day.pressureAltitudeOf(m.height), {}, {}})
                                     .boost;
            EXPECT_EQ(live.boost, allowed) << name;
            if (phase == Phase::cruise)
                EXPECT_FALSE(live.rating->minutes) << name << ": what must be held has no clock";
            if (live.left)
                EXPECT_LE(live.left->si(), live.rating->minutes->si()) << name;
        }
    }
    // Minutes that the take-off has used are gone.
    const auto& l = test::demo("lorimer");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const Rating& takeOff = *l.aircraft->notes.rating(l.aircraft->notes.phase(Phase::takeOff).rating);
    EXPECT_EQ(trouble::ratingUsedBy(f, takeOff, f[Phase::takeOff].start), 0.0);
    const double half = f[Phase::takeOff].start + 0.5 * f[Phase::takeOff].duration;
    EXPECT_NEAR(trouble::ratingUsedBy(f, takeOff, half), 0.5 * f[Phase::takeOff].duration, 1.0);
    EXPECT_NEAR(trouble::ratingUsedBy(f, takeOff, f[Phase::cruise].start), f[Phase::takeOff].duration, 1.0);
}

TEST(EngineOut, TheWrongOneFeatheredIsTwoEnginesLost) {
    const auto& l = test::loaded("mercer-frost");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto m = trouble::momentAt(l.aircraft->notes, *l.sortie, f, f[Phase::cruise].start + 600);
    const double right = rest(l, m.height.si(), m.weight.si(), {1}, DeadBlades::feathered).rate.si();
    const double wrong = trouble::wrongFeathered(*l.aircraft, *l.sortie, m, 1, 2).rate.si();
    const double both = rest(l, m.height.si(), m.weight.si(), {1, 2}, DeadBlades::feathered).rate.si();
    EXPECT_LT(wrong, right - 1.0) << "an engine's power, and the drag of the one that turns";
    EXPECT_LT(wrong, both - 0.1) << "worse than both feathered: one windmills";
    const double turning = rest(l, m.height.si(), m.weight.si(), {1, 2}, DeadBlades::windmilling).rate.si();
    EXPECT_GT(wrong, turning) << "better than both windmilling";
    // On the twin it is a glide.
    const auto& t = test::demo("lorimer");
    const auto flown = flight::fly(*t.aircraft, *t.sortie);
    const auto at = trouble::momentAt(t.aircraft->notes, *t.sortie, flown, flown[Phase::climb].start + 60);
    EXPECT_LT(trouble::wrongFeathered(*t.aircraft, *t.sortie, at, 0, 1).rate.si(), -3.0);
}

TEST(EngineOut, FuelServicesAndBatteryThatAreLeft) {
    const auto& l = test::demo("lorimer");
    const auto& n = l.aircraft->notes;
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600, {1});
    double held = 0.0;
    for (const double tank : out.moment.tanks)
        held += tank;
    EXPECT_NEAR(out.reach.fed + out.reach.crossfeed + out.reach.stuck, held, 1e-9) << "no fuel is lost in the telling";
    EXPECT_NEAR(held, flight::sampleAt(f.samples, out.moment.time)[Gauge::fuel], 0.02 * held);
    // Endurance is fuel over burn; the burn is that of one engine at the power that holds her: by its specific
    // consumption of 0.28 to 0.36 kg/kWh.
    const double kilowattHours = out.reach.each.si() * out.reach.seconds / 3.6e6;
    const double kilograms = (out.reach.fed + out.reach.crossfeed) * f.fuelDensity;
    EXPECT_GT(kilograms / kilowattHours, 0.26);
    EXPECT_LT(kilograms / kilowattHours, 0.40);
    // Starboard drives the only generator: by hand 34 Ah × 0.8 over the ship's ten amperes.
    ASSERT_TRUE(out.lost.batterySeconds);
    const double byHand = 0.8 * n.start.battery.ampereHours * 3600.0 / 10.0;
    EXPECT_NEAR(*out.lost.batterySeconds, byHand, 0.25 * byHand);
    EXPECT_FALSE(trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600, {0}).lost.batterySeconds);
    // Four engines: another generator is left, and it says so.
    const auto& m = test::loaded("mercer-frost");
    const auto flown = flight::fly(*m.aircraft, *m.sortie);
    const auto two = trouble::engineOut(*m.aircraft, *m.sortie, flown, flown[Phase::cruise].start + 600, {1});
    EXPECT_NE(std::find(two.lost.weaker.begin(), two.lost.weaker.end(), "generator"), two.lost.weaker.end());
    EXPECT_FALSE(two.lost.batterySeconds);
}

TEST(EngineOut, TheFlapKeepsTheLiveEnginesInTheirNormalRange) {
    for (const char* name : {"lorimer-spring", "mercer-frost", "chandler-haven"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto m = trouble::momentAt(l.aircraft->notes, *l.sortie, f, f[Phase::climb].start + 60);
        const auto cool = trouble::liveSetting(*l.aircraft, *l.sortie, f, m);
        auto hot = test::loadDemo(name);
        hot.sortie->day.oat = Temperature::si(hot.sortie->day.oat.si() + 20.0);
        const auto warm = trouble::liveSetting(*l.aircraft, *hot.sortie, f, m);
        EXPECT_GT(warm.flap, cool.flap) << name << ": a hotter day wants more of it";
        if (cool.flapEnough && cool.flap > 0) {
            const auto band = l.aircraft->notes.gauges.at(Gauge::headTemperature).in(Phase::climb);
            EXPECT_NEAR(cool.settles.si(), band.normalHigh.value_or(*band.limitHigh), 1.0) << name;
        }
    }
}

// A glide by hand: the least drag over weight that the polar has is 2 √(k f); a windmilling or coarse propeller makes
// it a third to a half more.
TEST(Glide, IsTheDragPolarsWithAPropellerInTheWind) {
    for (const char* name : {"farrier-summer", "thatcher-lesson", "tanner-winter", "collier-high"}) {
        const auto& l = test::loaded(name);
        powerplant::Aircraft own = *l.aircraft;
        own.notes.trouble.glideIas.reset();
        own.notes.trouble.glideRatio.reset();
        const auto f = flight::fly(own, *l.sortie);
        const auto m = trouble::momentAt(own.notes, *l.sortie, f, f[Phase::cruise].start + 60);
        const auto g = trouble::glideFrom(own, *l.sortie, m);
        const double polar = 1.0 / (2.0 * std::sqrt(own.drag.induced * own.drag.area));
        EXPECT_LT(g.ratio, polar) << name;
        EXPECT_GT(g.ratio, 0.4 * polar) << name;
        EXPECT_NEAR(g.distance, g.ratio * m.aboveField.si(), 1.0) << name;
        EXPECT_FALSE(g.byNotes);
    }
    // The notes' ratio goes before, and the model's is told beside it.
    const auto& t = test::loaded("tinker-damp");
    const auto f = flight::fly(*t.aircraft, *t.sortie);
    const auto m = trouble::momentAt(t.aircraft->notes, *t.sortie, f, f[Phase::cruise].start + 60);
    const auto g = trouble::glideFrom(*t.aircraft, *t.sortie, m);
    EXPECT_TRUE(g.byNotes);
    EXPECT_EQ(g.ratio, 8.5);
    ASSERT_TRUE(g.modelRatio);
    EXPECT_GT(*g.modelRatio, 4.0);
    EXPECT_LT(*g.modelRatio, 14.0);
}

TEST(EngineOut, EveryTypeAtEveryPhaseHasFiguresThatAreFigures) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        for (const Phase phase :
             {Phase::walkRound, Phase::runUp, Phase::takeOff, Phase::cruise, Phase::landing, Phase::stop}) {
            const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[phase].start + 10, {0});
            for (const auto& figure : trouble::figuresOf(out, l.aircraft->notes)) {
                EXPECT_FALSE(figure.value.empty()) << name << " " << figure.id;
                EXPECT_EQ(figure.value.find("nan"), std::string::npos)
                    << name << " " << figure.what << " " << figure.value;
                EXPECT_EQ(figure.value.find("inf"), std::string::npos) << name << " " << figure.what;
            }
            EXPECT_GE(out.feathered.rate.si(), out.windmilling.rate.si()) << name << " " << keyOf(phase);
        }
    }
}

TEST(EngineOutFigures, TheMarginIsOverTheNotesSafeSpeedAndTheRatingIsTheStrongestThatIsLeft) {
    for (const char* name : {"lorimer-spring", "mercer-frost"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const double time = f[Phase::climb].start + 60;
        const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, time, {0});
        ASSERT_TRUE(out.live.rating) << name;
        const auto safe = flight::speedFor(l.aircraft->notes, "safe-single", out.moment.weight);
        ASSERT_TRUE(safe) << name;
        EXPECT_NEAR(out.live.safe.si(), safe->speed.si(), 0.01) << name;
        EXPECT_GT(out.live.safe.si(), 30.0) << name;
        EXPECT_NEAR(out.margin.si(), out.moment.ias.si() - out.live.safe.si(), 1e-9) << name;
        ASSERT_TRUE(out.limitedLive.rating) << name;
        double most = 0;
        const auto power = [&](const Rating& r) {
            return engine::operate(l.aircraft->model(),
                                   {r.rpm, r.boost, 0, air::standardDay(Length{}).at(Length{}), Speed{}, r.mixture})
                .power.si();
        };
        for (const auto& r : l.aircraft->notes.ratings)
            most = std::max(most, power(r));
        EXPECT_NEAR(power(*out.limitedLive.rating), most, 0.01 * most) << name << ": with its minutes";
        EXPECT_FALSE(out.live.rating->minutes) << name << ": without";
    }
}

TEST(EngineOutFigures, TheGearIsTheOneThatGivesMorePowerThere) {
    const auto& l = test::demo("lorimer");
    auto m = trouble::Moment{};
    m.weight = Mass::si(11500);
    for (const auto& [metres, gear] : std::vector<std::pair<double, std::size_t>>{{500, 0}, {6500, 1}}) {
        m.height = Length::si(metres);
        const auto live = trouble::liveSetting(*l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie), m,
                                               l.aircraft->notes.ratings.front());
        EXPECT_EQ(live.gear, gear) << metres;
    }
}

TEST(GoRoundFigures, TheRoomIsFromTheHighestRpmToTheLimit) {
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto g = trouble::goRound(*l.aircraft, *l.sortie, f);
        const auto limit = l.aircraft->notes.gauges.at(Gauge::rpm).in(Phase::takeOff).limitHigh;
        ASSERT_EQ(g.room.has_value(), limit.has_value()) << name;
        if (limit)
            EXPECT_NEAR(g.room->si() + g.peak.si(), *limit, 1e-6) << name;
    }
}

TEST(EngineOutFigures, TheFlapOfTheOthersIsTold) {
    for (const char* name : {"lorimer-spring", "mercer-frost"}) {
        const auto& l = test::loaded(name);
        const auto f = flight::fly(*l.aircraft, *l.sortie);
        const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::climb].start + 120, {0});
        const auto figures = trouble::figuresOf(out, l.aircraft->notes);
        const auto flap = std::find_if(figures.begin(), figures.end(), [](const auto& x) { return x.id == "flap"; });
        ASSERT_NE(flap, figures.end()) << name;
        EXPECT_EQ(flap->si, out.live.flap) << name;
        EXPECT_GT(out.live.settles.si(), 350.0) << name;
    }
}

TEST(EngineOutFigures, TheDriftDownBeginsHereAndNow) {
    const auto& l = test::loaded("mercer-frost");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    const auto out = trouble::engineOut(*l.aircraft, *l.sortie, f, f[Phase::cruise].start + 600, {0, 1, 2});
    ASSERT_GT(out.driftDown.path.size(), 2u);
    EXPECT_EQ(out.driftDown.path.front().seconds, 0.0);
    EXPECT_EQ(out.driftDown.path.front().distance, 0.0);
    EXPECT_NEAR(out.driftDown.path.front().height, out.moment.height.si(), 1e-9);
    for (std::size_t i = 1; i < out.driftDown.path.size(); ++i)
        EXPECT_GT(out.driftDown.path[i].seconds, out.driftDown.path[i - 1].seconds);
}

} // namespace amber
