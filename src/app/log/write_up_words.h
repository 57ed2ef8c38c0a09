// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/theme.h"
#include "record/write_up.h"
#include <QString>

namespace amber::app {

/// A line of the write-up as rich text: what was found, where and when, what to look at, and the engineer's answer.
/// @param dated with the day of the run, for one of another day
QString writtenUp(const record::WriteUpLine& line, const TypeNotes& notes, const Colours& colours, bool dated);

} // namespace amber::app
