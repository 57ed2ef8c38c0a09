// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include <string>

namespace amber {

/// Opening of a cooling flap or shutter, 0 … 1, as it is said: "shut", "one third", "open", "40 % open".
std::string flapText(double opening);

/// A name as it stands inside a sentence: "Cowl flaps" is "cowl flaps"; "RPM lever" keeps its capitals.
std::string inSentence(std::string name);

} // namespace amber
