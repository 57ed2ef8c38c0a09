// SPDX-License-Identifier: GPL-3.0-or-later
#include "start/start_school.h"
#include "notes/standard_schools.h"

namespace amber::start {
namespace {
constexpr int usualBlades = 4; // where another school asks for blades and the notes name no number
}

StartNotes startInForce(const TypeNotes& notes, const std::map<std::string, std::string>& choices) {
    StartNotes s = notes.start;
    for (const auto& step : notes.phase(Phase::start).steps) {
        const School* school = schools::inForce(step, Phase::start, choices);
        if (!school)
            continue;
        const SchoolEffect& e = school->effect;
        s.primeWhileTurning = e.primeWhileTurning.value_or(s.primeWhileTurning);
        s.primerShare = e.primerShare.value_or(s.primerShare);
        s.bladesFirst = e.bladesFirst.value_or(s.bladesFirst);
        s.slowFirst = e.slowFirst.value_or(s.slowFirst);
        if (e.bladesFirst.value_or(false) && s.starter.bladesBeforeIgnition == 0)
            s.starter.bladesBeforeIgnition = usualBlades;
    }
    return s;
}

std::optional<Rotation> slowestRpm(const TypeNotes& notes, const StartNotes& start) {
    if (!start.slowFirst)
        return std::nullopt;
    return start.slowRpm ? start.slowRpm : notes.phase(Phase::start).rpm;
}

} // namespace amber::start
