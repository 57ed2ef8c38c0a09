// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <optional>

namespace amber {

/// Normal range and limits of one gauge or reading, SI. Between normal and limit lies the amber margin.
struct Band {
    std::optional<double> normalLow, normalHigh, limitLow, limitHigh;
    std::optional<Duration> amberFor; ///< how long amber may last, where the notes say so
    bool operator==(const Band&) const = default;
};

} // namespace amber
