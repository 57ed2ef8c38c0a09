// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/let_down.h"
#include "air/airspeed.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "powerplant/engine.h"
#include "units/roots.h"
#include "units/text.h"
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace amber::advice {
namespace {
constexpr double slice = 30.0; // s
} // namespace

std::vector<LetDownWay> letDownWays(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    const auto& phase = f[Phase::letDown];
    const auto& first = f.samples[phase.firstSample];
    const double from = first[Gauge::height], to = f.samples[phase.lastSample][Gauge::height];
    const PhaseNotes& notes = n.phase(Phase::letDown);
    const double engines = static_cast<double>(n.engineCount()), planned = notes.rate->si();
    const Speed ias = *notes.ias;
    const Mass weight = Mass::si(first[Gauge::weight]);
    const flight::CoolingLimit limit = flight::coolingLimit(n);
    const auto least = flight::letDownLeast(n);
    std::vector<LetDownWay> out;
    for (const double share : {0.6, 1.0, 1.5, 2.0, 3.0}) {
        LetDownWay w;
        w.planned = share == 1.0;
        w.rate = VerticalSpeed::si(share * planned);
        w.duration = std::max(0.0, from - to) / w.rate.si();
        heat::Temperatures t{Temperature::si(first.headOrCoolant()), Temperature::si(first[Gauge::oilTemperature])};
        w.least = t.headOrCoolant;
        double height = from;
        bool firstStep = true;
        for (double time = 0.0; time < w.duration - 1e-6; time += slice) {
            const double dt = std::min(slice, w.duration - time);
            const auto air = s.day.at(s.day.pressureAltitudeOf(Length::si(height)));
            const double needed = powerplant::powerForRate(a, -w.rate.si(), weight, ias, air).si() / engines;
            const flight::Setting& set = phase.setting;
            const auto at = [&](double boost) {
                engine::Demand d{set.rpm, ManifoldPressure::si(boost), set.gear, air, ias, set.mixture};
                d.carburettorHeat = set.hotAir * powerplant::hotAirRise(n);
                return engine::operate(a.model(), d);
            };
            double boost = flight::throttleShut;
            const double shut = at(flight::throttleShut).power.si() - needed, open = at(2.5e5).power.si() - needed;
            if (open <= 0) {
                boost = 2.5e5;
            } else if (shut < 0) {
                boost = roots::bracket([&](double x) { return at(x).power.si() - needed; }, flight::throttleShut, 2.5e5,
                                       shut, open, 50.0)
                            .high;
            }
            const auto p = at(boost);
            if (firstStep) {
                w.power = Power::si(needed);
                if (shut < 0)
                    w.boost = p.manifoldPressure;
            }
            const heat::Drive d = heat::driveOf(p, set.rpm, air, ias, set.coolingFlap);
            if (firstStep)
                w.cooling = t.headOrCoolant.si() - a.thermal.after(t, d, Duration::si(60)).headOrCoolant.si();
            firstStep = false;
            t = a.thermal.after(t, d, Duration::si(dt));
            w.least = std::min(w.least, t.headOrCoolant);
            w.fuel += p.fuelFlow.si() / f.fuelDensity * engines * dt;
            w.distance += d.trueAirspeed.si() * dt;
            height -= w.rate.si() * dt;
        }
        const auto degrees = [&](double kelvin) { return format(kelvin, differenceUnit(n.cockpit)); };
        w.verdict = watch::coolingRate(
            w.cooling, limit.perMinute,
            w.cooling > limit.perMinute
                ? fmt::format("Falls {} in the first minute, over {}.", degrees(w.cooling), degrees(limit.perMinute))
                : fmt::format("Falls {} in the first minute.", degrees(std::max(0.0, w.cooling))));
        if (w.verdict.colour() == watch::Colour::normal && least && w.least < *least)
            w.verdict =
                watch::coolingLeast(w.least.si(), least->si(),
                                    fmt::format("Falls to {}, under {}.", format(w.least.si(), *n.cockpit.temperature),
                                                format(least->si(), *n.cockpit.temperature)));
        out.push_back(std::move(w));
    }
    return out;
}

} // namespace amber::advice
