// SPDX-License-Identifier: GPL-3.0-or-later
// Questions from the notes, how an answer is marked, and the boxes that space them.
#include "rehearse/questions.h"
#include "rehearse/session.h"
#include "test_data.h"
#include <algorithm>
#include <set>

namespace {
using namespace amber;
using rehearse::CardBoxes;
using rehearse::isRight;
using rehearse::Question;

const Question& asked(const std::vector<Question>& all, const std::string& key) {
    const auto found = std::find_if(all.begin(), all.end(), [&](const Question& q) { return q.key == key; });
    if (found == all.end())
        throw std::runtime_error(key);
    return *found;
}

TEST(Questions, AskWhatTheNotesSayInTheCockpitsUnitsAndNothingTwice) {
    for (const auto& name : test::demoNames()) {
        const auto& n = test::loaded(name).aircraft->notes;
        const auto all = rehearse::questionsOf(n);
        EXPECT_GT(all.size(), 25u) << name;
        std::set<std::string> keys;
        for (const auto& q : all) {
            EXPECT_TRUE(keys.insert(q.key).second) << name << " " << q.key;
            EXPECT_FALSE(q.text.empty());
            EXPECT_NE(q.si.has_value(), !q.choices.empty()) << name << " " << q.key << ": a figure or choices";
            EXPECT_EQ(isRight(q, rehearse::answerOf(q)), true) << name << " " << q.key << ": its own answer is right";
            if (!q.choices.empty()) {
                EXPECT_GE(q.choices.size(), 2u) << q.key;
                EXPECT_LE(q.choices.size(), 4u) << q.key;
                EXPECT_EQ(std::set<std::string>(q.choices.begin(), q.choices.end()).size(), q.choices.size()) << q.key;
                const std::string number = std::to_string(q.right + 1);
                EXPECT_EQ(isRight(q, number), true);
            }
        }
    }
}

TEST(Questions, AFigureIsRightAsNearAsItsGaugeIsReadAndWrongBeyond) {
    const auto all = rehearse::questionsOf(test::lorimer().notes);
    const auto& boost = asked(all, "rating/take-off/boost"); // 45 inHg
    ASSERT_NEAR(*boost.si, 45 * 3386.39, 30);
    EXPECT_EQ(isRight(boost, "45"), true);
    EXPECT_EQ(isRight(boost, " 45 inHg "), true);
    EXPECT_EQ(isRight(boost, "45.2"), true) << "no needle shows it";
    EXPECT_EQ(isRight(boost, "46"), false);
    EXPECT_EQ(isRight(boost, "44"), false);
    EXPECT_EQ(isRight(boost, "high"), std::nullopt);
    EXPECT_EQ(isRight(boost, "  "), std::nullopt);
    const auto& minutes = asked(all, "rating/take-off/minutes");
    EXPECT_EQ(isRight(minutes, "5"), *minutes.si == 300.0);
    EXPECT_EQ(isRight(minutes, "4"), false);
}

TEST(Questions, AReversedLeverIsAskedFirstAndAChoiceOutOfRangeIsNoAnswer) {
    // Of the fleet some have a mixture that goes the other way.
    std::size_t reversed = 0;
    for (const auto& name : test::demoNames()) {
        const auto all = rehearse::questionsOf(test::loaded(name).aircraft->notes);
        for (const auto& q : all)
            reversed += q.reversed ? 1 : 0;
        if (std::none_of(all.begin(), all.end(), [](const Question& q) { return q.reversed; }))
            continue;
        const auto first = CardBoxes().next(all, 100, 7);
        ASSERT_TRUE(first);
        EXPECT_TRUE(all[*first].reversed) << name << ": " << all[*first].key;
        EXPECT_EQ(isRight(all[*first], "9"), std::nullopt);
        EXPECT_EQ(isRight(all[*first], "0"), std::nullopt);
        EXPECT_EQ(isRight(all[*first], all[*first].choices[1 - all[*first].right]), false);
    }
    EXPECT_GT(reversed, 0u);
}

TEST(Questions, WhatOurEstimatesStandInForIsNotAsked) {
    TypeNotes n = test::lorimer().notes;
    const auto has = [&](const std::string& key) {
        const auto all = rehearse::questionsOf(n);
        return std::any_of(all.begin(), all.end(), [&](const Question& q) { return q.key == key; });
    };
    for (const auto& [path, key] : {std::pair{"warming.oil_run_up", "warm-up/oil-run-up"},
                                    {"limits.oil.normal", "limit/oil/normal-to"},
                                    {"limits.oil-pressure.min", "limit/oil-pressure/least"},
                                    {"engine_start.rest", "start/rest"}}) {
        EXPECT_TRUE(has(key)) << key;
        n.estimated.push_back({path, "", ""});
        EXPECT_FALSE(has(key)) << key;
    }
}

TEST(CardBoxes, WhatIsKnownRestsTwiceAsLongEachTimeAndWhatIsMissedComesAgainToday) {
    CardBoxes boxes;
    std::int64_t day = 1'000;
    std::vector<std::int64_t> rests;
    for (int i = 0; i < 7; ++i) {
        boxes.answered("a", true, day);
        rests.push_back(boxes.cards().at("a").due - day);
        day = boxes.cards().at("a").due;
    }
    EXPECT_EQ(rests, (std::vector<std::int64_t>{1, 2, 4, 8, 16, 16, 16}));
    boxes.answered("a", false, day);
    EXPECT_EQ(boxes.cards().at("a").due, day);
    boxes.answered("a", true, day);
    EXPECT_EQ(boxes.cards().at("a").due, day + 1) << "from the first box on";
}

TEST(CardBoxes, WhatWasMissedComesBeforeWhatIsKnownAndNotTwiceRunning) {
    std::vector<Question> all(3);
    all[0].key = "a";
    all[1].key = "b";
    all[2].key = "c";
    CardBoxes boxes;
    boxes.put("a", {3, 50});
    boxes.put("b", {0, 50});
    boxes.put("c", {2, 60});
    EXPECT_EQ(boxes.dueOf(all, 50), 2u) << "c rests";
    EXPECT_EQ(boxes.next(all, 50, 1), 1u);
    EXPECT_EQ(boxes.next(all, 50, 1, "b"), 0u) << "asked just now, it waits for another";
    boxes.answered("a", true, 50);
    EXPECT_EQ(boxes.next(all, 50, 1, "b"), 1u) << "where there is no other it comes again";
    boxes.answered("b", true, 50);
    EXPECT_FALSE(boxes.next(all, 50, 1)) << "nothing is due";
}

TEST(Examined, IsAskedEveryFewMinutesWhileTimeStandsAndNotWhileAFaultGoesUncalled) {
    const auto& l = test::loaded("farrier-summer");
    rehearse::Setup setup;
    setup.ice = false;
    setup.from = Phase::cruise;
    setup.traps.push_back({powerplant::Fault::oilPump, 0.5, 0, {}, 500.0, 500.0, 1.0});
    rehearse::Session s(l.aircraft, *l.sortie, flight::fly(*l.aircraft, *l.sortie), setup, rehearse::Way::examined);
    s.setSpeed(60);
    std::vector<double> at;
    while (s.rehearsal().now() < 490'000) {
        s.live(0.25);
        if (!s.question())
            continue;
        const auto now = s.rehearsal().now();
        EXPECT_FALSE(s.live(0.25));
        EXPECT_EQ(s.rehearsal().now(), now) << "time stands";
        EXPECT_EQ(s.answer("what?"), std::nullopt);
        ASSERT_TRUE(s.question()) << "it is asked still";
        const auto& q = s.questions()[*s.question()];
        EXPECT_EQ(s.answer(at.empty() ? rehearse::answerOf(q)
                           : q.si     ? "1"
                                      : std::to_string(q.right == 0 ? 2 : 1)),
                  at.empty());
        at.push_back(static_cast<double>(now) / 1000.0);
    }
    ASSERT_GE(at.size(), 2u);
    for (std::size_t i = 0; i < at.size(); ++i) {
        const double gap = at[i] - (i ? at[i - 1] : 0.0);
        EXPECT_GE(gap, 59.9);
        EXPECT_LE(gap, 256.0) << "four minutes, and a step of fifteen seconds";
    }
    while (s.rehearsal().now() < 800'000) {
        s.live(0.25);
        EXPECT_FALSE(s.question()) << "something is wrong and has not been called";
    }
    s.call(powerplant::Fault::oilPump, 0);
    EXPECT_TRUE(s.question());
    const auto lines = s.debriefed().lines(s.aircraft().notes);
    const auto told = [&](const std::string& words) {
        return std::any_of(lines.begin(), lines.end(),
                           [&](const auto& line) { return line.text.find(words) != std::string::npos; });
    };
    EXPECT_TRUE(told("1 of " + std::to_string(at.size()) + " questions were answered rightly"));
    EXPECT_TRUE(told("it is ")) << "and what would have been right";
}
} // namespace
