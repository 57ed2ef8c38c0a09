// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "advice/best_cruise.h"
#include "advice/day_allows.h"
#include "charts/picture_chart.h"

namespace amber::app {

/// Pictures of load, fuel and settings: the envelope with today's track through it; fuel part by part; speeds against
/// weight; tanks against time; miles per gallon against speed by height; the map of a rating's bounds.
class LoadChart : public PictureChart {
    Q_OBJECT
public:
    enum class Kind { envelope, fuel, speeds, tanks, best, allows };
    explicit LoadChart(SortieDocument& document, QWidget* parent = nullptr);
    void draw(Kind kind, Phase phase);
    /// Of Kind::best: what the page has found, so that it is not searched twice.
    void put(const advice::BestCruise* best) { best_ = best; }

protected:
    void compose() override;

private:
    void envelope();
    void fuel();
    void speeds();
    void tanks();
    void best();
    void allows();
    Kind kind_ = Kind::envelope;
    Phase phase_ = Phase::load;
    const advice::BestCruise* best_ = nullptr;
};

} // namespace amber::app
