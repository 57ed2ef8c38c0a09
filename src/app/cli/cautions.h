// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace amber::app {

/// Ends the text of every command about an engine that is started, warmed or stopped.
inline constexpr std::string_view groundCaution = "!  Propellers are live, always; fire guard, chocks and a clear area "
                                                  "for every start. The flight manual, the placards "
                                                  "and a licensed engineer come first.\n";

} // namespace amber::app
