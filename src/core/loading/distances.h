// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "loading/load_sheet.h"
#include <optional>
#include <string>
#include <vector>

namespace amber::loading {

/// One table of the notes read for today, between its entries only.
struct DistanceToday {
    std::string id, name;
    std::optional<double> entry; ///< SI, of the table; nothing outside it
    std::optional<double> value; ///< with wind, surface and slope
    std::string why;             ///< the corrections, or which entry is missing
    const UnitSpec* unit = nullptr;
    Dimension dimension = Dimension::length;
    Origin origin = Origin::between;
};

/// Between the entries of a table, linear in weight, pressure altitude and temperature; nothing outside them, and then
/// `why` says which way.
std::optional<double> entryOf(const PerformanceTable& table, const Cockpit& cockpit, double weight, double height,
                              double temperature, std::string& why);

/// Every table for the take-off's or landing's weight, field and air. Factors of the notes: wind along the runway by
/// the notes' share for each 10 kt (compounded), surface, slope.
std::vector<DistanceToday> distancesToday(const TypeNotes& notes, const Sortie& sortie, Mass takeOff, Mass landing);

} // namespace amber::loading
