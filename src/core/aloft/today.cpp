// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/today.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::aloft {
namespace {
constexpr double degrees = 4.0;   // of freedom
constexpr double leastFirm = 0.5; // weight of a reading that somebody stands by
constexpr double outOfAll = 3.0;  // standard deviations
constexpr int passes = 5;
constexpr double headsTime = 30.0, oilTime = 60.0; // s
constexpr double difference = 0.02;                // ln, for derivatives

/// Readings that count as one.
struct Seen {
    std::size_t of = 0; ///< 0 heads or coolant, 1 oil
    double at = 0.0, value = 0.0;
    int part = 0; ///< of the flight
    std::vector<const Reading*> from;
    bool believed = false, left = false; ///< left: out of the fit
    bool asked = false;
};
/// Parts of a flight between which factors walk.
int partOf(Phase phase) {
    return phase <= Phase::runUp ? 0 : phase <= Phase::climb ? 1 : phase == Phase::cruise ? 2 : 3;
}

using Vector = Eigen::Matrix<double, EngineToday::unknowns, 1>;
using Matrix = Eigen::Matrix<double, EngineToday::unknowns, EngineToday::unknowns>;

/// A least-squares problem with a prior, of any small size, readings weighed by Student's t; and who is out of all
/// likelihood by the others.
template <int N>
struct Solve {
    using V = Eigen::Matrix<double, N, 1>;
    using M = Eigen::Matrix<double, N, N>;
    V theta = V::Zero();
    M covariance = M::Identity();
    std::vector<double> residual, apart; ///< at the end; standard deviations by the others
    std::vector<double> spread;          ///< of each, as it is expected by the others

    /// @param model predictions and their derivatives at theta @param left are not believed @param firm stand as they
    /// are
    template <class Model>
    void run(const V& prior, const std::vector<double>& values, const std::vector<double>& sd,
             const std::vector<bool>& left, const std::vector<bool>& firm, const Model& model) {
        const auto n = values.size();
        const M inverse = prior.array().square().inverse().matrix().asDiagonal();
        std::vector<double> predicted(n);
        std::vector<V> slope(n);
        std::vector<double> weight(n, 1.0);
        M a = inverse;
        for (int pass = 0; pass < passes; ++pass) {
            model(theta, predicted, slope);
            a = inverse;
            V g = -inverse * theta;
            for (std::size_t i = 0; i < n; ++i) {
                if (left[i])
                    continue;
                const double r = (values[i] - predicted[i]) / sd[i];
                weight[i] = std::max(firm[i] ? leastFirm : 0.0, (degrees + 1.0) / (degrees + r * r));
                a += weight[i] / (sd[i] * sd[i]) * slope[i] * slope[i].transpose();
                g += weight[i] / (sd[i] * sd[i]) * (values[i] - predicted[i]) * slope[i];
            }
            const V step = a.ldlt().solve(g);
            theta += step;
            if (step.cwiseAbs().cwiseQuotient(prior).maxCoeff() < 1e-3)
                break;
        }
        model(theta, predicted, slope);
        covariance = a.inverse();
        residual.resize(n);
        apart.resize(n);
        spread.resize(n);
        for (std::size_t i = 0; i < n; ++i) {
            const double r = values[i] - predicted[i], w = left[i] ? 0.0 : weight[i] / (sd[i] * sd[i]);
            const M without = (a - w * slope[i] * slope[i].transpose()).inverse();
            const double width = slope[i].dot(without * slope[i]);
            residual[i] = r + width * w * r;
            spread[i] = std::sqrt(sd[i] * sd[i] + width);
            apart[i] = residual[i] / spread[i];
        }
    }
};

} // namespace

double taughtOffset(const powerplant::Aircraft& a, std::size_t engine, Gauge gauge) {
    double sum = 0.0;
    if (engine < a.learnt.size())
        for (const auto& o : a.learnt[engine].offsets)
            if (o.gauge == gauge)
                sum += o.by;
    return sum;
}

Today todayOf(const powerplant::Aircraft& a, const flight::Flown& flown, const Warmth& warmth, const Course& course,
              const FuelCourse& fuel, const Happened& happened, const Priors& priors, const Misfits& misfits) {
    Today out;
    const TypeNotes& n = a.notes;
    const Gauge heads = headOrCoolantGauge(n);
    const double now = course.now();
    const int here = partOf(course.phaseAt(now));
    const auto ask = [&](const Seen& seen, double expected, double deviation, bool again) {
        const Reading& r = *seen.from.back();
        const auto& unit = r.gauge == Gauge::fuelFlow ? fuelFlowUnit(n.cockpit)
                           : r.gauge == Gauge::fuel   ? *n.cockpit.fuel
                                                      : n.unitOf(r.gauge);
        std::string who;
        for (const auto& p : n.positions)
            if (p.id == r.engine && n.engineCount() > 1)
                who = p.name + ": ";
        const auto what =
            fmt::format("{}{} {} read at {}, {} expected by all other readings", who, nameOf(r.gauge).title,
                        format(r.value, unit), formatMinutesSeconds(r.at), format(expected, unit));
        out.asked.push_back({r, expected, deviation, again,
                             again ? what + ": read twice. A lever, a flap, or the engine itself?"
                                   : what + ": misread? Read it again."});
    };
    for (std::size_t e = 0; e < n.engineCount(); ++e) {
        const auto& id = n.positions[e].id;
        const double fired = happened.when("at-first-fire", id).value_or(course.realAt(flown.engines[e].firedAt));
        // What stands after the stop cools as it likes.
        const double stopped =
            happened.when("at-engine-stop", id).value_or(happened.when("at-stop").value_or(HUGE_VAL));
        std::vector<Seen> seen;
        for (const auto& r : happened.readings) {
            if ((r.gauge != heads && r.gauge != Gauge::oilTemperature) || (!r.engine.empty() && r.engine != id) ||
                r.at > now + 1e-6 || r.at > stopped)
                continue;
            const std::size_t of = r.gauge == heads ? 0 : 1;
            auto same = std::find_if(seen.rbegin(), seen.rend(), [&](const Seen& s) { return s.of == of; });
            if (same != seen.rend() && r.at - same->from.front()->at < (of == 0 ? headsTime : oilTime)) {
                const double k = static_cast<double>(same->from.size());
                same->at = (same->at * k + r.at) / (k + 1);
                same->value = (same->value * k + r.value) / (k + 1);
                same->from.push_back(&r);
                same->believed = same->believed || r.believed;
                continue;
            }
            seen.push_back({of, r.at, r.value, partOf(course.phaseAt(r.at)), {&r}, r.believed, false});
        }
        EngineToday today;
        Solve<EngineToday::unknowns> solve;
        Vector prior;
        prior << priors.cooling, priors.oil, priors.rates, priors.rates, priors.needle, priors.needle, priors.lags;
        // What the airframe's log has taught of a needle is known better.
        for (const auto& [index, gauge] : {std::pair{4, heads}, std::pair{5, Gauge::oilTemperature}})
            if (taughtOffset(a, e, gauge) != 0.0)
                prior[index] = 0.5 * priors.needle;
        const double offHead = taughtOffset(a, e, heads), offOil = taughtOffset(a, e, Gauge::oilTemperature);
        const auto model = [&](const Vector& t, std::vector<double>& predicted, std::vector<Vector>& slope) {
            const auto line = [&](int moved) {
                const auto x = [&](int i) { return t[i] + (moved == i ? difference : 0.0); };
                return warmth.along(course.pieces(), e, fired, {x(0), x(1), x(2), x(3)}, now + 1.0);
            };
            const auto base = line(-1);
            const std::array moved{line(0), line(1), line(2), line(3)};
            for (std::size_t i = 0; i < seen.size(); ++i) {
                const bool head = seen[i].of == 0;
                const double felt = seen[i].at - priors.lag - t[6];
                const auto of = [&](const std::vector<Warmth::Point>& p, double real) {
                    const auto there = at(p, real);
                    return head ? there.headOrCoolant.si() : there.oil.si();
                };
                const double b = of(base, felt);
                predicted[i] = b + (head ? offHead + t[4] : offOil + t[5]);
                for (Eigen::Index k = 0; k < 4; ++k)
                    slope[i][k] = (of(moved[static_cast<std::size_t>(k)], felt) - b) / difference;
                slope[i][4] = head ? 1.0 : 0.0;
                slope[i][5] = head ? 0.0 : 1.0;
                slope[i][6] = of(base, felt - 1.0) - b;
            }
        };
        const auto unbent =
            seen.empty() ? std::vector<Warmth::Point>() : warmth.along(course.pieces(), e, fired, {}, now + 1.0);
        const auto moves = [&](const Seen& s) { // K/s
            const auto before = at(unbent, s.at - misfits.timing), after = at(unbent, s.at + misfits.timing);
            return (s.of == 0 ? after.headOrCoolant.si() - before.headOrCoolant.si()
                              : after.oil.si() - before.oil.si()) /
                   (2.0 * misfits.timing);
        };
        const auto fit = [&] {
            std::vector<double> values, sd;
            std::vector<bool> left, firm;
            for (const auto& s : seen) {
                values.push_back(s.value);
                // A factor that walks between parts of the flight moves this needle by a twentieth of its rise a part.
                const double rise = std::max(0.0, s.value - flown.engines[e].points.front().oil);
                const double walks = misfits.walk * rise * std::sqrt(std::abs(s.part - here));
                sd.push_back(std::hypot(misfits.temperature, walks, s.part > 0 ? misfits.timing * moves(s) : 0.0));
                left.push_back(s.left);
                firm.push_back(s.believed);
            }
            solve.theta = Vector::Zero();
            solve.run(prior, values, sd, left, firm, model);
        };
        if (seen.empty()) {
            solve.covariance = prior.array().square().matrix().asDiagonal();
        } else {
            // What somebody stands by says nothing of the others: first without it.
            for (auto& x : seen)
                x.left = x.believed;
            fit();
            // The worst is left out first; without it the next one may agree after all.
            for (std::size_t rounds = 0; rounds < seen.size(); ++rounds) {
                std::optional<std::size_t> worst;
                for (std::size_t i = 0; i < seen.size(); ++i)
                    if (!seen[i].left && std::abs(solve.apart[i]) > outOfAll &&
                        (!worst || std::abs(solve.apart[i]) > std::abs(solve.apart[*worst])))
                        worst = i;
                if (!worst)
                    break;
                seen[*worst].left = seen[*worst].asked = true;
                fit();
            }
            for (std::size_t i = 0; i < seen.size(); ++i) {
                if (!seen[i].asked)
                    continue;
                bool again = false;
                for (std::size_t j = 0; j < seen.size(); ++j)
                    again = again || (j != i && seen[j].asked && seen[j].of == seen[i].of &&
                                      solve.residual[j] * solve.residual[i] > 0.0 && seen[j].at < seen[i].at);
                ask(seen[i], seen[i].value - solve.residual[i], solve.spread[i], again);
            }
            for (auto& x : seen)
                x.left = x.asked;
            fit();
        }
        today.heat = {solve.theta[0], solve.theta[1], solve.theta[2], solve.theta[3]};
        today.head = solve.theta[4];
        today.oil = solve.theta[5];
        today.lag = priors.lag + solve.theta[6];
        for (Eigen::Index i = 0; i < solve.covariance.rows(); ++i)
            for (Eigen::Index j = 0; j < solve.covariance.cols(); ++j)
                today.covariance[static_cast<std::size_t>(i)][static_cast<std::size_t>(j)] = solve.covariance(i, j);
        for (const auto& s : seen)
            today.readings += s.left ? 0 : s.from.size();
        out.engines.push_back(today);
    }

    // ---- fuel
    double capacity = 0.0, full = 0.0;
    for (const auto& t : n.fuel.tanks)
        capacity += t.removable ? 0.0 : t.usable.si();
    for (const double t : flown.contents.at(0))
        full += t;
    std::vector<const Reading*> read;
    for (const auto& r : happened.readings)
        if ((r.gauge == Gauge::fuel || r.gauge == Gauge::fuelFlow) && r.at <= now + 1e-6 &&
            (r.gauge == Gauge::fuel || fuel.flow(r.at) > 0.0)) {
            // Once in a minute is enough of a gauge that sloshes.
            const bool close = std::any_of(read.begin(), read.end(), [&](const Reading* o) {
                return o->gauge == r.gauge && o->engine == r.engine && r.at - o->at < oilTime;
            });
            if (!close)
                read.push_back(&r);
        }
    Solve<2> solve;
    const Eigen::Vector2d prior(priors.burn, priors.fuelGauge * capacity);
    std::vector<double> values, sd;
    std::vector<bool> left(read.size(), false), firm;
    for (const auto* r : read) {
        values.push_back(r->value);
        firm.push_back(r->believed);
        const double each = fuel.flow(r->at) / static_cast<double>(n.engineCount());
        sd.push_back(r->gauge == Gauge::fuel
                         ? misfits.fuelGauge * capacity
                         : misfits.flow * each * (course.phaseAt(r->at) == Phase::cruise ? 1.0 : 3.0));
    }
    const auto model = [&](const Eigen::Vector2d& t, std::vector<double>& predicted,
                           std::vector<Eigen::Vector2d>& slope) {
        for (std::size_t i = 0; i < read.size(); ++i) {
            const double burnt = std::exp(t[0]);
            if (read[i]->gauge == Gauge::fuel) {
                const double used = fuel.used(read[i]->at);
                predicted[i] = full - burnt * used + t[1];
                slope[i] = {-burnt * used, 1.0};
            } else {
                const double each = fuel.flow(read[i]->at) / static_cast<double>(n.engineCount());
                predicted[i] = burnt * each;
                slope[i] = {burnt * each, 0.0};
            }
        }
    };
    const auto fitFuel = [&] {
        solve.theta.setZero();
        solve.run(prior, values, sd, left, firm, model);
    };
    solve.covariance = prior.array().square().matrix().asDiagonal();
    if (!read.empty()) {
        fitFuel();
        for (std::size_t i = 0; i < read.size(); ++i)
            if (!read[i]->believed && std::abs(solve.apart[i]) > outOfAll) {
                left[i] = true;
                fitFuel();
            }
        for (std::size_t i = 0; i < read.size(); ++i)
            if (left[i])
                ask({0, read[i]->at, values[i], 0, {read[i]}, false, true, true}, values[i] - solve.residual[i],
                    solve.spread[i], false);
    }
    out.fuel.burn = solve.theta[0];
    out.fuel.deviation = std::sqrt(solve.covariance(0, 0));
    out.fuel.offset = solve.theta[1];
    const double used = fuel.used(now) * std::exp(solve.theta[0]);
    out.fuel.held = used * out.fuel.deviation;
    // Two that each by itself say that it burns less than planned, a quarter of an hour apart or of two kinds.
    std::vector<const Reading*> less;
    for (std::size_t i = 0; i < read.size(); ++i)
        if (!left[i]) {
            ++out.fuel.readings;
            const bool says =
                read[i]->gauge == Gauge::fuel
                    ? values[i] > full - fuel.used(read[i]->at) + sd[i]
                    : values[i] < fuel.flow(read[i]->at) / static_cast<double>(n.engineCount()) - 0.5 * sd[i];
            if (says)
                less.push_back(read[i]);
        }
    for (const auto* x : less)
        for (const auto* y : less)
            out.fuel.twoAgree =
                out.fuel.twoAgree || (x != y && (x->gauge != y->gauge || std::abs(x->at - y->at) >= 900.0));
    return out;
}

} // namespace amber::aloft
