// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string_view>

namespace amber::app {

/// Ends the text of every command about an engine that is started, warmed or stopped.
inline constexpr std::string_view groundCaution =
    "!  Propellers are live, always; fire guard, chocks and a clear area for every start, the fire drill briefed; a "
    "blade that stops is never forced. The flight manual, the placards and a licensed engineer come first.\n";
/// And of one about the air.
inline constexpr std::string_view airCaution =
    "!  A model, an estimate: full-throttle seconds, shock cooling, ice and the safe speed on fewer engines are the "
    "approved manual's, which comes first.\n";

/// And of one about what a log tells.
inline constexpr std::string_view logCaution = "!  Against a model's plan, an estimate: a hint where to look. What an "
                                               "engine needs, a licensed engineer judges; what the "
                                               "law wants written belongs in its own papers.\n";

} // namespace amber::app
