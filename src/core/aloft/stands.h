// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "aloft/now.h"

namespace amber::aloft {

/// A lever or the speed as it should stand now.
struct Stands {
    std::string what, value, why;
};
/// The levers of the phase, those that make power first, then speed: where the slid plan has them at this moment (boost
/// that falls with height, the gear that is in), else as the phase sets them. What the phase does once is not among
/// them.
std::vector<Stands> standsNow(const powerplant::Aircraft& aircraft, const plan::Plan& plan, const Now& now);

} // namespace amber::aloft
