// SPDX-License-Identifier: GPL-3.0-or-later
#include "watch/start_counts.h"
#include "units/text.h"
#include "units/unit_table.h"
#include "watch/rules.h"
#include <cmath>
#include <fmt/format.h>

namespace amber::watch {
namespace {
constexpr double watchWidth = 0.5; // s: a watch is read to whole seconds

std::string seconds(double s) {
    return format(std::round(s), *units::second.spec);
}
} // namespace

Verdict judgeTries(const StartNotes& notes, double tries) {
    return unless(!(tries > notes.tries), Rule::starterTries,
                  fmt::format("{:.0f} {} to start, max {}, then rest {}.", tries, tries == 1 ? "try" : "tries",
                              notes.tries, formatMinutesSeconds(notes.starter.longRest.si())));
}

Verdict judgePrime(double given, double expected, const std::string& unit) {
    constexpr double leastShare = 0.667, mostShare = 1.867; // 0.050 and 0.140 over 0.075
    const double low = std::ceil(leastShare * expected - 0.5), high = std::floor(mostShare * expected + 0.5);
    const auto said = [&](const char* why) {
        return fmt::format("Primed with {:.0f} {} where {:.0f} are right today{}.", given, unit, expected, why);
    };
    if (expected <= 0.0)
        return unless(!(given > 0.5), Rule::overPrimed,
                      given > 0.5 ? fmt::format("Primed with {:.0f} {} where none is wanted today.", given, unit)
                                  : std::string("Not primed, as today wants."));
    return unless(given >= low && given <= high, Rule::overPrimed,
                  said(given > high  ? ": more than fires floods it and washes its walls"
                       : given < low ? ": less than fires"
                                     : ""));
}

Verdict judgeCrank(const StartNotes& notes, double s) {
    const double most = notes.crankMost.si();
    if (!(most > 0.0)) // a hand has no seconds
        return unless(true, Rule::starterDuty, fmt::format("Turned for {}; the notes give no most.", seconds(s)));
    return atMost(Rule::starterDuty, s, most, watchWidth, [&](bool) {
        return fmt::format("The starter cranked for {}, limit {}.", seconds(s), seconds(most));
    });
}

Verdict judgeFire(const StartNotes& notes, double s) {
    const double most = notes.crankMost.si();
    if (!(most > 0.0))
        return unless(true, Rule::firesLate, fmt::format("It fired after {}.", seconds(s)));
    return atMost(Rule::firesLate, s, most, watchWidth, [&](bool kept) {
        return kept ? fmt::format("It fired after {}, within a try's {}.", seconds(s), seconds(most))
                    : fmt::format("It fired after {}, later than one try's {}.", seconds(s), seconds(most));
    });
}

Verdict judgeOilPressureUp(const StartNotes& notes, double s) {
    const double most = notes.oilPressureWithin.si();
    return atMost(Rule::oilPressureLate, s, most, watchWidth, [&](bool kept) {
        return kept ? fmt::format("Oil pressure came after {}, within {}.", seconds(s), seconds(most))
                    : fmt::format("Oil pressure came after {}; it is stopped after {}.", seconds(s), seconds(most));
    });
}

Verdict judgeStandingRpm(const PropellerNotes& notes, double rpm, double expected) {
    const double width = notes.referenceTolerance + 1e-9, off = rpm - expected;
    const auto inRpm = [](double v) { return format(v, *units::rpm.spec); };
    return unless(std::abs(off) <= width, Rule::powerReference,
                  std::abs(off) <= width ? fmt::format("Static rpm {}, {} expected today.", inRpm(rpm), inRpm(expected))
                                         : fmt::format("Static rpm {}: {} {} than the {} of today, more than {}.",
                                                       inRpm(rpm), inRpm(std::abs(off)), off < 0 ? "fewer" : "more",
                                                       inRpm(expected), inRpm(notes.referenceTolerance)));
}

} // namespace amber::watch
