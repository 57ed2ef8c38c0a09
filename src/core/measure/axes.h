// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "measure/grid.h"
#include "units/result.h"
#include <vector>

namespace amber::measure {

enum class Scale { linear, logarithmic };

/// A place on a chart whose value along one axis is printed.
struct Label {
    Place at;
    double value = 0.0;
};
struct AxisLabels {
    Scale scale = Scale::linear;
    std::vector<Label> labels; ///< two at least, of different values; positive ones where logarithmic
};

/// What a pixel of a chart is worth. Over a grid, a smooth warp (a polynomial in x and y, of the degree that predicts
/// crossings left out best) takes pixels to numbers of lines, and labels take those to values; without a grid, each
/// axis has one scale across the direction of the other.
class Axes {
public:
    static Result<Axes> fromGrid(const Grid& grid, const AxisLabels& x, const AxisLabels& y);
    static Result<Axes> fromMarks(const AxisLabels& x, const AxisLabels& y);

    [[nodiscard]] Place value(Place pixel) const;
    [[nodiscard]] Place pixel(Place value) const;
    /// By how much a value there is uncertain, one standard deviation, for a place known to `centre` px.
    [[nodiscard]] Place error(Place pixel, double centre) const;
    /// What crossings left out miss, or what marks beyond two leave; root mean square, px. Nothing checks it: nought.
    [[nodiscard]] double residual() const { return residual_; }
    /// Worst of the labels against a straight scale through them all, px; of each axis.
    [[nodiscard]] Place labelResidual() const { return labelResidual_; }
    /// False where nothing is redundant: two marks of each axis and no grid.
    [[nodiscard]] bool checked() const { return checked_; }
    [[nodiscard]] int degree() const { return degree_; }
    [[nodiscard]] std::size_t crossings() const { return crossings_; }
    [[nodiscard]] Scale scaleX() const { return x_.scale; }
    [[nodiscard]] Scale scaleY() const { return y_.scale; }

private:
    struct Straight {
        Scale scale = Scale::linear;
        double a = 0.0, b = 1.0; ///< value, or its logarithm, = a + b × coordinate
        [[nodiscard]] double value(double coordinate) const;
        [[nodiscard]] double coordinate(double value) const;
    };
    [[nodiscard]] Place coordinates(Place pixel) const;
    static Result<Straight> straight(const AxisLabels& labels, const std::vector<double>& coordinates, double& worst,
                                     const char* which);

    int degree_ = 1;
    std::size_t crossings_ = 0;
    bool checked_ = false;
    double residual_ = 0.0;
    Place labelResidual_{}, middle_{}, half_{1, 1};
    std::vector<double> u_, v_; ///< coefficients of the warp
    Straight x_, y_;
};

} // namespace amber::measure
