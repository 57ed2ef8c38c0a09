// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "air/day.h"
#include "units/result.h"
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::air {

/// What a METAR said of the things an engine cares about (groups as in WMO FM 15).
struct MetarReading {
    std::string station;
    std::optional<Wind> wind; ///< none for "/////KT"; a variable wind has direction 0
    std::optional<Temperature> temperature;
    std::optional<Temperature> dewPoint;
    std::optional<Pressure> qnh;
    std::vector<std::string> notRead; ///< groups passed over because they could not be understood

    /// "wind, temperature and pressure read; not read: ABC" for the person who pasted it.
    [[nodiscard]] std::string summary() const;
    /// The day with what was read put in; what was not read stays.
    [[nodiscard]] Day applied(Day day) const;
};

/// Reads METAR or SPECI text. Cloud, weather and visibility groups are recognised and passed over; everything after
/// RMK, NOSIG, BECMG or TEMPO is ignored. @return an error when there is neither temperature nor pressure in it.
Result<MetarReading> readMetar(std::string_view text);

} // namespace amber::air
