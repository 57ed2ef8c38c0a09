// SPDX-License-Identifier: GPL-3.0-or-later
#include "notes/lever_words.h"
#include "plan/lever_picture.h"
#include "plan/load_plan.h"
#include "plan/plan.h"
#include "test_data.h"
#include "units/text.h"
#include <fmt/format.h>
#include <gmock/gmock.h>
#include <regex>

using namespace amber;
using test::demo;

namespace {

/// Every way to write a figure of that dimension.
std::vector<std::string> written(const plan::Fact& fact) {
    if (fact.id == "flap")
        return {flapText(fact.value)};
    if (!fact.dimension)
        return {formatNumber(fact.value, 0), fmt::format("{:.0f}", fact.value * 100), formatNumber(fact.value, 1)};
    std::vector<std::string> out;
    for (const UnitSpec& unit : unitsOf(*fact.dimension)) {
        out.push_back(formatValue(fact.value, unit));
        if (*fact.dimension == Dimension::rotation)
            out.push_back(formatValue(std::round(fact.value * 6) / 6, unit)); // levers are set to ten turns a minute
    }
    if (*fact.dimension == Dimension::length)
        for (const UnitSpec& unit : unitsOf(Dimension::length))
            out.push_back(formatHeight(fact.value, unit).substr(0, formatHeight(fact.value, unit).find(' ')));
    return out;
}

const plan::SetFigure* figureOf(const plan::Plan& p, Phase phase, const std::string& id) {
    for (const auto& line : p[phase].set)
        for (const auto& figure : line.figures)
            if (figure.fact.id == id)
                return &figure;
    return nullptr;
}

// A figure that a Set line shows is a fact of it first: its words are written from that and from nothing else.
TEST(SetFigures, StandInTheWordsOfTheirLineOnEveryType) {
    std::size_t seen = 0;
    for (const std::string& name : test::demoNames()) {
        const auto p = plan::makePlan(*test::loaded(name).aircraft, *test::loaded(name).sortie);
        for (const auto& phase : p.phases)
            for (const auto& line : phase.set)
                for (const auto& figure : line.figures) {
                    ++seen;
                    ASSERT_TRUE(std::isfinite(figure.fact.value))
                        << name << ": " << line.what << ": " << figure.fact.id;
                    const auto ways = written(figure.fact);
                    EXPECT_TRUE(
                        std::any_of(ways.begin(), ways.end(),
                                    [&](const std::string& w) { return line.value.find(w) != std::string::npos; }))
                        << name << ": " << line.what << " " << line.value << ": " << figure.fact.id << " "
                        << figure.fact.value;
                }
    }
    EXPECT_GT(seen, 200u);
}

TEST(SetFigures, AreTheNotesFiguresInUnitsOfPhysics) {
    const auto p = plan::makePlan(*demo("lorimer").aircraft, *demo("lorimer").sortie);
    const auto* boost = figureOf(p, Phase::takeOff, "boost");
    ASSERT_TRUE(boost);
    EXPECT_NEAR(boost->fact.value, p.flown[Phase::takeOff].setting.boost->si(), 1e-9);
    EXPECT_EQ(boost->fact.dimension, Dimension::manifoldPressure);
    const auto* rpm = figureOf(p, Phase::climb, "rpm");
    ASSERT_TRUE(rpm);
    EXPECT_NEAR(rpm->fact.value * 60, p.flown[Phase::climb].setting.rpm.si() * 60, 1e-6);
    EXPECT_EQ(rpm->origin, Origin::notes) << "a governor holds what the notes say";
    const auto* change = figureOf(p, Phase::climb, "change-height");
    ASSERT_TRUE(change || !p.flown.gearChange());
    if (change) {
        EXPECT_EQ(change->origin, Origin::model) << "the height of the change is reckoned";
        EXPECT_NEAR(change->fact.value, p.flown.gearChange()->height.si(), 1e-9);
    }
}

TEST(SetFigures, AFixedPropellersTurnsInTheAirAreTheModels) {
    for (const std::string& name : test::demoNames()) {
        const auto& a = *test::loaded(name).aircraft;
        const auto p = plan::makePlan(a, *test::loaded(name).sortie);
        if (const auto* rpm = figureOf(p, Phase::cruise, "rpm"))
            EXPECT_EQ(rpm->origin, a.propeller.followsThrottle() ? Origin::model : Origin::notes) << name;
    }
}

TEST(SetFigures, AReversedLeverIsMarkedWhereItIsMoved) {
    std::size_t reversed = 0;
    for (const auto& name : test::demoNames()) {
        const auto& l = test::loaded(name);
        const auto p = plan::makePlan(*l.aircraft, *l.sortie);
        for (const auto& lever : l.aircraft->notes.levers)
            for (const auto& phase : p.phases)
                for (const auto& line : phase.set)
                    if (line.what == lever.name) {
                        EXPECT_EQ(line.reversed, lever.reversed) << name << ": " << lever.name;
                        reversed += lever.reversed;
                    }
    }
    EXPECT_GT(reversed, 0u);
}

TEST(WordFigures, MilesAGallonAreThoseOfTheCockpit) {
    // A kilometre on a litre: 3.785 km on a US gallon are 2.044 nautical miles.
    const auto& n = test::loaded("lorimer-spring").aircraft->notes;
    EXPECT_EQ(plan::milesText(n, 1e6, false), "2.04");
}

TEST(WordFigures, WithoutAControlBoostFallsByAThousandthOfTheAirForEachThousandFeet) {
    const auto& l = test::loaded("lorimer-spring");
    powerplant::Aircraft own = *l.aircraft;
    own.notes.engine.boostControl = false;
    const auto p = plan::makePlan(own, *l.sortie);
    const plan::ClockLine* falls = nullptr;
    for (const auto& c : p[Phase::climb].clocks)
        if (c.fact.id == "boost-falls")
            falls = &c;
    ASSERT_TRUE(falls);
    // The standard air loses 3.5 to 3.6 % of its pressure in the first thousand feet: so does what hangs on it.
    const double share = falls->fact.value / p.flown[Phase::climb].point.manifoldPressure.si();
    EXPECT_NEAR(share, 0.0358, 0.0012);
}

TEST(WordFigures, TheLetDownsRateIsToldInTensOfFeet) {
    const auto& l = test::loaded("ostler-bush");
    const auto p = plan::makePlan(*l.aircraft, *l.sortie);
    for (const auto& c : p[Phase::letDown].clocks)
        if (const auto end = c.value.find(" ft/min"); end != std::string::npos)
            EXPECT_EQ(c.value[end - 1], '0') << c.what << " " << c.value;
}

TEST(LeverFigures, APropellerLeverStandsByItsRpm) {
    // Fully fine at the most, fully coarse at 45 hundredths of it: half-way at 72½.
    const auto& l = test::loaded("lorimer-spring");
    const auto f = flight::fly(*l.aircraft, *l.sortie);
    double most = 0;
    for (const auto& r : l.aircraft->notes.ratings)
        most = std::max(most, r.rpm.si());
    std::size_t seen = 0;
    for (const Phase phase : {Phase::climb, Phase::cruise})
        for (const auto& lever : plan::leversAt(*l.aircraft, *l.sortie, f, f[phase].start + 0.5 * f[phase].duration))
            if (lever.acts == Acts::propeller && !lever.now.empty() && lever.now.front().share) {
                ++seen;
                EXPECT_NEAR(*lever.now.front().share,
                            std::clamp((f[phase].setting.rpm.si() / most - 0.45) / 0.55, 0.0, 1.0), 0.01)
                    << titleOf(phase);
            }
    EXPECT_EQ(seen, 2u);
}

} // namespace
