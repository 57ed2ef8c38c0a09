// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <QString>
#include <string_view>

namespace amber::app {

/// The core's words for a widget.
inline QString q(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

/// A figure in SI as the number shown in `unit`.
inline double shown(double si, const UnitSpec& unit) {
    return (si - unit.offset) / unit.scale;
}

} // namespace amber::app
