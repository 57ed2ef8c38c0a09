// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "units/unit_table.h"

namespace amber {

/// What a bare number means to the readers where a key has one unit only.
inline const UnitSpec* const rpmUnit = units::rpm.spec;
inline const UnitSpec* const minutesUnit = units::minute.spec;
inline const UnitSpec* const secondsUnit = units::second.spec;

} // namespace amber
