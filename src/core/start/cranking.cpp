// SPDX-License-Identifier: GPL-3.0-or-later
#include "start/cranking.h"
#include "heat/thermal_model.h"
#include <algorithm>
#include <cmath>
#include <numbers>

namespace amber::start {
namespace {
constexpr double frictionExponent = 0.35;
constexpr double slowestFiring = 0.55;   // of the warm speed: slower than this the magneto hardly sparks
constexpr double driveEfficiency = 0.55; // motor, gears and clutch
} // namespace

double bladesPerRevolution(const TypeNotes& notes) {
    return notes.engine.reduction * notes.propeller.blades;
}

Duration longestTry(const StartNotes& notes) {
    return notes.starter.boosterMost ? std::min(notes.crankMost, *notes.starter.boosterMost) : notes.crankMost;
}

Duration oilPressureRise(Temperature oil, double thinning) {
    static const double warm = heat::oilViscosity(Temperature::si(343.15));
    const double thick = heat::oilViscosity(oil) * thinning / warm;
    return Duration::si(std::clamp(4.0 * std::pow(thick, 0.3), 3.0, 25.0));
}

Cranking crank(const StartNotes& notes, const CrankConditions& conditions) {
    const StarterNotes& s = notes.starter;
    const auto [oil, supply, diluted, blades] = conditions;
    static const double warm = heat::oilViscosity(Temperature::si(343.15));
    const double thinning = diluted ? notes.cold.dilutedViscosity : 1.0;
    const double drag = std::pow(std::max(0.2, heat::oilViscosity(oil) * thinning / warm), frictionExponent);
    Cranking c;
    const bool electric = s.kind == StarterKind::direct || s.kind == StarterKind::inertia;
    c.energise =
        s.kind == StarterKind::inertia ? (supply == Supply::cart ? s.energiseCart : s.energiseBattery) : Duration{};
    // Speed falls as the square root of the drag: torque against friction of both Coulomb and viscous kind.
    double speed = s.warmRpm / std::sqrt(drag);
    if (electric) {
        const double power = s.torque * drag * 2.0 * std::numbers::pi * speed / driveEfficiency;
        // Cold acid: resistance doubles some 35 K below room temperature. A cart is stiff.
        const double resistance =
            supply == Supply::cart ? 0.002
                                   : notes.battery.resistance * std::pow(2.0, std::max(0.0, 293.15 - oil.si()) / 35.0);
        const double e = notes.battery.volts;
        // V = E − I R with V I = power: the root that a motor settles at, or the most the battery can give.
        const double root = e * e - 4.0 * resistance * power;
        if (root >= 0) {
            c.volts = 0.5 * (e + std::sqrt(root));
            c.amperes = power / c.volts;
        } else {
            c.volts = 0.5 * e;
            c.amperes = e / (2.0 * resistance);
            speed *= std::sqrt(c.volts * c.amperes / power);
        }
        speed *= std::clamp(0.4 + 0.6 * c.volts / e, 0.3, 1.0);
        c.fuseMargin = 1.0 - c.amperes / notes.battery.fuseAmperes;
        c.ampereHours = c.amperes * (notes.crankMost.si() + 0.6 * c.energise.si()) / 3600.0;
        c.cartAdvised = supply == Supply::battery &&
                        (c.fuseMargin < 0.15 || c.volts < 0.75 * e || speed < slowestFiring * s.warmRpm);
    }
    if (s.kind == StarterKind::air)
        c.airLeft = Pressure::si(std::max(0.0, s.airBottle.si() - s.airPerStart.si() * std::min(1.6, std::sqrt(drag))));
    c.rpm = speed;
    const double slowness = std::clamp(s.warmRpm / std::max(speed, 0.05), 1.0, 3.0);
    if (notes.bladesFirst && s.bladesBeforeIgnition > 0)
        c.forBlades = Duration::si(s.bladesBeforeIgnition / (std::max(speed, 0.05) * std::max(0.2, blades)));
    // The limit of one try counts from the ignition on: the blades before it are asked for by the notes.
    const double fires = s.firesAfter.si() * slowness;
    c.firesInTime = fires <= longestTry(notes).si();
    c.untilFiring = Duration::si(c.forBlades.si() + std::min(longestTry(notes).si(), fires));
    c.oilPressureRises = oilPressureRise(oil, thinning);
    c.untilOilPressure = std::min(notes.oilPressureWithin, c.oilPressureRises);
    return c;
}

} // namespace amber::start
