// SPDX-License-Identifier: GPL-3.0-or-later
#include "heat/thermal_model.h"
#include "air/airspeed.h"
#include "air/atmosphere.h"
#include "units/roots.h"
#include <algorithm>
#include <array>
#include <boost/numeric/odeint/stepper/runge_kutta4.hpp>
#include <cmath>
#include <numbers>

namespace amber::heat {
namespace {
constexpr double headTime = 95.0, coolantTime = 90.0, oilTime = 180.0; // s, at the rated point
constexpr double standingTime = 2400.0;                                // s, natural cooling of a stopped engine
constexpr double radiatorUnits = 1.2;                                  // NTU of the radiator at the rated point
constexpr double longestStep = 10.0;                                   // s

/// Gas temperature the heads see, K: 1,050 °C at best power, lower rich and weak of it (Pinkel).
double gasTemperature(double fuelAir) {
    return 1323.15 - 1.6e5 * (fuelAir - 0.08) * (fuelAir - 0.08);
}

/// A shut flap still lets two fifths of the air through.
double flapFactor(double coolingFlap) {
    return 0.4 + 0.6 * std::clamp(coolingFlap, 0.0, 1.0);
}

double smooth(double x) {
    const double t = std::clamp(x, 0.0, 1.0);
    return t * t * (3 - 2 * t);
}
double coolantOpening(double t, double thermostat) {
    return 0.05 + 0.95 * smooth((t - thermostat) / 16.0 + 0.5);
}
double oilOpening(double t, double thermostat) {
    return 0.12 + 0.88 * smooth((t - thermostat) / 24.0 + 0.5);
}

/// Radiator heat per degree relative to rated, at x times the rated air flow (effectiveness–NTU, NTU ∝ x^−0.4).
double radiator(double x) {
    x = std::max(x, 1e-4);
    return x * (1.0 - std::exp(-radiatorUnits * std::pow(x, -0.4))) / (1.0 - std::exp(-radiatorUnits));
}
} // namespace

double oilViscosity(Temperature oil) {
    // Walther: log10 log10(ν + 0.7) = A − B log10 T through 1,060 mm²/s at 20 °C and 25 mm²/s at 100 °C. In natural
    // logarithms throughout: it is asked at every step of every integration.
    static const auto constants = [] {
        const double a = std::log(std::log(1060.7)), b = std::log(std::log(25.7));
        const double slope = (a - b) / (std::log(373.15) - std::log(293.15));
        return std::pair{a + slope * std::log(293.15), slope};
    }();
    const double t = std::clamp(oil.si(), 233.15, 423.15);
    return std::exp(std::exp(constants.first - constants.second * std::log(t))) - 0.7;
}

ThermalModel::ThermalModel(const TypeNotes& notes, const engine::EngineParameters& engine)
    : cooling_(notes.engine.cooling),
      propellerArea_(std::numbers::pi / 4 * notes.propeller.diameter * notes.propeller.diameter),
      ratedFlap_(notes.heat.coolingFlap), slipstream_(notes.heat.slipstream), oilRelief_(notes.heat.oilRelief.si()) {
    const HeatNotes& h = notes.heat;
    const Rating& rating = *notes.rating(h.rating);
    const air::Day day = air::standardDay(Length{});
    const air::Ambient air = day.at(h.height);
    const auto gear = rating.lines.empty() ? 0 : notes.gearIndex(rating.lines.front().gear).value_or(0);
    const auto point = engine::operate(engine, {rating.rpm, rating.boost, gear, air, h.ias, rating.mixture});
    ratedAirFlow_ = std::max(1e-6, point.airFlow.si());
    ratedRpm_ = rating.rpm.si();
    ratedAmbient_ = air.temperature.si();
    gasRated_ = gasTemperature(point.fuelAirRatio);
    rated_.headOrCoolant =
        cooling_ == Cooling::air ? h.head.value_or(Temperature::si(480)) : h.coolant.value_or(Temperature::si(370));
    rated_.headOrCoolant = Temperature::si(std::max(rated_.headOrCoolant.si(), ratedAmbient_ + 10.0));
    rated_.oil = Temperature::si(std::max(h.oil.si(), ratedAmbient_ + 10.0));
    thermostat_ = h.thermostat ? h.thermostat->si() : rated_.headOrCoolant.si() - 15.0;
    oilThermostat_ = std::min(h.oilThermostat.si(), rated_.oil.si());
    ratedCoolantOpen_ = coolantOpening(rated_.headOrCoolant.si(), thermostat_);
    ratedOilOpen_ = oilOpening(rated_.oil.si(), oilThermostat_);
    const Drive drive{true,
                      point.airFlow,
                      point.fuelAirRatio,
                      point.power,
                      rating.rpm,
                      air,
                      air::trueAirspeed(h.ias, air.pressure, air.temperature),
                      h.coolingFlap};
    ratedWind_ = std::max(1e-3, coolingWind(drive));
}

double ThermalModel::coolingWind(const Drive& d) const {
    const double rho = air::density(d.air.pressure, d.air.temperature);
    const double v = d.trueAirspeed.si();
    double wash = 0.0;
    if (d.running && d.shaft.si() > 0) {
        // Momentum theory: induced velocity of a propeller standing still, fading as the aircraft moves.
        const double induced = std::cbrt(0.8 * d.shaft.si() / (2.0 * rho * propellerArea_));
        wash = slipstream_ * induced * induced / (induced + std::max(0.0, v));
    }
    // From behind, against the wash, it may come to nothing: the cowl breathes a little all the same.
    const double meets = std::max(0.3, v + wash);
    const double dynamic = 0.5 * rho * meets * meets;
    return rho / 1.225 * dynamic;
}

ThermalModel::Forcing ThermalModel::forcing(const Drive& d) const {
    Forcing f{};
    f.running = d.running;
    f.ambient = d.air.temperature.si();
    const double open = flapFactor(d.coolingFlap) / flapFactor(ratedFlap_);
    const double wind = coolingWind(d) / ratedWind_;
    const double flow = d.airFlow.si() / ratedAirFlow_;
    f.gas = gasTemperature(d.fuelAirRatio);
    if (cooling_ == Cooling::air) {
        f.metalIn = d.running ? std::pow(std::max(flow, 0.0), 0.62) : 0.0;
        f.metalOut = std::pow(wind * open * open, 0.38);
    } else {
        f.metalIn = d.running ? std::pow(std::max(flow, 0.0), 0.65) : 0.0;
        f.metalOut = radiator(std::sqrt(wind) * open);
    }
    const double n = d.rpm.si() / ratedRpm_;
    f.oilIn = d.running ? 0.6 * n * n + 0.4 * std::pow(std::max(flow, 0.0), 0.65) : 0.0;
    f.oilOut = radiator(std::sqrt(wind) * std::clamp(d.oilCooler, 0.0, 1.0));
    f.thinning = d.oilThinning;
    f.thick = std::sqrt(std::sqrt(d.oilThinning));
    return f;
}

namespace {
using State = std::array<double, 2>;

/// Fourth root of the oil's viscosity over that at 70 °C: asked at every step of every integration, so kept for each
/// eighth of a degree, straight lines between (within 1e-5).
double thickness(double kelvin) {
    constexpr double low = 233.15, high = 423.15, each = 0.125;
    constexpr auto count = static_cast<std::size_t>((high - low) / each) + 2;
    static const auto kept = [] {
        std::array<double, count> out{};
        const double warm = oilViscosity(Temperature::si(343.15));
        for (std::size_t i = 0; i < count; ++i)
            out[i] = std::sqrt(std::sqrt(oilViscosity(Temperature::si(low + each * static_cast<double>(i))) / warm));
        return out;
    }();
    const double x = (std::clamp(kelvin, low, high) - low) / each;
    const auto i = static_cast<std::size_t>(x);
    return kept[i] + (x - static_cast<double>(i)) * (kept[i + 1] - kept[i]);
}
} // namespace

double ThermalModel::headOrCoolantRate(double tm, const Forcing& f) const {
    const double ta0 = ratedAmbient_, tm0 = rated_.headOrCoolant.si();
    if (!f.running)
        return -(tm - f.ambient) / standingTime; // natural cooling of the whole lump, as the priming reckons it
    if (cooling_ == Cooling::air) {
        const double beta = (gasRated_ - tm0) / (tm0 - ta0); // heads: out over in at the rated point
        return (f.metalIn * (f.gas - tm) - beta * f.metalOut * (tm - f.ambient)) /
               (headTime * headMass_ * (1.0 + beta));
    }
    return (f.metalIn * (tm0 - ta0) * (f.gas - tm) / (gasRated_ - tm0) -
            f.metalOut * coolantOpening(tm, thermostat_) / ratedCoolantOpen_ * (tm - f.ambient)) /
           (coolantTime * headMass_);
}

Rates ThermalModel::rates(double tm, double to, const Forcing& f) const {
    const double ta0 = ratedAmbient_, to0 = rated_.oil.si();
    Rates dx;
    dx.headOrCoolant = headOrCoolantRate(tm, f);
    // Cold oil takes more friction work; the tank and sump lose a little heat always.
    const double thick = f.running ? std::min(2.2, f.thick * thickness(to)) : 0.0;
    dx.oil = (f.oilIn * std::max(0.7, thick) * (to0 - ta0) -
              (f.running ? f.oilOut * oilOpening(to, oilThermostat_) / ratedOilOpen_ : 0.0) * (to - f.ambient)) /
                 (oilTime * oilMass_) -
             (f.running ? 0.0 : (to - f.ambient) / (1.5 * standingTime));
    return dx;
}

Rates ThermalModel::rates(Temperatures now, const Drive& drive) const {
    return rates(now.headOrCoolant.si(), now.oil.si(), forcing(drive));
}

Temperatures ThermalModel::after(Temperatures now, const Forcing& f, Duration time) const {
    const auto slope = [&](const State& x, State& dx, double) {
        const Rates r = rates(x[0], x[1], f);
        dx = {r.headOrCoolant, r.oil};
    };
    State x{now.headOrCoolant.si(), now.oil.si()};
    const double total = std::max(0.0, time.si());
    const int steps = std::max(1, static_cast<int>(std::ceil(total / longestStep)));
    const double dt = total / steps;
    boost::numeric::odeint::runge_kutta4<State> stepper;
    for (int i = 0; i < steps; ++i)
        stepper.do_step(slope, x, i * dt, dt);
    return {Temperature::si(x[0]), Temperature::si(x[1])};
}

std::vector<std::pair<std::string, double>> ThermalModel::constants() const {
    return {{"air_cooled", cooling_ == Cooling::air ? 1.0 : 0.0},
            {"head_time", headTime},
            {"coolant_time", coolantTime},
            {"oil_time", oilTime},
            {"standing_time", standingTime},
            {"rated_ambient", ratedAmbient_},
            {"rated_metal", rated_.headOrCoolant.si()},
            {"rated_oil", rated_.oil.si()},
            {"gas_rated", gasRated_},
            {"thermostat", thermostat_},
            {"oil_thermostat", oilThermostat_},
            {"rated_coolant_open", ratedCoolantOpen_},
            {"rated_oil_open", ratedOilOpen_}};
}

std::vector<std::pair<std::string, double>> ThermalModel::forcingOf(const Drive& drive) const {
    const Forcing f = forcing(drive);
    return {{"running", f.running ? 1.0 : 0.0},
            {"gas", f.gas},
            {"metal_in", f.metalIn},
            {"metal_out", f.metalOut},
            {"oil_in", f.oilIn},
            {"oil_out", f.oilOut},
            {"ambient", f.ambient},
            {"thinning", f.thinning}};
}

namespace {
/// Where a falling rate is nothing, a temperature between two others.
template <class Rate>
double settles(const Rate& rate, double low, double high) {
    const double atLow = rate(low), atHigh = rate(high);
    if (atLow <= 0)
        return low;
    if (atHigh >= 0)
        return high;
    return roots::bracket(rate, low, high, atLow, atHigh, 1e-6).middle();
}
} // namespace

Temperature ThermalModel::steadyHeadOrCoolant(const Forcing& f) const {
    return Temperature::si(
        settles([&](double t) { return headOrCoolantRate(t, f); }, f.ambient, std::max(f.gas, f.ambient + 1.0)));
}

Temperatures ThermalModel::steady(const Drive& drive) const {
    // Each rate falls as its own temperature rises, and neither asks for the other: two bracketed roots.
    const Forcing f = forcing(drive);
    const double oil = settles([&](double t) { return rates(rated_.headOrCoolant.si(), t, f).oil; }, f.ambient,
                               std::max(600.0, f.ambient + 1.0));
    return {steadyHeadOrCoolant(f), Temperature::si(oil)};
}

Pressure ThermalModel::oilPressure(Rotation rpm, Temperature oil, double thinning) const {
    if (rpm.si() <= 0)
        return Pressure{};
    static const double viscosityWarm = oilViscosity(Temperature::si(343.15));
    const double thick = thinning * oilViscosity(oil) / viscosityWarm;
    const double x = 3.2 * rpm.si() / ratedRpm_ * std::sqrt(thick);
    const double overshoot =
        1.0 + 0.25 * (1.0 - std::exp(-std::max(0.0, thick - 1.0) / 12.0)) * std::min(1.0, 1.5 * rpm.si() / ratedRpm_);
    return Pressure::si(oilRelief_ * (1.0 - std::exp(-x)) * overshoot);
}

} // namespace amber::heat
