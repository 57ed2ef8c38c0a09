// SPDX-License-Identifier: GPL-3.0-or-later
// The walk-round: what is found is judged, what the gauges show on the ground follows attitude and contents.
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include "watch/walk_round.h"
#include <algorithm>
#include <fmt/format.h>
#include <rapidcheck/gtest.h>

namespace {
using namespace amber;
using watch::WalkConditions;

const TypeNotes& walkNotes() {
    return test::lorimer().notes;
}
const watch::WalkFinding& finding(const watch::WalkRound& walk, const std::string& key) {
    for (const auto& stop : walk.stops)
        for (const auto& f : stop.items)
            if (f.key == key)
                return f;
    throw std::runtime_error("no item " + key);
}
const Tank& tank(const std::string& id) {
    return *std::find_if(walkNotes().fuel.tanks.begin(), walkNotes().fuel.tanks.end(),
                         [&](const Tank& t) { return t.id == id; });
}
double gallons(double us) {
    return us * units::usGallon.spec->scale;
}

TEST(WalkRound, NothingFoundIsNothingWrong) {
    const auto walk = watch::walkRound(walkNotes(), {}, {});
    EXPECT_EQ(walk.seen, 0);
    EXPECT_GT(walk.items, 20);
    EXPECT_TRUE(walk.defects.empty());
    EXPECT_EQ(walk.stops.size(), walkNotes().walk.stations.size());
    EXPECT_EQ(walk.stops.front().open, static_cast<int>(walk.stops.front().items.size()));
}

TEST(WalkRound, AReadingIsJudgedAndAStopperStopsTheFlight) {
    const auto judged = [](const std::string& text) {
        return finding(watch::walkRound(walkNotes(), {{"stbd-engine/oil-starboard", text}}, {}),
                       "stbd-engine/oil-starboard")
            .verdict;
    };
    EXPECT_EQ(judged("21 US gal").colour(), watch::Colour::normal);
    EXPECT_EQ(judged("19 US gal").colour(), watch::Colour::amber) << "short, yet over the least";
    EXPECT_NE(judged("19 US gal").sentence().find("normal from 20 US gal: 1 US gal short"), std::string::npos)
        << judged("19 US gal").sentence();
    EXPECT_EQ(judged("17 US gal").colour(), watch::Colour::red);
    EXPECT_NE(judged("17 US gal").sentence().find("stops the flight"), std::string::npos);
    EXPECT_EQ(judged("75 l").colour(), watch::Colour::amber) << "other units are read";
}

TEST(WalkRound, WhatIsNoStopperIsAmberHoweverLow) {
    const auto walk = watch::walkRound(walkNotes(), {{"tail/tail-wheel-tyre", "20 lbf/in²"}}, {});
    EXPECT_EQ(finding(walk, "tail/tail-wheel-tyre").verdict.colour(), watch::Colour::amber);
    ASSERT_EQ(walk.defects.size(), 1u);
    EXPECT_EQ(walk.defects.front().where, "Tail");
}

TEST(WalkRound, SomethingLookedAtIsInOrderOrWrittenUp) {
    const auto walk = watch::walkRound(
        walkNotes(), {{"nose/pitot-covers", std::string(watch::inOrder)}, {"tail/de-icer-boots", "hole at the root"}},
        {});
    EXPECT_EQ(walk.seen, 2);
    ASSERT_EQ(walk.defects.size(), 1u);
    EXPECT_EQ(walk.defects.front().verdict.sentence(), "De-icer boots: hole at the root.");
    const auto locked = watch::walkRound(walkNotes(), {{"nose/pitot-covers", "still on"}}, {});
    EXPECT_EQ(locked.defects.front().verdict.colour(), watch::Colour::red);
}

TEST(WalkRound, RedDefectsComeFirst) {
    const auto walk = watch::walkRound(
        walkNotes(),
        {{"nose/landing-lamp", "cracked"}, {"port-leg/tyre", "30 lbf/in²"}, {"tail/de-icer-boots", "torn"}}, {});
    ASSERT_EQ(walk.defects.size(), 3u);
    EXPECT_EQ(walk.defects.front().where, "Port leg");
    EXPECT_EQ(walk.defects.front().verdict.colour(), watch::Colour::red);
}

TEST(WalkRound, ADipShortOfThePlanIsWrittenUpAndThePlanFliesOnTheDip) {
    auto d = test::loadDemo("lorimer-spring");
    d.sortie->contents["rear"] = Volume::si(gallons(180));
    d.sortie->walk.found = {{"stbd-tip/dip-rear", "150 US gal"}};
    const auto p = plan::makePlan(*d.aircraft, *d.sortie);
    const auto& f = finding(p.walk, "stbd-tip/dip-rear");
    EXPECT_EQ(f.verdict.colour(), watch::Colour::amber);
    EXPECT_NE(f.verdict.sentence().find("30 US gal less than the plan counts on"), std::string::npos)
        << f.verdict.sentence();
    auto other = *d.sortie;
    other.walk.found.clear();
    EXPECT_NEAR(flight::fly(*d.aircraft, other).fuelAtStart - p.flown.fuelAtStart, gallons(30), 1e-9);
}

TEST(WalkRound, ADipOfMoreThanTheTankHoldsCannotBe) {
    auto d = test::loadDemo("lorimer-spring");
    const double holds = tank("rear").capacity.si();
    const auto colour = [&](double gallonsRead) {
        d.sortie->walk.found = {{"stbd-tip/dip-rear", fmt::format("{:.1f} US gal", gallonsRead)}};
        const auto p = plan::makePlan(*d.aircraft, *d.sortie);
        return finding(p.walk, "stbd-tip/dip-rear").verdict.colour();
    };
    EXPECT_EQ(colour(1.005 * holds / gallons(1)), watch::Colour::normal) << "a hundredth is the stick's";
    EXPECT_EQ(colour(1.05 * holds / gallons(1)), watch::Colour::amber);
}

TEST(WalkRound, AStopperHoldsThePhaseAndTheStartRed) {
    auto d = test::loadDemo("lorimer-spring");
    d.sortie->walk.found = {{"port-engine/oil-port", "12 US gal"}};
    const auto p = plan::makePlan(*d.aircraft, *d.sortie);
    EXPECT_EQ(p[Phase::walkRound].worst.colour(), watch::Colour::red);
    EXPECT_EQ(p[Phase::start].worst.colour(), watch::Colour::red);
    EXPECT_NE(p[Phase::start].worst.sentence().find("Not to be started"), std::string::npos);
}

TEST(GroundGauge, FollowsTheTableAndSaysWhereTheFigureIsFrom) {
    const Tank& front = tank("front");
    const auto at = [&](double held, double attitude) {
        return *watch::groundGauge(front, Volume::si(gallons(held)), attitude);
    };
    EXPECT_NEAR(at(200, 11.5).shown.si(), gallons(228), 1e-9);
    EXPECT_EQ(at(200, 11.5).origin, Origin::notes);
    EXPECT_EQ(at(250, 11.5).origin, Origin::between);
    EXPECT_NEAR(at(250, 11.5).shown.si(), gallons(281), 1e-9) << "half way between 228 and 334";
    EXPECT_NEAR(at(200, 0).shown.si(), gallons(198), 1e-9) << "nearly right when it is level";
    const double half = at(200, 5.75).shown.si();
    EXPECT_NEAR(half, gallons(213), 1e-9) << "half way between the attitudes";
    EXPECT_NEAR(at(200, 25).shown.si(), at(200, 11.5).shown.si(), 1e-12) << "held at the table's end";
}

TEST(GroundGauge, ATankWithoutGaugeShowsNothing) {
    const auto ostler = test::loadDemo("ostler-bush");
    EXPECT_FALSE(watch::groundGauge(ostler.aircraft->notes.fuel.tanks[0], Volume::si(0.2), 0).has_value());
    const auto p = plan::makePlan(*ostler.aircraft, *ostler.sortie);
    EXPECT_NE(p[Phase::walkRound].groundFuel.at(0).value.find("no gauge"), std::string::npos);
}

RC_GTEST_PROP(GroundGaugeProperty, MoreFuelNeverShowsLess, ()) {
    const Tank& t = tank(*rc::gen::element(std::string("front"), std::string("rear")));
    const double attitude = *rc::gen::inRange(-100, 200) / 10.0;
    const double a = *rc::gen::inRange(0, 1000) / 1000.0 * t.capacity.si(),
                 b = *rc::gen::inRange(0, 1000) / 1000.0 * t.capacity.si();
    const auto low = watch::groundGauge(t, Volume::si(std::min(a, b)), attitude);
    const auto high = watch::groundGauge(t, Volume::si(std::max(a, b)), attitude);
    RC_ASSERT(low && high);
    RC_ASSERT(low->shown.si() <= high->shown.si() + 1e-12);
}

TEST(WalkRound, AGaugeIsComparedWithTheDipAndTheAttitude) {
    auto d = test::loadDemo("lorimer-spring");
    d.sortie->walk.found = {{"stbd-tip/dip-rear", "180 US gal"}, {"cockpit/gauge-rear", "160 US gal"}};
    const auto gauge = [&] {
        return finding(plan::makePlan(*d.aircraft, *d.sortie).walk, "cockpit/gauge-rear").verdict.colour();
    };
    EXPECT_EQ(gauge(), watch::Colour::normal) << "tail down the rear gauge reads 20 less than the dip";
    d.sortie->walk.attitude = 0.0;
    EXPECT_EQ(gauge(), watch::Colour::amber) << "on level trestles it should read the dip";
}

TEST(WalkRound, WhatCannotBeReadIsRefusedWithAReason) {
    const auto* oil = watch::itemOf(walkNotes(), "port-engine/oil-port");
    ASSERT_NE(oil, nullptr);
    EXPECT_EQ(watch::refusal(*oil, "21"), "") << "a bare number is in the cockpit's unit";
    EXPECT_EQ(watch::kept(*oil, "21"), "21 US gal");
    EXPECT_NE(watch::refusal(*oil, "plenty"), "");
    EXPECT_NE(watch::refusal(*oil, "-3"), "");
    EXPECT_NE(watch::refusal(*oil, "40 lbf/in²"), "") << "a pressure is no volume";
    EXPECT_EQ(watch::itemOf(walkNotes(), "port-engine/water"), nullptr);
}

TEST(WalkRound, EveryTypeHasAPathWithEveryTankOnIt) {
    for (const auto& name : test::demoNames()) {
        const auto d = test::loadDemo(name);
        const auto& n = d.aircraft->notes;
        EXPECT_GE(n.walk.stations.size(), 6u) << name;
        EXPECT_GE(n.walk.outline.size(), 3u) << name;
        for (const auto& t : n.fuel.tanks) {
            if (t.removable)
                continue;
            bool dipped = false;
            for (const auto& s : n.walk.stations)
                for (const auto& i : s.items)
                    dipped = dipped || (i.kind == WalkItemKind::dip && i.tank == t.id);
            EXPECT_TRUE(dipped) << name << ": " << t.name;
        }
        bool stopper = false;
        for (const auto& s : n.walk.stations)
            for (const auto& i : s.items)
                stopper = stopper || i.stopper;
        EXPECT_TRUE(stopper) << name;
    }
}

TEST(WalkNotes, FaultsAreNamedWithTheirLine) {
    const auto text = test::fileText(test::dataPath("notes/lorimer-l4.toml"));
    const auto problem = [&](const std::string& from, const std::string& to) {
        const auto reading = readNotes(test::replaced(text, from, to), "lorimer.toml");
        return reading.problems.empty() ? std::string{} : reading.problems.front().text();
    };
    EXPECT_NE(problem("gauge = \"rear\"", "gauge = \"aft\"").find("no tank \"aft\""), std::string::npos);
    EXPECT_NE(problem("id = \"nose\"\nname = \"Nose\"", "id = \"cockpit\"\nname = \"Nose\"").find("stands twice"),
              std::string::npos);
    EXPECT_NE(problem("look = \"whole, dry\"", "looks = \"whole, dry\"").find("lorimer.toml:"), std::string::npos);
    EXPECT_NE(problem("[[0, 0], [60, 44], [120, 101], [180, 160], [220, 203]]", "[[0, 0], [60, 44], [50, 101]]")
                  .find("does not rise"),
              std::string::npos);
    EXPECT_NE(problem("longer = [{ after = \"48 h\", blades = 21 }]", "longer = [{ after = \"48 h\", blades = 9 }]")
                  .find("fewer blades"),
              std::string::npos);
}
} // namespace
