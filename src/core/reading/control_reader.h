// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "files/table_reader.h"
#include "notes/control.h"

namespace amber::notes {

/// [[control]]: what the notes say of one control; what they leave out is empty, and filled in by cockpit::controls().
Control readControl(document::TableReader& t);
/// `do = [{ mixture = "rich", over = "5 s" }]`: the acts of a step. The control's id is a key of its own; what it is
/// moved to is a position, a {figure} or a quantity.
std::vector<Action> readActions(document::TableReader& t, const std::string& key);
/// "rich", "{boost}", "30 inHg".
Target readTarget(std::string_view text);
/// The same written back.
std::string written(const Target& target);
std::string written(const Awaited& condition);

} // namespace amber::notes
