// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/type_notes.h"
#include "watch/verdict.h"

/// What is counted and timed at a start and on the run-up, each against these notes.
namespace amber::watch {

/// Red past the notes' tries: then the long rest, or the engineer.
Verdict judgeTries(const StartNotes& notes, double tries);
/// Doses given against those of the day: fewer than fire, or more. An engine fires between two thirds and 1.87 times
/// the dose that is right (start::leanestFiring, richestFiring over bestFiring).
Verdict judgePrime(double given, double expected, const std::string& unit);
/// Red past the seconds that the starter may turn in one go.
Verdict judgeCrank(const StartNotes& notes, double seconds);
/// Amber past the seconds of one try.
Verdict judgeFire(const StartNotes& notes, double seconds);
/// Red past the seconds in which oil pressure must come after the first fire.
Verdict judgeOilPressureUp(const StartNotes& notes, double seconds);
/// Standing rpm against what the day gives, rev/s: amber outside the notes' tolerance.
Verdict judgeStandingRpm(const PropellerNotes& notes, double rpm, double expected);

} // namespace amber::watch
