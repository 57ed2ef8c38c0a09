// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/axes.h"
#include "measure/follow.h"
#include "printed_chart.h"
#include <gtest/gtest.h>

namespace amber::measure {
namespace {

/// A small chart of 8 by 6 fields with one curve that rises, a second that falls across it, and, where asked, a knee.
printed::Chart smallChart(bool knee, bool dashed) {
    printed::Setting s;
    s.seed = 5;
    s.columns = 8;
    s.rows = 6;
    s.width = 320;
    s.height = 240;
    s.left = s.top = 40;
    s.labels = 2;
    s.curl = 6;
    printed::Curve rising, falling;
    rising.dashed = dashed;
    for (int i = 0; i <= 200; ++i) {
        const double x = 6 + 88.0 * i / 200;
        rising.values.push_back({x, knee && x > 60 ? 12 + 0.8 * 60 - 0.9 * (x - 60) : 12 + 0.8 * x});
        falling.values.push_back({x, 80 - 0.5 * x});
    }
    return {s, {rising, falling}};
}

struct Read {
    printed::Chart chart;
    Raster ink;
    Grid grid;
    explicit Read(printed::Chart c)
        : chart(std::move(c)), ink(inkOf(chart.scan())), grid(findGrid(ink, chart.frame())) {}
    [[nodiscard]] std::vector<Place> ends(const printed::Curve& c) const {
        return {chart.onScan(c.values[2]), chart.onScan(c.values[c.values.size() - 3])};
    }
    [[nodiscard]] Result<Axes> axes() const {
        AxisLabels x, y;
        for (const double part : {12.5, 87.5})
            x.labels.push_back({chart.onScan({part, 50}), part});
        for (const double part : {100.0 / 6, 500.0 / 6})
            y.labels.push_back({chart.onScan({50, part}), part});
        return Axes::fromGrid(grid, x, y);
    }
};

TEST(Measure, EveryLineOfABentGridIsFoundAndNumbered) {
    const Read r(smallChart(false, false));
    ASSERT_EQ(r.grid.upright.size(), 9U);
    ASSERT_EQ(r.grid.level.size(), 7U);
    EXPECT_EQ(r.grid.upright.back().number - r.grid.upright.front().number, 8);
    for (const auto& c : r.grid.crossings()) {
        const Place truth = r.chart.onScan({12.5 * c.column, 100.0 - 100.0 / 6 * c.row});
        EXPECT_LT(distance(c.at, truth), 0.8) << c.column << " " << c.row;
    }
}

TEST(Measure, AxesOverABentGridReadWhatWasPrinted) {
    const Read r(smallChart(false, false));
    const auto axes = r.axes();
    ASSERT_TRUE(axes) << axes.error();
    EXPECT_TRUE(axes.value().checked());
    EXPECT_GT(axes.value().degree(), 1) << "a page that is curled is not flat";
    for (const double x : {20.0, 50.0, 80.0})
        for (const double y : {20.0, 50.0, 80.0}) {
            const Place read = axes.value().value(r.chart.onScan({x, y}));
            EXPECT_NEAR(read.x, x, 0.2);
            EXPECT_NEAR(read.y, y, 0.25);
            const Place back = axes.value().pixel(read);
            EXPECT_LT(distance(back, r.chart.onScan({x, y})), 0.01);
        }
}

// Two marks an axis: value = a + b × px, by hand. Ten units in 100 px, so 25 px are 2.5 units; and nothing checks it.
TEST(Measure, TwoMarksAreAScaleThatNothingChecks) {
    const auto axes = Axes::fromMarks({Scale::linear, {{{100, 500}, 0}, {{200, 500}, 10}}},
                                      {Scale::logarithmic, {{{100, 500}, 1}, {{100, 300}, 100}}});
    ASSERT_TRUE(axes);
    EXPECT_FALSE(axes.value().checked());
    EXPECT_NEAR(axes.value().value({125, 400}).x, 2.5, 1e-9);
    EXPECT_NEAR(axes.value().value({125, 400}).y, 10.0, 1e-6) << "half way between one and a hundred";
    EXPECT_NEAR(axes.value().pixel({5, 10}).x, 150, 1e-6);
    EXPECT_FALSE(
        Axes::fromMarks({Scale::linear, {{{100, 500}, 0}}}, {Scale::linear, {{{100, 500}, 1}, {{100, 300}, 2}}}));
    EXPECT_FALSE(Axes::fromMarks({Scale::linear, {{{100, 500}, 3}, {{200, 500}, 3}}},
                                 {Scale::linear, {{{100, 500}, 1}, {{100, 300}, 2}}}));
    // A third mark that does not agree shows: 20 px of 100.
    const auto checked = Axes::fromMarks({Scale::linear, {{{100, 500}, 0}, {{220, 500}, 10}, {{300, 500}, 20}}},
                                         {Scale::linear, {{{100, 500}, 0}, {{100, 400}, 10}, {{100, 300}, 20}}});
    ASSERT_TRUE(checked);
    EXPECT_TRUE(checked.value().checked());
    EXPECT_GT(checked.value().labelResidual().x, 8.0);
    EXPECT_GT(checked.value().residual(), 5.0);
}

class Following : public testing::TestWithParam<std::pair<bool, bool>> {};
TEST_P(Following, FromItsOneEndToItsOtherThroughACrossing) {
    const auto [knee, dashed] = GetParam();
    const Read r(smallChart(knee, dashed));
    const auto& curve = r.chart.curves().front();
    auto clicks = r.ends(curve);
    auto found = follow(r.ink, r.grid, clicks);
    ASSERT_TRUE(found);
    if (knee && !found->doubts.empty()) { // by the other line is as likely a way: asked, and a click settles it
        clicks.insert(clicks.begin() + 1, r.chart.onScan({60, 60}));
        found = follow(r.ink, r.grid, clicks);
        ASSERT_TRUE(found);
    }
    EXPECT_TRUE(found->doubts.empty()) << (found->doubts.empty() ? "" : found->doubts.front().why);
    double sum = 0.0;
    for (const auto& p : found->places) {
        EXPECT_LT(r.chart.off(p.at, curve), 2.0) << p.at.x << " " << p.at.y;
        sum += r.chart.off(p.at, curve);
    }
    EXPECT_LT(sum / static_cast<double>(found->places.size()), 0.5) << "a quarter of the line's width on the average";
    EXPECT_NEAR(found->width, curve.width, 1.6);
    if (knee) {
        ASSERT_EQ(found->knees.size(), 1U);
        EXPECT_LT(distance(found->knees.front(), r.chart.onScan({60, 60})), 10.0);
    } else {
        EXPECT_TRUE(found->knees.empty());
    }
    const auto few = thinned(*found, 0.5 * found->width);
    EXPECT_LT(few.size(), found->places.size() / 4);
    EXPECT_GE(few.size(), knee ? 3U : 2U);
}
INSTANTIATE_TEST_SUITE_P(Drawn, Following,
                         testing::Values(std::pair{false, false}, std::pair{true, false}, std::pair{false, true}));

TEST(Measure, WhereTheInkIsGoneItAsks) {
    Read r(smallChart(false, false));
    const Place a = r.chart.onScan({50, 52});
    for (int y = 0; y < r.ink.height; ++y) // 120 px rubbed out of curve and grid
        for (int x = static_cast<int>(a.x) - 60; x < static_cast<int>(a.x) + 60; ++x)
            r.ink.at(x, y) = 0;
    const auto found = follow(r.ink, {}, r.ends(r.chart.curves().front()));
    ASSERT_TRUE(found);
    ASSERT_FALSE(found->doubts.empty());
    EXPECT_NE(found->doubts.back().why.find("no ink"), std::string::npos) << found->doubts.back().why;
}

// A steep line five pixels broad, alone on the paper: within it no way is another.
TEST(Measure, ABroadLineAloneIsNotAskedAbout) {
    Raster page(240, 340, 240);
    for (int x = 20; x < 220; ++x)
        for (int d = -4; d <= 4; ++d) // nine rows of a slope of 1.35: 5.4 px across
            page.at(x, 320 - (x * 27) / 20 + 20 + d) = 20;
    const auto found = follow(inkOf(page), {}, {{24, 308}, {214, 51}});
    ASSERT_TRUE(found);
    EXPECT_TRUE(found->doubts.empty());
    EXPECT_NEAR(found->width, 5.4, 1.0);
}

TEST(Measure, NothingIsFollowedWithoutTwoEndsOnThePage) {
    const Read r(smallChart(false, false));
    EXPECT_FALSE(follow(r.ink, r.grid, {{100, 100}}));
    EXPECT_FALSE(follow(r.ink, r.grid, {{100, 100}, {105, 100}}));
    EXPECT_FALSE(follow(r.ink, r.grid, {{100, 100}, {5000, 100}}));
    EXPECT_FALSE(follow(r.ink, r.grid, {{100, 100}, {std::nan(""), 100}}));
    EXPECT_FALSE(findGrid(r.ink, {0, 0, std::nan(""), 200}).found());
    EXPECT_FALSE(findGrid(r.ink, {-1e12, 0, 1e12, 200}).found());
    EXPECT_FALSE(follow(r.ink, r.grid, r.ends(r.chart.curves().front()), [] { return true; })) << "stopped";
}

TEST(Measure, APageIsTurnedAndStraightened) {
    Raster page(40, 30);
    page.at(3, 5) = 0;
    const Raster once = turned(page, 1);
    EXPECT_EQ(once.width, 30);
    EXPECT_EQ(once.at(30 - 1 - 5, 3), 0);
    EXPECT_EQ(turned(once, 3).at(3, 5), 0);
    // A square photographed aslant: its corners come to the corners.
    Raster photo(400, 300, 40);
    const Place corners[4] = {{60, 40}, {330, 60}, {350, 260}, {40, 240}};
    const Raster square = straightened(photo, corners);
    ASSERT_FALSE(square.empty());
    EXPECT_NEAR(square.width, 311, 3) << "the longer of the two sides";
    const Place flat[4] = {{10, 10}, {20, 10}, {30, 10}, {40, 10}};
    EXPECT_TRUE(straightened(photo, flat).empty());
}

} // namespace
} // namespace amber::measure
