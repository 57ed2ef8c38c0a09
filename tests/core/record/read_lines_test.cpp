// SPDX-License-Identifier: GPL-3.0-or-later
// What is read in a phase beside the plan, and a whole scan in one line.
#include "record/planned.h"
#include "record/read_lines.h"
#include "record/run_of.h"
#include "test_data.h"
#include "units/unit_table.h"
#include <filesystem>

namespace {
using namespace amber;
using record::ReadLine;

std::vector<ReadLine> linesOf(const std::string& demo, Phase phase) {
    const auto& l = test::loaded(demo);
    return record::readLines(plan::makePlan(*l.aircraft, *l.sortie), l.aircraft->notes, phase);
}
std::size_t find(const std::vector<ReadLine>& lines, std::string_view what) {
    const auto at = std::find_if(lines.begin(), lines.end(), [&](const ReadLine& l) { return l.what == what; });
    EXPECT_NE(at, lines.end()) << what;
    return static_cast<std::size_t>(at - lines.begin());
}

TEST(ReadLines, EveryNeedleThatThePlanExpectsIsReadOnceWithItsFigure) {
    for (const auto& demo : test::demoNames()) {
        const auto& l = test::loaded(demo);
        const auto plan = plan::makePlan(*l.aircraft, *l.sortie);
        for (std::size_t i = 0; i < plannedPhases; ++i) {
            const auto phase = static_cast<Phase>(i);
            const auto lines = record::readLines(plan, l.aircraft->notes, phase);
            std::set<std::string> seen;
            for (const auto& line : lines) {
                EXPECT_TRUE(seen.insert(line.what).second) << demo << " " << keyOf(phase) << " " << line.what;
                ASSERT_TRUE(record::whatOf(line.what) || record::isOfNotes(line.what)) << line.what;
            }
            for (const auto& e : plan[phase].expect) {
                const auto& line = lines.at(find(lines, nameOf(e.gauge).key));
                EXPECT_EQ(line.unit, &l.aircraft->notes.unitOf(e.gauge));
                EXPECT_GT(line.span, 0.0);
                if (line.moment == e.moment)
                    EXPECT_EQ(line.planned, e.value) << demo << " " << line.what;
            }
        }
    }
}

TEST(ReadLines, TheStartIsTimedAndCountedAndTheMagnetosAreReadOnTheRunUp) {
    const auto start = linesOf("lorimer-spring", Phase::start);
    ASSERT_GE(start.size(), 5u);
    EXPECT_EQ(start[0].what, "prime");
    const auto& l = test::loaded("lorimer-spring");
    // This airframe's engines do not like the same dose: each its own, as the start's page has it.
    const auto plan = plan::makePlan(*l.aircraft, *l.sortie);
    EXPECT_FALSE(start[0].planned);
    ASSERT_EQ(start[0].each.size(), 2u);
    for (std::size_t e = 0; e < 2; ++e) {
        const auto extra = l.sortie->airframe.extraPrime.find(l.aircraft->notes.positions[e].id);
        EXPECT_EQ(start[0].each[e],
                  plan.prime.dose + (extra == l.sortie->airframe.extraPrime.end() ? 0.0 : extra->second));
    }
    EXPECT_EQ(start[0].origin, Origin::logged);
    EXPECT_EQ(start[2].unit, units::second.spec);
    const auto runUp = linesOf("lorimer-spring", Phase::runUp);
    // The lines of the sheet in its order, each engine's; the reference beside the day's figure.
    std::size_t at = 0;
    for (const auto& line : plan.runUpSheet.lines) {
        if (line.kind == watch::SheetKind::computed)
            continue;
        ASSERT_TRUE(runUp.at(at).sheet) << line.id;
        EXPECT_EQ(runUp[at].sheet->id, line.id);
        EXPECT_EQ(runUp[at].want, line.want);
        ++at;
    }
    const auto& reference = runUp.at(find(runUp, "static-rpm"));
    ASSERT_TRUE(reference.planned);
    EXPECT_NEAR(*reference.planned, plan.flown.referenceRpm.si(), 1e-9);
    EXPECT_LT(find(runUp, "magneto-left"), find(runUp, "magneto-right"));
    EXPECT_FALSE(linesOf("lorimer-spring", Phase::load).back().eachEngine) << "fuel is the aircraft's";
}

TEST(ReadTyped, TheSheetTakesAFallWithItsMannerAndTheWalkRoundADefectInWords) {
    const auto runUp = linesOf("lorimer-spring", Phase::runUp);
    const auto& left = runUp.at(find(runUp, "magneto-left"));
    const auto slow = record::readTyped(left, "80 slow");
    ASSERT_TRUE(slow) << slow.error();
    EXPECT_NEAR(slow.value().value, 80.0 / 60.0, 1e-9);
    EXPECT_EQ(slow.value().words, "80 rpm, slow");
    EXPECT_NE(record::readTyped(left, "80 purple").error().find("is not how rpm fall"), std::string::npos);
    const auto walk = linesOf("lorimer-spring", Phase::walkRound);
    const auto& l = test::loaded("lorimer-spring");
    std::size_t items = 0, looks = 0, readings = 0;
    for (const auto& station : l.aircraft->notes.walk.stations)
        items += station.items.size();
    EXPECT_EQ(walk.size(), items) << "every item of the path";
    for (const auto& line : walk) {
        ASSERT_TRUE(line.item);
        if (line.item->kind == WalkItemKind::look) {
            ++looks;
            EXPECT_EQ(record::readTyped(line, "a dent").value(),
                      (record::Typed{record::Entry::Kind::words, 0.0, "a dent"}));
            EXPECT_EQ(record::readTyped(line, "in order").value().kind, record::Entry::Kind::looked);
        } else {
            ++readings;
            EXPECT_FALSE(record::readTyped(line, "a dent")) << line.title;
        }
    }
    EXPECT_GT(looks, 5u);
    EXPECT_GT(readings, 2u);
}

TEST(Planned, EachEngineHasTheDoseThatItLikes) {
    const auto& l = test::loaded("lorimer-spring");
    Sortie s = *l.sortie;
    s.airframe.extraPrime = {{l.aircraft->notes.positions[1].id, 2.0}};
    const auto plan = plan::makePlan(*l.aircraft, s);
    const auto of = [&](const std::string& engine) { return record::plannedOf(plan, Phase::start, "prime", engine); };
    EXPECT_EQ(of(l.aircraft->notes.positions[0].id), plan.prime.dose);
    EXPECT_EQ(of(l.aircraft->notes.positions[1].id), plan.prime.dose + 2.0);
    EXPECT_FALSE(of({})) << "no figure is all engines'";
}

TEST(QuickLine, OneFigureIsEveryEnginesAndStrokesAreOneEach) {
    const auto lines = linesOf("lorimer-spring", Phase::cruise);
    const auto head = find(lines, "head"), rpm = find(lines, "rpm");
    std::string text;
    for (std::size_t i = 0; i < lines.size(); ++i)
        text += i == head ? "182/201 " : i == rpm ? " 2,100 " : i == 0 ? ". " : "- ";
    const auto read = record::readQuickLine(lines, 2, text);
    ASSERT_TRUE(read) << read.error();
    ASSERT_EQ(read.value().size(), (head == 0 || rpm == 0 ? 0u : 2u) + 4u);
    for (const auto& r : read.value()) {
        if (r.line == head) // °C
            EXPECT_NEAR(r.typed.value, r.engine == 0 ? 455.15 : 474.15, 1e-9);
        else if (r.line == rpm)
            EXPECT_NEAR(r.typed.value, units::rpm.spec->scale * 2100, 1e-9);
        else
            EXPECT_EQ(r.typed.kind, record::Entry::Kind::looked) << "looked, in its band: no figure";
    }
}

TEST(QuickLine, WhatCannotBeReadIsRefusedWholeWithItsPlace) {
    const auto lines = linesOf("lorimer-spring", Phase::cruise);
    const auto why = [&](const std::string& text, std::size_t engines = 2) {
        const auto read = record::readQuickLine(lines, engines, text);
        return read ? std::string("taken") : read.error();
    };
    EXPECT_EQ(why("1/2/3").find(lines[0].title + ": \"1/2/3\" has 3 figures for 2 engines"), 0u) << why("1/2/3");
    EXPECT_NE(why("x").find(lines[0].title), std::string::npos) << why("x");
    std::string many;
    for (std::size_t i = 0; i <= lines.size(); ++i)
        many += "- ";
    EXPECT_NE(why(many).find("one too many"), std::string::npos);
    EXPECT_NE(why("  ").find("Nothing was read"), std::string::npos);
    EXPECT_NE(why("- -").find("Nothing was read"), std::string::npos) << "dashes are not readings";
    EXPECT_NE(why("99999999").find("not plausible"), std::string::npos) << why("99999999");
}

TEST(RunOf, TheSortieOfARunIsReadFromAnywhereAndPlansTheSame) {
    const std::string path = std::filesystem::absolute(test::dataPath("demo/lorimer-spring.toml")).string();
    const auto l = flight::loadSortie(path);
    ASSERT_TRUE(l.ok());
    const auto run = record::runOf(*l.sortie, path, l.aircraft->notes, "0001", 5);
    EXPECT_EQ(run.airframe, l.sortie->airframe.registration);
    EXPECT_EQ(run.type, l.aircraft->notes.name);
    const auto again = flight::loadSortieText(run.sortie, "/nowhere/run.toml");
    ASSERT_TRUE(again.ok()) << (again.problems.empty() ? "" : again.problems.front().text());
    const auto one = plan::makePlan(*l.aircraft, *l.sortie), two = plan::makePlan(*again.aircraft, *again.sortie);
    for (std::size_t i = 0; i < plannedPhases; ++i)
        EXPECT_NEAR(two.phases[i].duration, one.phases[i].duration, 1e-3 * std::max(1.0, one.phases[i].duration));
    EXPECT_NEAR(two[Phase::climb].fuel, one[Phase::climb].fuel, 1e-6);
}

} // namespace
