// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/operating_point.h"

namespace amber::engine {

/// The propeller on its fine-pitch stop, standing still: P = K ρ n³, K = Cp D⁵ with n of the engine.
struct FineStop {
    double absorption = 1.0; ///< K, m⁵

    /// K from the notes' reference rpm at field barometric pressure on the standard day at sea level; without one, from
    /// the diameter with a typical Cp of 0.08 at the propeller's own speed.
    static FineStop of(const TypeNotes& notes, const EngineParameters& engine);
};

/// Speed at which the engine, at this boost, turns the propeller on its fine stop: a bracketed root (TOMS 748), to 0.1
/// rpm.
/// @return at most `most`, where the governor takes over
Rotation staticRpm(const EngineParameters& engine, const FineStop& propeller, ManifoldPressure boost, std::size_t gear,
                   const air::Ambient& air, Rotation most);
/// Boost at which it turns at this speed on the ground; wide open where even that is not enough.
ManifoldPressure boostForRpm(const EngineParameters& engine, const FineStop& propeller, Rotation rpm, std::size_t gear,
                             const air::Ambient& air);

} // namespace amber::engine
