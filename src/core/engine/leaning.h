// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "engine/engine_parameters.h"
#include "units/quantity.h"
#include <string>

namespace amber::engine {

/// What rpm (fixed pitch) or torque did when the mixture lever was pulled a little (J43).
enum class LeanResponse { roseThenFell, fellAtOnce, noChange };

/// Rated power: the most that the notes' ratings give without a limit of time; the most of all where each has one.
Power ratedPower(const TypeNotes& notes);

struct LeanVerdict {
    bool wasRich = false; ///< of best power, before it was pulled
    std::string sentence; ///< what it means
    std::string next;     ///< what to do now
};
/// Reads the test: the response follows the slope of power against fuel–air ratio, which rises towards best power at
/// 0.080 and falls beyond.
LeanVerdict readLeanTest(LeanResponse response, bool weakAllowed);

/// Change of indicated power for a small weakening of the mixture, as a fraction of power per fraction of fuel:
/// positive when it was rich of best power.
double leanResponse(double fuelAirRatio);

/// Whether weak mixture may be used at this power: by the notes, up to a fraction of rated power.
bool weakAllowed(const TypeNotes& notes, Power power);

} // namespace amber::engine
