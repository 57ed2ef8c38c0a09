// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "notes/gauge_register.h"
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

/// What a crew notices when something is wrong: what a needle does, and what is seen, heard, felt and smelt.
namespace amber {

enum class Way { rises, falls, risesFast, fallsFast, flickers, still };
constexpr bool isUp(Way way) {
    return way == Way::rises || way == Way::risesFast;
}
constexpr bool isDown(Way way) {
    return way == Way::falls || way == Way::fallsFast;
}

/// Besides the needles.
enum class Felt {
    none,
    // felt
    yaw,
    shake,
    leverDead,
    followsThrottle,
    // heard
    rough,
    backfire,
    bangs,
    howl,
    whine,
    beat,
    whistle,
    silent,
    // seen
    blackSmoke,
    blueSmoke,
    whiteVapour,
    puffs,
    oneHeadCold,
    oilOnCowl,
    fuelOnCowl,
    coolantOnCowl,
    flames,
    // smelt
    smellOfFuel,
    smellOfOil,
    sweetSmell,
    // when
    worstAtIdle,
    worstAtPower,
    inHighGear,
    inDampAir,
    hotAndHigh,
    // by trying
    oneMagneto,
    eitherMagneto,
    silentOnOne,
    noDrop,
    smoothDrop,
    // at the start
    noCough,
    drips,
    wetAndSilent,
    stalls,
    lampStays,
    noTurn,
    turnsSlowly,
    coughs,
    dryStack,
};

/// How it is noticed: the columns in which it is chosen.
enum class Sense { felt, heard, seen, smelt, when, tried, starting };
std::string_view nameOf(Sense sense);

struct FeltRow {
    Felt felt;
    std::string_view key;   ///< in files: "lever-dead"
    std::string_view words; ///< "propeller lever dead"
    Sense sense;
};
std::span<const FeltRow> feltTable(); ///< all but none, in the order of the enumeration
const FeltRow& rowOf(Felt felt);

struct WayRow {
    Way way;
    std::string_view key;   ///< "falls-fast"
    std::string_view words; ///< "falls fast"
};
std::span<const WayRow> wayTable();

/// One thing noticed: a needle's way where `felt` is none.
struct Sign {
    Felt felt = Felt::none;
    Gauge gauge = Gauge::rpm;
    Way way = Way::still;
    constexpr Sign() = default;
    constexpr Sign(Felt what) : felt(what) {} // NOLINT: a sign is what is felt
    constexpr Sign(Gauge needle, Way moves) : gauge(needle), way(moves) {}
    [[nodiscard]] constexpr bool isNeedle() const { return felt == Felt::none; }
    constexpr bool operator==(const Sign& o) const {
        return felt == o.felt && (felt != Felt::none || (gauge == o.gauge && way == o.way));
    }
};
/// "oil-pressure falls-fast", "shake".
std::string keyOf(const Sign& sign);
/// "oil pressure falls fast"
std::string wordsOf(const Sign& sign);
std::optional<Sign> signFromKey(std::string_view key);
/// Words that are known, for a message about one that is not.
std::vector<std::string> allSignKeys();

} // namespace amber
