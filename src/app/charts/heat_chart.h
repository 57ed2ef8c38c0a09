// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "charts/picture_chart.h"
#include <memory>

namespace amber::app {

/// Pictures of heat and time: every engine's warm-up from its own start; the climb against height; where heads or
/// coolant settle against speed for openings of the flaps; the let-down's steps; cooling at idle and after the stop.
class HeatChart : public PictureChart {
    Q_OBJECT
public:
    enum class Kind { engines, climb, cooling, schedule, afterwards };
    explicit HeatChart(SortieDocument& document, QWidget* parent = nullptr);
    ~HeatChart() override;
    void draw(Kind kind, Phase phase);

protected:
    void compose() override;

private:
    struct Impl;
    std::unique_ptr<Impl> d_;
};

} // namespace amber::app
