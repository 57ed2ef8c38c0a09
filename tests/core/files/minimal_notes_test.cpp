// SPDX-License-Identifier: GPL-3.0-or-later
// What an owner begins with: the file of docs/own-aircraft.md, as it stands there, gives a whole drill.
#include "advice/drill_check.h"
#include "audit/audit.h"
#include "hand/careful_hand.h"
#include "plan/plan.h"
#include "reading/notes_reader.h"
#include "test_data.h"
#include "units/text.h"
#include <algorithm>

namespace {
using namespace amber;

/// The indented block of the page.
std::string example() {
    std::istringstream in(test::fileText(test::dataPath("../docs/own-aircraft.md")));
    std::string out;
    for (std::string line; std::getline(in, line);)
        if (line.starts_with("       "))
            out += line.substr(7) + "\n";
    return out;
}
std::shared_ptr<const powerplant::Aircraft> made(const std::string& text, Problems& problems) {
    auto reading = readNotes(text, "my.toml");
    problems = reading.problems;
    if (!reading.notes)
        return nullptr;
    auto a = powerplant::assemble(std::move(*reading.notes), problems);
    return a ? std::make_shared<const powerplant::Aircraft>(std::move(*a)) : nullptr;
}

TEST(MinimalNotes, OfThePageGiveAWholeDrillThatIsSafeAndCanBeDone) {
    const auto text = example();
    EXPECT_LT(std::count(text.begin(), text.end(), '\n'), 95) << "an hour's typing";
    Problems problems;
    const auto a = made(text, problems);
    ASSERT_TRUE(a) << problems.front().text();
    EXPECT_TRUE(cockpit::audit(a->notes).empty()) << cockpit::audit(a->notes).front().text();
    EXPECT_TRUE(advice::checkFlown(*a).empty()) << advice::checkFlown(*a).front().text();
    const auto sortie = flight::plainSortie(a->notes);
    const auto flown = flight::fly(*a, sortie);
    const auto run = hand::doDrill(*a, sortie, flown);
    for (const auto& m : run.missed)
        ADD_FAILURE() << m.sentence;
    const auto plan = plan::makePlan(*a, sortie);
    for (const Phase phase :
         {Phase::start, Phase::runUp, Phase::takeOff, Phase::climb, Phase::letDown, Phase::landing, Phase::stop})
        EXPECT_GE(plan[phase].set.size(), 5u) << keyOf(phase);
    const auto& told = plan[Phase::start].cautions;
    EXPECT_TRUE(std::any_of(told.begin(), told.end(), [](const std::string& c) {
        return c.starts_with("Ours, not from these notes:") && c.find("crank most 20 s") != std::string::npos;
    })) << "on the page where it is used";
    const auto& clocks = plan[Phase::start].clocks;
    const auto starter =
        std::find_if(clocks.begin(), clocks.end(), [](const auto& c) { return c.fact.id == "starter-most"; });
    ASSERT_NE(starter, clocks.end());
    EXPECT_EQ(starter->origin, Origin::ours) << "20 s are not the notes'";
    const auto& stop = plan[Phase::stop].set;
    const auto scavenge = std::find_if(stop.begin(), stop.end(), [](const auto& l) { return l.stepId == "scavenge"; });
    ASSERT_NE(scavenge, stop.end());
    EXPECT_EQ(scavenge->origin, Origin::ours);
    std::size_t practice = 0, all = 0;
    for (const auto& [phase, notes] : a->notes.phases)
        for (const auto& s : notes.steps) {
            ++all;
            practice += s.origin == Origin::practice;
        }
    EXPECT_EQ(practice, all) << "none of it is the notes' own, and says so";
    EXPECT_GT(all, 60u);
}

TEST(MinimalNotes, NoPressureIsAmberByOurOwnEstimate) {
    Problems problems;
    const auto a = made(example(), problems);
    ASSERT_TRUE(a);
    for (const double celsius : {-5.0, 15.0, 35.0}) {
        auto sortie = flight::plainSortie(a->notes);
        sortie.day.oat = Temperature::si(273.15 + celsius);
        sortie.day.dewPoint = Temperature::si(268.15 + celsius);
        for (const auto& f : flight::fly(*a, sortie).findings)
            EXPECT_EQ(f.verdict.sentence().find("Oil pressure"), std::string::npos)
                << celsius << ": " << f.verdict.sentence();
    }
}

TEST(MinimalNotes, OfAnInjectedEngineGiveADrillThatIsSafeAndNoIce) {
    for (const bool mixture : {true, false}) {
        auto text = example();
        const auto engine = text.find("[engine]\n");
        ASSERT_NE(engine, std::string::npos);
        text.insert(engine + 9, "suction_carburettor = false\n");
        if (!mixture) {
            const auto cockpit = text.find("[cockpit]\n");
            ASSERT_NE(cockpit, std::string::npos);
            text.insert(cockpit + 10, "control = [{ id = \"mixture\", acts = \"mixture\", fitted = false }]\n");
        }
        Problems problems;
        const auto a = made(text, problems);
        if (!mixture && !a)
            continue; // notes cannot yet say that there is none
        ASSERT_TRUE(a) << problems.front().text();
        for (const auto& p : cockpit::audit(a->notes))
            ADD_FAILURE() << p.text();
        EXPECT_TRUE(flight::fly(*a, flight::plainSortie(a->notes)).ice.empty()) << "fuel evaporates at no throttle";
    }
}

/// Two booklets of other kinds: a swung four with a wooden propeller and no boost gauge, in kilogrammes and kilometres;
/// a liquid-cooled twelve with two speeds of its blower.
class Booklet : public testing::TestWithParam<const char*> {
protected:
    void SetUp() override {
        Problems problems;
        a = made(test::fileText(test::dataPath(std::string("../tests/fixtures/booklets/") + GetParam() + ".toml")),
                 problems);
        ASSERT_TRUE(a) << problems.front().text();
    }
    std::shared_ptr<const powerplant::Aircraft> a;
};
TEST_P(Booklet, GivesADrillThatIsSafeAndCanBeDone) {
    EXPECT_TRUE(cockpit::audit(a->notes).empty()) << cockpit::audit(a->notes).front().text();
    EXPECT_TRUE(advice::checkFlown(*a).empty()) << advice::checkFlown(*a).front().text();
    EXPECT_LT(a->calibration.worstPower(), 0.045);
    const auto sortie = flight::plainSortie(a->notes);
    const auto flown = flight::fly(*a, sortie);
    const auto run = hand::doDrill(*a, sortie, flown);
    for (const auto& m : run.missed)
        ADD_FAILURE() << m.sentence;
    for (const auto& f : run.findings) // a cold engine is not blamed for being cold
        EXPECT_FALSE(f.verdict.colour() == watch::Colour::red && f.phase <= Phase::warmUp) << f.verdict.sentence();
    const auto plan = plan::makePlan(*a, sortie);
    const auto& runUp = plan[Phase::runUp].set;
    const auto magnetos =
        std::find_if(runUp.begin(), runUp.end(), [](const auto& l) { return l.stepId == "magnetos"; });
    ASSERT_NE(magnetos, runUp.end());
    EXPECT_NE(magnetos->value.find("a small, even drop"), std::string::npos) << magnetos->value;
    EXPECT_EQ(magnetos->origin, Origin::practice);
}
INSTANTIATE_TEST_SUITE_P(OtherKinds, Booklet, testing::Values("wren", "heron"));

TEST(MinimalNotes, NeedlesStandInTheUnitsOfTheBooklet) {
    const auto of = [](const char* name) {
        Problems problems;
        return made(test::fileText(test::dataPath(std::string("../tests/fixtures/booklets/") + name + ".toml")),
                    problems)
            ->notes.cockpit;
    };
    const auto wren = of("wren"), heron = of("heron");
    EXPECT_EQ(wren.pressure->symbol, "kgf/cm²");
    EXPECT_EQ(wren.distance->symbol, "km");
    EXPECT_EQ(wren.weight->symbol, "kg");
    EXPECT_EQ(heron.pressure->symbol, "lbf/in²");
    EXPECT_EQ(heron.distance->symbol, "mi");
    EXPECT_EQ(heron.fuel->symbol, "imp gal");
}

TEST(MinimalNotes, AnEstimatedImpellerIsSettledByTheLinesAndKeptWithThem) {
    Problems problems;
    const auto a = made(test::fileText(test::dataPath("../tests/fixtures/booklets/heron.toml")), problems);
    ASSERT_TRUE(a);
    // 26.06 l: 24.5 cm by size. Two gears at 9,500 and 16,500 ft tell of a greater one.
    EXPECT_NEAR(a->notes.engine.impellerDiameter, 0.245, 0.0005);
    const double fitted = a->model().impellerDiameter;
    EXPECT_GT(fitted, 1.05 * a->notes.engine.impellerDiameter);
    EXPECT_LT(fitted, 1.25 * a->notes.engine.impellerDiameter);
    // Written into the file it makes the same engine again.
    const auto text = engine::withCalibratedBlock(
        test::fileText(test::dataPath("../tests/fixtures/booklets/heron.toml")), a->calibration);
    EXPECT_NE(text.find("impeller = \""), std::string::npos);
    const auto again = made(text, problems);
    ASSERT_TRUE(again) << problems.front().text();
    EXPECT_NEAR(again->model().impellerDiameter, fitted, 1e-5);
    EXPECT_EQ(test::lorimer().model().impellerDiameter, test::lorimer().notes.engine.impellerDiameter)
        << "what the notes give is not fitted";
}

TEST(MinimalNotes, WhatIsEstimatedIsNamedAndOfItsUsualSize) {
    Problems problems;
    const auto a = made(example(), problems);
    ASSERT_TRUE(a);
    const auto& n = a->notes;
    const auto estimate = [&](const char* path) {
        for (const auto& e : n.estimated)
            if (e.path == path)
                return e.text;
        return std::string("none");
    };
    // 1,250 in³ are 20.48 l; the invented nine of that size has an impeller of 24 cm.
    EXPECT_NEAR(n.engine.displacement.si() * 1e3, 20.484, 0.001);
    EXPECT_NEAR(n.engine.impellerDiameter, 0.0825 * std::cbrt(20.484), 0.001);
    EXPECT_EQ(estimate("engine.supercharger.impeller"), "22.6 cm");
    EXPECT_EQ(estimate("engine_start.crank_most"), "20 s");
    EXPECT_EQ(estimate("position"), "one engine");
    EXPECT_EQ(estimate("rating.rpm"), "none") << "what the notes give is not estimated";
    EXPECT_NEAR(n.heat.oilRelief.si(), 85 / 1.12 * 6894.757, 700) << "as high as cold oil stays under 85 lbf/in²";
    EXPECT_NEAR(n.heat.head->si() - 273.15, 212, 0.5) << "8 °C under the top of normal";
    EXPECT_NEAR(n.phase(Phase::letDown).boost->si(), 0.75 * 28 * 3386.389, 200);
    EXPECT_TRUE(test::lorimer().notes.estimated.empty() ||
                std::none_of(test::lorimer().notes.estimated.begin(), test::lorimer().notes.estimated.end(),
                             [](const Estimate& e) { return e.path.starts_with("engine.supercharger"); }));
}

TEST(MinimalNotes, WhatCannotBeEstimatedIsAskedForAllAtOnce) {
    auto text = example();
    for (const char* gone : {"compression = 6.1\n", "diameter = \"9 ft\"\n", "cylinders = 9\n"})
        text = test::replaced(text, gone, "");
    Problems problems;
    EXPECT_FALSE(made(text, problems));
    std::string all;
    for (const auto& p : problems)
        all += p.text() + "\n";
    for (const char* wanted :
         {"engine.compression is missing", "propeller.diameter is missing", "engine.cylinders is missing"})
        EXPECT_NE(all.find(wanted), std::string::npos) << wanted;
}

TEST(MinimalNotes, BookletsInTheirOwnUnitsAreUnderstood) {
    const auto flow = [](const std::string& given) {
        Problems problems;
        auto reading =
            readNotes(test::replaced(example(), "line = [{ gear = \"low\", power = \"330 hp\" }]",
                                     "line = [{ gear = \"low\", power = \"330 hp\", fuel_flow = \"" + given + "\" }]"),
                      "m");
        EXPECT_TRUE(reading.notes) << given << ": "
                                   << (reading.problems.empty() ? "" : reading.problems.front().text());
        return reading.notes ? reading.notes->rating("cruise")->lines.front().fuelFlow->si() * 3600 * 1e3 : 0.0; // l/h
    };
    // 150 lb/h of petrol at 0.72: 150 × 0.45359 / 0.72 = 94.5 l/h; 0.4545 lb/(hp·h) for 330 hp is the same.
    EXPECT_NEAR(flow("150 lb/h"), 94.5, 0.05);
    EXPECT_NEAR(flow("0.45455 lb/(hp·h)"), 94.5, 0.05);
    EXPECT_NEAR(flow("25 US gal/h"), 94.64, 0.01);
    const auto boost = [](const std::string& given) {
        return amber::read<Dimension::manifoldPressure>(given).value().si();
    };
    EXPECT_NEAR(boost("91.44 cmHg"), 36 * 3386.389, 30);
    EXPECT_NEAR(boost("1,219 mbar"), 36 * 3386.389, 30);
    EXPECT_NEAR(amber::read<Dimension::volume>("1,250 in³").value().si(), 1250 * 1.6387064e-5, 1e-9);
    EXPECT_NEAR(amber::read<Dimension::volume>("1250 cu in").value().si(), 1250 * 1.6387064e-5, 1e-9);
}
} // namespace
