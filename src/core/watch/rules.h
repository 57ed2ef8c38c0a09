// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include "notes/phase.h"
#include "watch/verdict.h"
#include <array>
#include <limits>
#include <optional>
#include <string>

namespace amber::watch {

/// What is watched for beside the limits of the gauges. Each has its colour here and nowhere else.
enum class Rule {
    limit,
    normalRange,
    amberTime,
    ratingTime,
    ratingStepped,
    ratingNoneLeft,
    gradeCut,
    climbAway,
    ceiling,
    level,
    weakMixture,
    distance,
    knockRoom,
    knockPast,
    carburettorIce,
    coolingRate,
    coolingUnavoidable,
    coolingLeast,
    coolingSettles,
    tankDry,
    tanksEmpty,
    reserve,
    runUpMinima,
    takeOffMinima,
    groundTime,
    queue,
    highPower,
    coolBeforeStop,
    fuse,
    cartAdvised,
    battery,
    turnsSlowly,
    firesLate,
    startsHardly,
    startsNever,
    starterAir,
    heater,
    preheat,
    dilution,
    starterTries,
    starterDuty,
    walkRound,
    centreOfGravity,
    nearEdge,
    overweight,
    sideways,
    stationOver,
    oilForHours,
    weightTyped,
    runway,
    engineOutWeight,
    headwindPast,
    belowSafeSpeed,
    goRound,
    goRoundSetting,
    diveRpm,
    diveShock,
    oilPressureLate,
    powerReference,
    defect,
    correctedAway,
    held,
    overdue,
    dueSoon,
    hitGround,
    underStall,
    neverRan,
    notAirborne,
    stoppedRunning,
    heightNotReached,
    cruiseNotHeld,
    notOnField,
    notSafe,
    overPrimed,
    actAmount,
    due,
    readAgain,
    reserveNear,
};

struct RuleRow {
    Rule rule;
    std::string_view id; ///< in exports
    Colour colour;       ///< when it is broken
    std::string_view what;
};

inline constexpr std::array ruleTable{
    RuleRow{Rule::limit, "limit", Colour::red, "a gauge past a limit"},
    RuleRow{Rule::normalRange, "normal-range", Colour::amber, "a gauge between its normal range and a limit"},
    RuleRow{Rule::amberTime, "amber-time", Colour::red, "a gauge in amber longer than the notes allow"},
    RuleRow{Rule::ratingTime, "rating-time", Colour::red, "a rating used longer than it may be"},
    RuleRow{Rule::ratingStepped, "rating-stepped", Colour::amber,
            "the time of a rating is used: a weaker one is taken"},
    RuleRow{Rule::ratingNoneLeft, "rating-none-left", Colour::red, "the time of a rating is used and none is weaker"},
    RuleRow{Rule::gradeCut, "grade-cut", Colour::amber, "the grade of fuel takes boost off a rating"},
    RuleRow{Rule::climbAway, "climb-away", Colour::red, "it does not climb away after take-off"},
    RuleRow{Rule::ceiling, "ceiling", Colour::red, "the height asked for is over the ceiling"},
    RuleRow{Rule::level, "level", Colour::red, "it cannot hold the height"},
    RuleRow{Rule::weakMixture, "weak-mixture", Colour::amber, "weak mixture at more power than it is for"},
    RuleRow{Rule::distance, "distance", Colour::amber, "climb and let-down are longer than the distance"},
    RuleRow{Rule::knockRoom, "knock-room", Colour::amber, "boost over the detonation limit (model)"},
    RuleRow{Rule::knockPast, "knock-past", Colour::red,
            "boost past the detonation limit (model) by more than its error"},
    RuleRow{Rule::carburettorIce, "carburettor-ice", Colour::amber, "serious carburettor ice, in any phase"},
    RuleRow{Rule::coolingRate, "cooling-rate", Colour::red, "heads or coolant fall faster than they may"},
    RuleRow{Rule::coolingUnavoidable, "cooling-unavoidable", Colour::amber,
            "even at cruising power the let-down cools faster than it may"},
    RuleRow{Rule::coolingLeast, "cooling-least", Colour::amber, "heads or coolant under their least on the way down"},
    RuleRow{Rule::coolingSettles, "cooling-settles", Colour::amber, "heads or coolant settle over the normal range"},
    RuleRow{Rule::tankDry, "tank-dry", Colour::red, "a tank runs dry"},
    RuleRow{Rule::tanksEmpty, "tanks-empty", Colour::red, "all tanks run dry"},
    RuleRow{Rule::reserve, "reserve", Colour::red, "less fuel at the end than the reserve"},
    RuleRow{Rule::runUpMinima, "run-up-minima", Colour::red, "the minimum temperatures for the run-up are not reached"},
    RuleRow{Rule::takeOffMinima, "take-off-minima", Colour::red, "those for take-off are not reached"},
    RuleRow{Rule::groundTime, "ground-time", Colour::amber, "it grows too hot before the run-up is over"},
    RuleRow{Rule::queue, "queue", Colour::amber, "the queue is longer than it stays normal"},
    RuleRow{Rule::highPower, "high-power", Colour::amber, "longer at high power on the ground than it may be"},
    RuleRow{Rule::coolBeforeStop, "cool-before-stop", Colour::amber, "it does not cool under the figure at idle"},
    RuleRow{Rule::fuse, "fuse", Colour::red, "the starter draws more than its fuse"},
    RuleRow{Rule::cartAdvised, "cart-advised", Colour::amber, "the battery sags: the cart is advised"},
    RuleRow{Rule::battery, "battery", Colour::amber, "less than half the battery is left after the start"},
    RuleRow{Rule::turnsSlowly, "turns-slowly", Colour::amber, "the starter turns it slowly"},
    RuleRow{Rule::firesLate, "fires-late", Colour::amber, "it fires later than one try may last"},
    RuleRow{Rule::startsHardly, "starts-hardly", Colour::amber, "it does not catch at the first try"},
    RuleRow{Rule::startsNever, "starts-never", Colour::red, "no try that the notes allow will fire it"},
    RuleRow{Rule::starterAir, "starter-air", Colour::amber, "no air for a second start"},
    RuleRow{Rule::heater, "heater", Colour::amber, "the heater cannot do it"},
    RuleRow{Rule::preheat, "preheat", Colour::amber, "colder than these notes start without pre-heating"},
    RuleRow{Rule::dilution, "dilution", Colour::amber, "colder than these notes start without dilution"},
    RuleRow{Rule::starterTries, "starter-tries", Colour::red, "an engine has used its tries"},
    RuleRow{Rule::starterDuty, "starter-duty", Colour::red, "the starter turned too long, or before it had its rest"},
    RuleRow{Rule::walkRound, "walk-round", Colour::red, "the walk-round found what stops the flight"},
    RuleRow{Rule::centreOfGravity, "centre-of-gravity", Colour::red, "the centre of gravity is outside the envelope"},
    RuleRow{Rule::nearEdge, "near-edge", Colour::amber, "the centre of gravity is close to a limit"},
    RuleRow{Rule::overweight, "overweight", Colour::red, "heavier than a greatest weight"},
    RuleRow{Rule::sideways, "sideways", Colour::red, "more on one side than it may carry"},
    RuleRow{Rule::stationOver, "station-over", Colour::red, "more at a station than it may carry"},
    RuleRow{Rule::oilForHours, "oil-for-hours", Colour::amber, "less oil at the end than there must be"},
    RuleRow{Rule::weightTyped, "weight-typed", Colour::amber, "the typed weight is not that of the load sheet"},
    RuleRow{Rule::runway, "runway", Colour::red, "a distance is longer than the runway"},
    RuleRow{Rule::engineOutWeight, "engine-out-weight", Colour::amber, "too heavy to climb with an engine out"},
    RuleRow{Rule::headwindPast, "headwind-past", Colour::red, "the wind along the track is stronger than the airspeed"},
    RuleRow{Rule::belowSafeSpeed, "below-safe-speed", Colour::red, "slower than the safe speed on fewer engines"},
    RuleRow{Rule::goRound, "go-round", Colour::red, "it does not climb away from the approach"},
    RuleRow{Rule::goRoundSetting, "go-round-setting", Colour::amber,
            "levers of the approach are not ready to go round"},
    RuleRow{Rule::diveRpm, "dive-rpm", Colour::red, "faster in rpm than a dive allows"},
    RuleRow{Rule::diveShock, "dive-shock", Colour::amber, "heads or coolant fall faster than they may in a dive"},
    RuleRow{Rule::oilPressureLate, "oil-pressure-late", Colour::red,
            "no oil pressure in the seconds after the first fire"},
    RuleRow{Rule::powerReference, "power-reference", Colour::amber, "static rpm are not what the day gives"},
    RuleRow{Rule::defect, "defect", Colour::amber, "a defect in words, which no engineer has answered"},
    RuleRow{Rule::correctedAway, "corrected-away", Colour::amber,
            "a reading out of its limits was corrected to one inside"},
    RuleRow{Rule::held, "held", Colour::red, "an exceedance has no engineer's answer yet"},
    RuleRow{Rule::overdue, "overdue", Colour::red, "what comes round by hours or months was not done in time"},
    RuleRow{Rule::dueSoon, "due-soon", Colour::amber, "it is due soon, or nobody has said when it was done"},
    RuleRow{Rule::hitGround, "hit-ground", Colour::red, "it meets the ground outside a landing"},
    RuleRow{Rule::underStall, "under-stall", Colour::red, "slower than the stall"},
    RuleRow{Rule::neverRan, "never-ran", Colour::red, "an engine does not run when its start is over"},
    RuleRow{Rule::notAirborne, "not-airborne", Colour::red, "it has not left the ground when the take-off is over"},
    RuleRow{Rule::stoppedRunning, "stopped-running", Colour::red, "an engine stops before it is to be stopped"},
    RuleRow{Rule::heightNotReached, "height-not-reached", Colour::amber, "the climb ends under its height"},
    RuleRow{Rule::cruiseNotHeld, "cruise-not-held", Colour::amber, "height or speed of the cruise is lost"},
    RuleRow{Rule::notOnField, "not-on-field", Colour::red, "it is not on the field that it was bound for"},
    RuleRow{Rule::notSafe, "not-safe", Colour::red, "an engine runs on, or its ignition is left live"},
    RuleRow{Rule::overPrimed, "prime-off", Colour::amber, "primed with what floods it, or does not fire"},
    RuleRow{Rule::actAmount, "act-amount", Colour::amber, "an act done otherwise than the day wants"},
    RuleRow{Rule::due, "due", Colour::amber, "something planned by the clock is due and not done"},
    RuleRow{Rule::readAgain, "read-again", Colour::amber, "a reading out of all likelihood by the others"},
    RuleRow{Rule::reserveNear, "reserve-near", Colour::amber, "the reserve is within the width of the sum"},
};
static_assert(ruleTable.size() == static_cast<std::size_t>(Rule::reserveNear) + 1);
static_assert([] {
    for (std::size_t i = 0; i < ruleTable.size(); ++i)
        if (ruleTable[i].rule != static_cast<Rule>(i))
            return false;
    return true;
}());
constexpr const RuleRow& rowOf(Rule rule) {
    return ruleTable[static_cast<std::size_t>(rule)];
}

/// Something that the pilot must hear of: a rule broken, from when to when, and the worst of it.
struct Finding {
    Rule rule = Rule::limit;
    Phase phase = Phase::walkRound;
    std::string engine;                                      ///< position id; empty: all, or the aircraft
    double begin = 0.0, end = 0.0;                           ///< s from the first look at the tyres
    double worst = std::numeric_limits<double>::quiet_NaN(); ///< SI
    Verdict verdict;
    std::optional<Gauge> gauge{};  ///< whose needle it is; none: of no needle
    std::optional<double> timed{}; ///< s of it in phases whose notes limit the time in amber
};

/// The rule is broken: its colour, and why.
Verdict broken(Rule rule, std::string why);
/// The rule's colour when it is broken, else normal, with the same words.
Verdict unless(bool kept, Rule rule, std::string why);
/// A value against the most it may be; as much as `width` over it, which nobody can read, is told as on it.
/// @param said the words, told whether it is kept
template <class Words>
Verdict atMost(Rule rule, double value, double most, double width, Words&& said) {
    const bool kept = value <= most + width;
    return unless(kept, rule, said(kept));
}
/// The same against the least it may be.
template <class Words>
Verdict atLeast(Rule rule, double value, double least, double width, Words&& said) {
    const bool kept = value >= least - width;
    return unless(kept, rule, said(kept));
}
/// Serious ice in the carburettor, at the setting of any phase.
Verdict carburettorIce(bool serious, std::string why);
/// What may be carried is weighed to a two-thousandth of it.
inline constexpr double weighedTo = 0.0005;

/// Heads or coolant fall so many K in a minute, of so many allowed.
Verdict coolingRate(double fall, double most, std::string why);
/// The least that heads or coolant fall to, K, against what they may; nothing given: normal.
Verdict coolingLeast(double falls, std::optional<double> least, std::string why);
/// Room under amber where heads or coolant settle, K; negative: over it.
Verdict coolingSettles(double room, std::string why);
/// Boundary less boost, Pa; a reading's width (300 Pa) over it is told as on it, more than the model's error is red.
Verdict knockRoom(double room, double boundary, std::string why);
inline constexpr double knockReadingWidth = 300.0; ///< Pa
inline constexpr double knockPastShare = 0.02;     ///< of the boundary: past it by more, it knocks
/// Seconds at high power on the ground by the sheet, and the most.
Verdict highPower(double seconds, std::optional<double> most, std::string why);
/// Seconds until amber on the ground (none: never) against the seconds needed.
Verdict groundTime(std::optional<double> toAmber, double needed, std::string why);
Verdict queue(std::optional<double> toAmber, double waits, std::string why);
/// Share of the starter's current that the fuse leaves, and whether the battery sags.
Verdict starterCurrent(double fuseMargin, bool cartAdvised, std::string why);
/// Share of the battery left after the start.
Verdict battery(double left, std::string why);
/// Rpm of the starter against that of a warm engine; under 55 % it turns slowly.
Verdict turnsSlowly(double rpm, double warmRpm, std::string why);
/// Room inside the nearer limit, m, of so much between them: outside red, within a twentieth of an edge amber.
Verdict centreOfGravity(double room, double width, std::string why);
inline constexpr double edgeShare = 0.05;
/// What is left, share of its interval (negative: past it; none: not known): red past it, amber in the last tenth.
Verdict due(std::optional<double> left, std::string why);
inline constexpr double dueSoonShare = 0.1;
/// Air left in the bottle against that of one start, Pa.
Verdict starterAir(double left, double perStart, std::string why);

} // namespace amber::watch
