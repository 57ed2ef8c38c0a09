// SPDX-License-Identifier: GPL-3.0-or-later
#include "powerplant/aircraft.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "drills/drill.h"
#include "units/roots.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::powerplant {
namespace {
constexpr double worstFit = 0.10;

double dynamicPressure(Speed trueSpeed, const air::Ambient& air) {
    const double v = trueSpeed.si();
    return 0.5 * air::density(air.pressure, air.temperature) * v * v;
}

std::optional<Drag> settleDrag(const TypeNotes& notes, const engine::EngineParameters& engine,
                               const engine::Propeller& propeller, Problems& problems) {
    const air::Day day = air::standardDay(Length{});
    struct Equation {
        double q, induced, thrust;
    };
    std::vector<Equation> equations;
    for (const auto& line : notes.performance) {
        const Rating& rating = *notes.rating(line.rating);
        const air::Ambient air = day.at(line.height);
        double best = -1e9;
        for (std::size_t gear = 0; gear < std::max<std::size_t>(1, notes.engine.gears.size()); ++gear) {
            engine::Demand demand{rating.rpm, rating.boost, gear, air, line.ias, rating.mixture};
            if (propeller.followsThrottle()) {
                const auto both = engine::agree(engine, propeller.coarse, demand);
                demand.rpm = both.rpm;
                demand.boost = both.boost;
            }
            best = std::max(best, engine::operate(engine, demand).power.si());
        }
        const double v = air::trueAirspeed(line.ias, air.pressure, air.temperature).si();
        const double q = dynamicPressure(Speed::si(v), air);
        const double w = line.weight.si() * air::gravity;
        const double useful = Drag::propellerEfficiency * best * static_cast<double>(notes.engineCount());
        const double climbing = line.rate ? w * line.rate->si() : 0.0;
        equations.push_back({q, w * w / q, (useful - climbing) / v});
    }
    const auto &a = equations.at(0), &b = equations.at(1);
    const double determinant = a.q * b.induced - b.q * a.induced;
    const double area = (a.thrust * b.induced - b.thrust * a.induced) / determinant;
    const double induced = (a.q * b.thrust - b.q * a.thrust) / determinant;
    if (!(area > 0) || !(induced > 0) || !std::isfinite(area) || !std::isfinite(induced)) {
        problems.push_back({notes.file, notes.performance.front().line,
                            "the two performance lines do not fit any aircraft with these engines",
                            "Check speed, weight and rate of climb against the ratings"});
        return std::nullopt;
    }
    return Drag{area, induced};
}
} // namespace

std::optional<Aircraft> assemble(TypeNotes notes, Problems& problems) {
    const auto before = problems.size();
    cockpit::expand(notes, problems);
    if (problems.size() > before)
        return std::nullopt;
    auto calibration = engine::calibrate(notes);
    const auto& lines = calibration.residuals;
    if (!std::all_of(lines.begin(), lines.end(),
                     [](const auto& r) { return std::abs(r.power.value_or(0.0)) <= worstFit; })) {
        const auto found = engine::contradictions(notes, calibration);
        problems.insert(problems.end(), found.begin(), found.end());
        return std::nullopt;
    }
    const auto stop = engine::FineStop::of(notes, calibration.parameters);
    const auto propeller = engine::Propeller::of(notes, calibration.parameters, stop, problems);
    if (!propeller)
        return std::nullopt;
    const auto drag = settleDrag(notes, calibration.parameters, *propeller, problems);
    if (!drag)
        return std::nullopt;
    heat::ThermalModel thermal(notes, calibration.parameters);
    return Aircraft{std::move(notes), std::move(calibration), stop, *propeller, thermal, *drag, {}};
}

std::optional<Speed> levelSpeed(const Aircraft& aircraft, double shaft, Mass weight, const air::Ambient& air) {
    const double w = weight.si() * air::gravity;
    const double rho = air::density(air.pressure, air.temperature);
    const double useful = Drag::propellerEfficiency * shaft;
    const auto surplus = [&](double v) { return useful - aircraft.drag.force(0.5 * rho * v * v, w) * v; };
    // Least power: q = W sqrt(k/(3 f)).
    const double slow = std::sqrt(2.0 / rho * w * std::sqrt(aircraft.drag.induced / (3.0 * aircraft.drag.area)));
    const double fast = 300.0;
    const double atSlow = surplus(slow), atFast = surplus(fast);
    if (!(atSlow > 0) || !(atFast < 0))
        return std::nullopt;
    return Speed::si(roots::bracket(surplus, slow, fast, atSlow, atFast, 1e-3).middle());
}

VerticalSpeed rateOfClimb(const Aircraft& aircraft, double shaft, Mass weight, Speed ias, const air::Ambient& air) {
    const double w = weight.si() * air::gravity;
    const Speed v = air::trueAirspeed(ias, air.pressure, air.temperature);
    const double drag = aircraft.drag.force(dynamicPressure(v, air), w);
    return VerticalSpeed::si((Drag::propellerEfficiency * shaft - drag * v.si()) / w);
}

Power powerForRate(const Aircraft& a, double climb, Mass weight, Speed ias, const air::Ambient& air) {
    constexpr double some = 1e5;
    const double none = rateOfClimb(a, 0.0, weight, ias, air).si(), with = rateOfClimb(a, some, weight, ias, air).si();
    return Power::si(some * (climb - none) / std::max(1e-9, with - none));
}

double onTheRunway(const Aircraft& a, double useful, double tas, double density, double standing, Mass mass) {
    const double diameter = a.notes.propeller.diameter;
    const double disc = 0.7854 * diameter * diameter * static_cast<double>(a.notes.engineCount());
    const double still = std::cbrt(2.0 * density * disc) * std::pow(std::max(0.0, useful), 2.0 / 3.0);
    const double thrust = std::min(still, useful / std::max(tas, 1.0));
    const double q = 0.5 * density * tas * tas;
    return (thrust - q * (a.drag.area + standing)) / mass.si() - 0.03 * air::gravity;
}

Aircraft taught(const Aircraft& aircraft, std::vector<Learnt> learnt) {
    Aircraft out = aircraft;
    double sum = 0.0;
    for (const auto& l : learnt)
        sum += l.fuel;
    out.calibration.parameters.burn = learnt.empty() ? 1.0 : sum / static_cast<double>(learnt.size());
    out.learnt = std::move(learnt);
    return out;
}

Origin originOfFuel(const Aircraft& aircraft) {
    const bool found = std::any_of(aircraft.learnt.begin(), aircraft.learnt.end(),
                                   [](const Learnt& engine) { return engine.fuel != 1.0; });
    return found ? Origin::logged : Origin::model;
}

std::string_view markWithFuel(const Aircraft& aircraft) {
    return originOfFuel(aircraft) == Origin::logged ? "model, fuel logged" : "model";
}

std::string markOfModel(const Aircraft& a) {
    engine::EngineParameters model = a.model();
    model.burn = 1.0;
    std::string said;
    const air::Day day = air::standardDay(Length{});
    for (const auto& rating : a.notes.ratings) {
        const engine::Demand demand{rating.rpm, rating.boost, 0, day.at(Length{}), Speed::si(80.0), rating.mixture};
        const auto p = engine::operate(model, demand);
        heat::Drive drive;
        drive.running = true;
        drive.airFlow = p.airFlow;
        drive.fuelAirRatio = p.fuelAirRatio;
        drive.shaft = p.power;
        drive.rpm = rating.rpm;
        drive.air = demand.air;
        drive.trueAirspeed = Speed::si(80.0);
        const auto warm = a.thermal.steady(drive);
        said += fmt::format("{:.3g} {:.3g} {:.0f} {:.0f} {:.0f} {:.2g};", p.power.si(), p.fuelFlow.si(),
                            p.chargeTemperature.si(), warm.headOrCoolant.si(), warm.oil.si(),
                            a.thermal.oilPressure(rating.rpm, warm.oil).si());
    }
    std::uint32_t mark = 2166136261U; // FNV-1a
    for (const char c : said)
        mark = (mark ^ static_cast<unsigned char>(c)) * 16777619U;
    return fmt::format("{:08x}", mark);
}

} // namespace amber::powerplant
