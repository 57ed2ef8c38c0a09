// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "watch/judge.h"
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace amber::watch {

/// What was found on the walk-round: "station/item" → the reading with its unit, inOrder, or the defect in words.
using Found = std::map<std::string, std::string>;
inline constexpr std::string_view inOrder = "in order";
/// Whether what was typed or kept says that a look found nothing wrong: "in order" or "serviceable".
inline bool saysInOrder(std::string_view text) {
    return text == inOrder || text == "serviceable";
}
/// What was found, as it is told: a reading or a defect as it was typed.
inline std::string saidOf(std::string_view found) {
    return std::string(saysInOrder(found) ? "serviceable" : found);
}

/// What a gauge should show on the ground.
struct GroundGauge {
    Volume shown;
    Origin origin = Origin::notes;
};
/// By the tank's correction table, linear in contents and attitude, held at the table's ends; without a table what is
/// in the tank. Nothing for a tank without a gauge. @param attitude ° nose up
std::optional<GroundGauge> groundGauge(const Tank& tank, Volume contents, double attitude);

struct WalkFinding {
    std::string key; ///< "station/item"
    WalkItem item;
    std::string what; ///< "Mains, by dip"
    std::string want; ///< "40 to 44 lbf/in², 36 at least"
    Origin origin = Origin::notes;
    std::string found; ///< as it is shown; empty: not yet seen
    std::optional<double> value;
    Verdict verdict;
    bool operator==(const WalkFinding&) const = default;
};

struct WalkStop {
    std::string name; ///< of the station
    std::vector<WalkFinding> items;
    Colour worst = Colour::normal;
    int open = 0; ///< items not yet seen
    bool operator==(const WalkStop&) const = default;
};

/// Something found that is not as it should be; red stops the flight.
struct Defect {
    std::string where; ///< station
    Verdict verdict;
    [[nodiscard]] bool stops() const { return verdict.colour() == Colour::red; }
    /// The same with the station before it.
    [[nodiscard]] Verdict told() const;
    bool operator==(const Defect&) const = default;
};

struct WalkRound {
    std::vector<WalkStop> stops;
    std::vector<Defect> defects;
    int seen = 0, items = 0;
    bool operator==(const WalkRound&) const = default;
};

/// Fuel loaded by the plan, by tank id; dips found go before it.
struct WalkConditions {
    std::map<std::string, Volume> planned;
    double attitude = 0.0; ///< ° nose up
};

/// The walk-round with everything found so far judged. It keeps nothing of the notes but copies.
WalkRound walkRound(const TypeNotes& notes, const Found& found, const WalkConditions& conditions);

/// Contents of a tank: the dip found, else the plan's, else full.
Volume contentsOf(const TypeNotes& notes, const Tank& tank, const Found& found,
                  const std::map<std::string, Volume>& planned);

/// Why what was typed for an item cannot be taken; empty when it can.
std::string refusal(const WalkItem& item, const std::string& text);
/// What is kept of it: a reading with its unit, inOrder, or words.
std::string kept(const WalkItem& item, const std::string& text);
/// An item by key; null when there is none.
const WalkItem* itemOf(const TypeNotes& notes, std::string_view key);

} // namespace amber::watch
