// SPDX-License-Identifier: GPL-3.0-or-later
#include "advice/cool_down.h"
#include "air/atmosphere.h"
#include "start/priming.h"
#include "units/text.h"
#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace amber::advice {
namespace {
constexpr double standing = 3 * 3600.0, stride = 120.0;   // s, of the curve after the stop
constexpr double vapourAir = 291.15, vapourMost = 3600.0; // K, s: fuel boils in the lines on a mild day or warmer
} // namespace

std::optional<Dilution> dilutionFor(const StopNotes& n, Temperature forecast) {
    const auto& table = n.dilution;
    if (table.empty() || forecast > table.back().first)
        return std::nullopt;
    if (forecast <= table.front().first)
        return Dilution{table.front().second.si(), forecast == table.front().first ? Origin::notes : Origin::model};
    for (std::size_t i = 1; i < table.size(); ++i)
        if (forecast <= table[i].first) {
            const auto& a = table[i - 1];
            const auto& b = table[i];
            const double t = (forecast.si() - a.first.si()) / (b.first.si() - a.first.si());
            return Dilution{a.second.si() + t * (b.second.si() - a.second.si()),
                            t >= 1.0 ? Origin::notes : Origin::between};
        }
    return std::nullopt;
}

std::string doseText(double dose, const std::string& unit) {
    if (dose < 0.5)
        return "none";
    const bool one = dose < 1.5 && unit.ends_with('s');
    return fmt::format("{:.0f} {}", dose, one ? unit.substr(0, unit.size() - 1) : unit);
}

RestartRow restartAfter(const TypeNotes& n, double seconds, Temperature stopped, Temperature outside,
                        Length pressureAltitude) {
    RestartRow r;
    r.after = seconds;
    r.engine = start::engineTemperature({Duration::si(seconds), stopped, {}}, outside);
    const auto advice = start::Priming(n.start).advice(r.engine, air::pressureAtAltitude(pressureAltitude));
    r.dose = advice.dose;
    r.origin = advice.origin;
    if (advice.dose + advice.blades < 0.5) {
        r.advice = r.engine > start::hotEngine && outside.si() > vapourAir && seconds < vapourMost
                       ? "No prime. Fuel has boiled in the lines: pump until the pressure holds, then throttle a "
                         "little more open than cold."
                       : "No prime: what is left in the cylinders fires. Flooded it starts with the throttle open.";
    } else if (advice.dose + advice.blades < 1.5) {
        r.advice = "Warm: a little, and only if it does not catch by itself.";
    } else {
        r.advice = "As from cold, by the table.";
    }
    return r;
}

CoolDown coolDown(const powerplant::Aircraft& a, const Sortie& s, const flight::Flown& f) {
    const TypeNotes& n = a.notes;
    CoolDown out;
    out.below = n.stop.coolBelow;
    out.atIdle = f.coolDown;
    const auto& phase = f[Phase::stop];
    // The engine stops where the last standing stretch begins.
    double stoppedAt = phase.start + phase.duration;
    heat::Drive standingDrive;
    for (const auto& stretch : f.stretches)
        if (stretch.time >= phase.start - 1e-6 && !stretch.drive.running) {
            stoppedAt = stretch.time;
            standingDrive = stretch.drive;
            break;
        }
    heat::Temperatures t{};
    for (std::size_t i = phase.firstSample; i <= phase.lastSample; ++i) {
        const auto& m = f.samples[i];
        if (m.time > stoppedAt + 1e-6)
            break;
        out.curve.push_back({m.time - stoppedAt, m.headOrCoolant(), m[Gauge::oilTemperature], true});
        t = {Temperature::si(m.headOrCoolant()), Temperature::si(m[Gauge::oilTemperature])};
    }
    const Temperature stopped = t.headOrCoolant, stoppedOil = t.oil;
    // Standing at the destination's field, in the day's air carried there.
    const air::Day& day = s.day;
    const Length altitude = day.pressureAltitudeOf(s.flight.toElevation);
    standingDrive.air = day.at(altitude);
    for (double time = 0.0; time <= standing + 1e-6; time += stride) {
        out.curve.push_back({time, t.headOrCoolant.si(), t.oil.si(), false});
        t = a.thermal.after(t, standingDrive, Duration::si(stride));
    }
    static constexpr std::array after{5.0, 15.0, 30.0, 60.0, 120.0};
    for (const double minutes : after)
        out.restarts.push_back(restartAfter(n, minutes * 60, stopped, standingDrive.air.temperature, altitude));
    const Temperature forecast = s.forecast.value_or(s.day.oat);
    if (const auto d = dilutionFor(n.stop, forecast)) {
        out.dilute = d->seconds;
        out.diluteOrigin = d->origin;
        out.diluteWhy = fmt::format("For {} forecast.", format(forecast.si(), *n.cockpit.temperature));
        const auto words = [&](Temperature at) { return format(at.si(), *n.cockpit.temperature); };
        if (n.stop.diluteUnder && stoppedOil > *n.stop.diluteUnder) {
            // Standing it cools until then; running again it is diluted.
            constexpr double longest = 4 * 3600.0, step = 60.0;
            heat::Temperatures cooling{stopped, stoppedOil};
            double wait = 0.0;
            for (; wait < longest && cooling.oil > *n.stop.diluteUnder; wait += step)
                cooling = a.thermal.after(cooling, standingDrive, Duration::si(step));
            out.diluteWait = wait < longest ? std::optional(wait) : std::nullopt;
            out.diluteWhy += fmt::format(
                " The oil is at {} and must be under {} first: {}.", words(stoppedOil), words(*n.stop.diluteUnder),
                out.diluteWait ? fmt::format("stop, wait {:.0f} min, start again and dilute", std::ceil(wait / 300) * 5)
                               : "it does not cool so far in four hours");
        } else if (n.stop.diluteUnder) {
            out.diluteWhy += fmt::format(" The oil is under {} already.", words(*n.stop.diluteUnder));
        }
    } else {
        out.diluteWhy =
            n.stop.dilution.empty()
                ? "The notes give no dilution."
                : fmt::format("Not at {}: the notes begin at {}.", format(forecast.si(), *n.cockpit.temperature),
                              format(n.stop.dilution.back().first.si(), *n.cockpit.temperature));
    }
    return out;
}

} // namespace amber::advice
