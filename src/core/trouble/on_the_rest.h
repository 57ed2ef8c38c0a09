// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/flown.h"
#include "powerplant/powerplant.h"
#include <array>
#include <optional>
#include <string>
#include <vector>

/// When it goes wrong: what is left, what is done, what it is.
namespace amber::trouble {

/// How the propellers of dead engines stand: left as they were, or as far out of the wind as they go (feathered, else
/// coarse, else as they were).
enum class DeadBlades { windmilling, feathered };

/// How she flies on the engines that are left, at one height and one setting of theirs.
struct OnTheRest {
    Length height;
    Speed ias;
    VerticalSpeed rate;      ///< negative: she sinks
    Power each;              ///< that the live engines give
    Power needed;            ///< of each, to hold the height at this speed
    double yaw = 0.0;        ///< over that of one outer engine at rated power
    std::string rating;      ///< whose setting they have
    bool continuous = false; ///< it may be held
    std::optional<Duration> minutes;
};

/// The rating that gives most among those that may be held, or among all; water is not counted on.
const Rating& strongest(const TypeNotes& notes, bool continuous);

/// The supercharger gear that gives most of a rating there, and what may be set in it.
struct BestGear {
    std::size_t gear = 0;
    std::optional<ManifoldPressure> boost; ///< none for an engine without a boost gauge
    engine::OperatingPoint point;
};
BestGear bestGear(const powerplant::Aircraft& aircraft, const std::string& grade, const engine::KnockBoundary& knock,
                  const Rating& rating, const air::Ambient& air, Speed ias);

/// Flies the engines that are left, on the powerplant itself: the dead engine's propeller drags as its blades do. The
/// rudder that holds her straight costs a twentieth of the drag when the moment is that of one outer engine at rated
/// power, by its square: our own figure (1/2 to 3/4 of it is usual for a well-placed fin). One solver asks many
/// heights: each begins with the dead propeller as the one before left it.
class RestSolver {
public:
    /// @param dead indices of positions @param continuous the strongest rating that may be held, or of all
    RestSolver(const powerplant::Aircraft& aircraft, const Sortie& sortie, std::vector<std::size_t> dead,
               DeadBlades blades, bool continuous);
    /// Each dead propeller by itself.
    RestSolver(const powerplant::Aircraft& aircraft, const Sortie& sortie, std::vector<std::size_t> dead,
               std::vector<DeadBlades> blades, bool continuous);
    /// At the best of three speeds from the safe to the climbing speed.
    OnTheRest at(Length height, Mass weight);
    /// At a speed of one's own; the engines that are left by the rating, at a share of its power 0 … 1.
    OnTheRest at(Length height, Mass weight, Speed ias);
    [[nodiscard]] const Rating& rating() const { return rating_; }
    /// Supercharger gear that gives most there, and the boost in it.
    [[nodiscard]] BestGear gearAt(const air::Ambient& air, Speed ias) const;

private:
    const powerplant::Aircraft& a_;
    const Sortie& s_;
    std::vector<std::size_t> dead_;
    std::vector<DeadBlades> blades_; ///< one for each of the dead
    const Rating& rating_;
    powerplant::Powerplant plant_;
    bool known_ = false;
    powerplant::AircraftState last_; ///< settled, of the last question
};

/// The same once.
OnTheRest onTheRest(const powerplant::Aircraft& aircraft, const Sortie& sortie, Length height, Mass weight,
                    const std::vector<std::size_t>& dead, DeadBlades blades, bool continuous);

} // namespace amber::trouble
