// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/climb_bands.h"
#include "air/airspeed.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace amber::advice {

std::vector<ClimbBand> climbBands(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    std::vector<ClimbBand> out;
    const auto& phase = f[Phase::climb];
    const auto& first = f.samples[phase.firstSample];
    const double top = f.samples[phase.lastSample][Gauge::height];
    const double unit = a.notes.cockpit.height->scale;
    // The smallest round step that needs no more than nine bands.
    double step = 5000 * unit;
    for (const double round : {500.0, 1000.0, 2000.0, 2500.0, 5000.0})
        if ((top - first[Gauge::height]) / (round * unit) <= 9.0) {
            step = round * unit;
            break;
        }
    const auto band = [&](const flight::Sample& m, double height, double distance) {
        ClimbBand b;
        b.height = Length::si(height);
        b.ias = Speed::si(m[Gauge::airspeed]);
        b.rpm = Rotation::si(m[Gauge::rpm]);
        b.boost = ManifoldPressure::si(m[Gauge::boost]);
        b.gear = m.gear;
        b.headOrCoolant = Temperature::si(m.headOrCoolant());
        b.charge = Temperature::si(m[Gauge::chargeTemperature]);
        b.time = m.time - phase.start;
        b.fuel = first[Gauge::fuel] - m[Gauge::fuel];
        b.distance = distance;
        const auto air = s.day.at(s.day.pressureAltitudeOf(b.height));
        const Mass weight = Mass::si(m[Gauge::weight]);
        b.rate = powerplant::rateOfClimb(a, m[Gauge::power] * static_cast<double>(a.notes.engineCount()), weight,
                                         Speed::si(m[Gauge::airspeed]), air);
        return b;
    };
    const auto overGround = [&](const flight::Sample& m, const flight::Sample& n) {
        const auto air = s.day.at(s.day.pressureAltitudeOf(Length::si(0.5 * (m[Gauge::height] + n[Gauge::height]))));
        const double tas =
            air::trueAirspeed(Speed::si(0.5 * (m[Gauge::airspeed] + n[Gauge::airspeed])), air.pressure, air.temperature)
                .si();
        const double dt = n.time - m.time, up = n[Gauge::height] - m[Gauge::height];
        return std::sqrt(std::max(0.0, tas * dt * tas * dt - up * up));
    };
    double next = std::ceil((first[Gauge::height] + 0.25 * step) / step) * step, distance = 0.0;
    for (std::size_t i = phase.firstSample + 1; i <= phase.lastSample; ++i) {
        const auto &m = f.samples[i - 1], &n = f.samples[i];
        const double far = overGround(m, n);
        while (n[Gauge::height] >= next - 1e-6 && n[Gauge::height] > m[Gauge::height] && next < top - 0.05 * step) {
            const double t = (next - m[Gauge::height]) / (n[Gauge::height] - m[Gauge::height]);
            const flight::Sample at = flight::between(m, n, t); // levers as they are from here on
            out.push_back(band(at, next, distance + t * far));
            next += step;
        }
        distance += far;
    }
    out.push_back(band(f.samples[phase.lastSample], top, distance));
    return out;
}

} // namespace amber::advice
