// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/calibration.h"
#include "air/atmosphere.h"
#include "engine/operating_point.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <unsupported/Eigen/NonLinearOptimization>
#include <unsupported/Eigen/NumericalDiff>

namespace amber::engine {
namespace {
// One standard deviation of each kind of residual and prior: how much a figure of that kind is trusted.
constexpr double powerTrust = 0.004, pressureTrust = 0.008, fuelTrust = 0.02;
constexpr double isacPrior = 0.05, frictionPrior = 0.5, efficiencyPrior = 0.08, volumetricPrior = 0.04;

struct Task {
    const Rating* rating;
    const RatingLine* line;
    std::size_t gear;
};

Demand demandOf(const Task& task, Length height, const air::Day& standard) {
    return {task.rating->rpm, task.rating->boost, task.gear, standard.at(height), Speed{}, task.rating->mixture};
}

EngineParameters applied(EngineParameters p, const Eigen::VectorXd& x) {
    p.isac *= std::exp(std::clamp(x[0], -0.5, 0.5));
    p.frictionBase *= std::exp(std::clamp(x[1], -1.5, 1.5));
    p.volumetric *= std::exp(std::clamp(x[2], -0.4, 0.4));
    for (std::size_t i = 0; i < p.gears.size(); ++i)
        p.gears[i].efficiency = std::clamp(p.gears[i].efficiency + x[3 + static_cast<Eigen::Index>(i)], 0.3, 0.95);
    return p;
}

struct Residuals {
    using Scalar = double;
    using InputType = Eigen::VectorXd;
    using ValueType = Eigen::VectorXd;
    using JacobianType = Eigen::MatrixXd;
    enum { InputsAtCompileTime = Eigen::Dynamic, ValuesAtCompileTime = Eigen::Dynamic };

    const EngineParameters& start;
    const std::vector<Task>& tasks;
    const TypeNotes& notes;
    air::Day standard;
    int unknowns, count;

    [[nodiscard]] int inputs() const { return unknowns; }
    [[nodiscard]] int values() const { return count; }

    int operator()(const Eigen::VectorXd& x, Eigen::VectorXd& r) const {
        const EngineParameters p = applied(start, x);
        Eigen::Index i = 0;
        for (const Task& task : tasks) {
            if (task.line->power) {
                Demand demand = demandOf(task, task.line->at, standard);
                demand.held = task.rating->boost.has_value();
                const auto point = operate(p, demand);
                r[i++] = (point.power.si() / task.line->power->si() - 1.0) / powerTrust;
                if (task.line->fuelFlow)
                    r[i++] = (point.fuelFlow.si() / (task.line->fuelFlow->si() * notes.fuel.density) - 1.0) / fuelTrust;
            }
            if (task.line->holdsTo && task.rating->boost) {
                const auto wide = fullThrottlePressure(p, demandOf(task, *task.line->holdsTo, standard));
                r[i++] = (wide.si() / task.rating->boost->si() - 1.0) / pressureTrust;
            }
        }
        r[i++] = x[0] / isacPrior;
        r[i++] = x[1] / frictionPrior;
        r[i++] = x[2] / volumetricPrior;
        for (Eigen::Index g = 3; g < unknowns; ++g)
            r[i++] = x[g] / efficiencyPrior;
        return 0;
    }
};
} // namespace

double Calibration::worstPower() const {
    double worst = 0.0;
    for (const auto& r : residuals)
        worst = std::max(worst, std::abs(r.power.value_or(0.0)));
    return worst;
}

double Calibration::worstHeight() const {
    double worst = 0.0;
    for (const auto& r : residuals)
        worst = std::max(worst, std::abs(r.heightMetres.value_or(0.0)));
    return worst;
}

Calibration calibrate(const TypeNotes& notes) {
    Calibration out;
    const EngineParameters start = typicalParameters(notes);
    const air::Day standard = air::standardDay(Length{});
    std::vector<Task> tasks;
    int count = 0;
    for (const auto& rating : notes.ratings)
        for (const auto& line : rating.lines) {
            tasks.push_back({&rating, &line, notes.gearIndex(line.gear).value_or(0)});
            count +=
                (line.power ? 1 : 0) + (line.power && line.fuelFlow ? 1 : 0) + (line.holdsTo && rating.boost ? 1 : 0);
        }
    const int unknowns = 3 + static_cast<int>(start.gears.size());
    Residuals residuals{start, tasks, notes, standard, unknowns, count + unknowns};
    Eigen::NumericalDiff<Residuals, Eigen::Central> differences(residuals, 1e-6);
    Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Residuals, Eigen::Central>> solver(differences);
    solver.parameters.maxfev = 400;
    Eigen::VectorXd x = Eigen::VectorXd::Zero(unknowns);
    solver.minimize(x);
    out.parameters = applied(start, x.allFinite() ? x : Eigen::VectorXd(Eigen::VectorXd::Zero(unknowns)));

    for (const Task& task : tasks) {
        LineResidual r{task.rating->key, task.line->gear, task.line->line, {}, {}, {}};
        if (task.line->power) {
            const auto point = operate(out.parameters, demandOf(task, task.line->at, standard));
            r.power = point.power.si() / task.line->power->si() - 1.0;
            if (task.line->fuelFlow)
                r.fuel = point.fuelFlow.si() / (task.line->fuelFlow->si() * notes.fuel.density) - 1.0;
        }
        if (task.line->holdsTo && task.rating->boost) {
            const auto height = fullThrottleHeight(out.parameters, task.rating->rpm, *task.rating->boost, task.gear,
                                                   standard, Speed{}, task.rating->mixture);
            r.heightMetres = (height ? height->si() : -1000.0) - task.line->holdsTo->si();
        }
        out.residuals.push_back(std::move(r));
    }
    return out;
}

} // namespace amber::engine
