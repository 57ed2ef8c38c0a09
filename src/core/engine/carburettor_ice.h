// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/knock.h"

namespace amber::engine {

enum class IceRisk { none, possible, serious };

/// Carburettor ice (J44): temperature behind the throttle by a heat balance — the air taken in, less what the
/// evaporating fuel takes (20 K at F/A 0.08) and what expansion past the throttle takes (up to 5 K when nearly shut) —
/// against the moisture in the air. Ice needs metal between −12 and +2 °C and air whose dew point is above it. An
/// estimate, marked model.
struct IceAdvice {
    IceRisk risk = IceRisk::none;
    Temperature atThrottle;                       ///< behind it, heat off
    double heatNeeded = 0.0;                      ///< K of hot air that bring it above +4 °C; 0 when there is no risk
    bool withinHeat = true;                       ///< the cockpit's full heat suffices
    double powerCost = 0.0;                       ///< fraction of power lost by that heat at the same throttle
    double marginBefore = 0.0, marginAfter = 0.0; ///< knock margin: boundary over boost, less one
};
IceAdvice carburettorIce(const EngineNotes& notes, const EngineParameters& engine, const KnockBoundary& knock,
                         const Demand& demand, Temperature dewPoint);

} // namespace amber::engine
