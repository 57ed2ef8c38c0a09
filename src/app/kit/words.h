// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/quantity.h"
#include <QString>
#include <string>

namespace amber::app {

/// The core's words for a widget.
inline QString q(const std::string& text) {
    return QString::fromStdString(text);
}

/// A figure in SI as the number shown in `unit`.
inline double shown(double si, const UnitSpec& unit) {
    return (si - unit.offset) / unit.scale;
}

} // namespace amber::app
