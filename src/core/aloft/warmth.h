// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/course.h"
#include "powerplant/aircraft.h"

namespace amber::aloft {

/// How one engine's heat differs today from the notes and the model, natural logarithms: 0 is no difference.
struct HeatFactors {
    double cooling = 0.0;                 ///< heat that heads or coolant keep over what the air takes: hotter, positive
    double oil = 0.0;                     ///< heat that the oil gathers
    double headRate = 0.0, oilRate = 0.0; ///< how fast they go where they settle
};

/// One engine's heads or coolant and oil in real time: the plan's drives (power, speed, flaps, air) in the order and
/// for the time in which they really came, through the thermal model. Fourth-order Runge–Kutta as the model has it.
class Warmth {
public:
    /// Drives are worked out once for many courses and factors.
    Warmth(const powerplant::Aircraft& aircraft, const flight::Flown& flown);

    struct Point {
        double at = 0.0; ///< s, real
        heat::Temperatures t;
    };
    /// From its first fire; before that it is as warm as the plan has it.
    /// @param pieces of a course @param fired s, real
    [[nodiscard]] std::vector<Point> along(const std::vector<Course::Piece>& pieces, std::size_t engine, double fired,
                                           const HeatFactors& factors, double until) const;

private:
    const powerplant::Aircraft* a_;
    const flight::Flown* f_;
    std::vector<heat::ThermalModel::Forcing> forcings_; ///< of each stretch
    std::size_t firstRunning_ = 0;
};
/// Between its points, straight; held at the ends.
heat::Temperatures at(const std::vector<Warmth::Point>& points, double real);

} // namespace amber::aloft
