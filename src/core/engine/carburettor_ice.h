// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/knock.h"
#include <optional>
#include <string_view>

namespace amber::engine {

enum class IceRisk { none, light, moderate, serious };
std::string_view wordOf(IceRisk risk);

inline constexpr double lightIceFrom = 0.3; ///< g of water per kg of air, less does no harm

/// Temperature behind the throttle, by the heat balance of carburettorIce().
Temperature throttleTemperature(const EngineNotes& notes, const OperatingPoint& point);
/// Water that freezes out of air of a dew point where it is so cold, g per kg of air; 0: none.
double freezingWater(Temperature dewPoint, Temperature atThrottle, Pressure ambient);

/// Carburettor ice: temperature behind the throttle by a heat balance — the air taken in, less what the evaporating
/// fuel takes (20 K at F/A 0.08; nothing where it is injected) and what expansion past the throttle takes (up to 14 K
/// when nearly shut) — against the water that would freeze out of the air there: what the dew point holds less what is
/// saturated over ice. Below 0.3 g/kg none; to 1.2 light, to 2.5 moderate, more serious; above freezing light at most,
/// to −4 °C moderate at most, above +4 °C none. Levels are set so that the regions have the shape of the published
/// chart (Gardner & Moon, NRC Canada LR-536, 1970): saturated air from −5 to +15 °C serious at any power, 20 °C at a
/// dew point of 10 moderate in the cruise and serious with the throttle closed, ice to some 37 °C only with it closed.
/// An estimate, marked model.
struct IceAdvice {
    IceRisk risk = IceRisk::none;
    Temperature atThrottle;         ///< behind it, heat off
    double water = 0.0;             ///< g per kg of air that would freeze out
    double heatNeeded = 0.0;        ///< K of hot air that bring it to +5 °C; 0 when there is no risk
    std::optional<double> position; ///< of the hot-air control, 0 cold … 1 full, where the notes give its rise
    bool withinHeat = true;         ///< the cockpit's full heat suffices
    double powerCost = 0.0;         ///< fraction of power lost by that heat at the same throttle
    double marginBefore = 0.0, marginAfter = 0.0; ///< knock margin: boundary over boost, less one
};
IceAdvice carburettorIce(const EngineNotes& notes, const EngineParameters& engine, const KnockBoundary& knock,
                         const Demand& demand, Temperature dewPoint);

/// Share of the hot-air lever's travel that gives the heat, to the next tenth; 0 without a risk. @param rise K of full
double heatShare(const IceAdvice& advice, double rise);

} // namespace amber::engine
