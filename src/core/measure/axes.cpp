// SPDX-License-Identifier: GPL-3.0-or-later
#include "measure/axes.h"
#include <Eigen/Dense>
#include <algorithm>
#include <fmt/format.h>

namespace amber::measure {
namespace {
int termsOf(int degree) {
    return (degree + 1) * (degree + 2) / 2;
}
/// x^i y^j with i + j up to the degree.
Eigen::RowVectorXd powers(double x, double y, int degree) {
    Eigen::RowVectorXd out(termsOf(degree));
    Eigen::Index n = 0;
    for (int sum = 0; sum <= degree; ++sum)
        for (int j = 0; j <= sum; ++j)
            out(n++) = std::pow(x, sum - j) * std::pow(y, j);
    return out;
}

struct Sample {
    double x, y, u, v; ///< place scaled to ±1, and what it is worth
};
struct Warp {
    Eigen::VectorXd u, v;
};
/// Least squares.
Warp fit(const std::vector<Sample>& samples, int degree) {
    const auto n = static_cast<Eigen::Index>(samples.size());
    Eigen::MatrixXd a(n, termsOf(degree));
    Eigen::MatrixXd b(n, 2);
    for (Eigen::Index i = 0; i < n; ++i) {
        const Sample& s = samples[static_cast<std::size_t>(i)];
        a.row(i) = powers(s.x, s.y, degree);
        b.row(i) << s.u, s.v;
    }
    const Eigen::MatrixXd normal =
        a.transpose() * a; // coordinates are within ±1: well enough conditioned to the fifth degree
    const Eigen::MatrixXd k = normal.ldlt().solve(a.transpose() * b);
    return {k.col(0), k.col(1)};
}
} // namespace

double Axes::Straight::value(double coordinate) const {
    const double f = a + b * coordinate;
    return scale == Scale::logarithmic ? std::pow(10.0, f) : f;
}
double Axes::Straight::coordinate(double value) const {
    return ((scale == Scale::logarithmic ? std::log10(value) : value) - a) / b;
}

Result<Axes::Straight> Axes::straight(const AxisLabels& labels, const std::vector<double>& coordinates, double& worst,
                                      const char* which) {
    const std::size_t n = labels.labels.size();
    if (n < 2)
        return Failure{
            fmt::format("Two places of the {} axis must be labelled; {} {}", which, n, n == 1 ? "is" : "are")};
    double su = 0, sf = 0, suu = 0, suf = 0;
    std::vector<double> f;
    for (std::size_t i = 0; i < n; ++i) {
        const double value = labels.labels[i].value;
        if (!std::isfinite(value) || (labels.scale == Scale::logarithmic && value <= 0))
            return Failure{fmt::format("{:g} stands on no {}axis", value,
                                       labels.scale == Scale::logarithmic ? "logarithmic " : "")};
        f.push_back(labels.scale == Scale::logarithmic ? std::log10(value) : value);
        su += coordinates[i];
        sf += f.back();
    }
    su /= static_cast<double>(n);
    sf /= static_cast<double>(n);
    for (std::size_t i = 0; i < n; ++i) {
        suu += (coordinates[i] - su) * (coordinates[i] - su);
        suf += (coordinates[i] - su) * (f[i] - sf);
    }
    if (suu < 1e-6 || std::abs(suf) < 1e-12)
        return Failure{fmt::format("The labels of the {} axis stand at one place or have one value", which)};
    Straight out;
    out.scale = labels.scale;
    out.b = suf / suu;
    out.a = sf - out.b * su;
    worst = 0.0;
    for (std::size_t i = 0; i < n; ++i)
        worst = std::max(worst, std::abs((f[i] - out.a) / out.b - coordinates[i]));
    return out;
}

Place Axes::coordinates(Place pixel) const {
    const double x = (pixel.x - middle_.x) / half_.x, y = (pixel.y - middle_.y) / half_.y;
    const Eigen::RowVectorXd p = powers(x, y, degree_);
    Place out;
    for (Eigen::Index i = 0; i < p.size(); ++i) {
        out.x += u_[static_cast<std::size_t>(i)] * p(i);
        out.y += v_[static_cast<std::size_t>(i)] * p(i);
    }
    return out;
}

Place Axes::value(Place pixel) const {
    const Place c = coordinates(pixel);
    return {x_.value(c.x), y_.value(c.y)};
}

Place Axes::pixel(Place value) const {
    const Place aim{x_.coordinate(value.x), y_.coordinate(value.y)};
    Place at = middle_;
    for (int i = 0; i < 40; ++i) { // Newton; the warp is nearly straight
        const Place c = coordinates(at), dx = coordinates({at.x + 0.5, at.y}) - coordinates({at.x - 0.5, at.y}),
                    dy = coordinates({at.x, at.y + 0.5}) - coordinates({at.x, at.y - 0.5});
        const double det = dx.x * dy.y - dx.y * dy.x;
        if (std::abs(det) < 1e-15)
            break;
        const Place off = aim - c;
        const Place move{(off.x * dy.y - off.y * dy.x) / det, (dx.x * off.y - dx.y * off.x) / det};
        const double far = std::hypot(move.x, move.y), most = 0.5 * (half_.x + half_.y);
        at = at + (degree_ > 1 && far > most ? move * (most / far) : move);
        if (far < 1e-4)
            break;
    }
    return at;
}

Place Axes::error(Place pixel, double centre) const {
    const double sigma = std::hypot(centre, residual_);
    const Place a = value({pixel.x + 1, pixel.y}), b = value({pixel.x - 1, pixel.y}), c = value({pixel.x, pixel.y + 1}),
                d = value({pixel.x, pixel.y - 1});
    return {sigma * 0.5 * std::hypot(a.x - b.x, c.x - d.x), sigma * 0.5 * std::hypot(a.y - b.y, c.y - d.y)};
}

Result<Axes> Axes::fromGrid(const Grid& grid, const AxisLabels& x, const AxisLabels& y) {
    const auto crossings = grid.crossings();
    if (!grid.found() || crossings.size() < 9)
        return Failure{"No grid is found there: draw the box just outside the chart's frame, or mark the axes by hand"};
    Axes out;
    out.middle_ = {grid.box.x + 0.5 * grid.box.w, grid.box.y + 0.5 * grid.box.h};
    out.half_ = {0.5 * grid.box.w, 0.5 * grid.box.h};
    // What a line is worth: its number where lines are evenly spaced, else where its middle stands.
    const auto worth = [](const std::vector<GridLine>& lines, bool even, int number) {
        for (const auto& l : lines)
            if (l.number == number)
                return even ? static_cast<double>(number) : l.across(0.5 * (l.from + l.to));
        return 0.0;
    };
    std::vector<Sample> samples;
    for (const auto& c : crossings)
        samples.push_back({(c.at.x - out.middle_.x) / out.half_.x, (c.at.y - out.middle_.y) / out.half_.y,
                           worth(grid.upright, grid.evenUpright, c.column), worth(grid.level, grid.evenLevel, c.row)});
    // What one pixel is in those numbers, about the middle.
    const Warp plane = fit(samples, 1);
    const double perX = std::max(std::abs(plane.u(1)) / out.half_.x, 1e-9),
                 perY = std::max(std::abs(plane.v(2)) / out.half_.y, 1e-9);
    double best = 1e9;
    constexpr int folds = 5;
    for (int degree = 1; degree <= 5; ++degree) {
        if (static_cast<int>(samples.size()) < 2 * termsOf(degree))
            break;
        double sum = 0.0;
        for (int fold = 0; fold < folds; ++fold) {
            std::vector<Sample> kept, left;
            for (std::size_t i = 0; i < samples.size(); ++i)
                (static_cast<int>((i * 7 + i / 11) % folds) == fold ? left : kept).push_back(samples[i]);
            const Warp warp = fit(kept, degree);
            for (const auto& s : left) {
                const Eigen::RowVectorXd p = powers(s.x, s.y, degree);
                const double du = (p * warp.u)(0) - s.u, dv = (p * warp.v)(0) - s.v;
                sum += 0.5 * (du * du / perX / perX + dv * dv / perY / perY);
            }
        }
        const double rms = std::sqrt(sum / static_cast<double>(samples.size()));
        if (rms < 0.97 * best) {
            best = rms;
            out.degree_ = degree;
        }
    }
    const Warp warp = fit(samples, out.degree_);
    out.u_.assign(warp.u.data(), warp.u.data() + warp.u.size());
    out.v_.assign(warp.v.data(), warp.v.data() + warp.v.size());
    out.residual_ = best;
    out.crossings_ = samples.size();
    out.checked_ = true;
    // A label belongs to the line that it stands at.
    const auto standsAt = [&](const AxisLabels& labels, bool upright) {
        std::vector<double> at;
        for (const auto& l : labels.labels) {
            const Place c = out.coordinates(l.at);
            double coordinate = upright ? c.x : c.y, near = 7.0; // px
            for (const auto& line : upright ? grid.upright : grid.level) {
                const double off =
                    upright ? std::abs(line.across(l.at.y) - l.at.x) : std::abs(line.across(l.at.x) - l.at.y);
                if (off < near) {
                    near = off;
                    coordinate = worth(upright ? grid.upright : grid.level, upright ? grid.evenUpright : grid.evenLevel,
                                       line.number);
                }
            }
            at.push_back(coordinate);
        }
        return at;
    };
    double worstX = 0, worstY = 0;
    const auto sx = straight(x, standsAt(x, true), worstX, "level");
    if (!sx)
        return Failure{sx.error()};
    const auto sy = straight(y, standsAt(y, false), worstY, "upright");
    if (!sy)
        return Failure{sy.error()};
    out.x_ = sx.value();
    out.y_ = sy.value();
    out.labelResidual_ = {worstX / perX, worstY / perY};
    return out;
}

Result<Axes> Axes::fromMarks(const AxisLabels& x, const AxisLabels& y) {
    for (const auto* labels : {&x, &y})
        if (labels->labels.size() < 2)
            return Failure{fmt::format("Two places of the {} axis must be marked", labels == &x ? "level" : "upright")};
    // Each axis has the direction of the line through its first and last mark; a value changes across the other's
    // direction.
    const Place ax = x.labels.back().at - x.labels.front().at, ay = y.labels.back().at - y.labels.front().at;
    const double det = ax.x * ay.y - ax.y * ay.x;
    if (std::abs(det) < 0.3 * std::hypot(ax.x, ax.y) * std::hypot(ay.x, ay.y))
        return Failure{"The marks of both axes stand nearly on one line"};
    Axes out;
    const double lx = std::hypot(ax.x, ax.y), ly = std::hypot(ay.x, ay.y);
    // p = s·ax/|ax| + t·ay/|ay|
    out.u_ = {0.0, ay.y * lx / det, -ay.x * lx / det};
    out.v_ = {0.0, -ax.y * ly / det, ax.x * ly / det};
    out.middle_ = {0, 0};
    const auto along = [&](const AxisLabels& labels, bool first) {
        std::vector<double> at;
        for (const auto& l : labels.labels)
            at.push_back(first ? out.coordinates(l.at).x : out.coordinates(l.at).y);
        return at;
    };
    const auto cx = along(x, true), cy = along(y, false);
    double worstX = 0, worstY = 0;
    const auto sx = straight(x, cx, worstX, "level");
    if (!sx)
        return Failure{sx.error()};
    const auto sy = straight(y, cy, worstY, "upright");
    if (!sy)
        return Failure{sy.error()};
    out.x_ = sx.value();
    out.y_ = sy.value();
    out.labelResidual_ = {worstX, worstY};
    out.checked_ = x.labels.size() > 2 && y.labels.size() > 2;
    double sum = 0.0;
    for (std::size_t i = 0; i < cx.size(); ++i)
        sum += std::pow(out.x_.coordinate(x.labels[i].value) - cx[i], 2);
    for (std::size_t i = 0; i < cy.size(); ++i)
        sum += std::pow(out.y_.coordinate(y.labels[i].value) - cy[i], 2);
    const auto spare = static_cast<double>(cx.size() + cy.size()) - 4.0;
    out.residual_ = spare > 0 ? std::sqrt(sum / spare) : 0.0;
    return out;
}

} // namespace amber::measure
