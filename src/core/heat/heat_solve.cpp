// SPDX-License-Identifier: GPL-3.0-or-later
#include "heat/heat_solve.h"
#include "units/lookup.h"
#include "units/roots.h"
#include <algorithm>
#include <array>
#include <cmath>

namespace amber::heat {
namespace {
constexpr double stride = 10.0; // s, between looks
constexpr int halvings = 4;     // of the last, to under a second

template <class Reached>
std::optional<Duration> timeUntil(const ThermalModel& model, Temperatures from, const Drive& drive, Duration horizon,
                                  const Reached& reached) {
    if (reached(from))
        return Duration{};
    const auto forcing = model.forcing(drive);
    for (double t = 0.0; t < horizon.si(); t += stride) {
        const Temperatures next = model.after(from, forcing, Duration::si(stride));
        if (reached(next)) {
            const auto when =
                roots::turn([&](double dt) { return reached(model.after(from, forcing, Duration::si(dt))); }, 0.0,
                            stride, halvings);
            return Duration::si(t + when.high);
        }
        from = next;
    }
    return std::nullopt;
}
} // namespace

std::optional<Duration> timeToMinima(const ThermalModel& model, Temperatures from, const Drive& drive,
                                     const Minima& minima, Duration horizon) {
    return timeUntil(model, from, drive, horizon, [&](const Temperatures& t) { return minima.met(t); });
}

std::optional<Duration> timeToPass(const ThermalModel& model, Temperatures from, const Drive& drive,
                                   Temperature headOrCoolant, Duration horizon) {
    // They go to where they settle without turning back: what settles under it never passes it.
    if (from.headOrCoolant <= headOrCoolant && model.steadyHeadOrCoolant(model.forcing(drive)) <= headOrCoolant)
        return std::nullopt;
    return timeUntil(model, from, drive, horizon,
                     [&](const Temperatures& t) { return t.headOrCoolant > headOrCoolant; });
}

std::optional<Duration> timeToCool(const ThermalModel& model, Temperatures from, const Drive& drive,
                                   Temperature headOrCoolant, Duration horizon) {
    if (from.headOrCoolant > headOrCoolant && model.steadyHeadOrCoolant(model.forcing(drive)) > headOrCoolant)
        return std::nullopt;
    return timeUntil(model, from, drive, horizon,
                     [&](const Temperatures& t) { return t.headOrCoolant <= headOrCoolant; });
}

FlapNeed flapFor(const ThermalModel& model, Drive drive, Temperature wanted) {
    const auto over = [&](double opening) {
        drive.coolingFlap = opening;
        return model.steadyHeadOrCoolant(model.forcing(drive)).si() - wanted.si();
    };
    const double shut = over(0.0), open = over(1.0);
    if (shut <= 0)
        return {0.0, true, Temperature::si(wanted.si() + shut)};
    if (open > 0)
        return {1.0, false, Temperature::si(wanted.si() + open)};
    const double opening = roots::bracket(over, 0.0, 1.0, shut, open, 1e-3).high;
    return {opening, true, Temperature::si(wanted.si() + over(opening))};
}

Rotation rpmForOilPressure(const ThermalModel& model, Temperature oil, double thinning, Pressure limit, Rotation most) {
    const auto over = [&](double n) { return model.oilPressure(Rotation::si(n), oil, thinning).si() - limit.si(); };
    constexpr double least = 1.0; // rev/s
    const double high = over(most.si()), low = over(least);
    if (high <= 0)
        return most;
    if (low >= 0)
        return Rotation::si(least);
    return Rotation::si(roots::bracket(over, least, most.si(), low, high, 1.0 / 60).low);
}

std::optional<Rotation> rpmFor(const ThermalModel& model, const std::function<Drive(Rotation)>& driveAt,
                               Temperature wanted, Rotation low, Rotation high) {
    const auto over = [&](double n) {
        return model.steadyHeadOrCoolant(model.forcing(driveAt(Rotation::si(n)))).si() - wanted.si();
    };
    const double atLow = over(low.si()), atHigh = over(high.si());
    if (atHigh <= 0)
        return high;
    if (atLow > 0)
        return std::nullopt;
    return Rotation::si(roots::bracket(over, low.si(), high.si(), atLow, atHigh, 1.0 / 60).low);
}

Temperature coolantBoils(Pressure outside, Pressure relief, double glycol) {
    const double mmHg = std::clamp((outside.si() + relief.si()) / 133.3224, 5.0, 5000.0);
    const double log = std::log10(mmHg);
    // Antoine, water: below and above the boiling point at one atmosphere.
    const double celsius = mmHg < 760 ? 1730.63 / (8.07131 - log) - 233.426 : 1810.94 / (8.14019 - log) - 244.485;
    static constexpr std::array<std::pair<double, double>, 7> raised{
        {{0.0, 0.0}, {0.3, 4.4}, {0.5, 7.2}, {0.6, 11.0}, {0.7, 14.0}, {0.9, 40.0}, {1.0, 97.0}}};
    return Temperature::si(celsius + lookUp(raised, glycol) + 273.15);
}

} // namespace amber::heat
