// SPDX-License-Identifier: GPL-3.0-or-later
#include "booklet/laid_over.h"
#include "data_folder.h"
#include "flight/open_files.h"
#include "units/unit_table.h"
#include <gtest/gtest.h>

namespace amber::booklet {
namespace {

// The notes' own rating points are what the model was fitted to: laid over them it is within 2 % (1,230 hp up to 5,150
// ft, 1,210 hp at 16,500 ft), and a point printed a tenth too high is told.
TEST(LaidOver, TheModelStandsByTheNotesOwnPointsAndPartsFromASlip) {
    const auto loaded = flight::loadAircraft(test::dataFolder() + "/notes/lorimer-l4.toml", {});
    ASSERT_TRUE(loaded.aircraft);
    constexpr double hp = 745.7, ft = 0.3048, inHg = 3386.389;
    CurveSetting climb;
    climb.rpm = Rotation::si(2350 / 60.0);
    climb.boost = ManifoldPressure::si(39 * inHg);
    climb.gear = 0;
    const auto low = laidOver(
        loaded.aircraft->model(), climb,
        {{5150 * ft, 1270 * hp, 20 * ft, 20 * hp}, {0, 1230 * hp, 20 * ft, 15 * hp}, {0, 1353 * hp, 20 * ft, 15 * hp}});
    ASSERT_EQ(low.size(), 3U);
    EXPECT_LT(std::abs(low[1].over()), 0.02);
    EXPECT_FALSE(low[1].parts());
    EXPECT_GT(low[0].model, low[1].model) << "colder air at one boost gives more";
    EXPECT_TRUE(low[2].parts()) << "a tenth too high";
    EXPECT_NEAR(low[2].over(), -0.09, 0.02);
    climb.gear = 1;
    const auto high = laidOver(loaded.aircraft->model(), climb,
                               {{16500 * ft, 1210 * hp, 20 * ft, 15 * hp}, {20000 * ft, 1210 * hp, 400 * ft, 15 * hp}});
    EXPECT_LT(std::abs(high[0].over()), 0.025);
    EXPECT_LT(high[1].model, 0.93 * high[0].model) << "above full throttle it falls with the air";
    EXPECT_GT(high[1].error, 15 * hp) << "a height that is not sharp blurs a power that falls with it";
    // At sea level power rises with boost: from 30 to 39 inHg by a third and more.
    CurveSetting seaLevel;
    seaLevel.kind = CurveKind::powerBoost;
    seaLevel.rpm = climb.rpm;
    const auto rising =
        laidOver(loaded.aircraft->model(), seaLevel, {{30 * inHg, 900 * hp, 0, 1}, {39 * inHg, 1230 * hp, 0, 1}});
    EXPECT_GT(rising[1].model, 1.3 * rising[0].model);
}

} // namespace
} // namespace amber::booklet
