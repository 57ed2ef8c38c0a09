// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/document.h"
#include "notes/type_notes.h"

namespace amber::notes {

/// Fills what booklets seldom give into notes of format 2: figures of the usual size for this engine, each told with
/// its reason. What is there stays; what it would take to estimate one but is not there leaves it out, and the reader
/// says what is missing. Format 1 is left alone.
std::vector<Estimate> complete(document::Node& root);

} // namespace amber::notes
