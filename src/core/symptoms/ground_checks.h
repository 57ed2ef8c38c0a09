// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "powerplant/fault.h"
#include <string_view>

namespace amber::trouble {

/// What an engineer looks at on the ground when a fault is suspected. General engineering practice (origin practice);
/// the maintenance manual and the licensed engineer come first.
std::string_view groundCheck(powerplant::Fault fault);

} // namespace amber::trouble
