// SPDX-License-Identifier: GPL-3.0-or-later
// Strides against the short steps of a rehearsal, on every demo: the same aircraft, levers and procedures, time taken
// apart in a tenth of a second or in minutes.
#include "flight/flown.h"
#include "test_data.h"
#include <gtest/gtest.h>

namespace amber {
namespace {
/// And one in a wind that grows with height.
std::vector<std::string> withTheGale() {
    auto names = test::demoNames();
    names.emplace_back("wheelwright-windy");
    return names;
}

class StridesAgree : public testing::TestWithParam<std::string> {};

TEST_P(StridesAgree, WithShortStepsInTemperatureFuelAndTime) {
    const auto& l = test::loaded(GetParam());
    const auto strides = flight::fly(*l.aircraft, *l.sortie);
    const auto steps = flight::fly(*l.aircraft, *l.sortie, flight::Pace::shortSteps);
    const double burnt = strides.fuelAtStart - strides.fuelAtEnd;
    EXPECT_NEAR(steps.fuelAtStart - steps.fuelAtEnd, burnt, 0.002 * burnt);
    for (std::size_t p = 0; p < plannedPhases; ++p) {
        const auto phase = static_cast<Phase>(p);
        const auto &a = strides[phase], &b = steps[phase];
        EXPECT_NEAR(b.start, a.start, 1.0) << keyOf(phase);
        const auto &x = strides.samples[a.lastSample], &y = steps.samples[b.lastSample];
        // The checks of the run-up are seconds at each setting, to which short steps come by and by.
        const double most = phase >= Phase::runUp && phase <= Phase::climb ? 1.25 : 0.5;
        EXPECT_NEAR(y.headOrCoolant(), x.headOrCoolant(), most) << keyOf(phase);
        EXPECT_NEAR(y[Gauge::oilTemperature], x[Gauge::oilTemperature], 0.5) << keyOf(phase);
        EXPECT_NEAR(y[Gauge::height], x[Gauge::height], 5.0) << keyOf(phase);
    }
    ASSERT_EQ(steps.engines.size(), strides.engines.size());
    for (std::size_t i = 0; i < strides.engines.size(); ++i) {
        const auto &a = strides.engines[i].points.back(), &b = steps.engines[i].points.back();
        EXPECT_NEAR(b.headOrCoolant, a.headOrCoolant, 1.0) << strides.engines[i].engine;
        EXPECT_NEAR(b.oil, a.oil, 0.5) << strides.engines[i].engine;
    }
}
INSTANTIATE_TEST_SUITE_P(Demos, StridesAgree, testing::ValuesIn(withTheGale()), [](const auto& i) {
    std::string name = i.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});
} // namespace
} // namespace amber
