// SPDX-License-Identifier: GPL-3.0-or-later
#include "aloft/stand_in.h"
#include "aloft/course.h"
#include "hand/careful_hand.h"
#include "notes/cockpit_units.h"
#include "powerplant/generator.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::aloft {
namespace {
struct Draws {
    std::uint64_t seed = 1, count = 0;
    double uniform() { return powerplant::uniformAt(seed, 77, ++count); }
    double about(double deviation) { // sum of twelve
        double sum = -6.0;
        for (int i = 0; i < 12; ++i)
            sum += uniform();
        return deviation * sum;
    }
};
/// Needles that a recorder has, in the order of its columns.
constexpr std::array recorded{
    Gauge::rpm,         Gauge::boost,   Gauge::headTemperature, Gauge::coolantTemperature, Gauge::oilTemperature,
    Gauge::oilPressure, Gauge::fuelFlow};
} // namespace

StandInFlight standInFlight(const powerplant::Aircraft& aircraft, const Sortie& sortie, const StandInSetting& setting) {
    StandInFlight out;
    Draws d{setting.seed};
    const TypeNotes& n = aircraft.notes;
    const Gauge heads = headOrCoolantGauge(n);
    // Another build: it settles hotter or cooler, its cowl breathes otherwise, it burns more or less.
    TypeNotes other = n;
    const double k = setting.differs;
    const auto rise = [&](Temperature& t, double by) { t = Temperature::si(288.0 + (t.si() - 288.0) * std::exp(by)); };
    const double hotter = d.about(0.05 * k), oilier = d.about(0.06 * k);
    if (other.heat.head)
        rise(*other.heat.head, hotter);
    if (other.heat.coolant)
        rise(*other.heat.coolant, 0.5 * hotter);
    rise(other.heat.oil, oilier);
    other.heat.slipstream = std::clamp(n.heat.slipstream * std::exp(d.about(0.15 * k)), 0.05, 1.2);
    powerplant::Aircraft truth = aircraft;
    truth.thermal =
        heat::ThermalModel(other, truth.model()).ofMass(std::exp(d.about(0.15 * k)), std::exp(d.about(0.15 * k)));
    const double burns = std::exp(d.about(0.05 * k));
    const std::size_t count = n.engineCount();
    std::vector<powerplant::Condition> conditions(count);
    for (std::size_t e = 0; e < count; ++e) {
        if (e < setting.faults.size())
            conditions[e] = setting.faults[e];
        auto& learnt = conditions[e].learnt;
        learnt.fuel = burns * std::exp(d.about(0.01 * k));
        learnt.offsets.push_back({heads, d.about(2.0 * k)});
        learnt.offsets.push_back({Gauge::oilTemperature, d.about(2.0 * k)});
    }
    const double gaugeOff = d.about(0.012 * k);
    const double feltLate = 5.0 + 20.0 * d.uniform(); // s that thermometers lag
    Sortie really = sortie;
    really.flight.hold = Duration::si(sortie.flight.hold.si() + setting.wait);
    const auto flown = flight::fly(truth, really);
    // A recorder's own headings.
    out.headings = {"Time"};
    struct Column {
        Gauge gauge;
        int engine;
        double scale, zero, step;
    };
    std::vector<Column> columns;
    const auto add = [&](Gauge gauge, int engine, double step) {
        const auto& unit = gauge == Gauge::fuelFlow ? fuelFlowUnit(n.cockpit) : n.unitOf(gauge);
        out.headings.push_back(fmt::format("{}{} [{}]",
                                           gauge == Gauge::headTemperature      ? "CHT"
                                           : gauge == Gauge::coolantTemperature ? "Coolant"
                                           : gauge == Gauge::oilTemperature     ? "Oil temp"
                                           : gauge == Gauge::oilPressure        ? "Oil press"
                                           : gauge == Gauge::boost              ? "Boost"
                                           : gauge == Gauge::fuelFlow           ? "Fuel flow"
                                           : gauge == Gauge::height             ? "Height"
                                                                                : "RPM",
                                           engine >= 0 && count > 1 ? fmt::format(" {}", engine + 1) : std::string(),
                                           unit.symbol));
        columns.push_back({gauge, engine, unit.scale, unit.offset, step});
    };
    for (std::size_t e = 0; e < count; ++e)
        for (const Gauge g : recorded)
            if (g == Gauge::rpm || g == Gauge::fuelFlow || n.gauges.contains(g))
                add(g, static_cast<int>(e),
                    g == Gauge::rpm                             ? 10.0
                    : g == Gauge::boost || g == Gauge::fuelFlow ? 0.1
                                                                : 1.0);
    add(Gauge::height, -1, 10.0);
    std::vector<std::array<double, 2>> felt(count);
    std::vector<bool> fired(count), stopped(count);
    Phase phase = Phase::walkRound;
    std::size_t gear = 0;
    double capacity = 0.0;
    for (const auto& t : n.fuel.tanks)
        capacity += t.removable ? 0.0 : t.usable.si();
    const auto give = [&](const char* what, double at, std::string engine = {}) {
        out.moments.push_back({what, std::move(engine), at, {}});
    };
    int feeding = -1;
    hand::doDrill(
        truth, really, flown, hand::byThePlansClock,
        [&](const hand::Moment& m) {
            const double now = static_cast<double>(m.state.now) / 1000.0;
            if (m.phase != phase) {
                if (m.phase == Phase::runUp)
                    give("at-taxi", std::max(0.0, now - n.warmUp.taxi.si()));
                else if (m.phase == Phase::takeOff)
                    give("at-take-off", now);
                else if (m.phase == Phase::climb)
                    give("at-climb-power", now);
                else if (m.phase == Phase::cruise)
                    give("at-top-of-climb", now);
                else if (m.phase == Phase::letDown)
                    give("at-top-of-descent", now);
                else if (m.phase == Phase::stop)
                    give("at-touch-down", now);
                phase = m.phase;
            }
            if (const auto g = m.levers.engines.front().gear; m.phase == Phase::climb && g != gear) {
                if (g > gear && std::none_of(out.moments.begin(), out.moments.end(),
                                             [](const Given& x) { return x.what == "at-gear-change"; }))
                    give("at-gear-change", now);
                gear = g;
            } else {
                gear = g;
            }
            if (m.state.now % 1000 != 0)
                return;
            StandInFlight::Second second;
            second.phase = m.phase;
            second.tanks = m.state.tanks;
            for (const double t : m.state.tanks)
                second.fuel += t;
            second.feeding = m.levers.engines.front().tank;
            if (second.feeding != feeding && m.phase > Phase::start) {
                if (feeding >= 0)
                    out.moments.push_back(
                        {"tank/" + n.fuel.tanks[static_cast<std::size_t>(second.feeding)].id, {}, now, {}});
                feeding = second.feeding;
            }
            for (std::size_t e = 0; e < count; ++e) {
                auto r = m.readings.engines[e];
                const bool runs = m.state.engines[e].firing;
                if (runs && !fired[e]) {
                    fired[e] = true;
                    give("at-first-fire", now, n.positions[e].id);
                    felt[e] = {r[heads], r[Gauge::oilTemperature]};
                }
                if (!runs && fired[e] && !stopped[e] && m.phase == Phase::stop) {
                    stopped[e] = true;
                    if (count > 1)
                        give("at-engine-stop", now, n.positions[e].id);
                    if (std::all_of(stopped.begin(), stopped.end(), [](bool s) { return s; }))
                        give("at-stop", now);
                }
                // Thermometers lag.
                if (fired[e]) {
                    felt[e][0] += (r[heads] - felt[e][0]) / feltLate;
                    felt[e][1] += (r[Gauge::oilTemperature] - felt[e][1]) / feltLate;
                    r[heads] = felt[e][0];
                    r[Gauge::oilTemperature] = felt[e][1];
                }
                r[Gauge::fuel] = second.fuel + gaugeOff * capacity;
                r[Gauge::height] = m.state.height;
                second.engines.push_back(r);
            }
            std::vector<double> row{now};
            for (const auto& c : columns) {
                double v = second.engines[static_cast<std::size_t>(std::max(0, c.engine))][c.gauge];
                v = (v - c.zero) / c.scale;
                v += (d.uniform() - 0.5) * c.step; // it trembles by its last figure
                row.push_back(std::isfinite(v) ? std::round(v / c.step) * c.step : v);
            }
            out.rows.push_back(std::move(row));
            out.truth.push_back(std::move(second));
        },
        conditions);
    std::stable_sort(out.moments.begin(), out.moments.end(),
                     [](const Given& a, const Given& b) { return a.at < b.at; });
    return out;
}

std::string headingLine(const StandInFlight& flight) {
    std::string out;
    for (const auto& h : flight.headings)
        out += (out.empty() ? "" : ",") + h;
    return out;
}

std::string rowLine(const StandInFlight& flight, std::size_t row) {
    std::string out;
    const auto& cells = flight.rows[row];
    for (std::size_t i = 0; i < cells.size(); ++i) {
        if (i > 0)
            out += ',';
        if (std::isfinite(cells[i]))
            out += fmt::format("{:.10g}", std::round(cells[i] * 10.0) / 10.0 + 0.0);
    }
    return out;
}

} // namespace amber::aloft
