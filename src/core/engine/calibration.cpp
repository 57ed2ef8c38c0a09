// SPDX-License-Identifier: GPL-3.0-or-later
#include "engine/calibration.h"
#include "air/atmosphere.h"
#include "engine/operating_point.h"
#include "units/text.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
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
    Demand demand{task.rating->rpm,    task.rating->boostOf(*task.line), task.gear, standard.at(height), Speed{},
                  task.rating->mixture};
    demand.water = task.rating->water;
    return demand;
}

/// The engine stage's efficiency is settled by the gear in which it works alone; an auxiliary stage has its own.
void shareEngineStage(EngineParameters& p) {
    double alone = 0.0;
    for (const auto& gear : p.gears)
        if (gear.auxiliaryRatio <= 0 && alone == 0.0)
            alone = gear.efficiency;
    for (auto& gear : p.gears)
        if (gear.auxiliaryRatio > 0 && alone > 0)
            gear.efficiency = alone;
}

EngineParameters applied(EngineParameters p, const Eigen::VectorXd& x) {
    p.isac *= std::exp(std::clamp(x[0], -0.5, 0.5));
    p.frictionBase *= std::exp(std::clamp(x[1], -1.5, 1.5));
    p.volumetric *= std::exp(std::clamp(x[2], -0.4, 0.4));
    for (std::size_t i = 0; i < p.gears.size(); ++i) {
        auto& gear = p.gears[i];
        double& settled = gear.auxiliaryRatio > 0 ? gear.auxiliaryEfficiency : gear.efficiency;
        settled = std::clamp(settled + x[3 + static_cast<Eigen::Index>(i)], 0.3, 0.95);
    }
    shareEngineStage(p);
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
                demand.held = task.rating->boostOf(*task.line).has_value();
                const auto point = operate(p, demand);
                r[i++] = (point.power.si() / task.line->power->si() - 1.0) / powerTrust;
                if (task.line->fuelFlow)
                    r[i++] = (point.fuelFlow.si() / (task.line->fuelFlow->si() * notes.fuel.density) - 1.0) / fuelTrust;
            }
            if (task.line->holdsTo && task.rating->boostOf(*task.line)) {
                const auto wide = fullThrottlePressure(p, demandOf(task, *task.line->holdsTo, standard));
                r[i++] = (wide.si() / task.rating->boostOf(*task.line)->si() - 1.0) / pressureTrust;
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
            count += (line.power ? 1 : 0) + (line.power && line.fuelFlow ? 1 : 0) +
                     (line.holdsTo && rating.boostOf(line) ? 1 : 0);
        }
    const int unknowns = 3 + static_cast<int>(start.gears.size());
    Residuals residuals{start, tasks, notes, standard, unknowns, count + unknowns};
    Eigen::NumericalDiff<Residuals, Eigen::Central> differences(residuals, 1e-6);
    Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Residuals, Eigen::Central>> solver(differences);
    solver.parameters.maxfev = 400;
    Eigen::VectorXd x = Eigen::VectorXd::Zero(unknowns);
    out.written = notes.engine.calibrated.has_value();
    if (out.written) {
        out.parameters = start;
        const auto& c = *notes.engine.calibrated;
        out.parameters.isac = c.isac;
        out.parameters.frictionBase = c.friction;
        out.parameters.volumetric = c.volumetric;
        for (std::size_t g = 0; g < std::min(c.efficiency.size(), out.parameters.gears.size()); ++g) {
            auto& gear = out.parameters.gears[g];
            (gear.auxiliaryRatio > 0 ? gear.auxiliaryEfficiency : gear.efficiency) = c.efficiency[g];
        }
        shareEngineStage(out.parameters);
    } else {
        solver.minimize(x);
        if (!x.allFinite())
            x.setZero();
        out.parameters = applied(start, x);
        Eigen::MatrixXd jacobian(count + unknowns, unknowns);
        differences.df(x, jacobian);
        const Eigen::MatrixXd covariance =
            (jacobian.transpose() * jacobian).ldlt().solve(Eigen::MatrixXd::Identity(unknowns, unknowns));
        const auto left = [&](Eigen::Index i, double prior) {
            return std::clamp(std::sqrt(std::max(0.0, covariance(i, i))) / prior, 0.0, 1.0);
        };
        constexpr double kilogramsPerKilowattHour = 3.6e6;
        out.fitted.push_back({"air per indicated work", "kg/kWh", out.parameters.isac * kilogramsPerKilowattHour,
                              start.isac * kilogramsPerKilowattHour, left(0, isacPrior)});
        out.fitted.push_back({"friction at no speed", "bar", out.parameters.frictionBase / 1e5,
                              start.frictionBase / 1e5, left(1, frictionPrior)});
        out.fitted.push_back(
            {"volumetric efficiency", "", out.parameters.volumetric, start.volumetric, left(2, volumetricPrior)});
        for (std::size_t g = 0; g < start.gears.size(); ++g) {
            const auto& gear = out.parameters.gears[g];
            out.fitted.push_back({"blower efficiency, " + notes.engine.gears[g].name, "",
                                  gear.auxiliaryRatio > 0 ? gear.auxiliaryEfficiency : gear.efficiency,
                                  start.gears[g].efficiency, left(3 + static_cast<Eigen::Index>(g), efficiencyPrior)});
        }
    }

    for (const Task& task : tasks) {
        LineResidual r{task.rating->key, task.line->gear, task.line->line, {}, {}, {}};
        if (task.line->power) {
            const auto point = operate(out.parameters, demandOf(task, task.line->at, standard));
            r.power = point.power.si() / task.line->power->si() - 1.0;
            if (task.line->fuelFlow)
                r.fuel = point.fuelFlow.si() / (task.line->fuelFlow->si() * notes.fuel.density) - 1.0;
        }
        if (task.line->holdsTo && task.rating->boostOf(*task.line)) {
            const auto height = fullThrottleHeight(out.parameters, task.rating->rpm, *task.rating->boostOf(*task.line),
                                                   task.gear, standard, Speed{}, task.rating->mixture);
            r.heightMetres = (height ? height->si() : -1000.0) - task.line->holdsTo->si();
        }
        out.residuals.push_back(std::move(r));
    }
    return out;
}

std::vector<std::string> contradictions(const TypeNotes& notes, const Calibration& calibration) {
    constexpr double mostPower = 0.03, mostHeight = 300.0;
    std::vector<std::string> out;
    for (const auto& r : calibration.residuals) {
        const std::string where = fmt::format("{}:{}: rating \"{}\"{}", notes.file, r.line, r.rating,
                                              r.gear.empty() ? "" : fmt::format(", {}", r.gear));
        if (r.power && std::abs(*r.power) > mostPower)
            out.push_back(
                fmt::format("{}: the other lines make {:+.1f} % of this power. Check power, boost, rpm and the "
                            "engine's size",
                            where, 100 * *r.power));
        if (r.heightMetres && std::abs(*r.heightMetres) > mostHeight)
            out.push_back(fmt::format("{}: the boost would hold to {} {} than this. Check holds_to, gear ratio and "
                                      "impeller",
                                      where, format(std::abs(*r.heightMetres), *notes.cockpit.height),
                                      *r.heightMetres > 0 ? "higher" : "lower"));
    }
    return out;
}

std::string calibratedBlock(const Calibration& c) {
    std::string efficiency;
    for (const auto& g : c.parameters.gears)
        efficiency += fmt::format("{}{:.5f}", efficiency.empty() ? "" : ", ",
                                  g.auxiliaryRatio > 0 ? g.auxiliaryEfficiency : g.efficiency);
    return fmt::format("[engine.calibrated]\nisac = {:.6f} # kg of air per indicated kWh\nfriction = {:.6f} # bar\n"
                       "volumetric = {:.6f}\nefficiency = [{}]\n",
                       c.parameters.isac * 3.6e6, c.parameters.frictionBase / 1e5, c.parameters.volumetric, efficiency);
}

std::string withCalibratedBlock(const std::string& text, const Calibration& calibration) {
    static const std::string head = "[engine.calibrated]";
    const std::string block = calibratedBlock(calibration);
    std::size_t at = text.starts_with(head) ? 0 : text.find("\n" + head);
    if (at == std::string::npos)
        return text + (text.ends_with('\n') ? "" : "\n") +
               "\n# Written by amber-throttle calibrate: taken instead of a fit.\n" + block;
    at += text.starts_with(head) ? 0 : 1;
    auto end = text.find("\n[", at);
    end = end == std::string::npos ? text.size() : end + 1;
    // Only its own lines: blank ones and comments before the next table stay.
    std::size_t stop = at;
    for (std::size_t line = at; line < end;) {
        const auto next = std::min(end, text.find('\n', line) == std::string::npos ? end : text.find('\n', line) + 1);
        if (next - line > 1 && text[line] != '#')
            stop = next;
        line = next;
    }
    return text.substr(0, at) + block + text.substr(stop);
}

} // namespace amber::engine
