// SPDX-License-Identifier: GPL-3.0-or-later
// Equations solved and tables read in one place: against closed solutions.
#include "units/lookup.h"
#include "units/roots.h"
#include <array>
#include <cmath>
#include <gtest/gtest.h>
#include <rapidcheck/gtest.h>

namespace amber {
namespace {

TEST(Roots, AreWhereAClosedSolutionHasThem) {
    // x³ = 2; cos x = x (Dottie's number).
    const auto cube = [](double x) { return x * x * x - 2.0; };
    const auto b = roots::bracket(cube, 0.0, 2.0, cube(0.0), cube(2.0), 1e-9);
    EXPECT_NEAR(b.middle(), std::cbrt(2.0), 1e-9);
    EXPECT_LE(b.high - b.low, 1e-9);
    EXPECT_LE(cube(b.low), 0.0);
    EXPECT_GE(cube(b.high), 0.0);
    EXPECT_NEAR(roots::between([](double x) { return std::cos(x) - x; }, 0.0, 1.0, 1e-10), 0.7390851332151607, 1e-10);
}

TEST(Roots, WithOneSignAtBothEndsTheNearerEndIsTaken) {
    EXPECT_EQ(roots::between([](double x) { return x + 1.0; }, 0.0, 5.0, 1e-6), 0.0);
    EXPECT_EQ(roots::between([](double x) { return x - 9.0; }, 0.0, 5.0, 1e-6), 5.0);
}

TEST(Roots, AConditionTurnsBetweenItsLastNoAndItsFirstYes) {
    const auto turn = roots::turn([](double x) { return x * x > 2.0; }, 0.0, 8.0, 20);
    EXPECT_LE(turn.low, std::sqrt(2.0));
    EXPECT_GT(turn.high, std::sqrt(2.0));
    EXPECT_NEAR(turn.high - turn.low, 8.0 / (1 << 20), 1e-12);
    const auto none = roots::turn([](double) { return false; }, 0.0, 8.0, 3);
    EXPECT_EQ(none.low, 7.0);
    EXPECT_EQ(none.high, 8.0);
}

TEST(Roots, ATableIsReadStraightBetweenItsLinesAndHeldBeyondThem) {
    const std::array<std::pair<double, double>, 3> table{{{1.0, 10.0}, {3.0, 20.0}, {4.0, 0.0}}};
    EXPECT_EQ(lookUp(table, 0.0), 10.0);
    EXPECT_EQ(lookUp(table, 1.5), 12.5);
    EXPECT_EQ(lookUp(table, 3.0), 20.0);
    EXPECT_EQ(lookUp(table, 3.25), 15.0);
    EXPECT_EQ(lookUp(table, 9.0), 0.0);
}
} // namespace
} // namespace amber
