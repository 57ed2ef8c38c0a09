// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/climb_bands.h"
#include "air/airspeed.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace amber::plan {

std::vector<ClimbBand> climbBands(const Aircraft& a, const Sortie& s, const Flown& f) {
    std::vector<ClimbBand> out;
    const auto& phase = f[Phase::climb];
    const auto& first = f.moments[phase.firstMoment];
    const double top = f.moments[phase.lastMoment].height;
    const double unit = a.notes.cockpit.height->scale;
    // The smallest round step that needs no more than nine bands.
    double step = 5000 * unit;
    for (const double round : {500.0, 1000.0, 2000.0, 2500.0, 5000.0})
        if ((top - first.height) / (round * unit) <= 9.0) {
            step = round * unit;
            break;
        }
    const auto band = [&](const Moment& m, double height, double distance) {
        ClimbBand b;
        b.height = Length::si(height);
        b.ias = Speed::si(m.speed);
        b.rpm = Rotation::si(m.rpm);
        b.boost = ManifoldPressure::si(m.boost);
        b.gear = m.gear;
        b.metal = Temperature::si(m.metal);
        b.charge = Temperature::si(m.charge);
        b.time = m.time - phase.start;
        b.fuel = first.fuel - m.fuel;
        b.distance = distance;
        const auto air = s.day.at(s.day.pressureAltitudeOf(b.height));
        const Mass weight = Mass::si(s.weight.si() - (f.fuelAtStart - m.fuel) * a.notes.fuel.density);
        b.rate = rateOfClimb(a, m.power * static_cast<double>(a.notes.engineCount()), weight, Speed::si(m.speed), air);
        return b;
    };
    const auto overGround = [&](const Moment& m, const Moment& n) {
        const auto air = s.day.at(s.day.pressureAltitudeOf(Length::si(0.5 * (m.height + n.height))));
        const double tas = air::trueAirspeed(Speed::si(0.5 * (m.speed + n.speed)), air.pressure, air.temperature).si();
        const double dt = n.time - m.time, up = n.height - m.height;
        return std::sqrt(std::max(0.0, tas * dt * tas * dt - up * up));
    };
    double next = std::ceil((first.height + 0.25 * step) / step) * step, distance = 0.0;
    for (std::size_t i = phase.firstMoment + 1; i <= phase.lastMoment; ++i) {
        const auto &m = f.moments[i - 1], &n = f.moments[i];
        const double far = overGround(m, n);
        while (n.height >= next - 1e-6 && n.height > m.height && next < top - 0.05 * step) {
            const double t = (next - m.height) / (n.height - m.height);
            Moment at = n; // levers as they are from here on
            const auto mix = [t](double x, double y) { return x + t * (y - x); };
            at.time = mix(m.time, n.time);
            at.fuel = mix(m.fuel, n.fuel);
            at.metal = mix(m.metal, n.metal);
            at.charge = mix(m.charge, n.charge);
            at.speed = mix(m.speed, n.speed);
            at.power = m.gear == n.gear ? mix(m.power, n.power) : n.power;
            at.boost = m.gear == n.gear ? mix(m.boost, n.boost) : n.boost;
            out.push_back(band(at, next, distance + t * far));
            next += step;
        }
        distance += far;
    }
    out.push_back(band(f.moments[phase.lastMoment], top, distance));
    return out;
}

} // namespace amber::plan
