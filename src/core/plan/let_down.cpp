// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/let_down.h"
#include "air/airspeed.h"
#include "heat/drive.h"
#include "notes/cockpit_units.h"
#include "units/text.h"
#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <fmt/format.h>

namespace amber::plan {
namespace {
constexpr double slice = 30.0; // s
} // namespace

watch::Colour coolingColour(const CoolingLimit& limit, double fall) {
    return fall > limit.perMinute ? watch::Colour::red : watch::Colour::normal;
}

std::vector<LetDownWay> letDownWays(const Aircraft& a, const Sortie& s, const Flown& f) {
    const TypeNotes& n = a.notes;
    const auto& phase = f[Phase::letDown];
    const auto& first = f.moments[phase.firstMoment];
    const double from = first.height, to = f.moments[phase.lastMoment].height;
    const PhaseNotes& notes = n.phase(Phase::letDown);
    const double engines = static_cast<double>(n.engineCount()), planned = notes.rate->si();
    const Speed ias = *notes.ias;
    const Mass weight = Mass::si(s.weight.si() - (f.fuelAtStart - first.fuel) * n.fuel.density);
    const CoolingLimit limit = coolingLimit(n);
    const auto least = letDownLeast(n);
    std::vector<LetDownWay> out;
    for (const double share : {0.6, 1.0, 1.5, 2.0, 3.0}) {
        LetDownWay w;
        w.planned = share == 1.0;
        w.rate = VerticalSpeed::si(share * planned);
        w.duration = std::max(0.0, from - to) / w.rate.si();
        heat::Temperatures t{Temperature::si(first.metal), Temperature::si(first.oil)};
        w.least = t.metal;
        double height = from;
        bool firstStep = true;
        for (double time = 0.0; time < w.duration - 1e-6; time += slice) {
            const double dt = std::min(slice, w.duration - time);
            const auto air = s.day.at(s.day.pressureAltitudeOf(Length::si(height)));
            const double needed = powerForRate(a, -w.rate.si(), weight, ias, air).si() / engines;
            const Setting& set = phase.setting;
            const auto at = [&](double boost) {
                return engine::operate(a.model(),
                                       {set.rpm, ManifoldPressure::si(boost), set.gear, air, ias, set.mixture});
            };
            double boost = throttleShut;
            const double shut = at(throttleShut).power.si() - needed, open = at(2.5e5).power.si() - needed;
            if (open <= 0) {
                boost = 2.5e5;
            } else if (shut < 0) {
                std::uintmax_t most = 40;
                const auto b = boost::math::tools::toms748_solve(
                    [&](double x) { return at(x).power.si() - needed; }, throttleShut, 2.5e5, shut, open,
                    [](double x, double y) { return std::abs(x - y) < 50.0; }, most);
                boost = b.second;
            }
            const auto p = at(boost);
            if (firstStep) {
                w.power = Power::si(needed);
                if (shut < 0)
                    w.boost = p.manifoldPressure;
            }
            const heat::Drive d = heat::driveOf(p, set.rpm, air, ias, set.flap);
            if (firstStep)
                w.cooling = t.metal.si() - a.thermal.after(t, d, Duration::si(60)).metal.si();
            firstStep = false;
            t = a.thermal.after(t, d, Duration::si(dt));
            w.least = std::min(w.least, t.metal);
            w.fuel += p.fuelFlow.si() / n.fuel.density * engines * dt;
            w.distance += d.trueAirspeed.si() * dt;
            height -= w.rate.si() * dt;
        }
        const bool fast = coolingColour(limit, w.cooling) == watch::Colour::red, cold = least && w.least < *least;
        w.colour = fast ? watch::Colour::red : cold ? watch::Colour::amber : watch::Colour::normal;
        const auto degrees = [&](double kelvin) { return format(kelvin, differenceUnit(n.cockpit)); };
        if (fast)
            w.sentence =
                fmt::format("Falls {} in the first minute, over {}.", degrees(w.cooling), degrees(limit.perMinute));
        else if (cold)
            w.sentence = fmt::format("Falls to {}, under {}.", format(w.least.si(), *n.cockpit.temperature),
                                     format(least->si(), *n.cockpit.temperature));
        else
            w.sentence = fmt::format("Falls {} in the first minute.", degrees(std::max(0.0, w.cooling)));
        out.push_back(std::move(w));
    }
    return out;
}

} // namespace amber::plan
