// SPDX-License-Identifier: GPL-3.0-or-later
// The plan slid to what happened and bent to what was read: figures by hand.
#include "aloft/clock.h"
#include "aloft/next.h"
#include "aloft/now.h"
#include "aloft_flights.h"
#include "notes/cockpit_units.h"
#include "test_data.h"
#include "thorough.h"
#include <cmath>
#include <fmt/format.h>

namespace {
using namespace amber;
using namespace amber::aloft;

struct Aloft {
    explicit Aloft(const std::string& demo) : loaded(test::loaded(demo)), plan(plan::makePlan(aircraft(), sortie())) {}
    [[nodiscard]] const powerplant::Aircraft& aircraft() const { return *loaded.aircraft; }
    [[nodiscard]] const Sortie& sortie() const { return *loaded.sortie; }
    [[nodiscard]] const TypeNotes& notes() const { return aircraft().notes; }
    /// The moments as the plan has them, up to one of them; what is later by so much from one on.
    void moments(std::string_view last, std::string_view lateFrom = {}, double late = 0.0) {
        happened.moments.clear();
        bool later = false;
        for (const auto& p : plannedMoments(plan.flown, notes())) {
            later = later || p.row->key == lateFrom;
            happened.moments.push_back({std::string(p.row->key), p.engine, p.at + (later ? late : 0.0), {}});
            if (p.row->key == last)
                break;
        }
    }
    [[nodiscard]] double of(std::string_view key) const {
        for (const auto& p : plannedMoments(plan.flown, notes()))
            if (p.row->key == key)
                return p.at;
        return NAN;
    }
    [[nodiscard]] Now now(double at, const Options& options = {}) const {
        return nowOf(aircraft(), sortie(), plan, happened, at, options);
    }
    void read(Gauge gauge, const std::string& engine, double at, double value) {
        happened.readings.push_back({gauge, engine, at, value, fmt::format("r{}", happened.readings.size()), false});
    }
    flight::LoadedSortie loaded;
    plan::Plan plan;
    Happened happened;
};

TEST(AloftCourse, APlanThatIsKeptIsThePlan) {
    for (const char* demo : {"lorimer-spring", "farrier-summer", "tinker-damp"}) {
        Aloft r(demo);
        r.moments("at-stop");
        const double end = r.of("at-stop");
        const Course course(r.plan.flown, r.notes(), r.happened, end);
        for (double t = r.of("at-first-fire"); t < end; t += 61.0)
            EXPECT_NEAR(course.planAt(t), t, 1.1) << demo;
        const FuelCourse fuel(r.plan.flown, r.notes(), course, r.happened);
        EXPECT_NEAR(fuel.used(end), r.plan.flown.fuelAtStart - r.plan.flown.fuelAtEnd, 0.002 * r.plan.flown.fuelAtStart)
            << demo;
    }
}

TEST(AloftCourse, TaxiThatComesLateWaitsAtTheWarmUpAndAllThatFollowsIsLater) {
    Aloft r("lorimer-spring");
    r.moments("at-taxi", "at-taxi", 300.0);
    const double taxi = r.of("at-taxi"), now = taxi + 300.0;
    const Course course(r.plan.flown, r.notes(), r.happened, now);
    EXPECT_NEAR(course.planAt(taxi + 200.0), taxi, 1.0); // it stood
    EXPECT_EQ(course.phaseAt(taxi + 200.0), Phase::warmUp);
    EXPECT_NEAR(course.realAt(r.of("at-take-off")), r.of("at-take-off") + 300.0, 1.0);
    // Five minutes more at the warm-up's flow are burnt, and no more than that.
    const FuelCourse fuel(r.plan.flown, r.notes(), course, r.happened);
    const auto& s = r.plan.flown.samples;
    double flow = 0.0;
    for (std::size_t i = 1; i < s.size(); ++i)
        if (s[i - 1].time < taxi - 0.6 && s[i].time >= taxi - 0.6)
            flow = (s[i - 1][Gauge::fuel] - s[i][Gauge::fuel]) / (s[i].time - s[i - 1].time);
    ASSERT_GT(flow, 0.0);
    EXPECT_NEAR(fuel.used(now) - (r.plan.flown.fuelAtStart - flight::sampleAt(s, taxi)[Gauge::fuel]), 300.0 * flow,
                0.02 * 300.0 * flow);
}

TEST(AloftCourse, WhatCannotBeIsAskedAbout) {
    Aloft r("farrier-summer");
    r.moments("at-take-off");
    const double off = r.of("at-take-off");
    EXPECT_EQ(cannotBe(r.plan.flown, r.notes(), r.happened, {"at-climb-power", {}, off + 90.0, {}}), "");
    const auto why = cannotBe(r.plan.flown, r.notes(), r.happened, {"at-top-of-climb", {}, off - 60.0, {}});
    EXPECT_NE(why.find("Top of climb"), std::string::npos) << why;
    EXPECT_NE(why.find("Take-off power"), std::string::npos) << why;
    // A moment pressed out of order moves nothing until it is put right.
    r.happened.moments.push_back({"at-top-of-climb", {}, off - 60.0, {}});
    const auto now = r.now(off + 10.0);
    EXPECT_EQ(now.phase, Phase::takeOff);
    ASSERT_EQ(now.asks.size(), 1u);
    EXPECT_EQ(now.asks.front().colour(), watch::Colour::amber);
}

TEST(AloftCourse, BeforeAnythingIsPressedItStandsBeforeTheFirstFire) {
    Aloft r("mercer-frost");
    const double fire = r.of("at-first-fire");
    const auto now = r.now(fire + 900.0);
    EXPECT_LE(now.plan, fire);
    ASSERT_TRUE(now.nextMoment);
    EXPECT_EQ(now.nextMoment->row->key, "at-first-fire");
    EXPECT_NEAR(now.nextMomentIn, -900.0, 1.0); // overdue by a quarter of an hour
    EXPECT_TRUE(now.needles.empty());           // nothing is foretold of an engine that does not run
}

TEST(AloftNext, NothingIsCalledBelowAThousandFeetAfterTakeOffNorOnApproach) {
    Aloft r("wheelwright-windy");
    r.moments("at-take-off");
    const double off = r.of("at-take-off");
    EXPECT_TRUE(r.now(off + 20.0).quiet);
    EXPECT_TRUE(r.now(off + 20.0).next.empty());
    r.moments("at-top-of-climb");
    EXPECT_FALSE(r.now(r.of("at-top-of-climb") + 60.0).quiet);
    r.moments("at-top-of-descent");
    EXPECT_TRUE(r.now(r.of("at-touch-down") - 100.0).quiet);
    // Oil pressure is: an engine fired just now.
    r.moments("at-first-fire");
    bool told = false;
    for (const auto& i : r.now(r.happened.moments.front().at + 5.0).next)
        told = told || i.kind == NextItem::Kind::oilPressure;
    EXPECT_TRUE(told);
}

TEST(AloftNext, RatingMinutesAreThoseBetweenTheMomentsAndAreToldAsUsed) {
    Aloft r("lorimer-spring");
    r.moments("at-take-off");
    const double off = r.of("at-take-off");
    const auto& rating = *r.notes().rating(r.plan.flown[Phase::takeOff].rating);
    ASSERT_TRUE(rating.minutes);
    const double allowed = rating.minutes->si();
    // The reduction never comes: the minutes go on, and past them it is red.
    const auto past = r.now(off + allowed + 30.0);
    ASSERT_FALSE(past.ratings.empty());
    const auto found = std::find_if(past.ratings.begin(), past.ratings.end(),
                                    [&](const RatingUsed& x) { return x.key == rating.key; });
    ASSERT_NE(found, past.ratings.end());
    EXPECT_GE(found->used, r.plan.flown[Phase::takeOff].duration - 1.0);
    // Reduced after 100 s: a hundred seconds, whatever is read later.
    r.happened.moments.push_back({"at-climb-power", {}, off + 100.0, {}});
    for (const auto& x : r.now(off + 400.0).ratings)
        if (x.key == rating.key && r.plan.flown[Phase::climb].rating != rating.key) {
            EXPECT_NEAR(x.used, 100.0, 2.0);
            EXPECT_FALSE(x.runs);
        }
}

TEST(AloftNext, ATankThatIsLateIsTold) {
    Aloft r("farrier-summer");
    r.moments("at-top-of-climb");
    const auto& changes = r.plan.flown.tankChanges;
    const auto feed = std::find_if(changes.begin(), changes.end(), [](const auto& c) {
        return c.kind == flight::TankChange::Kind::feed && c.from >= 0 && c.phase == Phase::cruise;
    });
    ASSERT_NE(feed, changes.end());
    const auto now = r.now(r.of("at-top-of-climb") + 10.0);
    const auto item = std::find_if(now.next.begin(), now.next.end(),
                                   [](const NextItem& i) { return i.kind == NextItem::Kind::tank; });
    ASSERT_NE(item, now.next.end());
    const auto next = std::find_if(changes.begin(), changes.end(), [&](const auto& c) {
        return c.kind == flight::TankChange::Kind::feed && c.from >= 0 && c.time > now.plan - 1.0;
    });
    EXPECT_NEAR(*item->in, next->time - now.plan, 5.0);
    // Half more is burnt, by two flow meters: the tank is due in two thirds of the time.
    const double flow = r.plan.flown.cruiseFuelFlow / static_cast<double>(r.notes().engineCount());
    for (const double t : {60.0, 200.0, 400.0, 600.0})
        for (const auto& p : r.notes().positions)
            r.read(Gauge::fuelFlow, p.id, r.of("at-top-of-climb") + t, 1.12 * flow);
    const auto bent = r.now(r.of("at-top-of-climb") + 610.0);
    EXPECT_NEAR(std::exp(bent.today.fuel.burn), 1.12, 0.03);
    EXPECT_GT(bent.here.burn, 1.08);
    EXPECT_LT(bent.here.endurance, r.now(r.of("at-top-of-climb") + 610.0, {false, {}, {}}).here.endurance * 0.95);
}

TEST(AloftNext, WhatIsDoneIsCalledForAgainOnlyWhenItIsDueAgain) {
    Aloft r("lorimer-spring"); // ice may form in its cruise
    r.moments("at-top-of-climb");
    const double level = r.of("at-top-of-climb");
    const auto ice = [&](double at) -> std::optional<double> {
        for (const auto& i : r.now(at).next)
            if (i.id == "ice")
                return i.in;
        return std::nullopt;
    };
    ASSERT_TRUE(ice(level + 60.0));
    EXPECT_NEAR(*ice(level + 60.0), 540.0, 2.0);
    EXPECT_NEAR(*ice(level + 700.0), -100.0, 2.0); // overdue, and it stays
    r.happened.done.push_back({"ice", {}, level + 700.0});
    EXPECT_NEAR(*ice(level + 710.0), 590.0, 2.0);
    // Oil pressure that was looked at is not called for.
    Aloft s("lorimer-spring");
    s.moments("at-first-fire");
    const auto fired = s.happened.moments.front();
    const auto called = [&](double at) {
        for (const auto& i : s.now(at).next)
            if (i.kind == NextItem::Kind::oilPressure)
                return true;
        return false;
    };
    EXPECT_TRUE(called(fired.at + 5.0));
    s.happened.done.push_back({"oil-pressure", fired.engine, fired.at + 8.0});
    EXPECT_FALSE(called(fired.at + 10.0));
}

TEST(AloftToday, EnduranceIsNotLengthenedByOneGauge) {
    Aloft r("lorimer-spring");
    r.moments("at-top-of-climb");
    const double level = r.of("at-top-of-climb");
    const double each = r.plan.flown.cruiseFuelFlow / static_cast<double>(r.notes().engineCount());
    const double before = r.now(level + 1500.0, {false, {}, {}}).here.endurance;
    r.read(Gauge::fuelFlow, r.notes().positions[0].id, level + 300.0, 0.9 * each);
    const auto one = r.now(level + 1500.0);
    EXPECT_LT(one.today.fuel.burn, -0.02); // it is seen
    EXPECT_TRUE(one.here.shortenedOnly);
    EXPECT_DOUBLE_EQ(one.here.endurance, before); // and not flown on
    // A gauge and a meter that agree.
    const double left =
        r.plan.flown.fuelAtStart -
        0.9 * (r.plan.flown.fuelAtStart - flight::sampleAt(r.plan.flown.samples, level + 1300.0)[Gauge::fuel]);
    r.read(Gauge::fuel, {}, level + 1300.0, left);
    r.read(Gauge::fuelFlow, r.notes().positions[0].id, level + 1400.0, 0.9 * each);
    const auto two = r.now(level + 1500.0);
    EXPECT_FALSE(two.here.shortenedOnly);
    EXPECT_GT(two.here.endurance, before);
    // More than planned shortens at once, by one reading.
    Aloft more("lorimer-spring");
    more.moments("at-top-of-climb");
    more.read(Gauge::fuelFlow, more.notes().positions[0].id, level + 300.0, 1.15 * each);
    EXPECT_LT(more.now(level + 1500.0).here.endurance, before);
}

TEST(AloftToday, TheReservesVerdictIsNotLoosenedByOneGauge) {
    // As much fuel as leaves the reserve less a little: red by the plan, and not mended by a hopeful meter.
    Aloft r("lorimer-spring");
    r.moments("at-top-of-climb");
    const double level = r.of("at-top-of-climb");
    const double each = r.plan.flown.cruiseFuelFlow / static_cast<double>(r.notes().engineCount());
    r.plan.flown.reserveFuel += r.plan.flown.fuelAtEnd - r.plan.flown.reserveFuel - r.plan.flown.alternateFuel + 5e-3;
    ASSERT_EQ(r.now(level + 1500.0).here.verdict.colour(), watch::Colour::red);
    r.read(Gauge::fuelFlow, r.notes().positions[0].id, level + 300.0, 0.9 * each);
    const auto one = r.now(level + 1500.0);
    ASSERT_TRUE(one.here.shortenedOnly);
    EXPECT_GT(one.here.landing.value, one.here.must); // the estimate hopes
    EXPECT_EQ(one.here.verdict.colour(), watch::Colour::red);
}

TEST(AloftNext, ATankThatFeedsIsNotCalledForAndTheOneChosenByHandIsTheOneThatIsLeft) {
    Aloft r("farrier-summer");
    r.moments("at-top-of-climb");
    const double level = r.of("at-top-of-climb");
    const auto called = [&](double at) -> const NextItem {
        for (const auto& i : r.now(at).next)
            if (i.kind == NextItem::Kind::tank)
                return i;
        return {};
    };
    const auto first = called(level + 10.0);
    ASSERT_FALSE(first.id.empty());
    // It is changed to now, well before its time.
    r.happened.moments.push_back({first.id, {}, level + 20.0, {}});
    const auto now = r.now(level + 400.0);
    ASSERT_GE(now.here.feeding, 0);
    const auto feeding = static_cast<std::size_t>(now.here.feeding);
    EXPECT_EQ("tank/" + r.notes().fuel.tanks[feeding].id, first.id);
    EXPECT_NE(called(level + 400.0).id, first.id);
    // And all that was burnt since then came out of it.
    const auto before = r.now(level + 20.5);
    EXPECT_NEAR(before.here.tanks[feeding] - now.here.tanks[feeding], 379.5 * r.plan.flown.cruiseFuelFlow,
                0.03 * 379.5 * r.plan.flown.cruiseFuelFlow);
}

TEST(AloftToday, TwoReadingsInTheWarmUpGiveTodaysWarmUp) {
    Aloft r("mercer-frost");
    r.moments("at-first-fire");
    // All four have fired by the plan.
    r.happened.moments.clear();
    double last = 0.0;
    for (const auto& p : plannedMoments(r.plan.flown, r.notes()))
        if (p.row->key == "at-first-fire") {
            r.happened.moments.push_back({"at-first-fire", p.engine, p.at, {}});
            last = p.at;
        }
    const auto planned = r.now(last + 240.0);
    ASSERT_TRUE(planned.toRunUp);
    // Oil on each engine rises by three quarters of what is expected.
    for (const double t : {120.0, 230.0})
        for (const auto& needle : r.now(last + t).needles)
            if (needle.gauge == Gauge::oilTemperature) {
                const double cold = r.plan.flown.engines.front().points.front().oil;
                r.read(Gauge::oilTemperature, needle.engine, last + t, cold + 0.75 * (needle.expected.value - cold));
            }
    const auto bent = r.now(last + 240.0);
    ASSERT_TRUE(bent.toRunUp);
    EXPECT_GT(bent.toRunUp->value, planned.toRunUp->value + 15.0);
    // Switched off, it is the plan again.
    const auto off = r.now(last + 240.0, {false, {}, {}});
    EXPECT_NEAR(off.toRunUp->value, planned.toRunUp->value, 1.0);
}

TEST(AloftToday, AReadingOutOfAllLikelihoodIsAskedAboutAndStandsWhenToldTo) {
    Aloft r("farrier-summer");
    r.moments("at-top-of-climb");
    const double level = r.of("at-top-of-climb");
    const Gauge heads = headOrCoolantGauge(r.notes());
    const auto& id = r.notes().positions[0].id;
    const auto expected = [&](double t) {
        for (const auto& n : r.now(t).needles)
            if (n.gauge == heads && n.engine == id)
                return n.expected.value;
        return 0.0;
    };
    const double e = expected(level + 900.0);
    r.read(heads, id, level + 900.0, e + 2.0);
    r.read(heads, id, level + 1800.0, e + 32.0); // a ten misread, and more
    const auto now = r.now(level + 1810.0);
    ASSERT_EQ(now.today.asked.size(), 1u);
    EXPECT_EQ(now.today.asked.front().reading.value, e + 32.0);
    EXPECT_NE(now.asks.front().sentence().find("misread"), std::string::npos);
    EXPECT_NEAR(expected(level + 1810.0), e + 2.0, 3.0); // not believed
    // A needle that was read stands in its own place all the same: nothing is foretold over it.
    for (const auto& n : now.needles)
        if (n.gauge == heads && n.engine == id) {
            EXPECT_EQ(n.read, e + 32.0);
        }
    // A second like it asks another question.
    r.read(heads, id, level + 1900.0, e + 33.0);
    const auto again = r.now(level + 1910.0);
    bool lever = false;
    for (const auto& a : again.today.asked)
        lever = lever || a.again;
    EXPECT_TRUE(lever);
    // And where whoever read it stands by it, it counts.
    for (auto& x : r.happened.readings)
        x.believed = true;
    EXPECT_TRUE(r.now(level + 1910.0).today.asked.empty());
    EXPECT_GT(expected(level + 1910.0), e + 6.0);
}

TEST(AloftToday, LimitsDoNotMove) {
    Aloft r("farrier-summer");
    r.moments("at-top-of-climb");
    const double level = r.of("at-top-of-climb");
    const Gauge heads = headOrCoolantGauge(r.notes());
    const auto band = r.notes().gauges.at(heads).in(Phase::cruise);
    ASSERT_TRUE(band.limitHigh);
    for (const double t : {300.0, 900.0, 1500.0})
        for (const auto& p : r.notes().positions)
            r.read(heads, p.id, level + t, *band.limitHigh + 15.0);
    for (auto& x : r.happened.readings)
        x.believed = true;
    for (const auto& n : r.now(level + 2400.0).needles)
        if (n.gauge == heads) {
            EXPECT_EQ(n.verdict.colour(), watch::Colour::red); // however used to it one is
        }
}

TEST(AloftFlights, WhatIsSaidAlongTheWayIsBetterThanThePlanAndKnowsHowSureItIs) {
    const int flights = test::thorough() ? 96 : 11;
    const char* demos[] = {"lorimer-spring", "farrier-summer", "thatcher-lesson", "wheelwright-windy", "sexton-meadow"};
    double plan = 0.0, now = 0.0;
    int cases = 0, covered = 0, misread = 0, asked = 0, good = 0, cried = 0, lengthened = 0;
    for (int i = 0; i < flights; ++i) {
        const auto judged = bench::judgeFlight(test::loaded(demos[i % 5]), 40'000 + static_cast<std::uint64_t>(i));
        for (const auto& x : judged.foretold)
            if (std::abs(x.plan) > 0.0) {
                plan += 1.0;
                now += std::abs(x.now) / std::abs(x.plan) < 1.0 ? 0.0 : 1.0;
                ++cases;
                covered += x.covered;
            }
        misread += judged.misread;
        asked += judged.asked;
        good += judged.good;
        cried += judged.cried;
        lengthened += judged.lengthened;
        EXPECT_LE(judged.rating, 2.0);
    }
    ASSERT_GT(cases, 15);
    EXPECT_LT(now / plan, 0.5); // worse than the plan in fewer than half
    EXPECT_GE(covered, 0.75 * cases);
    EXPECT_GE(asked, 0.85 * misread);
    EXPECT_LE(cried, 0.03 * good + 1.0);
    EXPECT_EQ(lengthened, 0);
}

} // namespace
namespace {
TEST(AloftClock, SleptSetOrStartedAgainItComesBackAtTheRightNowOrAsks) {
    const aloft::Stamp kept{"boot-a", 1'000'000, 1'764'673'800'000};
    // An hour's sleep.
    auto p = aloft::passed(kept, {"boot-a", 4'600'000, 1'764'677'400'000});
    EXPECT_EQ(p.milliseconds, 3'600'000);
    EXPECT_TRUE(p.certain);
    EXPECT_EQ(p.says, "");
    // The clock set back by half an hour: a minute went by.
    p = aloft::passed(kept, {"boot-a", 1'060'000, 1'764'673'860'000 - 1'800'000});
    EXPECT_EQ(p.milliseconds, 60'000);
    EXPECT_TRUE(p.certain);
    EXPECT_NE(p.says.find("back by 30:00"), std::string::npos) << p.says;
    // Started again: asked, and the clock's answer is offered.
    p = aloft::passed(kept, {"boot-b", 20'000, 1'764'673'800'000 + 600'000});
    EXPECT_EQ(p.milliseconds, 600'000);
    EXPECT_FALSE(p.certain);
    // And where the clock cannot be right, nothing is offered.
    p = aloft::passed(kept, {"boot-b", 20'000, 1'764'673'800'000 - 5000});
    EXPECT_EQ(p.milliseconds, 0);
    EXPECT_FALSE(p.certain);
    EXPECT_EQ(aloft::stampFrom(aloft::textOf(kept)), kept);
    EXPECT_FALSE(aloft::stampFrom("boot 1"));
    EXPECT_FALSE(aloft::stampFrom("boot x 3"));
    const auto now = aloft::stampNow();
    EXPECT_FALSE(now.boot.empty());
    EXPECT_GT(now.running, 0);
}
} // namespace
