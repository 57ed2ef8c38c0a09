// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "watch/verdict.h"
#include <string>

namespace amber::watch {

/// Something that is to be done at a time: amber when it is due and after.
/// @param in s until it is due; negative: overdue @param what "Change to aux"
Verdict judgeDue(double in, const std::string& what);
/// A reading that is out of all likelihood by the others: asked about, in amber.
Verdict judgeAsked(const std::string& sentence);
/// Fuel that will be left at the end against what must be, m³; and how far the sum can be off.
Verdict judgeFuelAhead(double left, double must, double width, const std::string& sentence);

} // namespace amber::watch
