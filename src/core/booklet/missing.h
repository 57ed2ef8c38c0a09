// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/aircraft.h"
#include "sortie/sortie.h"
#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::booklet {

/// Stands for a fuel flow in any rating line.
inline constexpr std::string_view fuelPath = "rating.*.fuel";

/// What of a sortie a figure moves, from one end of its plausible range to the other: half of the difference.
struct Moves {
    double fuel = 0.0;      ///< of the fuel burnt, a part of it
    double power = 0.0;     ///< of the power at take-off, a part of it
    double toTakeOff = 0.0; ///< s from the first start to take-off
    double margin = 0.0;    ///< Pa of boost to the detonation boundary, where it is least
    /// Against what a pilot would act on: 2 % of fuel, 1 % of power, two minutes, half an inch of mercury are each 1.
    [[nodiscard]] double weight() const;
    /// "fuel ± 3 %, ± 1:15 to take-off", a margin as the boost gauge is marked; empty where nothing is moved.
    [[nodiscard]] std::string words(const Cockpit& cockpit) const;
};

/// What is 1 in a weight: "2 % of fuel, 1 % of power, 2 min, 0.5 inHg of margin".
std::string markOfWeight(const Cockpit& cockpit);

/// Why a figure was not flown at both ends.
enum class NotTried {
    no,      ///< it was
    word,    ///< it is a word, not a figure
    refused, ///< the notes cannot be written or do not hold together there
    stopped,
};

/// A figure that the notes do not give and that was estimated.
struct Missing {
    std::string path;      ///< "warming.taxi"; "rating.*.fuel": a fuel flow in a rating line
    std::string text, why; ///< as estimated, and how
    std::string low, high; ///< the ends that it was flown with; empty: not tried
    Moves moves;
    NotTried notTried = NotTried::no;
    /// It was flown, and moves something of this sortie.
    [[nodiscard]] bool counts() const;
};

/// What of all was not flown or moves nothing, in whole sentences; empty when there is none of it.
std::string restOf(const std::vector<Missing>& all);

/// What is still estimated in a type's notes, what is worth most first: the sortie is flown with each at either end of
/// its plausible range (temperatures ± 8 K, rpm ± 15 %, speeds and diameters ± 10 %, flaps ± a quarter, others ± a
/// quarter of the figure; our own consumption ± 7 %: all of them our own estimates), on the aircraft as its log has
/// taught. Consumption that the log has taught is no estimate any more.
/// @param notes the text of the notes, by whose name problems are told @param sortie flown with the aircraft of these
/// notes @param progress done of all, before each; false ends it, and what is left comes as not tried
std::vector<Missing> missing(const std::string& notes, const std::string& file, const std::string& variant,
                             const Sortie& sortie, const std::function<bool(int, int)>& progress = {});

} // namespace amber::booklet
