// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "hand/careful_hand.h"
#include "start/priming.h"
#include <cstdint>
#include <limits>
#include <string>
#include <vector>

namespace amber::rehearse {

using powerplant::Milliseconds;

/// Why an engine that fired does not any more.
enum class StoppedBy { hand, noFuel, dryTank, ignition, tooLean, tooRich, ice, tooSlow, broken };

/// What has happened to one engine: enough to say afterwards why something did not come about. Told of every short
/// step; read by why().
struct EngineStory {
    static constexpr double never = std::numeric_limits<double>::quiet_NaN();
    // the start
    int tries = 0;
    double triedAt = never, turned = 0.0;    ///< s: when it was first turned for a start, and for how long in all
    double firedAt = never;                  ///< s, first
    double doses = 0.0, dosesAt = never;     ///< given before it fired, and when the last was
    double fireLow = 0.0, fireHigh = 0.0;    ///< doses between which it fires, as it stood when it was first primed
    double wanted = 0.0;                     ///< doses that are right then
    std::string unit;                        ///< "strokes"
    double leanest = never, richest = never; ///< vapour fuel–air while it was turned with sparks on
    double vapour = 0.0, sparked = 0.0;      ///< fuel–air, all together, and s, while it was turned with sparks on
    double lean = 0.0, rich = 0.0;           ///< s that it was turned with sparks on too little, on too much
    bool hadIgnition = false, hadCoil = false, hadFuel = false; ///< at any moment while it was turned
    double kickedBackAt = never;                                ///< s
    int kicks = 0;
    double lockedAt = never;               ///< s: turned against a hydraulic lock
    double pooledAt = never, pooled = 0.0; ///< s, kg: fuel that ran out of a standing engine
    double fireAt = never, burned = 0.0;   ///< s: of a fire in the stacks or the intake
    [[nodiscard]] double meanVapour() const { return sparked > 0 ? vapour / sparked : 0.0; }
    // running
    double stoppedAt = never; ///< s, the last stop that no hand wanted, in the air or before it
    StoppedBy by = StoppedBy::hand;
    int tank = -1;                                        ///< that was fed from
    double iceFrom = never, ice = 0.0, iceMostAt = never; ///< s, greatest share of the passage, s
    double iceAgain = never, iceWorstFrom = never;        ///< s: since when it grows now, and did when it was most
    bool heated = false;                                  ///< hot air was used after the ice began
    double backfiredAt = never;
    int backfires = 0;
    double knockedAt = never, knocked = 0.0;             ///< s of knock that is heard
    bool firing = false, turning = false, bangs = false; ///< in the step before
};

/// A moment of it. @param at s
void tell(EngineStory& story, const powerplant::Powerplant& plant, const Sortie& sortie, const hand::Moment& moment,
          std::size_t engine, double at);
/// "ice in the carburettor", "tank Nose run dry".
std::string wordsOf(StoppedBy by);

} // namespace amber::rehearse
