// SPDX-License-Identifier: GPL-3.0-or-later
// What becomes of practice over time: per person and type, skill by skill.
#include "rehearse/practice_log.h"
#include "test_data.h"
#include <algorithm>

namespace {
using namespace amber;
using rehearse::Practised;

TEST(PracticeLog, WrittenAndReadAgainItIsTheSameAndALineThatIsNoneIsToldAndKeepsTheRest) {
    const std::vector<Practised> log{{"2026-11-01", "A. Miller, jun.", "Lorimer L.4", "start", 14, 12},
                                     {"2026-11-02", "", "Lorimer L.4", "faults", 1, 0}};
    Problems problems;
    const std::string text = std::string(rehearse::logHead) + rehearse::writeLog(log);
    EXPECT_EQ(rehearse::readLog(text, "p.csv", problems), log);
    EXPECT_TRUE(problems.empty());
    const auto spoilt = rehearse::readLog(text + "2026-11-03,x,y,start,5,6\n2026-11-03,x,y,start,none,0\n" +
                                              "2026-11-03,x,y,start,3,3\n",
                                          "p.csv", problems);
    EXPECT_EQ(spoilt.size(), 3u);
    ASSERT_EQ(problems.size(), 2u);
    EXPECT_NE(problems[0].text().find("p.csv:4"), std::string::npos) << problems[0].text();
    EXPECT_NE(problems[1].text().find("p.csv:5"), std::string::npos) << problems[1].text();
}

TEST(PracticeLog, TheWeakestSkillOfTheLastThreeRehearsalsStandsFirst) {
    std::vector<Practised> log;
    const auto add = [&](const char* who, const char* skill, std::size_t asked, std::size_t well) {
        log.push_back({"2026-11-01", who, "T", skill, asked, well});
    };
    add("a", "start", 10, 0); // long ago: it does not count any more
    for (int i = 0; i < 3; ++i)
        add("a", "start", 10, 9);
    add("a", "climb", 10, 8);
    add("a", "climb", 30, 18);
    add("b", "climb", 10, 0);
    const auto skills = rehearse::skillsOf(log, "a", "T");
    ASSERT_EQ(skills.size(), 2u);
    EXPECT_EQ(skills[0].skill, "climb");
    EXPECT_NEAR(skills[0].lately, 26.0 / 40.0, 1e-12) << "acts weigh alike, not rehearsals";
    EXPECT_EQ(skills[1].shares.size(), 4u);
    EXPECT_NEAR(skills[1].lately, 0.9, 1e-12);
    EXPECT_TRUE(rehearse::skillsOf(log, "a", "another").empty());
}

TEST(PracticeLog, CountsActsThatStoodSoFaultsCalledInTimeAndQuestions) {
    const auto& n = test::farrier().notes;
    rehearse::Debrief d;
    using Done = rehearse::DrillAct::Done;
    for (const auto done : {Done::inTurn, Done::stood, Done::late, Done::leftOut})
        d.acts.push_back({Phase::climb, 0, 0, "x", done, 0.0});
    rehearse::FaultMet in, late, wrong, never;
    in.called = 59.0;
    late.called = 61.0;
    wrong.called = 10.0;
    wrong.wrongly.push_back(powerplant::Fault::valve);
    d.faults = {in, late, wrong, never};
    d.questions.push_back({0, "?", "a", "b", false});
    const auto log = rehearse::practised(d, n, "2026-11-29", "me");
    ASSERT_EQ(log.size(), 3u) << "of other phases nothing was asked";
    EXPECT_EQ(log[0], (Practised{"2026-11-29", "me", n.name, "climb", 4, 2}));
    EXPECT_EQ(log[1], (Practised{"2026-11-29", "me", n.name, "faults", 4, 1}));
    EXPECT_EQ(log[2], (Practised{"2026-11-29", "me", n.name, "questions", 1, 0}));
}
} // namespace
