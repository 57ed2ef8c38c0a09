// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/propeller_load.h"
#include "notes/problem.h"

namespace amber::engine {

/// What a propeller at one blade angle takes from the engine: P = K ρ n³ g(J), n of the engine, J = V/(n_p D) of the
/// propeller, g = 1 − (J/J0)² down to a tenth of it negative (driven by the air). J0, the advance ratio of no power, is
/// settled from the notes' level line; a simplification of measured propeller charts that is right at both ends.
struct BladeAngle {
    double absorption = 1.0;  ///< K, m⁵
    double zeroAdvance = 1.0; ///< J0
    double diameter = 3.0;    ///< m
    double reduction = 1.0;

    [[nodiscard]] double power(double revsPerSecond, double trueSpeed, double density) const;
};

/// The propeller of a type, with its stops.
struct Propeller {
    PropellerControl control = PropellerControl::constantSpeed;
    BladeAngle fine, coarse; ///< the same for a fixed pitch; a governed one has no coarse stop that matters here

    /// Settles fine from the reference rpm and J0 from the level performance line (fixed and two-position). Fails when
    /// the reference rpm and that line fit no propeller: in flight it must turn faster for the same power.
    static std::optional<Propeller> of(const TypeNotes& notes, const EngineParameters& engine, const FineStop& stop,
                                       Problems& problems);

    /// Whether the throttle alone decides the rpm in flight.
    [[nodiscard]] bool followsThrottle() const { return control != PropellerControl::constantSpeed; }
};

/// Where engine and blade angle agree.
struct Agreement {
    Rotation rpm;
    ManifoldPressure boost; ///< set
    bool throttled = false; ///< held back so as not to pass the wanted rpm
};

/// The rpm at which the engine turns this blade angle with no more than the demand's boost (none: wide open), and no
/// more than its rpm: then the throttle is closed to hold it. All else as demanded: air, speed, mixture, heat of the
/// carburettor's air. Bracketed roots (TOMS 748), to 0.1 rpm.
Agreement agree(const EngineParameters& engine, const BladeAngle& blades, const Demand& most);

} // namespace amber::engine
