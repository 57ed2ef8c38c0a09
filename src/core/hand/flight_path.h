// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include <optional>
#include <string>
#include <utility>

namespace amber::hand {

/// How a path comes to the ground.
enum class Ground {
    clear,       ///< it is above it, or runs along it as it should
    touchesDown, ///< in the landing, on the field
    hit,         ///< anywhere else
    offTheEnd,   ///< still rolling where the strip ends
};

/// The path of an aircraft flown by its notes: each phase at its speed, the height following. Who moves the controls
/// need not steer: rolling begins with the throttles or the brakes, at the lift-off speed it climbs, it levels at the
/// height of the cruise, lets down to the circuit at the plan's rates, and lands in the plan's time.
class FlightPath {
public:
    /// @param aircraft @param sortie @param flown the plan whose speeds and heights are flown; all must outlive it
    FlightPath(const powerplant::Powerplant& plant, const Sortie& sortie, const flight::Flown& flown);

    /// A phase begins. One of the flight does not lift her off the ground, nor one on the ground land her.
    void begin(Phase phase, powerplant::Path& path, const powerplant::AircraftState& state);
    /// What moves on while a phase goes on; to be called before each step.
    void follow(Phase phase, powerplant::Path& path, const powerplant::AircraftState& state) const;
    /// A control has been put somewhere: throttles moved in the take-off, or the brakes let go, set her rolling.
    static void touched(Phase phase, Acts acts, const std::string& position, powerplant::Path& path);
    /// The two moments of the planned let-down between which a height lies; nothing under its end.
    [[nodiscard]] std::optional<std::pair<const flight::Sample*, const flight::Sample*>>
    plannedDown(double height) const;
    /// Whether a phase of the flight has come to its height, or the cruise to its time.
    /// @param cruise s that the cruise goes on
    [[nodiscard]] bool flown(Phase phase, const powerplant::AircraftState& state, double cruise) const;

    [[nodiscard]] static bool isAirborne(const powerplant::Path& path);
    /// m above sea level of the ground under her: the field's until the climb is over, from the let-down that of the
    /// field she is bound for, between them a straight line over the planned distance. Of hills a sortie says nothing.
    [[nodiscard]] double ground(Phase phase, double distance) const;
    /// After each step: nothing goes under the ground. One that has not the speed to leave the runway goes on along
    /// it; one that comes down outside the landing has hit the ground, and stands there.
    Ground meet(Phase phase, powerplant::Path& path, powerplant::AircraftState& state) const;
    /// Speed under which she no longer flies, m/s: the notes' lift-off speed over 1.1 (the usual least margin), the
    /// approach's over 1.3 where its flaps are down. An estimate; nothing where the notes give neither.
    [[nodiscard]] std::optional<double> stall(Phase phase, const powerplant::AircraftState& state) const;

    static constexpr double taxiIn = 60.0;      ///< s, an estimate
    static constexpr double safeHeight = 120.0; ///< m above the field, where the take-off ends

private:
    void letDown(powerplant::Path& path, double height) const;
    void keepFlying(powerplant::Path& path, const powerplant::AircraftState& state) const;
    [[nodiscard]] double climbSpeed(const powerplant::AircraftState& state) const;
    [[nodiscard]] double top() const;
    [[nodiscard]] double home() const; ///< m above sea level, of the field she is bound for

    const powerplant::Powerplant* plant_;
    const Sortie* sortie_;
    const flight::Flown* flown_;
    powerplant::Milliseconds began_ = 0;
};

} // namespace amber::hand
