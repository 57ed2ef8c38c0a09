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
constexpr double powerTrust = 0.01, pressureTrust = 0.008, fuelTrust = 0.01;
constexpr double isacPrior = 0.03, frictionPrior = 0.5, efficiencyPrior = 0.08, volumetricPrior = 0.03;
constexpr double meteringGiven = 0.02, meteringUsual = 0.1;
constexpr double impellerPrior = 0.06, impellerBound = 0.25; // of its logarithm, where no booklet gives its diameter
// An unblown engine's power against height, to the published rule: no booklet's few lines settle it.
constexpr double lapseTrust = 0.01, lapseHeights[] = {1500, 3000, 4500};
constexpr double isacBound = 0.5, frictionBound = 1.5, volumetricBound = 0.4, meteringBound = 0.2; // of logarithms
constexpr double leastEfficiency = 0.3, mostEfficiency = 0.95;

// Beyond these the engine of a fit was never built: share of the usual air per work; adiabatic efficiency of a blower
// with its diffuser (centrifugal blowers of the period: 0.60 to 0.75).
constexpr std::pair credibleIsac{0.87, 1.15}, credibleEfficiency{0.53, 0.79};

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

/// Unknowns: air per work, friction, filling, an efficiency a gear, and of each mixture that a fuel line tells of its
/// metering.
struct Unknowns {
    std::size_t gears = 0;
    bool rich = false, weak = false;
    bool impeller = false; ///< its diameter, where that is an estimate
    double richFrom = 1.0; ///< charge, as the schedule counts it, of the lowest rich fuel line
    [[nodiscard]] int count() const {
        return 3 + static_cast<int>(gears) + (rich ? 1 : 0) + (weak ? 1 : 0) + (impeller ? 1 : 0);
    }
    [[nodiscard]] Eigen::Index impellerAt() const { return weakAt() + (weak ? 1 : 0); }
    [[nodiscard]] Eigen::Index richAt() const { return 3 + static_cast<Eigen::Index>(gears); }
    [[nodiscard]] Eigen::Index weakAt() const { return richAt() + (rich ? 1 : 0); }
};

EngineParameters applied(EngineParameters p, const Unknowns& u, const Eigen::VectorXd& x) {
    p.isac *= std::exp(std::clamp(x[0], -isacBound, isacBound));
    p.frictionBase *= std::exp(std::clamp(x[1], -frictionBound, frictionBound));
    p.volumetric *= std::exp(std::clamp(x[2], -volumetricBound, volumetricBound));
    for (std::size_t i = 0; i < p.gears.size(); ++i) {
        auto& gear = p.gears[i];
        double& settled = gear.auxiliaryRatio > 0 ? gear.auxiliaryEfficiency : gear.efficiency;
        settled = std::clamp(settled + x[3 + static_cast<Eigen::Index>(i)], leastEfficiency, mostEfficiency);
    }
    shareEngineStage(p);
    if (u.rich)
        // A line tells of the metering at its own charge and above; below, less and less.
        for (auto& [charge, ratio] : p.rich)
            ratio *= std::exp(std::clamp(x[u.richAt()], -meteringBound, meteringBound) *
                              std::pow(std::min(1.0, charge / u.richFrom), 4));
    if (u.impeller)
        p.impellerDiameter *= std::exp(std::clamp(x[u.impellerAt()], -impellerBound, impellerBound));
    if (u.weak)
        p.weak *= std::exp(std::clamp(x[u.weakAt()], -meteringBound, meteringBound));
    return p;
}

bool unblown(const EngineParameters& p) {
    return p.gears.empty() && !p.turbo;
}
/// At the highest rpm, full throttle, best power, standard day.
double wideOpenPower(const EngineParameters& p, double height) {
    return operate(p,
                   {Rotation::si(p.ratedRpm), {}, 0, air::standardDay(Length{}).at(Length::si(height)), Speed{}, 0.080})
        .power.si();
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
    Unknowns unknowns;
    int count;

    [[nodiscard]] int inputs() const { return unknowns.count(); }
    [[nodiscard]] int values() const { return count; }

    int operator()(const Eigen::VectorXd& x, Eigen::VectorXd& r) const {
        const EngineParameters p = applied(start, unknowns, x);
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
        if (unblown(p)) {
            const double bottom = wideOpenPower(p, 0);
            for (const double height : lapseHeights) {
                const double sigma = air::standardDensity(Length::si(height)) / air::standardDensity(Length{});
                r[i++] = (wideOpenPower(p, height) / bottom - (sigma - (1 - sigma) / 7.55)) / lapseTrust;
            }
        }
        r[i++] = x[0] / isacPrior;
        r[i++] = x[1] / frictionPrior;
        r[i++] = x[2] / volumetricPrior;
        for (Eigen::Index g = 3; g < unknowns.richAt(); ++g)
            r[i++] = x[g] / efficiencyPrior;
        if (unknowns.impeller)
            r[i++] = x[unknowns.impellerAt()] / impellerPrior;
        for (Eigen::Index m = unknowns.richAt(); m < unknowns.impellerAt(); ++m)
            r[i++] = x[m] / (notes.engine.mixtureGiven ? meteringGiven : meteringUsual);
        return 0;
    }
};
/// A rating line against an engine that need not have been fitted to it.
LineResidual residualOf(const TypeNotes& notes, const EngineParameters& engine, const Task& task) {
    const air::Day standard = air::standardDay(Length{});
    LineResidual r{task.rating->key, task.line->gear, task.line->line, {}, {}, {}};
    if (task.line->power) {
        const auto point = operate(engine, demandOf(task, task.line->at, standard));
        r.power = point.power.si() / task.line->power->si() - 1.0;
        if (task.line->fuelFlow)
            r.fuel = point.fuelFlow.si() / (task.line->fuelFlow->si() * notes.fuel.density) - 1.0;
    }
    if (task.line->holdsTo && task.rating->boostOf(*task.line)) {
        const auto height = fullThrottleHeight(engine, task.rating->rpm, *task.rating->boostOf(*task.line), task.gear,
                                               standard, Speed{}, task.rating->mixture);
        r.heightMetres = (height ? height->si() : -1000.0) - task.line->holdsTo->si();
    }
    return r;
}

// What lines may miss by before they contradict each other.
constexpr double mostPower = 0.045, mostHeight = 450.0; // share; m

bool contradicts(const LineResidual& r) {
    return !(std::abs(r.power.value_or(0.0)) <= mostPower) || !(std::abs(r.heightMetres.value_or(0.0)) <= mostHeight);
}

/// Squares of what the lines miss by, in units of what they may.
double misfit(const std::vector<LineResidual>& residuals) {
    double sum = 0.0;
    for (const auto& r : residuals)
        sum += std::pow(r.power.value_or(0.0) / mostPower, 2) + std::pow(r.heightMetres.value_or(0.0) / mostHeight, 2);
    return sum;
}

/// The line that settled a parameter: of a gear, that which says how high its boost holds.
int lineThatSettles(const TypeNotes& notes, const FittedParameter& f) {
    int line = 0;
    for (const auto& rating : notes.ratings)
        for (const auto& l : rating.lines) {
            if (f.gear && notes.gearIndex(l.gear).value_or(0) != *f.gear)
                continue;
            if (f.gear && l.holdsTo)
                return l.line;
            line = line ? line : l.line;
        }
    return line;
}

/// One figure of one line, which may be the wrong one.
struct Suspect {
    std::size_t rating, line;
    bool power; ///< else its holds_to
};

/// A fit to all figures but one, and what that one misses it by.
struct Trial {
    double misfit = 0.0;
    LineResidual residual;
};

Trial without(const TypeNotes& notes, const Suspect& s) {
    TypeNotes others = notes;
    auto& line = others.ratings[s.rating].lines[s.line];
    if (s.power) {
        line.power.reset();
        line.fuelFlow.reset();
    } else {
        line.holdsTo.reset();
    }
    const auto fit = calibrate(others);
    const auto& rating = notes.ratings[s.rating];
    const auto& whole = rating.lines[s.line];
    return {misfit(fit.residuals),
            residualOf(notes, fit.parameters, {&rating, &whole, notes.gearIndex(whole.gear).value_or(0)})};
}
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
    if (unblown(start))
        count += static_cast<int>(std::size(lapseHeights));
    Unknowns unknowns;
    unknowns.gears = start.gears.size();
    unknowns.impeller =
        !start.gears.empty() && std::any_of(notes.estimated.begin(), notes.estimated.end(),
                                            [](const Estimate& e) { return e.path == "engine.supercharger.impeller"; });
    for (const Task& task : tasks)
        if (task.line->power && task.line->fuelFlow && !task.rating->water) {
            (task.rating->mixture == Mixture::weak ? unknowns.weak : unknowns.rich) = true;
            const auto boost = task.rating->boostOf(*task.line);
            if (task.rating->mixture != Mixture::weak)
                unknowns.richFrom =
                    std::min(unknowns.richFrom, std::max(0.1, (boost ? boost->si() : standardPressure) *
                                                                  task.rating->rpm.si() / start.ratedCharge));
        }
    Residuals residuals{start, tasks, notes, standard, unknowns, count + unknowns.count()};
    Eigen::NumericalDiff<Residuals, Eigen::Central> differences(residuals, 1e-6);
    Eigen::LevenbergMarquardt<Eigen::NumericalDiff<Residuals, Eigen::Central>> solver(differences);
    solver.parameters.maxfev = 400;
    Eigen::VectorXd x = Eigen::VectorXd::Zero(unknowns.count());
    out.written = notes.engine.calibrated.has_value();
    if (out.written) {
        out.parameters = start;
        const auto& c = *notes.engine.calibrated;
        out.parameters.isac = c.isac;
        out.parameters.frictionBase = c.friction;
        out.parameters.volumetric = c.volumetric;
        out.parameters.impellerDiameter = c.impeller.value_or(start.impellerDiameter);
        out.impellerFitted = c.impeller.has_value();
        for (std::size_t g = 0; g < std::min(c.efficiency.size(), out.parameters.gears.size()); ++g) {
            auto& gear = out.parameters.gears[g];
            (gear.auxiliaryRatio > 0 ? gear.auxiliaryEfficiency : gear.efficiency) = c.efficiency[g];
        }
        shareEngineStage(out.parameters);
        if (!c.rich.empty())
            out.parameters.rich = c.rich;
        out.parameters.weak = c.weak.value_or(out.parameters.weak);
    } else {
        solver.minimize(x);
        if (!x.allFinite())
            x.setZero();
        out.parameters = applied(start, unknowns, x);
        Eigen::MatrixXd jacobian(count + unknowns.count(), unknowns.count());
        differences.df(x, jacobian);
        const Eigen::MatrixXd covariance = (jacobian.transpose() * jacobian)
                                               .ldlt()
                                               .solve(Eigen::MatrixXd::Identity(unknowns.count(), unknowns.count()));
        const auto left = [&](Eigen::Index i, double prior) {
            return std::clamp(std::sqrt(std::max(0.0, covariance(i, i))) / prior, 0.0, 1.0);
        };
        constexpr double kilogramsPerKilowattHour = 3.6e6;
        out.fitted.push_back({"air per indicated work", "kg/kWh", out.parameters.isac * kilogramsPerKilowattHour,
                              start.isac * kilogramsPerKilowattHour, left(0, isacPrior), std::abs(x[0]) >= isacBound,
                              std::pair{credibleIsac.first * start.isac * kilogramsPerKilowattHour,
                                        credibleIsac.second * start.isac * kilogramsPerKilowattHour}});
        out.fitted.push_back({"friction at no speed", "bar", out.parameters.frictionBase / 1e5,
                              start.frictionBase / 1e5, left(1, frictionPrior), std::abs(x[1]) >= frictionBound});
        out.fitted.push_back({"volumetric efficiency", "", out.parameters.volumetric, start.volumetric,
                              left(2, volumetricPrior), std::abs(x[2]) >= volumetricBound});
        for (std::size_t g = 0; g < start.gears.size(); ++g) {
            const auto& gear = out.parameters.gears[g];
            const double found = gear.auxiliaryRatio > 0 ? gear.auxiliaryEfficiency : gear.efficiency;
            out.fitted.push_back({"blower efficiency, " + notes.engine.gears[g].name, "", found,
                                  start.gears[g].efficiency, left(3 + static_cast<Eigen::Index>(g), efficiencyPrior),
                                  found <= leastEfficiency || found >= mostEfficiency, credibleEfficiency, g});
        }
        const double metering = notes.engine.mixtureGiven ? meteringGiven : meteringUsual;
        if (unknowns.rich)
            out.fitted.push_back({"fuel to air, rich at full charge", "", out.parameters.rich.back().second,
                                  start.rich.back().second, left(unknowns.richAt(), metering),
                                  std::abs(x[unknowns.richAt()]) >= meteringBound});
        if (unknowns.weak)
            out.fitted.push_back({"fuel to air, weak", "", out.parameters.weak, start.weak,
                                  left(unknowns.weakAt(), metering), std::abs(x[unknowns.weakAt()]) >= meteringBound});
        out.impellerFitted = unknowns.impeller;
        if (unknowns.impeller)
            out.fitted.push_back({"impeller", "cm", 100 * out.parameters.impellerDiameter, 100 * start.impellerDiameter,
                                  left(unknowns.impellerAt(), impellerPrior),
                                  std::abs(x[unknowns.impellerAt()]) >= impellerBound});
    }

    for (const Task& task : tasks)
        out.residuals.push_back(residualOf(notes, out.parameters, task));
    return out;
}

bool fuelIsEstimate(const TypeNotes& notes) {
    for (const auto& rating : notes.ratings)
        for (const auto& line : rating.lines)
            if (line.fuelFlow && line.power)
                return false;
    return true;
}

Problems contradictions(const TypeNotes& notes, const Calibration& calibration) {
    Problems out;
    const auto& residuals = calibration.residuals;
    if (std::none_of(residuals.begin(), residuals.end(), contradicts)) {
        for (const auto& f : calibration.fitted)
            if (f.doubtful())
                out.push_back(
                    {notes.file, lineThatSettles(notes, f),
                     fmt::format("the lines agree only with {} of {:.2f}{}; such engines had {:.2f} to {:.2f}", f.name,
                                 f.value, f.unit.empty() ? "" : " " + f.unit, f.credible->first, f.credible->second),
                     f.gear ? "Check holds_to and boost of this gear, its ratio and the impeller"
                            : "Check power, boost, rpm and the engine's size"});
        return out;
    }
    const auto where = [](const LineResidual& r) {
        return fmt::format("rating \"{}\"{}", r.rating, r.gear.empty() ? "" : fmt::format(", {}", r.gear));
    };
    // More than the line's power at full throttle, and nothing says that it is not opened fully.
    const auto partThrottle = [&](const LineResidual& r) {
        const auto rating = std::find_if(notes.ratings.begin(), notes.ratings.end(),
                                         [&](const Rating& x) { return x.key == r.rating || x.name == r.rating; });
        return notes.propeller.control == PropellerControl::fixed && rating != notes.ratings.end() && !rating->boost &&
               *r.power > 0;
    };
    const auto power = [&](const LineResidual& r, const char* whose) {
        out.push_back({notes.file, r.line,
                       fmt::format("{}: {} {} % of this power", where(r), whose, formatNumber(100 * *r.power, 1, true)),
                       partThrottle(r)
                           ? "Without a boost it counts as full throttle. What a fixed propeller takes at an rpm "
                             "needs no line: take it out of this rating"
                           : "Check power, boost, rpm, the gear ratio and the engine's size"});
    };
    const auto height = [&](const LineResidual& r, const char* whose) {
        out.push_back({notes.file, r.line,
                       fmt::format("{}: {} its boost to {} {} than this", where(r), whose,
                                   format(std::abs(*r.heightMetres), *notes.cockpit.height),
                                   *r.heightMetres > 0 ? "higher" : "lower"),
                       "Check holds_to, boost, gear ratio and impeller"});
    };
    // A fit spreads one wrong figure over all lines. The wrong one is that without which the others agree.
    if (!calibration.written) {
        std::optional<Suspect> worst;
        Trial best;
        for (std::size_t r = 0; r < notes.ratings.size(); ++r)
            for (std::size_t l = 0; l < notes.ratings[r].lines.size(); ++l)
                for (const bool asked : {true, false}) {
                    const auto& line = notes.ratings[r].lines[l];
                    if (asked ? !line.power : !line.holdsTo || !notes.ratings[r].boostOf(line))
                        continue;
                    auto trial = without(notes, {r, l, asked});
                    if (!worst || trial.misfit < best.misfit) {
                        worst = Suspect{r, l, asked};
                        best = std::move(trial);
                    }
                }
        // The others must then lie within half of what they may: else it is not one figure alone.
        constexpr double agrees = 0.25;
        const auto figures = static_cast<double>(residuals.size());
        if (worst && best.misfit < agrees * figures && contradicts(best.residual)) {
            worst->power ? power(best.residual, "the other lines make") : height(best.residual, "the other lines hold");
            return out;
        }
    }
    const char* whose = calibration.written ? "the parameters of the file make" : "the lines together make";
    const char* holds = calibration.written ? "the parameters of the file hold" : "the lines together hold";
    for (const auto& r : residuals) {
        if (!(std::abs(r.power.value_or(0.0)) <= mostPower))
            power(r, whose);
        if (!(std::abs(r.heightMetres.value_or(0.0)) <= mostHeight))
            height(r, holds);
    }
    return out;
}

std::string calibratedBlock(const Calibration& c) {
    std::string efficiency;
    for (const auto& g : c.parameters.gears)
        efficiency += fmt::format("{}{:.5f}", efficiency.empty() ? "" : ", ",
                                  g.auxiliaryRatio > 0 ? g.auxiliaryEfficiency : g.efficiency);
    std::string rich;
    for (const auto& [charge, ratio] : c.parameters.rich)
        rich += fmt::format("{}[{:.4g}, {:.5f}]", rich.empty() ? "" : ", ", charge, ratio);
    return fmt::format("[engine.calibrated]\nisac = {:.6f} # kg of air per indicated kWh\nfriction = {:.6f} # bar\n"
                       "volumetric = {:.6f}\nefficiency = [{}]\n"
                       "{}rich = [{}]\nweak = {:.5f}\n",
                       c.parameters.isac * 3.6e6, c.parameters.frictionBase / 1e5, c.parameters.volumetric, efficiency,
                       c.impellerFitted ? fmt::format("impeller = \"{:.3f} cm\"\n", 100 * c.parameters.impellerDiameter)
                                        : std::string(),
                       rich, c.parameters.weak);
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
