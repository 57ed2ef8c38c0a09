// SPDX-License-Identifier: GPL-3.0-or-later
// Bad hands, some of each kind: what tools/bad-hands counts in thousands.
#include "bad_hands.h"
#include "test_data.h"
#include "thorough.h"

namespace {
using namespace amber;
using namespace amber::test;

TEST(BadHands, TheActThatDidTheHarmIsNamedFirstAndOneThatDidNoneIsNotBlamed) {
    std::vector<std::unique_ptr<BadDay>> days;
    for (const auto& name : thorough() ? demoNames() : std::vector<std::string>{"tinker-damp"})
        days.push_back(std::make_unique<BadDay>(loaded(name)));
    std::mt19937_64 draw(20260);
    int harmful = 0, named = 0, blamed = 0;
    std::string wrong;
    for (const auto& day : days)
        for (const auto& kind : kindsOfBadHands()) {
            std::optional<Spoilt> spoilt;
            for (int tries = 0; tries < 20 && !spoilt; ++tries)
                spoilt = spoil(day->acts, day->loaded.aircraft->notes, draw, kind);
            if (!spoilt)
                continue;
            const auto t = told(*day, *spoilt);
            EXPECT_FALSE(t.praised) << kind << ": " << spoilt->words << "\n" << t.text;
            EXPECT_FALSE(t.underGround) << kind << ": " << spoilt->words;
            const bool right = t.first && t.reaches;
            if (t.is == Told::Is::harmful) {
                ++harmful;
                named += right ? 1 : 0;
                if (!right)
                    wrong += kind + ": " + spoilt->words + "\n" + t.text;
            }
            blamed += t.is == Told::Is::neutral && t.blamed ? 1 : 0;
        }
    EXPECT_GE(harmful, 3) << "the hands are bad";
    EXPECT_GE(named, harmful - std::max(1, harmful / 10)) << wrong;
    EXPECT_LE(blamed, thorough() ? 2 : 0);
}
} // namespace
