// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/day.h"
#include "notes/type_notes.h"
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace amber::bench {

/// An engine of a different build from the core's model, to try the fit on engines it cannot copy: the blower's
/// efficiency and work vary with its flow, friction grows with peak pressure and linearly with piston speed (Chen &
/// Flynn, SAE 650733), filling falls with piston speed, the exhaust's back pressure and the carburettor's loss grow
/// with the flow squared, indicated work falls with heat lost at low speed and follows a parabola of mixture. Invented,
/// its figures drawn at random within what such engines had. SI throughout.
struct OtherEngine {
    int cylinders = 9;
    double displacement = 0.03, compression = 6.5, stroke = 0.15;
    double impeller = 0.0;     ///< m
    std::vector<double> gears; ///< ratios; none: unblown
    double blowerBest = 0.7, flowBest = 0.25, blowerFall = 0.5, workFactor = 0.9, workFall = 0.1;
    double frictionBase = 0.4e5, frictionPeak = 0.005, peakPerBoost = 45.0, frictionSpeed = 5e3, frictionSquare = 60.0;
    double airPerWork = 3.7 / 3.6e6, heatLoss = 0.04, mixtureBest = 0.08, mixtureFall = 60.0;
    double filling = 0.9, fillingFall = 0.06, fillingHeat = 0.5, residual = 1.3;
    double backPressure = 0.06, carburettorLoss = 0.03, pumping = 0.7;
    double richAtRated = 0.1, richAtCruise = 0.085, weak = 0.068;
    double ratedRpm = 45.0;    ///< rev/s
    double ratedBoost = 1.4e5; ///< Pa
    double takeOffBoost = 1.5e5, weakBoost = 1e5, weakRpm = 33.0;

    struct Output {
        double power = 0, fuel = 0, manifold = 0; ///< W, kg/s, Pa
        bool wide = false;
    };
    /// @param boost Pa; none: throttle open  @param weakMixture or rich by the engine's own schedule
    [[nodiscard]] Output run(double rpm, std::optional<double> boost, std::size_t gear, const air::Ambient& air,
                             bool weakMixture) const;
    /// Pressure altitude to which the boost is held on the standard day, m; none when not even at sea level.
    [[nodiscard]] std::optional<double> holdsTo(double rpm, double boost, std::size_t gear) const;
};

/// A plausible engine; the same for the same seed on every machine.
OtherEngine otherEngine(std::uint64_t seed);
/// What its booklet says, as far as the fit reads it: ratings rounded as booklets round, boost in the unit of the
/// maker's country; the mixture's metering in two of three,
/// the height to which weak boost holds in every other.
/// @param fuelLines how many lines state a fuel flow, 0 to 2
TypeNotes bookletOf(const OtherEngine& engine, std::uint64_t seed, int fuelLines);

} // namespace amber::bench
